"""How sure a pot suffices: by hand, as properties, and in a simulation of kitchens that learn."""

from __future__ import annotations

import math
import random
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.volume import volume
from yantai.core.cooking.learned import PAN_TO_PAN, RANGE_Z, learn
from yantai.core.cooking.surely import enough_share, spread, sure_factor
from yantai.core.cooking.yields import YieldRange, YieldSource
from yantai.core.errors import OutOfRange

GRAMS = st.floats(1, 50_000)
SIGMAS = st.floats(0.005, 0.5)
SHARES = st.floats(0.5, 0.995)


def low_of(expected: float, sigma: float) -> float:
    return expected * math.exp(-RANGE_Z * sigma)


class ByHand(unittest.TestCase):
    def test_nine_times_in_ten_of_a_pan_that_spreads_by_five_per_cent(self) -> None:
        """z = 1.2816 (tables of the normal distribution), exp(1.2816 · 0.05) = 1.0662."""
        self.assertAlmostEqual(sure_factor(1000, low_of(1000, 0.05), 0.9), 1.0662, places=4)

    def test_as_it_is_expected_it_suffices_every_other_time(self) -> None:
        self.assertAlmostEqual(sure_factor(1000, low_of(1000, 0.2), 0.5), 1)
        self.assertAlmostEqual(enough_share(1000, low_of(1000, 0.2), 1000), 0.5)

    def test_what_does_not_spread_suffices_or_not(self) -> None:
        self.assertEqual((sure_factor(800, 800, 0.95), spread(800, 800)), (1, 0))
        self.assertEqual((enough_share(800, 800, 800), enough_share(800, 800, 801)), (1, 0))
        self.assertEqual((enough_share(0, 0, 5), enough_share(0, 0, 0)), (0, 1))

    def test_certainty_is_refused(self) -> None:
        for share in (1.0, 0.4, float("nan")):
            with self.assertRaises(OutOfRange):
                sure_factor(800, 700, share)


class Properties(unittest.TestCase):
    @given(GRAMS, SIGMAS, SHARES)
    def test_what_is_cooked_for_a_share_suffices_with_it(self, needed: float, sigma: float, share: float) -> None:
        cooked = needed * sure_factor(needed, low_of(needed, sigma), share)
        self.assertAlmostEqual(enough_share(cooked, low_of(cooked, sigma), needed), share, places=6)

    @given(GRAMS, SIGMAS, SHARES, st.floats(1.001, 2))
    def test_more_is_surer(self, needed: float, sigma: float, share: float, more: float) -> None:
        cooked = needed * sure_factor(needed, low_of(needed, sigma), share)
        self.assertGreaterEqual(enough_share(cooked * more, low_of(cooked * more, sigma), needed), share - 1e-9)


FOODS: dict[str, tuple[float, float]] = {
    "chicken thigh": (0.72, 0.06), "chicken breast": (0.75, 0.05), "turkey mince": (0.76, 0.05),
    "beef mince": (0.7, 0.07),
    "pork shoulder": (0.64, 0.09), "lamb leg": (0.66, 0.08), "salmon": (0.85, 0.04), "cod": (0.8, 0.05),
    "prawns": (0.78, 0.07), "rice": (2.75, 0.06), "bulgur": (2.77, 0.05), "pasta": (2.25, 0.06),
    "quinoa": (2.8, 0.07), "lentils": (2.6, 0.08), "chickpeas": (2.3, 0.09), "oats": (4.2, 0.1),
    "potato": (0.9, 0.05), "courgette": (0.64, 0.12), "carrot": (0.85, 0.06), "onion": (0.6, 0.14),
    "mushroom": (0.5, 0.15), "spinach": (0.6, 0.16), "pepper": (0.78, 0.09), "aubergine": (0.7, 0.12),
}  # fmt: skip
"""24 foods: the yield of the tables, and how far kitchens lie around it (standard deviation of ln Y)."""


class Simulated(unittest.TestCase):
    """Kitchens that draw their own mean around the tables', cook some pans, learn, and cook one more.

    Nothing of the code under test draws: a kitchen's mean is normal around the tables', a pan normal around that, in
    ln Y, by Python's own generator.
    """

    SHARE = 0.9
    KITCHENS = volume(400, 4000)

    def observed(self, food: str, pans: int, seed: int) -> float:
        mean, around = FOODS[food]
        draw = random.Random(f"{food}/{pans}/{seed}")
        prior = YieldRange(
            low=mean * math.exp(-RANGE_Z * around), expected=mean, high=mean * math.exp(RANGE_Z * around),
            source=YieldSource.PUBLISHED, note="",
        )  # fmt: skip
        enough = 0
        for _ in range(self.KITCHENS):
            kitchen = draw.gauss(math.log(mean), around)
            cooked = [math.exp(draw.gauss(kitchen, PAN_TO_PAN)) for _ in range(pans)]
            learned = learn(prior, cooked).estimate
            raw = sure_factor(learned.expected, learned.low, self.SHARE) * 1000 / learned.expected
            enough += raw * math.exp(draw.gauss(kitchen, PAN_TO_PAN)) >= 1000
        return enough / self.KITCHENS

    def test_the_stated_share_is_the_observed_one(self) -> None:
        """Of 24 foods with two, five and twelve pans behind them; over all the share is met within two in a hundred."""
        for pans in (2, 5, 12):
            shares = {food: self.observed(food, pans, seed=1) for food in FOODS}
            with self.subTest(pans=pans):
                self.assertGreaterEqual(len(shares), 20)
                self.assertAlmostEqual(sum(shares.values()) / len(shares), self.SHARE, delta=0.02)
                # One food alone differs by chance: four standard deviations of a share of that many kitchens.
                chance = 4 * math.sqrt(self.SHARE * (1 - self.SHARE) / self.KITCHENS) + 0.02
                for food, share in shares.items():
                    self.assertAlmostEqual(share, self.SHARE, delta=chance, msg=food)

    def test_without_any_pan_of_its_own_a_kitchen_is_told_what_the_tables_spread(self) -> None:
        """The range of the tables is that of kitchens; a pan spreads by itself on top: the share is a little less."""
        shares = [self.observed(food, 0, seed=2) for food in FOODS]
        self.assertGreater(sum(shares) / len(shares), 0.82)
