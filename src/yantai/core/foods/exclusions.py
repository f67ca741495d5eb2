"""Words that keep a food out of a container ("eggs", "pork", "nuts"), and what they mean in a kitchen.

A word means what it is called by: singular and plural, British and American, are one. Some words mean more than the
names that hold them ("nuts" the pecans, "milk" the yoghurt) and some less ("butter" not the butter beans); those are
written down in `SENSES`. What a word might mean besides is told, so that the coach can add it.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache, lru_cache

from rapidfuzz import fuzz, process

from yantai.core.foods.allergens import ALLERGENS
from yantai.core.words import folded_words, same_words

LIKELY_SLIP = 80
"""rapidfuzz ratio from which a word that nothing is called by is taken for a slip: "brocoli" and "broccoli" have 93."""


_SHORTEST_FRONT = 3
"""Letters before the word in a compound that is asked about: "buckwheat" is, "goat" in oat is not."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Named:
    """What may be kept out: a food, a component or a dish, by what it is called and what is known of it."""

    names: tuple[str, ...]
    allergens: frozenset[str] = frozenset()
    group: str = ""
    tags: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True, kw_only=True)
class Sense:
    """What a word of the kitchen means beyond the names that hold it.

    Attributes:
        words: the words, in the singular.
        allergens, groups, tags: a food with one of these is meant.
        also: other names that are meant, as words in the singular.
        but: names that hold the word and are not meant ("butter bean").
        unless: names that an allergen alone does not bring in (oats are no wheat).
        maybe: what some people mean as well; it is asked about, not kept out.
    """

    words: tuple[str, ...]
    allergens: frozenset[str] = frozenset()
    groups: frozenset[str] = frozenset()
    tags: frozenset[str] = frozenset()
    also: tuple[str, ...] = ()
    but: tuple[str, ...] = ()
    unless: tuple[str, ...] = ()
    maybe: tuple[str, ...] = ()


def _sense(words: str, **more: str) -> Sense:
    """A sense from lists written with commas."""
    lists = {name: tuple(part.strip() for part in text.split(",")) for name, text in more.items()}
    sets = {name: frozenset(lists.pop(name, ())) for name in ("allergens", "groups", "tags")}
    return Sense(words=tuple(part.strip() for part in words.split(",")), **sets, **lists)  # type: ignore[arg-type]


_PLANT_MILKS = "coconut milk, almond milk, soy milk, soya milk, oat milk, rice milk, cashew milk, hazelnut milk"
_NUT_BUTTERS = (
    "peanut butter, almond butter, cashew butter, nut butter, seed butter, hazelnut butter, pistachio butter, "
    "butter bean, lima butter, cocoa butter, apple butter"
)

