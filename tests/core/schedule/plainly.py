"""Orders of work found without the model: a rule that a cook could follow, and every order there is."""

from __future__ import annotations

from collections import defaultdict
from itertools import product
from math import ceil

from yantai.core.schedule.day import Day, Machine, Task


def _heat(machine: Machine, from_c: float, to_c: float) -> int:
    return ceil(round((machine.heat_min or 0) * abs(to_c - from_c) / (to_c - 20.0), 9))


def _greedily(choices: list[list[tuple[str, int, int]]]) -> list[tuple[tuple[str, int, int], ...]]:
    """One way instead of all: each touch at its earliest, by whoever is not at the one before."""
    hands: list[tuple[str, int, int]] = []
    for choice in choices:
        free = [one for one in choice if not any(one[0] == o[0] and one[1] < o[2] and o[1] < one[2] for o in hands)]
        if not free:
            return []
        hands.append(min(free, key=lambda one: one[1]))
    return [tuple(hands)]


class Sheet:
    """A day's sheet of paper: who is busy at which minute, and what is on what."""

    def __init__(self, day: Day) -> None:
        self.day = day
        self.busy: set[tuple[str, int]] = set()
        self.on: dict[str, list[tuple[int, int, int, float]]] = defaultdict(list)
        self.start: dict[str, int] = {}
        self.end: dict[str, int] = {}

    def there(self, person: str, start: int, end: int) -> bool:
        who = next(each for each in self.day.people if each.key == person)
        return any(span.start <= start and end <= span.end for span in who.there) and not any(
            (person, minute) in self.busy for minute in range(start, end)
        )

    def room(self, key: str, amount: int, task: Task, start: int, end: int) -> bool:
        machine = next(each for each in self.day.machines if each.key == key)
        if amount > machine.capacity:
            return False
        temperature = task.temperature_c or 0.0
        if machine.heat_min is not None:
            if start < self.day.start + _heat(machine, 20.0, temperature):
                return False
            for other_start, other_end, _, theirs in self.on[key]:
                apart = theirs != temperature
                if (
                    apart
                    and start < other_end + _heat(machine, theirs, temperature)
                    and other_start < end + _heat(machine, temperature, theirs)
                ):
                    return False
        for minute in {start, *(one for one, _, _, _ in self.on[key] if start <= one < end)}:
            held = sum(n for one, until, n, _ in self.on[key] if one <= minute < until)
            if held + amount > machine.capacity:
                return False
        return True

    def after(self, task: Task) -> int | None:
        """The first minute at which all that a task waits for is over; None where something of that is not begun."""
        minute = self.day.start
        for link in self.day.links:
            if link.after == task.key:
                if link.before not in self.end:
                    return None
                minute = max(minute, self.end[link.before] + link.least)
        return minute

    def shapes(self, task: Task, start: int) -> list[tuple[int, list[tuple[str, int, int]], list[tuple[str, int]]]]:
        """Every way to do a task from a minute on: its end, hands, and machines. A touch is made as early as it can."""
        able = [person for person in self.day.people if task.skill in person.does]
        ways: list[tuple[int, list[tuple[str, int, int]]]] = []
        if task.hands_on:
            for person in able:
                end = start + max(1, ceil(round(task.minutes * person.pace, 9)))
                if self.there(person.key, start, end):
                    ways.append((end, [(person.key, start, end)]))
        else:
            end = start + task.minutes
            choices: list[list[tuple[str, int, int]]] = []
            for touch in task.touches:
                first = end - touch.low if touch.from_end else start + touch.low
                last = first if touch.from_end else start + touch.high
                choices.append(
                    [
                        (person.key, at, at + touch.minutes)
                        for at in range(first, last + 1)
                        for person in able
                        if self.there(person.key, at, at + touch.minutes)
                    ]
                )
            for hands in product(*choices) if len(choices) < 4 else _greedily(choices):
                if not any(
                    one[0] == other[0] and one[1] < other[2] and other[1] < one[2]
                    for number, one in enumerate(hands)
                    for other in hands[:number]
                ):
                    ways.append((end, list(hands)))
        found = []
        for end, hands_of in ways:
            rooms = [
                [(key, n) for key, n in need.options if self.room(key, n, task, start, end)] for need in task.needs
            ]
            found += [(end, hands_of, list(machines)) for machines in product(*rooms)]
        return found

    def put(
        self, task: Task, start: int, end: int, hands: list[tuple[str, int, int]], machines: list[tuple[str, int]]
    ) -> None:
        self.start[task.key], self.end[task.key] = start, end
        self.busy |= {(person, minute) for person, one, until in hands for minute in range(one, until)}
        for key, amount in machines:
            self.on[key].append((start, end, amount, task.temperature_c or 0.0))

    def take(self, task: Task, hands: list[tuple[str, int, int]], machines: list[tuple[str, int]]) -> None:
        del self.start[task.key], self.end[task.key]
        self.busy -= {(person, minute) for person, one, until in hands for minute in range(one, until)}
        for key, _ in machines:
            self.on[key].pop()


