"""From components as they are written to components as they are cooked.

What is written names foods and other components by key; the cookbook knows them. Here it is decided which yield a line
has: the coach's own, else what this kitchen measured, else what is published (yield_choice), and how a component that
is made of others is unfolded into lines of foods.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Hashable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from yantai.core.cooking.components import UNCOOKED, Component, Line, LineRole
from yantai.core.cooking.learned import learn
from yantai.core.cooking.liquids import Lid, boil_off
from yantai.core.cooking.yield_choice import Cookable, Factors, choose
from yantai.core.cooking.yields import READY, UNCHANGED, YieldRange, YieldSource
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import Amounts

MAIN_SHARE = 0.9
"""A component's yield is about one food where that is at least this share of its edible weight."""


@dataclass(frozen=True, slots=True, kw_only=True)
class WrittenLine:
    """A line as it is written: `purchased_g` [g] of a food, or of another component, by key.

    Attributes:
        refuse_share: what of it is not edible, before cooking or, with `refuse_after`, after.
        retained_share: what of the cooked line gets into the dish.
        yield_factor: the coach's own; None to let the cookbook choose.
        unfolded: it came out of another component, and its yield is that of the way through it.
    """

    food: Hashable | None = None
    component: Hashable | None = None
    purchased_g: float
    refuse_share: float = 0.0
    refuse_after: bool = False
    retained_share: float = 1.0
    yield_factor: float | None = None
    unfolded: bool = False
    counted: bool = True
    scales: bool = True


@dataclass(frozen=True, slots=True, kw_only=True)
class WrittenComponent:
    """A component as it is written.

    Attributes:
        key: what lines of other components name it by; None while it has none.
        history: by what its own weighings are known; None where it cannot have any.
        yield_expected: the coach's own yield for the whole component, with its range where there is one.
        cook_min: minutes on the heat; None where nobody said.
    """

    key: Hashable | None = None
    history: Hashable | None = None
    name: str
    method: str
    lines: tuple[WrittenLine, ...]
    yield_low: float | None = None
    yield_expected: float | None = None
    yield_high: float | None = None
    poured_fat_g: float = 0.0
    pieces: int | None = None
    lid: Lid = Lid.UNSAID
    cook_min: float | None = None

    @property
    def set_yield(self) -> YieldRange | None:
        """The coach's own yield; one figure alone is a range of no width.

        Raises:
            CoreError: it is none that food can have.
        """
        expected = self.yield_expected
        if expected is None:
            return None
        low = expected if self.yield_low is None else self.yield_low
        high = expected if self.yield_high is None else self.yield_high
        return YieldRange(low=low, expected=expected, high=high, source=YieldSource.COACH)


@dataclass(frozen=True, slots=True, kw_only=True)
class KnownFood:
    """A food with what is known of its yields.

    Attributes:
        composition: amounts per 100 g edible portion.
        measured: yields that were measured in this kitchen, by method.
        counted: False where the workspace counts it as free.
        bought: the key that it is bought under; None where nobody asks.
    """

    cookable: Cookable
    composition: Amounts
    factors: Factors = field(default_factory=Factors)
    measured: Mapping[str, Sequence[float]] = field(default_factory=dict)
    counted: bool = True
    bought: Hashable = None


@dataclass(frozen=True, slots=True, kw_only=True)
class UnfoldedLine:
    """Line number `index` of `owner`, at the size [g] and with the yield it has in the component that was unfolded."""

    owner: WrittenComponent
    index: int
    purchased_g: float
    yield_factor: float | None
    retained_share: float
    counted: bool

    @property
    def line(self) -> WrittenLine:
        """The line as it is written where it stands."""
        return self.owner.lines[self.index]


@dataclass(frozen=True, slots=True, kw_only=True)
class _Share:
    """A line for one gram of a cooked component, with the yield along the way."""

    owner: WrittenComponent
    index: int
    share: float
    yield_factor: float
    retained_share: float
    counted: bool

    @property
    def line(self) -> WrittenLine:
        return self.owner.lines[self.index]


