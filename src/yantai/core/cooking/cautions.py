"""Core temperatures to show where a component is cooked and weighed.

General guidance, which the reference data states; local rules and licensed practitioners prevail.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from yantai.core.speaking import heat

_MINCED = ("ground", "mince", "sausage", "patties")

WORDS = {
    "poultry": "poultry",
    "minced meat": "minced meat",
    "whole cuts": "whole cuts, then 3 min rest",
    "fish": "fish",
    "eggs": "egg dishes",
}
"""What is told apart, and the words shown with it."""

_GROUPS = {
    "poultry": "poultry",
    "beef": "whole cuts",
    "pork": "whole cuts",
    "lamb-game": "whole cuts",
    "fish-shellfish": "fish",
    "eggs": "eggs",
}


def core_temperature(foods: Iterable[tuple[str, str, str]], celsius: Mapping[str, float]) -> str | None:
    """The caution for a component made of `foods` (name, group, state), or None when none needs one.

    `celsius` is the temperature [°C] that the thickest part must reach, by the keys of `WORDS`. The highest of the
    raw parts counts.

    >>> core_temperature([("Ground turkey", "poultry", "raw"), ("Onion", "vegetables", "raw")], {"poultry": 74})
    'Cook to 74 °C in the thickest part (poultry). Local rules prevail.'
    """
    kinds = {core_kind(name, group) for name, group, state in foods if state in ("raw", "frozen")} - {None}
    if not kinds:
        return None
    hottest = max((kind for kind in kinds if kind is not None), key=lambda kind: (celsius[kind], kind))
    return f"Cook to {heat(celsius[hottest])} in the thickest part ({WORDS[hottest]}). Local rules prevail."


def core_kind(name: str, group: str) -> str | None:
    """Which of `WORDS` a raw food is, by its name and group; None for what needs no core temperature."""
    kind = _GROUPS.get(group)
    if kind == "whole cuts" and any(word in name.casefold() for word in _MINCED):
        return "minced meat"
    return kind
