"""A recipe as the open formats hold it, and the error of a file that cannot be read."""

from __future__ import annotations

from dataclasses import dataclass

from yantai.core.schedule.steps import Growth


class BadFile(ValueError):
    """A file that cannot be used; `location` says where ("line 3", "recipeIngredient")."""

    def __init__(self, message: str, *, location: str = "") -> None:
        super().__init__(message)
        self.location = location


@dataclass(frozen=True, slots=True, kw_only=True)
class StepDocument:
    """A step: minutes [min], temperature [°C]."""

    text: str
    component: str = ""
    hands_on_min: float | None = None
    unattended_min: float | None = None
    temperature_c: float | None = None
    equipment: str = ""
    lead_min: float | None = None
    every_min: float | None = None
    growth: Growth | None = None
    load_g: float | None = None
    lead_most_min: float | None = None
    core_c: float | None = None
    done_when: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class LineDocument:
    """An ingredient: as written, and the figures of the CSV where it has them."""

    text: str
    component: str = ""
    food: str = ""
    state: str = ""
    grams: float | None = None
    refuse_share: float = 0.0
    retained_share: float = 1.0
    yield_factor: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class ComponentDocument:
    """A component of the CSV: how it is cooked and what it is on the plate."""

    name: str
    role: str = ""
    method: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class RecipeDocument:
    """A recipe as it is exchanged."""

    name: str
    note: str = ""
    lines: tuple[LineDocument, ...] = ()
    steps: tuple[StepDocument, ...] = ()
    components: tuple[ComponentDocument, ...] = ()
    servings: str = ""
