"""Money is shared out to the hundredth: shares add up, and none is further than one hundredth from its due."""

from __future__ import annotations

import unittest
from decimal import ROUND_HALF_UP, Decimal

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.errors import OutOfRange
from yantai.core.shopping.money import share_out, used_cents

WEIGHTS = st.lists(st.integers(0, 2000), min_size=1, max_size=60)


class Shares(unittest.TestCase):
    def test_by_hand(self) -> None:
        """10.00 among three: 3.333 each; the one hundredth that is left goes to the first."""
        self.assertEqual(share_out(1000, [1, 1, 1]), [334, 333, 333])
        # 16.34 for 120 g, 120 g and 80 g of 320 g: 6.1275, 6.1275 and 4.085; two hundredths are left.
        self.assertEqual(share_out(1634, [120, 120, 80]), [613, 613, 408])

    def test_nothing_weighs_anything(self) -> None:
        self.assertEqual(share_out(5, [0, 0]), [3, 2])
        self.assertEqual(share_out(0, [3, 0]), [0, 0])
        self.assertEqual(share_out(7, []), [])

    def test_what_is_no_money_is_refused(self) -> None:
        for total, weights in ((-1, [1.0]), (1, [-1.0]), (1, [float("nan")])):
            with self.assertRaises(OutOfRange):
                share_out(total, weights)

    @given(st.integers(0, 1_000_000), WEIGHTS)
    def test_they_add_up_and_are_near_their_due(self, total: int, weights: list[int]) -> None:
        shares = share_out(total, [float(weight) for weight in weights])
        self.assertEqual(sum(shares), total)
        whole = sum(weights) or len(weights)
        for share, weight in zip(shares, weights, strict=True):
            due = Decimal(total) * Decimal(weight if sum(weights) else 1) / Decimal(whole)
            self.assertLess(abs(Decimal(share) - due), 1)

    @given(st.integers(0, 100_000), st.integers(0, 5000), st.integers(1, 5000))
    def test_the_used_share_of_packs(self, paid: int, used: int, bought: int) -> None:
        due = Decimal(paid) * min(Decimal(used) / Decimal(bought), Decimal(1))
        self.assertEqual(used_cents(paid, used, bought), int(due.quantize(Decimal(1), rounding=ROUND_HALF_UP)))
