from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any, ClassVar

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.foods.intake import Flag, propose, still_says
from yantai.core.foods.kitchen_words import FORMS, NOT_MATTERING, STATE_WORDS, telling_words, words_of
from yantai.core.foods.matching import FoodIndex, FoodName, Usual
from yantai.core.quantities import Measure, read_line
from yantai.core.quantities.units import Spoons


def food(key: str, name: str, state: str = "raw", kcal: float = 100, protein_g: float = 10, **rest: object) -> FoodName:
    return FoodName(key=key, name=name, state=state, kcal=kcal, protein_g=protein_g, **rest)  # type: ignore[arg-type]


FOODS = [
    food("turkey85", "Ground turkey, 85% lean", kcal=180, protein_g=17, aliases=("mince",), group="poultry"),
    food("turkey99", "Ground turkey, 99% fat free", kcal=112, protein_g=24, aliases=("mince",), group="poultry"),
    food("courgette", "Zucchini, with skin", kcal=17, protein_g=1.2, aliases=("courgette",), group="vegetables"),
    food("rice", "Rice, white, long-grain", "dry", kcal=365, protein_g=7, group="grains"),
    food("rice-boiled", "Rice, white, long-grain", "cooked", kcal=130, protein_g=2.7, method="boiled", group="grains"),
    food("salt", "Salt, table", "dry", kcal=0, protein_g=0, group="spices"),
    food("sea-salt", "Salt, sea", "dry", kcal=0, protein_g=0, group="spices"),
    food("beans", "Black beans, canned", "canned-drained", kcal=91, protein_g=6, group="legumes"),
    food("beans-dry", "Black beans", "dry", kcal=341, protein_g=22, group="legumes"),
    food("chicken-roast", "Chicken breast", "cooked", kcal=165, protein_g=31, method="roasted", group="poultry"),
    food("chicken-poached", "Chicken breast", "cooked", kcal=140, protein_g=27, method="poached", group="poultry"),
    food("creme", "Sour cream", "as-sold", kcal=190, protein_g=2, group="dairy"),
]
INDEX = FoodIndex(
    FOODS,
    [
        Usual(words="egg", key="missing"),
        Usual(words="stock", key="salt"),
        Usual(words="rice", key="rice", optional="easycook"),
        Usual(words="turkey", key="turkey99", sure=False),
    ],
)


class StillSays(unittest.TestCase):
    def test_a_line_speaks_for_its_weight_until_that_is_another(self) -> None:
        measures = [Measure(name="cup", grams=195), Measure(name="can", grams=400)]
        for text, grams, expected in (
            ("1 kg turkey mince", 1000, True),
            ("1 kg turkey mince", 1004, True),
            ("1 kg turkey mince", 1006, False),
            ("1 cup rice", 195, True),
            ("1 cup rice", 300, False),
            ("1 kg potatoes (850 g peeled)", 1000, True),
            ("1 kg potatoes (850 g peeled)", 850, False),
            ("2 cans chickpeas (480 g drained)", 480, True),
            ("salt, to taste", 0, True),
            ("salt, to taste", 3, False),
            ("parsley", 40, False),
            ("3 handfuls rice", 90, False),
        ):
            with self.subTest(text=text, grams=grams):
                self.assertEqual(still_says(text, grams, measures, spoons=Spoons.US), expected)


