"""How far tests search that could search for ever."""

from __future__ import annotations

import os

THOROUGH = bool(os.environ.get("YANTAI_THOROUGH"))


def volume(usual: int, thorough: int) -> int:
    """How many cases: few at each change, all of them with `./yantai test --thorough`."""
    return thorough if THOROUGH else usual
