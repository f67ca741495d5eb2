"""The yield of every food by every method, and what a range does to a pan."""

from __future__ import annotations

import csv
import unittest
from dataclasses import replace
from importlib import resources

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import food, keeps
from yantai.core.cooking.components import METHODS, UNCOOKED, Component, Line, LineRole
from yantai.core.cooking.yield_choice import FAMILY_OF, FAMILY_SPREAD, Cookable, Factors, Family, choose, takes_up_water
from yantai.core.cooking.yields import (
    MAXIMUM_YIELD,
    READY,
    UNCHANGED,
    UNKNOWN,
    YieldRange,
    YieldSource,
    around_balance,
    balance_yield,
)
from yantai.core.errors import CoreError, OutOfRange, require_range


def table(name: str) -> list[dict[str, str]]:
    text = (resources.files("yantai.reference") / "data" / name).read_text(encoding="utf-8")
    return list(csv.DictReader(text.splitlines()))


def factor(row: dict[str, str]) -> YieldRange:
    source = YieldSource.PUBLISHED if row["food_id"] else YieldSource.GROUP
    low, mean, high = (float(row[key]) for key in ("yield_low", "yield_mean", "yield_high"))
    return YieldRange(low=low, expected=mean, high=high, source=source)


FACTORS: dict[str, dict[str, YieldRange]] = {}
for _row in table("yields.csv"):
    FACTORS.setdefault(_row["food_id"] or _row["group"], {})[_row["method"]] = factor(_row)
FOODS = table("foods.csv")
COOKED = [method for method in METHODS if method != UNCOOKED]
MOIST = [method for method, family in FAMILY_OF.items() if family is Family.MOIST]


def cookable(row: dict[str, str]) -> Cookable:
    solids = sum(float(row[key] or 0) for key in ("protein_g", "fat_g", "carbohydrate_g"))
    return Cookable(name=row["name"], group=row["group"], state=row["state"], solids_g=solids)


def chosen(row: dict[str, str], method: str) -> YieldRange:
    found = Factors(own=FACTORS.get(row["food_id"], {}), group=FACTORS.get(row["group"], {}))
    return choose(cookable(row), method, found)


class EveryFoodByEveryMethod(unittest.TestCase):
    """What is not cooked yet, by all fifteen ways of cooking."""

    def test_only_phyllo_out_of_the_oven_has_no_yield(self) -> None:
        unknown = {
            row["name"]
            for row in FOODS
            for method in COOKED
            if row["state"] != "cooked" and chosen(row, method).source is YieldSource.UNKNOWN
        }
        self.assertEqual(unknown, {"Phyllo pastry"})

    def test_what_is_dry_takes_up_water_whatever_the_method(self) -> None:
        dry = [row for row in FOODS if takes_up_water(cookable(row))]
        self.assertGreaterEqual(len(dry), 45)
        for row in dry:
            for method in COOKED:
                with self.subTest(food=row["name"], method=method):
                    self.assertGreater(chosen(row, method).expected, 1.3)

    def test_moist_methods_of_one_dry_food_lie_close_together(self) -> None:
        for row in FOODS:
            if takes_up_water(cookable(row)):
                found = [chosen(row, method).expected for method in MOIST]
                with self.subTest(food=row["name"]):
                    self.assertLess(max(found), 1.25 * min(found))

    def test_meat_and_fish_lose_and_stay_meat(self) -> None:
        for row in FOODS:
            if row["state"] == "raw" and row["group"] in ("poultry", "beef", "pork", "lamb-game", "fish-shellfish"):
                for method in COOKED:
                    with self.subTest(food=row["name"], method=method):
                        # Bacon renders down to a third, a mussel to half.
                        least = 0.25 if "acon" in row["name"] else 0.45
                        self.assertTrue(least <= chosen(row, method).expected <= 0.9, chosen(row, method))

    def test_dry_powders_and_flours_keep_their_weight(self) -> None:
        for row in FOODS:
            if row["state"] == "dry" and row["group"] in ("sweeteners-baking", "protein-powders"):
                for method in COOKED:
                    with self.subTest(food=row["name"], method=method):
                        self.assertEqual(chosen(row, method).expected, 1)

    def test_a_range_holds_its_expectation_and_stays_possible(self) -> None:
        for row in FOODS:
            for method in METHODS:
                found = chosen(row, method)
                self.assertTrue(0 <= found.low <= found.expected <= found.high <= MAXIMUM_YIELD, (row["name"], method))


