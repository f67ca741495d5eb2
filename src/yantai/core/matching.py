"""Which food the words of a line mean, and how sure that is."""

from __future__ import annotations

import math
import re
from bisect import bisect_left
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cache

from rapidfuzz import fuzz, process

from yantai.core.words import SAME_WORD, folded, folded_words, same_words, singular

SURE = 0.82
"""A match is taken without asking from this score on, if no rival of other composition is near."""
RIVAL_WITHIN = 0.06
KNOWN = 2.0
"""The score of a food that the words are known to mean: above any that was computed."""
SAME_PROTEIN_G = 1.5
SAME_KCAL_SHARE = 0.10
"""Rivals whose 100 g lie this near are the same food for the plan (two kinds of table salt)."""
ALIKE = 84
"""rapidfuzz ratio from which a misspelt word counts: "chiken" and "chicken" have 92, "bean" and "bear" 75."""
ALIKE_WHEN_SHOWN = 79
"""The same where the result is only shown: "creme" and "cream" have 80."""

_STOP = frozenset(
    [
        "a",
        "an",
        "and",
        "of",
        "or",
        "the",
        "with",
        "without",
        "in",
        "on",
        "for",
        "to",
        "from",
        "into",
        "your",
        "some",
        "fresh",
        "freshly",
        "finely",
        "roughly",
        "coarsely",
        "thinly",
        "chopped",
        "diced",
        "sliced",
        "minced",
        "grated",
        "crushed",
        "peeled",
        "trimmed",
        "halved",
        "quartered",
        "cubed",
        "torn",
        "shredded",
        "picked",
        "washed",
        "rinsed",
        "drained",
        "deseeded",
        "seeded",
        "pitted",
        "cored",
        "beaten",
        "melted",
        "softened",
        "room",
        "temperature",
        "good",
        "quality",
        "organic",
        "boneless",
        "ripe",
        "few",
        "about",
        "approximately",
        "roughly",
        "total",
        "each",
        "small",
        "medium",
        "large",
        "big",
        "pieces",
        "piece",
        "chunks",
        "bite",
        "sized",
        "size",
        "punnet",
        "if",
        "needed",
        "plus",
        "more",
        "at",
        "least",
        "g",
        "kg",
        "ml",
        "oz",
        "lb",
    ]
)
_STATE_WORDS = frozenset(
    [
        "raw",
        "dry",
        "dried",
        "cooked",
        "boiled",
        "steamed",
        "roasted",
        "roast",
        "grilled",
        "baked",
        "frozen",
        "canned",
        "leftover",
        "uncooked",
        "precooked",
    ]
)


_METHODS: Mapping[str, str] = {
    "roast": "roasted", "roasted": "roasted", "grilled": "grilled", "griddled": "grilled", "baked": "baked",
    "boiled": "boiled", "steamed": "steamed", "poached": "poached", "braised": "braised", "fried": "pan-fried",
    "simmered": "simmered", "stewed": "simmered", "smoked": "smoked", "toasted": "toasted",
}  # fmt: skip
"""Words of a line that say how a cooked food was cooked, to the method of an entry."""


@dataclass(frozen=True, slots=True, kw_only=True)
class FoodName:
    """A food as it can be meant: its name, other names, state, and what tells two apart (per 100 g)."""

    key: str
    name: str
    aliases: tuple[str, ...] = ()
    group: str = ""
    state: str = "raw"
    method: str = ""
    kcal: float = 0.0
    protein_g: float = 0.0
    own: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Match:
    """A food that the words may mean; `score` from 0 to 1."""

    key: str
    score: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Matched:
    """The foods that fit, best first; `sure` when the first can be taken without asking."""

    matches: tuple[Match, ...]
    sure: bool


@cache
def words_of(text: str) -> tuple[str, ...]:
    """Words as they are compared: without accents, plurals, and British or American spelling."""
    plain = re.sub(r"(\d+)\s*%", r"\1pc", folded(text)).replace("fat free", "fatfree").replace("fat-free", "fatfree")
    return same_words(re.findall(r"[a-z0-9]+", plain))


