"""Limits that take other cells far from where they would be, told for any container and by a second reckoning."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.examples import PLATE
from yantai.core.portions import Cell, Container, solve
from yantai.core.portions.moved import moved_by_limits
from yantai.core.portions.problem import Hold
from yantai.core.targets.targets import Target, Tolerance

NAMES = ("turkey", "bulgur", "beans", "sauce")


def container(target: Target, **bounds: dict[str, float]) -> Container:
    cells = tuple(
        Cell(per_100g=PLATE[name], share=share, **bounds.get(name, {}))  # type: ignore[arg-type]
        for name, share in zip(NAMES, (120, 160, 120, 40), strict=True)
    )
    return Container(cells=cells, target=target, tolerance=Tolerance())


def expected(given: Container) -> set[tuple[str, int | None, int]]:
    """Written anew: drop one limit that is on its bound, solve, and see which cells go further than a third."""
    now = solve(given)
    found: set[tuple[str, int | None, int]] = set()
    for index, cell in enumerate(given.cells):
        on = {"at least": (cell.minimum_g, 0.0, "minimum_g"), "at most": (cell.maximum_g, 2000.0, "maximum_g")}
        for hold, (bound, freed, name) in on.items():
            if now.limits[index].value != hold or abs(now.grams[index] - bound) >= given.step_g:
                continue
            cells = list(given.cells)
            without: dict[str, Any] = {name: freed}
            cells[index] = replace(cell, **without)
            other = solve(replace(given, cells=tuple(cells)))
            moves = [
                (abs(a - b), n)
                for n, (a, b) in enumerate(zip(other.grams, now.grams, strict=True))
                if n != index and abs(a - b) > 10 and abs(a - b) > a / 3
            ]
            if moves:
                found.add((hold, index, max(moves, key=lambda one: one[0])[1]))
    return found


class Moved(unittest.TestCase):
    def test_a_least_that_takes_the_place_of_another(self) -> None:
        """250 g of beans bring 17.5 g of the carbohydrate: 64 g less bulgur than without them."""
        tight = container(Target(protein_g=35, carbohydrate_g=30, fat_g=11), beans={"minimum_g": 250})
        found = moved_by_limits(tight, solve(tight))
        self.assertTrue(found)
        free = container(Target(protein_g=35, carbohydrate_g=30, fat_g=11), beans={"minimum_g": 0})
        first = found[0]
        self.assertEqual((first.hold, first.index, first.at), (Hold.AT_LEAST, 2, 250))
        self.assertEqual(first.without, solve(free).grams[first.cell])
        self.assertEqual(first.now, solve(tight).grams[first.cell])
        self.assertEqual(found, sorted(found, key=lambda one: -abs(one.without - one.now)))

    def test_a_full_container_by_its_weight_or_its_volume(self) -> None:
        roomy = container(Target(protein_g=50, carbohydrate_g=60, fat_g=16))
        for name, hold, room in (("capacity_g", Hold.WEIGHT, 300), ("capacity_ml", Hold.VOLUME, 400)):
            with self.subTest(name=name):
                limits: dict[str, Any] = {name: room}
                full = replace(roomy, **limits)
                found = moved_by_limits(full, solve(full))
                self.assertEqual([(one.hold, one.index, one.at) for one in found], [(hold, None, room)])
                self.assertEqual(found[0].without, solve(roomy).grams[found[0].cell])
        self.assertEqual(moved_by_limits(roomy, solve(roomy)), [])

    @settings(max_examples=150, deadline=None)
    @given(
        st.floats(20, 60), st.floats(20, 80), st.floats(5, 25),
        st.integers(0, 3), st.floats(0, 250), st.booleans(),
    )  # fmt: skip
    def test_every_limit_by_a_second_reckoning(
        self, p: float, c: float, f: float, index: int, bound: float, least: bool
    ) -> None:
        limits = {NAMES[index]: {"minimum_g": bound} if least else {"maximum_g": bound}}
        given_container = container(Target(protein_g=p, carbohydrate_g=c, fat_g=f), **limits)
        told = {
            (one.hold.value, one.index, one.cell) for one in moved_by_limits(given_container, solve(given_container))
        }
        self.assertEqual(told, expected(given_container))


if __name__ == "__main__":
    unittest.main()
