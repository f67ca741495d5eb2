"""In which order containers are filled."""

from __future__ import annotations

from yantai.core.filling.bench import Bench
from yantai.core.filling.facts import Spot


def filling_order(bench: Bench) -> list[Spot]:
    """Every container in the order of the rows, those first from which something stays out that must not be eaten:
    tools and hands are clean then. Whoever fills in another order keeps these in front."""
    careful = [spot for index, spot in bench.spots if bench.classes[index].left_out]
    return [*careful, *(spot for _, spot in bench.spots if spot not in set(careful))]
