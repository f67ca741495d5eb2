"""The client's own page: their days, what they tell of their containers, and nothing of anybody else."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.foods.nutrients import Nutrient
from yantai.core.planning.portioning import Place
from yantai.core.speaking import energy
from yantai.core.storage.calendar import Eaten, Store
from yantai.core.storage.eating import changed_days
from yantai.core.storage.reheating import THAWED
from yantai.formats import calendar_ics
from yantai.formats.calendar_ics import Entry
from yantai.store import tables
from yantai.store.database import Database
from yantai.store.notices import announce
from yantai.work.batches import stored
from yantai.work.batches.loading import kept_rules
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day, read_workspace, workspace_rules
from yantai.work.fill.shown import read_filling
from yantai.work.fill.views import FillContainerView
from yantai.work.handover.calendar import use_by
from yantai.work.handover.days import EatingDay, Served, eating_days
from yantai.work.handover.eaten import add_eaten, held_parts, left_words, read_eaten
from yantai.work.handover.inputs import ClientWordInput, EatenInput, MacrosInput, SwapInput
from yantai.work.handover.labels import Labeller
from yantai.work.handover.laid import Laid, Spot, eaten_batches, lay_out
from yantai.work.handover.links import FEED, feed_token
from yantai.work.handover.pans import IN_KITCHEN, Pan, pans_of
from yantai.work.handover.views import (
    MyAmountView,
    MyBesideView,
    MyContainerView,
    MyDayView,
    MyKitchenView,
    MyPageView,
    MyPanView,
    MyPartView,
    MySharesView,
    SwapView,
)
from yantai.work.handover.words import KEEP_COLD, LOCAL_RULES, day_words

SHOWN_BEFORE = timedelta(days=2)
"""Days that are over are shown so long, to tell of them still."""

_NO_CONTAINER = "This container is not among yours any more. Reload the page."


@dataclass(frozen=True, kw_only=True)
class _Mine:
    """A batch with containers of one client."""

    laid: Laid
    client: tables.Client
    days: list[EatingDay]
    labeller: Labeller
    facts: Mapping[Spot, tables.EatingFact]


def read_my_page(database: Database, who: SignedIn, link: tables.ClientLink, token: str, now: datetime) -> MyPageView:
    """The page of the client whose link it is."""
    with database.reading(who.workspace_id) as session:
        client = session.get_one(tables.Client, link.client_id)
        today = local_day(session, now)
        name, shows = client.name, _shows_macros(session, link)
    batches = [_read(database, who, batch_id, link.client_id) for batch_id in _batches(database, who, link, today)]
    days: dict[date, MyDayView] = {}
    for mine in batches:
        for day in mine.days:
            if day.on >= today - SHOWN_BEFORE:
                made = _day_view(mine, day, today, shows_macros=shows)
                days[day.on] = made if day.on not in days else _joined(days[day.on], made)
    return MyPageView(
        client=name,
        coach=who.name,
        today=today,
        expires_at=link.expires_at,
        shows_macros=shows,
        days=[days[on] for on in sorted(days)],
        feed=f"{FEED}/{feed_token(token)}.ics",
        cautions=["No foil and no closed lid in a microwave; no frozen glass in a hot oven.", KEEP_COLD, LOCAL_RULES],
    )


def tell_eaten(database: Database, who: SignedIn, link: tables.ClientLink, payload: EatenInput, now: datetime) -> None:
    """Note what became of a container. It is a fact: told again, the newest counts.

    Raises:
        Missing: this is no container of theirs.
        Invalid: it is left without saying how much, or more is left than there was.
    """
    with database.reading(who.workspace_id) as session:
        batch_id = _own_row(session, link, payload.row_id, payload.container).batch_id
    parts = held_parts(_container(database, who, batch_id, (payload.row_id, payload.container)))
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _own_row(session, link, payload.row_id, payload.container)
        add_eaten(session, row, payload, parts, by_client=True, made_by=_name(session, link), now=now)
        _tell(session, row.batch_id, link)
        keep(None)


def swap(database: Database, who: SignedIn, link: tables.ClientLink, payload: SwapInput, now: datetime) -> None:
    """Let two containers change their days, where both are good to eat then.

    Raises:
        Missing: one of them is no container of theirs.
        Invalid: one would not be good to eat on the other's day, or one is eaten already.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        spots = [(payload.row_id, payload.container), (payload.with_row_id, payload.with_container)]
        rows = [_own_row(session, link, row_id, number) for row_id, number in spots]
        if rows[0].batch_id != rows[1].batch_id:
            raise Invalid("These were cooked on different days and keep differently. Ask your coach.")
        session.execute(select(tables.Batch.id).where(tables.Batch.id == rows[0].batch_id).with_for_update())
        laid = lay_out(session, rows[0].batch_id)
        today = (local_day(session, now) - laid.cooked_on).days
        facts = read_eaten(session, rows[0].batch_id)
        placed = {(uuid.UUID(one.key), one.number): one for one in laid.eaten(link.client_id)}
        if any(spot not in placed for spot in spots):
            raise Invalid("One of these has no day. Ask your coach.")
        if any(spot in facts for spot in spots):
            raise Invalid("One of these is eaten already. Reload the page.")
        moved = _changed(laid, link.client_id, placed[spots[0]], placed[spots[1]], today)
        if moved is None:
            raise Invalid("One of them would not be good to eat on the other's day. Choose another one.")
        for eaten in moved:
            row_id = uuid.UUID(eaten.key)
            session.add(
                tables.Placement(
                    workspace_id=who.workspace_id,
                    batch_id=rows[0].batch_id,
                    container_class_id=row_id,
                    container=eaten.number,
                    eaten_on=laid.on(eaten.day),
                    store=eaten.store,
                    use_by=use_by(laid, row_id, eaten.store),
                    by_hand=True,
                    made_by=_name(session, link),
                    made_at=now,
                )
            )
        _tell(session, rows[0].batch_id, link)
        keep(None)


