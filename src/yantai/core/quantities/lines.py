"""An ingredient line, as people write it, taken apart."""

from __future__ import annotations

import re
from dataclasses import dataclass, field, replace

from yantai.core.quantities.grammar import Unreadable, read_quantity
from yantai.core.quantities.line_patterns import (
    BESIDE,
    BULLET,
    EACH,
    JUICED,
    NO_AMOUNT,
    OF_A_FRUIT,
    ON_TOP,
    PARTS_OF_ONE,
    PREPARED,
    REWRITINGS,
    SPELLED,
    TASTE,
    TOTAL,
    state_of,
)
from yantai.core.quantities.quantity import SIZES, UNIT_OF_WORD, Kind, Quantity
from yantai.core.quantities.units import grams
from yantai.core.quantities.writing import plain_text, spoons_in_words, two_ways


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
    plain = plain_text(spoons_in_words(BULLET.sub("", text)))
    readings = two_ways(plain)
    other_way = ""
    if readings is not None:
        plain = readings[0]
        head, _ = _leading(readings[1])
        other_way = str(head) if head is not None else readings[1]
    for pattern, written in REWRITINGS:
        plain = pattern.sub(written, plain)
    said = TASTE.search(plain)
    rest = TASTE.sub(" ", plain).strip(" ,")
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
    for index, part in enumerate(pieces):
        left = found.take(part, bracket=False) if index or head is not None else part
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
        state=state_of(f"{food}, {note}", quantities),
        to_taste=not quantities and (said is not None or bool(re.search(r"\b(salt|pepper)\b", food))),
        prepared=found.prepared,
        other_way=other_way or found.other_way,
        unread=next((part.strip() for part in (food, *notes) if _holds_a_number(part)), ""),
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
        if ON_TOP.match(part) and self._add(inner, after.strip()):
            return ON_TOP.sub("", f"{before}{after}").strip()
        if inner.kind is Kind.COUNT and not inner.each:
            # "(about 3)" counts what is weighed already; "cut into 2 pieces" is a preparation.
            if bracket and not BESIDE.sub("", rest).strip():
                self.others.append(inner)
                return ""
            return part
        left = BESIDE.sub(" ", TOTAL.sub(" ", EACH.sub(" ", rest)))
        left = left.strip(" @~:;.|-")
        if PREPARED.search(rest) and self._is_larger(inner):
            self.prepared = inner
            return PREPARED.sub(" ", left).replace(",", " ").strip()
        if "drained" in rest and self._drains_to(inner):
            return PREPARED.sub(" ", left).replace(",", " ").strip()
        if self._is_size(inner, part, bracket):
            assert self.head is not None
            self.head = replace(self.head, each=replace(inner, about=False))
            return left
        if bracket and not TOTAL.search(part) and self._may_be_either(inner):
            assert self.head is not None
            self.other_way = str(replace(self.head, each=replace(inner, about=False)))
        self.others.append(inner)
        return left

    def _add(self, inner: Quantity, rest: str) -> bool:
        """Add what comes on top: "2 tbsp oil, plus 1 tsp for the pan"; whether the line was read with it."""
        head = self.head
        if head is None or inner.each is not None:
            return False
        if head.each is not None:
            self.other_way = f"{head} and {inner}"
        elif rest and not re.match(r"(?:for|to|if|as)\b", rest):
            if inner.kind is Kind.COUNT:
                return False
            self.other_way = f"{head} and {inner} {rest}"
        elif head.unit == inner.unit and head.size == inner.size:
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
        if head is None or head.each is not None or head.kind is not Kind.COUNT or TOTAL.search(text):
            return False
        if EACH.search(text) or text.strip().startswith("@"):
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
    for index, part in enumerate(pieces):
        quantity, before, after = _stated(part)
        if quantity is None:
            counted = re.match(r"^([a-z ]+):\s*(\d+)$", part.strip())
            if counted is None:
                continue
            quantity, before, after = read_quantity(counted[2]), counted[1], ""
        left = f"{before.strip(' :-')} {after}".strip()
        left = re.sub(r"\b(?:max|about|ca|raw weight|weight|weighed)\b\.?", " ", left).strip(" :-")
        return quantity, [*pieces[:index], left, *pieces[index + 1 :]]
    return None, pieces


def _of_a_fruit(text: str) -> tuple[Quantity | None, str]:
    """The juice of a lemon is a measure of the juice: "juice of 1 lemon", "2 limes, juiced"."""
    fruit = OF_A_FRUIT.match(text.strip())
    if fruit:
        head, left = _leading(fruit.group(2))
        if head is not None:
            return replace(head, about=True), f"{left} {fruit.group(1)}"
    juiced = JUICED.match(text.strip())
    if juiced:
        head, left = _leading(juiced.group(1))
        if head is not None and head.kind is Kind.COUNT:
            return replace(head, about=True), f"{left} juice"
    return None, text


def _holds_a_number(text: str) -> bool:
    left = NO_AMOUNT.sub(" ", text)
    return bool(re.search(r"\d", left) or SPELLED.search(left))


def _of_a_part(head: Quantity | None, food: str) -> Quantity | None:
    """ "4 lettuce leaves" counts leaves, not lettuces."""
    if head is None or head.unit != "piece" or head.each is not None:
        return head
    words = food.split()
    part = UNIT_OF_WORD.get(words[-1], "") if len(words) > 1 else ""
    return replace(head, unit=part) if part in PARTS_OF_ONE else head
