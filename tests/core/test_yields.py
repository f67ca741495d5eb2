"""Yields borrowed from similar methods, and what a range does to a pan."""

from __future__ import annotations

import csv
import unittest
from importlib import resources

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import food, keeps
from yantai.core.components import METHODS, Component, Line, LineRole
from yantai.core.errors import CoreError, OutOfRange, require_range
from yantai.core.yields import (
    MAXIMUM_YIELD,
    SIMILAR_SPREAD,
    YieldSource,
    around_balance,
    balance_yield,
    borrowed,
    similar_methods,
)


def table(name: str) -> list[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


class Similar(unittest.TestCase):
    def test_dry_and_wet_methods_do_not_stand_in_for_each_other(self) -> None:
        self.assertEqual(similar_methods("baked"), ["roasted", "air-fried", "grilled", "pan-fried"])
        self.assertNotIn("roasted", similar_methods("boiled"))
        self.assertEqual(similar_methods("none"), [])

    def test_pan_frying_is_like_both_the_oven_and_the_saute_pan(self) -> None:
        like = ["roasted", "baked", "air-fried", "grilled", "sauteed", "stir-fried"]
        self.assertEqual(similar_methods("pan-fried"), like)

    def test_a_borrowed_yield_is_wider_and_says_from_where(self) -> None:
        found = borrowed(keeps(0.7, 0.05), "grilled")
        self.assertAlmostEqual(found.low, 0.65 * (1 - SIMILAR_SPREAD))
        self.assertAlmostEqual(found.expected, 0.7)
        self.assertAlmostEqual(found.high, 0.75 * (1 + SIMILAR_SPREAD))
        self.assertIn("as grilled", found.note)

    def test_it_stays_a_possible_yield(self) -> None:
        self.assertLessEqual(borrowed(keeps(7.5, 0.4), "boiled").high, MAXIMUM_YIELD)

    def test_the_spread_covers_the_dry_methods_of_the_reference(self) -> None:
        """Every meat with two dry methods: either one lies in the range borrowed from the other."""
        rows = [
            row for row in table("yields.csv") if row["food_id"] and row["method"] in ("roasted", "baked", "grilled")
        ]
        by_food: dict[str, list[dict[str, str]]] = {}
        for row in rows:
            by_food.setdefault(row["food_id"], []).append(row)
        groups = {row["food_id"]: row["group"] for row in table("foods.csv")}
        outside = []
        for food_id, found in by_food.items():
            if groups[food_id] not in ("poultry", "beef", "pork", "lamb-game", "fish-shellfish"):
                continue
            for one in found:
                for other in found:
                    low = float(one["yield_low"]) * (1 - SIMILAR_SPREAD)
                    high = float(one["yield_high"]) * (1 + SIMILAR_SPREAD)
                    if not low <= float(other["yield_mean"]) <= high:
                        outside.append((food_id, one["method"], other["method"]))
        self.assertEqual(outside, [])


class Reference(unittest.TestCase):
    def test_every_cooking_method_of_a_component_has_published_yields(self) -> None:
        published = {row["method"] for row in table("yields.csv")}
        self.assertEqual([method for method in METHODS if method != "none" and method not in published], [])

    def test_yields_lie_in_their_ranges(self) -> None:
        for row in table("yields.csv"):
            low, mean, high = (float(row[key]) for key in ("yield_low", "yield_mean", "yield_high"))
            self.assertTrue(0 < low <= mean <= high <= MAXIMUM_YIELD, row)

    def test_protein_balance_of_the_meat_pairs(self) -> None:
        """The balance computed here from the two entries is the one the pairs file states."""
        foods = {row["food_id"]: row for row in table("foods.csv")}
        checked = 0
        for pair in table("pairs.csv"):
            raw, cooked = foods[pair["raw_id"]], foods[pair["cooked_id"]]
            if raw["group"] in ("poultry", "beef", "pork", "lamb-game") and pair["yield_protein_basis"]:
                found = balance_yield(float(raw["protein_g"]), float(cooked["protein_g"])).expected
                self.assertAlmostEqual(found, float(pair["yield_protein_basis"]), delta=0.001)
                checked += 1
        self.assertGreater(checked, 60)


class Ranges(unittest.TestCase):
    @given(st.floats(0.2, 3), st.floats(10, 3000), st.floats(0, 200))
    def test_the_pans_range_is_that_of_its_lines(self, factor: float, grams: float, oil: float) -> None:
        lines = [Line(name="food", purchased_g=grams, composition=food(1, 1, 1), yield_range=around_balance(factor))]
        if oil:
            same = keeps(1, 0)
            lines.append(
                Line(name="oil", purchased_g=oil, composition=food(0, 0, 100), yield_range=same, role=LineRole.FAT)
            )
        pan = Component(name="pan", lines=tuple(lines))
        self.assertAlmostEqual(pan.expected_g, grams * factor + oil, delta=1e-6 * grams)
        self.assertAlmostEqual(pan.expected_high_g - pan.expected_low_g, 0.2 * grams * factor, delta=1e-6 * grams)
        self.assertAlmostEqual(pan.basis_g, grams)

    def test_a_balance_without_protein_is_refused(self) -> None:
        with self.assertRaises(OutOfRange):
            balance_yield(20, 0)

    def test_sources_are_named_in_words(self) -> None:
        for source in YieldSource:
            self.assertRegex(source.value, r"^[a-z][a-z ,]+$")


class Errors(unittest.TestCase):
    def test_they_carry_what_was_given_and_what_would_work(self) -> None:
        with self.assertRaises(OutOfRange) as caught:
            require_range("protein_g", 900, low=0, high=300, unit="g")
        error = caught.exception
        self.assertEqual((error.field, error.value, error.low, error.high), ("protein_g", 900, 0, 300))
        self.assertIsInstance(error, CoreError)

    def test_no_number_is_in_no_range(self) -> None:
        for value in (float("nan"), float("inf"), float("-inf")):
            with self.subTest(value=value), self.assertRaises(OutOfRange):
                require_range("x", value, low=0, high=1, unit="g")