class ByHand(unittest.TestCase):
    """Rows of the table read by eye: the yield, and what it was taken from."""

    def test_what_each_takes_it_from(self) -> None:
        cases = [
            ("lentils-brown-or-green-dry", "simmered", 2.6, "as boiled"),
            ("lentils-brown-or-green-dry", "pressure-cooked", 2.6, "as boiled"),
            ("rice-white-long-grain-dry", "slow-cooked", 2.8, "as boiled"),
            ("rice-white-long-grain-dry", "baked", 2.8, "as boiled"),
            ("oats-rolled-dry", "boiled", 5.4, "as simmered"),
            ("oats-rolled-dry", "simmered", 5.4, ""),
            ("chicken-breast-skinless-raw", "boiled", 0.76, "as simmered"),
            ("chicken-breast-skinless-raw", "poached", 0.76, "as simmered"),
            ("chicken-breast-skinless-raw", "steamed", 0.76, "as simmered"),
            ("chicken-breast-skinless-raw", "microwaved", 0.76, "as simmered"),
            ("beef-stewing-steak-chuck-diced-raw", "simmered", 0.65, "as braised"),
            ("beef-strip-loin-steak-raw", "pan-fried", 0.79, "as grilled"),
            ("cod-pacific-raw", "poached", 0.83, "as baked"),
            ("broccoli-raw", "simmered", 0.93, "as boiled"),
            ("broccoli-raw", "baked", 0.69, "as roasted"),
            ("carrot-raw", "stir-fried", 0.88, "as sauteed"),
            ("bulgur-wheat-dry", "simmered", 2.9, "as boiled"),
        ]
        for food_id, method, expected, note in cases:
            row = next(one for one in FOODS if one["food_id"] == food_id)
            with self.subTest(food=food_id, method=method):
                found = chosen(row, method)
                self.assertAlmostEqual(found.expected, expected)
                self.assertTrue(found.note.startswith(note), found.note)
                own = FACTORS[food_id].get(method)
                if own is None:
                    self.assertIn("wider range", found.note)

    def test_a_relative_of_the_family_widens_by_a_tenth_and_one_across_by_a_fifth(self) -> None:
        chicken = Cookable(name="Chicken", group="poultry", state="raw")
        known = Factors(own={"roasted": keeps(0.7, 0.05)})
        near, across = choose(chicken, "baked", known), choose(chicken, "boiled", known)
        self.assertAlmostEqual(near.low, 0.65 * 0.9)
        self.assertAlmostEqual(near.high, 0.75 * 1.1)
        self.assertAlmostEqual(across.low, 0.65 * 0.8)
        self.assertAlmostEqual(across.high, 0.75 * 1.2)
        self.assertEqual((near.note, across.note), ("as roasted, with a wider range",) * 2)

    def test_vegetables_do_not_borrow_across_families(self) -> None:
        known = Factors(own={"roasted": keeps(0.7)}, group={"steamed": keeps(0.95, 0.04)})
        found = choose(Cookable(name="Broccoli", group="vegetables", state="raw"), "boiled", known)
        self.assertEqual((found.expected, found.note), (0.95, "as steamed, with a wider range"))
        unknown = choose(Cookable(name="Broccoli", group="vegetables", state="raw"), "boiled", Factors(own=known.own))
        self.assertIs(unknown, UNKNOWN)

    def test_the_nearest_of_a_family_comes_first(self) -> None:
        known = Factors(own={"slow-cooked": keeps(0.6), "braised": keeps(0.65), "simmered": keeps(0.75)})
        meat = Cookable(name="Beef", group="beef", state="raw")
        taken = {method: choose(meat, method, known).expected for method in MOIST}
        self.assertEqual(
            taken,
            {"boiled": 0.75, "simmered": 0.75, "poached": 0.75, "steamed": 0.75, "microwaved": 0.75,
             "braised": 0.65, "slow-cooked": 0.6, "pressure-cooked": 0.65},
        )  # fmt: skip

    def test_own_before_balance_before_relatives_before_the_group(self) -> None:
        meat = Cookable(name="Beef", group="beef", state="raw")
        own, balance, relative, group = (keeps(factor) for factor in (0.71, 0.72, 0.73, 0.74))
        everything = Factors(
            own={"grilled": own, "roasted": relative}, balance={"grilled": balance}, group={"grilled": group}
        )
        self.assertIs(choose(meat, "grilled", everything), own)
        self.assertIs(choose(meat, "grilled", replace(everything, own={"roasted": relative})), balance)
        self.assertEqual(
            choose(meat, "grilled", replace(everything, own={"roasted": relative}, balance={})).expected, 0.73
        )
        self.assertIs(choose(meat, "grilled", Factors(group={"grilled": group})), group)

    def test_what_is_bought_ready_keeps_its_weight_unless_its_own_factor_says_otherwise(self) -> None:
        ham = Cookable(name="Ham", group="pork", state="as-sold")
        self.assertIs(choose(ham, "baked", Factors(group={"baked": keeps(0.7)})), READY)
        self.assertEqual(choose(ham, "baked", Factors(own={"roasted": keeps(0.84)})).expected, 0.84)

    def test_no_cooking_changes_nothing(self) -> None:
        self.assertIs(choose(Cookable(name="Rice", group="grains-pasta", state="dry"), "none", Factors()), UNCHANGED)

    def test_roles(self) -> None:
        cases = [
            (Cookable(name="Water", group="water", state="as-sold", is_water=True), LineRole.WATER, False),
            (
                Cookable(name="Chicken broth, ready to serve", group="sauces-stocks", state="as-sold", solids_g=2),
                LineRole.WATER,
                False,
            ),
            (
                Cookable(name="Chicken stock cube", group="sauces-stocks", state="dry", solids_g=60),
                LineRole.FOOD,
                False,
            ),
            (
                Cookable(name="Gravy stock paste", group="sauces-stocks", state="as-sold", solids_g=9),
                LineRole.FOOD,
                True,
            ),
            (
                Cookable(name="Milk, whole", group="dairy-alternatives", state="as-sold", solids_g=11),
                LineRole.FOOD,
                True,
            ),
            (Cookable(name="Cheddar", group="dairy-alternatives", state="as-sold", solids_g=60), LineRole.FOOD, False),
            # What is wet of each group, to either side of its edge; of a food whose solids nobody knows, nothing.
            (Cookable(name="Quark", group="dairy-alternatives", state="as-sold", solids_g=20), LineRole.FOOD, True),
            (Cookable(name="Quark", group="dairy-alternatives", state="as-sold", solids_g=20.1), LineRole.FOOD, False),
            (Cookable(name="Pesto", group="sauces-stocks", state="as-sold", solids_g=25), LineRole.FOOD, True),
            (Cookable(name="Pesto", group="sauces-stocks", state="as-sold", solids_g=25.1), LineRole.FOOD, False),
            (Cookable(name="Salsa", group="vegetables", state="canned-drained", solids_g=12), LineRole.FOOD, True),
            (Cookable(name="Salsa", group="vegetables", state="canned-drained", solids_g=12.1), LineRole.FOOD, False),
            (Cookable(name="Salsa", group="vegetables", state="as-sold"), LineRole.FOOD, False),
            (Cookable(name="Tomatoes, diced", group="vegetables", state="as-sold", solids_g=5), LineRole.FOOD, True),
            (Cookable(name="Olive oil", group="fats-oils", state="as-sold"), LineRole.FAT, False),
            (Cookable(name="Thyme", group="herbs-spices", state="dry"), LineRole.SEASONING, False),
        ]
        for food_, role, wet in cases:
            with self.subTest(name=food_.name):
                self.assertEqual((food_.role, food_.is_wet), (role, wet))


