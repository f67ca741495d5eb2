"""What is noted at the scale: facts, which are only ever added."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.filling.facts import MOST_G, OF_A_PART, UNSURE_SHARE, FillEvent
from yantai.store import tables
from yantai.store.database import Database
from yantai.store.notices import announce
from yantai.work.batches.log import when_it_happened
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import MadeAlready, once
from yantai.work.common.who import SignedIn
from yantai.work.fill.inputs import FillFactInput
from yantai.work.fill.packing import pack_when_closed

_OF_A_POT = (FillEvent.POT_WEIGHED, FillEvent.REST, FillEvent.SCOOP)
_WITH_A_REASON = (FillEvent.CORRECTED,)


def note_fact(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: FillFactInput, now: datetime) -> None:
    """Note something that happened at the scale, whatever the plan has become since. The same id is noted once.

    One that closes the last container packs the batch.

    Raises:
        Missing: there is no such batch.
        Invalid: what it needs is not said, it speaks of what this batch never had, or its id was sent with something
            else.
    """
    _check(payload)
    made: MadeAlready | None = None
    try:
        _keep_fact(database, who, batch_id, payload, now)
    except MadeAlready as before:
        made = before
    if payload.event in OF_A_PART:
        # Of one that was noted before, too: its server may have been killed before it packed.
        pack_when_closed(database, who, batch_id, payload.id, now)
    if made is not None:
        raise made


def _keep_fact(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: FillFactInput, now: datetime) -> None:
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        batch = session.scalar(select(tables.Batch).where(tables.Batch.id == batch_id).with_for_update(read=True))
        if batch is None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        _check_place(session, batch_id, payload)
        row = tables.FillFact(
            id=payload.id,
            workspace_id=who.workspace_id,
            batch_id=batch_id,
            event=payload.event,
            container_class_id=payload.row_id,
            container=payload.container,
            component_id=payload.component_id,
            grams=payload.grams,
            unsure_g=_unsure_g(payload),
            asked_g=payload.asked_g,
            units=payload.units,
            way=payload.way,
            after=payload.after,
            of=payload.of,
            fate=payload.fate,
            client_id=payload.client_id,
            text=payload.text.strip(),
            took_s=payload.took_s,
            version=payload.version,
            made_by=who.name,
            device=payload.device,
            happened_at=when_it_happened(payload, now) or now,
            made_at=now,
        )
        known = session.get(tables.FillFact, payload.id)
        if known is None:
            session.add(row)
            session.flush()
            announce(session, batch_id, batch.version, who.name, filled=row.number)
        elif not _is_same(known, row):
            raise Invalid.at("/id", "Something else was noted under this id. Reload the page, then note it again.")
        keep(None)


def _unsure_g(payload: FillFactInput) -> float:
    if payload.unsure_g is not None:
        return payload.unsure_g
    share = 0.0 if payload.way is None else UNSURE_SHARE.get(payload.way, 0.0)
    return round(payload.grams * share, 1)


_SAID = ("event", "batch_id", "container_class_id", "container", "component_id", "grams", "after", "of", "fate", "text")


def _is_same(one: tables.FillFact, other: tables.FillFact) -> bool:
    return all(getattr(one, name) == getattr(other, name) for name in _SAID)


def _check(payload: FillFactInput) -> None:
    event = payload.event
    if (event in OF_A_PART or event in (FillEvent.EVENED, FillEvent.IN_BULK)) and (
        payload.row_id is None or payload.container is None
    ):
        raise Invalid.at("/row_id", "Say which container it is.")
    if (event in OF_A_PART or event in _OF_A_POT) and payload.component_id is None:
        raise Invalid.at("/component_id", "Say of which component.")
    if event in _OF_A_POT and (payload.row_id is not None or payload.container is not None):
        raise Invalid.at("/row_id", "This is about a pot, not about a container.")
    if (payload.row_id is None) != (payload.container is None):
        raise Invalid.at("/container", "Say which container of the row it is, or leave both out.")
    if payload.row_id is not None and payload.grams > MOST_G:
        raise Invalid.at("/grams", "No container holds so much. Check the unit of the scale.")
    if event is FillEvent.TAKEN_BACK and payload.of is None:
        raise Invalid.at("/of", "Say what is taken back.")
    if event is FillEvent.REST and payload.fate is None:
        raise Invalid.at("/fate", "Say what became of it.")
    if event is FillEvent.SCOOP and not payload.grams:
        raise Invalid.at("/grams", "Weigh one scoop: an empty one measures nothing.")
    if event in _WITH_A_REASON and not payload.text.strip():
        raise Invalid.at("/text", "Say why it is corrected: this container was closed.")


def _check_place(session: Session, batch_id: uuid.UUID, payload: FillFactInput) -> None:
    """Refuse what this batch never had. Containers that it has no longer were there once, and so were components, of
    which nothing is left to ask: what went into them is told."""
    row, fact = tables.ContainerClass, tables.FillFact
    for pointer, there, key in (
        ("/row_id", select(row.id).where(row.batch_id == batch_id, row.id == payload.row_id), payload.row_id),
        ("/client_id", select(tables.Client.id).where(tables.Client.id == payload.client_id), payload.client_id),
        ("/of", select(fact.id).where(fact.batch_id == batch_id, fact.id == payload.of), payload.of),
    ):
        if key is not None and session.scalar(there) is None:
            raise Invalid.at(pointer, "This batch has nothing of the kind. Reload the page.")
