"""A plan as an open file: components, containers, targets. The schema in docs/formats is generated from here."""

from __future__ import annotations

import json
import uuid
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from yantai.core.cooking.components import METHODS, Component, Line, LineRole, Role
from yantai.core.cooking.liquids import MAXIMUM_COOK_MIN, Lid, boil_off
from yantai.core.cooking.surely import LEAST_SURE, MOST_SURE
from yantai.core.cooking.weighing import impossible
from yantai.core.cooking.yields import TAKEN_UP, YieldRange, YieldSource
from yantai.core.errors import CoreError
from yantai.core.foods.energy import general_kcal
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.planning.dishes import HELPING_RANGE, ONE, TUB_RANGE_ML, ContainerClass, Dish, Part
from yantai.core.planning.plan import Leftover
from yantai.core.planning.portioning import Bounds, Place, School
from yantai.core.portions import Sharing
from yantai.core.portions.problem import DEFAULT_DENSITY_G_PER_ML, MAXIMUM_CELL_G
from yantai.core.schedule.steps import Growth
from yantai.core.targets.targets import BUDGET_RANGE, Target, Tolerance
from yantai.formats.figures import with_figures

NEWEST = 6
MOST_COMPONENTS = 60
MOST_DISHES = 12
MOST_CONTAINERS = 5000
MOST_BYTES = 5_000_000

Name = Annotated[str, Field(min_length=1, max_length=200)]
Grams = Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)]
Figure = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
Minutes = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


@dataclass(frozen=True, slots=True)
class Problem:
    """What is wrong, and where: a JSON pointer into the document."""

    at: str
    message: str


class BadPlan(ValueError):
    """A document that cannot be computed; every problem that was found is named."""

    def __init__(self, problems: list[Problem]) -> None:
        super().__init__("; ".join(f"{problem.at or '/'}: {problem.message}" for problem in problems))
        self.problems = problems


class DocumentModel(BaseModel):
    """A part of the document: nothing unknown is let in, because a misspelt word would be a figure left out."""

    model_config = ConfigDict(extra="forbid", frozen=True)


_Nutrients: Any = with_figures(DocumentModel, (nutrient.value for nutrient in NUTRIENTS), Figure)


class Composition(_Nutrients):  # type: ignore[misc]  # a field for each nutrient that the core knows
    """Amounts in 100 g of the edible portion, as it goes into the pan. A figure left out is not known, which is
    not zero. Energy left out follows from the macros at 4/4/9."""

    if TYPE_CHECKING:

        def __init__(self, **values: Any) -> None: ...


class Between(DocumentModel):
    """How far below and above a stated figure the true one may lie, where a label has rounded it."""

    below: Figure = 0
    above: Figure = 0


class Yield(DocumentModel):
    """Cooked weight over edible weight, with its usual range."""

    expected: Annotated[float, Field(ge=0, le=8, allow_inf_nan=False)] = 1
    low: Annotated[float, Field(ge=0, le=8, allow_inf_nan=False)] | None = None
    high: Annotated[float, Field(ge=0, le=8, allow_inf_nan=False)] | None = None


class Ingredient(DocumentModel):
    """One ingredient of a component, in grams as purchased. `allergens` names those it is known to contain, `between`
    the nutrients whose figures are rounded. Where `cooks` is left out food keeps its weight, and the weight of water
    follows from what the others take up and give."""

    name: Name
    allergens: Annotated[list[Name], Field(max_length=40)] = []
    purchased_g: Grams
    per_100g: Composition
    between: dict[Nutrient, Between] = {}
    refuse_share: Share = 0
    refuse_after: bool = False
    retained_share: Share = 1
    counted: bool = True
    role: LineRole = LineRole.FOOD
    cooks: Yield | None = None
    price: Annotated[float, Field(ge=0, le=1_000_000, allow_inf_nan=False)] | None = None


