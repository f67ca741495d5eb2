from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.examples import keeps
from yantai.core.cooking.components import Component, Line
from yantai.core.errors import CoreError
from yantai.core.foods.energy import Carbohydrate, EnergyRule, Rules, kcal_by_rule
from yantai.core.foods.labels import SCHOOLS, Label, Rounding, audit, contradictions, interval, rounded
from yantai.core.foods.nutrients import Nutrient, Stated

RULES = [Rules(energy=energy, carbohydrate=carbohydrate) for energy in EnergyRule for carbohydrate in Carbohydrate]
grams = st.floats(0, 30)


class EnergyAudits(unittest.TestCase):
    """100 g with 10 g protein, 20 g carbohydrate and 5 g fat are 165 kcal by 4/9/4."""

    MACROS = Stated(protein_g=10, carbohydrate_g=20, fat_g=5, fibre_g=0, stated_kcal=165)

    def gap(self, kcal: float, **uncertainty: tuple[float, float]) -> float:
        found = audit(replace(self.MACROS, stated_kcal=kcal, uncertainty=uncertainty or None))
        assert found is not None
        self.assertEqual((found.stated_kcal, found.implied_kcal), (kcal, 165))
        return found.apart_kcal

    def test_what_rounding_explains_is_no_gap(self) -> None:
        self.assertEqual(self.gap(165), 0)
        self.assertEqual(self.gap(185), 20)
        # Half of the energy's own step, and each macro's larger half step by its factor.
        self.assertAlmostEqual(self.gap(185, stated_kcal=(5, 5)), 15)
        self.assertAlmostEqual(self.gap(185, protein_g=(0.5, 0.5)), 18)
        self.assertAlmostEqual(self.gap(185, carbohydrate_g=(0.2, 0.5)), 18)
        self.assertAlmostEqual(self.gap(185, fat_g=(0.5, 0.1)), 15.5)
        self.assertEqual(self.gap(185, stated_kcal=(30, 30)), 0)

    def test_from_when_on_it_is_a_conflict(self) -> None:
        """More than 10 % of what is stated, or more than 15 kcal."""
        for kcal, conflict in ((150, False), (149.9, True), (180, False), (180.1, True)):
            with self.subTest(kcal=kcal):
                found = audit(replace(self.MACROS, stated_kcal=kcal))
                self.assertEqual(found and found.conflict, conflict)
        light = Stated(protein_g=1, carbohydrate_g=4, fat_g=0, fibre_g=0, stated_kcal=20)
        for kcal, conflict in ((20, False), (18.5, False), (18, True), (22.2, False), (22.3, True)):
            with self.subTest(kcal=kcal):
                found = audit(replace(light, stated_kcal=kcal))
                self.assertEqual(found and found.conflict, conflict)

    def test_a_figure_that_is_missing_cannot_be_compared(self) -> None:
        for name in ("protein_g", "carbohydrate_g", "fat_g", "stated_kcal"):
            with self.subTest(name=name):
                missing: dict[str, Any] = {name: None}
                self.assertIsNone(audit(replace(self.MACROS, **missing)))


