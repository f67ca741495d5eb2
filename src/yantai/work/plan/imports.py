"""A plan document taken in: its foods, recipe, clients and containers become rows, as far as they are not here yet."""

from __future__ import annotations

import math
import uuid
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.cooking.components import UNCOOKED, Line, LineRole
from yantai.core.cooking.yields import YieldRange
from yantai.core.foods.allergens import ALLERGENS
from yantai.core.foods.energy import Carbohydrate, Rules
from yantai.core.foods.labels import Rounding
from yantai.core.foods.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.foods.states import FoodState
from yantai.core.planning.dishes import ContainerClass, Dish, Part, pots_of
from yantai.core.targets.targets import Figures
from yantai.formats.plan_document import (
    BadPlan,
    DocumentComponent,
    DocumentContainers,
    DocumentPart,
    Ingredient,
    PlanDocument,
    Portioned,
    core_classes,
    core_dishes,
    read_plan,
)
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import loading, log, stored
from yantai.work.batches.commands import apply_changes
from yantai.work.batches.copying import copy_recipe
from yantai.work.batches.inputs import BUFFER_SHARE, STEP_G, Change, Vessel, Weigh
from yantai.work.common.errors import Collector, Fault, Invalid, sentence
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.pantry.composition import WATER_REFERENCE, food_composition, line_role
from yantai.work.pantry.inputs import FoodInput, LabelInput
from yantai.work.pantry.own_foods import add_food
from yantai.work.plan.inputs import PlanFileInput
from yantai.work.plan.views import ImportedPlan
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput, StepInput
from yantai.work.recipes.recipes import load_recipe, store_recipe

_COOKED_SOMEHOW = "simmered"
"""The method of a component whose document tells none; yields are the document's own, so no figure follows from it."""

_GROUPS = {LineRole.FAT: "fats-oils", LineRole.SEASONING: "herbs-spices"}
_NEAR = 0.002
"""Figures of 100 g this near [g, kcal, mg] are the same: the store keeps thousandths."""


def import_plan(database: Database, who: SignedIn, payload: PlanFileInput, now: datetime) -> ImportedPlan:
    """Make a batch of a plan document. A food, recipe or client that is not here is made; what is, is used as it is.

    Raises:
        Invalid: the document cannot be read or makes no sense; each fault is located by a pointer into it.
    """
    try:
        document = read_plan(payload.text)
        dishes, classes = core_dishes(document), core_classes(document)
    except BadPlan as error:
        faults = [Fault(problem.at, sentence(problem.message)) for problem in error.problems]
        raise Invalid(f"{faults[0].pointer or 'The file'}: {faults[0].message}", faults) from error
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        taking = _Taking(session, who, document)
        stored_ids = {
            key: store_recipe(session, who, recipe).id
            for key, recipe in taking.recipes(dishes, pots_of(dishes)).items()
        }
        # Storing one lets go of what was read of those before it.
        recipes = {key: load_recipe(session, recipe_id) for key, recipe_id in stored_ids.items()}
        batch = taking.batch(recipes, payload, classes)
        session.add(batch)
        session.flush()
        log.note(session, who, batch, "made of a plan document")
        session.expire_all()
        loaded = loading.load(session, batch.id)
        weighed = taking.weighings()
        if weighed:
            loaded, _ = apply_changes(session, who, loaded, weighed, now, confirmed=True)
        session.flush()
        stored.renew(session, batch.id)
        return keep(ImportedPlan(batch_id=batch.id, name=batch.name, notes=taking.notes))


