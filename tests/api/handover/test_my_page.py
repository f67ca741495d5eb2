"""The client's own page by link: what it shows, what it takes, and that it opens nothing else."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from fastapi.testclient import TestClient
from icalendar import Calendar
from sqlalchemy import text

from tests.api.case import API
from tests.api.handover.test_hand_over import HandOverCase
from tests.support import database
from yantai.api.access import LinkLimit, get_now

HEADER = "X-Client-Link"


class MyCase(HandOverCase):
    """It is Monday the 30th: cooking was on Sunday, and containers have their days from today on."""

    def setUp(self) -> None:
        super().setUp()
        self.app.state.link_limit = LinkLimit()
        self.at("2026-11-30T09:00:00Z")
        self.make()
        self.phone = TestClient(self.app)

    def at(self, moment: str) -> None:
        self.app.dependency_overrides[get_now] = lambda: datetime.fromisoformat(moment)

    def client_id(self, name: str) -> str:
        return str(self.week(name)["client_id"])

    def link(self, name: str = "Milo Brandt", **more: Any) -> str:
        body = {"address": "https://192.0.2.7:8765", "days": 30, **more}
        self.made = self.send("POST", f"/clients/{self.client_id(name)}/links", body, status=201)
        address, _, token = self.made["address"].partition("#")
        self.assertEqual(address, "https://192.0.2.7:8765/my")
        return str(token)

    def my(self, token: str, status: int = 200) -> Any:
        answer = self.phone.get(f"{API}/my", headers={HEADER: token})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def tell(self, token: str, path: str, body: Any, status: int = 204, key: str | None = None) -> Any:
        headers = {HEADER: token, **({"Idempotency-Key": key} if key else {})}
        method = "PUT" if path == "macros" else "POST"
        answer = self.phone.request(method, f"{API}/my/{path}", json=body, headers=headers)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json() if answer.content else None

    def mine(self, token: str, number: int) -> dict[str, Any]:
        every = [one for day in self.my(token)["days"] for one in day["containers"]]
        return next(dict(one) for one in every if one["container"] == number)

    def spot_of(self, token: str, number: int) -> dict[str, Any]:
        one = self.mine(token, number)
        return {"row_id": one["row_id"], "container": number}


class Page(MyCase):
    def test_it_shows_the_clients_days_and_nobody_elses(self) -> None:
        page = self.my(self.link())
        self.assertEqual((page["client"], page["today"], page["shows_macros"]), ("Milo Brandt", "2026-11-30", True))
        self.assertEqual(
            [day["on"] for day in page["days"]], [f"2026-{day}" for day in ("11-30", "12-01", "12-02", "12-03")]
        )
        first = page["days"][0]["containers"][0]
        self.assertEqual(
            (first["dish"], first["container"], first["of"], first["use_by"]), ("Chicken bowl", 1, 4, "Wed 2 Dec")
        )
        self.assertIn("hot all through (74 °C), once only", first["reheat"])
        self.assertEqual(page["days"][2]["thaw"], ["Chicken bowl, lunch, 4 of 4"])
        self.assertEqual(len(first["figures"]), 3)
        self.assertNotIn("Ada", str(page))
        self.assertNotIn("yoghurt", str(page).lower())

    def test_two_batches_on_one_day(self) -> None:
        """What one batch lacks may be in the other: the day is told once, and nobody says what it comes to."""
        token = self.link()
        first = self.my(token)["days"][0]
        target = next(one for one in self.get("/clients") if one["name"] == "Milo Brandt")["targets"][0]["id"]
        recipe = self.batch_plan()["dishes"][0]["recipe_id"]
        dishes = [{"recipe_id": recipe, "eaters": [{"target_id": target, "count": 2}]}]
        made = {"name": "More", "cook_on": "2026-11-29", "dishes": dishes}
        other = self.send("POST", "/batches", made, status=201)["batch"]["id"]
        self.send("POST", f"/batches/{other}/hand-over/calendar", {}, status=204)
        both = self.my(token)["days"][0]
        self.assertEqual((len(first["containers"]), len(both["containers"]), both["total"]), (1, 2, ""))

    def test_days_that_are_over_go(self) -> None:
        token = self.link()
        self.at("2026-12-03T09:00:00Z")
        self.assertEqual([day["on"] for day in self.my(token)["days"]], ["2026-12-01", "2026-12-02", "2026-12-03"])

    def test_macros_are_not_sent_where_they_are_hidden(self) -> None:
        token = self.link(shows_macros=False)
        page = self.my(token)
        for day in page["days"]:
            self.assertEqual(day["total"], "")
            for one in day["containers"]:
                self.assertEqual((one["figures"], one["kcal"]), ([], ""))
        self.tell(token, "macros", {"shows_macros": True})
        self.assertNotEqual(self.my(token)["days"][0]["total"], "")

    def test_a_calendar_of_eating_and_thawing(self) -> None:
        page = self.my(self.link())
        answer = self.phone.get(page["feed"])
        self.assertEqual(answer.status_code, 200)
        events = {
            (str(event["SUMMARY"]), event.decoded("DTSTART").isoformat())
            for event in Calendar.from_ical(answer.content).walk("VEVENT")
        }
        self.assertIn(("Lunch: Chicken bowl", "2026-11-30"), events)
        self.assertIn(("Thaw tonight, in the fridge", "2026-12-02"), events)
        self.assertEqual(len(events), 5)
        # Who has the calendar's address has not the link.
        self.my(page["feed"].rpartition("/")[2].removesuffix(".ics"), status=404)
        self.assertEqual(self.phone.get(f"{API}/my/calendar/{'0' * 64}.ics").status_code, 404)


class Telling(MyCase):
    def test_eaten_left_and_taken_back(self) -> None:
        token = self.link()
        spot = self.spot_of(token, 1)
        self.tell(token, "eaten", {**spot, "event": "eaten"})
        self.assertEqual(self.mine(token, 1)["told"], "eaten")
        self.tell(token, "eaten", {**spot, "event": "left", "left_share": 0.25})
        told = self.mine(token, 1)
        self.assertEqual((told["told"], told["left"]), ("left", "a quarter"))
        self.tell(token, "eaten", {**spot, "event": "left", "left_g": 80})
        self.assertEqual(self.mine(token, 1)["left"], "80 g")
        seen = self.placed("Milo Brandt", "lunch", 1)
        self.assertEqual((seen["told"], seen["left"]), ("left", "80 g"))
        self.tell(token, "eaten", {**spot, "event": "taken back"})
        self.assertIsNone(self.mine(token, 1)["told"])
        with database().reading(self.who.workspace_id) as session:
            left = session.execute(text("SELECT event, left_g, made_by FROM eating_fact ORDER BY number")).all()
        self.assertEqual([row.event for row in left], ["eaten", "left", "left", "taken back"])
        self.assertEqual({row.made_by for row in left}, {"Milo Brandt"})
        self.assertAlmostEqual(float(left[1].left_g), told["grams"] / 4, delta=0.01)

    def test_how_much_was_left_is_asked_for_and_believable(self) -> None:
        token = self.link()
        spot = self.spot_of(token, 1)
        lacking = self.tell(token, "eaten", {**spot, "event": "left"}, status=422)
        self.assert_fault(lacking, "/left_share", "how much was left")
        more = self.tell(token, "eaten", {**spot, "event": "left", "left_g": 4000}, status=422)
        self.assert_fault(more, "/left_g", "no more than that can be left")

    def test_the_same_wish_twice_is_one_fact(self) -> None:
        token = self.link()
        body, key = {**self.spot_of(token, 1), "event": "eaten"}, str(uuid.uuid4())
        for _ in range(3):
            self.tell(token, "eaten", body, key=key)
        with database().reading(self.who.workspace_id) as session:
            self.assertEqual(session.execute(text("SELECT count(*) FROM eating_fact")).scalar_one(), 1)

    def test_two_containers_change_their_days(self) -> None:
        token = self.link()
        one = self.mine(token, 1)
        choices = {swap["container"]: swap for swap in one["swaps"]}
        # The one in the freezer is not thawed today, and the first would be past its days on the fourth.
        self.assertEqual(sorted(choices), [2, 3])
        other = choices[3]
        body = {**self.spot_of(token, 1), "with_row_id": other["row_id"], "with_container": 3}
        self.tell(token, "swaps", body)
        self.assertEqual(self.my(token)["days"][0]["containers"][0]["container"], 3)
        self.assertTrue(self.placed("Milo Brandt", "lunch", 3)["by_hand"])
        bad = {**self.spot_of(token, 3), "with_row_id": other["row_id"], "with_container": 4}
        refused = self.tell(token, "swaps", bad, status=422)
        self.assertIn("would not be good to eat", refused["detail"])

    def test_what_is_eaten_changes_its_day_no_more(self) -> None:
        token = self.link()
        self.tell(token, "eaten", {**self.spot_of(token, 1), "event": "eaten"})
        self.assertEqual(self.mine(token, 1)["swaps"], [])
        spot = self.spot_of(token, 2)
        body = {**self.spot_of(token, 1), "with_row_id": spot["row_id"], "with_container": 2}
        self.assertIn("eaten already", self.tell(token, "swaps", body, status=422)["detail"])

    def test_a_word_reaches_the_coach(self) -> None:
        token = self.link()
        self.tell(token, "words", {"text": "  Too much bulgur <b>for</b> me.\nThanks  "})
        self.assert_fault(self.tell(token, "words", {"text": " \n"}, status=422), "/text", "nothing in it yet")
        self.tell(token, "words", {"text": "x" * 1001}, status=422)
        self.assertEqual([self.week(name)["unread"] for name in ("Milo Brandt", "Ada Vance")], [1, 0])
        path = f"/clients/{self.client_id('Milo Brandt')}"
        (word,) = self.get(f"{path}/page")["words"]
        self.assertEqual((word["text"], word["read_at"]), ("Too much bulgur <b>for</b> me.\nThanks", None))
        self.assertIsNotNone(self.send("POST", f"{path}/words/read")["words"][0]["read_at"])


class Kitchen(MyCase):
    def ask(self, token: str, path: str, status: int = 200, **query: Any) -> Any:
        answer = self.phone.get(f"{API}/my/kitchen{path}", params=query, headers={HEADER: token})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def test_the_clients_share_of_every_pot(self) -> None:
        token = self.link()
        pans = {one["name"]: one for one in self.ask(token, "")["pans"]}
        self.assertEqual(sorted(pans), ["Bulgur", "Chicken"])
        pan = pans["Bulgur"]
        self.assertTrue(pan["is_weighed"])
        path = f"/{pan['batch_id']}/{pan['component_id']}"
        self.assertEqual(self.ask(token, path, pan_g=1000)["grams"], ["250 g"])
        self.assertEqual(self.ask(token, path, pan_g=1003)["grams"], ["250 g"])
        self.ask(token, path, status=422, pan_g=0)
        self.ask(token, path, status=422)

    def test_what_is_in_others_containers_is_not_there(self) -> None:
        token = self.link()
        self.ask(token, f"/{self.batch_id}/{self.parts['Sauce']}", status=404, pan_g=500)
        self.ask(token, f"/{uuid.uuid4()}/{self.parts['Chicken']}", status=404, pan_g=500)


class Links(MyCase):
    def test_only_hashes_are_kept(self) -> None:
        token = self.link()
        with database().workspace(self.who.workspace_id) as session:
            tables = session.execute(text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")).scalars()
            for table in list(tables):
                found = session.execute(
                    text(f'SELECT count(*) FROM "{table}" AS t WHERE to_jsonb(t)::text LIKE :part'),
                    {"part": f"%{token}%"},
                )
                self.assertEqual(found.scalar_one(), 0, table)

    def test_an_answer_that_is_asked_for_again_is_without_the_secret(self) -> None:
        key, path = str(uuid.uuid4()), f"{API}/clients/{self.client_id('Milo Brandt')}/links"
        body = {"address": "https://192.0.2.7:8765", "days": 30}
        first, second = (self.client.post(path, json=body, headers={"Idempotency-Key": key}).json() for _ in range(2))
        self.assertEqual((first["link"]["id"], second["address"], second["code"]), (second["link"]["id"], "", ""))
        self.assertEqual(len(self.get(f"/clients/{self.client_id('Milo Brandt')}/page")["links"]), 1)

    def test_it_is_counted_when_it_is_opened_by_two_phones(self) -> None:
        token = self.link()
        self.my(token)
        self.phone = TestClient(self.app)
        self.my(token)
        (link,) = self.get(f"/clients/{self.client_id('Milo Brandt')}/page")["links"]
        self.assertEqual((link["opened"], link["is_open"], link["seen_at"] is not None), (2, True, True))

    def test_expired_revoked_and_wrong_links_are_told_the_same(self) -> None:
        token = self.link(days=1)
        path = f"/clients/{self.client_id('Milo Brandt')}/links/{self.made['link']['id']}/revoked"
        self.at("2026-12-01T08:59:00Z")
        self.my(token)
        self.at("2026-12-01T09:01:00Z")
        expired = self.my(token, status=404)["detail"]
        self.assertEqual(self.my("nonsense", status=404)["detail"], expired)
        self.at("2026-11-30T09:00:00Z")
        self.assertFalse(self.send("POST", path)["links"][0]["is_open"])
        self.assertEqual(self.my(token, status=404)["detail"], expired)
        self.assertEqual(self.my("", status=404)["detail"], expired)
        self.assertIn("Ask your coach for a new one", expired)

    def test_guessing_ends_soon(self) -> None:
        token = self.link()
        answers = [
            self.phone.get(f"{API}/my", headers={HEADER: f"guess{number}"}).status_code
            for number in range(10_000 // 250)
        ]
        self.assertEqual((answers[:20], set(answers[20:])), ([404] * 20, {429}))
        # Nor is a good one looked up for who guesses, nor a calendar.
        self.my(token, status=429)
        self.assertEqual(self.phone.get(f"{API}/my/calendar/{'0' * 64}.ics").status_code, 429)
        self.app.state.link_limit = LinkLimit()
        self.my(token)

    def test_a_link_of_an_address_that_is_none(self) -> None:
        body = {"address": "javascript:alert(1)", "days": 30}
        path = f"/clients/{self.client_id('Milo Brandt')}/links"
        self.assert_fault(self.send("POST", path, body, status=422), "/address", "address of this page")
        self.assert_fault(self.send("POST", path, {**body, "days": 400}, status=422), "/days", "from 1 to 366")
        self.send("POST", f"/clients/{uuid.uuid4()}/links", {**body, "address": "https://192.0.2.7"}, status=404)


class Apart(MyCase):
    def test_it_opens_no_other_address_of_the_api(self) -> None:
        token = self.link()
        contract = self.app.openapi()["paths"]
        some = str(uuid.uuid4())
        tried = 0
        for path, methods in contract.items():
            for method in methods:
                if path.startswith(f"{API}/my") or method not in ("get", "post", "put", "delete", "patch"):
                    continue
                address = path
                for name in ("batch_id", "client_id"):
                    known = self.batch_id if name == "batch_id" else self.client_id("Ada Vance")
                    address = address.replace(f"{{{name}}}", known)
                while "{" in address:
                    start, end = address.index("{"), address.index("}")
                    address = address[:start] + some + address[end + 1 :]
                answer = self.phone.request(method.upper(), address, json={}, headers={HEADER: token})
                with self.subTest(path=path, method=method):
                    self.assertIn(answer.status_code, _CLOSED.get(path, (401, 403)), answer.text[:200])
                tried += 1
        self.assertGreater(tried, 150)

    def test_containers_of_others_are_not_there(self) -> None:
        token = self.link()
        ada = self.spot("Ada Vance", "lunch", 1)
        self.tell(token, "eaten", {**ada, "event": "eaten"}, status=404)
        own = self.spot_of(token, 1)
        body = {**own, "with_row_id": ada["row_id"], "with_container": 1}
        self.tell(token, "swaps", body, status=404)
        self.tell(token, "eaten", {**own, "container": 5, "event": "eaten"}, status=404)

    def test_another_kitchen_knows_nothing_of_it(self) -> None:
        self.link()
        other, path = self.other_kitchen(), f"{API}/clients/{self.client_id('Milo Brandt')}"
        self.assertEqual(other.get(f"{path}/page").status_code, 404)
        self.assertEqual(other.post(f"{path}/links/{self.made['link']['id']}/revoked").status_code, 404)

    def test_answers_are_not_kept_and_not_indexed(self) -> None:
        answer = self.phone.get(f"{API}/my", headers={HEADER: self.link()})
        self.assertIn("noindex", answer.headers["x-robots-tag"])
        self.assertEqual(answer.headers["referrer-policy"], "same-origin")
        self.assertIn("no-store", answer.headers["cache-control"])


_CLOSED: dict[str, tuple[int, ...]] = {
    # A form opens by a link of its own.
    f"{API}/form": (404,),
    f"{API}/form/handed-in": (404,),
    # Signing in asks for what a client does not have; the others are open to everybody and tell of nobody.
    f"{API}/session": (401, 403, 422),
    f"{API}/session/paired": (422,),
    f"{API}/calendar/{{token}}.ics": (404,),
    f"{API}/health": (200,),
    f"{API}/installation": (200,),
}
