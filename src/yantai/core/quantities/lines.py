"""An ingredient line, as people write it, taken apart."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from yantai.core.quantities.grammar import Unreadable, plain_text, read_quantity
from yantai.core.quantities.quantity import Kind, Quantity

_STATES = {
    "cooked": ("cooked", "boiled", "steamed", "roasted", "roast", "grilled", "baked", "leftover", "precooked"),
    "dry": ("dry", "dried", "uncooked"),
    "raw": ("raw", "fresh"),
    "frozen": ("frozen",),
    "canned-drained": ("canned", "tinned", "drained"),
}
"""Words that say in which state a food is meant. "Ground" and "chopped" say nothing of it."""
_STATE_OF_WORD = {word: state for state, words in _STATES.items() for word in words}
_TASTE = re.compile(
    r",?\s*\(?\b(to taste|as needed|as required|for serving|to serve|for greasing|for frying|to garnish|optional|"
    r"if liked|if wanted|if desired|or more|plus extra[^,()]*|plus more[^,()]*)\b\)?"
)
_BULLET = re.compile(r"^\s*(?:[-*•·▢☐]|\d{1,2}[.)](?=\s))\s+")
_SIZED_CAN = re.compile(r"^(\d+)\s*\((\d[^()]*)\)\s*(?=(?:can|tin|jar|packet|package|block|bag|tub)s?\b)")
_SLASHED = re.compile(r"([a-z])\s*/\s*(\d[\d.]*\s*[a-z]+)")
_UNNUMBERED = re.compile(
    r"^(?:heaped|heaping|rounded|scant|tsp|teaspoon|tbsp|tablespoon|cup|pinch|dash|handful|bunch|knob|can|tin|packet)\b"
)
_OF_A_FRUIT = re.compile(r"^(?:the\s+)?(juice|zest)\s+of\s+(.+)$")


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
    """

    text: str
    quantities: tuple[Quantity, ...]
    food: str
    note: str
    state: str
    to_taste: bool

    @property
    def words(self) -> frozenset[str]:
        """All words beside the quantity, for choosing a measure."""
        return frozenset(re.findall(r"[a-z]+", f"{self.food} {self.note}"))


def read_line(text: str) -> LineReading:
    """Take one ingredient line apart. Nothing is dropped: what is no quantity stays in `food` or `note`.

    >>> reading = read_line("1 1/2 lb (680 g) turkey mince, 93 % lean")
    >>> [str(quantity) for quantity in reading.quantities], reading.food
    (['680 g', '1.5 lb'], 'turkey mince 93 % lean')
    """
    plain = plain_text(_BULLET.sub("", text))
    plain = _SIZED_CAN.sub(r"\1 x \2 ", _SLASHED.sub(r"\1 (\2) ", plain))
    said = _TASTE.search(plain)
    rest = _TASTE.sub(" ", plain).strip(" ,")
    bracketed = [part.strip() for part in re.findall(r"\(([^()]*)\)", rest)]
    outside = re.sub(r"\([^()]*\)", " | ", rest)
    quantities: list[Quantity] = []
    head, outside = _leading(outside)
    if head is None:
        head, outside = _trailing(outside)
    outside = outside.replace("|", " ")
    notes = []
    for part in bracketed:
        inner = _bracketed(part)
        if inner is None:
            notes.append(part)
        elif head is not None and _is_size_of(head, inner, part):
            head = replace(head, each=replace(inner, about=False))
        else:
            quantities.append(inner)
    if head is not None:
        quantities.insert(0, head)
    food, _, after = outside.partition(",")
    if _is_part_of_name(after):
        food, after = f"{food} {after.strip()}", ""
    notes.insert(0, after)
    food = re.sub(r"^\s*(?:of|x)\s+", "", re.sub(r"\s+", " ", food)).strip(" .,;:-|")
    fruit = _OF_A_FRUIT.match(food)
    if fruit and not quantities:
        head, left = _leading(fruit.group(2))
        if head is not None:
            # The juice of a lemon is a measure of the juice: "juice of 1 lemon".
            quantities, food = [head], f"{left} {fruit.group(1)}"
    note = re.sub(r"\s+", " ", " ".join(part for part in notes if part)).strip(" ,|")
    return LineReading(
        text=text.strip(),
        quantities=tuple(sorted(quantities, key=_trust)),
        food=re.sub(r"\s+", " ", food).strip(" |"),
        note=note,
        state=_state(f"{food} {note}", quantities),
        to_taste=not quantities and (said is not None or bool(re.search(r"\b(salt|pepper)\b", food))),
    )


