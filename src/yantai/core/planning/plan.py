"""A whole batch: grams for every container, and back to what must be cooked and bought."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from enum import StrEnum

from yantai.core.cooking.components import Component
from yantai.core.errors import CoreError, require_range
from yantai.core.foods.edible import purchased_g
from yantai.core.foods.nutrients import Amounts, total
from yantai.core.planning.portioning import (
    COUNTED,
    UNBOUNDED,
    Bounds,
    PortionRule,
    Room,
    School,
    SetAmount,
    check_portioning,
    set_amounts,
    usual_most_g,
)
from yantai.core.portions import Cell, Container, Demand, Portions, Sharing, solve_all
from yantai.core.portions.problem import DEFAULT_DENSITY_G_PER_ML, MAXIMUM_CELL_G, Limit, check_room, portions
from yantai.core.portions.relaxed import step_bounds
from yantai.core.speaking import weight
from yantai.core.targets.targets import Target, Tolerance

ENGINE = 1
"""Raised whenever the same question would be answered with other grams: a plan tells by which it was computed."""


class Leftover(StrEnum):
    """What becomes of what the weighed components hold beyond the need."""

    KEEP = "keep"
    SPREAD = "spread"
    EXTRA = "extra containers"


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """A component as this batch cooks it.

    Attributes:
        component: its lines; proportions while `raw_fixed` is false, else the very grams in the pot.
        share: its weight in the recipe as written [g cooked].
        raw_fixed: the raw amounts were typed or the component was weighed, so they no longer follow the need.
        role: what it is on the plate; only where nobody gave a most does anything depend on it.
        bounds: the least and the most in one container; `usual_most_g` stands in by role where nobody gave a most.
        unit_g: grams of one scoop, from one weighed scoop [g]; of one piece where the component does not say.
        unit_part: the smallest part of a piece, scoop or built unit that is given: 1, or 0.5 for halves.
        plate_share: share of the plate, in any unit common to the components in shares.
        eye_g: grams [g] of an amount that is not weighed.
    """

    component: Component
    share: float
    school: School = School.BY_COMPONENT
    role: str = "mixed"
    raw_fixed: bool = False
    bounds: Bounds = UNBOUNDED
    density_g_per_ml: float = DEFAULT_DENSITY_G_PER_ML
    unit_g: float | None = None
    unit_part: float = 1.0
    plate_share: float = 1.0
    eye_g: float = 0.0

    def __post_init__(self) -> None:
        if self.school is School.BUILT_RAW and (self.one_g or 0) > MAXIMUM_CELL_G:
            raise CoreError(
                f"the lines of “{self.component.name}” are one unit that is built raw, of {weight(self.one_g or 0)}: "
                "say how many units they make",
                field="pieces",
            )
        check_portioning(
            self.school,
            self.component.name,
            pieces=self.component.pieces,
            unit_g=self.unit_g,
            unit_part=self.unit_part,
            plate_share=self.plate_share,
            eye_g=self.eye_g,
        )

    @property
    def weighed(self) -> bool:
        """The cooked weight is off the scale."""
        return self.portioned.measured_g is not None

    @property
    def is_counted(self) -> bool:
        """It goes into containers by whole units."""
        return self.school in COUNTED

    @property
    def is_estimated(self) -> bool:
        """Nobody weighs it into the container."""
        return self.school is School.BY_EYE

    @property
    def one_g(self) -> float | None:
        """Grams of one piece or scoop [g]; of one unit that is built raw, as its ingredients lie on the scale."""
        if self.school is School.BUILT_RAW:
            return self.portioned.cooked_g / (self.component.pieces or 1)
        if self.school is School.PIECES and self.component.piece_g is not None:
            return self.component.piece_g
        return self.unit_g

    @property
    def most_g(self) -> float:
        """The most in one container [g] that the coach gave, or any."""
        return MAXIMUM_CELL_G if self.bounds.maximum_g is None else self.bounds.maximum_g

    @property
    def sized_share(self) -> float:
        """Its weight in the recipe [g], by what it really weighs: a component that came out lighter is less of the
        plate, so that what stands beside it keeps its amount."""
        expected = replace(self.component, measured_g=None).expected_g if self.weighed else 0.0
        return self.share * self.portioned.cooked_g / expected if expected else self.share

    @property
    def portioned(self) -> Component:
        """What goes into the containers: the cooked component, or its raw ingredients where units are built raw."""
        return self.component.built_raw if self.school is School.BUILT_RAW else self.component

    @property
    def stays_as_written(self) -> bool:
        """The amounts to cook do not follow from the containers."""
        return self.raw_fixed or self.weighed or self.school is School.EQUAL_SPLIT


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerClass:
    """Equal containers: one client, slot and day type. Keys of `pins` and `left_out` are component keys.

    Attributes:
        rank: where a shortfall is shared by rank, 0 goes before 1.
        plate_g: the whole plate of the components in shares [g]; None for `DEFAULT_PLATE_G`.
    """

    target: Target
    tolerance: Tolerance
    count: int
    capacity_ml: float | None = None
    capacity_g: float | None = None
    rank: int = 0
    plate_g: float | None = None
    pins: Mapping[str, float] = field(default_factory=dict)
    left_out: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        require_range("count", self.count, low=0, high=100, unit="containers")
        check_room(capacity_ml=self.capacity_ml, capacity_g=self.capacity_g, plate_g=self.plate_g)


@dataclass(frozen=True, slots=True, kw_only=True)
class LineNeed:
    """One ingredient of a component for this batch [g]."""

    name: str
    purchased_g: float
    edible_g: float
    cooked_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentNeed:
    """The chain of one component [g]: bought → edible → cooked → in containers, and what is left over.

    Attributes:
        needed_g: in all containers together.
        cooked_g: what this component gives: measured, or expected of its raw amounts.
        spare_g: cooked less needed; negative when the component is short.
        basis_g: edible weight the yield refers to.
        part: the component at the size of this batch.
        stays_over: all of it was to go into the containers, and what is spare found no place in them.
    """

    needed_g: float
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
    """Containers for nobody yet, made of what is over: how many, and the grams of each component [g] by key."""

    count: int
    grams: Mapping[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Question:
    """What the engine was asked for one class, and answered; `keys` are the components of each of its cells."""

    container: Container
    answer: Portions
    keys: tuple[tuple[str, ...], ...]


_LACKS_G = 0.05


@dataclass(frozen=True, slots=True, kw_only=True)
class Plan:
    """Portions of each container class, in order, how many containers it has, the needs of each component by
    key, and the questions behind them."""

    portions: tuple[Portions, ...]
    needs: Mapping[str, ComponentNeed]
    questions: tuple[Question, ...]
    counts: tuple[int, ...]
    extra: SpareContainers | None = None

    @property
    def lacking_g(self) -> dict[str, float]:
        """Grams [g] that a weighed component lacks for what was pinned, by its key; pins are the coach's own."""
        return {
            key: -need.spare_g for key, need in self.needs.items() if need.part.weighed and need.spare_g < -_LACKS_G
        }

    @property
    def all_met(self) -> bool:
        """Every container there is one of is known to meet its target, and no weighed component is overdrawn."""
        met = all(portion.met for portion, count in zip(self.portions, self.counts, strict=True) if count)
        return met and not self.lacking_g

    @property
    def over_g(self) -> dict[str, float]:
        """What is over [g], by key, of components that are divided or whose leftovers are spread: the cook's."""
        return {key: need.spare_g for key, need in self.needs.items() if need.stays_over and need.spare_g > _LACKS_G}


