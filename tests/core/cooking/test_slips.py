"""Slips at the scale, made by chance: the right weight raises nothing, and undoing the slip is offered first."""

from __future__ import annotations

import unittest
from typing import Any

from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.examples import food, keeps
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.doubts import Cause, doubt, is_outside
from yantai.core.cooking.weighing import VesselWeight, impossible, net_weight_g
from yantai.core.foods.nutrients import Amounts, Nutrient, Stated, total

raw_weights = st.floats(200, 8000)
factors = st.floats(0.5, 2.8)
inside = st.floats(-0.9, 0.9)


def causes(pan: Component, vessels: list[VesselWeight], **known: Any) -> tuple[Cause, ...]:
    found = doubt(pan, vessels, **known)
    return () if found is None else found.causes


def pan_of(raw_g: float, factor: float) -> Component:
    line = Line(name="Meat", purchased_g=raw_g, composition=food(20, 0, 5), yield_range=keeps(factor, 0.05 * factor))
    return Component(name="Pan", lines=(line,))


class Slips(unittest.TestCase):
    @given(raw_weights, factors, inside)
    def test_a_weight_inside_the_range_is_believed(self, raw_g: float, factor: float, where: float) -> None:
        pan = pan_of(raw_g, factor)
        cooked = pan.expected_g * (1 + 0.03 * where)
        # But for the very weight that went in, which is questioned inside the range too.
        assume(abs(cooked / raw_g - 1) > 0.02)
        self.assertFalse(is_outside(pan, cooked))
        self.assertIsNone(impossible(pan, cooked))
        self.assertEqual(causes(pan, [VesselWeight(gross_g=cooked)], known_vessels={"pot": 900}), ())

    def test_how_sure_a_cause_is_by_hand(self) -> None:
        """1,000 g that keep 0.90 to 1.00, 0.95 expected, and 1,000 g on the scale.

        Honest: ln(1000 / 950) / 2.326 = 0.022052 wide, 2.326 of it away: 0.026676 / 0.022052 = 1.2097, of 80 in 100
        pans.
        The raw weight: 0.398942 / 0.003 = 132.98, of 3 in 100. 3.9894 / (3.9894 + 0.9678) = 0.8048.
        """
        line = Line(name="Meat", purchased_g=1000, composition=food(20, 0, 5), yield_range=keeps(0.95, 0.05))
        (cause,) = causes(Component(name="Pan", lines=(line,)), [VesselWeight(gross_g=1000)])
        self.assertAlmostEqual(cause.fit, 0.8048, places=4)

    @given(raw_weights, factors, inside, st.floats(400, 4000))
    def test_the_pan_that_was_left_on_comes_first(
        self, raw_g: float, factor: float, where: float, empty: float
    ) -> None:
        pan = pan_of(raw_g, factor)
        cooked = pan.expected_g * (1 + 0.02 * where)
        assume(is_outside(pan, cooked + empty))
        # The raw weight explains itself, and so does another slip that happens to lead to the middle.
        assume(abs((cooked + empty) / raw_g - 1) > 0.05)
        found = causes(pan, [VesselWeight(gross_g=cooked + empty)], known_vessels={"the pot": empty})
        offered = [cause for cause in found if cause.vessels is not None and "the pot" in cause.words]
        self.assertEqual(len(offered), 1)
        self.assertAlmostEqual(net_weight_g(offered[0].vessels or ()), cooked, delta=1e-6 * cooked)
        others = [cause.fit for cause in found if cause.vessels is None]
        self.assertGreater(offered[0].fit, max(others, default=0))

    @given(
        raw_weights,
        factors,
        inside,
        st.sampled_from([(28.349523125, "Ounces"), (453.59237, "Pounds"), (1000, "Kilograms")]),
    )
    def test_a_wrong_unit_is_undone(self, raw_g: float, factor: float, where: float, slip: tuple[float, str]) -> None:
        pan = pan_of(raw_g, factor)
        cooked = pan.expected_g * (1 + 0.02 * where)
        size, words = slip
        typed = cooked / size
        assume(typed >= 0.1)
        found = [cause for cause in causes(pan, [VesselWeight(gross_g=typed)]) if words in cause.words]
        self.assertEqual(len(found), 1)
        self.assertAlmostEqual(net_weight_g(found[0].vessels or ()), cooked, delta=1e-6 * cooked)

    @given(raw_weights, factors, st.floats(0.05, 20))
    def test_fits_are_shares_best_first_and_no_mend_weighs_nothing(
        self, raw_g: float, factor: float, off: float
    ) -> None:
        pan = pan_of(raw_g, factor)
        found = causes(pan, [VesselWeight(gross_g=pan.expected_g * off)], known_vessels={"pot": 700, "tray": 1300})
        fits = [cause.fit for cause in found]
        self.assertEqual(fits, sorted(fits, reverse=True))
        self.assertTrue(all(0 <= fit <= 1 for fit in fits))
        self.assertTrue(all(net_weight_g(cause.vessels) > 0 for cause in found if cause.vessels is not None))


class Uncertainty(unittest.TestCase):
    """Intervals under sums, portions and what is taken away."""

    LABEL = Stated(
        protein_g=5, carbohydrate_g=10, fat_g=2, fibre_g=1, uncertainty={"protein_g": (0.5, 0.5), "fat_g": (0, 0.5)}
    )

    def test_by_hand(self) -> None:
        """5 ± 0.5 g protein and 2 to 2.5 g fat: 4×0.5 = 2 kcal below, 4×0.5 + 9×0.5 = 6.5 above 78."""
        held = self.LABEL.amounts()
        self.assertEqual(held.interval(Nutrient.PROTEIN), (4.5, 5.5))
        self.assertEqual(held.interval(Nutrient.FAT), (2, 2.5))
        self.assertEqual(held[Nutrient.KCAL], 78)
        self.assertEqual(held.interval(Nutrient.KCAL), (76, 84.5))

    @given(st.floats(1, 900), st.floats(1, 900))
    def test_sums_and_portions_carry_it(self, one: float, other: float) -> None:
        held = self.LABEL.amounts()
        both = total([held.in_grams(one), held.in_grams(other)])
        whole = held.in_grams(one + other)
        for nutrient in (Nutrient.PROTEIN, Nutrient.FAT, Nutrient.KCAL):
            for got, wanted in zip(both.interval(nutrient), whole.interval(nutrient), strict=True):
                self.assertAlmostEqual(got, wanted, delta=1e-9 * (one + other))

    def test_what_is_taken_away_never_goes_below_nothing(self) -> None:
        less = self.LABEL.amounts().less({Nutrient.FAT: 50, Nutrient.PROTEIN: 1})
        self.assertEqual((less[Nutrient.FAT], less[Nutrient.PROTEIN]), (0, 4))

    def test_exact_figures_have_none(self) -> None:
        exact = Stated(protein_g=5, carbohydrate_g=10, fat_g=2, fibre_g=1).amounts()
        self.assertIsNone(exact.uncertainty)
        self.assertIsNone(total([exact, exact]).uncertainty)
        self.assertEqual(exact.interval(Nutrient.FAT), (2, 2))
        self.assertIsInstance(total([exact, self.LABEL.amounts()]), Amounts)
