"""One container with its grams continuous: two small quadratic programmes (docs/engine.md, section 2)."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import daqp
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linprog

from yantai.core.portions.problem import HELD, MISS_COUNTS_FROM, MISS_NOISE, Cell, Container
from yantai.core.targets.targets import Held

Vector = NDArray[np.float64]
Mask = NDArray[np.bool_]

PROPORTION_WEIGHT = 0.2
"""μ: a cell must be off the recipe by its own weight before the plate is moved a twentieth of a tolerance."""

SMALLEST_SHARE_G = 20.0
"""d at least this [g], so that a spoon of sauce is not held as hard as the main part of the plate."""

_EXACT = {"primal_tol": 1e-8, "zero_tol": 1e-13, "pivot_tol": 1e-10, "sing_tol": 1e-13}
"""DAQP's tolerances. Its usual ones take the slight curvature that `_TIES` gives for none, and problems that have an
answer for those that have not."""
_ROOM_NOISE = 1e-6
_NO_BOUND = 1e30
_INFEASIBLE = -1
_NO_SLOPE = 1e-9
"""A condition whose longest coefficient is shorter is left as it is: a trace of a nutrient is none."""
_ROUND_IN_CIRCLES = -2
_NO_POINT = 2
"""Status of SciPy's `linprog` for an empty set."""

