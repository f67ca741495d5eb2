"""When ovens heat up: by an order of work, and as warm as they are by what was noted."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from yantai.core.schedule.day import Day, Machine
from yantai.core.schedule.order import Placed


@dataclass(frozen=True, slots=True, kw_only=True)
class Heating:
    """A stretch in which a machine heats up: for which task, to which temperature [°C]."""

    task: str
    celsius: float
    start: int
    end: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Warm:
    """At a minute a machine has a temperature [°C], or, where it `is_set`, somebody turned it to that."""

    minute: int
    celsius: float
    is_set: bool


def heatings(machine: Machine, on: Iterable[Placed], day: Day) -> list[Heating]:
    """When a machine heats up for what is on it."""
    found: list[Heating] = []
    was_c, hot_until = machine.warm_c, None
    for one in sorted(on, key=lambda each: each.start):
        celsius = day.by_key[one.task].temperature_c
        if celsius is None:
            continue
        cold_again = hot_until is not None and one.start - hot_until > 2 * (machine.heat_min or 0)
        takes = machine.heating(None if cold_again else was_c, celsius)
        if takes:
            found.append(Heating(task=one.task, celsius=celsius, start=one.start - takes, end=one.start))
        was_c, hot_until = celsius, max(hot_until or one.end, one.end)
    return found


def as_warm(machine: Machine, known: Sequence[Warm]) -> Machine:
    """A machine as warm as it is, `known` in the order in which it came in: each time from what it was before."""
    # Sorting keeps what came in one minute in its order: the knob that was turned again counts.
    for one in sorted(known, key=lambda each: each.minute):
        hot_by = one.minute
        if one.is_set:
            hot_by = max(machine.hot_at(one.minute, one.celsius), machine.hot_by or one.minute)
        machine = replace(machine, warm_c=one.celsius, hot_by=hot_by)
    return machine
