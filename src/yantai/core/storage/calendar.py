"""Which container is eaten on which day, and where it waits: what is given, and what an answer is.

Days are counted from the day of cooking, which is day 0. Containers stand in the fridge from then on, or are frozen
that day, put back into the fridge on the evening before they are eaten, and eaten the day after.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum

from yantai.core.errors import CoreError, require_range
from yantai.core.storage.shelf import Freezes
from yantai.core.targets.days import ANY_DAY

FIRST_FROM_FREEZER = 2
"""What is frozen on the day of cooking is thawed on the evening of the next day at the earliest, and eaten after it."""

LONGEST_DAYS = 42
"""No calendar goes on for longer."""


class Store(StrEnum):
    """Where a container waits."""

    FRIDGE = "fridge"
    FREEZER = "freezer"


@dataclass(frozen=True, slots=True, kw_only=True)
class ToEat:
    """Equal containers of one client that are eaten one a day.

    Attributes:
        key: what they are called outside.
        dish: what makes them the same thing to eat.
        slot: the meal; a day has one container of each.
        day_type: the kind of day they were planned for, or `ANY_DAY`.
        count: how many there are.
        fridge_days, usual_days: the last day out of the fridge by the kitchen's rule, and the customary last day; None
            where nothing in them limits it.
        freezes, freezer_days: how well they come through the freezer, and the last day out of it.
        litres: room that one takes [l].
        tub_days: the last day of what stands beside them in a tub of its own; None where nothing limits it.
    """

    key: str
    dish: str
    slot: str
    day_type: str
    count: int
    fridge_days: int | None
    usual_days: int | None
    freezes: Freezes
    freezer_days: int | None
    litres: float
    tub_days: int | None = None

    def __post_init__(self) -> None:
        require_range("count", self.count, low=0, high=100, unit="containers")
        require_range("litres", self.litres, low=0, high=50, unit="l")

    def fits(self, day_type: str | None) -> bool:
        """Whether they may be eaten on a day of this type; of one that nobody gave a type, they may."""
        return day_type is None or self.day_type in (ANY_DAY, day_type)

    def may_wait(self, store: Store, day: int) -> bool:
        """Whether one that waits here is good to eat on a day."""
        if store is Store.FRIDGE:
            return self.fridge_days is None or day <= self.fridge_days
        return (
            self.freezes is not Freezes.NO
            and day >= FIRST_FROM_FREEZER
            and (self.freezer_days is None or day <= self.freezer_days)
        )

    @property
    def keeps(self) -> int:
        """How long they keep, as a number to compare: what keeps longer is eaten later."""
        return min(_days(self.fridge_days), 14) * 15 + min(_days(self.usual_days), 14)


def _days(days: int | None) -> int:
    return LONGEST_DAYS if days is None else days


@dataclass(frozen=True, slots=True, kw_only=True)
class Eaten:
    """Container `number` of a class with its day and the place where it waits; `by_hand` was set by somebody."""

    key: str
    number: int
    day: int
    store: Store
    by_hand: bool = False

    @property
    def thaw_on(self) -> int | None:
        """The day on whose evening it goes from the freezer into the fridge; None for what waits there."""
        return self.day - 1 if self.store is Store.FREEZER else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Weeks:
    """The days of one client.

    Attributes:
        first: the first day that anything is eaten on.
        day_types: the type of each day from day 0 on, where somebody gave it; days beyond are free like those of None.
        fridge_l: room for containers in the client's fridge [l]; None where nobody said.
    """

    first: int = 1
    day_types: tuple[str | None, ...] = ()
    fridge_l: float | None = None

    def __post_init__(self) -> None:
        require_range("first", self.first, low=0, high=14, unit="days after cooking")
        if self.fridge_l is not None:
            require_range("fridge_l", self.fridge_l, low=0, high=1000, unit="l")

    def day_type(self, day: int) -> str | None:
        """The type of a day, or None where nobody gave it."""
        return self.day_types[day] if 0 <= day < len(self.day_types) else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Calendar:
    """An answer: the containers that have a day, and by class how many found none."""

    eaten: tuple[Eaten, ...]
    day_types: Mapping[int, str] = field(default_factory=dict)
    """The type that a day got which nobody gave one."""

    without_day: Mapping[str, int] = field(default_factory=dict)


def check(classes: Iterable[ToEat], fixed: Iterable[Eaten]) -> None:
    """Refuse what cannot be asked.

    Raises:
        CoreError: two classes have one key, or what is fixed is no container of them, or is fixed twice.
    """
    counts: dict[str, int] = {}
    for one in classes:
        if one.key in counts:
            raise CoreError(f"two classes of containers have the key {one.key}", field="key")
        counts[one.key] = one.count
    seen = set()
    for eaten in fixed:
        if not 1 <= eaten.number <= counts.get(eaten.key, 0):
            raise CoreError(f"there is no container {eaten.number} of {eaten.key}", field="number")
        if (eaten.key, eaten.number) in seen:
            raise CoreError(f"container {eaten.number} of {eaten.key} has two days", field="number")
        seen.add((eaten.key, eaten.number))
