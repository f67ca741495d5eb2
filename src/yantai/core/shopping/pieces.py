"""Grams of a food as they are picked up in a shop: bunches, heads, medium ones."""

from __future__ import annotations

import math
from collections.abc import Iterable

_PICKED = {
    "bunch": "bunches", "head": "heads", "medium": "medium ones", "piece": "pieces", "bulb": "bulbs", "stalk": "stalks",
    "ear": "ears", "root": "roots", "fruit": "fruits", "cucumber": "cucumbers", "lemon": "lemons", "lime": "limes",
    "orange": "oranges", "clove": "cloves", "large": "large ones", "small": "small ones", "sprig": "sprigs",
}  # fmt: skip
"""Measures that are picked up, the most usual first, with their plural."""
_JUICED = "juice of 1 "
_MOST = 60


def picked_words(grams: float, measures: Iterable[tuple[str, float]]) -> str:
    """So many of the most usual thing that a food is picked up as; measures are names with grams [g]. "" where none is.

    Up to the next half of few, the next whole of many: what is bought has to suffice.

    >>> picked_words(681, [("cup, chopped", 160), ("medium (2-1/2 in dia)", 110)])
    'about 7 medium ones'
    >>> picked_words(67, [("juice of 1 lemon", 45)])
    'the juice of about 1.5 lemons'
    """
    found: dict[str, float] = {}
    juiced: set[str] = set()
    for name, each in measures:
        plain = name.split(",")[0].split("(")[0].strip().casefold()
        if plain.startswith(_JUICED):
            plain = plain.removeprefix(_JUICED)
            juiced.add(plain)
        if plain in _PICKED and each > 0:
            found.setdefault(plain, each)
    for name, many in _PICKED.items():
        if name not in found:
            continue
        count = grams / found[name]
        if not 0.1 <= count <= _MOST:
            continue
        count = math.ceil(2 * count - 0.1) / 2 if count < 3 else math.ceil(count - 0.05)
        noun = many if count > 1 else many.removesuffix("s") if many.endswith("ones") else name
        words = f"about {count:g} {noun}" if count != 0.5 else f"about half a {name if name in many else noun}"
        return f"the juice of {words}" if name in juiced else words
    return ""
