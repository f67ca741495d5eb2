"""The engine on an open file: the same numbers, every fault located, nothing crashes."""

from __future__ import annotations

import copy
import csv
import io
import json
import unittest
from collections.abc import Callable
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from typer.testing import CliRunner

from yantai.formats.plan_document import BadPlan, core_dishes, read_plan
from yantai.formats.plan_result import compute_plan
from yantai.headless import SCHEMAS, cli, schema_text

ROOT = Path(__file__).parents[2]
EXAMPLE = ROOT / "tests" / "data" / "example_c.json"
Document = dict[str, Any]


def example() -> Document:
    found: Document = json.loads(EXAMPLE.read_text())
    return found


def changed(change: Callable[[Document], object]) -> str:
    document = example()
    change(document)
    return json.dumps(document)


def at(document: Document, *path: str | int) -> Any:
    found: Any = document
    for step in path:
        found = found[step]
    return found


class Command(unittest.TestCase):
    def run_cli(self, *arguments: str, stdin: str | bytes | None = None) -> tuple[int, str, str]:
        done = CliRunner().invoke(cli, list(arguments), input=stdin)
        self.assertIn(type(done.exception), (type(None), SystemExit), done.exception)
        return done.exit_code, done.stdout, done.stderr

    def test_example_c_by_hand(self) -> None:
        """122.8 g turkey and 162.8 g bulgur meet protein and carbohydrate, with beans and sauce pinned."""
        code, out, _ = self.run_cli("compute", str(EXAMPLE))
        first, tight = json.loads(out)["containers"]
        self.assertEqual(code, 0)
        self.assertAlmostEqual(first["grams"]["turkey"], 122.8, delta=3)
        self.assertAlmostEqual(first["grams"]["bulgur"], 162.8, delta=3)
        self.assertTrue(first["met"])
        self.assertFalse(tight["met"])
        self.assertLess(tight["misses"]["fat_g"], 0)
        self.assertIn("Yoghurt sauce is pinned at 40 g and more would help", tight["held_by"])

    def test_what_it_holds_adds_up(self) -> None:
        _, out, _ = self.run_cli("compute", str(EXAMPLE))
        result = json.loads(out)
        for container in result["containers"]:
            grams = container["grams"]
            protein = sum(grams[k] * p for k, p in {"turkey": 27.0, "bulgur": 4.4, "beans": 1.9, "sauce": 6.0}.items())
            self.assertAlmostEqual(container["holds"]["protein_g"], protein / 100, delta=0.01)
        turkey = result["components"][0]
        needed = sum(c["count"] * c["grams"]["turkey"] for c in result["containers"])
        self.assertAlmostEqual(turkey["needed_g"], needed)
        self.assertAlmostEqual(turkey["ingredients"][0]["purchased_g"], needed / 0.75, delta=0.01)

    def test_the_fill_sheet(self) -> None:
        """A line for each box to tick, what the scale shows without taring, and where filling may stop."""
        code, out, _ = self.run_cli("compute", "--csv", str(EXAMPLE))
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual(code, 0)
        counts = {"Lunch": 5, "Lunch, tight": 1}
        self.assertEqual(
            [(row["dish"], row["container"], row["number"], row["of"]) for row in rows],
            [("Example C", name, str(n), str(of)) for name, of in counts.items() for n in range(1, of + 1)],
        )
        self.assertEqual([row["met"] for row in rows], ["yes"] * 5 + ["no"])
        names = [head.removesuffix(" [g]") for head in rows[0] if head.endswith(" [g]") and "," not in head]
        self.assertEqual(names[0], "Turkey mince")
        for row in rows:
            total = 0.0
            for name in names:
                total += float(row[f"{name} [g]"])
                self.assertAlmostEqual(float(row[f"{name}, running total [g]"]), total, places=1)
                self.assertLessEqual(float(row[f"{name}, stop from [g]"]), float(row[f"{name} [g]"]))
                self.assertGreaterEqual(float(row[f"{name}, stop to [g]"]), float(row[f"{name} [g]"]))
                self.assertEqual(row[f"{name}, filled [g]"], "")

    def test_who_must_not_eat_something_is_filled_first(self) -> None:
        left_out = changed(lambda d: at(d, "containers", 1).update(left_out=["turkey"]))
        code, out, _ = self.run_cli("compute", "--csv", "-", stdin=left_out)
        self.assertEqual(code, 0)
        self.assertEqual(next(csv.DictReader(io.StringIO(out)))["container"], "Lunch, tight")

    def test_standard_input(self) -> None:
        code, out, _ = self.run_cli("compute", "-", stdin=EXAMPLE.read_bytes())
        self.assertEqual((code, json.loads(out)["name"]), (0, "Example C"))

    def test_every_problem_is_located_and_the_code_is_two(self) -> None:
        line = ("components", 0, "ingredients", 0)
        cases: list[tuple[str, Callable[[Document], object], str]] = [
            ("a word nobody knows", lambda d: d.update(stepp_g=5), "/stepp_g"),
            ("a negative weight", lambda d: at(d, *line).update(purchased_g=-5), "/components/0/ingredients/0"),
            ("no target", lambda d: at(d, "containers", 0).update(target={}), "/containers/0/target"),
            ("absurd energy", lambda d: at(d, "containers", 1, "target").update(kcal=40_000), "/containers/1/kcal"),
            ("a pin on nothing", lambda d: at(d, "containers", 0, "pins").update(rice=5), "/containers/0/pins/rice"),
            ("left out nothing", lambda d: at(d, "containers", 0).update(left_out=["x"]), "/containers/0/left_out/0"),
            ("a key twice", lambda d: at(d, "components", 1).update(key="turkey"), "/components/1/key"),
            ("pieces unknown", lambda d: at(d, "components", 0).update(school="pieces"), "/components/0/pieces"),
            ("no scoop", lambda d: at(d, "components", 0).update(school="fixed measure"), "/components/0/unit_g"),
            ("least above most", lambda d: at(d, "components", 2).update(minimum_g=9, maximum_g=3), "/minimum_g"),
            ("too much in 100 g", lambda d: at(d, *line, "per_100g").update(protein_g=150), "/components/0/per_100g"),
            ("an empty pot", lambda d: at(d, *line).update(purchased_g=0), "/components/0/lines"),
            ("no school of that name", lambda d: at(d, "components", 0).update(school="guess"), "/school"),
            ("more than all trimmed", lambda d: at(d, *line).update(refuse_share=0.99), "/components/0/refuse_share"),
            ("a container too small", lambda d: at(d, "containers", 0).update(capacity_ml=1), "/capacity_ml"),
        ]
        for name, change, pointer in cases:
            with self.subTest(name):
                code, out, err = self.run_cli("compute", "-", stdin=changed(change))
                self.assertEqual((code, out), (2, ""))
                self.assertIn(pointer, err)

    def test_what_is_not_a_plan_at_all(self) -> None:
        texts: list[tuple[str | bytes, str]] = [
            ("", "line 1"),
            ("[", "line 1, column 2"),
            ('{"a": 1, "a": 2}', "twice"),
            ('{"step_g": NaN}', "NaN"),
            (b"\xff\xfe\x00", "UTF-8"),
            ("[" * 100_000, "nested"),
            ("null", "/"),
        ]
        for text, words in texts:
            with self.subTest(text[:12]):
                code, out, err = self.run_cli("compute", "-", stdin=text)
                self.assertEqual((code, out), (2, ""))
                self.assertIn(words, err)

    def test_the_key_that_is_given_twice_is_named(self) -> None:
        text = '{"format": "yantai-plan", "version": 1, "components": [], "version": 1, "containers": []}'
        code, _, err = self.run_cli("compute", "-", stdin=text)
        self.assertEqual(code, 2)
        self.assertIn("“version” is given twice", err)

    def test_a_part_of_a_document_is_not_changed(self) -> None:
        found = read_plan(json.dumps(example()))
        with self.assertRaises(ValidationError):
            found.components[0].name = "Other"  # type: ignore[misc]

    def test_a_file_that_is_not_there(self) -> None:
        code, _, err = self.run_cli("compute", "no-such-file.json")
        self.assertEqual(code, 2)
        self.assertIn("no-such-file.json", err)

    def test_water_that_is_listed_is_not_added_to_what_dry_food_took_up(self) -> None:
        """Example B: 600 g of dry bulgur at 2.775 are 1,665 g; 82 g of carbohydrate are 300 g, water listed or not."""
        bulgur = {
            "name": "Bulgur", "purchased_g": 600, "cooks": {"expected": 2.775},
            "per_100g": {"protein_g": 12.3, "carbohydrate_g": 75.9, "fat_g": 1.3},
        }  # fmt: skip
        water = {"name": "Water", "purchased_g": 1150, "role": "water", "per_100g": {}}
        for ingredients in ([bulgur], [bulgur, water]):
            document = {
                "format": "yantai-plan",
                "version": 1,
                "components": [{"key": "b", "name": "Bulgur", "ingredients": ingredients}],
                "containers": [{"name": "One", "count": 1, "target": {"carbohydrate_g": 82.05}}],
            }
            result = compute_plan(read_plan(json.dumps(document)))
            self.assertAlmostEqual(result.containers[0].grams["b"], 300, delta=1)

    def test_no_target_is_an_answer_where_nothing_needs_one(self) -> None:
        """1,000 g over four containers are 250 g each; a unit built raw is one each; all else asks how much goes in."""
        lines = [{"name": "x", "purchased_g": 1000, "per_100g": {"protein_g": 20}}]
        for school, more, grams in (
            ("equal split", {}, 250),
            ("built raw", {"pieces": 4}, 250),
            ("built raw", {"pieces": 5}, 200),
            ("plate shares", {}, 400),
            ("by eye", {"eye_g": 50}, 50),
            ("by component", {}, None),
            ("one pot", {}, None),
            ("pieces", {"pieces": 8}, None),
            ("fixed measure", {"unit_g": 60}, None),
        ):
            with self.subTest(school=school):
                component = {"key": "a", "name": "A", "school": school, "ingredients": lines, **more}
                containers = {"name": "One", "count": 4, "plate_g": 400, "target": {}}
                document = {
                    "format": "yantai-plan", "version": 1, "components": [component], "containers": [containers],
                }  # fmt: skip
                if grams is None:
                    with self.assertRaises(BadPlan) as caught:
                        compute_plan(read_plan(json.dumps(document)))
                    self.assertEqual([one.at for one in caught.exception.problems], ["/containers/0/target"])
                    containers["pins"] = {"a": 120}
                    grams = 120
                found = compute_plan(read_plan(json.dumps(document))).containers[0]
                self.assertEqual((found.grams["a"], found.met), (grams, True))
                # Limits on one side alone say nothing of how much.
                containers["target"] = {"sodium_mg": 600}
                self.assertEqual(compute_plan(read_plan(json.dumps(document))).containers[0].grams["a"], grams)

    def test_the_lid_and_the_time_say_how_much_of_the_water_boils_off(self) -> None:
        """1,000 g of water that simmer keep 80 %; with the lid on 90 %, on for 90 minutes 81 %."""
        water = {"name": "Water", "purchased_g": 1000, "role": "water", "per_100g": {"carbohydrate_g": 10}}
        for pot, left in (({}, 800), ({"lid": "on"}, 900), ({"lid": "on", "cook_min": 90}, 810), ({"lid": "off"}, 650)):
            with self.subTest(**pot):
                document = {
                    "format": "yantai-plan",
                    "version": 1,
                    "components": [
                        {
                            "key": "b",
                            "name": "Broth",
                            "method": "simmered",
                            "ingredients": [water],
                            "raw_fixed": True,
                            **pot,
                        }
                    ],
                    "containers": [{"name": "One", "count": 1, "target": {"carbohydrate_g": 10}}],
                }
                result = compute_plan(read_plan(json.dumps(document)))
                self.assertAlmostEqual(result.components[0].cooked_g, left)

    def test_bones_on_the_scale_are_asked_about(self) -> None:
        document = example()
        turkey = document["components"][0]
        turkey["ingredients"] = [
            {
                "name": "Drumstick", "purchased_g": 2000, "refuse_share": 0.3, "refuse_after": True,
                "cooks": {"low": 0.7, "expected": 0.75, "high": 0.8}, "per_100g": {"protein_g": 19, "fat_g": 8},
            }
        ]  # fmt: skip
        turkey["cooked_g"] = 1650  # 1,400 g edible give 1,050 g; 600 g of bone stand on the scale with it
        component = compute_plan(read_plan(json.dumps(document))).components[0]
        self.assertIn("Bone or skin of about 600 g", component.doubts[0])
        turkey["cooked_g"] = 1050
        self.assertEqual(compute_plan(read_plan(json.dumps(document))).components[0].doubts, [])

    def test_a_cooked_weight_ten_times_the_raw_is_a_problem_of_the_document(self) -> None:
        document = example()
        raw = sum(one["purchased_g"] for one in document["components"][0]["ingredients"])
        document["components"][0]["cooked_g"] = 10 * raw
        with self.assertRaises(BadPlan) as caught:
            core_dishes(read_plan(json.dumps(document)))
        self.assertEqual(caught.exception.problems[0].at, "/components/0/cooked_g")
        self.assertIn("times as much", caught.exception.problems[0].message)

    def test_the_published_schemas_are_those_of_the_models(self) -> None:
        for name in SCHEMAS:
            with self.subTest(name):
                code, out, _ = self.run_cli("schema", name)
                self.assertEqual((code, out), (0, schema_text(name)))
                published = ROOT / "docs" / "formats" / f"{name}.schema.json"
                self.assertEqual(published.read_text(), out, "publish it anew: ./yantai schema NAME > FILE")
        self.assertEqual(self.run_cli("schema", "nothing")[0], 2)

    def test_no_spreadsheet_takes_a_name_for_a_formula(self) -> None:
        text = changed(lambda d: at(d, "containers", 0).update(name="=1+1"))
        _, out, _ = self.run_cli("compute", "--csv", "-", stdin=text)
        self.assertIn("'=1+1", out)


