from __future__ import annotations

import math
import random
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from yantai.core.cooking.learned import PAN_TO_PAN, RANGE_Z, Learned, learn
from yantai.core.cooking.yields import YieldRange, YieldSource
from yantai.core.errors import OutOfRange

PRIOR = YieldRange(low=0.68, expected=0.73, high=0.78, source=YieldSource.PUBLISHED)
yields = st.floats(0.3, 3.0)


class Estimate(unittest.TestCase):
    def test_nothing_measured_is_the_prior(self) -> None:
        self.assertEqual(learn(PRIOR, []), Learned(count=0, estimate=PRIOR, weights=(), prior_share=1.0))

    def test_a_measured_yield_is_one(self) -> None:
        for value in (0.01, 8):
            self.assertEqual(learn(PRIOR, [value]).count, 1)
        for value in (0.0099, 8.001, math.nan):
            with self.subTest(value=value), self.assertRaises(OutOfRange):
                learn(PRIOR, [0.7, value])

    def test_one_pan_by_hand(self) -> None:
        """Prior ln 0.73 = -0.314711, t = (ln 0.78 - ln 0.68) / 4.652 = 0.029493; pan ln 0.75 = -0.287682, s = 0.05.

        1/t² = 1149.6, 1/s² = 400; mean = (-0.314711×1149.6 - 0.287682×400) / 1549.6 = -0.307734, exp = 0.735111. The
        next pan: variance 1/1549.6 + 0.0025 = 0.0031453, ± 2.326 × 0.056083 = ± 0.130449: from 0.645207 to 0.837543.
        """
        found = learn(PRIOR, [0.75])
        self.assertAlmostEqual(found.estimate.expected, 0.735111, places=5)
        self.assertAlmostEqual(found.prior_share, 0.7419, places=3)
        self.assertAlmostEqual(found.estimate.low, 0.645207, places=4)
        self.assertAlmostEqual(found.estimate.high, 0.837543, places=4)
        self.assertEqual(found.weights, (1.0,))

    def test_it_is_the_posterior_of_an_independent_integration(self) -> None:
        """Without outliers the estimate is the mean of prior × likelihood, here integrated on a grid."""
        measured = [0.74, 0.75, 0.76]
        found = learn(PRIOR, measured)
        self.assertEqual(set(found.weights), {1.0})
        spread = (math.log(0.78) - math.log(0.68)) / (2 * RANGE_Z)
        logs = np.log(measured)
        own = 1.4826 * np.median(np.abs(logs - np.median(logs)))
        pan = math.sqrt((4 * PAN_TO_PAN**2 + 3 * own**2) / 7)
        x = np.linspace(-1.2, 0.4, 400_001)
        density = -0.5 * ((x - math.log(0.73)) / spread) ** 2
        for value in logs:
            density += -0.5 * ((x - value) / pan) ** 2
        weight = np.exp(density - density.max())
        self.assertAlmostEqual(math.log(found.estimate.expected), float((x * weight).sum() / weight.sum()), places=6)

    @given(st.lists(yields, min_size=1, max_size=12), yields)
    def test_it_stays_inside_the_hull_of_prior_and_data(self, measured: list[float], expected: float) -> None:
        prior = YieldRange(low=expected * 0.9, expected=expected, high=expected * 1.1, source=YieldSource.PUBLISHED)
        found = learn(prior, measured).estimate
        self.assertGreaterEqual(found.expected, min(*measured, expected) - 1e-9)
        self.assertLessEqual(found.expected, max(*measured, expected) + 1e-9)
        self.assertLessEqual(found.low, found.expected)
        self.assertGreaterEqual(found.high, found.expected)

    @given(st.lists(yields, min_size=1, max_size=8), st.randoms(use_true_random=False))
    def test_the_order_of_the_pans_does_not_matter(self, measured: list[float], shuffler: random.Random) -> None:
        mixed = list(measured)
        shuffler.shuffle(mixed)
        self.assertAlmostEqual(
            learn(PRIOR, measured).estimate.expected, learn(PRIOR, mixed).estimate.expected, places=9
        )

    def test_it_converges_to_the_kitchens_own_yield(self) -> None:
        shaker = random.Random(7)
        off = []
        for count in (1, 5, 25, 125):
            measured = [0.62 * math.exp(shaker.gauss(0, 0.03)) for _ in range(count)]
            found = learn(PRIOR, measured)
            off.append(abs(found.estimate.expected - 0.62))
            self.assertLess(found.prior_share, 1)
        self.assertEqual(off, sorted(off, reverse=True))
        self.assertLess(off[-1], 0.01)

    def test_one_mistyped_weighing_hardly_moves_it(self) -> None:
        right = [0.74, 0.75, 0.76, 0.75]
        plain = learn(PRIOR, right).estimate.expected
        for slip in (7.5, 0.075, 1.33, 0.26):  # a digit too many, one missing, the pan left on, loss for yield
            with self.subTest(slip=slip):
                found = learn(PRIOR, [*right, slip])
                self.assertLess(abs(found.estimate.expected - plain), 0.02)
                self.assertLess(found.weights[-1], 0.05)

    def test_the_weight_of_a_slip_by_hand(self) -> None:
        """Median absolute deviation 0.013245 × 1.4826 = 0.019637; blended with 0.05 (4 : 5) 0.036405; with the prior's
        0.029493 / √5 the reach is 0.038721. ln 1.33 lies 0.572861 beyond the median: 14.7946; squared, 1.5 / 14.7946 is
        0.01028.
        """
        found = learn(PRIOR, [0.74, 0.75, 0.76, 0.75, 1.33])
        self.assertEqual(found.weights[:-1], (1.0, 1.0, 1.0, 1.0))
        self.assertAlmostEqual(found.weights[-1], 0.010280, places=6)

    def test_no_yield_is_refused(self) -> None:
        for value in (0.0, 9.0, math.nan):
            with self.subTest(value=value), self.assertRaises(OutOfRange):
                learn(PRIOR, [value])
