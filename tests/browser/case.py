"""A real browser on a real server; each test signs in to a kitchen of its own, or reads the demo."""

from __future__ import annotations

import atexit
import re
import socket
import threading
import unittest
from datetime import UTC, datetime
from functools import cache
from typing import Literal

import uvicorn
from fastapi import FastAPI
from playwright.sync_api import Browser, ConsoleMessage, Locator, Page, Playwright, expect, sync_playwright

from tests.kitchens import bowl, eaters
from tests.support import DEMO_DAY, FILLED_WITH, PASSWORD, database, demo, new_email, new_kitchen, settings
from yantai.api.access import COOKIE, SignInLimit
from yantai.api.app import create_app
from yantai.demo.scenario import DEMO_EMAIL, DEMO_PASSWORD
from yantai.launcher.system import CHROMIUM
from yantai.work.accounts import sessions
from yantai.work.clients.clients import save_client
from yantai.work.recipes.recipes import save_recipe

DESK = (1280, 800)
TABLET = (1024, 768)
PATIENCE_MS = 30_000  # a busy machine is slow, not wrong
CONTROLLED = """new Promise((done) => navigator.serviceWorker.controller
    ? done() : navigator.serviceWorker.addEventListener('controllerchange', () => done()))"""
"""Until the service worker keeps what is opened."""
MANY = 60
"""Refused requests while the server is away: each is tried again by itself."""
FILLED_WITH.append(demo)
expect.set_options(timeout=PATIENCE_MS / 2)


@cache
def application() -> FastAPI:
    """The application with the demo, one for the whole run."""
    app = create_app(settings(demo=True))
    # Many tests sign in from one address within a minute.
    app.state.sign_in_limit = Unlimited()
    return app


@cache
def server() -> str:
    """It on a free port; its address."""
    app = application()
    # It listens before the first page asks, however long the thread takes to begin.
    listening = socket.create_server(("127.0.0.1", 0))
    port = listening.getsockname()[1]
    server = uvicorn.Server(uvicorn.Config(app, log_level="error"))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]})
    thread.start()

    def stop() -> None:
        app.state.events.end()
        app.state.readings.end()
        server.should_exit = True
        thread.join()

    # Before the interpreter waits for threads, so not by atexit.
    threading._register_atexit(stop)  # type: ignore[attr-defined]
    return f"http://127.0.0.1:{port}"


class Unlimited(SignInLimit):
    def count(self, email: str, host: str) -> None:
        pass


def choose(within: Page | Locator, label: str, option: str | re.Pattern[str], index: int = 0) -> None:
    """Open a list of choices and take one by its words."""
    page = within if isinstance(within, Page) else within.page
    within.get_by_role("combobox", name=label, exact=True).nth(index).click()
    page.get_by_role("option", name=option, exact=True).click()


CHANGE = re.compile(": change$")
"""What reads turns into fields by a button that says so."""


def line(within: Page | Locator, food: str) -> Locator:
    """An ingredient of a recipe, as it reads."""
    return within.get_by_role("listitem", name=food, exact=True)


def step(page: Page, number: int) -> Locator:
    """A step of a recipe, as it reads."""
    return page.get_by_role("button", name=re.compile(rf"^Step {number} .*: change$"))


def line_field(within: Page | Locator, food: str, what: str = "bought") -> Locator:
    """A field of an ingredient; the line is opened first where it only reads."""
    field = within.get_by_label(f"{food}, {what}", exact=True)
    if not field.count():
        line(within, food).get_by_role("button", name=CHANGE).click()
    return field


@cache
def playwright() -> Playwright:
    """What drives browsers, one for the whole run."""
    driver = sync_playwright().start()
    atexit.register(driver.stop)
    return driver


@cache
def browser() -> Browser:
    """Debian's Chromium, one for the whole run."""
    started = playwright().chromium.launch(executable_path=CHROMIUM, args=["--no-sandbox", "--disable-gpu"])
    atexit.register(started.close)
    return started


