"""Cooking: kitchens, the order of work of a day, and what is noted while it goes on."""
