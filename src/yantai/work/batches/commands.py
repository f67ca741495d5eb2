"""Changes of a batch. Each is applied with the others of its command or not at all, and returns its inverse."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from hashlib import sha256
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from yantai.core.speaking import weight
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import component_commands as change_pots
from yantai.work.batches import dish_commands as change_dishes
from yantai.work.batches import loading, log, plan_view, plans, stored
from yantai.work.batches import row_commands as change_rows
from yantai.work.batches.desk import Desk
from yantai.work.batches.inputs import (
    AddDish,
    AddLine,
    AddPart,
    AddRow,
    AddSide,
    Change,
    Changes,
    CookApart,
    Delete,
    MergeRow,
    MoveRow,
    Preview,
    PutAway,
    PutRows,
    RemoveDish,
    RemoveLine,
    RemovePart,
    RemoveRow,
    RemoveSide,
    SetAside,
    SetBatch,
    SetBounds,
    SetChoice,
    SetComponent,
    SetContainers,
    SetDish,
    SetLine,
    SetPacked,
    SetPacks,
    SetPin,
    SetPlace,
    SetPot,
    SetPoured,
    SetRaw,
    SetSchool,
    SetSteps,
    SetTarget,
    SetWeighedParts,
    SharePot,
    SplitPot,
    SplitRow,
    SpreadChoices,
    TakeBack,
    TakeRow,
    UsePot,
    Weigh,
    WeighPart,
    Withdraw,
)
from yantai.work.batches.versions import mark_changed
from yantai.work.batches.views import HistoryView, PlanView, Steps
from yantai.work.common.errors import Closed, Doubtful, Invalid, Missing, NotAllowed
from yantai.work.common.who import SignedIn
from yantai.work.pantry import ledger


@dataclass(frozen=True, kw_only=True)
class Changed:
    """The plan after a command, and the changes that take it back."""

    plan: PlanView
    inverse: list[Change]
    steps: Steps


def change_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: Changes, now: datetime) -> Changed:
    """Apply changes to a batch and compute it anew.

    A command that was made already is not made again: after a lost answer the same call is safe.

    Raises:
        Invalid: a value makes no sense, or the command was made already with other changes.
        Stale: the batch was changed since `payload.version`.
        Doubtful: a cooked weight is unlikely and `payload.confirmed` is not set.
        Closed: the batch is packed.
        NotAllowed: a helper would change more than what was weighed or added.
    """
    _refuse_beyond(who, payload.changes)
    with database.workspace(who.workspace_id) as session:
        others = {change.to_batch_id for change in payload.changes if isinstance(change, MoveRow)}
        others |= {change.from_batch_id for change in payload.changes if isinstance(change, TakeRow)}
        _lock_in_order(session, batch_id, others)
        loaded = loading.load(session, batch_id, lock=True)
        # Ids are made by callers, so two kitchens may use the same one.
        command_id = uuid.uuid5(who.workspace_id, str(payload.command_id))
        made = session.get(tables.Command, command_id)
        digest = _digest(batch_id, payload)
        if made is not None:
            return _made_already(session, who, loaded, made, digest)
        changes: Sequence[Change] = payload.changes
        if payload.version != loaded.batch.version:
            if not all(isinstance(change, FACTS) for change in changes):
                log.refuse_stale(session, loaded.batch, payload.version)
            since = log.read_log(session, batch_id, after_version=payload.version)
            changes = [_as_seen(change, since) for change in changes]
        sent = log.Sent(
            command_id=command_id,
            digest=digest,
            device=payload.device,
            told_at=payload.happened_at,
            happened_at=log.when_it_happened(payload, now),
        )
        return _apply_and_record(session, who, loaded, changes, sent, now, confirmed=payload.confirmed)


def change_within(
    session: Session, who: SignedIn, batch_id: uuid.UUID, changes: Sequence[Change], now: datetime, *, told: uuid.UUID
) -> PlanView:
    """Apply changes that follow from something else, `told`, to the newest plan of a batch, inside its transaction.

    Raises:
        Invalid, Missing, Doubtful, Closed: as the changes themselves would.
    """
    loaded = loading.load(session, batch_id, lock=True)
    sent = log.Sent(command_id=uuid.uuid5(batch_id, str(told)), digest=str(told))
    return _apply_and_record(session, who, loaded, changes, sent, now, confirmed=False).plan


def take_back(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: TakeBack, now: datetime) -> Changed:
    """Take a command of the log back, or make one again that was taken back.

    Raises:
        Missing: there is no such batch or command.
        Invalid: it does not count any more, cannot be taken back, or somebody's later change stands on it.
        Closed: the batch is packed.
        NotAllowed: a helper would take back more than what was weighed or added.
    """
    with database.workspace(who.workspace_id) as session:
        wanted = session.get(tables.Command, payload.of)
        if wanted is not None:
            _refuse_beyond(who, log.changes_of(wanted))
        _lock_in_order(session, batch_id, log.other_batches(wanted))
        loaded = loading.load(session, batch_id, lock=True)
        command_id = uuid.uuid5(who.workspace_id, str(payload.command_id))
        digest = sha256(batch_id.bytes + b"take back" + payload.of.bytes).hexdigest()
        made = session.get(tables.Command, command_id)
        if made is not None:
            return _made_already(session, who, loaded, made, digest)
        inverse = log.to_take_back(log.Log.read(session, batch_id), payload.of)
        sent = log.Sent(
            command_id=command_id,
            digest=digest,
            device=payload.device,
            told_at=payload.happened_at,
            happened_at=log.when_it_happened(payload, now),
            undoes=payload.of,
        )
        try:
            return _apply_and_record(session, who, loaded, inverse, sent, now, confirmed=True)
        except Missing as error:
            raise Invalid("What this changed is not in the batch any more, so nothing is left to take back.") from error


def read_history(database: Database, who: SignedIn, batch_id: uuid.UUID, limit: int, since: int = 0) -> HistoryView:
    """The newest `limit` changes of a batch after version `since`, and what undo and redo would do next.

    Raises:
        Missing: there is no such batch here.
    """
    with database.reading(who.workspace_id) as session:
        if session.get(tables.Batch, batch_id) is None:
            raise Missing("There is no such batch. It may have been removed in another window.")
        read = log.Log.read(session, batch_id)
        shown, others = log.read_views(session, batch_id, read, limit=limit, since=since)
        return HistoryView(steps=log.steps(read, who), commands=shown, earlier=others)


FACTS = (Weigh, WeighPart, AddLine, SetPoured)
"""What happened at the stove and on the scale, whatever the plan has become since: never refused for being stale."""


_OF_HELPERS = (*FACTS, SetWeighedParts, Withdraw)
"""What somebody changes of a batch who may cook and weigh, and no more."""


def _refuse_beyond(who: SignedIn, changes: Sequence[Change]) -> None:
    if who.rights is not None and not (changes and all(isinstance(change, _OF_HELPERS) for change in changes)):
        raise NotAllowed("The plan is the coach’s: here it can be said what was weighed, added or poured off.")


def _made_already(
    session: Session, who: SignedIn, loaded: loading.Loaded, made: tables.Command, digest: str
) -> Changed:
    """The answer to a command that was made before: the same again, or none where it was another one."""
    if made.digest != digest or made.batch_id != loaded.batch.id:
        raise Invalid("This was saved already, with other figures. Reload the page, then change it again.")
    steps = log.steps(log.Log.read(session, loaded.batch.id), who)
    return Changed(plan=stored.current_view(session, loaded.batch.id), inverse=log.inverse_of(made), steps=steps)


def _as_seen(change: Change, since: Sequence[tables.Command]) -> Change:
    """A weighing corrects only what whoever weighed could see: not one that came since."""
    if not isinstance(change, Weigh) or not change.corrects:
        return change
    weighed = ("weight", str(change.component_id))
    unseen = any(weighed in (log.touched(entry) or ()) for entry in since)
    return change.model_copy(update={"corrects": False}) if unseen else change


def _apply_and_record(
    session: Session,
    who: SignedIn,
    loaded: loading.Loaded,
    changes: Sequence[Change],
    sent: log.Sent,
    now: datetime,
    *,
    confirmed: bool,
) -> Changed:
    base, names = loaded.batch.version, log.names_in(loaded, changes)
    loaded, inverse = apply_changes(
        session,
        who,
        loaded,
        changes,
        now,
        confirmed=confirmed,
        command_id=sent.command_id,
        happened_at=sent.happened_at,
    )
    computed = plans.compute(loaded)
    mark_changed(session, loaded.batch, who)
    shown = plan_view.plan_view(computed)
    stored.keep(session, computed, shown)
    # Told by the names that things had before; what is new has only those it has now.
    named = log.names_in(loaded, [*changes, *inverse]) | names
    log.record(
        session, who, loaded.batch, sent, changes=changes, inverse=inverse, named=named, base_version=base, now=now
    )
    return Changed(plan=shown, inverse=inverse, steps=log.steps(log.Log.read(session, loaded.batch.id), who))


def preview_batch(database: Database, who: SignedIn, batch_id: uuid.UUID, payload: Preview, now: datetime) -> PlanView:
    """The plan as these changes would make it. Nothing of it is kept, and nobody is told.

    Raises:
        Invalid, Stale, Doubtful, Closed, NotAllowed: as the changes themselves would.
    """
    _refuse_beyond(who, payload.changes)
    with database.trial(who.workspace_id) as session:
        # Locked like the change itself: one that is on its way is waited for, and then this is stale, not in its way.
        loaded = loading.load(session, batch_id, lock=True)
        if not all(isinstance(change, FACTS) for change in payload.changes):
            log.refuse_stale(session, loaded.batch, payload.version)
        loaded, _ = apply_changes(session, who, loaded, payload.changes, now, confirmed=payload.confirmed)
        return plan_view.plan_view(plans.compute(loaded))


def apply_changes(
    session: Session,
    who: SignedIn,
    loaded: loading.Loaded,
    changes: Sequence[Change],
    now: datetime,
    *,
    confirmed: bool,
    command_id: uuid.UUID | None = None,
    happened_at: datetime | None = None,
) -> tuple[loading.Loaded, list[Change]]:
    """Apply changes to the rows of a batch; the batch as it then is, and the changes that take them back.

    What was weighed and added happened when it did, also where a device hands it in later.

    What they make gets ids that follow from `command_id`: a log that is replayed makes the same rows.
    """
    command_id = command_id or uuid.uuid4()
    inverse: list[Change] = []
    for index, change in enumerate(changes):
        if loaded.batch.packed_at is not None and not isinstance(change, _OF_PACKED):
            raise Closed("This batch is packed. Open it again to change it.")
        desk = Desk(
            session=session,
            who=who,
            loaded=loaded,
            pointer=f"/changes/{index}",
            command_id=command_id,
            now=now,
            happened_at=happened_at or now,
            confirmed=confirmed,
        )
        # Taken back in the opposite order.
        inverse = _APPLY[type(change)](desk, change) + inverse
        session.flush()
        loaded = loading.after_change(
            session,
            loaded,
            foods_added=isinstance(change, _BRING_FOODS),
            reload=isinstance(change, _OF_WHAT_THERE_IS),
        )
    return loaded, inverse


_BRING_FOODS = (AddLine, SetLine, SetComponent, AddSide, AddDish, AddPart)
_OF_WHAT_THERE_IS = (
    AddDish, RemoveDish, AddPart, RemovePart, AddRow, RemoveRow, SplitRow, MergeRow, SpreadChoices, SharePot, SplitPot,
    UsePot, CookApart, PutRows,
)  # fmt: skip
"""What changes which dishes, parts and rows a batch has."""
_OF_PACKED = (SetPacked, PutAway, Delete)
"""What can be done with a batch that is packed."""


def _lock_in_order(session: Session, batch_id: uuid.UUID, others: set[uuid.UUID]) -> None:
    """Lock every batch that is touched, always in the same order: two that move rows to each other wait."""
    if others:
        batch = tables.Batch
        touched = select(batch.id).where(batch.id.in_({batch_id, *others})).order_by(batch.id).with_for_update()
        session.scalars(touched).all()


def _digest(batch_id: uuid.UUID, payload: Changes) -> str:
    """What a command wishes, whichever version it was sent to and whether or not it was confirmed."""
    return sha256(batch_id.bytes + log.CHANGES.to_bytes(payload.changes)).hexdigest()


def as_it_is(batch: tables.Batch) -> SetBatch:
    """The change that leaves the batch itself as it is."""
    return SetBatch(
        name=batch.name,
        cook_on=batch.cook_on,
        step_g=batch.step_g,
        buffer_share=batch.buffer_share,
        sure_share=batch.sure_share,
        budget=batch.budget,
        sharing=batch.sharing,
        leftover=batch.leftover,
    )


def _batch(desk: Desk, change: SetBatch) -> list[Change]:
    batch = desk.batch
    before = as_it_is(batch)
    batch.name, batch.cook_on = change.name, change.cook_on
    batch.step_g, batch.buffer_share, batch.sure_share = change.step_g, change.buffer_share, change.sure_share
    batch.budget = change.budget
    batch.sharing, batch.leftover = change.sharing, change.leftover
    return [before]


def _packed(desk: Desk, change: SetPacked) -> list[Change]:
    if change.packed == (desk.batch.packed_at is not None):
        # What a packed batch showed is kept once: packing it anew would keep what it would be by now.
        raise Invalid.at(f"{desk.pointer}/packed", f"This batch is {'packed' if change.packed else 'open'} already.")
    computed = plans.compute(desk.loaded) if change.packed else None
    waiting = _not_weighed(desk, computed) if computed is not None else []
    if waiting:
        raise Invalid.at(
            f"{desk.pointer}/packed",
            f"Not weighed yet: {', '.join(waiting)}. Weigh them, then mark the batch packed.",
        )
    batch = desk.batch
    if computed is not None:
        # Figures of a packed batch do not move with later edits of foods, clients or rules.
        rules = desk.loaded.larder.rules
        names = {str(component.id): component.name for component in batch.components}
        lacking = [f"{weight(grams)} of {names[key]}" for key, grams in computed.plan.lacking_g.items()]
        if lacking and not desk.confirmed:
            raise Doubtful(
                f"{' and '.join(lacking)} lack for what is pinned, so the containers cannot hold what the plan says. "
                "Lower a pin, or mark it packed anyway."
            )
        batch.energy_rule, batch.carbohydrate = rules.energy, rules.carbohydrate
        for index, row in enumerate(batch.classes):
            row.packed_g = computed.plan.grams(index)
        ledger.use_in_batch(desk.session, desk.who, batch, _cooked_of(computed), desk.now)
    else:
        ledger.put_back(desk.session, desk.who, batch, desk.now)
        batch.energy_rule = batch.carbohydrate = None
        for row in batch.classes:
            row.packed_g = None
    batch.packed_at = desk.now if change.packed else None
    return [SetPacked(packed=not change.packed)]


def _cooked_of(computed: plans.Computed) -> dict[uuid.UUID, float]:
    """What went into the pots of a batch [g as purchased], by food."""
    used: dict[uuid.UUID, float] = defaultdict(float)
    for component in computed.components:
        for line, sized in zip(component.lines, computed.need(component).lines, strict=True):
            if line.food_id is not None:
                used[line.food_id] += sized.purchased_g
    return used


def _not_weighed(desk: Desk, computed: plans.Computed) -> list[str]:
    """Components of which a pot of this batch gives something that is not weighed."""
    return [
        component.name
        for component in computed.components
        if component.id not in desk.loaded.weighings and plans.is_cooked(computed, component)
    ]


def _put_away(desk: Desk, change: PutAway) -> list[Change]:
    if change.away == (desk.batch.put_away_at is not None):
        raise Invalid.at(
            f"{desk.pointer}/away", f"This batch is {'put away' if change.away else 'in the lists'} already."
        )
    desk.batch.put_away_at = desk.now if change.away else None
    return [PutAway(away=not change.away)]


def _delete(desk: Desk, change: Delete) -> list[Change]:
    if change.deleted == (desk.batch.deleted_at is not None):
        raise Invalid.at(
            f"{desk.pointer}/deleted", f"This batch is {'deleted' if change.deleted else 'there'} already."
        )
    desk.batch.deleted_at = desk.now if change.deleted else None
    return [Delete(deleted=not change.deleted)]


_APPLY: dict[type[Any], Callable[[Desk, Any], list[Change]]] = {
    SetPin: change_rows.set_pin,
    SetTarget: change_rows.set_target,
    SetContainers: change_rows.set_containers,
    SetBounds: change_pots.set_bounds,
    SetSchool: change_pots.set_school,
    SetLine: change_pots.set_line,
    SetComponent: change_pots.set_component,
    SetSteps: change_pots.set_steps,
    MoveRow: change_rows.move_row,
    TakeRow: change_rows.take_row,
    AddSide: change_rows.add_side,
    RemoveSide: change_rows.remove_side,
    SetRaw: change_pots.set_raw,
    SetPacks: change_pots.set_packs,
    Weigh: change_pots.weigh,
    WeighPart: change_pots.weigh_part,
    SetWeighedParts: change_pots.set_weighed_parts,
    Withdraw: change_pots.withdraw,
    AddLine: change_pots.add_line,
    RemoveLine: change_pots.remove_line,
    SetPoured: change_pots.set_poured,
    SetBatch: _batch,
    SetPlace: change_pots.set_place,
    SetPot: change_pots.set_pot,
    SetAside: change_pots.set_aside,
    AddDish: change_dishes.add_dish,
    SetDish: change_dishes.set_dish,
    RemoveDish: change_dishes.remove_dish,
    AddPart: change_dishes.add_part,
    RemovePart: change_dishes.remove_part,
    AddRow: change_dishes.add_row,
    RemoveRow: change_dishes.remove_row,
    SplitRow: change_dishes.split_row,
    MergeRow: change_dishes.merge_row,
    SetChoice: change_dishes.set_choice,
    SpreadChoices: change_dishes.spread,
    SharePot: change_dishes.share_pot,
    SplitPot: change_dishes.split_pot,
    UsePot: change_dishes.use_pot,
    CookApart: change_dishes.cook_apart,
    PutRows: change_dishes.put_rows,
    PutAway: _put_away,
    Delete: _delete,
    SetPacked: _packed,
}
