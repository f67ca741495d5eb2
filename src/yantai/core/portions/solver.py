"""The portion solver for one container.

With x the grams of the free cells, A their nutrients per gram, T the target, τ the tolerance, w the
priorities, r the recipe's own proportions scaled to the target, and d = max(r, 20 g):

    minimise   Σ w ((A x - T) / σ)²  +  μ Σ ((x - r) / d)²         σ = max(τ, 1 g or 10 kcal)
    such that  |A x - T| ≤ τ + e*,   l ≤ x ≤ u,   Σ x / ρ ≤ capacity

where e* = 0 when some x meets every tolerance, else the least weighted miss `min Σ w (e / σ)²`.
Both problems are convex and the first is strictly so: one answer, which moves steadily with the data.
The grams are then put on the scale's steps: first the neighbours of x, and when none of them keeps
the tolerances although x does, an exact integer search.
"""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass
from functools import cache

import clarabel
import numpy as np
from numpy.typing import NDArray
from scipy import optimize, sparse

from yantai.core.nutrients import NUTRIENTS, Nutrient
from yantai.core.portions.problem import MISS_NOISE, Cell, Container, Portions, portions

Vector = NDArray[np.float64]

PROPORTION_WEIGHT = 0.01
"""μ: small enough that a plate is off its recipe before it is a tenth of a tolerance off its target."""

SMALLEST_SHARE_G = 20.0
"""d at least this [g], so that a spoon of sauce is not held as hard as the main part of the plate."""

_NEIGHBOUR_OFFSETS = (0, 1, -1, 2)
_MOST_NEIGHBOURS = 20_000


def solve(container: Container) -> Portions:
    """Grams of each cell that meet the container's target, or come as near as its limits allow.

    Cells on a bound, pinned or left out are respected always. Bounds that are not on a scale step are
    rounded inwards; where no step lies between them, the lower bound itself is taken.
    """
    free = [place for place, cell in enumerate(container.cells) if cell.fixed_g is None]
    grams = [cell.fixed_g or 0.0 for cell in container.cells]
    if free:
        for place, value in zip(free, _free_grams(container, free, np.array(grams)), strict=True):
            grams[place] = float(value)
    return portions(container, tuple(grams))


@dataclass(frozen=True, slots=True, kw_only=True)
class _Matrices:
    """The container as arrays over its free cells: n cells, m aims, volumes in ml."""

    nutrients: Vector  # (m, n) per gram
    target: Vector  # (m,) less what the fixed cells bring
    tolerance: Vector  # (m,)
    scale: Vector  # (m,) σ
    priority: Vector  # (m,)
    low: Vector  # (n,)
    high: Vector  # (n,)
    reference: Vector  # (n,) r
    spread: Vector  # (n,) d
    volume: Vector  # (n,) ml per gram
    capacity_ml: float

    def objective(self, grams: Vector) -> Vector:
        """The objective of each row of `grams` (k, n)."""
        off = (grams @ self.nutrients.T - self.target) / self.scale
        away = (grams - self.reference) / self.spread
        return np.asarray((self.priority * off**2).sum(axis=1) + PROPORTION_WEIGHT * (away**2).sum(axis=1))

    def miss(self, grams: Vector) -> Vector:
        """The weighted miss `Σ w (e / σ)²` of each row of `grams` (k, n)."""
        off = np.abs(grams @ self.nutrients.T - self.target)
        beyond = np.maximum(off - self.tolerance - MISS_NOISE, 0.0) / self.scale
        return np.asarray((self.priority * beyond**2).sum(axis=1))


def _free_grams(container: Container, free: list[int], fixed: Vector) -> Vector:
    cells = [container.cells[place] for place in free]
    step = container.step_g
    low, high = _step_bounds(cells, step)
    problem = _matrices(container, cells, fixed, low, high)
    if problem.volume @ low >= problem.capacity_ml:
        return low
    grams = _nearest(problem, np.zeros_like(problem.target))
    if grams is not None:
        return _on_steps(problem, grams, step, feasible=True)
    relaxed = _nearest(problem, _least_excess(problem))
    assert relaxed is not None, "a problem relaxed by its own least miss has a solution"
    return _on_steps(problem, relaxed, step, feasible=False)


