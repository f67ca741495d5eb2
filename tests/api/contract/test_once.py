"""What is sent with an id is made once, whatever it is and however often it arrives."""

from __future__ import annotations

import threading
import uuid
from typing import Any

from sqlalchemy import select, text

from tests.api.case import command
from tests.api.wishes import EveryWish, Wish
from tests.kitchens import eaters
from tests.support import database
from yantai.store import tables
from yantai.work.common.receipts import ANSWERS_KEPT

READS = {
    # Nothing is written by these: they compute what is typed.
    "suggest_day", "draft_messages", "preview_days", "read_words", "preview_recipe", "scale_recipe", "read_recipe_text",
    "preview_food",
    "preview_batch", "read_arrivals",
}  # fmt: skip
IN_THE_BODY = {"change_batch", "take_back"}
"""Commands of a batch carry their id with their changes."""
AT_THE_DEVICE = {"put_on_pan", "tare_instrument", "zero_instrument"}
"""What changes no row but the receipt."""
SHOWN_ONCE = {"make_client_link": ("address", "code"), "make_feed": ("address",), "make_form": ("address", "code")}
"""What of an answer is a secret, of which nothing is kept: the same again is answered without it."""
UNREPEATED = {"sign_in", "sign_in_by_code", "sign_out"}


class Once(EveryWish):
    def test_every_route_that_writes_takes_an_id(self) -> None:
        found = set()
        for methods in self.app.openapi()["paths"].values():
            for method, route in methods.items():
                if method != "get" and route["operationId"] not in READS | IN_THE_BODY | UNREPEATED:
                    found.add(route["operationId"])
                    names = {parameter["name"] for parameter in route.get("parameters", [])}
                    self.assertIn("idempotency-key", names, route["operationId"])
        self.assertEqual(found, set(self.wishes()))

    def test_what_is_sent_again_says_when_and_is_the_same(self) -> None:
        """A browser that heard no answer tries again, and says by its clock when it did."""
        for name in self.dated():
            with self.subTest(route=name):
                wish, key = self.wishes()[name](), str(uuid.uuid4())
                sent = {**wish.body, "happened_at": "2026-11-24T09:00:00Z", "sent_at": "2026-11-24T09:00:01Z"}
                first = self.ask(wish, key, sent)
                self.assertLess(first.status_code, 300, first.text)
                after = self.rows()
                second = self.ask(wish, key, {**sent, "sent_at": "2026-11-24T09:20:00Z"})
                self.assertLess(second.status_code, 300, second.text)
                self.assertEqual(second.content and second.json(), first.content and first.json())
                self.assertEqual(self.rows(), after)

    def dated(self) -> set[str]:
        """Routes whose wishes say when they happened, but for those that carry their id themselves."""
        contract = self.app.openapi()
        found = set()
        for methods in contract["paths"].values():
            for route in methods.values():
                given = route.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})
                schema = contract["components"]["schemas"].get(given.get("$ref", "").rpartition("/")[2], {})
                if "sent_at" in schema.get("properties", {}):
                    found.add(route["operationId"])
        self.assertGreaterEqual(found, IN_THE_BODY)
        return found - IN_THE_BODY

    def test_the_same_again_is_answered_the_same_and_changes_nothing(self) -> None:
        for name, make in self.wishes().items():
            with self.subTest(route=name):
                wish, key = make(), str(uuid.uuid4())
                before = self.rows()
                first = self.ask(wish, key)
                self.assertLess(first.status_code, 300, first.text)
                after = self.rows()
                if name not in {"start_survey", "take_foods", "take_targets", *AT_THE_DEVICE}:
                    self.assertNotEqual(before, after)
                second = self.ask(wish, key)
                self.assertLess(second.status_code, 300, second.text)
                answered = first.content and first.json()
                for secret in SHOWN_ONCE.get(name, ()):
                    self.assertNotEqual(answered.pop(secret), "")
                    answered[secret] = ""
                self.assertEqual(second.content and second.json(), answered)
                self.assertEqual(self.rows(), after)
                self.take_up()

    def test_another_wish_with_the_same_id_is_refused_in_words(self) -> None:
        for name, make in self.wishes().items():
            wish = make()
            if wish.other is None:
                continue
            with self.subTest(route=name):
                key = str(uuid.uuid4())
                self.assertLess(self.ask(wish, key).status_code, 300)
                after = self.rows()
                refused = self.ask(wish, key, wish.other)
                self.assertEqual(refused.status_code, 422, refused.text)
                self.assertIn("saved already, with other values", refused.json()["detail"])
                self.assertEqual(self.rows(), after)

    def test_what_was_refused_may_be_sent_again(self) -> None:
        key, client = str(uuid.uuid4()), eaters()[0].model_dump(mode="json")
        wish = Wish("POST", "/clients", {**client, "name": " "})
        self.assertEqual(self.ask(wish, key).status_code, 422)
        self.assertEqual(self.ask(wish, key, client).status_code, 201)

    def test_two_that_arrive_at_once_make_one(self) -> None:
        key, client = str(uuid.uuid4()), {**eaters()[0].model_dump(mode="json"), "name": "Only One"}
        answers: list[Any] = []
        together = threading.Barrier(2)

        def send() -> None:
            together.wait()
            answers.append(self.ask(Wish("POST", "/clients", client), key))

        threads = [threading.Thread(target=send) for _ in range(2)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertEqual(answers[0].json(), answers[1].json())
        with database().workspace(self.who.workspace_id) as session:
            self.assertEqual(
                len(session.scalars(select(tables.Client).where(tables.Client.name == "Only One")).all()), 1
            )

    def test_a_week_later_it_is_still_one(self) -> None:
        wish, key = self.wishes()["create_client"](), str(uuid.uuid4())
        first = self.ask(wish, key)
        self._age("7 days")
        self.ask(self.wishes()["create_food"](), str(uuid.uuid4()))
        self.assertEqual(self.ask(wish, key).json(), first.json())

    def test_names_in_answers_are_dropped_in_time_and_nothing_is_made_twice(self) -> None:
        wish, key = self.wishes()["create_client"](), str(uuid.uuid4())
        self.ask(wish, key)
        self._age(f"{ANSWERS_KEPT.days + 1} days")
        self.ask(self.wishes()["create_food"](), str(uuid.uuid4()))
        after = self.rows()
        refused = self.ask(wish, key)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("This was saved already, on ", refused.json()["detail"])
        self.assertEqual(self.rows(), after)

    def _age(self, interval: str) -> None:
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text(f"UPDATE receipt SET made_at = made_at - interval '{interval}'"))

    def test_one_id_in_two_kitchens_is_two_wishes(self) -> None:
        wish, key = self.wishes()["create_client"](), str(uuid.uuid4())
        self.assertEqual(self.ask(wish, key).status_code, 201)
        mine = self.client
        self.client = self.other_kitchen()
        self.assertEqual(self.ask(wish, key).status_code, 201)
        self.client = mine

    def test_commands_of_a_batch_carry_their_own(self) -> None:
        plan = self.get(f"/batches/{self.batch.batch.id}/plan")
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"], "grams": 90}
        body = command(plan, pin)
        first = self.command(plan, body)
        after = self.rows()
        self.assertEqual(self.command(plan, body), first)
        self.assertEqual(self.rows(), after)
