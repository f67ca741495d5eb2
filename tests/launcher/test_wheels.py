"""What is built to be installed elsewhere works there: the rules alone, and the whole from anywhere."""

from __future__ import annotations

import json
import subprocess
import tempfile
import unittest
import zipfile
from pathlib import Path
from typing import Any

from yantai.launcher import wheels
from yantai.launcher.places import BIN, REQUIREMENTS

PLAN = """
import json, sys
from importlib.util import find_spec
from yantai.core import (
    Amounts, Component, ContainerClass, Line, NUTRIENTS, Nutrient, Part, Target, Tolerance, YieldRange,
    YieldSource, one_dish, plan
)
held = dict.fromkeys(NUTRIENTS, 0.0) | {Nutrient.KCAL: 360, Nutrient.CARBOHYDRATE: 79, Nutrient.PROTEIN: 7}
cooks = YieldRange(low=2.8, expected=3, high=3.2, source=YieldSource.COACH)
rice = Line(name="rice", purchased_g=500, composition=Amounts(tuple(held.values())), yield_range=cooks)
pot = Part(component=Component(name="Rice", lines=(rice,)), share=1500)
lunch = ContainerClass(target=Target(carbohydrate_g=60), tolerance=Tolerance(), count=5)
answer = plan(one_dish({"rice": pot}), [lunch], step_g=5)
strangers = [name for name in ("sqlalchemy", "pydantic", "fastapi", "yantai.work", "yantai.store") if find_spec(name)]
json.dump({"grams": answer.portions[0].grams, "met": answer.all_met, "strangers": strangers,
           "where": sys.modules["yantai.core"].__file__}, sys.stdout)
"""

SERVED = """
import json, sys
from fastapi.testclient import TestClient
from yantai.api import app
from yantai.settings import Settings
from yantai.store import migrate
from yantai.work.pantry import reference
settings = Settings(database_url="postgresql+psycopg://nobody@127.0.0.1:1/none", hosts="testserver")
page = TestClient(app.create_app(settings)).get("/batches")
json.dump({"page": page.text, "status": page.status_code, "where": app.__file__, "foods": len(list(reference._foods())),
           "migrations": len(list((migrate._FOLDER / "versions").glob("0*.py")))}, sys.stdout)
"""


def answer(python: Path, code: str, folder: str, **environment: str) -> dict[str, Any]:
    """What a Python elsewhere says."""
    done = subprocess.run(
        [python, "-c", code], cwd=folder, env=environment, capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise AssertionError(done.stderr)
    found: dict[str, Any] = json.loads(done.stdout)
    return found


class Wheels(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = self.enterContext(tempfile.TemporaryDirectory())
        self.out = Path(self.folder) / "dist"

    def test_the_rules_compute_a_plan_in_an_empty_environment(self) -> None:
        """500 g of rice cook to 1,500 g with 395 g of carbohydrate; 60 g of it are in 227.8 g: 230 g on the scale."""
        wheel = wheels.build_core(self.out)
        names = zipfile.ZipFile(wheel).namelist()
        self.assertEqual([name for name in names if not name.startswith(("yantai/core/", "yantai_core-"))], [])
        self.assertIn("yantai/core/py.typed", names)
        home = Path(self.folder) / "empty"
        uv: list[str | Path] = [BIN / "uv", "-q"]
        subprocess.run([*uv, "venv", "--python", BIN / "python", home], check=True)
        into: list[str | Path] = ["--python", home / "bin" / "python", "--constraint", REQUIREMENTS / "app.lock"]
        subprocess.run([*uv, "pip", "install", *into, wheel], check=True)
        found = answer(home / "bin" / "python", PLAN, self.folder)
        self.assertEqual((found["grams"], found["met"], found["strangers"]), ([230.0], True, []))
        self.assertTrue(str(found["where"]).startswith(str(home)))

    def test_the_whole_serves_its_pages_from_anywhere(self) -> None:
        wheel = wheels.build_whole(self.out)
        home = Path(self.folder) / "elsewhere"
        zipfile.ZipFile(wheel).extractall(home)
        found = answer(BIN / "python", SERVED, self.folder, PYTHONPATH=str(home))
        self.assertTrue(str(found["where"]).startswith(str(home)))
        self.assertEqual(found["status"], 200)
        self.assertIn('<div id="root">', str(found["page"]))
        self.assertGreater(found["foods"], 800)
        self.assertGreaterEqual(found["migrations"], 17)


if __name__ == "__main__":
    unittest.main()
