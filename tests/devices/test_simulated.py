"""The simulated scale against what a scale does, by a clock that the test turns."""

from __future__ import annotations

import unittest
from dataclasses import replace
from random import Random

from yantai.devices.device import InstrumentKind, LineReader, Settings
from yantai.devices.readings import Reading, State
from yantai.devices.simulated import Pan, SimulatedScale, SimulatedThermometer

SCALE = Settings(kind=InstrumentKind.SCALE, capacity_g=5000, step_g=1)


class Case(unittest.TestCase):
    def setUp(self) -> None:
        self.now = 100.0
        self.scale = SimulatedScale(SCALE, Random(1), self.now)
        self.reader = LineReader(SCALE, lambda: self.now)

    def read(self) -> Reading:
        line = self.scale.line(self.now)
        assert line is not None
        return self.reader.read(line)

    def after(self, seconds: float) -> Reading:
        self.now += seconds
        return self.read()

    def put(self, **things: float) -> None:
        self.scale.put(replace(self.scale.pan, things=things), self.now)


class Mechanics(Case):
    def test_it_settles_and_says_when_it_stands(self) -> None:
        self.assertEqual(self.after(1), Reading(state=State.WEIGHT, value=0, is_steady=True, unit="g", is_net=False))
        self.put(container=312)
        moving = self.after(0.1)
        self.assertFalse(moving.is_steady)
        self.assertTrue(0 < (moving.value or 0) < 312)
        settled = self.after(2)
        self.assertEqual((settled.value, settled.is_steady), (312, True))

    def test_tare_and_zero(self) -> None:
        self.put(container=312)
        self.assertFalse(self.scale.tare(self.now), "a scale that moves takes no tare")
        self.after(2)
        self.assertTrue(self.scale.tare(self.now))
        self.assertEqual(self.read().value, 0)
        self.put(container=312, rice=150)
        self.assertEqual(self.after(2), Reading(state=State.WEIGHT, value=150, is_steady=True, unit="g", is_net=True))
        self.put()
        self.assertEqual(self.after(2).value, -312, "the container was lifted: below zero after tare")
        self.assertTrue(self.scale.zero(self.now))
        self.assertEqual(self.read().value, 0)

    def test_overload_says_so_instead_of_a_weight(self) -> None:
        self.put(pot=5008)
        self.assertEqual(self.after(2).state, State.WEIGHT)
        self.put(pot=5010)
        self.assertEqual(self.after(2).state, State.OVERLOAD)

    def test_noise_drift_and_a_hand(self) -> None:
        self.put(container=312)
        self.after(2)
        self.scale.put(replace(self.scale.pan, noise_g=3), self.now)
        values = {self.after(0.1).value for _ in range(20)}
        self.assertGreater(len(values), 3)
        self.assertFalse(self.read().is_steady)
        self.scale.put(replace(self.scale.pan, noise_g=0, drift_g_min=6), self.now)
        self.assertEqual(self.after(60).value, 318)
        self.scale.put(replace(self.scale.pan, drift_g_min=0, hand_g=400), self.now)
        self.assertEqual(self.after(2).value, 718)

    def test_another_unit(self) -> None:
        self.put(container=300)
        self.scale.put(replace(self.scale.pan, unit="oz"), self.now)
        shown = self.after(2)
        self.assertEqual(shown.unit, "oz")
        self.assertAlmostEqual(shown.value or 0, 300, delta=0.3)
        # Without its unit nobody sees it: 300 g look like 10.58 g.
        self.reader = LineReader(SCALE, lambda: self.now)
        self.scale.put(replace(self.scale.pan, says_unit=False), self.now)
        self.assertAlmostEqual(self.read().value or 0, 300 / 28.349523125, delta=0.01)

    def test_silent_restless_and_a_low_battery(self) -> None:
        self.after(2)
        self.scale.put(Pan(is_silent=True), self.now)
        self.assertIsNone(self.scale.line(self.now))
        self.scale.put(Pan(is_restless=True, battery_low=True), self.now)
        shown = self.after(3)
        self.assertEqual((shown.is_steady, shown.battery_low), (False, True))

    def test_a_thermometer_takes_its_time(self) -> None:
        settings = Settings(kind=InstrumentKind.THERMOMETER)
        probe = SimulatedThermometer(settings, Random(1), self.now)
        probe.put(Pan(celsius=76), self.now)
        reader = LineReader(settings, lambda: self.now)
        self.assertLess(reader.read(probe.line(self.now + 1) or "").value or 0, 60)
        self.assertAlmostEqual(reader.read(probe.line(self.now + 10) or "").value or 0, 76, delta=0.2)
        probe.put(Pan(celsius=None), self.now)
        self.assertEqual(reader.read(probe.line(self.now) or "").state, State.NO_PROBE)


class Lines(unittest.TestCase):
    def test_what_stands_still_is_noticed_where_the_line_does_not_say(self) -> None:
        now = 0.0
        reader = LineReader(SCALE, lambda: now)
        steady = []
        for tenth, value in enumerate((0, 90, 148, 150, 150, 150, 150, 150, 150, 210, 150)):
            now = tenth / 10
            steady.append(reader.read(f"{value} g").is_steady)
        self.assertEqual(steady, [False] * 7 + [True, True, False, False])

    def test_a_line_that_lost_its_unit_is_not_read(self) -> None:
        reader = LineReader(SCALE, lambda: 0.0)
        self.assertEqual(reader.read("512").value, 512, "this scale may print none")
        self.assertEqual(reader.read("512 g").value, 512)
        self.assertEqual(reader.read("51").state, State.UNREADABLE)
