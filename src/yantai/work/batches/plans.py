"""The plan of a batch: rows to the core's question, and its answer."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from yantai.core.cooking.doubts import Doubt, doubt
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.foods.nutrients import Amounts, total
from yantai.core.planning import plan as core
from yantai.core.portions import Portions
from yantai.core.targets.targets import Target
from yantai.store import tables
from yantai.work.batches import loading
from yantai.work.batches.loading import (
    Loaded,
)
from yantai.work.common.errors import Closed, located
from yantai.work.recipes.parts import part_of


@dataclass(frozen=True, kw_only=True)
class Computed:
    """The same with the core's answer."""

    loaded: Loaded
    parts: dict[str, core.Part]
    plan: core.Plan

    def need(self, component: tables.Component) -> core.ComponentNeed:
        """The chain of one component."""
        return self.plan.needs[str(component.id)]


def compute(loaded: Loaded) -> Computed:
    """Run the core on a batch.

    Raises:
        Invalid: a value of the batch is out of range.
    """
    batch = loaded.batch
    parts = {}
    for component in batch.components:
        with located(f"/components/{component.name}"):
            parts[str(component.id)] = core_part(loaded, component)
    with located(""):
        plan = solve_batch(batch, parts, core_classes(loaded))
    return Computed(loaded=loaded, parts=parts, plan=plan)


def solve_batch(
    batch: tables.Batch, parts: Mapping[str, core.Part], classes: Sequence[core.ContainerClass]
) -> core.Plan:
    """The core's answer for these parts and classes by the rules of a batch."""
    return core.plan(
        parts,
        classes,
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sharing=batch.sharing,
        leftover=batch.leftover,
    )


def core_classes(loaded: Loaded) -> tuple[core.ContainerClass, ...]:
    """The rows of a batch as the core takes them."""
    return tuple(core_class(loaded, row) for row in loaded.batch.classes)


def sum_of(per_100g: Sequence[Amounts], grams: Sequence[float]) -> Amounts:
    """What a container of these grams [g] of each component holds."""
    return total(held.in_grams(amount) for held, amount in zip(per_100g, grams, strict=True))


def rows_of(computed: Computed) -> list[tuple[tables.ContainerClass, Portions]]:
    """Each row with the portions of its containers."""
    return list(zip(computed.loaded.batch.classes, computed.plan.portions, strict=True))


def container_name(row: tables.ContainerClass) -> str:
    """Whose containers these are, for which meal and kind of day."""
    return row_name(row.client.name, row.slot, row.day_type)


def row_name(client: str, slot: str, day_type: str) -> str:
    """Whose containers, for which meal and kind of day."""
    return f"{client}, {slot}" + ("" if day_type == "any" else f" on {day_type} days")


def core_part(loaded: Loaded, component: tables.Component) -> core.Part:
    """A component of the batch as the core takes it.

    Raises:
        CoreError: its school needs a figure that it does not have.
    """
    weighing = loaded.weighings.get(component.id)
    return part_of(
        loaded.larder,
        component,
        share_g=component.recipe_share_g or 1.0,
        measured_g=weighing.cooked_g if weighing else None,
    )


def core_class(loaded: Loaded, row: tables.ContainerClass, *, with_pins: bool = True) -> core.ContainerClass:
    """A row as the core takes it, with the components of `loaded` that its client must not have left out.

    Without pins it may be a row of another batch.
    """
    left_out = frozenset(key for key, why in loaded.kept_out(row.client).items() if why)
    pins = {str(pin.component_id): pin.grams for pin in row.pins} if with_pins else {}
    if row.packed_g is not None:
        # What was packed stays as it was packed, whatever became of the client since.
        pins, left_out = row.packed_g, frozenset()
    with located(f"/rows/{row.id}"):
        return core.ContainerClass(
            target=Target.of(row.figures),
            tolerance=row.client.tolerance,
            count=row.count,
            capacity_ml=row.capacity_ml,
            capacity_g=row.capacity_g,
            plate_g=row.plate_g,
            rank=row.rank,
            pins=pins,
            left_out=left_out,
        )


def weighing_doubt(
    loaded: Loaded, component: tables.Component, vessels: Sequence[VesselWeight], removed_g: float
) -> Doubt | None:
    """Why a weighing of a component is questioned; None where it is believed."""
    larder = loaded.larder
    return doubt(
        larder.component(component),
        vessels,
        removed_g=removed_g,
        known_vessels=loaded.vessels,
        others={
            other.name: larder.component(other)
            for other in loaded.batch.components
            if other.id != component.id and other.raw_fixed
        },
    )


NOTHING_DECIDED = "This batch is packed. Open it again to see what it could be."


def compute_open(session: Session, batch_id: uuid.UUID) -> Computed:
    """What could still be decided by; of a packed batch nothing can."""
    loaded = loading.load(session, batch_id)
    if loaded.batch.packed_at is not None:
        raise Closed(NOTHING_DECIDED)
    return compute(loaded)
