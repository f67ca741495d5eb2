"""A helper's tablet that may cook, weigh and fill: all of that under its own name, and nothing of the plan."""

from __future__ import annotations

import re
import uuid
from typing import Any

from fastapi.testclient import TestClient

from tests.api.accounts.test_pairing import COOKING, Pairing
from tests.api.case import API, food_id
from tests.api.cook.test_live import LiveCase
from tests.api.fill.test_filling import FillCase
from tests.kitchens import eaters

HEALTH = "kidney stone 4711"


class Tablet(Pairing):
    """A kitchen that a helper's tablet is paired to."""

    coach: TestClient

    def take_tablet(self) -> None:
        """All that is asked from here on is asked by the tablet."""
        self.coach, self.client = self.client, self.phone(self.code("Ravi", ["cook"]))

    def as_coach(self, method: str, path: str, body: Any = None) -> Any:
        answer = self.coach.request(method, f"{API}{path}", json=body)
        self.assertLess(answer.status_code, 300, answer.text)
        return answer.json() if answer.content else None


class AtTheScale(FillCase, Tablet):
    def setUp(self) -> None:
        super().setUp()
        self.take_tablet()

    def refused(self, *changes: dict[str, Any]) -> str:
        return str(self.change(self.batch_plan(), *changes, status=403)["detail"])

    def test_a_pot_is_weighed_under_the_helpers_name(self) -> None:
        self.weigh(Chicken=1650)
        chicken = next(one for one in self.batch_plan()["components"] if one["name"] == "Chicken")
        self.assertEqual((chicken["weighing"]["cooked_g"], chicken["weighing"]["weighed_by"]), (1650, "Ravi"))

    def test_what_is_added_at_the_stove_is_told_of_the_helper(self) -> None:
        oil = {"kind": "add-line", "component_id": self.parts["Chicken"], "food_id": food_id("olive-oil")}
        self.change(self.batch_plan(), {**oil, "purchased_g": 12})
        lines = next(one for one in self.batch_plan()["components"] if one["name"] == "Chicken")["lines"]
        self.assertEqual([one["added_by"] for one in lines if one["added_at"]], ["Ravi"])

    def test_the_plan_is_the_coachs(self) -> None:
        row = self.batch_plan()["rows"][0]
        pin = {"kind": "pin", "row_id": row["id"], "component_id": self.parts["Chicken"], "grams": 90}
        self.assertIn("The plan is the coach’s", self.refused(pin))
        self.assertIn("The plan is the coach’s", self.refused({"kind": "packed", "packed": True}))
        # Nor beside something that is theirs, nor only to see what it would do.
        weight = {
            "kind": "weigh", "component_id": self.parts["Chicken"], "vessels": [{"gross_g": 1650, "vessel_g": 0}]
        }  # fmt: skip
        self.refused(weight, pin)
        body = {"version": self.batch_plan()["batch"]["version"], "changes": [pin], "confirmed": False}
        self.send("POST", f"/batches/{self.batch_id}/preview", body, status=403)
        self.assertEqual(self.batch_plan()["rows"][0], row)

    def test_their_own_weight_is_taken_back_and_nothing_of_the_coachs(self) -> None:
        plan = self.batch_plan()
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": self.parts["Chicken"], "grams": 90}
        body = {
            "version": plan["batch"]["version"], "changes": [pin], "confirmed": False, "command_id": str(uuid.uuid4())
        }  # fmt: skip
        step = self.as_coach("POST", f"/batches/{self.batch_id}/changes", body)["steps"]["undo"]["id"]
        take_back = f"/batches/{self.batch_id}/taken-back"
        self.send("POST", take_back, {"of": step, "command_id": str(uuid.uuid4())}, status=403)
        self.weigh(Bulgur=1700)
        vessels = [{"gross_g": 2450, "vessel_g": 800}]
        weighing = {"kind": "weigh", "component_id": self.parts["Chicken"], "vessels": vessels}
        own = self.change(self.batch_plan(), weighing, confirmed=True)["steps"]["undo"]
        self.assertEqual((own["own"], own["by"]), (True, "Ravi"))
        after = self.send("POST", take_back, {"of": own["id"], "command_id": str(uuid.uuid4())})
        self.assertIsNone(next(one for one in after["plan"]["components"] if one["name"] == "Chicken")["weighing"])
        # What the coach did before is not told: it may have been a target.
        told = [step["words"] for step in after["steps"].values()]
        self.assertEqual(
            told, [["Bulgur: weighed 1,700 g: 2,500 g less 800 g"], ["Chicken: weighed 1,650 g: 2,450 g less 800 g"]]
        )

    def test_the_last_container_packs_the_batch_whoever_fills_it(self) -> None:
        self.weigh(**{one["name"]: one["cooked_g"] for one in self.batch_plan()["components"]})
        for box in self.filling()["containers"]:
            for part in box["parts"]:
                now = next(
                    one
                    for one in self.filling()["containers"]
                    if (one["row_id"], one["number"]) == (box["row_id"], box["number"])
                )
                self.put(now, part["name"])
        self.assertIsNotNone(self.batch_plan()["batch"]["packed_at"])
        filled = self.container()["parts"][0]["filled"]
        self.assertEqual(filled["made_by"], "Ravi")

    def test_no_word_of_a_clients_health_or_of_earlier_targets_gets_there(self) -> None:
        """Each thing that the tablet may read, searched for what stands in the client's record."""
        eater = self.as_coach("GET", "/clients")[0]
        record = {**eaters()[0].model_dump(mode="json"), "note": HEALTH, "version": eater["version"]}
        self.as_coach("PUT", f"/clients/{eater['id']}", record)
        self.assertIn(HEALTH, self.coach.get(f"{API}/clients/{eater['id']}").text)
        read = 0
        for path, methods in self.app.openapi()["paths"].items():
            if methods.get("get", {}).get("operationId") not in COOKING:
                continue
            address = path.replace("{batch_id}", self.batch_id).replace("{component_id}", self.parts["Chicken"])
            if "{" in address:
                continue
            found = self.client.get(f"{API}{re.sub('^/api/v1', '', address)}")
            read += found.status_code == 200
            self.assertNotIn(HEALTH, found.text, path)
        self.assertGreaterEqual(read, 7)
        for closed in (f"/batches/{self.batch_id}/history", f"/clients/{eater['id']}", "/clients"):
            self.assertEqual(self.client.get(f"{API}{closed}").status_code, 403)


class AtTheStove(LiveCase, Tablet):
    def test_a_cook_day_goes_on_under_the_helpers_name(self) -> None:
        self.take_tablet()
        found = self.begin()
        self.take(next(one for one in found["order"]["prompts"] if one["at_min"] <= self.minute))
        log = self.get(f"/batches/{self.batch_id}/cooking/log")
        self.assertEqual({entry["made_by"] for entry in log["entries"]}, {"Ravi"})
        # The order of work is found anew, and kept, in the helper's transaction.
        self.at(10 * 60)
        self.assertIsNotNone(self.cooking()["order"])
