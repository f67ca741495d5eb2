"""The log of a batch: what was changed, by whom, and what of it is taken back next."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

from pydantic import ValidationError
from sqlalchemy import cast, func, select
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from yantai.core.planning.undo import Made, in_force, last_made, made_after, next_redo, next_undo
from yantai.formats.kept import Kept
from yantai.store import tables
from yantai.work.batches.change_words import change_words
from yantai.work.batches.inputs import Change
from yantai.work.batches.loading import Loaded
from yantai.work.batches.plans import container_name
from yantai.work.batches.views import CommandView, Step, Steps
from yantai.work.common.errors import Invalid, Missing, Stale
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import told_time

CHANGES: Kept[list[Change]] = Kept(list[Change])
CLOCKS_APART_S = 120
"""What happened is told by the sender's clock where it is this near to ours when it arrives; else both are told."""


_MOST_TOLD = 3
"""Changes that a refusal names."""


@dataclass(frozen=True, kw_only=True)
class Sent:
    """How a command came: made where, when by the clock there (`told_at`) and by ours, where that is known;
    `undoes` is the one it takes back."""

    command_id: uuid.UUID
    digest: str = ""
    device: str = ""
    told_at: datetime | None = None
    happened_at: datetime | None = None
    undoes: uuid.UUID | None = None


class Dated(Protocol):
    """Something that a device sent: when it was wished and when it was sent, by the device's own clock."""

    @property
    def happened_at(self) -> datetime | None: ...  # noqa: D102

    @property
    def sent_at(self) -> datetime | None: ...  # noqa: D102


def when_it_happened(payload: Dated, now: datetime) -> datetime | None:
    """When a command was wished, by our clock: as long before it arrived as it was before it was sent.

    None where the device does not say when it sends: then nobody knows how far its clock is off.
    """
    if payload.happened_at is None or payload.sent_at is None:
        return None
    return min(payload.happened_at + (now - payload.sent_at), now)


def read_log(session: Session, batch_id: uuid.UUID, *, after_version: int | None = None) -> Sequence[tables.Command]:
    """The commands of a batch in order, all of them or those that were made after a version."""
    command = tables.Command
    query = select(command).where(command.batch_id == batch_id).order_by(command.number)
    if after_version is not None:
        query = query.where(command.version > after_version)
    return session.scalars(query).all()


def refuse_stale(session: Session, batch: tables.Batch, version: int) -> None:
    """Raise `Stale`, with what was changed since, when the batch is not at `version` any more."""
    if batch.version == version:
        return
    since = read_log(session, batch.id, after_version=version)
    told = [f"{entry.made_by}: {'; '.join(words(entry))}" for entry in since[:_MOST_TOLD]]
    if len(since) > _MOST_TOLD:
        told.append(f"{len(since) - _MOST_TOLD} more in the history")
    since_then = f" Since then: {'; '.join(told)}." if told else ""
    raise Stale(
        f"{batch.changed_by} changed this batch at {told_time(session, batch.changed_at)}, after you opened it."
        f"{since_then} Your change is not saved yet: take the newest plan and apply it to that."
    )


def record(
    session: Session,
    who: SignedIn,
    batch: tables.Batch,
    sent: Sent,
    *,
    changes: Sequence[Change] | None,
    inverse: Sequence[Change],
    named: dict[str, str],
    base_version: int,
    now: datetime,
    note: str = "",
) -> None:
    """Add a command that was made to the log; the batch is locked and at its new version."""
    command = tables.Command
    newest = session.scalar(select(func.max(command.number)).where(command.batch_id == batch.id))
    session.add(
        command(
            id=sent.command_id,
            workspace_id=who.workspace_id,
            batch_id=batch.id,
            number=(newest or 0) + 1,
            digest=sent.digest,
            payload=None if changes is None else CHANGES.to_json(list(changes)),
            inverse=CHANGES.to_json(list(inverse)),
            named=named,
            note=note,
            undoes=sent.undoes,
            account_id=who.account_id,
            made_by=who.name,
            device=sent.device,
            base_version=base_version,
            version=batch.version,
            happened_at=sent.happened_at or sent.told_at,
            made_at=now,
        )
    )
    session.flush()


def note(session: Session, who: SignedIn, batch: tables.Batch, words: str, *, bars: bool = True) -> None:
    """Tell of something in the log that is no change of its own, and is not taken back from there. Where it `bars`,
    what was changed before it is not taken back either: it may have changed the same."""
    sent = Sent(command_id=uuid.uuid4())
    base, now = batch.version - 1, session.scalars(select(func.now())).one()
    changes = None if bars else ()
    record(session, who, batch, sent, changes=changes, inverse=(), named={}, base_version=base, now=now, note=words)


