from __future__ import annotations

from typing import Any

from sqlalchemy import delete

from tests.api.case import API, ApiCase, food_id
from tests.support import database
from yantai.store import tables

LABEL = {
    "serving_g": 100,
    "kcal": 112,
    "fat_g": 6.2,
    "carbohydrate_g": 9.1,
    "fibre_g": 4.1,
    "protein_g": 2.6,
    "salt_g": 2.9,
    "carbohydrate": "available",
    "rounding": "eu",
}


def harissa(**changed: Any) -> dict[str, Any]:
    return {"name": "Harissa", "group": "sauces-stocks", "state": "as-sold", "label": LABEL} | changed


class Labels(ApiCase):
    def test_a_label_becomes_a_food(self) -> None:
        made = self.send(
            "POST", "/foods", harissa(packs=[{"name": "tin", "grams": 400, "drained_g": 240, "price": 1.2}]), 201
        )
        held = made["food"]["per_100g"]
        # Total carbohydrate holds the fibre: 9.1 + 4.1; 4×2.6 + 4×13.2 + 9×6.2 = 119; 2.9 g salt are 1,160 mg sodium.
        self.assertAlmostEqual(held["carbohydrate_g"], 13.2)
        self.assertAlmostEqual(held["kcal"], 119.0)
        self.assertAlmostEqual(held["sodium_mg"], 1160)
        self.assertTrue(made["food"]["own"])
        self.assertAlmostEqual(made["packs"][0]["price_per_100g"], 0.5)  # 1.20 for 240 g drained
        self.assertEqual(made["audit"]["words"], "")
        again = self.get(f"/foods/{made['food']['id']}")
        self.assertEqual(again, made)

    def test_a_label_for_millilitres_weighs_them_and_is_edited_as_it_was(self) -> None:
        """0.26 g of protein in 10 ml of which one weighs 1.3 g are 2 g in 100 g, and 200 ml of it are 260 g."""
        label = LABEL | {
            "serving_g": 55,
            "serving_ml": 10,
            "ml_weighs_g": 1.3,
            "protein_g": 0.26,
            "fat_g": 0,
            "kcal": 5,
        }
        label |= {"carbohydrate_g": 1.0, "fibre_g": 0, "salt_g": 0, "rounding": "exact"}
        made = self.send("POST", "/foods", harissa(name="Reed syrup", label=label), 201)
        self.assertAlmostEqual(made["food"]["per_100g"]["protein_g"], 2)
        self.assertEqual((made["label"]["serving_ml"], made["label"]["serving_g"]), (10, 13))
        self.assertIn("10 ml of 13 g", made["source_detail"])
        self.assertEqual([(one["name"], one["grams"]) for one in made["measures"]], [("ml", 1.3)])
        (line,) = self.send("POST", "/recipes/read", {"text": "200 ml reed syrup"})["lines"]
        self.assertAlmostEqual(line["grams"], 260)
        # Saved again with another weight of a millilitre, the measure follows and is there once.
        measures = [{"name": "ml", "grams": 1.3}, {"name": "spoon", "grams": 20}]
        body = harissa(
            name="Reed syrup", label=label | {"ml_weighs_g": 1.25}, measures=measures, version=made["version"]
        )
        again = self.send("PUT", f"/foods/{made['food']['id']}", body)
        self.assertEqual({one["name"]: one["grams"] for one in again["measures"]}, {"ml": 1.25, "spoon": 20})
        problem = self.send("POST", "/foods", harissa(label=label | {"ml_weighs_g": None}), 422)
        self.assert_fault(problem, "/label/ml_weighs_g", "on the scale")

    def test_the_preview_says_the_same_and_saves_nothing(self) -> None:
        before = self.get("/foods")["total"]
        shown = self.send("POST", "/foods/preview", harissa())
        self.assertEqual(self.get("/foods")["total"], before)
        made = self.send("POST", "/foods", harissa(), 201)
        self.assertEqual(made["food"]["per_100g"], shown["food"]["per_100g"])

    def test_a_label_at_odds_with_itself_says_which_reading_fits(self) -> None:
        label = LABEL | {
            "kcal": 275,
            "protein_g": 20,
            "carbohydrate_g": 60,
            "fat_g": 8,
            "fibre_g": 30,
            "carbohydrate": "total",
        }
        shown = self.send("POST", "/foods/preview", harissa(label=label))
        self.assertIn("fibre at 0", shown["audit"]["words"])

    def test_rounded_zeros_are_carried_to_the_component(self) -> None:
        """10 g of a spray with "0 kcal" per 0.25 g may be up to 90 kcal; the pan's 100 g show the range."""
        label = {
            "serving_g": 0.25,
            "kcal": 0,
            "fat_g": 0,
            "carbohydrate_g": 0,
            "protein_g": 0,
            "fibre_g": 0,
            "rounding": "us",
        }
        spray = self.send("POST", "/foods", harissa(name="Spray", group="fats-oils", label=label), 201)["food"]["id"]
        body = {
            "name": "x",
            "components": [
                {
                    "name": "Greens",
                    "role": "vegetable",
                    "method": "roasted",
                    "lines": [
                        {"food_id": food_id("kale-raw"), "purchased_g": 500},
                        {"food_id": spray, "purchased_g": 10},
                    ],
                },
            ],
        }
        component = self.send("POST", "/recipes/preview", body)["components"][0]
        kcal = component["figures"]["totals"]
        self.assertAlmostEqual(kcal["ranges"]["kcal"]["high"] - kcal["kcal"], 90, places=6)
        self.assertIn("label-zeros", [finding["code"] for finding in component["findings"]])

    def test_a_label_that_contradicts_itself_is_taken_and_told(self) -> None:
        label = LABEL | {"saturated_g": 9.9, "kj": 900, "salt_g": 2.9, "sodium_mg": 400}
        shown = self.send("POST", "/foods/preview", harissa(label=label))
        self.assertEqual(len(shown["contradictions"]), 3)
        made = self.send("POST", "/foods", harissa(label=label), 201)
        self.assertEqual(made["contradictions"], shown["contradictions"])
        self.assertEqual(self.send("POST", "/foods/preview", harissa())["contradictions"], [])

    def test_rounded_figures_of_a_tiny_serving_may_add_up_to_more_than_it(self) -> None:
        """1 g of powder with "1 g protein, 0.5 g fat" by US rounding: 0.5 g and 0.5 g are what it may truly be."""
        label = {"serving_g": 1, "protein_g": 1, "fat_g": 0.5, "carbohydrate_g": 0, "fibre_g": 0, "rounding": "us"}
        held = self.send("POST", "/foods", harissa(label=label), 201)["food"]["per_100g"]
        self.assertEqual((held["protein_g"], held["ranges"]["protein_g"]["low"]), (100, 50))

    def test_bad_labels_are_located(self) -> None:
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({"label": LABEL | {"protein_g": 60, "carbohydrate_g": 60}}, "/label/serving_g", "per 100 g"),
            ({"label": LABEL | {"fat_g": None}}, "/label/fat_g", "needed"),
            ({"label": LABEL | {"serving_g": 0}}, "/label/serving_g", "0.1"),
            ({"state": "wet"}, "/state", "not one of"),
            ({"name": " "}, "/name", "Give the food"),
            ({"allergens": ["wood"]}, "/allergens", "not one of"),
            ({"packs": [{"name": "tin", "grams": 200, "drained_g": 300}]}, "/packs/0/drained_g", "less than the pack"),
            ({"measures": [{"name": "", "grams": 5}]}, "/measures/0/name", "cup, slice"),
        ]
        for part, pointer, words in cases:
            with self.subTest(part=part):
                self.assert_fault(self.send("POST", "/foods", harissa(**part), 422), pointer, words)

    def test_a_copy_starts_with_what_is_known_of_the_original(self) -> None:
        original = food_id("chicken-thigh-skinless-raw")
        label = LABEL | {"kcal": 120, "protein_g": 19, "carbohydrate_g": 0, "fat_g": 4.5, "fibre_g": 0, "salt_g": 0.2}
        copy = self.send(
            "POST",
            "/foods",
            harissa(name="Farm thigh", group="poultry", state="raw", label=label, copied_from=original),
            201,
        )
        yields = {one["method"]: one["expected"]["expected"] for one in copy["yields"] if not one["of_group"]}
        of_original = {
            o["method"]: o["expected"]["expected"]
            for o in self.get(f"/foods/{original}")["yields"]
            if not o["of_group"]
        }
        self.assertEqual(yields, of_original)
        self.assertTrue(yields)
        self.assertTrue(copy["other_states"])

    def test_it_is_found_only_here_and_can_be_taken_off(self) -> None:
        made = self.send("POST", "/foods", harissa(other_names="chilli paste"), 201)["food"]["id"]
        self.assertEqual(
            [food["id"] for food in self.get("/foods", text="chilli paste")["foods"] if food["own"]], [made]
        )
        other = self.other_kitchen()
        self.assertEqual(other.get(f"{API}/foods/{made}").status_code, 404)
        self.assertEqual(other.put(f"{API}/foods/{made}", json=harissa(version=1)).status_code, 404)
        self.send("PUT", f"/foods/{made}/archived", status=204, archived=True)
        self.assertEqual([food for food in self.get("/foods", text="harissa")["foods"] if food["own"]], [])
        self.send("PUT", f"/foods/{made}/archived", status=204, archived=False)

    def test_reference_foods_take_own_packs_but_no_edits(self) -> None:
        oil = food_id("olive-oil")
        self.send("PUT", f"/foods/{oil}", harissa(version=1), status=404)
        supply = {
            "packs": [{"name": "bottle", "grams": 916, "price": 8.5}],
            "measures": [{"name": "ladle", "grams": 55}],
        }
        detail = self.send("PUT", f"/foods/{oil}/supply", supply)
        self.assertEqual(detail["packs"][0]["name"], "bottle")
        self.assertIn("ladle", [measure["name"] for measure in detail["measures"] if measure["own"]])
        self.assertEqual(self.other_kitchen().get(f"{API}/foods/{oil}").json()["packs"], [])