class RoundingSchools(unittest.TestCase):
    def test_published_examples(self) -> None:
        # 21 CFR 101.9(c): below 5 kcal is 0, then the nearest 5 up to 50 and 10 above; fat by halves below 5 g.
        cases = [
            (Rounding.US, "kcal", 4.9, 0), (Rounding.US, "kcal", 47, 45), (Rounding.US, "kcal", 53, 50),
            (Rounding.US, "kcal", 256, 260), (Rounding.US, "fat_g", 0.49, 0), (Rounding.US, "fat_g", 3.3, 3.5),
            (Rounding.US, "fat_g", 7.4, 7), (Rounding.US, "protein_g", 2.5, 3), (Rounding.US, "sodium_mg", 138, 140),
            (Rounding.EU, "protein_g", 0.4, 0), (Rounding.EU, "protein_g", 7.26, 7.3), (Rounding.EU, "fat_g", 23.6, 24),
            (Rounding.EU, "saturated_g", 0.09, 0), (Rounding.EU, "kcal", 111.6, 112),
        ]  # fmt: skip
        for school, nutrient, true, stated in cases:
            with self.subTest(school=school, nutrient=nutrient, true=true):
                self.assertAlmostEqual(rounded(school, nutrient, true), stated, places=9)

    def test_the_interval_of_what_is_stated_is_no_wider_than_the_rounding(self) -> None:
        """By hand from the two tables: half a step to either side, and what is rounded to nothing up to its line."""
        us, eu = Rounding.US, Rounding.EU
        cases = [
            (us, "kcal", 0, 0, 5), (us, "kcal", 5, 5, 7.5), (us, "kcal", 45, 42.5, 47.5),
            (us, "kcal", 50, 47.5, 55), (us, "kcal", 60, 55, 65),
            (us, "kcal", 260, 255, 265), (us, "protein_g", 0, 0, 0.5), (us, "protein_g", 1, 0.5, 1.5),
            (us, "carbohydrate_g", 24, 23.5, 24.5), (us, "fibre_g", 3, 2.5, 3.5), (us, "sugars_g", 12, 11.5, 12.5),
            (us, "polyols_g", 2, 1.5, 2.5), (us, "fat_g", 0, 0, 0.5), (us, "fat_g", 0.5, 0.5, 0.75),
            (us, "fat_g", 3.5, 3.25, 3.75), (us, "fat_g", 8, 7.5, 8.5), (us, "saturated_g", 2, 1.75, 2.25),
            (us, "saturated_g", 6, 5.5, 6.5), (us, "sodium_mg", 0, 0, 5), (us, "sodium_mg", 90, 87.5, 92.5),
            (us, "sodium_mg", 140, 137.5, 145), (us, "sodium_mg", 150, 145, 155), (us, "potassium_mg", 0, 0, 5),
            (us, "potassium_mg", 240, 235, 245),
            (eu, "kcal", 112, 111.5, 112.5), (eu, "protein_g", 0, 0, 0.5), (eu, "protein_g", 7.3, 7.25, 7.35),
            (eu, "protein_g", 24, 23.5, 24.5), (eu, "carbohydrate_g", 0.6, 0.55, 0.65), (eu, "fibre_g", 5, 4.95, 5.05),
            (eu, "sugars_g", 11, 10.5, 11.5), (eu, "polyols_g", 3, 2.95, 3.05), (eu, "fat_g", 30, 29.5, 30.5),
            (eu, "saturated_g", 0, 0, 0.1), (eu, "saturated_g", 0.3, 0.25, 0.35), (eu, "saturated_g", 14, 13.5, 14.5),
            (eu, "sodium_mg", 0, 0, 5), (eu, "sodium_mg", 120, 118, 122), (eu, "sodium_mg", 440, 420, 460),
            (Rounding.EXACT, "protein_g", 7.31, 7.31, 7.31),
        ]  # fmt: skip
        self.assertEqual({(s, n) for s, n, *_ in cases if s is not Rounding.EXACT},
                         {(s, n) for s, bands in SCHOOLS.items() for n in bands})  # fmt: skip
        for school, nutrient, stated, low, high in cases:
            with self.subTest(school=school, nutrient=nutrient, stated=stated):
                found = interval(school, nutrient, stated)
                self.assertAlmostEqual(found[0], low, places=9)
                self.assertAlmostEqual(found[1], high, places=9)

    def test_below_its_line_a_figure_is_stated_as_nothing_and_on_it_as_the_first_step(self) -> None:
        us, eu, half = Rounding.US, Rounding.EU, 0.5
        lines = {
            (us, "kcal"): (5, 5), (us, "protein_g"): (half, 1), (us, "carbohydrate_g"): (half, 1),
            (us, "fibre_g"): (half, 1), (us, "sugars_g"): (half, 1), (us, "polyols_g"): (half, 1),
            (us, "fat_g"): (half, half),
            (us, "saturated_g"): (half, half), (us, "sodium_mg"): (5, 5), (us, "potassium_mg"): (5, 5),
            (eu, "kcal"): (half, 1), (eu, "protein_g"): (half, half), (eu, "carbohydrate_g"): (half, half),
            (eu, "fibre_g"): (half, half), (eu, "sugars_g"): (half, half), (eu, "polyols_g"): (half, half),
            (eu, "fat_g"): (half, half), (eu, "saturated_g"): (0.1, 0.1), (eu, "sodium_mg"): (5, 4),
        }  # fmt: skip
        self.assertEqual(set(lines), {(s, n) for s, bands in SCHOOLS.items() for n in bands})
        for (school, nutrient), (line, first) in lines.items():
            with self.subTest(school=school, nutrient=nutrient):
                for below in (0, 0.2 * line, 0.5 * line, line - 1e-6):
                    self.assertEqual(rounded(school, nutrient, below), 0)
                self.assertAlmostEqual(rounded(school, nutrient, line), first)

    def test_a_part_or_a_whole_that_is_not_stated_contradicts_nothing(self) -> None:
        partly: list[dict[str, Any]] = [
            {"saturated_g": 5, "fat_g": None}, {"saturated_g": None, "fat_g": 1},
            {"sugars_g": 5, "carbohydrate_g": None}, {"sugars_g": None, "carbohydrate_g": 1},
        ]  # fmt: skip
        for figures in partly:
            with self.subTest(figures=figures):
                label = Label(**{"serving_g": 100, "protein_g": 1, "carbohydrate_g": 10, "fat_g": 10, **figures})
                self.assertEqual(contradictions(label), [])

    @given(
        st.sampled_from([(school, name) for school, bands in SCHOOLS.items() for name in bands]),
        st.floats(0, 20) | st.floats(0, 600),
    )
    def test_the_interval_of_what_is_stated_holds_the_true_value(self, which, true: float) -> None:
        school, nutrient = which
        low, high = interval(school, nutrient, rounded(school, nutrient, true))
        self.assertLessEqual(low - 1e-9, true)
        self.assertGreaterEqual(high + 1e-9, true)

    def test_a_zero_is_a_range(self) -> None:
        # 5 ml at "0 kcal" may hold almost 5 kcal: 8 of them are nearly 40.
        label = Label(serving_g=5, kcal=0, protein_g=0, carbohydrate_g=0, fat_g=0, rounding=Rounding.US)
        held = label.per_100g().amounts(Rules(energy=EnergyRule.LABEL)).in_grams(8 * 5)
        self.assertEqual(held[Nutrient.KCAL], 0)
        self.assertAlmostEqual(held.interval(Nutrient.KCAL)[1], 40, places=9)

    def test_no_slack_goes_beyond_what_100_g_can_hold(self) -> None:
        spray = Label(serving_g=0.25, kcal=0, protein_g=0, carbohydrate_g=0, fat_g=0, rounding=Rounding.US)
        held = spray.per_100g().amounts()
        self.assertEqual(held.interval(Nutrient.FAT)[1], 100)
        self.assertEqual(held.interval(Nutrient.KCAL)[1], 900)

    def test_stated_energy_bounds_what_the_zeros_of_a_small_serving_leave_open(self) -> None:
        """Zeros in 5 g leave 10 g of each macro in 100 g, 170 kcal; "0 kcal" leaves 100, and says it under any rule."""
        zeros = Label(
            serving_g=5, kcal=0, protein_g=0, carbohydrate_g=0, fat_g=0, fibre_g=0, rounding=Rounding.US
        ).per_100g()
        silent = replace(zeros, stated_kcal=None)
        for rule, most, without in (
            (EnergyRule.LABEL, 100, 170),
            (EnergyRule.GENERAL, 140, 170),  # the fibre of up to 10 g may have been counted at 0
        ):
            with self.subTest(rule=rule):
                rules = Rules(energy=rule)
                self.assertAlmostEqual(zeros.amounts(rules).interval(Nutrient.KCAL)[1], most, places=9)
                self.assertAlmostEqual(silent.amounts(rules).interval(Nutrient.KCAL)[1], without, places=9)

    def test_energy_that_contradicts_the_macros_bounds_nothing(self) -> None:
        label = Label(serving_g=30, kcal=10, protein_g=10, carbohydrate_g=10, fat_g=5, fibre_g=0, rounding=Rounding.US)
        low, high = label.per_100g().amounts().interval(Nutrient.KCAL)
        self.assertLess(low, 125 / 0.3)
        self.assertGreater(high, 125 / 0.3)


