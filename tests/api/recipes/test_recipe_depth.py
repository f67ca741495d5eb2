"""Components made of components, sizes, books, findings: recipes to their full depth, through the API."""

from __future__ import annotations

import uuid
from typing import Any

from tests.api.case import ApiCase, food_id

CHICKEN = "chicken-thigh-skinless-raw"


def line(food: str, grams: float, **rest: Any) -> dict[str, Any]:
    return {"food_id": food_id(food), "purchased_g": grams} | rest


def made_of(component: str, grams: float) -> dict[str, Any]:
    return {"source_id": component, "purchased_g": grams}


def component(name: str, *lines: dict[str, Any], **rest: Any) -> dict[str, Any]:
    return {"name": name, "lines": list(lines)} | rest


class MixedPots(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.sauce, self.mince = str(uuid.uuid4()), str(uuid.uuid4())
        self.pot: dict[str, Any] = {
            "name": "Pot",
            "components": [
                component(
                    "Sauce",
                    line("tomatoes-diced-canned", 800),
                    line("olive-oil", 40),
                    id=self.sauce,
                    method="simmered",
                    role="sauce",
                ),
                component(
                    "Mince",
                    line("ground-beef-90-lean-raw", 1000),
                    id=self.mince,
                    method="pan-fried",
                    poured_fat_g=30,
                    served=False,
                ),
                component(
                    "Chilli",
                    made_of(self.sauce, 500),
                    made_of(self.mince, 600),
                    line("kidney-beans-red-canned-drained", 480),
                    role="mixed",
                ),
            ],
        }

    def test_a_pot_holds_what_its_parts_bring(self) -> None:
        """Each part gives grams × its own 100 g cooked; checked against the parts' own figures."""
        sauce, mince, chilli = self.send("POST", "/recipes/preview", self.pot)["components"]
        beans = self.get(f"/foods/{food_id('kidney-beans-red-canned-drained')}")["food"]["per_100g"]
        for key in ("kcal", "protein_g", "carbohydrate_g", "fat_g", "sodium_mg"):
            expected = 5 * sauce["figures"]["per_100g"][key] + 6 * mince["figures"]["per_100g"][key] + 4.8 * beans[key]
            self.assertAlmostEqual(chilli["figures"]["totals"][key], expected, places=6)
        self.assertAlmostEqual(chilli["figures"]["cooked_g"], 1580)

    def test_a_batch_of_it_lists_the_ingredients_and_counts_the_same(self) -> None:
        saved = self.send("POST", "/recipes", self.pot, 201)
        chilli = next(one for one in saved["components"] if one["name"] == "Chilli")
        client = {"name": "Ada", "targets": [{"slot": "lunch", "protein_g": 40}]}
        target = self.send("POST", "/clients", client, 201)["targets"][0]["id"]
        batch = {
            "name": "B",
            "cook_on": "2026-11-29",
            "dishes": [{"recipe_id": saved["id"], "eaters": [{"target_id": target, "count": 2}]}],
        }
        plan = self.send("POST", "/batches", batch, 201)
        # The mince only goes into the pot, so it is no column of its own.
        self.assertEqual([one["name"] for one in plan["components"]], ["Sauce", "Chilli"])
        planned = plan["components"][1]
        self.assertEqual(planned["lines"][0]["name"], "Tomatoes, diced, canned")
        for key in ("kcal", "protein_g", "carbohydrate_g", "fat_g"):
            self.assertAlmostEqual(planned["per_100g"][key], chilli["figures"]["per_100g"][key], places=3)
        # Nobody set the yields that these lines have in the components they came with.
        sources = {one["name"]: one["expected"]["source"] for one in planned["lines"]}
        self.assertEqual(sources["Tomatoes, diced, canned"], "as cooked in its own component")
        self.assertNotIn("set by the coach", sources.values())
        self.assertNotEqual(sources["Kidney beans, red, canned"], "as cooked in its own component")
        # A copy of the component in the batch stays what it is.
        copied = self.get(f"/batches/{plan['batch']['id']}/plan")["components"][1]["lines"]
        self.assertEqual({one["name"]: one["expected"]["source"] for one in copied}, sources)

    def test_a_sauce_made_once_serves_two_recipes(self) -> None:
        saved = self.send("POST", "/recipes", self.pot, 201)
        other = {
            "name": "Bake",
            "components": [
                component("Bake", made_of(self.sauce, 300), line("pasta-white-dry", 200), method="baked", role="mixed")
            ],
        }
        bake = self.send("POST", "/recipes", other, 201)
        before = bake["components"][0]["figures"]["totals"]["fat_g"]
        saved["components"][0]["lines"][1]["purchased_g"] = 80
        self.send("PUT", f"/recipes/{saved['id']}", as_input(saved))
        after = self.get(f"/recipes/{bake['id']}")["components"][0]["figures"]["totals"]["fat_g"]
        self.assertGreater(after, before + 5)
        # While the bake uses it, it cannot vanish.
        saved = self.get(f"/recipes/{saved['id']}")
        saved["components"] = [component("Else", line("salt-table-dry", 1))]
        problem = self.send("PUT", f"/recipes/{saved['id']}", as_input(saved), status=422)
        self.assertIn("used in Bake", problem["detail"])

    def test_a_circle_is_told(self) -> None:
        self.pot["components"][0]["lines"].append(made_of(self.mince, 100))
        self.pot["components"][1]["lines"].append(made_of(self.sauce, 100))
        shown = self.send("POST", "/recipes/preview", self.pot)["components"][0]
        self.assertIn("made of itself", shown["trouble"])
        self.assertIn("made of itself", self.send("POST", "/recipes", self.pot, status=422)["detail"])

    def test_a_line_needs_one_of_food_and_component(self) -> None:
        for bad in (
            {"purchased_g": 5},
            line("salt-table-dry", 1) | made_of(self.sauce, 1),
            made_of(str(uuid.uuid4()), 5),
        ):
            with self.subTest(bad=bad):
                body = {"name": "x", "components": [component("a", bad)]}
                self.send("POST", "/recipes/preview", body, status=422)


def as_input(view: dict[str, Any]) -> dict[str, Any]:
    """A recipe as it was read, to be sent back."""
    keys = (
        "id",
        "name",
        "role",
        "method",
        "minimum_g",
        "maximum_g",
        "density_g_per_ml",
        "yield_low",
        "yield_expected",
        "yield_high",
        "poured_fat_g",
        "pieces",
        "pan_capacity_g",
        "lid",
        "cook_min",
        "served",
        "dismissed",
    )
    of_line = (
        "purchased_g",
        "refuse_share",
        "refuse_after",
        "retained_share",
        "yield_factor",
        "text",
        "weighed_state",
        "counted",
        "scales",
        "dismissed",
    )
    return {
        "name": view["name"],
        "note": view["note"],
        "version": view["version"],
        "steps": [{key: value for key, value in step.items() if key != "trouble"} for step in view["steps"]],
        "components": [
            {key: one[key] for key in keys if key in one}
            | {
                "lines": [
                    {key: each[key] for key in of_line if key in each}
                    | (
                        {"food_id": each["food"]["id"]}
                        if each.get("food")
                        else {key: each[key] for key in ("food_id", "source_id") if key in each}
                    )
                    | ({"source_id": each["source"]["id"]} if each.get("source") else {})
                    for each in one["lines"]
                ]
            }
            for one in view["components"]
        ],
    }


class Depth(ApiCase):
    def preview(self, *components: dict[str, Any], **query: Any) -> Any:
        return self.send("POST", "/recipes/preview", {"name": "x", "components": list(components)}, **query)[
            "components"
        ]

    def test_what_is_saved_is_what_is_read(self) -> None:
        whole = line(
            CHICKEN,
            900,
            refuse_share=0.3,
            refuse_after=True,
            retained_share=0.9,
            text="900 g thighs",
            weighed_state="raw",
            counted=False,
            scales=False,
            dismissed={"tray-oil": "weighed"},
        )
        body = {
            "name": "x",
            "components": [
                component(
                    "a",
                    whole,
                    line("olive-oil", 20),
                    method="roasted",
                    pieces=8,
                    pan_capacity_g=400,
                    lid="on",
                    cook_min=35,
                    poured_fat_g=5,
                    dismissed={"oil-forgotten": "dry"},
                )
            ],
            "steps": [
                {
                    "text": "Roast.",
                    "component": "a",
                    "hands_on_min": 1,
                    "unattended_min": 30,
                    "temperature_c": 200,
                    "equipment": "oven",
                    "lead_min": 20,
                }
            ],
        }
        saved = self.send("POST", "/recipes", body, 201)
        again = self.send("PUT", f"/recipes/{saved['id']}", as_input(saved))
        self.assertEqual(again | {"version": 1}, saved)
        self.assertEqual(saved["steps"][0]["lead_min"], 20)
        self.assertEqual((saved["components"][0]["lid"], saved["components"][0]["cook_min"]), ("on", 35))
        self.assertEqual(saved["components"][0]["lines"][0]["dismissed"], {"tray-oil": "weighed"})

    def test_pieces_rounds_bones_and_what_is_not_counted(self) -> None:
        (one,) = self.preview(
            component(
                "a",
                line(CHICKEN, 1000, refuse_share=0.25, refuse_after=True),
                line("olive-oil", 10, counted=False),
                method="roasted",
                pieces=5,
                pan_capacity_g=400,
            )
        )
        figures = one["figures"]
        self.assertEqual((figures["rounds"], figures["round_g"]), (3, 1010 / 3))
        self.assertAlmostEqual(figures["left_on_g"], 250)
        self.assertAlmostEqual(figures["uncounted_kcal"], 90)
        self.assertAlmostEqual(figures["piece_g"], figures["cooked_g"] / 5)
        self.assertAlmostEqual(figures["per_piece"]["protein_g"] * 5, figures["totals"]["protein_g"])

    def test_a_lid_and_the_minutes_change_what_comes_out_of_a_pot(self) -> None:
        """1,000 g of water and 500 g of dry rice, simmered: 900 g are taken up; of 100 g free, and at least 3 % of all
        water, a fifth boils off without a word, a tenth under a lid, 35 % in an open pot, 1 - 0.65² in twice the time.
        """

        def cooked(**said: Any) -> Any:
            (pot,) = self.preview(
                component("Rice", line("rice-white-long-grain-dry", 500), line("water", 1000), **said)
            )
            return pot["figures"]

        free = 1000 - 500 * (cooked(method="boiled")["cooked_g"] / 500 - 1)
        whole = cooked(method="simmered")["cooked_g"] + max(0.2 * free, 30)
        for said, share in (
            ({"lid": "on"}, 0.1),
            ({"lid": "off"}, 0.35),
            ({"lid": "off", "cook_min": 90}, 1 - 0.65**2),
        ):
            with self.subTest(**said):
                found = cooked(method="simmered", **said)["cooked_g"]
                self.assertAlmostEqual(found, whole - max(share * free, 30), places=6)
        pot = component("Rice", line("water", 10), lid="ajar", cook_min=2000)
        body: dict[str, Any] = {"name": "x", "components": [pot]}
        problem = self.send("POST", "/recipes/preview", body, status=422)
        self.assertIn("/components/0/lid", {fault["pointer"] for fault in problem["errors"]})
        pot["lid"] = "on"
        problem = self.send("POST", "/recipes", body, status=422)
        self.assert_fault(
            problem, "/components/0/cook_min", "time on the heat is 2,000 minutes; it must be from 1 to 1,440"
        )

    def test_no_target_is_an_answer_for_equal_split_and_a_question_elsewhere(self) -> None:
        client = self.send("POST", "/clients", {"name": "Ada", "targets": [{"slot": "lunch"}]}, 201)
        target = client["targets"][0]["id"]
        for school, more, titles in (
            ("equal split", {}, []),
            ("built raw", {"pieces": 4}, []),
            ("by component", {}, ["Ada, lunch: no target"]),
        ):
            with self.subTest(school=school):
                bake = component("Bake", line(CHICKEN, 1000), method="roasted", school=school, **more)
                saved = self.send("POST", "/recipes", {"name": school, "components": [bake]}, 201)
                eaters = [{"target_id": target, "count": 4}]
                body = {"name": "B", "cook_on": "2026-11-29", "dishes": [{"recipe_id": saved["id"], "eaters": eaters}]}
                plan = self.send("POST", "/batches", body, 201)
                self.assertEqual([one["title"] for one in plan["to_settle"]], titles)
                (row,) = plan["rows"]
                self.assertEqual(row["gauges"], [])
                self.assertEqual(row["cells"][0]["grams"] > 100, not titles)
                if titles:
                    self.assertIn("how much Bake goes in", plan["to_settle"][0]["detail"])
                    pin = {
                        "kind": "pin",
                        "row_id": row["id"],
                        "component_id": plan["components"][0]["id"],
                        "grams": 180,
                    }
                    self.assertEqual(self.change(plan, pin)["plan"]["to_settle"], [])
                self.get(f"/batches/{plan['batch']['id']}/days")
                self.get(f"/batches/{plan['batch']['id']}/reach")
                document = self.get(f"/batches/{plan['batch']['id']}/document")
                self.assertEqual(set(document["containers"][0]["target"].values()), {None})

    def test_both_books_stand_side_by_side(self) -> None:
        (one,) = self.preview(component("a", line("chicken-breast-skinless-raw", 1000), method="roasted"))
        books = one["lines"][0]["books"]
        # Raw: 22.53 g protein over the yield; the table's roasted entry holds 31.02 g.
        self.assertAlmostEqual(books["by_raw"]["protein_g"], 22.53 / one["lines"][0]["expected"]["expected"], places=6)
        self.assertAlmostEqual(books["by_cooked"]["protein_g"], 31.02)
        self.assertLess(books["apart"], 0.1)

    def test_scaling_takes_everything_along_but_what_is_marked(self) -> None:
        recipe: dict[str, Any] = {
            "name": "x",
            "components": [
                component(
                    "Meat", line(CHICKEN, 1000, text="1 kg thighs"), line("bay-leaf-dried", 0.4, scales=False), pieces=6
                ),
                component("Sauce", line("greek-yogurt-plain-nonfat", 300), poured_fat_g=1),
            ],
        }
        ways: list[tuple[dict[str, Any], int, int, int]] = [
            ({"factor": 1.5}, 1500, 450, 9),
            ({"component": 0, "line": 0, "on_hand_g": 1340}, 1340, 402, 8),
            ({"component": 0, "line": 0, "pack_g": 400}, 1200, 360, 7),  # three packs
            ({"component": 0, "line": 0, "pack_g": 400, "packs": 2}, 800, 240, 5),
        ]
        for way, meat, sauce, pieces in ways:
            with self.subTest(way=way):
                one, other = self.send("POST", "/recipes/scale", {"recipe": recipe} | way)["components"]
                self.assertAlmostEqual(one["lines"][0]["purchased_g"], meat)
                self.assertEqual(
                    (one["lines"][1]["purchased_g"], one["pieces"], one["lines"][0]["text"]), (0.4, pieces, "")
                )
                self.assertAlmostEqual(other["lines"][0]["purchased_g"], sauce)
        for way in (
            {},
            {"factor": 0},
            {"component": 4, "line": 0, "pack_g": 1},
            {"component": 0, "line": 0, "pack_g": 0},
        ):
            with self.subTest(way=way):
                self.send("POST", "/recipes/scale", {"recipe": recipe} | way, status=422)

    def test_a_sauce_left_behind_is_told_until_it_is_put_aside(self) -> None:
        recipe: dict[str, Any] = {
            "name": "x",
            "components": [
                component("Meat", line(CHICKEN, 1000)),
                component("Sauce", line("greek-yogurt-plain-nonfat", 300)),
            ],
        }
        saved = self.send("POST", "/recipes", recipe, 201)
        recipe["components"][0]["lines"][0]["purchased_g"] = 1500
        _, sauce = self.send("POST", "/recipes/preview", recipe, saved=saved["id"])["components"]
        (finding,) = sauce["findings"]
        self.assertEqual((finding["code"], finding["mends"][0]["changes"]), ("scaled-alone", {"factor": 1.5}))
        recipe["components"][1]["dismissed"] = {"scaled-alone": "enough sauce"}
        _, sauce = self.send("POST", "/recipes/preview", recipe, saved=saved["id"])["components"]
        self.assertEqual(sauce["findings"][0]["dismissed"], "enough sauce")

    def test_findings_come_with_mends_that_end_them(self) -> None:
        cooked = line("chicken-breast-skinless-roasted", 500)
        (one,) = self.preview(component("a", cooked, method="roasted"))
        (finding,) = one["findings"]
        self.assertEqual(finding["code"], "raw-with-cooked-entry")
        for mend in finding["mends"]:
            (mended,) = self.preview(component("a", cooked | mend["changes"], method="roasted"))
            self.assertEqual(mended["findings"], [], mend)

    def test_shares_weights_and_poured_fat_that_make_no_sense(self) -> None:
        cases = [
            (component("a", line(CHICKEN, 500, retained_share=1.4)), "/components/0/retained_share|lines", "1.4"),
            (component("a", line(CHICKEN, 500), poured_fat_g=300), "poured_fat_g", "more than the"),
            (component("a", line(CHICKEN, 500), pieces=0), "pieces", "1 to"),
            (component("a", line(CHICKEN, 500), pan_capacity_g=0), "pan_capacity_g", "1 to"),
            (component("a", line(CHICKEN, 0)), "purchased_g", "above 0"),
            (component("a", line(CHICKEN, 500), served=False), "/components", "at least one"),
        ]
        for body, pointer, words in cases:
            with self.subTest(words=words):
                problem = self.send("POST", "/recipes", {"name": "x", "components": [body]}, status=422)
                self.assertTrue(any(words in one["message"] for one in problem["errors"]), problem)
                self.assertTrue(
                    any(part in one["pointer"] for one in problem["errors"] for part in pointer.split("|")), problem
                )
        (none,) = self.preview(component("a", line("olive-oil", 20, retained_share=0)))
        self.assertIn("nothing-stays", [one["code"] for one in none["findings"]])


class AtTheStove(ApiCase):
    def test_a_line_added_while_cooking_is_logged_and_counts(self) -> None:
        plan = self.plan()
        pot = plan["components"][0]
        add = {"kind": "add-line", "component_id": pot["id"], "food_id": food_id("olive-oil"), "purchased_g": 20}
        changed = self.change(plan, add)
        after = changed["plan"]["components"][0]
        self.assertEqual(after["lines"][-1]["added_by"], "Test Coach")
        self.assertTrue(after["lines"][-1]["added_at"])
        # 20 g oil are 20 g fat more in the same pan.
        self.assertAlmostEqual(after["totals"]["fat_g"] - pot["totals"]["fat_g"], 20, delta=0.5)
        undone = self.change(changed["plan"], *changed["inverse"])["plan"]["components"][0]
        self.assertEqual(undone["lines"], pot["lines"])

    def test_fat_poured_off_is_weighed_and_never_more_than_there_was(self) -> None:
        plan = self.plan()
        pot = plan["components"][0]
        pour = {"kind": "poured", "component_id": pot["id"], "poured_fat_g": 25}
        changed = self.change(plan, pour)
        self.assertAlmostEqual(
            pot["totals"]["fat_g"] - changed["plan"]["components"][0]["totals"]["fat_g"], 25, delta=0.5
        )
        problem = self.change(changed["plan"], pour | {"poured_fat_g": 9000}, status=422)
        self.assertIn("more than the", problem["detail"])
        undone = self.change(changed["plan"], *changed["inverse"])["plan"]["components"][0]
        self.assertEqual(undone["poured_fat_g"], 0)