def by_rule(day: Day) -> int:
    """When all is ready if, minute by minute, whatever can begin is begun: what has most left after it first."""
    sheet = Sheet(day)
    left: dict[str, int] = {}

    def tail(task: Task) -> int:
        if task.key not in left:
            then = [link.least + tail(day.by_key[link.after]) for link in day.links if link.before == task.key]
            left[task.key] = task.minutes + max([task.rest_min, *then])
        return left[task.key]

    waiting = sorted(day.tasks, key=lambda task: (-tail(task), task.key))
    for minute in range(day.start, day.start + 20_000):
        for task in list(waiting):
            after = sheet.after(task)
            if after is None or after > minute:
                continue
            ways = sheet.shapes(task, minute)
            if ways:
                sheet.put(task, minute, *min(ways, key=lambda way: way[0]))
                waiting.remove(task)
        if not waiting:
            break
    assert not waiting, "the rule comes to no end"
    return max(sheet.end[task.key] + task.rest_min for task in day.tasks)


def one_after_the_other(day: Day) -> int:
    """When all is ready if each component is cooked to its end before the next is begun."""
    sheet = Sheet(day)
    minute = day.start
    for pot in day.pots:
        waiting = [task for task in day.tasks if task.of == pot.key]
        begin = minute
        while waiting:
            task = next(task for task in waiting if sheet.after(task) is not None)
            at = max(begin, sheet.after(task) or begin)
            while not (ways := sheet.shapes(task, at)):
                at += 1
            sheet.put(task, at, *min(ways, key=lambda way: way[0]))
            waiting.remove(task)
            minute = max(minute, sheet.end[task.key])
    return max(sheet.end[task.key] + task.rest_min for task in day.tasks)


def shortest(day: Day, *, starts_vary: bool) -> int:
    """When all is ready at the earliest, by trying every order of tasks with all hands and machines.

    Where hands are needed only from the start of a task on, it is enough to try each task at its earliest minute;
    otherwise, with `starts_vary`, at every minute.
    """
    best = by_rule(day)
    sheet = Sheet(day)

    def ready() -> int:
        return max([day.start, *(sheet.end[key] + day.by_key[key].rest_min for key in sheet.end)])

    def go_on() -> None:
        nonlocal best
        waiting = [task for task in day.tasks if task.key not in sheet.end]
        if not waiting:
            best = min(best, ready())
            return
        if starts_vary:
            waiting = next([task] for task in waiting if sheet.after(task) is not None)
        for task in waiting:
            after = sheet.after(task)
            if after is None:
                continue
            seen: set[tuple[tuple[str, ...], tuple[str, ...]]] = set()
            for start in range(after, best - task.minutes // 2):
                for end, hands, machines in sheet.shapes(task, start):
                    if end + task.rest_min >= best and ready() < best:
                        continue
                    who = tuple(hand[0] for hand in hands), tuple(machine[0] for machine in machines)
                    if not starts_vary and who in seen:
                        continue
                    seen.add(who)
                    sheet.put(task, start, end, hands, machines)
                    if ready() < best:
                        go_on()
                    sheet.take(task, hands, machines)

    go_on()
    return best