def _step_bounds(cells: list[Cell], step: float) -> tuple[Vector, Vector]:
    low = np.array([math.ceil(cell.minimum_g / step - 1e-9) * step for cell in cells])
    high = np.array([math.floor(cell.maximum_g / step + 1e-9) * step for cell in cells])
    between_steps = low > high
    minimum = np.array([cell.minimum_g for cell in cells])
    return np.where(between_steps, minimum, low), np.where(between_steps, minimum, high)


def _matrices(container: Container, cells: list[Cell], fixed: Vector, low: Vector, high: Vector) -> _Matrices:
    aims = container.aims
    places = [NUTRIENTS.index(aim.nutrient) for aim in aims]
    per_gram = np.array([cell.per_100g.known for cell in container.cells]).T[places] / 100
    nutrients = per_gram[:, [cell.fixed_g is None for cell in container.cells]]
    target = np.array([aim.target for aim in aims]) - per_gram @ fixed
    tolerance = np.array([aim.tolerance for aim in aims])
    floor = np.array([10.0 if aim.nutrient is Nutrient.KCAL else 1.0 for aim in aims])
    scale = np.maximum(tolerance, floor)
    priority = np.array([aim.priority for aim in aims])
    share = np.array([cell.share for cell in cells])
    # The recipe's mix, made as large as comes closest to the target: linear in the target, so steady.
    mix = nutrients @ share
    weight = priority / scale**2
    size = float((weight * mix) @ target) / max(float((weight * mix) @ mix), 1e-12)
    reference = np.clip(share * max(size, 0.0), low, high)
    every_volume = np.array([1 / cell.density_g_per_ml for cell in container.cells])
    capacity = math.inf if container.capacity_ml is None else container.capacity_ml - float(every_volume @ fixed)
    return _Matrices(
        nutrients=nutrients,
        target=target,
        tolerance=tolerance,
        scale=scale,
        priority=priority,
        low=low,
        high=high,
        reference=reference,
        spread=np.maximum(reference, SMALLEST_SHARE_G),
        volume=np.array([1 / cell.density_g_per_ml for cell in cells]),
        capacity_ml=capacity,
    )


def _nearest(problem: _Matrices, excess: Vector) -> Vector | None:
    """The strictly convex problem with the bands widened by `excess`; None when no point is inside."""
    n = len(problem.low)
    weighted = problem.nutrients * (np.sqrt(problem.priority) / problem.scale)[:, None]
    aimed = problem.target * np.sqrt(problem.priority) / problem.scale
    quadratic = 2 * (weighted.T @ weighted + np.diag(PROPORTION_WEIGHT / problem.spread**2))
    linear = -2 * (weighted.T @ aimed + PROPORTION_WEIGHT * problem.reference / problem.spread**2)
    half_width = problem.tolerance + excess + MISS_NOISE / 2
    rows = np.vstack([problem.nutrients, -problem.nutrients, *_box_rows(problem, n)])
    limits = np.concatenate([problem.target + half_width, half_width - problem.target, *_box_limits(problem)])
    return _quadratic_program(quadratic, linear, rows, limits)


def _least_excess(problem: _Matrices) -> Vector:
    """The miss e* of each aim [g, kcal] beyond its tolerance, least in the weighted sum of squares."""
    m, n = problem.nutrients.shape
    quadratic = np.diag(np.concatenate([np.zeros(n), 2 * problem.priority / problem.scale**2]))
    eye, none = np.eye(m), np.zeros((m, n))
    box = [np.hstack([row, np.zeros((len(row), m))]) for row in _box_rows(problem, n)]
    rows = np.vstack(
        [
            np.hstack([problem.nutrients, -eye]),
            np.hstack([-problem.nutrients, -eye]),
            np.hstack([none, -eye]),
            *box,
        ]
    )
    limits = np.concatenate(
        [
            problem.target + problem.tolerance,
            problem.tolerance - problem.target,
            np.zeros(m),
            *_box_limits(problem),
        ]
    )
    solution = _quadratic_program(quadratic, np.zeros(n + m), rows, limits)
    assert solution is not None, "bounds and capacity were checked to leave room"
    return np.maximum(solution[n:], 0.0)


def _box_rows(problem: _Matrices, n: int) -> list[Vector]:
    eye = np.eye(n)
    rows = [eye, -eye]
    return rows if math.isinf(problem.capacity_ml) else [*rows, problem.volume[None, :]]


def _box_limits(problem: _Matrices) -> list[Vector]:
    limits = [problem.high, -problem.low]
    return limits if math.isinf(problem.capacity_ml) else [*limits, np.array([problem.capacity_ml])]


