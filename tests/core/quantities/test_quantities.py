from __future__ import annotations

import contextlib
import unittest

from hypothesis import given
from hypothesis import strategies as st

from yantai.core.errors import CoreError, NoSuchUnit
from yantai.core.quantities import (
    Measure,
    Quantity,
    Unreadable,
    apart,
    disagreements,
    read_line,
    read_quantity,
    to_grams,
    weighings_g,
    weight_g,
)
from yantai.core.quantities.quantity import UNIT_WORDS, Kind, kind_of
from yantai.core.quantities.units import Spoons, millilitres

OUNCE = 28.349523125  # exact, by the international agreement of 1959
US_CUP = 236.5882365  # 231 cubic inches to the gallon, 16 cups in it


class Reading(unittest.TestCase):
    def test_what_people_write(self) -> None:
        cases = {
            "500 g": (500, 500, "g"),
            "1.2kg": (1.2, 1.2, "kg"),
            "1,5 kg": (1.5, 1.5, "kg"),  # a comma may be the point
            "1,200 g": (1200, 1200, "g"),  # or part thousands
            "½ tsp": (0.5, 0.5, "tsp"),
            "1½ cups": (1.5, 1.5, "cup"),
            "1 1/2 cups": (1.5, 1.5, "cup"),
            "3/4 cup": (0.75, 0.75, "cup"),
            "2-3 cloves": (2, 3, "clove"),
            "2–3 tbsp": (2, 3, "tbsp"),
            "1 to 2 teaspoons": (1, 2, "tsp"),
            "a pinch": (1, 1, "pinch"),
            "half a cup": (0.5, 0.5, "cup"),
            "two dozen": (24, 24, "piece"),
            "2 dozen": (24, 24, "piece"),
            "6 fl oz": (6, 6, "fl oz"),
            "3": (3, 3, "piece"),
            "812 - 764 g": (48, 48, "g"),  # weighing by difference
            "412+380 g": (792, 792, "g"),
            "2-1/2 lb": (2.5, 2.5, "lb"),  # a mixed number with a hyphen
            "1-½ kg": (1.5, 1.5, "kg"),
            "1 1/4-cup": (1.25, 1.25, "cup"),
            "4 1/2-ounces": (4.5, 4.5, "oz"),
            "1 500 g": (1500, 1500, "g"),  # thousands by a space, thin or wide, an apostrophe, a point
            "12\u202f000 g": (12000, 12000, "g"),
            "2'500 g": (2500, 2500, "g"),
            "1.234,5 g": (1234.5, 1234.5, "g"),
            "1,250 kg": (1.25, 1.25, "kg"),  # no line holds a tonne
            "0,750 kg": (0.75, 0.75, "kg"),
            "a pound and a half": (1.5, 1.5, "lb"),
            "a kilo and a half": (1.5, 1.5, "kg"),
            "half a pound": (0.5, 0.5, "lb"),
            "three quarters of a pound": (0.75, 0.75, "lb"),
            "one and a half cups": (1.5, 1.5, "cup"),
            "half a dozen": (6, 6, "piece"),
            "1/2 dozen": (6, 6, "piece"),
            "1 doz.": (12, 12, "piece"),
            "1 T": (1, 1, "tbsp"),
            "1 t.": (1, 1, "tsp"),
            "2 c.": (2, 2, "cup"),
            "2 qt.": (2, 2, "quart"),
            "1/2 gal.": (0.5, 0.5, "gallon"),
            "8 fl. oz.": (8, 8, "fl oz"),
            "1 stick": (1, 1, "stalk"),
            "eighteen": (18, 18, "piece"),
            "2 level tbsp": (2, 2, "tbsp"),
            "2 dessertspoons": (4, 4, "tsp"),
        }
        for text, (low, high, unit) in cases.items():
            with self.subTest(text=text):
                read = read_quantity(text)
                self.assertEqual((read.low, read.high, read.unit), (low, high, unit))

    def test_every_number_in_words(self) -> None:
        by_hand = {
            "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9,
            "ten": 10, "eleven": 11, "twelve": 12, "fifteen": 15, "sixteen": 16, "eighteen": 18, "twenty": 20,
            "thirty": 30, "forty": 40, "fifty": 50,
        }  # fmt: skip
        for word, number in by_hand.items():
            with self.subTest(word=word):
                self.assertEqual(read_quantity(word).amount, number)
                self.assertEqual(read_quantity(f"{word} cups").amount, number)
                self.assertEqual(read_quantity(f"{word} and a half cups").amount, number + 0.5)
                self.assertEqual(read_quantity(f"{word} dozen").amount, 12 * number)
        for part, share in (("half", 1 / 2), ("quarter", 1 / 4), ("third", 1 / 3)):
            with self.subTest(part=part):
                self.assertAlmostEqual(read_quantity(f"a {part} of a cup").amount, share)
                self.assertAlmostEqual(read_quantity(f"2 and a {part} cups").amount, 2 + share)
        self.assertAlmostEqual(read_quantity("two thirds of a cup").amount, 2 / 3)

    def test_numbers_spoken_up_to_a_thousand(self) -> None:
        teens = ("thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen")
        small = (
            "one",
            "two",
            "three",
            "four",
            "five",
            "six",
            "seven",
            "eight",
            "nine",
            "ten",
            "eleven",
            "twelve",
            *teens,
        )
        tens = ["twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety"]

        def below_a_hundred(number: int, between: str) -> str:
            if number < 20:
                return small[number - 1]
            ones = small[number % 10 - 1] if number % 10 else ""
            return f"{tens[number // 10 - 2]}{between if ones else ''}{ones}"

        for number in range(1, 1000):
            hundreds, rest = divmod(number, 100)
            for between in (" ", "-"):
                for joined in (" and ", " "):
                    last = below_a_hundred(rest, between) if rest else ""
                    first = f"{small[hundreds - 1]} hundred" if hundreds else ""
                    spoken = f"{first}{joined if first and last else ''}{last}"
                    with self.subTest(spoken=spoken):
                        self.assertEqual(read_quantity(f"{spoken} grams").amount, number)
        self.assertEqual(read_quantity("a hundred grams").amount, 100)
        self.assertEqual(read_quantity("a hundred and fifty ml").amount, 150)

    def test_one_amount_in_every_writing(self) -> None:
        words = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve")
        parts = {"half": ("1/2", "½", "5"), "quarter": ("1/4", "¼", "25")}
        for whole, word in enumerate(words, 1):
            for part, (fraction, glyph, decimals) in parts.items():
                value = float(f"{whole}.{decimals}")
                for written in (
                    f"{whole}.{decimals}", f"{whole},{decimals}", f"{whole} {fraction}", f"{whole}-{fraction}",
                    f"{whole}{glyph}", f"{whole} {glyph}", f"{whole}-{glyph}", f"{whole} and {fraction}",
                    f"{whole} & {fraction}", f"{whole} and a {part}", f"{word} and a {part}", f"{word}-and-a-{part}",
                    f"{word} and one {part}", f"{word} & a {part}", f"{whole} and one-{part}",
                ):  # fmt: skip
                    for unit in ("cups", "kg", "lb", "tbsp", "litres"):
                        with self.subTest(written=written, unit=unit):
                            line = read_line(f"{written} {unit} chicken stock")
                            self.assertEqual(line.quantities[0].amount, value)
                            self.assertEqual((line.food, line.note, line.unread), ("chicken stock", "", ""))
        for spelled in ("two-thirds of a cup", "2/3 cup", "⅔ cup", "two thirds cup", "two thirds of a cup"):
            with self.subTest(spelled=spelled):
                self.assertAlmostEqual(read_line(f"{spelled} oats").quantities[0].amount, 2 / 3)

    def test_so_many_of_so_much_in_every_writing(self) -> None:
        """The number times the weight, or a question; never one of them, and never both added."""
        forms = (
            "{n} x {m} g {u} {f}",
            "{n}x{m}g {u} {f}",
            "{n} {u} x {m}g {f}",
            "{n} {u} of {m} g {f}",
            "{n} {m}g {u} {f}",
            "{n} {u} {f} ({m} g each)",
            "{n} {u} {f}, {m} g each",
            "{f} {n} x {m} g {u}",
            "{f} {n} x {m}g",
            "{n} {u} @ {m}g {f}",
            "{f}, {n} x {m} g",
            "{f} - {n} x {m}g",
            "{f}: {n} x {m} g",
            "{n} × {m}-g {u} {f}",
            "{w} {m}g {u} {f}",
            "{w} {u} {f} ({m}g each)",
            "{n} {u} at {m}g {f}",
            "{f} {n} {u} of {m}g",
            "{f} {m}g x {n}",
            "{m}g x {n} {f}",
            "{f} {n} {u} x {m}g",
            "{f} {n} {u} ({m}g each)",
            "{f} {n} {u} ({m}g)",
            "{n} ({m} g) {u} {f}",
            "{n} {u} ({m} g) {f}",
            "{f} ({n} x {m} g)",
            "{f} ({n} {u} x {m} g)",
            "{n} no. {m}g {u} {f}",
            "{f} x {n} ({m}g each)",
            "{f} x{n} {m}g",
            "{n} x {f} {m}g",
            "{n} x {f} ({m}g)",
            "{n} x {f}, {m} g",
            "{f} {n}x{m}",
        )
        asked = set()
        for number, word in ((2, "two"), (4, "four"), (6, "six")):
            for weight, unit, food in (
                (400, "tins", "tomatoes"),
                (200, "packs", "halloumi"),
                (500, "bags", "frozen peas"),
            ):
                for form in forms:
                    text = form.format(n=number, w=word, m=weight, u=unit, f=food)
                    with self.subTest(text=text):
                        line = read_line(text)
                        if line.other_way or line.unread or not line.quantities:
                            asked.add(form)
                        else:
                            self.assertEqual(to_grams(line.quantities[0], ()).grams, number * weight)
        # A weight in brackets behind several packs may be that of one or of all; a bare product has no unit.
        self.assertEqual(asked, {"{f} {n} {u} ({m}g)", "{n} {u} ({m} g) {f}", "{f} {n}x{m}", "{f} x{n} {m}g"})

    def test_packs_by_x_and_of(self) -> None:
        for text in ("2 bags x 750 g", "2 bags of 750 g", "2 bags of about 750 g", "2 x 750 g bags", "2 bags @ 750 g"):
            with self.subTest(text=text):
                one = read_line(f"{text} green beans").quantities[0]
                self.assertEqual((one.low, one.unit), (2, "bag"))
                self.assertEqual(one.each and (one.each.low, one.each.unit), (750, "g"))

    def test_every_word_of_every_unit(self) -> None:
        for unit, words in UNIT_WORDS.items():
            for word in words:
                with self.subTest(word=word):
                    read = read_quantity(f"2 {word}")
                    self.assertEqual((read.amount, read.unit), (2, unit))

    def test_mixed_units_add_up(self) -> None:
        # 1 lb 2 oz are 18 oz.
        self.assertEqual(str(read_quantity("1 lb 2 oz")), "18 oz")
        self.assertAlmostEqual(to_grams(read_quantity("1 kg + 8 oz"), []).grams, 1000 + 8 * OUNCE, places=6)
        # Each is turned by itself: a teaspoon is a third of a tablespoon here and a quarter of one in Australia.
        flour = [Measure(name="cup", grams=125)]
        for spoons, spoon_ml in ((Spoons.US, 4.92892159375 * 7), (Spoons.METRIC, 35), (Spoons.AUSTRALIAN, 45)):
            with self.subTest(spoons=spoons):
                found = to_grams(read_quantity("2 tbsp + 1 tsp"), flour, spoons=spoons).grams
                self.assertAlmostEqual(found, 125 / US_CUP * spoon_ml, places=3)

    def test_differences_of_volumes_in_cups(self) -> None:
        """A gallon is 16 US cups, a quart 4, a pint 2, a cup 16 tbsp, 48 tsp or 8 fl oz of 29.5735 ml."""
        for text, cups in (
            ("2 gallons - 1 cup", 31), ("2 quarts - 1 cup", 7), ("2 pints - 1 cup", 3), ("2 cups - 4 tbsp", 1.75),
            ("2 cups - 12 tsp", 1.75), ("2 cups - 4 fl oz", 1.5), ("2 cups - 118.294 ml", 1.5),
            ("2 cups - 11.8294 cl", 1.5), ("2 cups - 1.18294 dl", 1.5), ("2 cups - 0.118294 l", 1.5),
        ):  # fmt: skip
            with self.subTest(text=text):
                read = read_quantity(text)
                self.assertEqual(read.unit, "cup")
                self.assertAlmostEqual(read.amount, cups, places=5)
        self.assertEqual(read_quantity("2 cups - 20 tbsp").amount, 0.75)
        self.assertEqual(read_quantity("1 cup - 16 tbsp").amount, 0)
        for text in ("1 cup - 17 tbsp", "1 kg - 36 oz"):
            with self.subTest(text=text), self.assertRaises(Unreadable):
                read_quantity(text)
        for text, ml in (("1 l - 250 ml", 750), ("2 dl - 5 cl", 150)):
            self.assertAlmostEqual(millilitres(read_quantity(text).amount, read_quantity(text).unit), ml)

    def test_sizes_words_and_packs(self) -> None:
        self.assertEqual(read_quantity("2 large").size, "large")
        self.assertTrue(read_quantity("about 300 g").about)
        self.assertTrue(read_quantity("1 heaped tbsp").heaped)
        cans = read_quantity("2 x 400g tins")
        self.assertEqual((cans.low, cans.unit, str(cans.each)), (2, "can", "400 g"))
        self.assertEqual(str(read_quantity("14-oz can")), "1 x 14 oz can")
        self.assertEqual(str(read_quantity("2 400 g cans")), "2 x 400 g can")  # no thousands before a pack
        self.assertEqual(str(read_quantity("1/2 a 400 g tin")), "0.5 x 400 g can")
        self.assertEqual(str(read_quantity("half a 250g block")), "0.5 x 250 g block")

    def test_what_is_none(self) -> None:
        for text in (
            "",
            "many",
            "3 spoonfuls",
            "1/0 cup",
            "g",
            "3 to 2 cups",
            "2 kg + 1 cup",
            "10 - 20 - 30 - g",
            "1 1",
        ):
            with self.subTest(text=text), self.assertRaises(Unreadable) as caught:
                read_quantity(text)
            self.assertIn("write it as", str(caught.exception))

    @given(
        low=st.integers(1, 4000).map(lambda n: n / 8),
        span=st.integers(0, 400).map(lambda n: n / 8),
        unit=st.sampled_from(sorted(UNIT_WORDS)),
        about=st.booleans(),
        heaped=st.booleans(),
        size=st.sampled_from(("", "small", "medium", "large")),
        each=st.none() | st.builds(lambda n: Quantity(low=n, high=n, unit="g"), st.integers(1, 999)),
    )
    def test_reading_what_was_formatted_gives_it_back(self, low, span, unit, about, heaped, size, each) -> None:
        if each is not None:
            quantity = Quantity(low=low, high=low, unit=unit, about=about, each=each)
        else:
            quantity = Quantity(low=low, high=low + span, unit=unit, about=about or heaped, heaped=heaped, size=size)
        if each is not None and kind_of(unit) is not Kind.COUNT:
            return  # "2 x 400 g kg" is nothing
        self.assertEqual(read_quantity(str(quantity)), quantity)

    @given(st.text(max_size=40))
    def test_any_text_is_read_or_refused_in_words(self, text: str) -> None:
        with contextlib.suppress(Unreadable):
            read_quantity(text)
        self.assertEqual(read_line(text).text, text.strip())


