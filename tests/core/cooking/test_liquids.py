"""Where the water of a pot goes, by hand, by property, and beside a second computation."""

from __future__ import annotations

import math
import unittest
from dataclasses import dataclass

from hypothesis import given
from hypothesis import strategies as st

from tests.core.examples import WATER, food, keeps
from yantai.core.cooking.components import METHODS, UNCOOKED, Component, Line, LineRole
from yantai.core.cooking.liquids import SHARES, BoilOff, Lid, boil_off
from yantai.core.cooking.yields import TAKEN_UP, UNCHANGED, YieldRange, YieldSource
from yantai.core.errors import OutOfRange

RICE = YieldRange(low=2.5, expected=2.8, high=3.05, source=YieldSource.PUBLISHED)
CHICKEN = YieldRange(low=0.70, expected=0.76, high=0.82, source=YieldSource.PUBLISHED)


def line(grams: float, cooks: YieldRange = UNCHANGED, *, role: LineRole = LineRole.FOOD, wet: bool = False) -> Line:
    return Line(name="x", purchased_g=grams, composition=food(1, 1, 1), yield_range=cooks, role=role, wet=wet)


def water(grams: float) -> Line:
    return Line(name="Water", purchased_g=grams, composition=WATER, yield_range=TAKEN_UP, role=LineRole.WATER)


def pot(method: str, *lines: Line) -> Component:
    return Component(name="Pot", lines=lines, boils_off=boil_off(lines, method))


def after(method: str, minutes: float) -> BoilOff:
    """What boils off a pot of rice, chicken and just enough water, which no method pours off."""
    found = boil_off((line(1000, RICE), line(500, CHICKEN), water(2000)), method, minutes=minutes)
    assert found is not None
    return found


