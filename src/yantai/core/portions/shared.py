"""All containers of a batch from the same pots (docs/engine.md, section 4)."""

from __future__ import annotations

import itertools
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
    spread: bool = False,
    search: bool = True,
) -> tuple[Portions, ...]:
    """Grams of every container, of each demand one, in order.

    `supply_g` is the cooked weight there is in each pot [g], None while it is not cooked yet: the containers together
    never take more, but for what is pinned. With `spread` what the pots have left over goes into the containers as far
    as their bands allow. Containers that have no pot in common are solved apart. Without `search` whole steps are the
    rounded shares of the joint answer also in a small batch: quicker, and steadier when a pot has a gram less.

    Raises:
        CoreError: a container has another number of cells than it says pots for.
    """
    for number, demand in enumerate(demands):
        told = len(supply_g) if demand.draws is None else len(demand.draws)
        if len(demand.container.cells) != told:
            raise CoreError(
                f"container {number + 1} has {len(demand.container.cells)} cells for {told} components",
                field="cells",
            )
    there_is = [math.inf if grams is None else grams for grams in supply_g]
    found: dict[int, Portions] = {}
    for linked in _linked(demands, there_is):
        answers = _solve_linked([demands[n] for n in linked], there_is, sharing=sharing, spread=spread, search=search)
        found |= dict(zip(linked, answers, strict=True))
    return tuple(found[n] for n in range(len(demands)))


def _linked(demands: Sequence[Demand], there_is: Sequence[float]) -> list[list[int]]:
    """Places of the demands that have a pot of known amount in common, be it through others."""
    pairs = [
        (n, len(demands) + pot)
        for n, demand in enumerate(demands)
        for pot in demand.from_pot
        if math.isfinite(there_is[pot])
    ]
    size = len(demands) + len(there_is)
    rows, columns = np.array(pairs, dtype=int).reshape(-1, 2).T
    links = sparse.coo_matrix((np.ones(len(pairs)), (rows, columns)), shape=(size, size))
    _, labels = sparse.csgraph.connected_components(links, directed=False)
    together: dict[int, list[int]] = {}
    for n in range(len(demands)):
        together.setdefault(int(labels[n]), []).append(n)
    return list(together.values())


def _solve_linked(
    demands: Sequence[Demand], supply_g: Sequence[float], *, sharing: Sharing, spread: bool, search: bool
) -> Sequence[Portions]:
    found: dict[int, Portions] = {}
    left = list(supply_g)
    # Least amounts of all come before what the first in rank would like, where the pot holds them.
    held = [_taken_in_any_case(demands, pot, least=True) <= grams + _GRAM for pot, grams in enumerate(left)]
    ranks = sorted({demand.rank for demand in demands}) if sharing is Sharing.RANKED else [None]
    for rank in ranks:
        turn = [n for n, demand in enumerate(demands) if rank is None or demand.rank == rank]
        later = [demand for n, demand in enumerate(demands) if n not in found and n not in turn]
        there_is = [
            grams if math.isinf(grams) else max(grams - _taken_in_any_case(later, pot, least=held[pot]), 0.0)
            for pot, grams in enumerate(left)
        ]
        for n, portion in zip(turn, _shared([demands[n] for n in turn], there_is, search=search), strict=True):
            found[n] = portion
            for pot in demands[n].from_pot:
                left[pot] -= demands[n].count * demands[n].taken_g(pot, portion.grams)
    shared = [found[n] for n in range(len(demands))]
    surplus = {pot for pot, grams in enumerate(left) if spread and math.isfinite(grams) and grams > _GRAM}
    return spread_out(demands, shared, left, surplus) if surplus else shared


def _taken_in_any_case(demands: Sequence[Demand], pot: int, *, least: bool) -> float:
    """What containers take of a pot whatever happens [g]: pins, set amounts, and with `least` their least amounts."""
    return math.fsum(
        demand.count
        * share
        * ((demand.container.cells[index].fixed_g or 0.0) + (_least(demand.container, index) if least else 0.0))
        for demand in demands
        for index, share in demand.from_pot.get(pot, ())
    )


def _shared(demands: Sequence[Demand], there_is: Sequence[float], *, search: bool) -> list[Portions]:
    """Portions of one rank. While nothing is short each container is its own problem."""
    alone = [solve(demand.container) for demand in demands]
    short = _short(demands, alone, there_is)
    if not short:
        return alone
    demands = _without_lows(demands, there_is)
    joint = _joint(demands, there_is)
    limited = short | _used_up(demands, joint, there_is)
    while True:
        shared = _within_all(demands, _allotted_all(demands, joint, limited, there_is))
        more = _short(demands, shared, there_is) - limited
        if not more:
            break
        limited |= more
    return _improved(demands, there_is, joint, shared, limited) if search else shared


