"""Any recipe goes out and comes back: all of it through CSV, what the format holds through JSON-LD."""

from __future__ import annotations

import json
import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.schedule.steps import Growth
from yantai.formats import recipe_csv, recipe_jsonld
from yantai.formats.documents import ComponentDocument, LineDocument, RecipeDocument, StepDocument

words = st.text(alphabet="abcdefghij klmnop,;\"'äöß%()½", min_size=1, max_size=24).map(
    lambda text: " ".join(text.split())
)
named = words.filter(bool)
figures = st.none() | st.integers(0, 99_999).map(lambda n: n / 8)
shares = st.integers(0, 100).map(lambda n: n / 100)
minutes = st.none() | st.integers(1, 600).map(float)


def more_of(step: StepDocument) -> tuple[object, ...]:
    """What a step says that the vocabulary of JSON-LD has no word for."""
    return step.every_min, step.growth, step.load_g, step.lead_most_min, step.core_c, step.done_when


@st.composite
def recipes(draw: st.DrawFn) -> RecipeDocument:
    parts = draw(st.lists(named, min_size=1, max_size=3, unique=True))
    lines = draw(
        st.lists(
            st.builds(
                LineDocument,
                text=named,
                component=st.sampled_from(parts),
                food=named,
                state=st.sampled_from(["raw", "dry", "cooked"]),
                grams=figures,
                refuse_share=shares,
                retained_share=shares,
                yield_factor=figures,
            ),
            min_size=1,
            max_size=6,
        )
    )
    steps = draw(
        st.lists(
            st.builds(
                StepDocument,
                text=named,
                component=st.sampled_from(["", *parts]),
                hands_on_min=minutes,
                unattended_min=minutes,
                temperature_c=figures,
                equipment=st.sampled_from(["oven", "hob"]),
                lead_min=minutes,
                lead_most_min=minutes,
                every_min=minutes,
                growth=st.sampled_from([None, *Growth]),
                load_g=figures,
                core_c=figures,
                done_when=st.sampled_from(["", "brown", "the juices run clear"]),
            ),
            max_size=4,
        )
    )
    used = list(dict.fromkeys(line.component for line in lines))
    return RecipeDocument(
        name=draw(named),
        note=draw(words),
        lines=tuple(lines),
        steps=tuple(steps),
        components=tuple(ComponentDocument(name=name, role="protein", method="baked") for name in used),
    )


class RoundTrips(unittest.TestCase):
    @given(recipes())
    def test_csv_loses_nothing(self, recipe: RecipeDocument) -> None:
        back = recipe_csv.read(recipe_csv.write(recipe))
        self.assertEqual(
            (back.name, back.note, back.components, back.steps),
            (recipe.name, recipe.note, recipe.components, recipe.steps),
        )
        for one, other in zip(back.lines, recipe.lines, strict=True):
            self.assertEqual(
                replace(one, refuse_share=0, retained_share=0), replace(other, refuse_share=0, retained_share=0)
            )
            self.assertAlmostEqual(one.refuse_share, other.refuse_share, places=9)
            self.assertAlmostEqual(one.retained_share, other.retained_share, places=9)

    @given(recipes())
    def test_jsonld_keeps_lines_steps_sections_times_and_tools(self, recipe: RecipeDocument) -> None:
        back = recipe_jsonld.read(json.dumps(recipe_jsonld.write(recipe)))
        self.assertEqual([line.text for line in back.lines], [line.text for line in recipe.lines])
        # Sections gather the steps of a component, so only their order across components may change.
        self.assertEqual(
            sorted((step.component, step.text) for step in back.steps),
            sorted((step.component, step.text) for step in recipe.steps),
        )
        for step in recipe.steps:
            if step.hands_on_min is None and step.unattended_min is None:
                continue
            found = [
                one
                for one in back.steps
                if (one.component, one.text, one.equipment) == (step.component, step.text, step.equipment)
            ]
            times = [(one.hands_on_min, one.unattended_min) for one in found]
            self.assertIn((step.hands_on_min, step.unattended_min), times)
            if any(more_of(step)):
                self.assertIn(more_of(step), [more_of(one) for one in found])
