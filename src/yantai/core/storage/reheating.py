"""How a container is warmed up, in words (domain, sections 9 and 11)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from yantai.core.speaking import heat
from yantai.core.storage.calendar import Store
from yantai.core.storage.matching import Stuff
from yantai.core.storage.shelf import ShelfRow

REHEAT_C = 74.0
"""The core temperature of everything that is warmed up [°C] (reference, safety.csv: reheating leftovers)."""

THAWED = "Thaw overnight in the fridge. "
"""How the words on what is frozen begin."""

_STARCH_SHARE, _G_A_MINUTE = 0.3, 170.0
_STARCH = ("grains-pasta",)
_WET_ROWS = ("soups, stews", "chilli and bean", "stock", "tomato sauces", "porridge")


@dataclass(frozen=True, slots=True, kw_only=True)
class Warmed:
    """A part of a container: its name, what it is, the rows it goes by, and its grams there.

    What is packed raw says how it is cooked.
    """

    name: str
    stuff: Stuff
    rows: Sequence[ShelfRow]
    grams: float
    kit_text: str = ""

    @property
    def is_hot(self) -> bool:
        """It is eaten warm: one of its rows has a temperature for that."""
        return self.stuff.packed_raw or any(row.reheat_c is not None for row in self.rows)

    @property
    def drinks_water(self) -> bool:
        """Starch that will have drunk up its water by then."""
        return self.stuff.share(*_STARCH) >= _STARCH_SHARE

    @property
    def is_wet(self) -> bool:
        """It stands in its own liquid."""
        return any(row.category.startswith(_WET_ROWS) or "porridge" in row.category for row in self.rows)


def reheating(parts: Sequence[Warmed], store: Store | None, after: Sequence[str] = ()) -> tuple[str, str]:
    """How to warm a container up, and the same in short. `after` goes on when it is hot: tubs beside it, toppings.

    The minutes are a guide for a microwave of about 800 W: a minute for each 170 g, and one more after stirring.
    """
    raw = [part for part in parts if part.stuff.packed_raw]
    if raw:
        how = " ".join(part.kit_text.strip().rstrip(".") + "." for part in raw if part.kit_text.strip())
        return f"Raw: cook it on the day. {how}".strip(), "Raw: cook it through on the day."
    hot = [part for part in parts if part.is_hot]
    thawed = THAWED if store is Store.FREEZER else ""
    on_after = f" {_listed(after)} on after." if after else ""
    if not hot:
        return f"{thawed}Eat cold.{f' {_listed(after)} with it.' if after else ''}", "Eat cold."
    cold = [part.name for part in parts if not part.is_hot and part.rows]
    take_out = f"Take out {_listed(cold)} first. " if cold else ""
    minutes = max(ceil(sum(part.grams for part in hot) / _G_A_MINUTE), 2)
    dry = [part.name for part in hot if part.drinks_water and not part.is_wet]
    water = f" with a tablespoon of water over the {_listed(dry, lower=True)}" if dry else ""
    short = f"Reheat once, to {heat(REHEAT_C)}."
    return (
        f"{thawed}{take_out}Lid ajar, about {minutes} minutes at full power{water}, stir or turn, 1 minute more: hot "
        f"all through ({heat(REHEAT_C)}), once only.{on_after}"
    ), short


def _listed(names: Sequence[str], *, lower: bool = False) -> str:
    said = [name[:1].lower() + name[1:] if lower else name for name in names]
    return said[0] if len(said) == 1 else f"{', '.join(said[:-1])} and {said[-1]}"
