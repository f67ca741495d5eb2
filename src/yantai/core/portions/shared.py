"""All containers of a batch from the same pots (docs/engine.md, section 4)."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy import sparse
from scipy.linalg import block_diag

from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import Nutrient
from yantai.core.portions.conic import conic
from yantai.core.portions.demand import Demand, Sharing
from yantai.core.portions.problem import Container, Portions
from yantai.core.portions.relaxed import Relaxed, Vector, has_room, nearness, normals, relaxed, step_bounds
from yantai.core.portions.single import solve
from yantai.core.portions.spread import spread_out
from yantai.core.portions.steps import CERTAIN, Stepped, least_on_steps
from yantai.core.targets.targets import Tolerance

_NEARNESS = 1e-4
"""Weight of nearness to target and recipe beside the misses in the joint problem, which only shares the pots out."""

_USUAL_TARGET = {Nutrient.KCAL: 500.0, Nutrient.PROTEIN: 40.0, Nutrient.CARBOHYDRATE: 50.0, Nutrient.FAT: 15.0}
"""A container of usual size [kcal, g]."""

_MOST_SEARCHED = 60
"""Cells up to which the steps of all containers are searched together."""

_GRAM = 1e-6


def solve_all(
    demands: Sequence[Demand],
    supply_g: Sequence[float | None],
    *,
    sharing: Sharing = Sharing.FAIR,
    spread: frozenset[int] = frozenset(),
) -> tuple[Portions, ...]:
    """Grams of every container, of each demand one, in order.

    `supply_g` is the cooked weight there is of each component [g], None while it is not cooked yet: the containers
    together never take more, but for what is pinned. `spread` are the places of components whose leftover goes into the
    containers as far as their bands allow.

    Raises:
        CoreError: a container has another number of cells than there are components.
    """
    for number, demand in enumerate(demands):
        if len(demand.container.cells) != len(supply_g):
            raise CoreError(
                f"container {number + 1} has {len(demand.container.cells)} cells for {len(supply_g)} components",
                field="cells",
            )
    found: list[Portions | None] = [None] * len(demands)
    left = [math.inf if grams is None else grams for grams in supply_g]
    # Least amounts of all come before what the first in rank would like, where the pot holds them.
    held = [_taken_in_any_case(demands, index, least=True) <= grams + _GRAM for index, grams in enumerate(left)]
    ranks = sorted({demand.rank for demand in demands}) if sharing is Sharing.RANKED else [None]
    for rank in ranks:
        turn = [n for n, demand in enumerate(demands) if rank is None or demand.rank == rank]
        later = [d for n, d in enumerate(demands) if found[n] is None and n not in turn]
        kept = [_taken_in_any_case(later, index, least=held[index]) for index in range(len(supply_g))]
        there_is = [max(grams - back, 0.0) for grams, back in zip(left, kept, strict=True)]
        for n, portion in zip(turn, _shared([demands[n] for n in turn], there_is), strict=True):
            found[n] = portion
            left = [g - demands[n].count * taken for g, taken in zip(left, portion.grams, strict=True)]
    shared = [portion for portion in found if portion is not None]
    surplus = {index for index in spread if math.isfinite(left[index]) and left[index] > _GRAM}
    if surplus:
        there_is = [math.inf if grams is None else grams for grams in supply_g]
        return tuple(spread_out(demands, shared, there_is, surplus))
    return tuple(shared)


def _taken_in_any_case(demands: Sequence[Demand], index: int, *, least: bool) -> float:
    """What containers take of a pot whatever happens [g]: pins, set amounts, and with `least` their least amounts."""
    return math.fsum(
        demand.count
        * ((demand.container.cells[index].fixed_g or 0.0) + (_least(demand.container, index) if least else 0.0))
        for demand in demands
    )


def _shared(demands: Sequence[Demand], there_is: Sequence[float]) -> list[Portions]:
    """Portions of one rank. While nothing is short each container is its own problem."""
    alone = [solve(demand.container) for demand in demands]
    short = _short(demands, alone, there_is)
    if not short:
        return alone
    demands = _without_lows(demands, there_is)
    joint = _joint(demands, there_is)
    limited = short | _used_up(demands, joint, there_is)
    while True:
        ceilings = {index: _allotted(demands, joint, index, there_is[index]) for index in limited}
        shared = _within_all(demands, ceilings)
        more = _short(demands, shared, there_is) - limited
        if not more:
            break
        limited |= more
    return _improved(demands, there_is, joint, shared)


def _used_up(demands: Sequence[Demand], joint: Sequence[Vector], there_is: Sequence[float]) -> set[int]:
    """Places of the pots that the joint answer empties but for a step of each container."""
    taken = np.array([demand.count for demand in demands]) @ np.array(joint)
    steps = [
        math.fsum(d.count * d.container.step_of(d.container.cells[index]) for d in demands)
        for index in range(len(there_is))
    ]
    return {index for index, have in enumerate(there_is) if taken[index] > have - min(steps[index], 0.01 * have)}


def _within_all(demands: Sequence[Demand], ceilings: Mapping[int, Sequence[float]]) -> list[Portions]:
    return [_within(demand, {index: grams[n] for index, grams in ceilings.items()}) for n, demand in enumerate(demands)]


def _within(demand: Demand, ceilings: dict[int, float]) -> Portions:
    """The container solved with its allotment of the shared pots as its most."""
    if demand.count == 0:
        return solve(demand.container)
    shares = [ceilings.get(index, math.inf) for index in range(len(demand.container.cells))]
    return solve(replace(demand.container, shares_g=tuple(shares)))


def _improved(
    demands: Sequence[Demand], there_is: Sequence[float], joint: Sequence[Vector], shared: list[Portions]
) -> list[Portions]:
    """Where whole steps cost more than the continuous answer, all steps of a small batch are searched together."""
    if len(demands) * len(there_is) > _MOST_SEARCHED:
        return shared
    stacked = _stacked(demands, there_is)
    if not has_room(stacked):
        return shared
    cells = len(there_is)
    flat = np.concatenate([portion.grams for portion in shared])[list(stacked.indices)]
    least = float(stacked.miss(np.concatenate(joint)[list(stacked.indices)][None, :])[0])
    known = Stepped(
        grams=flat,
        miss=float(stacked.miss(flat[None, :])[0]),
        objective=float(stacked.objective(flat[None, :])[0]),
        least=least,
    )
    if known.miss <= CERTAIN * least + 1e-9:
        return shared
    better = least_on_steps(stacked, known)
    if better is None:
        return shared
    grams = stacked.whole(better)
    limited = [index for index, have in enumerate(there_is) if math.isfinite(have)]
    ceilings = {index: [grams[n * cells + index] for n in range(len(demands))] for index in limited}
    return _within_all(demands, ceilings)


def _stacked(demands: Sequence[Demand], there_is: Sequence[float]) -> Relaxed:
    """All containers as one: their cells side by side, the pots as capacities over all of them."""
    blocks = [relaxed(demand.container) for demand in demands]
    worths = [demand.count * _fair_weight(demand.container) for demand in demands]
    cells = len(there_is)
    pots = [index for index, have in enumerate(there_is) if math.isfinite(have)]
    counts = np.array([demand.count for demand in demands], dtype=float)
    takes = [
        np.array([[float(counts[n]) if index == pot else 0.0 for index in block.indices] for pot in pots]).reshape(
            len(pots), len(block.indices)
        )
        for n, block in enumerate(blocks)
    ]
    fixed = np.array([block.fixed for block in blocks])
    nutrients = block_diag(*(block.nutrients for block in blocks))
    above, below = (np.concatenate([getattr(block, side) for block in blocks]) for side in ("above", "below"))
    rooms = np.vstack([block_diag(*(block.rooms for block in blocks)), np.hstack(takes)])
    in_pots = np.array([there_is[pot] - counts @ fixed[:, pot] for pot in pots])
    return Relaxed(
        indices=tuple(n * cells + index for n, block in enumerate(blocks) for index in block.indices),
        fixed=fixed.ravel(),
        nutrients=nutrients,
        low_aim=np.concatenate([block.low_aim for block in blocks]),
        high_aim=np.concatenate([block.high_aim for block in blocks]),
        centre=np.concatenate([block.centre for block in blocks]),
        scale=np.concatenate([block.scale for block in blocks]),
        priority=np.concatenate([block.priority * worth for block, worth in zip(blocks, worths, strict=True)]),
        low=np.concatenate([block.low for block in blocks]),
        high=np.concatenate([block.high for block in blocks]),
        step=np.concatenate([block.step for block in blocks]),
        reference=np.concatenate([block.reference for block in blocks]),
        spread=np.concatenate([block.spread for block in blocks]),
        hold=np.concatenate([block.hold * worth for block, worth in zip(blocks, worths, strict=True)]),
        rooms=rooms,
        room=np.concatenate([*(block.room for block in blocks), in_pots]),
        normals=normals(nutrients, above, below, rooms),
        above=above,
        below=below,
        is_aimed=np.concatenate([block.is_aimed for block in blocks]),
    )


def _short(demands: Sequence[Demand], portions: Sequence[Portions], there_is: Sequence[float]) -> set[int]:
    """Places of the pots of which the free cells would take more than there is."""
    short = set()
    for index, have in enumerate(there_is):
        taken = math.fsum(d.count * p.grams[index] for d, p in zip(demands, portions, strict=True))
        from_free = any(
            d.count and d.container.cells[index].fixed_g is None and p.grams[index] > 0
            for d, p in zip(demands, portions, strict=True)
        )
        if taken > have + _GRAM and from_free:
            short.add(index)
    return short


def _allotted(demands: Sequence[Demand], joint: list[Vector], index: int, have: float) -> list[float]:
    """Whole steps of one pot for each container, from its share in the joint problem.

    Every container gets the steps that lie inside its share; what is over goes to those that lost most by it.
    """
    grams_each, lost = [], []
    for demand, grams in zip(demands, joint, strict=True):
        cell = demand.container.cells[index]
        step = demand.container.step_of(cell)
        share = float(grams[index])
        whole = share if cell.fixed_g is not None else math.floor(share / step + 1e-6) * step
        grams_each.append(whole)
        lost.append(0.0 if cell.fixed_g is not None or demand.count == 0 else (share - whole) / step)
    over = have - math.fsum(d.count * g for d, g in zip(demands, grams_each, strict=True))
    for n in sorted(range(len(demands)), key=lambda n: -lost[n]):
        step = demands[n].container.step_of(demands[n].container.cells[index])
        if lost[n] > 1e-3 and demands[n].count * step <= over + _GRAM:
            grams_each[n] += step
            over -= demands[n].count * step
    return grams_each


def _joint(demands: Sequence[Demand], there_is: Sequence[float]) -> list[Vector]:
    """Continuous grams [g] of every cell of every container, with the misses weighed over all of them.

    Minimises `Σ n v (Σ w (e/σ)² + ω (Σ w ((Ax - T)/σ)² + μ Σ ((x - r)/d)²))` over the bands widened by e, the
    bounds, the capacities, and `Σ n x ≤ S` for each pot.
    """
    blocks = [relaxed(demand.container) for demand in demands]
    known_rows: dict[int, Vector] = {}
    parts = [_block(block, demand, known_rows) for block, demand in zip(blocks, demands, strict=True)]
    starts = np.cumsum([0, *(part.width for part in parts)])
    conditions = [_diagonal([part.rows for part in parts])]
    limits = [part.limits for part in parts]
    for index, have in enumerate(there_is):
        if math.isfinite(have):
            row, limit = _pot_row(index, have, demands, blocks, starts)
            conditions.append(row)
            limits.append(np.array([limit]))
    upper = sparse.triu(_diagonal([part.quadratic for part in parts]), format="csc")
    linear = np.concatenate([part.linear for part in parts])
    solution = conic(upper, linear, sparse.vstack(conditions, format="csc"), np.concatenate(limits))
    return [
        np.array(block.whole(np.clip(solution[start : start + len(block.indices)], block.low, block.high)))
        for block, start in zip(blocks, starts, strict=False)
    ]


def _diagonal(blocks: Sequence[Vector]) -> sparse.csr_matrix[np.float64]:
    """Dense blocks along the diagonal; scipy's own way through one matrix object per block takes ten times as long."""
    heights = np.array([block.shape[0] for block in blocks])
    widths = np.array([block.shape[1] for block in blocks])
    tops, lefts = np.cumsum(heights) - heights, np.cumsum(widths) - widths
    rows = np.concatenate([np.repeat(np.arange(h), w) + top for h, w, top in zip(heights, widths, tops, strict=True)])
    columns = np.concatenate([np.tile(np.arange(w), h) + at for h, w, at in zip(heights, widths, lefts, strict=True)])
    values = np.concatenate([block.ravel() for block in blocks])
    used = values != 0
    shape = (int(heights.sum()), int(widths.sum()))
    return sparse.csr_matrix((values[used], (rows[used], columns[used])), shape=shape)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Block:
    """The part of the joint problem that belongs to one demand, over its grams x and misses e."""

    quadratic: Vector
    linear: Vector
    rows: Vector
    limits: Vector

    @property
    def width(self) -> int:
        return len(self.linear)


