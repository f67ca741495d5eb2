"""What a kitchen learns of its minutes: by hand, its bounds, and against least squares."""

from __future__ import annotations

import doctest
import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from yantai.core.schedule import learned
from yantai.core.schedule.learned import DAY_TO_DAY, PERSON_SPREAD, STEP_SPREAD, Pace, Took, learn_pace


def load_tests(_loader: unittest.TestLoader, tests: unittest.TestSuite, _pattern: str | None) -> unittest.TestSuite:
    tests.addTests(doctest.DocTestSuite(learned))
    return tests


def took(minutes: float, *, planned: float = 20, step: str = "carrots", person: str | None = None) -> Took:
    return Took(step=step, person=person, planned_min=planned, took_min=minutes)


class ByHand(unittest.TestCase):
    def test_four_times_26_minutes_instead_of_20(self) -> None:
        """ln 1.3 = 0.2624; four of them with 1/0.25² = 16 each against the table's 1/0.3² = 11.11: 0.2624 * 64 / 75.11
        = 0.2236, so 1.251 times the table, of which 11.11 / 75.11 = 15 % still is the table."""
        pace = learn_pace([took(26)] * 4, {})
        self.assertEqual(pace.steps["carrots"].factor, 1.251)
        self.assertEqual(pace.steps["carrots"].stated_share, 0.148)

    def test_once_is_little(self) -> None:
        """0.2624 * 16 / 27.11 = 0.1548."""
        self.assertEqual(learn_pace([took(26)], {}).steps["carrots"].factor, round(math.exp(0.15484), 3))

    def test_nothing_known_changes_nothing(self) -> None:
        pace = learn_pace([], {"ada": 1.2})
        self.assertEqual((pace.of_step("carrots"), pace.of_person("ada", 1.2)), (1.0, 1.2))

    def test_a_slip_hardly_counts(self) -> None:
        honest = learn_pace([took(22)] * 6, {}).steps["carrots"].factor
        with_slip = learn_pace([*[took(22)] * 6, took(79)], {}).steps["carrots"].factor
        self.assertLess(with_slip - honest, 0.04)

    def test_a_mark_set_hours_late_or_at_once_is_no_measurement(self) -> None:
        for one in (took(200), took(0), took(4), took(9, planned=2)):
            self.assertEqual(learn_pace([one], {}), Pace(steps={}, people={}))

    def test_who_is_quick_at_everything_is_quick_and_the_steps_are_not(self) -> None:
        """Ben takes 15 of 20 minutes at ten steps that Ada does in 20."""
        steps = [f"step {number}" for number in range(10)]
        pace = learn_pace(
            [one for step in steps for one in (took(20, step=step, person="ada"), took(15, step=step, person="ben"))],
            {"ada": 1.0, "ben": 1.0},
        )
        self.assertLess(pace.of_person("ben", 1), 0.9)
        self.assertGreater(pace.of_person("ada", 1), 1.0)
        ratio = pace.of_person("ben", 1) / pace.of_person("ada", 1)
        self.assertAlmostEqual(ratio, 0.75, delta=0.05)

    def test_a_stated_pace_is_what_a_person_is_shrunk_to(self) -> None:
        pace = learn_pace([took(30, person="jo")], {"jo": 1.5})
        self.assertGreater(pace.of_person("jo", 1.5), 1.4)
        self.assertAlmostEqual(pace.of_step("carrots"), 1.0, delta=0.01)


MINUTES = st.integers(14, 28)


class InGeneral(unittest.TestCase):
    @given(st.lists(st.integers(8, 60), min_size=1, max_size=12))
    def test_a_factor_lies_between_the_table_and_what_was_measured(self, minutes: list[int]) -> None:
        factor = learn_pace([took(each) for each in minutes], {}).of_step("carrots")
        low, high = min(1, min(minutes) / 20), max(1, max(minutes) / 20)
        self.assertLessEqual(low - 0.001, factor)
        self.assertLessEqual(factor, high + 0.001)

    @given(st.lists(st.tuples(st.sampled_from("abc"), st.sampled_from(["x", "y", None]), MINUTES), max_size=20))
    def test_it_does_not_matter_in_which_order_they_come(self, told: list[tuple[str, str | None, int]]) -> None:
        rows = [took(minutes, step=step, person=person) for step, person, minutes in told]
        self.assertEqual(learn_pace(rows, {}), learn_pace(rows[::-1], {}))

    @given(
        st.lists(
            st.tuples(st.sampled_from("abc"), st.sampled_from(["x", "y", None]), st.floats(18, 22.5)),
            min_size=1,
            max_size=15,
        )
    )
    def test_without_slips_it_is_the_least_of_the_squares(self, told: list[tuple[str, str | None, float]]) -> None:
        """Σ (x − a − b)² / s² + Σ a² / t² + Σ (b − ln p)² / u², put as one system and solved at once."""
        rows = [took(minutes, step=step, person=person) for step, person, minutes in told]
        stated = {"x": 1.1, "y": 0.95}
        names = sorted({f"step {row.step}" for row in rows} | {f"person {row.person}" for row in rows if row.person})
        lines, right = [], []
        for row in rows:
            line = [float(name in (f"step {row.step}", f"person {row.person}")) for name in names]
            lines.append([value / DAY_TO_DAY for value in line])
            right.append(math.log(row.took_min / row.planned_min) / DAY_TO_DAY)
        for place, name in enumerate(names):
            spread = STEP_SPREAD if name.startswith("step") else PERSON_SPREAD
            lines.append([float(other == place) / spread for other in range(len(names))])
            right.append((math.log(stated[name[-1]]) if name.startswith("person") else 0.0) / spread)
        solved = dict(zip(names, np.linalg.lstsq(np.array(lines), np.array(right), rcond=None)[0], strict=True))
        pace = learn_pace(rows, stated)
        for step, found in pace.steps.items():
            self.assertAlmostEqual(found.factor, math.exp(solved[f"step {step}"]), places=2)
        for person, found in pace.people.items():
            self.assertAlmostEqual(found.factor, math.exp(solved[f"person {person}"]), places=2)


if __name__ == "__main__":
    unittest.main()
