"""The shipped shelf-life table and foods, as they stand in their files."""

from __future__ import annotations

import csv
from collections.abc import Mapping
from functools import cache
from importlib import resources

from yantai.core.storage.matching import FROM_NOTES, Content
from yantai.core.storage.shelf import Freezes, ShelfRow


def rows_of(name: str) -> list[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


@cache
def shelf() -> Mapping[str, ShelfRow]:
    made = [
        ShelfRow(
            category=row["category"],
            cautious_days=int(row["fridge_days_cautious"]),
            usual_days=int(row["fridge_days_usual_max"]),
            freezer_months=int(row["freezer_months_quality"]),
            freezes=Freezes(row["freezes_well"]),
            reheat_c=float(row["reheat_core_c"]) if row["reheat_core_c"] else None,
        )
        for row in rows_of("shelf.csv")
    ]
    return {row.category: row for row in (*made, *FROM_NOTES)}


@cache
def foods() -> Mapping[str, dict[str, str]]:
    return {row["food_id"]: row for row in rows_of("foods.csv")}


def content(food_id: str, grams: float) -> Content:
    food = foods()[food_id]
    return Content(name=food["name"], group=food["group"], state=food["state"], grams=grams)