def _block(problem: Relaxed, demand: Demand, known_rows: dict[int, Vector]) -> _Block:
    m, n = problem.nutrients.shape
    near, toward = nearness(problem)
    worth = max(demand.count, 0.01) * _fair_weight(demand.container)
    quadratic = np.zeros((n + m, n + m))
    quadratic[:n, :n] = 2 * worth * _NEARNESS * near
    quadratic.flat[n * (n + m + 1) :: n + m + 1] = 2 * worth * problem.priority / problem.scale**2
    bands = int(problem.above.sum() + problem.below.sum())
    # Containers of the same components have the same conditions, with other right sides.
    rows = known_rows.get(id(problem.normals))
    if rows is None:
        rows = np.zeros((len(problem.normals) + m, n + m))
        rows[: len(problem.normals), :n] = -problem.normals
        rows[:bands, n:] = -np.vstack([np.eye(m)[problem.above], np.eye(m)[problem.below]])
        rows[len(problem.normals) :, n:] = -np.eye(m)
        known_rows[id(problem.normals)] = rows
    floors = problem.floors(0.0)
    floors[bands + 2 * n :] = np.minimum(floors[bands + 2 * n :], problem.normals[bands + 2 * n :] @ problem.low)
    return _Block(
        quadratic=quadratic,
        linear=np.concatenate([-2 * worth * _NEARNESS * toward, np.zeros(m)]),
        rows=rows,
        limits=np.concatenate([-floors, np.zeros(m)]),
    )