class Weights(unittest.TestCase):
    def test_each_weighing_and_what_was_taken_off_it(self) -> None:
        for text, weighings in {
            "1490+1502-310": [(1490, 0), (1502, 310)],
            "1490-310-20+5": [(1490, 330), (5, 0)],
            "1490+0+12": [(1490, 0), (0, 0), (12, 0)],
            "7": [(7, 0)],
        }.items():
            with self.subTest(text=text):
                self.assertEqual(weighings_g(text), weighings)
        self.assertEqual(weight_g("+".join(["1"] * 200)), 200)  # 399 characters
        for wrong in ("+".join(["1"] * 201), "1+", "-5", "10-20", "5 cups"):
            with self.subTest(wrong=wrong), self.assertRaises(CoreError):
                weight_g(wrong)

    def test_sums_and_differences(self) -> None:
        for text, grams in {
            "757": 757,
            "412+380-35": 757,
            "412 + 380 − 35 g": 757,
            "812-764": 48,
            "1.2 kg": 1200,
            "1 lb": 16 * OUNCE,
            "3 oz + 10 g": 3 * OUNCE + 10,
            "0": 0,
        }.items():
            with self.subTest(text=text):
                self.assertAlmostEqual(weight_g(text), grams, places=6)

    def test_a_bare_number_is_in_the_unit_of_the_field(self) -> None:
        self.assertAlmostEqual(weight_g("2+1", unit="oz"), 3 * OUNCE, places=6)

    def test_refusals_say_the_mend(self) -> None:
        for text, words in {
            "3 cups": "give the weight in g",
            "some": "before and after",
            "35-412": "exchanged",
            "2 large": "give the weight",
        }.items():
            with self.subTest(text=text), self.assertRaises(CoreError) as caught:
                weight_g(text)
            self.assertIn(words, str(caught.exception))