def read_recipe_text(text: str) -> list[LineReading]:
    """The lines of a pasted ingredient list; empty lines are left out, everything else is a line."""
    return [read_line(line) for line in text.splitlines() if line.strip()]


def _trust(quantity: Quantity) -> int:
    """Metric weights first, then other weights, then volumes, then counts; a can of known size is a weight."""
    if quantity.unit in ("g", "kg", "mg"):
        return 0
    return {Kind.MASS: 1, Kind.VOLUME: 2, Kind.COUNT: 3}[quantity.kind]


_TOKEN = re.compile(r"\d+\s*/\s*\d+|\d+(?:\.\d+)?|\.\d+|[a-z]+\.?|[-+&~]|\S")
_LONGEST = 9


def _leading(text: str) -> tuple[Quantity | None, str]:
    """The longest quantity the text begins with, and what follows it."""
    text = text.strip()
    if _UNNUMBERED.match(text):
        text = f"1 {text}"
    ends = [match.end() for match in _TOKEN.finditer(text)][:_LONGEST]
    if not re.match(r"\d|\.\d|[a-z~]", text):
        return None, text
    for end in reversed(ends):
        candidate = text[:end]
        if not re.search(r"\d", candidate) and not _is_spelled(candidate):
            continue
        try:
            return read_quantity(candidate), text[end:].strip()
        except Unreadable:
            continue
    return None, text


def _is_spelled(text: str) -> bool:
    """A quantity in words needs more than an article: "a" alone is none, "half a" and "a pinch" are."""
    return len(text.split()) > 1 or text in ("half", "one", "two", "three", "four", "five", "six", "ten", "twelve")


def _trailing(text: str) -> tuple[Quantity | None, str]:
    """A quantity at the end: "turkey mince 1.2 kg", "oats: 80 g"."""
    match = re.search(r"[\s:]((?:about\s+|~\s*)?\d[\d./\s+x-]*[a-z]*(?:\s+[a-z]+)?)$", text.strip())
    if match is None:
        return None, text
    try:
        quantity = read_quantity(match.group(1))
    except Unreadable:
        return None, text
    if quantity.unit == "piece":
        return None, text  # "omega 3", "type 00"
    return quantity, text.strip()[: match.start()].strip(" :-")


def _bracketed(text: str) -> Quantity | None:
    try:
        return read_quantity(re.sub(r"\b(each|in total|total|drained|net|per can)\b", "", text))
    except Unreadable:
        return None


def _is_size_of(head: Quantity, inner: Quantity, text: str) -> bool:
    """A bracket that gives the size of one can or piece, and not the total."""
    if head.each is not None or inner.kind is Kind.COUNT:
        return False
    container = head.unit in ("can", "jar", "packet", "bag", "tub", "block")
    return ("each" in text or container) and "total" not in text


def _is_part_of_name(after: str) -> bool:
    """Behind the comma stands a kind rather than a preparation: "mince, 93 % lean", "milk, 2 %"."""
    return bool(re.match(r"\s*(?:at least\s+)?\d+\s*%|\s*(?:extra[- ])?(?:lean|virgin|firm)\b", after))


def _state(text: str, quantities: Sequence[Quantity]) -> str:
    words = re.findall(r"[a-z]+", text)
    if any(quantity.unit == "can" for quantity in quantities):
        return "canned-drained"
    if "uncooked" in words:
        return "dry" if {"rice", "pasta", "lentils", "quinoa", "oats", "bulgur", "couscous"} & set(words) else "raw"
    found = [_STATE_OF_WORD[word] for word in words if word in _STATE_OF_WORD]
    if "canned-drained" in found:
        return "canned-drained"
    return found[0] if found else ""
