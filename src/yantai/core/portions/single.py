"""One container from its question to its answer."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from yantai.core.portions.problem import HELD, MOSTS, Binding, Cell, Container, Hold, Portions, portions
from yantai.core.portions.relaxed import Excess, has_room, least_excess, nearest, relaxed
from yantai.core.portions.steps import on_steps

_WORTH = 1e-4
"""A limit is told when giving way by a gram takes at least this share of the miss away."""

_ANSWERS = 8192
"""Answers kept: most changes of a batch leave most of its containers as they were."""


@lru_cache(maxsize=_ANSWERS)
def solve(container: Container) -> Portions:
    """Grams of each cell that meet the container's target, or come as near as its limits allow.

    Cells on a bound, pinned or left out are respected always. Bounds that are not on a step are rounded
    inwards; where no step lies between them, the lower bound itself is taken.
    """
    problem = relaxed(container)
    if problem.indices and not has_room(problem):
        return portions(container, problem.whole(problem.low))
    inside = nearest(problem) if problem.indices else None
    excess = None
    if inside is None:
        excess = least_excess(problem)
        inside = nearest(problem, excess.beyond) if problem.indices else None
        inside = excess.grams if inside is None else inside
    grams = on_steps(problem, excess, inside).grams if problem.indices else inside
    bindings = () if excess is None or excess.weighted == 0 else _bindings(container, excess)
    return portions(container, problem.whole(grams), bindings)


def least_miss(container: Container) -> float:
    """A weighted miss `Σ w (e / σ)²` that no grams of this container beat; quicker than solving."""
    problem = relaxed(container)
    if problem.indices and (not has_room(problem) or nearest(problem) is not None):
        return 0.0
    return least_excess(problem).weighted


def _bindings(container: Container, excess: Excess) -> tuple[Binding, ...]:
    """The limits that hold the least miss where it is, from its prices: no search."""
    per_gram = np.array([cell.held for cell in container.cells]) / 100
    price = dict(zip((aim.nutrient for aim in container.aims), excess.price, strict=True))
    prices = np.array([price.get(of, 0.0) for of in HELD])
    rooms = [hold for hold, capacity in _capacities(container) if capacity is not None]
    found = []
    for hold, shadow_price in zip(rooms, excess.room_price, strict=True):
        at = container.capacity_ml if hold is Hold.VOLUME else container.capacity_g
        found.append(Binding(hold=hold, index=None, at=at or 0.0, more=True, shadow_price=float(shadow_price)))
    room_price = dict(zip(rooms, excess.room_price, strict=True))
    for index, (cell, held) in enumerate(zip(container.cells, per_gram, strict=True)):
        slope = float(held @ prices)
        if cell.fills:
            slope += room_price.get(Hold.VOLUME, 0.0) / cell.density_g_per_ml + room_price.get(Hold.WEIGHT, 0.0)
        share = math.inf if container.shares_g is None else container.shares_g[index]
        binding = _binding(index, cell, slope, share)
        if binding is not None:
            found.append(binding)
    least_price = _WORTH * excess.weighted
    return tuple(sorted((b for b in found if b.shadow_price > least_price), key=lambda b: -b.shadow_price))


def _capacities(container: Container) -> list[tuple[Hold, float | None]]:
    return [(Hold.VOLUME, container.capacity_ml), (Hold.WEIGHT, container.capacity_g)]


def _binding(index: int, cell: Cell, slope: float, share_g: float) -> Binding | None:
    """The limit of a cell whose next gram changes the miss by `slope`; None where it is free to move that way.

    A free cell inside its bounds has no slope at the least miss, so what has one stands at the bound it pushes to.
    """
    more = slope < 0
    low, high = cell.bounds_g
    if cell.fixed_g is None:
        hold, at = (MOSTS[cell.most_by], high) if more else (Hold.AT_LEAST, low)
        if more and share_g < high:
            hold, at = Hold.POT, share_g
        if not more and low == 0:
            return None  # nothing less than none
    else:
        at = cell.fixed_g
        if at == 0 and not more:
            return None
        hold = Hold.LEFT_OUT if cell.left_out else Hold.SET if cell.pinned_g is None else Hold.PINNED
    return Binding(hold=hold, index=index, at=at, more=more, shadow_price=abs(slope))
