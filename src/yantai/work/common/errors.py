"""What can go wrong in a user's action, in words and with the field it concerns.

WorkError
├── Invalid     a value makes no sense: `faults` says which and what would
├── Missing     there is no such thing in this workspace
├── Stale       somebody changed it since it was read
├── Doubtful    possible but unlikely: the same action with `confirmed` goes through
├── Closed      the batch is packed
└── NotSignedIn wrong or no credentials
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass

from pydantic import BaseModel

from yantai.core.errors import CoreError
from yantai.core.foods.labels import LABEL_FIGURES
from yantai.core.foods.nutrients import NUTRIENTS, Nutrient
from yantai.work.common.typed import late_faults


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is wrong: a JSON pointer into what was sent, and a sentence."""

    pointer: str
    message: str


@dataclass(frozen=True, slots=True)
class Mend:
    """A way out that was computed: its words, and the vessels [g] of the weighing that it would make."""

    words: str
    vessels: list[dict[str, float]]


class WorkError(Exception):
    """Base of these errors; `mends` are ways out, the likeliest first."""

    def __init__(self, message: str, faults: Sequence[Fault] = (), mends: Sequence[Mend] = ()) -> None:
        super().__init__(message)
        self.faults = tuple(faults)
        self.mends = tuple(mends)


class Invalid(WorkError):
    """Values that make no sense."""

    @classmethod
    def at(cls, pointer: str, message: str) -> Invalid:
        """One fault at one place."""
        return cls(message, [Fault(pointer, message)])


class Missing(WorkError):
    """No such row in this workspace."""


class Stale(WorkError):
    """Changed by somebody since it was read."""


class Doubtful(WorkError):
    """Unlikely; asks to be confirmed."""


class Closed(WorkError):
    """The batch is packed and only read."""


class NotAllowed(WorkError):
    """A helper has no right to it."""


class NotSignedIn(WorkError):
    """Wrong or no credentials."""


@contextmanager
def located(pointer: str) -> Iterator[None]:
    """Turn a core error inside the block into `Invalid` at `pointer`/field."""
    try:
        yield
    except CoreError as error:
        raise Invalid.at(f"{pointer}/{error.field}", sentence(str(error))) from error


class Collector:
    """Gathers the faults of one form, so that all are told at once."""

    def __init__(self) -> None:
        self.faults: list[Fault] = []

    def add(self, pointer: str, message: str) -> None:
        """Note a fault."""
        self.faults.append(Fault(pointer, sentence(message)))

    @contextmanager
    def located(self, pointer: str) -> Iterator[None]:
        """Note a core error inside the block instead of raising it."""
        try:
            yield
        except CoreError as error:
            self.add(f"{pointer}/{error.field}", str(error))

    def ranges(self, pointer: str, draft: BaseModel) -> None:
        """Note every figure of a draft that lies outside its range."""
        for error in late_faults(draft):
            self.add(f"{pointer}/{error.field}", str(error))

    def text(self, pointer: str, value: str, *, what: str, longest: int = 200) -> str:
        """`value` without outer spaces; a fault when it is empty or too long."""
        value = value.strip()
        if not value:
            self.add(pointer, f"give {what}")
        if len(value) > longest:
            self.add(pointer, f"{what} has {len(value)} characters; {longest} fit")
        return value

    def check(self) -> None:
        """Raise `Invalid` with everything that was noted."""
        if self.faults:
            raise Invalid(self.faults[0].message, self.faults)


def sentence(text: str) -> str:
    """A capital at the start and a stop at the end; field names become words."""
    for name, words in _NAMES.items():
        text = text.replace(name, words)
    text = text[:1].upper() + text[1:]
    return text if text.endswith((".", "?")) else text + "."


_NAMES = {
    **{name: name.partition("_")[0] for name in LABEL_FIGURES},
    **{nutrient.value: nutrient.noun for nutrient in NUTRIENTS if nutrient is not Nutrient.KCAL},
    "tolerance_": "tolerance for ",
    "refuse_share": "the share trimmed off",
    "retained_share": "the share that stays in",
    "purchased_g": "the raw weight",
    "capacity_ml": "the container's capacity",
    "buffer_share": "the extra for tasting and spill",
    "sure_share": "how sure it is that the pots suffice",
    "budget": "what a container may cost",
    "gross_g": "the weight on the scale",
    "vessel_g": "the vessel's weight",
    "measured_g": "the cooked weight",
    "minimum_g": "the least per container",
    "maximum_g": "the most per container",
    "step_g": "the scale's step",
    "poured_fat_g": "the fat poured off",
    "pan_capacity_g": "what the pan holds",
    "cook_min": "the time on the heat",
    "removed_g": "what was taken off",
    "yield_factor": "the yield",
    "serving_g": "the serving",
    "serving_ml": "the serving",
    "ml_weighs_g": "what 1 ml weighs",
    "empty_g": "the empty weight",
    "capacity_g": "what it holds",
    "drained_g": "the drained weight",
    "hands_on_min": "hands-on minutes",
    "unattended_min": "unattended minutes",
    "temperature_c": "the temperature",
    "lead_min": "minutes ahead",
    "on_hand_g": "the weight on hand",
    "pack_g": "the pack",
}
