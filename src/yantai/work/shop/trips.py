"""Trips to the shops: begun with a list, walked by one or several people, ended at the till."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.shopping.packs import Sold, covers_g, pack_words
from yantai.core.shopping.trip import (
    Bought,
    ItemState,
    Noted,
    PackBought,
    Till,
    TripEvent,
    at_the_till,
    paid_cents,
    put_together,
)
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.log import when_it_happened
from yantai.work.common.errors import Closed, Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day, told_time, touch_basis
from yantai.work.pantry.ledger import LEAST_G, note_price
from yantai.work.shop.aisles import usual_place
from yantai.work.shop.demand import Wanted
from yantai.work.shop.house import add_lot, take_back_act
from yantai.work.shop.inputs import BoughtInput, LotInput, TillInput, TripEntryInput, TripInput
from yantai.work.shop.list import list_of
from yantai.work.shop.swapping import substitutes, swap
from yantai.work.shop.views import (
    BoughtView,
    DroppedItem,
    ItemStateView,
    NotedView,
    OwnItem,
    PackBoughtView,
    ShoppedBatch,
    ShoppingList,
    SubstituteView,
    TillItem,
    TillView,
    TripBrief,
    TripView,
)

_BOUGHT: Kept[Bought] = Kept(Bought)
_SHOWN: Kept[TripView] = Kept(TripView)


def start(database: Database, who: SignedIn, payload: TripInput, now: datetime) -> TripBrief:
    """Begin a trip for some batches, with what is to buy for them now.

    Raises:
        Missing: one of the batches is not here.
        Invalid: one of them is being bought for already.
    """
    batch_ids = list(dict.fromkeys(payload.batches))
    wanted = Wanted(fresh=payload.fresh, extras=payload.extras)
    with stored.reading(database, who, lambda _: None) as session:
        found = list_of(session, batch_ids, wanted, local_day(session, now))
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        for batch_id, trip in open_trips(session).items():
            if batch_id in batch_ids:
                name = next(batch.name for batch in found.batches if batch.id == batch_id)
                raise Invalid(
                    f"“{name}” is being bought for already, by {trip.started_by} since "
                    f"{told_time(session, trip.started_at)}. Open that trip, or finish it first."
                )
        trip = tables.Trip(
            id=uuid.uuid4(),
            workspace_id=who.workspace_id,
            started_at=now,
            started_by=who.name,
            with_fresh=payload.fresh,
            with_extras=payload.extras,
            needed={str(item.food_id): round(item.to_buy_g, 3) for item in found.items if item.to_buy_g},
        )
        session.add(trip)
        session.flush()
        for batch_id in batch_ids:
            session.add(tables.TripBatch(workspace_id=who.workspace_id, trip_id=trip.id, batch_id=batch_id))
        session.flush()
        return keep(_brief(session, trip))


def list_trips(database: Database, who: SignedIn) -> list[TripBrief]:
    """The trips of a kitchen: those that are going on first, then the newest."""
    trip = tables.Trip
    with database.reading(who.workspace_id) as session:
        rows = session.scalars(select(trip).order_by(trip.finished_at.desc().nulls_first(), trip.started_at.desc()))
        return [_brief(session, row) for row in rows]


def open_trips(session: Session) -> dict[uuid.UUID, tables.Trip]:
    """The trips that are going on, by the batches that they are for."""
    trip, of = tables.Trip, tables.TripBatch
    query = select(of.batch_id, trip).join(trip, trip.id == of.trip_id).where(trip.finished_at.is_(None))
    return {batch_id: row for batch_id, row in session.execute(query)}  # noqa: C416 -- rows are no pairs to mypy


def read_trip(database: Database, who: SignedIn, trip_id: uuid.UUID, now: datetime) -> TripView:
    """A trip with its list as it is now, and how it stands with each item.

    Raises:
        Missing: there is no such trip.
    """
    with stored.reading(database, who, lambda _: None) as session:
        return _view(session, _trip(session, trip_id), local_day(session, now))


def note(database: Database, who: SignedIn, trip_id: uuid.UUID, payload: TripEntryInput, now: datetime) -> NotedView:
    """Note something about an item: a fact, whatever the list has become since.

    Another food that was bought goes into the plans.

    Raises:
        Invalid: what was bought, or its name, lacks.
        Missing: there is no such trip or food.
        Closed: the trip is over.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        trip = _open(session, trip_id)
        other = _check(session, payload)
        entry = tables.TripEntry(
            id=uuid.uuid4(),
            workspace_id=who.workspace_id,
            trip_id=trip.id,
            item=payload.item,
            event=payload.event,
            bought=None if payload.bought is None else _BOUGHT.to_json(_bought(payload.bought)),
            text=payload.text.strip(),
            made_by=who.name,
            happened_at=when_it_happened(payload, now) or now,
            made_at=now,
        )
        session.add(entry)
        session.flush()
        told: list[str] = []
        if other is not None:
            told = swap(session, who, _batch_ids(session, trip), payload.item, other, now, told=entry.id)
        return keep(NotedView(told=told))


