"""A recipe's components copied into a batch, with the components they are made of unfolded into lines."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session

from yantai.core.foods.kitchen_words import words_of
from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.steps import copied_steps
from yantai.work.recipes.written import LineLike


@dataclass(frozen=True, kw_only=True)
class CopiedDish:
    """A recipe as a batch owns it: the dish with its parts, and the components that they are of."""

    dish: tables.Dish
    components: list[tables.Component]


def copy_recipe(
    session: Session,
    who: SignedIn,
    recipe: tables.Recipe,
    *,
    new_id: Callable[[str], uuid.UUID] = lambda _: uuid.uuid4(),
) -> CopiedDish:
    """The recipe as a dish with components of its own; `new_id` makes ids of names.

    A component that only goes into others is not cooked for containers; where a component is made of others,
    their ingredients take the place of the line, each with the yield it has there.
    """
    larder = Larder.read(session, recipe.components)
    components, parts, steps = [], [], _steps_by_pot(larder, recipe)
    for component in recipe.components:
        if not component.served:
            continue
        copied = copied_component(larder, who, component)
        copied.id = new_id(f"component/{component.id}")
        for line in copied.lines:
            line.id = new_id(f"line/{component.id}/{line.position}")
        copied.steps = copied_steps(who, steps[component.id], new_id)
        components.append(copied)
        parts.append(
            tables.Part(
                id=new_id(f"part/{component.id}"),
                workspace_id=who.workspace_id,
                component_id=copied.id,
                position=component.position,
                share_g=larder.component(component).expected_g,
                portioning=component.portioning,
            )
        )
    dish = tables.Dish(
        id=new_id("dish"),
        workspace_id=who.workspace_id,
        position=0,
        name=recipe.name,
        recipe_id=recipe.id,
        recipe_version=recipe.version,
        groups=dict(recipe.groups),
        parts=parts,
    )
    return CopiedDish(dish=dish, components=components)


def _steps_by_pot(larder: Larder, recipe: tables.Recipe) -> dict[uuid.UUID, list[tables.Step]]:
    """The steps of a recipe by the pot that a batch has for them.

    What is cooked only to go into others is done for the first pot that it goes into; what is of the whole recipe, for
    the one whose words it says, or the last one.
    """
    served = [component for component in recipe.components if component.served]
    owners = {component.id: component.id for component in served}
    for component in served:
        for _, unfolded in larder.unfold(component):
            if isinstance(unfolded.owner.key, uuid.UUID):
                owners.setdefault(unfolded.owner.key, component.id)
    found: dict[uuid.UUID, list[tables.Step]] = {component.id: [] for component in served}
    for step in recipe.steps:
        owner = owners.get(step.component_id) if step.component_id is not None else _said(step.text, served)
        found[owner or served[-1].id].append(step)
    return found


def _said(text: str, served: Sequence[tables.Component]) -> uuid.UUID | None:
    """The component whose name a step says most of."""
    words = set(words_of(text))
    said = [(len(words & set(words_of(component.name))), component.id) for component in served]
    most = max(said, key=lambda one: one[0], default=(0, None))
    return most[1] if most[0] else None


def copied_component(larder: Larder, who: SignedIn, component: tables.Component) -> tables.Component:
    """One component of a recipe as a batch owns it; `larder` knows its foods and sources."""
    return tables.Component(
        workspace_id=who.workspace_id,
        position=component.position,
        name=component.name,
        role=component.role,
        method=component.method,
        density_g_per_ml=component.density_g_per_ml,
        yield_low=component.yield_low,
        yield_expected=component.yield_expected,
        yield_high=component.yield_high,
        poured_fat_g=component.poured_fat_g + larder.poured_within(component),
        pieces=component.pieces,
        pan_capacity_g=component.pan_capacity_g,
        lid=component.lid,
        cook_min=component.cook_min,
        packed_raw=component.packed_raw,
        kit_text=component.kit_text,
        whole_pans=component.whole_pans,
        aside=False,
        raw_fixed=False,
        recipe_component_id=component.id,
        lines=_copied_lines(larder, who, component),
        steps=copied_steps(who, component.steps, lambda _: uuid.uuid4()),
    )


def own_copy(who: SignedIn, component: tables.Component, new_id: Callable[[str], uuid.UUID]) -> tables.Component:
    """Another pot of the same as a component of a batch, of the same history."""
    kept = {name: getattr(component, name) for name in _POT_COLUMNS}
    copy = tables.Component(
        id=new_id("component"), workspace_id=who.workspace_id, position=component.position, raw_fixed=False, **kept
    )
    copy.lines = [
        tables.Line(
            id=new_id(f"line/{number}"),
            workspace_id=who.workspace_id,
            position=number,
            **{name: getattr(line, name) for name in _LINE_COLUMNS},
        )
        for number, line in enumerate(component.lines)
    ]
    copy.steps = copied_steps(who, component.steps, new_id)
    return copy


def copied_part(who: SignedIn, part: tables.Part, key: uuid.UUID) -> tables.Part:
    """A part for another dish."""
    return tables.Part(
        id=key,
        workspace_id=who.workspace_id,
        component_id=part.component_id,
        position=part.position,
        share_g=part.share_g,
        portioning=part.portioning,
        removed=False,
    )


_POT_COLUMNS = (
    "name", "role", "method", "density_g_per_ml", "yield_low", "yield_expected", "yield_high",
    "poured_fat_g", "pieces", "pan_capacity_g", "lid", "cook_min", "served", "dismissed", "packed_raw", "kit_text",
    "whole_pans", "aside", "recipe_component_id",
)  # fmt: skip
_LINE_COLUMNS = (
    "food_id", "source_id", "purchased_g", "refuse_share", "refuse_after", "retained_share", "yield_factor", "text",
    "weighed_state", "counted", "scales", "unfolded", "dismissed", "added_at", "added_by",
)  # fmt: skip


def _copied_lines(larder: Larder, who: SignedIn, component: tables.Component) -> list[tables.Line]:
    copied = []
    for position, (line, unfolded) in enumerate(larder.unfold(component)):
        row = _copied(
            who,
            line,
            purchased_g=unfolded.purchased_g,
            yield_factor=unfolded.yield_factor,
            retained_share=unfolded.retained_share,
            counted=unfolded.counted,
        )
        row.position = position
        row.unfolded = line.unfolded or unfolded.owner.key != component.id
        copied.append(row)
    return copied


def _copied(who: SignedIn, line: LineLike, **changed: Any) -> tables.Line:
    values: dict[str, Any] = {
        "food_id": line.food_id,
        "purchased_g": line.purchased_g,
        "refuse_share": line.refuse_share,
        "refuse_after": line.refuse_after,
        "retained_share": line.retained_share,
        "yield_factor": line.yield_factor,
        "unfolded": line.unfolded,
        "weighed_state": line.weighed_state,
        "counted": line.counted,
        "scales": line.scales,
        "position": 0,
    }
    return tables.Line(workspace_id=who.workspace_id, **{**values, **changed})
