"""Batches of several dishes with shared pots: the engine alone, a change on the server, a key in the browser.

YANTAI_TEST_DATABASE_URL=... PYTHONPATH=src:. python -m bench.dishes
"""

from __future__ import annotations

import statistics
import time
import uuid
from collections.abc import Callable
from dataclasses import replace
from datetime import UTC, date, datetime
from functools import partial
from random import Random

from playwright.sync_api import Page
from tests.browser.case import browser, server
from tests.core.examples import food
from tests.support import PASSWORD, database, new_email, new_kitchen

from bench.page import KEY_TO_FIGURES
from yantai.api.access import COOKIE
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED
from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import Bounds
from yantai.core.portions import solve
from yantai.core.portions.relaxed import relaxed
from yantai.core.targets.targets import Target, Tolerance
from yantai.work.accounts import sessions
from yantai.work.batches.commands import change_batch
from yantai.work.batches.inputs import BatchInput, Changes, DishInput, EaterInput, SetPin, SharePot
from yantai.work.batches.make import create_batch
from yantai.work.batches.reading import read_plan
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, TargetInput
from yantai.work.common.who import SignedIn
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import save_recipe

DISHES, CLIENTS = 3, 200
KINDS = ((27, 0, 8), (4.4, 27.4, 0.5), (1.9, 7, 0.3), (6, 5, 6), (7, 15, 1), (12, 3, 9))
"""Protein, carbohydrate and fat of six components; the first two are the shared pots."""


def a_part(kind: tuple[float, float, float], measured_g: float | None = None) -> Part:
    line = Line(name="It", purchased_g=measured_g or 1000, composition=food(*kind), yield_range=UNCHANGED)
    component = Component(name="It", lines=(line,), measured_g=measured_g)
    return Part(component=component, share=120, bounds=Bounds(maximum_g=400), raw_fixed=measured_g is not None)


def a_batch() -> tuple[dict[str, Dish], tuple[ContainerClass, ...]]:
    """Every client eats of every dish; the first two of six components are the same pots in all dishes."""
    rng = Random(11)
    pots = {f"pot{n}": a_part(kind) for n, kind in enumerate(KINDS[:2])}
    own = {d: {f"d{d}p{n}": a_part(kind) for n, kind in enumerate(KINDS[2:])} for d in range(DISHES)}
    dishes = {f"d{d}": Dish(parts=pots | own[d]) for d in range(DISHES)}
    classes = [
        ContainerClass(
            dish=f"d{d}",
            target=Target(protein_g=rng.uniform(25, 60), carbohydrate_g=rng.uniform(30, 80), fat_g=rng.uniform(8, 22)),
            tolerance=Tolerance(),
            count=rng.randint(1, 3),
        )
        for _ in range(CLIENTS)
        for d in range(DISHES)
    ]
    return dishes, tuple(classes)


def with_weighed_pots(dishes: dict[str, Dish], classes: tuple[ContainerClass, ...], share: float) -> dict[str, Dish]:
    """The dishes with both shared pots weighed at `share` of what the containers would take."""
    needs = plan(dishes, classes).needs
    weighed = {f"pot{n}": a_part(kind, share * needs[f"pot{n}"].needed_g) for n, kind in enumerate(KINDS[:2])}
    return {key: replace(dish, parts={**dish.parts, **weighed}) for key, dish in dishes.items()}


def median_ms(work: Callable[[], object], times: int) -> str:
    taken = []
    for _ in range(times):
        solve.cache_clear()
        relaxed.cache_clear()
        started = time.perf_counter()
        work()
        taken.append((time.perf_counter() - started) * 1000)
    return f"{statistics.median(taken):,.0f} ms"


def engine() -> None:
    dishes, classes = a_batch()
    name = f"{CLIENTS} clients × {DISHES} dishes × {len(KINDS)} components, 2 shared pots"
    print(f"| {name}, nothing weighed | {median_ms(partial(plan, dishes, classes), 5)} |", flush=True)
    for share in (1.05, 0.8):
        there = with_weighed_pots(dishes, classes, share)
        took = median_ms(partial(plan, there, classes), 3)
        print(f"| {name}, weighed at {share:.0%} of the need | {took} |", flush=True)