SENSES = (
    _sense("egg", allergens="eggs"),
    _sense("milk, dairy, lactose", allergens="milk", but=_PLANT_MILKS),
    _sense(
        "cheese",
        also="ricotta, mozzarella, feta, halloumi, parmesan, pesto, caesar dressing, mascarpone, paneer, brie, "
        "camembert, gouda, gruyere, emmental, quark, pecorino, provolone",
    ),
    _sense("yogurt", also="tzatziki, skyr, raita", maybe="kefir"),
    _sense("cream", but="coconut cream, cream of tartar, soy cream, oat cream, creamed"),
    _sense("butter", also="ghee", but=_NUT_BUTTERS),
    _sense(
        "nut",
        allergens="nuts",
        also="almond, brazil nut, cashew, hazelnut, macadamia, pecan, pistachio, walnut, chestnut, pine nut, marzipan, "
        "praline, frangipane, nougat, granola",
        but="water chestnut",
        maybe="peanut, coconut",
    ),
    _sense("peanut", allergens="peanuts", maybe="nut"),
    _sense("sesame", allergens="sesame"),
    _sense(
        "soy, soybean",
        allergens="soybeans",
        also="soybean, tofu, tempeh, edamame, miso, natto, tamari, textured vegetable protein",
    ),
    _sense("gluten", allergens="gluten"),
    _sense("wheat", allergens="gluten", unless="oat, barley", maybe="buckwheat"),
    _sense(
        "bread",
        also="breadcrumb, crispbread, pita, naan, chapati, roti, bagel, bun, dinner roll, bread roll, english muffin, "
        "baguette, ciabatta, focaccia, toast",
        but="sweetbread",
        maybe="tortilla, cracker, pastry",
    ),
    _sense(
        "pasta",
        also="spaghetti, penne, macaroni, lasagne, fusilli, tagliatelle, linguine, orzo, ravioli, tortellini",
        but="pasta sauce, squash spaghetti, spaghetti squash",
        maybe="noodle, gnocchi",
    ),
    _sense("noodle", maybe="pasta"),
    _sense("oat", also="granola, muesli, porridge"),
    _sense("rice", also="risotto, sushi", but="rice vinegar"),
    _sense("corn, maize", also="popcorn, cornstarch, masa harina, sweetcorn, polenta, vegetable mixed", but="corned"),
    _sense("fish", allergens="fish", maybe="shellfish"),
    _sense("seafood", allergens="fish, crustaceans, molluscs", groups="fish-shellfish"),
    _sense(
        "shellfish",
        allergens="crustaceans, molluscs",
        also="shrimp, prawn, crab, lobster, crayfish, langoustine, mussel, clam, oyster, scallop, squid, octopus",
        but="oyster mushroom, mushroom oyster",
        maybe="fish",
    ),
    _sense("crustacean", allergens="crustaceans", also="shrimp, crab, lobster, crayfish, langoustine"),
    _sense(
        "mollusc", allergens="molluscs", also="mussel, clam, oyster, scallop, squid, octopus", but="mushroom oyster"
    ),
    _sense("oyster", but="oyster mushroom, mushroom oyster"),
    _sense(
        "meat",
        groups="poultry, beef, pork, lamb-game",
        tags="contains-meat",
        also="chicken, turkey, duck, beef, veal, pork, bacon, ham, chorizo, salami, pepperoni, prosciutto, pancetta, "
        "lamb, mutton, venison, rabbit, steak, sausage, mince, meatball, lard, gelatine",
        but="crab meat, beef tomato, nut meat, egg duck, duck egg",
        maybe="fish",
    ),
    _sense(
        "red meat",
        groups="beef, pork, lamb-game",
        tags="contains-beef, contains-pork",
        also="beef, veal, pork, bacon, ham, lamb, mutton, venison, steak",
        but="turkey bacon, beef tomato",
    ),
    _sense(
        "pork",
        groups="pork",
        tags="contains-pork, contains-pork-or-beef-gelatine, may-contain-lard",
        also="bacon, ham, gammon, chorizo, prosciutto, pancetta, salami, pepperoni, lard, lardon, gelatine, kielbasa",
        but="turkey bacon, turkey ham",
    ),
    _sense("ham", also="prosciutto, gammon"),
    _sense(
        "beef",
        groups="beef",
        tags="contains-beef, contains-pork-or-beef-gelatine",
        also="veal, brisket, pastrami, gelatine",
        but="beef tomato, beefsteak tomato",
    ),
    _sense("poultry", groups="poultry", also="chicken, turkey, duck, goose", but="egg duck, duck egg"),
    _sense(
        "sausage",
        also="bratwurst, chorizo, kielbasa, salami, pepperoni, frankfurter, merguez, nduja",
        maybe="bacon, ham",
    ),
    _sense(
        "bean",
        also="soybean, edamame, vegetable mixed",
        but="soybean vegetable oil, soybean oil, vanilla bean, coffee bean, jelly bean, cocoa bean",
        maybe="lentil, chickpea, pea",
    ),
    _sense(
        "pulse, legume",
        groups="legumes",
        also="bean, lentil, chickpea, pea, soybean, edamame, tofu, tempeh, hummus, dal, lupin",
        but="green bean, soybean vegetable oil, vanilla bean, coffee bean, pea sugar snap",
        maybe="peanut, green bean",
    ),
    _sense("lentil", also="dal, dhal"),
    _sense("chickpea", also="hummus, falafel"),
    _sense("pea", also="vegetable mixed", maybe="chickpea"),
    _sense("carrot", also="vegetable mixed"),
    _sense("onion", also="shallot", maybe="leek, chive"),
    _sense("garlic", maybe="onion"),
    _sense("tomato", also="ketchup, salsa, enchilada, passata, marinara", maybe="barbecue sauce"),
    _sense(
        "pepper",
        also="jalapeno, cayenne",
        but="pepper black, black pepper, white pepper, pepper white, peppercorn",
        maybe="paprika, black pepper",
    ),
    _sense("chilli", also="jalapeno, cayenne, sriracha, hot pepper sauce", maybe="paprika"),
    _sense("spice, spicy", also="chilli, jalapeno, cayenne, sriracha, hot pepper sauce, curry"),
    _sense("potato", but="sweet potato", maybe="sweet potato"),
    _sense("olive", but="olive oil", maybe="olive oil"),
    _sense("avocado", also="guacamole"),
    _sense(
        "berry",
        also="blackberry, blueberry, cranberry, goji, raspberry, strawberry, gooseberry, blackcurrant, redcurrant",
        maybe="jam",
    ),
    _sense("citrus", also="lemon, lime, orange, grapefruit, clementine, mandarin, tangerine, satsuma"),
    _sense(
        "nightshade",
        also="tomato, potato, pepper, eggplant, chilli, paprika, ketchup, salsa",
        but="sweet potato, pepper black",
    ),
    _sense("fruit", groups="fruit"),
    _sense("seed", also="tahini", but="seedless", maybe="mustard"),
    _sense("mayo, mayonnaise", also="mayo, mayonnaise, aioli"),
    _sense("alcohol", tags="contains-alcohol", also="wine, beer, rum, brandy, whisky, vodka, sherry, sake, cider",
           but="wine vinegar, vinegar red wine, vinegar white wine, vinegar cider, cider vinegar, ginger beer"),
    _sense("wine", but="wine vinegar, vinegar red wine, vinegar white wine", maybe="wine vinegar"),
    _sense("sugar", but="sugar snap, sugar snap pea", maybe="honey, syrup, jam"),
    _sense("honey", but="honeydew"),
    _sense("celery", allergens="celery", also="celeriac"),
    _sense("mustard", allergens="mustard"),
    _sense("sulphite, sulfite", allergens="sulphites"),
    _sense("lupin", allergens="lupin"),
    _sense("coconut", allergens="coconut"),
)  # fmt: skip
"""What words mean beyond names; each list is a judgement of the kitchen, on the cautious side."""

