"""Any text at the doors that read text: an answer or a sentence, never a fault of ours, nothing executed."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.api.case import API, ApiCase
from tests.volume import volume

doors = settings(max_examples=volume(20, 200), deadline=None, suppress_health_check=[HealthCheck.too_slow])
texts = st.text(max_size=200)
json_values = st.recursive(
    st.none() | st.booleans() | st.floats(allow_nan=False) | st.text(max_size=20),
    lambda inner: st.lists(inner, max_size=4)
    | st.dictionaries(st.sampled_from(["@type", "@graph", "name", "text", "recipeIngredient", "recipeInstructions",
                                       "itemListElement", "totalTime", "tool"]), inner, max_size=5),
    max_leaves=12,
)  # fmt: skip


class AnyText(ApiCase):
    def answered(self, path: str, body: Any) -> Any:
        answer = self.client.post(f"{API}{path}", json=body)
        self.assertIn(answer.status_code, (200, 422), answer.text)
        if answer.status_code == 422:
            problem = answer.json()
            self.assertRegex(problem["detail"], r"[.?]$")
            self.assertNotIn("Traceback", answer.text)
            return None
        return answer.json()

    @doors
    @given(texts)
    def test_lines_come_back_each_as_it_was_written(self, text: str) -> None:
        read = self.answered("/recipes/read", {"text": f"1 egg\n{text}"})
        if read is not None and not text.strip().startswith(("{", "[", "<")):
            wanted = [line.strip() for line in f"1 egg\n{text}".splitlines() if line.strip()]
            heads = ("ingredients", "for the", "method", "instructions", "directions", "steps", "preparation")
            wanted = [line for line in wanted if line.rstrip(":").casefold() not in heads]
            found = [line["text"] for line in read["lines"]] + [step["text"] for step in read["steps"]]
            self.assertEqual(len(found), len(wanted))

    @doors
    @given(json_values)
    def test_any_json_is_read_or_refused(self, value: Any) -> None:
        recipe = {"@type": "Recipe", **value} if isinstance(value, dict) else [value]
        read = self.answered("/recipes/read", {"text": json.dumps(recipe)})
        for line in (read or {"lines": []})["lines"]:
            self.assertNotIn("<script", line["text"])

    @doors
    @given(st.lists(st.lists(st.text(max_size=8), min_size=4, max_size=4), max_size=6), st.sampled_from(",;\t"))
    def test_any_table_is_read_or_refused_and_saves_nothing(self, cells: list[list[str]], delimiter: str) -> None:
        out = io.StringIO(newline="")
        writer = csv.writer(out, delimiter=delimiter)
        writer.writerows([["name", "protein", "carbs", "fat"], *cells])
        found = self.answered("/foods/import", {"text": out.getvalue()})
        if found is not None:
            self.assertEqual(found["saved"], 0)
            self.assertLessEqual(found["good"] + len(found["bad"]) + len(found["duplicates"]), len(cells))

    @doors
    @given(texts)
    def test_any_weight_is_grams_or_a_sentence(self, text: str) -> None:
        answer = self.client.get(f"{API}/weights", params={"text": text[:200]})
        self.assertIn(answer.status_code, (200, 422), answer.text)
        if answer.status_code == 200:
            self.assertGreaterEqual(answer.json()["grams"], 0)

    @doors
    @given(
        st.dictionaries(
            st.sampled_from(
                ["serving_g", "kcal", "kj", "protein_g", "carbohydrate_g", "fat_g", "fibre_g", "salt_g", "polyols_g"]
            ),
            st.none() | st.floats(-10, 5000),
        ),
        st.sampled_from(["us", "eu", "exact"]),
        st.sampled_from(["total", "available"]),
    )
    def test_any_label_is_a_food_that_can_be_or_a_located_fault(
        self, figures: dict[str, float | None], rounding: str, carbohydrate: str
    ) -> None:
        label = {**figures, "rounding": rounding, "carbohydrate": carbohydrate}
        if label.get("serving_g", 100) is None:
            label.pop("serving_g")
        body = {"name": "x", "group": "own", "state": "as-sold", "label": label}
        shown = self.answered("/foods/preview", body)
        if shown is not None:
            held = shown["food"]["per_100g"]
            self.assertLessEqual(held["protein_g"] + held["fat_g"], 130)
            for name, between in held["ranges"].items():
                self.assertLessEqual(between["low"], held[name] + 1e-6)
                self.assertGreaterEqual(between["high"], held[name] - 1e-6)
