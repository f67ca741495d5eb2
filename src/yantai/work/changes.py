"""Changes of a batch. Each is applied with the others of its command or not at all, and returns its inverse."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, TypeVar, cast

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.components import Component
from yantai.core.errors import require_range
from yantai.core.plan import School
from yantai.core.portions.problem import MAXIMUM_CELL_G
from yantai.core.scaling import factor_for_packs
from yantai.core.weighing import VesselWeight, impossible, net_weight_g
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import plans
from yantai.work.accounts import SignedIn
from yantai.work.batches import check_batch, mark_changed, refuse_stale
from yantai.work.clients import check_room
from yantai.work.errors import Closed, Collector, Doubtful, Fault, Invalid, Mend, Missing, located
from yantai.work.figures import core_target, target_figures
from yantai.work.inputs import (
    AddExtra,
    AddLine,
    Change,
    Changes,
    ComponentInput,
    LineInput,
    MoveRow,
    RawAmount,
    RemoveExtra,
    RemoveLine,
    RowPin,
    SchoolName,
    SetBatch,
    SetBounds,
    SetComponent,
    SetContainers,
    SetLine,
    SetPacked,
    SetPacks,
    SetPin,
    SetPoured,
    SetRaw,
    SetSchool,
    SetTarget,
    TakeRow,
    Vessel,
    Weigh,
    Withdraw,
)
from yantai.work.kitchen import kept_from
from yantai.work.views import PlanView, WeighingView

RowT = TypeVar("RowT", bound=tables.Row)


@dataclass(frozen=True, kw_only=True)
class Changed:
    """The plan after a command, and the changes that take it back."""

    plan: PlanView
    inverse: list[Change]


def change_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, given: Changes, now: datetime) -> Changed:
    """Apply changes to a batch and compute it anew.

    A weighing that was recorded already is not recorded again: after a lost answer the same call is safe.

    Raises:
        Invalid: a value makes no sense.
        Stale: the batch was changed since `given.version`.
        Doubtful: a cooked weight is unlikely and `given.confirmed` is not set.
        Closed: the batch is packed.
    """
    with database.workspace(who.workspace_id) as session:
        loaded = plans.load(session, batch_id, lock=True)
        if _is_recorded(session, given):
            return Changed(plan=plans.plan_view(plans.compute(loaded)), inverse=[])
        loaded, inverse = apply_changes(session, who, loaded, given, now)
        computed = plans.compute(loaded)
        mark_changed(session, loaded.batch, who)
        return Changed(plan=plans.plan_view(computed), inverse=inverse)


def preview_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, given: Changes, now: datetime) -> PlanView:
    """The plan as these changes would make it. Nothing of it is kept, and nobody is told.

    Raises:
        Invalid, Stale, Doubtful, Closed: as the changes themselves would.
    """
    with database.trial(who.workspace_id) as session:
        loaded, _ = apply_changes(session, who, plans.load(session, batch_id), given, now)
        return plans.plan_view(plans.compute(loaded))


def apply_changes(
    session: Session, who: SignedIn, loaded: plans.Loaded, given: Changes, now: datetime
) -> tuple[plans.Loaded, list[Change]]:
    """Apply changes to the rows of a batch; the batch as it then is, and the changes that take them back."""
    refuse_stale(loaded.batch, given.version)
    inverse: list[Change] = []
    for place, change in enumerate(given.changes):
        if loaded.batch.packed_at is not None and not isinstance(change, SetPacked):
            raise Closed("This batch is packed. Open it again to change it.")
        desk = _Desk(
            session=session,
            who=who,
            loaded=loaded,
            pointer=f"/changes/{place}",
            now=now,
            confirmed=given.confirmed,
        )
        # Taken back in the opposite order.
        inverse = _APPLY[type(change)](desk, change) + inverse
        session.flush()
        loaded = plans.after_change(session, loaded, foods_added=isinstance(change, _BRING_FOODS))
    return loaded, inverse


_BRING_FOODS = (AddLine, SetLine, SetComponent, AddExtra)


@dataclass(frozen=True, kw_only=True)
class _Desk:
    """What applying one change needs."""

    session: Session
    who: SignedIn
    loaded: plans.Loaded
    pointer: str
    now: datetime
    confirmed: bool

    @property
    def batch(self) -> tables.Batch:
        return self.loaded.batch

    def row(self, row_id: uuid.UUID) -> tables.ContainerClass:
        return _find(self.batch.classes, row_id, "row")

    def component(self, component_id: uuid.UUID) -> tables.Component:
        return _find(self.batch.components, component_id, "component")


def _find(rows: Sequence[RowT], wanted: uuid.UUID, what: str) -> RowT:
    found = next((row for row in rows if row.id == wanted), None)
    if found is None:
        raise Missing(f"This batch has no such {what}. Reload the page for the newest plan.")
    return found


def _is_recorded(session: Session, given: Changes) -> bool:
    ids = [change.command_id for change in given.changes if isinstance(change, Weigh | Withdraw)]
    query = select(tables.Weighing.id).where(tables.Weighing.command_id.in_(ids))
    return bool(ids) and session.scalar(query.limit(1)) is not None


def _pin(desk: _Desk, change: SetPin) -> list[Change]:
    row, component = desk.row(change.row_id), desk.component(change.component_id)
    pin = next((pin for pin in row.pins if pin.component_id == component.id), None)
    before = None if pin is None else pin.grams
    if change.grams is None:
        row.pins = [other for other in row.pins if other is not pin]
    else:
        if not 0 <= change.grams <= MAXIMUM_CELL_G:
            raise Invalid.at(
                f"{desk.pointer}/grams",
                f"{change.grams:,.0f} g of {component.name} in one container; give from 0 to {MAXIMUM_CELL_G:,.0f} g.",
            )
        if pin is None:
            row.pins.append(
                tables.Pin(workspace_id=desk.who.workspace_id, component_id=component.id, grams=change.grams)
            )
        else:
            pin.grams = change.grams
    return [SetPin(row_id=row.id, component_id=component.id, grams=before)]


def _target(desk: _Desk, change: SetTarget) -> list[Change]:
    row = desk.row(change.row_id)
    before = SetTarget(row_id=row.id, **cast(Any, target_figures(row)))
    for name, value in target_figures(change).items():
        setattr(row, name, value)
    with located(desk.pointer):
        core_target(row)
    return [before]


def _containers(desk: _Desk, change: SetContainers) -> list[Change]:
    row = desk.row(change.row_id)
    before = SetContainers(
        row_id=row.id,
        count=row.count,
        capacity_ml=row.capacity_ml,
        capacity_g=row.capacity_g,
        plate_g=row.plate_g,
        rank=row.rank,
    )
    with located(desk.pointer):
        require_range("count", change.count, low=0, high=100, unit="containers")
        require_range("rank", change.rank, low=0, high=99, unit="")
        check_room(change)
    row.count, row.rank = change.count, change.rank
    row.capacity_ml, row.capacity_g, row.plate_g = change.capacity_ml, change.capacity_g, change.plate_g
    return [before]


def _school(desk: _Desk, change: SetSchool) -> list[Change]:
    component = desk.component(change.component_id)
    before = SetSchool(
        component_id=component.id,
        school=cast(SchoolName, component.school),
        unit_g=component.unit_g,
        unit_part=component.unit_part,
        plate_share=component.plate_share,
        eye_g=component.eye_g,
        pieces=component.pieces,
    )
    component.school, component.unit_g, component.unit_part = change.school, change.unit_g, change.unit_part
    component.plate_share, component.eye_g, component.pieces = change.plate_share, change.eye_g, change.pieces
    with located(desk.pointer):
        plans.core_pan(desk.loaded, component)
    return [before]


def _bounds(desk: _Desk, change: SetBounds) -> list[Change]:
    component = desk.component(change.component_id)
    before = SetBounds(component_id=component.id, minimum_g=component.minimum_g, maximum_g=component.maximum_g)
    with located(desk.pointer):
        require_range("minimum_g", change.minimum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
        require_range("maximum_g", change.maximum_g, low=0, high=MAXIMUM_CELL_G, unit="g")
    if change.minimum_g > change.maximum_g:
        raise Invalid.at(
            f"{desk.pointer}/minimum_g",
            f"The least, {change.minimum_g:g} g, is above the most, {change.maximum_g:g} g, per container.",
        )
    component.minimum_g, component.maximum_g = change.minimum_g, change.maximum_g
    return [before]


def _raw(desk: _Desk, change: SetRaw) -> list[Change]:
    component = desk.component(change.component_id)
    if not change.fixed and component.id in desk.loaded.weighings:
        raise Invalid.at(
            f"{desk.pointer}/fixed",
            f"{component.name} is weighed: its raw amounts are what went into the pan. Take the weight back first.",
        )
    before = _raw_state(component)
    if change.fixed:
        _fix_raw(desk, component)
    component.raw_fixed = change.fixed
    for number, amount in enumerate(change.lines):
        line = _find(component.lines, amount.line_id, "ingredient")
        if not 0 <= amount.purchased_g <= 1_000_000:
            raise Invalid.at(
                f"{desk.pointer}/lines/{number}/purchased_g",
                f"{amount.purchased_g:,.0f} g; give from 0 to 1,000,000 g.",
            )
        line.purchased_g = amount.purchased_g
    with located(desk.pointer):
        desk.loaded.larder.component(component)
    return [before]


def _packs(desk: _Desk, change: SetPacks) -> list[Change]:
    component = desk.component(change.component_id)
    if component.id in desk.loaded.weighings:
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} is weighed: it is cooked already.")
    before = _raw_state(component)
    place = component.lines.index(_find(component.lines, change.line_id, "ingredient"))
    sized = plans.compute(desk.loaded).need(component).lines
    if not sized[place].purchased_g:
        raise Invalid.at(f"{desk.pointer}/line_id", f"The plan needs none of {component.name} yet.")
    with located(desk.pointer):
        factor, _ = factor_for_packs(sized[place].purchased_g, change.pack_g, packs=change.packs)
    for line, now in zip(component.lines, sized, strict=True):
        line.purchased_g = now.purchased_g * factor
    component.raw_fixed = True
    return [before]


def _raw_state(component: tables.Component) -> SetRaw:
    lines = [RawAmount(line_id=line.id, purchased_g=line.purchased_g) for line in component.lines]
    return SetRaw(component_id=component.id, fixed=component.raw_fixed, lines=lines)


def _fix_raw(desk: _Desk, component: tables.Component) -> None:
    """Write the amounts the plan shows now into the component, so that they no longer follow the need."""
    if component.raw_fixed:
        return
    need = plans.compute(desk.loaded).need(component)
    if need.cooked_g:
        for line, sized in zip(component.lines, need.lines, strict=True):
            line.purchased_g = round(sized.purchased_g)
    component.raw_fixed = True


def _weigh(desk: _Desk, change: Weigh) -> list[Change]:
    component = desk.component(change.component_id)
    before = desk.loaded.weighings.get(component.id)
    raw_before = _raw_state(component)
    vessels = []
    for number, vessel in enumerate(change.vessels):
        with located(f"{desk.pointer}/vessels/{number}"):
            vessels.append(VesselWeight(gross_g=vessel.gross_g, vessel_g=vessel.vessel_g))
    with located(desk.pointer):
        cooked = net_weight_g(vessels, change.removed_g)
    _fix_raw(desk, component)
    with located(desk.pointer):
        pan = desk.loaded.larder.component(component)
    _refuse_unlikely(desk, component, pan, vessels, cooked, change.removed_g)
    _record(desk, component, change, cooked, pan)
    if before is None:
        return [Withdraw(component_id=component.id, command_id=uuid.uuid4()), raw_before]
    return [_as_before(component, before)]


def _as_before(component: tables.Component, before: WeighingView) -> Weigh:
    """The weighing that counted until now, as a change that brings it back."""
    old = [Vessel(gross_g=vessel.gross_g, vessel_g=vessel.vessel_g) for vessel in before.vessels]
    return Weigh(component_id=component.id, command_id=uuid.uuid4(), vessels=old, removed_g=before.removed_g)


def _refuse_unlikely(
    desk: _Desk,
    component: tables.Component,
    pan: Component,
    vessels: Sequence[VesselWeight],
    cooked_g: float,
    removed_g: float,
) -> None:
    if desk.confirmed:
        why = impossible(pan, cooked_g)
        if why:
            raise Invalid.at(f"{desk.pointer}/vessels/0/gross_g", why)
        return
    likely = plans.cause_views(desk.loaded, component, vessels, removed_g)
    why = impossible(pan, cooked_g)
    mends = [
        Mend(cause.words, [{"gross_g": one.gross_g, "vessel_g": one.vessel_g} for one in cause.vessels])
        for cause in likely
        if cause.vessels is not None
    ]
    if why:
        raise Invalid(why, [Fault(f"{desk.pointer}/vessels/0/gross_g", why)], mends)
    if likely:
        untold = " ".join(cause.words for cause in likely if cause.vessels is None)
        raise Doubtful(
            f"{cooked_g:,.0f} g is outside the {pan.expected_low_g:,.0f} to {pan.expected_high_g:,.0f} g expected of "
            f"{pan.basis_g:,.0f} g raw. It may be: {untold} If it is right, record it anyway.",
            mends=mends,
        )


def _record(
    desk: _Desk,
    component: tables.Component,
    change: Weigh | Withdraw,
    cooked_g: float | None,
    pan: Component | None,
) -> None:
    """Add a row to the log, with what the history of yields needs to know of this pan."""
    main = desk.loaded.larder.main_food(component)
    weighed = change if isinstance(change, Weigh) else None
    desk.session.add(
        tables.Weighing(
            workspace_id=desk.who.workspace_id,
            batch_id=desk.batch.id,
            component_id=component.id,
            account_id=desk.who.account_id,
            command_id=change.command_id,
            weighed_at=desk.now,
            cooked_g=cooked_g,
            vessels=[{"gross_g": one.gross_g, "vessel_g": one.vessel_g} for one in weighed.vessels] if weighed else [],
            removed_g=weighed.removed_g if weighed else 0.0,
            yield_factor=None if pan is None or cooked_g is None else cooked_g / pan.basis_g,
            food_id=None if main is None else main.superseded_by or main.id,
            method=component.method,
            recipe_component_id=component.recipe_component_id,
        )
    )


def _withdraw(desk: _Desk, change: Withdraw) -> list[Change]:
    component = desk.component(change.component_id)
    before = desk.loaded.weighings.get(component.id)
    if before is None:
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} has no weight to take back.")
    _record(desk, component, change, None, None)
    return [_as_before(component, before)]


def _add_line(desk: _Desk, change: AddLine) -> list[Change]:
    component = desk.component(change.component_id)
    with located(desk.pointer):
        require_range("purchased_g", change.purchased_g, low=0.01, high=100_000, unit="g")
    food = _food(desk, change.food_id)
    raw_before = _raw_state(component)
    _fix_raw(desk, component)
    line = tables.Line(
        id=uuid.uuid4(),
        workspace_id=desk.who.workspace_id,
        position=len(component.lines),
        food_id=food.id,
        purchased_g=change.purchased_g,
        refuse_share=0,
        retained_share=1,
        added_at=desk.now,
        added_by=desk.who.name,
    )
    component.lines.append(line)
    return [RemoveLine(component_id=component.id, line_id=line.id), raw_before]


def _line(desk: _Desk, change: SetLine) -> list[Change]:
    component = desk.component(change.component_id)
    line = _find(component.lines, change.line_id, "ingredient")
    if component.raw_fixed or line.food_id is None:
        raise Invalid.at(
            f"{desk.pointer}/line_id",
            f"{component.name} is in the pan already, or its raw amounts are fixed: add to it at the stove instead.",
        )
    with located(desk.pointer):
        require_range("purchased_g", change.purchased_g, low=0.01, high=1_000_000, unit="g")
    before = SetLine(component_id=component.id, line_id=line.id, food_id=line.food_id, purchased_g=line.purchased_g)
    line.food_id, line.purchased_g = _food(desk, change.food_id).id, change.purchased_g
    return [before]


def _swap(desk: _Desk, change: SetComponent) -> list[Change]:
    component, given = desk.component(change.component_id), change.component
    if component.raw_fixed or component.id in desk.loaded.weighings:
        raise Invalid.at(
            f"{desk.pointer}/component_id",
            f"{component.name} is in the pan already, or its raw amounts are fixed: it stays what it is.",
        )
    if len(change.line_ids) != len(given.lines) or any(line.source_id for line in given.lines) or not given.lines:
        raise Invalid.at(f"{desk.pointer}/line_ids", "A component of a batch has foods, each line with an id.")
    before = component_change(component)
    for name in PART_FIELDS:
        setattr(component, name, getattr(given, name))
    component.recipe_component_id = change.recipe_component_id
    component.lines = [
        tables.Line(
            id=line_id,
            workspace_id=desk.who.workspace_id,
            position=position,
            food_id=_food(desk, cast(uuid.UUID, line.food_id)).id,
            **{name: getattr(line, name) for name in LINE_FIELDS},
        )
        for position, (line_id, line) in enumerate(zip(change.line_ids, given.lines, strict=True))
    ]
    return [before]


PART_FIELDS = (
    "name", "role", "method", "minimum_g", "maximum_g", "density_g_per_ml", "yield_low", "yield_expected",
    "yield_high", "poured_fat_g", "pieces", "pan_capacity_g", "school", "unit_g", "unit_part", "plate_share", "eye_g",
)  # fmt: skip
"""What a component is, apart from its lines and where it comes from."""

LINE_FIELDS = (
    "purchased_g", "refuse_share", "refuse_after", "retained_share", "yield_factor", "text", "weighed_state", "counted",
    "scales", "dismissed",
)  # fmt: skip


def component_change(
    component: tables.Component, *, into: uuid.UUID | None = None, recipe_component_id: uuid.UUID | None = None
) -> SetComponent:
    """The change that puts this component, as it is, into the place of `into`, or of itself."""
    return SetComponent(
        component_id=into or component.id,
        component=ComponentInput(
            **{name: getattr(component, name) for name in PART_FIELDS},
            lines=[
                LineInput(
                    food_id=line.food_id,
                    **{name: getattr(line, name) for name in LINE_FIELDS if getattr(line, name) is not None},
                )
                for line in component.lines
            ],
        ),
        line_ids=[line.id or uuid.uuid4() for line in component.lines],
        recipe_component_id=recipe_component_id or component.recipe_component_id,
    )


def _move(desk: _Desk, change: MoveRow) -> list[Change]:
    row, other = desk.row(change.row_id), _other_batch(desk, change.to_batch_id)
    before = TakeRow(
        row_id=row.id,
        from_batch_id=other.id,
        position=row.position,
        pins=[RowPin(component_id=pin.component_id, grams=pin.grams) for pin in row.pins],
    )
    row.pins = []
    row.position = max((one.position for one in other.classes), default=-1) + 1
    desk.batch.classes = [one for one in desk.batch.classes if one is not row]
    other.classes.append(row)
    mark_changed(desk.session, other, desk.who)
    return [before]


def _take(desk: _Desk, change: TakeRow) -> list[Change]:
    other = _other_batch(desk, change.from_batch_id)
    row = _find(other.classes, change.row_id, "row")
    other.classes = [one for one in other.classes if one is not row]
    row.position = change.position
    row.pins = [
        tables.Pin(
            workspace_id=desk.who.workspace_id, component_id=desk.component(pin.component_id).id, grams=pin.grams
        )
        for pin in change.pins
    ]
    desk.batch.classes = sorted([*desk.batch.classes, row], key=lambda one: one.position)
    mark_changed(desk.session, other, desk.who)
    return [MoveRow(row_id=row.id, to_batch_id=other.id)]


def _other_batch(desk: _Desk, batch_id: uuid.UUID) -> tables.Batch:
    if batch_id == desk.batch.id:
        raise Invalid.at(f"{desk.pointer}/row_id", "These containers are in this batch already.")
    other = plans.load(desk.session, batch_id, lock=True).batch
    if other.packed_at is not None:
        raise Closed(f"“{other.name}” is packed. Open it again to change what is in it.")
    return other


def _food(desk: _Desk, food_id: uuid.UUID) -> tables.Food:
    food = desk.session.get(tables.Food, food_id)
    if food is None:
        raise Invalid.at(f"{desk.pointer}/food_id", "This food is not in your pantry; choose another.")
    return food


def _extra(desk: _Desk, change: AddExtra) -> list[Change]:
    row, food = desk.row(change.row_id), _food(desk, change.food_id)
    with located(desk.pointer):
        require_range("grams", change.grams, low=0.1, high=MAXIMUM_CELL_G, unit="g")
    wrong = kept_from(row.client, [food])
    if wrong:
        raise Invalid.at(
            f"{desk.pointer}/food_id", f"{food.name} contains {', '.join(wrong)}; {row.client.name} must avoid it."
        )
    component = next((one for one in desk.batch.components if is_extra(one) and one.lines[0].food_id == food.id), None)
    if component is None:
        # By eye and nothing of it: the containers that are not pinned get none.
        component = tables.Component(
            id=change.component_id or uuid.uuid4(),
            workspace_id=desk.who.workspace_id,
            position=len(desk.batch.components),
            name=food.name,
            role="topping",
            method="none",
            minimum_g=0,
            maximum_g=MAXIMUM_CELL_G,
            density_g_per_ml=1.0,
            school=School.BY_EYE.value,
            unit_part=1,
            plate_share=1,
            eye_g=0,
            raw_fixed=False,
            poured_fat_g=0,
            served=True,
            dismissed={},
            recipe_share_g=1,
            lines=[
                tables.Line(
                    id=uuid.uuid4(),
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
    pin = next((pin for pin in row.pins if pin.component_id == component.id), None)
    if pin is None:
        row.pins.append(tables.Pin(workspace_id=desk.who.workspace_id, component_id=component.id, grams=change.grams))
        return [RemoveExtra(row_id=row.id, component_id=component.id)]
    before = SetPin(row_id=row.id, component_id=component.id, grams=pin.grams)
    pin.grams = change.grams
    return [before]


def is_extra(component: tables.Component) -> bool:
    """It is a food that was put beside the recipe's components."""
    return component.recipe_component_id is None and component.school == School.BY_EYE and not component.eye_g


