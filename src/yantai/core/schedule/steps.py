"""A step of a component: how long, with and without hands, on what, and how that grows with the amount."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from math import log2

from yantai.core.schedule.day import Skill
from yantai.core.schedule.kitchen import KIND_WORDS, Kind

MILD_SHARE = 0.18
"""“Mild” is about 10 to 25 % more time for twice the amount; this is in the middle."""

OVEN_SHARE_C = 10.0
"""Dishes whose oven temperatures are at most so far apart [°C] may share an oven (domain, section 7)."""

_INSIDE_C = 60.0
"""About the mean temperature of food while it is in the oven [°C]: what the oven is above it drives the cooking."""


class Growth(StrEnum):
    """How the minutes of a step grow with the amount."""

    AMOUNT = "amount"
    FIXED = "fixed"
    LOAD = "per-load"
    MILD = "mild"


GROWTH_WORDS = {
    Growth.AMOUNT: "in proportion to the amount",
    Growth.FIXED: "the same for any amount",
    Growth.LOAD: "the same for each load",
    Growth.MILD: "a little longer for more",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """A step. Its minutes hold for the amount that its component was written for.

    Attributes:
        hands_min, unattended_min: minutes with somebody at it, and without.
        every_min: it wants a look, or a stir, at least this often.
        preheat_min: minutes that the equipment needs before.
        rest_min: minutes that it rests after.
        temperature_c: of the oven [°C].
        on: the kind of equipment, None for hands alone.
        growth: how its minutes grow; None, and hands grow with the amount, time on equipment does not.
        load_g: how much goes on at once [g]; None, and the kitchen's equipment says.
        lead_min, lead_most_min: it begins at least, at most, so long before the next step.
        core_c: what the thickest part must reach [°C].
        done_when: how one sees that it is done.
        after: the keys of the steps that must be done before; None, and it is the one before it.
        proposed: where a proposal comes from; "" for a step that somebody wrote.
        plain: the same words without the amount of the day, where they tell it.
    """

    key: str
    says: str
    hands_min: float = 0.0
    unattended_min: float = 0.0
    every_min: float | None = None
    preheat_min: float = 0.0
    rest_min: float = 0.0
    temperature_c: float | None = None
    on: Kind | None = None
    growth: Growth | None = None
    load_g: float | None = None
    lead_min: float | None = None
    lead_most_min: float | None = None
    core_c: float | None = None
    done_when: str = ""
    skill: Skill = Skill.OTHER
    needs_board: bool = False
    after: tuple[str, ...] | None = None
    proposed: str = ""
    plain: str = ""

    @property
    def is_lead(self) -> bool:
        """Whether it goes on by itself long before the rest: a soak, a marinade."""
        return self.lead_min is not None

    @property
    def growing(self) -> Growth:
        """How its minutes grow, where nobody said: hands with the amount, equipment not."""
        if self.growth is not None:
            return self.growth
        return Growth.FIXED if self.on is not None or self.is_lead or not self.hands_min else Growth.AMOUNT


def grown(minutes: float, growth: Growth, factor: float) -> float:
    """Minutes [min] for `factor` times the amount; what goes by loads is the same for each.

    >>> grown(10, Growth.AMOUNT, 2), grown(10, Growth.FIXED, 2), round(grown(10, Growth.MILD, 2), 2)
    (20, 10, 11.8)
    """
    if growth is Growth.AMOUNT:
        return minutes * factor
    if growth is Growth.MILD and factor > 1:
        return minutes * (1 + MILD_SHARE * log2(factor))
    return minutes


def ungrown(minutes: float, growth: Growth, factor: float) -> float:
    """Minutes [min] for the amount that was written, where so many are for `factor` times of it.

    >>> ungrown(grown(10, Growth.MILD, 3), Growth.MILD, 3)
    10.0
    """
    return minutes / (grown(1.0, growth, factor) or 1.0)


def at_temperature(minutes: float, stated_c: float, real_c: float) -> float:
    """About how long it takes in an oven of another temperature [min]: in proportion to what the oven is above the
    food. An estimate (Newton's law of heating, the food at 60 °C on average); doneness decides.

    >>> round(at_temperature(30, 200, 190), 1)
    32.3
    """
    return minutes * (stated_c - _INSIDE_C) / (real_c - _INSIDE_C)


def shared_temperatures(celsius: list[float]) -> dict[float, float]:
    """The fewest oven temperatures that stand for these: one for those at most `OVEN_SHARE_C` apart, in their middle.

    >>> shared_temperatures([180, 190, 200, 220])
    {180: 185, 190: 185, 200: 200, 220: 220}
    """
    shared: dict[float, float] = {}
    group: list[float] = []

    def close() -> None:
        middle = 5 * round((group[0] + group[-1]) / 2 / 5) if len(group) > 1 else group[0] if group else 0.0
        shared.update(dict.fromkeys(group, middle))
        group.clear()

    for each in sorted(set(celsius)):
        if group and each - group[0] > OVEN_SHARE_C:
            close()
        group.append(each)
    if group:
        close()
    return shared


_WORDS = (
    *((word, kind) for kind, word in KIND_WORDS.items()),
    ("frying pan", Kind.PAN),
    ("wok", Kind.PAN),
    ("saucepan", Kind.POT),
    ("casserole", Kind.POT),
    ("stove", Kind.HOB),
    ("cooker", Kind.HOB),
    ("ring", Kind.HOB),
    ("mixer", Kind.PROCESSOR),
    ("refrigerator", Kind.FRIDGE),
    ("chopping board", Kind.BOARD),
)


def kind_of(words: str) -> Kind | None:
    """The kind of equipment that a coach's words mean, None where they mean none.

    >>> kind_of("Rice cooker"), kind_of("the oven"), kind_of("")
    (<Kind.RICE_COOKER: 'rice-cooker'>, <Kind.OVEN: 'oven'>, None)
    """
    plain = words.casefold().replace("-", " ")
    found = [(len(word), kind) for word, kind in _WORDS if word.replace("-", " ") in plain]
    return max(found, key=lambda one: one[0])[1] if found else None
