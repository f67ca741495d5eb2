"""A batch as a plan document: what the core computes with, in the open format."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from yantai.core.components import Line
from yantai.core.liquids import Lid
from yantai.core.nutrients import Amounts
from yantai.core.plan import ContainerClass, Leftover, Pan
from yantai.core.portions import Sharing
from yantai.core.yields import YieldRange
from yantai.formats.plan_document import (
    Composition,
    DocumentComponent,
    DocumentContainers,
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
    allergens: Sequence[Sequence[str]]


@dataclass(frozen=True, slots=True, kw_only=True)
class Eater:
    """Whose containers a class is."""

    name: str
    client: str
    slot: str
    day_type: str


def plan_document(
    name: str,
    pans: Mapping[str, Pan],
    classes: Sequence[tuple[Eater, ContainerClass]],
    told: Mapping[str, Told],
    *,
    step_g: float,
    buffer_share: float,
    sharing: Sharing,
    leftover: Leftover,
) -> PlanDocument:
    """The document of pans by key, with what is told of each, and of classes with whose containers they are.

    What rounding of labels leaves open is not written: the figures are those that the core counts with.
    """
    return PlanDocument(
        format="yantai-plan",
        version=1,
        name=name,
        step_g=step_g,
        buffer_share=buffer_share,
        sharing=sharing,
        leftover=leftover,
        components=[_component(key, pan, told[key]) for key, pan in pans.items()],
        containers=[_containers(eater, each) for eater, each in classes],
    )


def _component(key: str, pan: Pan, told: Told) -> DocumentComponent:
    component = pan.component
    return DocumentComponent(
        key=key,
        name=component.name,
        role=told.role,
        method=told.method,
        lid=told.lid,
        cook_min=told.cook_min,
        school=pan.school,
        ingredients=[
            _ingredient(line, cooks, allergens)
            for line, cooks, allergens in zip(component.lines, component.line_yields, told.allergens, strict=True)
        ],
        cooks=None if component.set_yield is None else _yield(component.set_yield),
        cooked=component.cooked,
        cooked_g=component.measured_g,
        poured_fat_g=component.poured_fat_g,
        raw_fixed=pan.raw_fixed,
        share_g=pan.share,
        minimum_g=pan.minimum_g,
        maximum_g=pan.maximum_g,
        density_g_per_ml=pan.density_g_per_ml,
        pieces=component.pieces,
        unit_g=pan.unit_g,
        unit_part=pan.unit_part,
        plate_share=pan.plate_share,
        eye_g=pan.eye_g,
    )


def _ingredient(line: Line, cooks: YieldRange, allergens: Sequence[str]) -> Ingredient:
    return Ingredient(
        name=line.name,
        allergens=list(allergens),
        purchased_g=line.purchased_g,
        per_100g=_composition(line.composition),
        refuse_share=line.refuse_share,
        refuse_after=line.refuse_after,
        retained_share=line.retained_share,
        counted=line.counted,
        role=line.role,
        cooks=_yield(cooks),
    )


def _composition(amounts: Amounts) -> Composition:
    return Composition(
        **{nutrient.value: None if nutrient in amounts.at_least else value for nutrient, value in amounts}
    )


def _yield(given: YieldRange) -> Yield:
    return Yield(low=given.low, expected=given.expected, high=given.high)


def _containers(eater: Eater, each: ContainerClass) -> DocumentContainers:
    target = each.target
    tolerance = each.tolerance
    return DocumentContainers(
        name=eater.name,
        client=eater.client,
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
        pins=dict(each.pins),
        left_out=sorted(each.left_out),
    )
