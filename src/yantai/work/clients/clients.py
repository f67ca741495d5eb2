"""Clients, their targets and what they must not eat."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import asdict, replace
from datetime import datetime
from typing import Any

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, selectinload

from yantai.core.errors import CoreError
from yantai.core.foods.allergens import ALLERGENS
from yantai.core.foods.energy import Rules
from yantai.core.foods.exclusions import meaning
from yantai.core.portions.problem import check_room
from yantai.core.targets.days import ANY_DAY, slots_of_day
from yantai.core.targets.targets import Target
from yantai.core.targets.words import conflict_words
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.clients import history as target_history
from yantai.work.clients.at_hand import at_hand_rows, at_hand_views, check_at_hand, with_at_hand
from yantai.work.clients.days import (
    ClientDays,
    Eaten,
    as_targeted,
    check_days,
    day_rows,
    day_target_view,
    day_view,
    eaten_day,
    effective_figures,
    effective_target,
    share_note,
    stored_days,
    with_days,
)
from yantai.work.clients.inputs import BoundsInput, ClientBoundInput, ClientInput, TargetInput
from yantai.work.clients.kept_out import client_bounds
from yantai.work.clients.views import (
    ClientBoundView,
    ClientView,
    DaysPreview,
    PlanTarget,
    ScaledView,
    TargetsThen,
    TargetView,
    ToleranceView,
    WiderView,
    WordView,
)
from yantai.work.common.errors import Collector, Invalid, Missing, Stale, located, sentence
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import daily_aims, read_workspace, workspace_rules
from yantai.work.pantry.composition import named

MOST_WORDS = 60
"""Words that a client may leave out, and as many disliked ones."""


def list_clients(database: Database, who: SignedIn) -> list[ClientView]:
    """All clients that are not archived, by name."""
    with database.reading(who.workspace_id) as session:
        rules = workspace_rules(read_workspace(session))
        query = client_query().where(tables.Client.archived_at.is_(None)).order_by(tables.Client.name)
        return [client_view(client, rules) for client in session.scalars(query)]


def read_client(database: Database, who: SignedIn, client_id: uuid.UUID) -> ClientView:
    """One client.

    Raises:
        Missing: there is no such client here.
    """
    with database.reading(who.workspace_id) as session:
        return client_view(load_client(session, client_id), workspace_rules(read_workspace(session)))


def read_history(database: Database, who: SignedIn, client_id: uuid.UUID) -> list[TargetsThen]:
    """What was changed about a client's days and targets, the newest first.

    Raises:
        Missing: there is no such client here.
    """
    with database.reading(who.workspace_id) as session:
        return target_history.changes(session, load_client(session, client_id))


def preview_days(database: Database, who: SignedIn, payload: ClientInput) -> DaysPreview:
    """How the days of a client stand as typed, and what the targets come to that are a share of one.

    Raises:
        Invalid: a day makes no sense.
    """
    with located("/tolerance"):
        tolerance = payload.tolerance.core
    with database.reading(who.workspace_id) as session:
        faults = Collector()
        days = check_days(session, faults, payload)
        faults.check()
        aims = daily_aims(read_workspace(session))
    slots = [(target.slot.strip(), target.day_type.strip()) for target in payload.targets]
    views = []
    for day in days.values():
        eaten = [_as_targeted(payload.targets[index], days) for index in slots_of_day(slots, day.day_type)]
        view = day_view(day, eaten, eaten_day(day, eaten, tolerance, aims), client_id=None, client=payload.name)
        note = share_note(payload.targets, day.day_type)
        views.append(replace(view, notes=[*view.notes, *([note] if note else [])]))
    return DaysPreview(
        days=views, targets=[PlanTarget.of(effective_figures(target, days)) for target in payload.targets]
    )


def _as_targeted(target: TargetInput, days: ClientDays) -> Eaten:
    return as_targeted(target.slot, effective_figures(target, days))


def read_words(database: Database, who: SignedIn, words: Sequence[str]) -> list[WordView]:
    """What each word keeps out of the foods of this kitchen, and what it may mean besides.

    Raises:
        Invalid: there are far too many words.
    """
    if len(words) > MOST_WORDS:
        raise Invalid.at("/words", f"{len(words)} words are more than the {MOST_WORDS} a client can have.")
    with database.reading(who.workspace_id) as session:
        food = tables.Food
        rows = session.scalars(select(food).where(food.superseded_by.is_(None), food.archived_at.is_(None))).all()
    foods = [named(row) for row in rows]

    def names(indices: Iterable[int]) -> list[str]:
        return sorted({rows[index].name for index in indices})

    found = []
    for word in words:
        told = meaning(word, foods)
        wider = [WiderView(word=other, foods=names(indices)) for other, indices in told.wider]
        found.append(WordView(word=word, foods=names(told.kept), wider=wider, spelling=told.spelling))
    return found


def scale_target(database: Database, who: SignedIn, target_id: uuid.UUID, factor: float) -> ScaledView:
    """Another client's target as a smaller or larger portion of it.

    Raises:
        Missing: there is no such target here.
        Invalid: the factor makes no sense.
    """
    with database.reading(who.workspace_id) as session:
        query = client_query().where(tables.Client.targets.any(tables.Target.id == target_id))
        client = session.scalar(query)
        if client is None:
            raise Missing("There is no such target any more. Reload the page for those there are.")
        target = next(one for one in client.targets if one.id == target_id)
        before = effective_figures(target, stored_days(client, workspace_rules(read_workspace(session))))
    with located(""):
        after = Target.of(before).times(factor)
    return ScaledView(
        name=f"{client.name}, {target.slot}" + ("" if target.day_type == ANY_DAY else f" on {target.day_type} days"),
        factor=factor,
        before=PlanTarget.of(before),
        after=PlanTarget.of(after),
    )


def save_client(database: Database, who: SignedIn, payload: ClientInput, client_id: uuid.UUID | None) -> ClientView:
    """Make a client, or change the one with `client_id`.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such client here.
        Stale: the client was changed since version `payload.version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        return keep(store_client(session, who, payload, client_id))


def store_client(session: Session, who: SignedIn, payload: ClientInput, client_id: uuid.UUID | None) -> ClientView:
    """The same in a transaction that is open."""
    name = _check(session, payload)
    rules = workspace_rules(read_workspace(session))
    if client_id is None:
        client = tables.Client(workspace_id=who.workspace_id, version=0, targets=[], days=[], at_hand=[])
        session.add(client)
    else:
        client = load_client(session, client_id, lock=True)
        if client.version != payload.version:
            raise Stale(
                f"{client.name} was changed in another window since you opened this page. What you typed is "
                "still here: open the newest in a second tab, compare, and save again."
            )
        target_history.keep_first(session, who, client, rules)
    client.name = name
    client.note = payload.note.strip()
    client.allergens = sorted(set(payload.allergens))
    client.dislikes = _words(payload.dislikes)
    client.exclusions = _words(payload.exclusions)
    client.likes = _words(payload.likes)
    client.email = payload.email
    client.bounds = _bounds(payload.bounds)
    client.goals, client.kitchen = payload.goals.strip(), payload.kitchen.strip()
    client.health = payload.health.strip()
    client.tolerance = payload.tolerance.core
    client.signed_off_by, client.signed_off_on = payload.signed_off_by.strip(), payload.signed_off_on
    client.version += 1
    known = {target.id: target for target in client.targets}
    client.targets = [_target(who, known, position, one) for position, one in enumerate(payload.targets)]
    client.days = day_rows(who.workspace_id, payload)
    client.at_hand = at_hand_rows(who.workspace_id, payload)
    session.flush()
    session.expire_all()
    client = load_client(session, client.id)
    target_history.keep(session, who, client, rules)
    return client_view(client, rules)


def _words(typed: Sequence[str]) -> list[str]:
    return [word.strip() for word in typed if word.strip()]


def save_bounds(database: Database, who: SignedIn, payload: BoundsInput, client_id: uuid.UUID) -> ClientView:
    """Change what a client has at most of something, and nothing else of them.

    Raises:
        Invalid: a bound has no word.
        Missing: there is no such client here.
        Stale: the client was changed since version `payload.version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        faults = Collector()
        _check_bounds(faults, payload.bounds)
        faults.check()
        client = load_client(session, client_id, lock=True)
        if client.version != payload.version:
            raise Stale(f"{client.name} was changed in another window since you opened this. Reload the page.")
        client.bounds = _bounds(payload.bounds)
        client.version += 1
        session.flush()
        return keep(client_view(client, workspace_rules(read_workspace(session))))


