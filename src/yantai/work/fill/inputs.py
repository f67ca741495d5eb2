"""What is sent while containers are filled."""

from __future__ import annotations

import uuid
from typing import Annotated

from pydantic import AwareDatetime, Field

from yantai.core.filling.facts import MOST_G, Fate, FillEvent, Way
from yantai.work.common.inputs import Payload
from yantai.work.common.typed import Note, Number, Range, Text, Weight, Whole


class FillFactInput(Payload):
    """Something that happened at the scale, and when by the clock of the device.

    `row_id` and `container` say which container, `component_id` which part of it, the first component of a mixture. For
    what is filled, decided or corrected, `grams` is what the container holds of the part by then, however it came to
    that; of a pot what is left in it, of a rest what of it went where, of a scoop its weight. `unsure_g` says how far
    that may be off; where it is not given and nobody weighed, the usual share for the `way` is taken. `asked_g` is what
    the screen asked for, on plan `version`; `after` the fact about the same part that it showed, `of` the fact that is
    taken back. `took_s` are the seconds from figure to fact.
    """

    id: uuid.UUID
    event: FillEvent
    row_id: uuid.UUID | None = None
    container: Annotated[Whole | None, Range(1, 1000, "", late=True)] = None
    component_id: uuid.UUID | None = None
    grams: Annotated[Weight, Range(0, 1_000_000, "g")] = 0
    unsure_g: Annotated[Weight | None, Range(0, MOST_G, "g")] = None
    asked_g: Annotated[Number | None, Range(0, MOST_G, "g")] = None
    units: Annotated[Number | None, Range(0, 1000, "pieces")] = None
    way: Way | None = None
    after: uuid.UUID | None = None
    of: uuid.UUID | None = None
    fate: Fate | None = None
    client_id: uuid.UUID | None = None
    text: Annotated[Note, Field(max_length=500)] = ""
    took_s: Annotated[Number | None, Range(0, 100_000, "seconds")] = None
    version: Whole = 0
    device: Text = ""
    happened_at: AwareDatetime | None = None
    sent_at: AwareDatetime | None = None


class TriedInput(Payload):
    """A reading that is not accepted yet: what would follow if it were."""

    row_id: uuid.UUID
    container: Annotated[Whole, Range(1, 1000, "")]
    component_id: uuid.UUID
    grams: Annotated[Weight, Range(0, MOST_G, "g")]