def offer_substitutes(
    database: Database, who: SignedIn, trip_id: uuid.UUID, food_id: uuid.UUID, now: datetime
) -> list[SubstituteView]:
    """Foods that could be bought instead of one, each tried in every plan of the trip.

    Raises:
        Missing: there is no such trip or food.
    """
    with database.reading(who.workspace_id) as session:
        batch_ids = _batch_ids(session, _trip(session, trip_id))
    return substitutes(database, who, batch_ids, food_id, now)


def finish(database: Database, who: SignedIn, trip_id: uuid.UUID, payload: TillInput, now: datetime) -> TripView:
    """End a trip: what is in the basket comes into the house, with what was paid for it.

    A price that was paid for packs of one kind is noted as seen today.

    Raises:
        Missing: there is no such trip.
        Invalid: something was paid for that is not in the basket.
        Closed: it is over already.
    """
    # What it showed is kept: from then on its foods are in the house, and nothing of them is to buy.
    shown = read_trip(database, who, trip_id, now)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        trip = _open(session, trip_id)
        in_basket = _in_basket(_states(session, trip))
        paid_items = {str(one.item): one.paid for one in payload.items}
        for index, one in enumerate(payload.items):
            if str(one.item) not in {state.item for state in in_basket}:
                raise Invalid.at(f"/items/{index}/paid", "This is not in the basket: tick it first.")
        act, today = uuid.uuid4(), local_day(session, now)
        for state in in_basket:
            if state.bought is not None and not state.is_own:
                _bring_in(session, who, state.bought, paid_items.get(state.item), act=act, now=now, today=today)
        trip.finished_at, trip.paid, trip.paid_items, trip.act = now, payload.paid, paid_items, act
        session.flush()
        view = TripView(
            trip=_brief(session, trip),
            shopping=shown.shopping,
            states=shown.states,
            own=shown.own,
            dropped=shown.dropped,
            till=_till(session, _states(session, trip), trip),
        )
        trip.shown = _SHOWN.to_json(view)
        return keep(view)


def reopen(database: Database, who: SignedIn, trip_id: uuid.UUID, now: datetime) -> TripBrief:
    """Take back that a trip ended: what it brought leaves the house again.

    Raises:
        Missing: there is no such trip.
        Invalid: it is not over, or some of what it brought is used already.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        trip = session.scalars(select(tables.Trip).where(tables.Trip.id == trip_id).with_for_update()).one_or_none()
        if trip is None:
            raise Missing(_NO_TRIP)
        if trip.finished_at is None:
            raise Invalid("This trip is going on.")
        entry = tables.LotEntry
        if session.scalar(select(entry.id).where(entry.act == trip.act).limit(1)) is not None and trip.act is not None:
            take_back_act(session, who, trip.act, uuid.uuid4(), now)
        trip.finished_at = trip.paid = trip.act = trip.shown = None
        trip.paid_items = {}
        session.flush()
        return keep(_brief(session, trip))


_NO_TRIP = "There is no such trip. It may have been removed in another window."


def _trip(session: Session, trip_id: uuid.UUID) -> tables.Trip:
    trip = session.get(tables.Trip, trip_id)
    if trip is None:
        raise Missing(_NO_TRIP)
    return trip


def _open(session: Session, trip_id: uuid.UUID) -> tables.Trip:
    trip = session.scalars(select(tables.Trip).where(tables.Trip.id == trip_id).with_for_update()).one_or_none()
    if trip is None:
        raise Missing(_NO_TRIP)
    if trip.finished_at is not None:
        raise Closed("This trip is over. What was bought is in the house: correct it there, or open the trip again.")
    return trip


def _batch_ids(session: Session, trip: tables.Trip) -> list[uuid.UUID]:
    of, batch = tables.TripBatch, tables.Batch
    query = select(of.batch_id).join(batch, batch.id == of.batch_id)
    return list(session.scalars(query.where(of.trip_id == trip.id, batch.deleted_at.is_(None)).order_by(batch.cook_on)))


def _brief(session: Session, trip: tables.Trip) -> TripBrief:
    of, batch = tables.TripBatch, tables.Batch
    query = select(batch).join(of, of.batch_id == batch.id).where(of.trip_id == trip.id)
    return TripBrief(
        id=trip.id,
        batches=[
            ShoppedBatch(id=row.id, name=row.name, cook_on=row.cook_on)
            for row in session.scalars(query.order_by(batch.cook_on, batch.name))
        ],
        started_at=trip.started_at,
        started_by=trip.started_by,
        finished_at=trip.finished_at,
        paid=trip.paid,
    )


def _check(session: Session, payload: TripEntryInput) -> tables.Food | None:
    """The other food that was bought, None where it is the item's own, or nothing was."""
    if payload.event is TripEvent.ADDED and not payload.text.strip():
        raise Invalid.at("/text", "Say what it is, as “kitchen roll”.")
    if payload.event is not TripEvent.BOUGHT:
        return None
    if payload.bought is None:
        raise Invalid.at("/bought", "Say what was bought, and how much.")
    for index, pack in enumerate(payload.bought.packs):
        if pack.sold is Sold.WEIGHT and pack.count != 1:
            raise Invalid.at(f"/bought/packs/{index}/count", "What is weighed is told as one, with all of its weight.")
    packed = sum(pack.grams * pack.count for pack in payload.bought.packs)
    if payload.bought.packs and abs(packed - payload.bought.grams) > LEAST_G * len(payload.bought.packs):
        raise Invalid.at("/bought/grams", f"The packs hold {packed:g} g, and {payload.bought.grams:g} g are said.")
    if payload.bought.food_id == payload.item:
        return None
    food = session.get(tables.Food, payload.bought.food_id)
    if food is None:
        raise Invalid.at("/bought/food_id", "There is no such food in your pantry. Choose another.")
    return food


