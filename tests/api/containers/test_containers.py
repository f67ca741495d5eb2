"""Containers of the house through the API: what there is, where it is, and whether it suffices for a batch."""

from __future__ import annotations

from typing import Any

from tests.api.fill.test_filling import FillCase


class ContainerCase(FillCase):
    """The batch has twelve containers of 900 ml: three of Ada's at dinner, five at lunch, four of Milo's."""

    def setUp(self) -> None:
        super().setUp()
        for row in self.batch_plan()["rows"]:
            self.resize(row, 900)

    def resize(self, row: dict[str, Any], ml: float | None) -> None:
        same = {name: row[name] for name in ("capacity_g", "plate_g", "rank", "helping", "count")}
        change = {"kind": "containers", "row_id": row["id"], **same, "capacity_ml": ml}
        self.change(self.batch_plan(), change)

    def kind(self, name: str = "Box", **more: Any) -> dict[str, Any]:
        body = {"name": name, "ml": 900, "owned": 20, "empty_g": 60, "freezer": True, **more}
        return dict(self.send("POST", "/containers", body, status=201))

    def change_kind(self, kind: dict[str, Any], status: int = 200, **more: Any) -> Any:
        keep = {name: value for name, value in kind.items() if name not in ("id", "out", "full", "there")}
        return self.send("PUT", f"/containers/{kind['id']}", {**keep, **more}, status=status)

    def move(self, kind: dict[str, Any], move: str, count: int, client: str = "Ada Vance", status: int = 200) -> Any:
        client_id = next(one["id"] for one in self.get("/clients") if one["name"] == client)
        body = {"kind_id": kind["id"], "client_id": client_id, "move": move, "count": count}
        return self.send("POST", "/containers/moves", body, status=status)

    def needs(self) -> dict[str, Any]:
        return dict(self.get(f"/batches/{self.batch_id}/containers"))

    def pack(self) -> None:
        self.weigh(**{one["name"]: one["cooked_g"] for one in self.batch_plan()["components"]})
        self.change(self.batch_plan(), {"kind": "packed", "packed": True}, confirmed=True)


class Kinds(ContainerCase):
    def test_what_goes_out_is_not_there_until_it_comes_back(self) -> None:
        box = self.kind()
        self.assertEqual((box["there"], box["out"]), (20, []))
        gone = self.move(box, "went out", 7)
        self.assertEqual(
            (gone["there"], [(one["client"], one["count"]) for one in gone["out"]]), (13, [("Ada Vance", 7)])
        )
        back = self.move(box, "came back", 5)
        self.assertEqual((back["there"], back["out"][0]["count"]), (18, 2))
        # What is lost with a client is owned no more.
        lost = self.move(box, "lost", 2)
        self.assertEqual((lost["owned"], lost["there"], lost["out"]), (18, 18, []))

    def test_more_than_there_are_is_refused_in_words(self) -> None:
        box = self.kind(owned=3)
        self.assert_fault(self.move(box, "went out", 4, status=422), "/count", "Only 3 of them are in the house")
        self.move(box, "went out", 2)
        self.assert_fault(self.move(box, "came back", 3, status=422), "/count", "This client has 2 of them")
        self.assert_fault(
            self.move(box, "came back", 1, client="Milo Brandt", status=422), "/count", "This client has 0 of them"
        )
        self.assert_fault(self.change_kind(box, status=422, owned=1), "/owned", "2 of them are out with clients")

    def test_a_kind_makes_sense_or_is_refused(self) -> None:
        for wrong, at in (
            ({"ml": 0}, "/ml"),
            ({"owned": -1}, "/owned"),
            ({"empty_g": 0}, "/empty_g"),
            ({"name": " "}, "/name"),
        ):
            with self.subTest(wrong=wrong):
                told = self.send("POST", "/containers", {"name": "Box", "ml": 900, "owned": 2, **wrong}, status=422)
                self.assertIn(at, [fault["pointer"] for fault in told["errors"]])

    def test_one_that_is_put_away_is_in_no_list(self) -> None:
        box = self.kind()
        self.send("PUT", f"/containers/{box['id']}/archived", status=204, archived=True)
        self.assertEqual(self.get("/containers"), [])
        self.send("PUT", f"/containers/{box['id']}/archived", status=204, archived=False)
        self.assertEqual(len(self.get("/containers")), 1)


