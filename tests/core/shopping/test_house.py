"""What a batch takes of what is in the house: first what expires first, never what is past its day."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.shopping.house import Lot, Taken, take, without


def lot(key: str, grams: float, use_by: int | None = None, *, opened: bool = False, arrived: int = 1) -> Lot:
    return Lot(key=key, grams=grams, arrived=arrived, use_by=use_by, opened=opened)


LOTS = st.lists(
    st.tuples(st.integers(0, 2000), st.none() | st.integers(0, 20), st.booleans()), min_size=0, max_size=8
).map(lambda found: [lot(str(at), g, day, opened=is_open, arrived=at) for at, (g, day, is_open) in enumerate(found)])


class Taking(unittest.TestCase):
    def test_first_what_expires_first_then_what_is_open_then_what_came_first(self) -> None:
        lots = [
            lot("no day", 100), lot("late", 100, 9), lot("new", 100, 5, arrived=3), lot("old", 100, 5, arrived=2),
            lot("open", 100, 5, opened=True, arrived=4), lot("past", 100, 1),
        ]  # fmt: skip
        self.assertEqual([one.key for one in take(460, lots, 2)], ["open", "old", "new", "late", "no day"])
        self.assertEqual(take(460, lots, 2)[-1], Taken(key="no day", grams=60))

    def test_a_lot_serves_on_its_last_day(self) -> None:
        self.assertEqual(take(50, [lot("a", 100, 4)], 4), [Taken(key="a", grams=50)])
        self.assertEqual(take(50, [lot("a", 100, 4)], 5), [])

    def test_nothing_is_made_up(self) -> None:
        self.assertEqual(take(500, [], 0), [])
        self.assertEqual(take(0, [lot("a", 100)], 0), [])
        self.assertEqual(take(500, [lot("a", 100), lot("b", 0)], 0), [Taken(key="a", grams=100)])

    @given(LOTS, st.integers(0, 6000), st.integers(0, 20))
    def test_all_that_is_good_or_all_that_is_needed(self, lots: list[Lot], need_g: int, on: int) -> None:
        taken = take(need_g, lots, on)
        good = sum(one.grams for one in lots if one.use_by is None or one.use_by >= on)
        self.assertAlmostEqual(sum(one.grams for one in taken), min(need_g, good))
        left = {one.key: one.grams for one in without(lots, taken)}
        for one in taken:
            self.assertGreater(one.grams, 0)
            self.assertGreaterEqual(left[one.key], 0)
        self.assertAlmostEqual(sum(left.values()), sum(one.grams for one in lots) - sum(one.grams for one in taken))

    @given(LOTS, st.integers(0, 6000), st.integers(0, 20))
    def test_nothing_that_hurries_more_is_left_behind(self, lots: list[Lot], need_g: int, on: int) -> None:
        taken = take(need_g, lots, on)
        left = {one.key: one.grams for one in without(lots, taken)}
        by_key = {one.key: one for one in lots}
        never = 10**6
        last = max((by_key[one.key].use_by or never for one in taken if by_key[one.key].use_by != 0), default=0)
        for one in lots:
            if one.use_by is not None and on <= one.use_by < last:
                self.assertAlmostEqual(left[one.key], 0)