class Contradictions(unittest.TestCase):
    def told(self, **figures: Any) -> list[str]:
        return contradictions(Label(**{"serving_g": 100, "protein_g": 5, "carbohydrate_g": 20, "fat_g": 10, **figures}))

    def test_each_is_told_and_its_neighbour_on_the_right_side_is_not(self) -> None:
        eu = {"rounding": Rounding.EU}
        cases: list[tuple[dict[str, Any], str]] = [
            ({"saturated_g": 10.1}, "cannot be saturates"),
            ({"saturated_g": 10}, ""),
            ({"saturated_g": 10.4, **eu}, ""),  # 10 g of fat may be 10.5
            ({"saturated_g": 11.2, **eu}, "cannot be saturates"),
            ({"sugars_g": 20.1}, "cannot be sugars"),
            ({"sugars_g": 20}, ""),
            ({"kcal": 200, "kj": 837}, ""),  # 837 / 4.184 = 200
            ({"kcal": 200, "kj": 820}, ""),  # 196: other factors
            ({"kcal": 200, "kj": 800}, ""),  # 191: 9 apart, 4 % and 1 are 9
            ({"kcal": 200, "kj": 790}, "189 kcal"),
            ({"kcal": 200, "kj": 200}, "48 kcal"),
            ({"salt_g": 1, "sodium_mg": 400}, ""),
            ({"salt_g": 1.1, "sodium_mg": 400}, ""),  # 440 mg: 40 apart, 5 % and 40 are 60
            ({"salt_g": 1.2, "sodium_mg": 400}, "480 mg sodium"),
            ({"salt_g": 400 / 1000, "sodium_mg": 400}, "160 mg sodium"),  # sodium typed as salt
        ]
        for figures, words in cases:
            with self.subTest(figures=figures):
                told = self.told(**figures)
                self.assertEqual(len(told), 1 if words else 0, told)
                self.assertIn(words, "".join(told))

    @given(
        true=st.tuples(grams, grams, grams, st.floats(0, 1), st.floats(0, 1)),
        serving=st.sampled_from([5.0, 30.0, 100.0]),
        school=st.sampled_from([Rounding.US, Rounding.EU]),
    )
    def test_no_true_label_is_blamed(self, true, serving, school) -> None:
        """Labels printed from true figures by either way of rounding never contradict themselves."""
        protein, carbohydrate, fat, sugars, saturated = true
        kcal = 4 * protein + 4 * carbohydrate + 9 * fat
        kj = 17 * protein + 17 * carbohydrate + 37 * fat
        figures = {
            "protein_g": protein, "carbohydrate_g": carbohydrate, "fat_g": fat,
            "sugars_g": sugars * carbohydrate, "saturated_g": saturated * fat, "kcal": kcal,
        }  # fmt: skip
        stated: dict[str, Any] = {name: rounded(school, name, value * serving / 100) for name, value in figures.items()}
        label = Label(serving_g=serving, **stated, kj=round(kj * serving / 100), rounding=school)
        self.assertEqual(contradictions(label), [])


