"""Patterns of ingredient lines: what is written another way first, which words say a state, which a share."""

from __future__ import annotations

import re
from collections.abc import Sequence

from yantai.core.quantities.quantity import Quantity
from yantai.core.quantities.writing import CONTAINERS, Rewriting, any_of

_STATES = {
    "cooked": ("cooked", "boiled", "steamed", "roasted", "roast", "grilled", "baked", "leftover", "precooked"),
    "dry": ("dry", "dried", "uncooked"),
    "raw": ("raw", "fresh"),
    "frozen": ("frozen",),
    "canned-drained": ("canned", "tinned", "drained"),
}
"""Words that say in which state a food is meant. "Ground" and "chopped" say nothing of it."""
_STATE_OF_WORD = {word: state for state, words in _STATES.items() for word in words}
_JOINT = re.compile(r"sun[\s-]?dried|(?<=[a-z] )roasts?(?=\s*(?:$|,|joint))")
_READY_COOKED = re.compile(r"\b(?:microwav\w*|ready[\s-]cooked|pre-?cooked)\b")
_DRIED_OFF = re.compile(
    r"\b(?:(?:washed|rinsed|patted|spun|wiped|squeezed|drained)(?: and| then|,)? "
    r"(?:(?:patted|spun|squeezed) )?(?:dry|dried)|(?:pat|squeeze|spin) dry)\b"
)
"""What was wiped after washing is no dried food."""
_ROASTED_AS_SOLD = re.compile(
    r"\b(?:dry[\s-]?)?roasted(?=[\w\s,]*\b(?:peanuts?|almonds?|cashews?|nuts?|hazelnuts?|pistachios?|seeds?|buckwheat|seaweed)\b)"
    r"|(?<=buckwheat groats, )roasted|\b(?:un)?precooked(?=.*\binstant)|(?<=instant, )precooked"
)
"""Nuts, seeds and buckwheat are sold roasted; instant rice is dry, though it was cooked."""
_DRY_FOODS = frozenset(
    ("rice", "pasta", "spaghetti", "penne", "noodles", "lentils", "quinoa", "oats", "bulgur", "couscous", "beans",
     "chickpeas", "barley", "farro", "millet")
)  # fmt: skip
PARTS_OF_ONE = frozenset(("leaf", "sheet", "slice", "sprig", "floret", "spear", "segment", "wedge", "stalk"))
_SOLD_DRAINED = re.compile(
    r"\b(?:beans?|chick ?peas?|lentils?|peas?|tuna|salmon|sardines?|anchov(?:y|ies)|mackerel|crab\w*|clams?|mussels|"
    r"sweet ?corn|corn|tomatoes|olives?|capers?|artichokes?|pineapple|peach(?:es)?|pears?|apricots|mandarins?|"
    r"chestnuts|jackfruit|garbanzos?)\b"
)
"""Foods that are drained when they come from a can; anything else is drained of what it lay or was washed in."""
TASTE = re.compile(
    r",?\s*\(?\b(to taste|as needed|as required|for serving|to serve|for greasing|for frying|to garnish|optional|"
    r"if liked|if wanted|if desired|or more|plus extra[^,()]*|plus more[^,()]*|enough (?=.*to cover))\b\)?"
)
BULLET = re.compile(r"^\s*(?:\[[ xX]?\]|[-*•·▢☐☑✓]|\d{1,2}[.)](?=\s))\s*(?:\[[ xX]?\]\s*)?")
_CONTAINER = any_of(CONTAINERS)
_HELD = any_of((*CONTAINERS, "bunch", "handful", "pinch", "dash", "knob", "head", "glass", "sprig", "thumb", "stick"))
_WEIGHT = r"\d+(?:\.\d+)?\s?(?:g|kg|oz|lbs?|ml)\b"
_COUNT = r"(?:[1-9]?\d(?:\.\d+)?|1/2)"
_COUNTED = "bulb|bulbs|head|heads|bunch|bunches|cloves|slices|rashers|fillets|sticks|leaves|sprigs"


def _pieces(written: str | None) -> float:
    return float(written) if written and written[0].isdigit() else 1.0


