"""Packs that cover a need, against a programme by weights and by hand."""

from __future__ import annotations

import itertools
import math
import unittest
from random import Random
from unittest.mock import patch

from hypothesis import given
from hypothesis import strategies as st

from tests.volume import volume
from yantai.core.errors import OutOfRange
from yantai.core.shopping.packs import MOST_CHOICES, PackOffer, covering


def offers(*packs: tuple[float, int | None]) -> tuple[PackOffer, ...]:
    return tuple(PackOffer(covers_g=grams, price_cents=price) for grams, price in packs)


def front(need: float, packs: list[tuple[float, int]]) -> list[tuple[int, float]]:
    """Cost and rest of all choices that no other beats, the cheapest first: the least cost of each weight, half gram by
    half gram, from that of the weights below it."""
    halves = [(round(2 * grams), price) for grams, price in packs]
    size = math.ceil(2 * need) + max(half for half, _ in halves)
    least: list[float] = [0.0] + [math.inf] * size
    for total in range(1, size + 1):
        least[total] = min((least[total - half] + price for half, price in halves if half <= total), default=math.inf)
    best: list[tuple[int, float]] = []
    for total in range(size, math.ceil(2 * need) - 1, -1):
        if least[total] < math.inf:
            found = (int(least[total]), total / 2 - need)
            # Of what costs no more, that which leaves less is met later.
            best = [one for one in best if one[0] < found[0]]
            best.append(found)
    return best


class Covering(unittest.TestCase):
    def test_by_hand(self) -> None:
        """1,300 g of mince in trays of 400 g at 3.10 and 1 kg at 6.90. One and one are 1,400 g for 10.00, four small
        ones 1,600 g for 12.40, two large ones 2 kg for 13.80: nothing leaves less than 100 g."""
        (found,) = covering(1300, offers((400, 310), (1000, 690)))
        self.assertEqual((found.counts, found.left_g, found.cost_cents), ((1, 1), 100, 1000))

    def test_a_larger_pack_may_be_cheaper_than_what_is_needed(self) -> None:
        """600 g of rice: 1 kg costs 2.10, two of 300 g cost 2.40 and leave nothing over."""
        found = covering(600, offers((300, 120), (1000, 210)))
        self.assertEqual(
            [(one.counts, one.left_g, one.cost_cents) for one in found], [((0, 1), 400, 210), ((2, 0), 0, 240)]
        )

    def test_a_crumb_more_is_no_further_pack(self) -> None:
        self.assertEqual(covering(1200.04, offers((400, 310)))[0].counts, (3,))
        self.assertEqual(covering(1200.06, offers((400, 310)))[0].counts, (4,))

    def test_without_prices_it_is_the_least_left_over(self) -> None:
        (found,) = covering(900, offers((500, None), (400, 200)))
        self.assertEqual((found.counts, found.left_g, found.cost_cents), ((1, 1), 0, None))

    def test_of_equal_cost_and_rest_it_is_the_fewest_packs(self) -> None:
        (found,) = covering(1000, offers((250, 100), (500, 200)))
        self.assertEqual(found.counts, (0, 2))

    def test_nothing_needed_or_sold(self) -> None:
        self.assertEqual(covering(0, offers((400, 310))), ())
        self.assertEqual(covering(100, ()), ())

    def test_a_pack_of_nothing(self) -> None:
        with self.assertRaises(OutOfRange):
            PackOffer(covers_g=0, price_cents=1)

    def test_against_a_programme_by_weights(self) -> None:
        rng = Random(1201)
        for number in range(volume(300, 3000)):
            packs = [
                (float(rng.choice([90, 150, 240, 250, 300, 400, 454, 500, 680, 750, 1000])) + rng.choice([0, 0.5]),
                 rng.randint(0, 900))
                for _ in range(rng.randint(1, 5))
            ]  # fmt: skip
            need = rng.uniform(1, 2500)
            with self.subTest(number=number, need=need, packs=packs):
                found = [(one.cost_cents, one.left_g) for one in covering(need, offers(*packs))]
                best = front(need, packs)[:MOST_CHOICES]
                self.assertEqual([cost for cost, _ in found], [cost for cost, _ in best])
                for (_, left), (_, least) in zip(found, best, strict=True):
                    self.assertAlmostEqual(left, least, delta=1e-5)

    def test_whole_lists_against_the_same(self) -> None:
        """Three hundred lists of up to sixty foods, of one to five sizes each; a list costs what its foods do."""
        rng = Random(60)
        sizes = [90, 150, 200, 240, 250, 300, 400, 454, 500, 680, 750, 1000, 2500]
        for number in range(300):
            cost = least = 0
            for _ in range(rng.randint(1, volume(2, 60))):
                packs = [(float(rng.choice(sizes)), rng.randint(20, 1500)) for _ in range(rng.randint(1, 5))]
                need = round(rng.uniform(5, 3000), 1)
                cost += covering(need, offers(*packs))[0].cost_cents or 0
                least += front(need, packs)[0][0]
            with self.subTest(number=number):
                self.assertEqual(cost, least)

    @given(
        need=st.floats(1, 50_000), grams=st.lists(st.floats(20, 5000), min_size=1, max_size=5), more=st.floats(0, 999)
    )
    def test_more_is_never_cheaper(self, need: float, grams: list[float], more: float) -> None:
        packs = offers(*((round(g, 1), round(g) + 30 * place) for place, g in enumerate(grams)))
        less, most = covering(need, packs)[0], covering(need + more, packs)[0]
        assert less.cost_cents is not None and most.cost_cents is not None
        self.assertLessEqual(less.cost_cents, most.cost_cents)
        self.assertGreaterEqual(less.left_g, -1e-6)


