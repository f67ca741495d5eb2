"""A shopping list as CSV: one row a food."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass

from yantai.formats.tables import unformulated

HEADINGS = ("aisle", "food", "state", "needed_g", "packs", "left_g", "cost", "for")


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingRow:
    """A food to buy: grams as purchased [g], packs in words, what is left over of them [g], what they cost."""

    aisle: str
    food: str
    state: str
    needed_g: float
    packs: str
    left_g: float | None
    cost: float | None
    wanted_for: str


def write(rows: Iterable[ShoppingRow]) -> str:
    """The list as CSV text."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADINGS)
    for row in rows:
        writer.writerow(
            [
                row.aisle, unformulated(row.food), row.state, f"{row.needed_g:.1f}", unformulated(row.packs),
                "" if row.left_g is None else f"{row.left_g:.1f}", "" if row.cost is None else f"{row.cost:.2f}",
                unformulated(row.wanted_for),
            ]
        )  # fmt: skip
    return out.getvalue()