def _used_up(demands: Sequence[Demand], joint: Sequence[Vector], there_is: Sequence[float]) -> set[int]:
    """Places of the pots that the joint answer empties but for a step of each container."""
    found = set()
    for pot, have in enumerate(there_is):
        if not math.isfinite(have):
            continue
        taken = math.fsum(d.count * d.taken_g(pot, grams.tolist()) for d, grams in zip(demands, joint, strict=True))
        steps = math.fsum(
            d.count * share * d.container.step_of(d.container.cells[index])
            for d in demands
            for index, share in d.from_pot.get(pot, ())
        )
        if taken > have - min(steps, 0.01 * have):
            found.add(pot)
    return found


Ceilings = Sequence[Mapping[int, float]]
"""The most of some cells of each demand [g], by the place of the cell."""


def _allotted_all(
    demands: Sequence[Demand], joint: Sequence[Vector], limited: set[int], there_is: Sequence[float]
) -> Ceilings:
    """The share of the limited pots that each cell gets; of a cell that takes from several, the least of them."""
    ceilings: list[dict[int, float]] = [{} for _ in demands]
    for pot in sorted(limited):
        for (n, index), grams in _allotted(demands, joint, pot, there_is[pot]).items():
            ceilings[n][index] = min(grams, ceilings[n].get(index, math.inf))
    return ceilings


def _within_all(demands: Sequence[Demand], ceilings: Ceilings) -> list[Portions]:
    return [_within(demand, most) for demand, most in zip(demands, ceilings, strict=True)]


def _within(demand: Demand, ceilings: Mapping[int, float]) -> Portions:
    """The container solved with its allotment of the shared pots as its most."""
    if demand.count == 0:
        return solve(demand.container)
    shares = [ceilings.get(index, math.inf) for index in range(len(demand.container.cells))]
    return solve(replace(demand.container, shares_g=tuple(shares)))


def _improved(
    demands: Sequence[Demand],
    there_is: Sequence[float],
    joint: Sequence[Vector],
    shared: list[Portions],
    limited: set[int],
) -> list[Portions]:
    """Where whole steps cost more than the continuous answer, all steps of a small batch are searched together.

    The search knows misses only, so its answer binds what is short; where a pot would then be, it binds all.
    """
    if sum(len(demand.container.cells) for demand in demands) > _MOST_SEARCHED:
        return shared
    stacked = _stacked(demands, there_is)
    if not has_room(stacked):
        return shared
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
    starts = _starts(demands)
    answer = shared
    for binding in (limited, {pot for pot, have in enumerate(there_is) if math.isfinite(have)}):
        ceilings = [
            {index: grams[start + index] for index, draws in demand.cells if any(pot in binding for pot, _ in draws)}
            for demand, start in zip(demands, starts, strict=True)
        ]
        answer = _within_all(demands, ceilings)
        if not _short(demands, answer, there_is):
            break
    return answer


def _starts(demands: Sequence[Demand]) -> list[int]:
    """The place of the first cell of each demand when all stand side by side."""
    return list(itertools.accumulate((len(demand.container.cells) for demand in demands[:-1]), initial=0))