class Portioned(DocumentModel):
    """How a component gets into the containers of a dish: its school, the least and the most, one piece or scoop, its
    share of the plate, an amount nobody weighs; `share_g` is its weight in the recipe as written."""

    school: School = School.BY_COMPONENT
    share_g: Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)] | None = None
    minimum_g: Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)] = 0
    maximum_g: Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)] | None = None
    unit_g: Annotated[float, Field(ge=1, le=MAXIMUM_CELL_G)] | None = None
    unit_part: Annotated[float, Field(ge=0.1, le=1)] = 1
    plate_share: Annotated[float, Field(ge=0, le=1000)] = 1
    eye_g: Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)] = 0


class DocumentPart(Portioned):
    """A component in a dish, by its key. It goes into the container, beside it into a tub of `tub_ml`, or is added at
    eating; `group` names the group it is one of, `takes_g` is what of its pot is set aside for the dish."""

    component: Name
    place: Place = Place.IN_CONTAINER
    tub_ml: Annotated[float, Field(ge=TUB_RANGE_ML[0], le=TUB_RANGE_ML[1])] | None = None
    takes_g: Annotated[float, Field(ge=1, le=1_000_000)] | None = None
    group: Name | None = None


class DocumentDish(DocumentModel):
    """Something that is eaten: its parts, and of how many of each group a container takes."""

    key: Name
    name: Name
    parts: Annotated[list[DocumentPart], Field(min_length=1, max_length=MOST_COMPONENTS)]
    groups: dict[Name, Annotated[int, Field(ge=1, le=20)]] = {}


class DocumentComponent(DocumentModel):
    """A component cooked on its own. How it is portioned (`school` to `eye_g`) is only said here where the document has
    no dishes: then all of its components are parts of one.

    `cooked_g` is its weight off the scale, null while it is not weighed. On its `role` only depends the most that is
    usual in a container, where no `maximum_g` is given; on the `method` it is cooked by, the `lid` ("on", "off", ""
    where it is not said) and the minutes on the heat only how much of its water boils off. What is `packed_raw` is
    cooked later, as `kit_text` says, and has raw grams; `whole_pans` are cooked whole or not at all."""

    key: Name
    name: Name
    role: Name = "mixed"
    method: Name | None = None
    lid: Lid = Lid.UNSAID
    cook_min: Annotated[float, Field(ge=1, le=MAXIMUM_COOK_MIN, allow_inf_nan=False)] | None = None
    ingredients: Annotated[list[Ingredient], Field(min_length=1, max_length=200)]
    cooks: Yield | None = None
    cooked: bool = True
    cooked_g: Grams | None = None
    poured_fat_g: Grams = 0
    raw_fixed: bool = False
    density_g_per_ml: Annotated[float, Field(ge=0.05, le=3)] = DEFAULT_DENSITY_G_PER_ML
    pieces: Annotated[int, Field(ge=1, le=10_000)] | None = None
    packed_raw: bool = False
    kit_text: Annotated[str, Field(max_length=5000)] = ""
    whole_pans: bool = False
    school: School | None = None
    share_g: Annotated[float, Field(gt=0, le=1_000_000, allow_inf_nan=False)] | None = None
    minimum_g: Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)] | None = None
    maximum_g: Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)] | None = None
    unit_g: Annotated[float, Field(ge=1, le=MAXIMUM_CELL_G)] | None = None
    unit_part: Annotated[float, Field(ge=0.1, le=1)] | None = None
    plate_share: Annotated[float, Field(ge=0, le=1000)] | None = None
    eye_g: Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)] | None = None

    @property
    def portioned(self) -> Portioned:
        """How it is portioned, as far as it says."""
        told = {name: getattr(self, name) for name in Portioned.model_fields}
        return Portioned(**{name: value for name, value in told.items() if value is not None})


