"""From what was bought to what goes in the pan, and back."""

from __future__ import annotations

import re

from yantai.core.errors import require_range
from yantai.core.quantities import Kind, read_line

MAXIMUM_REFUSE_SHARE = 0.95

_ANIMAL = frozenset(("poultry", "beef", "pork", "lamb-game", "fish-shellfish", "eggs"))
_HAS_BONE = re.compile(
    r"\b(?:bone[\s-]*in|on the bone|with bones?|whole|wings?|drumsticks?|ribs?|spareribs?|shanks?|legs?)\b"
)
_HAS_SKIN = re.compile(r"\b(?:skin[\s-]*on|with (?:the )?skin|whole)\b")
_HAS_SHELL = re.compile(r"\b(?:shell[\s-]*on|(?:in|with) (?:the |their )?shells?|unshelled|live|whole|head[\s-]*on)\b")
_IS_OFF = (
    r"peeled|trimmed|prepared|florets?|cored|pitted|stoned|shelled|podded|hulled|husked|deseeded|seeded|skinless|"
    r"boneless|boned|picked|cleaned|filleted|deveined"
)
_OFF_BEFORE = re.compile(rf"\b(?:{_IS_OFF}|ready[\s-]\w+|baby|bag|bagged|packet|frozen|net)\b")
_OFF_AFTER = re.compile(rf"\b(?:{_IS_OFF})\b")


def is_offered(text: str, *, name: str, group: str, note: str) -> bool:
    """Whether what is not eaten of a food may be offered to be taken off a line written as `text`.

    Only where the line says or implies the form that has it: a weight of bananas has its skin, eggs in a weight of
    egg white have no shell, a fillet has no bone. A count or a cup is turned by measures of the edible part. Words
    before the food tell what is off already ("peeled potatoes"), words behind it what comes off ("potatoes, peeled").

    Args:
        text: the line as it was written; "" for a food that was picked.
        name, group: of the food.
        note: what the share consists of ("bone", "shell", "peel").
    """
    reading = read_line(text)
    if reading.quantities and reading.quantities[0].kind is not Kind.MASS and reading.quantities[0].each is None:
        return False
    if reading.prepared is not None:
        return False  # the line itself says how much is left
    if group in _ANIMAL or group == "nuts-seeds":
        said = text.casefold()
        return (
            (bool(_HAS_BONE.search(said)) and "bone" in note)
            or (bool(_HAS_SKIN.search(said)) and "skin" in note)
            or (bool(_HAS_SHELL.search(said)) and ("shell" in note or "whole" in note))
        )
    if "juice" in name.casefold():
        return False
    if _OFF_BEFORE.search(reading.food):
        return False
    skin_is_eaten = re.search(r"with (?:skin|peel)", name.casefold()) is not None
    return bool(_OFF_AFTER.search(reading.note)) or not skin_is_eaten


def edible_g(purchased_g: float, refuse_share: float) -> float:
    """Edible portion [g] of `purchased_g` [g] as purchased: `EP = AP × (1 - refuse)`.

    `refuse_share` is the share that is trimmed, peeled, boned or drained off, from 0 to 0.95.

    >>> round(edible_g(2400, 0.06), 6)
    2256.0
    """
    require_range("refuse_share", refuse_share, low=0, high=MAXIMUM_REFUSE_SHARE, unit="of the purchased weight")
    return purchased_g * (1 - refuse_share)


def purchased_g(edible: float, refuse_share: float) -> float:
    """Weight to buy [g] so that `edible` [g] are left: `AP = EP / (1 - refuse)`.

    >>> round(purchased_g(2256, 0.06), 6)
    2400.0
    """
    require_range("refuse_share", refuse_share, low=0, high=MAXIMUM_REFUSE_SHARE, unit="of the purchased weight")
    return edible / (1 - refuse_share)