def say(database: Database, who: SignedIn, link: tables.ClientLink, payload: ClientWordInput, now: datetime) -> None:
    """Keep a word of the client for the coach."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        session.add(
            tables.ClientWord(workspace_id=who.workspace_id, client_id=link.client_id, text=payload.text, made_at=now)
        )
        keep(None)


def show_macros(database: Database, who: SignedIn, link: tables.ClientLink, payload: MacrosInput) -> None:
    """Show macros on the page, or not."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        session.get_one(tables.ClientLink, link.id).shows_macros = payload.shows_macros
        keep(None)


def read_my_kitchen(database: Database, who: SignedIn, link: tables.ClientLink, now: datetime) -> MyKitchenView:
    """What the client's containers are made of, at the size of these alone: for who cooks by themselves."""
    pans = []
    for batch_id in _batches(database, who, link, _today(database, who, now)):
        for pan in _pans(database, who, link, batch_id):
            sheet = pan.sheet
            pans.append(
                MyPanView(
                    batch_id=batch_id,
                    component_id=pan.component_id,
                    name=sheet.name,
                    amounts=[MyAmountView(name=name, amount=amount) for name, amount in sheet.amounts],
                    steps=list(sheet.steps),
                    done=sheet.done,
                    expected=sheet.expected,
                    kinds=list(sheet.kinds),
                    is_weighed=bool(sheet.rows),
                    division=sheet.division,
                )
            )
    return MyKitchenView(pans=pans, cautions=list(IN_KITCHEN))


