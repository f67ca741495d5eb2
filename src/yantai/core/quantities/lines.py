"""An ingredient line, as people write it, taken apart."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from yantai.core.quantities.grammar import Unreadable, read_quantity
from yantai.core.quantities.quantity import SIZES, UNIT_OF_WORD, Kind, Quantity
from yantai.core.quantities.writing import CONTAINERS, Rewriting, any_of, plain_text, spoons_in_words, two_ways
from yantai.core.units import grams

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
    r"\b(?:(?:washed|rinsed|patted|spun|wiped|squeezed|drained)(?: and| then|,)? (?:(?:patted|spun|squeezed) )?(?:dry|dried)|"
    r"(?:pat|squeeze|spin) dry)\b"
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
_PARTS_OF_ONE = frozenset(("leaf", "sheet", "slice", "sprig", "floret", "spear", "segment", "wedge", "stalk"))
_SOLD_DRAINED = re.compile(
    r"\b(?:beans?|chick ?peas?|lentils?|peas?|tuna|salmon|sardines?|anchov(?:y|ies)|mackerel|crab\w*|clams?|mussels|"
    r"sweet ?corn|corn|tomatoes|olives?|capers?|artichokes?|pineapple|peach(?:es)?|pears?|apricots|mandarins?|"
    r"chestnuts|jackfruit|garbanzos?)\b"
)
"""Foods that are drained when they come from a can; anything else is drained of what it lay or was washed in."""
_TASTE = re.compile(
    r",?\s*\(?\b(to taste|as needed|as required|for serving|to serve|for greasing|for frying|to garnish|optional|"
    r"if liked|if wanted|if desired|or more|plus extra[^,()]*|plus more[^,()]*|enough (?=.*to cover))\b\)?"
)
_BULLET = re.compile(r"^\s*(?:\[[ xX]?\]|[-*•·▢☐☑✓]|\d{1,2}[.)](?=\s))\s*(?:\[[ xX]?\]\s*)?")
_CONTAINER = any_of(CONTAINERS)
_HELD = any_of((*CONTAINERS, "bunch", "handful", "pinch", "dash", "knob", "head", "glass", "sprig", "thumb", "stick"))
_COUNT = r"(?:[1-5]?\d(?:\.\d+)?|1/2)"
_COUNTED = "bulb|bulbs|head|heads|bunch|bunches|cloves|slices|rashers|fillets|sticks|leaves|sprigs"


def _pieces(written: str | None) -> float:
    return float(written) if written and written[0].isdigit() else 1.0


_REWRITINGS: tuple[Rewriting, ...] = (
    # "1 (28 ounce) can", "2 (15-oz) cans"
    (re.compile(rf"^(\d+)\s*\((\d[^()]*)\)\s*(?={_CONTAINER})"), r"\1 x \2 "),
    # "3 (4-ounce) chicken breasts": a weight between the number and the food is that of each
    (re.compile(r"^(\d+)\s*\((\d[\d./ ]*\s*(?:g|kg|oz|ounces?|lbs?|pounds?))\s*(?:each)?\)\s*(?=[a-z])"), r"\1 x \2 "),
    # A piece of ginger by its length: a knob is as long as a thumb's upper half.
    (
        re.compile(
            rf"^(?:(an?|{_COUNT})\s*)?\(?({_COUNT})\s*(cm|inch(?:es)?|in)\)?\s+(?:(?:piece|knob|length|chunk)s?\s+(?:of\s+)?)?(?=(?:\w+ )*ginger)"
        ),
        lambda found: f"about {_pieces(found[1]) * float(found[2]) / (2.5 if found[3] == 'cm' else 1):g} knob ",
    ),
    (re.compile(r"^(?:an?\s+)?couple(?:\s+of)?\s+"), "2 "),
    (re.compile(r"\b(\d+)\s+at\s+(?=\d+\s?(?:g|oz)\b)"), r"\1 x "),
    # Units that are also part of a food's name
    (re.compile(r"\brib[\s-]eyes?\b"), "ribeye"),
    (re.compile(r"\bglass noodles?\b"), "cellophane noodles"),
    # "2no. onions", "6x eggs", "eggs x 12", "eggs x6 large"
    (re.compile(r"^(\d+)\s*(?:no|ea)\b\.?\s+(?=[a-z])"), r"\1 "),
    (re.compile(r"\((?:made |prepared )?(?:from|with|see|note)\b[^()]*\)"), " "),
    (re.compile(r"^(\d+)\s*x\s+(?=[a-z])"), r"\1 "),
    # "eggs x 12", "bagels 6", "avocado, 3", "bananas: 2 large", "potatoes 4-5"
    (
        re.compile(
            rf"^([^\d]*[a-z)])(?:\s+x\s?|[,:]?\s+)(?<!type )(?<!omega )(?<!no )(?<!no\. )({_COUNT})(?:\s+(small|medium|large|{_COUNTED}))?(?=$|\s*[,(])"
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
_OF_A_FRUIT = re.compile(r"^(?:the\s+)?(?:freshly\s+squeezed\s+)?(juice|zest)\s+(?:of\s+)?(?=an?\b|half\b|\d)(.+)$")
_JUICED = re.compile(r"^(.+?)(?:,|\s)\s*juiced$")
_EACH = re.compile(r"\b(?:each|apiece|ea|per\s+(?:piece|can|tin|pack|fillet|breast|egg|one))\b\.?")
_PREPARED = re.compile(
    r"\b(?:peeled|trimmed|shelled|boned|stoned|pitted|seeded|deseeded|cored|prepared|podded|picked|meat|edible|"
    r"drained|off the bone|without (?:skin|bones?|shells?)|after (?:peeling|boning|trimming))\b"
)
_ON_TOP = re.compile(r"^\s*(?:and\s+)?plus\s+(?:(?:an?\s+)?(?:extra|additional|another)\s+)?(?=[\d~a])")
_NO_AMOUNT = re.compile(
    r"\d[\d./]*(?:\s?-\s?\d[\d./]*)?\s*-?\s*(?:%|pc\b|cm\b|mm\b|in\b|inch(?:es)?\b|\"|”|min(?:ute)?s?\b|hours?\b|h\b|°|grain\b|spice\b)"
    r"|\b(?:type|omega|no\.?|grade|size)[\s-]*\d+|\b(?:into|in|makes?|serves?)\b[^,;()]*|\b(?:00|405|550|630|1050)\b"
)
"""Numbers that are no amount: shares of fat, lengths, times, kinds of flour, how many pieces it is cut in."""
_TOTAL = re.compile(r"\b(?:in total|total|altogether|in all)\b")
_BESIDE = re.compile(
    r"\b(?:net|about|weight|weighing|raw|dry|cooked|uncooked|of|and|drained weight|roughly|approx)\b\.?"
)


@dataclass(frozen=True, slots=True, kw_only=True)
class LineReading:
    """What a line says.

    Attributes:
        text: the line as it was written.
        quantities: what it states; the first is the one to use, a metric weight before others.
        food: the words for the food.
        note: what stands behind a comma or in brackets ("finely chopped").
        state: raw, dry, cooked, frozen or canned-drained when the line says so, else "".
        to_taste: it states no amount on purpose.
        prepared: what is left of the first quantity once it is peeled, boned or drained, where the line says both.
        other_way: the amount that another habit of writing numbers would read here, "" if there is one reading.
        unread: the part with a number that belongs to no quantity that was understood, "" if all are.
    """

    text: str
    quantities: tuple[Quantity, ...]
    food: str
    note: str
    state: str
    to_taste: bool
    prepared: Quantity | None = None
    other_way: str = ""
    unread: str = ""

    @property
    def words(self) -> frozenset[str]:
        """All words beside the quantity, for choosing a measure."""
        return frozenset(re.findall(r"[a-z]+", f"{self.food} {self.note}"))


def read_line(text: str) -> LineReading:
    """Take one ingredient line apart. Nothing is dropped: what is no quantity stays in `food` or `note`.

    >>> reading = read_line("1 1/2 lb (680 g) turkey mince, 93 % lean")
    >>> [str(quantity) for quantity in reading.quantities], reading.food, reading.note
    (['680 g', '1.5 lb'], 'turkey mince', '93 % lean')
    """
    plain = plain_text(spoons_in_words(_BULLET.sub("", text)))
    readings = two_ways(plain)
    other_way = ""
    if readings is not None:
        plain = readings[0]
        head, _ = _leading(readings[1])
        other_way = str(head) if head is not None else readings[1]
    for pattern, written in _REWRITINGS:
        plain = pattern.sub(written, plain)
    said = _TASTE.search(plain)
    rest = _TASTE.sub(" ", plain).strip(" ,")
    bracketed = [
        part.strip() for inside in re.findall(r"\(([^()]*)\)", rest) for part in re.split(r"[,;](?=\s*\d)", inside)
    ]
    outside = re.sub(r"\([^()]*\)", " | ", rest)
    found = _Found()
    head, outside = _of_a_fruit(outside)
    if head is None:
        head, outside = _leading(outside)
    pieces = re.split(r"[,|]|\s(?=[@~])", outside)
    if head is None:
        head, pieces = _anywhere(pieces)
    found.head = head
    notes = []
    for place, part in enumerate(pieces):
        left = found.take(part, bracket=False) if place or head is not None else part
        if left.strip():
            notes.append(left.strip(" .;:-|"))
    for part in bracketed:
        left = found.take(part, bracket=True)
        if left in SIZES and found.head is not None and found.head.kind is Kind.COUNT and not found.head.size:
            found.head, left = replace(found.head, size=left), ""
        if left.strip():
            notes.append(left)
    food = notes.pop(0) if notes else ""
    food = re.sub(r"^\s*(?:of|x)\s+", "", re.sub(r"\s+", " ", food)).strip(" .,;:-|")
    found.head = _of_a_part(found.head, food)
    quantities = found.quantities
    note = re.sub(r"\s+", " ", ", ".join(part for part in notes if part)).strip(" ,|")
    return LineReading(
        text=text.strip(),
        quantities=tuple(sorted(quantities, key=_trust)),
        food=food,
        note=note,
        state=_state(f"{food}, {note}", quantities),
        to_taste=not quantities and (said is not None or bool(re.search(r"\b(salt|pepper)\b", food))),
        prepared=found.prepared,
        other_way=other_way or found.other_way,
        unread=next((part.strip() for part in (food, *notes) if re.search(r"\d", _NO_AMOUNT.sub(" ", part))), ""),
    )


def read_recipe_text(text: str) -> list[LineReading]:
    """The lines of a pasted ingredient list; empty lines are left out, everything else is a line."""
    return [read_line(line) for line in text.splitlines() if line.strip()]


@dataclass(slots=True)
class _Found:
    """The quantities of a line while its parts are gone through, the leading one first."""

    head: Quantity | None = None
    others: list[Quantity] = field(default_factory=list)
    prepared: Quantity | None = None
    other_way: str = ""

    @property
    def quantities(self) -> list[Quantity]:
        return [*([self.head] if self.head is not None else []), *self.others]

    def take(self, part: str, *, bracket: bool) -> str:
        """Keep the quantities that `part` states, and return the words that are left of it."""
        inner, before, after = _stated(part)
        if inner is None:
            return part
        rest = f"{before} {after}".strip()
        if inner.kind is Kind.COUNT and not inner.each:
            # "(about 3)" counts what is weighed already; "cut into 2 pieces" is a preparation.
            if bracket and not _BESIDE.sub("", rest).strip():
                self.others.append(inner)
                return ""
            return part
        if _ON_TOP.match(part) and self._add(inner):
            return _ON_TOP.sub("", f"{before}{after}").strip()
        left = _BESIDE.sub(" ", _TOTAL.sub(" ", _EACH.sub(" ", rest)))
        left = left.strip(" @~:;.|-")
        if _PREPARED.search(rest) and self._is_larger(inner):
            self.prepared = inner
            return _PREPARED.sub(" ", left).replace(",", " ").strip()
        if "drained" in rest and self._drains_to(inner):
            return _PREPARED.sub(" ", left).replace(",", " ").strip()
        if self._is_size(inner, part, bracket):
            assert self.head is not None
            self.head = replace(self.head, each=replace(inner, about=False))
            return left
        if bracket and not _TOTAL.search(part) and self._may_be_either(inner):
            assert self.head is not None
            self.other_way = str(replace(self.head, each=replace(inner, about=False)))
        self.others.append(inner)
        return left

    def _add(self, inner: Quantity) -> bool:
        """Add what comes on top: "2 tbsp oil, plus 1 tsp for the pan"; whether the line was read with it."""
        head = self.head
        if head is None or head.each is not None or inner.each is not None:
            return False
        if head.unit == inner.unit and head.size == inner.size:
            self.head = replace(head, low=head.low + inner.low, high=head.high + inner.high)
        elif head.kind is inner.kind is Kind.VOLUME:
            self.head = replace(head, more=(*head.more, inner))
        else:
            self.other_way = f"{head} and {inner}"
        return True

    def _is_larger(self, inner: Quantity) -> bool:
        """Whether the leading quantity is the weight of which `inner` is left."""
        whole = self.head
        if whole is not None and whole.each is not None:
            whole = replace(whole.each, low=whole.each.low * whole.low, high=whole.each.high * whole.high)
        if whole is None or whole.kind is not Kind.MASS or inner.kind is not Kind.MASS:
            return False
        return grams(inner.amount, inner.unit) < grams(whole.amount, whole.unit)

    def _drains_to(self, inner: Quantity) -> bool:
        """Keep the drained weight of cans whose size is not said: "2 cans chickpeas (480 g drained)"."""
        head = self.head
        if head is None or head.unit not in ("can", "jar") or head.each is not None or inner.kind is not Kind.MASS:
            return False
        weight = grams(inner.amount, inner.unit)
        each, in_all = weight <= _MOST_DRAINED_G, weight / head.amount >= _LEAST_DRAINED_G
        self.prepared = inner if in_all else replace(inner, low=inner.low * head.low, high=inner.high * head.high)
        if each and in_all and head.amount > 1:
            self.other_way = f"{inner} drained from each"
        return True

    def _is_size(self, inner: Quantity, text: str, bracket: bool) -> bool:
        """Whether a quantity is that of one can or piece, and not the total."""
        head = self.head
        if head is None or head.each is not None or head.kind is not Kind.COUNT or _TOTAL.search(text):
            return False
        if _EACH.search(text) or text.strip().startswith("@"):
            return True
        if bracket and self._may_be_either(inner):
            return False
        if not (head.unit in _PACKS and bracket):
            return False
        # "2 cans (15 oz)" names one can; a part of a pack, and what no shelf has, are given with their whole weight.
        return head.low == head.high == 1 or (head.low > 1 and not _is_too_much_for_one(head, inner))

    def _may_be_either(self, inner: Quantity) -> bool:
        """Whether the bracket behind several packs may be the weight of one or of all: "2 packs (500 g)"."""
        head = self.head
        if head is None or head.low <= 1 or head.unit not in _PACKS or inner.kind is not Kind.MASS:
            return False
        weight = grams(inner.amount, inner.unit)
        if head.unit in ("can", "jar"):
            # Cans of about 400 g are what most shelves hold: 800 g behind two of them are rather both.
            return 700 <= weight <= _MOST_IN_A_CAN_G and 380 <= weight / head.amount <= 430
        return not _is_too_much_for_one(head, inner) and weight / head.amount >= 50


_LEAST_DRAINED_G, _MOST_DRAINED_G = 100.0, 350.0
"""What the cans of a kitchen drain to, from a can of tuna to a large one of beans."""
_MOST_IN_A_CAN_G = 830.0
"""The largest can of a household shelf is 28 or 29 oz."""
_MOST_IN_A_PACK_G = 1500.0
_PACKS = ("can", "jar", "packet", "bag", "tub", "block", "bottle")


def _is_too_much_for_one(head: Quantity, inner: Quantity) -> bool:
    """ "3 tins (1.2 kg)" together: no kitchen's tin holds a kilogram, and a third of it is one that is sold."""
    most = _MOST_IN_A_CAN_G if head.unit in ("can", "jar") else _MOST_IN_A_PACK_G
    if inner.kind is Kind.MASS:
        return grams(inner.amount, inner.unit) > most
    return False


