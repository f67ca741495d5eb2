"""Allergens of foods against what a client must avoid."""

from __future__ import annotations

from collections.abc import Collection

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
