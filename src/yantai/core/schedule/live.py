"""A cook day while it goes on: what was noted about its tasks, and the day as it is from then on."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum

from yantai.core.schedule.day import Day, Hold, Link, Machine, Task
from yantai.core.schedule.heating import Warm, as_warm
from yantai.core.schedule.order import Order, Placed

OVERDUE_MIN = 2
"""What has not begun so many minutes after it was to is put in order anew, with all that follows."""


class CookEvent(StrEnum):
    """What is noted while somebody cooks."""

    DAY_BEGUN = "day begun"
    BEGUN = "begun"
    TOUCHED = "touched"
    DONE = "done"
    LATER = "later"
    LONGER = "longer"
    STOPPED = "stopped"
    SKIPPED = "skipped"
    HELD = "held"
    FREED = "freed"
    ADDED = "added"
    TIMER = "timer"
    HEATED = "heated"
    TEMPERATURE = "temperature"
    OFF_HEAT = "off the heat"
    IN_FRIDGE = "in the fridge"
    TAKEN_BACK = "taken back"
    WEIGHED = "weighed"


@dataclass(frozen=True, slots=True, kw_only=True)
class Fact:
    """Something that happened; facts are only ever added.

    Attributes:
        key: its own.
        task: of which task; of a component for what is measured, of another fact for what is taken back.
        minute: when.
        minutes: how many more, how long later, of an added task how long.
        touch: which touch of the task.
        person: who was at it.
    """

    key: str
    task: str
    event: CookEvent
    minute: int
    minutes: int | None = None
    touch: int | None = None
    person: str | None = None
    celsius: float | None = None
    says: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class TaskState:
    """How it stands with a task."""

    begun: int | None = None
    done: int | None = None
    person: str | None = None
    longer_min: int = 0
    not_before: int | None = None
    held: int | None = None
    is_skipped: bool = False
    touched: frozenset[int] = frozenset()
    worked_min: int = 0
    """Minutes that somebody was at it before it was stopped."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Progress:
    """How a day stands, from its facts."""

    begun: int | None
    tasks: Mapping[str, TaskState]
    added: tuple[Fact, ...]
    timers: tuple[Fact, ...]
    heated: Mapping[str, tuple[tuple[int, float], ...]]
    """By machine: when it was switched on, and to which temperature [°C]."""

    def of(self, key: str) -> TaskState:
        """How it stands with a task."""
        return self.tasks.get(key, TaskState())


def counting(facts: Iterable[Fact]) -> list[Fact]:
    """The facts that were not taken back, by when they happened; what came in later comes after at one minute."""
    given = list(facts)
    taken_back: set[str] = set()
    # One that takes back another is itself taken back by one that came later.
    for fact in reversed(given):
        if fact.event is CookEvent.TAKEN_BACK and fact.key not in taken_back:
            taken_back.add(fact.task)
    left = [fact for fact in given if fact.event is not CookEvent.TAKEN_BACK and fact.key not in taken_back]
    return sorted(left, key=lambda fact: fact.minute)


def progress_of(facts: Iterable[Fact]) -> Progress:
    """How a day stands. What two people noted of one task counts once: it was begun, and done, when the first said so.
    What makes no sense (done before it was begun) is read as it can be.
    """
    tasks: dict[str, TaskState] = {}
    added: list[Fact] = []
    timers: list[Fact] = []
    heated: dict[str, tuple[tuple[int, float], ...]] = {}
    begun: int | None = None
    for fact in counting(facts):
        if fact.event is CookEvent.DAY_BEGUN:
            begun = fact.minute if begun is None else begun
            continue
        if fact.event in (CookEvent.ADDED, CookEvent.TIMER):
            (added if fact.event is CookEvent.ADDED else timers).append(fact)
            continue
        if fact.event is CookEvent.HEATED and fact.celsius is not None:
            heated[fact.task] = (*heated.get(fact.task, ()), (fact.minute, fact.celsius))
            continue
        tasks[fact.task] = _noted(tasks.get(fact.task, TaskState()), fact)
    return Progress(begun=begun, tasks=tasks, added=tuple(added), timers=tuple(timers), heated=heated)