@dataclass(frozen=True)
class FoodIndex:
    """All foods of a kitchen, ready to be matched. Building it takes a pass over the names."""

    foods: Sequence[FoodName]
    usual: Mapping[str, str] = field(default_factory=dict)
    """The food that a plain word means in cooking, by its words ("egg") to the food's key."""

    def __post_init__(self) -> None:
        places: dict[str, set[int]] = defaultdict(set)
        heads, bags = [], []
        for place, food in enumerate(self.foods):
            head = frozenset(words_of(re.sub(r"\([^)]*\)", " ", food.name.partition(",")[0]))) - _STATE_WORDS
            bag = head | frozenset(words_of(" ".join((food.name, *food.aliases, food.method))))
            heads.append(head)
            bags.append(bag)
            for word in bag:
                places[word].add(place)
        plain_places: dict[str, set[int]] = defaultdict(set)
        for place, food in enumerate(self.foods):
            for word in folded_words(" ".join((food.name, *food.aliases, food.state, food.method))):
                plain_places[word].add(place)
        total = max(len(self.foods), 1)
        rarity = {word: 1 + math.log(total / len(found)) for word, found in places.items()}
        usual = {
            _key([word for word in words_of(words) if word not in _STOP]): key for words, key in self.usual.items()
        }
        at = {food.key: place for place, food in enumerate(self.foods)}
        vocabulary = [*places, *(word for word, known in SAME_WORD.items() if known in places)]
        for name, value in (
            ("_places", places), ("_heads", heads), ("_bags", bags), ("_rarity", rarity), ("_usual", usual),
            ("_at", at), ("_vocabulary", vocabulary), ("_plain_places", plain_places),
            ("_sorted_words", sorted(plain_places)),
        ):  # fmt: skip
            object.__setattr__(self, name, value)

    _places: dict[str, set[int]] = field(init=False, repr=False)
    _heads: list[frozenset[str]] = field(init=False, repr=False)
    _bags: list[frozenset[str]] = field(init=False, repr=False)
    _rarity: dict[str, float] = field(init=False, repr=False)
    _usual: dict[str, str] = field(init=False, repr=False)
    _at: dict[str, int] = field(init=False, repr=False)
    _vocabulary: list[str] = field(init=False, repr=False)
    _plain_places: dict[str, set[int]] = field(init=False, repr=False)
    _sorted_words: list[str] = field(init=False, repr=False)

    def match(self, text: str, *, state: str = "", note: str = "", limit: int = 6) -> Matched:
        """The foods that `text` may mean, best first; `state` is the one that the line names, `note` its rest.

        A word counts by its rarity. The score is the share of the words that the food's names hold, less
        what the food's own name says beyond them. It is sure when the score is high and every near rival
        holds the same per 100 g; else the coach is asked.
        """
        said = [word for word in words_of(text) if word not in _STOP]
        asked = [word for word in said if word not in _STATE_WORDS]
        if not asked:
            return Matched(matches=(), sure=False)
        corrected = [(word, *self._nearest(word)) for word in dict.fromkeys(asked)]
        spelt = {word: known for word, known, fit in corrected if fit > 0}
        usual = self._usual_food([spelt.get(word, word) for word in said], state)
        places = set().union(*(self._places.get(known, ()) for _, known, _ in corrected))
        # Words that mean a fixed food join in even when its own name does not hold them.
        if usual is not None:
            places.add(usual)
        methods = {_METHODS[word] for word in words_of(f"{text} {note}") if word in _METHODS}
        scored = sorted(
            ((self._score(place, corrected, state, methods, place == usual), place) for place in places),
            key=lambda pair: (-pair[0], self.foods[pair[1]].name, self.foods[pair[1]].key),
        )[:limit]
        matches = tuple(Match(key=self.foods[place].key, score=round(min(score, 1.0), 4)) for score, place in scored)
        is_known = usual is not None and scored[0][1] == usual
        return Matched(matches=matches, sure=is_known or self._is_sure(scored))

    def search(self, text: str, *, group: str = "", state: str = "") -> list[str]:
        """Keys of all foods with words that begin like each word of `text`, best first; for showing while one types.

        Foods whose name begins so come first, raw and dry before cooked, short names before long. A word that no
        food has is taken for the nearest one, more widely than when a line is read, since the result is only shown.
        """
        words = folded_words(text)
        if not words:
            return []
        found: set[int] | None = None
        begins = words[0]
        for place, word in enumerate(words):
            hits = self._beginning(word)
            if not hits:
                near = self._nearest_shown(word)
                hits = self._beginning(near)
                begins = near if place == 0 else begins
            found = hits if found is None else found & hits
        fitting = (
            place
            for place in found or ()
            if (not group or self.foods[place].group == group) and (not state or self.foods[place].state == state)
        )
        return [self.foods[place].key for place in sorted(fitting, key=lambda place: self._order(place, begins))]

    def _beginning(self, word: str) -> set[int]:
        """Places of foods with a word that begins like `word`, as it is written or in the singular."""
        found: set[int] = set()
        for start in {word, singular(word)}:
            at = bisect_left(self._sorted_words, start)
            while at < len(self._sorted_words) and self._sorted_words[at].startswith(start):
                found |= self._plain_places[self._sorted_words[at]]
                at += 1
        return found

    def _nearest_shown(self, word: str) -> str:
        near = process.extractOne(word, self._sorted_words, scorer=fuzz.ratio, score_cutoff=ALIKE_WHEN_SHOWN)
        return word if near is None else str(near[0])

    def _order(self, place: int, begins: str) -> tuple[object, ...]:
        food = self.foods[place]
        named = food.name.casefold().startswith(begins)
        uncooked = food.state in ("raw", "dry", "as-sold")
        return not named, not uncooked, len(food.name), food.name, food.state, food.method

    def _usual_food(self, said: list[str], state: str) -> int | None:
        """The food that exactly these words usually mean, with or without the words for its state."""
        stateless = [word for word in said if word not in _STATE_WORDS]
        for words in (said, [*stateless, "canned"] if state == "canned-drained" else stateless):
            place = self._at.get(self._usual.get(_key(words), ""))
            if place is not None and (not state or _fits(self.foods[place].state, state)):
                return place
        return None

    def _nearest(self, word: str) -> tuple[str, float]:
        """The known word that `word` is, or is a slip of, and how well it fits."""
        if word in self._places:
            return word, 1.0
        found = process.extractOne(word, self._vocabulary, scorer=fuzz.ratio, score_cutoff=ALIKE)
        if found is None or len(word) < 4:
            return word, 0.0
        # A misspelt "courgete" stands for the word that is compared in its place.
        return SAME_WORD.get(found[0], found[0]), found[1] / 100 * 0.97

    def _score(
        self,
        place: int,
        asked: Sequence[tuple[str, str, float]],
        state: str,
        methods: set[str],
        is_usual: bool,
    ) -> float:
        food, head, bag = self.foods[place], self._heads[place], self._bags[place]
        weights = [(self._rarity.get(known, 8.0), known, fit) for _, known, fit in asked]
        whole = sum(weight for weight, _, _ in weights)
        share = sum(weight * fit for weight, known, fit in weights if known in bag) / whole
        known_words = {known for _, known, fit in asked if fit}
        unsaid_head = len(head - known_words) / max(len(head), 1)
        unsaid = len(bag - known_words - _STATE_WORDS)
        score = share * (1 - 0.35 * unsaid_head) - 0.012 * min(unsaid, 6)
        if is_usual:
            return KNOWN
        if state:
            score += 0.03 if _fits(food.state, state) else -0.3
        elif food.state == "cooked":
            score -= 0.12  # recipes are written in raw and dry weights
        elif food.state in ("frozen", "canned-drained"):
            score -= 0.07
        if methods and food.state == "cooked":
            score += 0.05 if food.method in methods else -0.05
        if food.own:
            score += 0.02
        return max(score, 0.0)

    def _is_sure(self, scored: Sequence[tuple[float, int]]) -> bool:
        if not scored or scored[0][0] < SURE:
            return False
        best, first = scored[0][0], self.foods[scored[0][1]]
        rivals = (self.foods[place] for score, place in scored[1:] if score > best - RIVAL_WITHIN)
        return all(_same(first, rival) for rival in rivals)


def _key(words: Iterable[str]) -> str:
    return " ".join(sorted(set(words)))


def _fits(state: str, said: str) -> bool:
    return state == said or (said in ("raw", "dry", "canned-drained") and state == "as-sold")


def _same(one: FoodName, other: FoodName) -> bool:
    kcal = max(one.kcal, other.kcal)
    return abs(one.protein_g - other.protein_g) <= SAME_PROTEIN_G and abs(one.kcal - other.kcal) <= max(
        SAME_KCAL_SHARE * kcal, 5
    )
