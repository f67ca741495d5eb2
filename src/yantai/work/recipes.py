"""Recipes: components with their lines, and the figures that follow from them."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace
from datetime import datetime

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, aliased, selectinload

from yantai.core.components import METHODS, ROLES
from yantai.core.edible import edible_g, is_offered
from yantai.core.errors import CoreError, require_range
from yantai.core.liquids import MAXIMUM_COOK_MIN
from yantai.core.mistakes import scaled_alone
from yantai.core.nutrients import NOTHING
from yantai.core.portioning import School, check_portioning
from yantai.core.portions.problem import MAXIMUM_CELL_G
from yantai.core.scaling import Scalable, factor_for, factor_for_packs, scaled
from yantai.core.speaking import exact_weight, heat, weight
from yantai.core.steps import read_step
from yantai.core.yields import MAXIMUM_YIELD, YieldRange
from yantai.formats.documents import StepDocument
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts import SignedIn
from yantai.work.errors import Collector, Invalid, Missing, Stale, located, sentence
from yantai.work.findings import Bookshelf, books, component_findings
from yantai.work.inputs import ComponentInput, LineInput, RecipeInput, ScaleInput, StepInput
from yantai.work.kitchen import Larder, LineLike, food_brief
from yantai.work.views import (
    AmountsView,
    ComponentFigures,
    ComponentView,
    EdibleView,
    FindingView,
    LineView,
    MendView,
    PartBrief,
    RecipeBrief,
    RecipeView,
    SourceBrief,
    StepView,
    YieldView,
)


def list_recipes(database: Database, who: SignedIn) -> list[RecipeBrief]:
    """All recipes that are not archived, by name."""
    with database.workspace(who.workspace_id) as session:
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
    query = _query().where(tables.Recipe.archived_at.is_(None)).order_by(tables.Recipe.name)
    return list(session.scalars(query))


def read_recipe(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> RecipeView:
    """One recipe with all figures.

    Raises:
        Missing: there is no such recipe here.
    """
    with database.workspace(who.workspace_id) as session:
        return _saved_view(session, load_recipe(session, recipe_id))


def preview_recipe(
    database: Database, who: SignedIn, given: RecipeInput, recipe_id: uuid.UUID | None = None
) -> RecipeView:
    """The figures of a recipe as it is typed, saved or not. A component that makes no sense says why.

    With `recipe_id` it is compared with what is saved: a sauce left behind when the rest was made larger is told.

    Raises:
        Invalid: a line names a food or component that is not here.
    """
    with database.workspace(who.workspace_id) as session:
        faults = Collector()
        larder = Larder.read(session, given.components)
        _check_contents(faults, larder, given)
        faults.check()
        saved = None if recipe_id is None else session.scalar(_query().where(tables.Recipe.id == recipe_id))
        return _view(session, larder, given, None, given.version or 0, _left_behind(saved, given))


def scale_recipe(database: Database, who: SignedIn, given: ScaleInput) -> RecipeView:
    """A recipe at another size, nothing saved: by factor, by what is on hand of a line, or to whole packs of it.

    Poured fat and pieces follow; lines marked not to scale stay.

    Raises:
        Invalid: no way of sizing is given, the line is not there, or a figure is out of range.
    """
    factor = _factor(given)
    with located(""):
        components = [_sized(component, factor) for component in given.recipe.components]
    return preview_recipe(database, who, replace(given.recipe, components=components))


def save_recipe(database: Database, who: SignedIn, given: RecipeInput, recipe_id: uuid.UUID | None) -> RecipeView:
    """Make a recipe, or change the one with `recipe_id`. Batches keep the recipe they were made with.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such recipe here.
        Stale: the recipe was changed since version `given.version`.
    """
    with database.workspace(who.workspace_id) as session:
        return _saved_view(session, store_recipe(session, who, given, recipe_id))


def store_recipe(
    session: Session, who: SignedIn, given: RecipeInput, recipe_id: uuid.UUID | None = None
) -> tables.Recipe:
    """The same inside a transaction; the row as it then is.

    Raises:
        Invalid, Missing, Stale: as `save_recipe`.
    """
    name = _check(session, given)
    if recipe_id is None:
        recipe = tables.Recipe(workspace_id=who.workspace_id, version=0, components=[], steps=[])
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
    used = _used_elsewhere(session, set(known) - {one.id for one in given.components}, recipe.id)
    if used:
        raise Invalid.at(
            "/components",
            f"{used[0]} is used in {used[1]}. Take it out there first, or keep it here.",
        )
    recipe.components = [_component(who, known, place, one) for place, one in enumerate(given.components)]
    recipe.steps = [_step(who, place, one) for place, one in enumerate(given.steps)]
    session.flush()
    session.expire_all()
    return load_recipe(session, recipe.id)


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
    return select(tables.Recipe).options(lines, selectinload(tables.Recipe.steps))


def _saved_view(session: Session, recipe: tables.Recipe) -> RecipeView:
    return _view(session, Larder.read(session, recipe.components), recipe, recipe.id, recipe.version, {})


def _view(
    session: Session,
    larder: Larder,
    given: RecipeInput | tables.Recipe,
    recipe_id: uuid.UUID | None,
    version: int,
    left_behind: dict[str, float],
) -> RecipeView:
    shelf = Bookshelf.read(session, larder)
    components = [_component_view(larder, shelf, component, left_behind) for component in given.components]
    steps = [step_view(step) for step in given.steps]
    return RecipeView(
        id=recipe_id, name=given.name, note=given.note, version=version, components=components, steps=steps
    )


def step_view(step: StepInput | tables.Step | StepDocument) -> StepView:
    """A step as it is shown, with what is odd about it."""
    apart = read_step(step.text).temperatures_apart
    trouble = (
        "" if apart is None else f"Two temperatures are stated: {heat(apart[0])} and {heat(apart[1])}. Which is it?"
    )
    return StepView(
        text=step.text,
        component=step.component,
        hands_on_min=step.hands_on_min,
        unattended_min=step.unattended_min,
        temperature_c=step.temperature_c,
        equipment=step.equipment,
        lead_min=step.lead_min,
        trouble=trouble,
    )


def _component_view(
    larder: Larder, shelf: Bookshelf, given: ComponentInput | tables.Component, left_behind: dict[str, float]
) -> ComponentView:
    made = None
    try:
        made = larder.component(given)
        figures, trouble = ComponentFigures.of(made, given.pan_capacity_g), None
    except CoreError as error:
        figures, trouble = None, sentence(str(error))
    found = component_findings(larder, shelf, given, given.role, made)
    if given.name in left_behind:
        found.append(_scaled_alone(given, left_behind[given.name]))
    return ComponentView(
        id=given.id,
        name=given.name,
        role=given.role,
        method=given.method,
        minimum_g=given.minimum_g,
        maximum_g=given.maximum_g,
        density_g_per_ml=given.density_g_per_ml,
        yield_low=given.yield_low,
        yield_expected=given.yield_expected,
        yield_high=given.yield_high,
        poured_fat_g=given.poured_fat_g,
        pieces=given.pieces,
        pan_capacity_g=given.pan_capacity_g,
        lid=given.lid,
        cook_min=given.cook_min,
        served=given.served,
        school=given.school,
        unit_g=given.unit_g,
        unit_part=given.unit_part,
        plate_share=given.plate_share,
        eye_g=given.eye_g,
        dismissed=given.dismissed,
        lines=_line_views(larder, shelf, given),
        figures=figures,
        trouble=trouble,
        findings=found,
        allergens=larder.allergens(given.lines),
        caution=larder.caution(given.lines, given.method),
    )


def _line_views(larder: Larder, shelf: Bookshelf, given: ComponentInput | tables.Component) -> list[LineView]:
    lines: Sequence[LineLike] = given.lines
    cooked = larder.expected_yields(given)
    return [_line_view(larder, shelf, line, given, expected) for line, expected in zip(lines, cooked, strict=True)]


def _line_view(
    larder: Larder,
    shelf: Bookshelf,
    given: LineLike,
    of: ComponentInput | tables.Component,
    expected: YieldRange,
) -> LineView:
    try:
        edible = edible_g(given.purchased_g, given.refuse_share)
        composition = larder.composition(given)
        amounts = composition.in_grams(edible * min(max(given.retained_share, 0), 1))
    except CoreError:
        edible, composition, amounts = 0.0, NOTHING, NOTHING  # the component's trouble names the field
    food = larder.foods[given.food_id] if given.food_id is not None else None
    source = None
    if given.source_id is not None:
        per_100g = AmountsView.of(composition)
        source = SourceBrief(id=given.source_id, name=larder.line_name(given), per_100g=per_100g)
    counted = larder.is_counted(given)
    return LineView(
        food=None if food is None else food_brief(food, larder.rules),
        source=source,
        purchased_g=given.purchased_g,
        refuse_share=given.refuse_share,
        refuse_after=given.refuse_after,
        retained_share=given.retained_share,
        yield_factor=given.yield_factor,
        text=given.text,
        weighed_state=given.weighed_state,
        counted=given.counted,
        free=given.counted and not counted,
        scales=given.scales,
        dismissed=given.dismissed,
        edible_g=edible,
        cooked_g=edible * given.retained_share * expected.expected,
        amounts=AmountsView.of(amounts if counted else NOTHING),
        expected=YieldView.of(expected),
        offered_refuse=[] if food is None else _offered_refuse(larder, food, given.text),
        books=books(larder, shelf, given, of),
    )


def _offered_refuse(larder: Larder, food: tables.Food, text: str) -> list[EdibleView]:
    """What may be taken off a line, where it says or implies the form that has it."""
    return [
        one
        for one in larder.edible.get(food.id, [])
        if is_offered(text, name=food.name, group=food.food_group, note=one.note)
    ]


def _left_behind(saved: tables.Recipe | None, given: RecipeInput) -> dict[str, float]:
    """Components that kept their size while others were made larger by one factor."""
    if saved is None:
        return {}
    return scaled_alone(
        {one.name: [line.purchased_g for line in one.lines if line.scales] for one in saved.components},
        {one.name: [line.purchased_g for line in one.lines if line.scales] for one in given.components},
    )


def _scaled_alone(given: ComponentInput | tables.Component, factor: float) -> FindingView:
    return FindingView(
        code="scaled-alone",
        words=(
            f"The rest of the recipe is {factor:.3g} times what was saved, and {given.name} is as it was. Scale it too?"
        ),
        line=None,
        mends=[MendView(words=f"Make it {factor:.3g} times", changes={"factor": factor})],
        assumption=False,
        dismissed=given.dismissed.get("scaled-alone"),
    )


def _factor(given: ScaleInput) -> float:
    """The factor that a way of sizing comes to."""
    if given.factor is not None:
        return given.factor
    try:
        line = given.recipe.components[given.component or 0].lines[given.line or 0]
    except IndexError:
        raise Invalid.at("/line", "This line is not in the recipe any more; choose another.") from None
    with located(""):
        if given.pack_g is not None:
            return factor_for_packs(line.purchased_g, given.pack_g, packs=given.packs)[0]
        if given.on_hand_g is not None:
            return factor_for(line.purchased_g, given.on_hand_g)
    raise Invalid.at("/factor", "Give a factor, the weight on hand, or a pack.")


def _sized(component: ComponentInput, factor: float) -> ComponentInput:
    lines = [Scalable(purchased_g=line.purchased_g, scales=line.scales) for line in component.lines]
    sized = scaled(lines, factor)
    return replace(
        component,
        poured_fat_g=component.poured_fat_g * factor,
        pieces=None if component.pieces is None else max(round(component.pieces * factor), 1),
        # The written text is of the old size, so it no longer speaks for the weight.
        lines=[
            replace(line, purchased_g=round(grams, 3), text="" if line.scales else line.text)
            for line, grams in zip(component.lines, sized, strict=True)
        ],
    )


def _check_contents(faults: Collector, larder: Larder, given: RecipeInput) -> None:
    """Note lines that hold neither a food nor a component that is here."""
    for place, component in enumerate(given.components):
        for number, line in enumerate(component.lines):
            pointer = f"/components/{place}/lines/{number}"
            if (line.food_id is None) == (line.source_id is None):
                faults.add(f"{pointer}/food_id", "choose a food, or another component")
            elif line.food_id is not None and line.food_id not in larder.foods:
                faults.add(f"{pointer}/food_id", "this food is not in your pantry; choose another")
            elif line.source_id is not None and line.source_id not in larder.sources:
                faults.add(f"{pointer}/source_id", "this component was removed; choose another")


def _used_elsewhere(session: Session, removed: set[uuid.UUID], recipe_id: uuid.UUID | None) -> tuple[str, str] | None:
    """The first of the removed components that another recipe is made of, and that recipe's name."""
    line, source, user = tables.Line, aliased(tables.Component), aliased(tables.Component)
    query = (
        select(source.name, tables.Recipe.name)
        .join(line, line.source_id == source.id)
        .join(user, user.id == line.component_id)
        .join(tables.Recipe, tables.Recipe.id == user.recipe_id)
        .where(source.id.in_(removed), tables.Recipe.id != recipe_id)
        .limit(1)
    )
    row = session.execute(query).first()
    return None if row is None else (row[0], row[1])


