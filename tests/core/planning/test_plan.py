from __future__ import annotations

import math
import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.examples import BULGUR, CHICKEN, OIL, food, keeps
from yantai.core.cooking.components import Component, Line
from yantai.core.cooking.yields import UNCHANGED
from yantai.core.errors import CoreError
from yantai.core.foods.nutrients import MACROS, NUTRIENTS, Nutrient
from yantai.core.planning.dishes import ONE, ContainerClass, Part, one_dish
from yantai.core.planning.plan import Leftover, plan
from yantai.core.planning.portioning import Bounds, School
from yantai.core.portions import Limit
from yantai.core.targets.targets import Target, Tolerance

OIL_PAN = Component(name="Oil", lines=(Line(name="Oil", purchased_g=50, composition=OIL, yield_range=UNCHANGED),))


def part(component: Component, **how) -> Part:
    measured = replace(component, measured_g=None) if not how.pop("weighed", False) else component
    return Part(component=measured, share=component.cooked_g, **how)


PANS = {"chicken": part(CHICKEN), "bulgur": part(BULGUR), "oil": part(OIL_PAN, bounds=Bounds(maximum_g=20))}
LUNCH = ContainerClass(target=Target(protein_g=45, carbohydrate_g=55, fat_g=16), tolerance=Tolerance(), count=5)


class Needs(unittest.TestCase):
    def test_back_to_raw_and_purchased_by_hand(self) -> None:
        """Pinned 150 g chicken × 5 = 750 g; + 4 % = 780 g cooked.

        The recipe's 2,400 g as purchased are expected to give 2,256 × 0.75 + 30 = 1,722 g, so 780 g need
        2,400 × 780 / 1,722 = 1,087.1 g as purchased, 1,021.9 g edible.
        """
        only = replace(LUNCH, pins={"chicken": 150.0, "bulgur": 0.0, "oil": 0.0})
        need = plan(one_dish(PANS), (only,), buffer_share=0.04).needs["chicken"]
        self.assertAlmostEqual(need.needed_g, 750)
        self.assertAlmostEqual(need.cooked_g, 780)
        self.assertAlmostEqual(need.spare_g, 30)
        self.assertAlmostEqual(need.lines[0].purchased_g, 1087.1, delta=0.05)
        self.assertAlmostEqual(need.lines[0].edible_g, 1021.9, delta=0.05)
        self.assertAlmostEqual(sum(line.cooked_g for line in need.lines), 780)

    def test_more_containers_are_counted_only_when_every_pan_was_weighed(self) -> None:
        only = replace(LUNCH, pins={"chicken": 100.0, "bulgur": 100.0})
        weighed = {"chicken": part(CHICKEN, weighed=True), "bulgur": part(BULGUR, weighed=True)}
        found = plan(one_dish(weighed), (only,), leftover=Leftover.EXTRA).extra
        self.assertEqual(found and found[ONE].count, 11)  # 1,192 g of chicken and 1,165 g of bulgur are over
        unweighed = weighed | {"bulgur": part(BULGUR)}
        self.assertIsNone(plan(one_dish(unweighed), (only,), leftover=Leftover.EXTRA).extra)

    def test_from_where_on_a_pan_lacks_something(self) -> None:
        """1,692 g of chicken in five containers are 338.4 g each; a twentieth of a gram is no lack."""
        for grams, lacks in ((338.409, False), (338.411, True)):
            with self.subTest(grams=grams):
                only = replace(LUNCH, pins={"chicken": grams})
                found = plan(one_dish({"chicken": part(CHICKEN, weighed=True)}), (only,))
                self.assertEqual(bool(found.lacking_g), lacks)

    def test_nothing_needed_cooks_nothing(self) -> None:
        only = replace(LUNCH, left_out=frozenset({"oil"}))
        need = plan(one_dish(PANS), (only,)).needs["oil"]
        self.assertEqual(
            (need.needed_g, need.cooked_g, need.cooked_low_g, need.cooked_high_g, need.spare_g, need.basis_g),
            (0, 0, 0, 0, 0, 0),
        )
        for line in need.lines:
            self.assertEqual((line.purchased_g, line.edible_g, line.cooked_g), (0, 0, 0))

    def test_whole_pieces_are_cooked_and_the_extra_is_whole_too(self) -> None:
        """One piece is 60 g: 15 of them are 900 g. 10 % more are one piece, 14 % two, 6 % none."""
        egg = Component(
            name="Muffins",
            lines=(Line(name="Egg", purchased_g=800, composition=food(12, 1, 10), yield_range=keeps(0.9)),),
            pieces=12,
        )
        for buffer, pieces in ((0.0, 15), (0.06, 15), (0.1, 16), (0.14, 17)):
            with self.subTest(buffer=buffer):
                only = replace(LUNCH, count=5, pins={"muffin": 180.0})
                parts = {"muffin": Part(component=egg, share=720, school=School.PIECES)}
                need = plan(one_dish(parts), (only,), buffer_share=buffer).needs["muffin"]
                self.assertAlmostEqual(need.needed_g, 900)
                self.assertAlmostEqual(need.cooked_g, 60 * pieces)
                self.assertAlmostEqual(need.spare_g, 60 * (pieces - 15))
                self.assertAlmostEqual(need.lines[0].purchased_g, 800 * pieces / 12)

    def test_an_amount_by_eye_gives_way_to_the_narrower_of_volume_and_weight(self) -> None:
        """400 g of 0.8 g/ml: 200 ml hold 160 g, 300 g hold 300 g; 600 ml hold 480 g."""
        rice = part(BULGUR, school=School.BY_EYE, eye_g=400, density_g_per_ml=0.8)
        for ml, weight, grams in ((200, 300, 160), (600, 300, 300), (600, 100, 100), (600, 600, 400)):
            with self.subTest(ml=ml, weight=weight):
                only = ContainerClass(target=Target(carbohydrate_g=60), tolerance=Tolerance(), count=1,
                                      capacity_ml=ml, capacity_g=weight)  # fmt: skip
                found = plan(one_dish({"rice": rice}), (only,)).portions[0]
                self.assertEqual(found.grams[0], grams)

    def test_fixed_raw_amounts_do_not_follow_the_need(self) -> None:
        fixed = PANS | {"chicken": part(CHICKEN, raw_fixed=True)}
        need = plan(one_dish(fixed), (LUNCH,)).needs["chicken"]
        self.assertAlmostEqual(need.lines[0].purchased_g, 2400)
        self.assertAlmostEqual(need.cooked_g, 1722)
        self.assertAlmostEqual(need.spare_g, 1722 - need.needed_g)

    def test_a_recipe_without_components(self) -> None:
        with self.assertRaises(CoreError) as caught:
            plan(one_dish({}), (LUNCH,))
        self.assertIn("no components", str(caught.exception))

    def test_absurd_counts_and_buffers(self) -> None:
        for make in (lambda: replace(LUNCH, count=-1), lambda: plan(one_dish(PANS), (LUNCH,), buffer_share=2)):
            with self.assertRaises(CoreError):
                make()