def names_in(loaded: Loaded, changes: Iterable[Change]) -> dict[str, str]:
    """The names of the rows, components, ingredients and foods that changes speak of."""
    session, batch = Session.object_session(loaded.batch), loaded.batch
    known = {str(row.id): container_name(row) for row in batch.classes}
    for component in batch.components:
        known[str(component.id)] = component.name
        known |= {str(line.id): loaded.larder.line_name(line) for line in component.lines}
    for dish in batch.dishes:
        known[str(dish.id)] = dish.name
    ids = {str(key) for change in changes for value in vars(change).values() for key in _ids(value)}
    unknown = [uuid.UUID(key) for key in ids - set(known)]
    if session is not None and unknown:
        for kind in (tables.Food, tables.Batch, tables.Recipe, tables.Dish, tables.Component, tables.Client):
            named = session.execute(select(kind.id, kind.name).where(kind.id.in_(unknown)))
            known |= {str(key): name for key, name in named}
    return {key: name for key, name in known.items() if key in ids}


def _ids(value: object) -> list[uuid.UUID]:
    """The ids in a field of a change: one, a list of them, or none."""
    return [key for key in (value if isinstance(value, list) else [value]) if isinstance(key, uuid.UUID)]


@dataclass(frozen=True, kw_only=True)
class Log:
    """The commands of a batch as the rule of undo sees them, in order, with their numbers; rows are read when needed.

    What has no changes on record cannot be taken back and bars the way to what was before; what changed nothing is left
    out.
    """

    session: Session
    made: list[Made]
    numbers: dict[uuid.UUID, int]

    @classmethod
    def read(cls, session: Session, batch_id: uuid.UUID) -> Log:
        """That of one batch."""
        command = tables.Command
        query = (
            select(command.id, command.number, command.undoes, func.jsonb_typeof(command.payload) == "array")
            .where(command.batch_id == batch_id)
            .where(func.coalesce(command.payload, cast(None, JSONB)) != cast([], JSONB))
            .order_by(command.number)
        )
        rows = session.execute(query).all()
        return cls(
            session=session,
            made=[Made(id=key, undoes=undoes, undoable=bool(known)) for key, _, undoes, known in rows],
            numbers={key: number for key, number, _, _ in rows},
        )

    def entries(self, ids: Iterable[object]) -> dict[uuid.UUID, tables.Command]:
        """The rows with these ids, as far as they are in this log."""
        command, wanted = tables.Command, set(ids) & set(self.numbers)
        found = self.session.scalars(select(command).where(command.id.in_(wanted))) if wanted else ()
        return {entry.id: entry for entry in found}

    def undone_by(self) -> dict[uuid.UUID, uuid.UUID]:
        """What is taken back, and by which command."""
        standing = in_force(self.made)
        return {made.undoes: made.id for made in self.made if made.undoes is not None and made.id in standing}


def steps(log: Log, who: SignedIn) -> Steps:
    """What undo and redo would do next, whose it is and what it was. A helper is told of what is their own."""
    undo, redo = next_undo(log.made), next_redo(log.made)
    entries = log.entries([undo, redo])
    entries |= log.entries([entry.undoes for entry in entries.values()])

    def step(key: object) -> Step | None:
        entry = entries.get(key) if isinstance(key, uuid.UUID) else None
        if entry is None:
            return None
        told = entry if entry.undoes is None else entries.get(entry.undoes, entry)
        own = told.account_id == who.account_id and told.made_by == who.name
        return (
            None
            if who.rights is not None and not own
            else Step(id=entry.id, by=told.made_by, own=own, words=words(told))
        )

    return Steps(undo=step(undo), redo=step(redo))


def to_take_back(log: Log, wanted: uuid.UUID) -> list[Change]:
    """The changes that take a command back, or make one again that was taken back.

    Raises:
        Missing: it is not in this log.
        Invalid: it does not count any more, cannot be taken back, or somebody's later change stands on it.
    """
    if wanted not in log.numbers:
        raise Missing("There is no such change in this batch. Reload the page for its history.")
    if wanted not in in_force(log.made):
        raise Invalid("This was taken back already. Reload the page for the history as it is now.")
    last, after = last_made(log.made, wanted), made_after(log.made, wanted)
    entries = log.entries([last, *after])
    if entries[last].payload is None:
        raise Invalid("Nothing on record says how this would be taken back. Change it by hand.")
    own = touched(entries[last])
    if own is None:
        raise Invalid("This is a change of a kind that is not known any more. Change it by hand.")
    for later in (entries[key] for key in reversed(after)):
        others = touched(later)
        if others is None or any(_same(key, other) for key in own for other in others):
            first = "Take that back first, or change it by hand" if others is not None else "Change it by hand"
            raise Invalid(f"{later.made_by} changed this afterwards ({'; '.join(words(later))}). {first}.")
    return CHANGES.from_json(entries[last].inverse)


def inverse_of(entry: tables.Command) -> list[Change]:
    """The changes that took a command back when it was made; none where their kinds are not known any more."""
    try:
        return CHANGES.from_json(entry.inverse)
    except ValidationError:
        return []