def read_my_shares(
    database: Database,
    who: SignedIn,
    link: tables.ClientLink,
    batch_id: uuid.UUID,
    component_id: uuid.UUID,
    pan_g: float,
    now: datetime,
) -> MySharesView:
    """Grams for each of the client's containers when the pan of a component weighs so much.

    Raises:
        Missing: it is no component of theirs.
        OutOfRange: the pan weighs nothing, or more than a pan can.
    """
    if batch_id in _batches(database, who, link, _today(database, who, now)):
        for pan in _pans(database, who, link, batch_id):
            if pan.component_id == component_id:
                return MySharesView(grams=pan.shares(pan_g))
    raise Missing("This is nothing of yours to cook any more. Reload the page.")


def _pans(database: Database, who: SignedIn, link: tables.ClientLink, batch_id: uuid.UUID) -> list[Pan]:
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
    return pans_of(database, who, laid, link.client_id)


def _today(database: Database, who: SignedIn, now: datetime) -> date:
    with database.reading(who.workspace_id) as session:
        return local_day(session, now)


def my_calendar(database: Database, who: SignedIn, link: tables.ClientLink, now: datetime) -> bytes:
    """What the client eats and thaws when, as a calendar."""
    page = read_my_page(database, who, link, "", now)
    entries = []
    for day in page.days:
        for one in day.containers:
            entries.append(
                Entry(
                    key=f"{one.row_id}/{one.container}",
                    says=f"{one.meal}: {one.dish}",
                    detail=f"{one.keep}. {one.reheat}",
                    start=day.on,
                    end=day.on + timedelta(days=1),
                )
            )
        if day.thaw:
            entries.append(
                Entry(
                    key=f"thaw/{link.client_id}/{day.on}",
                    says="Thaw tonight, in the fridge",
                    detail="; ".join(day.thaw),
                    start=day.on,
                    end=day.on + timedelta(days=1),
                )
            )
    return calendar_ics.write(f"{page.client}: meals", entries, now)


def _shows_macros(session: Session, link: tables.ClientLink) -> bool:
    return session.get_one(tables.ClientLink, link.id).shows_macros


def _batches(database: Database, who: SignedIn, link: tables.ClientLink, today: date) -> Sequence[uuid.UUID]:
    """The batches of which the client eats something from two days ago on."""
    return eaten_batches(database, who, link.client_id, today - SHOWN_BEFORE)


def _read(database: Database, who: SignedIn, batch_id: uuid.UUID, client_id: uuid.UUID) -> _Mine:
    filling = read_filling(database, who, batch_id)
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
        rules = kept_rules(session.get_one(tables.Batch, batch_id)) or workspace_rules(read_workspace(session))
        facts = read_eaten(session, batch_id)
    client = laid.clients[client_id]
    own = [one for one in filling.containers if one.client_id == client_id]
    return _Mine(
        laid=laid,
        client=client,
        days=eating_days(laid, client, own, rules),
        labeller=Labeller(laid, ""),
        facts=facts,
    )


def _own_row(session: Session, link: tables.ClientLink, row_id: uuid.UUID, number: int) -> tables.ContainerClass:
    row = session.get(tables.ContainerClass, row_id)
    if row is None or row.removed or row.client_id != link.client_id or number > row.count:
        raise Missing(_NO_CONTAINER)
    return row


def _container(database: Database, who: SignedIn, batch_id: uuid.UUID, spot: Spot) -> FillContainerView:
    filling = read_filling(database, who, batch_id)
    found = next((one for one in filling.containers if (one.row_id, one.number) == spot), None)
    if found is None:
        raise Missing(_NO_CONTAINER)
    return found


def _grams(one: FillContainerView) -> float:
    return sum(part.grams for part in one.parts if part.place is Place.IN_CONTAINER)


def _name(session: Session, link: tables.ClientLink) -> str:
    """Whose word it is."""
    return session.get_one(tables.Client, link.client_id).name


def _tell(session: Session, batch_id: uuid.UUID, link: tables.ClientLink) -> None:
    session.flush()
    version = session.scalars(select(tables.Batch.version).where(tables.Batch.id == batch_id)).one()
    announce(session, batch_id, version, _name(session, link))


