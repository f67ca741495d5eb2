"""What is sent to take a plan document in."""

from __future__ import annotations

from datetime import date

from yantai.work.common.inputs import Payload
from yantai.work.common.typed import FileText


class PlanFileInput(Payload):
    """A plan document (docs/formats) as text, to become a batch that is cooked on a day."""

    text: FileText
    cook_on: date
