"""Random batches that are half filled, with slips of the spoon."""

from __future__ import annotations

from dataclasses import dataclass, replace
from random import Random
from typing import Any

from tests.core.planning.test_dishes import Batch, Column, a_batch, columns, within_reach
from yantai.core.filling import Bench, FillEvent, FillFact, Filling, what_is_filled
from yantai.core.filling.making_good import Filled, MadeGood, make_good
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import SET, Place


@dataclass(frozen=True)
class HalfFilled:
    batch: Batch
    bench: Bench
    facts: list[FillFact]

    @property
    def filling(self) -> Filling:
        return what_is_filled(self.facts)

    def made_good(self) -> MadeGood:
        return make_good(self.bench, self.filling)


def bench_of(batch: Batch, **how: object) -> Bench:
    return Bench(
        dishes=batch.dishes,
        classes=batch.classes,
        rows=[f"row{n}" for n in range(len(batch.classes))],
        clients=[f"client{n % 2}" for n in range(len(batch.classes))],
        plan=plan(batch.dishes, batch.classes, step_g=batch.step_g, **how),  # type: ignore[arg-type]
        step_g=batch.step_g,
        **how,  # type: ignore[arg-type]
    )


def half_filled(rng: Random, **how: object) -> HalfFilled:
    """Somebody has filled for a while, a spoon too much here and there."""
    batch = a_batch(rng)
    if rng.random() < 0.5:
        batch = within_reach(rng, batch, columns(batch, batch.solve()))
    bench = bench_of(batch, **how)
    cells = [
        (spot, bench.cells(index)[place], bench.question(index).answer.grams[place])
        for index, spot in bench.spots
        for place in bench.to_fill(index)
    ]
    if rng.random() < 0.5:
        cells.sort(key=lambda one: one[1])
    stop = rng.randint(0, len(cells))
    facts: list[FillFact] = []
    for number, (spot, part, grams) in enumerate(cells[:stop]):
        if rng.random() < 0.1:
            continue
        filled = max(grams + rng.gauss(0, 0.06) * grams, 0.0)
        left_out = rng.random() < 0.03
        facts.append(
            FillFact(
                key=f"f{number}",
                event=FillEvent.LEFT_OUT if left_out else FillEvent.FILLED,
                spot=spot,
                part=part,
                grams=0.0 if left_out else round(filled),
                second=float(number),
            )
        )
    return HalfFilled(batch, bench, facts)


def alike_together(state: HalfFilled, made: MadeGood) -> tuple[Batch, list[Column], list[list[Filled]]]:
    """The same state as a batch whose classes are containers with the same in them, since those are filled alike: what
    is in is in, and what does not move is as planned. Of what follows from its school alone the answer's own grams are
    taken."""
    batch, bench, filling = state.batch, state.bench, state.filling
    groups: dict[tuple[Any, ...], list[Filled]] = {}
    for one in made.containers:
        parts = bench.cells(one.index)
        own = {cell.part: cell.grams for cell in one.cells}
        is_set = [batch.dishes[batch.classes[one.index].dish].parts[part].school in SET for part in parts]
        fixed = tuple(own.get(part) if whole else None for part, whole in zip(parts, is_set, strict=True))
        groups.setdefault((one.index, tuple(filling.grams(one.spot, part) for part in parts), fixed), []).append(one)
    together = list(groups.values())
    classes = tuple(replace(batch.classes[some[0].index], count=len(some)) for some in together)
    single = replace(batch, classes=classes)

    class Own:
        def grams(self, row: int) -> dict[str, float]:
            one = together[row][0]
            return {**bench.plan.grams(one.index), **{cell.part: cell.grams for cell in one.cells}}

    found = []
    for column in columns(single, Own()):  # type: ignore[arg-type]
        one = together[column.row][0]
        part = next(iter(column.per_g))
        planned = bench.question(one.index).answer.grams[bench.cells(one.index).index(part)]
        held = filling.grams(one.spot, part)
        place = batch.dishes[batch.classes[one.index].dish].parts[part].place
        stays = held if held is not None else planned if not planned or place is Place.AT_EATING else None
        found.append(column if stays is None else replace(column, low=stays, high=stays))
    return single, found, together
