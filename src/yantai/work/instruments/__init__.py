"""Scales and thermometers: which there are, what they are called, and how they are reached."""
