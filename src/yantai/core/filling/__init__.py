"""Filling at the scale: what is in every container, what still goes in, and how misses are made good
(docs/filling.md)."""

from yantai.core.filling.bench import Bench
from yantai.core.filling.facts import Fate, FillEvent, FillFact, Filling, Spot, Way, what_is_filled
from yantai.core.filling.making_good import MadeGood, make_good

__all__ = [
    "Bench",
    "Fate",
    "FillEvent",
    "FillFact",
    "Filling",
    "MadeGood",
    "Spot",
    "Way",
    "make_good",
    "what_is_filled",
]
