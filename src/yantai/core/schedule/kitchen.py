"""A kitchen: what there is to cook on, how much each holds, and the machines that a day is planned on."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.schedule.day import Machine

OVEN_HEATS_MIN = 15
"""Minutes from cold to hot, where nobody said how long an oven takes."""


FULL_G_PER_L = 750.0
"""A pot is comfortably full with so much in it [g for each litre it holds]."""


class Kind(StrEnum):
    """Kinds of equipment; the words of reference/data/equipment.csv."""

    OVEN = "oven"
    GRILL = "grill"
    HOB = "hob"
    PAN = "pan"
    POT = "pot"
    STEAMER = "steamer"
    TRAY = "tray"
    TIN = "tin"
    RACK = "rack"
    RICE_COOKER = "rice-cooker"
    AIR_FRYER = "air-fryer"
    SLOW_COOKER = "slow-cooker"
    PRESSURE_COOKER = "pressure-cooker"
    MICROWAVE = "microwave"
    KETTLE = "kettle"
    BLENDER = "blender"
    PROCESSOR = "processor"
    SCALE = "scale"
    THERMOMETER = "thermometer"
    FRIDGE = "fridge"
    FREEZER = "freezer"
    BOARD = "board"
    RAW_BOARD = "board-raw"


KIND_WORDS = {
    Kind.OVEN: "oven",
    Kind.GRILL: "grill",
    Kind.HOB: "hob",
    Kind.PAN: "pan",
    Kind.POT: "pot",
    Kind.STEAMER: "steamer",
    Kind.TRAY: "tray",
    Kind.TIN: "tin",
    Kind.RACK: "rack",
    Kind.RICE_COOKER: "rice cooker",
    Kind.AIR_FRYER: "air fryer",
    Kind.SLOW_COOKER: "slow cooker",
    Kind.PRESSURE_COOKER: "pressure cooker",
    Kind.MICROWAVE: "microwave",
    Kind.KETTLE: "kettle",
    Kind.BLENDER: "blender",
    Kind.PROCESSOR: "food processor",
    Kind.SCALE: "scale",
    Kind.THERMOMETER: "thermometer",
    Kind.FRIDGE: "fridge",
    Kind.FREEZER: "freezer",
    Kind.BOARD: "board",
    Kind.RAW_BOARD: "board for raw meat and fish",
}


class Fare(StrEnum):
    """What a vessel holds a different weight of."""

    MEAT = "meat"
    VEGETABLES = "vegetables"
    GRAIN = "grain"
    WHOLE = "whole"
    """All that is in the pot, water with it: what fits follows from its volume."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """Equipment of one kind and size.

    Attributes:
        count: how many of them there are.
        places: shelves, rings, baskets or compartments of one.
        capacity_l: what it holds [l].
        loads_g: how much of each fare goes into one, or onto one shelf or ring, comfortably [g].
        within: the key of what it is built into, and blocks while it runs (a grill in the roof of an oven).
        most_c: the hottest it gets [°C].
    """

    key: str
    kind: Kind
    name: str
    count: int = 1
    places: int = 1
    capacity_l: float | None = None
    loads_g: tuple[tuple[Fare, float], ...] = ()
    within: str = ""
    most_c: float | None = None

    def load_g(self, fare: Fare) -> float | None:
        """How much of a fare goes into one [g], None where nobody knows.

        >>> Item(key="p", kind=Kind.POT, name="Pot", capacity_l=5).load_g(Fare.WHOLE)
        3750.0
        """
        if fare is Fare.WHOLE:
            if self.capacity_l is not None and self.kind is not Kind.OVEN:
                return self.capacity_l * FULL_G_PER_L
            return max((load for _, load in self.loads_g), default=None)
        return dict(self.loads_g).get(fare)


_SURFACES = (Kind.PAN, Kind.POT, Kind.STEAMER)
"""What stands on a ring while it is used."""

ON_THE_HOB = _SURFACES
_DECILITRES = 10


def machines_of(items: Iterable[Item]) -> tuple[Machine, ...]:
    """The machines of a kitchen: each oven for itself, of all else as many as there are; a fridge in decilitres."""
    found: list[Machine] = []
    for item in items:
        if item.within or item.count < 1:
            continue
        if item.kind is Kind.OVEN:
            found += [
                Machine(
                    key=f"{item.key}/{number}",
                    name=item.name if item.count == 1 else f"{item.name} {number}",
                    capacity=item.places,
                    heat_min=OVEN_HEATS_MIN,
                )
                for number in range(1, item.count + 1)
            ]
        else:
            found.append(Machine(key=item.key, name=item.name, capacity=_capacity(item)))
    return tuple(found)


def _capacity(item: Item) -> int:
    if item.kind in (Kind.FRIDGE, Kind.FREEZER):
        return max(1, round((item.capacity_l or 0) * _DECILITRES)) * item.count
    if item.kind in (Kind.HOB, Kind.AIR_FRYER):
        return item.places * item.count
    return item.count


def of_kind(items: Sequence[Item], *kinds: Kind) -> list[Item]:
    """What there is of some kinds."""
    return [item for item in items if item.kind in kinds and item.count > 0]
