"""Containers that are half filled: what goes into the rest of them, so that misses are made good and the pots reach.

What is in is a fact. The parts still to come of a container are solved anew beside it, by the same engine and under the
same conditions as the plan; what the pots have left is shared out over the containers still to come as the batch
shares. A container that has all its parts is closed, and nothing moves in it (docs/filling.md).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from yantai.core.filling.bench import Bench, left_g, with_filled
from yantai.core.filling.evening import Standing, moved_aims
from yantai.core.filling.facts import Filling, PartFilled, Spot
from yantai.core.planning.cells import Asked
from yantai.core.planning.plan import Leftover, Question
from yantai.core.planning.portioning import SET, PartKey, School
from yantai.core.portions import Container, Demand, Limit, Portions, Sharing, solve, solve_all
from yantai.core.portions.problem import MISS_NOISE, portions
from yantai.core.portions.stop import stop_band
from yantai.core.targets.targets import Held

_GRAM = 1e-6
_NEAR = 1.001


@dataclass(frozen=True, slots=True, kw_only=True)
class ToFill:
    """One part of one container at the scale [g].

    Attributes:
        grams: what goes in, or what is in.
        planned_g: what the plan has.
        stop_low_g, stop_high_g: between which weights filling may stop while the other parts hold what they should.
        filled: what is in, None while it is to come.
    """

    part: str
    grams: float
    planned_g: float
    stop_low_g: float
    stop_high_g: float
    filled: PartFilled | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Filled:
    """One container: what is in, what is to come, and how it then stands to its target.

    Attributes:
        index: the place of its class.
        cells: its parts that are filled at the scale, in order.
        portions: its account once all is in; `so_far` that of what is in now.
        not_good: what stays missed [g, kcal, mg] although the plan would have met it, and by how much more.
        is_evened: it aims at something else, because a miss of the client's others is evened out.
    """

    spot: Spot
    index: int
    cells: tuple[ToFill, ...]
    portions: Portions
    so_far: Portions
    is_closed: bool
    not_good: Mapping[Held, float]
    is_evened: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class PotLeft:
    """A pot while it is filled from [g].

    Attributes:
        left_g: what it holds.
        needed_g: what the containers still to come get of it.
        wanted_g: what they would take if there were enough.
    """

    left_g: float
    needed_g: float
    wanted_g: float

    @property
    def short_g(self) -> float:
        """What it lacks [g]."""
        return max(self.wanted_g - self.left_g, 0.0)

    @property
    def over_g(self) -> float:
        """What will be left of it [g]."""
        return max(self.left_g - self.needed_g, 0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class MadeGood:
    """Every container of a batch in the order of its rows, and the pots by their component."""

    containers: tuple[Filled, ...]
    pots: Mapping[str, PotLeft]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Open:
    """Containers that are alike: of one class, with the same in them and the same to aim at."""

    index: int
    spots: tuple[Spot, ...]
    container: Container
    unhindered: Container
    """The same as if every pot had enough."""
    filled: tuple[PartFilled | None, ...]
    is_untouched: bool
    """Nothing is in them, and they aim at what they were planned for."""
    is_as_asked: bool
    """What is in them is what was planned, within a step."""


def make_good(bench: Bench, filling: Filling) -> MadeGood:
    """What goes into every container of a batch that is still open, after all that is in.

    Where nothing is filled yet it is the plan.
    """
    filled = {spot: bench.filled(index, spot, filling) for index, spot in bench.spots}
    closed = {spot for index, spot in bench.spots if bench.is_closed(index, filled[spot])}
    aims = _moved(bench, filling, filled, closed)
    left = left_g(bench, filling)
    groups = _alike(bench, filled, closed, aims, left)
    answers = _solved(bench, groups, filled, closed, left)
    found: dict[Spot, Filled] = {}
    for group, (container, answer) in zip(groups, answers, strict=True):
        for spot in group.spots:
            found[spot] = _to_fill(bench, group.index, spot, filled[spot], container, answer, spot in aims)
    for index, spot in bench.spots:
        if spot in closed:
            found[spot] = _closed(bench, index, spot, filled[spot])
    return MadeGood(containers=tuple(found[spot] for _, spot in bench.spots), pots=_pots(bench, groups, answers, left))


def _closed(bench: Bench, index: int, spot: Spot, filled: Sequence[PartFilled | None]) -> Filled:
    container = with_filled(bench, index, filled)
    grams = [cell.fixed_g or 0.0 for cell in container.cells]
    account = bench.account(index, filled, grams)
    return Filled(
        spot=spot,
        index=index,
        cells=_cells(bench, index, filled, container, account),
        portions=account,
        so_far=account,
        is_closed=True,
        not_good=_worse(bench, index, account),
    )


def _to_fill(
    bench: Bench,
    index: int,
    spot: Spot,
    filled: Sequence[PartFilled | None],
    container: Container,
    answer: Portions,
    is_evened: bool,
) -> Filled:
    account = bench.account(index, filled, answer.grams)
    in_now = [0.0 if one is None else one.grams for one in filled]
    return Filled(
        spot=spot,
        index=index,
        cells=_cells(bench, index, filled, container, answer),
        portions=account,
        so_far=bench.account(index, filled, in_now),
        is_closed=False,
        not_good=_worse(bench, index, account) if any(one is not None for one in filled) else {},
        is_evened=is_evened,
    )


def _cells(
    bench: Bench, index: int, filled: Sequence[PartFilled | None], container: Container, answer: Portions
) -> tuple[ToFill, ...]:
    planned = bench.question(index).answer.grams
    parts = bench.cells(index)
    shown = [place for place, one in enumerate(filled) if one is not None or place in bench.to_fill(index)]
    bands = {place: stop_band(container, answer, place) for place in shown}
    return tuple(
        ToFill(
            part=parts[place],
            grams=answer.grams[place],
            planned_g=planned[place],
            stop_low_g=bands[place][0],
            stop_high_g=bands[place][1],
            filled=filled[place],
        )
        for place in shown
    )


def _worse(bench: Bench, index: int, account: Portions) -> dict[Held, float]:
    """What is missed by more than the plan would have missed it, of nutrients: how far it lies from its band."""
    planned = bench.question(index).answer.misses
    return {of: miss for of, miss in account.misses.items() if abs(miss) > abs(planned.get(of, 0.0)) + MISS_NOISE}


def _moved(
    bench: Bench, filling: Filling, filled: Mapping[Spot, Sequence[PartFilled | None]], closed: set[Spot]
) -> dict[Spot, Container]:
    """The containers of clients of whom a miss is evened out, with what they aim at then."""
    if not filling.evened:
        return {}
    by_client: dict[str, list[Standing]] = {}
    places = {}
    for index, spot in bench.spots:
        places[spot] = index
        question = bench.question(index)
        told = [one.stands.second for one in filled[spot] if one is not None]
        held = None
        if spot in closed:
            held = _closed(bench, index, spot, filled[spot]).portions.amounts
        by_client.setdefault(bench.clients[index], []).append(
            Standing(
                spot=spot,
                target=question.container.target,
                tolerance=question.container.tolerance,
                held=held,
                second=max(told, default=math.inf) if held is not None else math.inf,
            )
        )
    found = {}
    for standing in by_client.values():
        for spot, target in moved_aims(standing, filling).items():
            found[spot] = replace(bench.question(places[spot]).container, target=target)
    return found


def _alike(
    bench: Bench,
    filled: Mapping[Spot, Sequence[PartFilled | None]],
    closed: set[Spot],
    aims: Mapping[Spot, Container],
    left: Mapping[str, float],
) -> list[_Open]:
    """The open containers, those that are alike together."""
    set_g = _set_amounts(bench, filled, closed, left)
    groups: dict[tuple[int, Container, Container], list[Spot]] = {}
    for index, spot in bench.spots:
        if spot in closed:
            continue
        container = with_filled(bench, index, filled[spot])
        if spot in aims:
            container = replace(container, target=aims[spot].target)
        amounts = set_g.get(spot, {})
        cells = [
            replace(cell, set_g=amounts[place]) if place in amounts else cell
            for place, cell in enumerate(container.cells)
        ]
        groups.setdefault((index, replace(container, cells=tuple(cells)), container), []).append(spot)
    return [
        _Open(
            index=index,
            spots=tuple(spots),
            container=container,
            unhindered=unhindered,
            filled=tuple(filled[spots[0]]),
            is_untouched=spots[0] not in aims and spots[0] not in set_g and not any(filled[spots[0]]),
            is_as_asked=spots[0] not in aims and spots[0] not in set_g and _is_near(bench, index, filled[spots[0]]),
        )
        for (index, container, unhindered), spots in groups.items()
    ]


def _is_near(bench: Bench, index: int, filled: Sequence[PartFilled | None]) -> bool:
    """All that is in is within a step of the scale of what was planned."""
    question = bench.question(index)
    return all(
        one is None or abs(one.grams - grams) < question.container.step_g * _NEAR
        for one, grams in zip(filled, question.answer.grams, strict=True)
    )


def _solved(
    bench: Bench,
    groups: Sequence[_Open],
    filled: Mapping[Spot, Sequence[PartFilled | None]],
    closed: set[Spot],
    left: Mapping[str, float],
) -> list[tuple[Container, Portions]]:
    """What the engine says to the open containers: the question as it was put, and the answer.

    What is in an open container counts as taken by it, so the pots are told with it.
    """
    if not groups:
        return []
    there_is = dict(left)
    for key, grams in _in_containers(bench, filled, [spot for group in groups for spot in group.spots]).items():
        there_is[key] += grams
    asked = Asked(bench.dishes, bench.classes, step_g=bench.step_g, ranked=bench.sharing is Sharing.RANKED)
    demands, supply = asked.demands(there_is, _set_aside(bench, filled, closed))
    put = [replace(demands[group.index], container=group.container, count=len(group.spots)) for group in groups]
    answers = _as_shared_before(bench, groups, put, supply, _left_by_plan(bench, asked)) or solve_all(
        put, supply, sharing=bench.sharing, spread=bench.leftover is Leftover.SPREAD, search=False
    )
    return [(demand.container, answer) for demand, answer in zip(put, answers, strict=True)]


def _as_shared_before(
    bench: Bench,
    groups: Sequence[_Open],
    put: Sequence[Demand],
    supply: Sequence[float],
    left_by_plan: Sequence[float],
) -> list[Portions] | None:
    """The answers by which nothing moves but the containers that have something in them, and these within their share
    of the pots; None where one of these would do better with more, where a pot does not hold that, or where it holds so
    much more than the plan left in it that there is something to share out."""
    answers = []
    for group in groups:
        planned = bench.question(group.index)
        if group.is_untouched:
            answers.append(planned.answer)
            continue
        if group.is_as_asked and (kept := _as_asked(group, planned)) is not None:
            answers.append(kept)
            continue
        shares = tuple(
            grams if limit is Limit.POT else math.inf
            for grams, limit in zip(planned.answer.grams, planned.answer.limits, strict=True)
        )
        answer = solve(replace(group.container, shares_g=shares))
        if weighted_miss(group.container, answer) > weighted_miss(group.container, solve(group.container)) + MISS_NOISE:
            return None
        answers.append(answer)
    for pot, there_is in enumerate(supply):
        takes = [
            (demand, answer, index, demand.count * share)
            for demand, answer in zip(put, answers, strict=True)
            for index, share in demand.from_pot.get(pot, ())
        ]
        left = there_is - math.fsum(answer.grams[index] * share for _, answer, index, share in takes)
        free = [one for one in takes if one[0].container.cells[one[2]].fixed_g is None]
        a_step_each = math.fsum(d.container.step_of(d.container.cells[index]) * share for d, _, index, share in free)
        is_shared = bench.leftover is Leftover.SPREAD or any(a.limits[index] is Limit.POT for _, a, index, _ in free)
        if left < -_GRAM and free:
            return None
        if is_shared and left - left_by_plan[pot] > a_step_each:
            return None
    return answers


def _as_asked(group: _Open, planned: Question) -> Portions | None:
    """The plan's own grams beside what went in within a step of them: what the scale cannot tell apart moves nothing.
    None where that would miss what the plan meets."""
    grams = tuple(
        asked if one is None else one.grams for asked, one in zip(planned.answer.grams, group.filled, strict=True)
    )
    found = replace(portions(group.container, grams, planned.answer.bindings), limits=planned.answer.limits)
    same = weighted_miss(group.container, found) <= weighted_miss(group.container, planned.answer) + MISS_NOISE
    return found if same and not found.is_overfull else None


def _left_by_plan(bench: Bench, asked: Asked) -> list[float]:
    """What the plan leaves of each thing that containers take from [g]."""
    demands, supply = asked.demands()
    return [
        there_is
        - math.fsum(
            demand.count * demand.taken_g(pot, question.answer.grams)
            for demand, question in zip(demands, bench.plan.questions, strict=True)
        )
        for pot, there_is in enumerate(supply)
    ]


def _in_containers(
    bench: Bench, filled: Mapping[Spot, Sequence[PartFilled | None]], spots: Iterable[Spot]
) -> dict[str, float]:
    """What some containers hold of each component by now [g]."""
    places = {row: index for index, row in enumerate(bench.rows)}
    found: dict[str, float] = {}
    for spot in spots:
        for one, draws in zip(filled[spot], bench.question(places[spot.row]).draws, strict=True):
            for key, share in draws.items():
                if one is not None:
                    found[key] = found.get(key, 0.0) + one.grams * share
    return found


def _set_aside(
    bench: Bench, filled: Mapping[Spot, Sequence[PartFilled | None]], closed: set[Spot]
) -> dict[PartKey, float]:
    """What is still set aside of a pot for a dish [g], with what is in its open containers."""
    found = {}
    for name, dish in bench.dishes.items():
        of_dish = [spot for index, spot in bench.spots if spot in closed and bench.classes[index].dish == name]
        gone = _in_containers(bench, filled, of_dish)
        for key, part in dish.parts.items():
            if part.takes_g is not None:
                found[name, key] = max(part.takes_g - gone.get(key, 0.0), 0.0)
    return found


def _set_amounts(
    bench: Bench,
    filled: Mapping[Spot, Sequence[PartFilled | None]],
    closed: set[Spot],
    left: Mapping[str, float],
) -> dict[Spot, dict[int, float]]:
    """What is not solved for (equal split, plate shares, by eye) where the pot does not give what was planned [g], by
    the place of the cell.

    A pot that is divided equally by one dish alone is divided anew: all that is left, in proportion to what was
    planned. Any other gives all of them the same share of theirs where it is short, or the first ranks theirs.
    """
    open_cells: dict[str, list[_SetCell]] = {}
    for index, spot in bench.spots:
        if spot in closed:
            continue
        question = bench.question(index)
        for place in bench.to_fill(index):
            part = bench.part(index, bench.cells(index)[place])
            if filled[spot][place] is not None or part.school not in SET or not part.weighed:
                continue
            cell = question.container.cells[place]
            key = bench.cells(index)[place]
            open_cells.setdefault(key, []).append(
                _SetCell(
                    spot=spot,
                    place=place,
                    rank=bench.classes[index].rank if bench.sharing is Sharing.RANKED else 0,
                    planned_g=question.answer.grams[place],
                    step_g=question.container.step_of(cell),
                    is_pinned=cell.pinned_g is not None,
                    is_alone=part.school is School.EQUAL_SPLIT and bench.is_alone(key) and part.takes_g is None,
                    most_g=cell.maximum_g,
                )
            )
    found: dict[Spot, dict[int, float]] = {}
    for key, to_come in open_cells.items():
        for one, grams in _divided(to_come, left[key], max(bench.plan.needs[key].spare_g, 0.0)):
            found.setdefault(one.spot, {})[one.place] = grams
    return found


@dataclass(frozen=True, slots=True, kw_only=True)
class _SetCell:
    """A cell that is not solved for, still to come."""

    spot: Spot
    place: int
    rank: int
    planned_g: float
    step_g: float
    is_pinned: bool
    is_alone: bool
    most_g: float


def _divided(cells: Sequence[_SetCell], left: float, spare: float) -> Iterator[tuple[_SetCell, float]]:
    """What each gets of what is `left` of a pot [g], in whole steps; nothing of those that stay as planned. `spare` is
    what the plan leaves in it: what a most or the room keep out stays out."""
    there_is = max(left - math.fsum(cell.planned_g for cell in cells if cell.is_pinned), 0.0)
    for rank in sorted({cell.rank for cell in cells}):
        turn = [cell for cell in cells if cell.rank == rank and not cell.is_pinned]
        planned = math.fsum(cell.planned_g for cell in turn)
        a_step_each = math.fsum(cell.step_g for cell in turn)
        over = there_is - planned
        all_of_it = all(cell.is_alone for cell in turn)
        if not planned or (over >= -_GRAM and (over - spare < a_step_each or not all_of_it)):
            there_is -= planned
            continue
        to_give = min(there_is, planned + over - spare) if over > 0 else there_is
        given = exact = 0.0
        for cell in turn:
            # The steps fall where the running total passes them, so nothing piles up at the last one.
            exact += to_give * cell.planned_g / planned
            grams = min(math.floor((exact - given) / cell.step_g + 1e-6) * cell.step_g, cell.most_g)
            given += grams
            yield cell, max(grams, 0.0)
        there_is -= given


def _pots(
    bench: Bench, groups: Sequence[_Open], answers: Sequence[tuple[Container, Portions]], left: Mapping[str, float]
) -> dict[str, PotLeft]:
    needed = dict.fromkeys(left, 0.0)
    wanted = dict.fromkeys(left, 0.0)
    for group, (_, answer) in zip(groups, answers, strict=True):
        alone = solve(group.unhindered)
        to_fill = set(bench.to_fill(group.index))
        for place, draws in enumerate(bench.question(group.index).draws):
            if group.filled[place] is not None or place not in to_fill:
                continue
            for key, share in draws.items():
                needed[key] += len(group.spots) * answer.grams[place] * share
                wanted[key] += len(group.spots) * alone.grams[place] * share
    return {key: PotLeft(left_g=grams, needed_g=needed[key], wanted_g=wanted[key]) for key, grams in left.items()}


def weighted_miss(container: Container, found: Portions) -> float:
    """The weighted miss `Σ w (e / σ)²` of an answer."""
    return math.fsum(aim.priority * (found.misses[aim.nutrient] / aim.scale) ** 2 for aim in container.aims)
