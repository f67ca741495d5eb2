"""The answer to a cook day: when each task is done, by whom, on what; and how good that is known to be."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from yantai.core.schedule.day import Day, Task


@dataclass(frozen=True, slots=True, kw_only=True)
class Hands:
    """Somebody at a task for some minutes; `touch` is the number of the task's touch, None for all of it."""

    person: str
    start: int
    end: int
    touch: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """A task in the order of work."""

    task: str
    start: int
    end: int
    hands: tuple[Hands, ...] = ()
    machines: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class Order:
    """The order of work of a day.

    Attributes:
        ready: the minute at which all is ready to fill.
        spare: at most so many minutes could be spared by another order, as far as that is known; 0, and it is proven
            that none is shorter.
        waiting: what delicate components lose by waiting, minutes weighted.
        switches: how often somebody goes on with another component, or comes back to one.
        moved: how many tasks another order had elsewhere, where this one follows another.
    """

    placed: tuple[Placed, ...]
    ready: int
    spare: int
    waiting: int
    switches: int
    moved: int = 0

    @cached_property
    def by_task(self) -> Mapping[str, Placed]:
        """Where each task is placed."""
        return {one.task: one for one in self.placed}

    @property
    def is_shortest(self) -> bool:
        """Whether it is proven that no order is shorter."""
        return self.spare == 0


def in_turn(day: Day, placed: Iterable[Placed]) -> tuple[Placed, ...]:
    """The same order, in which tasks that are alike are begun by their number; what has begun keeps its own."""
    at = {one.task: one for one in placed}
    for keys in day.alike:
        free = [key for key in keys if key not in day.holds]
        for key, one in zip(free, sorted((at[key] for key in free), key=lambda each: each.start), strict=True):
            at[key] = replace(one, task=key)
    return tuple(sorted(at.values(), key=lambda one: (one.start, one.end, one.task)))


def ready_at(day: Day, ends: Mapping[str, int]) -> int:
    """The minute at which all is ready, from the ends of the tasks."""
    return max((end + day.by_key[key].rest_min for key, end in ends.items()), default=day.start)


def pot_ready(day: Day, pot: str, ends: Mapping[str, int]) -> int | None:
    """The minute at which a component is ready; None where nothing is done for it."""
    of = [end + day.by_key[key].rest_min for key, end in ends.items() if day.by_key[key].of == pot]
    return max(of, default=None)


def waiting_of(day: Day, ends: Mapping[str, int]) -> int:
    """What delicate components lose by waiting until all is ready: minutes times how delicate each is."""
    ready = ready_at(day, ends)
    each = [(pot.delicate, pot_ready(day, pot.key, ends)) for pot in day.pots]
    return sum(delicate * (ready - at) for delicate, at in each if at is not None)


def is_begun(task: Task, day: Day) -> bool:
    """Whether a task has begun, or is done."""
    hold = day.holds.get(task.key)
    if hold is None or hold.start is None:
        return False
    return hold.done or hold.end is not None or (day.now is not None and hold.start < day.now)
