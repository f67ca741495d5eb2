"""A helper's phone: paired by a code that works once and soon, and allowed to shop, in the routes and the database."""

from __future__ import annotations

import re
import uuid
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from typing import Any

from fastapi.testclient import TestClient
from sqlalchemy import inspect, select, text
from sqlalchemy.exc import DatabaseError

from tests.api.case import API, ApiCase
from tests.kitchens import CHICKEN
from tests.support import NOW, database
from yantai.api.access import CSRF_HEADER, get_now
from yantai.core.rights import Right
from yantai.store import tables
from yantai.store.database import limit_to
from yantai.work.pantry.reference import reference_id

Json = dict[str, Any]
CHICKEN_ID = str(reference_id(CHICKEN))
ADDRESS = "https://192.0.2.7:8765"


SHOPPING = {"list_trips", "read_trip", "note_on_trip", "offer_substitutes", "finish_trip", "reopen_trip"}
COOKING = {
    "list_batches", "read_plan", "change_batch", "take_back", "preview_batch", "read_cooking", "read_pot_steps",
    "note_fact", "read_with_helper", "read_cook_log", "export_cook_log", "read_filling", "note_fill_fact",
    "read_differences", "try_reading", "list_instruments", "tare_instrument", "zero_instrument", "read_pan",
    "put_on_pan", "read_settings", "list_container_kinds", "read_batch_containers",
    "read_fill_log",
}  # fmt: skip


class Pairing(ApiCase):
    def code(self, helper: str = "Ravi", rights: Sequence[str] = ("shop",)) -> str:
        body = {"helper": helper, "address": ADDRESS, "rights": list(rights)}
        return str(self.send("POST", "/pairings", body, status=201)["code"])

    def phone(self, code: str | None = None) -> TestClient:
        phone = TestClient(self.app)
        answer = phone.post(f"{API}/session/paired", json={"code": code or self.code(), "device": "phone"})
        self.assertEqual(answer.status_code, 201, answer.text)
        phone.headers[CSRF_HEADER] = answer.json()["csrf_token"]
        return phone


class Codes(Pairing):
    def test_it_signs_a_helper_in_under_their_own_name(self) -> None:
        account = self.phone().get(f"{API}/session").json()
        self.assertEqual((account["name"], account["rights"]), ("Ravi", ["shop"]))
        self.assertNotEqual(account["email"], self.email)
        self.assertIsNone(self.get("/session")["rights"])

    def test_it_may_be_typed_as_it_is_said(self) -> None:
        code = self.code()
        self.phone(f" {code.lower().replace('-', ' ')} ")

    def test_it_works_once(self) -> None:
        code = self.code()
        self.phone(code)
        again = self.client.post(f"{API}/session/paired", json={"code": code})
        self.assertEqual(again.status_code, 401)
        self.assertIn("Ask for a new one", again.json()["detail"])

    def test_it_works_for_ten_minutes(self) -> None:
        code = self.code()
        self.app.dependency_overrides[get_now] = lambda: datetime.now(UTC) + timedelta(minutes=11)
        self.assertEqual(self.client.post(f"{API}/session/paired", json={"code": code}).status_code, 401)

    def test_only_its_hash_is_kept(self) -> None:
        code = self.code().replace("-", "")
        with database().workspace(self.who.workspace_id) as session:
            kept = session.scalars(select(tables.Pairing)).one()
        self.assertNotIn(code, kept.code_hash)
        self.assertGreater(len(kept.code_hash), 40)

    def test_the_picture_is_its_address(self) -> None:
        made = self.send("POST", "/pairings", {"helper": "Ravi", "address": ADDRESS, "rights": ["shop"]}, status=201)
        self.assertTrue(made["picture"].startswith("<svg"))
        self.assertEqual(made["address"], f"{ADDRESS}/pair")
        refused = self.send("POST", "/pairings", {"helper": " ", "address": "javascript:1", "rights": []}, status=422)
        self.assert_fault(refused, "/helper", "who it is for")
        self.assert_fault(refused, "/address", "the address of this page")
        self.assert_fault(refused, "/rights", "what this device may do")

    def test_a_code_that_this_computer_shows_leads_a_phone_to_the_network(self) -> None:
        own = {"helper": "Ravi", "address": "http://127.0.0.1:8420", "rights": ["shop"]}
        made = self.send("POST", "/pairings", own, status=201)
        self.assertEqual((made["address"], made["is_out_of_reach"]), ("http://127.0.0.1:8420/pair", True))
        settings = self.app.state.settings
        self.addCleanup(setattr, self.app.state, "settings", settings)
        self.app.state.settings = settings.model_copy(update={"lan_address": ADDRESS})
        for address in ("http://127.0.0.1:8420", "http://localhost:8420", "http://[::1]:8420"):
            made = self.send(
                "POST", "/pairings", {"helper": "Ravi", "address": address, "rights": ["shop"]}, status=201
            )
            self.assertEqual((made["address"], made["is_out_of_reach"]), (f"{ADDRESS}/pair", False), address)

    def test_attempts_are_counted(self) -> None:
        answers = [
            self.client.post(f"{API}/session/paired", json={"code": f"WRONG{at}"}).status_code for at in range(10)
        ]
        self.assertEqual(answers[-1], 429)


