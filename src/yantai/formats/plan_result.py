"""The answer to a plan document, as JSON and as the fill sheet in CSV."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Mapping
from dataclasses import replace
from typing import Literal

from yantai.core.cooking.components import Component
from yantai.core.cooking.doubts import doubt
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import Amounts, Nutrient
from yantai.core.planning.dishes import ContainerClass, Dish, untold
from yantai.core.planning.plan import Plan, plan
from yantai.core.planning.portioning import Place
from yantai.core.portions import Portions
from yantai.core.portions.words import binding_words
from yantai.formats.plan_document import (
    BadPlan,
    DocumentModel,
    PlanDocument,
    Problem,
    core_classes,
    core_dishes,
)
from yantai.formats.tables import unformulated


class ResultContainer(DocumentModel):
    """One of `count` equal containers of a dish: grams by component, what they hold, and what is missed beyond the
    tolerance.

    `stop` says between which grams filling of each may stop: then no figure leaves its band. `beside` are components
    in a tub of their own, `at_eating` those that are added then; both count in what it holds. `open_groups` are groups
    of the dish of which it is not said what goes in. `unknown` are figures that an ingredient does not state, so that
    nobody can say whether they are met; `contradictions` components whose least and most leave no step between them.
    """

    name: str
    dish: str
    count: int
    grams: dict[str, float]
    stop: dict[str, tuple[float, float]]
    beside: list[str]
    at_eating: list[str]
    open_groups: list[str]
    units: dict[str, float]
    estimated: list[str]
    holds: dict[str, float]
    at_least: list[str]
    met: bool
    misses: dict[str, float]
    unknown: list[str]
    contradictions: list[str]
    held_by: list[str]
    volume_ml: float
    overfull_ml: float
    overfull_g: float
    cost: float | None = None
    has_unpriced: bool = False


class ResultIngredient(DocumentModel):
    """What to buy and to weigh in [g]."""

    name: str
    purchased_g: float
    edible_g: float


class ResultComponent(DocumentModel):
    """The chain of one pot [g], and what each dish takes of it.

    `fresh_g` is added at eating and comes out of no pot.
    `lacking_g` is what a weighed pot lacks for what was pinned, `over_g` what found no place in the containers although
    all of it was to go there; `doubts` are likely causes of a cooked weight that is hard to believe.
    """

    key: str
    name: str
    needed_g: float
    fresh_g: float
    by_dish_g: dict[str, float]
    cooked_g: float
    cooked_low_g: float
    cooked_high_g: float
    spare_g: float
    lacking_g: float
    over_g: float
    ingredients: list[ResultIngredient]
    doubts: list[str]


class ResultExtra(DocumentModel):
    """Containers of a dish that the leftovers would fill, and the grams of each."""

    dish: str
    count: int
    grams: dict[str, float]


class PlanResult(DocumentModel):
    """What comes out of a plan document."""

    format: Literal["yantai-plan-result"] = "yantai-plan-result"
    version: Literal[2] = 2
    name: str
    all_met: bool
    containers: list[ResultContainer]
    components: list[ResultComponent]
    extra: list[ResultExtra]


def compute_plan(document: PlanDocument) -> PlanResult:
    """Compute a plan document.

    Raises:
        BadPlan: a figure makes no sense to the core; it is located.
    """
    dishes = core_dishes(document)
    classes = core_classes(document)
    problems = [
        Problem(
            f"/containers/{index}/target",
            f"nothing says how much {' and '.join(silent)} goes in: give a target, or pins",
        )
        for index, each in enumerate(classes)
        if (silent := _untold_names(dishes[each.dish], each))
    ]
    if problems:
        raise BadPlan(problems)
    try:
        answer = plan(
            dishes,
            classes,
            step_g=document.step_g,
            buffer_share=document.buffer_share,
            sure_share=document.sure_share,
            sharing=document.sharing,
            leftover=document.leftover,
        )
    except CoreError as error:
        raise BadPlan([Problem(f"/{error.field}", str(error))]) from None
    return PlanResult(
        name=document.name,
        all_met=answer.all_met,
        containers=[
            _container(named.name, each, portion, dishes[each.dish], answer.stops(index))
            for index, (named, each, portion) in enumerate(
                zip(document.containers, classes, answer.portions, strict=True)
            )
        ],
        components=[_component(component.key, answer) for component in document.components],
        extra=_extra(answer),
    )


def _untold_names(dish: Dish, each: ContainerClass) -> list[str]:
    return [dish.parts[key].component.name for key in untold(dish, each)]


def _container(
    name: str, each: ContainerClass, portion: Portions, dish: Dish, stops: Mapping[str, tuple[float, float]]
) -> ResultContainer:
    parts = dish.parts
    names = [part.component.name for part in parts.values()]
    grams = dict(zip(parts, portion.grams, strict=True))
    return ResultContainer(
        name=name,
        dish=each.dish,
        count=each.count,
        stop={key: (_shown(low), _shown(high)) for key, (low, high) in stops.items()},
        beside=[key for key, part in parts.items() if part.place is Place.BESIDE],
        at_eating=[key for key, part in parts.items() if part.place is Place.AT_EATING],
        open_groups=dish.open_groups(each),
        grams={key: _shown(value) for key, value in grams.items()},
        units={key: _shown(grams[key] / part.one_g) for key, part in parts.items() if part.is_counted and part.one_g},
        estimated=[key for key, part in parts.items() if part.is_estimated],
        holds=_amounts(portion.amounts),
        at_least=sorted(nutrient.value for nutrient in portion.amounts.at_least),
        met=portion.met,
        misses={nutrient.value: _shown(miss) for nutrient, miss in portion.misses.items() if miss},
        unknown=sorted(nutrient.value for nutrient in portion.unknown),
        contradictions=[list(parts)[index] for index in portion.contradictions],
        held_by=[binding_words(binding, names) for binding in portion.bindings],
        volume_ml=_shown(portion.volume_ml),
        overfull_ml=_shown(portion.overfull_ml),
        overfull_g=_shown(portion.overfull_g),
        cost=None if each.budget is None else round(portion.cost, 4),
        has_unpriced=portion.has_unpriced if each.budget is not None else False,
    )


def _component(key: str, answer: Plan) -> ResultComponent:
    need = answer.needs[key]
    return ResultComponent(
        key=key,
        name=need.part.component.name,
        needed_g=_shown(need.needed_g),
        fresh_g=_shown(need.fresh_g),
        by_dish_g={dish: _shown(grams) for dish, grams in need.by_dish_g.items()},
        cooked_g=_shown(need.cooked_g),
        cooked_low_g=_shown(need.cooked_low_g),
        cooked_high_g=_shown(need.cooked_high_g),
        spare_g=_shown(need.spare_g),
        lacking_g=_shown(answer.lacking_g.get(key, 0.0)),
        over_g=_shown(answer.over_g.get(key, 0.0)),
        ingredients=[
            ResultIngredient(name=line.name, purchased_g=_shown(line.purchased_g), edible_g=_shown(line.edible_g))
            for line in need.lines
        ],
        doubts=_doubts(need.part.component),
    )


def _doubts(component: Component) -> list[str]:
    if not component.measured_g:
        return []
    found = doubt(replace(component, measured_g=None), [VesselWeight(gross_g=component.measured_g)])
    return [] if found is None else [cause.words for cause in found.causes]


def _extra(answer: Plan) -> list[ResultExtra]:
    return [
        ResultExtra(dish=dish, count=extra.count, grams={key: _shown(grams) for key, grams in extra.grams.items()})
        for dish, extra in (answer.extra or {}).items()
    ]


def _amounts(amounts: Amounts) -> dict[str, float]:
    return {nutrient.value: _shown(value) for nutrient, value in amounts}


def _shown(value: float) -> float:
    """Milligrams are the finest step of the document."""
    return round(value, 3) + 0.0 if math.isfinite(value) else value


def fill_sheet_csv(document: PlanDocument, result: PlanResult) -> str:
    """The fill sheet: a line for each container, those of people who must not eat something first. For each component
    its grams, what the scale then shows without taring, between which grams filling may stop, and room for what was
    filled; then what one container holds."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    macros = (Nutrient.KCAL, Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT)
    dishes = {dish.key: dish.name for dish in document.dishes}
    heads = [
        f"{unformulated(component.name)}{what}"
        for component in document.components
        for what in (" [g]", ", running total [g]", ", stop from [g]", ", stop to [g]", ", filled [g]")
    ]
    writer.writerow(["dish", "container", "number", "of", *heads, *(nutrient.value for nutrient in macros), "met"])
    told = sorted(zip(document.containers, result.containers, strict=True), key=lambda pair: not pair[0].left_out)
    for _, container in told:
        row: list[object] = []
        total = 0.0
        for component in document.components:
            key = component.key
            if key not in container.grams:
                row += [""] * 5
                continue
            grams = container.grams[key]
            inside = key not in container.beside and key not in container.at_eating
            total += grams if inside else 0.0
            low, high = container.stop.get(key, ("", ""))
            row += [grams, _shown(total) if inside else "", low, high, ""]
        held = [container.holds[nutrient.value] for nutrient in macros]
        dish = unformulated(dishes.get(container.dish, document.name))
        for number in range(1, container.count + 1):
            of_one = [dish, unformulated(container.name), number, container.count]
            writer.writerow([*of_one, *row, *held, "yes" if container.met else "no"])
    return out.getvalue()