class Shortfall(unittest.TestCase):
    def weighed(self, grams: float) -> dict[str, Part]:
        short = replace(CHICKEN, measured_g=grams)
        return PANS | {"chicken": Part(component=short, share=1692, raw_fixed=True)}

    def test_a_weighed_pan_is_never_portioned_beyond_its_weight(self) -> None:
        both = (LUNCH, replace(LUNCH, count=3, pins={"chicken": 60.0}))
        for grams in (200, 500, 700, 5000):
            with self.subTest(grams=grams):
                found = plan(one_dish(self.weighed(grams)), both)
                self.assertLessEqual(found.needs["chicken"].needed_g, grams + 1e-6)

    def test_a_shortfall_costs_all_the_same_share_of_their_targets(self) -> None:
        """45 g and 30 g of protein aimed at, chicken for a third of it: both miss the same share beyond 3 g."""
        two = (
            replace(LUNCH, target=Target(protein_g=45), count=1),
            replace(LUNCH, target=Target(protein_g=30), count=1),
        )
        lean = replace(CHICKEN, measured_g=1692)
        short = plan(one_dish({"chicken": Part(component=lean.times(0.07), share=1692, raw_fixed=True)}), two).portions
        shares = [
            -portion.misses[Nutrient.PROTEIN] / (each.target.protein_g or 0)
            for portion, each in zip(short, two, strict=True)
        ]
        self.assertGreater(min(shares), 0.3)
        self.assertAlmostEqual(shares[0], shares[1], delta=0.02)
        self.assertTrue(all(portion.limits[0] is Limit.POT for portion in short))

    def test_pins_beyond_the_pan_show_as_short(self) -> None:
        pinned = replace(LUNCH, pins={"chicken": 200.0})
        self.assertAlmostEqual(plan(one_dish(self.weighed(900)), (pinned,)).needs["chicken"].spare_g, -100)


class Conservation(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(
            st.tuples(st.floats(15, 70), st.floats(10, 90), st.floats(5, 35), st.integers(1, 9)),
            min_size=1,
            max_size=5,
        ),
        st.floats(0, 0.2),
        st.floats(0.5, 3),
    )
    def test_macros_are_conserved_from_lines_to_containers(self, targets, buffer: float, factor: float) -> None:
        """What the lines of this batch bring in is what the containers hold and the spare keeps."""
        classes = tuple(
            ContainerClass(target=Target(protein_g=p, carbohydrate_g=c, fat_g=f), tolerance=Tolerance(), count=count)
            for p, c, f, count in targets
        )
        rice = Component(
            name="Rice",
            lines=(Line(name="Rice", purchased_g=500, composition=food(7, 79, 1), yield_range=keeps(factor)),),
        )
        found = plan(one_dish(PANS | {"bulgur": part(rice)}), classes, buffer_share=buffer)
        for nutrient in NUTRIENTS:
            came_in = math.fsum(
                line.amounts[nutrient]
                for need in found.needs.values()
                if need.cooked_g
                for line in need.part.component.lines
            )
            in_containers = math.fsum(
                p.amounts[nutrient] * c.count for p, c in zip(found.portions, classes, strict=True)
            )
            spare = math.fsum(
                need.part.component.per_100g[nutrient] * need.spare_g / 100 for need in found.needs.values()
            )
            self.assertAlmostEqual(came_in, in_containers + spare, delta=1e-6 * (1 + came_in))

    @settings(max_examples=40, deadline=None)
    @given(st.permutations(range(4)))
    def test_the_order_of_clients_changes_nothing(self, order: list[int]) -> None:
        classes = tuple(
            replace(LUNCH, count=n + 1, target=Target(protein_g=30 + 6 * n, carbohydrate_g=40 + 9 * n, fat_g=14))
            for n in range(4)
        )
        straight = plan(one_dish(PANS), classes).portions
        shuffled = plan(one_dish(PANS), tuple(classes[n] for n in order)).portions
        self.assertEqual([straight[n].grams for n in order], [p.grams for p in shuffled])

    def test_energy_of_a_container_is_that_of_its_macros(self) -> None:
        (portion,) = plan(one_dish(PANS), (LUNCH,)).portions
        protein, carbohydrate, fat = (portion.amounts[n] for n in MACROS)
        self.assertAlmostEqual(portion.amounts[Nutrient.KCAL], 4 * protein + 4 * carbohydrate + 9 * fat)
