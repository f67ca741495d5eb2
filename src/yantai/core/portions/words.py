"""Limits in words, with their grams."""

from __future__ import annotations

from collections.abc import Sequence

from yantai.core.portions.moved import Moved
from yantai.core.portions.problem import Binding, Hold


def binding_words(binding: Binding, names: Sequence[str]) -> str:
    """What a limit is and which way it would have to give; `names` are the components in the order of the cells.

    >>> binding_words(Binding(hold=Hold.PINNED, place=0, at=40, more=True, worth=1), ["Sauce"])
    'Sauce is pinned at 40 g and more would help'
    """
    if binding.place is None:
        is_volume = binding.hold is Hold.VOLUME
        return f"the container is full at {binding.at:,.0f} {'ml' if is_volume else 'g'}"
    name = names[binding.place]
    way = "more would help" if binding.more else "less would help"
    return {
        Hold.PINNED: f"{name} is pinned at {binding.at:,.0f} g and {way}",
        Hold.SET: f"{name} has {binding.at:,.0f} g as it is portioned and {way}",
        Hold.LEFT_OUT: f"{name} is left out, and some would help",
        Hold.AT_LEAST: f"{name} is at its least, {binding.at:,.0f} g, and {way}",
        Hold.AT_MOST: f"{name} is at its most, {binding.at:,.0f} g, and {way}",
        Hold.USUAL_MOST: f"{name} is at {binding.at:,.0f} g, the most that is usual, and {way}",
        Hold.POT: f"the pot of {name} gives this container {binding.at:,.0f} g and {way}",
    }[binding.hold]


def moved_words(moved: Moved, names: Sequence[str]) -> str:
    """Which limit takes which component from where to where.

    >>> moved_words(Moved(hold=Hold.VOLUME, place=None, at=450, cell=0, without=125, now=5), ["Broccoli"])
    'The container holds 450 ml: that takes Broccoli from 125 g to 5 g'
    """
    limit = {
        Hold.VOLUME: f"The container holds {moved.at:,.0f} ml",
        Hold.WEIGHT: f"The container carries {moved.at:,.0f} g",
    }.get(moved.hold)
    if limit is None:
        name = names[moved.place or 0]
        limit = {
            Hold.POT: f"The pot of {name} gives {moved.at:,.0f} g",
            Hold.AT_LEAST: f"{name} is at least {moved.at:,.0f} g",
        }.get(moved.hold, f"{name} is at most {moved.at:,.0f} g")
    return f"{limit}: that takes {names[moved.cell]} from {moved.without:,.0f} g to {moved.now:,.0f} g"
