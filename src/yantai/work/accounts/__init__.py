"""Signing in, and what a person has set."""
