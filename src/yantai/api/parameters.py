"""Parameters that several routes take."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query

VersionRead = Annotated[int, Query(ge=0, le=2**31 - 1)]
"""The version of a record that the page shows."""

SearchText = Annotated[str, Query(max_length=200)]
"""A few words that were typed."""
