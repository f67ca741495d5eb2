"""A whole batch: grams for every container, and back to what must be cooked and bought."""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum

from yantai.core.cooking.surely import sure_factor
from yantai.core.errors import require_range
from yantai.core.foods.edible import purchased_g
from yantai.core.planning.cells import Asked
from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.planning.portioning import PartKey, School
from yantai.core.portions import Container, Portions, Sharing, solve_all
from yantai.core.portions.stop import stop_band

ENGINE = 2
"""Raised whenever the same question would be answered with other grams: a plan tells by which it was computed."""


class Leftover(StrEnum):
    """What becomes of what the weighed components hold beyond the need."""

    KEEP = "keep"
    SPREAD = "spread"
    EXTRA = "extra containers"


@dataclass(frozen=True, slots=True, kw_only=True)
class LineNeed:
    """One ingredient of a component for this batch [g]."""

    name: str
    purchased_g: float
    edible_g: float
    cooked_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentNeed:
    """The chain of one component [g] over all dishes: bought → edible → cooked → in containers, and what is left over.

    Attributes:
        needed_g: what all containers together take of its pot.
        fresh_g: what is added of it at eating, which no pot gives.
        by_dish_g: both together for each dish that has it, by the dish's key.
        cooked_g: what this component gives: measured, or expected of its raw amounts.
        spare_g: cooked less needed; negative when the component is short.
        basis_g: edible weight the yield refers to.
        part: the component at the size of this batch, as the first of its dishes has it.
        stays_over: all of it was to go into the containers, and what is spare found no place in them.
    """

    needed_g: float
    fresh_g: float
    by_dish_g: Mapping[str, float]
    cooked_g: float
    cooked_low_g: float
    cooked_high_g: float
    spare_g: float
    basis_g: float
    lines: tuple[LineNeed, ...]
    part: Part
    stays_over: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class SpareContainers:
    """Containers of a dish for nobody yet, made of what is over: how many, and the grams of each component [g] by
    key."""

    count: int
    grams: Mapping[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """What the engine was asked for one class, and answered; `draws` say of each of its cells which components it is
    made of, with their shares of it."""

    container: Container
    answer: Portions
    draws: tuple[Mapping[str, float], ...]

    @property
    def keys(self) -> tuple[tuple[str, ...], ...]:
        """The components of each cell."""
        return tuple(tuple(draws) for draws in self.draws)


_LACKS_G = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Portions of each container class, in order, with the components they are grams of, how many containers it has,
    the needs of each component by key, the questions behind them, and spare containers by dish."""

    portions: tuple[Portions, ...]
    keys: tuple[tuple[str, ...], ...]
    needs: Mapping[str, ComponentNeed]
    questions: tuple[Question, ...]
    counts: tuple[int, ...]
    undecided: frozenset[int] = frozenset()
    extra: Mapping[str, SpareContainers] | None = None

    def grams(self, index: int) -> dict[str, float]:
        """Grams [g] of each component in one container of a class."""
        return dict(zip(self.keys[index], self.portions[index].grams, strict=True))

    def stops(self, index: int) -> dict[str, tuple[float, float]]:
        """Between which grams [g] filling of each component may stop in one container of a class."""
        question = self.questions[index]
        found: dict[str, tuple[float, float]] = {}
        for cell, draws in enumerate(question.draws):
            low, high = stop_band(question.container, question.answer, cell)
            found |= {key: (low * share, high * share) for key, share in draws.items()}
        return found

    @property
    def lacking_g(self) -> dict[str, float]:
        """Grams [g] that a weighed component lacks for what was pinned, by its key; pins are the coach's own."""
        return {
            key: -need.spare_g for key, need in self.needs.items() if need.part.weighed and need.spare_g < -_LACKS_G
        }

    @property
    def all_met(self) -> bool:
        """Every container there is one of is known to meet its target and has chosen of its groups, and no weighed
        component is overdrawn."""
        met = all(portion.met for portion, count in zip(self.portions, self.counts, strict=True) if count)
        return met and not self.undecided and not self.lacking_g

    @property
    def over_g(self) -> dict[str, float]:
        """What is over [g], by key, of components that are divided or whose leftovers are spread: the cook's."""
        return {key: need.spare_g for key, need in self.needs.items() if need.stays_over and need.spare_g > _LACKS_G}


def plan(
    dishes: Mapping[str, Dish],
    classes: Sequence[ContainerClass],
    *,
    step_g: float = 1.0,
    buffer_share: float = 0.0,
    sure_share: float | None = None,
    sharing: Sharing = Sharing.FAIR,
    leftover: Leftover = Leftover.KEEP,
) -> Plan:
    """Compute a batch of one or several dishes.

    Pans whose raw amounts are free are cooked to the need plus `buffer_share` of it (tasting, spill); with `sure_share`
    to so much more that what cooks suffices with this probability, however its yield comes out (`cooking.surely`). What
    is counted in pieces suffices by its number.
    A weighed component is never portioned beyond its weight, whichever dishes take from it: `sharing` says who goes
    short when the containers would take more. `leftover` says what becomes of what the weighed components hold beyond
    the need.

    Raises:
        CoreError: there are no components, or a value is out of its range.
    """
    require_range("buffer_share", buffer_share, low=0, high=0.5, unit="of the need")
    asked = Asked(dishes, classes, step_g=step_g, ranked=sharing is Sharing.RANKED)
    demands, supply = asked.demands()
    answers = solve_all(demands, supply, sharing=sharing, spread=leftover is Leftover.SPREAD)
    solved = tuple(asked.taken_apart(index, answer) for index, answer in enumerate(answers))
    keys = tuple(tuple(dishes[each.dish].parts) for each in classes)
    needs = {
        key: replace(
            _need(key, dishes, asked.equal_g, _by_dish(key, dishes, classes, solved), buffer_share, sure_share),
            stays_over=any(part.school is School.EQUAL_SPLIT for part in _parts(key, dishes).values())
            or (part.weighed and leftover is Leftover.SPREAD),
        )
        for key, part in asked.pots.items()
    }
    return Plan(
        portions=solved,
        keys=keys,
        needs=needs,
        questions=tuple(
            Question(container=demand.container, answer=answer, draws=tuple(mixture.draws for mixture in mixtures))
            for demand, answer, mixtures in zip(demands, answers, asked.mixtures, strict=True)
        ),
        counts=tuple(each.count for each in classes),
        undecided=frozenset(
            index for index, each in enumerate(classes) if each.count and dishes[each.dish].open_groups(each)
        ),
        extra=_extra(dishes, needs, classes) if leftover is Leftover.EXTRA else None,
    )


def _parts(key: str, dishes: Mapping[str, Dish]) -> dict[str, Part]:
    """The parts of a component by their dish."""
    return {name: dish.parts[key] for name, dish in dishes.items() if key in dish.parts}


def _by_dish(
    key: str, dishes: Mapping[str, Dish], classes: Sequence[ContainerClass], solved: Sequence[Portions]
) -> dict[str, float]:
    """What all containers of each dish take of a component [g]."""
    found = {}
    for name, dish in dishes.items():
        if key in dish.parts:
            place = list(dish.parts).index(key)
            found[name] = math.fsum(
                p.grams[place] * c.count for p, c in zip(solved, classes, strict=True) if c.dish == name
            )
    return found


def _need(
    key: str,
    dishes: Mapping[str, Dish],
    equal_g: Mapping[PartKey, float],
    by_dish_g: Mapping[str, float],
    buffer_share: float,
    sure_share: float | None,
) -> ComponentNeed:
    parts = _parts(key, dishes)
    part = next(iter(parts.values()))
    component = part.portioned
    cooked_here = [name for name, one in parts.items() if one.is_cooked_here]
    needed_g = math.fsum(by_dish_g[name] for name in cooked_here)
    fresh_g = math.fsum(grams for name, grams in by_dish_g.items() if name not in cooked_here)
    alone_as_written = part.school is School.EQUAL_SPLIT and len(parts) == 1 and part.takes_g is None
    if not (part.raw_fixed or part.weighed or alone_as_written):
        # What is divided, or set aside, is cooked whatever the containers then take of it, and no more.
        asides = {name: _aside_g(name, key, parts[name], equal_g) for name in cooked_here}
        as_needed_g = math.fsum(by_dish_g[name] for name, aside in asides.items() if aside is None)
        aside_g = math.fsum(aside for aside in asides.values() if aside is not None)
        to_cook_g = _to_cook_g(parts.values(), as_needed_g, aside_g, buffer_share) + fresh_g
        if not to_cook_g:
            return _nothing_needed(part, by_dish_g)
        if sure_share is not None and not part.is_counted:
            to_cook_g *= sure_factor(component.expected_g, component.expected_low_g, sure_share)
        factor = to_cook_g / component.cooked_g
        if part.whole_pans:
            factor = math.ceil(factor - 1e-9)
        component = component.times(factor)
        sized = part.component
        if part.school is School.BUILT_RAW:
            sized = replace(sized, pieces=sized.pieces or 1)
        part = replace(part, component=sized.times(factor))
    lines = tuple(
        LineNeed(
            name=line.name,
            purchased_g=purchased_g(line.edible_g, line.refuse_share),
            edible_g=line.edible_g,
            cooked_g=cooked_g,
        )
        for line, cooked_g in zip(component.lines, component.line_cooked_g(), strict=True)
    )
    return ComponentNeed(
        needed_g=needed_g,
        fresh_g=fresh_g,
        by_dish_g=by_dish_g,
        cooked_g=component.cooked_g,
        cooked_low_g=component.expected_low_g,
        cooked_high_g=component.expected_high_g,
        spare_g=component.cooked_g - needed_g - (0.0 if part.weighed else fresh_g),
        basis_g=component.basis_g,
        lines=lines,
        part=part,
    )


def _aside_g(name: str, key: str, part: Part, equal_g: Mapping[PartKey, float]) -> float | None:
    """What a dish divides of a pot, or has set aside of it [g]; None where it takes what its containers need."""
    return equal_g.get((name, key), part.takes_g)


def _to_cook_g(parts: Collection[Part], needed_g: float, aside_g: float, buffer_share: float) -> float:
    """Grams [g] to cook for a need and what is set aside: whole pieces and units, of which the extra for tasting and
    spill is whole too."""
    counted = next((part for part in parts if part.one_g and part.school in (School.PIECES, School.BUILT_RAW)), None)
    if counted is None or counted.one_g is None:
        return needed_g * (1 + buffer_share) + aside_g
    needed = math.ceil((needed_g + aside_g) / counted.one_g - 1e-9)
    spare = 0 if counted.school is School.BUILT_RAW else math.floor(needed * buffer_share + 1e-9)
    return (needed + spare) * counted.one_g


def _nothing_needed(part: Part, by_dish_g: Mapping[str, float]) -> ComponentNeed:
    lines = tuple(
        LineNeed(name=line.name, purchased_g=0.0, edible_g=0.0, cooked_g=0.0) for line in part.component.lines
    )
    return ComponentNeed(
        needed_g=0.0,
        fresh_g=0.0,
        by_dish_g=by_dish_g,
        cooked_g=0.0,
        cooked_low_g=0.0,
        cooked_high_g=0.0,
        spare_g=0.0,
        basis_g=0.0,
        lines=lines,
        part=part,
    )


def _extra(
    dishes: Mapping[str, Dish], needs: Mapping[str, ComponentNeed], classes: Sequence[ContainerClass]
) -> dict[str, SpareContainers] | None:
    """More containers of each dish like its average one, as many as the components have left for, the first dish first;
    None while one is not weighed."""
    pots = [need for need in needs.values() if not need.fresh_g or need.needed_g]
    if not any(each.count for each in classes) or not all(need.part.weighed for need in pots):
        return None
    left = {key: need.spare_g for key, need in needs.items()}
    found = {}
    for name, dish in dishes.items():
        containers = sum(each.count for each in classes if each.dish == name)
        average = {key: needs[key].by_dish_g[name] / containers for key in dish.parts if containers}
        average = {key: grams for key, grams in average.items() if grams}
        pot_g = {key: grams for key, grams in average.items() if dish.parts[key].is_cooked_here}
        count = max(min((int((left[key] + 1e-6) // grams) for key, grams in pot_g.items()), default=0), 0)
        for key, grams in pot_g.items():
            left[key] -= count * grams
        found[name] = SpareContainers(count=count, grams=average)
    return found