def _trust(quantity: Quantity) -> int:
    """Weights before volumes before counts, metric ones before others; a can of known size is a weight."""
    if quantity.unit in ("g", "kg", "mg"):
        return 0
    if quantity.each is not None:
        return 1 if quantity.each.kind is Kind.MASS else 2
    if quantity.unit in ("ml", "cl", "dl", "l"):
        return 2
    return {Kind.MASS: 1, Kind.VOLUME: 3, Kind.COUNT: 4}[quantity.kind]


_TOKEN = re.compile(r"\d+\s*/\s*\d+|\d+(?:\.\d+)?|\.\d+|[a-z]+\.?|[-+&~]|\S")
_LONGEST = 9


def _leading(text: str) -> tuple[Quantity | None, str]:
    """The longest quantity the text begins with, and what follows it."""
    text = text.strip()
    ends = [match.end() for match in _TOKEN.finditer(text)][:_LONGEST]
    if not re.match(r"\d|\.\d|[a-z~]", text) or re.match(r"0\d", text):
        return None, text
    for end in reversed(ends):
        candidate = text[:end]
        if not re.search(r"\d", candidate) and not _is_spelled(candidate):
            continue
        if re.match(r"\s*%|pc\b", text[end:]):
            continue
        try:
            return read_quantity(candidate), text[end:].strip()
        except Unreadable:
            continue
    return None, text