class _Taking:
    """One document on its way in; `notes` gathers what to tell."""

    def __init__(self, session: Session, who: SignedIn, document: PlanDocument) -> None:
        self.session, self.who, self.document = session, who, document
        self.rules: Rules = workspace_rules(read_workspace(session))
        self.notes: list[str] = []
        self._made: list[str] = []
        self._other_energy: list[str] = []
        self._pots: dict[str, uuid.UUID] = {}
        self._dishes: dict[str, uuid.UUID] = {}

    def recipes(self, dishes: Mapping[str, Dish], pots: Mapping[str, Part]) -> dict[str, RecipeInput]:
        """Each dish as a recipe of its name, by its key."""
        document = self.document
        named = {dish.key: dish for dish in document.dishes}
        places = {component.key: (index, component) for index, component in enumerate(document.components)}
        found: dict[str, RecipeInput] = {}
        for key, dish in dishes.items():
            told = named.get(key)
            portioned: dict[str, Portioned] = (
                {component.key: component.portioned for component in document.components}
                if told is None
                else {part.component: part for part in told.parts}
            )
            seen: set[str] = set()
            components, names = [], {}
            for of in dish.parts:
                index, component = places[of]
                made = self._component(index, component, portioned[of], pots[of], seen)
                components.append(made)
                names[of] = made.name
            found[key] = RecipeInput(
                name=document.name if told is None else told.name,
                note="From a plan document.",
                groups=dict(dish.groups),
                components=components,
                steps=[
                    StepInput(**{**step.model_dump(), "component": names.get(step.component or "", "")})
                    for step in document.steps
                    if step.component in names or (step.component is None and not found)
                ],
            )
        if self._made:
            told_of = " The document names no allergens for them: read their labels." if not self._allergens() else ""
            self.notes.append(f"New in your pantry: {', '.join(self._made)}.{told_of}")
        if self._other_energy:
            self.notes.append(
                f"Energy of {', '.join(self._other_energy)} follows this kitchen’s rule, not the document’s figure."
            )
        if document.budget is not None:
            self.notes.append(
                f"A container costs at most {document.budget:,.2f}. What its foods cost is not taken over: here the "
                "prices of your own packs hold it to that."
            )
        return found

    def batch(
        self, recipes: Mapping[str, tables.Recipe], payload: PlanFileInput, classes: Sequence[ContainerClass]
    ) -> tables.Batch:
        """The batch with its containers; clients that are not here are made."""
        document = self.document
        faults = Collector()
        faults.text("/name", document.name, what="the batch's name")
        with faults.located(""):
            STEP_G.check("step_g", document.step_g)
        with faults.located(""):
            BUFFER_SHARE.check("buffer_share", document.buffer_share)
        faults.check()
        batch = tables.Batch(
            workspace_id=self.who.workspace_id,
            name=document.name.strip(),
            cook_on=payload.cook_on,
            step_g=document.step_g,
            buffer_share=document.buffer_share,
            sure_share=document.sure_share,
            budget=document.budget,
            sharing=document.sharing.value,
            leftover=document.leftover.value,
            version=1,
            changed_by=self.who.name,
        )
        batch.components, batch.dishes, batch.classes = [], [], []
        self.session.add(batch)
        for position, (key, recipe) in enumerate(recipes.items()):
            self._put_dish(batch, key, recipe, position)
        self.session.flush()
        clients = self._clients(classes)
        batch.classes = [
            self._row(index, containers, each, clients[_client_key(containers)])
            for index, (containers, each) in enumerate(zip(document.containers, classes, strict=True))
        ]
        return batch

    def _put_dish(self, batch: tables.Batch, key: str, recipe: tables.Recipe, position: int) -> None:
        """A dish with its parts; a component that an earlier dish has too stays the one pot that it is."""
        document = self.document
        told = next((dish for dish in document.dishes if dish.key == key), None)
        parts = {} if told is None else {part.component: part for part in told.parts}
        by_key = {component.key: component for component in document.components}
        order = {key: index for index, key in enumerate(by_key)}
        here = list(by_key.values()) if told is None else [by_key[of] for of in parts]
        copied = copy_recipe(self.session, self.who, recipe)
        for component, part, of in zip(copied.components, copied.dish.parts, here, strict=True):
            part.share_g = (parts[of.key].share_g if told is not None else of.share_g) or part.share_g
            if told is not None:
                part.portioning = replace(part.portioning, takes_g=parts[of.key].takes_g)
            known = self._pots.get(of.key)
            if known is not None:
                part.component_id = known
                continue
            self._pots[of.key] = component.id
            component.raw_fixed = of.raw_fixed or of.cooked_g is not None
            component.position = order[of.key]
            batch.components.append(component)
        copied.dish.position = position
        self._dishes[key] = copied.dish.id
        batch.dishes.append(copied.dish)

    def weighings(self) -> list[Change]:
        """The weights that the document says the pans had."""
        return [
            Weigh(component_id=self._pots[told.key], vessels=[Vessel(gross_g=told.cooked_g)])
            for told in self.document.components
            if told.cooked_g is not None
        ]

    def _component(
        self, index: int, told: DocumentComponent, how: Portioned, part: Part, seen: set[str]
    ) -> ComponentInput:
        name = told.name if told.name.casefold() not in seen else f"{told.name} ({told.key})"
        seen.add(name.casefold())
        stated = told.cooks
        method = (told.method if told.method not in (None, UNCOOKED) else _COOKED_SOMEHOW) if told.cooked else UNCOOKED
        return ComponentInput(
            name=name,
            role=told.role,
            method=method or _COOKED_SOMEHOW,
            minimum_g=how.minimum_g,
            maximum_g=how.maximum_g,
            density_g_per_ml=told.density_g_per_ml,
            yield_low=None if stated is None else stated.low,
            yield_expected=None if stated is None else stated.expected,
            yield_high=None if stated is None else stated.high,
            poured_fat_g=told.poured_fat_g,
            pieces=told.pieces,
            school=how.school,
            unit_g=how.unit_g,
            unit_part=how.unit_part,
            plate_share=how.plate_share,
            eye_g=how.eye_g,
            **({"place": how.place, "tub_ml": how.tub_ml, "group": how.group} if isinstance(how, DocumentPart) else {}),
            packed_raw=told.packed_raw,
            kit_text=told.kit_text,
            whole_pans=told.whole_pans,
            lines=[
                self._line(
                    f"/components/{index}/ingredients/{number}", ingredient, line, cooks if told.cooked else None
                )
                for number, (ingredient, line, cooks) in enumerate(
                    zip(told.ingredients, part.component.lines, part.component.line_yields, strict=True)
                )
            ],
        )

    def _line(self, pointer: str, ingredient: Ingredient, line: Line, cooks: YieldRange | None) -> LineInput:
        return LineInput(
            food_id=self._food(pointer, ingredient, line).id,
            purchased_g=ingredient.purchased_g,
            refuse_share=ingredient.refuse_share,
            refuse_after=ingredient.refuse_after,
            retained_share=ingredient.retained_share,
            yield_factor=None if cooks is None else cooks.expected,
            counted=ingredient.counted,
        )

    def _food(self, pointer: str, ingredient: Ingredient, line: Line) -> tables.Food:
        """The food of this name, role and figures; made where there is none."""
        food = tables.Food
        if line.role is LineRole.WATER:
            return self.session.scalars(select(food).where(food.reference == WATER_REFERENCE)).one()
        here = select(food).where(
            food.name == ingredient.name, food.superseded_by.is_(None), food.archived_at.is_(None)
        )
        for known in self.session.scalars(here.order_by(food.state)):
            if line_role(known) is line.role and _same(food_composition(known, self.rules), line.composition):
                return known
        return self._new_food(pointer, ingredient, line)

    def _new_food(self, pointer: str, ingredient: Ingredient, line: Line) -> tables.Food:
        made = FoodInput(
            name=ingredient.name,
            group=_GROUPS.get(line.role, "own"),
            state=FoodState.AS_SOLD,
            label=LabelInput(
                **ingredient.per_100g.model_dump(), carbohydrate=Carbohydrate.TOTAL, rounding=Rounding.EXACT
            ),
            allergens=[allergen for allergen in ingredient.allergens if allergen in ALLERGENS],
            note=f"From the plan document “{self.document.name}”.",
        )
        try:
            food = add_food(self.session, self.who, made)
        except Invalid as error:
            faults = [
                Fault(f"{pointer}/per_100g{fault.pointer.removeprefix('/label')}", fault.message)
                for fault in error.faults
            ]
            raise Invalid(f"{ingredient.name}: {faults[0].message}", faults) from error
        self._made.append(ingredient.name)
        if line.composition.uncertainty is not None:
            open_by = zip(NUTRIENTS, line.composition.uncertainty, strict=True)
            between = {nutrient.value: each for nutrient, each in open_by if any(each)}
            food.stated = replace(food.stated, uncertainty=between)
        held = food_composition(food, self.rules)
        if abs(held[Nutrient.KCAL] - line.composition[Nutrient.KCAL]) > 1:
            self._other_energy.append(ingredient.name)
        return food

    def _allergens(self) -> bool:
        return any(ingredient.allergens for part in self.document.components for ingredient in part.ingredients)

    def _clients(self, classes: Sequence[ContainerClass]) -> dict[str, tables.Client]:
        found: dict[str, tables.Client] = {}
        made = []
        for containers, each in zip(self.document.containers, classes, strict=True):
            key = _client_key(containers)
            if key in found:
                continue
            known = self._known_client(containers, {client.id for client in found.values()})
            if known is None:
                known = self._new_client(_client_name(containers), each)
                made.append(known.name)
            found[key] = known
        if made:
            self.notes.append(
                f"New clients: {', '.join(made)}. What they must not eat is not in the document: enter it before you "
                "cook."
            )
        return found

    def _known_client(self, containers: DocumentContainers, taken: set[uuid.UUID]) -> tables.Client | None:
        """Who it is where the document comes from here; else somebody of this name who is not another in it."""
        client = tables.Client
        here = select(client).where(client.archived_at.is_(None), client.id.not_in(taken)).limit(1)
        own = self.session.scalar(here.where(client.id == containers.client_id)) if containers.client_id else None
        return own or self.session.scalar(here.where(client.name == _client_name(containers)))

    def _new_client(self, name: str, each: ContainerClass) -> tables.Client:
        tolerance = each.tolerance
        client = tables.Client(
            id=uuid.uuid4(),
            workspace_id=self.who.workspace_id,
            name=name,
            note="From a plan document.",
            allergens=[],
            dislikes=[],
            exclusions=[],
            tolerance_percent=tolerance.percent,
            tolerance_kcal=tolerance.kcal,
            tolerance_protein_g=tolerance.protein_g,
            tolerance_carbohydrate_g=tolerance.carbohydrate_g,
            tolerance_fat_g=tolerance.fat_g,
            priority_kcal=tolerance.priority_kcal,
            priority_protein_g=tolerance.priority_protein_g,
            priority_carbohydrate_g=tolerance.priority_carbohydrate_g,
            priority_fat_g=tolerance.priority_fat_g,
            version=1,
        )
        self.session.add(client)
        self.session.flush()
        return client

    def _row(
        self,
        index: int,
        containers: DocumentContainers,
        each: ContainerClass,
        client: tables.Client,
    ) -> tables.ContainerClass:
        # What was left out stays out, whatever the client's allergens say here.
        pins = {**dict.fromkeys(each.left_out, 0.0), **{k: g for k, g in each.pins.items() if k not in each.left_out}}
        return tables.ContainerClass(
            workspace_id=self.who.workspace_id,
            client_id=client.id,
            dish_id=self._dishes[each.dish],
            position=index,
            slot=containers.slot.strip(),
            day_type=containers.day_type.strip(),
            count=each.count,
            capacity_ml=each.capacity_ml,
            capacity_g=each.capacity_g,
            plate_g=each.plate_g,
            rank=each.rank,
            helping=each.helping,
            chosen=[str(self._pots[key]) for key in sorted(each.chosen)],
            removed=False,
            pins=[
                tables.Pin(workspace_id=self.who.workspace_id, component_id=self._pots[key], grams=grams)
                for key, grams in pins.items()
            ],
            figures=_figures(each),
        )


def _figures(each: ContainerClass) -> Figures:
    return Figures(**each.target.by_name)


def _client_key(containers: DocumentContainers) -> str:
    """Equal for containers of one person: by their id, and by name where the document has none."""
    return str(containers.client_id or _client_name(containers))


def _client_name(containers: DocumentContainers) -> str:
    return (containers.client or containers.name).strip()


def _same(one: Amounts, other: Amounts) -> bool:
    """The same amounts, and the same of them unknown."""
    return one.at_least == other.at_least and all(
        math.isclose(one[nutrient], other[nutrient], abs_tol=_NEAR) for nutrient in NUTRIENTS
    )
