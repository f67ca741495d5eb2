"""A cook day as a question: tasks, hands, machines, and what has to come before what.

Times are whole minutes from an origin that the caller chooses (midnight of the cook day); those before it are negative.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property
from math import ceil

from yantai.core.errors import CoreError

MOST_TASKS = 400
"""So many tasks are planned at most; a day of ten dishes has about a hundred."""

MOST_DAYS = 4
"""A cook day reaches at most so many days from its first to its last minute."""

ROOM_C = 20.0
"""What is cold has this temperature [°C]."""


class Skill(StrEnum):
    """What hands are needed for; a person does some of these."""

    KNIFE = "knife"
    RAW = "raw"
    HEAT = "heat"
    OTHER = "other"


@dataclass(frozen=True, slots=True, kw_only=True)
class Span:
    """From a minute until another one."""

    start: int
    end: int


@dataclass(frozen=True, slots=True, kw_only=True)
class Person:
    """Somebody with two hands.

    Attributes:
        does: what this person does.
        there: when; an appointment or a break is what lies between two of these.
        pace: how long hands-on work takes, as a share of the stated minutes.
    """

    key: str
    name: str
    there: tuple[Span, ...]
    does: frozenset[Skill] = frozenset(Skill)
    pace: float = 1.0

    def takes(self, minutes: int) -> int:
        """Minutes that hands-on work of so many stated minutes takes this person."""
        return max(1, ceil(minutes * self.pace - 1e-9))


@dataclass(frozen=True, slots=True, kw_only=True)
class Machine:
    """Equipment that tasks take up.

    Attributes:
        capacity: how much of it there is: shelves, rings, pans of one size, decilitres of a fridge.
        heat_min: minutes from cold to the temperature of a task. Given, and it has one temperature at a time.
        warm_c: the temperature [°C] that it has, or is being heated to, when the schedule begins.
        hot_by: the minute at which it has that temperature; None, and it has it.
    """

    key: str
    name: str
    capacity: int = 1
    heat_min: int | None = None
    warm_c: float | None = None
    hot_by: int | None = None

    @property
    def has_one_temperature(self) -> bool:
        """Whether all that is in it at once is cooked at one temperature."""
        return self.heat_min is not None

    def heating(self, from_c: float | None, to_c: float | None) -> int:
        """Minutes from one temperature [°C] to another: in proportion to the degrees, as fast down as up.

        >>> Machine(key="o", name="Oven", heat_min=15).heating(None, 200)
        15
        >>> Machine(key="o", name="Oven", heat_min=15).heating(160, 200)
        4
        """
        if self.heat_min is None or to_c is None:
            return 0
        cold = ROOM_C if from_c is None else from_c
        return ceil(self.heat_min * abs(to_c - cold) / max(to_c - ROOM_C, 1.0) - 1e-9)

    def hot_at(self, minute: int, to_c: float | None) -> int:
        """The minute at which it can have a temperature [°C], from `minute` on."""
        if self.hot_by is not None and to_c == self.warm_c:
            return max(minute, self.hot_by)
        return minute + self.heating(self.warm_c, to_c)


@dataclass(frozen=True, slots=True, kw_only=True)
class Touch:
    """Hands for some minutes within a task that goes on by itself.

    It begins at the earliest `low` and at the latest `high` minutes after the task does; or, `from_end`, so many
    minutes before its end.
    """

    minutes: int
    low: int = 0
    high: int = 0
    from_end: bool = False
    says: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Need:
    """Equipment that a task takes up from its start to its end: one of several machines, and so much of each."""

    options: tuple[tuple[str, int], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Task:
    """Something that is done in one go.

    Attributes:
        of: the component it belongs to, by key.
        minutes: how long it takes, hands-on work at pace 1.
        most_minutes: it may go on for so long (a soak); None, and it takes `minutes`.
        hands_on: whether somebody is at it all the time; else its touches say when.
        rest_min: how long what it makes rests before it is ready.
        ahead: whether it may be done in a sitting before the day.
        not_before: it is begun at this minute at the earliest.
    """

    key: str
    of: str
    says: str
    minutes: int
    most_minutes: int | None = None
    hands_on: bool = False
    skill: Skill = Skill.OTHER
    touches: tuple[Touch, ...] = ()
    needs: tuple[Need, ...] = ()
    temperature_c: float | None = None
    rest_min: int = 0
    ahead: bool = False
    not_before: int | None = None

    @property
    def longest(self) -> int:
        """The most minutes it may take at pace 1."""
        return self.minutes if self.most_minutes is None else self.most_minutes


@dataclass(frozen=True, slots=True, kw_only=True)
class Link:
    """One task begins at least `least` minutes after another one ended, and at most `most`."""

    before: str
    after: str
    least: int = 0
    most: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Pot:
    """A component that is to be filled; `delicate` is what a minute of waiting costs it, 0 where it does not mind."""

    key: str
    name: str
    delicate: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class Hold:
    """What is not to move of a task: its start, its end, who does it, on what. With an end it has begun; `done` is what
    has happened, `touched` the touches that were made of what goes on."""

    start: int | None = None
    end: int | None = None
    person: str | None = None
    machines: tuple[str, ...] = ()
    done: bool = False
    touched: frozenset[int] = frozenset()


@dataclass(frozen=True, kw_only=True)
class Day:
    """A cook day.

    Attributes:
        start: the minute at which the day begins; only tasks that may be done ahead begin before it.
        ready_by: all is ready at the latest then, and work begins as late as it can; None, and it is ready as early
            as it can be.
        now: nothing that has not begun yet begins before this minute.
        holds: what is not to move, by task.
        alike: tasks that are the same but for their number; they are begun in its order.
    """

    tasks: tuple[Task, ...]
    links: tuple[Link, ...]
    people: tuple[Person, ...]
    machines: tuple[Machine, ...]
    pots: tuple[Pot, ...]
    start: int = 0
    ready_by: int | None = None
    now: int | None = None
    holds: Mapping[str, Hold] = field(default_factory=dict)
    alike: tuple[tuple[str, ...], ...] = ()

    def __post_init__(self) -> None:
        if len(self.tasks) > MOST_TASKS:
            raise CoreError(
                f"{len(self.tasks)} tasks are more than can be put in order at once ({MOST_TASKS}). Cook some dishes "
                "in another batch",
                field="tasks",
            )
        known = {task.key for task in self.tasks}
        if len(known) < len(self.tasks):
            raise CoreError("Two tasks have the same key", field="tasks")
        for link in self.links:
            if not {link.before, link.after} <= known:
                raise CoreError(f"“{link.before}” to “{link.after}” links a task that is not there", field="links")

    @cached_property
    def by_key(self) -> Mapping[str, Task]:
        """Its tasks by key."""
        return {task.key: task for task in self.tasks}

    @cached_property
    def machine(self) -> Mapping[str, Machine]:
        """Its machines by key."""
        return {machine.key: machine for machine in self.machines}

    @cached_property
    def person(self) -> Mapping[str, Person]:
        """Its people by key."""
        return {person.key: person for person in self.people}

    @property
    def from_minute(self) -> int:
        """The first minute at which something of the day itself may begin."""
        return self.start if self.now is None else max(self.start, self.now)

    @property
    def first_minute(self) -> int:
        """The first minute at which anything may begin."""
        there = [span.start for person in self.people for span in person.there]
        fixed = [hold.start for hold in self.holds.values() if hold.start is not None]
        return min([self.start, *there, *fixed])

    @property
    def last_minute(self) -> int:
        """No order of work takes longer than one task after the other, from when somebody is there last."""
        there = [span.end for person in self.people for span in person.there]
        fixed = [hold.end or hold.start or self.start for hold in self.holds.values()]
        slowest = max([1.0, *(person.pace for person in self.people)])
        alone = sum(ceil(task.longest * slowest) + task.rest_min for task in self.tasks)
        heating = sum(machine.heat_min or 0 for machine in self.machines) * max(len(self.tasks), 1)
        latest = max([self.start, *there, *fixed]) + min(alone + heating, MOST_DAYS * 24 * 60)
        return latest if self.ready_by is None else max(min(latest, self.ready_by), max(fixed, default=self.start))


def a_cycle(day: Day) -> tuple[str, ...]:
    """Tasks that each wait for the one before them, round to the first; nothing where there are none."""
    follows: dict[str, list[str]] = defaultdict(list)
    for link in day.links:
        follows[link.before].append(link.after)
    seen: dict[str, bool] = {}

    def round_from(key: str, path: tuple[str, ...]) -> tuple[str, ...]:
        if key in path:
            return path[path.index(key) :]
        if key in seen:
            return ()
        for after in follows[key]:
            if found := round_from(after, (*path, key)):
                return found
        seen[key] = True
        return ()

    for task in day.tasks:
        if found := round_from(task.key, ()):
            return found
    return ()


def obstacles(day: Day) -> Iterator[str]:
    """Why there is no order of work at all, as far as one task alone tells, each with its way out."""
    cycle = a_cycle(day)
    if cycle:
        names = " → ".join(f"“{day.by_key[key].says}”" for key in (*cycle, cycle[0]))
        yield f"These wait for each other: {names}. Take one of them out of what has to be done before."
    if not day.people:
        yield "Nobody is there to cook. Add somebody to the kitchen."
        return
    for task in day.tasks:
        if day.holds.get(task.key, Hold()).done:
            continue
        who = [person for person in day.people if task.skill in person.does]
        needs_hands = task.hands_on or task.touches
        if needs_hands and not who:
            yield f"Nobody here does “{task.says}” ({SKILL_WORDS[task.skill]}). Say who does, or take the step out."
        elif task.hands_on and not any(
            span.end - span.start >= person.takes(task.minutes) for person in who for span in person.there
        ):
            yield (
                f"“{task.says}” takes {min(person.takes(task.minutes) for person in who)} minutes, and nobody is there "
                "for so long at a stretch. Split it, or move a break."
            )
        for need in task.needs:
            fits = [key for key, amount in need.options if key in day.machine and amount <= day.machine[key].capacity]
            if not fits:
                yield f"There is nothing to do “{task.says}” on. Add what it takes to the kitchen, or change the step."


SKILL_WORDS = {
    Skill.KNIFE: "knife work",
    Skill.RAW: "raw meat, fish and egg",
    Skill.HEAT: "stove and oven",
    Skill.OTHER: "all other work",
}
