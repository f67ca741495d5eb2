"""Clients: targets, days, what stays out of their containers, and what was before."""