class Carried(unittest.TestCase):
    @given(
        true=st.lists(st.tuples(grams, grams, grams, st.floats(0, 1)), min_size=1, max_size=4),
        weights=st.lists(st.floats(5, 800), min_size=4, max_size=4),
        serving=st.sampled_from([5.0, 30.0, 100.0]),
        school=st.sampled_from([Rounding.US, Rounding.EU]),
        rules=st.sampled_from(RULES),
        factor=st.floats(0.5, 1.2),
        portion=st.floats(10, 400),
    )
    def test_the_true_value_lies_in_the_interval_of_the_container(
        self, true, weights, serving, school, rules, factor, portion
    ) -> None:
        """Labels are made from true values; the container's interval must hold what it truly holds."""
        lines, exact = [], dict.fromkeys(Nutrient, 0.0)
        for (protein, carbohydrate, fat, fibre_share), weight in zip(true, weights, strict=False):
            fibre = carbohydrate * fibre_share
            per_serving = {"protein_g": protein, "carbohydrate_g": carbohydrate, "fat_g": fat, "fibre_g": fibre}
            per_serving = {name: value * serving / 100 for name, value in per_serving.items()}
            total, available = carbohydrate, carbohydrate - fibre
            kcal = kcal_by_rule(
                EnergyRule.EU if rules.energy is EnergyRule.LABEL else rules.energy,
                protein_g=protein, total_g=total, available_g=available, fat_g=fat, fibre_g=fibre,
            )  # fmt: skip
            label = Label(
                serving_g=serving,
                **{name: rounded(school, name, value) for name, value in per_serving.items()},
                kcal=rounded(school, "kcal", kcal * serving / 100),
                carbohydrate=Carbohydrate.TOTAL,
                rounding=school,
            )
            lines.append(
                Line(
                    name="x",
                    purchased_g=weight,
                    composition=label.per_100g().amounts(rules),
                    yield_range=keeps(factor, 0),
                )
            )
            counted = total if rules.carbohydrate is Carbohydrate.TOTAL else available
            for nutrient, value in (
                (Nutrient.KCAL, kcal), (Nutrient.PROTEIN, protein), (Nutrient.CARBOHYDRATE, counted),
                (Nutrient.FAT, fat), (Nutrient.FIBRE, fibre),
            ):  # fmt: skip
                exact[nutrient] += value * weight / 100
        component = Component(name="Pot", lines=tuple(lines))
        held = component.per_100g.in_grams(portion)
        for nutrient in (Nutrient.KCAL, Nutrient.PROTEIN, Nutrient.CARBOHYDRATE, Nutrient.FAT, Nutrient.FIBRE):
            low, high = held.interval(nutrient)
            truly = exact[nutrient] * portion / component.cooked_g
            self.assertLessEqual(low - 1e-6, truly, nutrient)
            self.assertGreaterEqual(high + 1e-6, truly, nutrient)


