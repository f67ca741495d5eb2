"""Lines about what came into the house: the food and its amount as in recipes, the day, the place, the price."""

from __future__ import annotations

import unittest
from datetime import date
from typing import Any

from yantai.core.shopping.house import Keeping
from yantai.formats.arrivals import Arrival, read_arrival

TODAY = date(2026, 11, 27)
"""A Friday."""


class Lines(unittest.TestCase):
    def read(self, text: str) -> Arrival:
        return read_arrival(text, TODAY)

    def holds(self, text: str, amount: str, food: str, **said: Any) -> None:
        with self.subTest(text=text):
            found = self.read(text)
            known = {
                "use_by": None, "frozen_on": None, "place": None, "opened": False, "paid_cents": None, "unread": "",
            }  # fmt: skip
            self.assertEqual(found.line.food, food)
            self.assertEqual(str(found.line.quantities[0]), amount)
            self.assertEqual({name: getattr(found, name) for name in known}, known | said)

    def test_the_day_is_the_next_of_its_name(self) -> None:
        self.holds(
            "2 x 400 g tins kidney beans, use by 3 March", "2 x 400 g can", "kidney beans", use_by=date(2027, 3, 3)
        )
        self.holds("240 g feta until Thursday", "240 g", "feta", use_by=date(2026, 12, 3))
        self.holds("1 kg carrots (use by 30/11)", "1 kg", "carrots", use_by=date(2026, 11, 30))
        self.holds("500 g yogurt best before 2026-12-04", "500 g", "yogurt", use_by=date(2026, 12, 4))
        self.holds("500 g yogurt bb 4.12.26", "500 g", "yogurt", use_by=date(2026, 12, 4))
        self.holds("6 eggs, expires on 12 Dec", "6 piece", "eggs", use_by=date(2026, 12, 12))
        self.holds("300 g ham use-by tomorrow", "300 g", "ham", use_by=date(2026, 11, 28))

    def test_what_is_past_is_past_and_not_of_next_year(self) -> None:
        self.holds("300 g ham, use by 25 November", "300 g", "ham", use_by=date(2026, 11, 25))

    def test_where_it_is_and_what_was_paid(self) -> None:
        self.holds(
            "1 kg turkey mince, frozen on 20 Nov, in the freezer", "1 kg", "turkey mince",
            frozen_on=date(2026, 11, 20), place=Keeping.FREEZER,
        )  # fmt: skip
        self.holds("500 g flour in the pantry", "500 g", "flour", place=Keeping.CUPBOARD)
        self.holds("1 kg rice for 2.10", "1 kg", "rice", paid_cents=210)
        self.holds(
            "1.5 kg chicken thighs paid 11,40 use by 2 Dec", "1.5 kg", "chicken thighs",
            paid_cents=1140, use_by=date(2026, 12, 2),
        )  # fmt: skip
        self.holds("opened jar passata 690 g", "690 g", "passata", opened=True)

    def test_a_day_that_is_none_is_told(self) -> None:
        self.holds("1 kg flour until whenever", "1 kg", "flour", unread="whenever")
        self.holds("1 kg flour, use by 31 February", "1 kg", "flour", unread="31 February")
        self.holds("1 kg flour, use by 99/99", "1 kg", "flour", unread="99/99")

    def test_a_line_that_says_nothing_more(self) -> None:
        self.holds("500 g bulgur", "500 g", "bulgur")
        self.holds("3 courgettes", "3 piece", "courgettes")
