"""Recipes made by chance from fixed seeds, against plain sums over the reference file: not the application's code."""

from __future__ import annotations

import csv
import random
import unittest
from fractions import Fraction
from typing import Any

from tests.api.independent import FOODS
from tests.support import database, new_kitchen
from yantai.core.foods.energy import EnergyRule
from yantai.work.kitchen.inputs import WorkspaceInput
from yantai.work.kitchen.settings import save_settings
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput
from yantai.work.recipes.recipes import preview_recipe
from yantai.work.recipes.views import RecipeView

SEEDS = range(24)
ENERGY = {
    # What a gram of protein, total carbohydrate, fat, fibre and alcohol counts by each rule.
    "general": (4, 4, 9, 0, 7),
    "net": (4, 4, 9, -4, 7),
    "eu": (4, 4, 9, -2, 7),
}


def rows() -> list[dict[str, str]]:
    """Foods with all macros and fibre stated."""
    found = csv.DictReader(FOODS.read_text(encoding="utf-8").splitlines())
    return [row for row in found if row["fibre_g"] and row["state"] in ("raw", "dry", "as-sold")]


class Recipe:
    """A sauce, and a pot made of it and other lines, with every way a line can lose or be left out."""

    def __init__(self, seed: int) -> None:
        self.random = random.Random(seed)
        self.foods = rows()
        self.sauce = [self.line() for _ in range(self.random.randrange(1, 4))]
        self.pot = [self.line() for _ in range(self.random.randrange(1, 6))]
        self.of_sauce_g = self.random.randrange(50, 600)
        self.poured_g = 0.0

    def line(self) -> dict[str, Any]:
        chance = self.random
        return {
            "row": chance.choice(self.foods),
            "purchased_g": float(chance.randrange(5, 900)),
            "refuse_share": chance.choice([0.0, 0.1, 0.35]),
            "retained_share": chance.choice([1.0, 1.0, 0.3, 0.75]),
            "counted": chance.random() > 0.15,
        }

    def given(self, sauce_id: Any) -> RecipeInput:
        def sent(line: dict[str, Any]) -> LineInput:
            values = {key: value for key, value in line.items() if key != "row"}
            return LineInput(food_id=reference_id(line["row"]["food_id"]), **values)

        made_of = LineInput(source_id=sauce_id, purchased_g=self.of_sauce_g)
        return RecipeInput(
            name="By chance",
            components=[
                ComponentInput(id=sauce_id, name="Sauce", lines=[sent(line) for line in self.sauce]),
                ComponentInput(
                    name="Pot", lines=[*(sent(line) for line in self.pot), made_of], poured_fat_g=self.poured_g
                ),
            ],
        )

    def totals(self, lines: list[dict[str, Any]], rule: str) -> dict[str, Fraction]:
        """Exact sums of grams × composition × shares of what is counted."""
        sums = dict.fromkeys(("kcal", "protein_g", "carbohydrate_g", "fat_g", "fibre_g"), Fraction(0))
        factors = ENERGY[rule]
        for line in lines:
            if not line["counted"]:
                continue
            grams = Fraction(line["purchased_g"]) * (1 - Fraction(str(line["refuse_share"])))
            grams *= Fraction(str(line["retained_share"]))
            held = [
                Fraction(line["row"][name] or "0")
                for name in ("protein_g", "carbohydrate_g", "fat_g", "fibre_g", "alcohol_g")
            ]
            if held[3] > held[1]:  # some sources state more fibre than carbohydrate: none is left
                held[3] = held[1]
            for name, amount in zip(("protein_g", "carbohydrate_g", "fat_g"), held, strict=False):
                sums[name] += grams * amount / 100
            sums["fibre_g"] += grams * Fraction(line["row"]["fibre_g"]) / 100
            fibre = held[3]
            extra = 0 if rule != "eu" else 2 * (Fraction(line["row"]["fibre_g"]) - fibre)
            sums["kcal"] += grams * (sum(f * a for f, a in zip(factors, held, strict=True)) + extra) / 100
        return sums

    @staticmethod
    def weight(lines: list[dict[str, Any]]) -> Fraction:
        """Uncooked, what stays weighs what went in, counted or not."""
        return sum(
            (
                Fraction(line["purchased_g"])
                * (1 - Fraction(str(line["refuse_share"])))
                * Fraction(str(line["retained_share"]))
                for line in lines
            ),
            Fraction(0),
        )


class RandomRecipes(unittest.TestCase):
    def check(self, rule: EnergyRule) -> None:
        who = new_kitchen()
        save_settings(database(), who, WorkspaceInput(energy_rule=rule.value))
        for seed in SEEDS:
            with self.subTest(seed=seed):
                recipe = Recipe(seed)
                sauce_id = reference_id(f"sauce {seed}")
                shown = preview_recipe(database(), who, recipe.given(sauce_id))
                self.compare(recipe, shown, rule.value)

    def compare(self, recipe: Recipe, shown: RecipeView, rule: str) -> None:
        sauce, pot = (component.figures for component in shown.components)
        assert sauce is not None
        assert pot is not None
        of_sauce, of_pot = recipe.totals(recipe.sauce, rule), recipe.totals(recipe.pot, rule)
        sauce_g = recipe.weight(recipe.sauce)
        self.assertAlmostEqual(sauce.cooked_g, float(sauce_g), places=6)
        self.assertAlmostEqual(pot.cooked_g, float(recipe.weight(recipe.pot)) + recipe.of_sauce_g, places=6)
        for name, amount in of_pot.items():
            whole = amount + of_sauce[name] * recipe.of_sauce_g / sauce_g
            self.assertAlmostEqual(getattr(pot.totals, name), float(whole), delta=1e-6 + 1e-9 * float(whole), msg=name)
            self.assertAlmostEqual(getattr(sauce.totals, name), float(of_sauce[name]), delta=1e-6, msg=name)

    def test_by_the_general_rule(self) -> None:
        self.check(EnergyRule.GENERAL)

    def test_with_fibre_at_nothing(self) -> None:
        self.check(EnergyRule.NET)

    def test_by_the_eu_rule(self) -> None:
        self.check(EnergyRule.EU)

    def test_fat_poured_off_leaves_the_pot_with_its_energy(self) -> None:
        who = new_kitchen()
        for seed in SEEDS:
            recipe = Recipe(seed)
            fat = float(recipe.totals(recipe.pot, "general")["fat_g"])
            plain = preview_recipe(database(), who, recipe.given(reference_id(f"s{seed}"))).components[1].figures
            recipe.poured_g = round(fat * recipe.random.random(), 3)
            poured = preview_recipe(database(), who, recipe.given(reference_id(f"s{seed}"))).components[1].figures
            assert plain is not None
            assert poured is not None
            with self.subTest(seed=seed):
                self.assertAlmostEqual(plain.totals.fat_g - poured.totals.fat_g, recipe.poured_g, places=6)
                self.assertAlmostEqual(plain.totals.kcal - poured.totals.kcal, 9 * recipe.poured_g, places=5)
                self.assertAlmostEqual(plain.totals.protein_g, poured.totals.protein_g, places=9)
