"""A plan looked at: ways out, reach, days, beside another; and plan documents taken in."""

from __future__ import annotations

import uuid

from fastapi import APIRouter

from yantai.api.access import DatabaseDep, NowDep, SenderDep, SignedInDep
from yantai.core.foods.energy import Carbohydrate, EnergyRule, Rules
from yantai.work.clients.views import DayView
from yantai.work.plan import comparing, filled, reach, switching
from yantai.work.plan import days as plan_days
from yantai.work.plan import imports as plan_import
from yantai.work.plan.inputs import PlanFileInput
from yantai.work.plan.views import ComparedView, FilledView, ImportedPlan, ReachView, SwitchedView, WayView
from yantai.work.plan.ways import all_ways

router = APIRouter(tags=["plan"])


@router.post("/batches/import", status_code=201)
def import_plan(payload: PlanFileInput, database: DatabaseDep, who: SenderDep, now: NowDep) -> ImportedPlan:
    """Make a batch of a plan document (docs/formats)."""
    return plan_import.import_plan(database, who, payload, now)


@router.get("/batches/{batch_id}/rows/{row_id}/ways")
def read_ways(batch_id: uuid.UUID, row_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> list[WayView]:
    """Changes that would let the containers of a row meet their target, each proven by solving again."""
    return all_ways.read_ways(database, who, batch_id, row_id)


@router.get("/batches/{batch_id}/reach")
def read_reach(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> ReachView:
    """The reach map: energy shares of the components, their hull, and the targets in or out of it."""
    return reach.read_reach(database, who, batch_id)


@router.get("/batches/{batch_id}/days")
def read_plan_days(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> list[DayView]:
    """The days of the clients of a batch: containers and extras against each kind of day."""
    return plan_days.read_plan_days(database, who, batch_id)


@router.get("/batches/{batch_id}/filled")
def read_filled(batch_id: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> FilledView:
    """How many containers the amounts that are weighed or fixed fill, and for whom."""
    return filled.read_filled(database, who, batch_id)


@router.get("/batches/{batch_id}/compared")
def compare_batches(batch_id: uuid.UUID, other: uuid.UUID, database: DatabaseDep, who: SignedInDep) -> ComparedView:
    """A batch beside another one: cooked weights, yields, and the grams of each container."""
    return comparing.compare_batches(database, who, batch_id, other)


@router.get("/settings/switch")
def preview_switch(
    energy_rule: EnergyRule,
    carbohydrate: Carbohydrate,
    database: DatabaseDep,
    who: SignedInDep,
) -> list[SwitchedView]:
    """What a switch of the rules would change, before it is made."""
    return switching.preview_switch(database, who, Rules(energy=energy_rule, carbohydrate=carbohydrate))