class Spread(unittest.TestCase):
    def test_the_spread_covers_the_dry_methods_of_the_reference(self) -> None:
        """Every meat with two dry methods: either one lies in the range borrowed from the other."""
        rows = [
            row for row in table("yields.csv") if row["food_id"] and row["method"] in ("roasted", "baked", "grilled")
        ]
        by_food: dict[str, list[dict[str, str]]] = {}
        for row in rows:
            by_food.setdefault(row["food_id"], []).append(row)
        groups = {row["food_id"]: row["group"] for row in FOODS}
        outside = []
        for food_id, found in by_food.items():
            if groups[food_id] not in ("poultry", "beef", "pork", "lamb-game", "fish-shellfish"):
                continue
            for one in found:
                for other in found:
                    low = float(one["yield_low"]) * (1 - FAMILY_SPREAD)
                    high = float(one["yield_high"]) * (1 + FAMILY_SPREAD)
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

    def test_dark_meat_does_not_stand_above_the_breast(self) -> None:
        for bird, dark in (("chicken", ("thigh", "drumstick")), ("turkey", ("thigh",))):
            breast = FACTORS[f"{bird}-breast-skinless-raw"]["roasted"].expected
            for cut in dark:
                self.assertLess(FACTORS[f"{bird}-{cut}-skinless-raw"]["roasted"].expected, breast)

    def test_the_examples_of_the_kitchen_lie_in_their_ranges(self) -> None:
        """Weighings from outside the table: bulgur 600 g to 1,665 g; spinach cooked down to about half; dry rice in
        twice its weight of water to 2.7; pasta to 2.2; lentils to 2.6."""
        cases = [
            ("bulgur-wheat-dry", "boiled", 2.775), ("spinach-raw", "sauteed", 0.5), ("spinach-raw", "sauteed", 0.6),
            ("rice-white-long-grain-dry", "boiled", 2.7), ("pasta-white-dry", "boiled", 2.2),
            ("lentils-brown-or-green-dry", "boiled", 2.6), ("couscous-dry", "steeped", 2.2),
            ("buckwheat-groats-roasted-dry", "boiled", 2.5), ("pasta-fresh-raw", "boiled", 1.5),
        ]  # fmt: skip
        for food_id, method, seen in cases:
            found = FACTORS[food_id][method]
            with self.subTest(food=food_id, seen=seen):
                self.assertTrue(found.low <= seen <= found.high, found)

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
