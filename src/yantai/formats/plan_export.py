"""A batch as a plan document: what the core computes with, in the open format."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from yantai.core.cooking.components import Line
from yantai.core.cooking.liquids import Lid
from yantai.core.cooking.yields import YieldRange
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.planning.dishes import ContainerClass, Dish, Part, pots_of
from yantai.core.planning.plan import Leftover
from yantai.core.portions import Sharing
from yantai.formats.plan_document import (
    NEWEST,
    Between,
    Composition,
    DocumentComponent,
    DocumentContainers,
    DocumentDish,
    DocumentPart,
    DocumentStep,
    DocumentTarget,
    DocumentTolerance,
    Ingredient,
    PlanDocument,
    Yield,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Told:
    """What people want to know of a component beside its figures; `allergens` are those of each line."""

    role: str
    method: str
    lid: Lid
    cook_min: float | None
    kit_text: str
    allergens: Sequence[Sequence[str]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Eater:
    """Whose containers a class is."""

    name: str
    client: str
    slot: str
    day_type: str
    client_id: uuid.UUID


def plan_document(
    name: str,
    dishes: Mapping[str, Dish],
    classes: Sequence[tuple[Eater, ContainerClass]],
    told: Mapping[str, Told],
    *,
    step_g: float,
    buffer_share: float,
    sure_share: float | None,
    budget: float | None,
    sharing: Sharing,
    leftover: Leftover,
    steps: Sequence[DocumentStep] = (),
) -> PlanDocument:
    """The document of dishes by key, of components in the order in which they are told, and of classes with whose
    containers they are."""
    pots = pots_of(dishes)
    return PlanDocument(
        format="yantai-plan",
        version=NEWEST,
        name=name,
        step_g=step_g,
        buffer_share=buffer_share,
        sure_share=sure_share,
        budget=budget,
        sharing=sharing,
        leftover=leftover,
        components=[_component(key, pots[key], of) for key, of in told.items() if key in pots],
        dishes=[_dish(key, dish) for key, dish in dishes.items()],
        containers=[_containers(eater, each) for eater, each in classes],
        steps=list(steps),
    )


def _component(key: str, part: Part, told: Told) -> DocumentComponent:
    component = part.component
    return DocumentComponent(
        key=key,
        name=component.name,
        role=told.role,
        method=told.method,
        lid=told.lid,
        cook_min=told.cook_min,
        ingredients=[
            _ingredient(line, cooks, allergens)
            for line, cooks, allergens in zip(component.lines, component.line_yields, told.allergens, strict=True)
        ],
        cooks=None if component.set_yield is None else _yield(component.set_yield),
        cooked=component.cooked,
        cooked_g=component.measured_g,
        poured_fat_g=component.poured_fat_g,
        raw_fixed=part.raw_fixed,
        density_g_per_ml=part.density_g_per_ml,
        pieces=component.pieces,
        packed_raw=part.packed_raw,
        kit_text=told.kit_text,
        whole_pans=part.whole_pans,
    )


def _dish(key: str, dish: Dish) -> DocumentDish:
    return DocumentDish(
        key=key,
        name=dish.name or "Dish",
        groups=dict(dish.groups),
        parts=[
            DocumentPart(
                component=component,
                school=part.school,
                share_g=part.share,
                minimum_g=part.bounds.minimum_g,
                maximum_g=part.bounds.maximum_g,
                unit_g=part.unit_g,
                unit_part=part.unit_part,
                plate_share=part.plate_share,
                eye_g=part.eye_g,
                place=part.place,
                tub_ml=part.tub_ml,
                takes_g=part.takes_g,
                group=part.group,
            )
            for component, part in dish.parts.items()
        ],
    )


def _ingredient(line: Line, cooks: YieldRange, allergens: Sequence[str]) -> Ingredient:
    return Ingredient(
        name=line.name,
        allergens=list(allergens),
        purchased_g=line.purchased_g,
        per_100g=_composition(line.composition),
        between=_between(line.composition),
        refuse_share=line.refuse_share,
        refuse_after=line.refuse_after,
        retained_share=line.retained_share,
        counted=line.counted,
        role=line.role,
        cooks=_yield(cooks),
        price=line.price,
    )


def _composition(amounts: Amounts) -> Composition:
    return Composition(
        **{nutrient.value: None if nutrient in amounts.at_least else value for nutrient, value in amounts}
    )


def _between(amounts: Amounts) -> dict[Nutrient, Between]:
    open_by = zip(NUTRIENTS, amounts.uncertainty or (), strict=False)
    return {nutrient: Between(below=below, above=above) for nutrient, (below, above) in open_by if below or above}


def _yield(found: YieldRange) -> Yield:
    return Yield(low=found.low, expected=found.expected, high=found.high)


def _containers(eater: Eater, each: ContainerClass) -> DocumentContainers:
    target = each.target
    tolerance = each.tolerance
    return DocumentContainers(
        name=eater.name,
        client=eater.client,
        client_id=eater.client_id,
        dish=each.dish,
        slot=eater.slot,
        day_type=eater.day_type,
        count=each.count,
        target=DocumentTarget(**{n.value: v for n, v in {**target.aims, **target.limits}.items()}),
        tolerance=DocumentTolerance(
            **{name: getattr(tolerance, name) for name in DocumentTolerance.model_fields},
        ),
        capacity_ml=each.capacity_ml,
        capacity_g=each.capacity_g,
        plate_g=each.plate_g,
        rank=each.rank,
        helping=each.helping,
        pins=dict(each.pins),
        left_out=sorted(each.left_out),
        chosen=sorted(each.chosen),
    )