class Schools(unittest.TestCase):
    """Every school by hand, through the file."""

    def grams(self, change: Callable[[Document], object], container: int = 0) -> dict[str, float]:
        result = compute_plan(read_plan(changed(change)))
        return result.containers[container].grams

    def free(self, document: Document) -> None:
        for container in document["containers"]:
            container.update(pins={}, tolerance={})

    def test_pieces_go_in_whole(self) -> None:
        def pieces(d: Document) -> None:
            self.free(d)
            # 1,000 g raw keep 750 g: ten patties of 75 g, 20.25 g of protein each.
            at(d, "components", 0).update(school="pieces", pieces=10)

        self.assertEqual(self.grams(pieces)["turkey"] % 75, 0)

    def test_half_scoops(self) -> None:
        def scoops(d: Document) -> None:
            self.free(d)
            at(d, "components", 1).update(school="fixed measure", unit_g=60, unit_part=0.5)

        self.assertEqual(self.grams(scoops)["bulgur"] % 30, 0)

    def test_equal_split_divides_the_pot(self) -> None:
        """600 g of beans over 5 + 1 containers."""

        def split(d: Document) -> None:
            self.free(d)
            at(d, "components", 2).update(school="equal split")

        self.assertEqual(self.grams(split)["beans"], 100)
        self.assertEqual(self.grams(split, 1)["beans"], 100)

    def test_plate_shares(self) -> None:
        """Half vegetables, a quarter protein, a quarter grain of 400 g."""

        def plate(d: Document) -> None:
            self.free(d)
            for index, share in ((0, 1), (1, 1), (2, 2)):
                at(d, "components", index).update(school="plate shares", plate_share=share)
            at(d, "containers", 0).update(plate_g=400)

        grams = self.grams(plate)
        self.assertEqual((grams["turkey"], grams["bulgur"], grams["beans"]), (100, 100, 200))

    def test_one_pot_keeps_its_proportions(self) -> None:
        def pot(d: Document) -> None:
            self.free(d)
            for component in d["components"]:
                component["school"] = "one pot"

        grams = self.grams(pot)
        for key, share in (("turkey", 120), ("bulgur", 160), ("beans", 120)):
            self.assertAlmostEqual(grams[key] / grams["sauce"], share / 40, places=3)

    def test_built_raw_is_a_unit_whose_grams_are_those_on_the_scale(self) -> None:
        """A wrap of 92 g turkey and 150 g egg white of which 20 g are poured off: 242 g lie on the scale.

        It holds 20.25 × 0.92 + 11 × 1.30 = 32.93 g protein. 65 g of protein are two of it; of 7 wraps, 7 are made
        whatever is added for tasting and spill: 644 g of turkey and 1,050 g of egg white.
        """

        def raw(d: Document) -> None:
            self.free(d)
            d["components"] = d["components"][:1]
            wrap = at(d, "components", 0)
            wrap.update(school="built raw")
            wrap["ingredients"][0]["purchased_g"] = 92
            white = {
                "name": "Egg white",
                "purchased_g": 150,
                "retained_share": 130 / 150,
                "cooks": {"expected": 0.9},
                "per_100g": {"protein_g": 11, "carbohydrate_g": 0, "fat_g": 0},
            }
            wrap["ingredients"].append(white)
            d["buffer_share"] = 0.03
            d["containers"] = d["containers"][:1]
            at(d, "containers", 0).update(target={"protein_g": 65}, count=3, pins={})
            d["containers"].append({**at(d, "containers", 0), "name": "One", "count": 1, "target": {"protein_g": 33}})

        result = compute_plan(read_plan(changed(raw)))
        two, one = result.containers
        self.assertEqual((two.units, one.units), ({"turkey": 2}, {"turkey": 1}))
        self.assertAlmostEqual(two.grams["turkey"], 484)
        self.assertAlmostEqual(one.holds["protein_g"], 32.93, places=2)
        self.assertEqual([line.purchased_g for line in result.components[0].ingredients], [644, 1050])

    def test_half_units_are_given_where_that_is_allowed(self) -> None:
        def raw(d: Document) -> None:
            self.free(d)
            d["components"] = d["components"][:1]
            at(d, "components", 0).update(school="built raw", pieces=4, unit_part=0.5)
            d["containers"] = d["containers"][:1]
            # 1,000 g make four of 250 g with 50.6 g protein each; 76 g are one and a half.
            at(d, "containers", 0).update(target={"protein_g": 76}, count=2, pins={})

        result = compute_plan(read_plan(changed(raw)))
        self.assertEqual(result.containers[0].units, {"turkey": 1.5})
        self.assertEqual(result.components[0].ingredients[0].purchased_g, 750)

    def test_by_eye_is_marked_and_counted(self) -> None:
        def eye(d: Document) -> None:
            self.free(d)
            at(d, "components", 3).update(school="by eye", eye_g=25)

        result = compute_plan(read_plan(changed(eye)))
        self.assertEqual((result.containers[0].grams["sauce"], result.containers[0].estimated), (25, ["sauce"]))

    def test_a_short_pot_is_shared_and_extra_containers_are_counted(self) -> None:
        def short(d: Document) -> None:
            self.free(d)
            # 200 g at the figures of the recipe: the raw weight is less by as much.
            at(d, "components", 0).update(cooked_g=200)
            at(d, "components", 0, "ingredients", 0).update(purchased_g=200 / 0.75)

        result = compute_plan(read_plan(changed(short)))
        taken = sum(c.count * c.grams["turkey"] for c in result.containers)
        self.assertLessEqual(taken, 200)
        self.assertGreater(taken, 194)
        self.assertIn("the pot of Turkey mince gives this container", result.containers[0].held_by[0])

        def plenty(d: Document) -> None:
            self.free(d)
            d["leftover"] = "extra containers"
            for component in d["components"]:
                line = component["ingredients"][0]
                line["purchased_g"] *= 12
                component["cooked_g"] = line["purchased_g"] * line.get("cooks", {}).get("expected", 1)

        extra = compute_plan(read_plan(changed(plenty))).extra
        self.assertGreater(extra[0].count, 10)


