"""How components get into containers, and the grams that follow from that alone (domain, section 6)."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import CoreError, require_range
from yantai.core.portions.problem import DEFAULT_DENSITY_G_PER_ML, MAXIMUM_CELL_G, Limit
from yantai.core.speaking import exact_weight

DEFAULT_PLATE_G = 450.0
"""A plate whose total nobody set [g]: a usual filled meal container."""

USUAL_CAPACITY_ML = 1000.0
"""What a container holds of which nobody said it [ml]: a usual meal container."""

USUAL_SHARES: Mapping[str, float] = {
    "protein": 0.60, "grain": 0.65, "vegetable": 0.70, "sauce": 0.30, "topping": 0.20, "mixed": 1.0,
}  # fmt: skip
"""The most of what a container holds that a component of a role usually takes: beyond it nobody calls it that. It only
stands in where nobody gave a most."""


class School(StrEnum):
    """How a component gets into the containers."""

    BY_COMPONENT = "by component"
    EQUAL_SPLIT = "equal split"
    ONE_POT = "one pot"
    BUILT_RAW = "built raw"
    PIECES = "pieces"
    PLATE_SHARES = "plate shares"
    FIXED_MEASURE = "fixed measure"
    BY_EYE = "by eye"


class Place(StrEnum):
    """Where a part of a dish goes."""

    IN_CONTAINER = "in the container"
    BESIDE = "beside"
    AT_EATING = "at eating"


SET = (School.EQUAL_SPLIT, School.PLATE_SHARES, School.BY_EYE)
"""What has grams by how it is portioned, whatever the target."""

COUNTED = (School.PIECES, School.FIXED_MEASURE, School.BUILT_RAW)
"""What goes into containers by whole units."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Bounds:
    """The least and the most of a component in one container [g]; None where nobody gave a most.

    Raises:
        CoreError: the least is above the most.
    """

    minimum_g: float = 0.0
    maximum_g: float | None = None

    def __post_init__(self) -> None:
        if self.maximum_g is not None and self.minimum_g > self.maximum_g:
            raise CoreError(
                f"the least, {exact_weight(self.minimum_g)}, is above the most, {exact_weight(self.maximum_g)}, per "
                "container",
                field="minimum_g",
            )


UNBOUNDED = Bounds()


@dataclass(frozen=True, slots=True, kw_only=True)
class Portioned:
    """How a component gets into the containers of a dish.

    Attributes:
        unit_g: grams of one scoop, from one weighed scoop [g]; of one piece where the component does not say.
        unit_part: the smallest part of a piece, scoop or built unit that is given: 1, or 0.5 for halves.
        plate_share: share of the plate, in any unit common to the components in shares.
        eye_g: grams [g] of an amount that is not weighed.
        place: in the container, in a tub of its own beside it, or added at eating, which no pot gives.
        tub_ml: what the tub beside the container holds [ml].
        takes_g: what of the pot is set aside for this dish [g]; None for what its containers need.
        group: the group of the dish of which a container takes one or some; None for a part that all take.
    """

    school: School = School.BY_COMPONENT
    unit_g: float | None = None
    unit_part: float = 1.0
    plate_share: float = 1.0
    eye_g: float = 0.0
    place: Place = Place.IN_CONTAINER
    tub_ml: float | None = None
    takes_g: float | None = None
    group: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Portioning(Portioned):
    """The same as it is written down: with the least and the most in one container [g].

    Raises:
        CoreError: the least is above the most.
    """

    minimum_g: float = 0.0
    maximum_g: float | None = None

    def __post_init__(self) -> None:
        _ = self.bounds

    @property
    def bounds(self) -> Bounds:
        """The least and the most in one container [g]."""
        return Bounds(minimum_g=self.minimum_g, maximum_g=self.maximum_g)


def usual_most_g(
    role: str,
    *,
    capacity_ml: float | None,
    capacity_g: float | None,
    density_g_per_ml: float = DEFAULT_DENSITY_G_PER_ML,
) -> float:
    """The most [g] of a component that is usual in a container, where nobody gave one.

    >>> round(usual_most_g("sauce", capacity_ml=900, capacity_g=None))
    216
    """
    holds_g = (USUAL_CAPACITY_ML if capacity_ml is None else capacity_ml) * density_g_per_ml
    if capacity_g is not None:
        holds_g = min(holds_g, capacity_g)
    return min(USUAL_SHARES.get(role, 1.0) * holds_g, MAXIMUM_CELL_G)


