"""Messages to clients: from templates, kept, sent once, refused, tried again; each to nobody but whom it is for."""

from __future__ import annotations

import re
import tempfile
import threading
import uuid
from contextlib import suppress
from datetime import datetime
from email.message import EmailMessage
from pathlib import Path
from typing import Any

from sqlalchemy import text

from tests.api.case import API
from tests.api.handover.test_hand_over import HandOverCase
from tests.support import database, settings
from yantai.api.access import LinkLimit, get_now, get_settings
from yantai.devices.mail import Mailer, NotSent, Unsure
from yantai.devices.post_office import PostOffice
from yantai.jobs import worker
from yantai.launcher.postgres import free_port
from yantai.work.outbox.sending import MOST_TRIES, TryAgain, send_message

ADDRESS = "https://192.0.2.7:8765"
NOW = datetime.fromisoformat("2026-11-30T09:00:00Z")


class Post:
    """A mailer that takes messages, or answers with an error."""

    def __init__(self, error: Exception | None = None) -> None:
        self.error, self.sent = error, list[EmailMessage]()

    def send(self, message: EmailMessage) -> None:
        self.sent.append(message)
        if self.error is not None:
            raise self.error


class OutboxCase(HandOverCase):
    """It is Monday the 30th. Ada has an address, Milo has none."""

    def setUp(self) -> None:
        super().setUp()
        self.app.state.link_limit = LinkLimit()
        self.app.dependency_overrides[get_now] = lambda: NOW
        with database().engine.begin() as connection:
            connection.execute(text("DELETE FROM procrastinate_jobs"))
        self.make()
        self.give_address("Ada Vance", "ada@port-alder.example")

    def give_address(self, name: str, email: str) -> str:
        client = next(one for one in self.get("/clients") if one["name"] == name)
        with database().workspace(self.who.workspace_id) as session:
            session.execute(
                text("UPDATE client SET email = :email WHERE id = :id"), {"email": email, "id": client["id"]}
            )
        return str(client["id"])

    def drafts(self, kind: str = "hand-over", status: int = 200, **more: Any) -> Any:
        if kind == "hand-over":
            more.setdefault("batch_id", str(self.batch_id))
        return self.send("POST", "/outbox/drafts", {"kind": kind, **more}, status=status)

    def post(self, *drafts: dict[str, Any], status: int = 201, **more: Any) -> Any:
        kept = ("kind", "client_id", "form_id", "batch_id", "subject", "body")
        messages = [{**{key: draft[key] for key in kept}, **more} for draft in drafts]
        return self.send("POST", "/outbox", {"messages": messages, "address": ADDRESS}, status=status)

    def posted(self) -> dict[str, Any]:
        """A message to Ada that waits."""
        return dict(self.post(self.drafts()[0])[0])

    def go(self, message: dict[str, Any], mailer: Mailer) -> dict[str, Any]:
        """A worker takes it once."""
        with suppress(TryAgain):
            send_message(database(), mailer, self.who.workspace_id, uuid.UUID(message["id"]), NOW, "")
        return self.in_outbox(message)

    def in_outbox(self, message: dict[str, Any]) -> dict[str, Any]:
        return next(dict(one) for one in self.get("/outbox")["messages"] if one["id"] == message["id"])

    def links(self) -> int:
        with database().workspace(self.who.workspace_id) as session:
            return int(session.execute(text("SELECT count(*) FROM client_link")).scalar_one())


