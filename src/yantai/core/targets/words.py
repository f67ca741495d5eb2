"""The figures of targets and days, by the names they are stored under."""

from __future__ import annotations

from collections.abc import Mapping

from yantai.core.foods.nutrients import Nutrient
from yantai.core.speaking import energy, spoken
from yantai.core.targets.targets import AT_LEAST, AT_MOST, TARGETED, Held, Money, Target

_SMALL, _SMALLEST = 0.95, 0.05
"""Below these a figure without decimals, or with one, would say nothing."""
SIDES = {**dict.fromkeys(AT_LEAST, "at least"), **dict.fromkeys(AT_MOST, "at most")}
"""Limits on one side; what is not among them is aimed at."""


def shown(value: float) -> str:
    """A figure as a person writes it: hundredths where there are any, and never as 1.2e+04.

    >>> shown(12345), shown(33.333), shown(45.0)
    ('12,345', '33.33', '45')
    """
    return f"{round(value, 2):,.10g}"


def figure_words(nutrient: Nutrient, value: float) -> str:
    """A figure with its unit, energy in the reader's: "45 g", "900 mg", "700 kcal"."""
    if nutrient is Nutrient.KCAL and spoken().energy != "kcal":
        return energy(value)
    return f"{shown(value)} {nutrient.unit}"


def whole_words(nutrient: Held, value: float) -> str:
    """A figure without decimals, with its unit; money to the hundredth. What is less than one has a decimal: something
    that is off is never off by nothing.

    >>> whole_words(Nutrient.FAT, 12.4), whole_words(Nutrient.FAT, 0.34), whole_words(Nutrient.FAT, 0.02)
    ('12 g', '0.3 g', 'less than 0.1 g')
    """
    if isinstance(nutrient, Money):
        return f"{value:,.2f}"
    if nutrient is Nutrient.KCAL and value >= _SMALL:
        return energy(value)
    unit = "kcal" if nutrient is Nutrient.KCAL else nutrient.unit
    if not 0 < value < _SMALL:
        return f"{value:,.0f} {unit}"
    return f"{value:.1f} {unit}" if value >= _SMALLEST else f"less than 0.1 {unit}"


def target_words(figures: Mapping[str, float | None]) -> str:
    """A target as it is told: "45 g protein, 55 g carbohydrate, sodium at most 900 mg"."""
    told = []
    for nutrient in TARGETED:
        value = figures.get(nutrient.value)
        if value is not None:
            side, said = SIDES.get(nutrient), figure_words(nutrient, value)
            told.append(f"{nutrient.noun} {side} {said}" if side else f"{said} {nutrient.noun}")
    return ", ".join(told)


def missed_words(off: Mapping[Held, float]) -> list[str]:
    """Each figure that is off [g, kcal, mg], as "protein 12 g short", "cost 0.40 over"."""
    told = []
    for nutrient, value in off.items():
        if value:
            told.append(f"{nutrient.noun} {whole_words(nutrient, abs(value))} {'over' if value > 0 else 'short'}")
    return told


def conflict_words(target: Target) -> str | None:
    """What to say when stated kcal and macros disagree."""
    apart, implied = target.kcal_conflict, target.macro_kcal
    if apart is None or implied is None or target.kcal is None:
        return None
    more = "more" if apart > 0 else "less"
    return (
        f"{energy(target.kcal)} are {energy(abs(apart))} {more} than these macros give "
        f"({energy(implied)} at 4/4/9), so no container meets all four. Change one, or leave kcal empty."
    )