def _check(session: Session, given: RecipeInput) -> str:
    faults = Collector()
    name = faults.text("/name", given.name, what="the recipe's name")
    if not given.components:
        faults.add("/components", "a recipe needs at least one component: a protein, a grain, vegetables, a sauce")
    larder = Larder.read(session, given.components)
    _check_contents(faults, larder, given)
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
            _check_line(faults, f"{pointer}/lines/{number}", larder.line_name(line), line)
        if not faults.faults:
            with faults.located(pointer):
                larder.component(component)
    for place, step in enumerate(given.steps):
        _check_step(faults, f"/steps/{place}", step)
    if given.components and not any(component.served for component in given.components):
        faults.add("/components", "every component only goes into others; let at least one go into containers")
    faults.check()
    return name


def _check_step(faults: Collector, pointer: str, step: StepInput) -> None:
    faults.text(f"{pointer}/text", step.text, what="what to do in this step", longest=2000)
    minutes = (("hands_on_min", 1440), ("unattended_min", 2880), ("lead_min", 10_080))
    for field, most in minutes:
        value = getattr(step, field)
        if value is not None:
            with faults.located(pointer):
                require_range(field, value, low=0, high=most, unit="minutes")
    if step.temperature_c is not None:
        with faults.located(pointer):
            require_range("temperature_c", step.temperature_c, low=-30, high=500, unit="°C")