class ByWeight(unittest.TestCase):
    LOOSE = PackOffer(covers_g=1000, price_cents=250, by_weight=True)

    def test_by_hand(self) -> None:
        """3,232 g of courgettes in crates of 1 kg at 2.20, loose at 2.50 the kilo. Three crates and 232 g loose cost
        6.60 and 0.58; a fourth crate would cost 8.80 in all."""
        (found,) = covering(3232, (PackOffer(covers_g=1000, price_cents=220), self.LOOSE))
        self.assertEqual((found.counts, found.weighed_g, found.left_g, found.cost_cents), ((3, 0), (0, 232), 0, 718))

    def test_a_whole_pack_may_cost_less_than_the_rest_by_weight(self) -> None:
        """1,950 g: 950 g loose cost 2.375, a second crate 2.20 and leaves 50 g over. Nothing over is the other choice:
        2.20 and 2.375, rounded half up to 4.58."""
        first, second = covering(1950, (PackOffer(covers_g=1000, price_cents=220), self.LOOSE))
        self.assertEqual((first.counts, first.weighed_g, first.cost_cents), ((2, 0), (0, 0), 440))
        self.assertEqual((second.counts, second.weighed_g, second.cost_cents), ((1, 0), (0, 950), 458))

    def test_only_by_weight_it_is_the_cheapest_shop(self) -> None:
        dear = PackOffer(covers_g=500, price_cents=130, by_weight=True)
        (found,) = covering(321.5, (dear, self.LOOSE))
        self.assertEqual((found.counts, found.weighed_g, found.cost_cents), ((0, 0), (0, 321.5), 80))

    def test_without_a_price_it_is_taken_as_it_is_needed(self) -> None:
        loose = PackOffer(covers_g=1000, price_cents=None, by_weight=True)
        (found,) = covering(700, (PackOffer(covers_g=400, price_cents=100), loose))
        self.assertEqual(
            (found.left_g, found.cost_cents, sum(found.grams([PackOffer(covers_g=400, price_cents=100), loose]))),
            (0, None, 700),
        )

    def test_against_every_count_of_packs(self) -> None:
        rng = Random(29)
        for number in range(volume(200, 2000)):
            packs = [(float(rng.randint(90, 1000)), rng.randint(0, 900)) for _ in range(rng.randint(1, 3))]
            per_kilo, need = rng.randint(0, 900), round(rng.uniform(20, 2500), 1)
            loose = PackOffer(covers_g=1000, price_cents=per_kilo, by_weight=True)
            counts = itertools.product(*(range(math.ceil(need / grams) + 1) for grams, _ in packs))
            least = math.inf
            for count in counts:
                held = sum(n * grams for n, (grams, _) in zip(count, packs, strict=True))
                paid = sum(n * price for n, (_, price) in zip(count, packs, strict=True))
                least = min(least, paid + per_kilo * max(need - held, 0) / 1000)
            for listed in (None, 0):
                with self.subTest(number=number, listed=listed):
                    covering.cache_clear()
                    with patch("yantai.core.shopping.packs.MOST_LISTED", 20_000 if listed is None else listed):
                        found = covering(need, (*offers(*packs), loose))[0]
                    assert found.cost_cents is not None
                    self.assertAlmostEqual(found.cost_cents, least, delta=0.55)
                    self.assertAlmostEqual(sum(found.grams((*offers(*packs), loose))), need + found.left_g, delta=0.06)
        covering.cache_clear()


