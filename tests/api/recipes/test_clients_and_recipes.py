from __future__ import annotations

from typing import Any, ClassVar

from fastapi.testclient import TestClient

from tests.api.case import ApiCase, food_id
from tests.kitchens import bowl, eaters, planned
from tests.support import database, new_email, new_kitchen
from yantai.work.clients.clients import save_client
from yantai.work.recipes.recipes import save_recipe

LUNCH = {"slot": "lunch", "protein_g": 45, "carbohydrate_g": 55, "fat_g": 14}


def recipe(**component: Any) -> dict[str, Any]:
    lines = component.pop("lines", [{"food_id": food_id("bulgur-wheat-dry"), "purchased_g": 600}])
    return {"name": "Pilaf", "components": [{"name": "Bulgur", "method": "boiled", "lines": lines, **component}]}


class Clients(ApiCase):
    def test_what_was_saved_comes_back(self) -> None:
        body = {
            "name": " Ada Vance ",
            "note": "rows",
            "allergens": ["nuts", "milk"],
            "dislikes": ["okra", " "],
            "exclusions": [" pork", ""],
            "tolerance": {"kcal": 20, "protein_g": 2, "carbohydrate_g": 4, "fat_g": 2},
            "targets": [LUNCH | {"capacity_ml": 900}, {"slot": "dinner", "day_type": "rest", "kcal": 520}],
        }
        made = self.send("POST", "/clients", body, status=201)
        self.assertEqual(made, self.get(f"/clients/{made['id']}"))
        self.assertEqual(self.get("/clients"), [made])
        self.assertEqual((made["name"], made["allergens"], made["dislikes"]), ("Ada Vance", ["milk", "nuts"], ["okra"]))
        self.assertEqual(made["exclusions"], ["pork"])
        self.assertEqual(made["targets"][1]["kcal"], 520)
        self.assertIsNone(made["targets"][1]["protein_g"])

    def test_an_emptied_figure_is_saved_as_empty(self) -> None:
        made = self.send("POST", "/clients", {"name": "Ada", "targets": [LUNCH | {"kcal": 530}]}, status=201)
        target = made["targets"][0] | {"kcal": None}
        target.pop("conflict")
        changed = self.send("PUT", f"/clients/{made['id']}", {"name": "Ada", "targets": [target], "version": 1})
        self.assertIsNone(changed["targets"][0]["kcal"])
        self.assertEqual(changed["targets"][0]["id"], made["targets"][0]["id"])

    def test_bad_values_are_named_with_the_mend(self) -> None:
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({"name": "  "}, "/name", "Give the client's name"),
            ({"name": "x" * 300}, "/name", "200 fit"),
            ({"targets": [{"slot": "", "kcal": 500}]}, "/targets/0/slot", "meal"),
            ({"targets": [LUNCH | {"kcal": 40_000}]}, "/targets/0/kcal", "0 to 4,000 kcal"),
            ({"targets": [LUNCH | {"protein_g": -1}]}, "/targets/0/protein_g", "0 to 300 g"),
            ({"targets": [LUNCH | {"fat_g": "much"}]}, "/targets/0/fat_g", "not a number"),
            ({"targets": [LUNCH | {"capacity_ml": 9}]}, "/targets/0/capacity_ml", "50 to 5,000 ml"),
            ({"targets": [LUNCH, LUNCH]}, "/targets/1/slot", "already"),
            ({"allergens": ["gravity"]}, "/allergens", "gravity"),
            ({"tolerance": {"fat_g": -1}}, "/tolerance/tolerance_fat_g", "0 to 250"),
            ({"colour": "red"}, "/colour", "not known"),
        ]
        for change, pointer, words in cases:
            with self.subTest(pointer=pointer, words=words):
                problem = self.send("POST", "/clients", {"name": "Ada"} | change, status=422)
                self.assert_fault(problem, pointer, words)
        self.assertEqual(self.get("/clients"), [])

    def test_all_faults_are_told_at_once(self) -> None:
        problem = self.send("POST", "/clients", {"name": "", "targets": [{"slot": "", "kcal": -1}]}, status=422)
        self.assertEqual(len(problem["errors"]), 3)

    def test_kcal_at_odds_with_macros_are_told_not_refused(self) -> None:
        made = self.send("POST", "/clients", {"name": "Ada", "targets": [LUNCH | {"kcal": 700}]}, status=201)
        self.assertIn("174 kcal more", made["targets"][0]["conflict"])  # 45·4 + 55·4 + 14·9 = 526

    def test_two_windows_do_not_overwrite_each_other(self) -> None:
        made = self.send("POST", "/clients", {"name": "Ada"}, status=201)
        self.send("PUT", f"/clients/{made['id']}", {"name": "First", "version": 1})
        problem = self.send("PUT", f"/clients/{made['id']}", {"name": "Second", "version": 1}, status=409)
        self.assertEqual(problem["type"], "stale")
        self.assertEqual(self.get(f"/clients/{made['id']}")["name"], "First")

    def test_off_the_lists_and_back(self) -> None:
        made = self.send("POST", "/clients", {"name": "Ada"}, status=201)
        self.send("PUT", f"/clients/{made['id']}/archived", status=204, archived=True)
        self.assertEqual(self.get("/clients"), [])
        self.send("PUT", f"/clients/{made['id']}/archived", status=204, archived=False)
        self.assertEqual(len(self.get("/clients")), 1)


