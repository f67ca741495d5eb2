"""The worked examples of the job and short-hands for building core values."""

from __future__ import annotations

from yantai.core.cooking.components import Component, Line, LineRole
from yantai.core.cooking.yields import UNCHANGED, YieldRange, YieldSource
from yantai.core.foods.nutrients import AIMED, NUTRIENTS, Amounts, composition

OTHERS = [nutrient for nutrient in NUTRIENTS if nutrient not in AIMED]


def food(protein: float, carbohydrate: float, fat: float, **rest: float | None) -> Amounts:
    """Amounts per 100 g, with the nutrients of no interest stated as zero."""
    stated: dict[str, float | None] = {**{nutrient.value: 0 for nutrient in OTHERS}, **rest}
    return composition(protein_g=protein, carbohydrate_g=carbohydrate, fat_g=fat, **stated)


def keeps(factor: float, spread: float = 0.05) -> YieldRange:
    return YieldRange(low=factor - spread, expected=factor, high=factor + spread, source=YieldSource.PUBLISHED)


OIL = food(0, 0, 100)
WATER = food(0, 0, 0)

CHICKEN = Component(
    name="Chicken thigh",
    lines=(
        Line(
            name="Chicken thigh",
            purchased_g=2400,
            refuse_share=0.06,
            composition=food(19.7, 0, 4.1),
            yield_range=keeps(0.75),
        ),
        Line(name="Oil", purchased_g=30, composition=OIL, yield_range=UNCHANGED, role=LineRole.FAT),
    ),
    measured_g=1692,
)
"""Example A."""

BULGUR = Component(
    name="Bulgur",
    lines=(
        Line(
            name="Bulgur, dry",
            purchased_g=600,
            composition=food(12.3, 75.9, 1.3, fibre_g=12.5),
            yield_range=keeps(2.7, 0.3),
        ),
        Line(name="Water", purchased_g=1150, composition=WATER, yield_range=UNCHANGED, role=LineRole.WATER),
        Line(name="Salt", purchased_g=5, composition=WATER, yield_range=UNCHANGED, role=LineRole.SEASONING),
    ),
    measured_g=1665,
)
"""Example B."""

PLATE = {
    "turkey": food(27.0, 0, 8.0),
    "bulgur": food(4.4, 27.4, 0.5),
    "beans": food(1.9, 7.0, 0.3),
    "sauce": food(6.0, 5.0, 6.0),
}
"""Example C, per 100 g cooked."""
