"""How long what is cooked keeps in the fridge before it is portioned, by the cautious rule."""

from __future__ import annotations

from collections.abc import Iterable

RICE_DAYS = 1
FISH_DAYS = 2
COOKED_DAYS = 3
_GRAINS, _FISH = "grains-pasta", "fish-shellfish"


def bulk_days(foods: Iterable[tuple[str, str]]) -> int:
    """Days in the fridge at 5 °C or below of a cooked component, by the (name, group) of its foods: those of the food
    that keeps least. Cooked rice 1, fish and shellfish 2, other cooked food 3.

    Source: the cautious column of the shipped shelf-life table (reference, PROVENANCE.md). General guidance: local
    rules prevail.

    >>> bulk_days([("Rice, white, basmati", "grains-pasta"), ("Salt, table", "herbs-spices")])
    1
    """
    return min((_days(name, group) for name, group in foods), default=COOKED_DAYS)


def _days(name: str, group: str) -> int:
    if group == _GRAINS and "rice" in name.lower():
        return RICE_DAYS
    return FISH_DAYS if group == _FISH else COOKED_DAYS