class Grams(unittest.TestCase):
    FLOUR = (Measure(name="cup", grams=125), Measure(name="tbsp", grams=7.8))
    ONION = (
        Measure(name="medium (2-1/2 in dia)", grams=110),
        Measure(name="large", grams=150),
        Measure(name="cup, chopped", grams=160),
    )

    def test_a_cup_of_another_kitchen_holds_more(self) -> None:
        # 125 g in 236.588 ml; a metric cup is 250 ml, an imperial one 284.131 ml.
        for spoons, size in ((Spoons.US, US_CUP), (Spoons.METRIC, 250), (Spoons.IMPERIAL, 284.130625)):
            with self.subTest(spoons=spoons):
                found = to_grams(read_quantity("2 cups"), self.FLOUR, spoons=spoons)
                self.assertAlmostEqual(found.grams, 2 * 125 * size / US_CUP, places=3)

    def test_spoons_by_school(self) -> None:
        for spoons, spoon in (
            (Spoons.US, 14.786765),
            (Spoons.METRIC, 15),
            (Spoons.AUSTRALIAN, 20),
            (Spoons.IMPERIAL, 17.758),
        ):
            with self.subTest(spoons=spoons):
                self.assertAlmostEqual(millilitres(1, "tbsp", spoons), spoon, places=3)

    def test_pieces_by_size_and_chopped_cups(self) -> None:
        self.assertEqual(to_grams(read_quantity("2 large"), self.ONION).grams, 300)
        one = to_grams(read_quantity("1"), self.ONION)
        self.assertEqual((one.grams, one.assumed), (110, True))  # no size was written
        self.assertAlmostEqual(to_grams(read_quantity("1 cup"), self.ONION, words=["chopped"]).grams, 160, places=6)

    def test_a_can_is_what_it_drains_to_where_the_food_says(self) -> None:
        beans = [Measure(name="can-drained (400-425 g can)", grams=245)]
        found = to_grams(read_quantity("2 x 400 g tins"), beans)
        self.assertEqual((found.grams, found.assumed), (490, True))
        # A can of another size drains to the same share: 245 of the 412.5 g in the middle.
        small = to_grams(read_quantity("2 x 200 g tins"), beans)
        self.assertAlmostEqual(small.grams, 2 * 200 * 245 / 412.5, places=6)
        self.assertEqual((round(small.low, 3), round(small.high, 3)), (225.697, 249.455))
        self.assertEqual(to_grams(read_quantity("1 x 437 g tin"), beans).grams, 245)  # within 3 % it is that can
        self.assertEqual(to_grams(read_quantity("1 x 4 kg tin"), beans).grams, 4000)  # no can of a kitchen

    def test_cups_of_several_kinds_are_told_where_they_are_far_apart(self) -> None:
        for sliced, assumed in ((115, False), (115.1, True)):
            with self.subTest(sliced=sliced):
                cups = [Measure(name="cup, whole", grams=100), Measure(name="cup, sliced", grams=sliced)]
                found = to_grams(read_quantity("1 cup"), cups)
                self.assertEqual((found.low, found.high, found.assumed), (100, sliced, assumed))
                self.assertFalse(to_grams(read_quantity("1 cup"), cups, words=["sliced"]).assumed)
                plain = [*cups, Measure(name="cup", grams=105)]
                self.assertEqual(
                    (to_grams(read_quantity("1 cup"), plain).grams, to_grams(read_quantity("1 cup"), plain).assumed),
                    (105, False),
                )

    def test_what_is_meant_where_no_cut_is_said(self) -> None:
        almonds = [Measure(name=f"cup, {cut}", grams=grams) for cut, grams in (("ground", 95), ("whole", 143))]
        found = to_grams(read_quantity("1 cup"), almonds)
        self.assertEqual((found.low, found.grams, found.high, found.assumed), (95, 143, 143, True))
        herb = [Measure(name=f"tsp, {cut}", grams=grams) for cut, grams in (("ground", 1.8), ("leaves", 1.0))]
        self.assertEqual(to_grams(read_quantity("1 tsp"), herb).grams, 1)
        # Cuts that fill a cup alike, and either of two that a measure names.
        mushrooms = [Measure(name="cup, pieces or slices", grams=70), Measure(name="cup, whole", grams=96)]
        for word, grams in (("sliced", 70), ("pieces", 70), ("whole", 96), ("", 96)):
            with self.subTest(word=word):
                self.assertEqual(to_grams(read_quantity("1 cup"), mushrooms, words=[word]).grams, grams)
        chopped = [Measure(name="cup, chopped", grams=101), Measure(name="tbsp", grams=7.5)]
        self.assertAlmostEqual(to_grams(read_quantity("1 cup"), chopped, words=["diced"]).grams, 101)
        self.assertAlmostEqual(to_grams(read_quantity("1 cup"), chopped).grams, 101)
        self.assertAlmostEqual(to_grams(read_quantity("1 tbsp"), chopped).grams, 7.5)

    def test_a_part_of_one_is_not_one(self) -> None:
        bread = [Measure(name="baguette, quarter", grams=62), Measure(name="baguette", grams=250)]
        self.assertEqual(to_grams(read_quantity("1"), bread, words=["baguette"]).grams, 250)
        self.assertEqual(to_grams(read_quantity("1"), bread, words=["baguette", "quarter"]).grams, 62)
        with self.assertRaises(NoSuchUnit):
            to_grams(read_quantity("6"), [Measure(name="half", grams=3.5)], words=["dried", "apricots"])
        self.assertEqual(
            to_grams(read_quantity("6"), [Measure(name="half", grams=3.5)], words=["apricot", "halves"]).grams, 21
        )

    def test_one_that_can_be_twice_another_is_asked_about(self) -> None:
        for heavy, asked in ((300, False), (300.1, True)):
            with self.subTest(heavy=heavy):
                heads = [Measure(name="head", grams=150), Measure(name="head", grams=heavy)]
                if asked:
                    with self.assertRaisesRegex(NoSuchUnit, "150 g or 300.1 g"):
                        to_grams(read_quantity("1 head"), heads)
                else:
                    self.assertEqual(to_grams(read_quantity("1 head"), heads).grams, 150)

    def test_nobody_knows_how_large_a_large_can_is(self) -> None:
        can = [Measure(name="can", grams=105), Measure(name="bunch", grams=30)]
        with self.assertRaises(NoSuchUnit):
            to_grams(read_quantity("1 large can"), can)
        self.assertEqual(to_grams(read_quantity("1 medium can"), can).grams, 105)
        self.assertEqual(to_grams(read_quantity("1 large bunch"), can).grams, 30)

    def test_which_of_several_measures_of_a_unit_is_taken(self) -> None:
        """The plain one, else the medium, else one without a size, else any; a choice among sizes is told."""
        plain, medium = Measure(name="spear", grams=15), Measure(name="spear, medium", grams=16)
        green, tip = Measure(name="spear, green", grams=18), Measure(name="spear tip", grams=10)
        for measures, grams, assumed in (
            ([tip, green, medium, plain], 15, True),
            ([tip, green, medium], 16, True),
            ([tip, green], 18, True),
            ([green], 18, False),
            ([tip], 10, False),
        ):
            with self.subTest(measures=[one.name for one in measures]):
                found = to_grams(read_quantity("1 spear"), measures)
                self.assertEqual((found.grams, found.assumed), (grams, assumed))
        pieces = [Measure(name="round, small", grams=10), Measure(name="round, red", grams=14)]
        self.assertEqual(to_grams(read_quantity("1"), pieces).grams, 14)

    def test_a_can_drains_like_the_nearest_size_that_is_known(self) -> None:
        cans = [Measure(name="can-drained (400 g can)", grams=240), Measure(name="can-drained (200 g can)", grams=110)]
        for size, grams in ((400, 240), (200, 110), (250, 250 * 110 / 200), (350, 350 * 240 / 400)):
            with self.subTest(size=size):
                self.assertAlmostEqual(to_grams(read_quantity(f"1 x {size} g tin"), cans).grams, grams)

    def test_any_other_volume_goes_by_the_largest_measure(self) -> None:
        """Half a litre by the cup of 230 g, not by the spoon of 12 g that was weighed less exactly."""
        cream = [Measure(name="cup", grams=230), Measure(name="tbsp", grams=12)]
        self.assertAlmostEqual(to_grams(read_quantity("500 ml"), cream).grams, 500 * 230 / US_CUP, places=6)
        self.assertAlmostEqual(to_grams(read_quantity("2 tbsp"), cream).grams, 24, places=6)

    def test_a_heaped_spoon_is_more_and_told(self) -> None:
        found = to_grams(read_quantity("1 heaped tbsp"), self.FLOUR)
        self.assertAlmostEqual(found.grams, 7.8 * 1.3, places=6)
        self.assertEqual(found.how, "“tbsp” of this food is 7.8 g, heaped")
        self.assertEqual(to_grams(read_quantity("1 tbsp"), self.FLOUR).how, "“tbsp” of this food is 7.8 g")
        self.assertTrue(found.assumed)

    def test_without_a_measure_it_asks(self) -> None:
        for text, measures in (
            ("1 cup", ()),
            ("2 cloves", self.FLOUR),
            ("1 large", self.FLOUR),
            ("a handful", self.ONION),
        ):
            with self.subTest(text=text), self.assertRaises(NoSuchUnit) as caught:
                to_grams(read_quantity(text), measures)
            self.assertIn("Type the grams", str(caught.exception))

    @given(st.floats(0.1, 1000), st.sampled_from(("g", "kg", "oz", "lb")))
    def test_masses_agree_with_the_exact_factors(self, amount: float, unit: str) -> None:
        factor = {"g": 1, "kg": 1000, "oz": OUNCE, "lb": 16 * OUNCE}[unit]
        found = to_grams(Quantity(low=amount, high=amount, unit=unit), ())
        self.assertAlmostEqual(found.grams, amount * factor, delta=1e-9 * amount * factor)


