"""What a client has at most of something: which components it is, and what the plan makes of it."""

from __future__ import annotations

import doctest
import unittest
from random import Random

from tests.core.examples import food, keeps
from yantai.core.cooking.components import Component, Line
from yantai.core.foods.nutrients import Nutrient
from yantai.core.planning import client_bounds
from yantai.core.planning.client_bounds import ClientBound, most_of
from yantai.core.planning.dishes import ContainerClass, Dish, Part
from yantai.core.planning.plan import plan
from yantai.core.planning.portioning import Bounds, School
from yantai.core.portions import Limit
from yantai.core.portions.problem import MOSTS
from yantai.core.targets.targets import Target, Tolerance


def pan(name: str, protein: float, carbohydrate: float) -> Component:
    line = Line(name=name, purchased_g=2000, composition=food(protein, carbohydrate, 1), yield_range=keeps(1))
    return Component(name=name, lines=(line,))


def parts(**how: object) -> dict[str, Part]:
    courgette = Part(component=pan("Courgette", 5, 20), share=500, school=School.BY_COMPONENT, **how)  # type: ignore[arg-type]
    return {"courgette": courgette, "rice": Part(component=pan("Rice", 3, 25), share=500)}


def each(**how: object) -> ContainerClass:
    return ContainerClass(target=Target(protein_g=20, carbohydrate_g=110), tolerance=Tolerance(), count=2, **how)  # type: ignore[arg-type]


class Names(unittest.TestCase):
    def test_examples(self) -> None:
        self.assertEqual(doctest.testmod(client_bounds).failed, 0)

    def test_which_components_are_meant(self) -> None:
        bounds = [ClientBound(word="courgette", maximum_g=40), ClientBound(word="roast courgette", maximum_g=30)]
        for name, most in (
            ("Courgette", 40),
            ("Zucchini, grilled", 40),
            ("Roast courgettes", 30),
            ("Roast pumpkin", None),
            ("", None),
        ):
            with self.subTest(name=name):
                self.assertEqual(most_of(name, bounds), most)
        self.assertIsNone(most_of("Rice", [ClientBound(word=" ", maximum_g=10)]))


class Planned(unittest.TestCase):
    def test_it_binds_where_grams_are_solved_for(self) -> None:
        """By hand: 20 g protein and 110 g carbohydrate of 5/20 and 3/25 take c and r with 0.05 c + 0.03 r = 20 and
        0.2 c + 0.25 r = 110: c = 261.5 g. At most 100 g of it, and there are 100 g."""
        dishes = {"": Dish(parts=parts())}
        free, bound = each(), each(at_most={"courgette": 100.0})
        self.assertGreater(plan(dishes, (free,)).portions[0].grams[0], 200)
        (portion,) = plan(dishes, (bound,)).portions
        self.assertEqual((portion.grams[0], portion.limits[0]), (100, Limit.CLIENT_MOST))
        self.assertIn(Limit.CLIENT_MOST, MOSTS)

    def test_it_goes_before_the_least_that_everybody_gets(self) -> None:
        dishes = {"": Dish(parts=parts(bounds=Bounds(minimum_g=150, maximum_g=300)))}
        (portion,) = plan(dishes, (each(at_most={"courgette": 60.0}),)).portions
        self.assertEqual(portion.grams[0], 60)

    def test_a_wider_one_changes_nothing(self) -> None:
        dishes = {"": Dish(parts=parts(bounds=Bounds(minimum_g=0, maximum_g=120)))}
        (as_is,) = plan(dishes, (each(),)).portions
        (wide,) = plan(dishes, (each(at_most={"courgette": 500.0, "elsewhere": 1.0}),)).portions
        self.assertEqual((wide.grams, wide.limits), (as_is.grams, as_is.limits))

    def test_what_is_set_or_pinned_stays(self) -> None:
        by_eye = {
            "": Dish(
                parts=parts()
                | {"courgette": Part(component=pan("Courgette", 5, 20), share=500, school=School.BY_EYE, eye_g=90)}
            )
        }
        (portion,) = plan(by_eye, (each(at_most={"courgette": 40.0}),)).portions
        self.assertEqual(portion.grams[0], 90)
        (portion,) = plan(
            {"": Dish(parts=parts())}, (each(at_most={"courgette": 40.0}, pins={"courgette": 70.0}),)
        ).portions
        self.assertEqual(portion.grams[0], 70)

    def test_as_if_everybody_were_bound_so(self) -> None:
        """A single client bound by a most is planned as a dish whose component has that most for everybody."""
        rng = Random(7)
        for number in range(60):
            most = float(rng.randint(5, 300))
            target = Target(protein_g=rng.uniform(5, 40), carbohydrate_g=rng.uniform(20, 120))
            mine = ContainerClass(target=target, tolerance=Tolerance(), count=rng.randint(1, 5))
            own = ContainerClass(target=target, tolerance=Tolerance(), count=mine.count, at_most={"courgette": most})
            (by_client,) = plan({"": Dish(parts=parts(bounds=Bounds(minimum_g=0, maximum_g=400)))}, (own,)).portions
            (by_dish,) = plan(
                {"": Dish(parts=parts(bounds=Bounds(minimum_g=0, maximum_g=min(most, 400))))}, (mine,)
            ).portions
            with self.subTest(number=number):
                self.assertEqual(by_client.grams, by_dish.grams)
                self.assertAlmostEqual(by_client.amounts[Nutrient.PROTEIN], by_dish.amounts[Nutrient.PROTEIN])
