"""A pot that comes onto the scale in parts: what is on record so far, and what the whole comes to."""

from __future__ import annotations

from typing import Any

from tests.api.case import ApiCase
from tests.kitchens import planned


class InParts(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.batch_id = str(planned(self.who).batch.id)
        self.pot = self.component()["id"]

    def component(self) -> dict[str, Any]:
        return dict(self.get(f"/batches/{self.batch_id}/plan")["components"][0])

    def do(self, kind: str, version: int | None = None, status: int = 200, **more: Any) -> Any:
        plan = self.get(f"/batches/{self.batch_id}/plan")
        if version is not None:
            plan["batch"]["version"] = version
        change = {"kind": kind, "component_id": self.pot, **more}
        return self.change(plan, change, status=status, confirmed=True)

    def part(self, gross: float, vessel: float = 0, **more: Any) -> Any:
        return self.do("weigh-part", vessel={"gross_g": gross, "vessel_g": vessel}, **more)

    def take_back(self, changed: dict[str, Any]) -> Any:
        body = {"of": changed["steps"]["undo"]["id"], "command_id": "6a3f4d58-4b0c-4f2e-9a8e-1d1d4cf2a001"}
        return self.send("POST", f"/batches/{self.batch_id}/taken-back", body)

    def test_the_rest_adds_to_what_was_weighed_before(self) -> None:
        """2,104 - 1,312 = 792 of one tray, then 1,912 - 1,100 = 812 of the other: 1,604 g in all."""
        self.part(2104, 1312)
        found = self.component()
        self.assertIsNone(found["weighing"])
        self.assertEqual(found["weighed_parts"], [{"gross_g": 2104, "vessel_g": 1312}])
        self.assertTrue(found["raw_fixed"])
        self.do("weigh", vessels=[{"gross_g": 1912, "vessel_g": 1100}], with_parts=True)
        found = self.component()
        self.assertEqual((found["cooked_g"], found["weighed_parts"]), (1604, []))
        self.assertEqual([one["gross_g"] for one in found["weighing"]["vessels"]], [2104, 1912])

    def test_two_who_weigh_a_tray_each_are_both_heard(self) -> None:
        """The second did not know of the first: a fact is not refused for that, and takes nothing away."""
        version = self.get(f"/batches/{self.batch_id}/plan")["batch"]["version"]
        self.part(800, version=version)
        self.part(700, version=version)
        self.assertEqual([one["gross_g"] for one in self.component()["weighed_parts"]], [800, 700])

    def test_each_is_taken_back_and_so_is_the_whole(self) -> None:
        self.part(800)
        before = self.component()
        changed = self.do("weigh", vessels=[{"gross_g": 810}], with_parts=True)
        self.assertEqual(changed["plan"]["components"][0]["cooked_g"], 1610)
        self.take_back(changed)
        self.assertEqual(self.component(), before)

    def test_what_is_weighed_whole_leaves_parts_out_where_it_says_so(self) -> None:
        self.part(800)
        self.do("weigh", vessels=[{"gross_g": 1600}])
        self.assertEqual((self.component()["cooked_g"], self.component()["weighed_parts"]), (1600, []))

    def test_a_part_that_arrives_after_the_whole_waits_for_a_decision(self) -> None:
        version = self.get(f"/batches/{self.batch_id}/plan")["batch"]["version"]
        self.do("weigh", vessels=[{"gross_g": 800}])
        self.part(810, version=version)
        found = self.component()
        self.assertEqual((found["cooked_g"], len(found["weighed_parts"])), (800, 1))
        self.do("weigh", vessels=[{"gross_g": 800}], corrects=True, with_parts=True)
        self.assertEqual((self.component()["cooked_g"], self.component()["weighed_parts"]), (1610, []))

    def test_what_stands_on_the_scale_in_part_is_not_changed_under_it(self) -> None:
        self.part(800)
        told = self.do("raw", fixed=False, lines=[], status=422)
        self.assertIn("weigh", str(told).lower())

    def test_an_empty_tray_is_no_part(self) -> None:
        self.assert_fault(self.part(300, 300, status=422), "/changes/0/vessel/vessel_g", "weighs as much as the full")
