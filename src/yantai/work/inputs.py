"""What users send: plain dataclasses, checked for sense by the work functions and the core."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from datetime import date
from typing import ClassVar, Literal


class Strict:
    """Inputs refuse fields they do not know, so that a misspelt one is not lost in silence."""

    __pydantic_config__: ClassVar[dict[str, str]] = {"extra": "forbid"}


@dataclass(frozen=True, kw_only=True)
class Credentials(Strict):
    """A sign-in."""

    email: str
    password: str


@dataclass(frozen=True, kw_only=True)
class ToleranceInput(Strict):
    """How far off is close enough."""

    kcal: float = 30
    protein_g: float = 3
    carbohydrate_g: float = 5
    fat_g: float = 3


@dataclass(frozen=True, kw_only=True)
class TargetInput(Strict):
    """What one container shall hold. `id` of a target that exists, or None for a new one."""

    id: uuid.UUID | None = None
    slot: str
    day_type: str = "any"
    kcal: float | None = None
    protein_g: float | None = None
    carbohydrate_g: float | None = None
    fat_g: float | None = None
    capacity_ml: float | None = None


@dataclass(frozen=True, kw_only=True)
class ClientInput(Strict):
    """A client as typed; `version` is the one that was read, None for a new client."""

    name: str
    note: str = ""
    allergens: list[str] = field(default_factory=list)
    dislikes: list[str] = field(default_factory=list)
    tolerance: ToleranceInput = field(default_factory=ToleranceInput)
    targets: list[TargetInput] = field(default_factory=list)
    version: int | None = None


@dataclass(frozen=True, kw_only=True)
class LineInput(Strict):
    """An ingredient: grams as purchased."""

    food_id: uuid.UUID
    purchased_g: float
    refuse_share: float = 0
    retained_share: float = 1
    yield_factor: float | None = None


@dataclass(frozen=True, kw_only=True)
class ComponentInput(Strict):
    """A component; `id` of one that exists, or None."""

    id: uuid.UUID | None = None
    name: str
    role: str = "protein"
    method: str = "none"
    minimum_g: float = 0
    maximum_g: float = 400
    density_g_per_ml: float = 0.8
    yield_low: float | None = None
    yield_expected: float | None = None
    yield_high: float | None = None
    lines: list[LineInput] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class RecipeInput(Strict):
    """A recipe as typed; `version` is the one that was read, None for a new recipe."""

    name: str
    note: str = ""
    components: list[ComponentInput] = field(default_factory=list)
    version: int | None = None


@dataclass(frozen=True, kw_only=True)
class EaterInput(Strict):
    """Containers of one client's target in a new batch."""

    target_id: uuid.UUID
    count: int


@dataclass(frozen=True, kw_only=True)
class BatchInput(Strict):
    """A new batch."""

    name: str
    recipe_id: uuid.UUID
    cook_on: date
    eaters: list[EaterInput]
    step_g: float = 5
    buffer_share: float = 0.03


@dataclass(frozen=True, kw_only=True)
class SetPin(Strict):
    """Fix the grams of one cell, or free it."""

    kind: Literal["pin"] = "pin"
    row_id: uuid.UUID
    component_id: uuid.UUID
    grams: float | None


@dataclass(frozen=True, kw_only=True)
class SetTarget(Strict):
    """Change what the containers of one row shall hold, in this batch only."""

    kind: Literal["target"] = "target"
    row_id: uuid.UUID
    kcal: float | None
    protein_g: float | None
    carbohydrate_g: float | None
    fat_g: float | None


@dataclass(frozen=True, kw_only=True)
class SetContainers(Strict):
    """Change how many containers a row has, and what they hold at most."""

    kind: Literal["containers"] = "containers"
    row_id: uuid.UUID
    count: int
    capacity_ml: float | None


@dataclass(frozen=True, kw_only=True)
class SetBounds(Strict):
    """Change the least and the most of a component per container."""

    kind: Literal["bounds"] = "bounds"
    component_id: uuid.UUID
    minimum_g: float
    maximum_g: float


@dataclass(frozen=True, kw_only=True)
class RawAmount(Strict):
    """Grams of one line as purchased."""

    line_id: uuid.UUID
    purchased_g: float


@dataclass(frozen=True, kw_only=True)
class SetRaw(Strict):
    """Fix the raw amounts of a component: those given, the others as planned now. Or let them follow again."""

    kind: Literal["raw"] = "raw"
    component_id: uuid.UUID
    fixed: bool
    lines: list[RawAmount] = field(default_factory=list)


@dataclass(frozen=True, kw_only=True)
class Vessel(Strict):
    """One vessel on the scale."""

    gross_g: float
    vessel_g: float = 0


@dataclass(frozen=True, kw_only=True)
class Weigh(Strict):
    """Record a cooked weight. `command_id` makes a repeated call count once."""

    kind: Literal["weigh"] = "weigh"
    component_id: uuid.UUID
    command_id: uuid.UUID
    vessels: list[Vessel]


@dataclass(frozen=True, kw_only=True)
class Withdraw(Strict):
    """Take back a cooked weight."""

    kind: Literal["withdraw"] = "withdraw"
    component_id: uuid.UUID
    command_id: uuid.UUID


@dataclass(frozen=True, kw_only=True)
class SetBatch(Strict):
    """Change the batch itself."""

    kind: Literal["batch"] = "batch"
    name: str
    cook_on: date
    step_g: float
    buffer_share: float


@dataclass(frozen=True, kw_only=True)
class SetPacked(Strict):
    """Close the batch once its containers are filled, or open it again."""

    kind: Literal["packed"] = "packed"
    packed: bool


Change = SetPin | SetTarget | SetContainers | SetBounds | SetRaw | Weigh | Withdraw | SetBatch | SetPacked


@dataclass(frozen=True, kw_only=True)
class Changes(Strict):
    """Changes of a batch, made together or not at all, to the version that was read."""

    version: int
    changes: list[Change]
    confirmed: bool = False