class Recipes(ApiCase):
    def test_example_a_through_the_api(self) -> None:
        """2,400 g chicken thigh, 6 % trim, yield set to 0.75 of 2,256 g: 1,692 g, and oil counted in full."""
        lines = [
            {"food_id": food_id("chicken-thigh-skinless-raw"), "purchased_g": 2400, "refuse_share": 0.06},
            {"food_id": food_id("olive-oil"), "purchased_g": 30},
        ]
        made = self.send("POST", "/recipes", recipe(lines=lines, method="roasted", yield_expected=0.75), status=201)
        figures = made["components"][0]["figures"]
        self.assertAlmostEqual(figures["cooked_g"], 1692)
        food = self.get(f"/foods/{food_id('chicken-thigh-skinless-raw')}")["food"]["per_100g"]
        self.assertAlmostEqual(figures["per_100g"]["protein_g"], 22.56 * food["protein_g"] / 16.92, places=6)
        self.assertAlmostEqual(figures["per_100g"]["fat_g"], (22.56 * food["fat_g"] + 30) / 16.92, places=6)
        self.assertIn("74 °C", made["components"][0]["caution"])

    def test_preview_shows_the_same_figures_and_saves_nothing(self) -> None:
        preview = self.send("POST", "/recipes/preview", recipe())
        self.assertEqual(self.get("/recipes"), [])
        made = self.send("POST", "/recipes", recipe(), status=201)
        self.assertEqual(preview["components"][0]["figures"], made["components"][0]["figures"])

    def test_a_preview_of_something_half_typed_says_what_is_missing(self) -> None:
        preview = self.send("POST", "/recipes/preview", recipe(lines=[]))
        self.assertIsNone(preview["components"][0]["figures"])
        self.assertIn("at least one ingredient", preview["components"][0]["trouble"])

    def test_yields_come_from_the_best_source(self) -> None:
        cases = [
            ("bulgur-wheat-dry", "boiled", 2.9, "usual kitchen range"),
            ("chicken-breast-skinless-raw", "roasted", 0.73, "nutrient balance"),
            ("olive-oil", "roasted", 1, "keeps its weight"),
            ("bulgur-wheat-dry", "none", 1, "not cooked"),
            ("pasta-white-boiled", "simmered", 1, "assumed"),
        ]
        for food, method, expected, source in cases:
            with self.subTest(food=food, method=method):
                lines = [{"food_id": food_id(food), "purchased_g": 100}]
                (line,) = self.send("POST", "/recipes/preview", recipe(lines=lines, method=method))["components"][0][
                    "lines"
                ]
                self.assertAlmostEqual(line["expected"]["expected"], expected)
                self.assertEqual(line["expected"]["source"], source)

    def test_an_edible_portion_is_offered_and_not_applied(self) -> None:
        for text, offered in (("1 kg chicken breasts, bone in", [0.28]), ("1 kg chicken breast fillets", []), ("", [])):
            with self.subTest(text=text):
                lines = [{"food_id": food_id("chicken-breast-skinless-raw"), "purchased_g": 1000, "text": text}]
                (line,) = self.send("POST", "/recipes/preview", recipe(lines=lines))["components"][0]["lines"]
                self.assertEqual([one["refuse_share"] for one in line["offered_refuse"]], offered)
                self.assertEqual(line["edible_g"], 1000)

    def test_bad_values_are_named_with_the_mend(self) -> None:
        bulgur = food_id("bulgur-wheat-dry")
        cases: list[tuple[dict[str, Any], str, str]] = [
            ({"name": "x", "components": []}, "/components", "at least one component"),
            (recipe() | {"name": ""}, "/name", "recipe's name"),
            (recipe(name=""), "/components/0/name", "component's name"),
            (recipe(method="charmed"), "/components/0/method", "charmed"),
            (recipe(role="star"), "/components/0/role", "star"),
            (recipe(lines=[]), "/components/0/lines", "at least one ingredient"),
            (recipe(minimum_g=90, maximum_g=10), "/components/0/minimum_g", "above the most"),
            (recipe(maximum_g=9000), "/components/0/maximum_g", "0 to 2,000 g"),
            (recipe(yield_expected=40), "/components/0/yield", "0 to 8"),
            (recipe(lines=[{"food_id": food_id("x"), "purchased_g": 1}]), "/components/0/lines/0/food_id", "another"),
        ]
        line_cases: list[tuple[dict[str, Any], str, str]] = [
            ({"purchased_g": 0}, "purchased_g", "above 0 g"),
            ({"purchased_g": -5}, "purchased_g", "above 0 g"),
            ({"purchased_g": 900_000}, "purchased_g", "200 kg"),
            ({"purchased_g": 5, "refuse_share": 1.4}, "refuse_share", "0 to 0.95"),
            ({"purchased_g": 5, "retained_share": -1}, "retained_share", "0 to 1"),
            ({"purchased_g": 5, "yield_factor": 9}, "yield_factor", "0 to 8"),
            ({"purchased_g": "lots"}, "purchased_g", "not a weight"),
        ]
        for change, field, words in line_cases:
            cases.append((recipe(lines=[{"food_id": bulgur} | change]), f"/components/0/lines/0/{field}", words))
        for body, pointer, words in cases:
            with self.subTest(pointer=pointer, words=words):
                self.assert_fault(self.send("POST", "/recipes", body, status=422), pointer, words)

    def test_two_windows_do_not_overwrite_each_other(self) -> None:
        made = self.send("POST", "/recipes", recipe(), status=201)
        self.send("PUT", f"/recipes/{made['id']}", recipe() | {"name": "First", "version": 1})
        problem = self.send("PUT", f"/recipes/{made['id']}", recipe() | {"version": 1}, status=409)
        self.assertIn("changed in another window", problem["detail"])


