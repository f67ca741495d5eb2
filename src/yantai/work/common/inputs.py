"""What every input has in common."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Payload(BaseModel):
    """What is sent. A field it does not know is refused, so that a misspelt one is not lost in silence."""

    model_config = ConfigDict(extra="forbid", frozen=True)
