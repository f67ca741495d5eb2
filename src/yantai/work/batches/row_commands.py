"""Changes of the containers of a batch: pins, targets, how many there are, extras, another batch."""

from __future__ import annotations

import uuid

from yantai.core.cooking.components import Role
from yantai.core.planning.portioning import Portioning, School
from yantai.core.portions.problem import MAXIMUM_CELL_G, check_room
from yantai.core.speaking import weight
from yantai.core.targets.targets import Target
from yantai.store import tables
from yantai.work.batches import loading, log
from yantai.work.batches.desk import Desk, find_row, food_of
from yantai.work.batches.inputs import (
    AddSide,
    Change,
    MoveRow,
    RemoveSide,
    RowPin,
    SetContainers,
    SetPin,
    SetTarget,
    TakeRow,
)
from yantai.work.batches.plans import container_name
from yantai.work.batches.versions import mark_changed
from yantai.work.clients.kept_out import kept_from
from yantai.work.common.errors import Closed, Invalid, located


def set_pin(desk: Desk, change: SetPin) -> list[Change]:
    """Fix the grams of a cell, or free it."""
    row, component = desk.row(change.row_id), desk.component(change.component_id)
    desk.part(component.id, row.dish_id)
    pin = next((pin for pin in row.pins if pin.component_id == component.id), None)
    before = None if pin is None else pin.grams
    if change.grams is None:
        row.pins = [other for other in row.pins if other is not pin]
    else:
        if not 0 <= change.grams <= MAXIMUM_CELL_G:
            raise Invalid.at(
                f"{desk.pointer}/grams",
                f"{weight(change.grams)} of {component.name} in one container; give from 0 to "
                f"{weight(MAXIMUM_CELL_G)}.",
            )
        if pin is None:
            row.pins.append(
                tables.Pin(workspace_id=desk.who.workspace_id, component_id=component.id, grams=change.grams)
            )
        else:
            pin.grams = change.grams
    return [SetPin(row_id=row.id, component_id=component.id, grams=before)]


def set_target(desk: Desk, change: SetTarget) -> list[Change]:
    """Give the containers of a row another target, in this batch only."""
    row = desk.row(change.row_id)
    before = SetTarget(row_id=row.id, **row.figures.by_name)
    row.figures = change.figures
    with located(desk.pointer):
        Target.of(row.figures)
    return [before]


def set_containers(desk: Desk, change: SetContainers) -> list[Change]:
    """Change how many containers a row has, their room, plate and rank."""
    row = desk.row(change.row_id)
    before = SetContainers(
        row_id=row.id,
        count=row.count,
        capacity_ml=row.capacity_ml,
        capacity_g=row.capacity_g,
        plate_g=row.plate_g,
        rank=row.rank,
        helping=row.helping,
    )
    with located(desk.pointer):
        check_room(capacity_ml=change.capacity_ml, capacity_g=change.capacity_g, plate_g=change.plate_g)
    row.count, row.rank, row.helping = change.count, change.rank, change.helping
    row.capacity_ml, row.capacity_g, row.plate_g = change.capacity_ml, change.capacity_g, change.plate_g
    return [before]


def move_row(desk: Desk, change: MoveRow) -> list[Change]:
    """Cook a row with another batch, which is told; its pins here end."""
    row, other = desk.row(change.row_id), _other_batch(desk, change.to_batch_id)
    own = {component.id for component in desk.batch.components if is_side(desk, component)}
    # Extras stay behind: they are components of this batch, and go with the last of their pins.
    sides = [
        undo
        for pin in list(row.pins)
        if pin.component_id in own
        for undo in remove_side(desk, RemoveSide(row_id=row.id, component_id=pin.component_id))
    ]
    before = TakeRow(
        row_id=row.id,
        from_batch_id=other.id,
        position=row.position,
        pins=[RowPin(component_id=pin.component_id, grams=pin.grams) for pin in row.pins],
        dish_id=row.dish_id,
        chosen=row.chosen,
    )
    row.pins, row.chosen = [], []
    row.dish_id = (other.dishes[0] if change.dish_id is None else find_row(other.dishes, change.dish_id, "dish")).id
    row.position = max((one.position for one in other.classes), default=-1) + 1
    desk.batch.classes = [one for one in desk.batch.classes if one is not row]
    other.classes.append(row)
    mark_changed(desk.session, other, desk.who)
    log.note(desk.session, desk.who, other, f"{container_name(row)} came from “{desk.batch.name}”", bars=False)
    return [before, *sides]


