"""Changes of a batch. Each is applied with the others of its command or not at all, and returns its inverse."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256
from typing import Any, cast

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.speaking import weight
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.store.database import Database
from yantai.work import change_pots, change_rows, packed, plans
from yantai.work.accounts import SignedIn
from yantai.work.batches import batch_document, check_batch, mark_changed, refuse_stale
from yantai.work.change_desk import Desk
from yantai.work.errors import Closed, Collector, Doubtful, Invalid
from yantai.work.inputs import (
    AddExtra,
    AddLine,
    Change,
    Changes,
    MoveRow,
    RemoveExtra,
    RemoveLine,
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
    Weigh,
    Withdraw,
)
from yantai.work.views import PlanView


@dataclass(frozen=True, kw_only=True)
class Changed:
    """The plan after a command, and the changes that take it back."""

    plan: PlanView
    inverse: list[Change]


def change_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, given: Changes, now: datetime) -> Changed:
    """Apply changes to a batch and compute it anew.

    A command that was made already is not made again: after a lost answer the same call is safe.

    Raises:
        Invalid: a value makes no sense, or the command was made already with other changes.
        Stale: the batch was changed since `given.version`.
        Doubtful: a cooked weight is unlikely and `given.confirmed` is not set.
        Closed: the batch is packed.
    """
    with database.workspace(who.workspace_id) as session:
        _lock_in_order(session, batch_id, given)
        loaded = plans.load(session, batch_id, lock=True)
        # Ids are made by callers, so two kitchens may use the same one.
        command_id = uuid.uuid5(who.workspace_id, str(given.command_id))
        made = session.get(tables.Command, command_id)
        if made is not None:
            if made.digest != _digest(batch_id, given):
                raise Invalid("This was saved already, with other figures. Reload the page, then change it again.")
            return Changed(plan=plans.read_view(loaded), inverse=_CHANGES.from_json(made.inverse))
        loaded, inverse = apply_changes(session, who, loaded, given, now)
        computed = plans.compute(loaded)
        mark_changed(session, loaded.batch, who)
        shown = plans.plan_view(computed)
        if loaded.batch.packed_at is not None:
            packed.keep(loaded.batch, shown, batch_document(computed))
        session.add(
            tables.Command(
                id=command_id,
                workspace_id=who.workspace_id,
                batch_id=batch_id,
                digest=_digest(batch_id, given),
                inverse=_CHANGES.to_json(inverse),
                made_at=now,
            )
        )
        return Changed(plan=shown, inverse=inverse)


def preview_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, given: Changes, now: datetime) -> PlanView:
    """The plan as these changes would make it. Nothing of it is kept, and nobody is told.

    Raises:
        Invalid, Stale, Doubtful, Closed: as the changes themselves would.
    """
    with database.trial(who.workspace_id) as session:
        # Locked like the change itself: one that is on its way is waited for, and then this is stale, not in its way.
        loaded, _ = apply_changes(session, who, plans.load(session, batch_id, lock=True), given, now)
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
        desk = Desk(
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


def _lock_in_order(session: Session, batch_id: uuid.UUID, given: Changes) -> None:
    """Lock every batch that these changes touch, always in the same order: two that move rows to each other wait."""
    others = {change.to_batch_id for change in given.changes if isinstance(change, MoveRow)}
    others |= {change.from_batch_id for change in given.changes if isinstance(change, TakeRow)}
    if others:
        batch = tables.Batch
        touched = select(batch.id).where(batch.id.in_({batch_id, *others})).order_by(batch.id).with_for_update()
        session.scalars(touched).all()


_CHANGES: Kept[list[Change]] = Kept(list[Change])


def _digest(batch_id: uuid.UUID, given: Changes) -> str:
    """What a command wishes, whichever version it was sent to and whether or not it was confirmed."""
    return sha256(batch_id.bytes + _CHANGES.to_bytes(given.changes)).hexdigest()


def _batch(desk: Desk, change: SetBatch) -> list[Change]:
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


def _packed(desk: Desk, change: SetPacked) -> list[Change]:
    if change.packed == (desk.batch.packed_at is not None):
        # What a packed batch showed is kept once: packing it anew would keep what it would be by now.
        raise Invalid.at(f"{desk.pointer}/packed", f"This batch is {'packed' if change.packed else 'open'} already.")
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
        names = {str(component.id): component.name for component in batch.components}
        lacking = [f"{weight(grams)} of {names[key]}" for key, grams in computed.plan.lacking_g.items()]
        if lacking and not desk.confirmed:
            raise Doubtful(
                f"{' and '.join(lacking)} lack for what is pinned, so the containers cannot hold what the plan says. "
                "Lower a pin, or mark it packed anyway."
            )
        batch.energy_rule, batch.carbohydrate = rules.energy.value, rules.carbohydrate.value
        for row, portions in zip(batch.classes, computed.plan.portions, strict=True):
            row.packed_g = {str(c.id): grams for c, grams in zip(batch.components, portions.grams, strict=True)}
    else:
        batch.energy_rule = batch.carbohydrate = None
        for row in batch.classes:
            row.packed_g = None
        batch.packed = None
    batch.packed_at = desk.now if change.packed else None
    return [SetPacked(packed=not change.packed)]


_APPLY: dict[type[Any], Callable[[Desk, Any], list[Change]]] = {
    SetPin: change_rows.set_pin,
    SetTarget: change_rows.set_target,
    SetContainers: change_rows.set_containers,
    SetBounds: change_pots.set_bounds,
    SetSchool: change_pots.set_school,
    SetLine: change_pots.set_line,
    SetComponent: change_pots.set_component,
    MoveRow: change_rows.move_row,
    TakeRow: change_rows.take_row,
    AddExtra: change_rows.add_extra,
    RemoveExtra: change_rows.remove_extra,
    SetRaw: change_pots.set_raw,
    SetPacks: change_pots.set_packs,
    Weigh: change_pots.weigh,
    Withdraw: change_pots.withdraw,
    AddLine: change_pots.add_line,
    RemoveLine: change_pots.remove_line,
    SetPoured: change_pots.set_poured,
    SetBatch: _batch,
    SetPacked: _packed,
}
