"""Batches: made, read and changed."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse

from yantai.api.access import CookDep, DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.api.events import BatchEvents
from yantai.api.parameters import VersionRead
from yantai.formats.plan_document import PlanDocument
from yantai.work.batches import commands as changes
from yantai.work.batches import copies, lists, make, reading, taking
from yantai.work.batches.inputs import BatchInput, Changes, CopyInput, Preview, TakeBack
from yantai.work.batches.views import BatchBrief, HistoryView, PlanView

router = APIRouter(tags=["batches"])


@router.get("/batches")
def list_batches(database: DatabaseDep, who: CookDep) -> list[BatchBrief]:
    """All batches with what is next for each."""
    return lists.list_batches(database, who)


@router.post("/batches", status_code=201)
def create_batch(payload: BatchInput, database: DatabaseDep, who: SenderDep) -> PlanView:
    """Make a batch and plan it."""
    return make.create_batch(database, who, payload)


@router.post("/batches/{batch_id}/copies", status_code=201)
def copy_batch(batch_id: uuid.UUID, payload: CopyInput, database: DatabaseDep, who: SenderDep) -> PlanView:
    """Make a batch like this one on another day, with the targets that its clients have now."""
    return copies.copy_batch(database, who, batch_id, payload)


@router.get("/batches/{batch_id}/plan")
def read_plan(batch_id: uuid.UUID, database: DatabaseDep, who: CookDep) -> PlanView:
    """The plan of a batch with every figure."""
    return reading.read_plan(database, who, batch_id)


@router.get("/batches/{batch_id}/events", include_in_schema=False)
async def batch_events(batch_id: uuid.UUID, request: Request, database: DatabaseDep, who: CookDep) -> StreamingResponse:
    """Server-sent events: the version of the batch now, and each one after."""
    now = await run_in_threadpool(reading.batch_now, database, who, batch_id)
    events: BatchEvents = request.app.state.events
    return StreamingResponse(events.stream(now), media_type="text/event-stream", headers={"Cache-Control": "no-store"})


@router.get("/batches/{batch_id}/document")
def export_batch(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> PlanDocument:
    """The batch as an open plan document (docs/formats), for `./yantai compute`."""
    return reading.export_batch(database, who, batch_id)


@router.post("/batches/{batch_id}/changes")
def change_batch(
    batch_id: uuid.UUID, payload: Changes, database: DatabaseDep, who: CookDep, now: NowDep
) -> changes.Changed:
    """Apply changes together; the answer holds the new plan and the changes that take these back."""
    return changes.change_batch(database, who, batch_id, payload, now)


@router.post("/batches/{batch_id}/taken-back")
def take_back(
    batch_id: uuid.UUID, payload: TakeBack, database: DatabaseDep, who: CookDep, now: NowDep
) -> changes.Changed:
    """Take a command of the log back, or make one again that was taken back."""
    return changes.take_back(database, who, batch_id, payload, now)


@router.get("/batches/{batch_id}/history")
def read_batch_history(
    batch_id: uuid.UUID,
    database: DatabaseDep,
    who: SignedInDep,
    limit: Annotated[int, Query(ge=0, le=10_000)] = 100,
    since: Annotated[int, Query(ge=0, le=2**31 - 1)] = 0,
) -> HistoryView:
    """Who changed what of a batch after version `since`, the newest first, and what undo and redo would do next."""
    return changes.read_history(database, who, batch_id, limit, since)


@router.post("/batches/{batch_id}/preview")
def preview_batch(batch_id: uuid.UUID, payload: Preview, database: DatabaseDep, who: CookDep, now: NowDep) -> PlanView:
    """The plan as changes would make it; nothing of it is kept."""
    return changes.preview_batch(database, who, batch_id, payload, now)


@router.post("/batches/{batch_id}/recipe")
def take_recipe(batch_id: uuid.UUID, version: VersionRead, database: DatabaseDep, who: SenderDep) -> PlanView:
    """Replace the batch's components by its recipe as it is now."""
    return taking.take_recipe(database, who, batch_id, version)


@router.post("/batches/{batch_id}/foods")
def take_foods(batch_id: uuid.UUID, version: VersionRead, database: DatabaseDep, who: SenderDep) -> PlanView:
    """Plan the batch with the newest figures of foods that were edited since."""
    return taking.take_foods(database, who, batch_id, version)


@router.post("/batches/{batch_id}/anew")
def plan_anew(batch_id: uuid.UUID, version: VersionRead, database: DatabaseDep, who: SenderDep) -> PlanView:
    """Plan a batch by the engine there is now, where an earlier one planned it."""
    return taking.plan_anew(database, who, batch_id, version)


@router.post("/batches/{batch_id}/targets")
def take_targets(batch_id: uuid.UUID, version: VersionRead, database: DatabaseDep, who: SenderDep) -> PlanView:
    """Plan an open batch with the targets that its clients have now."""
    return taking.take_targets(database, who, batch_id, version)
