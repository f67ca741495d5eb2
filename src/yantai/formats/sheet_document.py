"""Sheets that go along with containers: a client's week, the coach's list, and a kitchen sheet. All of it in words."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Paper(StrEnum):
    """What sheets are printed on."""

    A4 = "a4"
    LETTER = "us-letter"


@dataclass(frozen=True, slots=True, kw_only=True)
class EatenRow:
    """Something that is eaten on a day; `detail` says where it waits and how it is warmed up."""

    meal: str
    what: str
    detail: str
    figures: str
    kcal: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WeekDay:
    """A day of a client: what is eaten, what all of it comes to against the day's target, what thaws in the evening."""

    title: str
    rows: tuple[EatenRow, ...]
    total: str
    kcal: str
    evening: str


@dataclass(frozen=True, slots=True, kw_only=True)
class WeekSheet:
    """A client's week."""

    title: str
    detail: str
    days: tuple[WeekDay, ...]
    waiting: tuple[str, ...]
    allergens: str
    cautions: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedContainer:
    """A container on the coach's list; `grams` of each part, to be filled or as they were filled."""

    number: str
    what: str
    grams: str
    place: str
    day: str
    is_closed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedClient:
    """A client on the coach's list."""

    name: str
    detail: str
    containers: tuple[ListedContainer, ...]
    beside: str


@dataclass(frozen=True, slots=True, kw_only=True)
class ListSheet:
    """The coach's list to fill by and to hand over by, with places to sign."""

    title: str
    detail: str
    clients: tuple[ListedClient, ...]
    cautions: tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class PanRow:
    """What the pan weighs, and the grams for one container of each kind then."""

    pan: str
    grams: tuple[str, ...]
    is_expected: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PanSheet:
    """A component that a client cooks alone: raw amounts, steps, when it is done, and its table of grams.

    `kinds` are the containers, by column. Without `rows` it is divided as `division` says.
    """

    name: str
    amounts: tuple[tuple[str, str], ...]
    steps: tuple[str, ...]
    done: str
    expected: str
    kinds: tuple[str, ...]
    rows: tuple[PanRow, ...]
    division: str


@dataclass(frozen=True, slots=True, kw_only=True)
class KitchenSheet:
    """All that a client cooks alone."""

    title: str
    detail: str
    pans: tuple[PanSheet, ...]
    cautions: tuple[str, ...]


Sheet = WeekSheet | ListSheet | KitchenSheet
