"""The API's description of itself, which the browser's client is generated from."""

from __future__ import annotations

import difflib
import json
import re
import unittest
from typing import Any

from tests.api.case import ApiCase, food_id, shared_app
from yantai.api.app import contract
from yantai.launcher.places import CONTRACT
from yantai.work.pantry.reference import plain


class OpenApi(unittest.TestCase):
    def setUp(self) -> None:
        self.document: dict[str, Any] = shared_app().openapi()
        self.routes = [
            (path, method, route) for path, routes in self.document["paths"].items() for method, route in routes.items()
        ]

    def test_the_committed_contract_is_what_the_api_says_of_itself(self) -> None:
        """A change of the contract is seen where changes are read; one that is meant, by ./yantai contract."""
        said = contract(shared_app())
        committed = CONTRACT.read_text()
        changed = list(difflib.unified_diff(committed.splitlines(), said.splitlines(), lineterm="", n=1))
        self.assertEqual(changed[:40], [], "if this is meant: ./yantai contract")
        self.assertEqual(said, committed)

    def test_every_route_has_a_stable_name_of_its_own(self) -> None:
        names = [route["operationId"] for _, _, route in self.routes]
        self.assertEqual(len(names), len(set(names)))
        for name in names:
            self.assertRegex(name, r"^[a-z]+(_[a-z]+)*$")

    def test_every_route_says_what_it_does_and_how_it_refuses(self) -> None:
        problem = {"$ref": "#/components/schemas/Problem"}
        for path, method, route in self.routes:
            with self.subTest(path=path, method=method):
                self.assertTrue(route["description"])
                for status in ("4XX", "422"):
                    content = route["responses"][status]["content"]["application/json"]["schema"]
                    self.assertEqual(content, problem)

    def test_everything_lies_below_one_version(self) -> None:
        self.assertEqual([path for path, _, _ in self.routes if not path.startswith("/api/v1/")], [])

    def test_inputs_refuse_unknown_fields(self) -> None:
        """Every object that any body is made of, however deep."""
        schemas = self.document["components"]["schemas"]
        sent = set()
        to_read = [route["requestBody"] for _, _, route in self.routes if "requestBody" in route]
        while to_read:
            for name in re.findall(r"#/components/schemas/(\w+)", json.dumps(to_read.pop())):
                if name not in sent:
                    sent.add(name)
                    to_read.append(schemas[name])
        self.assertLessEqual({"Changes", "Weigh", "Withdraw", "MoveRow", "TakeRow", "Vessel", "RowPin"}, sent)
        for name in sorted(sent):
            if schemas[name].get("type") == "object":
                with self.subTest(schema=name):
                    self.assertIs(schemas[name].get("additionalProperties"), False)


class Unreadable(ApiCase):
    """Bodies that no form of ours sends."""

    def test_each_gets_a_sentence_and_no_trace(self) -> None:
        bodies = ["", "{", "[]", "null", '"text"', '{"name": []}', '{"name": null}', '{"name": "x", "targets": {}}']
        for body in bodies:
            with self.subTest(body=body):
                answer = self.client.post("/api/v1/clients", content=body, headers={"content-type": "application/json"})
                self.assertEqual(answer.status_code, 422, answer.text)
                problem = answer.json()
                self.assertEqual(problem["type"], "invalid")
                self.assertTrue(all(fault["message"].endswith(".") for fault in problem["errors"]), problem)
                self.assertNotIn("Traceback", answer.text)

    def test_numbers_that_are_none(self) -> None:
        for number in ("NaN", "Infinity", "-Infinity", "1e999"):
            body = '{"name": "x", "targets": [{"slot": "lunch", "protein_g": ' + number + "}]}"
            with self.subTest(number=number):
                answer = self.client.post("/api/v1/clients", content=body, headers={"content-type": "application/json"})
                self.assertEqual(answer.status_code, 422, answer.text)
                (fault,) = answer.json()["errors"]
                self.assertEqual(fault["pointer"], "/targets/0/protein_g")

    def test_ids_that_are_none(self) -> None:
        for path in ("/clients/x", "/recipes/12", "/foods/%20", "/batches/--/plan"):
            with self.subTest(path=path):
                self.assertEqual(self.client.get(f"/api/v1{path}").status_code, 422)

    def test_queries_out_of_range(self) -> None:
        for query in ({"limit": 0}, {"limit": 100_000}, {"offset": -1}, {"limit": "all"}, {"text": "x" * 500}):
            with self.subTest(query=query):
                self.assertEqual(self.client.get("/api/v1/foods", params=query).status_code, 422)

    def test_an_unknown_kind_of_change(self) -> None:
        plan = self.plan()
        problem = self.change(plan, {"kind": "abolish"}, status=422)
        self.assertEqual(problem["type"], "invalid")
        self.assertEqual(self.get(f"/batches/{plan['batch']['id']}/plan"), plan)

    def test_text_is_kept_as_text(self) -> None:
        """Markup and quotes are stored and given back; nothing of them is run or changed."""
        name = "<script>alert('x')</script> \"; DROP TABLE client; --"
        made = self.send("POST", "/clients", {"name": name}, status=201)
        self.assertEqual(self.get(f"/clients/{made['id']}")["name"], name)
        self.assertEqual([hit["title"] for hit in self.get("/search", text="<script>")], [name])