class ByHand(unittest.TestCase):
    def test_rice_water_chicken_and_sauce_in_one_pot(self) -> None:
        """4,621 g go in. 1,900 + 336 - 1,440 = 796 g are free, a fifth boils off: 4,461.8 g.

        The least: 1,900 + 420 - 1,200 = 1,120 g free, 40 % of it: 4,173 g. The most: 1,900 + 252 - 1,640 = 512 g free,
        5 % of it: 4,595.4 g. What such a pot weighed, 4,470 g, lies between them.
        """
        found = pot("simmered", line(800, RICE), water(1900), line(1400, CHICKEN), line(521))
        self.assertAlmostEqual(found.expected_g, 4461.8)
        self.assertAlmostEqual(found.expected_low_g, 4173)
        self.assertAlmostEqual(found.expected_high_g, 4595.4)
        self.assertTrue(found.expected_low_g < 4470 < found.expected_high_g)
        # Rice 2,240 g, chicken 1,064 g, sauce 521 g, and 636.8 g of the water are left among them.
        self.assertEqual([round(grams, 1) for grams in found.line_cooked_g()], [2240, 636.8, 1064, 521])

    def test_rice_boiled_in_what_it_takes_up_weighs_what_its_yield_says(self) -> None:
        self.assertAlmostEqual(pot("boiled", line(500, RICE), water(1000)).expected_g, 1400)

    def test_pasta_in_a_large_pot_is_drained(self) -> None:
        self.assertAlmostEqual(pot("boiled", line(500, keeps(2.25)), water(5000)).expected_g, 1125)

    def test_potatoes_are_poured_off(self) -> None:
        self.assertAlmostEqual(pot("boiled", line(1000, keeps(0.97)), water(2000)).expected_g, 970)

    def test_dry_food_takes_up_no_more_than_there_is(self) -> None:
        """500 g of rice would take up 900 g; of 600 g, 3 % are steam: 500 + 600 - 18 = 1,082 g."""
        found = pot("boiled", line(500, RICE), water(600))
        self.assertAlmostEqual(found.expected_g, 1082)
        self.assertEqual([round(grams, 6) for grams in found.line_cooked_g()], [1082, 0])
        self.assertEqual(found.line_yields[0].note, "no more liquid is listed")

    def test_porridge_is_made_with_the_milk_that_is_listed(self) -> None:
        """80 g of oats would take up 352 g; of 300 g of milk 3 % are steam: 380 - 9 = 371 g, not 732 g."""
        found = pot("simmered", line(80, keeps(5.4)), line(300, wet=True))
        self.assertAlmostEqual(found.expected_g, 371)
        self.assertEqual([round(grams, 6) for grams in found.line_cooked_g()], [371, 0])

    def test_pasta_with_little_sauce_was_boiled_in_water_that_nobody_listed(self) -> None:
        """500 g take up 625 g; 400 g of passata are less than four fifths of that."""
        apart = pot("boiled", line(500, keeps(2.25)), line(400, wet=True))
        self.assertIsNone(apart.boils_off)
        self.assertAlmostEqual(apart.expected_g, 1525)
        together = pot("simmered", line(500, keeps(2.25)), line(500, wet=True))
        self.assertIsNotNone(together.boils_off)
        self.assertLess(together.expected_g, 1000)

    def test_water_alone_simmers_down_by_a_fifth(self) -> None:
        found = pot("simmered", water(1000))
        self.assertEqual((found.expected_low_g, found.expected_g, found.expected_high_g), (600, 800, 950))

    def test_a_closed_cooker_keeps_more_than_an_open_pan(self) -> None:
        weights = {method: pot(method, line(1000, CHICKEN), water(500)).expected_g for method in SHARES
                   if method not in ("boiled", "poached", "steamed")}  # fmt: skip
        # 740 g are free: 5 % of them leave a closed cooker, 15 % a covered pot, 20 % an open one, 60 % a hot pan.
        for method, steam in (
            ("slow-cooked", 37),
            ("braised", 111),
            ("simmered", 148),
            ("baked", 259),
            ("sauteed", 444),
        ):
            self.assertAlmostEqual(weights[method], 1500 - steam)

    def test_lid_and_minutes_by_hand(self) -> None:
        """1,000 g of water, simmered. Lid on: a tenth in 45 minutes, in 90 minutes 1 - 0.9² = 0.19. Off: 35 % in 45
        minutes, in 20 minutes 1 - 0.65 ^ (20 / 45) = 0.174246. Not said: a fifth, in 90 minutes 1 - 0.8² = 0.36.
        """
        lines = (water(1000),)
        for lid, minutes, low, expected, high in (
            (Lid.ON, None, 750, 900, 980),
            (Lid.ON, 45, 750, 900, 980),
            (Lid.ON, 90, 562.5, 810, 960.4),
            (Lid.OFF, None, 300, 650, 850),
            (Lid.OFF, 20, 585.611, 825.754, 930.315),
            (Lid.UNSAID, 90, 360, 640, 902.5),
            (Lid.UNSAID, None, 600, 800, 950),
        ):
            with self.subTest(lid=lid, minutes=minutes):
                shares = boil_off(lines, "simmered", lid=lid, minutes=minutes)
                found = Component(name="Pot", lines=lines, boils_off=shares)
                self.assertAlmostEqual(found.expected_low_g, low, places=2)
                self.assertAlmostEqual(found.expected_g, expected, places=2)
                self.assertAlmostEqual(found.expected_high_g, high, places=2)

    def test_a_closed_cooker_has_its_lid_on_and_a_pan_none(self) -> None:
        lines = (line(1000, CHICKEN), water(500))
        for method, lid, same in (
            ("pressure-cooked", Lid.ON, True),
            ("slow-cooked", Lid.OFF, True),
            ("baked", Lid.OFF, True),
            ("sauteed", Lid.OFF, True),
            ("braised", Lid.OFF, False),
            ("simmered", Lid.OFF, False),
            ("simmered", Lid.ON, False),
            ("sauteed", Lid.ON, False),
        ):
            with self.subTest(method=method, lid=lid):
                self.assertEqual(boil_off(lines, method, lid=lid) == boil_off(lines, method), same)

    def test_minutes_that_are_typical_of_a_method_stay_in_its_range(self) -> None:
        """Medians of the typical minutes in the reference of cooking times. A slow cooker that is said to run for seven
        hours, or a pan for nine minutes, is the same pot as one of which nobody said anything.
        """
        medians = {
            "air-fried": 15.5, "baked": 22.5, "boiled": 12, "braised": 100, "grilled": 10, "microwaved": 5,
            "pan-fried": 9, "poached": 10, "pressure-cooked": 15, "roasted": 34, "sauteed": 7.5, "simmered": 25,
            "slow-cooked": 420, "steamed": 9, "stir-fried": 4,
        }  # fmt: skip
        self.assertEqual(set(medians), set(SHARES))
        for method, minutes in medians.items():
            with self.subTest(method=method):
                said, usual = after(method, minutes), SHARES[method]
                self.assertTrue(usual.low <= said.expected <= usual.high, said)
                self.assertLess(abs(said.expected - usual.expected), 0.2)

    def test_minutes_by_hand_where_the_pot_is_closed_or_hot(self) -> None:
        """Eight hours in a slow cooker: 1 - 0.95 ^ (480 / 420) = 0.056936. Five minutes in a pan: 1 - 0.4 ^ (5 / 10) =
        0.367544. A braise of 150 minutes: 1 - 0.85 ^ 1.5 = 0.216339.
        """
        for method, minutes, share in (
            ("slow-cooked", 480, 0.056936),
            ("sauteed", 5, 0.367544),
            ("braised", 150, 0.216339),
        ):
            with self.subTest(method=method):
                self.assertAlmostEqual(after(method, minutes).expected, share, places=5)

    def test_a_pot_cooks_from_a_minute_to_a_day(self) -> None:
        for minutes, refused in ((0.99, True), (1, False), (1440, False), (1440.1, True), (math.nan, True)):
            with self.subTest(minutes=minutes):
                if refused:
                    with self.assertRaises(OutOfRange):
                        boil_off((water(1000),), "simmered", minutes=minutes)
                else:
                    self.assertIsNotNone(boil_off((water(1000),), "simmered", minutes=minutes))

    @given(st.sampled_from(sorted(SHARES)), st.sampled_from(Lid), st.floats(1, 700), st.floats(1, 700))
    def test_longer_never_leaves_more_and_minutes_add_up(self, method: str, lid: Lid, one: float, other: float) -> None:
        lines = (line(1000, CHICKEN), water(5000))
        short, rest, long = (boil_off(lines, method, lid=lid, minutes=m) for m in (one, other, one + other))
        if short is None or rest is None or long is None:
            self.assertIn(method, ("boiled", "poached", "steamed"))
            return
        self.assertTrue(0 <= long.low <= long.expected <= long.high <= 1)
        for end in ("low", "expected", "high"):
            left = (1 - getattr(short, end)) * (1 - getattr(rest, end))
            self.assertAlmostEqual(1 - getattr(long, end), left, places=9)

    def test_no_liquid_or_no_cooking_leaves_each_line_to_its_own_yield(self) -> None:
        self.assertIsNone(boil_off((line(500, RICE), line(300, CHICKEN)), "simmered"))
        self.assertIsNone(boil_off((line(500), water(300)), UNCOOKED))
        self.assertIsNone(boil_off((line(500, CHICKEN), line(300, wet=True)), "braised"))

    def test_the_edge_where_water_counts_as_poured_off(self) -> None:
        """900 g are taken up: 1,440 g are 1.6 times that, and chicken juices make it one pot."""
        parts = (line(500, RICE), line(100, CHICKEN))
        self.assertIsNotNone(boil_off((*parts, water(1440)), "boiled"))
        self.assertIsNone(boil_off((*parts, water(1441)), "boiled"))

    def test_the_edge_where_milk_is_what_oats_are_cooked_in(self) -> None:
        """100 g of oats take up 440 g; four fifths are 352 g."""
        self.assertIsNotNone(boil_off((line(100, keeps(5.4)), line(352.1, wet=True)), "simmered"))
        self.assertIsNone(boil_off((line(100, keeps(5.4)), line(351.9, wet=True)), "simmered"))

    def test_steam_never_is_more_than_the_liquid(self) -> None:
        every = BoilOff(low=1, expected=1, high=1)
        self.assertEqual(every.steam_g("high", free_g=0, liquid_g=500), 50)
        self.assertEqual(every.steam_g("high", free_g=500, liquid_g=500), 500)
        self.assertEqual(every.steam_g("low", free_g=0, liquid_g=500), 0)


