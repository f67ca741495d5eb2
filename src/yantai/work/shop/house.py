"""What is in the house: lots of food, and what happens to them."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Callable, Sequence
from datetime import date, datetime
from typing import Any

from sqlalchemy import ColumnElement, delete, func, select
from sqlalchemy.orm import Session

from yantai.core.shopping.house import Entry
from yantai.core.speaking import exact_weight
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Collector, Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day
from yantai.work.pantry.ledger import LEAST_G, enter
from yantai.work.shop.inputs import DivideInput, EntryInput, LotChange, LotInput, LotsInput, StapleInput, Told
from yantai.work.shop.views import EntryView, HouseChange, HouseView, LotView, RecipeOf, StapleView, UseUp

HURRIES_DAYS = 5
"""What expires within so many days is offered to the plan."""


def read_house(database: Database, who: SignedIn, now: datetime) -> HouseView:
    """Everything that is in the house, what expires first on top."""
    with database.reading(who.workspace_id) as session:
        return _view(session, local_day(session, now))


def put_in(database: Database, who: SignedIn, payload: LotsInput, now: datetime) -> HouseChange:
    """Note what came into the house.

    Raises:
        Invalid: an amount or a food makes no sense; nothing is noted then.
    """

    def act(session: Session, key: uuid.UUID) -> None:
        faults = Collector()
        ids = {one.food_id for one in payload.lots}
        known = set(session.scalars(select(tables.Food.id).where(tables.Food.id.in_(ids))))
        for index, one in enumerate(payload.lots):
            if one.food_id not in known:
                faults.add(f"/lots/{index}/food_id", "there is no such food in your pantry; choose another")
        faults.check()
        for one in payload.lots:
            add_lot(session, who, one, act=key, now=now)

    return _acted(database, who, now, act)


def add_lot(
    session: Session, who: SignedIn, one: LotInput, *, act: uuid.UUID, now: datetime, kind: Entry = Entry.BOUGHT
) -> tables.Lot:
    """A new lot with its first entry."""
    lot = tables.Lot(
        id=uuid.uuid4(),
        workspace_id=who.workspace_id,
        food_id=one.food_id,
        words=one.words.strip(),
        pack_g=one.pack_g,
        place=one.place,
        opened=one.opened,
        use_by=one.use_by,
        frozen_on=one.frozen_on,
        paid=one.paid,
        arrived_at=now,
    )
    session.add(lot)
    session.flush()
    enter(session, who, lot.id, kind, one.grams, act=act, now=now)
    return lot


def change_lot(database: Database, who: SignedIn, lot_id: uuid.UUID, payload: LotChange, now: datetime) -> HouseView:
    """Say where a lot is, whether it is open, and until when it keeps.

    Raises:
        Missing: there is no such lot.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        lot, _ = _locked(session, lot_id)
        lot.place, lot.opened = payload.place, payload.opened
        lot.use_by, lot.frozen_on = payload.use_by, payload.frozen_on
        session.flush()
        return keep(_view(session, local_day(session, now)))


def tell(database: Database, who: SignedIn, lot_id: uuid.UUID, payload: EntryInput, now: datetime) -> HouseChange:
    """Note that some of a lot was used or thrown away, or what was counted.

    Raises:
        Invalid: more is gone than there was; the mend is to count it.
        Missing: there is no such lot.
    """

    def act(session: Session, key: uuid.UUID) -> None:
        lot, there = _locked(session, lot_id)
        if payload.kind is Told.COUNTED:
            if abs(payload.grams - there) < LEAST_G:
                raise Invalid.at("/grams", f"{exact_weight(there)} is what is written down already.")
            changed = payload.grams - there
        else:
            if payload.grams < LEAST_G:
                raise Invalid.at("/grams", "Say how much of it it was.")
            if payload.grams > there + LEAST_G:
                raise Invalid.at(
                    "/grams",
                    f"{exact_weight(there)} of it are written down, less than {exact_weight(payload.grams)}. Was there "
                    "more? Count what there is first, or note what there was.",
                )
            changed = -min(payload.grams, there)
            lot.opened = True
        enter(session, who, lot.id, Entry(payload.kind.value), changed, act=key, now=now, note=payload.note)

    return _acted(database, who, now, act)


