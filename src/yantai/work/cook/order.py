"""The order of work of a batch: found for what it is, found anew when something takes longer, and kept."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import dataclass, replace
from datetime import datetime
from hashlib import sha256

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.schedule.cooked import Planned, Round, Work, work_of
from yantai.core.schedule.day import Day, Person, Skill, Span, Task
from yantai.core.schedule.day import Pot as CorePot
from yantai.core.schedule.kitchen import Item, machines_of
from yantai.core.schedule.live import (
    CookEvent,
    Fact,
    Progress,
    TaskState,
    as_it_went,
    counting,
    day_now,
    is_overdue,
    progress_of,
)
from yantai.core.schedule.order import Order
from yantai.core.schedule.safety import Reading, is_hot_enough
from yantai.core.schedule.solve import EFFORT, NoOrder, best_order
from yantai.core.schedule.steps import Step
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, stored
from yantai.work.common.errors import Invalid, sentence
from yantai.work.common.who import SignedIn
from yantai.work.cook.clock import DayClock
from yantai.work.cook.day import read_day
from yantai.work.cook.facts import facts_of, read_rows
from yantai.work.cook.kitchens import items_of, kitchen_view, load_kitchen
from yantai.work.cook.pots import Pot, pots_of
from yantai.work.cook.times import keep_times, read_pace, with_learned
from yantai.work.cook.views import CookDayView, HelpView, KitchenView

_ORDER: Kept[Order] = Kept(Order)
_VERSION = 3
"""Of how an order is found: with another one it is found anew."""

LIVE_EFFORT = 0.03
"""How much work goes into an order that is found anew while somebody waits for it."""


@dataclass(frozen=True, kw_only=True)
class CookJob:
    """What is to be cooked, where, and how it stands: all that the order of work follows from.

    `stated` are its tasks as they were stated, `planned` the same as long as they take in this kitchen.
    """

    settings: CookDayView
    kitchen: KitchenView
    items: list[Item]
    pots: list[Pot]
    stated: tuple[Planned, ...]
    planned: tuple[Planned, ...]
    impossible: tuple[str, ...]
    day: Day
    clock: DayClock
    rows: tuple[tables.CookFact, ...]
    facts: tuple[Fact, ...]
    progress: Progress

    @property
    def digest(self) -> str:
        """A text that changes with anything that the order follows from besides what was noted."""
        return sha256(f"{_VERSION} {EFFORT} {self.day!r}".encode()).hexdigest()

    @property
    def last_fact(self) -> int:
        """The number of the last that was noted."""
        return self.rows[-1].number if self.rows else 0

    @property
    def measured(self) -> Mapping[str, TaskState]:
        """How it stands with the tasks that somebody marked as done."""
        marked = {fact.task for fact in counting(self.facts) if fact.event is CookEvent.DONE}
        return {key: self.progress.of(key) for key in marked}

    @property
    def by_task(self) -> Mapping[str, Planned]:
        """Where each task comes from; steps that were added while cooking come from themselves."""
        added = {fact.key: _added(fact) for fact in self.progress.added}
        return {one.task.key: one for one in self.planned} | added


@dataclass(frozen=True, kw_only=True)
class KeptOrder:
    """The order that was found last, what for, and when all was to be ready as the day began."""

    order: Order
    digest: str
    facts: int
    planned_ready: int | None


@dataclass(frozen=True, kw_only=True)
class Found:
    """A batch on its day: what is to be cooked, the day as it is now, its order, when all was to be ready, why there is
    no order, and what could not stay where it was held."""

    job: CookJob | None = None
    day: Day | None = None
    order: Order | None = None
    planned_ready: int | None = None
    trouble: str = ""
    let_go: tuple[str, ...] = ()


def find_order(database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime, zone: str | None) -> Found:
    """What is to be cooked, and its order of work as it is now.

    Raises:
        Missing: there is no such batch.
    """
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        job = read_job(session, batch_id, zone)
        known = read_kept(session, batch_id)
    if job is None:
        return Found()
    minute = job.clock.minute(now)
    is_live = job.progress.begun is not None
    fresh = known is not None and known.digest == job.digest and known.facts == (job.last_fact if is_live else 0)
    before = None if known is None else known.order
    planned_ready = None if known is None or not is_live else known.planned_ready
    if fresh and before is not None:
        day = day_now(job.day, job.progress, before, minute)
        # What was weighed meanwhile is no more to be done, though nothing was noted of it.
        is_whole = {one.task for one in before.placed} == set(day.by_key)
        if is_whole and not (is_live and is_overdue(day, job.progress, before, minute)):
            return Found(job=job, day=day, order=before, planned_ready=planned_ready)
    if not job.day.tasks:
        return Found(job=job, day=job.day)
    try:
        if is_live and before is None:
            before = best_order(job.day)
        if is_live and planned_ready is None and before is not None:
            planned_ready = before.ready
        day = day_now(job.day, job.progress, before, minute)
        order, let_go = _found(day, before if is_live else None)
    except NoOrder as error:
        return Found(job=job, day=job.day, planned_ready=planned_ready, trouble=sentence(str(error)))
    kept = KeptOrder(order=order, digest=job.digest, facts=job.last_fact if is_live else 0, planned_ready=planned_ready)
    _keep(database, who, batch_id, kept, job)
    return Found(job=job, day=day, order=order, planned_ready=planned_ready, let_go=let_go)


def _found(day: Day, before: Order | None) -> tuple[Order, tuple[str, ...]]:
    """The order of a day, and what cannot stay where it is held: that is let go."""
    if before is None:
        return best_order(day), ()
    try:
        return best_order(day, effort=LIVE_EFFORT, follows=before), ()
    except NoOrder:
        begun = {key: hold for key, hold in day.holds.items() if hold.done or hold.end is not None}
        let_go = tuple(day.by_key[key].says for key in day.holds if key not in begun)
        return best_order(replace(day, holds=begun), effort=LIVE_EFFORT, follows=before), let_go


def with_a_helper(database: Database, who: SignedIn, batch_id: uuid.UUID, now: datetime, zone: str | None) -> HelpView:
    """When all would be ready with one more pair of hands that does everything, there as long as the first person;
    once cooking has begun, with the minutes that hands took so far.

    Raises:
        Missing: there is no such batch.
        Invalid: there is nothing to cook, or no order even then.
    """
    job = find_order(database, who, batch_id, now, zone).job
    if job is None or not job.day.people or not job.day.tasks:
        raise Invalid("There is nothing to put in order yet.")
    helper = Person(key=str(uuid.UUID(int=0)), name="Helper", there=job.day.people[0].there)
    day = as_it_went(job.day, job.progress)
    try:
        alone = best_order(day)
        together = best_order(replace(day, people=(*day.people, helper)))
    except NoOrder as error:
        raise Invalid(sentence(str(error))) from error
    saves = _length(day, alone) - _length(day, together)
    return job.clock.shown(HelpView(ready_min=together.ready, saves_min=saves, spare_min=together.spare))


def _length(day: Day, order: Order) -> int:
    """How long it takes, from the first task of the day itself until all is ready."""
    ahead = {task.key for task in day.tasks if task.ahead}
    begins = min((one.start for one in order.placed if one.task not in ahead), default=order.ready)
    return order.ready - (begins if day.ready_by is not None else day.start)


def read_job(session: Session, batch_id: uuid.UUID, zone: str | None = None) -> CookJob | None:
    """What is to be cooked of a batch, within `stored.reading`; None where there is no kitchen yet."""
    settings = read_day(session, batch_id)
    if settings is None:
        return None
    kitchen = load_kitchen(session, settings.kitchen_id)
    items = items_of(kitchen)
    loaded = loading.load(session, batch_id)
    clock = DayClock.read(session, loaded.batch.cook_on, zone)
    rows = tuple(read_rows(session, batch_id))
    facts = tuple(facts_of(rows, clock))
    is_begun = progress_of(facts).begun is not None
    as_stated = pots_of(loaded, stored.read_view(session, batch_id), with_weighed=is_begun)
    stated = work_of([pot.cooked for pot in as_stated], items, share_oven=settings.share_oven)
    paces = {str(person.id): person.pace for person in kitchen.people}
    pace = read_pace(session, as_stated, paces, except_batch=batch_id)
    pots = with_learned(as_stated, pace)
    work = work_of([pot.cooked for pot in pots], items, share_oven=settings.share_oven) if pace.steps else stated
    there: dict[uuid.UUID, list[Span]] = {}
    for one in settings.there:
        span = Span(start=clock.elapsed(one.start_min), end=clock.elapsed(one.end_min))
        there.setdefault(one.person_id, []).append(span)
    return CookJob(
        settings=settings,
        kitchen=kitchen_view(kitchen),
        items=items,
        pots=pots,
        stated=stated.planned,
        planned=work.planned,
        impossible=work.impossible,
        clock=clock,
        rows=rows,
        facts=facts,
        progress=_progress(facts, work, {pot.cooked.key: pot for pot in pots}, clock),
        day=Day(
            tasks=tuple(one.task for one in work.planned),
            links=work.links,
            people=tuple(
                Person(
                    key=str(person.id),
                    name=person.name,
                    there=tuple(there[person.id]),
                    does=frozenset(Skill(word) for word in person.does),
                    pace=pace.of_person(str(person.id), person.pace),
                )
                for person in kitchen.people
                if person.id in there
            ),
            machines=machines_of(items),
            pots=tuple(CorePot(key=pot.cooked.key, name=pot.cooked.name, delicate=pot.cooked.delicate) for pot in pots),
            start=clock.elapsed(settings.start_min),
            ready_by=None if settings.ready_by_min is None else clock.elapsed(settings.ready_by_min),
            alike=work.alike,
        ),
    )


def core_of(of: Planned, pot: Pot | None) -> float | None:
    """What must be read inside before this is done [°C]: of what is on the heat, its own or that of its raw parts."""
    if of.step.on is None or of.step.is_lead:
        return None
    return of.step.core_c if of.step.core_c is not None or pot is None else pot.core_c


def readings_of(facts: tuple[Fact, ...], component: str, since: int) -> list[Reading]:
    """The core temperatures that were read of a component from a minute on."""
    return [
        Reading(minute=fact.minute, celsius=fact.celsius)
        for fact in counting(facts)
        if fact.event is CookEvent.TEMPERATURE
        and fact.task == component
        and fact.celsius is not None
        and fact.minute >= since
    ]


def _progress(facts: tuple[Fact, ...], work: Work, pots: Mapping[str, Pot], clock: DayClock) -> Progress:
    """How the day stands; what was read too cold inside is not done, whatever somebody has said. What soaks is over
    when what waits for it begins, and all of a component once it is weighed: nobody has to mark that."""
    progress = progress_of(facts)
    changed: dict[str, TaskState] = {}
    for one in work.planned:
        of = pots.get(one.component)
        if of is not None and of.weighed_at is not None:
            changed[one.task.key] = _weighed(progress.of(one.task.key), clock.minute(of.weighed_at))
            continue
        if one.step.is_lead and progress.of(one.task.key).done is None:
            after = [progress.of(link.after).begun for link in work.links if link.before == one.task.key]
            begun = [minute for minute in after if minute is not None]
            if begun and progress.of(one.task.key).begun is not None:
                changed[one.task.key] = replace(progress.of(one.task.key), done=min(begun))
            continue
        state, core_c = progress.of(one.task.key), core_of(one, pots.get(one.component))
        if state.done is None or core_c is None:
            continue
        readings = readings_of(facts, one.component, state.begun or 0)
        if readings and not is_hot_enough(readings, core_c):
            changed[one.task.key] = replace(state, done=None)
    return replace(progress, tasks={**progress.tasks, **changed})


def _weighed(state: TaskState, minute: int) -> TaskState:
    """A task of what is weighed: over by then, or, where nobody has marked that it began, not looked at any more."""
    if state.done is not None:
        return state
    return replace(state, is_skipped=True) if state.begun is None else replace(state, done=max(state.begun, minute))


def _added(fact: Fact) -> Planned:
    step = Step(key=fact.key, says=fact.says, hands_min=float(fact.minutes or 1))
    task = Task(key=fact.key, of=fact.key, says=fact.says, minutes=max(1, fact.minutes or 1), hands_on=True)
    return Planned(
        task=task, component=fact.task, step=step, round=Round(number=1, of=1, grams=0.0, pieces=None), on=""
    )


def read_kept(session: Session, batch_id: uuid.UUID) -> KeptOrder | None:
    """The order that was found last."""
    row = session.scalar(select(tables.CookOrder).where(tables.CookOrder.batch_id == batch_id))
    if row is None:
        return None
    return KeptOrder(
        order=_ORDER.from_json(row.found), digest=row.digest, facts=row.facts, planned_ready=row.planned_ready_min
    )


def _keep(database: Database, who: SignedIn, batch_id: uuid.UUID, kept: KeptOrder, job: CookJob) -> None:
    """Keep an order, and how long what is done took."""
    row = tables.CookOrder
    values = {
        "digest": kept.digest,
        "found": _ORDER.to_json(kept.order),
        "facts": kept.facts,
        "planned_ready_min": kept.planned_ready,
    }
    statement = insert(row).values(id=uuid.uuid4(), workspace_id=who.workspace_id, batch_id=batch_id, **values)
    with database.workspace(who.workspace_id) as session:
        session.execute(statement.on_conflict_do_update(index_elements=["batch_id"], set_=values))
        if job.progress.begun is not None:
            keep_times(session, who, batch_id, job.stated, job.measured, job.pots, job.clock)
