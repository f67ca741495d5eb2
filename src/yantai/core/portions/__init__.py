"""Grams of each cooked component in one container."""

from yantai.core.portions.problem import Aim, Cell, Container, Limit, Portions
from yantai.core.portions.solver import solve

__all__ = ["Aim", "Cell", "Container", "Limit", "Portions", "solve"]
