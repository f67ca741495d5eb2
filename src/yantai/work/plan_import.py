"""A plan document taken in: its foods, recipe, clients and containers become rows, as far as they are not here yet."""

from __future__ import annotations

import math
import uuid
from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.allergens import ALLERGENS
from yantai.core.components import UNCOOKED, Line, LineRole
from yantai.core.energy import Rules
from yantai.core.nutrients import NUTRIENTS, Amounts, Nutrient
from yantai.core.plan import ContainerClass, Pan
from yantai.core.portioning import School
from yantai.core.yields import YieldRange
from yantai.formats.plan_document import (
    BadPlan,
    DocumentComponent,
    DocumentContainers,
    Ingredient,
    PlanDocument,
    core_classes,
    core_pans,
    read_plan,
)
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn
from yantai.work.batches import check_batch, copy_components
from yantai.work.changes import apply_changes
from yantai.work.errors import Collector, Fault, Invalid, sentence
from yantai.work.figures import Figures
from yantai.work.inputs import (
    Change,
    Changes,
    ComponentInput,
    FoodInput,
    LabelInput,
    LineInput,
    PlanFileInput,
    RecipeInput,
    Vessel,
    Weigh,
)
from yantai.work.kitchen import WATER_REFERENCE, food_composition, line_role, read_workspace, workspace_rules
from yantai.work.own_foods import add_food
from yantai.work.recipes import store_recipe
from yantai.work.views import ImportedPlan

_COOKED_SOMEHOW = "simmered"
"""The method of a component whose document tells none; yields are the document's own, so no figure follows from it."""

_GROUPS = {LineRole.FAT: "fats-oils", LineRole.SEASONING: "herbs-spices"}
_NEAR = 0.002
"""Figures of 100 g this near [g, kcal, mg] are the same: the store keeps thousandths."""


def import_plan(database: Database, who: SignedIn, given: PlanFileInput, now: datetime) -> ImportedPlan:
    """Make a batch of a plan document. A food, recipe or client that is not here is made; what is, is used as it is.

    Raises:
        Invalid: the document cannot be read or makes no sense; each fault is located by a pointer into it.
    """
    try:
        document = read_plan(given.text)
        pans, classes = core_pans(document), core_classes(document)
    except BadPlan as error:
        faults = [Fault(problem.at, sentence(problem.message)) for problem in error.problems]
        raise Invalid(f"{faults[0].pointer or 'The file'}: {faults[0].message}", faults) from error
    with database.workspace(who.workspace_id) as session:
        taking = _Taking(session, who, document)
        recipe = store_recipe(session, who, taking.recipe(pans))
        batch = taking.batch(recipe, given, classes)
        session.add(batch)
        session.flush()
        session.expire_all()
        loaded = plans.load(session, batch.id)
        weighed = taking.weighings(loaded.batch)
        if weighed:
            command = Changes(version=1, changes=weighed, confirmed=True)
            loaded, _ = apply_changes(session, who, loaded, command, now)
        plans.compute(loaded)
        return ImportedPlan(batch_id=batch.id, name=batch.name, notes=taking.notes)


