"""What a helper's device may do; the coach's own may do everything."""

from __future__ import annotations

from enum import StrEnum


class Right(StrEnum):
    """To walk the shopping list, or to cook, weigh and fill."""

    SHOP = "shop"
    COOK = "cook"
