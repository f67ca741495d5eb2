"""The answer to a plan document, as JSON and as the fill sheet in CSV."""

from __future__ import annotations

import csv
import io
import math
from dataclasses import replace
from typing import Literal

from yantai.core.cooking.components import Component
from yantai.core.cooking.doubts import doubt
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import Amounts, Nutrient
from yantai.core.planning.plan import ContainerClass, Part, Plan, plan, untold
from yantai.core.portions import Portions
from yantai.core.portions.words import binding_words
from yantai.formats.plan_document import BadPlan, DocumentModel, PlanDocument, Problem, core_classes, core_parts


class ResultContainer(DocumentModel):
    """One of `count` equal containers: grams by component, what they hold, and what is missed beyond the tolerance.

    `unknown` are figures that an ingredient does not state, so that nobody can say whether they are met;
    `contradictions` components whose least and most leave no step between them.
    """

    name: str
    count: int
    grams: dict[str, float]
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


class ResultIngredient(DocumentModel):
    """What to buy and to weigh in [g]."""

    name: str
    purchased_g: float
    edible_g: float


class ResultComponent(DocumentModel):
    """The chain of one pot [g].

    `lacking_g` is what a weighed pot lacks for what was pinned, `over_g` what found no place in the containers although
    all of it was to go there; `doubts` are likely causes of a cooked weight that is hard to believe.
    """

    key: str
    name: str
    needed_g: float
    cooked_g: float
    cooked_low_g: float
    cooked_high_g: float
    spare_g: float
    lacking_g: float
    over_g: float
    ingredients: list[ResultIngredient]
    doubts: list[str]


class ResultExtra(DocumentModel):
    """Containers that the leftovers would fill, and the grams of each."""

    count: int
    grams: dict[str, float]


class PlanResult(DocumentModel):
    """What comes out of a plan document."""

    format: Literal["yantai-plan-result"] = "yantai-plan-result"
    version: Literal[1] = 1
    name: str
    all_met: bool
    containers: list[ResultContainer]
    components: list[ResultComponent]
    extra: ResultExtra | None


def compute_plan(document: PlanDocument) -> PlanResult:
    """Compute a plan document.

    Raises:
        BadPlan: a figure makes no sense to the core; it is located.
    """
    parts = core_parts(document)
    classes = core_classes(document)
    problems = [
        Problem(
            f"/containers/{index}/target",
            f"nothing says how much {' and '.join(parts[key].component.name for key in keys)} goes in: give a target, "
            "or pins",
        )
        for index, keys in enumerate(untold(parts, each) for each in classes)
        if keys
    ]
    if problems:
        raise BadPlan(problems)
    try:
        answer = plan(
            parts,
            classes,
            step_g=document.step_g,
            buffer_share=document.buffer_share,
            sharing=document.sharing,
            leftover=document.leftover,
        )
    except CoreError as error:
        raise BadPlan([Problem(f"/{error.field}", str(error))]) from None
    return PlanResult(
        name=document.name,
        all_met=answer.all_met,
        containers=[
            _container(named.name, each, portion, parts)
            for named, each, portion in zip(document.containers, classes, answer.portions, strict=True)
        ],
        components=[_component(key, answer) for key in parts],
        extra=_extra(answer),
    )


def _container(name: str, each: ContainerClass, portion: Portions, parts: dict[str, Part]) -> ResultContainer:
    names = [part.component.name for part in parts.values()]
    grams = dict(zip(parts, portion.grams, strict=True))
    return ResultContainer(
        name=name,
        count=each.count,
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
    )


def _component(key: str, answer: Plan) -> ResultComponent:
    need = answer.needs[key]
    return ResultComponent(
        key=key,
        name=need.part.component.name,
        needed_g=_shown(need.needed_g),
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


def _extra(answer: Plan) -> ResultExtra | None:
    if answer.extra is None:
        return None
    return ResultExtra(
        count=answer.extra.count, grams={key: _shown(grams) for key, grams in answer.extra.grams.items()}
    )


def _amounts(amounts: Amounts) -> dict[str, float]:
    return {nutrient.value: _shown(value) for nutrient, value in amounts}


def _shown(value: float) -> float:
    """Milligrams are the finest step of the document."""
    return round(value, 3) + 0.0 if math.isfinite(value) else value


def fill_sheet_csv(document: PlanDocument, result: PlanResult) -> str:
    """The fill sheet: a row per class of containers, a column of grams per component, then what one container holds."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    macros = (Nutrient.KCAL, Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT)
    grams = [f"{_cell(component.name)} [g]" for component in document.components]
    writer.writerow(["container", "count", *grams, *(nutrient.value for nutrient in macros), "met"])
    for container in result.containers:
        row = [container.grams[component.key] for component in document.components]
        held = [container.holds[nutrient.value] for nutrient in macros]
        writer.writerow([_cell(container.name), container.count, *row, *held, "yes" if container.met else "no"])
    return out.getvalue()


def _cell(text: str) -> str:
    """A text that no spreadsheet takes for a formula."""
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text