class Matching(unittest.TestCase):
    def best(self, text: str, **said: Any) -> tuple[str, bool]:
        found = INDEX.match(text, **said)
        return found.matches[0].key, found.sure

    def test_words_as_they_are_compared(self) -> None:
        self.assertEqual(words_of("Courgettes & Tomatoes"), ("zucchini", "tomato"))
        self.assertEqual(words_of("wholemeal loaves 5 %"), ("whole", "wheat", "loaf", "5pc"))
        self.assertEqual(words_of("Crème FRAÎCHE"), ("cremefraiche",))

    def test_british_and_american_words_and_slips(self) -> None:
        for text in ("courgettes", "zucchini", "courgete", "baby courgette"):
            with self.subTest(text=text):
                self.assertEqual(INDEX.match(text).matches[0].key, "courgette")

    def test_foods_far_apart_are_asked_and_alike_ones_are_not(self) -> None:
        self.assertFalse(INDEX.match("turkey mince").sure)
        self.assertEqual(self.best("turkey mince 85 % lean"), ("turkey85", True))
        self.assertTrue(self.best("salt")[1])  # two kinds that hold the same

    def test_recipes_are_written_raw_unless_they_say_so(self) -> None:
        self.assertEqual(self.best("white rice"), ("rice", True))
        self.assertEqual(self.best("white rice", state="cooked"), ("rice-boiled", True))
        self.assertEqual(self.best("black beans", state="canned-drained"), ("beans", True))
        self.assertEqual(self.best("black beans", state="dry"), ("beans-dry", True))

    def test_the_way_of_cooking_tells_two_cooked_entries_apart(self) -> None:
        self.assertEqual(self.best("chicken breast", state="cooked", note="poached"), ("chicken-poached", True))
        self.assertEqual(self.best("roast chicken breast", state="cooked"), ("chicken-roast", True))

    def test_usual_words_name_their_food_if_it_is_here(self) -> None:
        self.assertEqual(self.best("stock"), ("salt", True))
        self.assertEqual(INDEX.match("egg").matches, ())

    def test_words_that_may_stand_with_a_usual_one_are_used_and_others_make_it_unsure(self) -> None:
        self.assertEqual(self.best("easy cook rice"), ("rice", True))
        self.assertEqual(self.best("rice", note="rinsed well"), ("rice", True))
        self.assertEqual(self.best("rice", note="krispie"), ("rice", False))
        self.assertEqual(self.best("turkey"), ("turkey99", False))

    def test_a_word_that_makes_another_food_never_drops_out(self) -> None:
        for form in sorted(FORMS):
            with self.subTest(form=form):
                self.assertFalse(INDEX.match(f"rice {form}").sure)
                self.assertFalse(INDEX.match("rice", note=form).sure)

    def test_what_denies_or_offers_another_food_makes_it_unsure(self) -> None:
        for text in (
            "rice or beans",
            "rice, not white",
            "rice without salt",
            "white rice instead of salt",
            "rice, no salt",
        ):
            with self.subTest(text=text):
                reading = read_line(f"300 g {text}")
                self.assertFalse(INDEX.match(reading.food, state=reading.state, note=reading.note).sure)

    def test_a_slip_of_the_pen_is_no_other_word(self) -> None:
        foods = [food("flour", "Potato flour", "dry"), food("chicken", "Chicken breast")]
        index = FoodIndex(foods)
        self.assertEqual([m.key for m in index.match("chiken breast").matches], ["chicken"])
        self.assertTrue(index.match("chiken breast").sure)
        self.assertFalse(index.match("floury potatoes").sure)

    def test_an_own_food_typed_as_it_is_called_always_wins(self) -> None:
        for name in ("Hot sauce, mine", "Rice", "Stock", "Salt (table)", "Grandma's rice, white"):
            with self.subTest(name=name):
                own = food("own", name, kcal=1, own=True)
                reading = read_line(f"100 g {name}")
                found = FoodIndex([*FOODS, own], INDEX.usual).match(reading.food, note=reading.note)
                self.assertEqual((found.matches[0].key, found.sure), ("own", True))

    def test_what_this_kitchen_has_answered_holds_for_the_same_words_only(self) -> None:
        index = FoodIndex(FOODS, [*INDEX.usual, Usual(words="turkey ground", key="turkey85", answered=True)])
        for text, key, sure in (
            ("turkey mince", "turkey85", True),
            ("turkey mince, finely chopped", "turkey85", True),
            ("turkey mince 99 % fat free", "turkey99", True),
            ("turkey mince smoked", "turkey85", False),
        ):
            with self.subTest(text=text):
                found = index.match(text)
                self.assertEqual((found.matches[0].key, found.sure), (key, sure))

    def test_the_lists_of_words_are_written_as_they_are_compared(self) -> None:
        self.assertEqual(FORMS & NOT_MATTERING, frozenset())
        for word in sorted(FORMS | NOT_MATTERING):
            with self.subTest(word=word):
                self.assertIn(words_of(word), ((word,), ()))

    def test_a_lean_share_one_point_beside_is_the_same_mince(self) -> None:
        for text, sure in (
            ("turkey mince 86% lean", True),
            ("turkey mince, 16% fat", True),
            ("turkey mince 5% fat", False),
        ):
            with self.subTest(text=text):
                self.assertEqual(INDEX.match(text).sure, sure)

    def test_only_meat_is_another_food_when_minced(self) -> None:
        self.assertIn("ground", words_of("500 g turkey, minced"))
        for text in ("1 jalapeño, seeded and minced", "minced garlic", "ginger, peeled and finely minced"):
            with self.subTest(text=text):
                self.assertNotIn("ground", words_of(text))

    def test_how_it_is_cut_says_nothing_of_the_food_up_to_the_comma(self) -> None:
        for text, telling in (
            ("courgettes, sliced into half moons", ("zucchini",)),
            ("potatoes, cut into chips, skin on", ("potato", "skinon")),
            ("tuna, chopped in oil", ("tuna", "inoil")),
            ("garlic, crushed with the side of a knife", ("garlic",)),
            ("celery root, trimmed", ("celery", "root")),
            ("carrots, roots trimmed", ("carrot",)),
            ("6 tomatoes, crushed", ("tomato",)),
        ):
            with self.subTest(text=text):
                found = tuple(word for word in telling_words(text) if not word.isdigit())
                self.assertEqual(found, telling)

    def test_fat_of_minced_meat_is_told_as_lean(self) -> None:
        self.assertEqual(telling_words("beef mince, 5% fat"), ("beef", "ground", "95pc", "lean"))
        self.assertEqual(telling_words("lean ground beef (95% lean)"), ("lean", "ground", "beef", "95pc"))
        self.assertEqual(telling_words("2 % fat Greek yoghurt"), ("2", "2pc", "greek", "yogurt")[1:])
        self.assertFalse(set(telling_words("roast chicken, boiled rice")) & STATE_WORDS)

    @given(st.sampled_from(["stock", "rice", "turkey mince 85 % lean", "salt", "black beans", "own rice"]))
    def test_a_score_is_a_share(self, text: str) -> None:
        scores = [match.score for match in INDEX.match(text).matches]
        self.assertTrue(all(0 <= score <= 1 for score in scores), scores)
        self.assertEqual(scores, sorted(scores, reverse=True))

    def test_six_foods_are_proposed_unless_more_are_wanted(self) -> None:
        index = FoodIndex([food(f"bean-{n}", f"Beans, kind {n}", kcal=10 * n) for n in range(1, 10)])
        self.assertEqual(len(index.match("beans").matches), 6)
        self.assertEqual(len(index.match("beans", limit=8).matches), 8)

    def test_nothing_fits_nothing(self) -> None:
        for text in ("", "dragonfruit", "of the", "12"):
            with self.subTest(text=text):
                self.assertFalse(INDEX.match(text).sure)

    @given(st.permutations(FOODS), st.sampled_from(["turkey mince", "salt", "white rice", "chiken", "beans black"]))
    def test_the_order_of_the_foods_does_not_matter(self, foods: list[FoodName], text: str) -> None:
        self.assertEqual(FoodIndex(foods, INDEX.usual).match(text), INDEX.match(text))

    @given(st.sampled_from(FOODS))
    def test_a_food_is_found_by_its_own_name_and_state(self, one: FoodName) -> None:
        keys = [match.key for match in INDEX.match(one.name, state=one.state, note=one.method).matches]
        self.assertIn(one.key, keys[:2])

    def test_an_own_food_wins_over_its_equal(self) -> None:
        own = replace(FOODS[3], key="own-rice", own=True)
        self.assertEqual(FoodIndex([*FOODS, own]).match("rice white long grain").matches[0].key, "own-rice")


