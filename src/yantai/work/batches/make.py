"""Making a batch of a recipe for some clients."""

from __future__ import annotations

import uuid
from collections.abc import Mapping

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.targets.targets import Figures
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import log, stored
from yantai.work.batches.copying import (
    copy_components,
)
from yantai.work.batches.inputs import BatchInput
from yantai.work.batches.targets_taken import taken_target
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import client_query
from yantai.work.clients.days import effective_figures, effective_target, stored_days
from yantai.work.common.errors import Collector, Invalid, located
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.recipes.recipes import load_recipe


def create_batch(database: Database, who: SignedIn, payload: BatchInput) -> PlanView:
    """Make a batch from a recipe and the targets of some clients, and plan it.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such recipe here.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        recipe = load_recipe(session, payload.recipe_id)
        targets = _check(session, payload, recipe)
        figures = _figures(session, targets)
        batch = tables.Batch(
            workspace_id=who.workspace_id,
            recipe_id=recipe.id,
            recipe_version=recipe.version,
            name=payload.name,
            cook_on=payload.cook_on,
            step_g=payload.step_g,
            buffer_share=payload.buffer_share,
            version=1,
            changed_by=who.name,
        )
        batch.components = copy_components(session, who, recipe)
        batch.classes = [
            tables.ContainerClass(
                workspace_id=who.workspace_id,
                client_id=targets[eater.target_id].client_id,
                position=position,
                slot=targets[eater.target_id].slot,
                day_type=targets[eater.target_id].day_type,
                count=eater.count,
                capacity_ml=targets[eater.target_id].capacity_ml,
                capacity_g=targets[eater.target_id].capacity_g,
                plate_g=targets[eater.target_id].plate_g,
                taken=taken_target(targets[eater.target_id], figures[eater.target_id]),
                figures=figures[eater.target_id],
            )
            for position, eater in enumerate(payload.eaters)
        ]
        session.add(batch)
        session.flush()
        log.note(session, who, batch, f"made of “{recipe.name}”")
        session.expire_all()
        stored.renew(session, batch.id)
        return keep(stored.read_view(session, batch.id))


def _check(session: Session, payload: BatchInput, recipe: tables.Recipe) -> dict[uuid.UUID, tables.Target]:
    faults = Collector()
    if not recipe.components:
        faults.add("/recipe_id", f"{recipe.name} has no components yet: add one to the recipe first")
    if not payload.eaters:
        faults.add("/eaters", "choose at least one client to cook for")
    targets = {
        target.id: target
        for target in session.scalars(
            select(tables.Target).where(tables.Target.id.in_([eater.target_id for eater in payload.eaters]))
        )
    }
    for index, eater in enumerate(payload.eaters):
        if eater.target_id not in targets:
            faults.add(f"/eaters/{index}/target_id", "this target was removed; reload the page")
    faults.check()
    if len(targets) != len(payload.eaters):
        raise Invalid.at("/eaters", "The same target is chosen twice.")
    return targets


def _figures(session: Session, targets: Mapping[uuid.UUID, tables.Target]) -> dict[uuid.UUID, Figures]:
    """What the containers of these targets shall hold as of now; a batch keeps it whatever becomes of the target."""
    rules = workspace_rules(read_workspace(session))
    ids = {target.client_id for target in targets.values()}
    clients = session.scalars(client_query().where(tables.Client.id.in_(ids)))
    days = {client.id: stored_days(client, rules) for client in clients}
    found = {}
    for target in targets.values():
        with located("/eaters"):
            effective_target(target, days[target.client_id])
        found[target.id] = effective_figures(target, days[target.client_id])
    return found