class BrowserCase(unittest.TestCase):
    size = DESK
    service_workers: Literal["allow", "block"] = "block"
    """What they keep is not asked of the server, so requests could not be held up on their way."""

    def setUp(self) -> None:
        self.page = self.new_page()

    def new_page(self) -> Page:
        """A page in a browser profile of its own, which may log no error."""
        width, height = self.size
        context = browser().new_context(
            viewport={"width": width, "height": height}, base_url=server(), service_workers=self.service_workers
        )
        self.addCleanup(context.close)
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        page.clock.set_fixed_time(datetime.combine(DEMO_DAY, datetime.min.time(), UTC).replace(hour=9))
        page.on("console", self._note)
        page.on("pageerror", lambda error: self.fail(f"page error: {error}"))
        self.console: list[str] = []
        self.expected_refusals = 0
        return page

    def tearDown(self) -> None:
        # What a value left on the screen that nobody put into words: seen wherever any test ends.
        for page in (page for context in browser().contexts for page in context.pages):
            text = page.evaluate("document.body ? document.body.innerText : ''")
            self.assertNotRegex(text, r"\[object|\bundefined\b|\bNaN\b|\bInfinity\b|\bnull\b")
        # Chromium logs each refused request; tests of bad input say how many they provoke.
        refused = [text for text in self.console if "Failed to load resource" in text]
        self.assertEqual([text for text in self.console if text not in refused], [])
        self.assertLessEqual(len(refused), self.expected_refusals, refused)

    def _note(self, message: ConsoleMessage) -> None:
        if message.type in ("error", "warning") and "Service Worker registration blocked" not in message.text:
            self.console.append(message.text)

    def sign_in(self, email: str = DEMO_EMAIL, password: str = DEMO_PASSWORD, page: Page | None = None) -> None:
        page = page or self.page
        self.expected_refusals += 1  # asking who is signed in, before anybody is
        page.goto("/sign-in")
        page.get_by_label("E-mail address").fill(email)
        page.get_by_label("Password").fill(password)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Today")).to_be_visible()

    def signed_in(self, email: str = DEMO_EMAIL, password: str = DEMO_PASSWORD) -> None:
        """Somebody who signed in before, and opens a page next: most tests are not about signing in."""
        token, _ = sessions.sign_in(database(), email, password, datetime.now(UTC))
        self.page.context.add_cookies([{"name": COOKIE, "value": token, "url": server()}])

    def without_push(self) -> None:
        """No stream of events, which would never let the network be idle; or as if no push came through."""
        self.page.route("**/events", lambda route: route.fulfill(status=204))

    def own_kitchen(self) -> str:
        """A new kitchen and its coach's address."""
        self.email = new_email()
        self.who = new_kitchen(self.email)
        return self.email

    def open_own_plan(self) -> None:
        """Sign in to a kitchen of one's own with a planned batch, and open it."""
        from tests.kitchens import planned

        email = self.own_kitchen()
        self.batch_id = planned(self.who).batch.id
        self.signed_in(email, PASSWORD)
        self.page.goto(f"/batches/{self.batch_id}")
        expect(self.page.get_by_role("heading", name="Bowls")).to_be_visible()

    def cell(self, row: int, column: int):
        """The figure in a row and column of the plan; column 0 is the number of containers."""
        return self.page.locator(f'[data-place="{row}:{column}"]')

    def open_demo_batch(self, name: str) -> None:
        self.page.goto("/batches")
        self.page.get_by_role("link", name=name).click()
        expect(self.page.get_by_role("heading", name=name)).to_be_visible()


class OwnKitchen(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.signed_in(self.own_kitchen(), PASSWORD)

    def open_client(self) -> None:
        """The page of Ada Vance, who has a lunch and a dinner."""
        save_client(database(), self.who, eaters()[0], None)
        self.page.goto("/clients")
        self.page.get_by_role("link", name="Ada Vance").click()
        expect(self.page.get_by_role("heading", name="Ada Vance")).to_be_visible()

    def open_recipe(self) -> None:
        """The page of the chicken bowl."""
        save_recipe(database(), self.who, bowl(), None)
        self.page.goto("/recipes")
        self.page.get_by_role("link", name="Chicken bowl").click()
        expect(self.page.get_by_role("heading", name="Chicken bowl", level=1)).to_be_visible()
