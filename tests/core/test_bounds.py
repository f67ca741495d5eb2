"""Every bound of the core has a figure on it that is taken, and one just beyond that is refused by name.

The figures are written out here by hand, so that a bound that moves is seen.
"""

from __future__ import annotations

import ast
import math
import unittest
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Any

from tests.core.examples import food, keeps
from yantai.core.cooking.components import Component, Line, rounds
from yantai.core.cooking.liquids import boil_off
from yantai.core.cooking.pan_sheet import shares_of_pan
from yantai.core.cooking.scaling import Scalable, factor_for, factor_for_packs, scaled
from yantai.core.cooking.surely import sure_factor
from yantai.core.cooking.weighing import VesselWeight
from yantai.core.cooking.yields import YieldRange, YieldSource, balance_yield, yield_factor
from yantai.core.errors import CoreError, OutOfRange
from yantai.core.filling import FillEvent, FillFact, Spot
from yantai.core.foods.edible import edible_g, purchased_g
from yantai.core.foods.labels import Label
from yantai.core.foods.nutrients import Nutrient
from yantai.core.planning.client_bounds import ClientBound
from yantai.core.planning.containers import Kind
from yantai.core.planning.dishes import ContainerClass, Dish, Part, one_dish
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import School, check_portioning
from yantai.core.portions import Cell, Container
from yantai.core.portions.demand import Demand
from yantai.core.portions.problem import check_budget
from yantai.core.quantities import Quantity
from yantai.core.schedule.scale import towards
from yantai.core.shopping.money import share_out, used_cents
from yantai.core.shopping.packs import PackOffer, covering
from yantai.core.storage.calendar import ToEat, Weeks
from yantai.core.storage.leftovers import HeldPart
from yantai.core.storage.shelf import Freezes
from yantai.core.targets.days import DAY_LIMITS, Day
from yantai.core.targets.suggestions import Person, Sex, suggest
from yantai.core.targets.targets import Target, Tolerance

CORE = Path(__file__).parents[2] / "src" / "yantai" / "core"
SOME = food(10, 10, 10)
AIM = Target(protein_g=40)
PERSON = Person(sex=Sex.MALE, age_y=30, height_cm=180, weight_kg=80, activity=1.6)


def container(**figures: float) -> Container:
    cell = Cell(per_100g=SOME, share=1)
    return Container(cells=(cell,), target=AIM, tolerance=Tolerance(), **figures)  # type: ignore[arg-type]


def portioned(**figures: float | None) -> None:
    given = {"pieces": 1, "unit_g": None, "unit_part": 1.0, "plate_share": 1.0, "eye_g": 0.0, **figures}
    check_portioning(School.BY_COMPONENT, "Rice", **given)  # type: ignore[arg-type]


def to_eat(**figures: float) -> ToEat:
    given = {"key": "a", "dish": "a", "slot": "lunch", "day_type": "any", "count": 1, "litres": 1.0, **figures}
    days = {"fridge_days": 3, "usual_days": 4, "freezes": Freezes.NO, "freezer_days": 0}
    return ToEat(**given, **days)  # type: ignore[arg-type]


def filled(**figures: float) -> FillFact:
    return FillFact(key="a", event=FillEvent.FILLED, spot=Spot("row", 1), part="rice", **figures)  # type: ignore[arg-type]


def eaten(**figures: float) -> ContainerClass:
    given = {"count": 1, **figures}
    return ContainerClass(target=AIM, tolerance=Tolerance(), **given)  # type: ignore[arg-type]


def zeros(**figures: float) -> Label:
    return Label(**{"serving_g": 100, "protein_g": 0, "carbohydrate_g": 0, "fat_g": 0, **figures})  # type: ignore[arg-type]


def volume(**figures: float) -> Label:
    none = {"protein_g": 0, "carbohydrate_g": 0, "fat_g": 0, "carbohydrate": "total", "rounding": "exact"}
    return Label.of({**none, "serving_g": 100, "serving_ml": 100, "ml_weighs_g": 1, **figures})


Bound = tuple[str, str, Callable[[float], object], float, float]
"""Module, field as it is named, what is made with a figure, and the least and the most that are taken."""

