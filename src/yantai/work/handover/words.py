"""What is out of order with a calendar, in words."""

from __future__ import annotations

from datetime import date

from yantai.core.storage.breaks import SAFETY, Break, Rule
from yantai.core.storage.shelf import ShelfRule
from yantai.work.handover.laid import Laid, RowKeeping
from yantai.work.handover.views import BreakView

LOCAL_RULES = "General guidance; local food rules and your food-safety plan prevail."
KEEP_COLD = (
    "Cool fast: shallow, lid open, in the fridge within 90 minutes, at 5 °C or below. Reheat once, to 74 °C all "
    "through. Thaw in the fridge and eat the next day; never freeze again."
)


def day_words(day: date) -> str:
    """A day as it is said: "Wed 2 Dec"."""
    return f"{day:%a} {day.day} {day:%b}"


def break_view(laid: Laid, found: Break, kept: RowKeeping | None) -> BreakView:
    """What is broken, and what to do about it."""
    return BreakView(words=_WORDS[found.rule](laid, found, kept), is_unsafe=found.rule in SAFETY)


def _limit(laid: Laid, found: Break) -> str:
    return day_words(laid.on(int(found.limit or 0)))


def _decided_by(kept: RowKeeping | None) -> str:
    shortest = kept.container.shortest if kept is not None else None
    return f"{shortest[0].name}: {shortest[1].category}" if shortest is not None else "its parts"


def _days(count: float | None) -> str:
    return "1 day" if count == 1 else f"{count or 0:.0f} days"


def _past_cautious(laid: Laid, found: Break, kept: RowKeeping | None) -> str:
    return (
        f"{_days(found.by)} past the cautious {_limit(laid, found)} ({_decided_by(kept)}); still within the customary "
        "days. Freeze it, or eat it sooner."
    )


def _past_usual(laid: Laid, found: Break, kept: RowKeeping | None) -> str:
    return (
        f"{_days(found.by)} past {_limit(laid, found)}, the customary most ({_decided_by(kept)}). Freeze it, or eat it "
        "sooner."
    )


def _freezes(_laid: Laid, _found: Break, kept: RowKeeping | None) -> str:
    apart = " and ".join(part.name for part in kept.container.apart) if kept is not None else "A part of it"
    return f"{apart} does not freeze: keep that part apart, or cook it twice."


def _thaw(laid: Laid, found: Break, _kept: RowKeeping | None) -> str:
    return f"No time to freeze and thaw it: from the freezer it is ready on {_limit(laid, found)} at the earliest."


def _tub(laid: Laid, found: Break, kept: RowKeeping | None) -> str:
    names = " and ".join(kept.beside) if kept is not None else "The tub"
    return f"{names} beside it keeps until {_limit(laid, found)}: make it fresh, or eat it sooner."


def _room(laid: Laid, found: Break, _kept: RowKeeping | None) -> str:
    return (
        f"{found.by:.1f} l more than the {found.limit:.0f} l of the fridge in the night before. Freeze more, bring it "
        "in two goes, or say how much room there is."
    )


_WORDS = {
    Rule.HAS_DAY: lambda _laid, found, _kept: f"{found.by:.0f} without a day.",
    Rule.AFTER_COOKING: lambda laid, found, _kept: f"Before the first day, {_limit(laid, found)}.",
    Rule.CAUTIOUS_DAYS: _past_cautious,
    Rule.USUAL_DAYS: _past_usual,
    Rule.FREEZES: _freezes,
    Rule.TIME_TO_THAW: _thaw,
    Rule.FREEZER_DAYS: lambda laid, found, _kept: f"It stays good in the freezer until {_limit(laid, found)}.",
    Rule.ONE_A_MEAL: lambda _laid, _found, _kept: "A second one for the same meal of this day.",
    Rule.DAY_TYPE: lambda _laid, _found, _kept: "It was planned for another type of day.",
    Rule.FRIDGE_ROOM: _room,
    Rule.TUB_DAYS: _tub,
}


def again_words(kept: RowKeeping, name: str, count: int, rule: ShelfRule) -> str:
    """Why containers found no day, and what to do: cook twice, or take apart what does not freeze."""
    lacking = f"{'1 container' if count == 1 else f'{count} containers'} of {name} found no day"
    apart = " and ".join(part.name for part in kept.container.apart)
    days = kept.container.fridge_days
    keeps = "" if days is None else f": it keeps {_days(days)} in the fridge ({_decided_by(kept)})"
    if apart:
        return f"{lacking}{keeps}, and {apart} does not freeze. Pack that apart, or cook it twice."
    usual = " The customary days are a setting of the kitchen." if rule is ShelfRule.CAUTIOUS and days else ""
    return f"{lacking}{keeps}. Is there a day of its type in the week, and room in the fridge?{usual}"
