"""Batches: made, loaded, computed and changed by commands."""
