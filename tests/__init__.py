"""Tests; each runs alone, in any order, and has the same examples each time."""

from hypothesis import settings

# Runs must be repeatable: the same commit is green or red. To search further, take this line out for a while.
settings.load_profile("ci")