class Pantry(ApiCase):
    def test_search_forgives(self) -> None:
        cases = [
            ("courgette", "Zucchini, with skin"),
            ("chiken thigh", "Chicken thigh, skinless"),
            ("turkey mince", "Ground turkey"),
            ("tomatos", "Tomato"),
            ("bulgar", "Bulgur wheat"),
            ("GREEK yog", "Greek yogurt"),
            ("aubergine", "Eggplant"),
            ("CRÈME", "Cr"),
        ]
        for text, expected in cases:
            with self.subTest(text=text):
                names = [food["name"] for food in self.get("/foods", text=text, limit=5)["foods"]]
                self.assertTrue(
                    any(name.casefold().startswith(expected.casefold()[:8]) for name in names),
                    names,
                )

    def test_nonsense_finds_nothing_and_breaks_nothing(self) -> None:
        for text in ("qqqq", "%_'", "a:*|!&", "(", "\\"):
            with self.subTest(text=text):
                self.assertLess(self.get("/foods", text=text)["total"], 808)

    def test_filters_and_pages(self) -> None:
        facets = self.get("/foods/facets")
        page = self.get("/foods", group="poultry", state="raw", limit=5)
        self.assertEqual(len(page["foods"]), 5)
        self.assertTrue(all(food["group"] == "poultry" and food["state"] == "raw" for food in page["foods"]))
        self.assertEqual(self.get("/foods", group="poultry")["total"], facets["groups"]["poultry"])
        second = self.get("/foods", group="poultry", state="raw", limit=5, offset=5)
        self.assertFalse({food["id"] for food in page["foods"]} & {food["id"] for food in second["foods"]})

    def test_a_food_shows_its_chain(self) -> None:
        detail = self.get(f"/foods/{food_id('chicken-breast-skinless-raw')}")
        roasted = next(one for one in detail["yields"] if one["method"] == "roasted")
        self.assertEqual([roasted["expected"][key] for key in ("low", "expected", "high")], [0.68, 0.73, 0.78])
        self.assertIn({"roasted", "grilled"}, [{"roasted", "grilled"} & {o["method"] for o in detail["other_states"]}])
        self.assertEqual(detail["stated_kcal"], 112)
        self.assertTrue(detail["measures"] and detail["source_detail"])

    def test_missing_is_at_least(self) -> None:
        found = self.get("/foods", limit=1000)["foods"]
        self.assertTrue(any("sugars_g" in food["per_100g"]["at_least"] for food in found))