class StatedTwice(unittest.TestCase):
    def check(self, text: str, measures: tuple[Measure, ...] = ()) -> list[tuple[int, int]]:
        found = disagreements(read_line(text).quantities, measures)
        return [(round(one.first_reading), round(one.second_reading)) for one in found]

    def test_more_than_five_percent_apart_is_told_with_both(self) -> None:
        self.assertEqual(self.check("3 oz (150 g) tofu"), [(150, 85)])
        self.assertEqual(self.check("1 lb (500 g) mince"), [(500, 454)])

    def test_agreement_and_rounding_raise_nothing(self) -> None:
        # 1 lb is 453.6 g: 460 g are 1.4 % off; 240 ml are 1.4 % over a US cup.
        for text in ("1 lb (460 g) mince", "1 cup (240 ml) milk", "200 g (7 oz) feta", "1½ lb (680 g) mince"):
            with self.subTest(text=text):
                self.assertEqual(self.check(text), [])

    def test_a_volume_is_compared_by_the_foods_own_measure(self) -> None:
        rice = (Measure(name="cup", grams=185),)
        self.assertEqual(self.check("1 cup (185 g) rice", rice), [])
        self.assertEqual(self.check("1 cup (300 g) rice", rice), [(300, 185)])

    def test_the_distance_is_a_share_of_the_larger(self) -> None:
        self.assertAlmostEqual(apart(85.048569375, 150), 1 - 85.048569375 / 150)
        self.assertEqual(apart(0, 0), 0)


