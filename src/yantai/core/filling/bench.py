"""A batch as it stands on the bench: its containers one by one, with what is in each and in the pots."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

from yantai.core.filling.facts import FillFact, Filling, PartFilled, Spot, unsure_together_g
from yantai.core.foods.nutrients import NUTRIENTS, Amounts
from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.planning.plan import Leftover, Plan, Question
from yantai.core.portions import Cell, Container, Portions, Sharing
from yantai.core.portions.problem import portions

Held = Mapping[Spot, Mapping[str, PartFilled]]


@dataclass(frozen=True, kw_only=True)
class Bench:
    """A batch that is filled by its plan.

    Attributes:
        rows, clients: the key of the row of each class, and of its client, in the order of `classes`.
    """

    dishes: Mapping[str, Dish]
    classes: Sequence[ContainerClass]
    rows: Sequence[str]
    clients: Sequence[str]
    plan: Plan
    step_g: float
    sharing: Sharing = Sharing.FAIR
    leftover: Leftover = Leftover.KEEP

    @cached_property
    def spots(self) -> tuple[tuple[int, Spot], ...]:
        """Every container, with the place of its class."""
        return tuple(
            (index, Spot(row, number))
            for index, (row, each) in enumerate(zip(self.rows, self.classes, strict=True))
            for number in range(1, each.count + 1)
        )

    def question(self, index: int) -> Question:
        """What the plan asked for one class, and answered."""
        return self.plan.questions[index]

    def part(self, index: int, key: str) -> Part:
        """A component as the dish of a class has it."""
        return self.dishes[self.classes[index].dish].parts[key]

    def cells(self, index: int) -> tuple[str, ...]:
        """The cells of a class by their part: the key of the component, or of the first one of a mixture."""
        return self._all_cells[index]

    def to_fill(self, index: int) -> tuple[int, ...]:
        """The places of the cells of a class that are filled at the scale: those that a pot gives, and of which the
        plan has any."""
        return self._all_to_fill[index]

    def is_alone(self, key: str) -> bool:
        """Only one dish takes from the pot of a component."""
        return sum(key in dish.parts and dish.parts[key].is_cooked_here for dish in self.dishes.values()) == 1

    @cached_property
    def _all_cells(self) -> tuple[tuple[str, ...], ...]:
        return tuple(tuple(keys[0] for keys in question.keys) for question in self.plan.questions)

    @cached_property
    def _all_to_fill(self) -> tuple[tuple[int, ...], ...]:
        return tuple(
            tuple(
                cell
                for cell, (part, grams) in enumerate(zip(parts, question.answer.grams, strict=True))
                if grams > 0 and self.part(index, part).is_cooked_here
            )
            for index, (parts, question) in enumerate(zip(self._all_cells, self.plan.questions, strict=True))
        )

    def filled(self, index: int, spot: Spot, filling: Filling) -> list[PartFilled | None]:
        """What is in a container, cell by cell; None where nobody said."""
        here = filling.parts.get(spot, {})
        return [here.get(part) for part in self.cells(index)]

    def is_closed(self, index: int, filled: Sequence[PartFilled | None]) -> bool:
        """All that is filled at the scale is in, or left out on purpose."""
        return all(filled[cell] is not None for cell in self.to_fill(index))

    def account(self, index: int, filled: Sequence[PartFilled | None], grams: Sequence[float]) -> Portions:
        """How a container of these grams [g] of each cell stands to its target, with what was estimated as a range."""
        container = with_filled(self, index, filled)
        found = portions(container, tuple(grams))
        unsure = [0.0 if one is None else one.stands.unsure_g for one in filled]
        return replace(found, amounts=as_unsure(found.amounts, container.cells, unsure))

    def taken_g(self, held: Held) -> dict[str, float]:
        """What is in containers of each component [g], also of parts that the plan no longer has."""
        draws = self._draws
        found: dict[str, float] = {}
        for spot, parts in held.items():
            for part, one in parts.items():
                shares = draws.get((spot.row, part)) or self._any_draws.get(part, {part: 1.0})
                for key, share in shares.items():
                    found[key] = found.get(key, 0.0) + one.grams * share
        return found

    def strays(self, filling: Filling) -> list[tuple[Spot, str, PartFilled]]:
        """What was filled into a container that the plan no longer has, or of a part that it has no longer in it."""
        known = {(spot, part) for index, spot in self.spots for part in self.cells(index)}
        return [
            (spot, part, one)
            for spot, parts in filling.parts.items()
            for part, one in parts.items()
            if (spot, part) not in known and one.grams > 0
        ]

    @cached_property
    def _draws(self) -> dict[tuple[str, str], Mapping[str, float]]:
        return {
            (row, part): draws
            for index, row in enumerate(self.rows)
            for part, draws in zip(self.cells(index), self.question(index).draws, strict=True)
        }

    @cached_property
    def _any_draws(self) -> dict[str, Mapping[str, float]]:
        return {part: draws for (_, part), draws in self._draws.items()}


def with_filled(bench: Bench, index: int, filled: Sequence[PartFilled | None]) -> Container:
    """A container of a class with what is in it as a fact, and what is not filled at the scale as it was planned."""
    question, to_fill = bench.question(index), set(bench.to_fill(index))
    cells: list[Cell] = []
    for place, (cell, one) in enumerate(zip(question.container.cells, filled, strict=True)):
        if one is not None:
            # What is in it is in it, whether it should be or not.
            cells.append(replace(cell, left_out=False, pinned_g=None, set_g=one.grams, set_by=None))
        elif place not in to_fill and not cell.left_out:
            cells.append(replace(cell, pinned_g=None, set_g=question.answer.grams[place], set_by=None))
        else:
            cells.append(cell)
    return replace(question.container, cells=tuple(cells))


def as_unsure(amounts: Amounts, cells: Sequence[Cell], unsure_g: Sequence[float]) -> Amounts:
    """The same amounts when grams of some cells may be off by so much [g] on either side, on top of what labels leave
    open: `√ Σ (unsure × per gram)²` of each nutrient."""
    if not any(unsure_g):
        return amounts
    known = amounts.uncertainty or ((0.0, 0.0),) * len(NUTRIENTS)
    more = [
        unsure_together_g(grams * cell.per_100g.known[place] / 100 for cell, grams in zip(cells, unsure_g, strict=True))
        for place in range(len(NUTRIENTS))
    ]
    return replace(
        amounts, uncertainty=tuple((low + one, high + one) for (low, high), one in zip(known, more, strict=True))
    )


def left_g(bench: Bench, filling: Filling) -> dict[str, float]:
    """What each pot has left [g]: what was weighed, less what is in containers and what became of a rest. Of one that
    was put back on the scale, what it showed less what was taken since. Never less than nothing.
    """
    taken, found = bench.taken_g(filling.parts), {}
    for key, need in bench.plan.needs.items():
        rests = filling.rests.get(key, ())
        weighed = filling.weighed_pots.get(key)
        if weighed is None:
            there_was, gone = need.cooked_g, taken.get(key, 0.0)
        else:
            there_was = weighed.grams
            gone = taken.get(key, 0.0) - bench.taken_g(filling.since[key]).get(key, 0.0)
            rests = tuple(rest for rest in rests if rest.second > weighed.second)
        found[key] = max(there_was - gone - math.fsum(rest.grams for rest in rests), 0.0)
    return found


def off_scale_g(bench: Bench, filling: Filling, pot: FillFact) -> float:
    """How much more a pot held than it should have when it was put back on the scale [g]: spilt, tasted or noted wrong
    where it is below nothing."""
    need = bench.plan.needs[pot.part]
    rests = [rest.grams for rest in filling.rests.get(pot.part, ()) if rest.second <= pot.second]
    should = need.cooked_g - bench.taken_g(filling.since[pot.part]).get(pot.part, 0.0) - math.fsum(rests)
    return pot.grams - should
