"""Every fill that a tablet has taken is in its container exactly once, whatever happens on the way: requests that are
dropped, doubled or answered into nothing, a server that is killed, and browsers that are killed in the middle of it."""

from __future__ import annotations

import os
import random
import shutil
import signal
import tempfile
from contextlib import suppress
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import BrowserContext, Page, Route, expect
from playwright.sync_api import Error as BrowserGone

from tests.api.contract.faults import FaultCase, Server
from tests.browser.case import PATIENCE_MS, TABLET, playwright
from tests.kitchens import planned
from tests.support import PASSWORD, database, new_email, new_kitchen
from tests.volume import volume
from yantai.api.access import COOKIE
from yantai.core.filling import FillEvent
from yantai.launcher.system import CHROMIUM
from yantai.store.database import Database
from yantai.work.accounts.sessions import sign_in
from yantai.work.common.who import SignedIn
from yantai.work.fill.bench import read_facts
from yantai.work.fill.shown import read_filling

RUNS = volume(1, 200)
FILLS = 5
"""That each tablet makes in a run."""
TRIES = 60


class Tablet:
    """A browser with a profile of its own, which outlives it."""

    def __init__(self, server: Server, token: str, batch_id: str, first: int, chance: random.Random) -> None:
        self.server, self.token, self.batch_id = server, token, batch_id
        self.first, self.chance = first, chance
        self.profile = tempfile.mkdtemp(prefix="yantai-tablet-")
        self.taken: list[str] = []
        self.context: BrowserContext
        self.page: Page
        self.open()

    def open(self) -> None:
        """Start the browser, and go to the batch as soon as the server answers."""
        self.context = playwright().chromium.launch_persistent_context(
            self.profile,
            executable_path=CHROMIUM,
            args=["--no-sandbox", "--disable-gpu"],
            viewport={"width": TABLET[0], "height": TABLET[1]},
            base_url=self.server.address,
            service_workers="block",
        )
        self.context.add_cookies([{"name": COOKIE, "value": self.token, "url": self.server.address}])
        self.context.route("**/filling/facts", self.disturb)
        self.page = self.context.pages[0]
        self.page.set_default_timeout(PATIENCE_MS)
        self.page.goto(f"/batches/{self.batch_id}/fill")
        expect(self.page.get_by_test_id("still")).to_be_visible()

    def disturb(self, route: Route) -> None:
        """What a bad network does to a fill that is handed in."""
        fault = self.chance.random()
        try:
            if fault < 0.15:
                route.abort()  # It never arrived.
            elif fault < 0.3:
                route.fetch()  # It arrived twice.
                route.continue_()
            elif fault < 0.45:
                route.fetch()  # Its answer was lost.
                route.abort()
            else:
                route.continue_()
        except BrowserGone:
            # The server or the browser was killed over it.
            with suppress(BrowserGone):
                route.abort()

    def fill(self) -> None:
        """By eye, what is to come: it counts as taken once the screen has gone on."""
        boxes = self.page.get_by_role("navigation", name="Containers").get_by_role("button")
        boxes.nth(self.first).click()
        part = self.page.get_by_role("heading", level=2).first
        about = self.page.locator("h2 + p")
        now = f"{part.inner_text()}, {about.inner_text()}"
        if self.page.get_by_text("in already", exact=True).count():
            self.first += 1
            self.fill()
            return
        self.page.keyboard.press("e")
        self.page.wait_for_function(
            "now => `${document.querySelector('h2').innerText}, ${document.querySelector('h2 + p').innerText}` !== now",
            arg=now,
        )
        self.taken.append(now)

    def kill(self) -> None:
        """As a tablet does that is dropped: none of its processes finishes anything."""
        for process in Path("/proc").glob("[0-9]*"):
            try:
                command = (process / "cmdline").read_bytes()
            except OSError:
                continue
            if f"--user-data-dir={self.profile}".encode() in command:
                os.kill(int(process.name), signal.SIGKILL)
        with suppress(BrowserGone):
            self.context.close()
        # What it locked its profile with names a process that is gone.
        for left in Path(self.profile).glob("Singleton*"):
            left.unlink()
        self.open()

    def hand_in(self) -> None:
        """Wait until the server has all of it; the network comes back again and again meanwhile."""
        done = self.page.get_by_text("All handed in")
        for _ in range(TRIES):
            self.page.evaluate("window.dispatchEvent(new Event('online'))")
            with suppress(AssertionError):
                expect(done).to_be_visible(timeout=1000)
                return
        expect(done).to_be_visible()

    def end(self) -> None:
        self.context.close()
        shutil.rmtree(self.profile, ignore_errors=True)


class FillFaults(FaultCase):
    def test_every_fill_that_was_taken_is_there_exactly_once(self) -> None:
        for seed in range(RUNS):
            with self.subTest(seed=seed):
                self.run_once(random.Random(f"tablets {seed}"))

    def run_once(self, chance: random.Random) -> None:
        email = new_email()
        who = new_kitchen(email)
        batch_id = planned(who).batch.id
        token, _ = sign_in(database(), email, PASSWORD, datetime.now(UTC))
        tablets = [Tablet(self.server, token, str(batch_id), first, random.Random(chance.random())) for first in (0, 6)]
        try:
            for _ in range(FILLS):
                for tablet in tablets:
                    tablet.fill()
                    fault = chance.random()
                    if fault < 0.15:
                        tablet.kill()
                    elif fault < 0.25:
                        self.server.restart()
            for tablet in tablets:
                tablet.hand_in()
        finally:
            for tablet in tablets:
                tablet.end()
        self.check(database(), who, batch_id, tablets)

    def check(self, kept: Database, who: SignedIn, batch_id: object, tablets: list[Tablet]) -> None:
        """One fact for each that was taken, none else, and the containers hold what they say."""
        view = read_filling(kept, who, batch_id)  # type: ignore[arg-type]
        with kept.reading(who.workspace_id) as session:
            facts = read_facts(session, view.batch_id)
        taken = [words for tablet in tablets for words in tablet.taken]
        self.assertEqual(len(facts), len(taken))
        self.assertEqual({fact.event for fact in facts}, {FillEvent.FILLED})
        rows = {(box.row_id, box.number): box for box in view.containers}
        said = []
        for fact in facts:
            assert fact.container_class_id is not None and fact.container is not None
            box = rows[fact.container_class_id, fact.container]
            part = next(one for one in box.parts if one.component_id == fact.component_id)
            assert part.filled is not None
            self.assertEqual((part.filled.fact_id, part.filled.grams), (fact.id, fact.grams))
            said.append(f"{part.name}, {box.client}, {box.slot}, {box.number} of {box.of}")
        self.assertEqual(sorted(said), sorted(taken))
        self.assertEqual(sum(part.filled is not None for box in view.containers for part in box.parts), len(facts))
