"""Ways out of a target that is missed: the smallest change of one thing that meets it, each tried by solving again."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from yantai.core.foods.nutrients import AIMED, Amounts, Nutrient
from yantai.core.portions.problem import MAXIMUM_CELL_G, MOSTS, Cell, Container, Hold, Limit, Portions
from yantai.core.portions.relaxed import Relaxed, Vector, nearest, programme, relaxed
from yantai.core.portions.single import solve
from yantai.core.targets.targets import LIMITS

MOST_EXTRA_G = 200.0
"""The most of one food that is offered as an extra [g]."""

LEAST_EXTRA_G = 5.0
"""The least of one food that is worth adding [g]: a teaspoon."""

MOST_OFFERS = 40
"""Foods that are tried: where pieces must come out whole each takes a while."""

EXTRA_STEP_G = 1.0
_ROOM_STEP = 10.0
_FURTHER = 4
_TIE = 1e-6


@dataclass(frozen=True, slots=True, kw_only=True)
class Way:
    """A change of the container that meets its target.

    Attributes:
        hold: which limit gives way.
        index: the cell it is about; None for the capacity.
        was, now: the limit before and after [g; ml for the volume].
        portions: the container then: proof that it is met.
        moved: share of the plate [g/g] that lies elsewhere than now; ways are ranked by it.
    """

    hold: Hold
    index: int | None
    was: float
    now: float
    portions: Portions
    moved: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Side:
    """So much of a food beside the components meets the target; `offer` is its place among those given."""

    offer: int
    grams: float
    portions: Portions
    moved: float


def ways_out(container: Container, now: Portions) -> list[Way]:
    """The limits of a missed container that, moved alone, let it meet its target; the least moved plate first.

    Exclusions and the shares of short pots never give way here.
    """
    found = []
    for binding in now.bindings:
        if binding.hold in (Hold.LEFT_OUT, Hold.POT):
            continue
        way = (
            _more_room(container, now, binding.hold)
            if binding.index is None
            else _moved_limit(container, now, binding.hold, binding.index, binding.at)
        )
        if way is not None:
            found.append(way)
    return sorted(found, key=lambda way: way.moved)


def sides(
    container: Container, now: Portions, offers: Sequence[Amounts], prices: Sequence[float | None] = ()
) -> Iterator[Side]:
    """Foods (amounts in 100 g, and what that costs) of which `LEAST_EXTRA_G` to `MOST_EXTRA_G` beside the components
    meets the target.

    The least that does it of each, up to the next gram; the `MOST_OFFERS` that need the least come first and no others
    are tried, each only when it is asked for. Where there is a budget, what has no price is not offered.
    """
    priced = list(prices) or [None] * len(offers)
    needed = []
    for number, (per_100g, price) in enumerate(zip(offers, priced, strict=True)):
        if container.budget is not None and price is None:
            continue
        one = Cell(per_100g=per_100g, share=1e-6, maximum_g=MOST_EXTRA_G, step_g=EXTRA_STEP_G, price=price or 0.0)
        free = with_cell(container, one)
        least = _least_change(relaxed(free), len(container.cells), 0.0)
        if least is not None:
            needed.append((max(least, LEAST_EXTRA_G), number))
    for least, number in sorted(needed)[:MOST_OFFERS]:
        for more in range(_FURTHER):
            grams = (math.ceil(least / EXTRA_STEP_G - 1e-6) + more) * EXTRA_STEP_G
            pinned = Cell(per_100g=offers[number], share=1e-6, pinned_g=grams, price=priced[number] or 0.0)
            tried = with_cell(container, pinned)
            if 0 < grams <= MOST_EXTRA_G and can_meet(tried) and solve(tried).met:
                then = solve(tried)
                yield Side(offer=number, grams=grams, portions=then, moved=moved(now, then, grams))
                break


def can_meet(container: Container) -> bool:
    """Whether grams that need not lie on a step keep every band; quick, and necessary for steps that do."""
    problem = relaxed(container)
    return nearest(problem) is not None if problem.indices else solve(container).met


def reachable_target(container: Container, now: Portions) -> dict[Nutrient, float]:
    """The nearest figures of the target that the container as it is meets: what it holds, for each one missed."""
    return {
        nutrient: min(round(now.amounts[nutrient], 1), LIMITS.get(nutrient, math.inf))
        for nutrient in AIMED
        if now.misses.get(nutrient)
    }


def moved(now: Portions, then: Portions, added_g: float = 0.0) -> float:
    """Share of the plate that lies elsewhere: grams moved from or to any cell, over the grams there are."""
    apart = math.fsum(abs(a - b) for a, b in zip(now.grams, then.grams, strict=False)) + added_g
    return apart / max(math.fsum(now.grams), 1.0)


def with_cell(container: Container, cell: Cell) -> Container:
    """The container with one more cell."""
    shares = None if container.shares_g is None else (*container.shares_g, math.inf)
    return replace(container, cells=(*container.cells, cell), shares_g=shares)


def _with(container: Container, index: int, cell: Cell) -> Container:
    cells = list(container.cells)
    cells[index] = cell
    return replace(container, cells=tuple(cells))


def _moved_limit(container: Container, now: Portions, hold: Hold, index: int, at: float) -> Way | None:
    cell = container.cells[index]
    free = replace(cell, pinned_g=None, set_g=None, minimum_g=0.0, maximum_g=MAXIMUM_CELL_G)
    least = _least_change(relaxed(_with(container, index, free)), index, at)
    if least is None:
        return None
    step = container.step_of(cell)
    outward = 1 if least > at else -1
    first = math.ceil(least / step - 1e-6) if outward > 0 else math.floor(least / step + 1e-6)
    for further in range(_FURTHER):
        limit = (first + outward * further) * step
        if not 0 <= limit <= MAXIMUM_CELL_G or limit == at:
            continue
        tried = solve(_with(container, index, _limited(cell, hold, limit)))
        if tried.met:
            return Way(hold=hold, index=index, was=at, now=limit, portions=tried, moved=moved(now, tried))
    return None


def _limited(cell: Cell, hold: Hold, limit: float) -> Cell:
    if hold in MOSTS.values():
        return replace(cell, maximum_g=limit, most_by=Limit.TUB if hold is Hold.TUB else Limit.AT_MOST)
    if hold is Hold.AT_LEAST:
        return replace(cell, minimum_g=limit)
    return replace(cell, pinned_g=limit)


def with_room(container: Container, hold: Hold, room: float | None) -> Container:
    """The container with another volume [ml] or weight [g] that it holds; None for any."""
    if hold is Hold.VOLUME:
        return replace(container, capacity_ml=room)
    return replace(container, capacity_g=room)


def _more_room(container: Container, now: Portions, hold: Hold) -> Way | None:
    """The smallest container that the target fits into."""
    was = container.capacity_ml if hold is Hold.VOLUME else container.capacity_g
    roomy = solve(with_room(container, hold, None))
    if was is None or not roomy.met:
        return None
    filled = math.fsum(g for cell, g in zip(container.cells, roomy.grams, strict=True) if cell.fills)
    low, high = was, roomy.volume_ml if hold is Hold.VOLUME else filled
    # The room that is needed is found by halving: what a larger container meets, a yet larger one meets too.
    while high - low > _ROOM_STEP:
        middle = (low + high) / 2
        low, high = (low, middle) if solve(with_room(container, hold, middle)).met else (middle, high)
    room = math.ceil(high / _ROOM_STEP) * _ROOM_STEP
    tried = solve(with_room(container, hold, room))
    if not tried.met:
        return None
    return Way(hold=hold, index=None, was=was, now=room, portions=tried, moved=moved(now, tried))


def _least_change(problem: Relaxed, index: int, at: float) -> float | None:
    """The grams of one cell nearest to `at` with which some grams of the others keep every band; None if none do."""
    if index not in problem.indices:
        return None
    column = problem.indices.index(index)
    # Over y = x / d, each of which is around one: over grams the solver goes round in circles.
    d = problem.spread
    weight = np.full(len(problem.indices), _TIE)
    weight[column] = d[column] ** 2 / 100.0
    toward: Vector = problem.reference.copy()
    toward[column] = at
    answer = programme(2 * np.diag(weight), 2 * weight * toward / d, problem.normals * d, problem.floors(0.0))
    return None if answer is None else float(answer[0][column] * d[column])
