"""From dishes and containers to the question that the engine solves, and its answer back by component."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace

from yantai.core.foods.nutrients import Amounts, total
from yantai.core.planning.dishes import ContainerClass, Dish, Part, pots_of
from yantai.core.planning.portioning import (
    SET,
    PartKey,
    Place,
    PortionRule,
    Pot,
    Room,
    School,
    SetAmount,
    set_amounts,
    usual_most_g,
)
from yantai.core.portions import Cell, Container, Demand, Limit, Portions, solve
from yantai.core.portions.problem import MAXIMUM_CELL_G, portions
from yantai.core.portions.relaxed import step_bounds


@dataclass(frozen=True, slots=True, kw_only=True)
class Mixture:
    """What the engine sees as one component of a dish: a component, or the components of one mixture with their
    shares of it.

    Attributes:
        cell: the cell in a container that neither pins nor leaves anything out.
    """

    keys: tuple[str, ...]
    shares: tuple[float, ...]
    cell: Cell

    @property
    def draws(self) -> dict[str, float]:
        """What a gram of it takes of each component [g]."""
        return dict(zip(self.keys, self.shares, strict=True))


class Asked:
    """A batch as the engine is asked for it: a container for each class, and the pots they take from.

    `equal_g` is what there is of each part that is split equally [g].

    Raises:
        CoreError: there are no components, or a value is out of its range.
    """

    def __init__(
        self, dishes: Mapping[str, Dish], classes: Sequence[ContainerClass], *, step_g: float, ranked: bool = False
    ) -> None:
        self.pots = pots_of(dishes)
        self.dishes, self.classes, self.step_g = dishes, classes, step_g
        self.held = {key: part.portioned.per_100g for key, part in self.pots.items()}
        self._by_choice: dict[tuple[str, tuple[str, ...]], tuple[Mixture, ...]] = {}
        self.mixtures = tuple(self._mixtures_of(each) for each in classes)
        self.equal_g = self._equal_parts()
        self.containers = self._containers(self.equal_g, ranked=ranked)

    def demands(
        self, there_is: Mapping[str, float] | None = None, set_aside: Mapping[PartKey, float] | None = None
    ) -> tuple[list[Demand], list[float]]:
        """What the engine solves: a demand for each class, and what there is of each thing they take from [g].

        `there_is` says what the weighed pots hold where it is not what was weighed, `set_aside` what is still set
        aside for a dish.
        """
        supplies, draws = self._supplies(there_is or {}, set_aside or {})
        places = {of: number for number, of in enumerate(supplies)}
        demands = [
            Demand(
                container=container,
                count=each.count,
                rank=each.rank,
                draws=tuple(
                    tuple((places[of], share) for of, share in draws[each.dish, mixture.keys].items())
                    for mixture in mixtures
                ),
            )
            for each, container, mixtures in zip(self.classes, self.containers, self.mixtures, strict=True)
        ]
        return demands, list(supplies.values())

    def taken_apart(self, index: int, answer: Portions) -> Portions:
        """The engine's answer for one class in the order of the parts of its dish: a mixture taken apart, and nothing
        of what was not chosen."""
        each, mixed, container = self.classes[index], self.mixtures[index], self.containers[index]
        parts = self.dishes[each.dish].parts
        if len(mixed) == len(parts):
            return answer
        nothing = Cell(per_100g=self.held[next(iter(parts))], share=0.0, left_out=True)
        cells, grams = dict.fromkeys(parts, nothing), dict.fromkeys(parts, 0.0)
        limits = dict.fromkeys(parts, Limit.NOT_CHOSEN)
        for mixture, cell, taken, limit in zip(mixed, container.cells, answer.grams, answer.limits, strict=True):
            for key, share in mixture.draws.items():
                made = self.pots[key].portioned
                cells[key] = replace(cell, per_100g=self.held[key], price=made.price, has_unpriced=made.has_unpriced)
                grams[key], limits[key] = taken * share, limit
        order = list(parts)

        def place(cell: int) -> int:
            return order.index(mixed[cell].keys[0])

        bindings = tuple(b if b.index is None else replace(b, index=place(b.index)) for b in answer.bindings)
        apart = portions(replace(container, cells=tuple(cells.values())), tuple(grams.values()), bindings)
        return replace(
            apart,
            limits=tuple(limits.values()),
            volume_ml=answer.volume_ml,
            full=answer.full,
            contradictions=tuple(place(cell) for cell in answer.contradictions),
            overfull_ml=answer.overfull_ml,
            overfull_g=answer.overfull_g,
        )

    def _mixtures_of(self, each: ContainerClass) -> tuple[Mixture, ...]:
        dish = self.dishes[each.dish]
        taken = dish.taken(each)
        known = self._by_choice.get((each.dish, taken))
        if known is None:
            known = tuple(_mixtures({key: dish.parts[key] for key in taken}, self.held))
            self._by_choice[each.dish, taken] = known
        return known

    def _supplies(
        self, there_is: Mapping[str, float], set_aside: Mapping[PartKey, float]
    ) -> tuple[dict[_Source, float], dict[tuple[str, tuple[str, ...]], dict[_Source, float]]]:
        """What there is of each source [g], and what a gram of each mixture of a dish takes of each [g].

        Weighed components that only ever go into one mixture together are one pot of it, which reaches as far as the
        first of them. What is set aside for a dish is a source beside the pot that it lies in.
        """
        used = {(dish, mixture.keys): mixture for (dish, _), some in self._by_choice.items() for mixture in some}
        uses: dict[str, int] = dict.fromkeys(self.pots, 0)
        for (dish, keys), _ in used.items():
            for key in keys:
                uses[key] += self.dishes[dish].parts[key].is_cooked_here
        grams: dict[_Source, float] = {}
        draws: dict[tuple[str, tuple[str, ...]], dict[_Source, float]] = {}
        for (dish, keys), mixture in used.items():
            takes = draws[dish, keys] = {}
            for key, share in mixture.draws.items():
                part = self.dishes[dish].parts[key]
                weighed_g = part.portioned.measured_g
                if part.is_cooked_here and weighed_g is not None:
                    weighed_g = there_is.get(key, weighed_g)
                    own = uses[key] == 1
                    of, share_of_it = (("pot", dish, *keys), 1.0) if own else (("pot", key), share)
                    grams[of] = min(grams.get(of, math.inf), weighed_g * share_of_it / share)
                    takes[of] = share_of_it
                if part.takes_g is not None:
                    grams["set aside", dish, key] = set_aside.get((dish, key), part.takes_g)
                    takes["set aside", dish, key] = share
        return grams, draws

    def _drawing(self, key: str) -> list[str]:
        """The dishes that take from the pot of a component."""
        return [name for name, dish in self.dishes.items() if key in dish.parts and dish.parts[key].is_cooked_here]

    def _equal_parts(self) -> dict[PartKey, float]:
        """What there is of each part that is split equally [g], for its dish.

        A dish that has its pot for itself divides all of it. Of one that other dishes take from too, it divides what
        it has in its recipe, or what is set aside for it. Once the pot's amount is known, a shortfall is shared: each
        takes so much less; and what is over goes to where nothing is set aside.
        """
        found: dict[PartKey, float] = {}
        for key in self.pots:
            drawing = self._drawing(key)
            parts = {dish: self.dishes[dish].parts[key] for dish in drawing}
            equal = {dish: part for dish, part in parts.items() if part.school is School.EQUAL_SPLIT}
            if len(drawing) == 1:
                found |= {(dish, key): _less(part.takes_g, part.portioned.cooked_g) for dish, part in equal.items()}
                continue
            wants = {dish: part.written_g if part.takes_g is None else part.takes_g for dish, part in equal.items()}
            found |= {(dish, key): grams for dish, grams in wants.items()}
        for key, there_is in self._known_pots().items():
            wants = {dish: found[dish, key] for dish in self._drawing(key) if (dish, key) in found}
            if not wants or len(self._drawing(key)) == 1:
                continue
            others = self._others_g(key, found)
            asked = math.fsum(wants.values()) + others
            open_ones = {dish: grams for dish, grams in wants.items() if self.dishes[dish].parts[key].takes_g is None}
            if there_is < asked:
                found |= {(dish, key): grams * there_is / asked for dish, grams in wants.items()}
            else:
                over, whole = there_is - asked, math.fsum(open_ones.values())
                found |= {(dish, key): grams + over * grams / whole for dish, grams in open_ones.items()}
        return found

    def _known_pots(self) -> dict[str, float]:
        """Components whose amount does not follow from the containers [g]: weighed, or with fixed raw amounts."""
        return {key: part.portioned.cooked_g for key, part in self.pots.items() if part.weighed or part.raw_fixed}

    def _others_g(self, key: str, equal: Mapping[PartKey, float]) -> float:
        """What the dishes that do not split a component equally would take of it if nothing were short [g]."""
        containers = self._containers(equal, ranked=False, short=False)
        taken = 0.0
        for dish in self._drawing(key):
            part = self.dishes[dish].parts[key]
            if part.school is School.EQUAL_SPLIT:
                continue
            if part.takes_g is not None:
                taken += part.takes_g
                continue
            for each, mixed, container in zip(self.classes, self.mixtures, containers, strict=True):
                if each.dish == dish and each.count:
                    grams = solve(container).grams
                    taken += each.count * math.fsum(
                        g * mixture.draws.get(key, 0.0) for g, mixture in zip(grams, mixed, strict=True)
                    )
        return taken

    def _containers(
        self, equal_g: Mapping[PartKey, float], *, ranked: bool, short: bool = True
    ) -> tuple[Container, ...]:
        """The container of each class; without `short` as if there were enough of everything."""
        amounts = set_amounts(
            {
                (name, key): _portion_rule(
                    part, equal_g.get((name, key)), self._own_supply_g(name, key) if short else math.inf
                )
                for name, dish in self.dishes.items()
                for key, part in dish.parts.items()
                if part.school in SET
            },
            [self._room(each, mixed) for each, mixed in zip(self.classes, self.mixtures, strict=True)],
            {
                key: Pot(grams=grams, dishes=frozenset(self._drawing(key)))
                for key, grams in self._known_pots().items()
                if short and len(self._drawing(key)) > 1 and self.pots[key].weighed
            },
            step_g=self.step_g,
            ranked=ranked,
        )
        return tuple(
            Container(
                cells=tuple(
                    _cell(self.dishes[each.dish].parts, mixture, each, {**self._one_each(each), **own})
                    for mixture in mixed
                ),
                target=each.target,
                tolerance=each.tolerance,
                step_g=self.step_g,
                capacity_ml=each.capacity_ml,
                capacity_g=each.capacity_g,
                budget=each.budget,
            )
            for each, mixed, own in zip(self.classes, self.mixtures, amounts, strict=True)
        )

    def _own_supply_g(self, dish: str, key: str) -> float:
        """What there is of a part for its dish alone [g]: of a weighed pot that no other dish takes from, all of it."""
        part = self.dishes[dish].parts[key]
        if not part.is_cooked_here:
            return math.inf
        alone = part.weighed and len(self._drawing(key)) == 1
        return _less(part.takes_g, part.portioned.cooked_g if alone else math.inf)

    def _room(self, each: ContainerClass, mixed: Sequence[Mixture]) -> Room:
        """A class as set amounts see it: what its other components take at least, a mixture by its parts."""
        dish = self.dishes[each.dish]
        least = {
            key: step_bounds(mixture.cell, mixture.cell.step_g or self.step_g)[0] * share
            for mixture in mixed
            for key, share in mixture.draws.items()
            if dish.parts[key].school not in SET
        }
        taken = dish.taken(each)
        return Room(
            dish=each.dish,
            count=each.count,
            rank=each.rank,
            plate_g=each.plate_g,
            capacity_ml=each.capacity_ml,
            capacity_g=each.capacity_g,
            helping=each.helping,
            pins={key: grams for key, grams in each.pins.items() if key in taken},
            left_out=each.left_out | {key for key in dish.parts if key not in taken},
            least_g=least,
            per_g={
                key: 1 / dish.parts[key].density_g_per_ml
                for key in taken
                if dish.parts[key].place is Place.IN_CONTAINER
            },
        )

    def _one_each(self, each: ContainerClass) -> dict[str, SetAmount]:
        """One unit that is built raw, where no target says how many."""
        if each.target.aims:
            return {}
        return {
            key: SetAmount(grams=part.one_g or 0.0, by=Limit.SET)
            for key, part in self.dishes[each.dish].parts.items()
            if part.school is School.BUILT_RAW and key not in each.pins and key not in each.left_out
        }


_Source = tuple[str, ...]


def _less(one: float | None, other: float) -> float:
    return other if one is None else min(one, other)


def _portion_rule(part: Part, equal_g: float | None, own_g: float) -> PortionRule:
    return PortionRule(
        school=part.school,
        supply_g=own_g if equal_g is None else equal_g,
        most_g=part.most_g,
        plate_share=part.plate_share,
        eye_g=part.eye_g,
    )


def _mixtures(parts: Mapping[str, Part], held: Mapping[str, Amounts]) -> Iterator[Mixture]:
    mixed = tuple(key for key, part in parts.items() if part.school is School.ONE_POT)
    for key in parts:
        if key not in mixed or key == mixed[0]:
            yield _mixture(parts, held, mixed if key in mixed else (key,))


def _mixture(parts: Mapping[str, Part], held: Mapping[str, Amounts], keys: tuple[str, ...]) -> Mixture:
    members = [parts[key] for key in keys]
    known = [weight for member in members if (weight := member.portioned.measured_g) is not None]
    amounts = known if len(known) == len(members) else [member.written_g for member in members]
    shares = tuple(amount / math.fsum(amounts) for amount in amounts)
    part = members[0]
    # The grams of a member are the mixture's times its share, so each part's bounds bind the mixture.
    low = max(member.bounds.minimum_g / share for member, share in zip(members, shares, strict=True))
    high = min(MAXIMUM_CELL_G, *(member.most_g / share for member, share in zip(members, shares, strict=True)))
    given = MAXIMUM_CELL_G if part.bounds.maximum_g is None else part.bounds.maximum_g
    return Mixture(
        keys=keys,
        shares=shares,
        cell=Cell(
            per_100g=total(held[key].times(share) for key, share in zip(keys, shares, strict=True)),
            share=math.fsum(member.sized_share for member in members),
            minimum_g=min(low, high),
            maximum_g=high,
            most_by=Limit.TUB if part.tub_g < given else Limit.AT_MOST,
            contradicts=low > high,
            step_g=part.one_g * part.unit_part if part.is_counted and part.one_g is not None else None,
            density_g_per_ml=1
            / math.fsum(share / member.density_g_per_ml for member, share in zip(members, shares, strict=True)),
            fills=part.place is Place.IN_CONTAINER,
            price=math.fsum(member.portioned.price * share for member, share in zip(members, shares, strict=True)),
            has_unpriced=any(member.portioned.has_unpriced for member in members),
        ),
    )


def _cell(parts: Mapping[str, Part], mixture: Mixture, each: ContainerClass, amounts: Mapping[str, SetAmount]) -> Cell:
    pinned = max((each.pins[key] / share for key, share in mixture.draws.items() if key in each.pins), default=None)
    key = mixture.keys[0]
    amount = amounts.get(key)
    left_out = any(key in each.left_out for key in mixture.keys)
    usual = _usual_most_g(parts[key], mixture.cell, each)
    own = min((each.at_most[key] / share for key, share in mixture.draws.items() if key in each.at_most), default=None)
    if pinned is None and amount is None and not left_out and usual is None and own is None:
        return mixture.cell
    most_g = mixture.cell.maximum_g if usual is None else usual
    most_by = mixture.cell.most_by if usual is None else Limit.USUAL_MOST
    if own is not None and own < most_g:
        most_g, most_by = own, Limit.CLIENT_MOST
    return replace(
        mixture.cell,
        # What a client does not eat goes before the least that everybody gets.
        minimum_g=min(mixture.cell.minimum_g, most_g),
        maximum_g=most_g,
        most_by=most_by,
        pinned_g=None if pinned is None else min(pinned, MAXIMUM_CELL_G),
        set_g=None if amount is None else min(amount.grams, MAXIMUM_CELL_G),
        set_by=None if amount is None else amount.by,
        left_out=left_out,
    )


def _usual_most_g(part: Part, cell: Cell, each: ContainerClass) -> float | None:
    """The usual most where nobody gave one and the component is solved for by itself; never below its least, nor more
    than its tub holds."""
    if part.school is not School.BY_COMPONENT or part.bounds.maximum_g is not None:
        return None
    most = usual_most_g(
        part.role,
        capacity_ml=each.capacity_ml,
        capacity_g=each.capacity_g,
        density_g_per_ml=part.density_g_per_ml,
    )
    return None if part.tub_g < most else max(most, cell.minimum_g)
