"""Targets of one container, days of a client, and suggested figures."""