_TIES = (1e-7, 1e-6, 1e-5, 1e-4)
"""Weight of the recipe's proportions where only the miss counts: it picks one of equally good points. There always is
an answer; where the solver takes so slight a curvature for none, as in a full container, the next is tried."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Relaxed:
    """A container as arrays over its n free cells and m aims, less what the fixed cells bring.

    `normals` are all linear conditions on the grams, of which `floors` gives the right sides: the bands from below
    and from above, where they have that side, the bounds of the cells, and the capacities.
    """

    indices: tuple[int, ...]
    fixed: Vector  # (all cells,) grams of those that are not free, else 0
    nutrients: Vector  # (m, n) per gram
    low_aim: Vector  # (m,)
    high_aim: Vector  # (m,)
    centre: Vector  # (m,) NaN where there is none
    scale: Vector  # (m,) σ
    priority: Vector  # (m,) w
    low: Vector  # (n,) [g], on a step
    high: Vector  # (n,) [g], on a step
    step: Vector  # (n,) [g]
    reference: Vector  # (n,) r [g]
    spread: Vector  # (n,) d [g]
    hold: Vector  # (n,) μ
    rooms: Vector  # (c, n) what a gram takes of each capacity
    room: Vector  # (c,) what there is of it
    normals: Vector  # (r, n)
    above: Mask  # (m,) the band has a lower side
    below: Mask  # (m,) the band has an upper side
    is_aimed: Mask  # (m,) the aim has a centre

    def floors(self, beyond: Vector | float) -> Vector:
        """What `normals @ grams` must be at least, with the bands widened by `beyond` [g, kcal, mg]."""
        return np.concatenate(
            [
                (self.low_aim - beyond)[self.above],
                (-self.high_aim - beyond)[self.below],
                self.low,
                -self.high,
                # A container that the least of each just fills has an answer, whatever the last digit says.
                -self.room - _ROOM_NOISE,
            ]
        )

    def objective(self, grams: Vector) -> Vector:
        """The objective of each row of `grams` (k, n)."""
        aimed = self.is_aimed
        off = (grams @ self.nutrients[aimed].T - self.centre[aimed]) / self.scale[aimed]
        away = (grams - self.reference) / self.spread
        return np.asarray((self.priority[aimed] * off**2).sum(axis=1) + (self.hold * away**2).sum(axis=1))

    def miss(self, grams: Vector) -> Vector:
        """The weighted miss `Σ w (e / σ)²` of each row of `grams` (k, n)."""
        held = grams @ self.nutrients.T
        beyond = np.maximum(np.maximum(held - self.high_aim, self.low_aim - held) - MISS_COUNTS_FROM, 0.0) / self.scale
        return np.asarray((self.priority * beyond**2).sum(axis=1))

    def fits(self, grams: Vector) -> Mask:
        """Which rows of `grams` (k, n) the container has room for."""
        if not len(self.room):
            return np.ones(len(grams), dtype=bool)
        return np.asarray((grams @ self.rooms.T <= self.room + 1e-9).all(axis=1))

    def whole(self, grams: Vector) -> tuple[float, ...]:
        """Grams of every cell of the container, from those of the free ones."""
        every = self.fixed.copy()
        every[list(self.indices)] = grams
        return tuple(every.tolist())

    def with_fixed(self, indices: Mask, grams: Vector) -> Relaxed:
        """The same with some of the free cells (a mask over n) at `grams` [g]."""
        keep = ~indices
        brought = self.nutrients[:, ~keep] @ grams
        indices = np.array(self.indices)
        fixed = self.fixed.copy()
        fixed[indices[~keep]] = grams
        return replace(
            self,
            indices=tuple(indices[keep].tolist()),
            fixed=fixed,
            nutrients=self.nutrients[:, keep],
            low_aim=self.low_aim - brought,
            high_aim=self.high_aim - brought,
            centre=self.centre - brought,
            low=self.low[keep],
            high=self.high[keep],
            step=self.step[keep],
            reference=self.reference[keep],
            spread=self.spread[keep],
            hold=self.hold[keep],
            rooms=self.rooms[:, keep],
            room=self.room - self.rooms[:, ~keep] @ grams,
            normals=normals(self.nutrients[:, keep], self.above, self.below, self.rooms[:, keep]),
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Excess:
    """The least miss of a container.

    Attributes:
        beyond: e* of each aim [g, kcal, mg].
        weighted: `Σ w (e* / σ)²`, a lower bound for any grams whatever.
        price: (m,) rise of the weighted miss per unit more of each nutrient.
        room_price: (c,) fall of the weighted miss per unit of each capacity more.
        grams: (n,) a point where it is reached [g].
    """

    beyond: Vector
    weighted: float
    price: Vector
    room_price: Vector
    grams: Vector


def normals(nutrients: Vector, above: Mask, below: Mask, rooms: Vector) -> Vector:
    """The left sides of all conditions on the grams, in the order of `Relaxed.floors`."""
    eye = np.eye(nutrients.shape[1])
    return np.vstack([nutrients[above], -nutrients[below], eye, -eye, -rooms])


@dataclass(frozen=True, slots=True, kw_only=True)
class _Frame:
    """What containers have in common that differ only in their target: most of a batch."""

    indices: tuple[int, ...]
    fixed: Vector
    nutrients: Vector
    brought: Vector
    low: Vector
    high: Vector
    step: Vector
    share: Vector
    rooms: Vector
    used: Vector
    normals: Vector
    above: Mask
    below: Mask
    is_aimed: Mask
    hold: Vector


@lru_cache(maxsize=512)
def _frame(
    cells: tuple[Cell, ...],
    aims: tuple[tuple[Held, bool, bool, bool], ...],
    step_g: float,
    capacities: tuple[bool, bool],
) -> _Frame:
    """`aims` are nutrients with the sides they have (low, high, centre); `capacities` say which there are."""
    held = np.array([HELD.index(aim[0]) for aim in aims], dtype=int)
    per_gram = np.array([cell.held for cell in cells]).T[held] / 100
    steps = np.array([step_g if cell.step_g is None else cell.step_g for cell in cells])
    bounds = np.array([step_bounds(cell, step) for cell, step in zip(cells, steps, strict=True)])
    is_free = bounds[:, 1] > bounds[:, 0]
    fixed = np.where(is_free, 0.0, bounds[:, 0])
    takes = np.array([[1 / cell.density_g_per_ml, 1.0] if cell.fills else [0.0, 0.0] for cell in cells])
    takes = takes.T[list(capacities)]
    above, below, is_aimed = (np.array([aim[side] for aim in aims], dtype=bool) for side in (1, 2, 3))
    return _Frame(
        indices=tuple(np.flatnonzero(is_free).tolist()),
        fixed=fixed,
        nutrients=per_gram[:, is_free],
        brought=per_gram @ fixed,
        low=bounds[is_free, 0],
        high=bounds[is_free, 1],
        step=steps[is_free],
        share=np.array([cell.share for cell in cells])[is_free],
        rooms=takes[:, is_free],
        used=takes @ fixed,
        normals=normals(per_gram[:, is_free], above, below, takes[:, is_free]),
        above=above,
        below=below,
        is_aimed=is_aimed,
        hold=np.full(int(is_free.sum()), PROPORTION_WEIGHT),
    )


@lru_cache(maxsize=8192)
def relaxed(container: Container) -> Relaxed:
    """The arrays of a container. Bounds that are not on a step are rounded inwards; where no step lies between
    them the lower bound itself is taken, and the cell is no longer free."""
    aims = container.aims
    sides = tuple((a.nutrient, a.low > -math.inf, a.high < math.inf, a.centre is not None) for a in aims)
    capacities = [container.capacity_ml, container.capacity_g]
    frame = _frame(container.cells, sides, container.step_g, (capacities[0] is not None, capacities[1] is not None))
    each = [(a.low, a.high, math.nan if a.centre is None else a.centre, a.scale, a.priority) for a in aims]
    bands = np.array(each, dtype=float).reshape(-1, 5).T
    scale, priority = bands[3], bands[4]
    low_aim, high_aim, centre = bands[:3] - frame.brought
    weight = (priority / scale**2)[frame.is_aimed]
    # The recipe's mix, made as large as comes closest to the target: linear in the target, so steady.
    mix = (frame.nutrients @ frame.share)[frame.is_aimed]
    size = float((weight * mix) @ centre[frame.is_aimed]) / max(float((weight * mix) @ mix), 1e-12)
    room = np.array([c for c in capacities if c is not None], dtype=float) - frame.used
    # A mix larger than the container would be brought back by taking the most from what there is most of.
    for takes, holds in zip(frame.rooms @ frame.share, room, strict=True):
        size = min(size, max(float(holds), 0.0) / max(float(takes), 1e-12))
    low, high = frame.low, frame.high
    if container.shares_g is not None:
        shares = np.array(container.shares_g)[list(frame.indices)]
        low, high = np.minimum(low, shares), np.minimum(high, shares)
    reference = np.minimum(np.maximum(frame.share * max(size, 0.0), low), high)
    free = Relaxed(
        indices=frame.indices,
        fixed=frame.fixed,
        nutrients=frame.nutrients,
        low_aim=low_aim,
        high_aim=high_aim,
        centre=centre,
        scale=scale,
        priority=priority,
        low=low,
        high=high,
        step=frame.step,
        reference=reference,
        spread=np.maximum(reference, SMALLEST_SHARE_G),
        hold=frame.hold,
        rooms=frame.rooms,
        room=room,
        normals=frame.normals,
        above=frame.above,
        below=frame.below,
        is_aimed=frame.is_aimed,
    )
    stuck = high <= low
    return free.with_fixed(stuck, low[stuck]) if stuck.any() else free


def step_bounds(cell: Cell, step: float) -> tuple[float, float]:
    """Smallest and largest grams [g] of a cell on its steps; twice the smallest where no step lies between."""
    low, high = cell.bounds_g
    if low == high:
        return low, low
    first, last = math.ceil(low / step - 1e-9) * step, math.floor(high / step + 1e-9) * step
    return (first, last) if first <= last else (low, low)


def has_room(problem: Relaxed) -> bool:
    """Whether the least of every cell fits into the container."""
    return bool(problem.fits(problem.low[None, :])[0])


def nearest(problem: Relaxed, beyond: Vector | float = 0.0) -> Vector | None:
    """The one point nearest to target and recipe with the bands widened by `beyond`; None when none is inside."""
    quadratic, linear = nearness(problem)
    answer = programme(2 * quadratic, 2 * linear, problem.normals, problem.floors(beyond + MISS_NOISE / 2))
    return None if answer is None else np.minimum(np.maximum(answer[0], problem.low), problem.high)


def nearness(problem: Relaxed) -> tuple[Vector, Vector]:
    """Q and q of the objective `xᵀQx - 2 qᵀx` (and a constant): nearness to the target and to the recipe."""
    aimed = problem.is_aimed
    weight = np.sqrt(problem.priority[aimed]) / problem.scale[aimed]
    pull = problem.nutrients[aimed] * weight[:, None]
    to_recipe = problem.hold / problem.spread**2
    quadratic = pull.T @ pull
    quadratic.flat[:: len(to_recipe) + 1] += to_recipe
    return quadratic, (problem.centre[aimed] * weight) @ pull + to_recipe * problem.reference


def least_excess(problem: Relaxed) -> Excess:
    """The miss e* of each aim beyond its band, least in the weighted sum of squares, and its prices."""
    m, n = problem.nutrients.shape
    if n == 0:
        return _excess(problem, np.zeros(0), np.zeros(len(problem.room)))
    d, scale = problem.spread, problem.scale
    bands = int(problem.above.sum() + problem.below.sum())
    # Over y = x / d and f = e / σ, each of which is around one.
    units = np.concatenate([scale[problem.above], scale[problem.below], np.ones(len(problem.normals) - bands)])
    left = problem.normals * d / units[:, None]
    floors = problem.floors(0.0) / units
    misses = np.zeros((len(left), m))
    misses[:bands] = np.vstack([np.eye(m)[problem.above], np.eye(m)[problem.below]])
    rows = np.vstack([np.hstack([left, misses]), np.hstack([np.zeros((m, n)), np.eye(m)])])
    for tie in _TIES:
        quadratic = 2 * np.diag(np.concatenate([np.full(n, tie), problem.priority]))
        linear = np.concatenate([2 * tie * problem.reference / d, np.zeros(m)])
        answer = programme(quadratic, linear, rows, np.concatenate([floors, np.zeros(m)]))
        if answer is not None:
            break
    assert answer is not None, "bounds and capacity were checked to leave room"
    solution, multipliers = answer
    grams = np.minimum(np.maximum(solution[:n] * d, problem.low), problem.high)
    capacities = len(problem.room)
    return _excess(problem, grams, multipliers[len(left) - capacities : len(left)])


def _excess(problem: Relaxed, grams: Vector, room_price: Vector) -> Excess:
    held = problem.nutrients @ grams
    over, under = held - problem.high_aim, problem.low_aim - held
    beyond = np.maximum(np.maximum(over, under), 0.0)
    # At the least of a weighted sum of squares the multiplier of each band is the square's own slope.
    price = 2 * problem.priority * beyond / problem.scale**2 * np.where(over > under, 1.0, -1.0)
    weighted = float(problem.priority @ (np.maximum(beyond - MISS_NOISE, 0.0) / problem.scale) ** 2)
    return Excess(beyond=beyond, weighted=weighted, price=price, room_price=room_price, grams=grams)


def programme(quadratic: Vector, linear: Vector, normals: Vector, least: Vector) -> tuple[Vector, Vector] | None:
    """Minimise `½ yᵀQy - qᵀy` such that `normals @ y ≥ least`, with the multipliers; None when there is no y."""
    # Conditions of one size: beside others a thousand times as long the solver goes round in circles.
    size = np.abs(normals).max(axis=1, initial=0.0)
    size[size < _NO_SLOPE] = 1.0
    rows, floors = normals / size[:, None], least / size
    for tolerances in (_EXACT, {}):
        y, _, exit_flag, info = daqp.solve(
            quadratic, -linear, rows, np.full(len(least), _NO_BOUND), floors, **tolerances
        )
        if exit_flag != _ROUND_IN_CIRCLES:
            break
        # So it does where there is next to no room, or just none; which of the two is a linear question.
        if linprog(np.zeros(len(linear)), A_ub=-rows, b_ub=-floors, bounds=(None, None)).status == _NO_POINT:
            return None
    if exit_flag == _INFEASIBLE:
        return None
    if exit_flag < 0:
        raise ArithmeticError(f"a container could not be solved: DAQP ended with {exit_flag}")
    # DAQP's multipliers of lower bounds are negative.
    return y, -info["lam"] / size
