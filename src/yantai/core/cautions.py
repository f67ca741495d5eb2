"""Core temperatures to show where a component is cooked and weighed.

General guidance (domain: reference/data/safety.csv); local rules and licensed practitioners prevail.
"""

from __future__ import annotations

from collections.abc import Iterable

_MINCED = ("ground", "mince", "sausage", "patties")

CORE_TEMPERATURES: dict[str, tuple[int, str]] = {
    "poultry": (74, "poultry"),
    "minced meat": (71, "minced meat"),
    "whole cuts": (63, "whole cuts, then 3 min rest"),
    "fish": (63, "fish"),
    "eggs": (71, "egg dishes"),
}
"""°C in the thickest part, and the words shown with it."""

_GROUPS = {
    "poultry": "poultry",
    "beef": "whole cuts",
    "pork": "whole cuts",
    "lamb-game": "whole cuts",
    "fish-shellfish": "fish",
    "eggs": "eggs",
}


def core_temperature(foods: Iterable[tuple[str, str, str]]) -> str | None:
    """The caution for a component made of `foods` (name, group, state), or None when none needs one.

    The highest temperature of its raw parts counts.

    >>> core_temperature([("Ground turkey, 93 % lean", "poultry", "raw"), ("Onion", "vegetables", "raw")])
    'Cook to 74 °C in the thickest part (poultry). Local rules prevail.'
    """
    kinds = {_kind(name, group) for name, group, state in foods if state in ("raw", "frozen")} - {None}
    if not kinds:
        return None
    celsius, words = max(CORE_TEMPERATURES[kind] for kind in kinds if kind is not None)
    return f"Cook to {celsius} °C in the thickest part ({words}). Local rules prevail."


def _kind(name: str, group: str) -> str | None:
    kind = _GROUPS.get(group)
    if kind == "whole cuts" and any(word in name.casefold() for word in _MINCED):
        return "minced meat"
    return kind
