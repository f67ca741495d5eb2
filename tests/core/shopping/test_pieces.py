"""Grams as they are picked up in a shop."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.shopping.pieces import picked_words

ONION = [("cup, sliced", 115.0), ("medium (2-1/2 in dia)", 110.0), ("large", 150.0)]


class Picked(unittest.TestCase):
    def test_the_most_usual_thing_and_never_too_few(self) -> None:
        self.assertEqual(picked_words(681, ONION), "about 7 medium ones")
        self.assertEqual(picked_words(660, ONION), "about 6 medium ones")
        self.assertEqual(picked_words(95, [("sprig", 1.0), ("bunch", 60.0)]), "about 2 bunches")
        self.assertEqual(picked_words(60, [("bunch", 60.0)]), "about 1 bunch")
        self.assertEqual(picked_words(105, ONION), "about 1 medium one")
        self.assertEqual(picked_words(25, [("bunch", 60.0)]), "about half a bunch")
        self.assertEqual(picked_words(67, [("juice of 1 lemon", 45.0)]), "the juice of about 1.5 lemons")

    def test_nothing_is_said_where_nothing_fits(self) -> None:
        self.assertEqual(picked_words(500, [("cup", 160.0), ("tbsp, chopped", 8.0)]), "")
        self.assertEqual(picked_words(9_000, ONION[1:2]), "")
        self.assertEqual(picked_words(2, ONION), "")

    @given(st.floats(1, 6000), st.floats(5, 500))
    def test_what_is_told_suffices_and_is_no_whole_one_too_many(self, grams: float, each: float) -> None:
        words = picked_words(grams, [("head", each)])
        if words:
            count = 0.5 if "half" in words else float(words.split()[1])
            self.assertGreaterEqual(count * each, grams - 0.051 * each)
            self.assertLess(count * each, grams + each)
