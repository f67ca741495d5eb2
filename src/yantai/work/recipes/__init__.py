"""Recipes: components and lines, what they come to, how lines are read, what looks wrong."""
