"""Recipes as views, with the figures that follow from their lines."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import asdict

from sqlalchemy.orm import Session

from yantai.core.cooking.mistakes import scaled_alone
from yantai.core.cooking.yields import YieldRange
from yantai.core.errors import CoreError
from yantai.core.foods.edible import edible_g, is_offered
from yantai.core.foods.intake import still_says
from yantai.core.foods.nutrients import NOTHING
from yantai.store import tables
from yantai.work.common.errors import sentence
from yantai.work.common.views import AmountsView, YieldView
from yantai.work.pantry.composition import food_brief
from yantai.work.pantry.views import EdibleView
from yantai.work.recipes.findings import Bookshelf, books, component_findings
from yantai.work.recipes.inputs import ComponentInput, RecipeInput
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.steps import steps_shown
from yantai.work.recipes.views import (
    ComponentFigures,
    ComponentView,
    FindingView,
    LineView,
    MendView,
    RecipeView,
    SourceBrief,
)
from yantai.work.recipes.written import LineLike


def recipe_view(
    session: Session,
    larder: Larder,
    recipe: RecipeInput | tables.Recipe,
    recipe_id: uuid.UUID | None,
    version: int,
    left_behind: dict[str, float],
) -> RecipeView:
    """A recipe, stored or sent, with every figure; `left_behind` are components that did not scale with it."""
    shelf = Bookshelf.read(session, larder)
    components = [_component_view(larder, shelf, component, left_behind) for component in recipe.components]
    return RecipeView(
        id=recipe_id,
        name=recipe.name,
        note=recipe.note,
        serves=recipe.serves,
        groups=recipe.groups,
        version=version,
        components=components,
        steps=steps_shown(recipe),
    )


def _component_view(
    larder: Larder, shelf: Bookshelf, component: ComponentInput | tables.Component, left_behind: dict[str, float]
) -> ComponentView:
    made = None
    try:
        made = larder.component(component)
        figures, trouble = ComponentFigures.of(made, component.pan_capacity_g), None
    except CoreError as error:
        figures, trouble = None, sentence(str(error))
    found = component_findings(larder, shelf, component, component.role, made)
    if component.name in left_behind:
        found.append(_scaled_alone_view(component, left_behind[component.name]))
    return ComponentView(
        id=component.id,
        name=component.name,
        role=component.role,
        method=component.method,
        **asdict(component.portioning),
        density_g_per_ml=component.density_g_per_ml,
        yield_low=component.yield_low,
        yield_expected=component.yield_expected,
        yield_high=component.yield_high,
        poured_fat_g=component.poured_fat_g,
        pieces=component.pieces,
        pan_capacity_g=component.pan_capacity_g,
        lid=component.lid,
        cook_min=component.cook_min,
        served=component.served,
        packed_raw=component.packed_raw,
        kit_text=component.kit_text,
        whole_pans=component.whole_pans,
        dismissed=component.dismissed,
        lines=_line_views(larder, shelf, component),
        figures=figures,
        trouble=trouble,
        findings=found,
        allergens=larder.allergens(component.lines),
        caution=larder.caution(component.lines, component.method),
    )


def _line_views(larder: Larder, shelf: Bookshelf, component: ComponentInput | tables.Component) -> list[LineView]:
    lines: Sequence[LineLike] = component.lines
    cooked = larder.expected_yields(component)
    return [_line_view(larder, shelf, line, component, expected) for line, expected in zip(lines, cooked, strict=True)]


def _line_view(
    larder: Larder,
    shelf: Bookshelf,
    line: LineLike,
    of: ComponentInput | tables.Component,
    expected: YieldRange,
) -> LineView:
    try:
        edible = edible_g(line.purchased_g, line.refuse_share)
        composition = larder.composition(line)
        amounts = composition.in_grams(edible * min(max(line.retained_share, 0), 1))
    except CoreError:
        edible, composition, amounts = 0.0, NOTHING, NOTHING  # the component's trouble names the field
    food = larder.foods[line.food_id] if line.food_id is not None else None
    source = None
    if line.source_id is not None:
        per_100g = AmountsView.of(composition)
        source = SourceBrief(id=line.source_id, name=larder.line_name(line), per_100g=per_100g)
    counted = larder.is_counted(line)
    return LineView(
        food=None if food is None else food_brief(food, larder.rules),
        source=source,
        purchased_g=line.purchased_g,
        refuse_share=line.refuse_share,
        refuse_after=line.refuse_after,
        retained_share=line.retained_share,
        yield_factor=line.yield_factor,
        text=line.text,
        as_written=food is not None and _is_as_written(shelf, line, food),
        weighed_state=line.weighed_state,
        counted=line.counted,
        free=line.counted and not counted,
        scales=line.scales,
        dismissed=line.dismissed,
        edible_g=edible,
        cooked_g=edible * line.retained_share * expected.expected,
        amounts=AmountsView.of(amounts if counted else NOTHING),
        expected=YieldView.of(expected),
        offered_refuse=[] if food is None else _offered_refuse(larder, food, line.text),
        books=books(larder, shelf, line, of),
    )


def _is_as_written(shelf: Bookshelf, line: LineLike, food: tables.Food) -> bool:
    measures = shelf.measures.get(food.id, ())
    return bool(line.text) and still_says(line.text, line.purchased_g, measures, spoons=shelf.spoons)


def _offered_refuse(larder: Larder, food: tables.Food, text: str) -> list[EdibleView]:
    """What may be taken off a line, where it says or implies the form that has it."""
    return [
        one
        for one in larder.edible.get(food.id, [])
        if is_offered(text, name=food.name, group=food.food_group, note=one.note)
    ]


def left_behind(saved: tables.Recipe | None, payload: RecipeInput) -> dict[str, float]:
    """Components that kept their size while others were made larger by one factor."""
    if saved is None:
        return {}
    return scaled_alone(
        {
            component.name: [line.purchased_g for line in component.lines if line.scales]
            for component in saved.components
        },
        {
            component.name: [line.purchased_g for line in component.lines if line.scales]
            for component in payload.components
        },
    )


def _scaled_alone_view(component: ComponentInput | tables.Component, factor: float) -> FindingView:
    return FindingView(
        code="scaled-alone",
        words=(
            f"The rest of the recipe is {factor:.3g} times what was saved, and {component.name} is as it was. "
            "Scale it too?"
        ),
        line=None,
        mends=[MendView(words=f"Make it {factor:.3g} times", changes={"factor": factor})],
        assumption=False,
        dismissed=component.dismissed.get("scaled-alone"),
    )
