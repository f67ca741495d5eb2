"""What holds for every value of the core: it cannot be changed, and is given by name."""

from __future__ import annotations

import dataclasses
import importlib
import pkgutil
import unittest
from collections.abc import Iterator

import yantai.core
import yantai.formats

BY_PLACE = {
    "Amounts", "Band", "FoodIndex", "Problem", "Produce", "Usual", "_Found", "_Meaning", "_Phrases", "_Said",
    "_Usually",
}  # fmt: skip
"""Values of a few parts whose order says what they are."""
WITHOUT_SLOTS = {"Bench", "Container", "Day", "Demand", "FoodIndex", "Order"}
"""They keep what was computed of them beside their fields."""


MODULES = [
    importlib.import_module(found.name)
    for package in (yantai.core, yantai.formats)
    for found in pkgutil.walk_packages(package.__path__, package.__name__ + ".")
]


def dataclasses_of_the_core() -> Iterator[type]:
    for module in MODULES:
        for value in vars(module).values():
            if isinstance(value, type) and dataclasses.is_dataclass(value) and value.__module__ == module.__name__:
                yield value


class Values(unittest.TestCase):
    def test_none_can_be_changed(self) -> None:
        changeable = {one.__name__ for one in dataclasses_of_the_core() if not one.__dataclass_params__.frozen}  # type: ignore[attr-defined]
        self.assertEqual(changeable, {"_Found"})  # a line's quantities while it is gone through

    def test_fields_are_given_by_name(self) -> None:
        by_place = {
            one.__name__
            for one in dataclasses_of_the_core()
            if any(not field.kw_only and field.init for field in dataclasses.fields(one))
        }
        self.assertEqual(by_place, BY_PLACE)

    def test_they_take_no_further_fields(self) -> None:
        without = {one.__name__ for one in dataclasses_of_the_core() if "__slots__" not in vars(one)}
        self.assertEqual(without, WITHOUT_SLOTS)


if __name__ == "__main__":
    unittest.main()