class DocumentTarget(DocumentModel):
    """What a container shall hold; the last three are limits on one side."""

    kcal: Figure | None = None
    protein_g: Figure | None = None
    carbohydrate_g: Figure | None = None
    fat_g: Figure | None = None
    fibre_g: Figure | None = None
    saturated_g: Figure | None = None
    sodium_mg: Figure | None = None


class DocumentTolerance(DocumentModel):
    """How close is close enough, in amounts or in percent of the target, and how much a miss of each weighs."""

    percent: bool = False
    kcal: Figure = 30
    protein_g: Figure = 3
    carbohydrate_g: Figure = 5
    fat_g: Figure = 3
    priority_kcal: Figure = 2
    priority_protein_g: Figure = 2
    priority_carbohydrate_g: Figure = 1
    priority_fat_g: Figure = 1


class DocumentStep(DocumentModel):
    """A step of the work, of one component by its key or of none; minutes with and without hands, degrees Celsius, and
    minutes ahead of the rest at least and at most. It wants a look `every_min`, `growth` says how its minutes grow with
    the amount, `load_g` how much goes on at once; it is done at `core_c` inside, or `done_when` it looks so."""

    component: Name | None = None
    text: Annotated[str, Field(max_length=5000)]
    hands_on_min: Minutes | None = None
    unattended_min: Minutes | None = None
    temperature_c: Annotated[float, Field(ge=-40, le=500)] | None = None
    equipment: Annotated[str, Field(max_length=200)] = ""
    lead_min: Minutes | None = None
    lead_most_min: Minutes | None = None
    every_min: Minutes | None = None
    growth: Growth | None = None
    load_g: Annotated[float, Field(ge=1, le=1_000_000)] | None = None
    core_c: Annotated[float, Field(ge=0, le=150)] | None = None
    done_when: Annotated[str, Field(max_length=5000)] = ""


class DocumentContainers(DocumentModel):
    """Equal containers of one client, dish, meal and kind of day. `pins`, `left_out` and `chosen`, what they take of
    the groups of their dish, name components by key; `dish` is left out where the document has none. With its meal and
    kind of day, `client_id` tells whose target this is where the document came from."""

    name: Name
    client: Name | None = None
    client_id: uuid.UUID | None = None
    dish: Name | None = None
    slot: Name = "meal"
    day_type: Name = "any"
    count: Annotated[int, Field(ge=0, le=100)]
    target: DocumentTarget
    tolerance: DocumentTolerance = DocumentTolerance()
    capacity_ml: float | None = None
    capacity_g: float | None = None
    plate_g: float | None = None
    rank: Annotated[int, Field(ge=0, le=99)] = 0
    helping: Annotated[float, Field(ge=HELPING_RANGE[0], le=HELPING_RANGE[1])] = 1
    pins: dict[str, Annotated[float, Field(ge=0, le=MAXIMUM_CELL_G)]] = {}
    left_out: list[str] = []
    chosen: list[str] = []


class PlanDocument(DocumentModel):
    """One batch: what is cooked, and for whom. Version 2 adds what rounding leaves open, whose targets they are, and
    the steps; version 3 the dishes, with parts, groups and places; version 4 how sure it shall be that pots suffice;
    version 5 what a container may cost (`budget`) and what 100 g of each ingredient cost as purchased (`price`), both
    in one currency; version 6 more of each step. What an earlier version says means the same."""

    format: Literal["yantai-plan"]
    version: Literal[1, 2, 3, 4, 5, 6]
    name: Name = "Plan"
    step_g: Annotated[float, Field(ge=0.1, le=100)] = 1
    buffer_share: Annotated[float, Field(ge=0, le=0.5)] = 0
    sure_share: Annotated[float, Field(ge=LEAST_SURE, le=MOST_SURE)] | None = None
    budget: Annotated[float, Field(ge=BUDGET_RANGE[0], le=BUDGET_RANGE[1])] | None = None
    sharing: Sharing = Sharing.FAIR
    leftover: Leftover = Leftover.KEEP
    components: Annotated[list[DocumentComponent], Field(min_length=1, max_length=MOST_COMPONENTS)]
    dishes: Annotated[list[DocumentDish], Field(max_length=MOST_DISHES)] = []
    containers: Annotated[list[DocumentContainers], Field(max_length=MOST_CONTAINERS)]
    steps: Annotated[list[DocumentStep], Field(max_length=500)] = []