def check_portioning(
    school: School,
    name: str,
    *,
    pieces: int | None,
    unit_g: float | None,
    unit_part: float,
    plate_share: float,
    eye_g: float,
) -> None:
    """Refuse figures that a school cannot work with.

    Raises:
        CoreError: names the figure that is out of its range or missing.
    """
    require_range("unit_part", unit_part, low=0.1, high=1, unit="of a unit")
    require_range("plate_share", plate_share, low=0, high=1000, unit="shares")
    require_range("eye_g", eye_g, low=0, high=MAXIMUM_CELL_G, unit="g")
    if unit_g is not None:
        require_range("unit_g", unit_g, low=1, high=MAXIMUM_CELL_G, unit="g")
    if school is School.PIECES and pieces is None and unit_g is None:
        raise CoreError(f"“{name}” is counted: say how many pieces it makes", field="pieces")
    if school is School.FIXED_MEASURE and unit_g is None:
        raise CoreError(f"“{name}” goes by the scoop: weigh one scoop and give its grams", field="unit_g")


PartKey = tuple[str, str]
"""A part of a batch: the key of its dish and that of its component."""


@dataclass(frozen=True, slots=True, kw_only=True)
class PortionRule:
    """A part whose grams follow from how it is portioned.

    Attributes:
        supply_g: what there is of it for its dish [g]; infinite while it is cooked to the need.
        most_g: the most in one container [g], where the coach gave one.
    """

    school: School
    supply_g: float = math.inf
    most_g: float = MAXIMUM_CELL_G
    plate_share: float = 1.0
    eye_g: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Room:
    """Equal containers of one dish as set amounts see them; keys of the mappings are components.

    Attributes:
        least_g: what the components that are solved for take at least [g].
        per_g: what a gram of each component takes of the container [ml]; those beside it are not in it.
        helping: portions of what is divided equally.
    """

    dish: str
    count: int
    rank: int = 0
    plate_g: float | None = None
    capacity_ml: float | None = None
    capacity_g: float | None = None
    helping: float = 1.0
    pins: Mapping[str, float]
    left_out: frozenset[str]
    least_g: Mapping[str, float]
    per_g: Mapping[str, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Pot:
    """What there is of a component [g] for all the dishes that take from it."""

    grams: float
    dishes: frozenset[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class SetAmount:
    """Grams [g] of one component in one container, and what decided them."""

    grams: float
    by: Limit


def set_amounts(
    rules: Mapping[PartKey, PortionRule],
    rooms: Sequence[Room],
    pots: Mapping[str, Pot],
    *,
    step_g: float,
    ranked: bool = False,
) -> list[dict[str, SetAmount]]:
    """Grams of the components that are split equally, in plate shares or by eye, for each of `rooms` in order.

    They are never more than the component's most, than what fits beside pins and least amounts, and than what the pot
    holds (`pots`, by component, are those of several dishes whose amount is known): where it is short all get the same
    share of theirs, or the first in rank go first. What is split equally and does not come out even gives some
    containers one step more.
    """
    found: list[dict[str, SetAmount]] = [{} for _ in rooms]
    for (dish, key), rule in rules.items():
        at = [n for n, room in enumerate(rooms) if room.dish == dish]
        own = [rooms[n] for n in at]
        if rule.school is School.EQUAL_SPLIT:
            wanted = _equal(key, rule, own, step_g)
        else:
            wanted = [_wanted(key, rule, rules, room, step_g) for room in own]
        most = _down(rule.most_g, step_g)
        for n, room, grams in zip(at, own, wanted, strict=True):
            if key not in room.pins and key not in room.left_out:
                found[n][key] = SetAmount(grams=min(grams, most), by=Limit.AT_MOST if grams > most else Limit.SET)
    for each, room in zip(found, rooms, strict=True):
        _fit(each, room, step_g)
    for (dish, key), rule in rules.items():
        if math.isfinite(rule.supply_g):
            at = [n for n, room in enumerate(rooms) if room.dish == dish]
            _share_out(key, rule.supply_g, found, rooms, at, step_g, ranked=ranked)
    for key, pot in pots.items():
        at = [n for n, room in enumerate(rooms) if room.dish in pot.dishes]
        _share_out(key, pot.grams, found, rooms, at, step_g, ranked=ranked)
    return found


def _wanted(key: str, rule: PortionRule, rules: Mapping[PartKey, PortionRule], room: Room, step_g: float) -> float:
    if rule.school is School.BY_EYE:
        return rule.eye_g
    whole = math.fsum(
        other.plate_share
        for (dish, name), other in rules.items()
        if dish == room.dish and other.school is School.PLATE_SHARES and name not in room.left_out
    )
    plate_g = DEFAULT_PLATE_G if room.plate_g is None else room.plate_g
    return _near(plate_g * rule.plate_share / whole, step_g) if whole and key not in room.left_out else 0.0


def _equal(key: str, rule: PortionRule, rooms: Sequence[Room], step_g: float) -> list[float]:
    """The whole of a component over the containers that take an equal part of it [g], or so many helpings; those that
    can have one step more without taking it from others do, the most containers first."""
    takes = [key not in room.pins and key not in room.left_out for room in rooms]
    among = math.fsum(room.count * room.helping for room, take in zip(rooms, takes, strict=True) if take)
    whole = max(rule.supply_g - _pinned_g(key, rooms), 0.0)
    grams = [
        _down(whole / (among or 1) * room.helping, step_g) if take else 0.0
        for room, take in zip(rooms, takes, strict=True)
    ]
    over = whole - math.fsum(room.count * each for room, each in zip(rooms, grams, strict=True))
    for index in sorted(range(len(rooms)), key=lambda index: -rooms[index].count):
        more = rooms[index].count * step_g
        if takes[index] and rooms[index].count and more <= over + _GRAM:
            grams[index] += step_g
            over -= more
    return grams


def _fit(each: dict[str, SetAmount], room: Room, step_g: float) -> None:
    """Make set amounts smaller, all by the same share, so that they fit beside what is pinned and least amounts."""
    beside = {key: grams for key, grams in {**room.least_g, **room.pins}.items() if key in room.per_g}
    inside = {key: one for key, one in each.items() if key in room.per_g}
    shares = []
    for capacity, per_g in ((room.capacity_g, dict.fromkeys(room.per_g, 1.0)), (room.capacity_ml, room.per_g)):
        if capacity is None:
            continue
        taken = math.fsum(grams * per_g[key] for key, grams in beside.items() if key not in room.left_out)
        wanted = math.fsum(one.grams * per_g[key] for key, one in inside.items())
        if wanted and taken + wanted > capacity + _GRAM:
            shares.append(max(capacity - taken, 0.0) / wanted)
    if shares:
        for key, one in inside.items():
            each[key] = SetAmount(grams=_down(one.grams * min(shares), step_g), by=Limit.FULL)


def _pinned_g(key: str, rooms: Sequence[Room]) -> float:
    return math.fsum(room.count * room.pins[key] for room in rooms if key in room.pins and key not in room.left_out)


def _share_out(
    key: str,
    supply_g: float,
    found: Sequence[dict[str, SetAmount]],
    rooms: Sequence[Room],
    at: Sequence[int],
    step_g: float,
    *,
    ranked: bool,
) -> None:
    """Make the set amounts of one weighed pot in the rooms at these places smaller where they are more than it holds
    beside its pins."""
    left = supply_g - _pinned_g(key, [rooms[n] for n in at])
    for rank in sorted({rooms[n].rank for n in at}) if ranked else [None]:
        turn = [n for n in at if key in found[n] and (rank is None or rooms[n].rank == rank)]
        wanted = math.fsum(rooms[n].count * found[n][key].grams for n in turn)
        if wanted > max(left, 0.0) + _GRAM:
            share = max(left, 0.0) / wanted
            for n in turn:
                found[n][key] = SetAmount(grams=_down(found[n][key].grams * share, step_g), by=Limit.POT)
        left -= math.fsum(rooms[n].count * found[n][key].grams for n in turn)


_GRAM = 1e-6


def _down(grams: float, step_g: float) -> float:
    return math.floor(grams / step_g + 1e-9) * step_g


def _near(grams: float, step_g: float) -> float:
    return math.floor(grams / step_g + 0.5) * step_g
