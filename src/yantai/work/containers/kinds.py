"""Kinds of containers, and where they are."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.planning.containers import ContainerMove, Kind, Wanted, set_out
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import PlanRowView
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.containers.inputs import ContainerKindInput, ContainerMoveInput
from yantai.work.containers.views import ContainerKindView, OutView

_FIELDS = ("name", "ml", "empty_g", "lid_g", "freezer", "oven", "microwave", "dishwasher", "owned", "deposit")
_SIGN = {ContainerMove.OUT: 1, ContainerMove.BACK: -1, ContainerMove.LOST: -1}


@dataclass(frozen=True, kw_only=True)
class Stock:
    """The kinds that are in use, how many of each every client has and are full, and who these clients are."""

    kinds: list[tables.ContainerKind]
    out: Mapping[uuid.UUID, Mapping[uuid.UUID, int]]
    full: Mapping[uuid.UUID, int]
    names: Mapping[uuid.UUID, str]

    @classmethod
    def read(cls, session: Session, *, without: uuid.UUID | None = None) -> Stock:
        """As it is now; what one batch has packed is left out, for the question whether it finds containers.

        The plans of `full_batches` are at hand, or computed here.
        """
        kind, client = tables.ContainerKind, tables.Client
        kinds = session.scalars(
            select(kind).where(kind.put_away_at.is_(None)).order_by(kind.ml, kind.name, kind.id)
        ).all()
        out = _out(session)
        names = select(client.id, client.name).where(client.id.in_({one for held in out.values() for one in held}))
        packed = stored.current_views(session, [key for key in full_batches(session) if key != without])
        in_house = [Kind(key=str(one.id), ml=one.ml, there=max(one.owned - _count(out, one), 0)) for one in kinds]
        filled = set_out(in_house, [wanted(row) for plan in packed for row in plan.rows])
        return cls(
            kinds=list(kinds),
            out=out,
            full={uuid.UUID(one.key): one.there - filled.free[one.key] for one in in_house},
            names={client_id: name for client_id, name in session.execute(names)},  # noqa: C416 -- typed so
        )

    @property
    def empty(self) -> list[Kind]:
        """What is empty in the house, as the core knows it."""
        return [Kind(key=str(kind.id), ml=kind.ml, there=self.there(kind)) for kind in self.kinds]

    def away(self, kind: tables.ContainerKind) -> int:
        """How many are out with clients."""
        return _count(self.out, kind)

    def there(self, kind: tables.ContainerKind) -> int:
        """How many are empty in the house."""
        return max(kind.owned - self.away(kind) - self.full.get(kind.id, 0), 0)


def wanted(row: PlanRowView, count: int | None = None) -> Wanted:
    """The containers of a row, or so many of them."""
    return Wanted(
        key=str(row.id),
        count=row.count if count is None else count,
        volume_ml=row.volume_ml,
        capacity_ml=row.capacity_ml,
    )


def full_batches(session: Session) -> list[uuid.UUID]:
    """Batches that were packed since containers are written down, and whose containers have not left yet."""
    batch, kind, entry = tables.Batch, tables.ContainerKind, tables.ContainerEntry
    since = select(func.min(kind.made_at)).where(kind.put_away_at.is_(None)).scalar_subquery()
    gone = select(entry.batch_id).where(entry.batch_id.is_not(None))
    query = select(batch.id).where(
        batch.packed_at >= since, batch.put_away_at.is_(None), batch.deleted_at.is_(None), batch.id.not_in(gone)
    )
    return list(session.scalars(query.order_by(batch.packed_at, batch.id)))


def list_kinds(database: Database, who: SignedIn) -> list[ContainerKindView]:
    """The kinds that are in use, the smallest first."""
    with stored.reading(database, who, full_batches) as session:
        stock = Stock.read(session)
        return [_view(stock, kind) for kind in stock.kinds]


def save_kind(
    database: Database, who: SignedIn, payload: ContainerKindInput, kind_id: uuid.UUID | None, now: datetime
) -> ContainerKindView:
    """Write a kind of container down, or change one.

    Raises:
        Missing: there is no such kind.
        Invalid: fewer are owned than are out with clients.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        if kind_id is None:
            row = tables.ContainerKind(workspace_id=who.workspace_id, made_at=now)
        else:
            row = _row(session, kind_id)
        away = sum(_out(session).get(row.id, {}).values()) if kind_id else 0
        if payload.owned < away:
            raise Invalid.at(
                "/owned", f"{away} of them are out with clients. Write down what came back or was lost first."
            )
        for name in _FIELDS:
            setattr(row, name, getattr(payload, name))
        session.add(row)
        session.flush()
        return keep(_view(Stock.read(session), row))


