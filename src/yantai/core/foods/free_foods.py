"""Foods that a coach may count as free, by the workspace's own declared rule. What it leaves out is always told."""

from __future__ import annotations

from collections.abc import Collection, Mapping

FREE_FOODS: Mapping[str, str] = {
    "seasoning": "dry herbs and spices",
    "leaves": "salad leaves",
    "vinegar": "vinegar",
    "hot-sauce": "hot sauce",
    "spray": "spray oil",
}
"""Kinds of food that can be declared free, by the words shown."""

_NAMES = {
    "leaves": ("lettuce", "arugula", "spinach, baby", "salad leaves"),
    "vinegar": ("vinegar",),
    "hot-sauce": ("hot sauce", "hot pepper sauce"),
    "spray": ("spray",),
}


def is_free(name: str, group: str, free: Collection[str]) -> bool:
    """Whether a food of this name and group falls under one of the kinds in `free`.

    >>> is_free("Vinegar, cider", "sauces-stocks", ["vinegar"]), is_free("Olive oil", "fats-oils", ["spray"])
    (True, False)
    """
    if "seasoning" in free and group == "herbs-spices":
        return True
    return any(word in name.casefold() for kind in free for word in _NAMES.get(kind, ()))