def _bought(given: BoughtInput) -> Bought:
    return Bought(
        food=str(given.food_id),
        grams=given.grams,
        packs=tuple(
            PackBought(
                name=pack.name.strip(),
                grams=pack.grams,
                count=pack.count,
                price_cents=None if pack.price is None else round(pack.price * 100),
                shop=pack.shop.strip(),
                sold=pack.sold,
            )
            for pack in given.packs
        ),
    )


def _states(session: Session, trip: tables.Trip) -> dict[str, ItemState]:
    entry = tables.TripEntry
    query = select(entry).where(entry.trip_id == trip.id).order_by(entry.number)
    return put_together(
        Noted(
            at=row.happened_at.timestamp(),
            number=row.number,
            by=row.made_by,
            item=str(row.item),
            event=row.event,
            bought=None if row.bought is None else _BOUGHT.from_json(row.bought),
            text=row.text,
        )
        for row in session.scalars(query)
    )


def _view(session: Session, trip: tables.Trip, today: date) -> TripView:
    if trip.shown is not None:
        return _SHOWN.from_json(trip.shown)
    states = _states(session, trip)
    batch_ids = _batch_ids(session, trip)
    wanted = Wanted(fresh=trip.with_fresh, extras=trip.with_extras)
    found = list_of(session, batch_ids, wanted, today) if batch_ids else _NOTHING
    names = _food_names(session, states.values(), trip)
    # What was bought instead of a food stands at the food that it is, once the plans have that.
    baskets = {state.bought.food: state for state in states.values() if state.bought is not None}
    shown = [_state_of(str(item.food_id), states, baskets) for item in found.items]
    told = {state.item for state in shown} | {str(item.food_id) for item in found.items}
    return TripView(
        trip=_brief(session, trip),
        shopping=found,
        states=[
            _state_view(state, names, _was_g(trip.needed.get(str(item.food_id)), item.to_buy_g))
            for item, state in zip(found.items, shown, strict=True)
        ],
        own=[
            OwnItem(item=uuid.UUID(key), name=state.text, state=_state_view(state, names, None))
            for key, state in states.items()
            if state.is_own and not state.is_removed
        ],
        dropped=[
            DroppedItem(
                item=uuid.UUID(key),
                name=names.get(key, "A food that was removed"),
                was_g=trip.needed.get(key, 0.0),
                bought=_bought_view(states[key].bought, names) if key in states else None,
            )
            for key in sorted({*trip.needed, *(one.item for one in _in_basket(states) if not one.is_own)})
            if key not in told
        ],
        till=_till(session, states, trip),
    )


def _state_of(key: str, states: Mapping[str, ItemState], baskets: Mapping[str, ItemState]) -> ItemState:
    own = states.get(key, ItemState(item=key))
    return own if own.bought is not None else baskets.get(key, own)


_NOTHING = ShoppingList(
    batches=[], others=[], items=[], cost=None, without_price=0, in_the_pan=[], always_there=[], trip_id=None
)


