"""The order of work: time to a first answer, to the proof or the gap that is left, against a plain rule; and after a
delay. `PYTHONPATH=src:. python -m bench.schedule`"""

from __future__ import annotations

from dataclasses import replace
from random import Random
from statistics import median
from time import perf_counter

from tests.core.schedule.days import day
from tests.core.schedule.lateness import in_the_middle
from tests.core.schedule.plainly import by_rule, one_after_the_other

from yantai.core.schedule.order import ready_at
from yantai.core.schedule.rule import first_placed
from yantai.core.schedule.solve import best_order
from yantai.work.cook.order import LIVE_EFFORT

SIZES = (20, 40, 80, 150)
DAYS = 5
DELAYS = 30


def main() -> None:
    print("tasks  first [s]  whole [s]  proven  spare [%]  shorter than the rule [%]  than one after the other [%]")
    for size in SIZES:
        firsts, wholes, spares, gains, saved, proven = [], [], [], [], [], 0
        for seed in range(DAYS):
            made = day(100 + seed, size, least_tasks=size)
            made = replace(made, links=tuple(replace(link, most=None) for link in made.links))
            began = perf_counter()
            placed = first_placed(made, passes=1)
            firsts.append(perf_counter() - began)
            assert placed is not None and ready_at(made, {one.task: one.end for one in placed})
            began = perf_counter()
            order = best_order(made)
            wholes.append(perf_counter() - began)
            proven += order.is_shortest
            spares.append(100 * order.spare / order.ready)
            rule = by_rule(made)
            gains.append(100 * (rule - order.ready) / rule)
            alone = one_after_the_other(made)
            saved.append(100 * (alone - order.ready) / alone)
        print(
            f"{size:5}  {median(firsts):9.3f}  {median(wholes):9.1f}  {proven}/{DAYS}     {median(spares):8.1f}  "
            f"{median(gains):25.1f}  {median(saved):28.1f}"
        )
    times = []
    for seed in range(DELAYS):
        chance, made = Random(seed), day(200 + seed, 60, least_tasks=30)
        order = best_order(made, effort=0.02)
        middle = in_the_middle(made, order, chance)
        began = perf_counter()
        best_order(middle, effort=LIVE_EFFORT, follows=order)
        times.append(perf_counter() - began)
    print(f"after a delay, 30 to 60 tasks: median {median(times):.2f} s, longest {max(times):.2f} s")


if __name__ == "__main__":
    main()
