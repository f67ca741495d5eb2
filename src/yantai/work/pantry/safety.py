"""Temperatures that make food safe, as the reference data states them."""

from __future__ import annotations

import csv
from collections.abc import Mapping
from functools import cache
from importlib import resources

ITEMS = {
    "poultry": "poultry, whole, pieces or stuffed",
    "minced meat": "ground meat (beef, pork, lamb, game) and sausages",
    "whole cuts": "whole cuts of beef, veal, lamb, pork (steaks, chops, roasts)",
    "fish": "fin fish",
    "eggs": "egg dishes and bakes",
}
"""The row of the reference data for each kind that the core tells apart."""


@cache
def core_celsius() -> Mapping[str, float]:
    """The core temperature [°C] of each kind of raw food."""
    text = (resources.files("yantai.reference") / "data" / "safety.csv").read_text(encoding="utf-8")
    stated = {row["item"]: row["min_core_c"] for row in csv.DictReader(text.splitlines())}
    return {kind: float(stated[item]) for kind, item in ITEMS.items()}