class _Taking:
    """One document on its way in; `notes` gathers what to tell."""

    def __init__(self, session: Session, who: SignedIn, document: PlanDocument) -> None:
        self.session, self.who, self.document = session, who, document
        self.rules: Rules = workspace_rules(read_workspace(session))
        self.notes: list[str] = []
        self._made: list[str] = []
        self._other_energy: list[str] = []

    def recipe(self, pans: dict[str, Pan]) -> RecipeInput:
        """The components as a recipe of the document's name."""
        seen: set[str] = set()
        parts = [
            self._component(place, component, pans[component.key], seen)
            for place, component in enumerate(self.document.components)
        ]
        if self._made:
            told = " The document names no allergens for them: read their labels." if not self._allergens() else ""
            self.notes.append(f"New in your pantry: {', '.join(self._made)}.{told}")
        if self._other_energy:
            self.notes.append(
                f"Energy of {', '.join(self._other_energy)} follows this kitchen’s rule, not the document’s figure."
            )
        return RecipeInput(name=self.document.name, note="From a plan document.", components=parts)

    def batch(self, recipe: tables.Recipe, given: PlanFileInput, classes: Sequence[ContainerClass]) -> tables.Batch:
        """The batch with its containers; clients that are not here are made."""
        document = self.document
        faults = Collector()
        check_batch(faults, name=document.name, step_g=document.step_g, buffer_share=document.buffer_share)
        faults.check()
        batch = tables.Batch(
            workspace_id=self.who.workspace_id,
            recipe_id=recipe.id,
            recipe_version=recipe.version,
            name=document.name.strip(),
            cook_on=given.cook_on,
            step_g=document.step_g,
            buffer_share=document.buffer_share,
            sharing=document.sharing.value,
            leftover=document.leftover.value,
            version=1,
            changed_by=self.who.name,
        )
        batch.components = copy_components(self.session, self.who, recipe)
        ids = {}
        for component, told in zip(batch.components, document.components, strict=True):
            component.id = ids[told.key] = uuid.uuid4()
            component.raw_fixed = told.raw_fixed or told.cooked_g is not None
            if told.share_g is not None:
                component.recipe_share_g = told.share_g
        clients = self._clients(classes)
        batch.classes = [
            self._row(place, containers, each, clients[_client_name(containers)], ids)
            for place, (containers, each) in enumerate(zip(document.containers, classes, strict=True))
        ]
        return batch

    def weighings(self, batch: tables.Batch) -> list[Change]:
        """The weights that the document says the pans had."""
        return [
            Weigh(component_id=component.id, vessels=[Vessel(gross_g=told.cooked_g)])
            for component, told in zip(batch.components, self.document.components, strict=True)
            if told.cooked_g is not None
        ]

    def _component(self, place: int, told: DocumentComponent, pan: Pan, seen: set[str]) -> ComponentInput:
        name = told.name if told.name.casefold() not in seen else f"{told.name} ({told.key})"
        seen.add(name.casefold())
        given = told.cooks
        method = (told.method if told.method not in (None, UNCOOKED) else _COOKED_SOMEHOW) if told.cooked else UNCOOKED
        return ComponentInput(
            name=name,
            role=told.role,
            method=method or _COOKED_SOMEHOW,
            minimum_g=told.minimum_g,
            maximum_g=told.maximum_g,
            density_g_per_ml=told.density_g_per_ml,
            yield_low=None if given is None else given.low,
            yield_expected=None if given is None else given.expected,
            yield_high=None if given is None else given.high,
            poured_fat_g=told.poured_fat_g,
            pieces=told.pieces,
            school=School(told.school).value,
            unit_g=told.unit_g,
            unit_part=told.unit_part,
            plate_share=told.plate_share,
            eye_g=told.eye_g,
            lines=[
                self._line(
                    f"/components/{place}/ingredients/{number}", ingredient, line, cooks if told.cooked else None
                )
                for number, (ingredient, line, cooks) in enumerate(
                    zip(told.ingredients, pan.component.lines, pan.component.line_yields, strict=True)
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
        figures = ingredient.per_100g
        made = FoodInput(
            name=ingredient.name,
            group=_GROUPS.get(line.role, "own"),
            state="as-sold",
            label=LabelInput(
                serving_g=100,
                kcal=figures.kcal,
                protein_g=figures.protein_g,
                carbohydrate_g=figures.carbohydrate_g,
                fat_g=figures.fat_g,
                fibre_g=figures.fibre_g,
                sugars_g=figures.sugars_g,
                saturated_g=figures.saturated_g,
                sodium_mg=figures.sodium_mg,
                carbohydrate="total",
                rounding="exact",
            ),
            allergens=[one for one in ingredient.allergens if one in ALLERGENS],
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
        held = food_composition(food, self.rules)
        if abs(held[Nutrient.KCAL] - line.composition[Nutrient.KCAL]) > 1:
            self._other_energy.append(ingredient.name)
        return food

    def _allergens(self) -> bool:
        return any(one.allergens for part in self.document.components for one in part.ingredients)

    def _clients(self, classes: Sequence[ContainerClass]) -> dict[str, tables.Client]:
        client = tables.Client
        found: dict[str, tables.Client] = {}
        made = []
        for containers, each in zip(self.document.containers, classes, strict=True):
            name = _client_name(containers)
            if name in found:
                continue
            known = self.session.scalars(
                select(client).where(client.name == name, client.archived_at.is_(None)).limit(1)
            ).first()
            if known is None:
                known = self._new_client(name, each)
                made.append(name)
            found[name] = known
        if made:
            self.notes.append(
                f"New clients: {', '.join(made)}. What they must not eat is not in the document: enter it before you "
                "cook."
            )
        return found

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
        place: int,
        containers: DocumentContainers,
        each: ContainerClass,
        client: tables.Client,
        ids: dict[str, uuid.UUID],
    ) -> tables.ContainerClass:
        # What was left out stays out, whatever the client's allergens say here.
        pins = {**dict.fromkeys(each.left_out, 0.0), **{k: g for k, g in each.pins.items() if k not in each.left_out}}
        return tables.ContainerClass(
            workspace_id=self.who.workspace_id,
            client_id=client.id,
            position=place,
            slot=containers.slot.strip(),
            day_type=containers.day_type.strip(),
            count=each.count,
            capacity_ml=each.capacity_ml,
            capacity_g=each.capacity_g,
            plate_g=each.plate_g,
            rank=each.rank,
            pins=[
                tables.Pin(workspace_id=self.who.workspace_id, component_id=ids[key], grams=grams)
                for key, grams in pins.items()
            ],
            **_figures(each),
        )


def _figures(each: ContainerClass) -> Figures:
    stated = {**each.target.aims, **each.target.limits}
    return {nutrient.value: value for nutrient, value in stated.items()}


def _client_name(containers: DocumentContainers) -> str:
    return (containers.client or containers.name).strip()


def _same(one: Amounts, other: Amounts) -> bool:
    """The same amounts, and the same of them unknown."""
    return one.at_least == other.at_least and all(
        math.isclose(one[nutrient], other[nutrient], abs_tol=_NEAR) for nutrient in NUTRIENTS
    )