def _fair_weight(container: Container) -> float:
    """The weight v of a container's miss beside the others', so that a shortfall costs all the same.

    With a price on the gram, the least `Σ n v w (e / σ)²` has e in proportion to σ² / v. With v = σ² / T all miss
    the same share of their targets. σ and T are taken over all aims, as multiples of the usual ones.
    """
    usual = Tolerance()
    aims = [aim for aim in container.aims if aim.centre is not None]
    whole = math.fsum(aim.priority for aim in aims)
    tolerance = math.fsum(aim.priority * aim.scale / usual[aim.nutrient] for aim in aims) / whole
    target = math.fsum(aim.priority * (aim.centre or 0.0) / _USUAL_TARGET[aim.nutrient] for aim in aims) / whole
    return tolerance**2 / max(target, 0.05)


def _without_lows(demands: Sequence[Demand], there_is: Sequence[float]) -> list[Demand]:
    """The demands without the least amounts of the pots that do not hold them for all."""
    dropped = {
        index
        for index, have in enumerate(there_is)
        if math.fsum(d.count * _least(d.container, index) for d in demands)
        > max(have - _taken_in_any_case(demands, index, least=False), 0.0) + _GRAM
    }
    if not dropped:
        return list(demands)
    found = []
    for demand in demands:
        cells = tuple(
            replace(cell, minimum_g=0.0) if index in dropped and cell.fixed_g is None else cell
            for index, cell in enumerate(demand.container.cells)
        )
        found.append(replace(demand, container=replace(demand.container, cells=cells)))
    return found


def _least(container: Container, index: int) -> float:
    """The least of a cell [g] that is not fixed."""
    cell = container.cells[index]
    return 0.0 if cell.fixed_g is not None else step_bounds(cell, container.step_of(cell))[0]


def _pot_row(
    index: int, have: float, demands: Sequence[Demand], blocks: Sequence[Relaxed], starts: Vector
) -> tuple[sparse.csr_matrix[np.float64], float]:
    """`Σ n x ≤ S - Σ n fixed` for one pot."""
    columns, values = [], []
    fixed = 0.0
    for demand, block, start in zip(demands, blocks, starts, strict=False):
        if index in block.indices:
            at = block.indices.index(index)
            columns.append(int(start) + at)
            values.append(float(demand.count))
        else:
            fixed += demand.count * float(block.fixed[index])
    row = sparse.csr_matrix((values, ([0] * len(columns), columns)), shape=(1, int(starts[-1])))
    return row, max(have - fixed, 0.0)