class Lines(unittest.TestCase):
    def test_parts_of_a_line(self) -> None:
        line = read_line("• 2 x 400 g tins chickpeas, drained and rinsed (or one jar)")
        self.assertEqual([str(q) for q in line.quantities], ["2 x 400 g can"])
        self.assertEqual((line.food, line.state), ("chickpeas", "canned-drained"))
        self.assertIn("rinsed", line.note)
        self.assertIn("or one jar", line.note)

    def test_the_metric_weight_is_the_one_to_use(self) -> None:
        self.assertEqual([str(q) for q in read_line("1 1/2 lb (680 g) turkey").quantities], ["680 g", "1.5 lb"])

    def test_packs_their_parts_and_what_one_of_them_weighs(self) -> None:
        cases = {
            "1/2 tin coconut milk (200 ml)": ["200 ml", "0.5 can"],  # the bracket is what goes in
            "half a tub of ricotta (125g)": ["125 g", "0.5 tub"],
            "3 tins (1.2 kg) tomatoes": ["1.2 kg", "3 can"],  # no tin holds that much
            "2 cans (400g each) beans": ["2 x 400 g can"],
            "2 (15-oz) cans beans": ["2 x 15 oz can"],
            "4 pork chops, 180 g each": ["4 x 180 g piece"],
            "8 chicken breasts @ 200g": ["8 x 200 g piece"],
            "3 sea bass fillets about 110 g each": ["3 x 110 g piece"],
            "salmon 8 x 125g": ["8 x 125 g piece"],
            "1 swede, about 600 g": ["about 600 g", "1 piece"],
            "pack of 8 wraps": ["8 piece"],
            "6 eggs (large)": ["6 large piece"],
            "eggs x6 large": ["6 large piece"],
            "feta 1 block 200g": ["200 g", "1 block"],
            "Onions: 4": ["4 piece"],
            "1.5kg/3lb 5oz chicken": ["1.5 kg", "53 oz"],
            "2 lb 3 oz (1 kg) brisket": ["1 kg", "35 oz"],  # the metric weight before a sum of others
            "juice of 2 limes": ["about 2 piece"],
            "2 limes, juiced": ["about 2 piece"],
            "flour 00": [],
        }
        for text, quantities in cases.items():
            with self.subTest(text=text):
                self.assertEqual([str(quantity) for quantity in read_line(text).quantities], quantities)

    def test_two_weights_of_one_food_before_and_after_it_is_prepared(self) -> None:
        for text, left in (
            ("1 kg potatoes (850 g peeled)", "850 g"),
            ("2 kg whole chicken (1.3 kg meat)", "1.3 kg"),
            ("2 x 400 g tins chickpeas (500 g drained)", "500 g"),  # of 800 g
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((len(line.quantities), str(line.prepared)), (1, left))
        self.assertIsNone(read_line("850 g potatoes (1 kg peeled)").prepared)

    def test_what_cans_drain_to_in_all_or_each(self) -> None:
        for text, left, other in (
            ("2 cans chickpeas (480 g drained)", "480 g", ""),
            ("2 cans chickpeas (240 g drained)", "240 g", "240 g drained from each"),
            ("6 tins kidney beans (235 g drained each)", "1410 g", ""),
            ("1 can chickpeas (240 g drained)", "240 g", ""),
            ("3 cans tuna (102 g drained)", "306 g", ""),
            # From 100 to 350 g is what one can drains to.
            ("2 cans tuna (200 g drained)", "200 g", "200 g drained from each"),
            ("2 cans tuna (199 g drained)", "398 g", ""),
            ("2 cans beans (350 g drained)", "350 g", "350 g drained from each"),
            ("2 cans beans (351 g drained)", "351 g", ""),
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((str(line.prepared), line.other_way), (left, other))
                self.assertEqual(len(line.quantities), 1)

    def test_what_comes_on_top_is_added_or_asked_about(self) -> None:
        for text, amount, other in (
            ("2 tbsp olive oil, plus 1 tsp for the pan", "2 tbsp + 1 tsp", ""),
            ("200 g flour, plus 50 g for dusting", "250 g", ""),
            ("200 g flour, plus 1 tbsp for dusting", "200 g", "200 g and 1 tbsp"),
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((str(line.quantities[0]), line.other_way), (amount, other))

    def test_a_number_that_is_not_understood_is_kept_apart(self) -> None:
        for text, unread in (
            ("4 eggs plus 4 egg whites", "eggs plus 4 egg whites"),
            ("mince beef 500", "mince beef 500"),
            ("500 g eggs and two yolks", "eggs and two yolks"),
            ("1 lemon, in half", ""),
            ("500 g beef mince 5 % fat", ""),
            ("2 carrots, cut into 2 cm pieces", ""),
            ("1 pineapple, in 8 wedges", ""),
            ("200 g flour type 405", ""),
            ("6 omega 3 eggs", ""),
            ("50 g chocolate, 70-85% cocoa", ""),
            ("300 g noodles, soaked for 10 minutes", ""),
        ):
            with self.subTest(text=text):
                self.assertEqual(read_line(text).unread, unread)

    def test_the_number_may_stand_behind_the_food(self) -> None:
        for text, amount, food in (
            ("bagels 6", "6 piece", "bagels"),
            ("avocado, 3", "3 piece", "avocado"),
            ("banana 1 medium", "1 medium piece", "banana"),
            ("eggs, large, 8", "8 piece", "eggs"),
            ("garlic 2 bulbs", "2 bulb", "garlic"),
            ("limes 4, juiced", "about 4 piece", "limes juice"),
            ("pepper, red, 6 (about 900 g)", "about 900 g", "pepper"),
            ("pork chops, fat cut off, 8 at 150 g", "8 x 150 g piece", "pork chops"),
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((str(line.quantities[0]), line.food), (amount, food))
        for text in ("omega 3", "type 00", "no 7"):
            with self.subTest(text=text):
                self.assertEqual(read_line(text).quantities, ())

    def test_parts_shares_lengths_and_foreign_spoons(self) -> None:
        for text, amount, food in (
            ("4 lettuce leaves", "4 leaf", "lettuce leaves"),
            ("3 broccoli florets", "3 floret", "broccoli florets"),
            ("12 asparagus spears", "12 spear", "asparagus spears"),
            ("1 broccoli, cut into florets", "1 piece", "broccoli"),
            ("quarter of a white cabbage", "0.25 piece", "white cabbage"),
            ("half a cucumber", "0.5 piece", "cucumber"),
            ("2/3 of a cucumber", "0.666667 piece", "cucumber"),
            ("a couple of carrots", "2 piece", "carrots"),
            ("5 cm piece of ginger", "about 2 knob", "ginger"),
            ("1 (2-inch) piece fresh ginger", "about 2 knob", "fresh ginger"),
            ("2 (1-inch) pieces ginger", "about 2 knob", "ginger"),
            ("3 (4-ounce) chicken breasts", "3 x 4 oz piece", "chicken breasts"),
            ("3 c. à s. huile", "3 tbsp", "huile"),
            ("1 c.à.c. salt", "1 tsp", "salt"),
            ("2 c. stock", "2 cup", "stock"),
            ("half and half 200 g", "200 g", "halfandhalf"),
            ("200 g half-fat cheddar", "200 g", "half-fat cheddar"),
            ("2 rib-eye steaks", "2 piece", "ribeye steaks"),
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((str(line.quantities[0]), line.food), (amount, food))

    def test_metric_volumes_before_cups_and_pints(self) -> None:
        for text in ("1 pint/570ml stock", "1 pint (570 ml) stock", "570 ml (1 pint) stock"):
            with self.subTest(text=text):
                self.assertEqual(str(read_line(text).quantities[0]), "570 ml")

    def test_a_number_that_two_habits_read_differently_has_both_readings(self) -> None:
        for text, one, other in (
            ("1.500 g potatoes", "1500 g", "1.5 g"),
            ("4 150 g cod fillets", "4 x 150 g piece", "4150 g"),
            ("2 packs (500 g) halloumi", "500 g", "2 x 500 g packet"),
            ("2 tins (800 g) beans", "800 g", "2 x 800 g can"),
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((str(line.quantities[0]), line.other_way), (one, other))
        for text in (
            "1.5 kg potatoes",
            "1.500 kg potatoes",
            "1,500 g potatoes",
            "0.250 g salt",
            "2 tins (400 g) beans",
        ):
            with self.subTest(text=text):
                self.assertEqual(read_line(text).other_way, "")

    def test_the_juice_and_the_zest_of_a_fruit_are_measures_of_them(self) -> None:
        for text, food in (
            ("juice of 2 limes", "limes juice"),
            ("the zest of half a lemon", "lemon zest"),
            ("2 limes, juiced", "limes juice"),
        ):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual((line.food, line.quantities[0].about), (food, True))

    def test_a_joint_is_no_cooked_meat(self) -> None:
        self.assertEqual(read_line("1 kg roast chicken").state, "cooked")
        self.assertEqual(read_line("3 lb beef chuck roast").state, "")
        self.assertEqual(read_line("250 g microwave rice").state, "cooked")
        self.assertEqual(read_line("50 g sun-dried tomatoes").state, "")

    def test_words_of_a_state_that_tell_none(self) -> None:
        for text, state in (
            ("1 lettuce, washed and dried", ""),
            ("2 cod fillets, patted dry", ""),
            ("200 g mozzarella, drained", ""),
            ("200 g chickpeas, drained", "canned-drained"),
            ("100 g roasted peanuts", ""),
            ("100 g roasted carrots", "cooked"),
            ("1 kg pork loin roast, boneless", ""),
            ("200 g frozen cooked prawns", "cooked"),
            ("200 g frozen prawns", "frozen"),
            ("100 g rice, instant, precooked", ""),
        ):
            with self.subTest(text=text):
                self.assertEqual(read_line(text).state, state)

    @given(
        st.lists(
            st.sampled_from(("salmon", "smoked", "light", "blimps", "chopped", "with skin on", "for the top", "baby")),
            min_size=1,
            max_size=5,
        ),
        st.lists(st.sampled_from((" ", ", ", " - ", "; ")), min_size=5, max_size=5),
        st.sampled_from(("200 g ", "2 x 150 g tins ", "1 1/2 cups ", "3 large ", "")),
    )
    def test_every_word_of_a_line_is_kept(self, words: list[str], between: list[str], amount: str) -> None:
        text = amount + "".join(word + sign for word, sign in zip(words, between, strict=False)).strip(" ,-;")
        line = read_line(text)
        for word in " ".join(words).split():
            self.assertIn(word, f"{line.food} {line.note}", text)

    def test_nothing_is_dropped(self) -> None:
        for text in ("salt", "oil for frying", "the good stuff", "7 secret spices", "200 g rice to serve"):
            with self.subTest(text=text):
                line = read_line(text)
                self.assertEqual(line.text, text)
                self.assertTrue(line.food)

    def test_to_taste_is_no_missing_amount(self) -> None:
        self.assertTrue(read_line("salt and pepper, to taste").to_taste)
        self.assertFalse(read_line("rice").to_taste)


if __name__ == "__main__":
    unittest.main()
