"""Giving containers their days: by computation, by hand, and what both go by."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from datetime import date, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.storage.assign import eating_calendar
from yantai.core.storage.calendar import LONGEST_DAYS, Eaten, Store
from yantai.core.storage.shelf import Freezes
from yantai.store import tables
from yantai.store.database import Database
from yantai.store.notices import announce
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.handover.inputs import CalendarInput, PlacementInput, PlacementsInput, ShelfChoiceInput, WeekInput
from yantai.work.handover.laid import Laid, Spot, lay_out
from yantai.work.pantry.shelf import shelf_table


def make_calendar(
    database: Database, who: SignedIn, batch_id: uuid.UUID, payload: CalendarInput, now: datetime
) -> None:
    """Give the containers of a batch their days, of one client or of all.

    Raises:
        Missing: there is no such batch, or no such client in it.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _hold(session, batch_id)
        laid = lay_out(session, batch_id)
        if payload.client_id is not None and payload.client_id not in laid.clients:
            raise Missing("This client has no containers in this batch.")
        wanted = [payload.client_id] if payload.client_id is not None else list(laid.clients)
        for client_id in wanted:
            fixed = laid.eaten(client_id, by_hand=True) if payload.keep_by_hand else []
            made = eating_calendar(laid.to_eat(client_id), laid.weeks(client_id), fixed)
            _write(session, who, laid, client_id, made.eaten, now)
        _tell(session, laid, who)
        keep(None)


def place(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: PlacementsInput, now: datetime) -> None:
    """Put containers on days by hand, or take them off. What a move breaks is told, and stays told; it is not refused.

    Raises:
        Missing: there is no such batch, or no such container in it.
        Invalid: a day lies before cooking, or beyond the longest calendar.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _hold(session, batch_id)
        laid = lay_out(session, batch_id)
        for index, one in enumerate(payload.placements):
            row = laid.rows.get(one.row_id)
            if row is None or one.container > row.count:
                raise Missing("This container is no longer in the batch. Reload the page for those that are.")
            _check_day(laid, one.eaten_on, f"/placements/{index}/eaten_on")
            _add(session, who, laid, (one.row_id, one.container), _by_hand(laid, one), one.by_hand, now)
        _tell(session, laid, who)
        keep(None)


def set_week(database: Database, who: SignedIn, batch_id: uuid.UUID, client_id: uuid.UUID, payload: WeekInput) -> None:
    """Say when a client eats, and what their fridge holds. What has a day keeps it until the calendar is made anew.

    Raises:
        Missing: there is no such batch, or no such client in it.
        Invalid: the first day lies before cooking or too far away, or the week has another number of days than seven.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _hold(session, batch_id)
        laid = lay_out(session, batch_id)
        if client_id not in laid.clients:
            raise Missing("This client has no containers in this batch.")
        if payload.week and len(payload.week) != 7:
            raise Invalid.at("/week", f"A week has seven days; {len(payload.week)} came.")
        _check_first(laid, payload.first_on)
        client = session.scalars(select(tables.Client).where(tables.Client.id == client_id).with_for_update()).one()
        client.week = [kind or None for kind in payload.week] if any(payload.week) else []
        client.fridge_l = payload.fridge_l
        start = tables.EatingStart
        if payload.first_on is None:
            found = session.scalar(select(start).where(start.batch_id == batch_id, start.client_id == client_id))
            if found is not None:
                session.delete(found)
        else:
            row = {"batch_id": batch_id, "client_id": client_id, "first_on": payload.first_on}
            session.execute(
                insert(start)
                .values(id=uuid.uuid4(), workspace_id=who.workspace_id, **row)
                .on_conflict_do_update(index_elements=["batch_id", "client_id"], set_={"first_on": payload.first_on})
            )
        _tell(session, laid, who)
        keep(None)


