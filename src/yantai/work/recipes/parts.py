"""Components of recipes and batches as the plan takes them."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from yantai.core.errors import CoreError
from yantai.core.planning import dishes as core
from yantai.core.planning.portioning import Bounds, Portioning
from yantai.store import tables
from yantai.work.recipes.larder import Larder


def part_of(
    larder: Larder,
    component: tables.Component,
    portioning: Portioning,
    *,
    share_g: float,
    measured_g: float | None = None,
) -> core.Part:
    """A component of a recipe or a batch as the core takes it, portioned so: `share_g` is its weight in the recipe as
    written [g].

    Raises:
        CoreError: its school needs a figure that it does not have.
    """
    how: dict[str, Any] = {field.name: getattr(portioning, field.name) for field in fields(portioning)}
    minimum_g, maximum_g = how.pop("minimum_g"), how.pop("maximum_g")
    return core.Part(
        component=larder.component(component, measured_g=measured_g),
        share=share_g,
        role=component.role,
        raw_fixed=component.raw_fixed,
        packed_raw=component.packed_raw,
        whole_pans=component.whole_pans,
        bounds=Bounds(minimum_g=minimum_g, maximum_g=maximum_g),
        density_g_per_ml=component.density_g_per_ml,
        **how,
    )


def recipe_dish(larder: Larder, recipe: tables.Recipe) -> core.Dish:
    """A recipe as a dish by the ids of its components that go into containers.

    Raises:
        CoreError: a component makes no sense, with its name.
    """
    parts = {}
    for component in recipe.components:
        if component.served:
            try:
                made = larder.component(component)
                parts[str(component.id)] = part_of(larder, component, component.portioning, share_g=made.expected_g)
            except CoreError as error:
                raise CoreError(f"{component.name}: {error}", field=error.field) from error
    return core.Dish(name=recipe.name, parts=parts, groups=recipe.groups)