class FindAnything(ApiCase):
    def test_one_field_finds_all_kinds(self) -> None:
        planned(self.who)
        for text, kind, title in [
            ("vance", "client", "Ada Vance"),
            ("chicken bowl", "recipe", "Chicken bowl"),
            ("bowls", "batch", "Bowls"),
            ("millet", "food", "Millet"),
        ]:
            with self.subTest(text=text):
                self.assertIn((kind, title), [(hit["kind"], hit["title"]) for hit in self.get("/search", text=text)])
        self.assertEqual(self.get("/search", text=" "), [])


class OtherKitchens(ApiCase):
    def test_ids_of_another_kitchen_are_not_found(self) -> None:
        """Reading, changing and using them all answer as if there were nothing."""
        other_email = new_email()
        other = new_kitchen(other_email)
        plan = planned(other)
        client = save_client(database(), other, eaters()[0], None)
        dish = save_recipe(database(), other, bowl(), None)
        change = {"kind": "packed", "packed": True}
        command = {"version": 1, "changes": [change], "command_id": str(plan.batch.id)}
        tries = [
            ("GET", f"/clients/{client.id}", None),
            ("PUT", f"/clients/{client.id}", {"name": "x", "version": 1}),
            ("PUT", f"/clients/{client.id}/archived?archived=true", None),
            ("GET", f"/recipes/{dish.id}", None),
            ("PUT", f"/recipes/{dish.id}", recipe() | {"version": 1}),
            ("GET", f"/batches/{plan.batch.id}/plan", None),
            ("POST", f"/batches/{plan.batch.id}/changes", command),
            ("POST", f"/batches/{plan.batch.id}/recipe?version=1", None),
        ]
        for method, path, body in tries:
            with self.subTest(path=path, method=method):
                self.assertEqual(self.send(method, path, body, status=404)["type"], "missing")
        problem = self.send(
            "POST",
            "/batches",
            {"name": "x", "cook_on": "2026-11-29", "dishes": [{"recipe_id": str(dish.id), "eaters": []}]},
            status=404,
        )
        self.assertEqual(problem["type"], "missing")
        self.assertIsInstance(self.client, TestClient)


class Suggestions(ApiCase):
    BODY: ClassVar[dict[str, Any]] = {"sex": "female", "age_y": 30, "height_cm": 170, "weight_kg": 65, "activity": 1.6}

    def test_a_day_and_its_part_for_one_container(self) -> None:
        """By hand: 1401.5 × 1.6 = 2242.4 kcal, 117 g P, 58.5 g F, 312.0 g C; a third of the day."""
        found = self.send("POST", "/suggestions", {**self.BODY, "share": 1 / 3})
        self.assertIsNone(found["referral"])
        self.assertAlmostEqual(found["day"]["kcal"], 2242.4)
        self.assertEqual(found["container"], {"kcal": 747, "protein_g": 39, "carbohydrate_g": 104, "fat_g": 20})
        self.assertIn("Mifflin-St Jeor", found["steps"][0])

    def test_a_referral_instead_of_figures(self) -> None:
        for change in ({"age_y": 16}, {"weight_kg": 50}, {"conditions": ["kidney or liver disease"]}):
            with self.subTest(change):
                found = self.send("POST", "/suggestions", {**self.BODY, **change})
                self.assertIn("registered dietitian", found["referral"])
                self.assertIsNone(found["day"])

    def test_what_is_warned_of_and_what_is_refused(self) -> None:
        found = self.send("POST", "/suggestions", {**self.BODY, "change_share": -0.3})
        self.assertIn("below maintenance", " ".join(found["warnings"]))
        for field, value in (("weight_kg", 0), ("share", 3), ("activity", 9)):
            problem = self.send("POST", "/suggestions", {**self.BODY, field: value}, status=422)
            self.assertEqual(problem["errors"][0]["pointer"], f"/{field}")

    def test_a_sign_off_is_kept(self) -> None:
        body = {"name": "Ada", "signed_off_by": "Dr. Lindqvist, dietitian", "signed_off_on": "2026-11-20"}
        made = self.send("POST", "/clients", body, status=201)
        self.assertEqual((made["signed_off_by"], made["signed_off_on"]), (body["signed_off_by"], "2026-11-20"))
