"""What is sent to erase a client."""

from __future__ import annotations

from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Text


class ErasureInput(Payload):
    """Their name as it was typed, so that nobody is erased by a slip."""

    name: Text
