"""Components of recipes and batches as the plan takes them."""

from __future__ import annotations

from yantai.core.planning import plan as core
from yantai.store import tables
from yantai.work.recipes.larder import Larder


def part_of(
    larder: Larder, component: tables.Component, *, share_g: float, measured_g: float | None = None
) -> core.Part:
    """A component of a recipe or a batch as the core takes it: `share_g` is its weight in the recipe as written [g].

    Raises:
        CoreError: its school needs a figure that it does not have.
    """
    return core.Part(
        component=larder.component(component, measured_g=measured_g),
        share=share_g,
        school=component.school,
        role=component.role,
        unit_g=component.unit_g,
        unit_part=component.unit_part,
        plate_share=component.plate_share,
        eye_g=component.eye_g,
        raw_fixed=component.raw_fixed,
        bounds=component.bounds,
        density_g_per_ml=component.density_g_per_ml,
    )
