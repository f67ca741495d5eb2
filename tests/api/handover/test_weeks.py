"""The weeks of a client: planned, filled and eaten by day, left by part, habits, bounds, boxes and deposits."""

from __future__ import annotations

from typing import Any

from tests.api.case import API
from tests.api.handover.test_my_page import MyCase


class WeeksCase(MyCase):
    def weeks(self, name: str = "Milo Brandt", **query: Any) -> dict[str, Any]:
        return dict(self.get(f"/clients/{self.client_id(name)}/weeks", **query))

    def note_eaten(self, number: int, name: str = "Milo Brandt", status: int = 204, **body: Any) -> Any:
        spot = self.spot(name, "lunch", number)
        path = f"/clients/{self.client_id(name)}/eaten"
        return self.send("POST", path, {**spot, **body}, status=status)

    def parts_of(self, number: int) -> dict[str, dict[str, Any]]:
        one = next(one for one in self.weeks()["containers"] if one["container"] == number)
        return {part["name"]: part for part in one["parts"]}


class Days(WeeksCase):
    def test_what_was_eaten_is_what_was_filled_without_what_was_left(self) -> None:
        self.at("2026-12-01T20:00:00Z")
        found = self.weeks()
        self.assertEqual([day["on"] for day in found["days"]], ["2026-11-30", "2026-12-01"])
        self.assertEqual([(day["told"], day["eaten"]) for day in found["days"]], [("none", None)] * 2)
        self.note_eaten(1, event="eaten")
        parts = self.parts_of(2)
        bulgur = parts["Bulgur"]
        self.note_eaten(2, event="left", left_parts={bulgur["component_id"]: bulgur["grams"] / 2})
        first, second = self.weeks()["days"]
        self.assertEqual(first["eaten"], first["filled"])
        # Half of the bulgur: by 100 g of it as the plan says, worked out here again.
        component = next(one for one in self.batch_plan()["components"] if one["id"] == bulgur["component_id"])
        for key in ("kcal", "protein_g", "carbohydrate_g", "fat_g"):
            gone = component["per_100g"][key] * bulgur["grams"] / 2 / 100
            self.assertAlmostEqual(second["filled"][key] - second["eaten"][key], gone, places=6)
        self.assertEqual(second["told"], "all")
        # He has no day of his own: the target is that of the one lunch.
        target = next(one for one in self.get("/clients") if one["name"] == "Milo Brandt")["targets"][0]
        self.assertEqual(second["target"]["protein_g"], target["protein_g"])

    def test_planned_and_filled_are_told_apart(self) -> None:
        before = self.weeks()["days"][0]
        self.assertEqual(before["planned"], before["filled"])
        bulgur = self.parts_of(1)["Bulgur"]
        self.put(self.container("Milo Brandt", number=1), "Bulgur", bulgur["grams"] - 20)
        after = self.weeks()["days"][0]
        self.assertLess(after["filled"]["carbohydrate_g"], after["planned"]["carbohydrate_g"])

    def test_a_day_half_told_has_no_figure(self) -> None:
        self.at("2026-12-01T20:00:00Z")
        name = "Ada Vance"
        spot = self.spot(name, "lunch", 1)
        self.send("POST", f"/clients/{self.client_id(name)}/eaten", {**spot, "event": "eaten"}, status=204)
        day = next(one for one in self.weeks(name)["days"] if one["containers"] == 2)
        self.assertEqual((day["told"], day["eaten"]), ("some", None))

    def test_what_is_older_is_not_shown(self) -> None:
        self.at("2026-12-08T09:00:00Z")
        self.assertEqual(len(self.weeks(count=1)["days"]), 3)
        self.assertEqual(len(self.weeks(count=6)["days"]), 4)
        self.send("GET", f"/clients/{self.client_id('Milo Brandt')}/weeks", status=422, count=0)


