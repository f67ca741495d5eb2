"""A recipe's components copied into a batch, with the components they are made of unfolded into lines."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.work.common.who import SignedIn
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.written import LineLike


def copy_components(session: Session, who: SignedIn, recipe: tables.Recipe) -> list[tables.Component]:
    """The recipe's components as a batch owns them, with their weights in the recipe as written.

    A component that only goes into others is not cooked for containers; where a component is made of others,
    their ingredients take the place of the line, each with the yield it has there.
    """
    larder = Larder.read(session, recipe.components)
    return [copied_component(larder, who, component) for component in recipe.components if component.served]


def copied_component(larder: Larder, who: SignedIn, component: tables.Component) -> tables.Component:
    """One component of a recipe as a batch owns it; `larder` knows its foods and sources."""
    return tables.Component(
        workspace_id=who.workspace_id,
        position=component.position,
        name=component.name,
        role=component.role,
        method=component.method,
        bounds=component.bounds,
        density_g_per_ml=component.density_g_per_ml,
        yield_low=component.yield_low,
        yield_expected=component.yield_expected,
        yield_high=component.yield_high,
        poured_fat_g=component.poured_fat_g + larder.poured_within(component),
        pieces=component.pieces,
        pan_capacity_g=component.pan_capacity_g,
        lid=component.lid,
        cook_min=component.cook_min,
        school=component.school,
        unit_g=component.unit_g,
        unit_part=component.unit_part,
        plate_share=component.plate_share,
        eye_g=component.eye_g,
        recipe_component_id=component.id,
        recipe_share_g=larder.component(component).expected_g,
        lines=_copied_lines(larder, who, component),
    )


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
