"""From continuous grams to what a scale, a count or a scoop can give (docs/engine.md, section 3)."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from functools import cache

import numpy as np

from yantai.core.portions.problem import MISS_NOISE
from yantai.core.portions.relaxed import Excess, Mask, Relaxed, Vector, least_excess, nearest
from yantai.core.portions.whole import WholeProgramme, solve_whole

COARSE_G = 25.0
"""Steps from here on [g], pieces and scoops mostly, are tried one by one with the rest solved anew."""

CERTAIN = 1.008
"""A miss up to this much above the least of the continuous problem is not searched any further."""

SLIGHT = 1e-4
"""A weighted miss up to this, a hundredth of one tolerance, is not searched for in what is out of reach anyway."""

_MOST_POINTS = 5_000
_MOST_COUNTS = 200
_SEARCH_CUTS = 12
_INWARD = (0.1, 0.3, 0.6, 0.9)
_NOTHING = 1e-24
"""A weighted miss up to this is the last bit of a float: the square of what `MISS_COUNTS_FROM` leaves open."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Stepped:
    """Grams [g] on the steps, with their weighted miss and objective; `least` is a bound no grams can beat."""

    grams: Vector
    miss: float
    objective: float
    least: float

    @property
    def rank(self) -> tuple[float, float]:
        """What is compared: the miss first, differences of arithmetic left out, then nearness."""
        return (0.0 if self.miss <= _NOTHING else self.miss, self.objective)


def on_steps(problem: Relaxed, excess: Excess | None, grams: Vector) -> Stepped:
    """The best point on the steps near `grams`, and where none near is good enough, of all there are.

    `excess` is the least miss of the continuous problem, None when it meets every band.
    """
    least = 0.0 if excess is None else excess.weighted
    coarse = problem.step >= COARSE_G
    found = _near(problem, grams, least) if not coarse.any() else _by_counts(problem, coarse, grams, least)
    if excess is None and found.miss > _NOTHING and not coarse.any():
        found = min([found, *_further_inside(problem)], key=lambda stepped: stepped.rank)
    if found.miss > CERTAIN * least + (_NOTHING if excess is None else SLIGHT):
        exact = least_on_steps(problem, found)
        if exact is not None:
            better = _evaluated(problem, _around(problem, exact, 1), found.least)
            found = min(found, better, key=lambda stepped: stepped.rank)
    return found


def _near(problem: Relaxed, grams: Vector, least: float) -> Stepped:
    """The best of the steps round `grams`: the two next to each, and when they miss, more."""
    found = _evaluated(problem, _around(problem, grams, 0), least)
    if found.miss > CERTAIN * least + _NOTHING:
        more = _evaluated(problem, _around(problem, grams, 1), least)
        found = min(found, more, key=lambda stepped: stepped.rank)
    return found


def _further_inside(problem: Relaxed) -> list[Stepped]:
    """Where the steps next to the answer leave a band: the ones next to a point further inside all bands.

    It comes before the search of all steps, whose answers may lie anywhere, because it keeps the plate what it was.
    """
    width = np.where(
        problem.above & problem.below,
        (problem.high_aim - problem.low_aim) / 2,
        problem.scale,
    )
    for share in _INWARD:
        inside = nearest(problem, -share * width)
        if inside is None:
            break
        found = _near(problem, inside, 0.0)
        if found.miss <= _NOTHING:
            return [found]
    return []


def _evaluated(problem: Relaxed, points: Vector, least: float) -> Stepped:
    """The best of some points that fit: the least miss, and of those that come close to it the nearest."""
    miss = problem.miss(points)
    lowest = float(miss.min())
    tied = miss <= lowest * 1.001 + _NOTHING
    objective = problem.objective(points[tied])
    chosen = int(objective.argmin())
    return Stepped(
        grams=points[tied][chosen], miss=float(miss[tied][chosen]), objective=float(objective[chosen]), least=least
    )


@cache
def _offsets(n: int, further: int) -> Vector:
    """Steps from the one below: 0 and 1, and with `further` also -1 and 2, as long as the points are few."""
    choices = (0, 1, -1, 2)[: 2 + 2 * further]
    while len(choices) > 1 and len(choices) ** n > _MOST_POINTS:
        choices = choices[:-1]
    return np.array(list(itertools.product(choices, repeat=n)), dtype=float).reshape(-1, n)


def _around(problem: Relaxed, grams: Vector, further: int) -> Vector:
    """Points on the steps round `grams`, inside the bounds and the capacity, as rows (k, n)."""
    n = len(grams)
    below = np.floor((grams - problem.low) / problem.step + 1e-7)
    points = problem.low + (below + _offsets(n, further)) * problem.step
    points = np.clip(points, problem.low, problem.high)
    inside = points[problem.fits(points)]
    return inside if len(inside) else problem.low[None, :]


