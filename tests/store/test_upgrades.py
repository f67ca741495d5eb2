"""Databases of earlier versions, upgraded as a start does it: everything they told is told again, figure by figure.

Each folder of tests/data/upgrades is named after the newest migration its version had, and holds a dump and what that
version's API told of it. The demo, with a packed batch and one in which pins, bounds, weights and what was added at
the stove have left their traces.
"""

from __future__ import annotations

import json
import lzma
import os
import subprocess
import sys
import unittest
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient
from sqlalchemy import make_url

from tests.support import make_database
from yantai.api.app import create_app
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD
from yantai.settings import Settings

SINCE = {"0011": {"potassium_mg"}}
"""Nutrients that a version did not know yet: it could not name them among the figures that are "at least"."""
UPGRADES = Path(__file__).parents[1] / "data" / "upgrades"


def told_by(folder: Path) -> dict[str, Any]:
    """What the version of a dump told: answers by their address."""
    told: dict[str, Any] = json.loads(lzma.decompress((folder / "told.json.xz").read_bytes()))
    return told


OF_PART = ("school", "minimum_g", "maximum_g", "unit_g", "unit_part", "plate_share", "eye_g", "usual_most_g")
MENDED = (("Two temperatures are stated: 210 °C and 74 °C. Which is it?", ""),)
"""Sentences that were wrong: what the food is to reach inside was taken for a second oven."""
OF_DISH = ("recipe_id", "recipe", "recipe_changed")


def as_before_dishes(answer: Any) -> Any:
    """What is told of a batch of one dish where it was told before there were dishes (until 0019)."""
    if isinstance(answer, list):
        return [{**one, "recipe": one["dishes"][0]} if "dishes" in one else one for one in answer]
    if "dishes" not in answer or "components" not in answer:
        return answer
    (dish,) = answer["dishes"]
    parts = {part["component_id"]: part for part in dish["parts"]}
    components = [
        {**component, **{key: parts[component["id"]][key] for key in OF_PART}} for component in answer["components"]
    ]
    batch = {**answer["batch"], **{key: dish[key] for key in OF_DISH}}
    return {**answer, "batch": batch, "components": components, "extra": dish["extra"]}


def comparable(before: Any, now: Any) -> tuple[Any, Any]:
    """Days count containers of near batches since 0021, not only of the same day: where a meal that was counted as
    targeted is one of those now, sums differ by it, and what is left to compare are the figures and the other parts."""
    if not (isinstance(now, list) and now and "parts" in now[0]):
        return before, now
    pairs = []
    for one, other in zip(before, now, strict=True):
        same = [name(part) for part in one["parts"]] == [name(part) for part in other["parts"]]
        pairs.append((one, other) if same else (own_of(one, other), own_of(other, one)))
    return [one for one, _ in pairs], [other for _, other in pairs]


def name(part: dict[str, Any]) -> tuple[str, str]:
    return part["kind"], part["name"]


def own_of(day: dict[str, Any], other: dict[str, Any]) -> dict[str, Any]:
    shared = {name(part) for part in day["parts"]} & {name(part) for part in other["parts"]}
    kept = {key: day[key] for key in ("client_id", "client", "day_type", "target", "left")}
    return {**kept, "parts": [part for part in day["parts"] if name(part) in shared]}


def differences(before: Any, after: Any, new: set[str], where: str = "") -> Iterator[str]:
    """What was told before and is told otherwise now. Fields that are told in addition are no difference."""
    if isinstance(after, list):
        after = [value for value in after if not (isinstance(value, str) and value in new)]
    if isinstance(before, dict) and isinstance(after, dict):
        for key, value in before.items():
            if key in after:
                yield from differences(value, after[key], new, f"{where}/{key}")
            else:
                yield f"{where}/{key} is not told any more"
    elif isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        for index, (one, other) in enumerate(zip(before, after, strict=True)):
            yield from differences(one, other, new, f"{where}/{index}")
    elif before != after and (before, after) not in MENDED:
        yield f"{where}: {before!r} became {after!r}"


class Upgrades(unittest.TestCase):
    def restored(self, folder: Path) -> str:
        """The dump in a database of its own; its URL."""
        url = make_database(f"yantai_upgrade_{folder.name}_{os.getpid()}")
        plain = make_url(url).set(drivername="postgresql").render_as_string(hide_password=False)
        dump = lzma.decompress((folder / "dump.sql.xz").read_bytes())
        done = subprocess.run(
            ["psql", "--quiet", "--no-psqlrc", "--set=ON_ERROR_STOP=1", plain],
            input=dump,
            capture_output=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stderr.decode())
        return url

    def test_every_figure_of_every_plan_is_what_it_was(self) -> None:
        folders = sorted(folder for folder in UPGRADES.iterdir() if folder.is_dir())
        self.assertTrue(folders)
        for folder in folders:
            url = self.restored(folder)
            env = {**os.environ, "YANTAI_DATABASE_URL": url, "YANTAI_DEMO": "1"}
            start = [sys.executable, "-m", "yantai.cli", "prepare"]
            # Twice: a second start finds nothing left to do.
            for _ in range(2):
                done = subprocess.run(start, env=env, capture_output=True, text=True, check=False)
                self.assertEqual(done.returncode, 0, done.stderr)
            app = create_app(Settings(database_url=url, demo=True, hosts="testserver"))
            self.addCleanup(app.state.database.close)
            client = TestClient(app)
            signed_in = client.post("/api/v1/session", json={"email": DEMO_EMAIL, "password": DEMO_PASSWORD})
            self.assertEqual(signed_in.status_code, 201)
            for address, before in told_by(folder).items():
                with self.subTest(version=folder.name, address=address):
                    answer = client.get(f"/api/v1{address}")
                    self.assertEqual(answer.status_code, 200, answer.text)
                    now = as_before_dishes(answer.json())
                    found = differences(*comparable(before, now), SINCE.get(folder.name, set()))
                    self.assertEqual(list(found), [])


class TheComparison(unittest.TestCase):
    """What the test above would find."""

    def test_a_figure_that_moved_or_went_is_found(self) -> None:
        before = {"rows": [{"grams": 120.0, "kept": ["fibre_g"]}]}
        for after, found in (
            ({"rows": [{"grams": 120.0, "kept": ["fibre_g", "potassium_mg"], "more": 1}]}, []),
            ({"rows": [{"grams": 120.1, "kept": ["fibre_g"]}]}, ["/rows/0/grams: 120.0 became 120.1"]),
            ({"rows": [{"kept": ["fibre_g"]}]}, ["/rows/0/grams is not told any more"]),
            ({"rows": []}, ["/rows: [{'grams': 120.0, 'kept': ['fibre_g']}] became []"]),
            ({"rows": [{"grams": 120.0, "kept": []}]}, ["/rows/0/kept: ['fibre_g'] became []"]),
        ):
            with self.subTest(after=after):
                self.assertEqual(list(differences(before, after, {"potassium_mg"})), found)


if __name__ == "__main__":
    unittest.main()