REWRITINGS: tuple[Rewriting, ...] = (
    # "1 (28 ounce) can", "2 (15-oz) cans"
    (re.compile(rf"^(\d+)\s*\((\d[^()]*)\)\s*(?={_CONTAINER})"), r"\1 x \2 "),
    # "1 pound, 6 ounces"
    (re.compile(r"\b(\d+\s*(?:lbs?|pounds?)\.?),\s*(?=\d+(?:\s*\d/\d)?\s*(?:oz|ounces?)\b)"), r"\1 "),
    # "3 (4-ounce) chicken breasts": a weight between the number and the food is that of each
    (re.compile(r"^(\d+)\s*\((\d[\d./ ]*\s*(?:g|kg|oz|ounces?|lbs?|pounds?))\s*(?:each)?\)\s*(?=[a-z])"), r"\1 x \2 "),
    # A piece of ginger by its length: a knob is as long as a thumb's upper half.
    (
        re.compile(
            rf"^(?:(an?|{_COUNT})\s*)?\(?({_COUNT})\s*(cm|inch(?:es)?|in)\)?\s+"
            r"(?:(?:piece|knob|length|chunk)s?\s+(?:of\s+)?)?(?=(?:\w+ )*ginger)"
        ),
        lambda found: f"about {_pieces(found[1]) * float(found[2]) / (2.5 if found[3] == 'cm' else 1):g} knob ",
    ),
    (re.compile(r"^(?:an?\s+)?couple(?:\s+of)?\s+"), "2 "),
    # "8 at 150 g", "2 bags at 500 g", "400 g x 4", "4 x halloumi, 200 g": a weight times a number
    (re.compile(rf"\b(\d+)\s+at\s+(?={_WEIGHT})"), r"\1 x "),
    (re.compile(rf"\bat\s+(?={_WEIGHT})"), "@ "),
    (re.compile(rf"({_WEIGHT})\s*x\s*(\d+)\b(?!\s*(?:g|kg|oz|lbs?|ml)\b)"), r"\2 x \1"),
    (re.compile(rf"^(\d+)\s*x\s+([a-z][^\d(,]*?)\s*[\s,(]\s*({_WEIGHT})\)?(?:\s*each)?$"), r"\1 x \3 \2"),
    # Units that are also part of a food's name
    (re.compile(r"\brib[\s-]eyes?\b"), "ribeye"),
    (re.compile(r"\bglass noodles?\b"), "cellophane noodles"),
    # "2no. onions", "6x eggs", "eggs x 12", "eggs x6 large"
    (re.compile(r"^(\d+)\s*(?:no|ea)\b\.?\s+(?=[a-z\d])"), r"\1 "),
    (re.compile(r"\((?:made |prepared )?(?:from|with|see|note)\b[^()]*\)"), " "),
    (re.compile(r"^(\d+)\s*x\s+(?=[a-z])"), r"\1 "),
    # "eggs x 12", "bagels 6", "avocado, 3", "bananas: 2 large", "potatoes 4-5"
    (
        re.compile(
            rf"^([^\d]*[a-z)])(?:\s+x\s?|[,:]?\s+)(?<!type )(?<!omega )(?<!no )(?<!no\. )({_COUNT})"
            rf"(?:\s+(small|medium|large|{_COUNTED}))?(?=$|\s*[,(])"
        ),
        r"\2 \3 \1",
    ),
    # "pack of 8 wraps", "2 boxes of 6 eggs"
    (re.compile(rf"^(?:an?\s+|1\s+)?{_CONTAINER}\s+of\s+(\d+)\s+(?=[a-z]{{3}})"), r"\2 "),
    (re.compile(r"^(?:max(?:imum)?|up to|no more than)\.?\s+(?=\d)"), ""),
    (re.compile(r"\bgram flour\b"), "chickpea flour"),
    # "95/5", "80/20": lean and fat of minced meat
    (re.compile(r"\b([789]\d)\s?/\s?(\d{1,2})\b"), r"\1 % lean"),
    (re.compile(r"([a-z])\s*/\s*(\d[\d.]*\s*[a-z]+(?:\s+\d[\d.]*\s*[a-z]+)?)"), r"\1 (\2) "),
    (re.compile(r"^thumb[\s-]sized?\s+(?:piece|knob)s?(?:\s+of)?"), "1 knob "),
    (re.compile(r"^(an?|\d+)\s+thumb[\s-]sized?\s+(?:piece|knob)s?"), r"\1 knob "),
    (re.compile(rf"^(?:an?\s+)?((?:small|large|good|generous|big)\s+)?(?={_HELD})"), r"1 \1"),
    (re.compile(r"^(?=(?:heaped|heaping|rounded|scant|tsp|teaspoon|tbsp|tablespoon|cup)\b)"), "1 "),
)
OF_A_FRUIT = re.compile(r"^(?:the\s+)?(?:freshly\s+squeezed\s+)?(juice|zest)\s+(?:of\s+)?(?=an?\b|half\b|\d)(.+)$")
JUICED = re.compile(r"^(.+?)(?:,|\s)\s*juiced$")
EACH = re.compile(r"\b(?:each|apiece|ea|per\s+(?:piece|can|tin|pack|fillet|breast|egg|one))\b\.?")
PREPARED = re.compile(
    r"\b(?:peeled|trimmed|shelled|boned|stoned|pitted|seeded|deseeded|cored|prepared|podded|picked|meat|edible|"
    r"drained|off the bone|without (?:skin|bones?|shells?)|after (?:peeling|boning|trimming))\b"
)
SPELLED = re.compile(r"\b(?:two|three|four|five|six|seven|eight|nine|ten|eleven|twelve|dozens?|hundred)\b(?!-)")
"""Numbers in words that a line may be left with; "half" and "quarter" are also ways of cutting."""
ON_TOP = re.compile(r"^\s*(?:and\s+)?plus\s+(?:(?:an?\s+)?(?:extra|additional|another)\s+)?(?=[\d~a])")
NO_AMOUNT = re.compile(
    r"\d[\d./]*(?:\s?-\s?\d[\d./]*)?\s*-?\s*(?:%|pc\b|cm\b|mm\b|in\b|inch(?:es)?\b|\"|”|min(?:ute)?s?\b|hours?\b|h\b|°|grain\b|spice\b)"
    r"|\b(?:type|omega|no\.?|grade|size)[\s-]*\d+|\b(?:into|in|makes?|serves?)\b[^,;()]*|\b(?:00|405|550|630|1050)\b"
)
"""Numbers that are no amount: shares of fat, lengths, times, kinds of flour, how many pieces it is cut in."""
TOTAL = re.compile(r"\b(?:in total|total|altogether|in all)\b")
BESIDE = re.compile(
    r"\b(?:net|about|weight|weighing|raw|dry|cooked|uncooked|of|and|drained weight|roughly|approx)\b\.?"
)