def _stacked(demands: Sequence[Demand], there_is: Sequence[float]) -> Relaxed:
    """All containers as one: their cells side by side, the pots as capacities over all of them."""
    blocks = [relaxed(demand.container) for demand in demands]
    worths = [demand.count * _fair_weight(demand.container) for demand in demands]
    pots = [pot for pot, have in enumerate(there_is) if math.isfinite(have) and any(pot in d.from_pot for d in demands)]
    takes = []
    for demand, block in zip(demands, blocks, strict=True):
        of = np.zeros((len(pots), len(block.indices)))
        for row, pot in enumerate(pots):
            for index, share in demand.from_pot.get(pot, ()):
                if index in block.indices:
                    of[row, block.indices.index(index)] = demand.count * share
        takes.append(of)
    nutrients = block_diag(*(block.nutrients for block in blocks))
    above, below = (np.concatenate([getattr(block, side) for block in blocks]) for side in ("above", "below"))
    rooms = np.vstack([block_diag(*(block.rooms for block in blocks)), np.hstack(takes)])
    in_pots = np.array(
        [
            there_is[pot]
            - math.fsum(
                d.count * d.taken_g(pot, block.fixed.tolist()) for d, block in zip(demands, blocks, strict=True)
            )
            for pot in pots
        ]
    )
    return Relaxed(
        indices=tuple(
            start + index for start, block in zip(_starts(demands), blocks, strict=True) for index in block.indices
        ),
        fixed=np.concatenate([block.fixed for block in blocks]),
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
    for pot, have in enumerate(there_is):
        if not math.isfinite(have):
            continue
        taken = math.fsum(d.count * d.taken_g(pot, p.grams) for d, p in zip(demands, portions, strict=True))
        from_free = any(
            d.count and d.container.cells[index].fixed_g is None and p.grams[index] > 0
            for d, p in zip(demands, portions, strict=True)
            for index, _ in d.from_pot.get(pot, ())
        )
        if taken > have + _GRAM and from_free:
            short.add(pot)
    return short


def _allotted(
    demands: Sequence[Demand], joint: Sequence[Vector], pot: int, have: float
) -> dict[tuple[int, int], float]:
    """Whole steps of one pot for each cell that takes from it, from its share in the joint problem, by the places of
    demand and cell.

    Every cell gets the steps that lie inside its share; what is over goes to those that lost most by it.
    """
    found, lost, takes = {}, {}, {}
    for n, demand in enumerate(demands):
        for index, of_it in demand.from_pot.get(pot, ()):
            cell = demand.container.cells[index]
            step = demand.container.step_of(cell)
            share = float(joint[n][index])
            whole = share if cell.fixed_g is not None else math.floor(share / step + 1e-6) * step
            found[n, index] = whole
            lost[n, index] = 0.0 if cell.fixed_g is not None or demand.count == 0 else (share - whole) / step
            takes[n, index] = demand.count * of_it
    over = have - math.fsum(takes[at] * grams for at, grams in found.items())
    for at in sorted(found, key=lambda at: -lost[at]):
        step = demands[at[0]].container.step_of(demands[at[0]].container.cells[at[1]])
        if lost[at] > 1e-3 and takes[at] * step <= over + _GRAM:
            found[at] += step
            over -= takes[at] * step
    return found


def _joint(demands: Sequence[Demand], there_is: Sequence[float]) -> list[Vector]:
    """Continuous grams [g] of every cell of every container, with the misses weighed over all of them.

    Minimises `Σ n v (Σ w (e/σ)² + ω (Σ w ((Ax - T)/σ)² + μ Σ ((x - r)/d)²))` over the bands widened by e, the
    bounds, the capacities, and `Σ n a x ≤ S` for each pot.
    """
    blocks = [relaxed(demand.container) for demand in demands]
    known_rows: dict[int, Vector] = {}
    parts = [_block(block, demand, known_rows) for block, demand in zip(blocks, demands, strict=True)]
    starts = np.cumsum([0, *(part.width for part in parts)])
    conditions = [_diagonal([part.rows for part in parts])]
    limits = [part.limits for part in parts]
    for pot, have in enumerate(there_is):
        if math.isfinite(have) and any(pot in demand.from_pot for demand in demands):
            row, limit = _pot_row(pot, have, demands, blocks, starts)
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
    aims = [(aim, of) for aim in container.aims if aim.centre is not None and isinstance(of := aim.nutrient, Nutrient)]
    whole = math.fsum(aim.priority for aim, _ in aims)
    tolerance = math.fsum(aim.priority * aim.scale / usual[of] for aim, of in aims) / whole
    target = math.fsum(aim.priority * (aim.centre or 0.0) / _USUAL_TARGET[of] for aim, of in aims) / whole
    return tolerance**2 / max(target, 0.05)


def _without_lows(demands: Sequence[Demand], there_is: Sequence[float]) -> list[Demand]:
    """The demands without the least amounts of the pots that do not hold them for all."""
    dropped = {
        pot
        for pot, have in enumerate(there_is)
        if math.isfinite(have)
        and math.fsum(
            d.count * share * _least(d.container, index) for d in demands for index, share in d.from_pot.get(pot, ())
        )
        > max(have - _taken_in_any_case(demands, pot, least=False), 0.0) + _GRAM
    }
    if not dropped:
        return list(demands)
    found = []
    for demand in demands:
        from_dropped = {index for index, draws in demand.cells if any(pot in dropped for pot, _ in draws)}
        cells = tuple(
            replace(cell, minimum_g=0.0) if index in from_dropped and cell.fixed_g is None else cell
            for index, cell in enumerate(demand.container.cells)
        )
        found.append(replace(demand, container=replace(demand.container, cells=cells)))
    return found


def _least(container: Container, index: int) -> float:
    """The least of a cell [g] that is not fixed."""
    cell = container.cells[index]
    return 0.0 if cell.fixed_g is not None else step_bounds(cell, container.step_of(cell))[0]


def _pot_row(
    pot: int, have: float, demands: Sequence[Demand], blocks: Sequence[Relaxed], starts: Vector
) -> tuple[sparse.csr_matrix[np.float64], float]:
    """`Σ n a x ≤ S - Σ n a fixed` for one pot."""
    columns, values = [], []
    fixed = 0.0
    for demand, block, start in zip(demands, blocks, starts, strict=False):
        for index, share in demand.from_pot.get(pot, ()):
            if index in block.indices:
                columns.append(int(start) + block.indices.index(index))
                values.append(demand.count * share)
            else:
                fixed += demand.count * share * float(block.fixed[index])
    row = sparse.csr_matrix((values, ([0] * len(columns), columns)), shape=(1, int(starts[-1])))
    return row, max(have - fixed, 0.0)