class Drafts(OutboxCase):
    def test_each_client_of_the_batch_has_one(self) -> None:
        ada, milo = self.drafts()
        self.assertEqual((ada["name"], ada["address"], ada["lacks"]), ("Ada Vance", "ada@port-alder.example", ""))
        self.assertIn("- 5 x Chicken bowl, lunch\n- 3 x Chicken bowl, dinner", ada["body"])
        self.assertIn("Your containers, Mon 30 Nov to ", ada["subject"])
        self.assertIn("{link}", ada["body"])
        self.assertNotRegex(ada["body"].replace("{link}", ""), r"[{}]")
        self.assertNotIn("Milo", str(ada))
        self.assertIn("no e-mail address", milo["lacks"])

    def test_what_thaws_tonight(self) -> None:
        """Milo's fourth lunch waits in the freezer for Thursday: it is told on Wednesday, and to nobody else."""
        self.give_address("Milo Brandt", "milo@port-alder.example")
        (milo,) = [one for one in self.drafts("thaw tonight", on="2026-12-02") if one["name"] == "Milo Brandt"]
        self.assertIn("for Thu 3 Dec:\n- Chicken bowl, lunch, 4 of 4\n", milo["body"])
        self.assertEqual(self.drafts("thaw tonight", on="2026-12-20"), [])

    def test_it_is_said_when_it_went_already(self) -> None:
        self.assertIsNone(self.drafts()[0]["already"])
        self.posted()
        self.assertIsNotNone(self.drafts()[0]["already"])

    def test_without_days_it_does_not_go(self) -> None:
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("DELETE FROM placement"))
        self.assertIn("make the calendar", self.drafts()[0]["lacks"])

    def test_for_whom_is_asked(self) -> None:
        for kind, pointer in (("hand-over", "/batch_id"), ("form", "/form_id"), ("how was it", "/form_id")):
            with self.subTest(kind=kind):
                self.assert_fault(self.drafts(kind, status=422, batch_id=None), pointer, "Choose")
        self.drafts(batch_id=str(uuid.uuid4()), status=404)
        self.drafts("form", form_id=str(uuid.uuid4()), status=404)


class Templates(OutboxCase):
    def test_they_are_the_kitchens_own(self) -> None:
        body = "Ahoy {client}!\n{containers}\n{link}"
        self.send("PUT", "/message-templates/hand-over", {"subject": "Ahoy {client}", "body": body})
        self.assertEqual(self.drafts()[0]["subject"], "Ahoy Ada Vance")
        other = self.other_kitchen().get(f"{API}/message-templates").json()
        self.assertTrue(all(one["is_standard"] for one in other))
        (changed,) = [one for one in self.get("/message-templates") if not one["is_standard"]]
        self.assertEqual((changed["kind"], changed["body"]), ("hand-over", body))
        again = self.send("PUT", "/message-templates/hand-over", {})
        self.assertTrue(all(one["is_standard"] for one in again))

    def test_what_is_filled_by_nothing(self) -> None:
        for body, pointer, words in (
            ({"subject": "Hi", "body": "{clients} {link}"}, "/body", "“{clients}” is filled by nothing"),
            ({"subject": "{link}", "body": "x"}, "/subject", "for the body"),
            ({"subject": "Hi", "body": "a" * 5001}, "/body", "5,000 fit"),
            ({"subject": "a\nb", "body": "{link}"}, "/subject", "cannot be read"),
        ):
            with self.subTest(words=words):
                self.assert_fault(self.send("PUT", "/message-templates/hand-over", body, status=422), pointer, words)
        self.send("PUT", "/message-templates/nonsense", {}, status=422)


