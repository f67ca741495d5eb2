from __future__ import annotations

import csv
import unittest
from dataclasses import replace
from importlib import resources

from tests.core.examples import CHICKEN, food, keeps
from yantai.core.allergens import conflicts
from yantai.core.cautions import CORE_TEMPERATURES, core_temperature
from yantai.core.components import Component, Line
from yantai.core.errors import CoreError
from yantai.core.weighing import Cause, VesselWeight, causes, impossible, net_weight_g

PAN = replace(CHICKEN, measured_g=None)  # expects 1,722 g, from 1,609 to 1,835 g


class NetWeight(unittest.TestCase):
    def test_vessels_are_taken_off_and_added_up(self) -> None:
        vessels = [VesselWeight(gross_g=2504, vessel_g=1312), VesselWeight(gross_g=500)]
        self.assertEqual(net_weight_g(vessels), 1692)

    def test_bad_weights(self) -> None:
        for field, gross, vessel in [
            ("gross_g", -3, 0),
            ("gross_g", 0, 0),
            ("vessel_g", 10, -1),
            ("vessel_g", 900, 1000),
        ]:
            with self.subTest(field=field, gross=gross), self.assertRaises(CoreError) as caught:
                VesselWeight(gross_g=gross, vessel_g=vessel)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(CoreError):
            net_weight_g([])


class Belief(unittest.TestCase):
    def test_the_right_weight_raises_nothing(self) -> None:
        self.assertIsNone(impossible(PAN, 1692))
        self.assertEqual(tared(1692), [])

    def test_ten_times_the_raw_is_impossible(self) -> None:
        self.assertIn("10.0 times", impossible(PAN, 22_560) or "")

    def test_porridge_at_the_end_of_its_range_is_believed(self) -> None:
        porridge = Component(
            name="Porridge",
            lines=(Line(name="Oats", purchased_g=100, composition=food(13, 68, 7), yield_range=keeps(5.4, 1.0)),),
        )
        self.assertIsNone(impossible(porridge, 650))
        self.assertEqual(causes(porridge, [VesselWeight(gross_g=650)]), [])

    def test_kilograms_typed_as_grams_are_impossible(self) -> None:
        self.assertIn("kilograms", impossible(PAN, 1.692) or "")


