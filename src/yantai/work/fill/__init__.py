"""Filling: containers at the scale, and what is made good."""
