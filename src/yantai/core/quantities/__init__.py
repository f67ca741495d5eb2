"""Quantities as people write them: read by a grammar, turned into grams by the food's own measures."""

from yantai.core.quantities.conversion import (
    STATED_APART,
    Disagreement,
    InGrams,
    Measure,
    apart,
    disagreements,
    to_grams,
)
from yantai.core.quantities.grammar import Unreadable, read_quantity
from yantai.core.quantities.lines import LineReading, read_line, read_recipe_text
from yantai.core.quantities.quantity import Kind, Quantity, kind_of
from yantai.core.quantities.weights import weighings_g, weight_g

__all__ = [
    "STATED_APART",
    "Disagreement",
    "InGrams",
    "Kind",
    "LineReading",
    "Measure",
    "Quantity",
    "Unreadable",
    "apart",
    "disagreements",
    "kind_of",
    "read_line",
    "read_quantity",
    "read_recipe_text",
    "to_grams",
    "weighings_g",
    "weight_g",
]