def _quadratic_program(quadratic: Vector, linear: Vector, rows: Vector, limits: Vector) -> Vector | None:
    """Minimise ½ xᵀQx + qᵀx such that `rows @ x ≤ limits`; None when there is no such x."""
    settings = clarabel.DefaultSettings()
    settings.verbose = False
    solver = clarabel.DefaultSolver(
        _columns(np.triu(quadratic)),
        linear,
        _columns(rows),
        limits,
        [clarabel.NonnegativeConeT(len(limits))],
        settings,
    )
    solution = solver.solve()
    if solution.status in (clarabel.SolverStatus.Solved, clarabel.SolverStatus.AlmostSolved):
        return np.array(solution.x)
    return None


def _columns(dense: Vector) -> sparse.csc_matrix[np.float64]:
    """A small dense matrix in the solver's format; scipy's own conversion takes longer than the solve."""
    rows, starts = _dense_pattern(*dense.shape)
    return sparse.csc_matrix((dense.T.ravel(), rows, starts), shape=dense.shape)


@cache
def _dense_pattern(height: int, width: int) -> tuple[NDArray[np.int32], NDArray[np.int32]]:
    """Row indices and column starts of a matrix without zeros."""
    rows = np.tile(np.arange(height, dtype=np.int32), width)
    return rows, np.arange(width + 1, dtype=np.int32) * np.int32(height)


def _on_steps(problem: _Matrices, grams: Vector, step: float, *, feasible: bool) -> Vector:
    candidates = _neighbours(problem, np.clip(grams, problem.low, problem.high), step)
    miss = problem.miss(candidates)
    least = miss.min()
    if least > 0 and feasible:
        exact = _integer_search(problem, step)
        if exact is not None:
            candidates = np.vstack([candidates, exact[None, :]])
            miss = problem.miss(candidates)
            least = miss.min()
    tied = candidates[miss <= least + 1e-9]
    return np.asarray(tied[problem.objective(tied).argmin()])


@cache
def _offset_grid(n: int) -> Vector:
    """Every combination of steps away, as rows (k, n); fewer per cell the more cells there are."""
    width = next((width for width in (4, 3, 2) if width**n <= _MOST_NEIGHBOURS), 1)
    return np.array(list(itertools.product(_NEIGHBOUR_OFFSETS[:width], repeat=n)), dtype=float)


def _neighbours(problem: _Matrices, grams: Vector, step: float) -> Vector:
    """Points on the scale's steps round `grams`, inside the bounds and the capacity, as rows (k, n)."""
    n = len(grams)
    points = np.clip((np.floor(grams / step + 1e-7) + _offset_grid(n)) * step, problem.low, problem.high)
    inside = points[points @ problem.volume <= problem.capacity_ml + 1e-9]
    return inside if len(inside) else problem.low[None, :]


def _integer_search(problem: _Matrices, step: float) -> Vector | None:
    """The steps with the least `Σ w e / σ`, by branch and bound (HiGHS); None when it finds none."""
    m, n = problem.nutrients.shape
    whole = problem.high - problem.low > step / 2
    cost = np.concatenate([np.zeros(n), problem.priority / problem.scale])
    # x = low + step * k: whole numbers k, and the miss e as continuous variables.
    in_steps = problem.nutrients * step
    start = problem.nutrients @ problem.low
    eye = np.eye(m)
    rows = np.vstack([np.hstack([in_steps, -eye]), np.hstack([-in_steps, -eye])])
    limits = np.concatenate([problem.target - start, start - problem.target]) + np.tile(problem.tolerance, 2)
    if not math.isinf(problem.capacity_ml):
        rows = np.vstack([rows, np.concatenate([problem.volume * step, np.zeros(m)])])
        limits = np.append(limits, problem.capacity_ml - problem.volume @ problem.low)
    answer = optimize.milp(
        cost,
        integrality=np.concatenate([whole.astype(float), np.zeros(m)]),
        bounds=optimize.Bounds(
            np.zeros(n + m),
            np.concatenate([np.round((problem.high - problem.low) / step), np.full(m, np.inf)]),
        ),
        constraints=optimize.LinearConstraint(rows, -np.inf, limits),
        options={"mip_rel_gap": 1e-6, "node_limit": 2000},
    )
    if answer.x is None:
        return None
    return np.asarray(problem.low + step * np.round(answer.x[:n]))