class Versions(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.food = self.send("POST", "/foods", harissa(), 201)["food"]["id"]
        recipe = {
            "name": "Pan",
            "components": [{"name": "Sauce", "role": "sauce", "lines": [{"food_id": self.food, "purchased_g": 500}]}],
        }
        self.recipe = self.send("POST", "/recipes", recipe, 201)["id"]
        client = {"name": "Ada", "targets": [{"slot": "lunch", "fat_g": 12}]}
        target = self.send("POST", "/clients", client, 201)["targets"][0]["id"]
        batch = {
            "name": "B",
            "cook_on": "2026-11-29",
            "dishes": [{"recipe_id": self.recipe, "eaters": [{"target_id": target, "count": 2}]}],
        }
        self.batch = self.send("POST", "/batches", batch, 201)

    def edit(self, version: int = 1, **label: Any) -> Any:
        return self.send("PUT", f"/foods/{self.food}", harissa(version=version, label=LABEL | label))

    def read(self) -> Any:
        return self.get(f"/batches/{self.batch['batch']['id']}/plan")

    def test_recipes_follow_and_open_batches_ask(self) -> None:
        self.edit(fat_g=12.4)
        self.assertAlmostEqual(
            self.get(f"/recipes/{self.recipe}")["components"][0]["figures"]["per_100g"]["fat_g"], 12.4
        )
        plan = self.read()
        self.assertEqual(plan["batch"]["foods_changed"], ["Harissa"])
        self.assertEqual(plan["rows"], self.batch["rows"])
        taken = self.send("POST", f"/batches/{plan['batch']['id']}/foods", version=plan["batch"]["version"])
        self.assertEqual(taken["batch"]["foods_changed"], [])
        self.assertAlmostEqual(taken["components"][0]["per_100g"]["fat_g"], 12.4)

    def test_every_edit_keeps_what_the_batch_was_made_with(self) -> None:
        self.edit(fat_g=12.4)
        self.edit(version=2, fat_g=20)
        self.assertAlmostEqual(self.read()["components"][0]["per_100g"]["fat_g"], 6.2)

    def packed(self) -> dict[str, Any]:
        """The plan once its component was weighed as expected and the batch marked packed."""
        plan = self.read()
        weigh = {
            "kind": "weigh",
            "component_id": plan["components"][0]["id"],
            "vessels": [{"gross_g": plan["components"][0]["cooked_g"], "vessel_g": 0}],
        }
        weighed = self.change(plan, weigh)["plan"]
        return dict(self.change(weighed, {"kind": "packed", "packed": True})["plan"])

    def test_a_packed_batch_never_moves(self) -> None:
        packed = self.packed()
        self.edit(fat_g=12.4)
        self.send("PUT", "/settings", {"energy_rule": "eu", "carbohydrate": "available"})
        self.assertEqual(self.read(), packed)
        self.send("POST", f"/batches/{packed['batch']['id']}/foods", status=409, version=packed["batch"]["version"])

    def test_one_packed_before_its_view_was_kept_keeps_it_from_the_first_look_on(self) -> None:
        packed = self.packed()
        with database().workspace(self.who.workspace_id) as session:
            session.execute(delete(tables.StoredPlan))
        self.assertEqual(self.read(), packed)
        self.send("PUT", "/settings", {"energy_rule": "eu", "carbohydrate": "available"})
        self.assertEqual(self.read(), packed)
        document = self.get(f"/batches/{packed['batch']['id']}/document")
        self.send("PUT", "/settings", {"energy_rule": "net", "carbohydrate": "total"})
        self.assertEqual(self.get(f"/batches/{packed['batch']['id']}/document"), document)

    def test_a_packed_batch_does_not_follow_its_clients(self) -> None:
        packed = self.packed()
        (client,) = self.get("/clients")
        strict = {
            "name": "Ada",
            "targets": client["targets"],
            "tolerance": {"fat_g": 0.1},
            "version": client["version"],
        }
        for target in strict["targets"]:
            target.pop("conflict")
        self.send("PUT", f"/clients/{client['id']}", strict)
        self.assertEqual(self.read(), packed)

    def test_an_edit_of_words_alone_asks_nothing(self) -> None:
        self.send("PUT", f"/foods/{self.food}", harissa(version=1, note="from the quay"))
        self.assertEqual(self.read()["batch"]["foods_changed"], [])

    def test_two_windows_do_not_overwrite_each_other(self) -> None:
        self.edit(fat_g=12.4)
        self.send("PUT", f"/foods/{self.food}", harissa(version=1), status=409)


class Imports(ApiCase):
    TEXT = (
        "name;kcal;protein;carbs;fat\nQuark light;60;12,1;3,9;0,2\nWords;10;x;2;3\nOlive oil;884;0;0;100\n"
        "Quark light;60;12;4;0\n"
    )

    def read(self, **changed: Any) -> Any:
        return self.send("POST", "/foods/import", {"text": self.TEXT} | changed)

    def test_it_is_shown_first_and_saves_nothing(self) -> None:
        found = self.read()
        self.assertEqual((found["good"], found["saved"]), (1, 0))
        self.assertEqual([bad["line"] for bad in found["bad"]], [3, 5])
        self.assertEqual([one["name"] for one in found["duplicates"]], ["Olive oil"])
        self.assertEqual(found["columns"]["carbohydrate_g"], "carbs")
        self.assertEqual([food for food in self.get("/foods", text="quark light")["foods"] if food["own"]], [])

    def test_bad_lines_stop_it_unless_only_the_good_are_wanted(self) -> None:
        problem = self.send("POST", "/foods/import", {"text": self.TEXT, "save": True}, status=422)
        self.assertIn("nothing was imported", problem["detail"])
        self.assertEqual(self.read(save=True, skip_bad=True)["saved"], 1)
        self.assertTrue(self.get("/foods", text="quark light")["foods"][0]["own"])
        self.assertEqual(len(self.read()["duplicates"]), 3)  # both lines of it are here now

    def test_files_that_cannot_be_read(self) -> None:
        for text, words in (
            ("", "headings"),
            ("a,b\n\ufffd,2", "UTF-8"),
            ("name,protein,carbs,fat\n1,2,3,4\x00", "cannot be read"),
        ):
            with self.subTest(text=text):
                self.assert_fault(self.send("POST", "/foods/import", {"text": text}, status=422), "/text", words)
        answer = self.client.post(f"{API}/foods/import", content=b"x" * (30 * 1024 * 1024))
        self.assertEqual(answer.status_code, 413)
        self.assertIn("Split the file", answer.json()["detail"])