def plan(
    parts: Mapping[str, Part],
    classes: Sequence[ContainerClass],
    *,
    step_g: float = 1.0,
    buffer_share: float = 0.0,
    sharing: Sharing = Sharing.FAIR,
    leftover: Leftover = Leftover.KEEP,
) -> Plan:
    """Compute a batch.

    Pans whose raw amounts are free are cooked to the need plus `buffer_share` of it (tasting, spill).
    A weighed component is never portioned beyond its weight: `sharing` says who goes short when the containers
    would take more. `leftover` says what becomes of what the weighed components hold beyond the need.

    Raises:
        CoreError: there are no components, or a value is out of its range.
    """
    require_range("buffer_share", buffer_share, low=0, high=0.5, unit="of the need")
    held, mixtures = _held(parts)
    ranked = sharing is Sharing.RANKED
    demands = [
        Demand(container=container, count=each.count, rank=each.rank)
        for each, container in zip(classes, _containers(parts, mixtures, classes, step_g, ranked=ranked), strict=True)
    ]
    supply = [mixture.supply_g for mixture in mixtures]
    spread = frozenset(range(len(mixtures))) if leftover is Leftover.SPREAD else frozenset()
    answers = solve_all(demands, supply, sharing=sharing, spread=spread)
    solved = tuple(
        _by_component(held, mixtures, demand.container, answer) for demand, answer in zip(demands, answers, strict=True)
    )
    needs = {
        key: replace(
            _need(part, _needed_g(index, classes, solved), buffer_share),
            stays_over=part.school is School.EQUAL_SPLIT or (part.weighed and leftover is Leftover.SPREAD),
        )
        for index, (key, part) in enumerate(parts.items())
    }
    extra = _extra(needs, sum(each.count for each in classes)) if leftover is Leftover.EXTRA else None
    keys = tuple(mixture.keys for mixture in mixtures)
    questions = tuple(
        Question(container=demand.container, answer=answer, keys=keys)
        for demand, answer in zip(demands, answers, strict=True)
    )
    counts = tuple(each.count for each in classes)
    return Plan(portions=solved, needs=needs, questions=questions, counts=counts, extra=extra)