class Causes(unittest.TestCase):
    """Each slip is made on purpose; its cause comes first, and its mend brings the right weight back."""

    def test_a_pan_of_the_kitchen_that_was_left_on(self) -> None:
        # 1,692 g in the 1,312 g pan stand as 3,004 g; less the 640 g bowl it would be 2,364 g.
        found = causes(
            PAN,
            [VesselWeight(gross_g=3004)],
            known_vessels={"the bowl": 640, "the roasting pan": 1312, "the pot": 2980},
        )
        self.assertIn("roasting pan was left on", found[0].words)
        self.assertEqual(net_weight_g(found[0].vessels or ()), 1692)
        self.assertGreater(found[0].fit, 0.5)

    def test_ounces_for_grams(self) -> None:
        # 59.7 oz are 1,692.5 g
        found = tared(59.7)
        self.assertIn("Ounces typed as grams", found[0].words)
        self.assertAlmostEqual(net_weight_g(found[0].vessels or ()), 59.7 * 28.349523125, places=6)

    def test_pounds_kilograms_and_a_missing_digit(self) -> None:
        for gross, words, right in (
            (3.73, "Pounds", 1691.9),
            (1.692, "Kilograms", 1692),
            (169.2, "digit is missing", 1692),
        ):
            with self.subTest(words=words):
                found = tared(gross)
                self.assertIn(words, found[0].words)
                self.assertAlmostEqual(net_weight_g(found[0].vessels or ()), right, delta=0.1)

    def test_the_raw_weight(self) -> None:
        self.assertIn("This is the raw weight", tared(2270)[0].words)

    def test_another_component_on_the_scale(self) -> None:
        rice = Component(
            name="Rice",
            lines=(Line(name="Rice", purchased_g=1000, composition=food(7, 79, 1), yield_range=keeps(2.75, 0.2)),),
        )
        found = causes(PAN, [VesselWeight(gross_g=2760, vessel_g=1)], others={"Rice": rice})
        self.assertIn("Rice stood on the scale", found[0].words)
        self.assertIsNone(found[0].vessels)

    def test_bones_that_are_still_on(self) -> None:
        # 1,000 g with 30 % bone: 700 g edible at 0.75 are 525 g; with 300 g bones on it is 825 g.
        bone_in = Component(
            name="Drumsticks",
            lines=(
                Line(
                    name="Drumstick",
                    purchased_g=1000,
                    refuse_share=0.3,
                    refuse_after=True,
                    composition=food(19, 0, 8),
                    yield_range=keeps(0.75, 0.05),
                ),
            ),
        )
        found = causes(bone_in, [VesselWeight(gross_g=825)])
        self.assertIn("Bone or skin of about 300 g", found[0].words)
        self.assertEqual(net_weight_g(found[0].vessels or ()), 525)
        self.assertEqual(net_weight_g([VesselWeight(gross_g=825)], removed_g=300), 525)
        # In three vessels of 275 g nobody can say which holds the 300 g: told, without a correction.
        spread = causes(bone_in, [VesselWeight(gross_g=275)] * 3)
        self.assertIn("Bone or skin of about 300 g", spread[0].words)
        self.assertIsNone(spread[0].vessels)

        # 8,250 typed for 825, of which 300 g of bone were weighed off: the correction is 525 g.
        slip = causes(bone_in, [VesselWeight(gross_g=8250)], removed_g=300)
        self.assertIn("A digit too many: it would be 525 g", slip[0].words)
        self.assertEqual(net_weight_g(slip[0].vessels or (), 300), 525)
        self.assertFalse([cause for cause in slip if "Bone or skin" in cause.words])

    def test_more_out_than_went_in_was_added_at_the_stove(self) -> None:
        words = " ".join(cause.words for cause in tared(2600))
        self.assertIn("added at the stove and not noted", words)

    def test_too_little_may_be_in_another_vessel(self) -> None:
        words = " ".join(cause.words for cause in causes(PAN, [VesselWeight(gross_g=1700, vessel_g=800)]))
        self.assertIn("another vessel", words)
        self.assertNotIn("pan was not taken off", words)

    def test_causes_come_best_first(self) -> None:
        fits = [cause.fit for cause in causes(PAN, [VesselWeight(gross_g=3004)], known_vessels={"a": 1312, "b": 900})]
        self.assertEqual(fits, sorted(fits, reverse=True))


def tared(gross_g: float) -> list[Cause]:
    return causes(PAN, [VesselWeight(gross_g=gross_g)])


class Allergens(unittest.TestCase):
    def test_conflicts_are_named(self) -> None:
        self.assertEqual(conflicts(["milk", "gluten"], ["milk", "soybeans"]), ["milk"])
        self.assertEqual(conflicts(["soybeans"], ["soybeans"]), ["soya"])
        self.assertEqual(conflicts(["milk"], []), [])


class Cautions(unittest.TestCase):
    def test_the_highest_raw_part_counts(self) -> None:
        pork = ("Pork shoulder", "pork", "raw")
        self.assertIn("63 °C", core_temperature([pork]) or "")
        self.assertIn("71 °C", core_temperature([pork, ("Ground beef", "beef", "raw")]) or "")
        self.assertIn("74 °C", core_temperature([pork, ("Ground turkey", "poultry", "frozen")]) or "")
        self.assertIsNone(core_temperature([("Bulgur", "grains-pasta", "dry"), ("Ham", "pork", "cooked")]))

    def test_temperatures_are_those_of_the_reference(self) -> None:
        rows = {
            "poultry": "poultry, whole, pieces or stuffed",
            "minced meat": "ground meat (beef, pork, lamb, game) and sausages",
            "whole cuts": "whole cuts of beef, veal, lamb, pork (steaks, chops, roasts)",
            "fish": "fin fish",
            "eggs": "egg dishes and bakes",
        }
        data = (resources.files("yantai.reference") / "data" / "safety.csv").read_text()
        published = {row["item"]: row["min_core_c"] for row in csv.DictReader(data.splitlines())}
        for kind, item in rows.items():
            with self.subTest(kind=kind):
                self.assertEqual(str(CORE_TEMPERATURES[kind][0]), published[item])