@dataclass(frozen=True, slots=True, kw_only=True)
class Cookbook:
    """Foods and components by key, and what was measured of components [cooked over edible weight]."""

    foods: Mapping[Any, KnownFood]
    components: Mapping[Any, WrittenComponent] = field(default_factory=dict)
    measured: Mapping[Any, Sequence[float]] = field(default_factory=dict)

    def make(self, written: WrittenComponent, *, measured_g: float | None = None) -> Component:
        """The component that is cooked of what is written; `measured_g` [g] is its cooked weight, where it was weighed.

        Raises:
            CoreError: a value is out of range, nothing is in it, or it is made of itself.
        """
        return self._make(written, measured_g=measured_g, inside=())

    def composition(self, line: WrittenLine) -> Amounts:
        """Amounts per 100 g of what a line holds: a food, or another component as it comes out of its pot."""
        if line.component is not None:
            return self._inner(line.component, ()).per_100g
        return self.foods[line.food].composition

    def expected_yields(self, written: WrittenComponent) -> list[YieldRange]:
        """The yield of each line, by the best source there is; of liquid, by the balance of its pot."""
        try:
            made = self.make(written)
        except CoreError:
            return [self.expected_yield(line, written.method) for line in written.lines]
        return list(replace(made, set_yield=None).line_yields)

    def expected_yield(self, line: WrittenLine, method: str) -> YieldRange:
        """The yield of one line by itself, by the best source there is."""
        if line.component is not None:
            return _of_component(line, method)
        return self._line_yield(line, method, measured=True)

    def published_yield(self, line: WrittenLine, method: str) -> YieldRange:
        """The yield of one line without the coach's own and without what this kitchen measured."""
        if line.component is not None:
            return _of_component(line, method)
        food = self.foods[line.food]
        return choose(food.cookable, method, food.factors)

    def prior(self, written: WrittenComponent) -> YieldRange:
        """The yield of a whole component by its lines, before anything was measured here.

        Raises:
            CoreError: the component makes no sense.
        """
        foods = {key: replace(food, measured={}) for key, food in self.foods.items()}
        return _whole_yield(replace(self, foods=foods, measured={}).make(written))

    def is_counted(self, line: WrittenLine) -> bool:
        """False where the line, or the workspace's rule for free foods, leaves it out."""
        return line.counted and (line.component is not None or self.foods[line.food].counted)

    def foods_of(self, lines: Iterable[WrittenLine]) -> list[Hashable]:
        """The keys of the known foods of these lines, those of components they are made of too; each once."""
        return list(dict.fromkeys(self._foods_of(lines, set())))

    def main_food(self, written: WrittenComponent) -> Hashable | None:
        """The one food that a component's yield is about (`MAIN_SHARE` of what counts in it), else None."""
        weights: dict[Hashable, float] = defaultdict(float)
        for line in written.lines:
            if line.component is not None:
                return None
            if self.foods[line.food].cookable.role is LineRole.FOOD:
                weights[line.food] += line.purchased_g * (1 - line.refuse_share)
        whole = sum(weights.values())
        return next((key for key, weight in weights.items() if whole and weight >= MAIN_SHARE * whole), None)

    def unfold(self, written: WrittenComponent) -> list[UnfoldedLine]:
        """The lines of a component with those of the components it is made of in their place.

        A line of `g` grams of another component becomes the lines of that one, each times `g` over its cooked weight;
        their yields are multiplied along the way, so that grams and macros of the whole stay what they were.

        Raises:
            CoreError: a component makes no sense, or is made of itself.
        """
        unfolded: list[UnfoldedLine] = []
        for index, line in enumerate(written.lines):
            if line.component is None:
                unfolded.append(
                    UnfoldedLine(
                        owner=written,
                        index=index,
                        purchased_g=line.purchased_g,
                        yield_factor=line.yield_factor,
                        retained_share=line.retained_share,
                        counted=line.counted,
                    )
                )
                continue
            outer = self.expected_yield(line, written.method).expected
            unfolded += [
                UnfoldedLine(
                    owner=inner.owner,
                    index=inner.index,
                    purchased_g=inner.line.purchased_g * inner.share * line.purchased_g,
                    yield_factor=inner.yield_factor * outer,
                    retained_share=inner.retained_share * line.retained_share,
                    counted=inner.counted and line.counted,
                )
                for inner in self._shares(line.component)
            ]
        return unfolded

    def poured_within(self, written: WrittenComponent) -> float:
        """Fat [g] poured off the components that this one is made of, at the size they are used in, where it counts."""
        poured = 0.0
        for line in written.lines:
            if line.component is not None and line.counted:
                inner = self.components[line.component]
                of_it = line.purchased_g * line.retained_share / self.make(inner).cooked_g
                poured += (inner.poured_fat_g + self.poured_within(inner)) * of_it
        return poured

    def _shares(self, key: Hashable) -> Iterator[_Share]:
        """The food lines of a component for one gram of it cooked."""
        written = self.components[key]
        made = self.make(written)
        share = 1 / made.cooked_g
        by_lines = sum(made.line_cooked_g())
        # A yield set for the whole component is spread over its lines.
        spread = made.cooked_g / by_lines if by_lines else 1.0
        for index, (line, cooked) in enumerate(zip(written.lines, made.line_yields, strict=True)):
            own = _Share(
                owner=written,
                index=index,
                share=share,
                yield_factor=cooked.expected * spread,
                retained_share=line.retained_share,
                counted=line.counted,
            )
            if line.component is None:
                yield own
                continue
            for inner in self._shares(line.component):
                yield _Share(
                    owner=inner.owner,
                    index=inner.index,
                    share=inner.share * line.purchased_g * share,
                    yield_factor=inner.yield_factor * own.yield_factor,
                    retained_share=inner.retained_share * line.retained_share,
                    counted=inner.counted and line.counted,
                )

    def _make(
        self, written: WrittenComponent, *, measured_g: float | None, inside: tuple[WrittenComponent, ...]
    ) -> Component:
        path = (*inside, written) if written.key is not None else inside
        if len({each.key for each in path}) < len(path):
            names = " → ".join(each.name for each in path)
            raise CoreError(f"“{written.name}” is made of itself: {names}. Take one of these lines out", field="lines")
        own = written.set_yield
        history = self.measured.get(written.history, ()) if written.history is not None else ()
        lines = tuple(self._line(line, written.method, inside=path, measured=not history) for line in written.lines)
        made = Component(
            name=written.name,
            lines=lines,
            measured_g=measured_g,
            cooked=written.method != UNCOOKED,
            boils_off=None
            if _has_own_water(written, lines)
            else boil_off(lines, written.method, lid=written.lid, minutes=written.cook_min),
            set_yield=own,
            poured_fat_g=written.poured_fat_g,
            pieces=written.pieces,
        )
        if own is None and history and made.cooked:
            # The component's own history stands in for its lines; the lines without measurements are the prior.
            return replace(made, set_yield=learn(_whole_yield(made), history).estimate)
        return made

    def _line(self, line: WrittenLine, method: str, *, inside: tuple[WrittenComponent, ...], measured: bool) -> Line:
        if line.component is not None:
            inner = self._inner(line.component, inside)
            name, composition, role, wet = inner.name, inner.per_100g, LineRole.FOOD, False
            bought: Hashable = None
            yield_range = _of_component(line, method)
        else:
            food = self.foods[line.food]
            name, composition, role = food.cookable.name, food.composition, food.cookable.role
            bought = food.bought
            wet = line.yield_factor is None and food.cookable.is_wet
            yield_range = self._line_yield(line, method, measured=measured)
        return Line(
            name=name,
            bought=bought,
            purchased_g=line.purchased_g,
            refuse_share=line.refuse_share,
            refuse_after=line.refuse_after,
            retained_share=line.retained_share,
            counted=self.is_counted(line),
            scales=line.scales,
            composition=composition,
            role=role,
            wet=wet,
            yield_range=yield_range,
        )

    def _inner(self, key: Hashable, inside: tuple[WrittenComponent, ...]) -> Component:
        written = self.components.get(key)
        if written is None:
            raise CoreError("a component that this one is made of was removed; take its line out", field="lines")
        return self._make(written, measured_g=None, inside=inside)

    def _line_yield(self, line: WrittenLine, method: str, *, measured: bool) -> YieldRange:
        own = line.yield_factor
        if own is not None:
            source = YieldSource.WITHIN if line.unfolded else YieldSource.COACH
            return YieldRange(low=own, expected=own, high=own, source=source)
        food = self.foods[line.food]
        history = food.measured.get(method, ()) if measured else ()
        return learn(choose(food.cookable, method, food.factors), history).estimate

    def _foods_of(self, lines: Iterable[WrittenLine], seen: set[Hashable]) -> Iterator[Hashable]:
        for line in lines:
            if line.component is not None:
                if line.component in self.components and line.component not in seen:
                    seen.add(line.component)
                    yield from self._foods_of(self.components[line.component].lines, seen)
            elif line.food in self.foods:
                yield line.food


def _has_own_water(written: WrittenComponent, lines: Sequence[Line]) -> bool:
    """The coach gave a yield for the water of this component, so nothing is left to balance."""
    return any(line.is_water and each.yield_factor is not None for each, line in zip(written.lines, lines, strict=True))


def _whole_yield(made: Component) -> YieldRange:
    """The yield of a whole component that its lines lead to."""
    known = made.expected_yield
    return YieldRange(
        low=made.expected_low_g / made.basis_g,
        expected=made.expected_g / made.basis_g,
        high=made.expected_high_g / made.basis_g,
        source=known.source if known is not None else YieldSource.LINES,
    )


def _of_component(line: WrittenLine, method: str) -> YieldRange:
    """The yield of another component in this one: it is cooked already, unless the coach says otherwise."""
    own = line.yield_factor
    if own is not None:
        return YieldRange(low=own, expected=own, high=own, source=YieldSource.COACH)
    return UNCHANGED if method == UNCOOKED else READY