class Rights(Pairing):
    def test_a_helper_gets_to_the_routes_of_their_rights_alone(self) -> None:
        """Whatever routes there will be: a helper gets to those alone that are named here."""
        any_helper = {"search_foods", "read_session", "sign_out"}
        public = {"check_health", "read_installation", "sign_in", "sign_in_by_code", "read_feed"}
        # A client’s page and a form ask for the secret of their link, and for no session.
        public |= {
            "read_my_page", "tell_eaten", "swap_containers", "say_to_coach", "show_macros", "read_my_calendar",
            "read_my_kitchen", "read_my_shares", "read_my_form", "keep_answers", "hand_form_in",
        }  # fmt: skip
        for right, own in (("shop", SHOPPING), ("cook", COOKING)):
            device = self.phone(self.code(rights=[right]))
            tried = set()
            for path, methods in self.app.openapi()["paths"].items():
                for method, route in methods.items():
                    if route["operationId"] in own | any_helper | public:
                        continue
                    answer = device.request(method, re.sub(r"{\w+}", CHICKEN_ID, path), json={})
                    self.assertEqual(answer.status_code, 403, f"{method} {path}: {answer.text[:200]}")
                    self.assertEqual(answer.json()["type"], "not-allowed")
                    tried.add(route["operationId"])
            self.assertGreater(len(tried), 60)

    def test_a_helper_walks_the_list_under_their_name(self) -> None:
        plan = self.plan()
        trip = self.send("POST", "/trips", {"batches": [plan["batch"]["id"]]}, status=201)["id"]
        phone = self.phone()
        self.assertEqual([one["id"] for one in phone.get(f"{API}/trips").json()], [trip])
        body = {"item": CHICKEN_ID, "event": "bought", "bought": {"food_id": CHICKEN_ID, "grams": 1200}}
        self.assertEqual(phone.post(f"{API}/trips/{trip}/entries", json=body).status_code, 200)
        states = phone.get(f"{API}/trips/{trip}").json()["states"]
        self.assertIn(["Ravi"], [one["bought_by"] for one in states])
        self.assertTrue(phone.get(f"{API}/foods", params={"text": "chicken breast"}).json()["foods"])
        other = next(
            food for food in phone.get(f"{API}/foods", params={"text": "chicken breast skinless"}).json()["foods"]
            if food["state"] == "raw"
        )  # fmt: skip
        body = {"item": CHICKEN_ID, "event": "bought", "bought": {"food_id": other["id"], "grams": 1200}}
        answer = phone.post(f"{API}/trips/{trip}/entries", json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertIn("is planned with", answer.json()["told"][0])
        done = phone.post(f"{API}/trips/{trip}/finished", json={"paid": 12})
        self.assertEqual(done.status_code, 200, done.text)
        self.assertEqual(self.get("/house")["lots"][0]["name"], other["name"])

    def test_the_database_keeps_to_it(self) -> None:
        """Each table of the kitchen: what nothing writes that a helper may do is closed to their transactions."""
        self.plan()
        open_to_helpers = {
            "batch", "command", "component", "kept_answer", "line", "lot", "lot_entry", "pack", "part", "price_seen",
            "receipt", "stored_plan", "trip", "trip_entry",
        }  # fmt: skip
        self.addCleanup(limit_to, None)
        for right, more in ((Right.SHOP, set()), (Right.COOK, {"weighing", "cook_fact", "cook_order", "step_time"})):
            owned = [
                mapper.class_ for mapper in tables.Base.registry.mappers if issubclass(mapper.class_, tables.Owned)
            ]
            closed = [table for table in owned if table.__tablename__ not in open_to_helpers | more]
            self.assertGreater(len(closed), 20)
            limit_to(frozenset({right}))
            for table in closed:
                self.assert_closed(table)
            for unseen in (tables.LoginSession, tables.Pairing, tables.TargetRecord, tables.Survey):
                with database().workspace(self.who.workspace_id) as session:
                    self.assertEqual(session.scalars(select(unseen.id)).all(), [])
        self.assert_added_by_none(tables.Vessel(workspace_id=self.who.workspace_id, name="Tray", empty_g=900))

    def test_what_is_weighed_is_closed_to_who_may_only_shop(self) -> None:
        plan = self.plan()
        limit_to(frozenset({Right.SHOP}))
        self.addCleanup(limit_to, None)
        self.assert_added_by_none(
            tables.FillFact(
                id=uuid.uuid4(), workspace_id=self.who.workspace_id, batch_id=uuid.UUID(plan["batch"]["id"]),
                event="pot weighed", component_id=uuid.UUID(plan["components"][0]["id"]), grams=5, unsure_g=0, text="",
                made_by="Ravi", device="", happened_at=NOW, made_at=NOW,
            )
        )  # fmt: skip

    def assert_closed(self, table: type[tables.Owned]) -> None:
        column = next(c for c in inspect(table).columns if c.name != "id" and c.identity is None)
        with self.subTest(table=table.__tablename__), database().workspace(self.who.workspace_id) as session:
            changed = session.execute(
                text(f"UPDATE {table.__tablename__} SET {column.name} = {column.name}")  # names of our own tables
            )
            self.assertEqual(changed.rowcount, 0)  # type: ignore[attr-defined]
            self.assertEqual(session.execute(text(f"DELETE FROM {table.__tablename__}")).rowcount, 0)  # type: ignore[attr-defined]

    def assert_added_by_none(self, row: tables.Owned) -> None:
        with (
            self.assertRaisesRegex(DatabaseError, "row-level security"),
            database().workspace(self.who.workspace_id) as session,
        ):
            session.add(row)


class Devices(Pairing):
    def test_they_are_listed_and_ended(self) -> None:
        phone = self.phone()
        found = self.get("/devices")
        first = found[0]
        self.assertEqual((first["name"], first["is_helper"], first["is_own"]), ("Ravi", True, False))
        self.assertEqual([one["is_own"] for one in found].count(True), 1)
        self.send("POST", f"/devices/{found[0]['id']}/ended", status=204)
        self.assertEqual(phone.get(f"{API}/session").status_code, 401)
        self.assertIn("signed out already", self.send("POST", f"/devices/{found[0]['id']}/ended", status=404)["detail"])

    def test_a_helper_signs_out(self) -> None:
        phone = self.phone()
        self.assertEqual(phone.delete(f"{API}/session").status_code, 204)
        self.assertEqual(phone.get(f"{API}/session").status_code, 401)
