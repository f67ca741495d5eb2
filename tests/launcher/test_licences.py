"""No package comes in under a licence that an MIT product cannot be built with."""

from __future__ import annotations

import json
import tempfile
import unittest
from pathlib import Path

from yantai.launcher.licences import is_allowed, refused


class Licences(unittest.TestCase):
    def test_each_that_must_hold_has_to_be_allowed_and_one_of_a_choice(self) -> None:
        cases = {
            "MIT": True,
            "(MIT OR CC0-1.0)": True,
            "MIT OR GPL-2.0-only": True,
            "LGPL-3.0-only": True,
            "GPL-3.0-only": False,
            "AGPL-3.0-or-later": False,
            "MIT AND GPL-3.0-only": False,
            "GNU General Public License v2 (GPLv2)": False,
            "Other/Proprietary License": False,
            "": False,
        }
        for licence, allowed in cases.items():
            with self.subTest(licence=licence):
                self.assertEqual(is_allowed(licence), allowed)

    def test_packages_are_read_where_they_are_installed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            site = Path(folder)
            stated = {
                "good": "License-Expression: MIT\n",
                "bad": "License-Expression: GPL-3.0-or-later\n",
                "old": "Classifier: License :: OSI Approved :: GNU General Public License v2 (GPLv2)\n",
                "silent": "",
            }
            for name, line in stated.items():
                info = site / f"{name}-1.0.dist-info"
                info.mkdir()
                (info / "METADATA").write_text(f"Metadata-Version: 2.4\nName: {name}\nVersion: 1.0\n{line}")
            lock = site / "package-lock.json"
            packages = {"": {}, "node_modules/fine": {"license": "ISC"}, "node_modules/@a/b": {"license": "GPL-2.0"}}
            lock.write_text(json.dumps({"packages": packages}))
            self.assertEqual(
                refused(site, lock),
                [
                    "@a/b: GPL-2.0",
                    "bad: GPL-3.0-or-later",
                    "old: GNU General Public License v2 (GPLv2)",
                    "silent: states none",
                ],
            )