class EnergyRules(unittest.TestCase):
    def test_by_hand(self) -> None:
        """20 P, 60 C of which 30 fibre, 8 F: 4×20+4×60+9×8 = 392; less 4×30 = 272; EU 4×20+4×30+9×8+2×30 = 332."""
        food = Stated(protein_g=20, carbohydrate_g=60, fat_g=8, fibre_g=30, stated_kcal=275)
        for rule, kcal in (
            (EnergyRule.GENERAL, 392),
            (EnergyRule.NET, 272),
            (EnergyRule.EU, 332),
            (EnergyRule.LABEL, 275),
        ):
            with self.subTest(rule=rule):
                self.assertAlmostEqual(food.amounts(Rules(energy=rule))[Nutrient.KCAL], kcal, places=9)

    def test_polyols_and_alcohol(self) -> None:
        """10 C of which 5 polyols, 10 alcohol: EU 4×5 + 2.4×5 + 7×10 = 102; general 4×10 + 7×10 = 110."""
        food = Stated(protein_g=0, carbohydrate_g=10, fat_g=0, fibre_g=0, polyols_g=5, alcohol_g=10)
        self.assertAlmostEqual(food.amounts(Rules(energy=EnergyRule.EU))[Nutrient.KCAL], 102)
        self.assertAlmostEqual(food.amounts()[Nutrient.KCAL], 110)

    @given(grams, grams, grams, st.floats(0, 10))
    def test_they_agree_without_fibre_and_polyols(self, protein, carbohydrate, fat, alcohol) -> None:
        food = Stated(protein_g=protein, carbohydrate_g=carbohydrate, fat_g=fat, fibre_g=0, alcohol_g=alcohol)
        kcal = {round(food.amounts(rules)[Nutrient.KCAL], 9) for rules in RULES}
        self.assertEqual(len(kcal), 1)

    @given(grams, grams, grams, grams)
    def test_both_bases_of_carbohydrate_say_the_same(self, protein, available, fat, fibre) -> None:
        """A source that states available carbohydrate, and one that states the total, of the same food."""
        of_available = Stated(
            protein_g=protein, carbohydrate_g=available, fat_g=fat, fibre_g=fibre, carbohydrate=Carbohydrate.AVAILABLE
        )
        of_total = Stated(protein_g=protein, carbohydrate_g=available + fibre, fat_g=fat, fibre_g=fibre)
        for rules in RULES:
            for one, other in zip(of_available.amounts(rules).known, of_total.amounts(rules).known, strict=True):
                self.assertAlmostEqual(one, other, places=9)

    @given(grams, grams, grams, st.floats(0, 1))
    def test_net_is_least_and_general_most(self, protein, carbohydrate, fat, share) -> None:
        food = Stated(protein_g=protein, carbohydrate_g=carbohydrate, fat_g=fat, fibre_g=carbohydrate * share)
        net, eu, general = (
            food.amounts(Rules(energy=r))[Nutrient.KCAL] for r in (EnergyRule.NET, EnergyRule.EU, EnergyRule.GENERAL)
        )
        self.assertLessEqual(net, eu + 1e-9)
        self.assertLessEqual(eu, general + 1e-9)

    def test_unstated_fibre_is_no_zero(self) -> None:
        stated = Stated(
            protein_g=5, carbohydrate_g=10, fat_g=1, sugars_g=2, saturated_g=0.1, sodium_mg=4, potassium_mg=9,
            carbohydrate=Carbohydrate.AVAILABLE,
        )  # fmt: skip
        for rules in RULES:
            self.assertEqual(stated.amounts(rules).at_least, {Nutrient.FIBRE}, rules)
        net = Stated(protein_g=5, carbohydrate_g=10, fat_g=1).amounts(Rules(carbohydrate=Carbohydrate.AVAILABLE))
        self.assertEqual(net.interval(Nutrient.CARBOHYDRATE), (0, 10))


