"""The day on which a batch is cooked: where, from when, and who is there."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session, selectinload

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Collector, Invalid, Missing, Stale
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.cook.inputs import DAY_MIN, CookDayInput
from yantai.work.cook.kitchens import load_kitchen, read_kitchens
from yantai.work.cook.views import CookDayView, PresenceView

USUAL_START_MIN = 9 * 60
_USUAL_END_MIN = 21 * 60
_USUAL_EVENING_MIN = (18 * 60 - DAY_MIN, 21 * 60 - DAY_MIN)


def read_day(session: Session, batch_id: uuid.UUID) -> CookDayView | None:
    """How a batch is cooked, as it was set, or as it is assumed; None where there is no kitchen.

    Assumed is the first kitchen, everybody there from nine to nine, and three hours on the evening before.
    """
    day = cook_day(session, batch_id)
    if day is not None:
        return CookDayView(
            kitchen_id=day.kitchen_id,
            start_min=day.start_min,
            ready_by_min=day.ready_by_min,
            share_oven=day.share_oven,
            there=[
                PresenceView(person_id=one.person_id, start_min=one.start_min, end_min=one.end_min)
                for one in day.presences
            ],
            version=day.version,
            assumed=[],
        )
    kitchens = read_kitchens(session)
    if not kitchens:
        return None
    kitchen = kitchens[0]
    assumed = ["You begin at 9:00, everybody is there until 21:00, and from 18:00 to 21:00 the evening before."]
    if len(kitchens) > 1:
        assumed.insert(0, f"You cook in {kitchen.name}.")
    return CookDayView(
        kitchen_id=kitchen.id,
        start_min=USUAL_START_MIN,
        ready_by_min=None,
        share_oven=False,
        there=[
            PresenceView(person_id=person.id, start_min=start, end_min=end)
            for person in kitchen.people
            for start, end in (_USUAL_EVENING_MIN, (USUAL_START_MIN, _USUAL_END_MIN))
        ],
        version=None,
        assumed=assumed,
    )


def cook_day(session: Session, batch_id: uuid.UUID, *, lock: bool = False) -> tables.CookDay | None:
    """The row of a batch's cook day, where somebody has set it."""
    day = tables.CookDay
    query = select(day).where(day.batch_id == batch_id).options(selectinload(day.presences))
    return session.scalar(query.with_for_update() if lock else query)


def save_day(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: CookDayInput) -> None:
    """Set how a batch is cooked.

    Raises:
        Invalid: a time cannot be, or somebody is not of this kitchen.
        Missing: there is no such batch or kitchen.
        Stale: it was set anew since `payload.version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        batch = session.scalar(select(tables.Batch.id).where(tables.Batch.id == batch_id).with_for_update())
        if batch is None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        _check(session, payload)
        day = cook_day(session, batch_id, lock=True)
        if day is None:
            day = tables.CookDay(workspace_id=who.workspace_id, batch_id=batch_id, version=0, presences=[])
            session.add(day)
        elif day.version != payload.version:
            raise Stale("The cook day was set anew in another window. What you typed is still here: look at it again.")
        day.kitchen_id, day.start_min, day.ready_by_min = payload.kitchen_id, payload.start_min, payload.ready_by_min
        day.share_oven, day.version = payload.share_oven, day.version + 1
        day.presences = [
            tables.Presence(
                workspace_id=who.workspace_id, person_id=one.person_id, start_min=one.start_min, end_min=one.end_min
            )
            for one in payload.there
        ]
        session.flush()
        keep(None)


def _check(session: Session, payload: CookDayInput) -> None:
    faults = Collector()
    faults.ranges("", payload)
    people = {person.id: person.name for person in load_kitchen(session, payload.kitchen_id).people}
    if payload.ready_by_min is not None and payload.ready_by_min <= payload.start_min:
        faults.add("/ready_by_min", "it is to be ready before it is begun; take a later time, or begin earlier")
    for index, one in enumerate(payload.there):
        faults.ranges(f"/there/{index}", one)
        if one.person_id not in people:
            faults.add(f"/there/{index}/person_id", "this person is not of this kitchen; choose again")
        elif one.start_min >= one.end_min:
            faults.add(f"/there/{index}/end_min", f"{people[one.person_id]} leaves before coming; swap the times")
    _check_overlaps(faults, payload, people)
    faults.check()
    if not payload.there:
        raise Invalid.at("/there", "Nobody is there. Say when somebody cooks.")


def _check_overlaps(faults: Collector, payload: CookDayInput, people: dict[uuid.UUID, str]) -> None:
    of: dict[uuid.UUID, list[tuple[int, int]]] = {}
    for index, one in enumerate(payload.there):
        before: Sequence[tuple[int, int]] = of.get(one.person_id, ())
        if one.start_min >= one.end_min:
            continue
        if any(one.start_min < end and start < one.end_min for start, end in before):
            name = people.get(one.person_id, "somebody")
            faults.add(f"/there/{index}/start_min", f"{name} is there twice at once; put the two times together")
        of.setdefault(one.person_id, []).append((one.start_min, one.end_min))
