"""Settings of the kitchen."""

from __future__ import annotations

from dataclasses import asdict

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.foods.free_foods import FREE_FOODS
from yantai.core.targets.aims import DailyAims
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Collector
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import daily_aims, read_workspace, touch_basis
from yantai.work.kitchen.inputs import VesselInput, WorkspaceInput
from yantai.work.kitchen.views import DailyAimsView, KitchenVesselView, SettingsView


def read_settings(database: Database, who: SignedIn) -> SettingsView:
    """What the kitchen counts by."""
    with database.reading(who.workspace_id) as session:
        return _view(session)


def save_settings(database: Database, who: SignedIn, payload: WorkspaceInput) -> SettingsView:
    """Set what the kitchen counts by, and its vessels. Packed batches keep the rules they were packed by.

    Raises:
        Invalid: a vessel's weight makes no sense, or a kind of free food is not known.
    """
    faults = Collector()
    for kind in payload.free_foods:
        if kind not in FREE_FOODS:
            faults.add("/free_foods", f"“{kind}” is not one of {', '.join(FREE_FOODS)}")
    faults.check()
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        workspace = read_workspace(session)
        workspace.spoons = payload.spoons
        workspace.energy_rule, workspace.carbohydrate = payload.energy_rule, payload.carbohydrate
        workspace.shelf_rule = payload.shelf_rule
        workspace.time_zone, workspace.currency = payload.time_zone, payload.currency
        workspace.most_left_share = payload.most_left_share
        workspace.daily_aims = DailyAims(**payload.daily_aims.model_dump())
        workspace.free_foods = sorted(set(payload.free_foods))
        _save_vessels(session, who, payload.vessels)
        touch_basis(session)
        session.flush()
        return keep(_view(session))


def _save_vessels(session: Session, who: SignedIn, payload: list[VesselInput]) -> None:
    known = {row.id: row for row in session.scalars(select(tables.Vessel))}
    kept = set()
    for one in payload:
        row = known.get(one.id) if one.id is not None else None
        if row is None:
            row = tables.Vessel(workspace_id=who.workspace_id, name=one.name, empty_g=one.empty_g)
            session.add(row)
        else:
            kept.add(row.id)
        row.name, row.empty_g, row.capacity_g = one.name, one.empty_g, one.capacity_g
    for key, row in known.items():
        if key not in kept:
            session.delete(row)


def _view(session: Session) -> SettingsView:
    workspace = read_workspace(session)
    vessels = session.scalars(select(tables.Vessel).order_by(tables.Vessel.name, tables.Vessel.id))
    return SettingsView(
        workspace=workspace.name,
        spoons=workspace.spoons,
        energy_rule=workspace.energy_rule,
        carbohydrate=workspace.carbohydrate,
        shelf_rule=workspace.shelf_rule,
        time_zone=workspace.time_zone,
        currency=workspace.currency,
        most_left_share=workspace.most_left_share,
        free_foods=workspace.free_foods,
        daily_aims=DailyAimsView(**asdict(daily_aims(workspace))),
        vessels=[
            KitchenVesselView(id=row.id, name=row.name, empty_g=row.empty_g, capacity_g=row.capacity_g)
            for row in vessels
        ],
        free_kinds=dict(FREE_FOODS),
    )