def _remove_extra(desk: _Desk, change: RemoveExtra) -> list[Change]:
    row, component = desk.row(change.row_id), desk.component(change.component_id)
    pin = next((pin for pin in row.pins if pin.component_id == component.id), None)
    food_id = component.lines[0].food_id if component.lines else None
    if not is_extra(component) or pin is None or food_id is None:
        raise Invalid.at(f"{desk.pointer}/component_id", f"{component.name} is no extra of this container.")
    row.pins = [other for other in row.pins if other is not pin]
    if not any(other.component_id == component.id for each in desk.batch.classes for other in each.pins):
        desk.batch.components = [other for other in desk.batch.components if other is not component]
    return [AddExtra(row_id=row.id, food_id=food_id, grams=pin.grams, component_id=component.id)]


def _remove_line(desk: _Desk, change: RemoveLine) -> list[Change]:
    component = desk.component(change.component_id)
    line = _find(component.lines, change.line_id, "ingredient")
    if line.added_at is None or line.food_id is None:
        raise Invalid.at(
            f"{desk.pointer}/line_id",
            "Only what was added at the stove can be taken out here; change the recipe for the rest.",
        )
    component.lines = [other for other in component.lines if other is not line]
    return [AddLine(component_id=component.id, food_id=line.food_id, purchased_g=line.purchased_g)]


