"""What all containers of a batch ask of its pots."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import require_range
from yantai.core.portions.problem import Container


class Sharing(StrEnum):
    """Who goes short when a pot holds less than the containers would take."""

    FAIR = "fair"
    RANKED = "ranked"


@dataclass(frozen=True, slots=True, kw_only=True)
class Demand:
    """Equal containers: how many, and their rank where the first go first (0 before 1)."""

    container: Container
    count: int
    rank: int = 0

    def __post_init__(self) -> None:
        require_range("count", self.count, low=0, high=100, unit="containers")
        require_range("rank", self.rank, low=0, high=99, unit="")