def containers(parts: Mapping[str, Part], classes: Sequence[ContainerClass], *, step_g: float) -> tuple[Container, ...]:
    """What the engine is asked for each class, before anything is solved.

    Raises:
        CoreError: there are no components, or a value is out of its range.
    """
    _, mixtures = _held(parts)
    return _containers(parts, mixtures, classes, step_g, ranked=False)


@dataclass(frozen=True, slots=True, kw_only=True)
class _Mixture:
    """What the engine sees as one component: a component, or the components of one mixture with their shares of it.

    Attributes:
        cell: the cell in a container that neither pins nor leaves anything out.
        supply_g: what there is of it [g], None while a part of it is not weighed.
    """

    keys: tuple[str, ...]
    shares: tuple[float, ...]
    cell: Cell
    supply_g: float | None


def _held(parts: Mapping[str, Part]) -> tuple[dict[str, Amounts], list[_Mixture]]:
    """What 100 g of each component hold, and the mixtures that the engine sees."""
    if not parts:
        raise CoreError("this recipe has no components: add one before planning with it", field="components")
    held = {key: part.portioned.per_100g for key, part in parts.items()}
    return held, _mixtures(parts, held)


def _containers(
    parts: Mapping[str, Part],
    mixtures: Sequence[_Mixture],
    classes: Sequence[ContainerClass],
    step_g: float,
    *,
    ranked: bool,
) -> tuple[Container, ...]:
    by_rule = set_amounts(
        {key: _portion_rule(part) for key, part in parts.items() if part.school in _SET},
        [_room(parts, mixtures, each, step_g) for each in classes],
        {key: part.density_g_per_ml for key, part in parts.items()},
        step_g=step_g,
        ranked=ranked,
    )
    return tuple(
        Container(
            cells=tuple(_cell(parts, mixture, each, {**_one_each(parts, each), **amounts}) for mixture in mixtures),
            target=each.target,
            tolerance=each.tolerance,
            step_g=step_g,
            capacity_ml=each.capacity_ml,
            capacity_g=each.capacity_g,
        )
        for each, amounts in zip(classes, by_rule, strict=True)
    )


_SET = (School.EQUAL_SPLIT, School.PLATE_SHARES, School.BY_EYE)


def untold(parts: Mapping[str, Part], each: ContainerClass) -> list[str]:
    """Keys of the components of which nothing says how much goes into these containers.

    What is split equally, in plate shares, by eye or built as units needs no target; everything else does, unless it
    is pinned or left out.
    """
    if each.target.aims or not each.count:
        return []
    told = {*each.pins, *each.left_out}
    return [key for key, part in parts.items() if part.school not in (*_SET, School.BUILT_RAW) and key not in told]