def divide(database: Database, who: SignedIn, lot_id: uuid.UUID, payload: DivideInput, now: datetime) -> HouseChange:
    """Divide a lot into bags, which are a lot of their own: raw, frozen on a day, so much in each.

    Raises:
        Invalid: the bags hold more than there is.
        Missing: there is no such lot.
    """

    def act(session: Session, key: uuid.UUID) -> None:
        lot, there = _locked(session, lot_id)
        grams = payload.bags * payload.bag_g
        if grams > there + LEAST_G:
            raise Invalid.at(
                "/bags",
                f"{payload.bags} bags of {exact_weight(payload.bag_g)} hold more than the {exact_weight(there)}.",
            )
        grams = min(grams, there)
        came = session.scalar(select(came_in()).where(tables.LotEntry.lot_id == lot.id))
        bags = LotInput(
            food_id=lot.food_id,
            words=f"{payload.bags} bags of {lot.words}".strip(),
            grams=grams,
            pack_g=payload.bag_g,
            place=payload.place,
            frozen_on=payload.frozen_on,
            use_by=payload.use_by,
            paid=None if lot.paid is None or not came else round(lot.paid * grams / float(came), 2),
        )
        enter(session, who, lot.id, Entry.DIVIDED, -grams, act=key, now=now)
        add_lot(session, who, bags, act=key, now=now, kind=Entry.DIVIDED)
        lot.opened = True

    return _acted(database, who, now, act)


def take_back(database: Database, who: SignedIn, act_id: uuid.UUID, now: datetime) -> HouseChange:
    """Take back what was noted in one go: by entries that undo it.

    Raises:
        Invalid: it was taken back already, a batch did it, or so much is not there any more.
        Missing: nothing of that kind was noted.
    """

    return _acted(database, who, now, lambda session, key: take_back_act(session, who, act_id, key, now))


def take_back_act(session: Session, who: SignedIn, act_id: uuid.UUID, key: uuid.UUID, now: datetime) -> None:
    """Take back, by an act with a key of its own, what was noted in one go; raises what `take_back` does."""
    entry = tables.LotEntry
    made = session.scalars(select(entry).where(entry.act == act_id).order_by(entry.number)).all()
    if not made:
        raise Missing("There is nothing of that kind to take back.")
    if any(one.batch_id is not None for one in made):
        raise Invalid("A batch took this: open the batch again, and it is put back.")
    if session.scalar(select(entry.id).where(entry.undoes == act_id).limit(1)) is not None:
        raise Invalid("This was taken back already.")
    for one in made:
        _, there = _locked(session, one.lot_id)
        if there - one.grams < -LEAST_G:
            raise Invalid(
                f"{exact_weight(there)} are left of it, so {exact_weight(one.grams)} cannot be taken back. Count what "
                "there is instead."
            )
        enter(session, who, one.lot_id, Entry.TAKEN_BACK, -one.grams, act=key, now=now, undoes=act_id)


def read_ledger(database: Database, who: SignedIn, lot_id: uuid.UUID) -> list[EntryView]:
    """What happened to a lot, the newest first.

    Raises:
        Missing: there is no such lot.
    """
    entry, batch = tables.LotEntry, tables.Batch
    with database.reading(who.workspace_id) as session:
        if session.get(tables.Lot, lot_id) is None:
            raise Missing(_NO_LOT)
        undone = set(session.scalars(select(entry.undoes).where(entry.undoes.is_not(None), entry.lot_id == lot_id)))
        query = (
            select(entry, batch.name)
            .outerjoin(batch, batch.id == entry.batch_id)
            .where(entry.lot_id == lot_id)
            .order_by(entry.number.desc())
        )
        return [
            EntryView(
                act=row.act,
                kind=row.kind,
                grams=row.grams,
                batch=name,
                note=row.note,
                made_by=row.made_by,
                made_at=row.made_at,
                is_taken_back=row.act in undone,
            )
            for row, name in session.execute(query)
        ]


def answer_staple(
    database: Database, who: SignedIn, food_id: uuid.UUID, payload: StapleInput, now: datetime
) -> HouseView:
    """Remember whether a food is always in the house.

    Raises:
        Missing: there is no such food here.
    """
    staple = tables.Staple
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        if session.get(tables.Food, food_id) is None:
            raise Missing("There is no such food in your pantry.")
        session.execute(delete(staple).where(staple.food_id == food_id))
        if payload.is_always_there is not None:
            session.add(staple(workspace_id=who.workspace_id, food_id=food_id, is_always_there=payload.is_always_there))
        session.flush()
        return keep(_view(session, local_day(session, now)))


