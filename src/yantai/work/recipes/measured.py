"""Yields that were measured in this kitchen."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import groupby

from sqlalchemy import or_, select
from sqlalchemy.orm import Session

from yantai.core.cooking.weighing import Reading, undecided
from yantai.store import tables


@dataclass(frozen=True, kw_only=True)
class MeasuredYield:
    """A yield off the scale that counts in the history."""

    yield_factor: float
    food_id: uuid.UUID | None
    method: str
    recipe_component_id: uuid.UUID | None


def read_measured(
    session: Session,
    food_ids: Collection[uuid.UUID],
    component_ids: Collection[uuid.UUID],
    *,
    except_batch: uuid.UUID | None = None,
) -> list[MeasuredYield]:
    """The counting weighing of each component of these foods or recipe components; withdrawn ones are left out.

    What a batch expects comes from other batches: its own weighings (`except_batch`) do not confirm themselves.
    """
    weighing = tables.Weighing
    of_these = or_(weighing.food_id.in_(food_ids), weighing.recipe_component_id.in_(component_ids))
    pans = select(weighing.component_id).where(of_these)
    if except_batch is not None:
        pans = pans.where(weighing.batch_id != except_batch)
    rows = session.scalars(
        select(weighing).where(weighing.component_id.in_(pans)).order_by(weighing.component_id, weighing.number)
    )
    return [
        MeasuredYield(
            yield_factor=row.yield_factor,
            food_id=row.food_id,
            method=row.method,
            recipe_component_id=row.recipe_component_id,
        )
        for row in counting(rows)
        if row.yield_factor is not None
    ]


def counting(rows: Iterable[tables.Weighing]) -> Iterator[tables.Weighing]:
    """The weighing of each pot that counts; `rows` come by component, in the order in which they were recorded."""
    for _, recorded in groupby(rows, key=lambda row: row.component_id):
        *_, counts = [None, *open_weighings(list(recorded))]
        if counts is not None:
            yield counts


def open_weighings(recorded: Sequence[tables.Weighing]) -> list[tables.Weighing]:
    """The weighings of one pot that nobody chose between, the one that counts last."""
    readings = [
        Reading(cooked_g=row.cooked_g, corrects=row.corrects, at=row.weighed_at.timestamp()) for row in recorded
    ]
    return [recorded[index] for index in undecided(readings)]
