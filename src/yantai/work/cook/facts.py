"""What is noted while somebody cooks: facts, which are only ever added."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.schedule.live import CookEvent, Fact
from yantai.store import tables
from yantai.store.database import Database
from yantai.store.notices import announce
from yantai.work.batches.log import when_it_happened
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.cook.clock import DayClock
from yantai.work.cook.inputs import CookFactInput

_NEEDS_MINUTES = (CookEvent.LATER, CookEvent.LONGER, CookEvent.HELD, CookEvent.ADDED, CookEvent.TIMER)
_NEEDS_CELSIUS = (CookEvent.TEMPERATURE, CookEvent.HEATED)


def note_fact(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: CookFactInput, now: datetime) -> None:
    """Note something that happened, whatever the order of work has become since.

    Raises:
        Missing: there is no such batch.
        Invalid: what it needs is not said: minutes, a temperature, words.
    """
    _check(payload)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        batch = session.scalar(select(tables.Batch).where(tables.Batch.id == batch_id).with_for_update(read=True))
        if batch is None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        row = tables.CookFact(
            id=payload.id or uuid.uuid4(),
            workspace_id=who.workspace_id,
            batch_id=batch_id,
            task=payload.task,
            event=payload.event,
            minutes=payload.minutes,
            touch=payload.touch,
            person_id=payload.person_id,
            celsius=payload.celsius,
            grams=payload.grams,
            vessel_g=payload.vessel_g,
            vessel=payload.vessel.strip(),
            text=payload.text.strip(),
            made_by=who.name,
            device=payload.device,
            happened_at=when_it_happened(payload, now) or now,
            made_at=now,
        )
        session.add(row)
        session.flush()
        announce(session, batch_id, batch.version, who.name, cooked=row.number)
        keep(None)


def _check(payload: CookFactInput) -> None:
    if payload.event in _NEEDS_MINUTES and payload.minutes is None:
        raise Invalid.at("/minutes", "Say how many minutes.")
    if payload.event in _NEEDS_CELSIUS and payload.celsius is None:
        raise Invalid.at("/celsius", "Say how hot it is.")
    if payload.event is CookEvent.WEIGHED and payload.grams is None:
        raise Invalid.at("/grams", "Say what the scale shows, pan and all.")
    if payload.event in (CookEvent.ADDED, CookEvent.TIMER) and not payload.text.strip():
        raise Invalid.at("/text", "Say what it is for, as “stock on the back ring”.")
    if payload.event is CookEvent.TOUCHED and payload.touch is None:
        raise Invalid.at("/touch", "Say which of its times it was.")


def read_rows(session: Session, batch_id: uuid.UUID) -> Sequence[tables.CookFact]:
    """What was noted, in the order in which it came in."""
    fact = tables.CookFact
    return session.scalars(select(fact).where(fact.batch_id == batch_id).order_by(fact.number)).all()


def facts_of(rows: Sequence[tables.CookFact], clock: DayClock) -> list[Fact]:
    """The same as the core knows it."""
    return [
        Fact(
            key=str(row.id),
            task=row.task,
            event=row.event,
            minute=clock.minute(row.happened_at),
            minutes=clock.elapsed(row.minutes)
            if row.event is CookEvent.HELD and row.minutes is not None
            else row.minutes,
            touch=row.touch,
            person=None if row.person_id is None else str(row.person_id),
            celsius=row.celsius,
            says=row.text,
        )
        for row in rows
    ]
