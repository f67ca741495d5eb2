"""An open batch takes over what changed since it was made: the recipe, figures of foods, targets of clients."""

from __future__ import annotations

import uuid

from sqlalchemy.orm import Session

from yantai.core.targets.targets import FIGURES, Figures
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, log, stored
from yantai.work.batches.copying import copy_recipe
from yantai.work.batches.targets_taken import changed_targets
from yantai.work.batches.versions import mark_changed
from yantai.work.batches.views import PlanView
from yantai.work.common.errors import Closed
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.recipes.recipes import load_recipe


def take_recipe(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Replace the batch's components by the recipe as it is now; pins stay where names stay.

    Raises:
        Closed: the batch is packed, or a pan is weighed, so it was cooked by the old recipe.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        loaded = _open(session, batch_id, version, "it keeps the recipe it was cooked by")
        batch = loaded.batch
        changed = [dish for dish in batch.dishes if dish.recipe.version != dish.recipe_version] or batch.dishes
        cooked = {part.component_id for dish in changed for part in dish.parts} & set(loaded.weighings)
        if cooked:
            names = " and ".join(loaded.components[key].name for key in cooked)
            raise Closed(f"{names} of this batch is weighed already, so it keeps the recipe it was cooked by.")
        for dish in changed:
            _take_recipe(session, who, loaded, dish)
        used = {part.component_id for dish in batch.dishes for part in dish.parts}
        batch.components = [component for component in batch.components if component.id in used]
        return keep(_planned_anew(session, batch, who, "the recipe was taken as it is now"))


def _take_recipe(session: Session, who: SignedIn, loaded: loading.Loaded, dish: tables.Dish) -> None:
    """Give a dish the components of its recipe as it is now; a pot that it shared is its own then."""
    batch, recipe = loaded.batch, load_recipe(session, dish.recipe_id)
    names = {component.id: component.name for component in batch.components}
    rows = [row for row in batch.classes if row.dish_id == dish.id]
    pins = [(row, names[pin.component_id], pin.grams) for row in rows for pin in row.pins]
    chosen = {row: [names.get(uuid.UUID(key)) for key in row.chosen] for row in rows}
    for row in rows:
        row.pins = []
    copied = copy_recipe(session, who, recipe)
    after = max((component.position for component in batch.components), default=-1) + 1
    for number, component in enumerate(copied.components):
        component.position = after + number
    batch.components.extend(copied.components)
    session.flush()
    dish.parts, dish.groups = copied.dish.parts, copied.dish.groups
    dish.recipe_version = recipe.version
    session.flush()
    new_ids = {component.name: component.id for component in copied.components}
    for row, name, grams in pins:
        if name in new_ids:
            row.pins.append(tables.Pin(workspace_id=who.workspace_id, component_id=new_ids[name], grams=grams))
    for row, were in chosen.items():
        row.chosen = [str(new_ids[name]) for name in were if name in new_ids]


def take_foods(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Plan an open batch with the newest figures of foods that were edited since it was made.

    Raises:
        Closed: the batch is packed: it keeps the figures it was packed with.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        loaded = _open(session, batch_id, version, "it keeps the figures its containers were filled by")
        for component in loaded.batch.components:
            for line in component.lines:
                food = loaded.larder.foods[line.food_id] if line.food_id is not None else None
                if food is not None and food.superseded_by is not None:
                    line.food_id = food.superseded_by
        return keep(_planned_anew(session, loaded.batch, who, "foods were counted by their newest figures"))


def take_targets(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Plan an open batch with the targets and containers that its clients have now.

    Raises:
        Closed: the batch is packed: it keeps the targets it was packed for.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        loaded = _open(session, batch_id, version, "it keeps the targets its containers were filled for")
        for row, now in changed_targets(loaded.own_targets, loaded.batch.classes):
            row.figures = Figures(**{name: now[name] for name in FIGURES})
            row.capacity_ml, row.capacity_g, row.plate_g = now["capacity_ml"], now["capacity_g"], now["plate_g"]
            row.taken = dict(now)
        return keep(_planned_anew(session, loaded.batch, who, "targets were taken as the clients have them now"))


def plan_anew(database: Database, who: SignedIn, batch_id: uuid.UUID, version: int) -> PlanView:
    """Plan an open batch by the engine there is now, where an earlier one planned it.

    Raises:
        Closed: the batch is packed: it keeps the plan its containers were filled by.
        Stale: the batch was changed since `version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        loaded = _open(session, batch_id, version, "it keeps the plan its containers were filled by")
        return keep(_planned_anew(session, loaded.batch, who, "it was planned anew"))


def _open(session: Session, batch_id: uuid.UUID, version: int, why: str) -> loading.Loaded:
    """A batch at this version that may still change, locked; `why` a packed one may not."""
    loaded = loading.load(session, batch_id, lock=True)
    log.refuse_stale(session, loaded.batch, version)
    if loaded.batch.packed_at is not None:
        raise Closed(f"This batch is packed, so {why}.")
    return loaded


def _planned_anew(session: Session, batch: tables.Batch, who: SignedIn, words: str) -> PlanView:
    mark_changed(session, batch, who)
    log.note(session, who, batch, words)
    session.expire_all()
    stored.renew(session, batch.id)
    return stored.read_view(session, batch.id)