JSON = st.recursive(
    st.none() | st.booleans() | st.integers(-10, 10_000) | st.floats() | st.text(max_size=8),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=6), inner, max_size=3),
    max_leaves=6,
)


def indices(value: Any, path: tuple[str | int, ...] = ()) -> list[tuple[str | int, ...]]:
    items: list[tuple[str | int, Any]] = []
    if isinstance(value, dict):
        items = list(value.items())
    elif isinstance(value, list):
        items = list(enumerate(value))
    return [path] * bool(path) + [found for key, inner in items for found in indices(inner, (*path, key))]


class Fuzz(unittest.TestCase):
    @settings(max_examples=400, deadline=None)
    @given(st.data())
    def test_a_document_with_anything_in_any_place_is_computed_or_refused(self, data: st.DataObject) -> None:
        document = example()
        for _ in range(data.draw(st.integers(1, 3))):
            path = data.draw(st.sampled_from(indices(document)))
            holder = copy.copy(at(document, *path[:-1]))
            new = data.draw(JSON | st.floats(0, 500) | st.sampled_from(["pieces", "one pot", "by eye", "ranked"]))
            target = at(document, *path[:-1])
            target[path[-1]] = new
            self.assertIsNot(holder, target)
        self.check(json.dumps(document))

    @settings(max_examples=200, deadline=None)
    @given(st.text(max_size=60) | JSON.map(json.dumps))
    def test_any_text(self, text: str) -> None:
        self.check(text)

    def check(self, text: str) -> None:
        """Refused with located problems; or an answer whose grams, macros and pots agree with the document."""
        try:
            document = read_plan(text)
            result = compute_plan(document)
        except BadPlan as bad:
            self.assertTrue(bad.problems)
            self.assertTrue(all(problem.message for problem in bad.problems))
            return
        for component, chain in zip(document.components, result.components, strict=True):
            taken = sum(c.count * c.grams[component.key] for c in result.containers)
            self.assertAlmostEqual(taken, chain.needed_g, delta=0.01 + 1e-3 * len(result.containers) * 100)
        for given_, found in zip(document.containers, result.containers, strict=True):
            for key in given_.left_out:
                self.assertEqual(found.grams[key], 0)
            self.assertEqual(found.met, not (found.misses or found.unknown or found.overfull_ml or found.overfull_g))
            self.assertTrue(all(grams >= 0 for grams in found.grams.values()))
