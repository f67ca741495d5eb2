"""The macros of a plan's containers from the reference file, the recipe and the grams alone.

Written apart from the application's code and sharing none of it: plain sums over the CSV.
"""

from __future__ import annotations

import csv
from pathlib import Path
from typing import Any

FOODS = Path(__file__).parents[2] / "src/yantai/reference/data/foods.csv"


def independent_rows(plan: dict[str, Any]) -> list[dict[str, float]]:
    """kcal and macros of one container of each row."""
    lines = FOODS.read_text(encoding="utf-8").splitlines()
    foods = {(row["name"], row["state"]): row for row in csv.DictReader(lines)}
    foods["Water", "as-sold"] = {}
    per_gram = []
    for component in plan["components"]:
        held = {"protein_g": 0.0, "carbohydrate_g": 0.0, "fat_g": 0.0}
        for line in component["lines"]:
            food = foods[line["name"], line["state"]]
            edible = line["purchased_g"] * (1 - line["refuse_share"])
            for macro in held:
                held[macro] += edible * line["retained_share"] * float(food.get(macro) or 0) / 100
        held["fat_g"] -= component["poured_fat_g"]
        per_gram.append({macro: value / component["cooked_g"] for macro, value in held.items()})
    rows = []
    for row in plan["rows"]:
        macros = {
            macro: sum(cell["grams"] * one[macro] for cell, one in zip(row["cells"], per_gram, strict=True))
            for macro in ("protein_g", "carbohydrate_g", "fat_g")
        }
        energy = 4 * macros["protein_g"] + 4 * macros["carbohydrate_g"] + 9 * macros["fat_g"]
        rows.append({"kcal": energy, **macros})
    return rows
