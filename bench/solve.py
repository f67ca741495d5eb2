"""Core benchmarks: one container, and a batch of 50 containers. Run: PYTHONPATH=src python -m bench.solve"""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace

from tests.core.examples import BULGUR, CHICKEN, PLATE

from yantai.core.plan import ContainerClass, Pan, plan
from yantai.core.portions import Cell, Container, solve
from yantai.core.targets import Target, Tolerance


def measure(name: str, work: Callable[[], object], times: int) -> None:
    work()
    taken = []
    for _ in range(times):
        started = time.perf_counter()
        work()
        taken.append((time.perf_counter() - started) * 1000)
    taken.sort()
    print(
        f"{name}: median {statistics.median(taken):.2f} ms, p95 {taken[int(0.95 * len(taken))]:.2f} ms ({times} runs)"
    )


def main() -> None:
    cells = tuple(
        Cell(per_100g=PLATE[name], share=share, minimum_g=20, maximum_g=300)
        for name, share in (("turkey", 120), ("bulgur", 160), ("beans", 120), ("sauce", 40))
    )
    met = Container(cells=cells, target=Target(protein_g=45, carbohydrate_g=55, fat_g=16), tolerance=Tolerance())
    measure("one container, 4 components, target met", lambda: solve(met), 500)
    missed = replace(met, target=Target(protein_g=90, carbohydrate_g=20, fat_g=4))
    measure("one container, 4 components, target out of reach", lambda: solve(missed), 500)
    pans = {
        "chicken": Pan(component=replace(CHICKEN, measured_g=None), share=1692),
        "bulgur": Pan(component=replace(BULGUR, measured_g=None), share=1665),
    }
    classes = tuple(
        ContainerClass(
            target=Target(protein_g=25 + n, carbohydrate_g=35 + 1.5 * n, fat_g=8 + 0.3 * n),
            tolerance=Tolerance(),
            count=1,
        )
        for n in range(50)
    )
    measure("a batch of 50 containers, each with its own target", lambda: plan(pans, classes, buffer_share=0.03), 40)


if __name__ == "__main__":
    main()
