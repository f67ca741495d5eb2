"""The core's nutrient balance over the whole reference table: against the data's own figures, and against factors."""

from __future__ import annotations

import unittest

from bench.yield_pairs import ANIMAL, FAR, compared, rows

from yantai.core.cooking.yields import balance_yield


class Pairs(unittest.TestCase):
    def test_the_balance_agrees_with_the_tables_own_for_every_pair(self) -> None:
        foods = {row["food_id"]: row for row in rows("foods")}
        checked = 0
        for pair in rows("pairs"):
            raw, cooked = foods[pair["raw_id"]], foods[pair["cooked_id"]]
            if raw["group"] not in ANIMAL or not pair["yield_protein_basis"]:
                continue
            found = balance_yield(float(raw["protein_g"]), float(cooked["protein_g"])).expected
            self.assertAlmostEqual(found, float(pair["yield_protein_basis"]), delta=0.0006, msg=pair["raw_id"])
            checked += 1
        self.assertGreater(checked, 90)

    def test_thirty_independent_factors_and_every_disagreement_explained(self) -> None:
        found = list(compared())
        self.assertGreaterEqual(len(found), 30)
        self.assertGreaterEqual(sum(one.source == "published" for one in found), 10)
        unexplained = [one for one in found if abs(one.apart) > FAR and not one.why]
        self.assertEqual(unexplained, [])
