"""Plan documents out of one kitchen and into another: the grams stay, and what is new is told."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from tests.api.case import API, ApiCase
from tests.kitchens import apply, planned, weigh
from yantai.core.planning.plan import plan as core_plan
from yantai.formats.plan_document import NEWEST, core_classes, core_dishes, read_plan
from yantai.work.batches.inputs import SetPin

EXAMPLE_C = (Path(__file__).parents[2] / "data" / "example_c.json").read_text()


def without_keys(document: dict[str, Any]) -> dict[str, Any]:
    """The document with the places of components in the stead of their keys."""
    indices = {component["key"]: str(index) for index, component in enumerate(document["components"])}
    for component in document["components"]:
        component["key"] = indices[component["key"]]
    for dish in document["dishes"]:
        dish["key"] = dish["name"]
        for part in dish["parts"]:
            part["component"] = indices[part["component"]]
    for step in document["steps"]:
        step["component"] = indices.get(step["component"])
    for containers in document["containers"]:
        containers["dish"] = ""
        pins = {indices[key]: grams for key, grams in containers["pins"].items()}
        # What is left out comes in as none of it.
        pins.update({indices[key]: 0.0 for key in containers["left_out"]})
        containers["pins"], containers["left_out"] = pins, []
    return document


class Imports(ApiCase):
    def document(self) -> str:
        """A batch with a pin, an allergen left out and a weighed pan, as a document."""
        plan = planned(self.who)
        plan = apply(self.who, plan, SetPin(row_id=plan.rows[0].id, component_id=plan.components[2].id, grams=40))
        plan = apply(self.who, plan, weigh(plan, 0, plan.components[0].cooked_g))
        self.batch_id = plan.batch.id
        return self.client.get(f"{API}/batches/{plan.batch.id}/document").text

    def take(self, text: str, client: TestClient | None = None, status: int = 201) -> dict[str, Any]:
        body = {"text": text, "cook_on": "2026-12-06"}
        answer = (client or self.client).post(f"{API}/batches/import", json=body)
        self.assertEqual(answer.status_code, status, answer.text)
        return dict(answer.json())

    def grams(self, batch_id: str, client: TestClient | None = None) -> list[list[float]]:
        plan = (client or self.client).get(f"{API}/batches/{batch_id}/plan").json()
        return [[round(cell["grams"], 6) for cell in row["cells"]] for row in plan["rows"]]

    def test_the_same_kitchen_uses_what_it_has(self) -> None:
        text = self.document()
        taken = self.take(text)
        self.assertEqual(taken["notes"], [])
        self.assertEqual(self.grams(taken["batch_id"]), self.grams(str(self.batch_id)))
        again = self.client.get(f"{API}/batches/{taken['batch_id']}/document").json()
        before, after = without_keys(json.loads(text)), without_keys(again)
        for document in (before, after):
            for component in document["components"]:
                for ingredient in component["ingredients"]:
                    # The range of a yield is the other kitchen's knowledge; the yield itself is kept.
                    ingredient["cooks"] = round(ingredient["cooks"]["expected"], 5)
            for part in document["dishes"][0]["parts"]:
                part["share_g"] = round(part["share_g"], 2)
            # It is called as the recipe that was made of it.
            document["dishes"][0].update(name="", key="")
        self.assertEqual(after, before)

    def test_it_finds_its_clients_whatever_they_are_called_by_now(self) -> None:
        text = self.document()
        milo = next(one for one in self.get("/clients") if one["name"] == "Milo Brandt")
        renamed = {**_sent(milo), "name": "Milo Brandt-Sato"}
        self.send("PUT", f"/clients/{milo['id']}", renamed)
        plan = self.get(f"/batches/{self.take(text)['batch_id']}/plan")
        self.assertEqual(plan["rows"][2]["client"], "Milo Brandt-Sato")
        self.assertEqual(len(self.get("/clients")), 2)

    def test_two_people_of_one_name_stay_two(self) -> None:
        document = json.loads(self.document())
        for containers in document["containers"]:
            containers["client"] = "Sam Ode"
        other = self.other_kitchen()
        taken = self.take(json.dumps(document), other)
        plan = other.get(f"{API}/batches/{taken['batch_id']}/plan").json()
        self.assertEqual({row["client"] for row in plan["rows"]}, {"Sam Ode"})
        ids = [row["client_id"] for row in plan["rows"]]
        self.assertEqual(ids[0], ids[1])
        self.assertNotEqual(ids[0], ids[2])

    def test_steps_and_what_rounding_leaves_open_come_in_and_go_out_as_they_are(self) -> None:
        document = json.loads(self.document())
        self.assertEqual(document["version"], NEWEST)
        self.assertEqual([step["temperature_c"] for step in document["steps"]], [200])
        document["steps"][0]["component"] = document["components"][0]["key"]
        yogurt = document["components"][2]["ingredients"][0]
        yogurt["name"], yogurt["between"] = "Curd", {"protein_g": {"below": 0.5, "above": 0.45}}
        yogurt["per_100g"]["protein_g"] = 11
        taken = self.take(json.dumps(document))
        again = self.get(f"/batches/{taken['batch_id']}/document")
        between = again["components"][2]["ingredients"][0]["between"]
        # Energy follows from protein, so it is as open as that: 4 kcal for each gram.
        self.assertEqual(between, yogurt["between"] | {"kcal": {"below": 2.0, "above": 1.8}})
        step = again["steps"][0]
        self.assertEqual(step["component"], again["components"][0]["key"])
        self.assertEqual({**step, "component": None}, {**document["steps"][0], "component": None})
        plan = self.get(f"/batches/{taken['batch_id']}/plan")
        low_high = plan["components"][2]["per_100g"]["ranges"]["protein_g"]
        self.assertAlmostEqual(low_high["low"], 10.5)
        self.assertAlmostEqual(low_high["high"], 11.45)

    def test_the_first_version_is_read_and_a_newer_one_refused_in_words(self) -> None:
        document = json.loads(self.document())
        first = {key: value for key, value in document.items() if key not in ("steps", "dishes")} | {"version": 1}
        for part, component in zip(document["dishes"][0]["parts"], first["components"], strict=True):
            component |= {key: part[key] for key in ("school", "share_g", "minimum_g", "maximum_g")}
        for containers in first["containers"]:
            del containers["dish"]
        self.assertEqual(self.grams(self.take(json.dumps(first))["batch_id"]), self.grams(str(self.batch_id)))
        refused = self.take(json.dumps(document | {"version": NEWEST + 1, "colour": 1}), status=422)
        self.assert_fault(
            refused, "/version", f"version {NEWEST + 1} of the format, and this application reads up to {NEWEST}"
        )

    def test_another_kitchen_makes_the_clients_and_says_what_it_does_not_know(self) -> None:
        text = self.document()
        other = self.other_kitchen()
        taken = self.take(text, other)
        self.assertEqual(self.grams(taken["batch_id"], other), self.grams(str(self.batch_id)))
        (note,) = taken["notes"]
        self.assertIn("New clients: Ada Vance, Milo Brandt. What they must not eat", note)
        plan = other.get(f"{API}/batches/{taken['batch_id']}/plan").json()
        self.assertEqual([row["client"] for row in plan["rows"]], ["Ada Vance", "Ada Vance", "Milo Brandt"])
        self.assertEqual([row["count"] for row in plan["rows"]], [5, 3, 4])
        self.assertEqual(plan["components"][0]["weighing"]["cooked_g"], json.loads(text)["components"][0]["cooked_g"])
        self.assertEqual(plan["batch"]["cook_on"], "2026-12-06")

    def test_foods_that_are_not_here_are_made_and_the_grams_are_those_of_the_engine_alone(self) -> None:
        taken = self.take(EXAMPLE_C)
        document = read_plan(EXAMPLE_C)
        alone = core_plan(
            core_dishes(document),
            core_classes(document),
            step_g=document.step_g,
            buffer_share=document.buffer_share,
            sharing=document.sharing,
            leftover=document.leftover,
        )
        found = self.grams(taken["batch_id"])
        self.assertEqual(found, [[round(grams, 6) for grams in each.grams] for each in alone.portions])
        self.assertTrue(any(note.startswith("New in your pantry: ") for note in taken["notes"]))
        self.assertTrue(any("read their labels" in note for note in taken["notes"]))
        # The second time they are here.
        again = self.take(EXAMPLE_C)
        self.assertFalse(any("New in your pantry" in note for note in again["notes"]))
        self.assertEqual(self.grams(again["batch_id"]), found)

    def test_a_bad_document_is_told_by_its_places_and_leaves_nothing(self) -> None:
        good = json.loads(EXAMPLE_C)
        cases: list[tuple[str, str, str]] = [
            ("{", "", "line 1"),
            (json.dumps(good | {"colour": 1}), "/colour", "Extra inputs"),
            (json.dumps(good | {"step_g": 1000}), "/step_g", "less than or equal to 100"),
            (
                json.dumps(good | {"components": [good["components"][0] | {"method": "magic"}], "containers": []}),
                "/components/0/method",
                "not one of",
            ),
            (
                json.dumps(
                    good
                    | {
                        "containers": [],
                        "components": [
                            good["components"][0]
                            | {"ingredients": [{"name": "X", "purchased_g": 5, "per_100g": {"kcal": 50}}]}
                        ],
                    }
                ),
                "/components/0/ingredients/0/per_100g/protein_g",
                "is needed",
            ),
        ]
        for text, pointer, words in cases:
            with self.subTest(pointer=pointer):
                problem = self.take(text, status=422)
                found = {fault["pointer"]: fault["message"] for fault in problem["errors"]}
                self.assertIn(pointer, found)
                self.assertRegex(found[pointer], f"(?i){words}")
        self.assertEqual((self.get("/batches"), self.get("/recipes"), self.get("/clients")), ([], [], []))


def _sent(client: dict[str, Any]) -> dict[str, Any]:
    """What is sent to change a client as it is read."""
    known = ("name", "note", "allergens", "dislikes", "exclusions", "tolerance", "version")
    targets = [{key: value for key, value in one.items() if key != "conflict"} for one in client["targets"]]
    return {**{key: client[key] for key in known}, "targets": targets}
