"""Clients, their targets and what they must not eat."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import replace
from datetime import datetime

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, selectinload

from yantai.core.allergens import ALLERGENS
from yantai.core.days import ANY_DAY, slots_of_day
from yantai.core.energy import Rules
from yantai.core.errors import CoreError, require_range
from yantai.core.exclusions import meaning
from yantai.core.plan import PLATE_MOST_G
from yantai.core.portions.problem import CAPACITY_RANGE_G, CAPACITY_RANGE_ML
from yantai.core.speaking import energy
from yantai.core.targets import Target, Tolerance
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import target_history
from yantai.work.accounts import SignedIn
from yantai.work.days import (
    ClientDays,
    Eaten,
    as_targeted,
    check_days,
    day_rows,
    day_target_view,
    day_view,
    effective_figures,
    effective_target,
    share_note,
    stored_days,
    with_days,
)
from yantai.work.errors import Collector, Invalid, Missing, Stale, located, sentence
from yantai.work.figures import target_figures
from yantai.work.inputs import ClientInput, SetContainers, TargetInput
from yantai.work.kitchen import named, read_workspace, workspace_rules
from yantai.work.views import (
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

MOST_WORDS = 60
"""Words that a client may leave out, and as many disliked ones."""


def list_clients(database: Database, who: SignedIn) -> list[ClientView]:
    """All clients that are not archived, by name."""
    with database.workspace(who.workspace_id) as session:
        rules = workspace_rules(read_workspace(session))
        query = client_query().where(tables.Client.archived_at.is_(None)).order_by(tables.Client.name)
        return [client_view(client, rules) for client in session.scalars(query)]


def read_client(database: Database, who: SignedIn, client_id: uuid.UUID) -> ClientView:
    """One client.

    Raises:
        Missing: there is no such client here.
    """
    with database.workspace(who.workspace_id) as session:
        return client_view(_load(session, client_id), workspace_rules(read_workspace(session)))


def read_history(database: Database, who: SignedIn, client_id: uuid.UUID) -> list[TargetsThen]:
    """What was changed about a client's days and targets, the newest first.

    Raises:
        Missing: there is no such client here.
    """
    with database.workspace(who.workspace_id) as session:
        return target_history.changes(session, _load(session, client_id))


def preview_days(database: Database, who: SignedIn, given: ClientInput) -> DaysPreview:
    """How the days of a client stand as typed, and what the targets come to that are a share of one.

    Raises:
        Invalid: a day makes no sense.
    """
    with located("/tolerance"):
        tolerance = Tolerance(**vars(given.tolerance))
    with database.workspace(who.workspace_id) as session:
        faults = Collector()
        days = check_days(session, faults, given)
        faults.check()
    slots = [(target.slot.strip(), target.day_type.strip()) for target in given.targets]
    views = []
    for day in days.values():
        eaten = [_as_targeted(given.targets[place], days) for place in slots_of_day(slots, day.day_type)]
        view = day_view(day, eaten, tolerance, client_id=None, client=given.name)
        note = share_note(given.targets, day.day_type)
        views.append(replace(view, notes=[*view.notes, *([note] if note else [])]))
    return DaysPreview(days=views, targets=[PlanTarget(**effective_figures(target, days)) for target in given.targets])


def _as_targeted(target: TargetInput, days: ClientDays) -> Eaten:
    return as_targeted(target.slot, effective_figures(target, days))


def read_words(database: Database, who: SignedIn, words: Sequence[str]) -> list[WordView]:
    """What each word keeps out of the foods of this kitchen, and what it may mean besides.

    Raises:
        Invalid: there are far too many words.
    """
    if len(words) > MOST_WORDS:
        raise Invalid.at("/words", f"{len(words)} words are more than the {MOST_WORDS} a client can have.")
    with database.workspace(who.workspace_id) as session:
        food = tables.Food
        rows = session.scalars(select(food).where(food.superseded_by.is_(None), food.archived_at.is_(None))).all()
    foods = [named(row) for row in rows]

    def names(places: Iterable[int]) -> list[str]:
        return sorted({rows[place].name for place in places})

    found = []
    for word in words:
        told = meaning(word, foods)
        wider = [WiderView(word=other, foods=names(places)) for other, places in told.wider]
        found.append(WordView(word=word, foods=names(told.kept), wider=wider, spelling=told.spelling))
    return found


def scale_target(database: Database, who: SignedIn, target_id: uuid.UUID, factor: float) -> ScaledView:
    """Another client's target as a smaller or larger portion of it.

    Raises:
        Missing: there is no such target here.
        Invalid: the factor makes no sense.
    """
    with database.workspace(who.workspace_id) as session:
        query = client_query().where(tables.Client.targets.any(tables.Target.id == target_id))
        client = session.scalar(query)
        if client is None:
            raise Missing("There is no such target any more. Reload the page for those there are.")
        target = next(one for one in client.targets if one.id == target_id)
        before = effective_figures(target, stored_days(client, workspace_rules(read_workspace(session))))
    with located(""):
        after = Target(**before).times(factor)
    return ScaledView(
        name=f"{client.name}, {target.slot}" + ("" if target.day_type == ANY_DAY else f" on {target.day_type} days"),
        factor=factor,
        before=PlanTarget(**before),
        after=PlanTarget(**{name: getattr(after, name) for name in before}),
    )


def save_client(database: Database, who: SignedIn, given: ClientInput, client_id: uuid.UUID | None) -> ClientView:
    """Make a client, or change the one with `client_id`.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such client here.
        Stale: the client was changed since version `given.version`.
    """
    with database.workspace(who.workspace_id) as session:
        name = _check(session, given)
        rules = workspace_rules(read_workspace(session))
        if client_id is None:
            client = tables.Client(workspace_id=who.workspace_id, version=0, targets=[], days=[])
            session.add(client)
        else:
            client = _load(session, client_id, lock=True)
            if client.version != given.version:
                raise Stale(
                    f"{client.name} was changed in another window since you opened this page. What you typed is "
                    "still here: open the newest in a second tab, compare, and save again."
                )
            target_history.keep_first(session, who, client, rules)
        client.name = name
        client.note = given.note.strip()
        client.allergens = sorted(set(given.allergens))
        client.dislikes = [word.strip() for word in given.dislikes if word.strip()]
        client.exclusions = [word.strip() for word in given.exclusions if word.strip()]
        client.tolerance_percent = given.tolerance.percent
        client.tolerance_kcal = given.tolerance.kcal
        client.tolerance_protein_g = given.tolerance.protein_g
        client.tolerance_carbohydrate_g = given.tolerance.carbohydrate_g
        client.tolerance_fat_g = given.tolerance.fat_g
        client.priority_kcal = given.tolerance.priority_kcal
        client.priority_protein_g = given.tolerance.priority_protein_g
        client.priority_carbohydrate_g = given.tolerance.priority_carbohydrate_g
        client.priority_fat_g = given.tolerance.priority_fat_g
        client.signed_off_by, client.signed_off_on = given.signed_off_by.strip(), given.signed_off_on
        client.version += 1
        known = {target.id: target for target in client.targets}
        client.targets = [_target(who, known, position, one) for position, one in enumerate(given.targets)]
        client.days = day_rows(who.workspace_id, given)
        session.flush()
        session.expire_all()
        client = _load(session, client.id)
        target_history.keep(session, who, client, rules)
        return client_view(client, rules)


def archive_client(database: Database, who: SignedIn, client_id: uuid.UUID, now: datetime | None) -> ClientView:
    """Take a client off the lists at `now`, or bring them back with None. Past batches keep them."""
    with database.workspace(who.workspace_id) as session:
        client = _load(session, client_id, lock=True)
        client.archived_at = now
        return client_view(client, workspace_rules(read_workspace(session)))


def client_tolerance(client: tables.Client) -> Tolerance:
    """The client's tolerance as the core takes it."""
    return Tolerance(
        percent=client.tolerance_percent,
        kcal=client.tolerance_kcal,
        protein_g=client.tolerance_protein_g,
        carbohydrate_g=client.tolerance_carbohydrate_g,
        fat_g=client.tolerance_fat_g,
        priority_kcal=client.priority_kcal,
        priority_protein_g=client.priority_protein_g,
        priority_carbohydrate_g=client.priority_carbohydrate_g,
        priority_fat_g=client.priority_fat_g,
    )


