"""Whether a recipe that was sent makes sense."""

from __future__ import annotations

import uuid
from collections.abc import Collection

from sqlalchemy import select
from sqlalchemy.orm import Session, aliased

from yantai.core.cooking.components import METHODS
from yantai.core.planning.portioning import check_portioning
from yantai.core.speaking import weight
from yantai.store import tables
from yantai.work.common.errors import Collector
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput, StepInput
from yantai.work.recipes.larder import Larder


def _check_contents(faults: Collector, larder: Larder, payload: RecipeInput) -> None:
    """Note lines that hold neither a food nor a component that is here."""
    for index, component in enumerate(payload.components):
        for number, line in enumerate(component.lines):
            pointer = f"/components/{index}/lines/{number}"
            if (line.food_id is None) == (line.source_id is None):
                faults.add(f"{pointer}/food_id", "choose a food, or another component")
            elif line.food_id is not None and line.food_id not in larder.foods:
                faults.add(f"{pointer}/food_id", "this food is not in your pantry; choose another")
            elif line.source_id is not None and line.source_id not in larder.sources:
                faults.add(f"{pointer}/source_id", "this component was removed; choose another")


def _used_elsewhere(session: Session, removed: set[uuid.UUID], recipe_id: uuid.UUID | None) -> tuple[str, str] | None:
    """The first of the removed components that another recipe is made of, and that recipe's name."""
    line, source, user = tables.Line, aliased(tables.Component), aliased(tables.Component)
    query = (
        select(source.name, tables.Recipe.name)
        .join(line, line.source_id == source.id)
        .join(user, user.id == line.component_id)
        .join(tables.Recipe, tables.Recipe.id == user.recipe_id)
        .where(source.id.in_(removed), tables.Recipe.id != recipe_id)
        .limit(1)
    )
    row = session.execute(query).first()
    return None if row is None else (row[0], row[1])


def check_recipe(session: Session, payload: RecipeInput) -> str:
    """The name of a recipe that makes sense.

    Raises:
        Invalid: something in it does not, each located.
    """
    faults = Collector()
    name = faults.text("/name", payload.name, what="the recipe's name")
    if not payload.components:
        faults.add("/components", "a recipe needs at least one component: a protein, a grain, vegetables, a sauce")
    larder = Larder.read(session, payload.components)
    _check_contents(faults, larder, payload)
    faults.check()
    seen: set[str] = set()
    for index, component in enumerate(payload.components):
        pointer = f"/components/{index}"
        title = faults.text(f"{pointer}/name", component.name, what="the component's name")
        if title.casefold() in seen:
            faults.add(f"{pointer}/name", f"two components are called {title}; tell them apart")
        seen.add(title.casefold())
        if component.method not in METHODS:
            faults.add(f"{pointer}/method", f"“{component.method}” is not one of {', '.join(METHODS)}")
        _check_limits(faults, pointer, component)
        for number, line in enumerate(component.lines):
            _check_line(faults, f"{pointer}/lines/{number}", larder.line_name(line), line)
        if not faults.faults:
            with faults.located(pointer):
                larder.component(component)
    known = {step.id for step in payload.steps if step.id is not None}
    for index, step in enumerate(payload.steps):
        check_step(faults, f"/steps/{index}", step, known)
    _check_groups(faults, payload)
    if payload.components and not any(component.served for component in payload.components):
        faults.add("/components", "every component only goes into others; let at least one go into containers")
    faults.check()
    return name


def _check_groups(faults: Collector, payload: RecipeInput) -> None:
    """Groups have a name and enough components, and a component is in one that there is."""
    faults.ranges("", payload)
    for name, takes in payload.groups.items():
        members = [one for one in payload.components if one.served and one.group == name]
        faults.text(f"/groups/{name}", name, what="the group's name")
        if len(members) < takes:
            faults.add(
                f"/groups/{name}",
                f"a container takes {takes} of {name}, which has {len(members)}: put more into it, or take fewer",
            )
    for index, component in enumerate(payload.components):
        if component.group and component.group not in payload.groups:
            faults.add(
                f"/components/{index}/group", f"there is no group “{component.group}”: say how many are taken of it"
            )


def check_step(faults: Collector, pointer: str, step: StepInput, known: Collection[uuid.UUID]) -> None:
    """A step says what to do, in minutes that can be, and waits for steps that are `known`."""
    faults.text(f"{pointer}/text", step.text, what="what to do in this step", longest=2000)
    faults.ranges(pointer, step)
    if step.lead_most_min is not None and (step.lead_min is None or step.lead_min > step.lead_most_min):
        faults.add(f"{pointer}/lead_most_min", "the most is not less than the least it begins ahead; swap them")
    if step.after is not None and not set(step.after) <= set(known):
        faults.add(f"{pointer}/after", "it waits for a step that is not there any more; choose again")


def _check_limits(faults: Collector, pointer: str, component: ComponentInput) -> None:
    faults.ranges(pointer, component)
    with faults.located(pointer):
        _ = component.portioning
    with faults.located(pointer):
        check_portioning(
            component.school,
            component.name,
            pieces=component.pieces,
            unit_g=component.unit_g,
            unit_part=component.unit_part,
            plate_share=component.plate_share,
            eye_g=component.eye_g,
        )


def _check_line(faults: Collector, pointer: str, food: str, line: LineInput) -> None:
    if not line.purchased_g >= 0 or (line.purchased_g == 0 and not line.text):
        faults.add(f"{pointer}/purchased_g", f"give {food} a weight above 0 g, or take the line out")
    elif line.purchased_g > 200_000:
        faults.add(
            f"{pointer}/purchased_g", f"{weight(line.purchased_g)} of {food} is more than 200 kg; check the unit"
        )
    faults.ranges(pointer, line)
