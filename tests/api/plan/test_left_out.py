"""Words that keep food out, from the client's page to the grams."""

from __future__ import annotations

from typing import Any

from tests.api.case import ApiCase, food_id

LUNCH = {"slot": "lunch", "protein_g": 40, "carbohydrate_g": 50, "fat_g": 15}


class LeftOut(ApiCase):
    def batch_without(self, words: list[str], recipe: dict[str, Any]) -> dict[str, Any]:
        """The plan of a batch of a recipe, for one client who leaves these out."""
        client = self.send("POST", "/clients", {"name": "Wren", "exclusions": words, "targets": [LUNCH]}, status=201)
        made = self.send("POST", "/recipes", recipe, status=201)
        eaters = [{"target_id": client["targets"][0]["id"], "count": 2}]
        body = {"name": "Left out", "cook_on": "2026-11-29", "dishes": [{"recipe_id": made["id"], "eaters": eaters}]}
        return dict(self.send("POST", "/batches", body, status=201))

    def component(self, name: str, food: str, grams: float = 500) -> dict[str, Any]:
        return {"name": name, "method": "none", "lines": [{"food_id": food_id(food), "purchased_g": grams}]}

    def test_eggs_in_the_plural_keep_out_a_component_of_egg_and_the_row_says_why(self) -> None:
        recipe = {
            "name": "Breakfast",
            "components": [
                self.component("Eggs", "egg-whole-raw"),
                self.component("Rice", "rice-cakes-brown-rice"),
                self.component("Sauce", "mayonnaise"),
            ],
        }
        (row,) = self.batch_without(["eggs"], recipe)["rows"]
        self.assertEqual([cell["grams"] for cell in row["cells"]][0::2], [0, 0])
        self.assertEqual(
            [cell["left_out"] for cell in row["cells"]],
            [[{"word": "eggs", "of": "Egg, whole"}], [], [{"word": "eggs", "of": "Mayonnaise"}]],
        )

    def test_a_component_called_so_is_kept_out_whatever_it_is_made_of(self) -> None:
        components = [self.component("Nut crumble", "oats-rolled-dry"), self.component("Rice", "rice-cakes-brown-rice")]
        (row,) = self.batch_without(["nuts"], {"name": "Crumble", "components": components})["rows"]
        self.assertEqual([cell["left_out"] for cell in row["cells"]], [[{"word": "nuts", "of": "Nut crumble"}], []])

    def test_a_dish_called_so_is_kept_out_whole(self) -> None:
        components = [self.component("Crust", "oats-rolled-dry"), self.component("Filling", "honey")]
        (row,) = self.batch_without(["nuts"], {"name": "Pecan pie", "components": components})["rows"]
        self.assertEqual([cell["grams"] for cell in row["cells"]], [0, 0])

    def test_a_word_says_what_it_keeps_out_and_what_it_may_mean_besides(self) -> None:
        nuts, slip = self.send("POST", "/clients/words", {"words": ["nuts", "brocoli"]})
        self.assertIn("Pecans", nuts["foods"])
        self.assertIn("peanut", [other["word"] for other in nuts["wider"]])
        self.assertEqual((slip["foods"], slip["wider"], slip["spelling"]), ([], [], "broccoli"))

    def test_own_foods_count_by_what_they_are_also_called(self) -> None:
        label = {"kcal": 250, "protein_g": 8, "carbohydrate_g": 40, "fat_g": 6}
        body = {"name": "House loaf", "group": "own", "state": "as-sold", "label": label, "other_names": "walnut bread"}
        self.send("POST", "/foods", body, status=201)
        (told,) = self.send("POST", "/clients/words", {"words": ["walnuts"]})
        self.assertIn("House loaf", told["foods"])

    def test_more_words_than_a_client_can_have_are_refused(self) -> None:
        problem = self.send("POST", "/clients/words", {"words": ["x"] * 61}, status=422)
        self.assert_fault(problem, "/words", "61 words")
