"""What can be done about a container whose miss the parts still to come cannot make good."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from yantai.core.filling.bench import Bench, with_filled
from yantai.core.filling.facts import Filling, PartFilled
from yantai.core.filling.making_good import Filled, MadeGood, weighted_miss
from yantai.core.portions import Cell, Container, solve
from yantai.core.portions.problem import MISS_NOISE, Portions

_LESS = 0.75
"""A change is worth telling when it leaves at most so much of the weighted miss, where nothing meets all."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Mend:
    """Grams [g] of a part to take out again (below nothing) or to put in on top, and whether the container then meets
    what the plan would have met."""

    part: str
    grams: float
    meets: bool


def mends_of(bench: Bench, filling: Filling, one: Filled) -> list[Mend]:
    """The smallest changes of what is in a container that make its miss good, each tried by solving again; the smallest
    first. Where none does, those that help most."""
    filled = bench.filled(one.index, one.spot, filling)
    container = with_filled(bench, one.index, filled)
    found = list(_each(bench, one, filled, container))
    meeting = [mend for mend in found if mend.meets]
    return sorted(meeting or found, key=lambda mend: abs(mend.grams))


def others_open(bench: Bench, made: MadeGood, one: Filled) -> list[Filled]:
    """The containers of the same client that are still open: over those a miss can be evened out."""
    client = bench.clients[one.index]
    return [
        other
        for other in made.containers
        if not other.is_closed and other.spot != one.spot and bench.clients[other.index] == client
    ]


def _each(bench: Bench, one: Filled, filled: Sequence[PartFilled | None], container: Container) -> Iterator[Mend]:
    planned = bench.question(one.index).answer
    now = solve(container)
    for place, held in enumerate(filled):
        if held is None or not held.grams:
            continue
        cell = bench.question(one.index).container.cells[place]
        step = container.step_of(cell)
        wanted = solve(_with(container, place, replace(cell, pinned_g=None, set_g=None, left_out=False))).grams[place]
        steps = round((wanted - held.grams) / step)
        sign = 1 if steps > 0 else -1

        def after(
            n: int, place: int = place, held_g: float = held.grams, move: float = step * sign
        ) -> tuple[float, Portions]:
            grams = max(held_g + n * move, 0.0)
            fixed = replace(container.cells[place], set_g=grams)
            return grams, solve(_with(container, place, fixed))

        if not steps or _weighted(container, now) <= 0:
            continue
        last_g, last = after(abs(steps))
        if not _meets(last, planned):
            if _weighted(container, last) <= _LESS * _weighted(container, now):
                yield Mend(part=bench.cells(one.index)[place], grams=last_g - held.grams, meets=False)
            continue
        # What is missed shrinks on the way to what is wanted, so the first step that meets it is found by halving.
        too_few, enough = 0, abs(steps)
        while enough - too_few > 1:
            middle = (too_few + enough) // 2
            if _meets(after(middle)[1], planned):
                enough = middle
            else:
                too_few = middle
        yield Mend(part=bench.cells(one.index)[place], grams=after(enough)[0] - held.grams, meets=True)


def _with(container: Container, place: int, cell: Cell) -> Container:
    cells = list(container.cells)
    cells[place] = cell
    return replace(container, cells=tuple(cells))


def _meets(found: Portions, planned: Portions) -> bool:
    return not found.is_overfull and all(
        abs(miss) <= abs(planned.misses.get(of, 0.0)) + MISS_NOISE for of, miss in found.misses.items()
    )


def _weighted(container: Container, found: Portions) -> float:
    """The weighted miss, and how far it overfills the container."""
    return weighted_miss(container, found) + found.overfull_g + found.overfull_ml
