from __future__ import annotations

import csv
import unittest
from pathlib import Path

from yantai.core.errors import CoreError
from yantai.core.foods.edible import edible_g, is_offered, purchased_g

DATA = Path(__file__).parents[3] / "src" / "yantai" / "reference" / "data"


def rows(name: str) -> list[dict[str, str]]:
    return list(csv.DictReader((DATA / name).read_text(encoding="utf-8").splitlines()))


class Offered(unittest.TestCase):
    """What is not eaten may be offered to be taken off where the line says or implies the form that has it."""

    def offered(self, text: str, food_id: str) -> bool:
        food = next(row for row in rows("foods.csv") if row["food_id"] == food_id)
        notes = [row["note"] for row in rows("edible.csv") if row["food_id"] == food_id]
        self.assertTrue(notes, food_id)
        return any(is_offered(text, name=food["name"], group=food["group"], note=note) for note in notes)

    def test_where_it_is_there(self) -> None:
        for text, food in (
            ("1.5 kg chicken thighs, bone in, skin on", "chicken-thigh-with-skin-raw"),
            ("1 kg chicken drumsticks", "chicken-drumstick-with-skin-raw"),
            ("1.8 kg whole chicken", "whole-chicken-meat-and-skin-raw"),
            ("2 kg pork shoulder on the bone", "pork-shoulder-lean-and-fat-raw"),
            ("500 g shell-on prawns", "shrimp-peeled-untreated-raw"),
            ("1 kg mussels in their shells", "mussels-shelled-raw"),
            ("300 g walnuts in the shell", "walnuts-raw"),
            ("600 g salmon, skin on", "salmon-atlantic-farmed-raw"),
            ("1 kg bananas", "banana-raw"),
            ("1 kg onions", "onion-raw"),
            ("1 kg potatoes, peeled and diced", "potato-with-skin-raw"),
            ("2 x 500 g onions", "onion-raw"),
            ("", "banana-raw"),
        ):
            with self.subTest(text=text, food=food):
                self.assertTrue(self.offered(text, food))

    def test_where_it_is_not(self) -> None:
        for text, food in (
            ("6 eggs", "egg-whole-raw"),
            ("500 g shelled eggs", "egg-whole-raw"),
            ("300 g egg white", "egg-white-raw"),
            ("100 g lime juice", "lime-juice-raw"),
            ("1 kg boneless skinless chicken breasts", "chicken-breast-skinless-raw"),
            ("1 kg chicken breast", "chicken-breast-skinless-raw"),
            ("600 g salmon fillet", "salmon-atlantic-farmed-raw"),
            ("100 g walnuts", "walnuts-raw"),
            ("4 bananas", "banana-raw"),
            ("1 cup chopped onion", "onion-raw"),
            ("1 kg peeled potatoes", "potato-with-skin-raw"),
            ("1 kg potatoes", "potato-with-skin-raw"),
            ("1 kg potatoes (850 g peeled)", "potato-with-skin-raw"),
            ("400 g broccoli florets", "broccoli-raw"),
            ("1 bag spinach", "spinach-raw"),
            ("", "chicken-breast-skinless-raw"),
        ):
            with self.subTest(text=text, food=food):
                self.assertFalse(self.offered(text, food))

    def test_never_from_a_count_or_a_cup_and_never_from_meat_without_its_bone(self) -> None:
        group = {row["food_id"]: (row["name"], row["group"]) for row in rows("foods.csv")}
        for row in rows("edible.csv"):
            name, of = group[row["food_id"]]
            with self.subTest(food=row["food_id"]):
                for text in (f"3 {name}", f"2 cups {name}", f"1 handful {name}"):
                    self.assertFalse(is_offered(text, name=name, group=of, note=row["note"]))
                if of in ("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs", "nuts-seeds"):
                    self.assertFalse(is_offered("1 kg boneless fillet", name=name, group=of, note=row["note"]))
                    self.assertFalse(is_offered("", name=name, group=of, note=row["note"]))


class Portions(unittest.TestCase):
    def test_by_hand_and_back(self) -> None:
        # 2.4 kg of breasts, 6 % trimmed: 2,256 g go into the pan.
        self.assertAlmostEqual(edible_g(2400, 0.06), 2256)
        self.assertAlmostEqual(purchased_g(2256, 0.06), 2400)
        self.assertAlmostEqual(edible_g(1000, 0.95), 50)
        self.assertAlmostEqual(purchased_g(50, 0.95), 1000)

    def test_a_share_is_from_nothing_to_nearly_all(self) -> None:
        for share in (-0.001, 0.951, 1, float("nan")):
            for turn in (edible_g, purchased_g):
                with self.subTest(share=share, turn=turn), self.assertRaises(CoreError):
                    turn(1000, share)


if __name__ == "__main__":
    unittest.main()
