"""Everything that is kept about one client, and the file that they are given."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from dataclasses import asdict
from datetime import datetime
from typing import Any

from sqlalchemy import ColumnElement, LargeBinary, Table, or_, select
from sqlalchemy.orm import Session

from yantai.formats import client_export
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.common.errors import Missing
from yantai.work.common.who import SignedIn

SECRETS = frozenset({"token_hash", "feed_hash"})
_OF_US = frozenset({"workspace_id", "account_id"})


def export_client(database: Database, who: SignedIn, client_id: uuid.UUID, now: datetime) -> tuple[str, bytes]:
    """The name of a client, and everything about them as one file.

    Raises:
        Missing: there is no such client.
    """
    with database.reading(who.workspace_id) as session:
        batches = batches_of(session, client_id)
    with stored.reading(database, who, lambda _: batches) as session:
        name = client_of(session, client_id).name
        found = {table.name: rows for table, rows in rows_of(session, client_id)}
        # The name of the person is told by "client"; their own row is that of a person.
        found["person"] = found.pop("client")
        found["containers"] = list(_containers(session, client_id, batches))
    return name, client_export.write(name, found, now)


def client_of(session: Session, client_id: uuid.UUID) -> tables.Client:
    """A client.

    Raises:
        Missing: there is no such client.
    """
    client = session.get(tables.Client, client_id)
    if client is None:
        raise Missing("There is no such client. They may have been removed in another window.")
    return client


def batches_of(session: Session, client_id: uuid.UUID) -> list[uuid.UUID]:
    """The batches that have containers for a client, those in the bin too."""
    row = tables.ContainerClass
    query = select(row.batch_id).where(row.client_id == client_id, row.removed.is_(False)).distinct()
    return list(session.scalars(query.order_by(row.batch_id)))


def rows_of(session: Session, client_id: uuid.UUID) -> Iterator[tuple[Table, list[dict[str, Any]]]]:
    """What each table has about a client: rows that name them, and rows that belong to such rows."""
    for table, mine in about(client_id):
        columns = [column for column in table.columns if _is_told(column.name, column.type)]
        query = select(*columns).where(mine).order_by(table.c.id)
        yield table, [dict(row._mapping) for row in session.execute(query)]


def about(client_id: uuid.UUID) -> Iterator[tuple[Table, ColumnElement[bool]]]:
    """Every table that has something about a client, and which of its rows."""
    rows = select(tables.ContainerClass.id).where(tables.ContainerClass.client_id == client_id)
    days = select(tables.Day.id).where(tables.Day.client_id == client_id)
    forms = select(tables.ClientForm.id).where(tables.ClientForm.client_id == client_id)
    within = {"container_class_id": rows, "day_id": days, "client_form_id": forms}
    for table in tables.Base.metadata.sorted_tables:
        if table.name == "client":
            yield table, table.c.id == client_id
            continue
        mine = [table.c.client_id == client_id] if "client_id" in table.c else []
        mine += [table.c[name].in_(keys) for name, keys in within.items() if name in table.c]
        if mine:
            yield table, or_(*mine)


def _is_told(name: str, kind: Any) -> bool:
    return name not in SECRETS | _OF_US and not isinstance(kind, LargeBinary)


def _containers(session: Session, client_id: uuid.UUID, batches: list[uuid.UUID]) -> Iterator[dict[str, Any]]:
    """Their containers of every batch: what was in them, and what that held."""
    for plan in stored.read_views(session, batches):
        dishes = {dish.id: dish.name for dish in plan.dishes}
        names = [component.name for component in plan.components]
        for row in plan.rows:
            if row.client_id != client_id or not row.count:
                continue
            yield {
                "batch": plan.batch.name,
                "cooked_on": plan.batch.cook_on,
                "dish": dishes[row.dish_id],
                "meal": row.slot,
                "day_type": row.day_type,
                "containers": row.count,
                "grams": {name: cell.grams for name, cell in zip(names, row.cells, strict=True) if cell.grams},
                "holds": asdict(row.amounts),
            }
