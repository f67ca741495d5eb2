"""The gallery: each mistake that can be seen in a recipe, made on purpose; the right entry beside it raises nothing."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import ClassVar

from yantai.core.cooking.components import LineRole
from yantai.core.cooking.mistakes import Finding, Ingredient, OtherEntry, Pan, findings, scaled_alone
from yantai.core.cooking.yields import YieldRange, YieldSource
from yantai.core.quantities import disagreements, read_line

CHICKEN_YIELD = YieldRange(low=0.68, expected=0.73, high=0.78, source=YieldSource.BALANCE)
CHICKEN = Ingredient(
    name="Chicken thigh", group="poultry", state="raw", purchased_g=1000, expected=CHICKEN_YIELD, kcal=1500
)
OIL = Ingredient(name="Olive oil", group="fats-oils", state="as-sold", purchased_g=15, role=LineRole.FAT, kcal=133)
RIGHT = Pan(name="Chicken", role="protein", method="roasted", ingredients=(CHICKEN, OIL))


def pan_of(*ingredients: Ingredient, **changed: object) -> Pan:
    return replace(RIGHT, ingredients=ingredients or RIGHT.ingredients, **changed)  # type: ignore[arg-type]


class Gallery(unittest.TestCase):
    def found(self, pan: Pan, code: str) -> Finding:
        hits = [one for one in findings(pan) if one.code == code]
        self.assertEqual(len(hits), 1, findings(pan))
        return hits[0]

    def test_the_right_recipe_raises_nothing(self) -> None:
        self.assertEqual(findings(RIGHT), [])

    def test_raw_grams_with_a_cooked_entry(self) -> None:
        cooked = replace(CHICKEN, state="cooked", raw_entry=OtherEntry(key="raw-id", words="Chicken thigh, raw"))
        found = self.found(pan_of(cooked, OIL), "raw-with-cooked-entry")
        self.assertEqual(found.line, 0)
        self.assertEqual(
            [dict(mend.changes) for mend in found.mends], [{"food_id": "raw-id"}, {"weighed_state": "cooked"}]
        )
        # Bought cooked, or leftovers: the coach says so, and it is right.
        self.assertEqual(findings(pan_of(replace(cooked, weighed_state="cooked"), OIL)), [])
        self.assertEqual(findings(pan_of(cooked, OIL, method="none")), [])

    def test_dry_for_cooked_grain(self) -> None:
        rice = Ingredient(
            name="Rice",
            group="grains-pasta",
            state="dry",
            purchased_g=800,
            cooked_entry=OtherEntry(key="boiled", words="Rice, boiled"),
        )
        wrong = pan_of(rice, role="grain", method="none")
        self.assertEqual(dict(self.found(wrong, "dry-for-cooked").mends[0].changes)["food_id"], "boiled")
        self.assertEqual(findings(pan_of(rice, role="grain", method="boiled")), [])
        self.found(pan_of(replace(rice, weighed_state="cooked"), role="grain", method="boiled"), "dry-for-cooked")

    def test_cooked_grams_with_a_raw_entry(self) -> None:
        self.found(pan_of(replace(CHICKEN, weighed_state="cooked"), OIL), "cooked-with-raw-entry")

    def test_ounces_for_grams(self) -> None:
        # "35 oz" are 992 g; 35 was typed.
        found = self.found(
            pan_of(replace(CHICKEN, text="35 oz chicken thigh", stated_g=992.2, purchased_g=35), OIL),
            "ounces-for-grams",
        )
        self.assertEqual(found.mends[0].changes["purchased_g"], 992.2)
        self.assertEqual(findings(pan_of(replace(CHICKEN, text="35 oz", stated_g=992.2, purchased_g=992), OIL)), [])

    def test_pounds_for_ounces_and_kilograms_for_grams(self) -> None:
        self.found(pan_of(replace(CHICKEN, text="2 lb", stated_g=907.2, purchased_g=56.7), OIL), "lb-for-oz")
        self.found(pan_of(replace(CHICKEN, text="1.2 kg", stated_g=1200, purchased_g=1.2), OIL), "kg-for-g")
        self.found(pan_of(replace(CHICKEN, text="1.2 kg", stated_g=1200, purchased_g=900), OIL), "text-differs")

    def test_two_stated_quantities_that_disagree(self) -> None:
        text = "3 oz (150 g) tofu"
        pair = disagreements(read_line(text).quantities, ())
        found = self.found(
            pan_of(replace(CHICKEN, text=text, stated_g=150, purchased_g=150, disagreements=pair), OIL), "stated-twice"
        )
        self.assertIn("43 % apart", found.words)
        self.assertEqual([mend.changes["purchased_g"] for mend in found.mends], [150, 85])
        agreeing = disagreements(read_line("5.3 oz (150 g) tofu").quantities, ())
        self.assertEqual(agreeing, [])

    def test_yield_for_loss(self) -> None:
        # Keeps 73 %, loses 27 %: the loss was typed.
        found = self.found(pan_of(replace(CHICKEN, yield_factor=0.27), OIL), "yield-for-loss")
        self.assertEqual(found.mends[0].changes["yield_factor"], 0.73)
        self.assertEqual(
            found.words,
            "A yield of 0.27 keeps 27 %; usual here is 68 to 78 %. Is 0.27 the loss? Then the yield is 0.73.",
        )
        self.found(pan_of(set_yield=0.25, expected_yield=CHICKEN_YIELD), "yield-for-loss")
        unusual = self.found(pan_of(replace(CHICKEN, yield_factor=1.4), OIL), "unusual-yield")
        self.assertEqual(unusual.words, "A yield of 1.4 is outside the usual 0.68 to 0.78 (nutrient balance).")
        self.assertEqual(unusual.mends[0].changes, {"yield_factor": 0.73})
        self.assertEqual(findings(pan_of(replace(CHICKEN, yield_factor=0.74), OIL)), [])

    def test_kcal_that_do_not_match_macros(self) -> None:
        found = self.found(
            pan_of(replace(CHICKEN, label="275 kcal are stated, macros give 392"), OIL), "label-conflict"
        )
        self.assertIn("275", found.words)

    def test_label_zeros_multiplied(self) -> None:
        spray = replace(OIL, name="Spray oil", purchased_g=10, kcal=0, kcal_slack=90)
        found = self.found(pan_of(CHICKEN, spray), "label-zeros")
        self.assertIn("up to 90 kcal", found.words)
        # One short spray moves nothing by a hundredth.
        self.assertEqual(findings(pan_of(CHICKEN, replace(spray, purchased_g=1, kcal_slack=9))), [])

    def test_oil_forgotten(self) -> None:
        self.assertIn("no oil", self.found(pan_of(CHICKEN, method="pan-fried"), "oil-forgotten").words)
        self.assertEqual(findings(pan_of(CHICKEN, OIL, method="pan-fried")), [])

    def test_oil_that_may_stay_on_the_tray_is_told_as_assumed(self) -> None:
        found = self.found(pan_of(CHICKEN, replace(OIL, purchased_g=60)), "tray-oil")
        self.assertTrue(found.assumption)
        self.assertEqual(findings(pan_of(CHICKEN, replace(OIL, purchased_g=60, retained_share=0.5))), [])

    def test_a_marinade_counted_though_thrown_away(self) -> None:
        yoghurt = Ingredient(
            name="Yoghurt", group="dairy-alternatives", state="as-sold", purchased_g=200, text="200 g yoghurt marinade"
        )
        found = self.found(pan_of(CHICKEN, OIL, yoghurt), "marinade-counted")
        self.assertEqual(found.mends[0].changes["retained_share"], 0.3)
        told = self.found(pan_of(CHICKEN, OIL, replace(yoghurt, retained_share=0.3)), "marinade-assumed")
        self.assertTrue(told.assumption)
        self.assertEqual(findings(pan_of(CHICKEN, OIL, replace(yoghurt, retained_share=0.22))), [])

    def test_nothing_stays(self) -> None:
        self.found(pan_of(CHICKEN, replace(OIL, retained_share=0)), "nothing-stays")

    def test_meat_and_vegetables_weighed_together(self) -> None:
        peppers = Ingredient(name="Peppers", group="vegetables", state="raw", purchased_g=600)
        found = self.found(pan_of(CHICKEN, OIL, peppers), "weighed-together")
        self.assertEqual(found.mends[0].changes, {"role": "mixed"})
        self.assertEqual(findings(pan_of(CHICKEN, OIL, peppers, role="mixed")), [])
        self.assertEqual(findings(pan_of(CHICKEN, OIL, replace(peppers, purchased_g=200))), [])


class Slips(unittest.TestCase):
    def code(self, stated_g: float, purchased_g: float) -> str:
        line = replace(CHICKEN, text="chicken", stated_g=stated_g, purchased_g=purchased_g)
        return next((one.code for one in findings(pan_of(line, OIL)) if one.code not in ("pan-without-oil",)), "")

    def test_each_slip_of_a_unit_by_its_factor_and_nothing_beside_it(self) -> None:
        """An ounce is 28.3495 g; 16 of them a pound. Within 2 % of the larger it is that slip."""
        for factor, code in (
            (28.3495, "ounces-for-grams"),
            (16, "lb-for-oz"),
            (1 / 16, "lb-for-oz"),
            (1000, "kg-for-g"),
        ):
            with self.subTest(factor=factor):
                self.assertEqual(self.code(800 * factor, 800), code)
                self.assertEqual(self.code(800 * factor * 1.019, 800), code)
                self.assertEqual(self.code(800 * factor * 1.021, 800), "text-differs")
                self.assertEqual(self.code(800 * factor * 0.979, 800), "text-differs")

    def test_a_text_may_differ_by_a_twentieth(self) -> None:
        self.assertEqual(self.code(1000, 951), "")
        self.assertEqual(self.code(1000, 949), "text-differs")
        self.assertEqual(self.code(951, 1000), "")
        self.assertEqual(self.code(949, 1000), "text-differs")
        self.assertEqual(self.code(0, 1000), "")
        self.assertEqual(self.code(950, 1000), "")  # a twentieth exactly

    def test_a_yield_that_nobody_knows(self) -> None:
        unknown = YieldRange(low=0.6, expected=0.85, high=1.0, source=YieldSource.UNKNOWN)
        dish = replace(CHICKEN, name="Okra", expected=unknown)
        (found,) = [one for one in findings(pan_of(dish, OIL)) if one.code == "yield-unknown"]
        self.assertEqual(
            found.words,
            "Nothing is known of how much of Okra is left when it is roasted: 85 % is assumed, 60 to 100 % is "
            "possible. Weigh this pan, or give a yield.",
        )
        for told in (pan_of(replace(dish, yield_factor=0.8), OIL), pan_of(dish, OIL, set_yield=0.8)):
            self.assertNotIn("yield-unknown", [one.code for one in findings(told)])


class ScaledAlone(unittest.TestCase):
    BEFORE: ClassVar = {"kofta": [1000.0, 20.0], "bulgur": [800.0], "sauce": [500.0, 40.0]}

    def test_a_sauce_left_behind(self) -> None:
        now = {"kofta": [1500.0, 30.0], "bulgur": [1200.0], "sauce": [500.0, 40.0]}
        self.assertEqual(scaled_alone(self.BEFORE, now), {"sauce": 1.5})

    def test_scaled_alike_within_a_fiftieth(self) -> None:
        """2.00 and 2.03 are one factor, 2.00 and 2.05 are two; so are 0.50 and 0.512."""
        for kofta, bulgur, told in (
            (2.0, 2.03, {"sauce": 2.03}),
            (2.0, 2.05, {}),
            (0.5, 0.508, {"sauce": 0.508}),
            (0.5, 0.512, {}),
        ):
            with self.subTest(kofta=kofta, bulgur=bulgur):
                now = {
                    "kofta": [grams * kofta for grams in self.BEFORE["kofta"]],
                    "bulgur": [grams * bulgur for grams in self.BEFORE["bulgur"]],
                    "sauce": self.BEFORE["sauce"],
                }
                self.assertEqual({name: round(x, 6) for name, x in scaled_alone(self.BEFORE, now).items()}, told)

    def test_everything_scaled_nothing_scaled_or_an_ingredient_changed(self) -> None:
        all_scaled = {name: [grams * 1.5 for grams in lines] for name, lines in self.BEFORE.items()}
        for now in (
            all_scaled,
            self.BEFORE,
            self.BEFORE | {"kofta": [1500.0, 20.0]},
            self.BEFORE | {"kofta": [1500.0]},
        ):
            with self.subTest(now=now):
                self.assertEqual(scaled_alone(self.BEFORE, now), {})
