"""Filling at the scale."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query

from yantai.api.access import CookDep, CookSenderDep, DatabaseDep, NowDep
from yantai.work.fill import differences, facts, log, shown
from yantai.work.fill.inputs import FillFactInput, TriedInput
from yantai.work.fill.views import DifferencesView, FillContainerView, FillLogEntryView, FillView

router = APIRouter(prefix="/batches/{batch_id}/filling", tags=["fill"])


@router.get("")
def read_filling(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep) -> FillView:
    """A batch at the scale: what is in every container, what still goes in, and what the pots have left."""
    return shown.read_filling(database, who, batch_id)


@router.post("/facts", status_code=204)
def note_fill_fact(
    batch_id: uuid.UUID, payload: FillFactInput, database: DatabaseDep, who: CookSenderDep, now: NowDep
) -> None:
    """Note something that happened at the scale."""
    facts.note_fact(database, who, batch_id, payload, now)


@router.get("/differences")
def read_differences(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep) -> DifferencesView:
    """How near the filling came to what was asked, by client, part and person, and how long it took."""
    return differences.read_differences(database, who, batch_id)


@router.get("/log")
def read_fill_log(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep) -> list[FillLogEntryView]:
    """What was noted at the scale, the newest first."""
    return log.read_fill_log(database, who, batch_id)


@router.get("/tried")
def try_reading(
    batch_id: uuid.UUID, payload: Annotated[TriedInput, Query()], database: DatabaseDep, who: CookDep
) -> FillContainerView:
    """A container as it would stand if a reading were accepted; nothing is noted."""
    return shown.try_reading(database, who, batch_id, payload)
