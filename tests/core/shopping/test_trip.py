"""Two people on one list: what they noted is put together the same, in whatever order it arrives; and the till."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.shopping.trip import (
    Bought,
    Noted,
    PackBought,
    TripEvent,
    at_the_till,
    paid_cents,
    put_together,
)

EVENTS = st.builds(
    Noted,
    at=st.integers(0, 20).map(float),
    number=st.just(0),
    by=st.sampled_from(["Tamsin", "Ravi"]),
    item=st.sampled_from(["feta", "rice"]),
    event=st.sampled_from(list(TripEvent)),
    bought=st.builds(Bought, food=st.just("feta"), grams=st.integers(1, 900).map(float)),
    text=st.sampled_from(["ask at the counter", "", "the blue one"]),
)


def noted(
    at: float, event: TripEvent, *, number: int = 1, by: str = "Tamsin", grams: float = 400, text: str = ""
) -> Noted:
    bought = Bought(food="feta", grams=grams) if event is TripEvent.BOUGHT else None
    return Noted(at=at, number=number, by=by, item="feta", event=event, bought=bought, text=text)


class Together(unittest.TestCase):
    def test_the_last_that_happened_counts_though_it_arrived_first(self) -> None:
        late = noted(9, TripEvent.NOT_BOUGHT, number=1)
        early = noted(5, TripEvent.BOUGHT, number=2)
        self.assertIsNone(put_together([late, early])["feta"].bought)

    def test_two_phones_that_were_away_bought_the_same_twice(self) -> None:
        one, two = noted(5, TripEvent.BOUGHT), noted(6, TripEvent.BOUGHT, number=2, by="Ravi", grams=500)
        state = put_together([two, one])["feta"]
        assert state.bought is not None
        self.assertEqual((state.bought.grams, state.bought_by, state.doubly), (500, ("Tamsin", "Ravi"), True))
        once_more = put_together(
            [one, two, noted(7, TripEvent.NOT_BOUGHT, number=3), noted(8, TripEvent.BOUGHT, number=4)]
        )
        self.assertFalse(once_more["feta"].doubly)

    def test_each_thing_stands_for_itself(self) -> None:
        state = put_together(
            [noted(1, TripEvent.NOTE, text="ask at the counter"), noted(2, TripEvent.MISSING, number=2)]
        )["feta"]
        self.assertEqual((state.note, state.is_missing, state.bought), ("ask at the counter", True, None))
        found = put_together([noted(1, TripEvent.MISSING), noted(2, TripEvent.BOUGHT, number=2)])["feta"]
        self.assertFalse(found.is_missing)

    def test_added_by_hand_and_removed(self) -> None:
        added = noted(1, TripEvent.ADDED, text="kitchen roll")
        self.assertEqual(
            (put_together([added])["feta"].text, put_together([added])["feta"].is_own), ("kitchen roll", True)
        )
        gone = put_together([added, noted(2, TripEvent.REMOVED, number=2)])["feta"]
        self.assertTrue(gone.is_removed)

    @given(st.lists(EVENTS, max_size=12), st.randoms(use_true_random=False))
    def test_in_whatever_order_it_is_read(self, events: list[Noted], order: object) -> None:
        numbered = [
            Noted(at=one.at, number=at, by=one.by, item=one.item, event=one.event, bought=one.bought, text=one.text)
            for at, one in enumerate(events)
        ]
        mixed = list(numbered)
        order.shuffle(mixed)  # type: ignore[attr-defined]
        self.assertEqual(put_together(mixed), put_together(numbered))


class Money(unittest.TestCase):
    def test_packs_by_hand(self) -> None:
        """Two trays at 3.10 and one at 6.90 are 13.10."""
        packs = (
            PackBought(name="tray", grams=400, count=2, price_cents=310),
            PackBought(name="large tray", grams=1000, count=1, price_cents=690),
        )
        self.assertEqual(paid_cents(Bought(food="turkey", grams=1800, packs=packs)), 1310)
        unknown = (*packs, PackBought(name="bag", grams=1, count=1))
        self.assertIsNone(paid_cents(Bought(food="turkey", grams=1801, packs=unknown)))
        self.assertIsNone(paid_cents(Bought(food="turkey", grams=1800)))

    def test_the_receipt_is_explained_item_by_item(self) -> None:
        """Feta was 3.80 and cost 4.00, rice 2.10 as expected, herbs unknown; 6.95 paid: 0.85 for the herbs, or else."""
        till = at_the_till([("feta", 380), ("rice", 210), ("herbs", None)], {"feta": 400}, 695)
        self.assertEqual(
            (till.expected, till.differences, till.without_price, till.unexplained), (590, {"feta": 20}, 1, 85)
        )

    def test_a_receipt_that_does_not_add_up_shows_by_how_much(self) -> None:
        self.assertEqual(at_the_till([("feta", 380)], {"feta": 400}, 350).unexplained, -50)
        self.assertIsNone(at_the_till([("feta", 380)], {}, None).unexplained)

    @given(
        st.dictionaries(st.sampled_from("abcdef"), st.none() | st.integers(0, 5000)),
        st.dictionaries(st.sampled_from("abcdef"), st.integers(0, 5000)),
        st.integers(0, 50_000),
    )
    def test_it_always_comes_to_what_was_paid(
        self, prices: dict[str, int | None], paid: dict[str, int], total: int
    ) -> None:
        paid = {key: value for key, value in paid.items() if key in prices}
        till = at_the_till(list(prices.items()), paid, total)
        first_known = sum(paid[key] for key in paid if prices[key] is None)
        assert till.unexplained is not None
        self.assertEqual(till.expected + sum(till.differences.values()) + first_known + till.unexplained, total)
