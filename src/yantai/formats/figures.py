"""Models with a figure for each of the names that the core lists, so that a new nutrient is one line there."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from pydantic import BaseModel, create_model


def with_figures(base: type[BaseModel], names: Iterable[str], figure: Any) -> Any:
    """A model like `base` with a field of type `figure` for each of `names`; None where it is not stated."""
    make: Any = create_model
    return make("_Figures", __base__=base, **dict.fromkeys(names, (figure | None, None)))
