"""What is in the house of a food: lots, and which of them a batch takes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum


class Keeping(StrEnum):
    """Where a lot is kept."""

    CUPBOARD = "cupboard"
    FRIDGE = "fridge"
    FREEZER = "freezer"


class Entry(StrEnum):
    """What happened to a lot; grams are what it changed by [g]."""

    BOUGHT = "bought"
    USED = "used"
    PUT_BACK = "put back"
    THROWN = "thrown away"
    COUNTED = "counted"
    DIVIDED = "divided"
    TAKEN_BACK = "taken back"


_NEVER = 10**9


@dataclass(frozen=True, slots=True, kw_only=True)
class Lot:
    """So much of a food that came in at once: what is left of it [g], and when it is used up at the latest.

    Attributes:
        arrived: its place in the order in which lots came in.
        use_by: a day as a count of days from any start, the same for all; None where nobody wrote it down. Such a lot
            is taken last, for nothing says that it hurries.
    """

    key: str
    grams: float
    arrived: int
    use_by: int | None = None
    opened: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Taken:
    """So much [g] of a lot."""

    key: str
    grams: float


def take(need_g: float, lots: Sequence[Lot], on: int) -> list[Taken]:
    """What covers `need_g` [g] of a food on a day, as far as there is any: first what expires first.

    Of equal days what is open already, then what came first. What is past its day is not taken.

    >>> old = Lot(key="old", grams=300, arrived=1, use_by=3)
    >>> new = Lot(key="new", grams=500, arrived=2)
    >>> [(one.key, one.grams) for one in take(400, [new, old], 1)]
    [('old', 300), ('new', 100)]
    >>> [(one.key, one.grams) for one in take(400, [new, old], 4)]
    [('new', 400)]
    """
    good = [lot for lot in lots if lot.grams > 0 and (lot.use_by is None or lot.use_by >= on)]
    found: list[Taken] = []
    for lot in sorted(
        good, key=lambda lot: (_NEVER if lot.use_by is None else lot.use_by, not lot.opened, lot.arrived)
    ):
        grams = min(need_g - sum(one.grams for one in found), lot.grams)
        if grams <= 0:
            break
        found.append(Taken(key=lot.key, grams=grams))
    return found


def without(lots: Sequence[Lot], taken: Sequence[Taken]) -> list[Lot]:
    """The lots once something was taken: what is left of each [g]."""
    gone: dict[str, float] = {}
    for one in taken:
        gone[one.key] = gone.get(one.key, 0.0) + one.grams
    return [
        lot
        if lot.key not in gone
        else Lot(
            key=lot.key,
            grams=max(lot.grams - gone[lot.key], 0.0),
            arrived=lot.arrived,
            use_by=lot.use_by,
            opened=True,
        )
        for lot in lots
    ]