def _check_bounds(faults: Collector, bounds: Sequence[ClientBoundInput]) -> None:
    for index, bound in enumerate(bounds):
        faults.text(f"/bounds/{index}/word", bound.word, what="what there is at most of")


def _bounds(bounds: Sequence[ClientBoundInput]) -> list[dict[str, Any]]:
    return [{"word": one.word.strip(), "maximum_g": one.maximum_g} for one in bounds]


def archive_client(database: Database, who: SignedIn, client_id: uuid.UUID, now: datetime | None) -> None:
    """Take a client off the lists at `now`, or bring them back with None. Past batches keep them."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        load_client(session, client_id, lock=True).archived_at = now
        keep(None)


def client_view(client: tables.Client, rules: Rules) -> ClientView:
    """The view of a client row with its days and targets."""
    days = stored_days(client, rules)
    return ClientView(
        id=client.id,
        name=client.name,
        note=client.note,
        allergens=client.allergens,
        dislikes=client.dislikes,
        exclusions=client.exclusions,
        tolerance=ToleranceView(**asdict(client.tolerance)),
        days=[day_target_view(day, rules) for day in client.days],
        targets=[_target_view(target, days) for target in client.targets],
        at_hand=at_hand_views(client),
        signed_off_by=client.signed_off_by,
        signed_off_on=client.signed_off_on,
        bounds=[ClientBoundView(word=one.word, maximum_g=one.maximum_g) for one in client_bounds(client)],
        email=client.email,
        likes=client.likes,
        goals=client.goals,
        kitchen=client.kitchen,
        health=client.health,
        version=client.version,
    )


def client_query() -> Select[tables.Client]:
    """Clients with their targets, days, and what they have at hand."""
    return select(tables.Client).options(selectinload(tables.Client.targets), with_days(), with_at_hand())


def load_client(session: Session, client_id: uuid.UUID, *, lock: bool = False) -> tables.Client:
    """A client with their targets, days, and what they have at hand.

    Raises:
        Missing: there is no such client here.
    """
    query = client_query().where(tables.Client.id == client_id)
    client = session.scalar(query.with_for_update(of=tables.Client) if lock else query)
    if client is None:
        raise Missing("There is no such client. They may have been removed in another window.")
    return client


def _check(session: Session, payload: ClientInput) -> str:
    faults = Collector()
    check_days(session, faults, payload)
    check_at_hand(session, faults, payload)
    name = faults.text("/name", payload.name, what="the client's name")
    for unknown in sorted(set(payload.allergens) - set(ALLERGENS)):
        faults.add("/allergens", f"“{unknown}” is not one of the known allergens")
    if len(payload.signed_off_by) > 200:
        faults.add("/signed_off_by", "this is longer than a name and an office; 200 characters fit")
    with faults.located("/tolerance"):
        _ = payload.tolerance.core
    _check_bounds(faults, payload.bounds)
    seen: set[tuple[str, str]] = set()
    for index, target in enumerate(payload.targets):
        pointer = f"/targets/{index}"
        slot = faults.text(f"{pointer}/slot", target.slot, what="the meal this container is for")
        day_type = faults.text(f"{pointer}/day_type", target.day_type, what="the kind of day")
        if (slot.casefold(), day_type.casefold()) in seen:
            faults.add(f"{pointer}/slot", f"{slot} on {day_type} days has a target already; change that one")
        seen.add((slot.casefold(), day_type.casefold()))
        if target.day_share is None:
            with faults.located(pointer):
                Target.of(target.figures)
        with faults.located(pointer):
            check_room(capacity_ml=target.capacity_ml, capacity_g=target.capacity_g, plate_g=target.plate_g)
    faults.check()
    return name


def _target(who: SignedIn, known: dict[uuid.UUID, tables.Target], position: int, payload: TargetInput) -> tables.Target:
    target = known.get(payload.id) if payload.id else None
    if target is None:
        target = tables.Target(workspace_id=who.workspace_id)
    target.position = position
    target.slot = payload.slot.strip()
    target.day_type = payload.day_type.strip()
    target.day_share = payload.day_share
    target.figures = payload.figures
    target.capacity_ml, target.capacity_g, target.plate_g = payload.capacity_ml, payload.capacity_g, payload.plate_g
    return target


def _target_view(target: tables.Target, days: ClientDays) -> TargetView:
    return TargetView(
        id=target.id,
        slot=target.slot,
        day_type=target.day_type,
        day_share=target.day_share,
        **effective_figures(target, days).by_name,
        capacity_ml=target.capacity_ml,
        capacity_g=target.capacity_g,
        plate_g=target.plate_g,
        conflict=_conflict(target, days),
    )


def _conflict(target: tables.Target, days: ClientDays) -> str | None:
    """What is wrong with a stored target: it disagrees with itself, or its share of a day is none."""
    try:
        return conflict_words(effective_target(target, days))
    except CoreError as error:
        return f"{sentence(str(error))} Mend the day."