_ANIMAL = frozenset(
    (
        *("meat", "chicken", "turkey", "duck", "beef", "pork", "lamb", "bacon", "ham", "sausage", "mince", "meatball"),
        *("fish", "egg", "milk", "cheese", "yogurt", "cream", "butter", "mayonnaise"),
    )
)
_PLANT_BASED = ("plant based", "vegan", "vegetarian", "veggie")
"""What these say of a name is not of an animal: "plant-based chicken-style pieces"."""


@cache
def _held(text: str) -> frozenset[str]:
    return frozenset(_tokens(text))


@dataclass(frozen=True, slots=True)
class _Phrases:
    """A word as it is looked for."""

    said: tuple[str, ...]
    sense: Sense | None
    also: tuple[tuple[str, ...], ...]
    but: tuple[tuple[str, ...], ...]
    unless: tuple[tuple[str, ...], ...]


@cache
def _tokens(text: str) -> tuple[str, ...]:
    """Words as they are compared here: without accents and plurals, British and American alike."""
    return same_words(folded_words(text), keep=("mince", "minced"))


@lru_cache(maxsize=4096)
def _phrases(word: str) -> _Phrases:
    said = _tokens(word)
    sense = next((one for one in SENSES if any(_tokens(known) == said for known in one.words)), None)

    def lists(texts: Iterable[str]) -> tuple[tuple[str, ...], ...]:
        return tuple(tokens for tokens in map(_tokens, texts) if tokens)

    if sense is None:
        return _Phrases(said, None, (), (), ())
    return _Phrases(said, sense, lists(sense.also), lists(sense.but), lists(sense.unless))


def keeps_out(word: str, named: Named) -> bool:
    """Whether a client who leaves out `word` is not given this.

    >>> keeps_out("eggs", Named(names=("Egg, whole",))), keeps_out("egg", Named(names=("Eggplant",)))
    (True, False)
    """
    looked_for = _phrases(word.strip())
    if not looked_for.said:
        return False
    return any(_is_called(looked_for, name) for name in named.names) or _is_of_kind(looked_for, named)


def _is_called(looked_for: _Phrases, name: str) -> bool:
    tokens = _tokens(name)
    phrases = [phrase for phrase in (looked_for.said, *looked_for.also) if _held(name).issuperset(phrase)]
    if not phrases:
        return False
    if any(_run_at(tokens, _tokens(plant)) is not None for plant in _PLANT_BASED):
        phrases = [phrase for phrase in phrases if len(phrase) > 1 or not _ANIMAL & set(phrase)]
    left = set(_without(tokens, looked_for.but))
    return any(left.issuperset(phrase) for phrase in phrases)


def _is_of_kind(looked_for: _Phrases, named: Named) -> bool:
    sense = looked_for.sense
    if sense is None:
        return False
    if named.group in sense.groups or named.tags & sense.tags:
        return True
    if not named.allergens & sense.allergens:
        return False
    return not any(_held(name).issuperset(phrase) for phrase in looked_for.unless for name in named.names)


_FREE_LIVING = ("range", "ranging", "roaming", "run", "from", "of")
"""What stands behind a "free" that denies nothing before it: "eggs, free range"."""


