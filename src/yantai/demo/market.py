"""What the shops by the harbour of Port Alder sell, in packs with made-up prices."""

from __future__ import annotations

from datetime import date, timedelta

from yantai.core.shopping.packs import Sold
from yantai.work.pantry.inputs import PackInput

QUAY, WHOLESALE = "Quay Street Market", "Harbour Wholesale"

_Pack = tuple[str, float, float, str, int]
"""Its name, net weight [g], price, shop, and how many days ago the price was seen."""
_PACKS: dict[str, list[_Pack]] = {
    "ground-turkey-93-lean-raw": [
        ("tray", 400, 3.1, QUAY, 6),
        ("large tray", 1000, 6.9, QUAY, 6),
        ("catering tray", 2500, 15.8, WHOLESALE, 20),
    ],
    "ground-turkey-99-fat-free-raw": [("tray", 400, 3.4, QUAY, 6)],
    "bulgur-wheat-dry": [("bag", 500, 1.6, QUAY, 13), ("large bag", 1000, 2.7, QUAY, 13)],
    "zucchini-with-skin-raw": [("crate", 1000, 2.2, QUAY, 6)],
    "onion-raw": [("net", 1000, 1.2, QUAY, 6)],
    "carrot-raw": [("bag", 1000, 1.1, QUAY, 6)],
    "greek-yogurt-plain-low-fat": [("tub", 500, 1.9, QUAY, 6), ("bucket", 1000, 3.3, WHOLESALE, 20)],
    "rice-white-long-grain-dry": [("bag", 1000, 2.1, QUAY, 13), ("sack", 5000, 8.4, WHOLESALE, 20)],
    "rice-white-basmati-long-grain-values-dry": [("bag", 1000, 2.9, QUAY, 13)],
    "chicken-breast-skinless-raw": [("tray", 600, 5.4, QUAY, 6)],
    "chickpeas-canned-drained": [("can", 400, 0.85, QUAY, 13)],
    "white-cannellini-beans-canned-drained": [("can", 400, 0.95, QUAY, 13)],
    "egg-whole-raw": [("box of ten", 580, 2.6, QUAY, 6)],
    "tofu-extra-firm": [("block", 400, 2.2, QUAY, 120)],
    "spinach-raw": [("bag", 250, 1.5, QUAY, 6)],
    "kale-raw": [("bag", 250, 1.3, QUAY, 6)],
    "oats-rolled-dry": [("bag", 1000, 1.4, QUAY, 13)],
    "lentils-red-split-dry": [("bag", 500, 1.7, QUAY, 13)],
    "lentils-brown-or-green-dry": [("bag", 500, 1.6, QUAY, 13)],
    "quinoa-dry": [("bag", 500, 3.2, QUAY, 120)],
    "salmon-atlantic-farmed-raw": [("side", 800, 14.5, QUAY, 6)],
    "broccoli-raw": [("head", 400, 1.2, QUAY, 6)],
    "pepper-bell-red-raw": [("bag of three", 480, 1.9, QUAY, 6)],
    "potato-with-skin-raw": [("bag", 2000, 2.0, QUAY, 6)],
}
_LOOSE: dict[str, tuple[str, Sold, float, float]] = {
    "cucumber-with-peel-raw": ("cucumber", Sold.PIECE, 350, 0.8),
    "lemon-juice-raw": ("lemon", Sold.PIECE, 110, 0.4),
    "parsley-fresh-raw": ("bunch", Sold.PIECE, 60, 1.2),
    "mint-spearmint-fresh-raw": ("bunch", Sold.PIECE, 30, 1.1),
    "zucchini-with-skin-raw": ("loose", Sold.WEIGHT, 1000, 2.5),
    "onion-raw": ("loose", Sold.WEIGHT, 1000, 1.5),
}
"""What is sold by the piece, which weighs about so much, and by weight, with what the price is for [g]: all at the
quay."""
_DRAINED_G = {"chickpeas-canned-drained": 240, "white-cannellini-beans-canned-drained": 240}


_EARLIER: dict[str, list[tuple[float, int]]] = {
    "ground-turkey-93-lean-raw": [(2.7, 95), (2.9, 60), (3.0, 34)],
    "greek-yogurt-plain-low-fat": [(1.7, 90), (1.95, 45)],
    "egg-whole-raw": [(2.2, 110), (2.4, 70), (2.75, 30)],
    "rice-white-long-grain-dry": [(1.9, 100), (2.0, 50)],
    "zucchini-with-skin-raw": [(1.6, 80), (1.8, 50), (2.4, 20)],
}
"""What the smallest pack of a food cost so many days ago."""


def priced_before(today: date) -> list[tuple[str, PackInput]]:
    """What packs cost in the months before, in the order in which it was seen."""
    found = []
    for key, prices in _EARLIER.items():
        name, grams, _, shop, _ = _PACKS[key][0]
        for price, ago in prices:
            seen = today - timedelta(days=ago)
            found.append((key, PackInput(name=name, grams=grams, price=price, shop=shop, seen_on=seen)))
    return sorted(found, key=lambda one: str(one[1].seen_on))


def priced(today: date) -> dict[str, list[PackInput]]:
    """The packs of foods by their reference, with the days on which their prices were seen."""
    found = {
        key: [
            PackInput(
                name=name,
                grams=grams,
                drained_g=_DRAINED_G.get(key),
                price=price,
                shop=shop,
                seen_on=today - timedelta(days=ago),
            )
            for name, grams, price, shop, ago in packs
        ]
        for key, packs in _PACKS.items()
    }
    for key, (name, sold, grams, price) in _LOOSE.items():
        seen_on = today - timedelta(days=6)
        loose = PackInput(name=name, grams=grams, price=price, shop=QUAY, seen_on=seen_on, sold=sold)
        found.setdefault(key, []).append(loose)
    return found