def read_plan(text: str | bytes) -> PlanDocument:
    """Read a plan document.

    Raises:
        BadPlan: it is not JSON, or not a plan; each problem is located.
    """
    if len(text) > MOST_BYTES:
        raise BadPlan([Problem("", f"the file is larger than {MOST_BYTES / 1e6:.0f} MB")])
    try:
        raw = json.loads(text, object_pairs_hook=_no_repeats, parse_constant=_no_constant)
    except UnicodeDecodeError:
        raise BadPlan([Problem("", "the file is not UTF-8 text")]) from None
    except json.JSONDecodeError as error:
        raise BadPlan([Problem("", f"line {error.lineno}, column {error.colno}: {error.msg}")]) from None
    except RecursionError:
        raise BadPlan([Problem("", "the file is nested too deeply to be a plan")]) from None
    except ValueError as error:
        raise BadPlan([Problem("", str(error))]) from None
    told = raw.get("version") if isinstance(raw, dict) else None
    if isinstance(told, int) and told > NEWEST:
        words = f"this is version {told} of the format, and this application reads up to {NEWEST}: update it"
        raise BadPlan([Problem("/version", words)])
    try:
        document = PlanDocument.model_validate(raw)
    except ValidationError as error:
        raise BadPlan([_located(one) for one in error.errors()]) from None
    problems = list(_crossed(document))
    if problems:
        raise BadPlan(problems)
    return document


