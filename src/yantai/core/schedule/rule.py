"""A first order of work by a rule: what has most after it is begun first, each task as early as it can.

It is found in milliseconds, many times over with the rule bent a little; the solver starts from the best of them.
Minutes that are taken are bits of one whole number for each person and machine, so that "when are five minutes free
here and ten there" is a few operations on numbers.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from itertools import pairwise

import numpy as np

from yantai.core.schedule.day import Day, Link, Machine, Person, Task
from yantai.core.schedule.order import Hands, Placed, ready_at, waiting_of

PASSES = 60
"""So many times the rule is tried; first as it is, then bent by chance."""

_BENT = 0.35
"""By chance the rule is bent by at most this share of the longest chain."""

_AS_A_COOK = 8
"""One of so many tries takes up what could begin first, whatever its priority."""

_TRIES = 30
"""So often at most is something begun later because what follows it would come too late."""


def first_placed(day: Day, *, passes: int = PASSES, like: Mapping[str, int] | None = None) -> tuple[Placed, ...] | None:
    """The best order of work that the rule leads to; None where it comes to no end (what must not wait, waits).

    With `like`, the tasks are taken up in the order of those minutes.
    """
    tails = _tails(day)
    longest = max(tails.values(), default=1.0)
    chance = np.random.default_rng(1)
    priority = dict(tails)
    if like is not None:
        in_turn = sorted(like, key=lambda key: like[key], reverse=True)
        priority |= {key: longest + number for number, key in enumerate(in_turn, 1)}
    best: tuple[tuple[int, int], tuple[Placed, ...]] | None = None
    for number in range(passes):
        # Half of the tries bend the rule itself, the others what has led furthest so far.
        bends = _BENT if number % 2 else _BENT / 4
        more = chance.random(len(day.tasks)) * longest * bends if number > 1 else np.zeros(len(day.tasks))
        from_what = tails if number % 2 else priority
        bent = {task.key: from_what[task.key] + by for task, by in zip(day.tasks, more, strict=True)}
        # Now and then what could begin first is taken before what is next by priority, as a cook would.
        placed = _run(day, bent, takes_turns=number % _AS_A_COOK != 1)
        if placed is None:
            continue
        ends = {one.task: one.end for one in placed}
        worth = ready_at(day, ends), waiting_of(day, ends)
        if best is None or worth < best[0]:
            best, priority = (worth, placed), bent
    return None if best is None else best[1]


def _run(day: Day, priority: Mapping[str, float], *, takes_turns: bool) -> tuple[Placed, ...] | None:
    """The order that these priorities lead to. What would wait too long after is begun later, and all tried again."""
    later: dict[str, int] = {}
    for _ in range(_TRIES + 2 * sum(link.most is not None for link in day.links)):
        one_pass = _Pass(day, priority, later, takes_turns=takes_turns)
        placed = one_pass.run()
        if placed is not None or one_pass.waited is None:
            return placed
        key, minute = one_pass.waited
        later[key] = max(later.get(key, minute), minute)
    return None


def _tails(day: Day) -> dict[str, float]:
    """Minutes from the start of each task until all that waits for it is ready, if nothing else stood in the way."""
    after: dict[str, list[Link]] = defaultdict(list)
    for link in day.links:
        after[link.before].append(link)
    tails: dict[str, float] = {}
    for key in reversed(_in_turn(day)):
        task = day.by_key[key]
        then = [link.least + tails[link.after] for link in after[key]]
        tails[key] = task.minutes + max([float(task.rest_min), *then])
    return tails


def _in_turn(day: Day) -> list[str]:
    """The tasks so that each comes after those it waits for."""
    waits = {task.key: 0 for task in day.tasks}
    after: dict[str, list[str]] = defaultdict(list)
    for link in day.links:
        waits[link.after] += 1
        after[link.before].append(link.after)
    turn = [key for key, count in waits.items() if not count]
    for key in turn:
        for then in after[key]:
            waits[then] -= 1
            if not waits[then]:
                turn.append(then)
    return turn


class _Pass:
    """One try: tasks by priority, each at its earliest minute. Minute 0 of the bits is the day's first minute."""

    def __init__(
        self, day: Day, priority: Mapping[str, float], later: Mapping[str, int], *, takes_turns: bool = True
    ) -> None:
        self.day, self.priority, self.later, self.takes_turns = day, priority, later, takes_turns
        self.waited: tuple[str, int] | None = None
        self.free: dict[str, int] = {}
        self.used: dict[str, list[tuple[int, int, int, float | None]]] = defaultdict(list)
        self.low = self.day.first_minute
        self.all = (1 << (self.day.last_minute - self.low + 1)) - 1
        for person in self.day.people:
            there = 0
            for span in person.there:
                there |= _bits(max(0, span.start - self.low), span.end - self.low)
            self.free[person.key] = there & self.all
        self.does = {
            task.key: [person for person in self.day.people if task.skill in person.does] for task in self.day.tasks
        }

    def run(self) -> tuple[Placed, ...] | None:
        """All tasks placed, or None."""
        before: dict[str, list[Link]] = defaultdict(list)
        after: dict[str, list[str]] = defaultdict(list)
        for link in self.day.links:
            before[link.after].append(link)
            after[link.before].append(link.after)
        placed: dict[str, Placed] = {}
        for task in self.day.tasks:
            hold = self.day.holds.get(task.key)
            if hold is not None and hold.start is not None:
                return None
        waits = {task.key: len(before[task.key]) for task in self.day.tasks}
        ready = {key for key, count in waits.items() if not count}
        while ready:
            found = self._next(ready, before, placed)
            if found is None:
                return None
            for link in before[found.task]:
                one = placed[link.before]
                if link.most is not None and found.start > one.end + link.most:
                    self.waited = one.task, one.start + found.start - one.end - link.most
                    return None
            self._take(self.day.by_key[found.task], found)
            placed[found.task] = found
            ready.remove(found.task)
            for then in after[found.task]:
                waits[then] -= 1
                if not waits[then]:
                    ready.add(then)
        return tuple(placed.values()) if len(placed) == len(self.day.tasks) else None

    def _next(self, ready: set[str], before: Mapping[str, list[Link]], placed: Mapping[str, Placed]) -> Placed | None:
        """The task that is placed next: the one of highest priority, or of those that could begin first."""
        best: Placed | None = None
        for key in sorted(ready, key=lambda one: (-self.priority[one], one)):
            task = self.day.by_key[key]
            earliest = self.low if task.ahead and self.day.now is None else self.day.from_minute
            earliest = max(earliest, self.later.get(key, earliest))
            earliest = max(earliest, earliest if task.not_before is None else task.not_before)
            for link in before[key]:
                earliest = max(earliest, placed[link.before].end + link.least)
            if best is not None and earliest >= best.start:
                continue
            found = self._place(task, earliest)
            if found is None or self.takes_turns:
                return found
            if best is None or found.start < best.start:
                best = found
        return best

    def _place(self, task: Task, earliest: int) -> Placed | None:
        """A task at its earliest minute, by whoever would be done with it first."""
        best: Placed | None = None
        people: Sequence[Person | None] = self.does[task.key] if task.hands_on else (None,)
        for person in people:
            lasts = task.minutes if person is None else person.takes(task.minutes)
            can = self.all & ~((1 << max(0, earliest - self.low)) - 1)
            if person is not None:
                can &= _runs(self.free[person.key], lasts)
            for machines in self._machines(task):
                for start in _ones(can & self._room(task, machines, lasts)):
                    if best is not None and start + self.low + lasts >= best.end:
                        break
                    hands = self._hands(task, person, start, lasts)
                    if hands is not None:
                        at = start + self.low
                        best = Placed(task=task.key, start=at, end=at + lasts, hands=hands, machines=machines)
                        break
        return best

    def _machines(self, task: Task) -> Iterator[tuple[str, ...]]:
        """Every choice of machines: one of the options of each need."""
        choices: list[tuple[str, ...]] = [()]
        for need in task.needs:
            fits = [key for key, n in need.options if key in self.day.machine and n <= self.day.machine[key].capacity]
            choices = [(*chosen, key) for chosen in choices for key in fits]
        return iter(choices)

    def _room(self, task: Task, machines: tuple[str, ...], lasts: int) -> int:
        """The minutes at which a task can begin on these machines."""
        can = self.all
        for key, need in zip(machines, task.needs, strict=True):
            machine, amount = self.day.machine[key], dict(need.options)[key]
            taken = 0
            for start, end, other, temperature in self.used[key]:
                heats = machine.has_one_temperature and temperature != task.temperature_c
                if heats or other + amount > machine.capacity:
                    from_then = machine.heating(task.temperature_c, temperature) if heats else 0
                    until_then = machine.heating(temperature, task.temperature_c) if heats else 0
                    taken |= _bits(max(0, start - from_then), end + until_then)
            if machine.capacity > 1:
                taken |= _too_full(self.used[key], machine, amount)
            can &= _runs(self.all & ~taken, lasts)
            if machine.has_one_temperature and not task.ahead:
                hot = machine.hot_at(self.day.from_minute, task.temperature_c) - self.low
                can &= ~((1 << max(0, hot)) - 1)
        return can

    def _hands(self, task: Task, person: Person | None, start: int, lasts: int) -> tuple[Hands, ...] | None:
        """Who is at a task that begins then; None where nobody can be."""
        hands: list[Hands] = []
        free = dict(self.free)
        if person is not None:
            free[person.key] &= ~_bits(start, start + lasts)
            hands.append(Hands(person=person.key, start=start + self.low, end=start + lasts + self.low))
        for number, touch in enumerate(task.touches):
            first = start + lasts - touch.low if touch.from_end else start + touch.low
            last = first if touch.from_end else start + touch.high
            found = None
            for other in self.does[task.key]:
                at = next(_ones(_runs(free[other.key], touch.minutes) & _bits(first, last + 1)), None)
                if at is not None and (found is None or at < found[0]):
                    found = at, other.key
            if found is None:
                return None
            at, key = found
            free[key] &= ~_bits(at, at + touch.minutes)
            end = at + touch.minutes + self.low
            hands.append(Hands(person=key, start=at + self.low, end=end, touch=number))
        return tuple(hands)

    def _take(self, task: Task, one: Placed) -> None:
        for hand in one.hands:
            self.free[hand.person] &= ~_bits(hand.start - self.low, hand.end - self.low)
        for key, need in zip(one.machines, task.needs, strict=True):
            amount = dict(need.options)[key]
            self.used[key].append((one.start - self.low, one.end - self.low, amount, task.temperature_c))


def _bits(start: int, end: int) -> int:
    """The minutes from `start` until `end`."""
    return ((1 << (end - start)) - 1) << start if end > start else 0


def _runs(free: int, minutes: int) -> int:
    """The minutes from which on so many are free.

    >>> bin(_runs(0b1101110, 3))
    '0b10'
    """
    run, have = free, 1
    while have < minutes:
        step = min(have, minutes - have)
        run &= run >> step
        have += step
    return run


def _ones(bits: int) -> Iterator[int]:
    """The minutes that are set, the first one first."""
    while bits:
        lowest = bits & -bits
        yield lowest.bit_length() - 1
        bits ^= lowest


def _too_full(used: Sequence[tuple[int, int, int, float | None]], machine: Machine, amount: int) -> int:
    """The minutes at which so much more does not go in."""
    if sum(other for _, _, other, _ in used) + amount <= machine.capacity:
        return 0
    taken = 0
    times = sorted({minute for start, end, _, _ in used for minute in (start, end)})
    for at, until in pairwise(times):
        held = sum(other for start, end, other, _ in used if start <= at < end)
        if held + amount > machine.capacity:
            taken |= _bits(at, until)
    return taken
