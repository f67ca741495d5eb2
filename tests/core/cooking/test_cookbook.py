"""Components as they are written: which yield a line has, and components made of components."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import OIL, food, keeps
from yantai.core.cooking.components import UNCOOKED, Component
from yantai.core.cooking.cookbook import Cookbook, KnownFood, WrittenComponent, WrittenLine
from yantai.core.cooking.yield_choice import Cookable, Factors
from yantai.core.cooking.yields import YieldSource
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import Nutrient

BEEF = KnownFood(
    cookable=Cookable(name="Beef mince", group="beef", state="raw"),
    composition=food(20, 0, 10),
    factors=Factors(own={"pan-fried": keeps(0.7)}),
    measured={"pan-fried": [0.74, 0.76, 0.75, 0.74, 0.76, 0.75, 0.75, 0.74]},
)
TOMATO = KnownFood(cookable=Cookable(name="Tomato", group="vegetables", state="raw"), composition=food(1, 4, 0))
RAPESEED = KnownFood(cookable=Cookable(name="Rapeseed oil", group="fats-oils", state="as-sold"), composition=OIL)
FOODS = {"beef": BEEF, "tomato": TOMATO, "oil": RAPESEED}


def line(food_key: str, grams: float, **more: Any) -> WrittenLine:
    return WrittenLine(food=food_key, purchased_g=grams, **more)


def component(key: str, *lines: WrittenLine, method: str = "pan-fried", **more: Any) -> WrittenComponent:
    return WrittenComponent(key=key, history=key, name=key, method=method, lines=lines, **more)


def unfolded(book: Cookbook, written: WrittenComponent) -> Component:
    """The component of the unfolded lines alone, as a batch would copy it."""
    lines = tuple(
        WrittenLine(
            food=each.line.food,
            purchased_g=each.purchased_g,
            refuse_share=each.line.refuse_share,
            refuse_after=each.line.refuse_after,
            retained_share=each.retained_share,
            yield_factor=each.yield_factor,
            counted=each.counted,
        )
        for each in book.unfold(written)
    )
    poured_fat_g = written.poured_fat_g + book.poured_within(written)
    return book.make(WrittenComponent(name="copy", method=written.method, lines=lines, poured_fat_g=poured_fat_g))


class Yields(unittest.TestCase):
    """The coach's own goes before what was measured, and that before what is published."""

    def test_the_coach_s_own(self) -> None:
        found = Cookbook(foods=FOODS).expected_yield(line("beef", 500, yield_factor=0.8), "pan-fried")
        self.assertEqual((found.expected, found.source), (0.8, YieldSource.COACH))

    def test_measured_here(self) -> None:
        """Eight pans at 0.75 on average pull the published 0.70 most of the way."""
        found = Cookbook(foods=FOODS).expected_yield(line("beef", 500), "pan-fried")
        self.assertGreater(found.expected, 0.73)
        self.assertLess(found.expected, 0.75)

    def test_published(self) -> None:
        found = Cookbook(foods=FOODS).published_yield(line("beef", 500, yield_factor=0.8), "pan-fried")
        self.assertEqual(found.expected, 0.7)

    def test_the_component_s_own_history_stands_in_for_its_lines(self) -> None:
        """Ten times 0.62 of the whole pan, so what was measured of beef alone does not count."""
        written = component("ragu", line("beef", 500), line("tomato", 500))
        made = Cookbook(foods=FOODS, measured={"ragu": [0.62] * 10}).make(written)
        self.assertAlmostEqual(made.cooked_g / made.basis_g, 0.62, delta=0.03)

    def test_the_prior_of_a_component_knows_of_no_weighing(self) -> None:
        book = Cookbook(foods=FOODS, measured={"mince": [0.9] * 10})
        self.assertAlmostEqual(book.prior(component("mince", line("beef", 500))).expected, 0.7, places=9)

    def test_what_a_component_is_about(self) -> None:
        book = Cookbook(foods=FOODS)
        self.assertEqual(book.main_food(component("a", line("beef", 900), line("tomato", 100))), "beef")
        self.assertIsNone(book.main_food(component("a", line("beef", 890), line("tomato", 110))))
        self.assertEqual(book.main_food(component("a", line("beef", 50), line("oil", 500))), "beef")


