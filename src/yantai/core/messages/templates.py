"""Templates of messages: words with places in braces that are filled for each client."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from yantai.core.errors import CoreError

LINK = "link"
"""The one place that is filled when a message goes: an address that nobody else may read."""


class MessageKind(StrEnum):
    """What a message is for."""

    HAND_OVER = "hand-over"
    THAW = "thaw tonight"
    FORM = "form"
    HOW_WAS_IT = "how was it"


class MessageState(StrEnum):
    """Where a message is. One that is being sent when everything stops may have arrived, or not: nobody knows."""

    WAITING = "waiting"
    SENDING = "sending"
    SENT = "sent"
    REFUSED = "refused"
    UNSURE = "unsure"
    SET_ASIDE = "set aside"


@dataclass(frozen=True, slots=True, kw_only=True)
class Template:
    """The subject, one line, and the body of a message."""

    subject: str
    body: str


PLACES: Mapping[MessageKind, tuple[str, ...]] = {
    MessageKind.HAND_OVER: ("client", "coach", "containers", "first_day", "last_day", LINK),
    MessageKind.THAW: ("client", "coach", "containers", "day", LINK),
    MessageKind.FORM: ("client", "coach", LINK),
    MessageKind.HOW_WAS_IT: ("client", "coach", LINK),
}
"""The places that a template of each kind may have."""

NEEDS_LINK = frozenset({MessageKind.FORM, MessageKind.HOW_WAS_IT})
"""Messages that are of no use without their link."""

STANDARD: Mapping[MessageKind, Template] = {
    MessageKind.HAND_OVER: Template(
        subject="Your containers, {first_day} to {last_day}",
        body=(
            "Hello {client},\n\nyour containers are ready:\n{containers}\n\nWhat to eat on which day, how to warm it "
            "up and what to thaw when stands on your page:\n{link}\n\nKeep them at 5 °C or colder, and keep the "
            "link to yourself.\n\n{coach}\n"
        ),
    ),
    MessageKind.THAW: Template(
        subject="Tonight from the freezer into the fridge",
        body="Hello {client},\n\nplease move this into the fridge tonight, for {day}:\n{containers}\n\n{coach}\n",
    ),
    MessageKind.FORM: Template(
        subject="Some questions before we start",
        body=(
            "Hello {client},\n\nso that I can plan for you, please answer what you want to of this form:\n{link}\n\n"
            "You can stop at any time and go on later by the same link. Keep it to yourself.\n\n{coach}\n"
        ),
    ),
    MessageKind.HOW_WAS_IT: Template(
        subject="How was it?",
        body="Hello {client},\n\nthree questions about the last containers:\n{link}\n\nThank you!\n\n{coach}\n",
    ),
}
"""What a kitchen begins with."""

_PLACE = re.compile(r"\{([^{}\n]*)\}")


def check_template(kind: MessageKind, template: Template) -> None:
    """Refuse places that a message of this kind does not have, a link that is lacking, and one in the subject.

    Raises:
        CoreError: names `subject` or `body`.
    """
    for field, text in (("subject", template.subject), ("body", template.body)):
        if not text.strip():
            raise CoreError("there is nothing in it yet", field=field)
        for found in _PLACE.findall(text):
            if found not in PLACES[kind]:
                known = ", ".join(f"{{{place}}}" for place in PLACES[kind])
                raise CoreError(f"“{{{found}}}” is filled by nothing; what is filled here: {known}", field=field)
    if LINK in _PLACE.findall(template.subject):
        raise CoreError("a link is for the body: subjects are read by everybody on the way", field="subject")
    if kind in NEEDS_LINK and LINK not in _PLACE.findall(template.body):
        raise CoreError("without {link} nobody gets to the form", field="body")


def filled(text: str, values: Mapping[str, str]) -> str:
    """A text with its places filled, all at once; one without a value, as the link, stays.

    >>> filled("Hello {client}, {link}", {"client": "Ada {coach}"})
    'Hello Ada {coach}, {link}'
    """
    return _PLACE.sub(lambda found: values.get(found[1], found[0]), text)