def put_kind_away(database: Database, who: SignedIn, kind_id: uuid.UUID, now: datetime | None) -> None:
    """Take a kind off the list, or bring it back (None).

    Raises:
        Missing: there is no such kind.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _row(session, kind_id).put_away_at = now
        keep(None)


def move(database: Database, who: SignedIn, payload: ContainerMoveInput, now: datetime) -> ContainerKindView:
    """Write down that containers went out with a client, came back, or were lost there. What is lost is owned no more.

    Raises:
        Missing: there is no such kind or client.
        Invalid: more come back than went out, or more go out than there are.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        kind = _row(session, payload.kind_id)
        if session.get(tables.Client, payload.client_id) is None:
            raise Missing("There is no such client. They may have been removed in another window.")
        stock = Stock.read(session)
        with_client = stock.out.get(kind.id, {}).get(payload.client_id, 0)
        if payload.move is ContainerMove.OUT:
            if payload.count > kind.owned - stock.away(kind):
                raise Invalid.at("/count", f"Only {kind.owned - stock.away(kind)} of them are in the house.")
        elif payload.count > with_client:
            raise Invalid.at("/count", f"This client has {with_client} of them.")
        if payload.move is ContainerMove.LOST:
            kind.owned -= payload.count
        add_entry(session, who, kind.id, payload.client_id, payload.move, payload.count, now)
        session.flush()
        return keep(_view(Stock.read(session), kind))


def add_entry(
    session: Session,
    who: SignedIn,
    kind_id: uuid.UUID,
    client_id: uuid.UUID,
    move: ContainerMove,
    count: int,
    now: datetime,
    batch_id: uuid.UUID | None = None,
) -> None:
    """Write one move down."""
    session.add(
        tables.ContainerEntry(
            workspace_id=who.workspace_id,
            container_kind_id=kind_id,
            client_id=client_id,
            batch_id=batch_id,
            move=move,
            count=count,
            made_by=who.name,
            made_at=now,
        )
    )


def _row(session: Session, kind_id: uuid.UUID) -> tables.ContainerKind:
    # Locked: of two moves at once the second counts what the first left.
    kind = tables.ContainerKind
    row = session.scalar(select(kind).where(kind.id == kind_id).with_for_update())
    if row is None:
        raise Missing("There is no such kind of container. It may have been removed in another window.")
    return row


def _out(session: Session) -> dict[uuid.UUID, dict[uuid.UUID, int]]:
    """How many of each kind each client has."""
    entry = tables.ContainerEntry
    query = select(entry.container_kind_id, entry.client_id, entry.move, func.sum(entry.count)).group_by(
        entry.container_kind_id, entry.client_id, entry.move
    )
    found: dict[uuid.UUID, dict[uuid.UUID, int]] = defaultdict(lambda: defaultdict(int))
    for kind_id, client_id, what, count in session.execute(query):
        found[kind_id][client_id] += _SIGN[what] * count
    return {kind: {client: count for client, count in held.items() if count} for kind, held in found.items()}


def _count(out: Mapping[uuid.UUID, Mapping[uuid.UUID, int]], kind: tables.ContainerKind) -> int:
    return sum(out.get(kind.id, {}).values())


def _view(stock: Stock, kind: tables.ContainerKind) -> ContainerKindView:
    held = stock.out.get(kind.id, {})
    out = [OutView(client_id=key, client=stock.names[key], count=count) for key, count in held.items()]
    return ContainerKindView(
        id=kind.id,
        **{name: getattr(kind, name) for name in _FIELDS},
        out=sorted(out, key=lambda one: one.client),
        full=stock.full.get(kind.id, 0),
        there=stock.there(kind),
    )