class Audits(unittest.TestCase):
    def test_a_label_that_agrees_raises_nothing(self) -> None:
        # 4×2.6 + 4×9.1 + 9×6.2 + 2×4.1 = 110.8
        found = audit(
            Stated(
                protein_g=2.6,
                carbohydrate_g=9.1,
                fat_g=6.2,
                fibre_g=4.1,
                stated_kcal=112,
                carbohydrate=Carbohydrate.AVAILABLE,
            )
        )
        assert found is not None
        self.assertAlmostEqual(found.implied_kcal, 110.8)
        self.assertFalse(found.conflict)

    def test_the_reading_of_the_fibre_that_explains_it(self) -> None:
        """20 P, 60 C with 30 fibre, 8 F: 272 net, 332 EU, 392 general, 512 with the fibre counted twice."""
        for stated, reading in ((275, "net"), (330, "eu"), (510, "twice"), (700, "")):
            with self.subTest(stated=stated):
                found = audit(Stated(protein_g=20, carbohydrate_g=60, fat_g=8, fibre_g=30, stated_kcal=stated))
                assert found is not None
                self.assertTrue(found.conflict)
                self.assertEqual(found.explained_by, reading)

    def test_rounding_is_no_conflict(self) -> None:
        label = Label(serving_g=15, kcal=45, protein_g=0, carbohydrate_g=0, fat_g=5, rounding=Rounding.US)
        found = audit(label.per_100g())
        assert found is not None
        self.assertFalse(found.conflict)

    def test_nothing_to_compare(self) -> None:
        self.assertIsNone(audit(Stated(protein_g=1, carbohydrate_g=1, fat_g=None, stated_kcal=10)))


