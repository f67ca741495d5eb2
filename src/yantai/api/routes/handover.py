"""Handing over: how long containers keep, where they wait, and on which day they are eaten."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.work.handover import calendar, shown
from yantai.work.handover.inputs import CalendarInput, PlacementsInput, ShelfChoiceInput, WeekInput
from yantai.work.handover.views import HandOverView, ShelfTableView

router = APIRouter(tags=["hand over"])


@router.get("/shelf-life")
def read_shelf_life(_who: SignedInDep) -> ShelfTableView:
    """The rows of the shelf-life table."""
    return shown.read_shelf_table()


@router.get("/batches/{batch_id}/hand-over")
def read_hand_over(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> HandOverView:
    """A batch as it is handed over: how long everything keeps, and every client's days."""
    return shown.read_hand_over(database, who, batch_id)


@router.post("/batches/{batch_id}/hand-over/calendar", status_code=204)
def make_calendar(
    batch_id: uuid.UUID, payload: CalendarInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> None:
    """Give every container its day."""
    calendar.make_calendar(database, who, batch_id, payload, now)


@router.post("/batches/{batch_id}/hand-over/placements", status_code=204)
def place_containers(
    batch_id: uuid.UUID, payload: PlacementsInput, database: DatabaseDep, who: SenderDep, now: NowDep
) -> None:
    """Put containers on other days, or take them off."""
    calendar.place(database, who, batch_id, payload, now)


@router.put("/batches/{batch_id}/hand-over/weeks/{client_id}", status_code=204)
def set_week(
    batch_id: uuid.UUID, client_id: uuid.UUID, payload: WeekInput, database: DatabaseDep, who: SenderDep
) -> None:
    """Say when a client eats, and how much their fridge holds."""
    calendar.set_week(database, who, batch_id, client_id, payload)


@router.put("/batches/{batch_id}/hand-over/shelf/{component_id}", status_code=204)
def choose_shelf(
    batch_id: uuid.UUID,
    component_id: uuid.UUID,
    payload: ShelfChoiceInput,
    database: DatabaseDep,
    who: SenderDep,
    now: NowDep,
) -> None:
    """Say by which row of the shelf-life table a component goes."""
    calendar.choose_shelf(database, who, batch_id, component_id, payload, now)