def _noted(state: TaskState, fact: Fact) -> TaskState:
    """How it stands with a task after a fact; what makes no sense changes nothing."""
    minutes = fact.minutes or 0
    match fact.event:
        case CookEvent.BEGUN if state.begun is None:
            return replace(state, begun=fact.minute, person=fact.person, held=None, not_before=None)
        case CookEvent.TOUCHED if fact.touch is not None:
            return replace(state, touched=state.touched | {fact.touch})
        case CookEvent.DONE if state.done is None:
            begun = fact.minute - minutes if state.begun is None else min(state.begun, fact.minute)
            return replace(state, done=fact.minute, begun=begun, person=state.person or fact.person)
        case CookEvent.LATER:
            return replace(state, not_before=fact.minute + minutes, held=None)
        case CookEvent.LONGER:
            return replace(state, longer_min=state.longer_min + minutes)
        case CookEvent.STOPPED if state.done is None:
            worked = state.worked_min + max(0, minutes if state.begun is None else fact.minute - state.begun)
            return replace(state, worked_min=worked, begun=None, person=None)
        case CookEvent.SKIPPED:
            return replace(state, is_skipped=True)
        case CookEvent.HELD:
            return replace(state, held=fact.minutes)
        case CookEvent.FREED:
            return replace(state, held=None)
        case _:
            return state


def day_now(day: Day, progress: Progress, order: Order | None, now: int) -> Day:
    """The day from a minute on: what is done and goes on is fixed, what was skipped is gone, the rest is open.

    What somebody is at by `order` but nobody has noted stays where it is: the hands-on task that each person is shown.
    """
    if progress.begun is None:
        return day
    gone = {task.key for task in day.tasks if progress.of(task.key).is_skipped}
    tasks = [_left(task, progress.of(task.key)) for task in day.tasks if task.key not in gone]
    tasks += [_added(fact) for fact in progress.added]
    holds: dict[str, Hold] = {}
    links = _bridged(day.links, gone)
    for task in tasks:
        hold = _hold(task, progress.of(task.key), order, now)
        if hold is not None:
            holds[task.key] = hold
    if order is not None:
        holds |= at_hand(replace(day, tasks=tuple(tasks), links=tuple(links)), order, progress, now)
    return replace(
        day,
        tasks=tuple(tasks),
        links=tuple(links),
        machines=tuple(_as_warm(machine, day, progress, order) for machine in day.machines),
        now=now,
        holds=holds,
        alike=tuple(left for keys in day.alike if len(left := tuple(key for key in keys if key not in gone)) > 1),
    )


def _left(task: Task, state: TaskState) -> Task:
    """What is left of a task that was stopped, and from when on it is to be done."""
    if state.worked_min and task.hands_on:
        task = replace(task, minutes=max(1, task.minutes - state.worked_min + state.longer_min))
    return replace(task, not_before=state.not_before)


def _as_warm(machine: Machine, day: Day, progress: Progress, order: Order | None) -> Machine:
    """A machine as warm as it is: heated as somebody noted, or used last."""
    if not machine.has_one_temperature:
        return machine
    known: list[Warm] = []
    for one in () if order is None else order.placed:
        task, begun = day.by_key.get(one.task), progress.of(one.task).begun
        if machine.key in one.machines and task is not None and task.temperature_c is not None and begun is not None:
            known.append(Warm(minute=begun, celsius=task.temperature_c, is_set=False))
    for at, celsius in progress.heated.get(machine.key, ()):
        known.append(Warm(minute=at, celsius=celsius, is_set=True))
    return as_warm(machine, known)