def state_of(text: str, quantities: Sequence[Quantity]) -> str:
    """The state in which a line means its food: raw, dry, cooked, frozen, canned-drained, or "" where it says none.

    >>> state_of("prawns, frozen, cooked", []), state_of("lettuce, washed and dried", [])
    ('cooked', '')
    """
    # "Roast chicken" is cooked, a "chuck roast" is a joint to be cooked.
    text = _ROASTED_AS_SOLD.sub(" ", _DRIED_OFF.sub(" ", text))
    words = re.findall(r"[a-z]+", _JOINT.sub(" ", text))
    if _READY_COOKED.search(text):
        return "cooked"
    if any(quantity.unit == "can" for quantity in quantities):
        return "canned-drained"
    if "uncooked" in words:
        return "dry" if _DRY_FOODS & set(words) else "raw"
    if not _SOLD_DRAINED.search(text):
        words = [word for word in words if word != "drained"]
    found = [_STATE_OF_WORD[word] for word in words if word in _STATE_OF_WORD]
    if "canned-drained" in found and not {"dried", "dry"} & set(words):
        return "canned-drained"
    if "canned-drained" in found:
        found = [state for state in found if state != "canned-drained"]
    if set(found) == {"frozen", "cooked"}:
        return "cooked"  # frozen cooked prawns
    return found[0] if found else ""
