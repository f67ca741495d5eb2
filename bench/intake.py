"""Reading, recomputing and searching: 1,000 lines, a recipe of 60 lines, a pantry of 20,000 foods.

Needs an empty database for its own use: YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m bench.intake
"""

from __future__ import annotations

import csv
import statistics
import time
import uuid
from collections.abc import Callable
from pathlib import Path

from sqlalchemy import insert
from tests.support import database, new_kitchen

from yantai.core.quantities import read_line
from yantai.store import tables
from yantai.work.pantry.foods import search_foods
from yantai.work.recipes.inputs import ComponentInput, IntakeInput, LineInput, RecipeInput
from yantai.work.recipes.intake import read_text
from yantai.work.recipes.recipes import preview_recipe

CORPUS = Path(__file__).parents[1] / "tests" / "data" / "ingredient_lines.csv"
FOODS = 20_000


def measure(name: str, call: Callable[[], object], times: int) -> None:
    call()
    taken = []
    for _ in range(times):
        started = time.perf_counter()
        call()
        taken.append(1000 * (time.perf_counter() - started))
    taken.sort()
    print(f"{name}: median {statistics.median(taken):.1f} ms, p95 {taken[int(0.95 * (times - 1))]:.1f} ms", flush=True)


def main() -> None:
    with CORPUS.open(encoding="utf-8") as file:
        written = [row["line"] for row in csv.DictReader(file)]
    lines = [written[n % len(written)] for n in range(1000)]
    measure("take 1,000 lines apart", lambda: [read_line(line) for line in lines], 5)

    who = new_kitchen()
    text = "\n".join(lines[:250])
    measure(
        "read 250 lines to foods and grams, 798 foods", lambda: read_text(database(), who, IntakeInput(text=text)), 5
    )

    foods = search_foods(database(), who, state="raw", limit=60).foods
    recipe = RecipeInput(
        name="Sixty",
        components=[
            ComponentInput(
                name=f"Component {part}",
                method="roasted",
                lines=[LineInput(food_id=food.id, purchased_g=100) for food in foods[15 * part : 15 * part + 15]],
            )
            for part in range(4)
        ],
    )
    measure("recompute a recipe of 60 lines", lambda: preview_recipe(database(), who, recipe), 40)

    words = ["turkey", "bean", "rice", "oat", "quark", "bread", "pepper", "olive", "harissa", "salmon", "tofu", "apple"]
    made = [
        {
            "id": uuid.uuid4(),
            "workspace_id": who.workspace_id,
            "food_group": "own",
            "state": "as-sold",
            "method": "",
            "name": f"{words[n % 12]} {words[(n // 12) % 12]} no. {n}",
            "protein_g": 5,
            "carbohydrate_g": 10,
            "fat_g": 2,
            "allergens": [],
            "diet_tags": [],
            "source": "bench",
            "source_detail": "",
            "note": "",
            "weak": False,
            "search_text": f"{words[n % 12]} {words[(n // 12) % 12]} no {n} as sold",
        }
        for n in range(FOODS - 798)
    ]
    with database().workspace(who.workspace_id) as session:
        session.execute(insert(tables.Food), made)
    queries = [
        "turkey",
        "chiken brest",
        "olive oil",
        "oat bread",
        "harissa no 777",
        "salm",
        "quark",
        "courgette",
        "brown rice",
    ]
    taken = []
    for _ in range(12):
        for query in queries:
            started = time.perf_counter()
            search_foods(database(), who, text=query, limit=12)
            taken.append(1000 * (time.perf_counter() - started))
    taken.sort()
    p95 = taken[int(0.95 * (len(taken) - 1))]
    print(f"search {FOODS:,} foods: median {statistics.median(taken):.1f} ms, p95 {p95:.1f} ms")
    measure("read one line among 20,000 foods", lambda: read_text(database(), who, IntakeInput(text="1 kg salmon")), 10)


if __name__ == "__main__":
    main()
