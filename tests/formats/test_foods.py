from __future__ import annotations

import unittest

from yantai.core.foods.energy import Carbohydrate
from yantai.formats import food_csv
from yantai.formats.documents import BadFile

ABBREVIATED = (
    "NDB_No,Shrt_Desc,Water_(g),Energ_Kcal,Protein_(g),Lipid_Tot_(g),Ash_(g),Carbohydrt_(g),Fiber_TD_(g),Sugar_Tot_(g),"
    "Sodium_(mg),FA_Sat_(g)\n"
    "01001,QUARK PLAIN,82.0,67,12.3,0.2,0.7,4.0,0,4.0,40,0.1\n"
)
TAGGED = "Food name,ENERC_KJ,PROCNT_G,CHOAVL_G,FAT_G,FIBTG_G,NA_MG,ENERC_KCAL\nOat drink,190,1.0,6.6,1.5,0.8,40,45\n"


class Layouts(unittest.TestCase):
    def test_public_tables_are_recognised(self) -> None:
        for text, layout, name, protein in (
            (ABBREVIATED, "food-composition table, abbreviated columns", "QUARK PLAIN", 12.3),
            (TAGGED, "food-composition table, component tags", "Oat drink", 1.0),
        ):
            with self.subTest(layout=layout):
                table = food_csv.read(text)
                self.assertEqual(table.layout, layout)
                self.assertEqual(table.bad, [])
                (row,) = table.rows
                self.assertEqual((row.name, row.stated.protein_g), (name, protein))
                self.assertEqual(row.stated.sodium_mg, 40)

    def test_separators_commas_and_servings(self) -> None:
        table = food_csv.read(
            "Name;Protein;Carbs;Fat;Salt;Serving\nBar;5,5;20;8;0,25;50\n", carbohydrate=Carbohydrate.AVAILABLE
        )
        (row,) = table.rows
        self.assertEqual((row.stated.protein_g, row.stated.carbohydrate_g, row.stated.fat_g), (11, 40, 16))
        self.assertAlmostEqual(row.stated.sodium_mg or 0, 200)  # 0.25 g salt in 50 g: 0.5 g, 400 mg to the gram
        self.assertIs(row.stated.carbohydrate, Carbohydrate.AVAILABLE)

    def test_a_mapping_wins_over_the_headings(self) -> None:
        text = "what,a,b,c\nRice,7,79,1\n"
        self.assertEqual(food_csv.read(text).rows, [])
        columns = {"name": "what", "protein_g": "a", "carbohydrate_g": "b", "fat_g": "c"}
        (row,) = food_csv.read(text, columns=columns).rows
        self.assertEqual((row.name, row.stated.carbohydrate_g), ("Rice", 79))
        with self.assertRaises(BadFile):
            food_csv.read(text, columns=columns | {"fat_g": "d"})

    def test_missing_is_not_zero_and_a_trace_is_none(self) -> None:
        (row,) = food_csv.read("name,protein,carbs,fat,fibre,sugars\nX,1,2,3,,tr\n").rows
        self.assertIsNone(row.stated.fibre_g)
        self.assertEqual(row.stated.sugars_g, 0)


class BadLines(unittest.TestCase):
    def test_every_one_is_reported_with_its_line(self) -> None:
        table = food_csv.read(
            "name,protein,carbs,fat\nGood,10,10,10\n,1,1,1\nWords,x,1,1\nMissing,,1,1\nTooMuch,60,60,60\nNegative,-1,2,3\n"
        )
        self.assertEqual([row.name for row in table.rows], ["Good"])
        self.assertEqual([bad.line for bad in table.bad], [3, 4, 5, 6, 7])
        self.assertEqual([bad.column for bad in table.bad][1:3], ["protein", "protein"])
        self.assertIn("180 g in 100 g", table.bad[3].message)

    def test_files_that_are_none(self) -> None:
        for text, words in {
            "name\nX": "first line must hold the headings",
            "name,protein\n\ufffd,1": "CSV UTF-8",
            "x" * 12_000_001: "Split it",
            'name,protein\n"open,1' + "x" * 200_000: "no CSV",
        }.items():
            with self.subTest(words=words), self.assertRaises(BadFile) as caught:
                food_csv.read(text)
            self.assertIn(words, str(caught.exception))
