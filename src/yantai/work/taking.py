"""An open batch takes over what changed since it was made: the recipe, figures of foods, targets of clients."""

from __future__ import annotations

import uuid

from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn
from yantai.work.batches import copy_components, mark_changed, refuse_stale
from yantai.work.errors import Closed
from yantai.work.recipes import load_recipe
from yantai.work.targets_taken import changed_targets
from yantai.work.views import PlanView


def take_recipe(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Replace the batch's components by the recipe as it is now; pins stay where names stay.

    Raises:
        Closed: the batch is packed, or a pan is weighed, so it was cooked by the old recipe.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = plans.load(session, batch_id, lock=True)
        batch = loaded.batch
        refuse_stale(batch, version)
        if batch.packed_at is not None or loaded.weighings:
            raise Closed("A pan of this batch is weighed already, so it keeps the recipe it was cooked by.")
        recipe = load_recipe(session, batch.recipe_id)
        names = {component.id: component.name for component in batch.components}
        pins = [(row, names[pin.component_id], pin.grams) for row in batch.classes for pin in row.pins]
        for row in batch.classes:
            row.pins = []
        batch.components = copy_components(session, who, recipe)
        session.flush()
        new_ids = {component.name: component.id for component in batch.components}
        for row, name, grams in pins:
            if name in new_ids:
                row.pins.append(tables.Pin(workspace_id=who.workspace_id, component_id=new_ids[name], grams=grams))
        batch.recipe_version = recipe.version
        return _planned_anew(session, batch, who)


def take_foods(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Plan an open batch with the newest figures of foods that were edited since it was made.

    Raises:
        Closed: the batch is packed: it keeps the figures it was packed with.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = plans.load(session, batch_id, lock=True)
        batch = loaded.batch
        refuse_stale(batch, version)
        if batch.packed_at is not None:
            raise Closed("This batch is packed, so it keeps the figures its containers were filled by.")
        for component in batch.components:
            for line in component.lines:
                food = loaded.larder.foods[line.food_id] if line.food_id is not None else None
                if food is not None and food.superseded_by is not None:
                    line.food_id = food.superseded_by
        return _planned_anew(session, batch, who)


def take_targets(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Plan an open batch with the targets and containers that its clients have now.

    Raises:
        Closed: the batch is packed: it keeps the targets it was packed for.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = plans.load(session, batch_id, lock=True)
        batch = loaded.batch
        refuse_stale(batch, version)
        if batch.packed_at is not None:
            raise Closed("This batch is packed, so it keeps the targets its containers were filled for.")
        for row, now in changed_targets(loaded.own_targets, batch.classes):
            for name, value in now.items():
                setattr(row, name, value)
            row.taken = dict(now)
        return _planned_anew(session, batch, who)


def _planned_anew(session: Session, batch: tables.Batch, who: SignedIn) -> PlanView:
    mark_changed(session, batch, who)
    session.expire_all()
    return plans.plan_view(plans.compute(plans.load(session, batch.id)))