LINE = Line(name="Rice", composition=SOME, purchased_g=500, yield_range=keeps(1))
RICE = Component(name="Rice", lines=(LINE,))
WITH_RICE = one_dish({"rice": Part(component=RICE, share=1)})
BOUNDS: list[Bound] = [
    ("problem", "minimum_g", lambda x: Cell(per_100g=SOME, share=1, minimum_g=x), 0, 2000),
    ("problem", "maximum_g", lambda x: Cell(per_100g=SOME, share=1, maximum_g=x), 0, 2000),
    ("problem", "unit_g", lambda x: Cell(per_100g=SOME, share=1, step_g=x), 0.1, 2000),
    ("problem", "grams", lambda x: Cell(per_100g=SOME, share=1, pinned_g=x), 0, 2000),
    ("problem", "step_g", lambda x: container(step_g=x), 0.1, 100),
    ("problem", "capacity_ml", lambda x: container(capacity_ml=x), 50, 5000),
    ("problem", "capacity_g", lambda x: container(capacity_g=x), 50, 5000),
    ("demand", "count", lambda x: Demand(container=container(), count=x), 0, 100),  # type: ignore[arg-type]
    ("demand", "rank", lambda x: Demand(container=container(), count=1, rank=x), 0, 99),  # type: ignore[arg-type]
    ("portioning", "unit_part", lambda x: portioned(unit_part=x), 0.1, 1),
    ("portioning", "plate_share", lambda x: portioned(plate_share=x), 0, 1000),
    ("portioning", "eye_g", lambda x: portioned(eye_g=x), 0, 2000),
    ("portioning", "unit_g", lambda x: portioned(unit_g=x), 1, 2000),
    ("quantity", "amount", lambda x: Quantity(low=x, high=x, unit="g"), 0, 1_000_000),
    ("targets", "factor", AIM.times, 0.1, 5),
    ("days", "day_share", lambda x: Day(figures={Nutrient.PROTEIN: 100}).share(x), 0.01, 1),
    ("weighing", "gross_g", lambda x: VesselWeight(gross_g=x, vessel_g=0), 0.1, 1_000_000),
    ("dishes", "count", lambda x: eaten(count=x), 0, 100),
    ("dishes", "helping", lambda x: eaten(helping=x), 0.1, 5),
    ("dishes", "plate_g", lambda x: eaten(plate_g=x), 1, 5000),
    ("dishes", "tub_ml", lambda x: Part(component=RICE, share=1, tub_ml=x), 5, 2000),
    ("dishes", "takes_g", lambda x: Part(component=RICE, share=1, takes_g=x), 1, 1_000_000),
    ("dishes", "takes", lambda x: Dish(parts={}, groups={"grain": x}), 1, 20),  # type: ignore[dict-item]
    ("plan", "buffer_share", lambda x: plan(WITH_RICE, (), buffer_share=x), 0, 0.5),
    ("surely", "sure_share", lambda x: sure_factor(100, 90, x), 0.5, 0.995),
    ("money", "total_cents", lambda x: share_out(x, [1]), 0, 10**12),  # type: ignore[arg-type]
    ("money", "weight", lambda x: share_out(1, [x]), 0, 1e12),
    ("money", "bought_g", lambda x: used_cents(1, 0, x), 1e-9, 1e9),
    ("components", "purchased_g", lambda x: replace(LINE, purchased_g=x), 0, 1_000_000),
    ("components", "retained_share", lambda x: replace(LINE, retained_share=x), 0, 1),
    ("components", "pieces", lambda x: Component(name="Rice", lines=(LINE,), pieces=x), 1, 10_000),  # type: ignore[arg-type]
    ("components", "pan_capacity_g", lambda x: rounds(100, x), 1, 1_000_000),
    ("suggestions", "age_y", lambda x: replace(PERSON, age_y=x), 1, 110),
    ("suggestions", "height_cm", lambda x: replace(PERSON, height_cm=x), 100, 230),
    ("suggestions", "weight_kg", lambda x: replace(PERSON, weight_kg=x), 25, 300),
    ("suggestions", "activity", lambda x: replace(PERSON, activity=x), 1.1, 2.5),
    ("suggestions", "body_fat_share", lambda x: replace(PERSON, body_fat_share=x), 0.03, 0.65),
    ("suggestions", "change_share", lambda x: suggest(PERSON, change_share=x, protein_g_per_kg=1), -0.5, 0.5),
    ("suggestions", "protein_g_per_kg", lambda x: suggest(PERSON, protein_g_per_kg=x), 0.5, 4),
    ("suggestions", "fat_g_per_kg", lambda x: suggest(PERSON, fat_g_per_kg=x, protein_g_per_kg=0.5), 0.2, 3),
    ("edible", "refuse_share", lambda x: edible_g(100, x), 0, 0.95),
    ("edible", "refuse_share", lambda x: purchased_g(100, x), 0, 0.95),
    ("scaling", "factor", lambda x: scaled([Scalable(purchased_g=1)], x), 0.01, 100),
    ("scaling", "on_hand_g", lambda x: factor_for(1, x), 0.1, 1_000_000),
    ("scaling", "pack_g", lambda x: factor_for_packs(100, x), 0.1, 100_000),
    ("problem", "budget", check_budget, 0.01, 100_000),
    ("packs", "price", lambda x: PackOffer(covers_g=400, price_cents=x), 0, 1_000_000_000),  # type: ignore[arg-type]
    ("packs", "covers_g", lambda x: PackOffer(covers_g=x, price_cents=1), 0.1, 1_000_000),
    ("packs", "need_g", lambda x: covering(x, ()), 0, 10_000_000),
    ("yields", "yield", lambda x: YieldRange(low=x, expected=x, high=x, source=YieldSource.PUBLISHED), 0, 8),
    ("yields", "cooked_per_100g", lambda x: balance_yield(x, x), 0.001, 100),
    ("labels", "serving_g", lambda x: zeros(serving_g=x), 0.1, 5000),
    ("labels", "serving_ml", lambda x: volume(serving_ml=x), 0.1, 5000),
    ("labels", "ml_weighs_g", lambda x: volume(ml_weighs_g=x), 0.05, 2),
    ("liquids", "cook_min", lambda x: boil_off((LINE,), "simmered", minutes=x), 1, 1440),
    ("facts", "grams", lambda x: filled(grams=x), 0, 5000),
    ("facts", "unsure_g", lambda x: filled(unsure_g=x), 0, 5000),
    ("containers", "ml", lambda x: Kind(key="box", ml=x, there=1), 20, 20_000),
    ("containers", "there", lambda x: Kind(key="box", ml=900, there=x), 0, 2000),  # type: ignore[arg-type]
    ("calendar", "count", lambda x: to_eat(count=x), 0, 100),
    ("calendar", "litres", lambda x: to_eat(litres=x), 0, 50),
    ("calendar", "first", lambda x: Weeks(first=x), 0, 14),  # type: ignore[arg-type]
    ("calendar", "fridge_l", lambda x: Weeks(fridge_l=x), 0, 1000),
    ("leftovers", "grams", lambda x: HeldPart(key="rice", grams=x, amounts=SOME), 0, 5000),
    ("client_bounds", "maximum_g", lambda x: ClientBound(word="rice", maximum_g=x), 0, 2000),
    ("pan_sheet", "pan_g", lambda x: shares_of_pan(x, 100, [50]), 1, 1_000_000),
    ("pan_sheet", "planned_pan_g", lambda x: shares_of_pan(100, x, [50]), 1, 1_000_000),
    ("scale", "weight", lambda x: towards(x, []), 1, 200_000),
    ("labels", "fibre_g", lambda x: zeros(fibre_g=x), 0, 102),
    ("labels", "kcal", lambda x: zeros(kcal=x), 0, 960),
    ("labels", "kj", lambda x: zeros(kj=x), 0, 4010),
    ("labels", "sodium_mg", lambda x: zeros(sodium_mg=x), 0, 40010),
    ("labels", "potassium_mg", lambda x: zeros(potassium_mg=x), 0, 52510),
]  # fmt: skip
"""Bounds that are tried elsewhere, in company of other figures, are named in `ELSEWHERE`."""
ELSEWHERE = {
    ("learned", "yield"), ("components", "measured_g"), ("components", "poured_fat_g"),
    ("weighing", "vessel_g"), ("yields", "cooked_g"), ("yields", "edible_g"),
}  # fmt: skip


