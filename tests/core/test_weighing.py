from __future__ import annotations

import csv
import unittest
from dataclasses import replace
from importlib import resources

from tests.core.examples import CHICKEN, food, keeps
from yantai.core.allergens import conflicts, disliked
from yantai.core.cautions import CORE_TEMPERATURES, core_temperature
from yantai.core.components import Component, Line
from yantai.core.errors import CoreError
from yantai.core.weighing import VesselWeight, doubts, impossible, net_weight_g

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
        self.assertEqual(doubts(PAN, 1692, vessel_noted=False), [])

    def test_ten_times_the_raw_is_impossible(self) -> None:
        self.assertIn("10.0 times", impossible(PAN, 22_560) or "")

    def test_porridge_at_the_end_of_its_range_is_believed(self) -> None:
        porridge = Component(
            name="Porridge",
            lines=(Line(name="Oats", purchased_g=100, composition=food(13, 68, 7), yield_range=keeps(5.4, 1.0)),),
        )
        self.assertIsNone(impossible(porridge, 650))
        self.assertEqual(doubts(porridge, 650, vessel_noted=True), [])

    def test_kilograms_typed_as_grams_are_impossible(self) -> None:
        self.assertIn("kilograms", impossible(PAN, 1.692) or "")

    def test_likely_causes(self) -> None:
        cases = [
            (60, False, "Ounces typed as grams"),  # 60 oz are 1,701 g
            (2270, False, "raw weight"),
            (3000, False, "pan was not taken off"),
            (900, True, "another vessel"),
        ]
        for grams, vessel_noted, words in cases:
            with self.subTest(grams=grams):
                self.assertIn(words, " ".join(doubts(PAN, grams, vessel_noted=vessel_noted)))

    def test_a_noted_vessel_is_not_asked_for_again(self) -> None:
        self.assertNotIn("pan was not", " ".join(doubts(PAN, 3000, vessel_noted=True)))


class Allergens(unittest.TestCase):
    def test_conflicts_are_named(self) -> None:
        self.assertEqual(conflicts(["milk", "gluten"], ["milk", "soybeans"]), ["milk"])
        self.assertEqual(conflicts(["soybeans"], ["soybeans"]), ["soya"])
        self.assertEqual(conflicts(["milk"], []), [])

    def test_dislikes_match_inside_names(self) -> None:
        self.assertEqual(disliked(["Zucchini, with skin"], ["zucchini", "okra", " "]), ["zucchini"])


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