def came_in() -> ColumnElement[Any]:
    """What came into a lot [g]: what it was bought as, or divided off another. Its price is of that."""
    entry = tables.LotEntry
    return func.sum(entry.grams).filter(entry.kind.in_((Entry.BOUGHT, Entry.DIVIDED)), entry.grams > 0)


_NO_LOT = "There is no such lot in the house. It may have been removed in another window."


def _acted(database: Database, who: SignedIn, now: datetime, act: Callable[[Session, uuid.UUID], None]) -> HouseChange:
    """Do something to the house once, under a key by which it is taken back."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        key = uuid.uuid4()
        act(session, key)
        session.flush()
        return keep(HouseChange(act=key, house=_view(session, local_day(session, now))))


def _locked(session: Session, lot_id: uuid.UUID) -> tuple[tables.Lot, float]:
    """A lot and what is left of it [g], while nobody else changes it."""
    lot = session.scalars(select(tables.Lot).where(tables.Lot.id == lot_id).with_for_update()).one_or_none()
    if lot is None:
        raise Missing(_NO_LOT)
    there = session.scalar(select(func.sum(tables.LotEntry.grams)).where(tables.LotEntry.lot_id == lot_id))
    return lot, float(there or 0)


def _view(session: Session, today: date) -> HouseView:
    lot, entry, food = tables.Lot, tables.LotEntry, tables.Food
    left = func.sum(entry.grams)
    query = (
        select(lot, food, left, came_in())
        .join(entry, entry.lot_id == lot.id)
        .join(food, food.id == lot.food_id)
        .group_by(lot.id, food.id)
        .having(left > LEAST_G)
        .order_by(lot.use_by.asc().nulls_last(), food.name, lot.arrived_at, lot.id)
    )
    lots = [
        LotView(
            id=row.id,
            food_id=of.id,
            name=of.name,
            state=of.state,
            words=row.words,
            grams=float(grams),
            pack_g=row.pack_g,
            place=row.place,
            opened=row.opened,
            use_by=row.use_by,
            days_left=None if row.use_by is None else (row.use_by - today).days,
            frozen_on=row.frozen_on,
            paid=row.paid,
            worth=None if row.paid is None or not arrived else round(row.paid * min(float(grams / arrived), 1.0), 2),
            arrived_at=row.arrived_at,
        )
        for row, of, grams, arrived in session.execute(query)
    ]
    worths = [one.worth for one in lots if one.worth is not None]
    return HouseView(
        lots=lots,
        use_up=_use_up(session, lots),
        staples=[
            StapleView(food_id=of.id, name=of.name, is_always_there=row.is_always_there)
            for row, of in session.execute(
                select(tables.Staple, food).join(food, food.id == tables.Staple.food_id).order_by(food.name)
            )
        ],
        worth=round(sum(worths), 2) if worths else None,
        without_price=len(lots) - len(worths),
    )


def _use_up(session: Session, lots: Sequence[LotView]) -> list[UseUp]:
    """What expires within days and is not past yet, with the recipes that use it."""
    hurried: dict[uuid.UUID, list[LotView]] = defaultdict(list)
    for lot in lots:
        if lot.days_left is not None and 0 <= lot.days_left <= HURRIES_DAYS:
            hurried[lot.food_id].append(lot)
    line, component, recipe, food = tables.Line, tables.Component, tables.Recipe, tables.Food
    current = func.coalesce(food.superseded_by, food.id)
    query = (
        select(current, recipe.id, recipe.name)
        .distinct()
        .select_from(line)
        .join(component, component.id == line.component_id)
        .join(recipe, recipe.id == component.recipe_id)
        .join(food, food.id == line.food_id)
        .where(current.in_(hurried), recipe.archived_at.is_(None))
        .order_by(recipe.name)
    )
    recipes: dict[uuid.UUID, list[RecipeOf]] = defaultdict(list)
    for food_id, recipe_id, name in session.execute(query):
        recipes[food_id].append(RecipeOf(id=recipe_id, name=name))
    return [
        UseUp(
            food_id=food_id,
            name=of[0].name,
            grams=sum(lot.grams for lot in of),
            use_by=min(lot.use_by for lot in of if lot.use_by is not None),
            recipes=recipes[food_id],
        )
        for food_id, of in hurried.items()
    ]