class Shortfall(ApiCase):
    """A pan that came out lighter than the containers need."""

    def setUp(self) -> None:
        super().setUp()
        self.before = self.plan()
        chicken = self.before["components"][0]
        self.weight = round(chicken["cooked_g"] * 0.8)
        change = {
            "kind": "weigh",
            "component_id": chicken["id"],
            "vessels": [{"gross_g": self.weight, "vessel_g": 0}],
        }
        self.after = self.change(self.before, change, confirmed=True)["plan"]

    def test_containers_take_no_more_than_there_is(self) -> None:
        taken = sum(row["cells"][0]["grams"] * row["count"] for row in self.after["rows"])
        self.assertLessEqual(taken, self.weight)
        self.assertGreaterEqual(self.after["components"][0]["spare_g"], 0)

    def test_the_macros_of_the_pan_stay_and_its_100_g_are_richer(self) -> None:
        before, after = self.before["components"][0], self.after["components"][0]
        for macro in ("protein_g", "fat_g"):
            whole = before["per_100g"][macro] * before["cooked_g"]
            # Raw amounts become whole grams when the pan is weighed: half a gram of 150.
            self.assertAlmostEqual(after["per_100g"][macro] * self.weight / whole, 1, delta=0.004)

    def test_a_pin_beyond_the_pan_is_told_with_the_mend(self) -> None:
        row = self.after["rows"][0]
        pin = {"kind": "pin", "row_id": row["id"], "component_id": row["cells"][0]["component_id"], "grams": 900}
        plan = self.change(self.after, pin)["plan"]
        short = next(one for one in plan["to_settle"] if one["component_id"] == row["cells"][0]["component_id"])
        self.assertRegex(short["title"], r"Chicken: [\d,]+ g short")
        self.assertIn("free or lower a pin", short["detail"])


class AtLeast(ApiCase):
    def test_what_a_source_does_not_state_is_carried_to_the_container(self) -> None:
        """A food without sugars makes its component and every container with it "at least" in sugars."""
        found = self.get("/foods", limit=1000)["foods"]
        unstated = next(
            food for food in found if food["per_100g"]["at_least"] == ["sugars_g"] and food["per_100g"]["protein_g"] > 5
        )
        lines = [{"food_id": unstated["id"], "purchased_g": 500}, {"food_id": food_id("olive-oil"), "purchased_g": 20}]
        recipe = {"name": "x", "components": [{"name": "Only", "method": "none", "lines": lines}]}
        made = self.send("POST", "/recipes", recipe, status=201)
        self.assertEqual(made["components"][0]["figures"]["per_100g"]["at_least"], ["sugars_g"])
        client = self.send("POST", "/clients", {"name": "x", "targets": [{"slot": "lunch", "kcal": 300}]}, status=201)
        eaters = [{"target_id": client["targets"][0]["id"], "count": 1}]
        body = {"name": "x", "cook_on": "2026-11-29", "dishes": [{"recipe_id": made["id"], "eaters": eaters}]}
        plan = self.send("POST", "/batches", body, status=201)
        self.assertEqual(plan["rows"][0]["amounts"]["at_least"], ["sugars_g"])
        self.assertFalse(plan["rows"][0]["gauges"][0]["at_least"])


class SearchText(unittest.TestCase):
    def test_accents_and_capitals_fall_away(self) -> None:
        self.assertEqual(plain("Crème FRAÎCHE"), "creme fraiche")
        self.assertEqual(plain("Jalapeño"), "jalapeno")