class Sending(OutboxCase):
    def test_it_goes_to_its_client_with_a_link_of_their_own(self) -> None:
        message, post = self.posted(), Post()
        self.assertEqual((message["state"], self.links()), ("waiting", 0))
        self.assertEqual(self.go(message, post)["state"], "sent")
        (mail,) = post.sent
        self.assertEqual(
            (mail["To"], mail["From"]), ("Ada Vance <ada@port-alder.example>", f"Test Coach <{self.email}>")
        )
        (address,) = re.findall(r"https://\S+", mail.get_content())
        base, _, token = address.partition("#")
        self.assertEqual(base, f"{ADDRESS}/my")
        page = self.client.get(f"{API}/my", headers={"X-Client-Link": token})
        self.assertEqual(page.json()["client"], "Ada Vance")
        with database().workspace(self.who.workspace_id) as session:
            kept = str(session.execute(text("SELECT m::text FROM message m")).scalars().all())
        self.assertNotIn(token, kept)
        self.assertIn("{link}", self.in_outbox(message)["body"])

    def test_never_twice(self) -> None:
        message, post = self.posted(), Post()
        for _ in range(3):
            self.go(message, post)
        self.assertEqual(len(post.sent), 1)
        self.send("POST", f"/outbox/{message['id']}/again", status=422)
        self.send("POST", f"/outbox/{message['id']}/set-aside", status=422)

    def test_two_workers_at_once(self) -> None:
        message, post = self.posted(), Post()
        ready = threading.Barrier(2)

        def take() -> None:
            ready.wait()
            send_message(database(), post, self.who.workspace_id, uuid.UUID(message["id"]), NOW, "")

        workers = [threading.Thread(target=take) for _ in range(2)]
        for one in workers:
            one.start()
        for one in workers:
            one.join()
        self.assertEqual(len(post.sent), 1)

    def test_a_server_that_is_down_is_tried_again_and_leaves_no_link(self) -> None:
        message, down = self.posted(), Post(NotSent("The mail server cannot be reached."))
        shown = self.go(message, down)
        self.assertEqual((shown["state"], shown["attempts"]), ("waiting", 1))
        self.assertEqual((shown["trouble"], self.links()), ("The mail server cannot be reached.", 0))
        self.assertEqual(self.go(message, Post())["state"], "sent")
        self.assertEqual(self.links(), 1)

    def test_after_the_last_try_it_stays_with_the_reason(self) -> None:
        message, down = self.posted(), Post(NotSent("The mail server cannot be reached."))
        states = [self.go(message, down)["state"] for _ in range(MOST_TRIES)]
        self.assertEqual(states, ["waiting"] * (MOST_TRIES - 1) + ["refused"])
        self.assertEqual(self.send("POST", f"/outbox/{message['id']}/again")["state"], "waiting")
        self.assertEqual(self.go(message, Post())["state"], "sent")

    def test_what_is_refused_for_good_is_not_tried_again(self) -> None:
        message = self.posted()
        shown = self.go(message, Post(NotSent("The mail server refuses the address: 550 no", lasting=True)))
        self.assertEqual((shown["state"], shown["attempts"]), ("refused", 1))
        post = Post()
        self.go(message, post)
        self.assertEqual(post.sent, [])

    def test_where_nobody_knows_a_person_decides(self) -> None:
        message = self.posted()
        self.assertEqual(self.go(message, Post(Unsure("lost")))["state"], "unsure")
        self.assertEqual(self.links(), 1)
        post = Post()
        self.go(message, post)
        self.assertEqual(post.sent, [])
        self.send("POST", f"/outbox/{message['id']}/again")
        self.assertEqual(self.go(message, post)["state"], "sent")

    def test_a_worker_that_was_killed_in_the_middle(self) -> None:
        message = self.posted()
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("UPDATE message SET state = 'sending'"))
        post = Post()
        shown = self.go(message, post)
        self.assertEqual((shown["state"], post.sent), ("unsure", []))
        self.assertIn("it may have gone", shown["trouble"])

    def test_set_aside_it_does_not_go(self) -> None:
        message, post = self.posted(), Post()
        self.send("POST", f"/outbox/{message['id']}/set-aside")
        self.assertEqual((self.go(message, post)["state"], post.sent), ("set aside", []))

    def test_a_form_goes_to_who_fills_it_in(self) -> None:
        made = {"name": "Nova", "email": "nova@port-alder.example", "address": ADDRESS}
        form = self.send("POST", "/forms", made, status=201)
        (draft,) = self.drafts("form", form_id=form["form"]["id"])
        message, post = self.post(draft)[0], Post()
        self.go(message, post)
        self.assertEqual(post.sent[0]["To"], "Nova <nova@port-alder.example>")
        token = re.findall(r"/form#(\S+)", post.sent[0].get_content())[0]
        opened = self.client.get(f"{API}/form", headers={"X-Client-Link": token})
        self.assertEqual(opened.json()["name"], "Nova")
        # The link that was shown before works no more: there is one, and it is with the client.
        earlier = form["address"].partition("#")[2]
        self.assertEqual(self.client.get(f"{API}/form", headers={"X-Client-Link": earlier}).status_code, 404)
        self.send("POST", f"/forms/{form['form']['id']}/revoked")
        self.assertIn("is over", self.drafts("form", form_id=form["form"]["id"])[0]["lacks"])
        self.assertIn("is over", self.post(draft, status=422)["detail"])

    def test_to_whom_there_is_no_way(self) -> None:
        milo = self.drafts()[1]
        self.assert_fault(self.post(self.drafts()[0], milo, status=422), "/messages/1/client_id", "no e-mail address")
        self.assertEqual(self.get("/outbox")["messages"], [])

    def test_what_was_mended_is_checked(self) -> None:
        ada = self.drafts()[0]
        self.assert_fault(self.post(ada, status=422, body="{links}"), "/messages/0/body", "filled by nothing")
        self.assert_fault(self.post(ada, status=422, subject=" "), "/messages/0/subject", "nothing in it")

    def test_another_kitchen_sees_none_and_sends_none(self) -> None:
        message, draft = self.posted(), self.drafts()[0]
        other = self.other_kitchen()
        self.assertEqual(other.get(f"{API}/outbox").json()["messages"], [])
        self.assertEqual(other.post(f"{API}/outbox/{message['id']}/again").status_code, 404)
        kept = {key: draft[key] for key in ("kind", "client_id", "subject", "body")}
        answer = other.post(f"{API}/outbox", json={"messages": [kept], "address": ADDRESS})
        self.assertEqual(answer.status_code, 404)


