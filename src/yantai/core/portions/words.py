"""Limits in words, with their grams."""

from __future__ import annotations

from collections.abc import Sequence

from yantai.core.portions.moved import Moved
from yantai.core.portions.problem import Binding, Hold
from yantai.core.speaking import weight


def binding_words(binding: Binding, names: Sequence[str]) -> str:
    """What a limit is and which way it would have to give; `names` are the components in the order of the cells.

    >>> binding_words(Binding(hold=Hold.PINNED, index=0, at=40, more=True, shadow_price=1), ["Sauce"])
    'Sauce is pinned at 40 g and more would help'
    """
    if binding.index is None:
        is_volume = binding.hold is Hold.VOLUME
        return f"the container is full at {binding.at:,.0f} {'ml' if is_volume else 'g'}"
    name = names[binding.index]
    way = "more would help" if binding.more else "less would help"
    return {
        Hold.PINNED: f"{name} is pinned at {weight(binding.at)} and {way}",
        Hold.SET: f"{name} has {weight(binding.at)} as it is portioned and {way}",
        Hold.LEFT_OUT: f"{name} is left out, and some would help",
        Hold.AT_LEAST: f"{name} is at its least, {weight(binding.at)}, and {way}",
        Hold.AT_MOST: f"{name} is at its most, {weight(binding.at)}, and {way}",
        Hold.USUAL_MOST: f"{name} is at {weight(binding.at)}, the most that is usual, and {way}",
        Hold.CLIENT_MOST: f"{name} is at {weight(binding.at)}, the most this client has of it, and {way}",
        Hold.TUB: f"the tub of {name} is full at {weight(binding.at)} and {way}",
        Hold.POT: f"the pot of {name} gives this container {weight(binding.at)} and {way}",
    }[binding.hold]


def moved_words(moved: Moved, names: Sequence[str]) -> str:
    """Which limit takes which component from where to where.

    >>> moved_words(Moved(hold=Hold.VOLUME, index=None, at=450, cell=0, without=125, now=5), ["Broccoli"])
    'The container holds 450 ml: that takes Broccoli from 125 g to 5 g'
    """
    limit = {
        Hold.VOLUME: f"The container holds {moved.at:,.0f} ml",
        Hold.WEIGHT: f"The container carries {weight(moved.at)}",
    }.get(moved.hold)
    if limit is None:
        name = names[moved.index or 0]
        limit = {
            Hold.POT: f"The pot of {name} gives {weight(moved.at)}",
            Hold.TUB: f"The tub of {name} holds {weight(moved.at)}",
            Hold.AT_LEAST: f"{name} is at least {weight(moved.at)}",
        }.get(moved.hold, f"{name} is at most {weight(moved.at)}")
    return f"{limit}: that takes {names[moved.cell]} from {weight(moved.without)} to {weight(moved.now)}"