class Left(WeeksCase):
    def test_by_the_client_on_their_page(self) -> None:
        token = self.link()
        one = self.mine(token, 1)
        part = one["weighed"][0]
        spot = {"row_id": one["row_id"], "container": 1}
        self.tell(token, "eaten", {**spot, "event": "left", "left_parts": {part["component_id"]: 30}})
        self.assertEqual(self.mine(token, 1)["left"], "30 g")
        shown = next(one for one in self.weeks()["containers"] if one["container"] == 1)
        self.assertEqual((shown["told"], shown["left"], shown["by_client"]), ("left", "30 g", True))
        self.assertEqual({part["name"]: part["left_g"] for part in shown["parts"]}[part["name"]], 30)

    def test_what_cannot_be_left(self) -> None:
        part = next(iter(self.parts_of(1).values()))
        too_much = {part["component_id"]: part["grams"] + 5}
        self.assert_fault(
            self.note_eaten(1, status=422, event="left", left_parts=too_much), "/left_parts", "than there was"
        )
        other = {str(self.batch_id): 5}
        self.assert_fault(
            self.note_eaten(1, status=422, event="left", left_parts=other), "/left_parts", "not in the container"
        )
        both: dict[str, Any] = {"left_g": 5, "left_parts": {part["component_id"]: 5}}
        self.assert_fault(self.note_eaten(1, status=422, event="left", **both), "/left_share", "Say how much")
        self.note_eaten(1, status=404, event="eaten", row_id=str(self.batch_id))

    def test_of_another_client_there_is_nothing(self) -> None:
        spot = self.spot("Ada Vance", "lunch", 1)
        path = f"/clients/{self.client_id('Milo Brandt')}/eaten"
        self.send("POST", path, {**spot, "event": "eaten"}, status=404)
        other = self.other_kitchen().get(f"{API}/clients/{self.client_id('Milo Brandt')}/weeks")
        self.assertEqual(other.status_code, 404)

    def test_a_habit_becomes_a_bound_of_the_client(self) -> None:
        self.at("2026-12-03T20:00:00Z")
        for number in (1, 2, 3, 4):
            bulgur = self.parts_of(number)["Bulgur"]
            self.note_eaten(number, event="left", left_parts={bulgur["component_id"]: bulgur["grams"] * 0.6})
        (habit,) = self.weeks()["habits"]
        self.assertEqual((habit["words"], habit["bound_g"]), ("leaves the bulgur in 4 of 4 boxes", None))
        self.assertLessEqual(habit["maximum_g"], bulgur["grams"] * 0.4)
        self.assertGreater(habit["maximum_g"], bulgur["grams"] * 0.4 - 5)
        client = self.get(f"/clients/{self.client_id('Milo Brandt')}")
        path = f"/clients/{client['id']}/bounds"
        bound = {"word": habit["word"], "maximum_g": habit["maximum_g"]}
        changed = self.send("PUT", path, {"bounds": [bound], "version": client["version"]})
        self.assertEqual((changed["bounds"], changed["version"]), ([bound], client["version"] + 1))
        self.send("PUT", path, {"bounds": [], "version": client["version"]}, status=409)
        self.assertEqual(self.weeks()["habits"][0]["bound_g"], habit["maximum_g"])
        # The next plan keeps to it, and says by what; nobody else's changes.
        rows = {row["client"]: row for row in self.batch_plan()["rows"] if row["slot"] == "lunch"}
        place = next(n for n, one in enumerate(self.batch_plan()["components"]) if one["name"] == "Bulgur")
        self.assertLessEqual(rows["Milo Brandt"]["cells"][place]["grams"], habit["maximum_g"])
        self.assertGreater(rows["Ada Vance"]["cells"][place]["grams"], habit["maximum_g"])


class Boxes(WeeksCase):
    def test_what_they_have_and_left_a_deposit_for(self) -> None:
        self.assertEqual((self.weeks()["boxes"], self.weeks()["deposit"]), ([], ""))
        kind = {"name": "glass box", "ml": 900, "owned": 10, "deposit": 2.5}
        made = self.send("POST", "/containers", kind, status=201)
        self.assertEqual(made["deposit"], 2.5)
        moved = {"kind_id": made["id"], "client_id": self.client_id("Milo Brandt")}
        self.send("POST", "/containers/moves", {**moved, "move": "went out", "count": 4})
        self.send("POST", "/containers/moves", {**moved, "move": "came back", "count": 1})
        found = self.weeks()
        self.assertEqual([(one["name"], one["count"]) for one in found["boxes"]], [("glass box", 3)])
        self.assertRegex(found["deposit"], r"^7\.50")
        self.assert_fault(
            self.send("POST", "/containers", {**kind, "name": "x", "deposit": -1}, status=422), "/deposit", "0.01"
        )
