"""Where the water of a pot goes: dry food takes it up, some boils off, the rest stays or is poured away.

The rule. Everything that goes into a pot comes out of it again, but for what leaves as steam and what is poured off:

    cooked = in the pot − steam,    steam = max(share × free liquid, floor × liquid)
    free liquid = water, stock, milk … + juices that meat and vegetables give up − what dry food takes up, at least 0

The share and the floor belong to the method: how open the pot is. Where the coach says whether a lid is on, and for how
many minutes, they take the place of what the method usually means; what is left boils down by the same share each
minute, so that twice as long leaves the square of it:

    share in m minutes = 1 − (1 − share in the method's usual minutes) ^ (m / usual minutes)

Dry food that finds less liquid than it would take up takes what there is.

By hand: 800 g dry rice (takes up to 2.8), 1,900 g water, 1,400 g chicken (keeps 0.76) and 521 g sauce simmer in one
pot of 4,621 g. The rice takes up 800 × 1.8 = 1,440 g, the chicken gives 1,400 × 0.24 = 336 g, so 1,900 + 336 − 1,440
= 796 g are free; a fifth of it, 159 g, boils off, and 4,462 g come out. A simmer usually takes 45 minutes: with the
lid on for 90 minutes, 1 − 0.90² = 0.19 of it; without one for 20 minutes, 1 − 0.65 ^ (20 / 45) = 0.174.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import Protocol

from yantai.core.cooking.yields import End, YieldRange, YieldSource, at
from yantai.core.errors import require_range
from yantai.core.speaking import weight

POURED_OFF_FROM = 1.6
"""Boiled in more than so many times what dry food takes up, the rest is poured off: pasta in a large pot. Rice is given
1.0 to 1.3 times what it takes up."""
SERVES = 0.8
"""Milk or tomatoes of at least this share of what dry food would take up are what it is cooked in; with less of them
it was cooked in water that nobody listed, and they came to it."""
_DRAINING = ("boiled", "poached", "steamed")


class Lid(StrEnum):
    """Whether the pot is covered."""

    UNSAID = ""
    ON = "on"
    OFF = "off"


MAXIMUM_COOK_MIN = 1440.0
USUAL_MIN = {
    "slow-cooked": 420.0, "braised": 100.0, "boiled": 45.0, "simmered": 45.0, "baked": 45.0, "roasted": 45.0,
    "pressure-cooked": 30.0, "poached": 20.0, "air-fried": 15.0, "microwaved": 10.0, "steamed": 10.0, "sauteed": 10.0,
    "pan-fried": 10.0, "grilled": 10.0, "stir-fried": 5.0,
}  # fmt: skip
"""The minutes that the shares below are for. A simmer, a boil and an oven dish: the middle of half an hour to an hour.
The others: about the median of the typical minutes in the reference of cooking times, by method."""


@dataclass(frozen=True, slots=True, kw_only=True)
class BoilOff:
    """Shares of the free liquid that leave as steam: the least, the expected and the most."""

    low: float
    expected: float
    high: float

    def for_minutes(self, minutes: float, *, usual: float) -> BoilOff:
        """The shares for so many minutes on the heat instead of the `usual` ones that these are for.

        Raises:
            OutOfRange: no pot cooks so long.
        """
        require_range("cook_min", minutes, low=1, high=MAXIMUM_COOK_MIN, unit="minutes")
        times = minutes / usual
        low, expected, high = (1 - (1 - share) ** times for share in (self.low, self.expected, self.high))
        return BoilOff(low=low, expected=expected, high=high)

    def steam_g(self, end: End, *, free_g: float, liquid_g: float) -> float:
        """Steam [g] at one end ("low", "expected", "high") of the range; a little leaves even where nothing is free."""
        share = {"low": self.low, "expected": self.expected, "high": self.high}[end]
        return min(max(share * free_g, _FLOOR[end] * liquid_g), liquid_g + free_g)


_FLOOR = {"low": 0.0, "expected": 0.03, "high": 0.10}
_CLOSED = BoilOff(low=0, expected=0.05, high=0.15)
_LID = BoilOff(low=0.05, expected=0.15, high=0.35)
_COVERED = BoilOff(low=0.02, expected=0.10, high=0.25)
_SIMMER = BoilOff(low=0.05, expected=0.20, high=0.40)
_OPEN = BoilOff(low=0.15, expected=0.35, high=0.70)
_PAN = BoilOff(low=0.30, expected=0.60, high=0.95)
SHARES = {
    "pressure-cooked": _CLOSED, "slow-cooked": _CLOSED, "microwaved": _LID, "braised": _LID, "steamed": _LID,
    "boiled": _SIMMER, "simmered": _SIMMER, "poached": _SIMMER, "baked": _OPEN, "roasted": _OPEN,
    "sauteed": _PAN, "stir-fried": _PAN, "pan-fried": _PAN, "grilled": _PAN, "air-fried": _PAN,
}  # fmt: skip
"""How open the pot is by the method, as kitchen ranges for its usual minutes: a closed cooker loses next to
nothing, one that is covered most of the time up to a third of its free liquid, a simmer with or without a lid a fifth,
a hot pan most of it. A lid that is said to be on is on all the time; without one a pot simmers down as in the oven."""


class Poured(Protocol):
    """A line as the balance sees it."""

    @property
    def stays_g(self) -> float: ...  # noqa: D102
    @property
    def is_water(self) -> bool: ...  # noqa: D102
    @property
    def wet(self) -> bool: ...  # noqa: D102
    @property
    def yield_range(self) -> YieldRange: ...  # noqa: D102


def taken_up_g(lines: Sequence[Poured], end: End = "expected") -> float:
    """What the dry food of a pot would take up [g]; `end` of its yield's range."""
    return sum(line.stays_g * max(at(line.yield_range, end) - 1, 0.0) for line in lines if not _is_liquid(line))