def conflict_sentence(target: Target) -> str | None:
    """What to say when stated kcal and macros disagree."""
    apart, implied = target.kcal_conflict, target.macro_kcal
    if apart is None or implied is None or target.kcal is None:
        return None
    more = "more" if apart > 0 else "less"
    return (
        f"{energy(target.kcal)} are {energy(abs(apart))} {more} than these macros give "
        f"({energy(implied)} at 4/4/9), so no container meets all four. Change one, or leave kcal empty."
    )


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
        tolerance=ToleranceView(
            percent=client.tolerance_percent,
            kcal=client.tolerance_kcal,
            protein_g=client.tolerance_protein_g,
            carbohydrate_g=client.tolerance_carbohydrate_g,
            fat_g=client.tolerance_fat_g,
            priority_kcal=client.priority_kcal,
            priority_protein_g=client.priority_protein_g,
            priority_carbohydrate_g=client.priority_carbohydrate_g,
            priority_fat_g=client.priority_fat_g,
        ),
        days=[day_target_view(day, rules) for day in client.days],
        targets=[_target_view(target, days) for target in client.targets],
        signed_off_by=client.signed_off_by,
        signed_off_on=client.signed_off_on,
        version=client.version,
    )


def client_query() -> Select[tables.Client]:
    """Clients with their targets and days."""
    return select(tables.Client).options(selectinload(tables.Client.targets), with_days())


