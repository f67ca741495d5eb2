"""Recipes: listed, read, saved and archived."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, selectinload

from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Collector, Invalid, Missing, Stale
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.recipes.checks import (
    _check_contents,
    _used_elsewhere,
    check_recipe,
)
from yantai.work.recipes.inputs import ComponentInput, RecipeInput
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.shown import (
    left_behind,
    recipe_view,
)
from yantai.work.recipes.steps import step_rows
from yantai.work.recipes.views import (
    PartBrief,
    RecipeBrief,
    RecipeView,
)


def list_recipes(database: Database, who: SignedIn) -> list[RecipeBrief]:
    """All recipes that are not archived, by name."""
    with database.reading(who.workspace_id) as session:
        recipes = read_recipes(session)
        larder = Larder.read(session, [component for recipe in recipes for component in recipe.components])
        return [
            RecipeBrief(
                id=recipe.id,
                name=recipe.name,
                note=recipe.note,
                components=[PartBrief(id=component.id, name=component.name) for component in recipe.components],
                allergens=sorted({key for c in recipe.components for key in larder.allergens(c.lines)}),
            )
            for recipe in recipes
        ]


def read_recipes(session: Session) -> list[tables.Recipe]:
    """The rows of all recipes that are not archived, with their components, by name."""
    query = recipe_query().where(tables.Recipe.archived_at.is_(None)).order_by(tables.Recipe.name)
    return list(session.scalars(query))


def read_recipe(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> RecipeView:
    """One recipe with all figures.

    Raises:
        Missing: there is no such recipe here.
    """
    with database.reading(who.workspace_id) as session:
        return saved_view(session, load_recipe(session, recipe_id))


def preview_recipe(
    database: Database, who: SignedIn, payload: RecipeInput, recipe_id: uuid.UUID | None = None
) -> RecipeView:
    """The figures of a recipe as it is typed, saved or not. A component that makes no sense says why.

    With `recipe_id` it is compared with what is saved: a sauce left behind when the rest was made larger is told.

    Raises:
        Invalid: a line names a food or component that is not here.
    """
    with database.reading(who.workspace_id) as session:
        faults = Collector()
        larder = Larder.read(session, payload.components)
        _check_contents(faults, larder, payload)
        faults.check()
        saved = None if recipe_id is None else session.scalar(recipe_query().where(tables.Recipe.id == recipe_id))
        return recipe_view(session, larder, payload, None, payload.version or 0, left_behind(saved, payload))


def save_recipe(database: Database, who: SignedIn, payload: RecipeInput, recipe_id: uuid.UUID | None) -> RecipeView:
    """Make a recipe, or change the one with `recipe_id`. Batches keep the recipe they were made with.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such recipe here.
        Stale: the recipe was changed since version `payload.version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        return keep(saved_view(session, store_recipe(session, who, payload, recipe_id)))


def store_recipe(
    session: Session, who: SignedIn, payload: RecipeInput, recipe_id: uuid.UUID | None = None
) -> tables.Recipe:
    """The same inside a transaction; the row as it then is.

    Raises:
        Invalid, Missing, Stale: as `save_recipe`.
    """
    name = check_recipe(session, payload)
    if recipe_id is None:
        recipe = tables.Recipe(workspace_id=who.workspace_id, version=0, components=[], steps=[])
        session.add(recipe)
    else:
        recipe = load_recipe(session, recipe_id, lock=True)
        if recipe.version != payload.version:
            raise Stale(
                f"{recipe.name} was changed in another window since you opened this page. What you typed is "
                "still here: open the newest in a second tab, compare, and save again."
            )
    recipe.name = name
    recipe.note = payload.note.strip()
    recipe.serves = payload.serves
    recipe.groups = dict(payload.groups)
    recipe.version += 1
    known = {component.id: component for component in recipe.components}
    used = _used_elsewhere(session, set(known) - {one.id for one in payload.components}, recipe.id)
    if used:
        raise Invalid.at(
            "/components",
            f"{used[0]} is used in {used[1]}. Take it out there first, or keep it here.",
        )
    recipe.components = [_component(who, known, index, one) for index, one in enumerate(payload.components)]
    names = {component.id: component.name for component in recipe.components}
    recipe.steps = step_rows(who, payload.steps, names, {step.id: step for step in recipe.steps})
    session.flush()
    session.expire_all()
    return load_recipe(session, recipe.id)


def archive_recipe(database: Database, who: SignedIn, recipe_id: uuid.UUID, now: datetime | None) -> None:
    """Take a recipe off the lists at `now`, or bring it back with None."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        load_recipe(session, recipe_id, lock=True).archived_at = now
        keep(None)


def load_recipe(session: Session, recipe_id: uuid.UUID, *, lock: bool = False) -> tables.Recipe:
    """The recipe row with components, lines and foods.

    Raises:
        Missing: there is no such recipe here.
    """
    query = recipe_query().where(tables.Recipe.id == recipe_id)
    recipe = session.scalar(query.with_for_update() if lock else query)
    if recipe is None:
        raise Missing("There is no such recipe. It may have been removed in another window.")
    return recipe


def recipe_query() -> Select[tables.Recipe]:
    """Recipes with their components, lines and steps."""
    lines = selectinload(tables.Recipe.components).selectinload(tables.Component.lines)
    of_pots = selectinload(tables.Recipe.components).selectinload(tables.Component.steps)
    return select(tables.Recipe).options(lines, of_pots, selectinload(tables.Recipe.steps))


def saved_view(session: Session, recipe: tables.Recipe) -> RecipeView:
    """A stored recipe as a view."""
    return recipe_view(session, Larder.read(session, recipe.components), recipe, recipe.id, recipe.version, {})


def _component(
    who: SignedIn, known: dict[uuid.UUID, tables.Component], position: int, payload: ComponentInput
) -> tables.Component:
    component = known.get(payload.id) if payload.id else None
    if component is None:
        component = tables.Component(workspace_id=who.workspace_id, id=payload.id or uuid.uuid4(), steps=[])
    component.position = position
    component.name = payload.name.strip()
    component.role = payload.role
    component.method = payload.method
    component.portioning = payload.portioning
    component.density_g_per_ml = payload.density_g_per_ml
    component.yield_low = payload.yield_low
    component.yield_expected = payload.yield_expected
    component.yield_high = payload.yield_high
    component.poured_fat_g = payload.poured_fat_g
    component.pieces = payload.pieces
    component.pan_capacity_g = payload.pan_capacity_g
    component.lid = payload.lid
    component.cook_min = payload.cook_min
    component.served = payload.served
    component.packed_raw = payload.packed_raw
    component.kit_text = payload.kit_text.strip()
    component.whole_pans = payload.whole_pans
    component.dismissed = payload.dismissed
    component.lines = [
        tables.Line(
            workspace_id=who.workspace_id,
            position=number,
            food_id=line.food_id,
            source_id=line.source_id,
            purchased_g=line.purchased_g,
            refuse_share=line.refuse_share,
            refuse_after=line.refuse_after,
            retained_share=line.retained_share,
            yield_factor=line.yield_factor,
            text=line.text.strip(),
            weighed_state=line.weighed_state,
            counted=line.counted,
            scales=line.scales,
            dismissed=line.dismissed,
        )
        for number, line in enumerate(payload.lines)
    ]
    return component
