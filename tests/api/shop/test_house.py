"""What is in the house: lots with a ledger, taken off the list and used by batches, first what expires first."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import text
from sqlalchemy.exc import DatabaseError

from tests.api.case import ApiCase
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.work.pantry.reference import reference_id

Json = dict[str, Any]
CHICKEN_ID = str(reference_id(CHICKEN))


class House(ApiCase):
    def put(self, grams: float, food: str = CHICKEN, **more: Any) -> Json:
        lot = {"food_id": str(reference_id(food)), "grams": grams, "place": "fridge", **more}
        return dict(self.send("POST", "/house/lots", {"lots": [lot]}, status=201))

    def lots(self) -> list[Json]:
        return list(self.get("/house")["lots"])

    def tell(self, lot: Json, kind: str, grams: float, status: int = 200) -> Json:
        return dict(
            self.send("POST", f"/house/lots/{lot['id']}/entries", {"kind": kind, "grams": grams}, status=status)
        )

    def ledger(self, lot: Json) -> list[tuple[str, float]]:
        return [(one["kind"], one["grams"]) for one in self.get(f"/house/lots/{lot['id']}/entries")]

    def day(self, days: int) -> str:
        """So many days from now, where the server is."""
        return (datetime.now(UTC).date() + timedelta(days=days)).isoformat()

    def weigh_all(self, plan: Json) -> Json:
        """The plan with every pot weighed as it was expected."""
        for component in plan["components"]:
            vessels = [{"gross_g": component["cooked_g"] + 800, "vessel_g": 800}]
            change = {"kind": "weigh", "component_id": component["id"], "vessels": vessels}
            plan = self.change(plan, change, confirmed=True)["plan"]
        return plan

    def chicken(self, plan: Json) -> Json:
        items = self.get(f"/batches/{plan['batch']['id']}/shopping")["items"]
        return next(dict(item) for item in items if item["food_id"] == CHICKEN_ID)


class Ledger(House):
    def test_a_lot_is_the_sum_of_what_happened_to_it(self) -> None:
        self.put(1000, words="a tray", paid=6.9)
        lot = self.lots()[0]
        self.assertEqual((lot["grams"], lot["worth"], lot["opened"]), (1000, 6.9, False))
        self.tell(lot, "used", 250)
        self.tell(lot, "thrown away", 100)
        self.tell(lot, "counted", 700)
        now = self.lots()[0]
        self.assertEqual((now["grams"], now["opened"]), (700, True))
        self.assertEqual(now["worth"], 4.83)
        self.assertEqual(self.ledger(lot), [("counted", 50), ("thrown away", -100), ("used", -250), ("bought", 1000)])

    def test_below_zero_is_a_question(self) -> None:
        self.put(300)
        lot = self.lots()[0]
        problem = self.tell(lot, "used", 400, status=422)
        self.assertIn("300 g of it are written down, less than 400 g. Was there more?", str(problem))
        self.assertEqual(self.lots()[0]["grams"], 300)
        self.assertIn("is what is written down already", str(self.tell(lot, "counted", 300, status=422)))
        self.assertIn("Say how much", str(self.tell(lot, "used", 0, status=422)))

    def test_a_lot_that_is_used_up_is_gone_and_can_be_taken_back(self) -> None:
        self.put(300)
        lot = self.lots()[0]
        done = self.tell(lot, "used", 300)
        self.assertEqual(done["house"]["lots"], [])
        back = self.send("POST", f"/house/acts/{done['act']}/undone")
        self.assertEqual([one["grams"] for one in back["house"]["lots"]], [300])
        self.assertIn("taken back already", str(self.send("POST", f"/house/acts/{done['act']}/undone", status=422)))

    def test_what_is_gone_cannot_be_taken_back(self) -> None:
        came = self.put(300)
        self.tell(self.lots()[0], "used", 200)
        problem = self.send("POST", f"/house/acts/{came['act']}/undone", status=422)
        self.assertIn("100 g are left of it, so 300 g cannot be taken back", str(problem))

    def test_into_bags(self) -> None:
        self.put(2000, words="a family tray", paid=12, use_by="2026-11-30")
        lot = self.lots()[0]
        bags = {"bags": 3, "bag_g": 500, "place": "freezer", "frozen_on": "2026-11-27"}
        done = self.send("POST", f"/house/lots/{lot['id']}/bags", bags)
        tray, frozen = sorted(done["house"]["lots"], key=lambda one: one["place"], reverse=True)
        frozen, tray = (frozen, tray) if frozen["place"] == "freezer" else (tray, frozen)
        self.assertEqual((tray["grams"], tray["worth"], tray["opened"]), (500, 3, True))
        self.assertEqual(
            (frozen["grams"], frozen["pack_g"], frozen["worth"], frozen["frozen_on"], frozen["use_by"]),
            (1500, 500, 9, "2026-11-27", None),
        )
        back = self.send("POST", f"/house/acts/{done['act']}/undone")["house"]["lots"]
        self.assertEqual([(one["grams"], one["worth"]) for one in back], [(2000, 12)])
        too_many = self.send("POST", f"/house/lots/{lot['id']}/bags", {**bags, "bags": 5}, status=422)
        self.assertIn("5 bags of 500 g hold more than the 2,000 g", str(too_many))

    def test_the_database_keeps_the_ledger(self) -> None:
        self.put(300)
        for statement in ("UPDATE lot_entry SET grams = 1", "DELETE FROM lot_entry"):
            with (
                self.assertRaisesRegex(DatabaseError, "only added to"),
                database().workspace(self.who.workspace_id) as session,
            ):
                session.execute(text(statement))

    def test_bad_amounts_are_told_at_their_place_and_nothing_is_noted(self) -> None:
        good = {"food_id": CHICKEN_ID, "grams": 100, "place": "fridge"}
        stranger = {**good, "food_id": "00000000-0000-0000-0000-000000000000"}
        problem = self.send("POST", "/house/lots", {"lots": [good, stranger]}, status=422)
        self.assertEqual(problem["errors"][0]["pointer"], "/lots/1/food_id")
        problem = self.send("POST", "/house/lots", {"lots": [{**good, "grams": 0}]}, status=422)
        self.assertEqual(problem["errors"][0]["pointer"], "/lots/0/grams")
        self.assertEqual(self.lots(), [])


class QuickEntry(House):
    def test_lines_are_read_like_those_of_recipes(self) -> None:
        lines = "2 x 400 g tins chickpeas, use by 3 March 2027, paid 1.70\n\n1 kg chicken breast, frozen on 2026-11-20"
        tins, breast = self.send("POST", "/house/reading", {"text": lines})
        self.assertEqual(tins["line"]["matches"][0]["food"]["id"], str(reference_id("chickpeas-canned-drained")))
        self.assertEqual((tins["use_by"], tins["paid"], tins["place"]), ("2027-03-03", 1.7, "cupboard"))
        self.assertAlmostEqual(tins["line"]["grams"], 2 * tins["pack_g"])
        self.assertLess(tins["line"]["grams"], 800)
        self.assertEqual((breast["place"], breast["frozen_on"], breast["pack_g"]), ("freezer", "2026-11-20", None))
        self.assertEqual(breast["assumed"], "kept in the freezer")

    def test_what_is_not_read_is_told(self) -> None:
        self.assertIn(
            "Write a line for each food", str(self.send("POST", "/house/reading", {"text": " \n"}, status=422))
        )
        found = self.send("POST", "/house/reading", {"text": "1 kg flour until whenever\nsome xyzzy"})
        self.assertIn("“whenever” is no day", found[0]["trouble"])
        self.assertTrue(found[1]["line"]["asks"])


class OnTheList(House):
    def test_what_is_in_the_house_is_taken_off(self) -> None:
        plan = self.plan()
        need = self.chicken(plan)["grams"]
        self.put(300)
        item = self.chicken(plan)
        self.assertEqual((item["grams"], item["in_house_g"]), (need, 300))
        self.assertAlmostEqual(item["to_buy_g"], need - 300)
        self.assertEqual([(one["grams"], one["place"]) for one in item["in_house"]], [(300, "fridge")])
        self.put(100_000)
        item = self.chicken(plan)
        self.assertEqual((item["to_buy_g"], item["choices"]), (0, []))

    def test_what_will_be_past_its_day_is_not(self) -> None:
        plan = self.plan()
        self.put(300, use_by="2020-01-01")
        self.assertEqual(self.chicken(plan)["in_house_g"], 0)

    def test_it_goes_to_the_batch_that_is_cooked_first(self) -> None:
        later, sooner = self.plan(), dict(self.get(f"/batches/{planned(self.who).batch.id}/plan"))
        day = {"kind": "batch", **{name: later["batch"][name] for name in (
            "name", "step_g", "buffer_share", "sharing", "leftover")}}  # fmt: skip
        later = self.change(later, {**day, "cook_on": "2031-01-05"})["plan"]
        need = self.chicken(sooner)["grams"]
        self.put(need + 100)
        self.assertEqual(self.chicken(sooner)["to_buy_g"], 0)
        item = self.chicken(later)
        self.assertAlmostEqual(item["in_house_g"], 100, places=3)
        self.assertEqual([one["batch"] for one in item["held"]], [sooner["batch"]["name"]])
        self.assertAlmostEqual(item["held"][0]["grams"], need, places=3)

    def test_what_is_always_there_is_asked_once(self) -> None:
        plan = self.plan()
        path = f"/batches/{plan['batch']['id']}/shopping"
        asked = [item for item in self.get(path)["items"] if item["ask_staple"]]
        self.assertTrue(asked)
        food = asked[0]
        self.send("PUT", f"/house/staples/{food['food_id']}", {"is_always_there": True})
        found = self.get(path)
        self.assertNotIn(food["food_id"], [item["food_id"] for item in found["items"]])
        self.assertEqual(found["always_there"], [food["name"]])
        self.send("PUT", f"/house/staples/{food['food_id']}", {"is_always_there": False})
        item = next(item for item in self.get(path)["items"] if item["food_id"] == food["food_id"])
        self.assertFalse(item["ask_staple"])
        self.send("PUT", f"/house/staples/{food['food_id']}", {"is_always_there": None})
        item = next(item for item in self.get(path)["items"] if item["food_id"] == food["food_id"])
        self.assertTrue(item["ask_staple"])

    def test_what_hurries_is_offered_with_the_recipes_that_use_it(self) -> None:
        self.plan()
        self.put(300, use_by=self.day(3))
        self.put(500, use_by=self.day(30))
        found = self.get("/house")["use_up"]
        self.assertEqual([(one["grams"], one["use_by"]) for one in found], [(300, self.day(3))])
        self.assertTrue(found[0]["recipes"])


class UsedByABatch(House):
    def packed(self, plan: Json, packed: bool) -> Json:
        return dict(self.change(plan, {"kind": "packed", "packed": packed})["plan"])

    def test_packing_takes_what_went_into_the_pots_and_opening_puts_it_back(self) -> None:
        plan = self.weigh_all(self.plan())
        used = sum(
            line["purchased_g"] for component in plan["components"] for line in component["lines"]
            if line["name"] == "Chicken thigh, skinless"
        )  # fmt: skip
        self.put(used / 2, use_by="2031-01-01", words="keeps")
        self.put(100, use_by=plan["batch"]["cook_on"], words="hurries")
        self.put(5_000, words="no day", pack_g=500)
        by_words = {lot["words"]: lot for lot in self.lots()}
        plan = self.packed(plan, True)
        left = {lot["words"]: lot for lot in self.lots()}
        self.assertEqual(set(left), {"no day"})
        self.assertAlmostEqual(left["no day"]["grams"], 5_000 - (used - used / 2 - 100), delta=0.01)
        self.assertTrue(left["no day"]["opened"])
        entry = self.get(f"/house/lots/{left['no day']['id']}/entries")[0]
        self.assertEqual((entry["kind"], entry["batch"]), ("used", plan["batch"]["name"]))
        self.assertIn("A batch took this", str(self.send("POST", f"/house/acts/{entry['act']}/undone", status=422)))
        plan = self.packed(plan, False)
        now = {lot["words"]: lot["grams"] for lot in self.lots()}
        self.assertEqual(now, {words: lot["grams"] for words, lot in by_words.items()})
        self.packed(plan, True)
        self.assertAlmostEqual(self.lots()[0]["grams"], left["no day"]["grams"])