class Wasted(unittest.TestCase):
    PACKS = ((300, 120), (1000, 210))

    def test_by_hand(self) -> None:
        """600 g of rice: 1 kg at 2.10 leaves two thirds of the need over. With a tenth at most it is two of 300 g."""
        first, other = covering(600, offers(*self.PACKS), 60)
        self.assertEqual((first.counts, first.left_g, first.cost_cents), ((2, 0), 0, 240))
        self.assertEqual((other.counts, other.left_g, other.cost_cents), ((0, 1), 400, 210))

    def test_where_nothing_leaves_so_little_it_is_what_leaves_least(self) -> None:
        """700 g: three of 300 g leave 200 g, one of each 600 g, the large one 300 g."""
        first, other = covering(700, offers(*self.PACKS), 70)
        self.assertEqual((first.counts, first.left_g, first.cost_cents), ((3, 0), 200, 360))
        self.assertEqual(other.counts, (0, 1))

    def test_without_a_limit_and_within_it_nothing_changes(self) -> None:
        for need in (299, 600, 1000, 1301):
            packs = offers(*self.PACKS)
            self.assertEqual(covering(need, packs), covering(need, packs, 5000))

    @given(need=st.floats(1, 3000), most=st.floats(0, 1000))
    def test_no_choice_within_the_limit_is_cheaper(self, need: float, most: float) -> None:
        packs = [(float(grams), price) for grams, price in ((240, 90), (400, 110), (1000, 230))]
        found = covering(need, offers(*packs), most)[0]
        within = [(cost, left) for cost, left in front(need, packs) if left <= most]
        if within:
            self.assertEqual(found.cost_cents, within[0][0])
        else:
            self.assertAlmostEqual(found.left_g, min(left for _, left in front(need, packs)), delta=0.11)


class TwoWays(unittest.TestCase):
    def test_listing_every_combination_and_the_programme_agree(self) -> None:
        rng = Random(11)
        for _ in range(volume(60, 600)):
            packs = offers(*((float(rng.randint(90, 900)), rng.randint(40, 900)) for _ in range(rng.randint(1, 4))))
            need = rng.uniform(50, 2500)
            covering.cache_clear()
            listed = covering(need, packs)
            covering.cache_clear()
            with patch("yantai.core.shopping.packs.MOST_LISTED", 0):
                found = covering(need, packs)
            self.assertEqual([one.cost_cents for one in listed], [one.cost_cents for one in found])
            for one, other in zip(listed, found, strict=True):
                self.assertAlmostEqual(one.left_g, other.left_g, delta=0.1)
        covering.cache_clear()
