"""Serial scales and thermometers over a pseudo-terminal."""

from __future__ import annotations

import os
import queue
import tty
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from yantai.devices.device import InstrumentKind, Settings, Talk
from yantai.devices.readings import LOST, LOST_AFTER_S, Reading, State
from yantai.devices.serial_line import SerialDevice

WAIT_S = 20
"""Nothing here takes long; a test that waits so long has failed."""


class SerialCase(unittest.TestCase):
    def setUp(self) -> None:
        self.now = 0.0
        self.heard: queue.Queue[Reading] = queue.Queue()
        self.master, self.slave = os.openpty()
        tty.setraw(self.slave)
        self.addCleanup(self.hang_up)

    def hang_up(self) -> None:
        for end in (self.master, self.slave):
            try:
                os.close(end)
            except OSError:
                continue

    def start(self, **how: object) -> SerialDevice:
        settings = Settings(**{"kind": InstrumentKind.SCALE, "port": os.ttyname(self.slave), **how})  # type: ignore[arg-type]
        device = SerialDevice(settings, lambda: self.now)
        device.start(self.heard.put)
        self.addCleanup(device.stop)
        return device

    def open(self, **how: object) -> SerialDevice:
        """Started, and reading: what was printed before a line is opened is lost."""
        device = self.start(**how)
        self.wait_until_read()
        return device

    def wait_until_read(self) -> None:
        while True:
            self.say("1\r\n")
            try:
                self.heard.get(timeout=0.05)
            except queue.Empty:
                continue
            break
        self.say("777\r\n")
        while self.next().value != 777:
            continue

    def say(self, text: str) -> None:
        os.write(self.master, text.encode())

    def next(self) -> Reading:
        return self.heard.get(timeout=WAIT_S)

    def next_of(self, state: State) -> Reading:
        while True:
            found = self.next()
            if found.state is state:
                return found


class Continuous(SerialCase):
    def test_lines_become_readings(self) -> None:
        self.open()
        self.say("ST,GS,+   512.0  g\r\nUS,GS,+   600.5  g\r\n")
        self.assertEqual(self.next(), Reading(state=State.WEIGHT, value=512, is_steady=True, unit="g", is_net=False))
        self.assertEqual(self.next().value, 600.5)

    def test_a_line_in_pieces_and_noise_before_it(self) -> None:
        self.open()
        self.say("\x00\xff5 g")
        self.say("\r\nST,GS,+   5")
        self.say("12.0  g\r")
        self.assertEqual(self.next().state, State.UNREADABLE)
        self.assertEqual(self.next().value, 512)

    def test_it_says_when_nothing_comes_and_when_it_is_back(self) -> None:
        self.open()
        self.say("512 g\r\n")
        self.next()
        self.now += LOST_AFTER_S + 0.01
        self.assertEqual(self.next(), LOST)
        self.say("513 g\r\n")
        self.assertEqual(self.next().value, 513)

    def test_a_line_that_is_pulled_out_is_lost_and_opened_again(self) -> None:
        with TemporaryDirectory() as folder:
            link = Path(folder) / "scale"
            link.symlink_to(os.ttyname(self.slave))
            device = self.open(port=str(link))
            link.unlink()
            self.hang_up()
            self.assertEqual(self.next_of(State.LOST), LOST)
            self.master, self.slave = os.openpty()
            tty.setraw(self.slave)
            link.symlink_to(os.ttyname(self.slave))
            self.wait_until_read()
            device.stop()

    def test_a_port_that_is_not_there_is_lost_at_once(self) -> None:
        self.start(port="/dev/no-such-port")
        self.assertEqual(self.next(), LOST)

    def test_a_thermometer(self) -> None:
        self.open(kind=InstrumentKind.THERMOMETER)
        self.say("T,+ 074.3,C\r\n")
        self.assertAlmostEqual(self.next().value or 0, 74.3)


class OnRequest(SerialCase):
    def test_it_is_asked_and_tared(self) -> None:
        """A scale that says something only when it is asked, and keeps its tare itself."""
        device = self.start(talk=Talk.ON_REQUEST)
        grams, tare, asked = 312.0, 0.0, b""
        device.tare()
        shown: list[Reading] = []
        while len(shown) < 3 or State.TARED not in [one.state for one in shown[:-2]]:
            asked += os.read(self.master, 100)
            *commands, asked = asked.split(b"\r\n")
            for command in commands:
                self.now += 0.2
                if command == b"T":
                    tare = grams
                    self.say(f"T S {tare:10.2f} g\r\n")
                elif command == b"Z":
                    self.say("Z A\r\n")
                elif command == b"SI":
                    self.say(f"S S {grams - tare:10.2f} g\r\n")
                shown.append(self.next())
        self.assertEqual([one.value for one in shown[-2:]], [0, 0])
        device.zero()
