"""The states that a food is bought and weighed in."""

from __future__ import annotations

from enum import StrEnum


class FoodState(StrEnum):
    """Amounts per 100 g and yields are of a food in one of these."""

    RAW = "raw"
    DRY = "dry"
    COOKED = "cooked"
    CANNED_DRAINED = "canned-drained"
    AS_SOLD = "as-sold"
    FROZEN = "frozen"
