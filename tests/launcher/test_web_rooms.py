"""Which folder of the front end may import from which: the same order of rooms as on the other floors."""

from __future__ import annotations

import re
import unittest
from collections.abc import Iterator
from pathlib import Path

from yantai.launcher.places import WEB

ROOT = WEB / "src"
FLOORS = ("lib", "api", "client-link", "offline", "parts", "devices", "food", "views", "app")
"""Each may import from those before it. Types of the contract, `import type ... from '~/api/...'`, are open to all."""
ROOMS = (
    {"accounts", "house", "kitchen", "pantry"},
    {"clients"},
    {"clients/forms", "clients/weeks"},
    {"recipes"},
    {"batches", "surveys", "containers"},
    {"batch/frame"},
    {"batch/weigh"},
    {"batch/shop", "batch/cook", "batch/hand-over"},
    {"batch/plan", "trip"},
    {"batch/fill"},
    {"batch"},
    {"learn", "outbox"},
    {"today"},
)
"""Rooms of `views` by rank: each may import from the ranks before its own, and none from another of its rank."""
IMPORT = re.compile(r"^import (type )?[^;]*?from '~/([^']+)';", re.M | re.S)


def room(path: Path) -> tuple[str, str]:
    """The floor of a file, and its room where it is a view."""
    floor, *inner = path.parts[:-1]
    return floor, "/".join(inner) if floor == "views" else ""


def rank(name: str) -> int:
    return next(index for index, rooms in enumerate(ROOMS) if name in rooms)


def imports() -> Iterator[tuple[Path, bool, Path]]:
    """Every file with each path it imports, and whether only for its types."""
    for file in ROOT.rglob("*.ts*"):
        for types, path in IMPORT.findall(file.read_text(encoding="utf-8")):
            yield file.relative_to(ROOT), bool(types), Path(f"{path}.ts")


class Rooms(unittest.TestCase):
    def test_every_folder_has_its_place(self) -> None:
        folders = {room(file.relative_to(ROOT)) for file in ROOT.rglob("*.ts*")}
        self.assertEqual({floor for floor, _ in folders}, set(FLOORS))
        self.assertEqual({name for _, name in folders if name}, set.union(*ROOMS))

    def test_floors_import_from_below(self) -> None:
        found = [
            f"{file} imports {path}"
            for file, types, path in imports()
            if FLOORS.index(room(path)[0]) > FLOORS.index(room(file)[0]) and not (types and room(path)[0] == "api")
        ]
        self.assertEqual(found, [])

    def test_views_import_from_rooms_before_theirs(self) -> None:
        found = []
        for file, _, path in imports():
            (floor, here), (other_floor, there) = room(file), room(path)
            if floor == other_floor == "views" and here != there and rank(there) >= rank(here):
                found.append(f"{file} imports {path}")
        self.assertEqual(found, [])
        self.assertGreater(len(list(imports())), 300)


if __name__ == "__main__":
    unittest.main()