def _check_limits(faults: Collector, pointer: str, component: ComponentInput) -> None:
    with faults.located(pointer):
        require_range("minimum_g", component.minimum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
    if component.maximum_g is not None:
        with faults.located(pointer):
            require_range("maximum_g", component.maximum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
    if component.maximum_g is not None and component.minimum_g > component.maximum_g:
        faults.add(
            f"{pointer}/minimum_g",
            f"the least, {exact_weight(component.minimum_g)}, is above the most, {exact_weight(component.maximum_g)}, "
            "per container",
        )
    with faults.located(pointer):
        check_portioning(
            School(component.school),
            component.name,
            pieces=component.pieces,
            unit_g=component.unit_g,
            unit_part=component.unit_part,
            plate_share=component.plate_share,
            eye_g=component.eye_g,
        )
    with faults.located(pointer):
        require_range("density_g_per_ml", component.density_g_per_ml, low=0.05, high=2, unit="g per ml")
    if component.cook_min is not None:
        with faults.located(pointer):
            require_range("cook_min", component.cook_min, low=1, high=MAXIMUM_COOK_MIN, unit="minutes")
    if component.pan_capacity_g is not None:
        with faults.located(pointer):
            require_range("pan_capacity_g", component.pan_capacity_g, low=1, high=1_000_000, unit="g")


def _check_line(faults: Collector, pointer: str, food: str, line: LineInput) -> None:
    if not line.purchased_g >= 0 or (line.purchased_g == 0 and not line.text):
        faults.add(f"{pointer}/purchased_g", f"give {food} a weight above 0 g, or take the line out")
    elif line.purchased_g > 200_000:
        faults.add(
            f"{pointer}/purchased_g", f"{weight(line.purchased_g)} of {food} is more than 200 kg; check the unit"
        )
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
        component = tables.Component(workspace_id=who.workspace_id, id=given.id or uuid.uuid4())
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
    component.poured_fat_g = given.poured_fat_g
    component.pieces = given.pieces
    component.pan_capacity_g = given.pan_capacity_g
    component.lid = given.lid
    component.cook_min = given.cook_min
    component.served = given.served
    component.school = given.school
    component.unit_g = given.unit_g
    component.unit_part = given.unit_part
    component.plate_share = given.plate_share
    component.eye_g = given.eye_g
    component.dismissed = given.dismissed
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
        for number, line in enumerate(given.lines)
    ]
    return component


def _step(who: SignedIn, position: int, given: StepInput) -> tables.Step:
    return tables.Step(
        workspace_id=who.workspace_id,
        position=position,
        component=given.component,
        text=given.text.strip(),
        hands_on_min=given.hands_on_min,
        unattended_min=given.unattended_min,
        temperature_c=given.temperature_c,
        equipment=given.equipment.strip(),
        lead_min=given.lead_min,
    )
