"""Erasing a client: the person is gone, the figures of past batches stay.

Their name is replaced wherever it stands in full, in every table but those that know no people (foods, recipes and
their words). What is told of them by another name, as a first name in a note, is found by nobody but its reader.
"""

from __future__ import annotations

import json
import re
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from sqlalchemy import Column, Table, Text, cast, delete, func, literal, select, text, update
from sqlalchemy.dialects.postgresql import ARRAY, JSONB
from sqlalchemy.orm import Session

from yantai.core.targets.targets import Tolerance
from yantai.devices.post_office import remove
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Invalid
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.outbox.outbox import message_id_of
from yantai.work.records.client_data import about, batches_of, client_of
from yantai.work.records.inputs import ErasureInput
from yantai.work.records.views import ErasureView

GONE = {
    "client_link": ("link to their page stops working", "links to their page stop working"),
    "client_form": ("form with its answers", "forms with their answers"),
    "client_word": ("word to you", "words to you"),
    "message": ("message of the outbox", "messages of the outbox"),
    "target_record": ("earlier state of their targets", "earlier states of their targets"),
    "target": ("target", "targets"),
    "day": ("day", "days"),
    "at_hand": ("food at hand", "foods at hand"),
    "survey_answer": ("answer to who can eat what", "answers to who can eat what"),
}
"""Rows that go with the person, in an order in which none is left without what it belongs to, in words."""
_ORDER = ("message", "client_form", "client_link", "client_word", "survey_answer", "target_record", "target", "day",
          "at_hand")  # fmt: skip
KNOW_NO_PEOPLE = frozenset(
    {
        "food", "food_word", "measure", "pack", "edible_portion", "raw_cooked_pair", "yield_factor", "reference_load",
        "recipe", "component", "line", "step", "dish", "part", "account", "workspace", "login_session",
    }
)  # fmt: skip
_SIGNED = frozenset({"made_by", "changed_by", "noted_by", "started_by", "who"})
"""Who did something: not replaced where a coach has the same name."""


def read_erasure(database: Database, who: SignedIn, client_id: uuid.UUID) -> ErasureView:
    """What erasing a client would do.

    Raises:
        Missing: there is no such client.
    """
    with database.reading(who.workspace_id) as session:
        return _effect(session, client_id)


