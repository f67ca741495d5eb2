"""Lines of scales and thermometers, on recorded ones; the browser reads the same (web/src/devices/lines.test.ts)."""

from __future__ import annotations

import csv
import unittest
from pathlib import Path
from random import Random

from tests.volume import volume
from yantai.devices.lines import read_heat, read_weight
from yantai.devices.readings import State

DATA = Path(__file__).parents[1] / "data"
_SAYS = {"yes": True, "no": False, "": None}


def recorded(name: str) -> list[dict[str, str]]:
    with (DATA / name).open(newline="") as file:
        return list(csv.DictReader(file))


class Recorded(unittest.TestCase):
    def test_scales(self) -> None:
        lines = recorded("scale_lines.csv")
        self.assertGreater(len(lines), 55)
        for one in lines:
            with self.subTest(line=one["line"], note=one["note"]):
                found = read_weight(one["line"])
                self.assertEqual(found.state, State(one["state"]))
                if one["grams"]:
                    self.assertAlmostEqual(found.value or 0.0, float(one["grams"]), delta=0.005)
                    self.assertIs(found.is_steady, _SAYS[one["steady"]])
                    self.assertEqual(found.unit, one["unit"])
                    self.assertIs(found.is_net, _SAYS[one["net"]])
                self.assertEqual(found.battery_low, _SAYS[one["battery_low"]])

    def test_thermometers(self) -> None:
        for one in recorded("thermometer_lines.csv"):
            with self.subTest(line=one["line"], note=one["note"]):
                found = read_heat(one["line"])
                self.assertEqual(found.state, State(one["state"]))
                if one["celsius"]:
                    self.assertAlmostEqual(found.value or 0.0, float(one["celsius"]), delta=0.005)
                self.assertEqual(found.battery_low, _SAYS[one["battery_low"]])


class Anything(unittest.TestCase):
    def test_a_broken_line_is_another_weight_only_where_it_looks_whole(self) -> None:
        """One character of a full line is lost or garbled: it is not read, or it differs in digits alone."""
        rng = Random(14)
        for _ in range(volume(2000, 20_000)):
            grams = rng.randint(1000, 9999) / 10
            line = f"ST,GS,+{grams:8.1f}  g"
            at = rng.randrange(len(line))
            broken = line[:at] + rng.choice(["", "#", "\x00", "~"]) + line[at + 1 :]
            found = read_weight(broken)
            if found.state is State.WEIGHT and abs((found.value or 0.0) - grams) > 0.05:
                self.assertEqual(line[at].isdigit() or line[at] == ".", True, broken)

    def test_nothing_makes_it_stumble(self) -> None:
        rng = Random(15)
        letters = "STUSGN,+-0123456789. gklboz?\t:LEHO_"
        for _ in range(volume(5000, 50_000)):
            line = "".join(rng.choice(letters) for _ in range(rng.randint(0, 24)))
            self.assertIn(read_weight(line).state, State)
            self.assertIn(read_heat(line).state, State)
