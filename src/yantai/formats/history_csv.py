"""Prices and amounts of foods over time as CSV: one row a price, or a sum of a month."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from yantai.formats.tables import unformulated

HEADINGS = ("food", "what", "day", "shop", "pack", "grams", "money")


@dataclass(frozen=True, slots=True, kw_only=True)
class HistoryRow:
    """A price of a pack, or grams of a month, which is told by its first day; money is what it costs or cost."""

    food: str
    kind: str
    day: date | None
    shop: str
    pack: str
    grams: float
    money: float | None


def write(rows: Iterable[HistoryRow]) -> str:
    """The rows as CSV text."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(HEADINGS)
    for row in rows:
        writer.writerow(
            [
                unformulated(row.food), row.kind, "" if row.day is None else row.day.isoformat(),
                unformulated(row.shop), unformulated(row.pack), f"{row.grams:.1f}",
                "" if row.money is None else f"{row.money:.2f}",
            ]
        )  # fmt: skip
    return out.getvalue()