def at_hand(day: Day, order: Order, progress: Progress, now: int) -> dict[str, Hold]:
    """What each person is at as far as is known: the first hands-on task that is due and waits for nothing.

    It is taken to have begun when it was to, and stays with this person until somebody says it is done, or later.
    """
    by_key = {task.key: task for task in day.tasks if not progress.of(task.key).is_skipped}
    waits = {link.after for link in day.links if link.before in by_key and progress.of(link.before).done is None}
    busy = {state.person for state in progress.tasks.values() if state.begun is not None and state.done is None}
    holds: dict[str, Hold] = {}
    for one in order.placed:
        task, state = by_key.get(one.task), progress.of(one.task)
        if task is None or not task.hands_on or one.start > now or one.task in waits or not one.hands:
            continue
        person = one.hands[0].person
        is_put_off = state.not_before is not None and now < state.not_before
        if state.begun is not None or state.done is not None or is_put_off or person in busy:
            continue
        busy.add(person)
        # What was put off was not begun before its time had come.
        begun = max(one.start, one.start if state.not_before is None else state.not_before)
        over = max(now, begun + one.end - one.start + state.longer_min)
        holds[one.task] = Hold(start=min(begun, now), end=over, person=person, machines=one.machines)
    return holds


def _added(fact: Fact) -> Task:
    return Task(
        key=fact.key, of=fact.task or fact.key, says=fact.says, minutes=max(1, fact.minutes or 1), hands_on=True
    )


def _bridged(links: Iterable[Link], gone: set[str]) -> list[Link]:
    """Links across what was skipped: what waited for it waits for what it waited for."""
    left = list(links)
    for key in gone:
        before = [link for link in left if link.after == key]
        after = [link for link in left if link.before == key]
        left = [link for link in left if key not in (link.before, link.after)]
        left += [Link(before=one.before, after=two.after, least=two.least) for one in before for two in after]
    return left


def _hold(task: Task, state: TaskState, order: Order | None, now: int) -> Hold | None:
    placed = None if order is None else order.by_task.get(task.key)
    machines = () if placed is None else placed.machines
    if state.done is not None:
        begun = state.done if state.begun is None else state.begun
        return Hold(start=begun, end=max(begun, state.done), person=state.person, machines=machines, done=True)
    if state.begun is not None:
        lasts = _lasts(task, placed) + state.longer_min
        return Hold(
            start=min(state.begun, now),
            end=state.begun + lasts,
            person=state.person,
            machines=machines,
            touched=state.touched,
        )
    if state.held is not None and state.held >= now:
        return Hold(start=state.held)
    return None


def _lasts(task: Task, placed: Placed | None) -> int:
    """How long a task takes, as it was planned for whoever is at it."""
    return task.minutes if placed is None or not task.hands_on else placed.end - placed.start


def as_it_went(day: Day, progress: Progress) -> Day:
    """The day with the minutes that hands took, without what was left out: what it could have been with other hands.

    What goes on by itself keeps its planned minutes, unless it took longer.
    """
    pace = {person.key: person.pace for person in day.people}
    gone = {task.key for task in day.tasks if progress.of(task.key).is_skipped}
    return replace(
        day,
        tasks=tuple(_as_it_took(task, progress.of(task.key), pace) for task in day.tasks if task.key not in gone),
        links=tuple(_bridged(day.links, gone)),
        alike=tuple(left for keys in day.alike if len(left := tuple(key for key in keys if key not in gone)) > 1),
    )


def _as_it_took(task: Task, state: TaskState, pace: Mapping[str, float]) -> Task:
    if state.done is None or state.begun is None or task.ahead:
        return task
    took = state.done - state.begun + state.worked_min
    if took < 1:
        return task
    if task.hands_on:
        return replace(task, minutes=max(1, round(took / pace.get(state.person or "", 1.0))))
    return replace(task, minutes=max(task.minutes, took))


def is_overdue(day: Day, progress: Progress, order: Order, now: int) -> bool:
    """Whether something that has not begun was to long enough ago, or something that goes on was to be over."""
    going_on = at_hand(day, order, progress, now)
    for one in order.placed:
        state = progress.of(one.task)
        if state.done is not None or state.is_skipped:
            continue
        has_begun = state.begun is not None or one.task in going_on
        if (one.end if has_begun else one.start) < now - OVERDUE_MIN:
            return True
    return False