class Bounds(unittest.TestCase):
    def test_on_the_bound_is_taken_and_beyond_it_refused(self) -> None:
        for module, field, make, low, high in BOUNDS:
            whole = field in ("count", "rank", "pieces", "total_cents", "first")
            with self.subTest(module=module, field=field):
                make(low)
                make(high)
                step = 1 if whole else 1e-6
                for beyond in (low - step, high + step * max(abs(high), 1), math.nan):
                    with self.assertRaises(OutOfRange) as caught:
                        make(beyond)
                    self.assertIn(field, str(caught.exception))
                    self.assertEqual(caught.exception.field, field)
                self.assertEqual((caught.exception.low, caught.exception.high), (low, high))

    def test_no_bound_of_the_core_is_left_out(self) -> None:
        known = {(module, field) for module, field, *_ in BOUNDS} | ELSEWHERE
        found = set()
        for file in CORE.rglob("*.py"):
            for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
                match node:
                    case ast.Call(func=ast.Name(id="require_range"), args=[ast.Constant(value=field), *_]):
                        found.add((file.stem, field))
        self.assertEqual(found - known, set())

    def test_figures_of_targets_by_nutrient(self) -> None:
        most = {"kcal": 4000, "protein_g": 300, "carbohydrate_g": 600, "fat_g": 250}
        for name, limit in most.items():
            other = "kcal" if name == "protein_g" else "protein_g"
            taken: list[tuple[type, dict[str, Any]]] = [
                (Target, {name: limit}), (Target, {name: 0, other: 1}), (Tolerance, {name: limit}),
                (Tolerance, {name: 0}),
                (Tolerance, {name: 100, "percent": True}), (Tolerance, {f"priority_{name}": 0.1}),
                (Tolerance, {f"priority_{name}": 100}),
            ]  # fmt: skip
            refused: list[tuple[type, dict[str, Any]]] = [
                (Target, {name: limit + 0.001}), (Target, {name: -0.001, other: 1}), (Tolerance, {name: limit + 0.001}),
                (Tolerance, {name: -0.001}), (Tolerance, {name: 100.001, "percent": True}),
                (Tolerance, {f"priority_{name}": 0.099}), (Tolerance, {f"priority_{name}": 100.1}),
            ]  # fmt: skip
            self.check(taken, refused)
        for name, limit in {"fibre_g": 100, "saturated_g": 250, "sodium_mg": 10_000}.items():
            self.check(
                [(Target, {"protein_g": 1, name: limit}), (Target, {"protein_g": 1, name: 0})],
                [(Target, {"protein_g": 1, name: limit + 0.001}), (Target, {"protein_g": 1, name: -0.001})],
            )

    def check(self, taken: list[tuple[type, dict[str, Any]]], refused: list[tuple[type, dict[str, Any]]]) -> None:
        for of, figures in taken:
            with self.subTest(of=of, figures=figures):
                of(**figures)
        for of, figures in refused:
            with self.subTest(of=of, figures=figures), self.assertRaises(OutOfRange):
                of(**figures)

    def test_figures_of_whole_days(self) -> None:
        by_hand = {
            "kcal": 12_000, "protein_g": 800, "carbohydrate_g": 2000, "fat_g": 600, "fibre_g": 200, "saturated_g": 500,
            "sodium_mg": 20_000,
        }  # fmt: skip
        self.assertEqual({nutrient.value: most for nutrient, most in DAY_LIMITS.items()}, by_hand)
        for name, most in by_hand.items():
            with self.subTest(name=name):
                Day(figures={Nutrient.KCAL: 2000, Nutrient(name): most})
                for beyond in (most + 0.001, -0.001):
                    with self.assertRaises(OutOfRange) as caught:
                        Day(figures={Nutrient.KCAL: 2000, Nutrient(name): beyond})
                    self.assertEqual(caught.exception.field, name)

    def test_vessels(self) -> None:
        self.assertEqual(VesselWeight(gross_g=5, vessel_g=0).vessel_g, 0)
        for vessel in (-0.001, 1_000_001, math.nan):
            with self.subTest(vessel=vessel), self.assertRaises(OutOfRange) as caught:
                VesselWeight(gross_g=1_000_000, vessel_g=vessel)
            self.assertEqual(caught.exception.field, "vessel_g")
        for gross, vessel in ((500, 500), (500, 501)):
            with self.subTest(gross=gross), self.assertRaises(CoreError):
                VesselWeight(gross_g=gross, vessel_g=vessel)

    def test_yields_that_were_measured(self) -> None:
        self.assertEqual(yield_factor(0.001, 0.001), 1)
        for cooked, edible in ((0.0009, 1), (1, 0.0009), (math.nan, 1)):
            with self.subTest(cooked=cooked, edible=edible):
                self.assertRaises(OutOfRange, lambda c=cooked, e=edible: yield_factor(c, e))


if __name__ == "__main__":
    unittest.main()