class PostOfficeCase(OutboxCase):
    """The whole way: the queue, a worker, a mail server, and what arrived."""

    def setUp(self) -> None:
        super().setUp()
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "post"
        self.office = PostOffice(self.folder, free_port())
        self.office.open()
        self.settings = settings().model_copy(
            update={"mail_url": self.office.url, "post_office": str(self.folder), "mail_from": "kitchen@yantai.example"}
        )
        self.app.dependency_overrides[get_settings] = lambda: self.settings

    def work(self) -> None:
        worker.run(self.settings, until_empty=True)

    def test_to_the_post_office(self) -> None:
        self.addCleanup(self.office.close)
        message = self.posted()
        self.assertEqual(self.get("/post-office"), [])
        self.work()
        self.assertEqual(self.in_outbox(message)["state"], "sent")
        (one,) = self.get("/post-office")
        self.assertEqual((one["id"], one["to"]), (message["id"], "Ada Vance <ada@port-alder.example>"))
        self.assertEqual(one["sender"], "Test Coach <kitchen@yantai.example>")
        self.assertRegex(one["body"], rf"{ADDRESS}/my#\S+")
        self.assertEqual(self.other_kitchen().get(f"{API}/post-office").json(), [])
        self.work()
        self.assertEqual(len(self.get("/post-office")), 1)

    def test_closed_then_open_again(self) -> None:
        self.office.close()
        message = self.posted()
        self.work()
        shown = self.in_outbox(message)
        self.assertEqual((shown["state"], shown["trouble"]), ("waiting", "The mail server cannot be reached."))
        self.office = PostOffice(self.folder, free_port())
        self.office.open()
        self.addCleanup(self.office.close)
        self.settings = self.settings.model_copy(update={"mail_url": self.office.url})
        self.send("POST", f"/outbox/{message['id']}/again")
        self.work()
        self.assertEqual((self.in_outbox(message)["state"], len(self.get("/post-office"))), ("sent", 1))
        # The try that was still to come finds it gone.
        with database().engine.begin() as connection:
            waiting = text("UPDATE procrastinate_jobs SET scheduled_at = now() WHERE status = 'todo'")
            self.assertEqual(connection.execute(waiting).rowcount, 1)
        self.work()
        self.assertEqual(len(self.get("/post-office")), 1)

    def test_none_is_set(self) -> None:
        self.addCleanup(self.office.close)
        self.settings = settings()
        message = self.posted()
        self.work()
        self.assertIn("No mail server is set", self.in_outbox(message)["trouble"])
        self.assertEqual((self.get("/outbox")["can_send"], self.get("/post-office")), (False, []))