def words(entry: tables.Command) -> list[str]:
    """What a command did, change by change."""
    if not entry.payload:
        return [entry.note or "A change of before this log was kept"]
    try:
        changes, inverse = CHANGES.from_json(entry.payload), CHANGES.from_json(entry.inverse)
    except ValidationError:
        # Written by another version of the application: who and when is known, and that it counts.
        return ["A change of a kind that is not known any more"]
    return [change_words(change, inverse, entry.named) for change in changes]


def read_views(
    session: Session, batch_id: uuid.UUID, log: Log, *, limit: int, since: int
) -> tuple[list[CommandView], int]:
    """The newest `limit` commands after version `since`, the newest first; and how many others the batch has."""
    command = tables.Command
    query = select(command).where(command.batch_id == batch_id, func.coalesce(command.version, 1) > since)
    entries = session.scalars(query.order_by(command.number.desc()).limit(limit)).all()
    every = session.scalars(select(func.count()).select_from(command).where(command.batch_id == batch_id)).one()
    undone_by = log.undone_by()
    others = log.entries(undone_by[entry.id] for entry in entries if entry.id in undone_by)
    standing = in_force(log.made)
    views = [
        CommandView(
            id=entry.id,
            number=entry.number,
            by=entry.made_by,
            device=entry.device,
            made_at=entry.made_at,
            happened_at=_own_time(entry),
            words=words(entry),
            undoes=None if entry.undoes is None else log.numbers.get(entry.undoes),
            undone_by=others[undone_by[entry.id]].made_by if entry.id in undone_by else None,
            can_undo=entry.undoes is None and bool(entry.payload) and entry.id in standing,
        )
        for entry in entries
    ]
    return views, every - len(views)


def _own_time(entry: tables.Command) -> datetime | None:
    """When it happened, where that was long before it arrived."""
    happened = entry.happened_at
    apart = happened is not None and abs((entry.made_at - happened).total_seconds()) > CLOCKS_APART_S
    return happened if apart else None


def changes_of(entry: tables.Command) -> list[Change]:
    """The changes of a command; none where they are not on record, or of a kind that is not known any more."""
    try:
        return CHANGES.from_json(entry.payload) if entry.payload else []
    except ValidationError:
        return []


def touched(entry: tables.Command) -> set[tuple[str, ...]] | None:
    """What of a batch a command changed, and what taking it back would: two that touch the same do not go back in any
    order. None where that is not known: its kind is not any more, or there are no changes on record."""
    if entry.payload is None:
        return None
    try:
        changes = CHANGES.from_json(entry.payload) + CHANGES.from_json(entry.inverse)
    except ValidationError:
        return None
    return {key for change in changes for key in _touched(change)}


def other_batches(entry: tables.Command | None) -> set[uuid.UUID]:
    """The batches that taking a command back would change, apart from its own."""
    told = [] if entry is None else [*(entry.payload or []), *entry.inverse]
    keys = ("to_batch_id", "from_batch_id")
    return {uuid.UUID(change[key]) for change in told for key in keys if key in change}


def _touched(change: Change) -> list[tuple[str, ...]]:
    row, component = (str(getattr(change, key, None) or "") for key in ("row_id", "component_id"))
    match change.kind:
        case "pin":
            return [("grams", row, component)]
        case "extra" | "remove-extra":
            # A food beside the components is made and goes with these: what was set of it as well. One that is not
            # there yet has no id; the change that takes it back names it.
            kinds = ("school", "bounds") if component else ()
            return [("grams", row, component)] * bool(component) + [(kind, component) for kind in kinds]
        case "target" | "containers" | "choice":
            return [(change.kind, row)]
        case "move" | "take" | "remove-row":
            return [("grams", row, ""), ("target", row), ("containers", row)]
        case "school" | "bounds" | "place":
            return [(change.kind, component)]
        case "pot" | "aside":
            return [(f"{change.kind} of", component)]
        case "split-row" | "merge-row":
            rows = [row, str(getattr(change, "into_row_id", None) or "")]
            return [(kind, each) for each in rows if each for kind in ("target", "containers", "choice")]
        case "add-row":
            return []
        case "share-pot" | "split-pot" | "use-pot" | "apart" | "spread" | "put-rows" | "add-part" | "remove-part":
            # These move what the grams, choices and pots of whole dishes are about.
            return [("dishes",), ("grams", "", ""), ("choice", "")]
        case "add-dish" | "remove-dish" | "dish":
            return [("dishes",)]
        case "weigh" | "weigh-part" | "weighed-parts" | "withdraw":
            return [("weight", component)]
        case "raw" | "packs" | "add-line" | "remove-line" | "line" | "poured":
            return [("pot", component)]
        case "component":
            return [(kind, component) for kind in ("pot", "school", "bounds", "weight")]
        case _:
            return [(change.kind,)]


def _same(one: tuple[str, ...], two: tuple[str, ...]) -> bool:
    """Equal, where a key without its last part stands for all that begin so."""
    return len(one) == len(two) and all(a == b or not a or not b for a, b in zip(one, two, strict=True))
