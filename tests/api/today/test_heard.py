"""What clients wait for stands on Today."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import text

from tests.api.handover.test_my_page import MyCase
from tests.support import database
from yantai.api.access import get_now


class Heard(MyCase):
    def test_each_is_counted(self) -> None:
        self.assertEqual(self.get("/heard"), {"forms": 0, "words": [], "messages": 0, "thaw": 0})
        self.tell(self.link(), "words", {"text": "Thank you"})
        form = self.send("POST", "/forms", {"name": "Nova", "address": "https://192.0.2.7:8765"}, status=201)
        headers = {"X-Client-Link": form["address"].partition("#")[2]}
        answers = {"agrees": True, "name": "Nova"}
        self.assertEqual(self.phone.patch("/api/v1/form", json=answers, headers=headers).status_code, 204)
        self.assertEqual(self.get("/heard")["forms"], 0)
        self.assertEqual(self.phone.post("/api/v1/form/handed-in", headers=headers).status_code, 204)
        words = [{"client_id": self.client_id("Milo Brandt"), "client": "Milo Brandt", "words": 1}]
        self.assertEqual(self.get("/heard"), {"forms": 1, "words": words, "messages": 0, "thaw": 0})
        # Milo's last lunch and some of Ada's wait in the freezer for Thursday.
        self.app.dependency_overrides[get_now] = lambda: datetime.fromisoformat("2026-12-02T09:00:00Z")
        drafts = self.send("POST", "/outbox/drafts", {"kind": "thaw tonight"})
        self.assertIn("Milo Brandt", [one["name"] for one in drafts])
        self.assertEqual(self.get("/heard")["thaw"], len(drafts))

    def test_a_message_that_did_not_go(self) -> None:
        made = {"name": "Nova", "email": "nova@port-alder.example", "address": "https://192.0.2.7:8765"}
        form = self.send("POST", "/forms", made, status=201)["form"]["id"]
        message = {"kind": "form", "form_id": form, "subject": "Hello", "body": "{link}"}
        self.send("POST", "/outbox", {"messages": [message], "address": "https://192.0.2.7:8765"}, status=201)
        for state, count in (("waiting", 0), ("refused", 1), ("unsure", 1), ("set aside", 0)):
            with self.subTest(state=state):
                with database().workspace(self.who.workspace_id) as session:
                    session.execute(text("UPDATE message SET state = :state"), {"state": state})
                self.assertEqual(self.get("/heard")["messages"], count)