def _no_repeats(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        twice = next(key for n, (key, _) in enumerate(pairs) if key in dict(pairs[:n]))
        raise ValueError(f"“{twice}” is given twice in one object: keep one")
    return found


def _no_constant(name: str) -> float:
    raise ValueError(f"{name} is not a number that can be weighed")


def _located(error: Any) -> Problem:
    pointer = "".join(f"/{str(step).replace('~', '~0').replace('/', '~1')}" for step in error["loc"])
    return Problem(pointer, str(error["msg"])[:300])


def _crossed(document: PlanDocument) -> Iterator[Problem]:
    """Names that refer to nothing, or to two things, and words that are none of those known."""
    keys: set[str] = set()
    for index, component in enumerate(document.components):
        if component.key in keys:
            yield Problem(f"/components/{index}/key", f"“{component.key}” is the key of another component too")
        keys.add(component.key)
        if component.role not in tuple(Role):
            yield Problem(f"/components/{index}/role", f"“{component.role}” is not one of {', '.join(Role)}")
        if component.method is not None and component.method not in METHODS:
            yield Problem(f"/components/{index}/method", f"“{component.method}” is not one of {', '.join(METHODS)}")
    for index, step in enumerate(document.steps):
        if step.component is not None and step.component not in keys:
            yield Problem(f"/steps/{index}/component", "there is no component of this key")
    yield from _crossed_dishes(document, keys)
    in_dish = {dish.key: {part.component for part in dish.parts} for dish in document.dishes}
    for index, containers in enumerate(document.containers):
        here = keys
        if document.dishes:
            if containers.dish not in in_dish:
                yield Problem(
                    f"/containers/{index}/dish",
                    "there is no dish of this key" if containers.dish else "say of which dish they are",
                )
                continue
            here = in_dish[containers.dish]
        elif containers.dish is not None:
            yield Problem(f"/containers/{index}/dish", "the document has no dishes")
        for key in containers.pins:
            if key not in here:
                yield Problem(f"/containers/{index}/pins/{key}", "there is no component of this key")
        for field in ("left_out", "chosen"):
            for number, key in enumerate(getattr(containers, field)):
                if key not in here:
                    yield Problem(f"/containers/{index}/{field}/{number}", "there is no component of this key")


def _crossed_dishes(document: PlanDocument, keys: set[str]) -> Iterator[Problem]:
    seen: set[str] = set()
    for index, dish in enumerate(document.dishes):
        if dish.key in seen:
            yield Problem(f"/dishes/{index}/key", f"“{dish.key}” is the key of another dish too")
        seen.add(dish.key)
        here: set[str] = set()
        for number, part in enumerate(dish.parts):
            if part.component not in keys:
                yield Problem(f"/dishes/{index}/parts/{number}/component", "there is no component of this key")
            if part.component in here:
                yield Problem(f"/dishes/{index}/parts/{number}/component", "this dish has it twice")
            here.add(part.component)
    used = {part.component for dish in document.dishes for part in dish.parts}
    for index, component in enumerate(document.components):
        for name in Portioned.model_fields:
            if document.dishes and getattr(component, name) is not None:
                yield Problem(f"/components/{index}/{name}", "a dish says how it is portioned: say it there")
        if document.dishes and component.key not in used:
            yield Problem(f"/components/{index}", f"“{component.name}” is in no dish: put it into one, or leave it out")


def core_dishes(document: PlanDocument) -> dict[str, Dish]:
    """The dishes as the core takes them, by their keys; all components as one dish where there are none.

    Raises:
        BadPlan: a component or a dish makes no sense.
    """
    problems: list[Problem] = []
    made: dict[str, Component] = {}
    for index, told in enumerate(document.components):
        with _collected(problems, f"/components/{index}"):
            component = made[told.key] = _component(told)
            why = None if component.measured_g is None else impossible(component, component.measured_g)
            if why is not None:
                problems.append(Problem(f"/components/{index}/cooked_g", why))
    if problems:
        raise BadPlan(problems)
    by_key = {component.key: component for component in document.components}
    dishes = {}
    for index, dish in enumerate(document.dishes):
        parts = {}
        for number, part in enumerate(dish.parts):
            with _collected(problems, f"/dishes/{index}/parts/{number}"):
                parts[part.component] = _part(by_key[part.component], made[part.component], part)
        with _collected(problems, f"/dishes/{index}"):
            dishes[dish.key] = Dish(name=dish.name, parts=parts, groups=dish.groups)
    if not document.dishes:
        parts = {}
        for index, told in enumerate(document.components):
            with _collected(problems, f"/components/{index}"):
                parts[told.key] = _part(told, made[told.key], told.portioned)
        dishes[ONE] = Dish(parts=parts)
    if problems:
        raise BadPlan(problems)
    return dishes


def core_classes(document: PlanDocument) -> tuple[ContainerClass, ...]:
    """The containers as the core takes them.

    Raises:
        BadPlan: a target or tolerance makes no sense.
    """
    problems: list[Problem] = []
    classes = []
    for index, containers in enumerate(document.containers):
        with _collected(problems, f"/containers/{index}"):
            classes.append(
                ContainerClass(
                    target=Target(**containers.target.model_dump()),
                    tolerance=Tolerance(**containers.tolerance.model_dump()),
                    count=containers.count,
                    dish=ONE if containers.dish is None else containers.dish,
                    capacity_ml=containers.capacity_ml,
                    capacity_g=containers.capacity_g,
                    plate_g=containers.plate_g,
                    rank=containers.rank,
                    helping=containers.helping,
                    pins=containers.pins,
                    left_out=frozenset(containers.left_out),
                    chosen=frozenset(containers.chosen),
                    budget=document.budget,
                )
            )
    if problems:
        raise BadPlan(problems)
    return tuple(classes)


@contextmanager
def _collected(problems: list[Problem], pointer: str) -> Iterator[None]:
    try:
        yield
    except CoreError as error:
        problems.append(Problem(f"{pointer}/{error.field}", str(error)))


def _component(component: DocumentComponent) -> Component:
    lines = tuple(_line(ingredient, cooked=component.cooked) for ingredient in component.ingredients)
    told = any(one.cooks is not None and one.role is LineRole.WATER for one in component.ingredients)
    return Component(
        name=component.name,
        lines=lines,
        measured_g=component.cooked_g,
        cooked=component.cooked,
        boils_off=None
        if told or not component.cooked
        else boil_off(lines, component.method or "boiled", lid=component.lid, minutes=component.cook_min),
        set_yield=None if component.cooks is None else _yield(component.cooks),
        poured_fat_g=component.poured_fat_g,
        pieces=component.pieces,
    )


def _part(told: DocumentComponent, made: Component, how: Portioned) -> Part:
    of_dish = how if isinstance(how, DocumentPart) else DocumentPart(component=told.key)
    return Part(
        component=made,
        share=how.share_g or made.expected_g,
        school=how.school,
        role=told.role,
        raw_fixed=told.raw_fixed or told.cooked_g is not None,
        packed_raw=told.packed_raw,
        whole_pans=told.whole_pans,
        bounds=Bounds(minimum_g=how.minimum_g, maximum_g=how.maximum_g),
        density_g_per_ml=told.density_g_per_ml,
        unit_g=how.unit_g,
        unit_part=how.unit_part,
        plate_share=how.plate_share,
        eye_g=how.eye_g,
        place=of_dish.place,
        tub_ml=of_dish.tub_ml,
        takes_g=of_dish.takes_g,
        group=of_dish.group,
    )


def _line(ingredient: Ingredient, *, cooked: bool) -> Line:
    return Line(
        name=ingredient.name,
        purchased_g=ingredient.purchased_g,
        composition=_amounts(ingredient.per_100g, ingredient.between),
        yield_range=_line_yield(ingredient, cooked=cooked),
        refuse_share=ingredient.refuse_share,
        refuse_after=ingredient.refuse_after,
        retained_share=ingredient.retained_share,
        counted=ingredient.counted,
        role=ingredient.role,
        price=ingredient.price,
    )


def _line_yield(ingredient: Ingredient, *, cooked: bool) -> YieldRange:
    if ingredient.cooks is not None:
        return _yield(ingredient.cooks)
    return TAKEN_UP if cooked and ingredient.role is LineRole.WATER else _yield(Yield())


def _amounts(payload: Composition, between: Mapping[Nutrient, Between]) -> Amounts:
    stated = payload.model_dump()
    missing = frozenset(nutrient for nutrient in NUTRIENTS if stated[nutrient.value] is None)
    known = {nutrient: stated[nutrient.value] or 0.0 for nutrient in NUTRIENTS}
    macros = known[Nutrient.PROTEIN] + known[Nutrient.CARBOHYDRATE] + known[Nutrient.FAT]
    if macros > 101:
        raise CoreError(f"{macros:,.1f} g of macros in 100 g: that is more than there is", field="per_100g")
    if Nutrient.KCAL in missing:
        known[Nutrient.KCAL] = general_kcal(
            protein_g=known[Nutrient.PROTEIN],
            carbohydrate_g=known[Nutrient.CARBOHYDRATE],
            fat_g=known[Nutrient.FAT],
        )
        if not missing & {Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT}:
            missing -= {Nutrient.KCAL}
    open_by = [between.get(nutrient, Between()) for nutrient in NUTRIENTS]
    uncertainty = tuple((each.below, each.above) for each in open_by) if between else None
    return Amounts(tuple(known[nutrient] for nutrient in NUTRIENTS), missing, uncertainty)


def _yield(stated: Yield) -> YieldRange:
    return YieldRange(
        low=stated.expected if stated.low is None else stated.low,
        expected=stated.expected,
        high=stated.expected if stated.high is None else stated.high,
        source=YieldSource.COACH,
    )