def _by_counts(problem: Relaxed, coarse: Mask, grams: Vector, least: float) -> Stepped:
    """Every count of pieces and scoops near the continuous answer, the rest solved anew for each."""
    counted = []
    for counts in _counts(problem, coarse, grams):
        rest = problem.with_fixed(coarse, counts)
        if not rest.fits(rest.low[None, :])[0]:
            continue
        if not rest.indices:
            whole = np.where(coarse, 0.0, problem.low)
            whole[coarse] = counts
            counted.append(_evaluated(problem, whole[None, :], least))
            continue
        nearby = nearest(rest)
        excess = None
        if nearby is None:
            excess = least_excess(rest)
            nearby = nearest(rest, excess.beyond)
            nearby = excess.grams if nearby is None else nearby
        whole = np.empty(len(grams))
        whole[coarse], whole[~coarse] = counts, nearby
        bound = 0.0 if excess is None else excess.weighted
        counted.append(
            Stepped(grams=whole, miss=bound, objective=float(problem.objective(whole[None, :])[0]), least=least)
        )
    # The continuous answer of the rest bounds what its steps can reach, so the first that holds is the best.
    counted.sort(key=lambda stepped: stepped.rank)
    best: Stepped | None = None
    for candidate in counted:
        if best is not None and candidate.rank >= best.rank:
            break
        rest = problem.with_fixed(coarse, candidate.grams[coarse])
        if rest.indices:
            near = _near(rest, candidate.grams[~coarse], candidate.miss)
            whole = candidate.grams.copy()
            whole[~coarse] = near.grams
            candidate = _evaluated(problem, whole[None, :], least)
        best = candidate if best is None or candidate.rank < best.rank else best
    return best if best is not None else _evaluated(problem, problem.low[None, :], least)


def _counts(problem: Relaxed, coarse: Mask, grams: Vector) -> list[Vector]:
    """Grams of the coarse cells: all there are, or while those are too many the ones next to `grams`."""
    low, high, step = problem.low[coarse], problem.high[coarse], problem.step[coarse]
    most = np.round((high - low) / step)
    centre = (grams[coarse] - low) / step
    window = float(most.max(initial=0))
    while window > 1 and np.prod(np.minimum(most, 2 * window) + 1) > _MOST_COUNTS:
        window = window // 2
    ranges = [
        np.arange(max(np.floor(c) - window + 1, 0), min(np.floor(c) + window, m) + 1)
        for c, m in zip(centre, most, strict=True)
    ]
    return [low + np.array(counts) * step for counts in itertools.product(*ranges)]


def least_on_steps(problem: Relaxed, known: Stepped) -> Vector | None:
    """The steps with the least `Σ w (e / σ)²`, by branch and bound (HiGHS); None when none beats `known`.

    The squares are built from below by their tangents, one more at each point found, until the point's own
    miss agrees with the tangents.
    """
    m, n = problem.nutrients.shape
    # In units of the miss that is known, so that the solver's own tolerance is small beside it.
    unit = problem.scale * np.sqrt(known.miss)
    rows = problem.nutrients / unit[:, None]
    in_steps, start = rows * problem.step, rows @ problem.low
    above, below = problem.above, problem.below
    eye, none = np.eye(m), np.zeros((m, m))
    takes = problem.rooms * problem.step
    cost = np.concatenate([np.zeros(n + m), problem.priority])
    held = problem.nutrients @ known.grams
    known_f = np.maximum(np.maximum(held - problem.high_aim, problem.low_aim - held), 0.0) / unit
    tangents = [known_f * factor for factor in (0.5, 0.8, 1.0, 1.2, 1.5)]
    best: Vector | None = None
    lowest = 1.0
    for _ in range(_SEARCH_CUTS):
        # Columns: whole steps k (n), misses f in that unit (m), their squares t (m).
        blocks = [
            (
                np.hstack([in_steps, eye, none])[above],
                ((problem.low_aim - MISS_NOISE / 2) / unit - start)[above],
                np.full(above.sum(), np.inf),
            ),
            (
                np.hstack([in_steps, -eye, none])[below],
                np.full(below.sum(), -np.inf),
                ((problem.high_aim + MISS_NOISE / 2) / unit - start)[below],
            ),
            (
                np.hstack([takes, np.zeros((len(takes), 2 * m))]),
                np.full(len(takes), -np.inf),
                problem.room - problem.rooms @ problem.low,
            ),
            # f² ≥ 2 f₀ f - f₀² for every f₀.
            *((np.hstack([np.zeros((m, n)), np.diag(-2 * at), eye]), -(at**2), np.full(m, np.inf)) for at in tangents),
            # Only what beats the best so far is worth finding.
            (cost[None, :], np.array([-np.inf]), np.array([lowest / CERTAIN])),
        ]
        answer = solve_whole(
            WholeProgramme(
                cost=cost,
                is_whole=np.arange(n + 2 * m) < n,
                low=np.zeros(n + 2 * m),
                high=np.concatenate([np.round((problem.high - problem.low) / problem.step), np.full(2 * m, np.inf)]),
                rows=np.vstack([rows for rows, _, _ in blocks]),
                row_low=np.concatenate([low for _, low, _ in blocks]),
                row_high=np.concatenate([high for _, _, high in blocks]),
            )
        )
        if answer is None:
            break
        grams = problem.low + problem.step * np.round(answer[:n])
        miss = float(problem.miss(grams[None, :])[0]) / known.miss
        if miss < lowest and problem.fits(grams[None, :])[0]:
            best, lowest = grams, miss
        if lowest <= _NOTHING:
            break
        tangents.append(np.maximum(answer[n : n + m], 0.0))
    return best
