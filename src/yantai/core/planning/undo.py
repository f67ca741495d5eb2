"""Which command of a log is taken back next, and which is made again.

Nothing of a log is ever removed: taking back is a command of its own that names the one it takes back, and making
again is a command that takes back that one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True, slots=True, kw_only=True)
class Made:
    """A command of a log, in order; `undoes` is the one it takes back. Not all can be taken back."""

    id: Any
    undoes: Any = None
    undoable: bool = True


def in_force(log: Sequence[Made]) -> set[Any]:
    """The commands that no command in force takes back."""
    standing = {made.id for made in log}
    for made in reversed(log):
        if made.id in standing and made.undoes is not None:
            standing.discard(made.undoes)
    return standing


def next_undo(log: Sequence[Made]) -> Any:
    """The newest command in force that was made of its own; None where nothing can be taken back.

    >>> next_undo([Made(id="a"), Made(id="b"), Made(id="c", undoes="b")])
    'a'
    """
    standing = in_force(log)
    newest = next((made for made in reversed(log) if made.undoes is None and made.id in standing), None)
    return newest.id if newest is not None and newest.undoable else None


def next_redo(log: Sequence[Made]) -> Any:
    """The newest taking back in force, as long as nothing new was made after it; None where there is none.

    >>> next_redo([Made(id="a"), Made(id="b"), Made(id="c", undoes="b")])
    'c'
    """
    standing, own = in_force(log), {made.id for made in log if made.undoes is None}
    for made in reversed(log):
        if made.undoes is None:
            return None
        if made.undoes in own and made.id in standing:
            return made.id
    return None


def last_made(log: Sequence[Made], wanted: Any) -> Any:
    """The command by which `wanted` was made last: itself, or the newest that made it again."""
    taken_back = {made.id for made in log if made.undoes == wanted}
    return next((made.id for made in reversed(log) if made.undoes in taken_back), wanted)


def made_after(log: Sequence[Made], wanted: Any) -> list[Any]:
    """The commands in force now that were not when `wanted` was made last: what may stand on it; in their order.

    >>> log = [Made(id="a"), Made(id="b"), Made(id="u", undoes="b"), Made(id="v", undoes="a")]
    >>> made_after([*log, Made(id="r", undoes="v"), Made(id="s", undoes="u")], "a")
    ['b']
    """
    last, standing = last_made(log, wanted), in_force(log)
    until = next(number for number, made in enumerate(log, start=1) if made.id == last)
    before = in_force(log[:until])
    return [made.id for made in log if made.undoes is None and made.id in standing - before]