def _without(tokens: Sequence[str], phrases: Iterable[Sequence[str]]) -> list[str]:
    """The words of a name less those that it denies ("no salt", "gluten free") and less the `phrases`."""
    left = list(tokens)
    for phrase in phrases:
        at = _run_at(left, phrase)
        while at is not None:
            left[at : at + len(phrase)] = [""] * len(phrase)
            at = _run_at(left, phrase)
    for index, word in enumerate(tokens):
        if word in ("no", "without", "non") and index + 1 < len(tokens):
            left[index + 1] = ""
        after = tokens[index + 1] if index + 1 < len(tokens) else ""
        if word == "free" and after in ("from", "of") and index + 2 < len(tokens):
            left[index + 2] = ""
        elif word in ("free", "removed") and after not in _FREE_LIVING and index > 0:
            left[index - 1] = ""
    return left


def _run_at(tokens: Sequence[str], phrase: Sequence[str]) -> int | None:
    """Where `phrase` stands in `tokens`, word after word."""
    width = len(phrase)
    return next((at for at in range(len(tokens) - width + 1) if list(tokens[at : at + width]) == list(phrase)), None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Contents:
    """What one component of a dish is called and made of."""

    name: str
    foods: tuple[tuple[str, Named], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Reason:
    """Why something is kept out: the allergen or the word, and the food, component or dish that is it."""

    word: str
    of: str


def reasons(
    dish: str, components: Mapping[str, Contents], *, avoided: Collection[str], words: Collection[str]
) -> dict[str, tuple[Reason, ...]]:
    """Why each component of a dish is kept from somebody, by its key; empty where nothing speaks against it.

    `avoided` are keys of `ALLERGENS`. A word keeps out the components with a food that it means, and those that are
    called so. Where only the dish is ("Pecan pie" of one bought filling), nobody knows which of its components it is,
    so all are kept out.
    """
    found: dict[str, list[Reason]] = {key: [] for key in components}
    for key, part in components.items():
        for allergen in sorted(set(avoided)):
            of = next((name for name, food in part.foods if allergen in food.allergens), None)
            if of is not None:
                found[key].append(Reason(word=ALLERGENS[allergen], of=of))
    for word in words:
        hits = {key: of for key, part in components.items() if (of := _meant_in(word, part)) is not None}
        if not hits and components and dish and keeps_out(word, Named(names=(dish,))):
            hits = dict.fromkeys(components, dish)
        for key, of in hits.items():
            found[key].append(Reason(word=word, of=of))
    return {key: tuple(each) for key, each in found.items()}


def _meant_in(word: str, part: Contents) -> str | None:
    """The food of a component that a word means, or the component's own name."""
    of = next((name for name, food in part.foods if keeps_out(word, food)), None)
    if of is None and keeps_out(word, Named(names=(part.name,))):
        return part.name
    return of


@dataclass(frozen=True, slots=True, kw_only=True)
class Meaning:
    """What a word keeps out of the foods of a kitchen.

    Attributes:
        kept: places of the foods it keeps out.
        wider: words that may be meant as well, each with the places of foods that it would keep out besides.
        spelling: a word by which foods are called, where nothing is called by this one.
    """

    kept: tuple[int, ...]
    wider: tuple[tuple[str, tuple[int, ...]], ...] = ()
    spelling: str | None = None


def meaning(word: str, foods: Sequence[Named]) -> Meaning:
    """What `word` keeps out of `foods`, what it may mean besides, and what it may be a slip of."""
    kept = tuple(index for index, food in enumerate(foods) if keeps_out(word, food))
    looked_for = _phrases(word.strip())
    sense = looked_for.sense
    asked = dict.fromkeys(
        (*(sense.but if sense else ()), *(sense.maybe if sense else ()), *_compounds(looked_for, foods))
    )
    wider, told = [], set(kept)
    for other in asked:
        besides = tuple(
            index for index, food in enumerate(foods) if index not in told and other and keeps_out(other, food)
        )
        told |= set(besides)
        if besides:
            wider.append((other, besides))
    spelling = None
    if not kept and not wider and looked_for.said:
        vocabulary = {token for food in foods for name in food.names for token in _tokens(name)} | set(ALLERGENS)
        near = process.extractOne(
            " ".join(looked_for.said), sorted(vocabulary), scorer=fuzz.ratio, score_cutoff=LIKELY_SLIP
        )
        spelling = None if near is None else str(near[0])
    return Meaning(kept=kept, wider=tuple(wider), spelling=spelling)


def _compounds(looked_for: _Phrases, foods: Sequence[Named]) -> list[str]:
    """Longer words that end in the word ("buckwheat" in wheat): near enough to ask, not to keep out."""
    if len(looked_for.said) != 1 or len(looked_for.said[0]) < 3:
        return []
    end = looked_for.said[0]
    words = {token for food in foods for name in food.names for token in _tokens(name)}
    return sorted(word for word in words if word.endswith(end) and len(word) >= len(end) + _SHORTEST_FRONT)