class ForABatch(ContainerCase):
    def test_nothing_is_lacking_that_nobody_wrote_down(self) -> None:
        found = self.needs()
        self.assertEqual((found["known"], found["lacking"], found["wanted"]), (False, [], 12))

    def test_fewer_than_containers(self) -> None:
        """Nine of 900 ml for twelve: the last row by its order lacks three."""
        box = self.kind(owned=11)
        self.move(box, "went out", 2, client="Milo Brandt")
        self.kind("Tub", ml=1200, owned=2)
        lacking = self.needs()["lacking"]
        self.assertEqual(sum(one["lacks"] for one in lacking), 3)
        [one] = lacking
        self.assertEqual((one["away"], [(other["name"], other["free"]) for other in one["larger"]]), (2, [("Tub", 2)]))
        self.assertEqual(one["bulk_from"], one["count"] - 3 + 1)

    def test_another_size_is_taken_by_one_change(self) -> None:
        self.kind(owned=9)
        self.kind("Tub", ml=1200, owned=5)
        [one] = self.needs()["lacking"]
        row = next(row for row in self.batch_plan()["rows"] if row["id"] == one["row_id"])
        self.resize(row, 1200)
        self.assertEqual(self.needs()["lacking"], [])

    def test_a_size_that_nobody_set_is_any_that_holds_it(self) -> None:
        self.kind("Tub", ml=1200, owned=12)
        for row in self.batch_plan()["rows"]:
            self.resize(row, None)
        self.assertEqual(self.needs()["lacking"], [])

    def test_the_rest_is_kept_in_bulk_for_another_day(self) -> None:
        self.kind(owned=9)
        [one] = self.needs()["lacking"]
        self.note("kept in bulk", row_id=one["row_id"], container=one["bulk_from"])
        found = self.needs()
        self.assertEqual((found["lacking"], found["wanted"], found["later"]), ([], 9, 3))
        rows = {row["id"]: row for row in self.batch_plan()["rows"]}
        by_id = {cell["component_id"]: cell["grams"] for cell in rows[one["row_id"]]["cells"] if cell["grams"]}
        self.assertEqual(
            {part["component_id"]: part["grams"] for part in found["bulk"]}, {k: 3 * g for k, g in by_id.items()}
        )
        # Three days from cooking by the cautious rule, with how to cool it.
        cook_on = self.batch_plan()["batch"]["cook_on"]
        self.assertEqual({(part["days"], part["until"] > cook_on) for part in found["bulk"]}, {(3, True)})
        self.assertIn("within 90 minutes", found["cautions"][0])
        later = [box for box in self.filling()["containers"] if box["is_in_bulk"]]
        self.assertEqual(len(later), 3)
        # The next day more are packed: the newest fact of the row counts.
        self.note("kept in bulk", row_id=one["row_id"], container=one["count"] + 1)
        self.assertEqual((self.needs()["later"], len(self.needs()["lacking"])), (0, 1))

    def test_the_bulk_is_weighed_down_as_it_goes(self) -> None:
        self.weigh(Chicken=1650)
        row = self.container()["row_id"]
        key = self.note("kept in bulk", row_id=row, container=2)
        self.put(self.container(), "Chicken")
        self.note("pot weighed", component_id=self.parts["Chicken"], grams=1400)
        self.assertEqual(self.pot("Chicken")["left_g"], 1400)
        self.assertFalse(self.batch_plan()["batch"]["packed_at"])
        self.note("taken back", of=key)
        self.assertFalse(any(box["is_in_bulk"] for box in self.filling()["containers"]))
        self.assertEqual(self.pot("Chicken")["left_g"], 1400)

    def test_it_says_which_containers(self) -> None:
        told = self.note("kept in bulk", status=422)
        self.assert_fault(self.answer, "/row_id", "which container")
        self.assertTrue(told)


class HandedOver(ContainerCase):
    def hand_over(self, status: int = 200) -> Any:
        return self.send("POST", f"/batches/{self.batch_id}/containers/handed-over", status=status)

    def test_what_is_packed_is_full_until_it_leaves_and_out_after(self) -> None:
        self.kind(owned=20)
        self.assertIn("when the batch is packed", self.hand_over(status=422)["detail"])
        self.pack()
        [box] = self.get("/containers")
        self.assertEqual((box["full"], box["there"]), (12, 8))
        # To itself it lacks nothing: its own containers are the full ones.
        self.assertEqual(self.needs()["lacking"], [])
        self.assertEqual(self.hand_over()["handed_over"], 12)
        [box] = self.get("/containers")
        self.assertEqual((box["full"], box["there"]), (0, 8))
        self.assertEqual({one["client"]: one["count"] for one in box["out"]}, {"Ada Vance": 8, "Milo Brandt": 4})
        self.assertIn("have left already", self.hand_over(status=422)["detail"])

    def test_none_of_its_size_is_told(self) -> None:
        self.pack()
        self.assertIn("No container of the house is written down", self.hand_over(status=422)["detail"])
        self.kind(ml=500)
        self.assertIn("has a size that this batch was planned for", self.hand_over(status=422)["detail"])
