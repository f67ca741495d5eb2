"""How long food keeps, as the reference data states it."""

from __future__ import annotations

import csv
import re
from collections.abc import Mapping
from functools import cache
from importlib import resources

from yantai.core.storage.matching import FROM_NOTES
from yantai.core.storage.shelf import Freezes, ShelfRow


def _degrees(text: str) -> str:
    """The table writes temperatures as "5 C"."""
    return re.sub(r"(\d) C\b", "\\1\u00a0°C", text)


@cache
def shelf_table() -> Mapping[str, ShelfRow]:
    """The rows by their category, with those that the table's notes give."""
    text = (resources.files("yantai.reference") / "data" / "shelf.csv").read_text(encoding="utf-8")
    stated = [
        ShelfRow(
            category=row["category"],
            cautious_days=int(row["fridge_days_cautious"]),
            usual_days=int(row["fridge_days_usual_max"]),
            freezer_months=int(row["freezer_months_quality"]),
            freezes=Freezes(row["freezes_well"]),
            cool_note=_degrees(row["cool_note"]),
            reheat_c=float(row["reheat_core_c"]) if row["reheat_core_c"] else None,
            note=_degrees(row["note"]),
        )
        for row in csv.DictReader(text.splitlines())
    ]
    return {row.category: row for row in (*stated, *FROM_NOTES)}
