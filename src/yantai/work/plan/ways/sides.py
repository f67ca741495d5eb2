"""Foods beside the components."""

from __future__ import annotations

import itertools
from collections.abc import Iterator, Sequence
from dataclasses import replace

from sqlalchemy import or_, select

from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED
from yantai.core.foods.exclusions import Named, keeps_out
from yantai.core.planning import dishes as core
from yantai.core.planning.portioning import School
from yantai.core.portions.ways import sides
from yantai.core.speaking import weight
from yantai.store import tables
from yantai.work.batches.inputs import AddSide
from yantai.work.clients.kept_out import kept_from
from yantai.work.pantry.composition import food_composition, named, root_id
from yantai.work.plan.views import WayView
from yantai.work.plan.ways.missed import (
    MOST_OF_A_KIND,
    MOST_TRIED,
    MissedRow,
    is_proven,
    then_words,
    with_part,
)

_READY = ("as-sold", "canned-drained", "cooked")
_EATEN_RAW = ("fruit", "vegetables", "nuts-seeds", "fats-oils")
_NO_SIDE = ("herbs-spices", "sweeteners-baking", "protein-powders")

_STRANGE = "granola powder popcorn wine beer sake vinegar stock frozen dried"
"""Words of foods that nobody puts beside a meal to make its macros right."""

_SIDE = "extra"
_SOME_G = 50.0
"""What is bought of a food for each container while it is looked for; it is proven by what it then takes."""


def own_side_ways(missed: MissedRow) -> Iterator[WayView]:
    """Foods that the client eats beside the containers anyway."""
    day_extra = tables.DayExtra
    query = (
        select(tables.Food)
        .join(day_extra, day_extra.food_id == tables.Food.id)
        .where(day_extra.day_id.in_(select(tables.Day.id).where(tables.Day.client_id == missed.row.client_id)))
    )
    foods = list(dict.fromkeys(missed.session.scalars(query.order_by(tables.Food.name))))
    yield from itertools.islice(_added(missed, foods, "own extra"), MOST_OF_A_KIND)


def strange_side_ways(missed: MissedRow) -> Iterator[WayView]:
    """One food of the kitchen or the reference that is eaten as it is."""
    food = tables.Food
    query = select(food).where(
        food.superseded_by.is_(None),
        food.archived_at.is_(None),
        food.weak.is_(False),
        food.food_group.not_in(_NO_SIDE),
        or_(food.state.in_(_READY), (food.state == "raw") & food.food_group.in_(_EATEN_RAW)),
    )
    strange = _STRANGE.split()
    foods = [
        row
        for row in missed.session.scalars(query.order_by(food.name))
        if not any(keeps_out(word, Named(names=(row.name,))) for word in strange)
    ]
    yield from itertools.islice(_added(missed, foods, "extra"), 1)


def _added(missed: MissedRow, foods: Sequence[tables.Food], kind: str) -> Iterator[WayView]:
    """Each of these foods that meets the target beside the components, without what this client must avoid."""
    client, question = missed.row.client, missed.question
    offered = [
        food
        for food in foods
        if not kept_from(client, food) and not any(keeps_out(word, named(food)) for word in client.dislikes)
    ]
    rules = missed.computed.loaded.larder.rules
    held = [food_composition(one, rules) for one in offered]
    known = missed.prices(offered, _SOME_G * missed.row.count)
    prices = [known[one.id] for one in offered]
    for side in itertools.islice(sides(question.container, question.answer, held, prices), MOST_TRIED):
        chosen = offered[side.offer]
        if is_proven(missed, *_with_side(missed, chosen, side.grams)):
            yield WayView(
                kind=kind,
                title=f"Add {weight(side.grams)} of {chosen.name}",
                detail=then_words(missed.names, question.answer, side.portions),
                moved=side.moved,
                changes=[AddSide(row_id=missed.row.id, food_id=chosen.id, grams=side.grams)],
            )


def _with_side(
    missed: MissedRow, food: tables.Food, grams: float
) -> tuple[dict[str, core.Dish], list[core.ContainerClass]]:
    """The components and classes of the batch with some of a food beside the components of this row."""
    composition = food_composition(food, missed.computed.loaded.larder.rules)
    line = Line(name=food.name, purchased_g=100, composition=composition, yield_range=UNCHANGED, bought=root_id(food))
    part = core.Part(
        component=Component(name=food.name, lines=(line,), cooked=False),
        share=1,
        school=School.BY_EYE,
        density_g_per_ml=1.0,
    )
    classes = list(missed.computed.classes)
    mine = classes[missed.index]
    classes[missed.index] = replace(mine, pins={**mine.pins, _SIDE: grams})
    return with_part(missed, _SIDE, part), classes
