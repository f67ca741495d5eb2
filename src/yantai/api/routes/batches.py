"""Batches and their plans."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, ConfigDict, Field

from yantai.api.access import DatabaseDep, NowDep, SignedInDep
from yantai.api.events import BatchEvents
from yantai.formats.plan_document import PlanDocument
from yantai.work import batches, changes, comparing, plan_days, plan_import, taking, ways
from yantai.work.inputs import BatchInput, Change, Changes, PlanFileInput
from yantai.work.views import BatchBrief, ComparedView, DayView, FilledView, ImportedPlan, PlanView, ReachView, WayView

router = APIRouter(tags=["batches"])


class PreviewBody(BaseModel):
    """Changes that are only looked at."""

    model_config = ConfigDict(extra="forbid")

    version: int
    changes: Annotated[list[Annotated[Change, Field(discriminator="kind")]], Field(max_length=100)]
    confirmed: bool = False


class ChangesBody(PreviewBody):
    """Changes made together or not at all, to the version that was read.

    `command_id` is made by the caller: the same changes sent again with it, after a lost answer, count once.
    """

    command_id: uuid.UUID


@router.get("/batches")
def list_batches(database: DatabaseDep, who: SignedInDep) -> list[BatchBrief]:
    """All batches with what is next for each."""
    return batches.list_batches(database, who)


@router.post("/batches", status_code=201)
def create_batch(given: BatchInput, database: DatabaseDep, who: SignedInDep) -> PlanView:
    """Make a batch and plan it."""
    return batches.create_batch(database, who, given)


@router.post("/batches/import", status_code=201)
def import_plan(given: PlanFileInput, database: DatabaseDep, who: SignedInDep, now: NowDep) -> ImportedPlan:
    """Make a batch of a plan document (docs/formats)."""
    return plan_import.import_plan(database, who, given, now)


@router.get("/batches/{batch_id}/plan")
def read_plan(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> PlanView:
    """The plan of a batch with every figure."""
    return batches.read_plan(database, who, batch_id)


@router.get("/batches/{batch_id}/rows/{row_id}/ways")
def read_ways(batch_id: uuid.UUID, row_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> list[WayView]:
    """Changes that would let the containers of a row meet their target, each proven by solving again."""
    return ways.read_ways(database, who, batch_id, row_id)


@router.get("/batches/{batch_id}/reach")
def read_reach(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> ReachView:
    """The reach map: energy shares of the components, their hull, and the targets in or out of it."""
    return ways.read_reach(database, who, batch_id)


@router.get("/batches/{batch_id}/days")
def read_plan_days(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> list[DayView]:
    """The days of the clients of a batch: containers and extras against each kind of day."""
    return plan_days.read_plan_days(database, who, batch_id)


@router.get("/batches/{batch_id}/filled")
def read_filled(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> FilledView:
    """How many containers the amounts that are weighed or fixed fill, and for whom."""
    return ways.read_filled(database, who, batch_id)


@router.get("/batches/{batch_id}/events", include_in_schema=False)
async def batch_events(
    batch_id: uuid.UUID, request: Request, database: DatabaseDep, who: SignedInDep
) -> StreamingResponse:
    """Server-sent events: the version of the batch now, and each one after."""
    now = await run_in_threadpool(batches.batch_now, database, who, batch_id)
    events: BatchEvents = request.app.state.events
    return StreamingResponse(events.stream(now), media_type="text/event-stream", headers={"Cache-Control": "no-store"})


@router.get("/batches/{batch_id}/document")
def export_batch(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> PlanDocument:
    """The batch as an open plan document (docs/formats), for `./yantai compute`."""
    return batches.export_batch(database, who, batch_id)


@router.post("/batches/{batch_id}/changes")
def change_batch(
    batch_id: uuid.UUID, given: ChangesBody, database: DatabaseDep, who: SignedInDep, now: NowDep
) -> changes.Changed:
    """Apply changes together; the answer holds the new plan and the changes that take these back."""
    command = Changes(
        version=given.version, changes=given.changes, confirmed=given.confirmed, command_id=given.command_id
    )
    return changes.change_batch(database, who, batch_id, command, now)


@router.post("/batches/{batch_id}/preview")
def preview_batch(
    batch_id: uuid.UUID, given: PreviewBody, database: DatabaseDep, who: SignedInDep, now: NowDep
) -> PlanView:
    """The plan as changes would make it; nothing of it is kept."""
    command = Changes(version=given.version, changes=given.changes, confirmed=given.confirmed)
    return changes.preview_batch(database, who, batch_id, command, now)


@router.get("/batches/{batch_id}/compared")
def compare_batches(batch_id: uuid.UUID, other: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> ComparedView:
    """A batch beside another one: cooked weights, yields, and the grams of each container."""
    return comparing.compare_batches(database, who, batch_id, other)


@router.post("/batches/{batch_id}/recipe")
def take_recipe(batch_id: uuid.UUID, version: int, database: DatabaseDep, who: SignedInDep) -> PlanView:
    """Replace the batch's components by its recipe as it is now."""
    return taking.take_recipe(database, who, batch_id, version)


@router.post("/batches/{batch_id}/foods")
def take_foods(batch_id: uuid.UUID, version: int, database: DatabaseDep, who: SignedInDep) -> PlanView:
    """Plan the batch with the newest figures of foods that were edited since."""
    return taking.take_foods(database, who, batch_id, version)


@router.post("/batches/{batch_id}/targets")
def take_targets(batch_id: uuid.UUID, version: int, database: DatabaseDep, who: SignedInDep) -> PlanView:
    """Plan an open batch with the targets that its clients have now."""
    return taking.take_targets(database, who, batch_id, version)
