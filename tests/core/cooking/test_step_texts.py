"""Steps as people write them, with what each says: times, heat, how often, when it is done, what it leaves open."""

from __future__ import annotations

import csv
import unittest

from yantai.core.cooking.steps import read_step
from yantai.launcher.places import ROOT


def figure(cell: str) -> float | None:
    return float(cell) if cell else None


class StepTexts(unittest.TestCase):
    def test_each_is_read_as_it_is_meant(self) -> None:
        with (ROOT / "tests" / "data" / "step_texts.csv").open(encoding="utf-8", newline="") as file:
            rows = list(csv.DictReader(file))
        self.assertGreater(len(rows), 30)
        for row in rows:
            step = read_step(row["text"])
            with self.subTest(text=row["text"]):
                found = (
                    step.hands_on_min, step.unattended_min, step.every_min, step.core_c, step.done_when, step.lead_min,
                    step.lead_most_min, None if step.range_min is None else step.range_min[0],
                    None if step.range_min is None else step.range_min[1], " ".join(step.asks),
                )  # fmt: skip
                meant = (
                    figure(row["hands"]), figure(row["unattended"]), figure(row["every"]), figure(row["core"]),
                    row["done_when"], figure(row["lead"]), figure(row["lead_most"]), figure(row["low"]),
                    figure(row["high"]), row["asks"],
                )  # fmt: skip
                self.assertEqual(found, meant)
                wanted = figure(row["celsius"])
                if wanted is None:
                    self.assertIsNone(step.temperature_c)
                else:
                    assert step.temperature_c is not None
                    self.assertAlmostEqual(step.temperature_c, wanted, places=1)


if __name__ == "__main__":
    unittest.main()
