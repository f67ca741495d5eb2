"""What the launcher may import: it runs on a bare Python, before anything is installed."""

from __future__ import annotations

import ast
import sys
import unittest
from collections.abc import Iterator

from yantai.launcher.places import ROOT

LAUNCHER = ROOT / "src" / "yantai" / "launcher"


def imported() -> Iterator[tuple[str, str]]:
    """Every module that a file of the launcher imports, wherever in the file."""
    for file in LAUNCHER.rglob("*.py"):
        for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
            match node:
                case ast.Import(names=names):
                    yield from ((file.name, alias.name) for alias in names)
                case ast.ImportFrom(module=str(module)):
                    yield file.name, module


class Imports(unittest.TestCase):
    def test_only_the_standard_library_and_itself(self) -> None:
        found = list(imported())
        self.assertGreater(len(found), 30)
        strangers = [
            (file, module)
            for file, module in found
            if module.partition(".")[0] not in sys.stdlib_module_names and not module.startswith("yantai.launcher")
        ]
        self.assertEqual(strangers, [])


if __name__ == "__main__":
    unittest.main()
