"""What is begun before a cook day on a calendar: a file, and a feed at a secret address; and on Today."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from typing import Any

from fastapi.testclient import TestClient
from icalendar import Calendar

from tests.api.case import API
from tests.api.cook.test_live import LiveCase

ADDRESS = "https://192.0.2.7:8765"


class CalendarCase(LiveCase):
    def setUp(self) -> None:
        super().setUp()
        self.at(-24 * 60 + 10 * 60)
        ada = self.get("/kitchens")[0]["people"][0]["id"]
        there = [
            {"person_id": ada, "start_min": -360, "end_min": -180},
            {"person_id": ada, "start_min": 540, "end_min": 1260},
        ]
        kitchen = self.get("/kitchens")[0]
        sent = {"kitchen_id": kitchen["id"], "start_min": 540, "there": there}
        self.send("PUT", f"/batches/{self.batch_id}/cooking/day", sent, status=204)
        self.steps(
            "Chicken",
            {"text": "Marinate it.", "lead_min": 720, "lead_most_min": 960},
            {"text": "Fry it.", "hands_on_min": 20, "equipment": "pan"},
        )

    def soak(self) -> dict[str, Any]:
        return next(one for one in self.cooking()["order"]["steps"] if one["says"] == "Marinate it.")

    def events(self, content: bytes) -> dict[str, Any]:
        read = Calendar.from_ical(content)
        return {str(one["SUMMARY"]): one for one in read.walk("VEVENT")}


class AFile(CalendarCase):
    def test_it_says_when_what_is_begun_and_cooked(self) -> None:
        """The same minutes as the order of work, read by another programme's rules."""
        order, soak = self.cooking()["order"], self.soak()
        answer = self.client.get(f"{API}/batches/{self.batch_id}/cooking/calendar.ics", params={"zone": "UTC"})
        self.assertTrue(answer.headers["content-type"].startswith("text/calendar"))
        found = self.events(answer.content)
        self.assertEqual(set(found), {"Marinate it. (Chicken)", "Cook Bowls"})
        midnight = datetime(2026, 11, 29, tzinfo=UTC)
        begun = found["Marinate it. (Chicken)"]
        self.assertEqual(begun["DTSTART"].dt, midnight + timedelta(minutes=soak["start_min"]))
        self.assertEqual(len(begun.walk("VALARM")), 1)
        day = found["Cook Bowls"]
        self.assertEqual(day["DTSTART"].dt, midnight + timedelta(minutes=order["begins_min"]))
        self.assertEqual(day["DTEND"].dt, midnight + timedelta(minutes=order["ready_min"]))

    def test_told_again_it_has_the_same_ids(self) -> None:
        path = f"{API}/batches/{self.batch_id}/cooking/calendar.ics"
        ids = [sorted(str(one["UID"]) for one in self.events(self.client.get(path).content).values()) for _ in range(2)]
        self.assertEqual(ids[0], ids[1])
        self.assertEqual(len(set(ids[0])), 2)

    def test_no_such_batch(self) -> None:
        answer = self.client.get(f"{API}/batches/5f0c3f5e-0000-4000-8000-000000000009/cooking/calendar.ics")
        self.assertEqual(answer.status_code, 404)


class AFeed(CalendarCase):
    def address(self) -> str:
        made = self.send("POST", "/calendar", {"address": ADDRESS}, status=201)
        self.assertTrue(made["address"].startswith(f"{ADDRESS}{API}/calendar/"))
        return str(made["address"]).removeprefix(ADDRESS)

    def stranger(self) -> TestClient:
        return TestClient(self.app)

    def test_whoever_knows_the_address_reads_it_and_nobody_else(self) -> None:
        address = self.address()
        answer = self.stranger().get(address)
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(set(self.events(answer.content)), {"Marinate it. (Chicken)", "Cook Bowls"})
        wrong = address[:-8] + "AAAA.ics"
        self.assertEqual(self.stranger().get(wrong).status_code, 404)
        self.assertEqual(self.get("/calendar")["read_at"], self.moment.isoformat().replace("+00:00", "Z"))

    def test_a_new_address_ends_the_one_before_and_ended_is_ended(self) -> None:
        first, second = self.address(), self.address()
        self.assertEqual(self.stranger().get(first).status_code, 404)
        self.assertEqual(self.stranger().get(second).status_code, 200)
        self.send("POST", "/calendar/ended", status=204)
        self.assertEqual(self.stranger().get(second).status_code, 404)
        self.assertIsNone(self.get("/calendar"))

    def test_without_a_time_zone_of_the_kitchen_it_is_the_clock_on_the_wall(self) -> None:
        begun = self.events(self.stranger().get(self.address()).content)["Marinate it. (Chicken)"]
        self.assertIsNone(begun["DTSTART"].dt.tzinfo)
        self.assertEqual(begun["DTSTART"].dt, datetime(2026, 11, 29) + timedelta(minutes=self.soak()["start_min"]))

    def test_what_has_no_order_stands_on_its_day(self) -> None:
        kitchen = self.get("/kitchens")[0]
        self.send("PUT", f"/kitchens/{kitchen['id']}/archived?archived=true", status=204)
        plan = self.send("POST", f"/batches/{self.batch_id}/copies", {"name": "Later", "cook_on": "2026-12-20"},
                         status=201)  # fmt: skip
        self.assertEqual(plan["batch"]["name"], "Later")
        later = self.events(self.stranger().get(self.address()).content)["Cook Later"]
        self.assertEqual(later["DTSTART"].dt, date(2026, 12, 20))

    def test_it_says_nothing_of_clients(self) -> None:
        text = self.stranger().get(self.address()).text
        for client in self.get("/clients"):
            self.assertNotIn(client["name"], text)

    def test_a_page_that_stands_nowhere_is_told(self) -> None:
        told = self.send("POST", "/calendar", {"address": "javascript:1"}, status=422)
        self.assertEqual([one["pointer"] for one in told["errors"]], ["/address"])


class OnToday(CalendarCase):
    def due(self) -> list[tuple[str, int | None, str]]:
        return [(one["on"], one["at_min"], one["what"]) for one in self.get("/due")]

    def test_what_is_begun_before_stands_there_with_its_minute_until_it_is(self) -> None:
        soak = self.soak()
        self.assertLess(soak["start_min"], 0)
        self.assertEqual(self.due()[0], ("2026-11-28", soak["start_min"] + 1440, "Marinate it."))
        self.note("begun", task=soak["key"])
        self.assertNotIn("Marinate it.", [what for _, _, what in self.due()])

    def test_before_an_order_is_known_the_day_is(self) -> None:
        self.assertEqual(self.due()[0], ("2026-11-28", None, "Marinate it."))
