"""What became of containers, as clients told it."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from yantai.core.foods.nutrients import NOTHING, Amounts, total
from yantai.core.planning.portioning import Place
from yantai.core.speaking import weight
from yantai.core.storage.eating import EatingEvent
from yantai.core.storage.leftovers import SCALE_G, HeldPart, left_by_part
from yantai.store import tables
from yantai.work.batches.log import when_it_happened
from yantai.work.common.errors import Invalid, located
from yantai.work.fill.views import FillContainerView
from yantai.work.handover.inputs import EatenInput
from yantai.work.handover.laid import Spot

_SHARES = {0.25: "a quarter", 0.5: "half", 0.75: "three quarters", 1.0: "all of it"}


def read_eaten(session: Session, batch_id: uuid.UUID) -> dict[Spot, tables.EatingFact]:
    """What counts of each container: the newest that was told, unless it was taken back."""
    fact = tables.EatingFact
    rows = session.scalars(select(fact).where(fact.batch_id == batch_id).order_by(fact.number))
    newest = {(row.container_class_id, row.container): row for row in rows}
    return {spot: row for spot, row in newest.items() if row.event is not EatingEvent.TAKEN_BACK}


def held_parts(one: FillContainerView, per_100g: Mapping[uuid.UUID, Amounts] | None = None) -> list[HeldPart]:
    """The parts of a container as the core knows them: what each holds by what 100 g of its component hold, a mixture
    what the others leave of the whole."""
    known = per_100g or {}
    mixed = [part for part in one.parts if len(part.component_ids) > 1]
    single = [part for part in one.parts if len(part.component_ids) == 1]
    amounts = {
        part.component_id: known[part.component_id].in_grams(part.grams) if part.component_id in known else NOTHING
        for part in single
    }
    if mixed and known:
        rest = one.amounts.amounts.less(dict(total(amounts.values())))
        weight_g = sum(part.grams for part in mixed)
        amounts |= {part.component_id: rest.times(part.grams / weight_g if weight_g else 0) for part in mixed}
    return [
        HeldPart(
            key=str(part.component_id),
            grams=part.grams,
            amounts=amounts.get(part.component_id, NOTHING),
            is_beside=part.place is not Place.IN_CONTAINER,
        )
        for part in one.parts
    ]


def add_eaten(
    session: Session,
    row: tables.ContainerClass,
    payload: EatenInput,
    parts: Sequence[HeldPart],
    *,
    by_client: bool,
    made_by: str,
    now: datetime,
) -> None:
    """Note what became of a container with these parts. It is a fact: told again, the newest counts.

    Raises:
        Invalid: it is left without saying how much, or more is left than there was.
    """
    left_g, left_share, left_parts = payload.left_g, payload.left_share, payload.left_parts
    if payload.event is EatingEvent.LEFT:
        if sum((left_g is not None, left_share is not None, bool(left_parts))) != 1:
            raise Invalid.at("/left_share", "Say how much was left: a share of it, grams, or grams of each part.")
        held = sum(part.grams for part in parts if not part.is_beside)
        if left_g is not None and left_g > held + SCALE_G:
            raise Invalid.at("/left_g", f"There were {weight(held)} in it; no more than that can be left.")
        with located(""):
            left_by_part(parts, left_g=left_g or 0.0, by_part={str(key): grams for key, grams in left_parts.items()})
        if left_share is not None:
            left_g = held * left_share
        elif left_parts:
            left_g = sum(left_parts.values())
    else:
        left_g, left_share, left_parts = None, None, {}
    session.add(
        tables.EatingFact(
            workspace_id=row.workspace_id,
            batch_id=row.batch_id,
            container_class_id=row.id,
            container=payload.container,
            event=payload.event,
            left_g=left_g,
            left_share=left_share,
            left_parts={str(key): grams for key, grams in left_parts.items()},
            by_client=by_client,
            made_by=made_by,
            happened_at=when_it_happened(payload, now) or now,
            made_at=now,
        )
    )


def left_words(fact: tables.EatingFact | None) -> str:
    """How much was left: "half", "80 g"; nothing where nobody said so."""
    if fact is None or fact.event is not EatingEvent.LEFT:
        return ""
    if fact.left_share is not None:
        return _SHARES.get(fact.left_share, f"{fact.left_share * 100:.0f} %")
    return weight(fact.left_g or 0.0)


def unread_words(session: Session) -> dict[uuid.UUID, int]:
    """How many words of each client the coach has not read."""
    word = tables.ClientWord
    query = select(word.client_id, func.count()).where(word.read_at.is_(None)).group_by(word.client_id)
    return {client_id: count for client_id, count in session.execute(query)}  # noqa: C416 -- typed so