def erase_client(
    database: Database, who: SignedIn, client_id: uuid.UUID, payload: ErasureInput, post_office: str, now: datetime
) -> ErasureView:
    """Erase a client. It cannot be undone.

    Raises:
        Missing: there is no such client.
        Invalid: the name is another, something is in the way, or they were erased already.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        session.execute(select(tables.Client.id).where(tables.Client.id == client_id).with_for_update())
        effect = _effect(session, client_id)
        if effect.erased_at is not None:
            raise Invalid("They were erased already.")
        if effect.in_the_way:
            raise Invalid(" ".join(effect.in_the_way))
        if payload.name.strip() != effect.name:
            raise Invalid.at("/name", f"Type their name as it stands here: {effect.name}.")
        mine = tables.Message.client_id == client_id
        mails = [message_id_of(row).strip("<>") for row in session.scalars(select(tables.Message).where(mine))]
        _remove_rows(session, client_id)
        _empty(session, client_id, effect.pseudonym, now)
        _rename(session, client_id, effect.name, effect.pseudonym)
        # What is answered knows the pseudonym alone, so that it may be kept.
        done = keep(_effect(session, client_id))
    if post_office:
        remove(Path(post_office), mails)
    return done


def _effect(session: Session, client_id: uuid.UUID) -> ErasureView:
    client = client_of(session, client_id)
    batches = batches_of(session, client_id)
    rows = {table.name: (table, mine) for table, mine in about(client_id)}
    gone = []
    if client.erased_at is None:
        gone.append("their name, e-mail address, notes, health, likes, allergens and all that they must not eat")
        for name in _ORDER:
            table, mine = rows[name]
            count = session.scalar(select(func.count()).select_from(table).where(mine)) or 0
            one, many = GONE[name]
            gone += [f"{count} {one if count == 1 else many}"] if count else []
        jobs = session.scalar(select(func.count()).where(tables.PrintJob.batch_id.in_(batches))) or 0
        gone += [f"what was printed of {_batches(len(batches))} with them"] if jobs else []
    stays = [f"the figures of {_batches(len(batches))}, without the person"] if batches else []
    stays.append("notes of yours in which they are called otherwise, as by a first name: look for them")
    return ErasureView(
        client_id=client_id,
        name=client.name,
        pseudonym=client.name if client.erased_at is not None else _pseudonym(session),
        gone=gone,
        stays=stays,
        in_the_way=_in_the_way(session, batches) if client.erased_at is None else [],
        erased_at=client.erased_at,
    )


def _batches(count: int) -> str:
    return "1 batch" if count == 1 else f"{count} batches"


def _pseudonym(session: Session) -> str:
    erased = session.scalar(select(func.count()).where(tables.Client.erased_at.is_not(None))) or 0
    return f"Former client {erased + 1}"


def _in_the_way(session: Session, batches: list[uuid.UUID]) -> list[str]:
    """Batches whose plan is computed from what the client must not eat: as they are packed they are settled."""
    batch = tables.Batch
    query = select(batch.name).where(batch.id.in_(batches), batch.packed_at.is_(None), batch.deleted_at.is_(None))
    names = list(session.scalars(query.order_by(batch.cook_on, batch.name)))
    if not names:
        return []
    told = ", ".join(f"“{name}”" for name in names[:5]) + (" and more" if len(names) > 5 else "")
    return [f"They have containers in {told}: pack those batches, delete them, or take the client out of them first."]


def _remove_rows(session: Session, client_id: uuid.UUID) -> None:
    rows = {table.name: (table, mine) for table, mine in about(client_id)}
    for name in _ORDER:
        table, mine = rows[name]
        session.execute(delete(table).where(mine))
    jobs = tables.PrintJob
    session.execute(delete(jobs).where(jobs.batch_id.in_(batches_of(session, client_id))))


def _empty(session: Session, client_id: uuid.UUID, pseudonym: str, now: datetime) -> None:
    client = client_of(session, client_id)
    client.name = pseudonym
    client.note = client.email = client.goals = client.kitchen = client.health = client.signed_off_by = ""
    client.allergens, client.dislikes, client.exclusions, client.likes = [], [], [], []
    client.bounds, client.week = [], []
    client.fridge_l = client.signed_off_on = None
    client.tolerance = Tolerance()
    client.archived_at = client.archived_at or now
    client.erased_at = now
    client.version += 1
    session.flush()


def _rename(session: Session, client_id: uuid.UUID, name: str, pseudonym: str) -> None:
    """Replace a name wherever it stands as a whole, and drop what was answered with it."""
    session.execute(text("SELECT set_config('app.erasing', 'on', true)"))
    session.execute(update(tables.Receipt).where(tables.Receipt.answer.is_not(None)).values(answer=None))
    session.execute(delete(tables.KeptAnswer))
    is_coach = session.scalar(select(func.count()).where(tables.Account.name == name)) or 0
    pattern = _pattern(name)
    for table, column in _texts():
        if column.name in _SIGNED and is_coach:
            continue
        if isinstance(column.type, JSONB) or (table.name, column.name) in _HOLDS_JSON:
            _rename_json(session, table, column, _Renaming(str(client_id), name, pseudonym))
            continue
        words = column if isinstance(column.type, Text) else func.array_to_string(column, "\n")
        replaced: Any = func.regexp_replace(words, pattern, pseudonym, "g")
        if not isinstance(column.type, Text):
            replaced = func.string_to_array(replaced, "\n")
        there = words.op("~")(literal(pattern))
        session.execute(update(table).where(there).values({column.name: replaced}))
    session.expire_all()


_HOLDS_JSON = frozenset({("stored_plan", "view"), ("stored_plan", "document"), ("stored_plan", "brief")})
"""Columns of text that are JSON."""


@dataclass(frozen=True)
class _Renaming:
    """What is replaced in JSON: in values alone, so that nothing that reads it is lost."""

    client_id: str
    name: str
    pseudonym: str

    def of(self, value: Any, key: str = "") -> Any:
        """A value with the name replaced. One word alone is a name only where names of clients stand: somebody may be
        called as a food or a place is."""
        if isinstance(value, dict):
            return {name: self.of(one, name) for name, one in value.items()}
        if isinstance(value, list):
            return [self.of(one, key) for one in value]
        if not isinstance(value, str):
            return value
        if " " not in value and key not in ("client", self.client_id):
            return value
        return re.sub(rf"(?<!\w){re.escape(self.name)}(?!\w)", lambda _: self.pseudonym, value)


def _rename_json(session: Session, table: Table, column: Column[Any], renaming: _Renaming) -> None:
    is_text = isinstance(column.type, Text)
    inside = cast(column, Text).contains(_inside(renaming.name), autoescape=True)
    for key, found in session.execute(select(table.c.id, column).where(inside)).all():
        changed = renaming.of(json.loads(found) if is_text else found)
        values: dict[str, Any] = {column.name: json.dumps(changed, ensure_ascii=False) if is_text else changed}
        if table.name == "stored_plan":
            # Whoever keeps something made from it sees by this that it is another.
            values["made_at"] = func.clock_timestamp()
        session.execute(update(table).where(table.c.id == key).values(values))


def _texts() -> Iterator[tuple[Table, Column[Any]]]:
    for table in tables.Base.metadata.sorted_tables:
        if table.name in KNOW_NO_PEOPLE or "workspace_id" not in table.c:
            continue
        for column in table.columns:
            if isinstance(column.type, Text | JSONB) or (
                isinstance(column.type, ARRAY) and isinstance(column.type.item_type, Text)
            ):
                yield table, column


def _inside(words: str) -> str:
    """Words as they stand inside a JSON string."""
    return json.dumps(words, ensure_ascii=False)[1:-1]


def _pattern(name: str) -> str:
    """A name as a regular expression of PostgreSQL, as a word of its own."""
    escaped = re.sub(r"([^\w\s])", r"\\\1", name)
    return rf"(?<!\w){escaped}(?!\w)"