class Unfolding(unittest.TestCase):
    def test_by_hand(self) -> None:
        """A sauce of 400 g tomato and 100 g oil, half of it boiled away by a set yield: 250 g. 125 g of it stirred
        into 600 g beef is half of each: 200 g tomato and 50 g oil, each with a yield of 0.5."""
        sauce = component("sauce", line("tomato", 400), line("oil", 100), method="simmered", yield_expected=0.5)
        book = Cookbook(foods=FOODS, components={"sauce": sauce})
        made = book.make(sauce)
        whole = component("dish", line("beef", 600), WrittenLine(component="sauce", purchased_g=made.cooked_g / 2))
        found = book.unfold(whole)
        self.assertEqual([each.line.food for each in found], ["beef", "tomato", "oil"])
        self.assertEqual([each.owner.key for each in found], ["dish", "sauce", "sauce"])
        self.assertAlmostEqual(found[1].purchased_g, 200)
        self.assertAlmostEqual(found[2].purchased_g, 50)
        cooked = [each.purchased_g * (each.yield_factor or 0) for each in found[1:]]
        self.assertAlmostEqual(sum(cooked), made.cooked_g / 2)

    def test_one_that_is_made_of_itself_says_how(self) -> None:
        one = component("one", WrittenLine(component="two", purchased_g=10))
        two = component("two", WrittenLine(component="one", purchased_g=10))
        with self.assertRaisesRegex(CoreError, "one → two → one"):
            Cookbook(foods=FOODS, components={"one": one, "two": two}).make(one)

    def test_one_that_was_removed(self) -> None:
        with self.assertRaisesRegex(CoreError, "was removed"):
            Cookbook(foods=FOODS).make(component("one", WrittenLine(component="gone", purchased_g=10)))

    def test_foods_of_all_levels_each_once(self) -> None:
        inner = component("inner", line("oil", 10), line("beef", 10))
        outer = component("outer", line("beef", 5), WrittenLine(component="inner", purchased_g=5), line("tomato", 1))
        book = Cookbook(foods=FOODS, components={"inner": inner})
        self.assertEqual(book.foods_of(outer.lines), ["beef", "oil", "tomato"])

    @given(
        grams=st.lists(st.floats(20, 900), min_size=6, max_size=6),
        kept=st.lists(st.floats(0.1, 1), min_size=3, max_size=3),
        refuse=st.floats(0, 0.4),
        poured=st.lists(st.floats(0, 1), min_size=3, max_size=3),
        counted=st.booleans(),
        method=st.sampled_from([UNCOOKED, "pan-fried"]),
    )
    def test_it_moves_neither_grams_nor_macros_however_deep(
        self,
        grams: list[float],
        kept: list[float],
        refuse: float,
        poured: list[float],
        counted: bool,
        method: str,
    ) -> None:
        """Three components one in the other, with bones, marinades that stay behind, and fat poured off each."""
        low = component(
            "low", line("beef", grams[0], refuse_share=refuse), line("oil", grams[1], retained_share=kept[0])
        )
        middle = component(
            "middle",
            line("tomato", grams[2]),
            WrittenLine(component="low", purchased_g=grams[3], retained_share=kept[1], counted=counted),
        )
        top = component(
            "top",
            line("beef", grams[4]),
            WrittenLine(component="middle", purchased_g=grams[5], retained_share=kept[2]),
            method=method,
        )
        written: list[WrittenComponent] = []
        for each, share in zip((low, middle, top), poured, strict=True):
            book = Cookbook(foods=FOODS, components={one.key: one for one in written})
            fat = book.make(each).totals[Nutrient.FAT]
            own = WrittenComponent(
                key=each.key, name=each.name, method=each.method, lines=each.lines, poured_fat_g=share * fat / 4
            )
            written.append(own)
        book = Cookbook(foods=FOODS, components={one.key: one for one in written})
        nested, copied = book.make(written[2]), unfolded(book, written[2])
        self.assertAlmostEqual(copied.cooked_g, nested.cooked_g, delta=1e-6 * nested.cooked_g)
        for one, other in zip(copied.totals.known, nested.totals.known, strict=True):
            self.assertAlmostEqual(one, other, delta=1e-6 * max(1.0, abs(other)))


if __name__ == "__main__":
    unittest.main()