def _one_each(parts: Mapping[str, Part], each: ContainerClass) -> dict[str, SetAmount]:
    """One unit that is built raw, where no target says how many."""
    if each.target.aims:
        return {}
    return {
        key: SetAmount(grams=part.one_g or 0.0, by=Limit.SET)
        for key, part in parts.items()
        if part.school is School.BUILT_RAW and key not in each.pins and key not in each.left_out
    }


def _portion_rule(part: Part) -> PortionRule:
    is_known = part.weighed or part.school is School.EQUAL_SPLIT
    return PortionRule(
        school=part.school,
        density_g_per_ml=part.density_g_per_ml,
        supply_g=part.portioned.cooked_g if is_known else math.inf,
        most_g=part.most_g,
        plate_share=part.plate_share,
        eye_g=part.eye_g,
    )


def _room(parts: Mapping[str, Part], mixtures: Sequence[_Mixture], each: ContainerClass, step_g: float) -> Room:
    """A class as set amounts see it: what its other components take at least, a mixture by its parts."""
    least = {
        key: step_bounds(mixture.cell, mixture.cell.step_g or step_g)[0] * share
        for mixture in mixtures
        for key, share in zip(mixture.keys, mixture.shares, strict=True)
        if parts[key].school not in _SET
    }
    return Room(
        count=each.count,
        rank=each.rank,
        plate_g=each.plate_g,
        capacity_ml=each.capacity_ml,
        capacity_g=each.capacity_g,
        pins=each.pins,
        left_out=each.left_out,
        least_g=least,
    )


def _mixtures(parts: Mapping[str, Part], held: Mapping[str, Amounts]) -> list[_Mixture]:
    mixed = tuple(key for key, part in parts.items() if part.school is School.ONE_POT)
    return [
        _mixture(parts, held, mixed if key in mixed else (key,)) for key in parts if key not in mixed or key == mixed[0]
    ]


def _mixture(parts: Mapping[str, Part], held: Mapping[str, Amounts], keys: tuple[str, ...]) -> _Mixture:
    members = [parts[key] for key in keys]
    weights = [member.portioned.measured_g for member in members]
    known = [weight for weight in weights if weight is not None]
    all_weighed = len(known) == len(members)
    amounts = known if all_weighed else [member.share for member in members]
    shares = tuple(amount / math.fsum(amounts) for amount in amounts)
    part = members[0]
    # The grams of a member are the mixture's times its share, so each part's bounds bind the mixture.
    low = max(member.bounds.minimum_g / share for member, share in zip(members, shares, strict=True))
    high = min(MAXIMUM_CELL_G, *(member.most_g / share for member, share in zip(members, shares, strict=True)))
    cell = Cell(
        per_100g=total(held[key].times(share) for key, share in zip(keys, shares, strict=True)),
        share=math.fsum(member.sized_share for member in members),
        minimum_g=min(low, high),
        maximum_g=high,
        contradicts=low > high,
        step_g=part.one_g * part.unit_part if part.is_counted and part.one_g is not None else None,
        density_g_per_ml=1
        / math.fsum(share / member.density_g_per_ml for member, share in zip(members, shares, strict=True)),
    )
    # A mixture reaches as far as the first of its weighed members.
    reach = [weight / share for weight, share in zip(weights, shares, strict=True) if weight is not None]
    return _Mixture(keys=keys, shares=shares, cell=cell, supply_g=min(reach, default=None))


def _cell(parts: Mapping[str, Part], mixture: _Mixture, each: ContainerClass, amounts: Mapping[str, SetAmount]) -> Cell:
    pinned = max(
        (each.pins[key] / share for key, share in zip(mixture.keys, mixture.shares, strict=True) if key in each.pins),
        default=None,
    )
    key = mixture.keys[0]
    amount = amounts.get(key)
    left_out = any(key in each.left_out for key in mixture.keys)
    usual = _usual_most_g(parts[key], mixture.cell, each)
    if pinned is None and amount is None and not left_out and usual is None:
        return mixture.cell
    return replace(
        mixture.cell,
        maximum_g=mixture.cell.maximum_g if usual is None else usual,
        is_usual_most=usual is not None,
        pinned_g=None if pinned is None else min(pinned, MAXIMUM_CELL_G),
        set_g=None if amount is None else min(amount.grams, MAXIMUM_CELL_G),
        set_by=None if amount is None else amount.by,
        left_out=left_out,
    )