_ALONE = frozenset(("half", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven",
                    "twelve", "fifteen", "sixteen", "eighteen", "twenty", "thirty", "forty", "fifty"))  # fmt: skip


def _is_spelled(text: str) -> bool:
    """A quantity in words needs more than an article: "a" alone is none, "half a" and "a pinch" are."""
    return len(text.split()) > 1 or text in _ALONE


_START = re.compile(r"(?<![\w./%])(?:(?:about|around|approx\.?|ca\.?|max|~)\s*)?\d")


def _stated(part: str) -> tuple[Quantity | None, str, str]:
    """The first weight, volume or count that stands anywhere in `part`, what is before it and what behind."""
    for match in _START.finditer(part):
        quantity, after = _leading(part[match.start() :])
        if quantity is None or re.match(r"(?:cm|mm|in|inch|inches|%|°|c|minutes?|mins?)\b|%", after):
            continue
        if quantity.kind is Kind.COUNT and quantity.unit == "piece" and match.start() and quantity.each is None:
            continue  # "type 00", "omega 3"
        return quantity, part[: match.start()], after
    return None, part, ""


def _anywhere(pieces: list[str]) -> tuple[Quantity | None, list[str]]:
    """The quantity of a line that does not begin with one: "turkey mince 1.2 kg", "oats: 80 g", "Onions: 4"."""
    for place, part in enumerate(pieces):
        quantity, before, after = _stated(part)
        if quantity is None:
            counted = re.match(r"^([a-z ]+):\s*(\d+)$", part.strip())
            if counted is None:
                continue
            quantity, before, after = read_quantity(counted[2]), counted[1], ""
        left = f"{before.strip(' :-')} {after}".strip()
        left = re.sub(r"\b(?:max|about|ca|raw weight|weight|weighed)\b\.?", " ", left).strip(" :-")
        return quantity, [*pieces[:place], left, *pieces[place + 1 :]]
    return None, pieces


def _of_a_fruit(text: str) -> tuple[Quantity | None, str]:
    """The juice of a lemon is a measure of the juice: "juice of 1 lemon", "2 limes, juiced"."""
    fruit = _OF_A_FRUIT.match(text.strip())
    if fruit:
        head, left = _leading(fruit.group(2))
        if head is not None:
            return replace(head, about=True), f"{left} {fruit.group(1)}"
    juiced = _JUICED.match(text.strip())
    if juiced:
        head, left = _leading(juiced.group(1))
        if head is not None and head.kind is Kind.COUNT:
            return replace(head, about=True), f"{left} juice"
    return None, text


def _of_a_part(head: Quantity | None, food: str) -> Quantity | None:
    """ "4 lettuce leaves" counts leaves, not lettuces."""
    if head is None or head.unit != "piece" or head.each is not None:
        return head
    words = food.split()
    part = UNIT_OF_WORD.get(words[-1], "") if len(words) > 1 else ""
    return replace(head, unit=part) if part in _PARTS_OF_ONE else head


def _state(text: str, quantities: Sequence[Quantity]) -> str:
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
    return found[0] if found else ""
