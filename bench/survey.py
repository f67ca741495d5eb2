"""Who can eat what for 40 recipes and 500 clients, answered by one worker process and by two.

YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m bench.survey
"""

from __future__ import annotations

import subprocess
import sys
import time
from random import Random

from sqlalchemy import select
from tests.kitchens import line
from tests.support import NOW, database, new_kitchen

from yantai.store import tables
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.common.who import SignedIn
from yantai.work.recipes.inputs import ComponentInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe
from yantai.work.surveys import surveys

RECIPES, CLIENTS = 40, 500
PROTEINS = ("chicken-thigh-skinless-raw", "ground-turkey-93-lean-raw", "salmon-atlantic-farmed-raw", "tofu-extra-firm")
GRAINS = ("bulgur-wheat-dry", "millet-dry", "oats-rolled-dry")


def kitchen(rng: Random) -> SignedIn:
    who = new_kitchen()
    for number in range(RECIPES):
        parts = [
            ComponentInput(
                name="Protein",
                role="protein",
                method="baked",
                maximum_g=350,
                lines=[line(rng.choice(PROTEINS), 1000), line("olive-oil", rng.uniform(5, 60))],
            ),
            ComponentInput(
                name="Grain", role="grain", method="boiled", lines=[line(rng.choice(GRAINS), 600), line("water", 1200)]
            ),
            ComponentInput(
                name="Greens", role="vegetable", method="sauteed", minimum_g=60, lines=[line("kale-raw", 900)]
            ),
            ComponentInput(name="Sauce", role="sauce", maximum_g=120, lines=[line("greek-yogurt-plain-low-fat", 500)]),
        ]
        save_recipe(database(), who, RecipeInput(name=f"Recipe {number}", components=parts), None)
    for number in range(CLIENTS):
        target = TargetInput(
            slot="lunch",
            protein_g=round(rng.uniform(25, 60)),
            carbohydrate_g=round(rng.uniform(30, 80)),
            fat_g=round(rng.uniform(8, 22)),
        )
        save_client(database(), who, ClientInput(name=f"Client {number}", targets=[target]), None)
    return who


def main() -> None:
    who = kitchen(Random(5))
    url = database().engine.url.render_as_string(hide_password=False)
    command = [sys.executable, "-c", f"from yantai.jobs import worker; worker.run({url!r}, until_empty=True)"]
    for workers in (1, 2):
        surveys.start_survey(database(), who, NOW)
        started = time.perf_counter()
        running = [subprocess.Popen(command) for _ in range(workers)]
        for process in running:
            process.wait()
        took = time.perf_counter() - started
        found = surveys.read_survey(database(), who)
        with database().workspace(who.workspace_id) as session:
            met = session.scalars(select(tables.SurveyAnswer.met)).all()
        print(f"{workers} workers: {took:.1f} s, {len(met):,} answers, {sum(met):,} fit, {found and found.state}")


if __name__ == "__main__":
    main()