def _usual_most_g(part: Part, cell: Cell, each: ContainerClass) -> float | None:
    """The usual most where nobody gave one and the component is solved for by itself; never below its least."""
    if part.school is not School.BY_COMPONENT or part.bounds.maximum_g is not None:
        return None
    most = usual_most_g(
        part.role,
        capacity_ml=each.capacity_ml,
        capacity_g=each.capacity_g,
        density_g_per_ml=part.density_g_per_ml,
    )
    return max(most, cell.minimum_g)


def _by_component(
    held: Mapping[str, Amounts], mixtures: Sequence[_Mixture], container: Container, answer: Portions
) -> Portions:
    """The engine's answer in the order of the components, with a mixture taken apart into its parts."""
    if len(mixtures) == len(held):
        return answer
    cells, grams, limits = {}, {}, {}
    for mixture, cell, taken, limit in zip(mixtures, container.cells, answer.grams, answer.limits, strict=True):
        for key, share in zip(mixture.keys, mixture.shares, strict=True):
            cells[key], grams[key], limits[key] = replace(cell, per_100g=held[key]), taken * share, limit
    order = list(held)
    bindings = tuple(
        b if b.index is None else replace(b, index=order.index(mixtures[b.index].keys[0])) for b in answer.bindings
    )
    apart = portions(
        replace(container, cells=tuple(cells[key] for key in held)), tuple(grams[key] for key in held), bindings
    )
    return replace(
        apart,
        limits=tuple(limits[key] for key in held),
        volume_ml=answer.volume_ml,
        full=answer.full,
        contradictions=tuple(order.index(mixtures[index].keys[0]) for index in answer.contradictions),
        overfull_ml=answer.overfull_ml,
        overfull_g=answer.overfull_g,
    )


def _needed_g(index: int, classes: Sequence[ContainerClass], solved: Sequence[Portions]) -> float:
    return math.fsum(p.grams[index] * c.count for p, c in zip(solved, classes, strict=True))


def _need(part: Part, needed_g: float, buffer_share: float) -> ComponentNeed:
    component = part.portioned
    if not part.stays_as_written:
        if not needed_g:
            return _nothing_needed(part)
        factor = _to_cook_g(part, needed_g, buffer_share) / component.cooked_g
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
        cooked_g=component.cooked_g,
        cooked_low_g=component.expected_low_g,
        cooked_high_g=component.expected_high_g,
        spare_g=component.cooked_g - needed_g,
        basis_g=component.basis_g,
        lines=lines,
        part=part,
    )


def _to_cook_g(part: Part, needed_g: float, buffer_share: float) -> float:
    """Grams [g] to cook for a need: whole pieces and units, of which the extra for tasting and spill is whole too."""
    if part.one_g is None or part.school not in (School.PIECES, School.BUILT_RAW):
        return needed_g * (1 + buffer_share)
    needed = math.ceil(needed_g / part.one_g - 1e-9)
    spare = 0 if part.school is School.BUILT_RAW else math.floor(needed * buffer_share + 1e-9)
    return (needed + spare) * part.one_g


def _nothing_needed(part: Part) -> ComponentNeed:
    lines = tuple(
        LineNeed(name=line.name, purchased_g=0.0, edible_g=0.0, cooked_g=0.0) for line in part.component.lines
    )
    return ComponentNeed(
        needed_g=0.0,
        cooked_g=0.0,
        cooked_low_g=0.0,
        cooked_high_g=0.0,
        spare_g=0.0,
        basis_g=0.0,
        lines=lines,
        part=part,
    )


def _extra(needs: Mapping[str, ComponentNeed], containers: int) -> SpareContainers | None:
    """More containers like the average one, as many as the components have left for; None while one is not weighed."""
    if not containers or not all(need.part.weighed for need in needs.values()):
        return None
    average = {key: need.needed_g / containers for key, need in needs.items() if need.needed_g}
    count = min((int((needs[key].spare_g + 1e-6) // grams) for key, grams in average.items()), default=0)
    return SpareContainers(count=max(count, 0), grams=average)