def _load(session: Session, client_id: uuid.UUID, *, lock: bool = False) -> tables.Client:
    query = client_query().where(tables.Client.id == client_id)
    client = session.scalar(query.with_for_update(of=tables.Client) if lock else query)
    if client is None:
        raise Missing("There is no such client. They may have been removed in another window.")
    return client


def _check(session: Session, given: ClientInput) -> str:
    faults = Collector()
    check_days(session, faults, given)
    name = faults.text("/name", given.name, what="the client's name")
    for unknown in sorted(set(given.allergens) - set(ALLERGENS)):
        faults.add("/allergens", f"“{unknown}” is not one of the known allergens")
    if len(given.signed_off_by) > 200:
        faults.add("/signed_off_by", "this is longer than a name and an office; 200 characters fit")
    with faults.located("/tolerance"):
        Tolerance(**vars(given.tolerance))
    seen: set[tuple[str, str]] = set()
    for place, target in enumerate(given.targets):
        pointer = f"/targets/{place}"
        slot = faults.text(f"{pointer}/slot", target.slot, what="the meal this container is for")
        day_type = faults.text(f"{pointer}/day_type", target.day_type, what="the kind of day")
        if (slot.casefold(), day_type.casefold()) in seen:
            faults.add(f"{pointer}/slot", f"{slot} on {day_type} days has a target already; change that one")
        seen.add((slot.casefold(), day_type.casefold()))
        if target.day_share is None:
            with faults.located(pointer):
                Target(**target_figures(target))
        with faults.located(pointer):
            check_room(target)
    faults.check()
    return name


def check_room(given: TargetInput | SetContainers) -> None:
    """Refuse a container that is too small or too large to be one, and a plate that is.

    Raises:
        OutOfRange: names the field.
    """
    if given.capacity_ml is not None:
        require_range("capacity_ml", given.capacity_ml, low=CAPACITY_RANGE_ML[0], high=CAPACITY_RANGE_ML[1], unit="ml")
    if given.capacity_g is not None:
        require_range("capacity_g", given.capacity_g, low=CAPACITY_RANGE_G[0], high=CAPACITY_RANGE_G[1], unit="g")
    if given.plate_g is not None:
        require_range("plate_g", given.plate_g, low=1, high=PLATE_MOST_G, unit="g")


def _target(who: SignedIn, known: dict[uuid.UUID, tables.Target], position: int, given: TargetInput) -> tables.Target:
    target = known.get(given.id) if given.id else None
    if target is None:
        target = tables.Target(workspace_id=who.workspace_id)
    target.position = position
    target.slot = given.slot.strip()
    target.day_type = given.day_type.strip()
    target.day_share = given.day_share
    for name, value in target_figures(given).items():
        setattr(target, name, value)
    target.capacity_ml, target.capacity_g, target.plate_g = given.capacity_ml, given.capacity_g, given.plate_g
    return target


def _target_view(target: tables.Target, days: ClientDays) -> TargetView:
    return TargetView(
        id=target.id,
        slot=target.slot,
        day_type=target.day_type,
        day_share=target.day_share,
        **effective_figures(target, days),
        capacity_ml=target.capacity_ml,
        capacity_g=target.capacity_g,
        plate_g=target.plate_g,
        conflict=_conflict(target, days),
    )


def _conflict(target: tables.Target, days: ClientDays) -> str | None:
    """What is wrong with a stored target: it disagrees with itself, or its share of a day is none."""
    try:
        return conflict_sentence(effective_target(target, days))
    except CoreError as error:
        return f"{sentence(str(error))} Mend the day."