def choose_shelf(
    database: Database,
    who: SignedIn,
    batch_id: uuid.UUID,
    component_id: uuid.UUID,
    payload: ShelfChoiceInput,
    now: datetime,
) -> None:
    """Say by which row of the shelf-life table a component goes, here and in the next batches of its recipe.

    Raises:
        Missing: there is no such batch, or no such component in it.
        Invalid: there is no such row.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _hold(session, batch_id)
        laid = lay_out(session, batch_id)
        component = laid.shelved.get(component_id)
        if component is None:
            raise Missing("This component is no longer in the batch. Reload the page for those that are.")
        if payload.category is not None and payload.category not in shelf_table():
            raise Invalid.at("/category", f"“{payload.category[:60]}” is no row of the shelf-life table.")
        session.add(
            tables.ShelfChoice(
                workspace_id=who.workspace_id,
                component_id=component_id,
                recipe_component_id=component.recipe_component_id,
                category=payload.category,
                made_by=who.name,
                made_at=now,
            )
        )
        _tell(session, laid, who)
        keep(None)


def _hold(session: Session, batch_id: uuid.UUID) -> None:
    # Locked: two that make a calendar at once would write each container twice.
    batch = tables.Batch
    query = select(batch.id).where(batch.id == batch_id, batch.deleted_at.is_(None)).with_for_update()
    if session.scalar(query) is None:
        raise Missing("There is no such batch. It may have been removed in another window.")


def _tell(session: Session, laid: Laid, who: SignedIn) -> None:
    session.flush()
    announce(session, laid.plan.batch.id, laid.plan.batch.version, who.name)


def _check_day(laid: Laid, day: date | None, pointer: str) -> None:
    if day is None:
        return
    if day < laid.cooked_on:
        raise Invalid.at(pointer, f"Nothing is eaten before it was cooked, on {laid.cooked_on:%-d %B %Y}.")
    if day > laid.on(LONGEST_DAYS):
        raise Invalid.at(pointer, f"A calendar ends {LONGEST_DAYS // 7} weeks after cooking. Take an earlier day.")


def _check_first(laid: Laid, day: date | None) -> None:
    _check_day(laid, day, "/first_on")
    if day is not None and day > laid.on(14):
        raise Invalid.at("/first_on", "The first day is at most two weeks after cooking. Take an earlier day.")


def _by_hand(laid: Laid, one: PlacementInput) -> Eaten | None:
    if one.eaten_on is None:
        return None
    day = (one.eaten_on - laid.cooked_on).days
    kept = laid.keepings[one.row_id].container
    store = one.store
    if store is None:
        keeps = kept.fridge_days is None or day <= kept.fridge_days
        store = Store.FRIDGE if keeps or kept.freezes is Freezes.NO else Store.FREEZER
    return Eaten(key=str(one.row_id), number=one.container, day=day, store=store)


def _write(
    session: Session, who: SignedIn, laid: Laid, client_id: uuid.UUID, eaten: Iterable[Eaten], now: datetime
) -> None:
    """Every container of a client as a calendar has it; what stands so already is not written again."""
    by_spot = {(uuid.UUID(one.key), one.number): one for one in eaten}
    for row in laid.of_client(client_id):
        for number in range(1, row.count + 1):
            found = by_spot.get((row.id, number))
            _add(session, who, laid, (row.id, number), found, found is not None and found.by_hand, now)


def _add(
    session: Session, who: SignedIn, laid: Laid, spot: Spot, eaten: Eaten | None, by_hand: bool, now: datetime
) -> None:
    row = tables.Placement(
        workspace_id=who.workspace_id,
        batch_id=laid.plan.batch.id,
        container_class_id=spot[0],
        container=spot[1],
        eaten_on=None if eaten is None else laid.on(eaten.day),
        store=None if eaten is None else eaten.store,
        use_by=None if eaten is None else use_by(laid, spot[0], eaten.store),
        by_hand=by_hand and eaten is not None,
        made_by=who.name,
        made_at=now,
    )
    known = laid.placements.get(spot)
    if known is None and eaten is None:
        return
    if known is None or any(getattr(known, name) != getattr(row, name) for name in _TOLD):
        session.add(row)


_TOLD = ("eaten_on", "store", "use_by", "by_hand")


def use_by(laid: Laid, row_id: uuid.UUID, store: Store) -> date | None:
    """The last day of a container where it waits; None for what nothing limits."""
    kept = laid.keepings[row_id].container
    days = kept.fridge_days if store is Store.FRIDGE else kept.freezer_days
    return None if days is None else laid.cooked_on + timedelta(days=days)
