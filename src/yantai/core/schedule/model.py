"""The model of a cook day for CP-SAT: what is decided, and what has to hold. docs/schedule.md states it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import combinations
from typing import Any

from ortools.sat.python import cp_model

from yantai.core.schedule.bounds import earliest_ready
from yantai.core.schedule.day import Day, Hold, Link, Person, Task
from yantai.core.schedule.order import Placed, is_begun

LATE_MIN = 30
"""What goes on already may be late by so much [min], where the hands that it needs are elsewhere."""

Expression = cp_model.LinearExpr
Variable = cp_model.IntVar


@dataclass(frozen=True, slots=True, kw_only=True)
class Hand:
    """Hands in the model: at which task or touch of it, from when, for how long, and who of some people."""

    task: Task
    touch: int | None
    start: Variable
    minutes: int
    by: dict[str, Variable]


class Model:
    """One day. `late` are minutes by which something that goes on already is late, where it could not be otherwise."""

    def __init__(self, day: Day) -> None:
        self.day = day
        self.cp = cp_model.CpModel()
        self.low, self.high = day.first_minute, day.last_minute
        self.starts: dict[str, Variable] = {}
        self.ends: dict[str, Variable] = {}
        self.hands: list[Hand] = []
        self.on: dict[str, list[dict[str, Variable]]] = {}
        self.late: list[Variable] = []
        self.always = self.cp.new_constant(1)
        self._busy: dict[str, list[Any]] = defaultdict(list)
        self._busy_until: dict[str, int] = {}
        self._used: dict[str, list[tuple[Any, int]]] = defaultdict(list)
        self._used_now: dict[str, int] = defaultdict(int)
        self._heated: dict[str, list[tuple[Task, Variable]]] = defaultdict(list)
        for task in day.tasks:
            self._place(task)
        for link in day.links:
            self._link(link)
        for person in day.people:
            self._one_thing_at_a_time(person)
        for machine in day.machines:
            self._hold_what_fits(machine.key)
            self._keep_one_temperature(machine.key)
        self.ready = self._minute("ready")
        self.cp.add(self.ready >= min(earliest_ready(day), self.high))
        for task in day.tasks:
            self.cp.add(self.ready >= self.ends[task.key] + task.rest_min)

    def _minute(self, name: str) -> Variable:
        return self.cp.new_int_var(self.low, self.high + LATE_MIN, name)

    def hint(self, placed: Iterable[Placed]) -> None:
        """Begin the search at an order of work."""
        self.cp.clear_hints()  # type: ignore[no-untyped-call]
        at = {one.task: one for one in placed}
        by = {(one.task, hand.touch): hand for one in at.values() for hand in one.hands}
        known: dict[int, tuple[Variable, int]] = {}
        for key, one in at.items():
            known[self.starts[key].index] = self.starts[key], one.start
            known[self.ends[key].index] = self.ends[key], one.end
            for need, chosen in zip(self.on[key], one.machines, strict=False):
                known |= {is_on.index: (is_on, int(machine == chosen)) for machine, is_on in need.items()}
        for hand in self.hands:
            hinted = by.get((hand.task.key, hand.touch))
            if hinted is not None:
                known[hand.start.index] = hand.start, hinted.start
                known |= {at_it.index: (at_it, int(key == hinted.person)) for key, at_it in hand.by.items()}
        for variable, value in known.values():
            self.cp.add_hint(variable, value)

    # What is decided of a task.

    def _place(self, task: Task) -> None:
        day, hold = self.day, self.day.holds.get(task.key, Hold())
        self.on[task.key] = []
        if hold.done and hold.start is not None and hold.end is not None:
            self.starts[task.key] = self.cp.new_constant(hold.start)
            self.ends[task.key] = self.cp.new_constant(hold.end)
            return
        begun = is_begun(task, day)
        if hold.start is not None:
            start = self.cp.new_constant(hold.start)
        else:
            earliest = day.from_minute if not task.ahead else self.low if day.now is None else day.now
            earliest = max(earliest, earliest if task.not_before is None else task.not_before)
            start = self.cp.new_int_var(min(earliest, self.high), self.high, f"start {task.key}")
        end = self._minute(f"end {task.key}")
        self.starts[task.key], self.ends[task.key] = start, end
        if begun:
            self._go_on(task, hold, end)
        else:
            self._last(task, start, end)
            self._touch(task, hold, start, end)
        self._equip(task, hold, start, end, begun=begun)

    def _last(self, task: Task, start: Variable, end: Variable) -> None:
        if not task.hands_on:
            self.cp.add(end >= start + task.minutes)
            self.cp.add(end <= start + task.longest)

    def _touch(self, task: Task, hold: Hold, start: Variable, end: Variable) -> None:
        if task.hands_on:
            self.hands.append(self._somebody(task, None, start, task.minutes, hold.person, end))
        for number, touch in enumerate(task.touches):
            at = start
            if touch.from_end:
                at = self._minute(f"touch {task.key} {number}")
                self.cp.add(at == end - touch.low)
            elif touch.high:
                at = self._minute(f"touch {task.key} {number}")
                self.cp.add(at >= start + touch.low)
                self.cp.add(at <= start + touch.high)
            self.hands.append(self._somebody(task, number, at, touch.minutes, None))

    def _go_on(self, task: Task, hold: Hold, end: Variable) -> None:
        """What goes on already ends when it is said to, or once the hands that it needs are free."""
        now, begun_at = self.day.now, hold.start
        assert now is not None and begun_at is not None
        person = self.day.person.get(hold.person or "")
        lasts = person.takes(task.minutes) if task.hands_on and person is not None else task.minutes
        over = max(now, hold.end if hold.end is not None else begun_at + lasts)
        if task.hands_on or not any(touch.from_end for touch in task.touches):
            self.cp.add(end == over)
        if task.hands_on and person is not None:
            # Two things that somebody is at together, as it happened, are no contradiction: one busy time for both.
            self._busy_until[person.key] = max(self._busy_until.get(person.key, now), over)
            hand = Hand(
                task=task,
                touch=None,
                start=self.starts[task.key],
                minutes=over - begun_at,
                by={person.key: self.always},
            )
            self.hands.append(hand)
        for number, touch in enumerate(task.touches):
            if number in hold.touched or (not number and not touch.from_end):
                continue
            due = over - touch.low if touch.from_end else begun_at + touch.high
            at, late = self._minute(f"touch {task.key} {number}"), self._lateness(f"{task.key} {number}")
            self.cp.add(at >= (max(now, due) if touch.from_end else max(now, begun_at + touch.low)))
            self.cp.add(at <= max(now, due) + late)
            if touch.from_end:
                self.cp.add(end == at + max(touch.low, touch.minutes))
            self.hands.append(self._somebody(task, number, at, touch.minutes, None))

    def _lateness(self, name: str) -> Variable:
        late = self.cp.new_int_var(0, self.high - self.low + LATE_MIN, f"late {name}")
        self.late.append(late)
        return late

    def _somebody(
        self,
        task: Task,
        touch: int | None,
        start: Variable,
        minutes: int,
        wished: str | None,
        end: Variable | None = None,
    ) -> Hand:
        """Exactly one person who does such work is at it; with `end`, as long as it takes this person."""
        able = [person for person in self.day.people if task.skill in person.does]
        able = [person for person in able if person.key == wished] or able
        by: dict[str, Variable] = {}
        for person in able:
            lasts = minutes if end is None else person.takes(minutes)
            is_at_it = self.always if len(able) == 1 else self.cp.new_bool_var(f"{person.key} at {task.key} {touch}")
            by[person.key] = is_at_it
            self._busy[person.key].append(
                self.cp.new_optional_fixed_size_interval_var(start, lasts, is_at_it, f"{person.key} {task.key} {touch}")
            )
            if end is not None:
                self.cp.add(end == start + lasts).only_enforce_if(is_at_it)
        self.cp.add_exactly_one(by.values())
        return Hand(task=task, touch=touch, start=start, minutes=minutes, by=by)

    def _equip(self, task: Task, hold: Hold, start: Variable, end: Variable, *, begun: bool) -> None:
        for number, need in enumerate(task.needs):
            fits = [
                (key, n) for key, n in need.options if key in self.day.machine and n <= self.day.machine[key].capacity
            ]
            wished = hold.machines[number] if number < len(hold.machines) else None
            fits = [each for each in fits if each[0] == wished] or fits
            size = self.cp.new_int_var(0, self.high - self.low + LATE_MIN, f"minutes {task.key} {number}")
            chosen: dict[str, Variable] = {}
            for key, amount in fits:
                name = f"{task.key} {number} on {key}"
                is_on = chosen[key] = self.always if len(fits) == 1 else self.cp.new_bool_var(name)
                self._used[key].append((self.cp.new_optional_interval_var(start, size, end, is_on, name), amount))
                self._used_now[key] += amount if begun else 0
                machine = self.day.machine[key]
                if machine.has_one_temperature:
                    self._heated[key].append((task, is_on))
                    if not begun and not task.ahead:
                        hot = machine.hot_at(self.day.from_minute, task.temperature_c)
                        self.cp.add(start >= hot).only_enforce_if(is_on)
            self.cp.add_exactly_one(chosen.values())
            self.on[task.key].append(chosen)

    # What has to hold between tasks.

    def _link(self, link: Link) -> None:
        if is_begun(self.day.by_key[link.after], self.day):
            return
        ended, start = self.ends[link.before], self.starts[link.after]
        self.cp.add(start >= ended + link.least)
        if link.most is not None:
            begun = is_begun(self.day.by_key[link.before], self.day)
            late = self._lateness(f"{link.before} {link.after}") if begun else 0
            self.cp.add(start <= ended + link.most + late)

    def _one_thing_at_a_time(self, person: Person) -> None:
        low, high, now = self.low, self.high + LATE_MIN + 1, self.day.now
        away, at = [], low
        for span in sorted(person.there, key=lambda one: one.start):
            away.append((at, span.start))
            at = max(at, span.end)
        away.append((at, high))
        until = self._busy_until.get(person.key)
        if until is not None and now is not None:
            # A break that begins while somebody is still at it waits for the task.
            away = [(start if start < now else max(start, until), end) for start, end in away] + [(now, until)]
            away = [(max(start, until) if start < until < end and start != now else start, end) for start, end in away]
        fixed = [
            self.cp.new_fixed_size_interval_var(start, end - start, f"{person.key} away")
            for start, end in _merged(away)
        ]
        self.cp.add_no_overlap([*self._busy[person.key], *fixed])

    def _hold_what_fits(self, key: str) -> None:
        used, machine = self._used[key], self.day.machine[key]
        capacity = max(machine.capacity, self._used_now[key])
        if sum(amount for _, amount in used) <= capacity:
            return
        if all(2 * amount > capacity for _, amount in used):
            self.cp.add_no_overlap([interval for interval, _ in used])
        else:
            self.cp.add_cumulative([interval for interval, _ in used], [amount for _, amount in used], capacity)

    def _keep_one_temperature(self, key: str) -> None:
        machine = self.day.machine[key]
        for (one, one_on), (other, other_on) in combinations(self._heated[key], 2):
            both_begun = is_begun(one, self.day) and is_begun(other, self.day)
            if one.temperature_c == other.temperature_c or both_begun:
                continue
            first = self.cp.new_bool_var(f"{one.key} before {other.key} in {key}")
            to_other = machine.heating(one.temperature_c, other.temperature_c)
            to_one = machine.heating(other.temperature_c, one.temperature_c)
            both = [one_on, other_on]
            self.cp.add(self.starts[other.key] >= self.ends[one.key] + to_other).only_enforce_if([*both, first])
            self.cp.add(self.starts[one.key] >= self.ends[other.key] + to_one).only_enforce_if([*both, ~first])


def _merged(spans: Iterable[tuple[int, int]]) -> list[tuple[int, int]]:
    """The same minutes as spans that do not touch."""
    merged: list[tuple[int, int]] = []
    for start, end in sorted(span for span in spans if span[0] < span[1]):
        if merged and start <= merged[-1][1]:
            merged[-1] = merged[-1][0], max(merged[-1][1], end)
        else:
            merged.append((start, end))
    return merged