def _changed(laid: Laid, client_id: uuid.UUID, one: Eaten, other: Eaten, today: int) -> tuple[Eaten, Eaten] | None:
    return changed_days(
        one, other, laid.to_eat(client_id), laid.weeks(client_id), laid.calendar(client_id), today=today
    )


def _day_view(mine: _Mine, day: EatingDay, today: date, *, shows_macros: bool) -> MyDayView:
    kcal = next((one for one in day.standings if one.nutrient is Nutrient.KCAL), None)
    held = energy(day.total[Nutrient.KCAL])
    total = "" if not shows_macros or not day.served else held
    if total and kcal is not None:
        total = f"{held.partition(' ')[0]} of {energy(kcal.target)}"
    return MyDayView(
        on=day.on,
        day_type=day.day_type,
        containers=[_container_view(mine, one, day.on, today, shows_macros=shows_macros) for one in day.served],
        beside=[
            MyBesideView(
                name=one.name,
                kcal=energy(one.amounts[Nutrient.KCAL]) if shows_macros else "",
                is_meal=one.is_meal,
            )
            for one in day.beside
        ],
        total=total,
        thaw=[f"{one.shown.dish}, {one.shown.slot.lower()}, {one.spot[1]} of {one.shown.of}" for one in day.thaw],
    )


def _container_view(mine: _Mine, served: Served, on: date, today: date, *, shows_macros: bool) -> MyContainerView:
    label, fact = mine.labeller.label(served.shown), mine.facts.get(served.spot)
    told = fact.event if fact is not None else None
    return MyContainerView(
        row_id=served.spot[0],
        container=served.spot[1],
        of=served.shown.of,
        dish=served.shown.dish,
        meal=f"{served.shown.slot[:1].upper()}{served.shown.slot[1:]}",
        keep=label.keep,
        use_by=label.use_by,
        thaw=label.thaw,
        is_frozen=served.store is Store.FREEZER,
        # On its page the day says when it is thawed.
        reheat=label.reheat.removeprefix(THAWED),
        parts=list(label.parts),
        weighed=[
            MyPartView(component_id=part.component_id, name=part.name, grams=part.grams)
            for part in served.shown.parts
            if part.grams > 0
        ],
        also=list(label.also),
        allergens=list(label.allergens),
        figures=list(label.macros) if shows_macros else [],
        kcal=label.energy if shows_macros else "",
        is_planned=label.is_planned,
        grams=_grams(served.shown),
        told=told,
        left=left_words(fact),
        swaps=[] if told is not None or on < today else _swaps(mine, served, today),
    )


def _swaps(mine: _Mine, served: Served, today: date) -> list[SwapView]:
    client_id, day = mine.client.id, (today - mine.laid.cooked_on).days
    placed = {(uuid.UUID(one.key), one.number): one for one in mine.laid.eaten(client_id)}
    here = placed.get(served.spot)
    if here is None:
        return []
    rows = mine.laid.rows
    return [
        SwapView(
            row_id=spot[0],
            container=spot[1],
            name=f"{mine.labeller.dish_of(rows[spot[0]])}, {day_words(mine.laid.on(other.day))}",
            on=mine.laid.on(other.day),
        )
        for spot, other in sorted(placed.items(), key=lambda pair: (pair[1].day, str(pair[0])))
        if spot != served.spot
        and spot not in mine.facts
        and _changed(mine.laid, client_id, here, other, day) is not None
    ]


def _joined(one: MyDayView, other: MyDayView) -> MyDayView:
    """A day on which containers of two batches are eaten: the meal that one lacks may be the other's, so neither knows
    what the day comes to. Foods of the day are told once."""
    return replace(
        one,
        containers=[*one.containers, *other.containers],
        beside=[food for food in one.beside or other.beside if not food.is_meal],
        thaw=[*one.thaw, *other.thaw],
        total="",
    )
