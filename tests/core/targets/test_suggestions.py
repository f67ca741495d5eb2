"""Suggested targets by hand, against the formulas written out anew, and where there are none."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import assume, given
from hypothesis import strategies as st

from yantai.core.errors import CoreError
from yantai.core.targets.suggestions import Condition, Person, Sex, katch_mcardle, mifflin_st_jeor, referrals, suggest

ROWER = Person(sex=Sex.FEMALE, age_y=30, height_cm=170, weight_kg=65, activity=1.6)


class ByHand(unittest.TestCase):
    def test_resting_energy(self) -> None:
        """650 + 1062.5 - 150 - 161 = 1401.5; a man of the same figures 166 more."""
        self.assertEqual(mifflin_st_jeor(ROWER), 1401.5)
        self.assertEqual(mifflin_st_jeor(replace(ROWER, sex=Sex.MALE)), 1567.5)

    def test_resting_energy_from_lean_mass(self) -> None:
        """20 % fat of 65 kg leave 52 kg: 370 + 1123.2."""
        self.assertAlmostEqual(katch_mcardle(replace(ROWER, body_fat_share=0.2)), 1493.2)
        with self.assertRaises(CoreError):
            katch_mcardle(ROWER)

    def test_a_whole_day(self) -> None:
        """1401.5 × 1.6 = 2242.4; 117 g P, 58.5 g F; (2242.4 - 468 - 526.5) / 4 = 312.0 g C."""
        found = suggest(ROWER)
        self.assertAlmostEqual(found.kcal, 2242.4)
        self.assertAlmostEqual(found.protein_g, 117)
        self.assertAlmostEqual(found.fat_g, 58.5)
        self.assertAlmostEqual(found.carbohydrate_g, 311.975)
        self.assertEqual(found.warnings, ())
        self.assertIn("6.25 × 170 cm", found.steps[0])
        self.assertIn("1,402 × 1.6 = 2,242 kcal", found.steps[1])


class Guards(unittest.TestCase):
    def test_none_is_suggested_and_the_referral_is_plain(self) -> None:
        cases = [replace(ROWER, age_y=17), replace(ROWER, weight_kg=52)]
        cases += [replace(ROWER, conditions=frozenset({condition})) for condition in Condition]
        for person in cases:
            with self.subTest(person=person), self.assertRaises(CoreError) as caught:
                suggest(person)
            self.assertIn("doctor or registered dietitian", str(caught.exception))
        self.assertEqual(referrals(ROWER), [])

    def test_a_body_mass_index_at_the_line(self) -> None:
        """18.5 × 1.7² = 53.465 kg."""
        self.assertEqual(referrals(replace(ROWER, weight_kg=53.47)), [])
        self.assertEqual(len(referrals(replace(ROWER, weight_kg=53.46))), 1)

    def test_what_is_warned_of(self) -> None:
        cases = [
            ({"change_share": -0.26}, "more than 25 % below"),
            ({"change_share": -0.4}, "below the resting energy"),
            ({"protein_g_per_kg": 2.6}, "of protein per kg"),
            ({"fat_g_per_kg": 0.4}, "of fat per kg"),
        ]
        for how, words in cases:
            with self.subTest(how):
                warned = " ".join(suggest(ROWER, **how).warnings).replace("25%", "25 %")
                self.assertIn(words, warned)
        light = replace(ROWER, weight_kg=55, activity=2.4)
        self.assertIn("of body weight a week", " ".join(suggest(light, change_share=-0.3).warnings))

    def test_a_warning_begins_just_beyond_its_line(self) -> None:
        """Each on its line, where nothing is warned of, and a hair beyond. Resting energy 1401.5 × 1.25 are 1751.9."""
        active = replace(ROWER, activity=1.25, weight_kg=65)
        cases = [
            (active, {"change_share": -0.2}, {"change_share": -0.2001}, "below the resting energy"),
            (ROWER, {"change_share": -0.25}, {"change_share": -0.2501}, "below maintenance"),
            (ROWER, {"protein_g_per_kg": 2.5}, {"protein_g_per_kg": 2.51}, "of protein per kg is above 2.5"),
            (ROWER, {"fat_g_per_kg": 0.5}, {"fat_g_per_kg": 0.49}, "of fat per kg is below 0.5"),
        ]
        for person, on, beyond, words in cases:
            with self.subTest(words=words):
                self.assertNotIn(words, " ".join(suggest(person, **on).warnings))
                self.assertIn(words, " ".join(suggest(person, **beyond).warnings))
        # 1 % of 65 kg a week are 650 g: 650 × 7.7 / 7 = 715 kcal a day, of 2242.4 × (2.4 / 1.6) = 3363.6.
        hard = replace(ROWER, activity=2.4)
        for less, warned in ((714.9, False), (715.1, True)):
            with self.subTest(less=less):
                found = " ".join(suggest(hard, change_share=-less / 3363.6).warnings)
                self.assertEqual("of body weight a week, faster than 1%" in found, warned)

    def test_adults_only_and_no_thin_ones(self) -> None:
        self.assertEqual(referrals(replace(ROWER, age_y=18)), [])
        self.assertEqual(referrals(replace(ROWER, age_y=17.99)), ["under 18"])

    def test_protein_and_fat_that_leave_nothing(self) -> None:
        with self.assertRaises(CoreError) as caught:
            suggest(ROWER, change_share=-0.5, protein_g_per_kg=4)
        self.assertIn("lower one of them", str(caught.exception))


class Properties(unittest.TestCase):
    @given(
        st.sampled_from(Sex),
        st.floats(18, 80),
        st.floats(145, 205),
        st.floats(45, 140),
        st.floats(1.2, 2.2),
        st.floats(-0.2, 0.2),
    )
    def test_the_macros_add_up_to_the_energy(
        self, sex: Sex, age: float, height: float, weight: float, activity: float, change: float
    ) -> None:
        person = Person(sex=sex, age_y=age, height_cm=height, weight_kg=weight, activity=activity)
        assume(not referrals(person))
        try:
            found = suggest(person, change_share=change)
        except CoreError:
            return
        whole = 4 * found.protein_g + 4 * found.carbohydrate_g + 9 * found.fat_g
        self.assertAlmostEqual(whole, found.kcal)
        base = 10 * weight + 6.25 * height - 5 * age + (5 if sex is Sex.MALE else -161)
        self.assertAlmostEqual(found.kcal, base * activity * (1 + change))


class Words(unittest.TestCase):
    def test_the_steps_can_be_followed_by_hand(self) -> None:
        """80 kg with a quarter of fat are 60 kg lean: 370 + 21.6 × 60 = 1,666 kcal at rest."""
        lean = Person(sex=Sex.MALE, age_y=30, height_cm=180, weight_kg=80, activity=1.5, body_fat_share=0.25)
        steps = suggest(lean, change_share=0, protein_g_per_kg=2, fat_g_per_kg=1).steps
        self.assertEqual(steps[0], "resting (Katch-McArdle): 370 + 21.6 × 60.0 kg lean = 1,666 kcal")
        self.assertEqual(steps[1], "maintenance: 1,666 × 1.5 = 2,499 kcal")
        self.assertEqual(steps[3:5], ("protein: 2 g × 80 kg = 160.0 g", "fat: 1 g × 80 kg = 80.0 g"))
        self.assertEqual(steps[5], "carbohydrate: (2,499 - 4 × 160.0 - 9 × 80.0) / 4 = 285 g")
