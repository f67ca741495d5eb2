"""A scale or a thermometer on a serial line."""

from __future__ import annotations

import threading

import serial

from yantai.devices.device import Clock, Heard, LineReader, Settings, Talk, Watch

_READ_S = 0.1
_AGAIN_S = 0.5
_ASK_EVERY_S = 0.1
_LONGEST = 200
"""A line that is longer than this is noise: a wrong speed, or another device."""
_WEIGHT_NOW, _TARE, _ZERO = b"SI\r\n", b"T\r\n", b"Z\r\n"


class SerialDevice:
    """Reads lines on a thread of its own; a line that is gone is opened again until it is back."""

    def __init__(self, settings: Settings, clock: Clock) -> None:
        self._settings, self._clock = settings, clock
        self._stop = threading.Event()
        self._thread: threading.Thread | None = None
        self._lock = threading.Lock()
        self._to_send: list[bytes] = []

    def start(self, heard: Heard) -> None:
        """Tell every reading from here on."""
        self._stop.clear()
        self._thread = threading.Thread(target=self._run, args=(heard,), name="serial-device", daemon=True)
        self._thread.start()

    def stop(self) -> None:
        """Close the line, and wait until it is."""
        self._stop.set()
        if self._thread is not None:
            self._thread.join()
            self._thread = None

    def tare(self) -> None:
        """Ask the device to take what is on the pan off what it shows."""
        self._send(_TARE)

    def zero(self) -> None:
        """Ask the device to show nothing for the pan as it is."""
        self._send(_ZERO)

    def _send(self, command: bytes) -> None:
        with self._lock:
            self._to_send.append(command)

    def _run(self, heard: Heard) -> None:
        watch = Watch(heard, self._clock)
        while not self._stop.is_set():
            try:
                with serial.Serial(self._settings.port, self._settings.baud, timeout=_READ_S) as line:
                    self._read(line, watch)
            except (serial.SerialException, OSError):
                watch.lose()
                self._stop.wait(_AGAIN_S)

    def _read(self, line: serial.Serial, watch: Watch) -> None:
        reader = LineReader(self._settings, self._clock)
        waiting, asked = b"", -_ASK_EVERY_S
        while not self._stop.is_set():
            with self._lock:
                commands, self._to_send = self._to_send, []
            if self._settings.talk is Talk.ON_REQUEST and self._clock() - asked >= _ASK_EVERY_S:
                commands.append(_WEIGHT_NOW)
                asked = self._clock()
            for command in commands:
                line.write(command)
            waiting += line.read(max(line.in_waiting, 1))
            *whole, waiting = waiting.replace(b"\r", b"\n").split(b"\n")
            for text in whole:
                if text.strip():
                    watch.tell(reader.read(text.decode("ascii", errors="replace")))
            if len(waiting) > _LONGEST:
                waiting = b""
            watch.look()
