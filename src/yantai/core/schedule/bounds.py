"""What no order of work can beat: chains of tasks, hands, and machines, each looked at alone."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from itertools import combinations, pairwise
from math import ceil

from yantai.core.schedule.day import Day, Hold, Person, Span, Task


def earliest_ready(day: Day) -> int:
    """A minute before which no order of work is ready, from what is not begun yet.

    Some hands do nothing else than what only they can do, a machine nothing else than what can only be done there, a
    chain of tasks takes as long as its tasks: the longest of these.
    """
    open_tasks = [task for task in day.tasks if day.holds.get(task.key, Hold()).start is None and not task.ahead]
    return max(
        [day.from_minute, *_by_chains(day, open_tasks), *_by_hands(day, open_tasks), *_by_machines(day, open_tasks)]
    )


def _shortest(day: Day, task: Task) -> int:
    if not task.hands_on:
        return task.minutes
    return min((person.takes(task.minutes) for person in day.people if task.skill in person.does), default=task.minutes)


def _by_chains(day: Day, tasks: Iterable[Task]) -> Iterable[int]:
    among = {task.key: task for task in tasks}
    before: dict[str, list[tuple[str, int]]] = defaultdict(list)
    for link in day.links:
        if link.before in among and link.after in among:
            before[link.after].append((link.before, link.least))
    ends: dict[str, int] = {}

    def end(key: str) -> int:
        if key not in ends:
            begin = max(
                [day.from_minute + _heating(day, among[key])] + [end(one) + least for one, least in before[key]]
            )
            ends[key] = begin + _shortest(day, among[key])
        return ends[key]

    return [end(key) + task.rest_min for key, task in among.items()]


def _heating(day: Day, task: Task) -> int:
    """Minutes until the machine that is hot soonest has the temperature of a task."""
    waits = [
        min(
            (
                day.machine[key].hot_at(day.from_minute, task.temperature_c) - day.from_minute
                for key, _ in need.options
                if key in day.machine
            ),
            default=0,
        )
        for need in task.needs
    ]
    return max(waits, default=0)


def _by_hands(day: Day, tasks: Iterable[Task]) -> Iterable[int]:
    work = [
        (
            frozenset(person.key for person in day.people if task.skill in person.does),
            _shortest(day, task) if task.hands_on else sum(touch.minutes for touch in task.touches),
        )
        for task in tasks
    ]
    for size in range(1, len(day.people) + 1):
        for people in combinations(day.people, size):
            keys = {person.key for person in people}
            minutes = sum(needed for able, needed in work if able <= keys)
            yield _when_done(people, minutes, day.from_minute)


def _when_done(people: Iterable[Person], minutes: int, start: int) -> int:
    """The minute at which these people together have been there for so long, from `start` on."""
    spans = [
        Span(start=max(span.start, start), end=span.end) for one in people for span in one.there if span.end > start
    ]
    times = sorted({minute for span in spans for minute in (span.start, span.end)})
    for at, until in pairwise(times):
        there = sum(span.start <= at and until <= span.end for span in spans)
        if there and minutes <= there * (until - at):
            return at + ceil(minutes / there) if minutes else start
        minutes -= there * (until - at)
    return start


def _by_machines(day: Day, tasks: Iterable[Task]) -> Iterable[int]:
    """Machines of which a task takes one: what can only be done on some of them fills these."""
    loads: dict[frozenset[str], int] = defaultdict(int)
    for task in tasks:
        for need in task.needs:
            fits = {key: n for key, n in need.options if key in day.machine and n <= day.machine[key].capacity}
            loads[frozenset(fits)] += min(fits.values(), default=0) * _shortest(day, task)
    for keys in loads:
        room = sum(day.machine[key].capacity for key in keys)
        filled = sum(load for others, load in loads.items() if others <= keys)
        if room:
            yield day.from_minute + ceil(filled / room)
