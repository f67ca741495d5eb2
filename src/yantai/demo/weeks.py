"""What was cooked in the weeks before, with how each pan came out: the kitchen has learned from it."""

from __future__ import annotations

from dataclasses import dataclass, field

Counts = dict[tuple[str, str], int]


@dataclass(frozen=True, kw_only=True)
class CookDay:
    """A day of cooking: its dishes by the recipe's name, with containers by client and slot.

    `came_out` is what each pan weighed as a share of what was expected of it; a pan that is not in it came out as
    expected. `bought` is what the shop had, as a share of what the plan needs, where it was less.
    """

    name: str
    days_before: int
    dishes: dict[str, Counts]
    came_out: dict[str, float] = field(default_factory=dict)
    bought: dict[str, float] = field(default_factory=dict)


KOFTA, STEW, LENTILS, TRAY = "Turkey kofta tray", "Smoky tofu and white bean stew", "Lentil pot", "Egg and spinach tray"

_LUNCHES: Counts = {
    ("Ines Haverkamp", "lunch, training"): 3,
    ("Bram Oduya", "lunch"): 3,
    ("Safiya Lund", "lunch"): 3,
    ("Wilf Tanaka", "lunch"): 3,
}

COOKED = (
    CookDay(
        name="Kofta for the head race",
        days_before=21,
        dishes={KOFTA: _LUNCHES | {("Teo Vasquez-Lind", "lunch"): 3}},
        came_out={"Turkey kofta": 0.97, "Bulgur pilaf": 1.02, "Charred courgette": 0.94, "Mint yoghurt": 0.99},
    ),
    CookDay(
        name="Bean stew for the long row",
        days_before=18,
        dishes={STEW: _LUNCHES},
        came_out={"Smoky tofu": 0.96, "White bean stew": 0.98, "Millet": 0.97, "Garlic greens": 1.01},
    ),
    CookDay(
        name="Kofta and lentils",
        days_before=14,
        dishes={
            KOFTA: _LUNCHES | {("Petra Nowicka", "dinner"): 2},
            LENTILS: {("Odell Marsh", "dinner"): 4, ("Runa Castellane", "dinner"): 4},
        },
        came_out={"Turkey kofta": 0.99, "Bulgur pilaf": 0.98, "Charred courgette": 0.97, "Lentils": 0.96, "Rice": 0.98},
    ),
    CookDay(
        name="Bean stew Wednesday",
        days_before=11,
        dishes={STEW: _LUNCHES | {("Petra Nowicka", "dinner"): 3}},
        came_out={"Smoky tofu": 0.99, "White bean stew": 1.03, "Millet": 1.01, "Garlic greens": 1.01},
    ),
    CookDay(
        name="Lentils and egg trays",
        days_before=7,
        dishes={
            LENTILS: {("Odell Marsh", "dinner"): 5, ("Runa Castellane", "dinner"): 5},
            TRAY: {("Runa Castellane", "breakfast"): 4, ("Odell Marsh", "breakfast"): 4},
        },
        came_out={"Egg tray": 0.98, "Lentils": 1.01, "Rice": 1.01},
    ),
)

SHORT_PAN = CookDay(
    name="Kofta before the regatta",
    days_before=0,
    dishes={KOFTA: _LUNCHES | {("Bram Oduya", "dinner"): 2}},
    came_out={"Turkey kofta": 0.97, "Mint yoghurt": 0.99},
    bought={"Turkey kofta": 0.75},
)
"""Cooked today: the shop was short of turkey, and bulgur and courgette are still on the heat."""