class Searching(unittest.TestCase):
    def test_words_by_their_beginnings_in_any_order(self) -> None:
        self.assertEqual(INDEX.search("tur gro"), ["turkey99", "turkey85"])
        self.assertEqual(INDEX.search("ground TURKEY 99"), ["turkey99"])
        self.assertEqual(INDEX.search("courg"), ["courgette"])

    def test_named_so_first_and_uncooked_before_cooked(self) -> None:
        self.assertEqual(INDEX.search("rice"), ["rice", "rice-boiled"])

    def test_what_is_plain_before_what_is_made_of_it(self) -> None:
        foods = [
            food("cube", "Chicken stock cube", "dry"), food("bacon", "Turkey bacon"), food("mince", "Ground turkey"),
            food("thigh", "Chicken thigh"), food("breast", "Turkey breast"), food("soup", "Noodles with turkey"),
        ]  # fmt: skip
        index = FoodIndex(foods)
        self.assertEqual(index.search("turkey"), ["breast", "mince", "bacon", "soup"])
        self.assertEqual(index.search("chick"), ["thigh", "cube"])

    def test_words_that_no_name_holds_are_found_by_what_they_mean(self) -> None:
        index = FoodIndex(FOODS, [Usual(words="gammon", key="chicken-roast")])
        self.assertEqual(index.search("gammon"), ["chicken-roast"])
        self.assertEqual(index.search("gammon", group="grains"), [])
        self.assertEqual(index.search("courgettes, minced")[:1], ["courgette"])

    def test_filters_and_slips(self) -> None:
        self.assertEqual(INDEX.search("beans", state="dry"), ["beans-dry"])
        self.assertEqual(INDEX.search("b", group="poultry"), ["chicken-poached", "chicken-roast"])
        self.assertEqual(INDEX.search("turkye"), INDEX.search("turkey"))
        self.assertEqual(INDEX.search("créme"), ["creme"])
        self.assertEqual(INDEX.search("xyzzy"), [])
        self.assertEqual(INDEX.search("%"), [])

    @given(st.text(alphabet="abcdefghijklmnopqrstuvwxyz ", max_size=12), st.text(alphabet="abcdefghijklm", max_size=3))
    def test_typing_on_never_adds_foods_while_something_fits(self, text: str, more: str) -> None:
        wide = set(INDEX.search(text))
        if wide and all(INDEX._beginning(word) for word in f"{text}{more}".split()):
            self.assertLessEqual(set(INDEX.search(f"{text}{more}")), wide)


