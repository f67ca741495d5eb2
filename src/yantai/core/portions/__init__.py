"""The portion engine: grams of each cooked component in every container of a batch (docs/engine.md)."""

from yantai.core.portions.demand import Demand, Sharing
from yantai.core.portions.problem import (
    Binding,
    Cell,
    Container,
    Hold,
    Limit,
    Portions,
)
from yantai.core.portions.shared import solve_all
from yantai.core.portions.single import least_miss, solve

__all__ = [
    "Binding",
    "Cell",
    "Container",
    "Demand",
    "Hold",
    "Limit",
    "Portions",
    "Sharing",
    "least_miss",
    "solve",
    "solve_all",
]