class BadLabels(unittest.TestCase):
    def test_they_say_what_and_the_mend(self) -> None:
        cases = [
            ({"serving_g": 0}, "serving_g", "0.1 to 5,000"),
            ({"protein_g": 50, "carbohydrate_g": 50, "fat_g": 20}, "serving_g", "per 100 g"),
            ({"fat_g": 140}, "fat_g", "140"),
            ({"kcal": 2000}, "kcal", "2,000"),
            ({"protein_g": -1}, "protein_g", "-1"),
        ]
        for part, field, words in cases:
            with self.subTest(part=part), self.assertRaises(CoreError) as caught:
                Label(**dict[str, Any]({"serving_g": 100, "protein_g": 1, "carbohydrate_g": 1, "fat_g": 1, **part}))
            self.assertEqual(caught.exception.field, field)
            self.assertIn(words, str(caught.exception))

    def test_kj_and_salt_are_turned(self) -> None:
        """418.4 kJ are 100 kcal; 1 g of salt holds 400 mg of sodium."""
        stated = Label(serving_g=50, kj=418.4, protein_g=1, carbohydrate_g=1, fat_g=1, salt_g=1).per_100g()
        self.assertAlmostEqual(stated.stated_kcal or 0, 200)
        self.assertAlmostEqual(stated.sodium_mg or 0, 800)

    @given(st.floats(1, 500), grams, grams, grams)
    def test_any_serving_says_the_same_of_100_g(self, serving, protein, carbohydrate, fat) -> None:
        assume(protein + carbohydrate + fat <= 100)
        label = Label(
            serving_g=serving,
            protein_g=protein * serving / 100,
            carbohydrate_g=carbohydrate * serving / 100,
            fat_g=fat * serving / 100,
        ).per_100g()
        for one, other in ((label.protein_g, protein), (label.carbohydrate_g, carbohydrate), (label.fat_g, fat)):
            self.assertAlmostEqual(one or 0, other, places=9)


class Full(unittest.TestCase):
    def test_rounding_adds_nothing_to_what_is_full_already(self) -> None:
        """Sugar: 100 g in 100 g may be 99.5 by rounding, but not 100.5; 4 g in a spoon of 4 g, 3.5 to 4."""
        for serving, grams in ((100, 100), (4, 4)):
            with self.subTest(serving=serving):
                label = Label(
                    serving_g=serving, protein_g=0, carbohydrate_g=grams, fat_g=0, rounding=Rounding.EU,
                )  # fmt: skip
                below, above = (label.per_100g().uncertainty or {})["carbohydrate_g"]
                self.assertGreater(below, 0)
                self.assertEqual(above, 0)


class Volumes(unittest.TestCase):
    SAID = {"carbohydrate": "total", "rounding": "exact", "serving_g": 7}  # noqa: RUF012

    def test_a_label_for_millilitres_by_hand(self) -> None:
        """100 ml of a drink that weighs 1.04 g a millilitre hold 5.2 g of protein: 100 g hold 5."""
        figures = {"protein_g": 5.2, "carbohydrate_g": 10.4, "fat_g": 0, "kcal": 62.4}
        made = Label.of({**self.SAID, **figures, "serving_ml": 100, "ml_weighs_g": 1.04})
        self.assertAlmostEqual(made.serving_g, 104)
        stated = made.per_100g()
        self.assertAlmostEqual(stated.protein_g or 0, 5)
        self.assertAlmostEqual(stated.stated_kcal or 0, 60)

    def test_what_a_millilitre_weighs_is_never_guessed(self) -> None:
        nothing = {**self.SAID, "protein_g": 0, "carbohydrate_g": 0, "fat_g": 0}
        for volume, one, field in (
            (100, None, "ml_weighs_g"),
            (100, 0.049, "ml_weighs_g"),
            (100, 2.01, "ml_weighs_g"),
            (0.09, 1, "serving_ml"),
            (5001, 1, "serving_ml"),
        ):
            with self.subTest(volume=volume, one=one):
                with self.assertRaises(CoreError) as caught:
                    Label.of({**nothing, "serving_ml": volume, "ml_weighs_g": one})
                self.assertEqual(caught.exception.field, field)
        for volume, one in ((0.1, 2), (5000, 0.05)):
            with self.subTest(volume=volume, one=one):
                made = Label.of({**nothing, "serving_ml": volume, "ml_weighs_g": one})
                self.assertAlmostEqual(made.serving_g, volume * one)