class Proposals(unittest.TestCase):
    MEASURES: ClassVar = {"rice": [Measure(name="cup", grams=185)]}

    def test_flags_say_what_is_left_to_the_coach(self) -> None:
        cases = {
            "300 g white rice": set(),
            "1 cup white rice": set(),
            "2-3 cups white rice": {Flag.RANGE},
            "2 sticks white rice": {Flag.NO_MEASURE},
            "white rice": {Flag.NO_AMOUNT},
            "salt to taste": {Flag.TO_TASTE, Flag.ASSUMED},
            "1 cup (300 g) white rice": {Flag.DISAGREE},
            "500 g turkey mince": {Flag.UNSURE_FOOD},
            "500 g dragonfruit": {Flag.UNKNOWN_FOOD},
        }
        for text, flags in cases.items():
            with self.subTest(text=text):
                self.assertEqual(propose(read_line(text), INDEX, self.MEASURES).flags, flags)

    def test_a_weight_beside_a_count_may_be_that_of_one(self) -> None:
        measures = {"courgette": [Measure(name="medium", grams=200)]}
        for text, grams, asked in (
            ("6 courgettes 180 g", 1080, True),  # near one of them, and far from six
            ("6 courgettes 1.2 kg", 1200, False),
            ("6 courgettes 340 g", 2040, True),
            ("6 courgettes 370 g", 370, False),  # neither
            ("6 courgettes 100 g", 100, False),
            ("2 courgettes 210 g", 420, True),
            ("2 courgettes 250 g", 250, False),  # two small ones
            ("1 courgette 180 g", 180, False),
            ("6 courgettes 180 g each", 1080, False),
        ):
            with self.subTest(text=text):
                found = propose(read_line(text), INDEX, measures)
                self.assertEqual(found.amount and round(found.amount.grams, 6), grams)
                self.assertEqual(Flag.TWO_READINGS in found.flags, asked)

    def test_both_weights_of_a_line_are_used(self) -> None:
        peeled = propose(read_line("1 kg courgettes (850 g peeled)"), INDEX, {})
        self.assertEqual((peeled.amount and peeled.amount.grams, round(peeled.refuse_share, 9)), (1000, 0.15))
        shell = propose(read_line("1 kg courgettes (10 g peeled)"), INDEX, {})
        self.assertEqual(shell.refuse_share, 0.95)
        for text, grams in (
            ("2 x 400 g tins black beans (240 g drained)", 480),
            ("1 tin (400 g, 240 g drained) black beans", 240),
        ):
            with self.subTest(text=text):
                drained = propose(read_line(text), INDEX, {})
                self.assertEqual(drained.refuse_share, 0)
                assert drained.amount is not None
                self.assertEqual((drained.amount.low, drained.amount.grams, drained.amount.high), (grams, grams, grams))

    def test_weights_that_contradict_and_numbers_left_over_are_asked_about(self) -> None:
        for text, asked in (
            ("8 oz (300 g) white rice", True),
            ("8 oz (227 g) white rice", False),
            ("8 oz (238 g) white rice", False),  # 4.7 % apart
            ("8 oz (239 g) white rice", True),  # 5.1 %
            ("300 g white rice, 2", True),
            ("300 g white rice, cut into 2", False),
        ):
            with self.subTest(text=text):
                found = propose(read_line(text), INDEX, {})
                self.assertEqual(Flag.TWO_READINGS in found.flags, asked)
                self.assertEqual("give the grams that are meant" in found.trouble, asked)

    def test_the_first_reason_why_there_is_no_weight_is_told(self) -> None:
        found = propose(read_line("2 sticks (1 jar) white rice"), INDEX, {})
        self.assertIsNone(found.amount)
        self.assertIn("no weight for a", found.trouble)

    def test_both_readings_are_told(self) -> None:
        found = propose(read_line("2 packs (500 g) white rice"), INDEX, {})
        self.assertEqual(found.trouble, "this can be 500 g or 2 x 500 g packet; give the grams that are meant")

    def test_an_answer_ends_the_question_about_the_food(self) -> None:
        found = propose(read_line("500 g turkey mince"), INDEX, {}, answer="turkey99")
        self.assertEqual((found.asks, found.matches[0].key), (False, "turkey99"))

    def test_a_measure_of_the_food_stands_where_a_unit_would(self) -> None:
        found = propose(read_line("2 scoops white rice"), INDEX, {"rice": [Measure(name="scoop", grams=90)]})
        self.assertEqual((found.flags, found.matches[0].key), (set(), "rice"))
        self.assertEqual(found.amount and found.amount.grams, 180)
        unknown = propose(read_line("2 scoops white rice"), INDEX, {})
        self.assertTrue(unknown.asks)
