"""Pans and weighings made by chance from the reference's yields, honest ones and slips."""

from __future__ import annotations

import csv
import math
import random
from importlib import resources

from tests.core.examples import food
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.learned import RANGE_Z
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.cooking.yields import YieldRange, YieldSource

KITCHEN = {"the roasting pan": 1312.0, "the bowl": 640.0, "the stock pot": 2980.0}
SLIPS = (
    "raw weight",
    "known vessel left on",
    "ounces for grams",
    "pounds for grams",
    "kilograms for grams",
    "a digit too few",
)
_GRAMS = {
    "ounces for grams": 28.349523125,
    "pounds for grams": 453.59237,
    "kilograms for grams": 1000.0,
    "a digit too few": 10.0,
}
_WORDS = {
    "raw weight": "raw weight",
    "ounces for grams": "Ounces typed",
    "pounds for grams": "Pounds typed",
    "kilograms for grams": "Kilograms typed",
    "a digit too few": "A digit is missing",
}


def _yields() -> list[YieldRange]:
    text = (resources.files("yantai.reference") / "data" / "yields.csv").read_text(encoding="utf-8")
    return [
        YieldRange(
            low=float(row["yield_low"]),
            expected=float(row["yield_mean"]),
            high=float(row["yield_high"]),
            source=YieldSource.PUBLISHED,
        )
        for row in csv.DictReader(text.splitlines())
    ]


YIELDS = _yields()


def pan(rng: random.Random) -> Component:
    """One food of 300 g to 8 kg by one of the reference's yields."""
    raw_g = math.exp(rng.uniform(math.log(300), math.log(8000)))
    line = Line(name="Food", purchased_g=round(raw_g), composition=food(20, 0, 5), yield_range=rng.choice(YIELDS))
    return Component(name="Pan", lines=(line,))


def honest_g(rng: random.Random, made: Component) -> float:
    """What such a pan weighs [g]: log-normal to either side of what is expected, 98 of 100 inside the range."""
    z = rng.gauss(0, 1)
    middle = made.expected_g
    far = made.expected_high_g / middle if z > 0 else middle / made.expected_low_g
    return max(round(middle * math.exp(z * math.log(max(far, 1.0)) / RANGE_Z)), 1)


def slipped(rng: random.Random, made: Component, slip: str) -> tuple[list[VesselWeight], str]:
    """A weighing of such a pan with a slip, and words that name its cause."""
    right = honest_g(rng, made)
    if slip == "raw weight":
        return [VesselWeight(gross_g=made.basis_g)], _WORDS[slip]
    if slip == "known vessel left on":
        name = rng.choice(list(KITCHEN))
        return [VesselWeight(gross_g=right + KITCHEN[name])], f"{name} was left on"
    return [VesselWeight(gross_g=max(right / _GRAMS[slip], 0.1))], _WORDS[slip]
