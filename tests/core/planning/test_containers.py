"""Whether the containers of the house suffice: by hand, and against the largest flow from rows to kinds."""

from __future__ import annotations

import random
import unittest

import numpy as np
from scipy.sparse import csr_array
from scipy.sparse.csgraph import maximum_flow

from yantai.core.planning.containers import Kind, SetOut, Wanted, larger, set_out

SMALL, BOX, LARGE = Kind(key="s", ml=500, there=4), Kind(key="m", ml=900, there=6), Kind(key="l", ml=1200, there=3)
KINDS = [SMALL, BOX, LARGE]


def wanted(key: str, count: int, volume_ml: float, capacity_ml: float | None = None) -> Wanted:
    return Wanted(key=key, count=count, volume_ml=volume_ml, capacity_ml=capacity_ml)


class ByHand(unittest.TestCase):
    def test_those_of_a_size_get_that_size_and_nothing_else(self) -> None:
        """Eight of 900 ml are wanted and six are there: two lack one, though four small ones stay free."""
        found = set_out(KINDS, [wanted("Ada", 8, 400, 900)])
        self.assertEqual((found.served["Ada"].of, found.served["Ada"].lacks), ({"m": 6}, 2))
        self.assertEqual(found.free, {"s": 4, "m": 0, "l": 3})

    def test_in_the_order_they_are_given(self) -> None:
        found = set_out(KINDS, [wanted("Ada", 5, 700, 900), wanted("Ben", 5, 700, 900)])
        self.assertEqual([found.served[one].lacks for one in ("Ada", "Ben")], [0, 4])

    def test_what_has_no_size_takes_the_smallest_that_holds_it_and_says_so(self) -> None:
        found = set_out(KINDS, [wanted("Ada", 5, 450), wanted("Ben", 2, 1000)])
        self.assertEqual(found.served["Ben"].of, {"l": 2})
        self.assertEqual(found.served["Ada"].of, {"s": 4, "m": 1})
        self.assertTrue(found.served["Ada"].is_assumed)

    def test_a_size_that_nobody_owns(self) -> None:
        found = set_out(KINDS, [wanted("Ada", 2, 300, 750)])
        self.assertEqual(found.served["Ada"].lacks, 2)

    def test_larger_ones_that_are_free(self) -> None:
        short = wanted("Ada", 8, 700, 900)
        offers = larger(KINDS, set_out(KINDS, [short]), short)
        self.assertEqual([(one.kind.key, one.free) for one in offers], [("l", 3)])

    def test_nothing_is_there(self) -> None:
        found = set_out([], [wanted("Ada", 2, 300)])
        self.assertEqual((found.served["Ada"].lacks, found.free), (2, {}))


class Random(unittest.TestCase):
    def test_as_many_get_one_as_any_way_of_giving_them_out_could(self) -> None:
        """The largest flow from a source over rows and kinds to a sink, which knows nothing of sizes and order."""
        for seed in range(300):
            chance = random.Random(seed)
            kinds = [
                Kind(key=f"k{at}", ml=chance.choice([300, 500, 750, 900, 1200]), there=chance.randint(0, 9))
                for at in range(chance.randint(0, 5))
            ]
            rows = [
                wanted(f"r{at}", chance.randint(0, 9), chance.randint(100, 1300), chance.choice([None, None, 500, 900]))
                for at in range(chance.randint(1, 6))
            ]
            found = set_out(kinds, rows)
            with self.subTest(seed=seed):
                self.assertEqual(sum(one.count - found.served[one.key].lacks for one in rows), flow(kinds, rows))
                self.check(kinds, rows, found)

    def check(self, kinds: list[Kind], rows: list[Wanted], found: SetOut) -> None:
        """Nothing is given twice, and nothing that does not fit."""
        for kind in kinds:
            given = sum(served.of.get(kind.key, 0) for served in found.served.values())
            self.assertEqual(given + found.free[kind.key], kind.there)
        sizes = {kind.key: kind.ml for kind in kinds}
        for row in rows:
            served = found.served[row.key]
            self.assertEqual(sum(served.of.values()) + served.lacks, row.count)
            for key in served.of:
                self.assertTrue(sizes[key] == row.capacity_ml if row.capacity_ml else sizes[key] >= row.volume_ml)


def flow(kinds: list[Kind], rows: list[Wanted]) -> int:
    """How many containers could be given out at most."""
    size = len(kinds) + len(rows) + 2
    capacity = np.zeros((size, size), dtype=np.int32)
    for at, row in enumerate(rows, 1):
        capacity[0, at] = row.count
        for to, kind in enumerate(kinds, len(rows) + 1):
            fits = kind.ml >= row.volume_ml if row.capacity_ml is None else kind.ml == row.capacity_ml
            capacity[at, to] = row.count if fits else 0
    for to, kind in enumerate(kinds, len(rows) + 1):
        capacity[to, size - 1] = kind.there
    return int(maximum_flow(csr_array(capacity), 0, size - 1).flow_value)