def a_recipe(number: int) -> RecipeInput:
    def component(name: str, role: str, kind: str, grams: float, food_id: str) -> ComponentInput:
        line = LineInput(food_id=reference_id(food_id), purchased_g=grams)
        return ComponentInput(name=name, role=role, method=kind, maximum_g=400, lines=[line])

    meat = ("chicken-breast-skinless-raw", "ground-turkey-93-lean-raw", "tofu-extra-firm")[number]
    return RecipeInput(
        name=f"Dish {number + 1}",
        components=[
            component("Rice", "grain", "boiled", 500, "rice-white-long-grain-dry"),
            component(f"Main {number}", "protein", "baked", 900, meat),
            component(f"Greens {number}", "vegetable", "boiled", 800, "broccoli-raw"),
            component(f"Sauce {number}", "sauce", "none", 300, "greek-yogurt-plain-low-fat"),
            component(f"Carrots {number}", "vegetable", "roasted", 500, "carrot-raw"),
            component(f"Beans {number}", "mixed", "none", 400, "chickpeas-canned-drained"),
            component(f"Nuts {number}", "topping", "none", 60, "almonds-raw"),
        ],
    )


def a_large_plan(who: SignedIn) -> PlanView:
    """40 clients, each with one container of each of three dishes: 120 lines; the rice is one pot of all three."""
    recipes = [save_recipe(database(), who, a_recipe(number), None) for number in range(DISHES)]
    eaters: list[list[EaterInput]] = [[] for _ in recipes]
    for number in range(40):
        targets = [
            TargetInput(slot=slot, protein_g=38 + number % 9, carbohydrate_g=50 + number % 11, fat_g=14)
            for slot in ("breakfast", "lunch", "dinner")
        ]
        saved = save_client(database(), who, ClientInput(name=f"Client {number:02}", targets=targets), None)
        for dish, target in zip(eaters, saved.targets, strict=True):
            dish.append(EaterInput(target_id=target.id, count=2))
    dishes = [
        DishInput(recipe_id=recipe.id, eaters=one)
        for recipe, one in zip(recipes, eaters, strict=True)
        if recipe.id is not None
    ]
    made = create_batch(database(), who, BatchInput(name="Everyone", cook_on=date(2026, 11, 29), dishes=dishes))
    first, *others = [component.id for component in made.components if component.name == "Rice"]
    for other in others:
        made = changed(who, made, SharePot(component_id=other, with_component_id=first))
    return made


def changed(who: SignedIn, now: PlanView, change: SharePot | SetPin) -> PlanView:
    payload = Changes(version=now.batch.version, changes=[change], command_id=uuid.uuid4())
    return change_batch(database(), who, now.batch.id, payload, datetime.now(UTC)).plan


def large_plan() -> None:
    email = new_email()
    who = new_kitchen(email)
    made = a_large_plan(who)
    rice = next(component for component in made.components if component.name == "Rice")
    name = f"{len(made.rows)} lines, {DISHES} dishes, {len(made.components)} components, one pot of rice"
    taken = []
    now = made
    for number, row in enumerate(made.rows[:30]):
        started = time.perf_counter()
        now = changed(who, now, SetPin(row_id=row.id, component_id=rice.id, grams=100 + 5 * (number % 7)))
        taken.append((time.perf_counter() - started) * 1000)
    print(f"| {name}: a pin on the server | median {statistics.median(taken):.0f} ms, p95 {sorted(taken)[28]:.0f} ms |")
    token, _ = sessions.sign_in(database(), email, PASSWORD, datetime.now(UTC))
    context = browser().new_context(viewport={"width": 1280, "height": 800}, base_url=server())
    context.add_cookies([{"name": COOKIE, "value": token, "url": server()}])
    page = context.new_page()
    page.route("**/events", lambda route: route.fulfill(status=204))
    page.goto(f"/batches/{made.batch.id}")
    # The first line is the head of the first dish.
    page.locator('[data-place="1:1"]').focus()
    to_figures = KEY_TO_FIGURES.replace("0:1", "1:1")
    keys = sorted(page.evaluate(to_figures) for _ in range(30))
    print(f"| {name}: a key to its own figure | median {statistics.median(keys):.0f} ms, p95 {keys[28]:.0f} ms |")
    page.wait_for_load_state("networkidle")
    follows = sorted(key_to_all(page) for _ in range(20))
    print(f"| {name}: a key to all figures | median {statistics.median(follows):.0f} ms, p95 {follows[18]:.0f} ms |")
    version = read_plan(database(), who, made.batch.id).batch.version
    assert version > now.batch.version


def key_to_all(page: Page) -> float:
    """Milliseconds from a key to the answer of the server being drawn."""
    started = time.perf_counter()
    with page.expect_response("**/changes") as answer:
        page.keyboard.press("]")
    answer.value.finished()
    page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
    return (time.perf_counter() - started) * 1000


if __name__ == "__main__":
    engine()
    large_plan()
