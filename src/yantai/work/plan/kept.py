"""Answers that take solving: found when they are first asked for, and kept as long as the kitchen is as it was."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from functools import cache
from hashlib import sha256
from typing import TypeVar

from sqlalchemy import Text, cast, delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.planning.plan import ENGINE
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches.stored import units_spoken
from yantai.work.common.who import SignedIn

T = TypeVar("T")


def kept(database: Database, who: SignedIn, question: str, kind: Kept[T], find: Callable[[Session], T]) -> T:
    """The answer to `question`, which `find` finds in one moment of the workspace unless it is known.

    Raises:
        Whatever `find` raises, which is not kept.
    """
    row = tables.KeptAnswer
    key = {"workspace_id": who.workspace_id, "question": f"{question} {_shape(kind)}", "spoken": units_spoken()}
    with database.reading(who.workspace_id) as session:
        state = state_of(session)
        known = session.scalars(select(row.answer).filter_by(**key, state=state)).one_or_none()
        if known is not None:
            return kind.from_text(known)
        found = find(session)
    values = {"state": state, "answer": kind.to_text(found)}
    statement = insert(row).values(id=uuid.uuid4(), **key, **values)
    with database.workspace(who.workspace_id) as session:
        # One after the other: each also drops what no one asks for again, the answers from another state.
        session.execute(select(func.pg_advisory_xact_lock(func.hashtextextended(f"kept {who.workspace_id}", 0))))
        session.execute(delete(row).where(row.state != state))
        session.execute(statement.on_conflict_do_update(index_elements=[*key], set_=values))
    return found


@cache
def _shape(kind: Kept[T]) -> str:
    return f"{ENGINE} {sha256(str(kind.schema).encode()).hexdigest()[:12]}"


def state_of(session: Session) -> str:
    """A text that changes with everything of the workspace that a plan or a way out may be found from."""
    states = [select(tables.Workspace.basis), select(func.max(tables.ReferenceLoad.number))]
    for kind in (tables.Batch, tables.Recipe, tables.Client):
        states += [select(func.count()).select_from(kind), select(func.sum(kind.version))]
    for kind in (tables.Recipe, tables.Client):
        states += [select(func.count(kind.archived_at)), select(func.max(kind.archived_at))]
    texts = (func.coalesce(cast(state.scalar_subquery(), Text), "") for state in states)
    return str(session.scalars(select(func.concat_ws("/", *texts))).one())
