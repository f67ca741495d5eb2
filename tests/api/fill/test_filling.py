"""Filling through the API: what is in, what still goes in, what two tablets note, and what is refused."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

from tests.api.case import ApiCase
from tests.kitchens import planned
from yantai.store import tables


class FillCase(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.batch_id = str(planned(self.who).batch.id)
        self.parts = {one["name"]: one["id"] for one in self.batch_plan()["components"]}

    def batch_plan(self) -> dict[str, Any]:
        return dict(self.get(f"/batches/{self.batch_id}/plan"))

    def weigh(self, **cooked_g: float) -> None:
        for name, grams in cooked_g.items():
            vessels = [{"gross_g": grams + 800, "vessel_g": 800}]
            weighing = {"kind": "weigh", "component_id": self.parts[name], "vessels": vessels, "removed_g": 0}
            self.change(self.batch_plan(), {**weighing, "corrects": False}, confirmed=True)

    def filling(self) -> dict[str, Any]:
        return dict(self.get(f"/batches/{self.batch_id}/filling"))

    def container(self, client: str = "Ada Vance", slot: str = "lunch", number: int = 1) -> dict[str, Any]:
        return next(
            one
            for one in self.filling()["containers"]
            if (one["client"], one["slot"], one["number"]) == (client, slot, number)
        )

    def part(self, container: dict[str, Any], name: str) -> dict[str, Any]:
        return next(dict(one) for one in container["parts"] if one["name"] == name)

    def pot(self, name: str) -> dict[str, Any]:
        return next(dict(one) for one in self.filling()["pots"] if one["name"] == name)

    def note(self, event: str = "filled", status: int = 204, **more: Any) -> str:
        key = more.pop("id", str(uuid.uuid4()))
        answer = self.send(
            "POST", f"/batches/{self.batch_id}/filling/facts", {"id": key, "event": event, **more}, status=status
        )
        self.answer = answer
        return str(key)

    def put(self, container: dict[str, Any], name: str, grams: float | None = None, **more: Any) -> str:
        part = self.part(container, name)
        return self.note(
            **{
                "row_id": container["row_id"],
                "container": container["number"],
                "component_id": part["component_id"],
                "grams": part["grams"] if grams is None else grams,
                "after": None if part["filled"] is None else part["filled"]["fact_id"],
                "way": "tare after each",
                **more,
            }
        )


class Filling(FillCase):
    def test_before_anything_is_filled_it_is_the_plan(self) -> None:
        rows = {row["id"]: row for row in self.batch_plan()["rows"]}
        found = self.filling()
        self.assertEqual(len(found["containers"]), 12)
        for one in found["containers"]:
            planned_g = {cell["component_id"]: cell["grams"] for cell in rows[one["row_id"]]["cells"]}
            for part in one["parts"]:
                self.assertEqual(part["grams"], planned_g[part["component_id"]])
            self.assertFalse(one["is_closed"])
        # Who must not have milk comes first, and gets no sauce to fill.
        self.assertEqual([one["client"] for one in found["containers"]][:5], ["Milo Brandt"] * 4 + ["Ada Vance"])
        first = found["containers"][0]
        self.assertEqual((first["is_first"], first["kept_out"]), (True, ["no Sauce"]))
        self.assertNotIn("Sauce", [part["name"] for part in first["parts"]])

    def test_what_is_in_is_a_fact_and_the_rest_makes_it_good(self) -> None:
        self.weigh(Chicken=1650)
        before = self.container()
        chicken = self.part(before, "Chicken")
        self.put(before, "Chicken", chicken["grams"] + 12)
        after = self.container()
        self.assertEqual(self.part(after, "Chicken")["filled"]["grams"], chicken["grams"] + 12)
        self.assertNotEqual(self.part(after, "Bulgur")["grams"], self.part(before, "Bulgur")["grams"])
        self.assertEqual(after["missed"], [])
        # Nobody else's moves while the pots have enough.
        self.assertEqual(self.container(number=2)["parts"], self.container(number=3)["parts"])
        self.assertEqual(self.part(self.container(number=2), "Bulgur")["grams"], self.part(before, "Bulgur")["grams"])

    def test_a_container_is_closed_when_all_its_parts_are_in_or_left_out(self) -> None:
        for name in ("Chicken", "Bulgur"):
            self.put(self.container(), name)
        self.assertFalse(self.container()["is_closed"])
        self.put(self.container(), "Sauce", 0, event="left out", text="no more of it")
        closed = self.container()
        self.assertTrue(closed["is_closed"])
        self.assertTrue(self.part(closed, "Sauce")["filled"]["is_left_out"])

    def test_the_pot_is_told_what_is_left(self) -> None:
        self.weigh(Chicken=1650)
        self.put(self.container(), "Chicken", 150)
        self.assertEqual(self.pot("Chicken")["left_g"], 1500)
        self.note("pot weighed", component_id=self.parts["Chicken"], grams=1450)
        found = self.pot("Chicken")
        self.assertEqual((found["left_g"], found["weighed_again_g"], found["off_g"]), (1450, 1450, -50))
        self.note("rest", component_id=self.parts["Chicken"], grams=100, fate="freezer")
        self.assertEqual(self.pot("Chicken")["left_g"], 1350)
        self.assertEqual([rest["fate"] for rest in self.pot("Chicken")["rests"]], ["freezer"])

    def test_a_pot_that_lacks_is_shared_by_those_to_come(self) -> None:
        needed = self.pot("Chicken")["needed_g"]
        self.weigh(Chicken=round(needed))
        self.put(self.container(), "Chicken", self.part(self.container(), "Chicken")["grams"] + 60)
        pot = self.pot("Chicken")
        self.assertGreater(pot["short_g"], 30)
        self.assertLessEqual(pot["needed_g"], pot["left_g"])
        others = [self.part(self.container(number=n), "Chicken") for n in (2, 3, 4, 5)]
        self.assertTrue(all(0 < one["planned_g"] - one["grams"] < 20 for one in others), others)

    def test_two_tablets_that_note_the_same_container_count_once(self) -> None:
        empty = self.container()
        self.put(empty, "Chicken", 140, device="bench")
        self.put(empty, "Chicken", 142, device="window")
        part = self.part(self.container(), "Chicken")
        self.assertEqual((part["filled"]["grams"], [one["grams"] for one in part["others"]]), (142, [140]))
        self.put(self.container(), "Chicken", 140, event="decided")
        part = self.part(self.container(), "Chicken")
        self.assertEqual((part["filled"]["grams"], part["others"]), (140, []))

    def test_the_same_again_is_noted_once_and_something_else_is_refused(self) -> None:
        key = self.put(self.container(), "Chicken", 140)
        same = self.part(self.container(), "Chicken")
        again = {"row_id": self.container()["row_id"], "container": 1, "component_id": same["component_id"]}
        self.note(id=key, **again, grams=140, way="tare after each")
        self.assertEqual(self.part(self.container(), "Chicken")["filled"]["fact_id"], key)
        self.note(id=key, **again, grams=150, status=422)
        self.assert_fault(self.answer, "/id", "Something else was noted")

    def test_taken_back(self) -> None:
        key = self.put(self.container(), "Chicken", 140)
        back = self.note("taken back", of=key)
        self.assertIsNone(self.part(self.container(), "Chicken")["filled"])
        self.note("taken back", of=back)
        self.assertEqual(self.part(self.container(), "Chicken")["filled"]["grams"], 140)

    def test_by_eye_is_unsure_and_says_so_in_the_figures(self) -> None:
        self.put(self.container(), "Chicken", 140, way="by eye")
        found = self.container()
        self.assertEqual(self.part(found, "Chicken")["filled"]["unsure_g"], 21)
        low, high = (found["so_far"]["ranges"]["protein_g"][side] for side in ("low", "high"))
        self.assertAlmostEqual((high - low) / (high + low), 0.15, delta=0.005)

    def test_too_much_says_what_to_do_and_trying_it_notes_nothing(self) -> None:
        empty = self.container()
        part = self.part(empty, "Chicken")
        asked = {"row_id": empty["row_id"], "container": 1, "component_id": part["component_id"], "grams": 280}
        tried = self.get(f"/batches/{self.batch_id}/filling/tried", **asked)
        self.assertIn("protein", " ".join(tried["missed"]))
        self.assertRegex(tried["mends"][0]["words"], r"Take out \d+ g Chicken")
        self.assertGreater(tried["others_open"], 3)
        self.assertEqual(self.container(), empty)
        self.put(empty, "Chicken", 280)
        self.assertEqual(self.container()["missed"], tried["missed"])

    def test_evened_out_over_the_clients_others(self) -> None:
        one = self.container()
        for name, more in (("Chicken", 20.0), ("Bulgur", 0.0), ("Sauce", 0.0)):
            self.put(one, name, self.part(one, name)["grams"] + more)
        self.note("evened out", row_id=one["row_id"], container=1)
        others = [self.container(number=n) for n in (2, 3, 4, 5)]
        self.assertTrue(all(other["is_evened"] for other in others))
        self.assertFalse(self.container("Milo Brandt")["is_evened"])
        aim = next(gauge for gauge in one["gauges"] if gauge["nutrient"] == "protein_g")
        less = [aim["target"] - other["amounts"]["protein_g"] for other in others]
        self.assertTrue(all(0.5 < grams < aim["tolerance"] for grams in less), less)

    def test_what_the_plan_no_longer_has_is_told(self) -> None:
        self.put(self.container(number=5), "Chicken", 140)
        row = self.container(number=5)["row_id"]
        self.change(self.batch_plan(), {"kind": "containers", "row_id": row, "count": 4, "capacity_ml": 900})
        (stray,) = self.filling()["strays"]
        self.assertEqual(stray["grams"], 140)
        self.assertRegex(stray["words"], r"140 g Chicken, noted by .+ for Ada Vance, lunch, 5")

    def test_what_does_not_say_enough_is_refused_at_its_field(self) -> None:
        one = self.container()
        place = {"row_id": one["row_id"], "container": 1}
        for sent, pointer, words in (
            ({"event": "filled", "component_id": self.parts["Chicken"]}, "/row_id", "which container"),
            ({"event": "filled", **place}, "/component_id", "which component"),
            ({"event": "rest", "component_id": self.parts["Chicken"], "grams": 5}, "/fate", "became of it"),
            ({"event": "scoop weighed", "component_id": self.parts["Chicken"]}, "/grams", "one scoop"),
            ({"event": "taken back"}, "/of", "taken back"),
            ({"event": "taken back", "of": str(uuid.uuid4())}, "/of", "nothing of the kind"),
            (
                {"event": "corrected", **place, "component_id": self.parts["Chicken"], "grams": 5},
                "/text",
                "why it is corrected",
            ),
            (
                {"event": "filled", **place, "component_id": self.parts["Chicken"], "grams": 6000},
                "/grams",
                "unit of the scale",
            ),
            (
                {"event": "filled", "row_id": str(uuid.uuid4()), "container": 1, "component_id": self.parts["Chicken"]},
                "/row_id",
                "nothing of the kind",
            ),
            (
                {"event": "pot weighed", **place, "component_id": self.parts["Chicken"], "grams": 5},
                "/row_id",
                "about a pot",
            ),
        ):
            with self.subTest(sent=sent):
                self.note(status=422, **sent)
                self.assert_fault(self.answer, pointer, words)
        self.assertEqual(self.filling()["facts"], 0)

    def test_another_kitchen_sees_and_notes_nothing(self) -> None:
        other = self.other_kitchen()
        path = f"/api/v1/batches/{self.batch_id}/filling"
        self.assertEqual(other.get(path).status_code, 404)
        sent = {"id": str(uuid.uuid4()), "event": "pot weighed", "component_id": self.parts["Chicken"], "grams": 1}
        self.assertEqual(other.post(f"{path}/facts", json=sent).status_code, 404)

    def test_a_packed_batch_keeps_its_figures_whatever_becomes_of_its_foods(self) -> None:
        needed = {one["name"]: one["cooked_g"] for one in self.batch_plan()["components"]}
        self.weigh(**needed)
        self.put(self.container(), "Chicken", 140)
        self.change(self.batch_plan(), {"kind": "packed", "packed": True}, confirmed=True)
        before = self.filling()
        self.assertTrue(before["is_packed"])
        self.send("PUT", "/settings", {**self.settings(), "energy_rule": "eu"})
        self.assertEqual(self.filling(), before)

    def settings(self) -> dict[str, Any]:
        kept = self.get("/settings")
        return {name: value for name, value in kept.items() if name not in ("workspace", "free_kinds")}

    def test_the_minute_of_a_tablet_whose_clock_is_wrong(self) -> None:
        key = self.put(
            self.container(),
            "Chicken",
            140,
            happened_at="2020-01-01T10:00:00Z",
            sent_at="2020-01-01T10:03:00Z",
        )
        filled = self.part(self.container(), "Chicken")["filled"]
        self.assertEqual(filled["fact_id"], key)
        with self.app.state.database.reading(self.who.workspace_id) as session:
            row = session.get(tables.FillFact, uuid.UUID(key))
            assert row is not None
            self.assertEqual(row.made_at - row.happened_at, timedelta(minutes=3))


class Away(FillCase):
    def test_forty_fills_of_a_tablet_that_was_away_while_the_plan_moved(self) -> None:
        """A row lost half of its containers, all have new targets: nothing is lost or counted twice."""
        rows = self.batch_plan()["rows"]
        milo = next(row for row in rows if row["client"] == "Milo Brandt")
        same = {name: milo[name] for name in ("capacity_ml", "capacity_g", "plate_g", "rank", "helping")}
        self.change(self.batch_plan(), {"kind": "containers", "row_id": milo["id"], **same, "count": 10})
        before, version = self.filling(), self.batch_plan()["batch"]["version"]
        told = [
            {
                "id": str(uuid.uuid4()), "event": "filled", "row_id": box["row_id"], "container": box["number"],
                "component_id": part["component_id"], "grams": part["grams"] + at % 7, "way": "tare after each",
                "version": version, "happened_at": f"2026-11-24T08:{at:02}:00Z", "sent_at": "2026-11-24T09:00:00Z",
            }
            for at, (box, part) in enumerate(
                [(box, part) for box in before["containers"] for part in box["parts"]][:40]
            )
        ]  # fmt: skip
        self.assertEqual(len(told), 40)
        self.change(self.batch_plan(), {"kind": "containers", "row_id": milo["id"], **same, "count": 5})
        for row in self.batch_plan()["rows"]:
            self.change(
                self.batch_plan(),
                {"kind": "target", "row_id": row["id"], "protein_g": 38, "carbohydrate_g": 50, "fat_g": 15},
            )
        for fact in [*told, *told[:7]]:
            self.send("POST", f"/batches/{self.batch_id}/filling/facts", fact, status=204)
        after = self.filling()
        held = {
            (box["row_id"], box["number"], part["component_id"]): part["filled"]["grams"]
            for box in after["containers"]
            for part in box["parts"]
            if part["filled"] is not None
        }
        gone = {stray["fact_id"]: stray["grams"] for stray in after["strays"]}
        for fact in told:
            key = fact["row_id"], fact["container"], fact["component_id"]
            self.assertEqual(held.pop(key, None) or gone.pop(fact["id"], None), fact["grams"], key)
        self.assertEqual((held, gone), ({}, {}))
        self.assertGreater(len(after["strays"]), 5)


class Log(FillCase):
    def log(self) -> list[dict[str, Any]]:
        return list(self.get(f"/batches/{self.batch_id}/filling/log"))

    def test_it_says_what_was_noted_and_what_still_counts(self) -> None:
        first = self.put(self.container(), "Chicken", 140, asked_g=130, device="bench")
        self.put(self.container(), "Chicken", 150)
        own = self.put(self.container(), "Bulgur", 200, way="by eye")
        other = self.note(row_id=self.container()["row_id"], container=1, component_id=self.parts["Bulgur"], grams=190)
        gone = self.put(self.container(number=2), "Chicken", 120)
        self.note("taken back", of=gone)
        self.note("rest", component_id=self.parts["Sauce"], grams=30, fate="freezer")
        log = {entry["id"]: entry for entry in self.log()}
        self.assertEqual(len(log), 7)
        self.assertEqual(log[first]["state"], "replaced")
        self.assertEqual((log[first]["asked_g"], log[first]["device"]), (130, "bench"))
        self.assertEqual(log[first]["place"], "Chicken, Ada Vance, lunch, 1")
        self.assertEqual(log[own]["what"], "filled, 200 g, give or take 30 g, by eye")
        self.assertEqual({log[own]["state"], log[other]["state"]}, {"", "beside another note"})
        self.assertEqual(log[gone]["state"], "taken back")
        newest = self.log()[0]
        self.assertEqual((newest["place"], newest["what"]), ("Sauce", "rest, 30 g, freezer"))
        self.assertEqual(self.log()[1]["what"], "taken back, Chicken, Ada Vance, lunch, 2, filled")


class Closing(FillCase):
    def fill_all(self) -> str:
        """Everything as it is asked for; the id of the last fact."""
        last = ""
        while True:
            to_come = [
                (one, part) for one in self.filling()["containers"] for part in one["parts"] if part["filled"] is None
            ]
            if not to_come:
                return last
            for one, part in to_come:
                asked = {"asked_g": part["grams"], "took_s": 12}
                last = self.put(one, part["name"], part["grams"] + (3 if part["name"] == "Sauce" else 0), **asked)

    def test_the_last_container_packs_the_batch_and_a_correction_comes_after_it(self) -> None:
        self.weigh(**{one["name"]: one["cooked_g"] for one in self.batch_plan()["components"]})
        self.assertIsNone(self.batch_plan()["batch"]["packed_at"])
        last = self.fill_all()
        self.assertIsNotNone(self.batch_plan()["batch"]["packed_at"])
        self.assertTrue(all(one["is_closed"] for one in self.filling()["containers"]))
        # What is corrected afterwards is a new fact with its reason; what was noted stays in the log.
        self.put(self.container(), "Chicken", 120, event="corrected", text="a spoonful fell off")
        self.assertEqual(self.part(self.container(), "Chicken")["filled"]["text"], "a spoonful fell off")
        # Opened again it stays open until another container is closed.
        self.change(self.batch_plan(), {"kind": "packed", "packed": False})
        self.put(self.container(), "Chicken", 121, event="corrected", text="and another")
        self.assertIsNone(self.batch_plan()["batch"]["packed_at"])
        self.note("taken back", of=last)
        self.fill_all()
        self.assertIsNotNone(self.batch_plan()["batch"]["packed_at"])

    def test_what_nobody_weighed_is_not_packed(self) -> None:
        self.fill_all()
        self.assertIsNone(self.batch_plan()["batch"]["packed_at"])

    def test_how_near_by_client_part_and_person(self) -> None:
        self.put(self.container(), "Chicken", 134, asked_g=130, took_s=10)
        self.put(self.container(number=2), "Chicken", 124, asked_g=130, took_s=20)
        self.put(self.container(number=2), "Bulgur", 200, asked_g=200, took_s=30, way="by eye")
        self.put(self.container(), "Sauce", 0, event="left out", text="none left")
        found = self.get(f"/batches/{self.batch_id}/filling/differences")
        parts = {one["name"]: one for one in found["parts"]}
        self.assertEqual(parts["Chicken"]["fills"], 2)
        self.assertEqual((parts["Chicken"]["mean_off_g"], parts["Chicken"]["most_off_g"]), (5, -6))
        self.assertEqual((parts["Chicken"]["took_s"], parts["Bulgur"]["estimated"]), (15, 1))
        self.assertEqual([(one["name"], one["fills"]) for one in found["clients"]], [("Ada Vance", 3)])
        self.assertEqual([(one["name"], one["fills"]) for one in found["people"]], [("Test Coach", 3)])
        self.assertEqual(found["left_out"], ["Sauce, Ada Vance, 1: none left"])
