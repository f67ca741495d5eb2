"""What is sent is made once, however often it arrives: a lost answer is answered again."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import Any, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.store import tables
from yantai.work.common.errors import Invalid
from yantai.work.common.who import SignedIn

ViewT = TypeVar("ViewT")

ANSWERS_KEPT = timedelta(days=30)
"""That something was made is known for ever; what was answered holds names of clients and is dropped."""


class MadeAlready(Exception):
    """The wish was made before; `answer` is what was answered then, as JSON."""

    def __init__(self, answer: Any) -> None:
        super().__init__("made already")
        self.answer = answer


@contextmanager
def once(session: Session, who: SignedIn) -> Iterator[Callable[[ViewT], ViewT]]:
    """A block that makes what `who` sent, once. It hands its answer to what it is given, which returns it.

    A second one with the same id waits for the first, and makes nothing once that is committed.

    Raises:
        MadeAlready: it was made before.
        Invalid: the id was sent before with something else, or so long ago that its answer is gone.
    """
    if who.sent is None:
        yield lambda view: view
        return
    receipt, key = tables.Receipt, uuid.uuid5(who.workspace_id, str(who.sent.command_id))
    fresh = session.scalar(
        insert(receipt)
        .values(id=key, workspace_id=who.workspace_id, digest=who.sent.digest)
        # By every key of the table: with one of them named, two at once can wait for each other.
        .on_conflict_do_nothing()
        .returning(receipt.id)
    )
    if fresh is None:
        made = session.scalars(select(receipt).where(receipt.id == key)).one()
        if made.digest != who.sent.digest:
            raise Invalid("This was saved already, with other values. Reload the page, then change it again.")
        if made.answer is None:
            raise Invalid(
                f"This was saved already, on {made.made_at:%-d %B %Y}. Reload the page for what there is now."
            )
        raise MadeAlready(made.answer["answer"])
    old = receipt.made_at < func.now() - ANSWERS_KEPT, receipt.answer.is_not(None)
    session.execute(update(receipt).where(*old).values(answer=None))

    def keep(view: ViewT) -> ViewT:
        shown = TypeAdapter(type(view)).dump_python(view, mode="json")
        session.execute(update(receipt).where(receipt.id == key).values(answer={"answer": shown}))
        return view

    yield keep
