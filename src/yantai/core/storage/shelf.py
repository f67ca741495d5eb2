"""How long food keeps, by the rows of a shelf-life table, and what that makes of a container (domain, section 9)."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import CoreError


class Freezes(StrEnum):
    """How well food comes through the freezer."""

    YES = "yes"
    WITH_CARE = "with care"
    NO = "no"


class ShelfRule(StrEnum):
    """Which days in the fridge a kitchen goes by."""

    CAUTIOUS = "cautious"
    USUAL = "usual"


_WORST = (Freezes.NO, Freezes.WITH_CARE, Freezes.YES)
_FREEZER_DAYS_A_MONTH = 30


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfRow:
    """A row of the shelf-life table, of food that is covered and stands at 5 °C or below.

    Attributes:
        category: what it speaks of, its key.
        cautious_days: days in the fridge, counted from the day of cooking, by the cautious rule.
        usual_days: the customary most.
        freezer_months: for so long it stays good in the freezer.
        freezes: how well.
        reheat_c: the core temperature for reheating [°C]; None for what is eaten cold.

    Raises:
        CoreError: the customary days are fewer than the cautious ones, or what does not freeze has months there.
    """

    category: str
    cautious_days: int
    usual_days: int
    freezer_months: int
    freezes: Freezes
    cool_note: str = ""
    reheat_c: float | None = None
    note: str = ""

    def __post_init__(self) -> None:
        if not 0 <= self.cautious_days <= self.usual_days:
            raise CoreError(f"“{self.category}”: the cautious days are the fewer ones", field="cautious_days")
        if (self.freezes is Freezes.NO) != (self.freezer_months == 0):
            raise CoreError(f"“{self.category}”: what freezes has months in the freezer", field="freezer_months")

    def days(self, rule: ShelfRule) -> int:
        """Days in the fridge by a rule."""
        return self.cautious_days if rule is ShelfRule.CAUTIOUS else self.usual_days

    @property
    def freezer_days(self) -> int:
        """Days in the freezer."""
        return self.freezer_months * _FREEZER_DAYS_A_MONTH


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptPart:
    """A part of a container, and the rows of the table that it goes by: none for what keeps longer than any row says,
    like nuts."""

    key: str
    name: str
    rows: tuple[ShelfRow, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Keeping:
    """How long something keeps.

    Attributes:
        fridge_days: days in the fridge by the kitchen's rule, counted from the day of cooking; None where nothing in
            it limits them.
        usual_days: the customary most: beyond it nothing is put without a warning that stays.
        shortest: the part and the row that decide; None where nothing limits it.
        freezes: how well its worst part does.
        freezer_days: days in the freezer, by the part that stays good there for the shortest time.
        apart: parts that do not freeze: they go apart, or it is cooked twice.
        with_care: parts that come out of the freezer changed, with the note on them.
    """

    fridge_days: int | None
    usual_days: int | None
    shortest: tuple[KeptPart, ShelfRow] | None
    freezes: Freezes
    freezer_days: int | None
    apart: tuple[KeptPart, ...]
    with_care: tuple[tuple[KeptPart, ShelfRow], ...]


def keeping(parts: Sequence[KeptPart], rule: ShelfRule) -> Keeping:
    """How long a container keeps: as long as the part that keeps least, in the fridge and in the freezer.

    Source: domain, section 9; the days are those of the shipped table (reference, PROVENANCE.md). General guidance:
    local rules prevail.

    >>> rice = ShelfRow(category="cooked rice", cautious_days=1, usual_days=3, freezer_months=1, freezes=Freezes.YES)
    >>> stew = ShelfRow(category="stews", cautious_days=3, usual_days=4, freezer_months=3, freezes=Freezes.YES)
    >>> both = [KeptPart(key="r", name="Rice", rows=(rice,)), KeptPart(key="s", name="Stew", rows=(stew,))]
    >>> found = keeping(both, ShelfRule.CAUTIOUS)
    >>> found.fridge_days, found.freezer_days, found.shortest[0].name
    (1, 30, 'Rice')
    """
    each = [(part, row) for part in parts for row in part.rows]
    shortest = min(each, key=lambda pair: _strictness(pair[1], rule), default=None)
    return Keeping(
        fridge_days=min((row.days(rule) for _, row in each), default=None),
        usual_days=min((row.usual_days for _, row in each), default=None),
        shortest=shortest,
        freezes=worst(row.freezes for _, row in each),
        freezer_days=min((row.freezer_days for _, row in each), default=None),
        apart=tuple(part for part in parts if any(row.freezes is Freezes.NO for row in part.rows)),
        with_care=tuple((part, row) for part, row in each if row.freezes is Freezes.WITH_CARE),
    )


def worst(freezes: Iterable[Freezes]) -> Freezes:
    """How well several things come through the freezer together; what no row speaks of takes no harm."""
    return min(freezes, key=_WORST.index, default=Freezes.YES)


def _strictness(row: ShelfRow, rule: ShelfRule) -> tuple[int, int, int, int]:
    return row.days(rule), row.usual_days, _WORST.index(row.freezes), row.freezer_months
