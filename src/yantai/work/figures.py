"""The figures of targets and days, by the names they are stored under."""

from __future__ import annotations

from yantai.core.nutrients import AIMED, Nutrient
from yantai.core.speaking import energy, spoken
from yantai.core.targets import AT_LEAST, AT_MOST, Target
from yantai.store import tables
from yantai.work.inputs import DayInput, SetTarget, TargetInput

NOUNS = {
    Nutrient.KCAL: ("energy", "kcal"),
    Nutrient.PROTEIN: ("protein", "g"),
    Nutrient.CARBOHYDRATE: ("carbohydrate", "g"),
    Nutrient.FAT: ("fat", "g"),
    Nutrient.FIBRE: ("fibre", "g"),
    Nutrient.SATURATED: ("saturated fat", "g"),
    Nutrient.SODIUM: ("sodium", "mg"),
}

SIDES = {**dict.fromkeys(AT_LEAST, "at least"), **dict.fromkeys(AT_MOST, "at most")}
"""Limits on one side; what is not among them is aimed at."""

Figures = dict[str, float | None]


def target_figures(
    target: TargetInput | SetTarget | DayInput | tables.Target | tables.ContainerClass | tables.Day,
) -> Figures:
    """The figures of a target or day by their names as they are stored, the limits on one side included."""
    return {nutrient.value: getattr(target, nutrient.value) for nutrient in (*AIMED, *AT_LEAST, *AT_MOST)}


def core_target(row: tables.ContainerClass) -> Target:
    """The core's target of a row of a batch."""
    return Target(**target_figures(row))


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
    return f"{shown(value)} {NOUNS[nutrient][1]}"


def whole_words(nutrient: Nutrient, value: float) -> str:
    """A figure without decimals, with its unit."""
    return energy(value) if nutrient is Nutrient.KCAL else f"{value:,.0f} {NOUNS[nutrient][1]}"


def target_words(figures: Figures) -> str:
    """A target as it is told: "45 g protein, 55 g carbohydrate, sodium at most 900 mg"."""
    told = []
    for nutrient, (noun, _) in NOUNS.items():
        value = figures.get(nutrient.value)
        if value is not None:
            side, said = SIDES.get(nutrient), figure_words(nutrient, value)
            told.append(f"{noun} {side} {said}" if side else f"{said} {noun}")
    return ", ".join(told)
