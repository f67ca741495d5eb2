"""Which limits take components far from where they would be without them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace

from yantai.core.portions.problem import MAXIMUM_CELL_G, MOSTS, Cell, Container, Hold, Limit, Portions
from yantai.core.portions.single import solve

FAR_SHARE = 1 / 3
FAR_G = 10.0
"""A cell is told when it is more than a third and more than so many grams [g] from where it would be."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Moved:
    """A limit without which a cell would hold other grams.

    Attributes:
        hold, place, at: the limit, the cell it is about (None for the container), and where it stands [g; ml].
        cell: the cell that moves.
        without, now: its grams [g] without the limit and as they are.
    """

    hold: Hold
    index: int | None
    at: float
    cell: int
    without: float
    now: float


def moved_by_limits(container: Container, now: Portions) -> list[Moved]:
    """The limits in force that move another cell by more than a third, the largest move of each, the farthest first."""
    found = []
    for hold, index, at, free in _without_each(container, now):
        other = solve(free)
        far = [
            Moved(hold=hold, index=index, at=at, cell=cell, without=a, now=b)
            for cell, (a, b) in enumerate(zip(other.grams, now.grams, strict=True))
            if cell != index and abs(a - b) > FAR_G and abs(a - b) > FAR_SHARE * a
        ]
        if far:
            found.append(max(far, key=lambda one: abs(one.without - one.now)))
    return sorted(found, key=lambda one: -abs(one.without - one.now))


def _without_each(container: Container, now: Portions) -> Iterator[tuple[Hold, int | None, float, Container]]:
    if now.full and container.capacity_ml is not None:
        yield Hold.VOLUME, None, container.capacity_ml, replace(container, capacity_ml=None)
    if now.full and container.capacity_g is not None:
        yield Hold.WEIGHT, None, container.capacity_g, replace(container, capacity_g=None)
    for index, (cell, limit) in enumerate(zip(container.cells, now.limits, strict=True)):
        if limit in MOSTS:
            hold = MOSTS[cell.most_by]
            wider = replace(cell, maximum_g=MAXIMUM_CELL_G)
            yield hold, index, cell.maximum_g, _with(container, index, wider)
        elif limit is Limit.AT_LEAST:
            yield Hold.AT_LEAST, index, cell.minimum_g, _with(container, index, replace(cell, minimum_g=0.0))
        elif limit is Limit.POT and container.shares_g is not None and cell.set_g is None:
            shares = [math.inf if n == index else grams for n, grams in enumerate(container.shares_g)]
            yield Hold.POT, index, container.shares_g[index], replace(container, shares_g=tuple(shares))


def _with(container: Container, index: int, cell: Cell) -> Container:
    cells = list(container.cells)
    cells[index] = cell
    return replace(container, cells=tuple(cells))