def given_up_g(lines: Sequence[Poured], end: End = "expected") -> float:
    """The juices that meat and vegetables give up [g]."""
    return sum(line.stays_g * max(1 - at(line.yield_range, end), 0.0) for line in lines if not _is_liquid(line))


def water_g(lines: Sequence[Poured]) -> float:
    """Water and stock that are listed [g]."""
    return sum(line.stays_g for line in lines if line.is_water)


def wet_g(lines: Sequence[Poured]) -> float:
    """Milk, tomatoes and the like that dry food takes up from [g]."""
    return sum(line.stays_g for line in lines if line.wet)


def boil_off(
    lines: Sequence[Poured], method: str, *, lid: Lid = Lid.UNSAID, minutes: float | None = None
) -> BoilOff | None:
    """How much of the free liquid of a pot boils off; None where each line counts on its own.

    `lid` and `minutes` on the heat are what the coach says, where he does.

    That is where no liquid is listed; where it was boiled in and what was not taken up is poured off, or gone when the
    grain is done; and where dry food was cooked in water that nobody listed.
    """
    if method not in SHARES:
        return None
    shares = _shares(method, lid, minutes)
    water, wet, taken = water_g(lines), wet_g(lines), taken_up_g(lines)
    if water > 0 and method in _DRAINING:
        alone = not wet and not given_up_g(lines)
        gone = not taken or water > POURED_OFF_FROM * taken or (alone and water >= taken)
        return None if gone else shares
    if water > 0:
        return shares
    return shares if taken > 0 and wet >= SERVES * taken else None


def _shares(method: str, lid: Lid, minutes: float | None) -> BoilOff:
    found = SHARES[method]
    if found is not _CLOSED and lid is Lid.ON:
        found = _COVERED
    elif found in (_LID, _SIMMER) and lid is Lid.OFF:
        found = _OPEN
    return found if minutes is None else found.for_minutes(minutes, usual=USUAL_MIN[method])


def free_g(lines: Sequence[Poured], end: End) -> float:
    """Liquid [g] that dry food leaves over, at one end of the yields' ranges."""
    return max(liquid_g(lines) + given_up_g(lines, end) - taken_up_g(lines, end), 0.0)


def liquid_g(lines: Sequence[Poured]) -> float:
    """All liquid [g] that steam can come from."""
    return water_g(lines) + wet_g(lines)


def balanced(lines: Sequence[Poured], cooked_g: float) -> tuple[YieldRange, ...]:
    """The yield of each line in a pot of which `cooked_g` [g] come out: what is dry takes up what there is, and the
    liquid keeps the rest."""
    liquid, taken = liquid_g(lines), taken_up_g(lines)
    left = cooked_g - sum(line.stays_g * line.yield_range.expected for line in lines if not _is_liquid(line))
    # Less than nothing left of the liquid: the dry food went short by that much.
    uptake = max(1 + min(left, 0.0) / taken, 0.0) if taken else 1.0
    kept = max(left, 0.0) / liquid
    note = f"{weight(taken * uptake)} of {weight(liquid)} liquid taken up" if taken else "part boils off"
    return tuple(
        YieldRange(low=0, expected=kept, high=max(kept, 1.0), source=YieldSource.WATER, note=note)
        if _is_liquid(line)
        else _short(line.yield_range, uptake)
        for line in lines
    )


def _is_liquid(line: Poured) -> bool:
    return line.is_water or line.wet


def _short(found: YieldRange, uptake: float) -> YieldRange:
    """The yield of a food that takes up only a share of what it would."""
    if found.expected <= 1 or uptake == 1:
        return found
    expected = 1 + (found.expected - 1) * uptake
    return YieldRange(
        low=min(found.low, expected),
        expected=expected,
        high=max(found.high, expected),
        source=found.source,
        note="no more liquid is listed" if uptake < 1 else found.note,
    )