def _was_g(was: float | None, now: float) -> float | None:
    """What was to buy when the trip began [g], where it is another amount by now."""
    return (was or 0.0) if abs((was or 0.0) - now) >= 1 else None


def _state_view(state: ItemState, names: Mapping[str, str], was_g: float | None) -> ItemStateView:
    return ItemStateView(
        item=uuid.UUID(state.item),
        bought=_bought_view(state.bought, names),
        bought_by=list(dict.fromkeys(state.bought_by)),
        doubly=state.doubly,
        is_missing=state.is_missing,
        note=state.note,
        was_g=was_g,
    )


def _bought_view(bought: Bought | None, names: Mapping[str, str]) -> BoughtView | None:
    if bought is None:
        return None
    cents = paid_cents(bought)
    return BoughtView(
        food_id=uuid.UUID(bought.food),
        name=names.get(bought.food, ""),
        grams=bought.grams,
        packs=[
            PackBoughtView(
                name=pack.name,
                grams=pack.grams,
                count=pack.count,
                price=None if pack.price_cents is None else pack.price_cents / 100,
                shop=pack.shop,
                sold=pack.sold,
            )
            for pack in bought.packs
        ],
        cost=None if cents is None else cents / 100,
    )


def _food_names(session: Session, states: Iterable[ItemState], trip: tables.Trip) -> dict[str, str]:
    keys = {uuid.UUID(key) for key in trip.needed}
    for state in states:
        if state.bought is not None:
            keys.add(uuid.UUID(state.bought.food))
    food = tables.Food
    return {str(key): name for key, name in session.execute(select(food.id, food.name).where(food.id.in_(keys)))}


def _in_basket(states: Mapping[str, ItemState]) -> list[ItemState]:
    """What is in the basket; what was taken off the list again is not."""
    return [state for state in states.values() if state.bought is not None and not state.is_removed]


def _till(session: Session, states: Mapping[str, ItemState], trip: tables.Trip) -> TillView:
    in_basket = _in_basket(states)
    names = _food_names(session, in_basket, trip) | {state.item: state.text for state in in_basket if state.is_own}
    found = till_of(in_basket, trip.paid_items, trip.paid)
    costs = {state.item: paid_cents(state.bought) for state in in_basket if state.bought is not None}
    return TillView(
        expected=found.expected / 100,
        paid=trip.paid,
        without_price=found.without_price,
        items=[
            TillItem(
                name=names.get(key, ""),
                expected=(costs[key] or 0) / 100,
                paid=((costs[key] or 0) + difference) / 100,
            )
            for key, difference in found.differences.items()
        ],
        unexplained=None if found.unexplained is None else found.unexplained / 100,
    )


def till_of(in_basket: Sequence[ItemState], paid_items: Mapping[str, float], paid: float | None) -> Till:
    """What is in the basket against the receipt."""
    return at_the_till(
        [(state.item, None if state.bought is None else paid_cents(state.bought)) for state in in_basket],
        {key: round(value * 100) for key, value in paid_items.items()},
        None if paid is None else round(paid * 100),
    )


def _bring_in(
    session: Session, who: SignedIn, bought: Bought, paid: float | None, *, act: uuid.UUID, now: datetime, today: date
) -> None:
    """What was bought of a food, as a lot; and the price of its packs, where it was paid today."""
    food = session.get(tables.Food, uuid.UUID(bought.food))
    if food is None:
        return
    kinds = {pack.grams for pack in bought.packs if pack.sold is not Sold.WEIGHT}
    cents = paid_cents(bought)
    lot = LotInput(
        food_id=food.id,
        words=" + ".join(pack_words(pack.count, pack.name, pack.grams, pack.sold) for pack in bought.packs),
        grams=bought.grams,
        pack_g=kinds.pop() if len(kinds) == 1 else None,
        place=usual_place(food),
        paid=paid if paid is not None else None if cents is None else cents / 100,
    )
    add_lot(session, who, lot, act=act, now=now)
    if paid is None or len(bought.packs) != 1:
        return
    (pack,) = bought.packs
    rows = session.scalars(select(tables.Pack).where(tables.Pack.food_id == food.id, tables.Pack.name == pack.name))
    for row in rows:
        of_one_g = covers_g(row.grams, row.drained_g)
        same_size = pack.sold is Sold.WEIGHT or abs(of_one_g - pack.grams) < LEAST_G
        if row.shop == pack.shop and row.sold is pack.sold and same_size:
            touch_basis(session)
            row.price, row.seen_on = round(paid / pack.count * of_one_g / pack.grams, 2), today
            note_price(session, who, row, now)
