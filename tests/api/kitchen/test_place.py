"""Where a kitchen is: its time zone and its currency, once somebody has set them."""

from __future__ import annotations

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

from sqlalchemy import text

from tests.api.case import ApiCase
from tests.support import database

CHANGED = datetime(2026, 11, 29, 12, 30, tzinfo=UTC)


class Place(ApiCase):
    def save(self, status: int = 200, **place: str | None) -> dict[str, object]:
        return dict(self.send("PUT", "/settings", place, status=status))

    def test_nothing_is_set_until_somebody_sets_it(self) -> None:
        for read in (self.get("/settings"), self.get("/session")):
            self.assertEqual((read["time_zone"], read["currency"]), (None, None))

    def test_what_is_set_is_told_to_every_page(self) -> None:
        self.save(time_zone="Europe/Lisbon", currency="EUR")
        for read in (self.get("/settings"), self.get("/session")):
            self.assertEqual((read["time_zone"], read["currency"]), ("Europe/Lisbon", "EUR"))

    def test_what_is_none_is_refused_with_how_it_is_written(self) -> None:
        self.assert_fault(self.save(422, time_zone="Port Alder"), "/time_zone", "written as Europe/Lisbon")
        self.assert_fault(self.save(422, currency="euro"), "/currency", "written as EUR")
        self.assert_fault(self.save(422, currency="KWD"), "/currency", "kept in hundredths, and KWD has thousandths")
        self.assert_fault(self.save(422, time_zone="../etc/passwd"), "/time_zone", "no time zone")

    def stale(self) -> str:
        plan = self.plan()
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("UPDATE batch SET changed_at = :at, version = 2"), {"at": CHANGED})
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"], "grams": 90}
        return str(self.change(plan, pin, status=409)["detail"])

    def test_a_refusal_tells_the_time_of_the_kitchen(self) -> None:
        self.assertIn("at 12:30 UTC", self.stale())
        self.save(time_zone="Pacific/Auckland")
        self.assertIn(f"at {CHANGED.astimezone(ZoneInfo('Pacific/Auckland')):%H:%M},", self.stale())
