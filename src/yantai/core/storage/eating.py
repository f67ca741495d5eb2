"""What becomes of containers, and which two may change their days."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from enum import StrEnum

from yantai.core.storage.breaks import SAFETY, Rule, breaks
from yantai.core.storage.calendar import Calendar, Eaten, Store, ToEat, Weeks
from yantai.core.storage.shelf import Freezes


class EatingEvent(StrEnum):
    """What was told of a container."""

    EATEN = "eaten"
    LEFT = "left"
    TAKEN_BACK = "taken back"


_REFUSED = SAFETY | {Rule.FREEZER_DAYS, Rule.ONE_A_MEAL}


def changed_days(
    one: Eaten, other: Eaten, classes: Sequence[ToEat], weeks: Weeks, calendar: Calendar, *, today: int
) -> tuple[Eaten, Eaten] | None:
    """Two containers on each other's days, each where it keeps until then; None where one of them would not be good to
    eat there, or a day is over.

    What is in the fridge stays there, and is never frozen later; what is frozen stays frozen, or is thawed for an
    earlier day where its evening is yet to come.
    """
    by_key = {kept.key: kept for kept in classes}
    if by_key[one.key].slot != by_key[other.key].slot or one.day == other.day or min(one.day, other.day) < today:
        return None
    moved = (replace(one, day=other.day, by_hand=True), replace(other, day=one.day, by_hand=True))
    for eaten in moved:
        kept = by_key[eaten.key]
        if eaten.store is Store.FREEZER and (kept.freezes is Freezes.NO or eaten.day <= today):
            # Nothing thaws within the day.
            return None
        if eaten.store is Store.FRIDGE and kept.fridge_days is not None and eaten.day > kept.fridge_days:
            return None
    others = [
        eaten
        for eaten in calendar.eaten
        if (eaten.key, eaten.number) not in ((one.key, one.number), (other.key, other.number))
    ]
    names = {(eaten.key, eaten.number) for eaten in moved}
    found = breaks(classes, weeks, Calendar(eaten=(*others, *moved)))
    if any(broken.rule in _REFUSED and (broken.key, broken.number) in names for broken in found):
        return None
    return moved
