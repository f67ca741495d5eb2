"""Cooking: what goes into a component, what comes out, what its kitchen has learned, which weight is believable."""
