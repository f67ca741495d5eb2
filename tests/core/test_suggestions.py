"""Suggested targets by hand, against the formulas written out anew, and where there are none."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import assume, given
from hypothesis import strategies as st

from yantai.core.errors import CoreError
from yantai.core.suggestions import (
    Condition,
    Person,
    Sex,
    katch_mcardle,
    mifflin_st_jeor,
    referrals,
    suggest,
)

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
