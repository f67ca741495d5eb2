"""Allergens of foods against what a client must avoid, words that keep a food out, and disliked words."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable

ALLERGENS: dict[str, str] = {
    "celery": "celery",
    "crustaceans": "crustaceans",
    "eggs": "eggs",
    "fish": "fish",
    "gluten": "gluten",
    "lupin": "lupin",
    "milk": "milk",
    "molluscs": "molluscs",
    "mustard": "mustard",
    "nuts": "nuts",
    "peanuts": "peanuts",
    "sesame": "sesame",
    "soybeans": "soya",
    "sulphites": "sulphites",
    "coconut": "coconut",
}
"""The fourteen of Regulation (EU) 1169/2011, annex II, by the name shown; and coconut, which is none of
them but is often avoided with nuts."""


def conflicts(contained: Collection[str], avoided: Collection[str]) -> list[str]:
    """The allergens in `contained` that must be avoided, by their shown names, sorted."""
    return sorted(ALLERGENS[key] for key in set(contained) & set(avoided))


def disliked(food_names: Iterable[str], dislikes: Collection[str]) -> list[str]:
    """The disliked words that some food's name contains, upper and lower case alike."""
    names = [name.casefold() for name in food_names]
    return [word for word in dislikes if word.strip() and any(word.strip().casefold() in name for name in names)]


def excluded(food_names: Iterable[str], words: Collection[str]) -> list[str]:
    """The words that keep a food out: those that stand in some food's name as a whole, in one or in several.

    >>> excluded(["Eggplant, raw", "Pork shoulder"], ["egg", "pork"])
    ['pork']
    """
    names = [name.casefold() for name in food_names]
    found = []
    for word in words:
        plain = word.strip().casefold()
        whole = re.compile(rf"\b{re.escape(plain)}(s|es)?\b")
        if plain and any(whole.search(name) for name in names):
            found.append(word)
    return found
