"""What all containers of a batch ask of its pots."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from yantai.core.errors import require_range
from yantai.core.portions.problem import Container


class Sharing(StrEnum):
    """Who goes short when a pot holds less than the containers would take."""

    FAIR = "fair"
    RANKED = "ranked"


@dataclass(frozen=True, kw_only=True)
class Demand:
    """Equal containers: how many, and their rank where the first go first (0 before 1).

    Attributes:
        draws: for each cell the pots that it takes from, by their place, and what one gram takes of each [g]; a cell of
            the pot at its own place where nothing is said.
    """

    container: Container
    count: int
    rank: int = 0
    draws: tuple[tuple[tuple[int, float], ...], ...] | None = None

    def __post_init__(self) -> None:
        require_range("count", self.count, low=0, high=100, unit="containers")
        require_range("rank", self.rank, low=0, high=99, unit="")

    @cached_property
    def cells(self) -> tuple[tuple[int, tuple[tuple[int, float], ...]], ...]:
        """Each cell by its place, with the pots it takes from."""
        if self.draws is None:
            return tuple((index, ((index, 1.0),)) for index in range(len(self.container.cells)))
        return tuple(enumerate(self.draws))

    @cached_property
    def from_pot(self) -> dict[int, tuple[tuple[int, float], ...]]:
        """The cells that take from each pot, by its place, with what one gram takes [g]."""
        found: dict[int, list[tuple[int, float]]] = {}
        for index, draws in self.cells:
            for pot, share in draws:
                found.setdefault(pot, []).append((index, share))
        return {pot: tuple(cells) for pot, cells in found.items()}

    def taken_g(self, pot: int, grams: Sequence[float]) -> float:
        """What one container of these grams takes of a pot [g]."""
        return math.fsum(grams[index] * share for index, share in self.from_pot.get(pot, ()))
