from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.errors import NoSuchUnit
from yantai.core.quantities.units import MASS_UNITS, Spoons, celsius, grams, kcal_from_kj, millilitres


class Conversions(unittest.TestCase):
    def test_exact_factors(self) -> None:
        # The international avoirdupois pound is 453.59237 g by definition, the ounce a sixteenth of it.
        cases = [
            (1, "oz", 28.349523125),
            (1, "lb", 453.59237),
            (1.2, "kg", 1200),
            (850, "mg", 0.85),
            (7, "g", 7),
        ]
        for amount, unit, expected in cases:
            with self.subTest(unit=unit):
                self.assertAlmostEqual(grams(amount, unit), expected, places=9)

    def test_volumes(self) -> None:
        # The US gallon is 231 cubic inches of 16.387064 ml and holds 16 cups.
        gallon = 231 * 16.387064
        for unit, per_gallon in [("cup", 16), ("tbsp", 256), ("tsp", 768), ("fl oz", 128)]:
            with self.subTest(unit=unit):
                self.assertAlmostEqual(millilitres(1, unit), gallon / per_gallon, places=3)
        self.assertAlmostEqual(millilitres(2, "l"), 2000)

    def test_a_volume_is_weighed_only_by_the_foods_own_measure(self) -> None:
        self.assertEqual(grams(0.5, "cup, cooked", {"cup, cooked": 182}), 91)
        with self.assertRaises(NoSuchUnit) as caught:
            grams(1, "cup", {"medium": 150})
        self.assertIn("its own measures are: medium", str(caught.exception))

    def test_cups_and_spoons_of_four_schools_by_hand(self) -> None:
        by_hand = {
            Spoons.US: (236.5882365, 14.78676478125, 4.92892159375),
            Spoons.METRIC: (250, 15, 5),
            Spoons.AUSTRALIAN: (250, 20, 5),
            Spoons.IMPERIAL: (284.130625, 17.758, 5.919),
        }
        for spoons, sizes in by_hand.items():
            for unit, size in zip(("cup", "tbsp", "tsp"), sizes, strict=True):
                with self.subTest(spoons=spoons, unit=unit):
                    self.assertAlmostEqual(millilitres(1, unit, spoons), size, places=6)
            self.assertAlmostEqual(millilitres(1, "pint", spoons), 473.176473 if spoons is Spoons.US else 568.26125)

    def test_unknown_volume(self) -> None:
        with self.assertRaises(NoSuchUnit):
            millilitres(1, "g")

    def test_energy_and_temperature(self) -> None:
        self.assertAlmostEqual(kcal_from_kj(418.4), 100)
        self.assertAlmostEqual(celsius(212), 100)
        self.assertAlmostEqual(celsius(-40), -40)

    @given(st.sampled_from(MASS_UNITS), st.floats(0, 1e6), st.floats(0, 1e6))
    def test_grams_are_proportional(self, unit: str, a: float, b: float) -> None:
        self.assertAlmostEqual(
            grams(a, unit) + grams(b, unit), grams(a + b, unit), delta=1e-9 * (1 + grams(a + b, unit))
        )
