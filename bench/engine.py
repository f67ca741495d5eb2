"""The engine beside a general modelling layer and SLSQP on the same problems, in one run.

cvxpy is not among the application's packages: `uv pip install -r requirements/bench.lock`, then
PYTHONPATH=src:. python -m bench.engine
"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from random import Random
from typing import Any

import cvxpy as cp
import numpy as np
from scipy import optimize
from tests.core.examples import PLATE, food

from yantai.core.portions import Cell, Container, Demand, solve, solve_all
from yantai.core.portions.relaxed import Relaxed, Vector, nearest, relaxed
from yantai.core.targets.targets import Target, Tolerance

KINDS = [
    (food(27, 0, 8), 120),
    (food(4.4, 27.4, 0.5), 160),
    (food(1.9, 7, 0.3), 120),
    (food(6, 5, 6), 40),
    (food(7, 15, 1), 80),
    (food(12, 3, 9), 50),
]


@dataclass(frozen=True)
class Batch:
    """Demands and the cooked weight of each pot [g], None where it is not weighed."""

    demands: list[Demand]
    supply_g: list[float | None]


def batch(clients: int, *, supply: float | None, seed: int = 2) -> Batch:
    """Clients with targets of their own and six shared pots; `supply` is the share of what they would take."""
    rng = Random(seed)
    cells = tuple(Cell(per_100g=per_100g, share=share, maximum_g=400) for per_100g, share in KINDS)
    demands = [
        Demand(
            container=Container(
                cells=cells,
                target=Target(
                    protein_g=rng.uniform(25, 60), carbohydrate_g=rng.uniform(30, 80), fat_g=rng.uniform(8, 22)
                ),
                tolerance=Tolerance(),
            ),
            count=rng.randint(1, 3),
        )
        for _ in range(clients)
    ]
    if supply is None:
        return Batch(demands, [None] * len(KINDS))
    taken = solve_all(demands, [None] * len(KINDS))
    needs = [sum(d.count * p.grams[k] for d, p in zip(demands, taken, strict=True)) for k in range(len(KINDS))]
    return Batch(demands, [supply * need for need in needs])


def median_ms(work: Callable[[], object], times: int) -> float:
    taken = []
    for _ in range(times):
        started = time.perf_counter()
        work()
        taken.append((time.perf_counter() - started) * 1000)
    return statistics.median(taken)


def fresh(work: Callable[[], object]) -> Callable[[], object]:
    """The work without answers kept from before."""

    def run() -> object:
        solve.cache_clear()
        relaxed.cache_clear()
        return work()

    return run


def with_cvxpy(problems: Sequence[Relaxed], counts: Sequence[int], supply_g: Sequence[float | None]) -> Vector:
    """Least misses, then nearness, as two modelled problems over all containers at once; grams continuous."""
    xs = [cp.Variable(len(p.indices)) for p in problems]
    es = [cp.Variable(len(p.scale), nonneg=True) for p in problems]
    hard = []
    for p, x, e in zip(problems, xs, es, strict=True):
        held = p.nutrients @ x
        hard += [x >= p.low, x <= p.high, held <= p.high_aim + e, held >= p.low_aim - e]
    for k, have in enumerate(supply_g):
        if have is not None:
            hard.append(sum(n * x[k] for n, x in zip(counts, xs, strict=True)) <= have)
    miss = sum(
        n * cp.sum_squares(cp.multiply(np.sqrt(p.priority) / p.scale, e))
        for n, p, e in zip(counts, problems, es, strict=True)
    )
    cp.Problem(cp.Minimize(miss), hard).solve(solver=cp.CLARABEL)
    fixed = [e.value for e in es]
    near = sum(
        n * cp.sum_squares(cp.multiply(np.sqrt(p.priority) / p.scale, p.nutrients @ x - p.centre))
        + n * cp.sum_squares(cp.multiply(np.sqrt(p.hold) / p.spread, x - p.reference))
        for n, p, x in zip(counts, problems, xs, strict=True)
    )
    kept = [e <= value + 1e-6 for e, value in zip(es, fixed, strict=True)]
    cp.Problem(cp.Minimize(near), hard + kept).solve(solver=cp.CLARABEL)
    return np.concatenate([x.value for x in xs])


def with_slsqp(problem: Relaxed) -> Vector:
    """Nearness inside the bands by SLSQP, started at the recipe; where it finds none, the least miss."""

    def nearness(x: Any) -> float:
        return float(problem.objective(x[None, :])[0])

    def miss(x: Any) -> float:
        return float(problem.miss(x[None, :])[0])

    bands: Any = {
        "type": "ineq",
        "fun": lambda x: np.concatenate(
            [problem.high_aim - problem.nutrients @ x, problem.nutrients @ x - problem.low_aim]
        ),
    }
    bounds = list(zip(problem.low, problem.high, strict=True))
    found = optimize.minimize(nearness, problem.reference, method="SLSQP", bounds=bounds, constraints=[bands])
    if not found.success:
        found = optimize.minimize(miss, problem.reference, method="SLSQP", bounds=bounds)
    return np.asarray(found.x)


def row(name: str, own: float, cvxpy: float | None, slsqp: float | None) -> None:
    def beside(other: float | None) -> str:
        return "–" if other is None else f"{other:,.1f} ms ({other / own:,.0f} ×)"

    print(f"| {name} | {own:,.2f} ms | {beside(cvxpy)} | {beside(slsqp)} |", flush=True)


def one_container() -> None:
    cells = tuple(
        Cell(per_100g=PLATE[name], share=share, minimum_g=20, maximum_g=300)
        for name, share in (("turkey", 120), ("bulgur", 160), ("beans", 120), ("sauce", 40))
    )
    for name, target in (
        ("one container, 4 components, met", Target(protein_g=45, carbohydrate_g=55, fat_g=16)),
        ("one container, out of reach", Target(protein_g=90, carbohydrate_g=20, fat_g=4)),
    ):
        container = Container(cells=cells, target=target, tolerance=Tolerance())
        problem = relaxed(container)
        row(
            name,
            median_ms(fresh(lambda c=container: solve(c)), 300),  # type: ignore[misc]
            median_ms(lambda p=problem: with_cvxpy([p], [1], [None] * 4), 20),  # type: ignore[misc]
            median_ms(lambda p=problem: with_slsqp(p), 50),  # type: ignore[misc]
        )


def shared(clients: int, supply: float | None, *, others: bool, times: int = 5) -> None:
    made = batch(clients, supply=supply)
    problems = [relaxed(demand.container) for demand in made.demands]
    counts = [demand.count for demand in made.demands]
    words = "nothing weighed" if supply is None else f"pots hold {supply:.0%} of the need"
    row(
        f"{clients:,} clients × 6 components, {words}",
        median_ms(fresh(lambda: solve_all(made.demands, made.supply_g)), times),
        median_ms(lambda: with_cvxpy(problems, counts, made.supply_g), 1) if others else None,
        median_ms(lambda: [with_slsqp(problem) for problem in problems], 1) if others and supply is None else None,
    )


def who_can_eat_what(recipes: int, clients: int) -> None:
    rng = Random(3)
    targets = [
        Target(protein_g=rng.uniform(25, 60), carbohydrate_g=rng.uniform(30, 80), fat_g=rng.uniform(8, 22))
        for _ in range(clients)
    ]
    containers = []
    for _ in range(recipes):
        kinds = [
            food(rng.uniform(18, 30), rng.uniform(0, 4), rng.uniform(1, 12)),
            food(rng.uniform(2, 8), rng.uniform(16, 30), rng.uniform(0.2, 3)),
            food(rng.uniform(1, 4), rng.uniform(3, 10), rng.uniform(0, 2)),
            food(rng.uniform(1, 8), rng.uniform(1, 8), rng.uniform(5, 25)),
        ]
        cells = tuple(Cell(per_100g=kind, share=rng.uniform(40, 200), maximum_g=400) for kind in kinds)
        containers += [Container(cells=cells, target=target, tolerance=Tolerance()) for target in targets]
    sample = [relaxed(container) for container in containers[:: len(containers) // 100]][:100]
    own = median_ms(fresh(lambda: [solve(container) for container in containers]), 1)
    scale = len(containers) / len(sample)
    row(
        f"{recipes} recipes × {clients} clients ({len(containers):,} containers; the others from a sample of 100)",
        own,
        scale * median_ms(lambda: [with_cvxpy([problem], [1], [None] * 4) for problem in sample], 1),
        scale * median_ms(lambda: [with_slsqp(problem) for problem in sample], 1),
    )


def agreement() -> None:
    """The continuous answers agree with the modelled ones, so the times are of the same problem."""
    made = batch(40, supply=None, seed=9)
    problems = [relaxed(demand.container) for demand in made.demands]
    apart = []
    for problem in problems:
        inside = nearest(problem)
        if inside is not None:
            apart.append(float(np.abs(inside - with_cvxpy([problem], [1], [None] * 6)).max()))
    print(f"\nLargest difference of a cell to cvxpy over {len(apart)} containers: {max(apart):.3f} g")


def main() -> None:
    print("| problem | engine, steps included | cvxpy with Clarabel, grams continuous | SLSQP, grams continuous |")
    print("|---|---|---|---|")
    one_container()
    shared(200, None, others=True)
    shared(200, 0.8, others=True)
    who_can_eat_what(40, 500)
    for clients in (10, 50, 1000, 5000):
        shared(clients, None, others=clients <= 50, times=3)
        shared(clients, 0.8, others=clients <= 50, times=3)
    agreement()


if __name__ == "__main__":
    main()