def _poured(desk: _Desk, change: SetPoured) -> list[Change]:
    component = desk.component(change.component_id)
    raw_before, before = _raw_state(component), component.poured_fat_g
    _fix_raw(desk, component)
    component.poured_fat_g = change.poured_fat_g
    with located(desk.pointer):
        desk.loaded.larder.component(component)
    return [SetPoured(component_id=component.id, poured_fat_g=before), raw_before]


def _batch(desk: _Desk, change: SetBatch) -> list[Change]:
    batch = desk.batch
    before = SetBatch(
        name=batch.name,
        cook_on=batch.cook_on,
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sharing="ranked" if batch.sharing == "ranked" else "fair",
        leftover=cast(Any, batch.leftover),
    )
    faults = Collector()
    check_batch(faults, name=change.name, step_g=change.step_g, buffer_share=change.buffer_share)
    faults.check()
    batch.name, batch.cook_on = change.name.strip(), change.cook_on
    batch.step_g, batch.buffer_share = change.step_g, change.buffer_share
    batch.sharing, batch.leftover = change.sharing, change.leftover
    return [before]


def _packed(desk: _Desk, change: SetPacked) -> list[Change]:
    waiting = [c.name for c in desk.batch.components if c.id not in desk.loaded.weighings]
    if change.packed and waiting:
        raise Invalid.at(
            f"{desk.pointer}/packed",
            f"Not weighed yet: {', '.join(waiting)}. Weigh them, then mark the batch packed.",
        )
    batch = desk.batch
    if change.packed:
        # Figures of a packed batch do not move with later edits of foods, clients or rules.
        computed, rules = plans.compute(desk.loaded), desk.loaded.larder.rules
        batch.energy_rule, batch.carbohydrate = rules.energy.value, rules.carbohydrate.value
        for row, portions in zip(batch.classes, computed.plan.portions, strict=True):
            row.packed_g = {str(c.id): grams for c, grams in zip(batch.components, portions.grams, strict=True)}
    else:
        batch.energy_rule = batch.carbohydrate = None
        for row in batch.classes:
            row.packed_g = None
    batch.packed_at = desk.now if change.packed else None
    return [SetPacked(packed=not change.packed)]


_APPLY: dict[type[Any], Callable[[_Desk, Any], list[Change]]] = {
    SetPin: _pin,
    SetTarget: _target,
    SetContainers: _containers,
    SetBounds: _bounds,
    SetSchool: _school,
    SetLine: _line,
    SetComponent: _swap,
    MoveRow: _move,
    TakeRow: _take,
    AddExtra: _extra,
    RemoveExtra: _remove_extra,
    SetRaw: _raw,
    SetPacks: _packs,
    Weigh: _weigh,
    Withdraw: _withdraw,
    AddLine: _add_line,
    RemoveLine: _remove_line,
    SetPoured: _poured,
    SetBatch: _batch,
    SetPacked: _packed,
}
