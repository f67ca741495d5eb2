"""Prices and amounts over time: from the prices that packs had, and from what the ledger says."""

from __future__ import annotations

import csv
import io
from datetime import UTC, datetime
from typing import Any

from tests.api.case import API
from tests.api.shop.test_house import CHICKEN_ID, House
from tests.kitchens import CHICKEN
from tests.support import database
from yantai.work.pantry.inputs import PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_supply
from yantai.work.pantry.reference import reference_id

Json = dict[str, Any]


class History(House):
    def history(self) -> Json:
        return dict(self.get("/house/history"))

    def seen(self, day: str, price: float, shop: str = "Quay Street Market") -> None:
        packs = [PackInput(name="tray", grams=400, price=price, shop=shop, seen_on=day)]
        save_supply(database(), self.who, reference_id(CHICKEN), SupplyInput(packs=packs))

    def test_nothing_yet(self) -> None:
        self.assertEqual(self.history(), {"foods": [], "years": []})

    def test_each_price_once_in_the_order_of_its_day(self) -> None:
        for day, price in (("2026-11-20", 3.1), ("2026-10-02", 2.8), ("2026-11-20", 3.1), ("2026-11-26", 3.4)):
            self.seen(day, price)
        prices = self.history()["foods"][0]["prices"]
        self.assertEqual(
            [(one["seen_on"], one["price"]) for one in prices],
            [("2026-10-02", 2.8), ("2026-11-20", 3.1), ("2026-11-20", 3.1), ("2026-11-26", 3.4)],
        )
        self.assertAlmostEqual(prices[-1]["per_100g"], 0.85)

    def test_amounts_by_month_and_the_year_that_they_come_to(self) -> None:
        self.put(1000, paid=10)
        lot = self.lots()[0]
        self.tell(lot, "used", 300)
        self.tell(lot, "thrown away", 200)
        back = self.tell(lot, "thrown away", 100)
        self.send("POST", f"/house/acts/{back['act']}/undone")
        found = self.history()
        month = found["foods"][0]["months"][0]
        today = datetime.now(UTC).date()
        self.assertEqual(month["month"], today.replace(day=1).isoformat())
        self.assertEqual(
            (month["bought_g"], month["used_g"], month["thrown_g"], month["thrown_worth"]), (1000, 300, 200, 2)
        )
        self.assertEqual(
            found["years"],
            [{"year": today.year, "paid_at_tills": 0, "bought_worth": 10, "thrown_g": 200, "thrown_worth": 2}],
        )

    def test_what_was_paid_at_the_till_counts_in_its_year(self) -> None:
        plan = self.plan()
        trip = self.send("POST", "/trips", {"batches": [plan["batch"]["id"]]}, status=201)["id"]
        bought = {"food_id": CHICKEN_ID, "grams": 400}
        self.send("POST", f"/trips/{trip}/entries", {"item": CHICKEN_ID, "event": "bought", "bought": bought})
        self.send("POST", f"/trips/{trip}/finished", {"paid": 23.45, "items": [{"item": CHICKEN_ID, "paid": 4}]})
        year = self.history()["years"][0]
        self.assertEqual((year["paid_at_tills"], year["bought_worth"]), (23.45, 4))

    def test_as_csv(self) -> None:
        self.seen("2026-11-20", 3.1, shop="=Quay")
        self.put(1000, paid=10)
        answer = self.client.get(f"{API}/house/history.csv")
        rows = list(csv.DictReader(io.StringIO(answer.text)))
        self.assertEqual([row["what"] for row in rows], ["price", "bought"])
        self.assertEqual((rows[0]["shop"], rows[0]["money"], rows[1]["grams"]), ("'=Quay", "3.10", "1000.0"))
