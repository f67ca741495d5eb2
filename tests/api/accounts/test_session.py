from __future__ import annotations

import re
import unittest
import uuid
from datetime import UTC, datetime, timedelta

from fastapi.testclient import TestClient
from sqlalchemy import text

from tests.api.case import API, ApiCase
from tests.support import PASSWORD, database, new_email, new_kitchen, settings
from yantai.api.access import COOKIE, CSRF_HEADER, get_now
from yantai.api.app import create_app
from yantai.work.accounts.sessions import SESSION_LASTS, create_workspace
from yantai.work.common.errors import Invalid


class SignIn(ApiCase):
    def test_who_is_signed_in(self) -> None:
        self.assertEqual(self.get("/session")["email"], self.email)

    def test_the_cookie_is_out_of_reach_of_scripts_and_other_sites(self) -> None:
        answer = self.client.post(f"{API}/session", json={"email": self.email, "password": PASSWORD})
        cookie = answer.headers["set-cookie"]
        for part in ("HttpOnly", "SameSite=lax", "Path=/"):
            self.assertIn(part, cookie)

    def test_address_and_password_are_not_told_apart(self) -> None:
        wrong = self.send("POST", "/session", {"email": self.email, "password": "x"}, status=401)
        unknown = self.send("POST", "/session", {"email": new_email(), "password": "x"}, status=401)
        self.assertEqual(wrong["detail"], unknown["detail"])

    def test_the_address_may_be_typed_in_capitals(self) -> None:
        self.sign_in(self.client, f"  {self.email.upper()} ")

    def test_signing_out_ends_the_session_for_good(self) -> None:
        token = self.client.cookies[COOKIE]
        self.send("DELETE", "/session", status=204)
        self.client.cookies.set(COOKIE, token)
        self.assertEqual(self.client.get(f"{API}/session").status_code, 401)

    def test_a_session_ends_by_itself(self) -> None:
        self.app.dependency_overrides[get_now] = lambda: datetime.now(UTC) + SESSION_LASTS + timedelta(minutes=1)
        problem = self.client.get(f"{API}/clients").json()
        self.assertEqual((problem["status"], problem["type"]), (401, "not-signed-in"))

    def test_changing_requests_need_the_sessions_token(self) -> None:
        for token in ("", "guessed"):
            self.client.headers[CSRF_HEADER] = token
            self.assertEqual(self.send("POST", "/clients", {"name": "x"}, status=403)["type"], "wrong-origin")
        self.assertEqual(self.get("/clients"), [])

    def test_every_route_but_the_open_ones_needs_a_sign_in(self) -> None:
        """Whatever is asked, and before anything of it is looked at: streams of events are not described, but asked."""
        open_calls = {
            ("GET", "/health"),
            ("GET", "/installation"),
            ("POST", "/session"),
            ("POST", "/session/paired"),
            ("GET", "/calendar/{token}.ics"),
        }
        # A client's page asks for the secret of its link: tests/api/handover/test_my_page.py.
        open_calls |= {
            ("GET", "/my"),
            ("POST", "/my/eaten"),
            ("POST", "/my/swaps"),
            ("POST", "/my/words"),
            ("PUT", "/my/macros"),
            ("GET", "/my/calendar/{token}.ics"),
            ("GET", "/my/kitchen"),
            ("GET", "/my/kitchen/{batch_id}/{component_id}"),
        }
        # So does a form: tests/api/forms/test_forms.py.
        open_calls |= {("GET", "/form"), ("PATCH", "/form"), ("POST", "/form/handed-in")}
        stranger = TestClient(self.app)
        asked = {("GET", "/batches/{batch_id}/events")} | {
            (method.upper(), path.removeprefix(API))
            for path, methods in self.app.openapi()["paths"].items()
            for method in methods
        }
        self.assertLessEqual(open_calls, asked)
        for method, path in sorted(asked - open_calls):
            for id_ in ("id", str(uuid.uuid4())):
                with self.subTest(path=path, method=method, id=id_):
                    answer = stranger.request(method, API + re.sub(r"\{\w+\}", id_, path), json={})
                    self.assertEqual((answer.status_code, answer.json()["type"]), (401, "not-signed-in"))

    def test_only_a_hash_of_the_token_is_kept(self) -> None:
        with database().workspace(self.who.workspace_id) as session:
            kept = session.execute(text("SELECT token_hash FROM login_session")).scalars().all()
        self.assertNotIn(self.client.cookies[COOKIE], kept)

    def test_attempts_are_limited(self) -> None:
        email = new_email()
        answers = [
            self.client.post(f"{API}/session", json={"email": email, "password": "x"}).status_code for _ in range(9)
        ]
        self.assertEqual(answers, [401] * 8 + [429])
        answer = self.client.post(f"{API}/session", json={"email": email, "password": "x"})
        self.assertEqual(answer.headers["Retry-After"], "60")


class Accounts(unittest.TestCase):
    def test_passwords_are_hashed_with_argon2id(self) -> None:
        who = new_kitchen()
        with database().workspace(who.workspace_id) as session:
            kept = session.execute(text("SELECT password_hash FROM account")).scalar_one()
        self.assertTrue(kept.startswith("$argon2id$"))

    def test_bad_accounts_name_every_field(self) -> None:
        with self.assertRaises(Invalid) as caught:
            create_workspace(database(), name="x", email="nobody", coach=" ", password="short")
        self.assertEqual([fault.pointer for fault in caught.exception.faults], ["/name", "/email", "/password"])

    def test_an_address_has_one_account(self) -> None:
        email = new_email()
        new_kitchen(email)
        with self.assertRaisesRegex(Invalid, "account already"):
            create_workspace(database(), name="x", email=email.upper(), coach="x", password=PASSWORD)


class Installation(unittest.TestCase):
    def test_the_demo_sign_in_is_shown_on_a_demo_only(self) -> None:
        for demo in (True, False):
            with TestClient(create_app(settings(demo=demo))) as client:
                shown = client.get(f"{API}/installation").json()["demo"]
                self.assertEqual(shown is not None, demo)


class Answers(ApiCase):
    def test_security_headers(self) -> None:
        headers = self.client.get(f"{API}/health").headers
        self.assertIn("default-src 'self'", headers["content-security-policy"])
        self.assertNotIn("script-src", headers["content-security-policy"])
        self.assertEqual(headers["x-content-type-options"], "nosniff")

    def test_problems_are_problem_details(self) -> None:
        answer = self.client.get(f"{API}/no-such-thing")
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        self.assertEqual(answer.json()["status"], 404)

    def test_a_fault_of_ours_shows_no_trace(self) -> None:
        def broken() -> datetime:
            raise ZeroDivisionError("secret detail")

        self.app.dependency_overrides[get_now] = broken
        client = TestClient(self.app, raise_server_exceptions=False, cookies=dict(self.client.cookies))
        with self.assertLogs("yantai.api.problems", "ERROR"):
            answer = client.get(f"{API}/clients")
        self.assertEqual(answer.status_code, 500)
        self.assertNotIn("secret", answer.text)
        self.assertIn("nothing was saved", answer.json()["detail"])

    def test_a_body_too_large_is_refused(self) -> None:
        self.assertEqual(self.client.post(f"{API}/clients", content=b" " * 3_000_000).status_code, 413)

    def test_files_outside_the_front_end_are_not_served(self) -> None:
        answer = self.client.get("/%2e%2e/%2e%2e/pyproject.toml")
        self.assertNotIn("[project]", answer.text)
