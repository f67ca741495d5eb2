"""The weeks of a client: what was planned, filled and eaten of each day, and what was left."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from yantai.core.foods.energy import Rules
from yantai.core.foods.nutrients import NOTHING, Amounts, Nutrient, total
from yantai.core.planning.client_bounds import most_of
from yantai.core.storage.eating import EatingEvent
from yantai.core.storage.leftovers import HeldPart, PartLeft, eaten_amounts, habits, left_by_part
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.loading import kept_rules
from yantai.work.clients.clients import load_client
from yantai.work.clients.kept_out import client_bounds
from yantai.work.clients.views import PlanTarget
from yantai.work.common.errors import Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import local_day, read_workspace, workspace_rules
from yantai.work.containers.kinds import Stock
from yantai.work.fill.shown import read_filling
from yantai.work.fill.views import FillContainerView
from yantai.work.handover.days import EatingDay, eating_days
from yantai.work.handover.eaten import add_eaten, held_parts, left_words, read_eaten
from yantai.work.handover.inputs import EatenInput
from yantai.work.handover.laid import Laid, Spot, eaten_batches, lay_out
from yantai.work.returns.views import (
    BoxesView,
    DayTold,
    EatenContainerView,
    EatenDayView,
    EatenPartView,
    EatenWeeksView,
    HabitView,
    MacrosView,
)

DAYS_AHEAD = timedelta(days=1)
"""What is eaten today counts as a day of these weeks, and tomorrow does not."""


@dataclass(frozen=True, kw_only=True)
class _Served:
    """A container of the client on its day, with what became of it."""

    batch_id: uuid.UUID
    spot: Spot
    on: date
    shown: FillContainerView
    fact: tables.EatingFact | None
    planned: Amounts
    eaten: Amounts | None
    target: PlanTarget
    left: Mapping[str, float]


@dataclass(frozen=True, kw_only=True)
class _OfBatch:
    """What a batch has of the client."""

    days: Sequence[EatingDay]
    served: Sequence[_Served]


def read_weeks(database: Database, who: SignedIn, client_id: uuid.UUID, weeks: int, now: datetime) -> EatenWeeksView:
    """What a client was given, ate and left in the last weeks.

    Raises:
        Missing: there is no such client here.
    """
    with database.reading(who.workspace_id) as session:
        client = load_client(session, client_id)
        today = local_day(session, now)
        name, bounds = client.name, client_bounds(client)
    since = today - timedelta(weeks=weeks)
    eaten_in = eaten_batches(database, who, client_id, since, today + DAYS_AHEAD)
    read = [_read(database, who, batch_id, client_id) for batch_id in eaten_in]
    served = [one for batch in read for one in batch.served if since <= one.on < today + DAYS_AHEAD]
    served.sort(key=lambda one: (one.on, one.shown.slot, one.spot[1]), reverse=True)
    with stored.reading(database, who, lambda _: []) as session:
        boxes, deposit = _boxes(session, client_id)
    return EatenWeeksView(
        client_id=client_id,
        client=name,
        since=since,
        today=today,
        days=list(_days(read, served, since, today)),
        containers=[_container_view(one) for one in served],
        habits=[
            HabitView(
                words=f"leaves the {found.name.lower()} in {found.times} of {found.of} boxes",
                word=found.name,
                times=found.times,
                of=found.of,
                maximum_g=_round_down(found.eaten_g),
                bound_g=most_of(found.name, bounds),
            )
            for found in habits(_told_by_part(served))
        ],
        boxes=boxes,
        deposit=deposit,
    )


def note_eaten(database: Database, who: SignedIn, client_id: uuid.UUID, payload: EatenInput, now: datetime) -> None:
    """Note what became of a container, as a coach sees it when it comes back.

    Raises:
        Missing: it is no container of this client.
        Invalid: it is left without saying how much, or more is left than there was.
    """
    with database.reading(who.workspace_id) as session:
        batch_id = _row(session, client_id, payload).batch_id
    filling = read_filling(database, who, batch_id)
    spot = (payload.row_id, payload.container)
    shown = next((one for one in filling.containers if (one.row_id, one.number) == spot), None)
    if shown is None:
        raise Missing(_NO_CONTAINER)
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        row = _row(session, client_id, payload)
        add_eaten(session, row, payload, held_parts(shown), by_client=False, made_by=who.name, now=now)
        keep(None)


_NO_CONTAINER = "This container is not among theirs any more. Reload the page."


def _row(session: Session, client_id: uuid.UUID, payload: EatenInput) -> tables.ContainerClass:
    row = session.get(tables.ContainerClass, payload.row_id)
    if row is None or row.removed or row.client_id != client_id or payload.container > row.count:
        raise Missing(_NO_CONTAINER)
    return row


def _read(database: Database, who: SignedIn, batch_id: uuid.UUID, client_id: uuid.UUID) -> _OfBatch:
    filling = read_filling(database, who, batch_id)
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
        rules = kept_rules(session.get_one(tables.Batch, batch_id)) or workspace_rules(read_workspace(session))
        facts = read_eaten(session, batch_id)
    own = [one for one in filling.containers if one.client_id == client_id]
    return _of_batch(laid, client_id, own, rules, facts)


def _of_batch(
    laid: Laid,
    client_id: uuid.UUID,
    own: Sequence[FillContainerView],
    rules: Rules,
    facts: Mapping[Spot, tables.EatingFact],
) -> _OfBatch:
    per_100g = {one.id: one.per_100g.amounts for one in laid.plan.components}
    days = eating_days(laid, laid.clients[client_id], own, rules)
    served = []
    for day in days:
        for one in day.served:
            fact = facts.get(one.spot)
            parts = held_parts(one.shown, per_100g)
            left: Mapping[str, float] = {}
            if fact is not None and fact.event is EatingEvent.LEFT:
                left = _left(parts, fact)
            served.append(
                _Served(
                    batch_id=laid.plan.batch.id,
                    spot=one.spot,
                    on=day.on,
                    shown=one.shown,
                    fact=fact,
                    planned=_planned(one.shown, parts, per_100g),
                    eaten=None if fact is None else (eaten_amounts(parts, left) if left else one.amounts),
                    target=laid.rows[one.spot[0]].target,
                    left=left,
                )
            )
    return _OfBatch(days=days, served=served)


def _left(parts: Sequence[HeldPart], fact: tables.EatingFact) -> dict[str, float]:
    """What was left of each part [g]; no more than there is, should the plan have changed since it was told."""
    by_part = {part.key: min(fact.left_parts.get(part.key, 0.0), part.grams) for part in parts if fact.left_parts}
    there = sum(part.grams for part in parts if not part.is_beside)
    return left_by_part(parts, left_g=min(fact.left_g or 0.0, there), by_part=by_part)


def _planned(one: FillContainerView, parts: Sequence[HeldPart], per_100g: Mapping[uuid.UUID, Amounts]) -> Amounts:
    """What a container was planned to hold: each part as it is, in the grams that were planned."""
    return total(
        held.amounts.times(part.planned_g / held.grams)
        if held.grams
        else per_100g.get(part.component_id, NOTHING).in_grams(part.planned_g)
        for part, held in zip(one.parts, parts, strict=True)
    )


def _days(read: Sequence[_OfBatch], served: Sequence[_Served], since: date, today: date) -> Iterator[EatenDayView]:
    by_day: dict[date, list[_Served]] = defaultdict(list)
    for one in served:
        by_day[one.on].append(one)
    days: dict[date, list[EatingDay]] = defaultdict(list)
    for batch in read:
        for day in batch.days:
            if since <= day.on <= today and day.served:
                days[day.on].append(day)
    for on in sorted(days):
        first, several, own = days[on][0], len(days[on]) > 1, by_day[on]
        told = sum(one.fact is not None for one in own)
        beside = total(one.amounts for one in first.beside if not (several and one.is_meal))
        eaten = [one.eaten for one in own if one.eaten is not None]
        yield EatenDayView(
            on=on,
            day_type=first.day_type,
            containers=len(own),
            told=DayTold.ALL if told == len(own) else DayTold.SOME if told else DayTold.NONE,
            planned=_macros(total(one.planned for one in own)),
            filled=_macros(total(one.shown.amounts.amounts for one in own)),
            eaten=_macros(total(eaten)) if told == len(own) else None,
            target=_target(first, own),
            beside=_macros(beside),
        )


def _macros(amounts: Amounts) -> MacrosView:
    return MacrosView(
        kcal=amounts[Nutrient.KCAL],
        protein_g=amounts[Nutrient.PROTEIN],
        carbohydrate_g=amounts[Nutrient.CARBOHYDRATE],
        fat_g=amounts[Nutrient.FAT],
    )


def _target(day: EatingDay, own: Sequence[_Served]) -> MacrosView | None:
    """What the day aims at; where the client has no day of this kind, what its containers do together."""
    found = {one.nutrient: one.target for one in day.standings}
    if found:
        return MacrosView(
            kcal=found.get(Nutrient.KCAL),
            protein_g=found.get(Nutrient.PROTEIN),
            carbohydrate_g=found.get(Nutrient.CARBOHYDRATE),
            fat_g=found.get(Nutrient.FAT),
        )
    sums = {name: _sum([getattr(one.target, name) for one in own]) for name in _FIGURES}
    return MacrosView(**sums) if any(value is not None for value in sums.values()) else None


_FIGURES = ("kcal", "protein_g", "carbohydrate_g", "fat_g")


def _sum(figures: Sequence[float | None]) -> float | None:
    """The sum, where each aims at something."""
    known = [figure for figure in figures if figure is not None]
    return sum(known) if len(known) == len(figures) else None


def _container_view(one: _Served) -> EatenContainerView:
    told_by_part = one.fact is not None and bool(one.fact.left_parts)
    return EatenContainerView(
        batch_id=one.batch_id,
        row_id=one.spot[0],
        container=one.spot[1],
        of=one.shown.of,
        on=one.on,
        dish=one.shown.dish,
        meal=one.shown.slot,
        grams=sum(part.grams for part in one.shown.parts),
        told=None if one.fact is None else one.fact.event,
        left=left_words(one.fact),
        by_client=one.fact is not None and one.fact.by_client,
        parts=[
            EatenPartView(
                component_id=part.component_id,
                name=part.name,
                grams=part.grams,
                left_g=one.left.get(str(part.component_id), 0.0) if told_by_part else None,
            )
            for part in one.shown.parts
            if part.grams > 0
        ],
    )


def _told_by_part(served: Sequence[_Served]) -> Iterator[PartLeft]:
    """Containers that say something of their parts: all was eaten, or what was left was told by part."""
    for one in served:
        if one.fact is None or (one.fact.event is EatingEvent.LEFT and not one.fact.left_parts):
            continue
        for part in one.shown.parts:
            yield PartLeft(name=part.name, held_g=part.grams, left_g=one.left.get(str(part.component_id), 0.0))


def _round_down(grams: float) -> float:
    """To 5 g, as one would say it."""
    return max(grams // 5 * 5, 0.0)


def _boxes(session: Session, client_id: uuid.UUID) -> tuple[list[BoxesView], str]:
    stock, currency = Stock.read(session), read_workspace(session).currency or ""
    boxes, sum_ = [], 0.0
    for kind in stock.kinds:
        count = stock.out.get(kind.id, {}).get(client_id, 0)
        if not count:
            continue
        held = round(count * (kind.deposit or 0.0), 2)
        sum_ += held
        boxes.append(BoxesView(kind_id=kind.id, name=kind.name, count=count, deposit=_money(held, currency)))
    return boxes, _money(sum_, currency)


def _money(amount: float, currency: str) -> str:
    return f"{amount:,.2f} {currency}".strip() if amount else ""
