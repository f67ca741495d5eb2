"""Handing over: how long containers keep, where they wait, and on which day they are eaten."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SettingsDep, SignedInDep
from yantai.formats.sheet_document import Paper
from yantai.work.accounts.addresses import reach
from yantai.work.common.errors import Collector
from yantai.work.handover import calendar, labels, printing, sheets, shown
from yantai.work.handover.inputs import (
    CalendarInput,
    GridInput,
    LabelsInput,
    PlacementsInput,
    PrinterInput,
    ShelfChoiceInput,
    WeekInput,
)
from yantai.work.handover.views import (
    ContainerPageView,
    GridView,
    HandOverView,
    LabelsView,
    PrinterView,
    PrintJobView,
    ShelfTableView,
)

router = APIRouter(tags=["hand over"])


def _reachable(request: Request, settings: SettingsDep, wanted: LabelsInput) -> LabelsInput:
    """The labels that are asked for; codes lead to where the question came in, unless it says where to, and to the
    network where that is this computer alone."""
    address = wanted.address or str(request.base_url).rstrip("/")
    found = reach(address, settings.lan_address, Collector())
    return wanted.model_copy(update={"address": found.address})


def _wanted(request: Request, settings: SettingsDep, wanted: Annotated[LabelsInput, Query()]) -> LabelsInput:
    return _reachable(request, settings, wanted)


LabelsDep = Annotated[LabelsInput, Depends(_wanted)]


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


@router.get("/label-grids")
def list_label_grids(_who: SignedInDep) -> list[GridView]:
    """The sheets and rolls of labels that are known."""
    return labels.list_grids()


@router.get("/label-grids/test.pdf")
def print_label_test(_who: SignedInDep, wanted: Annotated[GridInput, Query()]) -> Response:
    """A page with the edges of every label of a sheet or a roll, and rulers."""
    return _pdf(labels.label_test_page(wanted), "label-test.pdf")


@router.get("/batches/{batch_id}/labels")
def read_labels(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, wanted: LabelsDep) -> LabelsView:
    """The labels of a batch, and how they come out on a sheet or a roll."""
    return labels.read_labels(database, who, batch_id, wanted)


@router.get("/batches/{batch_id}/labels.pdf")
def print_labels(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, wanted: LabelsDep) -> Response:
    """The labels of a batch, to be printed."""
    return _pdf(labels.set_batch_labels(database, who, batch_id, wanted)[2], "labels.pdf")


@router.get("/batches/{batch_id}/labels.png")
def show_labels(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, wanted: LabelsDep) -> Response:
    """The first page of the labels of a batch, as a picture."""
    return Response(labels.labels_picture(database, who, batch_id, wanted), media_type="image/png")


@router.post("/batches/{batch_id}/labels/printed", status_code=201)
def send_labels(
    batch_id: uuid.UUID,
    payload: LabelsInput,
    request: Request,
    database: DatabaseDep,
    who: SenderDep,
    settings: SettingsDep,
    now: NowDep,
) -> PrintJobView:
    """Send the labels of a batch to the label printer."""
    return printing.print_labels(database, who, batch_id, _reachable(request, settings, payload), now)


@router.get("/label-printer")
def read_label_printer(database: DatabaseDep, who: SignedInDep) -> PrinterView:
    """The label printer, and what was sent to it."""
    return printing.read_printer(database, who)


@router.put("/label-printer")
def switch_label_printer(payload: PrinterInput, database: DatabaseDep, who: SenderDep, now: NowDep) -> PrinterView:
    """Switch the label printer on or off."""
    return printing.switch_printer(database, who, payload, now)


@router.get("/label-printer/jobs/{job_id}.pdf")
def read_print_job(job_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> Response:
    """Labels that were sent, as they were."""
    return _pdf(printing.read_job(database, who, job_id), "labels.pdf")


@router.get("/batches/{batch_id}/sheets/weeks.pdf")
def print_weeks(
    batch_id: uuid.UUID,
    database: DatabaseDep,
    who: SignedInDep,
    client_id: uuid.UUID | None = None,
    paper: Paper = Paper.A4,
) -> Response:
    """The week of one client, or of all: what is eaten when, how it is warmed up, what thaws."""
    return _pdf(sheets.week_sheets(database, who, batch_id, client_id, paper), "weeks.pdf")


@router.get("/batches/{batch_id}/sheets/list.pdf")
def print_list(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, paper: Paper = Paper.A4) -> Response:
    """The coach's list to fill and to hand over by, with places to sign."""
    return _pdf(sheets.list_sheet(database, who, batch_id, paper), "hand-over.pdf")


@router.get("/batches/{batch_id}/sheets/kitchen.pdf")
def print_kitchen_sheet(
    batch_id: uuid.UUID, client_id: uuid.UUID, database: DatabaseDep, who: SignedInDep, paper: Paper = Paper.A4
) -> Response:
    """What one client cooks alone, with tables of grams for the weighed pan."""
    return _pdf(sheets.kitchen_sheet(database, who, batch_id, client_id, paper), "kitchen-sheet.pdf")


@router.get("/labelled/{code}")
def read_container(code: str, database: DatabaseDep, who: SignedInDep) -> ContainerPageView:
    """The container whose code was read off its label."""
    return labels.read_container(database, who, code)


def _pdf(content: bytes, name: str) -> Response:
    headers = {"Content-Disposition": f'inline; filename="{name}"'}
    return Response(content, media_type="application/pdf", headers=headers)
