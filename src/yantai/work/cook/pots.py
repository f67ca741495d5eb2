"""The components of a batch as they are cooked on its day."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from yantai.core.cooking.cautions import core_kind
from yantai.core.cooking.components import LineRole, Role
from yantai.core.cooking.steps import read_step
from yantai.core.schedule.cautions import step_cautions
from yantai.core.schedule.cooked import Cooked
from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import KIND_WORDS, Fare
from yantai.core.schedule.propose import Ingredient, delicate, propose
from yantai.core.schedule.steps import Step, kind_of
from yantai.store import tables
from yantai.work.batches.loading import Loaded
from yantai.work.batches.views import PlanComponentView, PlanView
from yantai.work.cook.reference import usual_times
from yantai.work.pantry.composition import line_role
from yantai.work.pantry.safety import core_celsius

_MEATS = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs")
_DRY = ("grains-pasta", "legumes")
_CUTS = ("slice", "dice", "chop", "peel", "cut ", "trim", "grate", "shred", "cube")
_TO_A_WEIGHT = (Role.SAUCE, Role.MIXED, Role.GRAIN)
"""What is cooked down or up to a weight: sauces, stews, risottos."""
UNSAID_MIN = 5.0
"""A step that says no time is taken to be so long [min]; it is told, and asked."""


@dataclass(frozen=True, kw_only=True)
class Pot:
    """A component with what is said where it is cooked.

    `written_raw_g` is what goes into the pan for the amount that the component was written for [g]. `learns_as` is what
    its minutes tell about; `until_g` what is in the pan when it is done [g], of what is cooked down or up to a weight.
    """

    cooked: Cooked
    component_id: uuid.UUID
    is_proposed: bool
    core_c: float | None
    is_rice: bool
    cautions: dict[str, list[str]]
    assumed: dict[str, list[str]]
    asks: list[str]
    learns_as: str
    written_raw_g: float
    until_g: float | None
    weighed_at: datetime | None


def pots_of(loaded: Loaded, plan: PlanView, *, with_weighed: bool = False) -> list[Pot]:
    """What is to be cooked of a batch: without what is out of the plan, or bought ready to eat; what is weighed only
    `with_weighed`, as on a day that has begun, where it was cooked."""
    rows = loaded.components
    shown = [
        one for one in plan.components if (with_weighed or one.weighing is None) and one.to_weigh and one.id in rows
    ]
    return [_pot(loaded, one, rows[one.id]) for one in shown if one.fresh_g < one.cooked_g]


def _pot(loaded: Loaded, shown: PlanComponentView, row: tables.Component) -> Pot:
    foods = {line.id: food for line, food in zip(row.lines, loaded.larder.foods_of(row.lines), strict=True)}
    ingredients, eaten_g, raw_g = [], 0.0, 0.0
    by_group: dict[str, float] = {}
    text_of = {line.id: line.text for line in row.lines}
    for line in shown.lines:
        food = foods.get(line.id)
        if food is None:
            continue
        role = line_role(food)
        ingredients.append(
            Ingredient(
                food=food.reference or "",
                name=food.name,
                says=text_of.get(line.id) or food.name,
                group=food.food_group,
                state=food.state,
                purchased_g=line.purchased_g,
                seasons=role in (LineRole.SEASONING, LineRole.FAT),
                is_water=role is LineRole.WATER,
            )
        )
        raw_g += line.edible_g
        if role is not LineRole.WATER:
            eaten_g += line.edible_g
            by_group[food.food_group] = by_group.get(food.food_group, 0.0) + line.edible_g
    mostly = max(by_group, key=lambda group: by_group[group], default="")
    raw_foods = [food for food in foods.values() if food.food_group in _MEATS and food.state in ("raw", "frozen")]
    asks: list[str] = []
    assumed: dict[str, list[str]] = {}
    is_proposed = not row.steps
    if is_proposed:
        steps = propose(row.name, row.method, ingredients, usual_times(), pieces=shown.makes)
        written = sum(line.purchased_g for line in shown.lines)
    else:
        steps = tuple(_step(one, bool(raw_foods), row.name, assumed, asks) for one in row.steps)
        written = _written(row)
    if row.packed_raw:
        steps = tuple(step for step in steps if step.on is None)
    in_pot = eaten_g if row.role not in (Role.MIXED, Role.SAUCE) else raw_g
    today = sum(line.purchased_g for line in shown.lines)
    factor = today / written if written and not is_proposed else 1.0
    free_of = {key for client in loaded.eating(row) for key in client.allergens} - set(shown.allergens)
    core = _core_c(foods.values())
    heated = [step.key for step in steps if step.on is not None and not step.is_lead]
    cautions = {
        step.key: list(
            step_cautions(
                step,
                foods=[food.name for food in foods.values()],
                groups=[food.food_group for food in foods.values()],
                is_raw=bool(raw_foods),
                is_last=bool(heated) and step.key == heated[-1],
                core_c=step.core_c if step.core_c is not None else core,
                free_of=free_of,
            )
        )
        for step in steps
    }
    return Pot(
        cooked=Cooked(
            key=str(row.id),
            name=row.name,
            steps=steps,
            raw_g=in_pot or raw_g,
            written_g=(in_pot or raw_g) / factor if factor else in_pot,
            fare=Fare.WHOLE
            if row.role in (Role.MIXED, Role.SAUCE)
            else _fare(mostly, [food.state for food in foods.values() if food.food_group == mostly]),
            pieces=shown.makes,
            pan_g=row.pan_capacity_g,
            raw_meat=bool(raw_foods),
            free_of=frozenset(free_of),
            allergens=frozenset(shown.allergens),
            delicate=delicate(row.role, row.method, by_group),
        ),
        component_id=row.id,
        is_proposed=is_proposed,
        core_c=core,
        is_rice=any("rice" in food.name.casefold() and food.food_group == "grains-pasta" for food in foods.values()),
        cautions=cautions,
        assumed=assumed,
        asks=asks,
        written_raw_g=(in_pot or raw_g) * _written(row) / today if today else 0.0,
        weighed_at=None if shown.weighing is None else shown.weighing.weighed_at,
        learns_as=str(row.recipe_component_id or row.id),
        until_g=shown.cooked_g if row.role in _TO_A_WEIGHT and shown.cooked_g > 0 else None,
    )


def _written(row: tables.Component) -> float:
    """What is bought for a component as it was written [g]."""
    return sum(line.purchased_g for line in row.lines)


def _core_c(foods: Iterable[tables.Food]) -> float | None:
    """What the hottest of the raw parts must reach inside [°C]."""
    celsius = core_celsius()
    kinds = [core_kind(food.name, food.food_group) for food in foods if food.state in ("raw", "frozen")]
    return max((celsius[kind] for kind in kinds if kind is not None), default=None)


def _fare(group: str, states: Sequence[str]) -> Fare:
    if group in _MEATS:
        return Fare.MEAT
    return Fare.GRAIN if group in _DRY and "dry" in states else Fare.VEGETABLES


def _step(row: tables.Step, is_raw: bool, component: str, assumed: dict[str, list[str]], asks: list[str]) -> Step:
    """A step as somebody wrote it; what it leaves out is assumed, and told."""
    key, said = str(row.id), row.text.casefold()
    told = assumed.setdefault(key, [])
    kind, read = kind_of(row.equipment), read_step(row.text)
    if kind is None and not row.equipment and row.lead_min is None:
        kind = kind_of(read.equipment)
        if kind is not None:
            told.append(f"on: {KIND_WORDS[kind]}, as its words say")
    if row.equipment and kind is None:
        asks.append(f"{component}: “{row.equipment}” is no equipment of a kitchen here, so hands alone are planned.")
    hands, unattended = row.hands_on_min, row.unattended_min
    if hands is None and unattended is None and row.lead_min is None:
        hands = UNSAID_MIN
        told.append(f"nobody said how long it takes: {UNSAID_MIN:.0f} min")
        asks.append(f"{component}: how long does “{row.text}” take?")
    if kind is not None and row.temperature_c is None and kind.value == "oven":
        asks.append(f"{component}: how hot is the oven for “{row.text}”?")
    if read.range_min is not None and sum(read.range_min) / 2 in (hands, unattended):
        low, high = read.range_min
        told.append(f"{low:g} to {high:g} min are said, the middle is planned")
    cuts = any(word in said for word in _CUTS)
    if kind is not None:
        skill = Skill.HEAT
    elif is_raw and (cuts or "mix" in said or "shape" in said or "form" in said):
        skill = Skill.RAW
    else:
        skill = Skill.KNIFE if cuts else Skill.OTHER
    return Step(
        key=key,
        says=row.text,
        hands_min=hands or 0.0,
        unattended_min=unattended or 0.0,
        every_min=row.every_min,
        temperature_c=row.temperature_c,
        on=kind,
        growth=row.growth,
        load_g=row.load_g,
        lead_min=row.lead_min,
        lead_most_min=row.lead_most_min,
        core_c=row.core_c,
        done_when=row.done_when,
        skill=skill,
        needs_board=kind is None and cuts,
        after=None if row.after is None else tuple(row.after),
    )
