"""What is in the house of the rowing club's kitchen: fridge, freezer and cupboard."""

from __future__ import annotations

from datetime import date, timedelta

from yantai.core.shopping.house import Keeping
from yantai.work.pantry.reference import reference_id
from yantai.work.shop.inputs import LotInput

_Lot = tuple[str, str, float, float | None, int | None, float | None]
"""A food, how it was written down, its grams and those of one pack [g], the days until its use-by, what was paid."""
_FRIDGE: list[_Lot] = [
    ("greek-yogurt-plain-low-fat", "tub of yoghurt", 320, 500, 3, 1.22),
    ("egg-whole-raw", "box of ten eggs", 580, 580, 16, 2.6),
    ("spinach-raw", "bag of spinach", 250, 250, 2, 1.5),
    ("carrot-raw", "bag of carrots", 640, None, 12, 0.7),
    ("zucchini-with-skin-raw", "courgettes", 900, None, 5, 1.98),
    ("tofu-extra-firm", "2 blocks tofu", 800, 400, 24, 4.4),
    ("pepper-bell-red-raw", "2 red peppers", 320, 160, 6, 1.27),
    ("parsley-fresh-raw", "bunch of parsley", 40, None, 4, None),
]
_FREEZER: list[_Lot] = [
    ("ground-turkey-93-lean-raw", "2 bags turkey mince", 1000, 500, 80, 6.9),
    ("salmon-atlantic-farmed-raw", "4 pieces of salmon", 520, 130, 60, 9.4),
    ("chicken-breast-skinless-raw", "bag of chicken breast", 600, 600, 70, 5.4),
    ("blueberries-raw", "blueberries", 400, None, 150, 3.2),
]
_CUPBOARD: list[_Lot] = [
    ("bulgur-wheat-dry", "large bag of bulgur", 620, 1000, 240, 1.67),
    ("rice-white-long-grain-dry", "sack of rice", 3400, 5000, 300, 5.71),
    ("rice-white-basmati-long-grain-values-dry", "basmati", 450, 1000, 300, 1.31),
    ("oats-rolled-dry", "2 bags oats", 2000, 1000, 180, 2.8),
    ("lentils-red-split-dry", "red lentils", 750, 500, 400, 2.55),
    ("lentils-brown-or-green-dry", "green lentils", 300, 500, 400, 0.96),
    ("quinoa-dry", "quinoa", 220, 500, 200, 1.41),
    ("chickpeas-canned-drained", "3 cans chickpeas", 720, 240, 700, 2.55),
    ("white-cannellini-beans-canned-drained", "4 cans white beans", 960, 240, 700, 3.8),
    ("almonds-raw", "almonds", 180, None, 90, 2.9),
    ("onion-raw", "net of onions", 700, None, None, 0.84),
    ("garlic-raw", "3 heads of garlic", 150, 50, None, 1.2),
    ("millet-dry", "millet", 400, None, 120, None),
]
STAPLES = ("salt-table-dry", "paprika-dry", "cumin-seed-dry")
"""Foods that are always there."""


def in_the_house(today: date) -> list[LotInput]:
    """25 lots, some of which hurry."""
    places = ((Keeping.FRIDGE, _FRIDGE), (Keeping.FREEZER, _FREEZER), (Keeping.CUPBOARD, _CUPBOARD))
    return [
        LotInput(
            food_id=reference_id(key),
            words=words,
            grams=grams,
            pack_g=pack_g,
            place=place,
            opened=pack_g is not None and grams % pack_g != 0,
            use_by=None if days is None else today + timedelta(days=days),
            frozen_on=today - timedelta(days=10) if place is Keeping.FREEZER else None,
            paid=paid,
        )
        for place, lots in places
        for key, words, grams, pack_g, days, paid in lots
    ]
