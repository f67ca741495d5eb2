"""A trip to the shops: ticked by two people, another food bought, what is not there, the till, and back."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import update

from tests.api.case import ApiCase
from tests.kitchens import CHICKEN, planned
from tests.support import database
from yantai.core.shopping.packs import Sold
from yantai.store import tables
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id

Json = dict[str, Any]
CHICKEN_ID = str(reference_id(CHICKEN))


class Trips(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        packs = [PackInput(name="tray", grams=400, price=3.1, shop="Quay Street Market")]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))
        self.plan_now = self.plan()
        self.batch = self.plan_now["batch"]["id"]

    def start(self, *batches: str) -> str:
        return str(self.send("POST", "/trips", {"batches": list(batches or (self.batch,))}, status=201)["id"])

    def trip(self, trip: str) -> Json:
        return dict(self.get(f"/trips/{trip}"))

    def note(self, trip: str, event: str, item: str = CHICKEN_ID, status: int = 200, **more: Any) -> Json:
        return dict(self.send("POST", f"/trips/{trip}/entries", {"item": item, "event": event, **more}, status=status))

    def state(self, trip: str, name: str = "Chicken thigh, skinless") -> tuple[Json, Json]:
        found = self.trip(trip)
        at = next(at for at, item in enumerate(found["shopping"]["items"]) if item["name"] == name)
        return found["shopping"]["items"][at], found["states"][at]

    def trays(self, count: int, food: str = CHICKEN_ID, price: float | None = 3.1, grams: float = 400) -> Json:
        pack = {"name": "tray", "grams": grams, "count": count, "price": price, "shop": "Quay Street Market"}
        return {"food_id": food, "grams": grams * count, "packs": [pack]}


class Walking(Trips):
    def test_an_item_is_ticked_and_taken_out_again(self) -> None:
        trip = self.start()
        self.assertIsNone(self.state(trip)[1]["bought"])
        self.note(trip, "bought", bought=self.trays(3))
        item, state = self.state(trip)
        self.assertEqual(
            (state["bought"]["grams"], state["bought"]["cost"], state["bought_by"]), (1200, 9.3, ["Test Coach"])
        )
        self.assertGreater(item["to_buy_g"], 0)
        self.note(trip, "not bought")
        self.assertIsNone(self.state(trip)[1]["bought"])

    def test_of_two_phones_that_were_away_the_later_counts_and_both_are_told(self) -> None:
        trip, now = self.start(), datetime.now(UTC)
        moments = [(now - timedelta(minutes=ago)).isoformat() for ago in (5, 9)]
        # The one that happened later is handed in first.
        for count, at in zip((3, 4), moments, strict=True):
            self.note(trip, "bought", bought=self.trays(count), happened_at=at, sent_at=now.isoformat())
        state = self.state(trip)[1]
        self.assertEqual((state["bought"]["grams"], state["doubly"]), (1200, False))
        self.assertEqual(len(self.trip(trip)["shopping"]["items"]), 5)

    def test_a_note_and_something_by_hand(self) -> None:
        trip, roll = self.start(), str(uuid.uuid4())
        self.note(trip, "note", text="ask at the counter")
        self.note(trip, "added", item=roll, text="kitchen roll")
        self.assertEqual(self.state(trip)[1]["note"], "ask at the counter")
        self.assertEqual([one["name"] for one in self.trip(trip)["own"]], ["kitchen roll"])
        self.note(trip, "removed", item=roll)
        self.assertEqual(self.trip(trip)["own"], [])
        problem = self.note(trip, "added", item=roll, text=" ", status=422)
        self.assert_fault(problem, "/text", "Say what it is")

    def test_what_was_taken_off_the_list_is_in_no_basket(self) -> None:
        trip, roll = self.start(), str(uuid.uuid4())
        self.note(trip, "added", item=roll, text="kitchen roll")
        self.note(trip, "bought", item=roll, bought={"food_id": roll, "grams": 1})
        self.assertEqual(self.trip(trip)["till"]["without_price"], 1)
        self.note(trip, "removed", item=roll)
        self.assertEqual(self.trip(trip)["till"]["without_price"], 0)

    def test_what_makes_no_sense_is_told_at_its_place(self) -> None:
        trip = self.start()
        self.assert_fault(self.note(trip, "bought", status=422), "/bought", "Say what was bought")
        wrong = {**self.trays(3), "grams": 999}
        self.assert_fault(self.note(trip, "bought", bought=wrong, status=422), "/bought/grams", "The packs hold 1200 g")
        stranger = self.trays(1, food=str(uuid.uuid4()))
        self.assert_fault(self.note(trip, "bought", bought=stranger, status=422), "/bought/food_id", "no such food")

    def test_a_batch_is_bought_for_once_at_a_time(self) -> None:
        trip = self.start()
        self.assertEqual(self.get(f"/batches/{self.batch}/shopping")["trip_id"], trip)
        problem = self.send("POST", "/trips", {"batches": [self.batch]}, status=422)
        self.assertIn("is being bought for already, by Test Coach since", problem["detail"])
        self.assertEqual([one["id"] for one in self.get("/trips")], [trip])

    def test_a_plan_that_changes_meanwhile_is_told_and_the_ticks_stay(self) -> None:
        trip = self.start()
        before = self.state(trip)[0]["to_buy_g"]
        self.note(trip, "bought", bought=self.trays(3))
        row = self.plan_now["rows"][0]
        plan = self.change(
            self.plan_now,
            {
                "kind": "containers",
                "row_id": row["id"],
                "count": row["count"] + 3,
                "capacity_ml": row["capacity_ml"],
            },
        )["plan"]
        item, state = self.state(trip)
        self.assertGreater(item["to_buy_g"], before)
        self.assertAlmostEqual(state["was_g"], before, places=2)
        self.assertEqual(state["bought"]["grams"], 1200)
        self.assertTrue(plan)

    def test_what_is_in_the_basket_is_never_out_of_sight(self) -> None:
        """A food that no batch needs any more, and one that none ever did on this trip, stay on the receipt."""
        trip = self.start()
        self.note(trip, "bought", bought=self.trays(3))
        almonds = str(reference_id("almonds-raw"))
        self.note(trip, "bought", item=almonds, bought=self.trays(1, food=almonds))
        self.send("PUT", f"/house/staples/{CHICKEN_ID}", {"is_always_there": True})
        found = self.trip(trip)
        dropped = {one["item"]: one["bought"]["grams"] for one in found["dropped"]}
        self.assertEqual(dropped, {CHICKEN_ID: 1200, almonds: 400})
        self.assertEqual(found["till"]["expected"], 12.4)
        self.note(trip, "not bought", item=almonds)
        self.assertEqual([one["item"] for one in self.trip(trip)["dropped"]], [CHICKEN_ID])
        self.send("POST", f"/trips/{trip}/finished", {"items": [{"item": CHICKEN_ID, "paid": 9}]})
        self.assertEqual([lot["grams"] for lot in self.get("/house")["lots"]], [1200])


class AnotherFood(Trips):
    OTHER = "Chicken breast, skinless"

    def other(self) -> str:
        found = self.get("/foods", text="chicken breast skinless raw")["foods"]
        return str(next(food["id"] for food in found if food["state"] == "raw" and food["name"] == self.OTHER))

    def test_what_was_bought_instead_goes_into_the_plan(self) -> None:
        trip, other = self.start(), self.other()
        told = self.note(trip, "bought", bought=self.trays(3, food=other))["told"]
        self.assertEqual(len(told), 1)
        self.assertIn(f"“Bowls” is planned with {self.OTHER}", told[0])
        plan = self.get(f"/batches/{self.batch}/plan")
        names = {line["name"] for component in plan["components"] for line in component["lines"]}
        self.assertIn(self.OTHER, names)
        self.assertNotIn("Chicken thigh, skinless", names)
        item, state = self.state(trip, self.OTHER)
        self.assertEqual((state["bought"]["grams"], state["item"]), (1200, CHICKEN_ID))
        self.assertEqual(self.trip(trip)["dropped"], [])
        self.assertEqual(item["food_id"], other)
        self.assertIn("Test Coach", {one["by"] for one in self.get(f"/batches/{self.batch}/history")["commands"]})

    def test_what_somebody_must_avoid_does_not(self) -> None:
        other = self.other()
        eater = self.plan_now["rows"][0]["client"]
        with database().workspace(self.who.workspace_id) as session:
            session.execute(update(tables.Client).where(tables.Client.name == eater).values(exclusions=["breast"]))
        trip = self.start()
        told = self.note(trip, "bought", bought=self.trays(3, food=other))["told"]
        self.assertIn(f"stays as it was: {eater} must not have {self.OTHER} (breast)", told[0])
        item, state = self.state(trip)
        self.assertEqual((item["name"], state["bought"]["name"]), ("Chicken thigh, skinless", self.OTHER))

    def test_substitutes_are_tried_before_they_are_offered(self) -> None:
        trip = self.start()
        before = {row["id"] for row in self.plan_now["rows"] if not any(gauge["miss"] for gauge in row["gauges"])}
        offered = self.get(f"/trips/{trip}/foods/{CHICKEN_ID}/substitutes")
        self.assertTrue(offered)
        self.assertLessEqual(len(offered), 4)
        for one in offered:
            self.note(trip, "bought", bought=self.trays(3, food=one["food_id"]))
            swapped = self.get(f"/batches/{self.batch}/plan")
            after = {row["id"] for row in swapped["rows"] if not any(gauge["miss"] for gauge in row["gauges"])}
            self.assertLessEqual(before, after, one["name"])
            needed = sum(
                line["purchased_g"]
                for component in swapped["components"]
                for line in component["lines"]
                if line["name"] == one["name"]
            )
            self.assertAlmostEqual(one["grams"], needed, delta=0.1)
            self.note(trip, "bought", item=one["food_id"], bought=self.trays(3))


class AtTheTill(Trips):
    def test_what_is_in_the_basket_comes_into_the_house_with_its_price(self) -> None:
        trip = self.start()
        self.note(trip, "bought", bought=self.trays(3))
        done = self.send("POST", f"/trips/{trip}/finished", {"paid": 12, "items": [{"item": CHICKEN_ID, "paid": 9.9}]})
        self.assertEqual(done["till"]["items"], [{"name": "Chicken thigh, skinless", "expected": 9.3, "paid": 9.9}])
        self.assertEqual((done["till"]["unexplained"], done["till"]["expected"]), (2.1, 9.3))
        lot = self.get("/house")["lots"][0]
        self.assertEqual((lot["grams"], lot["pack_g"], lot["paid"], lot["place"]), (1200, 400, 9.9, "fridge"))
        pack = self.get(f"/foods/{CHICKEN_ID}")["packs"][0]
        self.assertEqual((pack["price"], pack["seen_on"]), (3.3, datetime.now(UTC).date().isoformat()))
        # What it showed stays, though the food is in the house now.
        self.assertEqual(self.state(trip)[1]["bought"]["grams"], 1200)
        item = next(i for i in self.get(f"/batches/{self.batch}/shopping")["items"] if i["food_id"] == CHICKEN_ID)
        self.assertAlmostEqual(item["in_house_g"], min(1200, item["grams"]))
        problem = self.note(trip, "not bought", status=409)
        self.assertIn("This trip is over", problem["detail"])

    def test_what_is_weighed_is_told_as_one(self) -> None:
        pack = {"name": "loose", "grams": 600, "count": 2, "price": 3, "shop": "", "sold": "by weight"}
        bought = {"food_id": CHICKEN_ID, "grams": 1200, "packs": [pack]}
        refused = self.note(self.start(), "bought", status=422, bought=bought)
        self.assert_fault(refused, "/bought/packs/0/count", "told as one")

    def test_what_was_weighed_costs_by_its_weight_and_notes_the_price(self) -> None:
        """1,200 g at 8.90 the kilo are on the list; 1,260 g are weighed and 11.34 paid: 9.00 the kilo from now on."""
        counter = PackInput(name="at the counter", grams=1000, price=8.9, sold=Sold.WEIGHT)
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=[counter]))
        trip = self.start()
        pack = {"name": "at the counter", "grams": 1260, "count": 1, "price": 11.21, "shop": "", "sold": "by weight"}
        self.note(trip, "bought", bought={"food_id": CHICKEN_ID, "grams": 1260, "packs": [pack]})
        self.send("POST", f"/trips/{trip}/finished", {"paid": 11.34, "items": [{"item": CHICKEN_ID, "paid": 11.34}]})
        lot = next(one for one in self.get("/house")["lots"] if one["food_id"] == CHICKEN_ID)
        self.assertEqual((lot["grams"], lot["pack_g"], lot["paid"]), (1260, None, 11.34))
        self.assertEqual(lot["words"], "1260 g at the counter")
        (known,) = self.get(f"/foods/{CHICKEN_ID}")["packs"]
        self.assertEqual((known["price"], known["grams"], known["sold"]), (9.0, 1000, "by weight"))

    def test_it_is_opened_again_and_the_house_is_as_before(self) -> None:
        trip = self.start()
        self.note(trip, "bought", bought=self.trays(3))
        self.send("POST", f"/trips/{trip}/finished", {})
        self.send("POST", f"/trips/{trip}/reopened")
        self.assertEqual(self.get("/house")["lots"], [])
        self.assertEqual(self.state(trip)[1]["bought"]["grams"], 1200)
        self.send("POST", f"/trips/{trip}/finished", {"paid": 9.3})
        lot = self.get("/house")["lots"][0]
        self.send("POST", f"/house/lots/{lot['id']}/entries", {"kind": "used", "grams": 100})
        problem = self.send("POST", f"/trips/{trip}/reopened", status=422)
        self.assertIn("cannot be taken back", problem["detail"])

    def test_only_what_is_in_the_basket_is_paid_for(self) -> None:
        trip = self.start()
        body = {"items": [{"item": CHICKEN_ID, "paid": 9.9}]}
        problem = self.send("POST", f"/trips/{trip}/finished", body, status=422)
        self.assert_fault(problem, "/items/0/paid", "not in the basket")

    def test_what_was_bought_for_a_batch_is_not_given_to_another(self) -> None:
        trip = self.start()
        need = self.state(trip)[0]["grams"]
        self.note(trip, "bought", bought=self.trays(3))
        self.send("POST", f"/trips/{trip}/finished", {})
        other = planned(self.who)
        item = next(
            i for i in self.get(f"/batches/{other.batch.id}/shopping")["items"] if i["food_id"] == CHICKEN_ID
        )  # fmt: skip
        self.assertEqual([one["batch"] for one in item["held"]], ["Bowls"])
        self.assertAlmostEqual(item["in_house_g"], max(1200 - need, 0), places=2)
