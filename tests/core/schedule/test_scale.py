"""The scale as a clock: by hand, and against pots that lose so much a minute."""

from __future__ import annotations

import doctest
import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.errors import OutOfRange
from yantai.core.schedule import scale
from yantai.core.schedule.scale import Weighed, towards


def load_tests(_loader: unittest.TestLoader, tests: unittest.TestSuite, _pattern: str | None) -> unittest.TestSuite:
    tests.addTests(doctest.DocTestSuite(scale))
    return tests


class ByHand(unittest.TestCase):
    def test_a_sauce_that_loses_40_g_a_minute(self) -> None:
        """3,000 g at first, 2,800 g after five minutes: 400 g more to 2,400 g take ten."""
        going = towards(2400, [Weighed(second=0, net_g=3000), Weighed(second=300, net_g=2800)])
        assert going is not None
        self.assertEqual((going.left_g, going.per_min_g, going.in_min), (400, 40, 10))

    def test_one_reading_tells_how_much_and_not_when(self) -> None:
        going = towards(2400, [Weighed(second=0, net_g=3000)])
        assert going is not None
        self.assertEqual((going.left_g, going.per_min_g, going.in_min), (600, None, None))

    def test_two_at_once_tell_no_more_than_one(self) -> None:
        going = towards(2400, [Weighed(second=0, net_g=3000), Weighed(second=20, net_g=2990)])
        assert going is not None
        self.assertIsNone(going.per_min_g)

    def test_what_takes_up_stock_is_below_its_weight(self) -> None:
        """A risotto at 1,900 g that gained 100 g in two minutes: 200 g more are stirred in in four."""
        going = towards(2100, [Weighed(second=0, net_g=1800), Weighed(second=120, net_g=1900)])
        assert going is not None
        self.assertEqual((going.left_g, going.per_min_g, going.in_min), (-200, -50, 4))

    def test_the_wrong_way_has_no_time(self) -> None:
        going = towards(2400, [Weighed(second=0, net_g=3000), Weighed(second=300, net_g=3100)])
        assert going is not None
        self.assertIsNone(going.in_min)

    def test_near_enough_is_there(self) -> None:
        going = towards(2400, [Weighed(second=0, net_g=2440)])
        assert going is not None
        self.assertTrue(going.is_there)
        self.assertIsNone(towards(2400, []))

    def test_a_weight_that_cannot_be(self) -> None:
        with self.assertRaises(OutOfRange):
            towards(0, [Weighed(second=0, net_g=10)])


class OfAPotThatBoilsEvenly(unittest.TestCase):
    @given(
        wanted=st.floats(200, 20_000),
        above=st.floats(0.05, 2),
        per_min=st.floats(1, 300),
        readings=st.lists(st.integers(0, 40), min_size=2, max_size=6, unique=True),
    )
    def test_it_is_there_when_it_was_told(
        self, wanted: float, above: float, per_min: float, readings: list[int]
    ) -> None:
        """The same whatever the readings are: the pot weighs what it must at the minute that was told."""
        begins = wanted * (1 + above)
        shown = [Weighed(second=60.0 * at, net_g=begins - per_min * at) for at in readings]
        shown = [one for one in shown if one.net_g > wanted * 1.03]
        going = towards(wanted, shown)
        if going is None or len(shown) < 2 or going.in_min is None:
            return
        last = max(one.second for one in shown) / 60
        self.assertAlmostEqual(begins - per_min * (last + going.in_min), wanted, delta=wanted * 1e-6)


if __name__ == "__main__":
    unittest.main()
