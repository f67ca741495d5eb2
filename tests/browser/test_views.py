"""Every view, at three sizes: nothing clipped or overlapping, no console error, nothing serious from axe."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import expect

from tests.browser.case import DESK, TABLET, BrowserCase, choose, line_field

PHONE = (390, 844)
BEYOND_THE_EDGE = """[...document.querySelectorAll("main *")]
  .filter((node) => node.getBoundingClientRect().right > innerWidth + 1).map((node) => node.outerHTML.slice(0, 80))"""

FIND_UNREADABLE = """() => {
  const found = [];
  const texts = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    if (!node.textContent.trim()) continue;
    const holder = node.parentElement;
    if (!holder.checkVisibility({ visibilityProperty: true, contentVisibilityAuto: true })) continue;
    if (holder.closest('option, title, script, style, [data-sonner-toaster]')) continue;
    if (holder.getBoundingClientRect().width <= 2) continue; // for screen readers
    const range = document.createRange();
    range.selectNodeContents(node);
    for (const box of range.getClientRects()) {
      if (box.width < 2 || box.height < 2) continue;
      texts.push({ box, holder, text: node.textContent.trim().slice(0, 40) });
    }
  }
  const scrolls = (element) => element.closest('.overflow-x-auto, .overflow-y-auto');
  for (const { box, holder, text } of texts) {
    if (holder.closest('a[href="#main"]')) continue;
    const frame = holder.closest('td, th, button, label, a, p, h1, h2, h3, li, dd, dt, legend, summary');
    if (frame) {
      const outer = frame.getBoundingClientRect();
      if (box.left < outer.left - 2 || box.right > outer.right + 2) found.push(`sticks out: ${text}`);
    }
    if (!scrolls(holder) && (box.left < 0 || box.right > innerWidth + 1)) found.push(`outside the page: ${text}`);
    if (holder.scrollWidth > holder.clientWidth + 1 && getComputedStyle(holder).overflowX !== 'visible') {
      found.push(`clipped: ${text}`);
    }
  }
  const beside = (a, b) => a.right <= b.left + 2 || b.right <= a.left + 2;
  const apart = (a, b) => beside(a, b) || a.bottom <= b.top + 3 || b.bottom <= a.top + 3;
  const sticky = (element) => element !== null && getComputedStyle(element).position === 'sticky';
  for (const text of texts) {
    // Names and macros of the plan lie over what is scrolled beneath them.
    text.frozen = sticky(text.holder.closest('td, th'));
    text.layer = text.holder.closest('[role="dialog"], [role="alertdialog"], [role="menu"]');
    text.sticks = sticky(text.holder.closest('aside') ?? text.holder);
  }
  texts.sort((one, other) => one.box.top - other.box.top);
  for (let i = 0; i < texts.length; i++) {
    for (let j = i + 1; j < texts.length && texts[j].box.top < texts[i].box.bottom; j++) {
      const [one, other] = [texts[i], texts[j]];
      if (one.holder === other.holder || one.layer !== other.layer || one.frozen !== other.frozen) continue;
      if (one.sticks || other.sticks) continue;
      if (!apart(one.box, other.box)) found.push(`overlaps: ${one.text} / ${other.text}`);
    }
  }
  for (const input of document.querySelectorAll('input:not([type=checkbox]):not([type=date])')) {
    if (!input.checkVisibility({ contentVisibilityAuto: true })) continue;
    if (input.value && input.scrollWidth > input.clientWidth + 1 && input.className.includes('figures')) {
      found.push(`clipped figure: ${input.value}`);
    }
  }
  return [...new Set(found)];
}"""


class Views(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.without_push()

    def views(self) -> Iterator[tuple[str, Callable[[], None]]]:
        """Each view by name, and how to open it; every one ends with something that shows it is there."""
        page = self.page

        def at(path: str, heading: str) -> Callable[[], None]:
            def open_it() -> None:
                page.goto(path)
                expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()

            return open_it

        def through(path: str, link: str) -> Callable[[], None]:
            def open_it() -> None:
                page.goto(path)
                page.get_by_role("link", name=link).first.click()
                expect(page.get_by_role("heading", level=1, name=link)).to_be_visible()

            return open_it

        def in_plan(what: Callable[[], None]) -> Callable[[], None]:
            def open_it() -> None:
                self.open_demo_batch("Kofta Sunday")
                what()

            return open_it

        def panel(button: str, heading: str) -> Callable[[], None]:
            def open_it() -> None:
                page.get_by_role("button", name=button).first.click()
                expect(page.get_by_role("heading", name=heading, exact=True)).to_be_visible()

            return in_plan(open_it)

        def plan_view(tab: str, heading: str) -> Callable[[], None]:
            def open_it() -> None:
                page.get_by_role("tab", name=tab).click()
                expect(page.get_by_role("heading", name=heading)).to_be_visible()

            return in_plan(open_it)

        def beside() -> None:
            self.open_demo_batch("Kofta to go")
            page.get_by_role("tab", name="Beside another batch").click()
            expect(page.get_by_text("One container each.")).to_be_visible()

        def shop() -> None:
            self.open_demo_batch("Kofta Sunday")
            page.get_by_role("button", name="Shop").click()
            expect(page.get_by_role("heading", name="Shop for Kofta Sunday")).to_be_visible()
            page.get_by_label("Sunday at the boathouse").check()
            expect(page.get_by_role("listitem", name="Broccoli")).to_be_visible()

        def cook() -> None:
            self.open_demo_batch("Sunday at the boathouse")
            page.get_by_role("navigation", name="Stages of this batch").get_by_role("button", name="Cook").click()
            expect(page.get_by_role("heading", name="Ready to fill at")).to_be_visible()

        def weigh() -> None:
            self.open_demo_batch("Sunday at the boathouse")
            page.get_by_role("navigation", name="Stages of this batch").get_by_role("button", name="Weigh").click()
            expect(page.get_by_role("button", name="Record the weight")).to_be_visible()

        def fill() -> None:
            self.open_demo_batch("Sunday at the boathouse")
            page.get_by_role("navigation", name="Stages of this batch").get_by_role("button", name="Fill").click()
            expect(page.get_by_test_id("still")).to_be_visible()

        def pots() -> None:
            fill()
            page.get_by_role("button", name="Pots, rests, scoops").click()
            expect(page.get_by_role("heading", name="The pots")).to_be_visible()

        def pantry_food() -> None:
            page.goto("/pantry?text=turkey")
            page.get_by_role("button", name="Ground turkey, 93% lean raw").click()
            expect(page.get_by_role("heading", name="Yields to expect")).to_be_visible()

        def recipe() -> None:
            through("/recipes", "Turkey kofta tray")()
            line_field(page, "Ground turkey, 93% lean")
            page.get_by_role("button", name="Ground turkey, 93% lean: more").click()
            expect(page.get_by_text("These grams were weighed")).to_be_visible()

        def recipe_asks() -> None:
            page.goto("/recipes/new")
            page.get_by_label("Component", exact=True).fill("Pan")
            choose(page, "Cooked", "pan-fried")
            page.get_by_label("Write an ingredient of Pan").fill("1 cup (300 g) basmati rice\n1 kg turkey mince")
            page.keyboard.press("Enter")
            expect(page.get_by_text("Which food is it?")).to_be_visible()
            expect(page.get_by_text("Look here").first).to_be_visible()

        def chain() -> None:
            through("/recipes", "Turkey kofta tray")()
            page.get_by_label("protein in 100 g: where this comes from").first.click()
            expect(page.get_by_role("rowheader", name="In the pan")).to_be_visible()

        def own_food() -> None:
            page.goto("/pantry?text=harissa")
            page.get_by_role("button", name="Harissa").click()
            page.get_by_role("link", name="Edit").click()
            expect(page.get_by_text("The label agrees with itself")).to_be_visible()

        def switch() -> None:
            page.goto("/settings")
            choose(page, "Energy", "4/9/4 with fibre at 2 and polyols at 2.4")
            expect(page.get_by_text("Before and after")).to_be_visible()

        def find() -> None:
            page.goto("/")
            expect(page.get_by_role("heading", name="Today")).to_be_visible()
            page.keyboard.press("/")
            page.get_by_placeholder("A client, recipe, batch, food or page").fill("turkey")
            expect(page.get_by_text("food, raw").first).to_be_visible()

        def keys() -> None:
            page.keyboard.press("?")
            expect(page.get_by_role("heading", name="Keys of this view")).to_be_visible()

        def trip() -> None:
            page.goto("/batches")
            self.open_demo_batch("Sunday at the boathouse")
            page.get_by_role("button", name="Shop").click()
            going_on, start = (
                page.get_by_role("link", name="Go on shopping"),
                page.get_by_role("button", name="Go shopping"),
            )
            going_on.or_(start).click()
            expect(page.get_by_role("heading", name="Shopping for Sunday at the boathouse")).to_be_visible()
            expect(page.get_by_role("listitem", name="Broccoli")).to_be_visible()

        yield "Today", at("/", "Today")
        yield "Clients", at("/clients", "Clients")
        yield "New client", at("/clients/new", "New client")
        yield "Client", through("/clients", "Ines Haverkamp")
        yield "Pantry", at("/pantry", "Pantry")
        yield "In the house", at("/house", "In the house")
        yield "Containers", at("/containers", "Containers")
        yield "Cook", cook
        yield "Weigh", weigh
        yield "Fill", fill
        yield "Fill, pots", pots
        yield "A kitchen", through("/settings", "Boathouse")
        yield "Food", pantry_food
        yield "Own food", own_food
        yield "New food", at("/pantry/new", "New food")
        yield "Import foods", at("/pantry/import", "Import foods")
        yield "Yields", at("/yields", "Yields")
        yield "Settings", switch
        yield "Recipes", at("/recipes", "Recipes")
        yield "New recipe", at("/recipes/new", "New recipe")
        yield "Recipe", recipe
        yield "Recipe, where a figure comes from", chain
        yield "Batches", at("/batches", "Batches")
        yield "New batch", at("/batches/new", "Plan a batch")
        yield "Plan", in_plan(lambda: None)
        yield "Plan, packed", lambda: self.open_demo_batch("Bean stew Wednesday")
        yield "Plan, brief", panel("Brief", "Brief")
        yield "Plan, component", panel("Turkey kofta", "Turkey kofta")
        yield "Plan, container", panel("Teo Vasquez-Lind, lunch", "Teo Vasquez-Lind")
        yield "Plan, ways out", panel("Teo Vasquez-Lind, lunch", "Ways out")
        yield "Plan, reach map", panel("Reach map", "Reach map")
        yield "Plan, whole days", plan_view("Whole days", "Ines Haverkamp, training day")
        yield "Plan, beside another", beside
        yield "Shop", shop
        yield "A trip to the shops", trip
        yield "Who can eat what", at("/recipes/who-can-eat?show=not", "Who can eat what")
        yield "Find anything", find
        yield "Keys", in_plan(keys)
        yield "Recipe, what is asked", recipe_asks

    def test_each_is_readable_at_every_size_and_axe_finds_nothing_serious(self) -> None:
        self.page.goto("/sign-in")
        self.assert_accessible()
        self.signed_in()
        for name, open_it in self.views():
            with self.subTest(view=name):
                self.resize(DESK)
                open_it()
                self.page.wait_for_load_state("networkidle")
                self.assertEqual(self.page.evaluate(FIND_UNREADABLE), [])
                self.assert_accessible()
                self.resize(TABLET)
                self.assertEqual(self.page.evaluate(FIND_UNREADABLE), [])
                self.resize(PHONE)
                self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), PHONE[0])

    def test_a_phone_reads_without_scrolling_sideways(self) -> None:
        self.signed_in()
        page = self.page
        page.set_viewport_size({"width": PHONE[0], "height": PHONE[1]})
        for path, heading in (
            ("/", "Today"),
            ("/clients", "Clients"),
            ("/recipes", "Recipes"),
            ("/house", "In the house"),
            ("/batches", "Batches"),
        ):
            page.goto(path)
            expect(page.get_by_role("heading", name=heading, level=1)).to_be_visible()
            page.wait_for_load_state("networkidle")
            if path == "/batches":
                self.open_demo_batch("Sunday at the boathouse")
                expect(page.get_by_role("region", name="Lentil pot")).to_be_visible()
            with self.subTest(path=path):
                self.assertEqual(page.evaluate(BEYOND_THE_EDGE), [])
        page.get_by_role("button", name="Shop").click()
        expect(page.get_by_role("listitem", name="Broccoli")).to_be_visible()
        self.assertEqual(page.evaluate(BEYOND_THE_EDGE), [])
        page.get_by_role("button", name="Plan", exact=False).first.click()
        page.get_by_role("button", name="Change grams in the grid").click()
        expect(page.get_by_role("table")).to_be_visible()

    def resize(self, size: tuple[int, int]) -> None:
        """What is drawn anew for another size is drawn."""
        self.page.set_viewport_size({"width": size[0], "height": size[1]})
        self.page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")

    def test_axe_finds_nothing_serious_in_the_kitchen_theme(self) -> None:
        self.signed_in()
        self.page.goto("/")
        self.page.get_by_role("button", name="Tamsin Reyes").click()
        self.page.get_by_role("menuitem", name="Dark kitchen theme").click()
        for name, open_it in self.views():
            if name in ("Today", "Clients", "Recipe", "Plan", "Plan, component", "Fill"):
                with self.subTest(view=name):
                    open_it()
                    self.page.wait_for_load_state("networkidle")
                    self.assert_accessible()

    def assert_accessible(self) -> None:
        found = Axe().run(self.page, options={"resultTypes": ["violations"]}).response["violations"]
        serious = [one for one in found if one["impact"] in ("serious", "critical")]
        self.assertEqual([(one["id"], node["html"][:160]) for one in serious for node in one["nodes"]], [])
