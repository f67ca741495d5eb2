"""A batch once more on another day: its dishes, pots and people, with the targets of today and what was learned."""

from __future__ import annotations

import uuid

from sqlalchemy.orm import Session

from yantai.core.targets.targets import FIGURES, Figures
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, log, stored
from yantai.work.batches.copying import copied_part, own_copy
from yantai.work.batches.inputs import CopyInput
from yantai.work.batches.views import PlanView
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn


def copy_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: CopyInput) -> PlanView:
    """Make a batch like another one. What is in the pots follows the need again, by the yields that are known now;
    foods are counted by their newest figures; pins and choices stay. Clients who are archived by now are left out.

    Raises:
        Missing: there is no such batch here.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        loaded = loading.load(session, batch_id)
        batch = _copied(session, who, loaded, payload)
        log.note(session, who, batch, f"made like “{loaded.batch.name}”")
        session.expire_all()
        stored.renew(session, batch.id)
        return keep(stored.read_view(session, batch.id))


def _copied(session: Session, who: SignedIn, loaded: loading.Loaded, payload: CopyInput) -> tables.Batch:
    like = loaded.batch
    batch = tables.Batch(
        id=uuid.uuid4(),
        workspace_id=who.workspace_id,
        name=payload.name,
        cook_on=payload.cook_on,
        step_g=like.step_g,
        buffer_share=like.buffer_share,
        sure_share=like.sure_share,
        budget=like.budget,
        sharing=like.sharing,
        leftover=like.leftover,
        version=1,
        changed_by=who.name,
    )
    session.add(batch)
    batch.components, batch.dishes, batch.classes = [], [], []
    pots: dict[uuid.UUID, uuid.UUID] = {}
    used = {part.component_id for dish in like.dishes for part in dish.parts}
    for component in like.components:
        if component.id in used:
            copy = own_copy(who, component, lambda _: uuid.uuid4())
            for line in copy.lines:
                food = loaded.larder.foods.get(line.food_id) if line.food_id is not None else None
                line.food_id = line.food_id if food is None else food.superseded_by or food.id
                line.added_at, line.added_by = None, ""
            pots[component.id] = copy.id
            batch.components.append(copy)
    session.flush()
    dishes: dict[uuid.UUID, uuid.UUID] = {}
    for dish in like.dishes:
        parts = [copied_part(who, part, uuid.uuid4()) for part in dish.parts]
        for part in parts:
            part.component_id = pots[part.component_id]
        dishes[dish.id] = uuid.uuid4()
        batch.dishes.append(
            tables.Dish(
                id=dishes[dish.id],
                workspace_id=who.workspace_id,
                position=dish.position,
                name=dish.name,
                recipe_id=dish.recipe_id,
                recipe_version=dish.recipe_version,
                groups=dict(dish.groups),
                removed=False,
                parts=parts,
            )
        )
    session.flush()
    batch.classes = [
        _row(who, loaded, row, dishes[row.dish_id], pots) for row in like.classes if row.client.archived_at is None
    ]
    session.flush()
    return batch


def _row(
    who: SignedIn,
    loaded: loading.Loaded,
    row: tables.ContainerClass,
    dish_id: uuid.UUID,
    pots: dict[uuid.UUID, uuid.UUID],
) -> tables.ContainerClass:
    """The containers of a row with the target their client has now; with the row's own where there is none any more."""
    now = loaded.own_targets.get((row.client_id, row.slot.casefold(), row.day_type.casefold()))
    figures = row.figures if now is None else Figures(**{name: now[name] for name in FIGURES})
    room = {name: getattr(row, name) if now is None else now[name] for name in ("capacity_ml", "capacity_g", "plate_g")}
    return tables.ContainerClass(
        workspace_id=who.workspace_id,
        client_id=row.client_id,
        dish_id=dish_id,
        slot=row.slot,
        day_type=row.day_type,
        position=row.position,
        count=row.count,
        rank=row.rank,
        helping=row.helping,
        chosen=[str(pots[uuid.UUID(key)]) for key in row.chosen if uuid.UUID(key) in pots],
        removed=False,
        taken=None if now is None else dict(now),
        figures=figures,
        pins=[
            tables.Pin(workspace_id=who.workspace_id, component_id=pots[pin.component_id], grams=pin.grams)
            for pin in row.pins
            if pin.component_id in pots
        ],
        **room,
    )
