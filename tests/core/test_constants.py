"""Figures that come from a source, written out once more by hand: one that is changed by a slip is seen.

What they do is tested where they are used; most of them on both sides.
"""

from __future__ import annotations

import unittest

from yantai.core.cooking import doubts, liquids, mistakes, steps, yield_choice, yields
from yantai.core.cooking import learned as history
from yantai.core.foods import edible, energy, labels, matching, nutrients
from yantai.core.planning import portioning
from yantai.core.portions import moved, problem, relaxed, ways
from yantai.core.quantities import conversion, lines, quantity
from yantai.core.targets import suggestions, targets

CLOSED, LID, SIMMER = (0, 0.05, 0.15), (0.05, 0.15, 0.35), (0.05, 0.2, 0.4)
OPEN, PAN = (0.15, 0.35, 0.7), (0.3, 0.6, 0.95)
BOIL_OFF = {
    "pressure-cooked": CLOSED, "slow-cooked": CLOSED, "microwaved": LID, "braised": LID, "steamed": LID,
    "boiled": SIMMER, "simmered": SIMMER, "poached": SIMMER, "baked": OPEN, "roasted": OPEN,
    "sauteed": PAN, "stir-fried": PAN, "pan-fried": PAN, "grilled": PAN, "air-fried": PAN,
}  # fmt: skip
KEPT = [(1, 1, 1), (1, 1, 1), (0, 0, 0), (0.9, 1, 1.05), (0.95, 1, 1), (0.5, 0.85, 1)]


class Sources(unittest.TestCase):
    def test_energy(self) -> None:
        """Atwater's general factors; Regulation (EU) 1169/2011, annex XIV."""
        self.assertEqual((energy.PROTEIN_KCAL_PER_G, energy.CARBOHYDRATE_KCAL_PER_G, energy.FAT_KCAL_PER_G), (4, 4, 9))
        self.assertEqual((energy.ALCOHOL_KCAL_PER_G, energy.FIBRE_KCAL_PER_G, energy.POLYOL_KCAL_PER_G), (7, 2, 2.4))
        self.assertEqual((nutrients.MOST_KCAL, labels.MOST_MACROS_G, labels.SODIUM_MG_PER_G_SALT), (900, 101, 400))
        self.assertEqual((labels.APART_SHARE, labels.APART_KCAL, labels.KJ_APART_SHARE), (0.1, 15, 0.04))
        self.assertEqual((labels.SALT_APART_SHARE, labels.SALT_APART_MG), (0.05, 40))
        self.assertEqual((targets.KCAL_CONFLICT_SHARE, targets.KCAL_CONFLICT_KCAL), (0.1, 15))

    def test_bodies(self) -> None:
        self.assertEqual((suggestions.ADULT_AGE, suggestions.LEAST_BMI, suggestions.LARGEST_DEFICIT), (18, 18.5, 0.25))
        self.assertEqual((suggestions.MOST_PROTEIN_G_PER_KG, suggestions.LEAST_FAT_G_PER_KG), (2.5, 0.5))
        self.assertEqual((suggestions.FASTEST_LOSS_SHARE, suggestions.KCAL_PER_KG), (0.01, 7700))

    def test_pans(self) -> None:
        boil_off = {
            method: (share.low, share.expected, share.high) for method, share in liquids.SHARES.items() if share
        }
        self.assertEqual(boil_off, BOIL_OFF)
        self.assertEqual((liquids.POURED_OFF_FROM, liquids.SERVES), (1.6, 0.8))
        self.assertEqual(liquids._FLOOR, {"low": 0, "expected": 0.03, "high": 0.1})
        kept = (yields.UNCHANGED, yields.KEPT, yields.TAKEN_UP, yields.READY, yields.DRY_KEPT, yields.UNKNOWN)
        self.assertEqual([(one.low, one.expected, one.high) for one in kept], KEPT)
        self.assertEqual((yields.MAXIMUM_YIELD, yields.BALANCE_SPREAD, edible.MAXIMUM_REFUSE_SHARE), (8, 0.1, 0.95))
        self.assertEqual((yield_choice.FAMILY_SPREAD, yield_choice.ACROSS_SPREAD), (0.1, 0.2))
        self.assertEqual(yield_choice._STOCK_SOLIDS_G, 8)

    def test_weighing(self) -> None:
        """Huber's 1.5; 2.326 is the 99th percentile of the normal distribution."""
        self.assertEqual((history.RANGE_Z, history.HUBER, history.PAN_TO_PAN), (2.326, 1.5, 0.05))
        self.assertEqual((history.PAN_TO_PAN_WEIGHT, history.NARROWEST_PRIOR), (4, 0.02))
        self.assertEqual((doubts.PRIOR_RAW, doubts.PRIOR_VESSEL, doubts.PRIOR_BONES), (0.03, 0.12, 0.05))
        self.assertEqual((doubts.PRIOR_UNIT, doubts.PRIOR_OTHER, doubts.PRIOR_UNTOLD), (0.01, 0.01, 0.02))
        self.assertEqual((doubts.LEAST_SPREAD, doubts.SCALE_SPREAD), (0.008, 0.003))

    def test_lines(self) -> None:
        self.assertEqual((conversion.STATED_APART, conversion.COUNTED_APART), (0.05, 0.3))
        self.assertEqual((conversion.HEAPED_SHARE, conversion.VARIANT_APART), (1.3, 0.15))
        self.assertEqual(dict(quantity.PINCH_G), {"pinch": 0.35, "dash": 0.6})
        self.assertEqual((lines._MOST_IN_A_CAN_G, lines._MOST_IN_A_PACK_G), (830, 1500))
        self.assertEqual((matching.SURE, matching.RIVAL_WITHIN, matching.ALIKE), (0.82, 0.12, 84))
        self.assertEqual((matching.SAME_PROTEIN_G, matching.SAME_KCAL_SHARE), (1.5, 0.1))
        self.assertEqual((mistakes.STATED_APART, mistakes.TRAY_OIL_G, mistakes.VEGETABLE_SHARE), (0.05, 25, 0.25))
        self.assertEqual((steps.OVERNIGHT_MIN, steps.APART_SHARE), (480, 0.05))

    def test_engine(self) -> None:
        self.assertEqual((problem.MAXIMUM_CELL_G, problem.DEFAULT_DENSITY_G_PER_ML), (2000, 0.8))
        self.assertEqual((problem.CAPACITY_RANGE_ML, problem.CAPACITY_RANGE_G), ((50, 5000), (50, 5000)))
        self.assertEqual((relaxed.PROPORTION_WEIGHT, relaxed.SMALLEST_SHARE_G), (0.2, 20))
        self.assertEqual((ways.MOST_EXTRA_G, ways.LEAST_EXTRA_G, ways.EXTRA_STEP_G), (200, 5, 1))
        self.assertEqual((moved.FAR_SHARE, moved.FAR_G), (1 / 3, 10))
        self.assertEqual((portioning.DEFAULT_PLATE_G, portioning.USUAL_CAPACITY_ML), (450, 1000))
        self.assertEqual(
            {nutrient.value: scale for nutrient, scale in targets.SCALES.items()},
            {"kcal": 10, "fibre_g": 1, "saturated_g": 1, "sodium_mg": 100},
        )


if __name__ == "__main__":
    unittest.main()
