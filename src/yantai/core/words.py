"""Words of the kitchen as they are compared: without accents and plurals, British and American spelling alike."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Collection, Iterable, Mapping

SAME_WORD: Mapping[str, str] = {
    "mince": "ground", "minced": "ground", "courgette": "zucchini", "aubergine": "eggplant", "rocket": "arugula",
    "prawn": "shrimp", "coriander": "cilantro", "yoghurt": "yogurt", "garbanzo": "chickpea", "capsicum": "pepper",
    "chili": "chilli", "chile": "chilli", "chilly": "chilli", "chily": "chilli", "scallion": "spring onion",
    "beet": "beetroot", "swede": "rutabaga", "wholemeal": "whole wheat", "wholewheat": "whole wheat",
    "wholegrain": "whole wheat", "tinned": "canned", "houmous": "hummus", "skinned": "skinless", "natural": "plain",
    "cornflour": "cornstarch", "linseed": "flax", "groundnut": "peanut", "haloumi": "halloumi", "tumeric": "turmeric",
    "broth": "stock", "caster": "granulated", "ff": "nonfat", "fatfree": "nonfat", "soya": "soy", "maize": "corn",
}  # fmt: skip
"""A word to the one that is compared in its place."""

_IRREGULAR = {"leaves": "leaf", "halves": "half", "loaves": "loaf", "calves": "calf", "knives": "knife"}

_ENDING_IN_IS = frozenset(("anis", "basis", "cassis", "coulis", "iris", "oasis", "this", "is"))


def folded(text: str) -> str:
    """Lower case without accents."""
    decomposed = unicodedata.normalize("NFKD", text.casefold())
    return "".join(char for char in decomposed if not unicodedata.combining(char))


def folded_words(text: str) -> list[str]:
    """Words as they are written, in lower case and without accents."""
    return re.findall(r"[a-z0-9]+", folded(text))


def singular(word: str) -> str:
    """A word in the singular, as far as endings tell; the singular of a singular is itself.

    >>> [singular(word) for word in ("eggs", "anchovies", "tomatoes", "radishes", "hummus", "cookies", "cookie")]
    ['egg', 'anchovy', 'tomato', 'radish', 'hummus', 'cooky', 'cooky']
    """
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if len(word) < 4 or word.endswith(("ss", "us")) or word in _ENDING_IN_IS:
        return word
    if word.endswith("ies"):
        return word[:-3] + "y" if len(word) > 4 else word[:-1]
    if word.endswith(("oes", "shes", "ches", "xes", "uses")):
        return word[:-2]
    word = word[:-1] if word.endswith("s") else word
    # "Cookie" and "cookies" meet in one word, as do "cherry" and "cherries".
    return word[:-2] + "y" if word.endswith("ie") and len(word) > 4 else word


def same_words(words: Iterable[str], *, keep: Collection[str] = ()) -> tuple[str, ...]:
    """Words in the singular and in the one spelling that is compared; those in `keep` stay what they are.

    >>> same_words(["courgettes", "wholemeal"])
    ('zucchini', 'whole', 'wheat')
    """
    found: list[str] = []
    for word in map(singular, words):
        found += [word] if word in keep else SAME_WORD.get(word, word).split()
    return tuple(found)
