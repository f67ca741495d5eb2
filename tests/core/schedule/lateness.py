"""A cook day in the middle of it: what is done by a minute, what goes on, and what takes longer."""

from __future__ import annotations

from dataclasses import replace
from random import Random

from yantai.core.schedule.day import Day, Hold
from yantai.core.schedule.order import Order


def in_the_middle(day: Day, order: Order, chance: Random) -> Day:
    """The day at some minute of its order, one of what goes on being late by some minutes."""
    begins = min(one.start for one in order.placed)
    now = chance.randint(begins + 1, max(begins + 1, order.ready - 1))
    holds: dict[str, Hold] = {}
    going_on = []
    for one in order.placed:
        if one.start >= now:
            continue
        person = next((hand.person for hand in one.hands if hand.touch is None), None)
        done = one.end <= now
        holds[one.task] = Hold(
            start=one.start, end=one.end if done else None, person=person, machines=one.machines, done=done
        )
        if not done:
            going_on.append(one)
    if going_on:
        late = chance.choice(going_on)
        holds[late.task] = replace(holds[late.task], end=late.end + chance.choice([2, 5, 10, 25]))
    return replace(day, now=now, holds=holds)
