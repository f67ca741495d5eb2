"""The order of work of a batch: found once for what it is, kept, and shown."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from dataclasses import dataclass, replace
from hashlib import sha256

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.schedule.cooked import Planned, work_of
from yantai.core.schedule.day import Day, Person, Skill, Span
from yantai.core.schedule.day import Pot as CorePot
from yantai.core.schedule.kitchen import Item, machines_of
from yantai.core.schedule.order import Order
from yantai.core.schedule.solve import EFFORT, NoOrder, best_order
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, stored
from yantai.work.common.errors import Invalid, sentence
from yantai.work.common.who import SignedIn
from yantai.work.cook.day import read_day
from yantai.work.cook.kitchens import items_of, kitchen_view, load_kitchen
from yantai.work.cook.lanes import apart_minutes, lanes_of, prompts_of
from yantai.work.cook.pots import Pot, pots_of
from yantai.work.cook.views import CookDayView, CookStepView, CookView, HelpView, KitchenView, OrderView

_ORDER: Kept[Order] = Kept(Order)
_VERSION = 1
"""Of how an order is found: with another one it is found anew."""


@dataclass(frozen=True, kw_only=True)
class CookJob:
    """What is to be cooked, and where: all that the order of work follows from."""

    settings: CookDayView
    kitchen: KitchenView
    items: list[Item]
    pots: list[Pot]
    planned: tuple[Planned, ...]
    impossible: tuple[str, ...]
    day: Day

    @property
    def digest(self) -> str:
        """A text that changes with anything that the order follows from."""
        return sha256(f"{_VERSION} {EFFORT} {self.day!r}".encode()).hexdigest()

    @property
    def by_task(self) -> Mapping[str, Planned]:
        """Where each task comes from."""
        return {one.task.key: one for one in self.planned}


def read_cooking(database: Database, who: SignedIn, batch_id: uuid.UUID) -> CookView:
    """A batch on its cook day, with its order of work: the one that was found before, or one found now.

    Raises:
        Missing: there is no such batch.
    """
    job, order = _job_and_kept(database, who, batch_id)
    if job is None:
        return CookView(day=None, kitchen=None, order=None, trouble="", impossible=[], asks=[])
    trouble = ""
    if order is None and job.day.tasks:
        try:
            order = best_order(job.day)
        except NoOrder as error:
            trouble = sentence(str(error))
        else:
            _keep(database, who, batch_id, job, order)
    return CookView(
        day=job.settings,
        kitchen=job.kitchen,
        order=None if order is None else _shown(job, order),
        trouble=trouble,
        impossible=list(job.impossible),
        asks=[ask for pot in job.pots for ask in pot.asks],
    )


def with_a_helper(database: Database, who: SignedIn, batch_id: uuid.UUID) -> HelpView:
    """When all would be ready with one more pair of hands that does everything, there as long as the first person.

    Raises:
        Missing: there is no such batch.
        Invalid: there is nothing to cook, or no order even then.
    """
    job, order = _job_and_kept(database, who, batch_id)
    if job is None or not job.day.people or not job.day.tasks:
        raise Invalid("There is nothing to put in order yet.")
    helper = Person(key=str(uuid.UUID(int=0)), name="Helper", there=job.day.people[0].there)
    try:
        order = order or best_order(job.day)
        found = best_order(replace(job.day, people=(*job.day.people, helper)))
    except NoOrder as error:
        raise Invalid(sentence(str(error))) from error
    length, with_help = _length(job.day, order), _length(job.day, found)
    return HelpView(ready_min=found.ready, saves_min=length - with_help, spare_min=found.spare)


def _length(day: Day, order: Order) -> int:
    """How long it takes, from the first task of the day itself until all is ready."""
    ahead = {task.key for task in day.tasks if task.ahead}
    begins = min((one.start for one in order.placed if one.task not in ahead), default=order.ready)
    return order.ready - (begins if day.ready_by is not None else day.start)


def _job_and_kept(database: Database, who: SignedIn, batch_id: uuid.UUID) -> tuple[CookJob | None, Order | None]:
    """What is to be cooked, and the order that is kept for just that."""
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        job = read_job(session, batch_id)
        if job is None:
            return None, None
        row = tables.CookOrder
        found = session.scalars(
            select(row.found).where(row.batch_id == batch_id, row.digest == job.digest)
        ).one_or_none()
        return job, None if found is None else _ORDER.from_json(found)


def read_job(session: Session, batch_id: uuid.UUID) -> CookJob | None:
    """What is to be cooked of a batch, within `stored.reading`; None where there is no kitchen yet."""
    settings = read_day(session, batch_id)
    if settings is None:
        return None
    kitchen = load_kitchen(session, settings.kitchen_id)
    items = items_of(kitchen)
    loaded = loading.load(session, batch_id)
    pots = pots_of(loaded, stored.read_view(session, batch_id))
    work = work_of([pot.cooked for pot in pots], items, share_oven=settings.share_oven)
    there: dict[uuid.UUID, list[Span]] = {}
    for one in settings.there:
        there.setdefault(one.person_id, []).append(Span(start=one.start_min, end=one.end_min))
    return CookJob(
        settings=settings,
        kitchen=kitchen_view(kitchen),
        items=items,
        pots=pots,
        planned=work.planned,
        impossible=work.impossible,
        day=Day(
            tasks=tuple(one.task for one in work.planned),
            links=work.links,
            people=tuple(
                Person(
                    key=str(person.id),
                    name=person.name,
                    there=tuple(there[person.id]),
                    does=frozenset(Skill(word) for word in person.does),
                    pace=person.pace,
                )
                for person in kitchen.people
                if person.id in there
            ),
            machines=machines_of(items),
            pots=tuple(CorePot(key=pot.cooked.key, name=pot.cooked.name, delicate=pot.cooked.delicate) for pot in pots),
            start=settings.start_min,
            ready_by=settings.ready_by_min,
            alike=work.alike,
        ),
    )


def _keep(database: Database, who: SignedIn, batch_id: uuid.UUID, job: CookJob, order: Order) -> None:
    row = tables.CookOrder
    values = {"digest": job.digest, "found": _ORDER.to_json(order)}
    statement = insert(row).values(id=uuid.uuid4(), workspace_id=who.workspace_id, batch_id=batch_id, **values)
    with database.workspace(who.workspace_id) as session:
        session.execute(statement.on_conflict_do_update(index_elements=["batch_id"], set_=values))


def _shown(job: CookJob, order: Order) -> OrderView:
    by_task = job.by_task
    ahead = {task.key for task in job.day.tasks if task.ahead}
    return OrderView(
        begins_min=min((one.start for one in order.placed if one.task not in ahead), default=job.day.start),
        ready_min=order.ready,
        spare_min=order.spare,
        hands_min=sum(hand.end - hand.start for one in order.placed for hand in one.hands),
        apart_min=apart_minutes(job.day, job.planned),
        steps=_steps(job, order),
        lanes=lanes_of(job.day, order, job.items, by_task, {pot.cooked.key: pot.cooked.name for pot in job.pots}),
        prompts=prompts_of(job.day, order, by_task),
    )


def _steps(job: CookJob, order: Order) -> list[CookStepView]:
    pots = {pot.cooked.key: pot for pot in job.pots}
    by_task, shown = job.by_task, []
    for one in order.placed:
        of = by_task[one.task]
        pot = pots[of.component]
        shown.append(
            CookStepView(
                key=one.task,
                step_id=None if of.step.proposed else uuid.UUID(of.step.key),
                component_id=pot.component_id,
                component=pot.cooked.name,
                says=of.step.says,
                round=of.round.number,
                rounds=of.round.of,
                grams=of.round.grams,
                pieces=of.round.pieces,
                start_min=one.start,
                end_min=one.end,
                is_hands_on=of.task.hands_on,
                on=of.on,
                temperature_c=of.task.temperature_c,
                rest_min=of.task.rest_min,
                is_ahead=of.task.ahead,
                core_c=of.step.core_c if of.step.core_c is not None else pot.core_c if of.step.on is not None else None,
                done_when=of.step.done_when,
                proposed=of.step.proposed,
                assumed=[*of.assumed, *pot.assumed.get(of.step.key, ())],
                cautions=pot.cautions.get(of.step.key, []),
            )
        )
    return shown
