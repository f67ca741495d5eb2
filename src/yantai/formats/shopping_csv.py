"""A shopping list as CSV: one row a food."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass

from yantai.formats.tables import unformulated

HEADINGS = (
    "aisle", "food", "state", "needed_g", "in_house_g", "to_buy_g", "packs", "left_g", "cost", "for",
)  # fmt: skip


@dataclass(frozen=True, slots=True, kw_only=True)
class ShoppingRow:
    """A food that is needed, what of it is in the house and what is to buy [g as purchased].

    Packs are in words; `left_g` is what is left over of them [g], `cost` what they cost.
    """

    aisle: str
    food: str
    state: str
    needed_g: float
    in_house_g: float
    to_buy_g: float
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
                row.aisle, unformulated(row.food), row.state, f"{row.needed_g:.1f}", f"{row.in_house_g:.1f}",
                f"{row.to_buy_g:.1f}", unformulated(row.packs), "" if row.left_g is None else f"{row.left_g:.1f}",
                "" if row.cost is None else f"{row.cost:.2f}", unformulated(row.wanted_for),
            ]
        )  # fmt: skip
    return out.getvalue()
