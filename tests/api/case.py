"""A signed-in client of the API in a kitchen of its own."""

from __future__ import annotations

import atexit
import unittest
import uuid
from functools import cache
from typing import Any

from fastapi import FastAPI
from fastapi.testclient import TestClient

from tests.kitchens import planned
from tests.support import PASSWORD, new_email, new_kitchen, settings
from yantai.api.access import CSRF_HEADER, SignInLimit
from yantai.api.app import create_app
from yantai.work.pantry.reference import reference_id

API = "/api/v1"


def food_id(reference: str) -> str:
    return str(reference_id(reference))


def command(plan: dict[str, Any], *changes: dict[str, Any], confirmed: bool = False) -> dict[str, Any]:
    """Changes of a batch as a page sends them."""
    return {
        "version": plan["batch"]["version"],
        "changes": list(changes),
        "confirmed": confirmed,
        "command_id": str(uuid.uuid4()),
    }


@cache
def shared_app() -> FastAPI:
    """One application for all tests: what they do is kept apart by their workspaces."""
    app = create_app(settings())
    atexit.register(app.state.database.close)
    return app


class ApiCase(unittest.TestCase):
    def setUp(self) -> None:
        self.app = shared_app()
        self.app.state.sign_in_limit = SignInLimit()
        self.addCleanup(self.app.dependency_overrides.clear)
        self.client = TestClient(self.app)
        self.email = new_email()
        self.who = new_kitchen(self.email)
        self.sign_in(self.client, self.email)

    def sign_in(self, client: TestClient, email: str) -> None:
        answer = client.post(f"{API}/session", json={"email": email, "password": PASSWORD})
        self.assertEqual(answer.status_code, 201, answer.text)
        client.headers[CSRF_HEADER] = answer.json()["csrf_token"]

    def other_kitchen(self) -> TestClient:
        """A signed-in client of another kitchen."""
        client, email = TestClient(self.app), new_email()
        new_kitchen(email)
        self.sign_in(client, email)
        return client

    def get(self, path: str, **query: Any) -> Any:
        answer = self.client.get(f"{API}{path}", params=query)
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def send(self, method: str, path: str, body: Any = None, status: int = 200, **query: Any) -> Any:
        answer = self.client.request(method, f"{API}{path}", json=body, params=query or None)
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json() if answer.content else None

    def plan(self) -> dict[str, Any]:
        """A planned batch of the bowl."""
        return dict(self.get(f"/batches/{planned(self.who).batch.id}/plan"))

    def change(self, plan: dict[str, Any], *changes: dict[str, Any], status: int = 200, confirmed: bool = False) -> Any:
        return self.command(plan, command(plan, *changes, confirmed=confirmed), status=status)

    def command(self, plan: dict[str, Any], body: dict[str, Any], status: int = 200) -> Any:
        return self.send("POST", f"/batches/{plan['batch']['id']}/changes", body, status=status)

    def assert_fault(self, problem: dict[str, Any], pointer: str, words: str) -> None:
        """The problem names this field with a sentence that holds these words."""
        found = {fault["pointer"]: fault["message"] for fault in problem["errors"]}
        self.assertIn(pointer, found, problem)
        self.assertRegex(found[pointer], words)
        self.assertRegex(found[pointer], r"^[-A-Z0-9“].*[.?]$")
