"""What a raw or dry food is expected to give by each method: docs/yields-by-method.md.

Run by hand: `.venv/bin/python -m bench.yield_families`. The choice is the kitchen's own; the table is for reading it
with a cook's eye, family by family.
"""

from __future__ import annotations

import csv
from collections import defaultdict
from importlib import resources
from pathlib import Path
from statistics import median

from yantai.core.cooking.components import METHODS, UNCOOKED
from yantai.core.cooking.yield_choice import Cookable, Factors, choose, takes_up_water
from yantai.core.cooking.yields import YieldRange, YieldSource, around_balance

ANIMAL = ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs")
FAMILIES = {
    "moist": ("boiled", "simmered", "poached", "steamed", "pressure-cooked", "slow-cooked", "braised", "microwaved"),
    "dry": ("roasted", "baked", "grilled", "air-fried"),
    "fat": ("pan-fried", "sauteed", "stir-fried"),
}


def rows(name: str) -> list[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def expected() -> dict[tuple[str, str], list[YieldRange]]:
    """The yields of the foods that are bought raw or dry, by group and method."""
    foods = {row["food_id"]: row for row in rows("foods.csv")}
    own: dict[str, dict[str, YieldRange]] = defaultdict(dict)
    for row in rows("yields.csv"):
        own[row["food_id"] or row["group"]][row["method"]] = YieldRange(
            low=float(row["yield_low"]),
            expected=float(row["yield_mean"]),
            high=float(row["yield_high"]),
            source=YieldSource.PUBLISHED if row["food_id"] else YieldSource.GROUP,
        )
    balance: dict[str, dict[str, YieldRange]] = defaultdict(dict)
    for row in rows("pairs.csv"):
        is_animal = foods[row["raw_id"]]["group"] in ANIMAL
        value = row["yield_protein_basis" if is_animal else "yield_dry_basis"]
        if value:
            balance[row["raw_id"]][row["method"]] = around_balance(float(value))
    found: dict[tuple[str, str], list[YieldRange]] = defaultdict(list)
    for key, food in foods.items():
        if food["state"] not in ("raw", "dry"):
            continue
        solids = sum(float(food[name] or 0) for name in ("protein_g", "fat_g", "carbohydrate_g"))
        cookable = Cookable(name=food["name"], group=food["group"], state=food["state"], solids_g=solids)
        group = food["group"] + (", takes up water" if takes_up_water(cookable) else "")
        for method in METHODS:
            if method != UNCOOKED:
                known = Factors(own=own.get(key, {}), balance=balance.get(key, {}), group=own.get(food["group"], {}))
                found[group, method].append(choose(cookable, method, known))
    return found


def table() -> str:
    """The median of each group by each method; "?" before one that nothing is known of for some of its foods."""
    found = expected()
    groups = sorted({group for group, _ in found})
    text = (
        "# Yields by method family\n\nFrom `bench.yield_families`: the middle of what raw and dry foods of a group are "
        "expected to give (cooked over edible weight).\n“?” where some of its foods have no factor by a method "
        "of that family, which is a finding in a recipe.\n"
    )
    for family, methods in FAMILIES.items():
        text += f"\n## {family.capitalize()} heat\n\n| group | {' | '.join(methods)} |\n|---|{'---:|' * len(methods)}\n"
        for group in groups:
            cells = []
            for method in methods:
                yields = found[group, method]
                mark = "?" if any(one.source is YieldSource.UNKNOWN for one in yields) else ""
                cells.append(f"{mark}{median(one.expected for one in yields):.2f}")
            text += f"| {group} | {' | '.join(cells)} |\n"
    return text


if __name__ == "__main__":
    Path("docs/yields-by-method.md").write_text(table(), encoding="utf-8")
