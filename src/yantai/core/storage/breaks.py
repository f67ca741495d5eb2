"""What a calendar breaks, found by going through its days: apart from how it was made."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.storage.calendar import FIRST_FROM_FREEZER, Calendar, Eaten, Store, ToEat, Weeks
from yantai.core.storage.shelf import Freezes
from yantai.core.targets.days import ANY_DAY


class Rule(StrEnum):
    """What a calendar keeps to."""

    HAS_DAY = "has a day"
    AFTER_COOKING = "after cooking"
    CAUTIOUS_DAYS = "cautious days"
    USUAL_DAYS = "usual days"
    FREEZES = "freezes"
    TIME_TO_THAW = "time to thaw"
    FREEZER_DAYS = "freezer days"
    ONE_A_MEAL = "one a meal"
    DAY_TYPE = "day type"
    FRIDGE_ROOM = "fridge room"
    TUB_DAYS = "tub days"


SAFETY = frozenset({
    Rule.AFTER_COOKING, Rule.CAUTIOUS_DAYS, Rule.USUAL_DAYS, Rule.FREEZES, Rule.TIME_TO_THAW, Rule.TUB_DAYS,
})  # fmt: skip
"""What can hurt someone. Frozen food beyond its months is safe and no longer good."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Break:
    """A rule that a container does not keep to, or all of a night for want of room.

    Attributes:
        key, number: the container; "" and 0 for a night.
        day: the day it is eaten on, or the morning after the night; None for a container without a day.
        limit: the last day that would do, or the litres there are.
        by: days beyond it, litres too many, or containers without a day.
    """

    rule: Rule
    key: str = ""
    number: int = 0
    day: int | None = None
    limit: float | None = None
    by: float | None = None


def breaks(classes: Sequence[ToEat], weeks: Weeks, calendar: Calendar) -> tuple[Break, ...]:
    """Everything that a calendar does not keep to, container by container, then night by night."""
    by_key = {one.key: one for one in classes}
    found: list[Break] = []
    for eaten in calendar.eaten:
        found += _of_container(by_key[eaten.key], eaten, weeks)
    found += _of_meals(by_key, calendar.eaten)
    found += _of_day_types(by_key, weeks, calendar.eaten)
    for one in classes:
        missing = one.count - sum(eaten.key == one.key for eaten in calendar.eaten)
        if missing:
            found.append(Break(rule=Rule.HAS_DAY, key=one.key, by=missing))
    return (*found, *_of_nights(by_key, weeks, calendar.eaten))


def _of_container(one: ToEat, eaten: Eaten, weeks: Weeks) -> Iterator[Break]:
    def broken(rule: Rule, limit: float | None = None) -> Break:
        by = None if limit is None else abs(eaten.day - limit)
        return Break(rule=rule, key=eaten.key, number=eaten.number, day=eaten.day, limit=limit, by=by)

    if eaten.day < weeks.first:
        yield broken(Rule.AFTER_COOKING, weeks.first)
    if eaten.store is Store.FRIDGE:
        if one.usual_days is not None and eaten.day > one.usual_days:
            yield broken(Rule.USUAL_DAYS, one.usual_days)
        elif one.fridge_days is not None and eaten.day > one.fridge_days:
            yield broken(Rule.CAUTIOUS_DAYS, one.fridge_days)
    else:
        if one.freezes is Freezes.NO:
            yield broken(Rule.FREEZES)
        elif one.freezer_days is not None and eaten.day > one.freezer_days:
            yield broken(Rule.FREEZER_DAYS, one.freezer_days)
        if eaten.day < FIRST_FROM_FREEZER:
            yield broken(Rule.TIME_TO_THAW, FIRST_FROM_FREEZER)
    if one.tub_days is not None and eaten.day > one.tub_days:
        yield broken(Rule.TUB_DAYS, one.tub_days)
    given = weeks.day_type(eaten.day)
    if given is not None and one.day_type not in (ANY_DAY, given):
        yield broken(Rule.DAY_TYPE)


def _of_meals(by_key: dict[str, ToEat], eaten: Sequence[Eaten]) -> Iterator[Break]:
    meals: dict[tuple[str, int], list[Eaten]] = defaultdict(list)
    for one in eaten:
        meals[by_key[one.key].slot, one.day].append(one)
    for group in meals.values():
        for one in group[1:]:
            yield Break(rule=Rule.ONE_A_MEAL, key=one.key, number=one.number, day=one.day)


def _of_day_types(by_key: dict[str, ToEat], weeks: Weeks, eaten: Sequence[Eaten]) -> Iterator[Break]:
    """On a day that nobody gave a type, what is eaten is of one."""
    first: dict[int, str] = {}
    for one in eaten:
        kind = by_key[one.key].day_type
        if kind == ANY_DAY or weeks.day_type(one.day) is not None:
            continue
        if first.setdefault(one.day, kind) != kind:
            yield Break(rule=Rule.DAY_TYPE, key=one.key, number=one.number, day=one.day)


def _of_nights(by_key: dict[str, ToEat], weeks: Weeks, eaten: Sequence[Eaten]) -> Iterator[Break]:
    for night, litres in enumerate(fridge_litres(by_key, eaten)):
        if weeks.fridge_l is not None and litres > weeks.fridge_l + 1e-6:
            yield Break(rule=Rule.FRIDGE_ROOM, day=night, limit=weeks.fridge_l, by=litres - weeks.fridge_l)


def fridge_litres(by_key: dict[str, ToEat], eaten: Sequence[Eaten]) -> list[float]:
    """Litres of containers in the fridge in the night before each day from day 0 on, where it is nothing yet."""
    last = max((one.day for one in eaten), default=0)
    nights = [0.0] * (last + 1)
    for one in eaten:
        since = 1 if one.store is Store.FRIDGE else max(one.day, 1)
        for night in range(since, one.day + 1):
            nights[night] += by_key[one.key].litres
    return nights
