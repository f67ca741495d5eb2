"""What a batch is asked for: the parts of its dishes, and the containers they are filled into."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from yantai.core.cooking.components import Component
from yantai.core.errors import CoreError, require_range
from yantai.core.planning.portioning import COUNTED, SET, UNBOUNDED, Bounds, Place, Portioned, School, check_portioning
from yantai.core.portions.problem import DEFAULT_DENSITY_G_PER_ML, MAXIMUM_CELL_G, check_budget, check_room
from yantai.core.speaking import weight
from yantai.core.targets.targets import Target, Tolerance

HELPING_RANGE = (0.1, 5.0)
"""How many usual portions of what is divided equally one container may take."""

TUB_RANGE_ML = (5.0, 2000.0)
"""What a tub beside a container may hold [ml]."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Part(Portioned):
    """One component in one dish: how it gets into the containers of that dish.

    The component, its role and what is known of its weight belong to the pot, so they are the same in every dish that
    uses it.

    Attributes:
        component: its lines; proportions while `raw_fixed` is false, else the very grams in the pot.
        share: its weight in the recipe of this dish as written [g cooked].
        raw_fixed: the raw amounts were typed or the component was weighed, so they no longer follow the need.
        packed_raw: it goes into the containers raw, to be cooked later: its grams are raw grams.
        whole_pans: it is cooked by whole pans as written, never by a part of one.
        role: what it is on the plate; only where nobody gave a most does anything depend on it.
        bounds: the least and the most in one container; `usual_most_g` stands in by role where nobody gave a most.
    """

    component: Component
    share: float
    role: str = "mixed"
    raw_fixed: bool = False
    packed_raw: bool = False
    whole_pans: bool = False
    bounds: Bounds = UNBOUNDED
    density_g_per_ml: float = DEFAULT_DENSITY_G_PER_ML

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
        if self.tub_ml is not None:
            require_range("tub_ml", self.tub_ml, low=TUB_RANGE_ML[0], high=TUB_RANGE_ML[1], unit="ml")
        if self.takes_g is not None:
            require_range("takes_g", self.takes_g, low=1, high=1_000_000, unit="g")
        if self.place is Place.AT_EATING and self.school in (School.EQUAL_SPLIT, School.ONE_POT):
            raise CoreError(
                f"“{self.component.name}” is added at eating, so there is no pot of it to divide: portion it by grams, "
                "pieces, scoops or by eye",
                field="school",
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
        if self.school is School.PIECES and self.portioned.piece_g is not None:
            return self.portioned.piece_g
        return self.unit_g

    @property
    def most_g(self) -> float:
        """The most in one container [g] that the coach gave or the tub holds, or any."""
        return min(MAXIMUM_CELL_G if self.bounds.maximum_g is None else self.bounds.maximum_g, self.tub_g)

    @property
    def tub_g(self) -> float:
        """What the tub beside the container holds of it [g], or any."""
        if self.place is not Place.BESIDE or self.tub_ml is None:
            return MAXIMUM_CELL_G
        return min(self.tub_ml * self.density_g_per_ml, MAXIMUM_CELL_G)

    @property
    def sized_share(self) -> float:
        """Its weight in the recipe [g], by what it really weighs: a component that came out lighter is less of the
        plate, so that what stands beside it keeps its amount."""
        expected = replace(self.portioned, measured_g=None).expected_g if self.weighed else 0.0
        return self.written_g * self.portioned.cooked_g / expected if expected else self.written_g

    @property
    def written_g(self) -> float:
        """Its weight in the recipe as written, as it goes into the containers [g]: raw where it is packed raw."""
        if not self.packed_raw:
            return self.share
        return self.share * self.component.built_raw.expected_g / self.component.expected_g

    @property
    def portioned(self) -> Component:
        """What goes into the containers: the cooked component, or its raw ingredients where it is built or packed
        raw."""
        if self.school is School.BUILT_RAW:
            return self.component.built_raw
        if self.packed_raw:
            return self.component.as_kit
        return self.component

    @property
    def stays_as_written(self) -> bool:
        """The amounts to cook do not follow from the containers."""
        return self.raw_fixed or self.weighed or self.school is School.EQUAL_SPLIT

    @property
    def is_cooked_here(self) -> bool:
        """It comes out of a pot of this batch."""
        return self.place is not Place.AT_EATING

    @property
    def _of_the_pot(self) -> tuple[object, ...]:
        """What all parts of one pot have in common."""
        return self.component, self.raw_fixed, self.packed_raw, self.whole_pans, self.role, self.density_g_per_ml


@dataclass(frozen=True, slots=True, kw_only=True)
class Dish:
    """Something that is eaten: its parts by the key of their component.

    `groups` say of how many of its parts a container takes: one grain, two vegetables.
    """

    name: str = ""
    parts: Mapping[str, Part]
    groups: Mapping[str, int] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for key, part in self.parts.items():
            if part.group is not None and part.group not in self.groups:
                raise CoreError(
                    f"“{part.component.name}” is in the group “{part.group}”, which this dish does not have",
                    field=f"parts/{key}/group",
                )
        for group, takes in self.groups.items():
            require_range("takes", takes, low=1, high=20, unit=f"of {group}")

    def members(self, group: str) -> tuple[str, ...]:
        """The keys of the parts of a group."""
        return tuple(key for key, part in self.parts.items() if part.group == group)

    def taken(self, each: ContainerClass) -> tuple[str, ...]:
        """The keys of the parts that such a container has, in order: all but those of a group it did not choose."""
        return tuple(key for key, part in self.parts.items() if part.group is None or key in each.chosen)

    def open_groups(self, each: ContainerClass) -> list[str]:
        """The groups of which a container has not chosen as many as it takes."""
        return [
            group
            for group, takes in self.groups.items()
            if sum(key in each.chosen for key in self.members(group)) != takes
        ]


ONE = ""
"""The key of the only dish of a batch that has one."""


def one_dish(parts: Mapping[str, Part]) -> dict[str, Dish]:
    """A batch of one dish of these parts."""
    return {ONE: Dish(parts=parts)}


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerClass:
    """Equal containers: one client, dish, slot and day type. Keys of `pins`, `left_out` and `chosen` are components.

    Attributes:
        dish: the key of what is in them.
        rank: where a shortfall is shared by rank, 0 goes before 1.
        plate_g: the whole plate of the components in shares [g]; None for `DEFAULT_PLATE_G`.
        helping: how many usual portions it takes of what is divided equally: 1, or 0.5 for half a portion.
        chosen: what it takes of the groups of its dish.
        budget: what one of them may cost at most; None where cost decides nothing.
        at_most: what its client has at most of components whose grams are solved for [g].
    """

    target: Target
    tolerance: Tolerance
    count: int
    dish: str = ONE
    capacity_ml: float | None = None
    capacity_g: float | None = None
    rank: int = 0
    plate_g: float | None = None
    helping: float = 1.0
    pins: Mapping[str, float] = field(default_factory=dict)
    left_out: frozenset[str] = frozenset()
    chosen: frozenset[str] = frozenset()
    budget: float | None = None
    at_most: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        require_range("count", self.count, low=0, high=100, unit="containers")
        require_range("helping", self.helping, low=HELPING_RANGE[0], high=HELPING_RANGE[1], unit="portions")
        check_room(capacity_ml=self.capacity_ml, capacity_g=self.capacity_g, plate_g=self.plate_g)
        check_budget(self.budget)


def pots_of(dishes: Mapping[str, Dish]) -> dict[str, Part]:
    """One part of each component of a batch, by its key, in the order in which the dishes name them.

    Raises:
        CoreError: there is no component, two dishes mean something else by one, or a component of several dishes is
            built raw.
    """
    found: dict[str, Part] = {}
    for dish in dishes.values():
        for key, part in dish.parts.items():
            other = found.setdefault(key, part)
            if other._of_the_pot != part._of_the_pot:
                raise CoreError(f"“{part.component.name}” is not the same in all dishes of it", field=f"parts/{key}")
            if other is not part and School.BUILT_RAW in (part.school, other.school):
                raise CoreError(
                    f"“{part.component.name}” is in several dishes, so it has one pot: only what is in one dish can be "
                    "built raw",
                    field=f"parts/{key}/school",
                )
    if not found:
        raise CoreError("this recipe has no components: add one before planning with it", field="components")
    return found


def untold(dish: Dish, each: ContainerClass) -> list[str]:
    """Keys of the components of which nothing says how much goes into these containers.

    What is split equally, in plate shares, by eye or built as units needs no target; everything else does, unless it
    is pinned or left out.
    """
    if each.target.aims or not each.count:
        return []
    told = {*each.pins, *each.left_out}
    return [
        key for key in dish.taken(each) if dish.parts[key].school not in (*SET, School.BUILT_RAW) and key not in told
    ]
