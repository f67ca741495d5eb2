"""A miss that is evened out over the other containers of the same client."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from yantai.core.filling.facts import Filling, Spot
from yantai.core.foods.nutrients import AIMED, Amounts, Nutrient
from yantai.core.targets.targets import Target, Tolerance


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """A container beside the others of its client: what it aims at, and what it `held` when it was closed at `second`,
    None while it is open."""

    spot: Spot
    target: Target
    tolerance: Tolerance
    held: Amounts | None = None
    second: float = math.inf


def moved_aims(containers: Sequence[Standing], filling: Filling) -> dict[Spot, Target]:
    """What the open containers of one client aim at once misses are evened out, of those that aim at something else.

    Every closed container that is evened out, and every one that was closed after that, leaves `Σ (held − aim)` of each
    nutrient to those that are open: each of them aims at an equal part of it less, but not beyond its own band, so that
    it is met on its own too.
    """
    evened = [filling.evened[one.spot] for one in containers if one.spot in filling.evened]
    if not evened:
        return {}
    first = min(evened)
    over = _left_over([one for one in containers if one.spot in filling.evened or one.second >= first])
    open_ones = [one for one in containers if one.held is None]
    found = {}
    for one in open_ones:
        figures = dict(one.target.by_name)
        for nutrient, aim in one.target.aims.items():
            band = one.tolerance.band(nutrient, aim)
            less = over.get(nutrient, 0.0) / len(open_ones)
            figures[nutrient.value] = max(aim - min(max(less, -band), band), 0.0)
        moved = Target(**figures)
        if moved != one.target and any(moved.aims.values()):
            found[one.spot] = moved
    return found


def _left_over(closed: Sequence[Standing]) -> Mapping[Nutrient, float]:
    """How much more than they aimed at closed containers hold together, of each nutrient [g, kcal]."""
    return {
        nutrient: math.fsum(
            one.held[nutrient] - aim
            for one in closed
            if one.held is not None and (aim := one.target.aims.get(nutrient)) is not None
        )
        for nutrient in AIMED
    }
