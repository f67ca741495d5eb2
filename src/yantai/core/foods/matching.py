"""Which food the words of a line mean, and how sure that is."""

from __future__ import annotations

import math
import re
from bisect import bisect_left
from collections import defaultdict
from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from rapidfuzz import fuzz, process

from yantai.core.foods.kitchen_words import FORMS, METHODS, NOT_MATTERING, STATE_WORDS, telling_words, words_of
from yantai.core.words import SAME_WORD, folded_words, singular

SURE = 0.82
"""A match is taken without asking from this score on, if no rival of other composition is near."""
RIVAL_WITHIN = 0.12
OWN = 3.0
"""The score of an own food that is called exactly so."""
KNOWN = 2.0
"""The score of a food that the words are known to mean: above any that was computed."""
OUTRIGHT = 0.99
"""The score of what a part of the words is known to mean, by the share of the words, is at most this."""
MOST_BY_MEANING = 12
"""Foods found by what the words mean, where no name begins with them."""
SAME_PROTEIN_G = 1.5
SAME_KCAL_SHARE = 0.10
"""Rivals whose 100 g lie this near are the same food for the plan (two kinds of table salt)."""
ALIKE = 84
"""rapidfuzz ratio from which a misspelt word counts: "chiken" and "chicken" have 92, "bean" and "bear" 75."""
ALIKE_WHEN_SHOWN = 79
"""The same where the result is only shown: "creme" and "cream" have 80."""

_MADE = (FORMS - {"ground"}) | {
    "stockcube",
    "liver",
    "bacon",
    "sausage",
    "deli",
    "cured",
    "smoked",
    "breaded",
    "substitute",
    "seasoned",
}
"""Words of what is made of a food rather than the food."""


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


@dataclass(frozen=True, slots=True)
class Usual:
    """The food that plain words usually mean in cooking.

    Attributes:
        words: what has to be said.
        key: the food's key.
        optional: words that may stand with them and say nothing more, each as it is written.
        sure: it is taken without asking; else it is only shown first.
        answered: this kitchen has said so itself, which goes before what is shipped.
    """

    words: str
    key: str
    optional: str = ""
    sure: bool = True
    answered: bool = False


@dataclass(frozen=True, slots=True)
class _Said:
    """The words of a line as they are compared.

    Attributes:
        every: all of them.
        telling: those that tell which food it is, each with the known word it is, or is a slip of, and how well.
        certain: no word had to be corrected by more than a slip of the pen.
    """

    every: frozenset[str]
    telling: tuple[tuple[str, str, float], ...]
    certain: bool

    @property
    def known(self) -> frozenset[str]:
        return frozenset(known for _, known, fit in self.telling if fit)