LINES = st.lists(
    st.one_of(
        st.builds(line, st.floats(1, 3000), st.floats(0.3, 5).map(lambda y: keeps(y, 0.05))),
        st.builds(water, st.floats(1, 5000)),
        st.builds(line, st.floats(1, 1000), wet=st.just(True)),
        st.builds(line, st.floats(1, 100), role=st.sampled_from((LineRole.FAT, LineRole.SEASONING))),
    ),
    min_size=1,
    max_size=6,
).filter(lambda lines: any(not one.is_water for one in lines))
METHOD = st.sampled_from([method for method in METHODS if method != UNCOOKED])


@dataclass
class _Bowl:
    """A second computation of the same rule, by pouring: dry food drinks gram by gram from what there is."""

    water: float = 0.0
    solid: float = 0.0
    thirst: float = 0.0

    def steam(self, share: float) -> float:
        free = max(self.water - self.thirst, 0.0)
        return max(share * free, 0.0)


class Properties(unittest.TestCase):
    @given(LINES, METHOD)
    def test_no_more_comes_out_of_a_balanced_pot_than_went_in(self, lines: list[Line], method: str) -> None:
        found = pot(method, *lines)
        if found.boils_off is not None:
            self.assertLessEqual(found.expected_high_g, found.in_pan_g + 1e-6)

    @given(LINES, METHOD)
    def test_the_range_holds_the_expectation(self, lines: list[Line], method: str) -> None:
        found = pot(method, *lines)
        self.assertLessEqual(found.expected_low_g, found.expected_g + 1e-6)
        self.assertLessEqual(found.expected_g, found.expected_high_g + 1e-6)

    @given(LINES, METHOD)
    def test_the_lines_add_up_to_the_pot(self, lines: list[Line], method: str) -> None:
        found = pot(method, *lines)
        self.assertAlmostEqual(sum(found.line_cooked_g()), found.expected_g, delta=1e-6 * found.in_pan_g)

    @given(LINES, METHOD, st.floats(0.1, 20))
    def test_twice_the_pot_gives_twice_as_much(self, lines: list[Line], method: str, factor: float) -> None:
        found = pot(method, *lines)
        self.assertAlmostEqual(
            found.times(factor).expected_g, factor * found.expected_g, delta=1e-6 * factor * found.in_pan_g
        )

    @given(LINES, METHOD)
    def test_pouring_it_out_gram_by_gram_gives_the_same(self, lines: list[Line], method: str) -> None:
        found = pot(method, *lines)
        if found.boils_off is None:
            return
        bowl = _Bowl()
        for one in lines:
            grams = one.purchased_g
            if one.is_water or one.wet:
                bowl.water += grams
            elif one.yield_range.expected > 1:
                bowl.thirst += grams * one.yield_range.expected - grams
                bowl.solid += grams
            else:
                kept = grams * one.yield_range.expected
                bowl.water += grams - kept
                bowl.solid += kept
        listed = sum(one.purchased_g for one in lines if one.is_water or one.wet)
        steam = max(bowl.steam(found.boils_off.expected), 0.03 * listed)
        self.assertAlmostEqual(found.expected_g, bowl.solid + bowl.water - steam, delta=1e-6 * found.in_pan_g)


if __name__ == "__main__":
    unittest.main()
