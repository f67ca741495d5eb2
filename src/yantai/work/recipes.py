"""Recipes: components with their lines, and the figures that follow from them."""

from __future__ import annotations

import uuid
from datetime import datetime

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, selectinload

from yantai.core.components import METHODS, ROLES
from yantai.core.edible import edible_g
from yantai.core.errors import CoreError, require_range
from yantai.core.portions.problem import MAXIMUM_CELL_G
from yantai.core.yields import MAXIMUM_YIELD
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts import SignedIn
from yantai.work.errors import Collector, Missing, Stale, sentence
from yantai.work.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.kitchen import Larder, LineLike, food_brief
from yantai.work.views import ComponentFigures, ComponentView, LineView, RecipeBrief, RecipeView, YieldView


def list_recipes(database: Database, who: SignedIn) -> list[RecipeBrief]:
    """All recipes that are not archived, by name."""
    with database.workspace(who.workspace_id) as session:
        query = _query().where(tables.Recipe.archived_at.is_(None)).order_by(tables.Recipe.name)
        return [_brief(recipe) for recipe in session.scalars(query)]


def read_recipe(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> RecipeView:
    """One recipe with all figures.

    Raises:
        Missing: there is no such recipe here.
    """
    with database.workspace(who.workspace_id) as session:
        return _view(session, load_recipe(session, recipe_id))


def preview_recipe(database: Database, who: SignedIn, given: RecipeInput) -> RecipeView:
    """The figures of a recipe as it is typed, saved or not. A component that makes no sense says why.

    Raises:
        Invalid: a line names a food that is not here.
    """
    with database.workspace(who.workspace_id) as session:
        faults = Collector()
        larder = _larder(session, given, faults)
        faults.check()
        components = [_component_view(larder, component, component.id) for component in given.components]
        return RecipeView(id=None, name=given.name, note=given.note, version=given.version or 0, components=components)


def save_recipe(database: Database, who: SignedIn, given: RecipeInput, recipe_id: uuid.UUID | None) -> RecipeView:
    """Make a recipe, or change the one with `recipe_id`. Batches keep the recipe they were made with.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such recipe here.
        Stale: the recipe was changed since version `given.version`.
    """
    with database.workspace(who.workspace_id) as session:
        name = _check(session, given)
        if recipe_id is None:
            recipe = tables.Recipe(workspace_id=who.workspace_id, version=0, components=[])
            session.add(recipe)
        else:
            recipe = load_recipe(session, recipe_id, lock=True)
            if recipe.version != given.version:
                raise Stale(
                    f"{recipe.name} was changed in another window since you opened this page. What you typed is "
                    "still here: open the newest in a second tab, compare, and save again."
                )
        recipe.name = name
        recipe.note = given.note.strip()
        recipe.version += 1
        known = {component.id: component for component in recipe.components}
        recipe.components = [_component(who, known, place, one) for place, one in enumerate(given.components)]
        session.flush()
        session.expire(recipe)
        return _view(session, load_recipe(session, recipe.id))


def archive_recipe(database: Database, who: SignedIn, recipe_id: uuid.UUID, now: datetime | None) -> None:
    """Take a recipe off the lists at `now`, or bring it back with None."""
    with database.workspace(who.workspace_id) as session:
        load_recipe(session, recipe_id, lock=True).archived_at = now


def load_recipe(session: Session, recipe_id: uuid.UUID, *, lock: bool = False) -> tables.Recipe:
    """The recipe row with components, lines and foods.

    Raises:
        Missing: there is no such recipe here.
    """
    query = _query().where(tables.Recipe.id == recipe_id)
    recipe = session.scalar(query.with_for_update() if lock else query)
    if recipe is None:
        raise Missing("There is no such recipe. It may have been removed in another window.")
    return recipe


def _query() -> Select[tables.Recipe]:
    lines = selectinload(tables.Recipe.components).selectinload(tables.Component.lines)
    return select(tables.Recipe).options(lines.joinedload(tables.Line.food))


def _brief(recipe: tables.Recipe) -> RecipeBrief:
    allergens = {key for c in recipe.components for line in c.lines for key in line.food.allergens}
    return RecipeBrief(
        id=recipe.id,
        name=recipe.name,
        note=recipe.note,
        components=[component.name for component in recipe.components],
        allergens=sorted(allergens),
    )


def _view(session: Session, recipe: tables.Recipe) -> RecipeView:
    larder = Larder.read(session, {line.food_id for c in recipe.components for line in c.lines})
    return RecipeView(
        id=recipe.id,
        name=recipe.name,
        note=recipe.note,
        version=recipe.version,
        components=[_component_view(larder, component, component.id) for component in recipe.components],
    )


def _component_view(
    larder: Larder, given: ComponentInput | tables.Component, component_id: uuid.UUID | None
) -> ComponentView:
    try:
        figures, trouble = ComponentFigures.of(larder.component(given)), None
    except CoreError as error:
        figures, trouble = None, sentence(str(error))
    return ComponentView(
        id=component_id,
        name=given.name,
        role=given.role,
        method=given.method,
        minimum_g=given.minimum_g,
        maximum_g=given.maximum_g,
        density_g_per_ml=given.density_g_per_ml,
        yield_low=given.yield_low,
        yield_expected=given.yield_expected,
        yield_high=given.yield_high,
        lines=[_line_view(larder, line, given) for line in given.lines],
        figures=figures,
        trouble=trouble,
        allergens=larder.allergens(given.lines),
        caution=larder.caution(given.lines, given.method),
    )


def _line_view(larder: Larder, given: LineLike, of: ComponentInput | tables.Component) -> LineView:
    food = larder.foods[given.food_id]
    expected = larder.expected_yield(given, of)
    try:
        edible = edible_g(given.purchased_g, given.refuse_share)
    except CoreError:
        edible = 0.0  # the component's trouble names the field
    return LineView(
        food=food_brief(food),
        purchased_g=given.purchased_g,
        refuse_share=given.refuse_share,
        retained_share=given.retained_share,
        yield_factor=given.yield_factor,
        edible_g=edible,
        cooked_g=edible * given.retained_share * expected.expected,
        expected=YieldView.of(expected),
        offered_refuse=larder.edible.get(given.food_id, []),
    )


def _larder(session: Session, given: RecipeInput, faults: Collector) -> Larder:
    larder = Larder.read(session, {line.food_id for component in given.components for line in component.lines})
    for place, component in enumerate(given.components):
        for number, line in enumerate(component.lines):
            if line.food_id not in larder.foods:
                faults.add(
                    f"/components/{place}/lines/{number}/food_id", "this food is not in your pantry; choose another"
                )
    return larder


def _check(session: Session, given: RecipeInput) -> str:
    faults = Collector()
    name = faults.text("/name", given.name, what="the recipe's name")
    if not given.components:
        faults.add("/components", "a recipe needs at least one component: a protein, a grain, vegetables, a sauce")
    larder = _larder(session, given, faults)
    faults.check()
    seen: set[str] = set()
    for place, component in enumerate(given.components):
        pointer = f"/components/{place}"
        title = faults.text(f"{pointer}/name", component.name, what="the component's name")
        if title.casefold() in seen:
            faults.add(f"{pointer}/name", f"two components are called {title}; tell them apart")
        seen.add(title.casefold())
        if component.role not in ROLES:
            faults.add(f"{pointer}/role", f"“{component.role}” is not one of {', '.join(ROLES)}")
        if component.method not in METHODS:
            faults.add(f"{pointer}/method", f"“{component.method}” is not one of {', '.join(METHODS)}")
        _check_limits(faults, pointer, component)
        for number, line in enumerate(component.lines):
            _check_line(faults, f"{pointer}/lines/{number}", larder.foods[line.food_id].name, line)
        if not faults.faults:
            with faults.located(pointer):
                larder.component(component)
    faults.check()
    return name


def _check_limits(faults: Collector, pointer: str, component: ComponentInput) -> None:
    for field in ("minimum_g", "maximum_g"):
        with faults.located(pointer):
            require_range(field, getattr(component, field), low=0, high=MAXIMUM_CELL_G, unit="g")
    if component.minimum_g > component.maximum_g:
        faults.add(
            f"{pointer}/minimum_g",
            f"the least, {component.minimum_g:g} g, is above the most, {component.maximum_g:g} g, per container",
        )
    with faults.located(pointer):
        require_range("density_g_per_ml", component.density_g_per_ml, low=0.05, high=2, unit="g per ml")


def _check_line(faults: Collector, pointer: str, food: str, line: LineInput) -> None:
    if not line.purchased_g > 0:
        faults.add(f"{pointer}/purchased_g", f"give {food} a weight above 0 g, or take the line out")
    elif line.purchased_g > 200_000:
        faults.add(f"{pointer}/purchased_g", f"{line.purchased_g:,.0f} g of {food} is more than 200 kg; check the unit")
    with faults.located(pointer):
        require_range("refuse_share", line.refuse_share, low=0, high=0.95, unit="of the line")
    with faults.located(pointer):
        require_range("retained_share", line.retained_share, low=0, high=1, unit="of the line")
    if line.yield_factor is not None:
        with faults.located(pointer):
            require_range("yield_factor", line.yield_factor, low=0, high=MAXIMUM_YIELD, unit="g cooked per g raw")


def _component(
    who: SignedIn, known: dict[uuid.UUID, tables.Component], position: int, given: ComponentInput
) -> tables.Component:
    component = known.get(given.id) if given.id else None
    if component is None:
        component = tables.Component(workspace_id=who.workspace_id)
    component.position = position
    component.name = given.name.strip()
    component.role = given.role
    component.method = given.method
    component.minimum_g = given.minimum_g
    component.maximum_g = given.maximum_g
    component.density_g_per_ml = given.density_g_per_ml
    component.yield_low = given.yield_low
    component.yield_expected = given.yield_expected
    component.yield_high = given.yield_high
    component.lines = [
        tables.Line(
            workspace_id=who.workspace_id,
            position=number,
            food_id=line.food_id,
            purchased_g=line.purchased_g,
            refuse_share=line.refuse_share,
            retained_share=line.retained_share,
            yield_factor=line.yield_factor,
        )
        for number, line in enumerate(given.lines)
    ]
    return component
