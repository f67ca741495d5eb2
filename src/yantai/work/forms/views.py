"""Forms as they are shown to who fills them in, and to the coach."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime

from yantai.core.targets.forms import FormKind
from yantai.work.clients.views import SuggestionView
from yantai.work.forms.inputs import AnswersInput


@dataclass(frozen=True, slots=True, kw_only=True)
class FormView:
    """A form in the coach's list. `is_open` while its link works, `answered` is how many questions have an answer."""

    id: uuid.UUID
    kind: FormKind
    client_id: uuid.UUID | None
    name: str
    email: str
    made_by: str
    made_at: datetime
    expires_at: datetime
    revoked_at: datetime | None
    seen_at: datetime | None
    handed_in_at: datetime | None
    taken_at: datetime | None
    is_open: bool
    answered: int


@dataclass(frozen=True, slots=True, kw_only=True)
class NewFormView:
    """A form that was just made, with its address and that as a code to scan (SVG): they are shown this once."""

    form: FormView
    address: str
    code: str
    is_out_of_reach: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ReviewFieldView:
    """A field of a form beside the client: what was `said`, what the client has `now`, and what taking it makes.

    `text` is there where it is words: the coach may mend them before they take them. What is `same` changes nothing;
    without `can_take` it is only read.
    """

    key: str
    label: str
    said: str
    now: str
    text: str | None
    same: bool
    can_take: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ReviewView:
    """A form to be taken field by field. `cautions` say what belongs to a doctor or dietitian; `suggestion` are targets
    by their body figures with the formula, or whom to refer to; none where they asked for none."""

    form: FormView
    client: str | None
    revision: int
    agreed_at: datetime | None
    fields: list[ReviewFieldView]
    cautions: list[str]
    suggestion: SuggestionView | None


@dataclass(frozen=True, slots=True, kw_only=True)
class MyFormView:
    """A form as who fills it in sees it; `allergens` are the known ones by key, `agreement` is what they agree to."""

    kind: FormKind
    name: str
    coach: str
    answers: AnswersInput
    handed_in_at: datetime | None
    is_taken: bool
    expires_at: datetime
    allergens: dict[str, str]
    agreement: str
