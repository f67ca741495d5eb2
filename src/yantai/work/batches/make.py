"""Making a batch of recipes for some clients."""

from __future__ import annotations

import uuid

from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import log, stored
from yantai.work.batches.copying import copy_recipe
from yantai.work.batches.inputs import BatchInput
from yantai.work.batches.rows import new_row, targets_of
from yantai.work.batches.views import PlanView
from yantai.work.common.errors import Collector
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.recipes.recipes import load_recipe


def create_batch(database: Database, who: SignedIn, payload: BatchInput) -> PlanView:
    """Make a batch of recipes for the targets of some clients, and plan it.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such recipe here.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        recipes = _check(session, payload)
        batch = tables.Batch(
            id=uuid.uuid4(),
            workspace_id=who.workspace_id,
            name=payload.name,
            cook_on=payload.cook_on,
            step_g=payload.step_g,
            buffer_share=payload.buffer_share,
            sure_share=payload.sure_share,
            budget=payload.budget,
            version=1,
            changed_by=who.name,
        )
        session.add(batch)
        batch.components, batch.dishes, batch.classes = [], [], []
        for number, wanted in enumerate(payload.dishes):
            aimed = targets_of(session, wanted.eaters, pointer=f"/dishes/{number}/eaters")
            copied = copy_recipe(session, who, recipes[wanted.recipe_id])
            for component in copied.components:
                component.position = len(batch.components)
                batch.components.append(component)
            copied.dish.position, copied.dish.name = number, wanted.name.strip() or copied.dish.name
            batch.dishes.append(copied.dish)
            session.flush()
            for eater in wanted.eaters:
                row = new_row(who, aimed[eater.target_id], copied.dish.id, len(batch.classes), eater.count)
                batch.classes.append(row)
        session.flush()
        log.note(session, who, batch, _made_of(batch))
        session.expire_all()
        stored.renew(session, batch.id)
        return keep(stored.read_view(session, batch.id))


def _made_of(batch: tables.Batch) -> str:
    return f"made of {' and '.join(f'“{dish.name}”' for dish in batch.dishes)}"


def _check(session: Session, payload: BatchInput) -> dict[uuid.UUID, tables.Recipe]:
    """The recipes of a new batch.

    Raises:
        Invalid: there is no dish, nobody eats, or a recipe has no components.
        Missing: a recipe is not here.
    """
    faults = Collector()
    if not payload.dishes:
        faults.add("/dishes", "choose at least one dish to cook")
    faults.check()
    recipes = {dish.recipe_id: load_recipe(session, dish.recipe_id) for dish in payload.dishes}
    for number, dish in enumerate(payload.dishes):
        recipe = recipes[dish.recipe_id]
        if not any(component.served for component in recipe.components):
            faults.add(
                f"/dishes/{number}/recipe_id", f"{recipe.name} has no components yet: add one to the recipe first"
            )
    if not any(dish.eaters for dish in payload.dishes):
        faults.add("/dishes/0/eaters", "choose at least one client to cook for")
    faults.check()
    return recipes