def take_row(desk: Desk, change: TakeRow) -> list[Change]:
    """Take a moved row back to its place, with the pins it had."""
    other = _other_batch(desk, change.from_batch_id)
    row = find_row(other.classes, change.row_id, "row")
    other.classes = [one for one in other.classes if one is not row]
    there = row.dish_id
    row.position, row.chosen = change.position, list(change.chosen)
    row.dish_id = (desk.batch.dishes[0] if change.dish_id is None else desk.dish(change.dish_id)).id
    row.pins = [
        tables.Pin(
            workspace_id=desk.who.workspace_id, component_id=desk.component(pin.component_id).id, grams=pin.grams
        )
        for pin in change.pins
    ]
    desk.batch.classes = sorted([*desk.batch.classes, row], key=lambda one: one.position)
    mark_changed(desk.session, other, desk.who)
    log.note(desk.session, desk.who, other, f"{container_name(row)} went back to “{desk.batch.name}”")
    return [MoveRow(row_id=row.id, to_batch_id=other.id, dish_id=there)]


def _other_batch(desk: Desk, batch_id: uuid.UUID) -> tables.Batch:
    if batch_id == desk.batch.id:
        raise Invalid.at(f"{desk.pointer}/row_id", "These containers are in this batch already.")
    other = loading.load(desk.session, batch_id, lock=True).batch
    if other.packed_at is not None:
        raise Closed(f"“{other.name}” is packed. Open it again to change what is in it.")
    return other


def add_side(desk: Desk, change: AddSide) -> list[Change]:
    """Put a food beside the components into the containers of a row (docs/decisions/0015)."""
    row, food = desk.row(change.row_id), food_of(desk, change.food_id)
    wrong = kept_from(row.client, food)
    if wrong:
        raise Invalid.at(
            f"{desk.pointer}/food_id", f"{food.name} contains {', '.join(wrong)}; {row.client.name} must avoid it."
        )
    dish = desk.dish(row.dish_id)
    sides = [one for one in desk.batch.components if is_side(desk, one) and one.lines[0].food_id == food.id]
    component = next(iter(sides), None)
    if component is None:
        # By eye and nothing of it: the containers that are not pinned get none.
        component = tables.Component(
            id=change.component_id or desk.new_id("component"),
            workspace_id=desk.who.workspace_id,
            position=len(desk.batch.components),
            name=food.name,
            role=Role.TOPPING,
            method="none",
            density_g_per_ml=1.0,
            raw_fixed=False,
            packed_raw=False,
            kit_text="",
            whole_pans=False,
            aside=False,
            poured_fat_g=0,
            served=True,
            dismissed={},
            steps=[],
            lines=[
                tables.Line(
                    id=desk.new_id("line"),
                    workspace_id=desk.who.workspace_id,
                    position=0,
                    food_id=food.id,
                    purchased_g=100,
                    refuse_share=0,
                    retained_share=1,
                    refuse_after=False,
                    text="",
                    weighed_state="",
                    counted=True,
                    scales=True,
                    dismissed={},
                    added_by="",
                )
            ],
        )
        desk.batch.components.append(component)
        desk.session.flush()
    if not any(part.component_id == component.id for part in dish.parts):
        dish.parts.append(
            tables.Part(
                id=uuid.uuid5(dish.id, f"side/{component.id}"),
                workspace_id=desk.who.workspace_id,
                component_id=component.id,
                position=max((part.position for part in dish.parts), default=-1) + 1,
                share_g=1,
                portioning=Portioning(school=School.BY_EYE),
                removed=False,
            )
        )
        desk.session.flush()
    pin = next((pin for pin in row.pins if pin.component_id == component.id), None)
    if pin is None:
        row.pins.append(tables.Pin(workspace_id=desk.who.workspace_id, component_id=component.id, grams=change.grams))
        return [RemoveSide(row_id=row.id, component_id=component.id)]
    before = SetPin(row_id=row.id, component_id=component.id, grams=pin.grams)
    pin.grams = change.grams
    return [before]


def is_side(desk: Desk, component: tables.Component) -> bool:
    """It is a food that was put beside the recipe's components."""
    parts = [part for dish in desk.batch.dishes for part in dish.parts if part.component_id == component.id]
    by_eye = all(part.portioning.school is School.BY_EYE and not part.portioning.eye_g for part in parts)
    return component.recipe_component_id is None and len(component.lines) == 1 and bool(parts) and by_eye


def remove_side(desk: Desk, change: RemoveSide) -> list[Change]:
    """Take such a food out again; its component goes with the last of its pins."""
    row, component = desk.row(change.row_id), desk.component(change.component_id)
    pin = next((pin for pin in row.pins if pin.component_id == component.id), None)
    food_id = component.lines[0].food_id if component.lines else None
    if not is_side(desk, component) or pin is None or food_id is None:
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} is no extra of this container.")
    row.pins = [other for other in row.pins if other is not pin]
    dish = desk.dish(row.dish_id)
    pinned = [each for each in desk.batch.classes if any(other.component_id == component.id for other in each.pins)]
    if not any(each.dish_id == dish.id for each in pinned):
        dish.parts = [part for part in dish.parts if part.component_id != component.id]
    if not pinned:
        desk.batch.components = [other for other in desk.batch.components if other is not component]
    return [AddSide(row_id=row.id, food_id=food_id, grams=pin.grams, component_id=component.id)]
