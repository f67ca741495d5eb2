"""Scales and thermometers through the API: registered, read as they move, tared, and only ever by their own kitchen."""

from __future__ import annotations

import asyncio
import json
import os
import tty
import uuid
from typing import Any

from tests.api.case import ApiCase
from tests.support import database
from yantai.api.readings import ReadingStreams
from yantai.work.instruments.instruments import read_instrument

WAIT_S = 20


class Instruments(ApiCase):
    def add(self, **more: Any) -> dict[str, Any]:
        sent = {"name": "bench", "connection": "simulated", **more}
        return dict(self.send("POST", "/instruments", sent, status=201))

    def put(self, scale: dict[str, Any], **pan: Any) -> dict[str, Any]:
        return dict(self.send("PUT", f"/instruments/{scale['id']}/pan", pan))

    def readings(self, scale: dict[str, Any], until: Any, do: Any = lambda _: None) -> list[dict[str, Any]]:
        """What a tablet hears until a reading is as wanted; `do` is told of each."""

        async def heard() -> list[dict[str, Any]]:
            streams: ReadingStreams = self.app.state.readings
            connection, how = read_instrument(database(), self.who, uuid.UUID(scale["id"]))
            found: list[dict[str, Any]] = []
            stream = streams.stream(uuid.UUID(scale["id"]), connection, how)
            try:
                async with asyncio.timeout(WAIT_S):
                    async for event in stream:
                        if event.startswith("data: "):
                            found.append(json.loads(event[6:]))
                            await asyncio.to_thread(do, found)
                            if until(found[-1]):
                                break
            finally:
                await stream.aclose()
            return found

        return asyncio.run(heard())

    def test_registered_changed_and_put_away(self) -> None:
        scale = self.add(capacity_g=5000, step_g=1)
        self.assertEqual([one["name"] for one in self.get("/instruments")], ["bench"])
        sent = {"name": "window", "connection": "serial", "port": "/dev/ttyUSB0", "talk": "on request", "baud": 4800}
        changed = self.send("PUT", f"/instruments/{scale['id']}", sent)
        self.assertEqual((changed["name"], changed["port"], changed["baud"]), ("window", "/dev/ttyUSB0", 4800))
        self.send("POST", f"/instruments/{scale['id']}/put-away", status=204)
        self.assertEqual(self.get("/instruments"), [])
        self.assertIsInstance(self.get("/instruments/ports"), list)

    def test_what_cannot_be_is_refused_at_its_field(self) -> None:
        for sent, pointer, words in (
            ({"connection": "serial"}, "/port", "which port"),
            ({"port": "/etc/passwd"}, "/port", "no serial port"),
            ({"port": "/dev/../etc/passwd"}, "/port", "no serial port"),
            ({"baud": 1234}, "/baud", "speed"),
            ({"step_g": 0}, "/step_g", "from 0.01"),
            ({"name": " "}, "/name", "name"),
        ):
            with self.subTest(sent=sent):
                refused = self.send(
                    "POST", "/instruments", {"name": "bench", "connection": "simulated", **sent}, status=422
                )
                self.assert_fault(refused, pointer, words)

    def test_what_is_put_on_the_pan_is_read_as_it_settles(self) -> None:
        scale = self.add()
        self.put(scale, things={"container": 312})

        def more(found: list[dict[str, Any]]) -> None:
            if len(found) == 1:
                self.put(scale, things={"container": 312, "rice": 150})

        found = self.readings(scale, lambda one: one["value"] == 462 and one["is_steady"], more)
        self.assertTrue(any(not one["is_steady"] for one in found))
        self.assertEqual(self.get(f"/instruments/{scale['id']}/pan")["things"], {"container": 312, "rice": 150})

    def test_tare_is_taken_where_it_stands_still(self) -> None:
        scale = self.add()
        self.put(scale, things={"container": 312})
        tared = False

        def tare(found: list[dict[str, Any]]) -> None:
            nonlocal tared
            if found[-1]["value"] == 312 and found[-1]["is_steady"] and not tared:
                self.send("POST", f"/instruments/{scale['id']}/tare", status=204)
                tared = True

        found = self.readings(scale, lambda one: one["value"] == 0 and one["is_net"], tare)
        self.assertTrue(tared)
        self.assertEqual(found[-1]["unit"], "g")

    def test_nobody_tares_what_is_not_open(self) -> None:
        scale = self.add()
        refused = self.send("POST", f"/instruments/{scale['id']}/tare", status=422)
        self.assertIn("is not open", refused["detail"])

    def test_a_plug_that_is_out_is_told(self) -> None:
        scale = self.add()

        def pull(found: list[dict[str, Any]]) -> None:
            if len(found) == 1:
                self.put(scale, is_silent=True)

        self.assertEqual(self.readings(scale, lambda one: one["state"] == "lost", pull)[-1]["state"], "lost")

    def test_a_serial_scale_over_a_pseudo_terminal(self) -> None:
        master, slave = os.openpty()
        self.addCleanup(os.close, master)
        self.addCleanup(os.close, slave)
        tty.setraw(slave)
        scale = self.add(connection="serial", port=os.ttyname(slave))
        stop = False

        async def print_on() -> None:
            while not stop:
                os.write(master, b"ST,GS,+   512.0  g\r\n")
                await asyncio.sleep(0.02)

        async def both() -> str:
            nonlocal stop
            connection, how = read_instrument(database(), self.who, uuid.UUID(scale["id"]))
            printing = asyncio.create_task(print_on())
            stream = self.app.state.readings.stream(uuid.UUID(scale["id"]), connection, how)
            async with asyncio.timeout(WAIT_S):
                async for event in stream:
                    if "512.0" in event:
                        stop = True
                        await stream.aclose()
                        await printing
                        return str(event)
            return ""

        self.assertIn('"is_steady": true', asyncio.run(both()))

    def test_another_kitchen_sees_none_of_it(self) -> None:
        scale, other = self.add(), self.other_kitchen()
        path = f"/api/v1/instruments/{scale['id']}"
        self.assertEqual(other.get("/api/v1/instruments").json(), [])
        for method, address in (("GET", "/pan"), ("PUT", "/pan"), ("POST", "/tare"), ("POST", "/zero")):
            answer = other.request(method, path + address, json={"things": {"x": 1}} if method == "PUT" else None)
            self.assertEqual(answer.status_code, 404, (method, address))
        self.assertEqual(other.get(f"{path}/readings").status_code, 404)

    def test_a_real_scale_has_no_pan_to_put_things_on(self) -> None:
        scale = self.add(connection="serial", port="/dev/ttyUSB0")
        refused = self.send("PUT", f"/instruments/{scale['id']}/pan", {"things": {}}, status=422)
        self.assertIn("is a real device", refused["detail"])