@dataclass(frozen=True)
class FoodIndex:
    """All foods of a kitchen, ready to be matched. Building it takes a pass over the names."""

    foods: Sequence[FoodName]
    usual: Sequence[Usual] = ()

    def __post_init__(self) -> None:
        indices: dict[str, set[int]] = defaultdict(set)
        heads, bags = [], []
        for index, food in enumerate(self.foods):
            head = frozenset(words_of(re.sub(r"\([^)]*\)", " ", food.name.partition(",")[0]))) - STATE_WORDS
            bag = head | frozenset(words_of(" ".join((food.name, *food.aliases, food.method))))
            heads.append(head)
            bags.append(bag)
            for word in bag:
                indices[word].add(index)
        plain_places: dict[str, set[int]] = defaultdict(set)
        for index, food in enumerate(self.foods):
            for word in folded_words(" ".join((food.name, *food.aliases, food.state, food.method))):
                plain_places[word].add(index)
        total = max(len(self.foods), 1)
        rarity = {word: 1 + math.log(total / len(found)) for word, found in indices.items()}
        at = {food.key: index for index, food in enumerate(self.foods)}
        meanings: dict[str, list[_Meaning]] = defaultdict(list)
        known = {*indices, *NOT_MATTERING}
        for one in self.usual:
            if one.key not in at:
                continue
            words = frozenset(telling_words(one.words) if one.answered else words_of(one.words))
            optional = frozenset(words_of(one.optional))
            known |= words | optional
            if words:
                rarest = max(words, key=lambda word: (rarity.get(word, 99.0), word))
                meanings[rarest].append(_Meaning(words, optional, at[one.key], one.sure, one.answered))
        own_names = {frozenset(words_of(food.name)): index for index, food in enumerate(self.foods) if food.own}
        vocabulary = [*known - NOT_MATTERING, *(word for word, same in SAME_WORD.items() if same in known)]
        usual_places = {meaning.index for found in meanings.values() for meaning in found}
        for name, value in (
            ("_places", indices), ("_heads", heads), ("_bags", bags), ("_rarity", rarity), ("_meanings", meanings),
            ("_own_names", own_names), ("_at", at), ("_known", known), ("_vocabulary", vocabulary),
            ("_usual_places", usual_places), ("_plain_places", plain_places), ("_sorted_words", sorted(plain_places)),
        ):  # fmt: skip
            object.__setattr__(self, name, value)

    _places: dict[str, set[int]] = field(init=False, repr=False)
    _heads: list[frozenset[str]] = field(init=False, repr=False)
    _bags: list[frozenset[str]] = field(init=False, repr=False)
    _rarity: dict[str, float] = field(init=False, repr=False)
    _meanings: dict[str, list[_Meaning]] = field(init=False, repr=False)
    _own_names: dict[frozenset[str], int] = field(init=False, repr=False)
    _at: dict[str, int] = field(init=False, repr=False)
    _known: set[str] = field(init=False, repr=False)
    _vocabulary: list[str] = field(init=False, repr=False)
    _usual_places: set[int] = field(init=False, repr=False)
    _plain_places: dict[str, set[int]] = field(init=False, repr=False)
    _sorted_words: list[str] = field(init=False, repr=False)

    def match(self, text: str, *, state: str = "", note: str = "", limit: int = 6) -> Matched:
        """The foods that `text` may mean, best first; `state` is the one that the line names, `note` its rest.

        Every word of both is used, or is known to say nothing of what the food is, or makes the match unsure.
        An own food that is called exactly so always comes first; then what the words usually mean; then the
        foods whose names hold the words, a word counting by its rarity, less what a name says beyond them. Such a
        match is sure when it holds every word and every near rival holds the same per 100 g.
        """
        own = self._own_names.get(frozenset(words_of(text)))
        if own is None:
            own = self._own_names.get(frozenset(words_of(f"{text}, {note}")))
        said = self._said(f"{text}, {note}", state)
        if not said.telling and own is None:
            return Matched(matches=(), sure=False)
        usual = self._usual(said, state)
        indices = set().union(*(self._places.get(known, ()) for _, known, _ in said.telling))
        indices |= {found for found in (own, usual.index if usual else None) if found is not None}
        methods = {METHODS[word] for word in said.every if word in METHODS}
        first = {} if usual is None else {usual.index: usual.score}
        if own is not None:
            first[own] = OWN
        scored = sorted(
            ((max(first.get(index, 0.0), self._score(index, said, state, methods)), index) for index in indices),
            key=lambda pair: (-pair[0], self.foods[pair[1]].name, self.foods[pair[1]].key),
        )[:limit]
        matches = tuple(Match(key=self.foods[index].key, score=round(min(score, 1.0), 4)) for score, index in scored)
        if not scored:
            return Matched(matches=(), sure=False)
        best = scored[0][1]
        if best == own or (usual is not None and best == usual.index and usual.sure):
            sure = best == own or said.certain
        elif usual is not None and best == usual.index and usual.score > OUTRIGHT:
            sure = False
        else:
            food = self.foods[best]
            # Roasted peppers are not the boiled ones, however well the rest fits.
            otherwise = bool(methods) and food.state == "cooked" and food.method not in methods
            sure = said.certain and self._is_sure(scored, said) and not otherwise
        return Matched(matches=matches, sure=sure)

    def _said(self, text: str, state: str) -> _Said:
        every = list(words_of(text))
        telling = []
        certain = True
        for word in dict.fromkeys(every):
            if word in NOT_MATTERING or word in STATE_WORDS:
                continue
            known, fit = self._nearest(word, every)
            if fit in (0.0, 1.0):
                telling.append((word, known, fit))
                continue
            telling.append((word, known, fit))
            # "Floury" is no slip of "flour", "chiken" is one of "chicken".
            certain = certain and word[0] == known[0] and word[-1] == known[-1]
        known_words = [known for _, known, fit in telling if fit]
        canned = ["canned"] if state == "canned-drained" else []
        return _Said(every=frozenset([*every, *known_words, *canned]), telling=tuple(telling), certain=certain)

    def _usual(self, said: _Said, state: str) -> _Usually | None:
        """What the words usually mean: the entry that needs most of them; sure if it leaves none unused."""
        best: tuple[tuple[object, ...], _Usually] | None = None
        telling = {known if fit else word for word, known, fit in said.telling}
        for word in said.every:
            for one in self._meanings.get(word, ()):
                if not one.words <= said.every:
                    continue
                food = self.foods[one.index]
                fits = not state or _fits(food.state, state)
                left = telling - one.words - one.optional
                left -= {"canned"} if food.state in ("canned-drained", "as-sold") else set()
                whole = not left and fits
                if one.answered and (left or not fits or (telling - one.words)):
                    continue
                # A form that the entry does not hold is another food: pudding is no rice.
                score = (
                    KNOWN
                    if whole
                    else 0.0
                    if left & FORMS or not fits
                    else OUTRIGHT
                    * (
                        sum(self._rarity.get(word, 8.0) for word in one.words)
                        / sum(self._rarity.get(word, 8.0) for word in one.words | left)
                    )
                )
                # "Fresh lasagne" says more of the food than "lasagne sheets" does.
                rarity = sum(self._rarity.get(word, 8.0) for word in sorted(one.words))
                rank = (
                    one.answered, whole, fits, len(one.words), len(one.words & STATE_WORDS), -len(left), rarity,
                    sorted(one.words),
                )  # fmt: skip
                if score and (best is None or rank > best[0]):
                    best = rank, _Usually(one.index, whole and one.sure, score)
        return None if best is None else best[1]

    def search(self, text: str, *, group: str = "", state: str = "") -> list[str]:
        """Keys of all foods with words that begin like each word of `text`, best first; for showing while one types.

        What the words usually mean comes first, then foods that are called so, what is plain before what is made of
        it (turkey before turkey bacon), raw and dry before cooked, names that begin so, short names before long. A word
        that no food has is taken for the nearest one, more widely than when a line is read, since it is only shown.
        """
        words = folded_words(text)
        if not words:
            return []
        found: set[int] | None = None
        begins = words[0]
        for index, word in enumerate(words):
            hits = self._beginning(word)
            if not hits:
                near = self._nearest_shown(word)
                hits = self._beginning(near)
                begins = near if index == 0 else begins
            found = hits if found is None else found & hits
        usual = self._usual(self._said(text, state), state)
        first = usual.index if usual is not None and usual.score >= KNOWN else None
        if not found and first is None:
            # Words that no name begins with, but that mean a food: "garbanzo beans", "tinned tomatoes".
            found = {self._at[match.key] for match in self.match(text, state=state, limit=MOST_BY_MEANING).matches}
        said = frozenset(words_of(text))
        fitting = (
            index
            for index in (found or set()) | ({first} if first is not None else set())
            if (not group or self.foods[index].group == group) and (not state or self.foods[index].state == state)
        )
        return [
            self.foods[index].key
            for index in sorted(fitting, key=lambda index: (index != first, *self._order(index, begins, said)))
        ]

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

    def _order(self, index: int, begins: str, said: frozenset[str]) -> tuple[object, ...]:
        food = self.foods[index]
        in_name = any(word.startswith(begins) for word in folded_words(food.name.partition(",")[0]))
        made = bool((self._bags[index] & _MADE) - said)
        uncooked = food.state in ("raw", "dry", "as-sold")
        named = food.name.casefold().startswith(begins)
        usual = index in self._usual_places
        return not in_name, made, not uncooked, not named, not usual, len(food.name), food.name, food.state, food.method

    def _nearest(self, word: str, beside: Collection[str]) -> tuple[str, float]:
        """The known word that `word` is, or is a slip of, and how well it fits; `beside` are all words of the line."""
        if word in self._known:
            return word, 1.0
        near = [share for share in _shares_near(word) if share in self._places]
        if near:
            alike = {
                share: max(len(self._bags[index] & set(beside)) for index in self._places[share]) for share in near
            }
            return max(near, key=lambda share: (alike[share], share)), 1.0
        found = process.extractOne(word, self._vocabulary, scorer=fuzz.ratio, score_cutoff=ALIKE)
        if found is None or len(word) < 4:
            return word, 0.0
        # A misspelt "courgete" stands for the word that is compared in its place.
        return SAME_WORD.get(found[0], found[0]), found[1] / 100 * 0.97

    def _score(self, index: int, said: _Said, state: str, methods: set[str]) -> float:
        food, head, bag = self.foods[index], self._heads[index], self._bags[index]
        weights = [(self._rarity.get(known, 8.0), known, fit) for _, known, fit in said.telling]
        whole = sum(weight for weight, _, _ in weights)
        share = sum(weight * fit for weight, known, fit in weights if known in bag) / whole if whole else 0.0
        unsaid_head = head - said.every
        unsaid = len(bag - said.every - STATE_WORDS)
        score = share * (1 - 0.35 * len(unsaid_head) / max(len(head), 1)) - 0.012 * min(unsaid, 6)
        score += 0.02 * len((bag & said.every & NOT_MATTERING) - STATE_WORDS)
        if unsaid_head & FORMS or (said.known & FORMS) - bag:
            score *= 0.6
        if state:
            score += 0.03 if _fits(food.state, state) else -0.3
        elif food.state == "cooked":
            score -= 0.12  # recipes are written in raw and dry weights
        elif food.state in ("frozen", "canned-drained"):
            score -= 0.07
        if methods and food.state == "cooked":
            score += 0.08 if food.method in methods else -0.08
        if food.own:
            score += 0.02
        return max(score, 0.0)

    def _is_sure(self, scored: Sequence[tuple[float, int]], said: _Said) -> bool:
        best, index = scored[0]
        if best < SURE or not all(known in self._bags[index] for _, known, _ in said.telling):
            return False
        rivals = (self.foods[other] for score, other in scored[1:] if score > best - RIVAL_WITHIN)
        return all(_same(self.foods[index], rival) for rival in rivals)


@dataclass(frozen=True, slots=True)
class _Meaning:
    words: frozenset[str]
    optional: frozenset[str]
    index: int
    sure: bool
    answered: bool


@dataclass(frozen=True, slots=True)
class _Usually:
    index: int
    sure: bool
    score: float


def _shares_near(word: str) -> tuple[str, ...]:
    """The lean shares of minced meat one point beside the one said: 96 % is sold by 95 %, 9 kcal per 100 g apart."""
    lean = re.fullmatch(r"([6-9]\d)pc", word)
    return () if lean is None else (f"{int(lean[1]) - 1}pc", f"{int(lean[1]) + 1}pc")


def _fits(state: str, said: str) -> bool:
    # What is bought dry is weighed "raw" by many.
    return (
        state == said
        or (said in ("raw", "dry", "canned-drained") and state == "as-sold")
        or (said, state) == ("raw", "dry")
    )


def _same(one: FoodName, other: FoodName) -> bool:
    kcal = max(one.kcal, other.kcal)
    return abs(one.protein_g - other.protein_g) <= SAME_PROTEIN_G and abs(one.kcal - other.kcal) <= max(
        SAME_KCAL_SHARE * kcal, 5
    )
