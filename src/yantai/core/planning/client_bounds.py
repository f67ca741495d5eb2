"""What a client has at most of something in one container, whatever the dish."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from yantai.core.errors import require_range
from yantai.core.portions.problem import MAXIMUM_CELL_G
from yantai.core.words import folded_words, same_words


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientBound:
    """At most `maximum_g` [g] in one container of what is called by `word`, alone or among other words."""

    word: str
    maximum_g: float

    def __post_init__(self) -> None:
        require_range("maximum_g", self.maximum_g, low=0, high=MAXIMUM_CELL_G, unit="g")


def most_of(name: str, bounds: Iterable[ClientBound]) -> float | None:
    """What there is at most of a component of this name [g]: the least of the bounds that it is called by, singular and
    plural, British and American; None where there is none.

    >>> most_of("Roast zucchini", [ClientBound(word="courgettes", maximum_g=40)])
    40
    """
    words = set(_words(name))
    found = [bound.maximum_g for bound in bounds if (own := _words(bound.word)) and words.issuperset(own)]
    return min(found, default=None)


def _words(text: str) -> tuple[str, ...]:
    return same_words(folded_words(text))
