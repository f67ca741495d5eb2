"""Handing over as it is shown."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, datetime

from yantai.core.storage.calendar import Store
from yantai.core.storage.eating import EatingEvent
from yantai.core.storage.shelf import Freezes, ShelfRule


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfRowView:
    """A row of the shelf-life table: days in the fridge by the cautious rule and by custom, months in the freezer."""

    category: str
    cautious_days: int
    usual_days: int
    freezer_months: int
    freezes: Freezes
    cool_note: str
    reheat_c: float | None
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MatchView:
    """A row that a component goes by, and the foods that made it; none where the mixture, or a person, did."""

    row: ShelfRowView
    foods: list[str]
    assumed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelvedView:
    """How long a component keeps, by itself, and why; `chosen_by` chose the row."""

    component_id: uuid.UUID
    name: str
    matches: list[MatchView]
    chosen_by: str
    fridge_days: int | None
    freezes: Freezes


@dataclass(frozen=True, slots=True, kw_only=True)
class BreakView:
    """What a container or a night breaks, in words; `is_unsafe` where it can hurt someone."""

    words: str
    is_unsafe: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedView:
    """Container `number` of the `of` of a row, on its day, or on none.

    `use_by` is the last day where it waits, None for what nothing limits. `fridge_until`, `usual_until`,
    `freezer_from` and `freezer_until` are the days that would do, for one who moves it; `freezes` says how well it
    would. `fresh` are parts that go on at eating, `beside` those in tubs of their own. `told` is what the client said
    of it, `left` how much was left, in words.
    """

    row_id: uuid.UUID
    number: int
    of: int
    dish: str
    slot: str
    day_type: str
    eaten_on: date | None
    store: Store | None
    thaw_on: date | None
    use_by: date | None
    by_hand: bool
    is_closed: bool
    litres: float
    kcal: float
    fridge_until: date | None
    usual_until: date | None
    freezes: Freezes
    freezer_from: date
    freezer_until: date | None
    decided_by: str
    apart: list[str]
    beside: list[str]
    fresh: list[str]
    told: EatingEvent | None
    left: str
    breaks: list[BreakView]


@dataclass(frozen=True, slots=True, kw_only=True)
class EatingDayView:
    """A day of a client: its type where it has one, `is_assumed` where only its containers gave it one, litres of
    containers in the fridge in the night before it, and what is out of order with it."""

    on: date
    day_type: str
    is_assumed: bool
    litres: float
    thaw: list[str]
    containers: list[PlacedView]
    breaks: list[BreakView]


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientWeekView:
    """The days on which a client eats of a batch.

    `first_is_assumed` where nobody said the first day. `week` are the types of days from Monday on, empty while nobody
    gave them, `day_types` those that the client's containers were planned for. `waiting` are containers without a day,
    `unread` words of the client that the coach has not read.
    """

    client_id: uuid.UUID
    client: str
    first_on: date
    first_is_assumed: bool
    week: list[str | None]
    day_types: list[str]
    fridge_l: float | None
    days: list[EatingDayView]
    waiting: list[PlacedView]
    to_cook_again: list[str]
    unread: int


@dataclass(frozen=True, slots=True, kw_only=True)
class HandOverView:
    """A batch as it is handed over: when it was cooked, how long everything keeps, and every client's days.

    `cooked_words` says why the day of cooking is another than the batch's.
    """

    batch_id: uuid.UUID
    name: str
    version: int
    is_packed: bool
    containers: int
    closed: int
    cooked_on: date
    cooked_words: str
    shelf_rule: ShelfRule
    components: list[ShelvedView]
    clients: list[ClientWeekView]
    cautions: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class GridView:
    """A sheet or a roll of labels that is known, and how many lie on a sheet."""

    key: str
    name: str
    cells: int
    is_roll: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelFitView:
    """A label that came out otherwise than in full: what it left out, whether the rest fits, and characters that no
    font here has."""

    row_id: uuid.UUID
    number: int
    name: str
    dropped: list[str]
    fits: bool
    lacking: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class LabelsView:
    """The labels of a batch on a sheet or a roll: how many, how many of containers that nobody filled, on how many
    pages; `drops` is the order in which a small label leaves things out, `labels` are those to look at."""

    count: int
    planned: int
    pages: int
    drops: list[str]
    labels: list[LabelFitView]


@dataclass(frozen=True, slots=True, kw_only=True)
class PrintJobView:
    """Labels that were sent to the label printer; they wait until they are `printed_at` some time."""

    id: uuid.UUID
    batch_id: uuid.UUID
    title: str
    labels: int
    made_by: str
    made_at: datetime
    printed_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PrinterView:
    """The label printer, and what was sent to it, the newest first."""

    is_on: bool
    jobs: list[PrintJobView]


@dataclass(frozen=True, slots=True, kw_only=True)
class ContainerPageView:
    """A container whose code was read off its label: what the label says, in full."""

    batch_id: uuid.UUID
    batch: str
    client: str
    meal: str
    dish: str
    container: str
    cooked: str
    use_by_words: str
    use_by: str
    keep: str
    thaw: str
    reheat: str
    parts: list[str]
    figures: list[str]
    allergens: list[str]
    also: list[str]
    is_planned: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ShelfTableView:
    """All rows of the shelf-life table, to choose from."""

    rows: list[ShelfRowView]


@dataclass(frozen=True, slots=True, kw_only=True)
class LinkView:
    """A link of a client: until when it works, who made it, when it was last opened and how often."""

    id: uuid.UUID
    made_by: str
    made_at: datetime
    expires_at: datetime
    revoked_at: datetime | None
    seen_at: datetime | None
    opened: int
    shows_macros: bool
    is_open: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class NewLinkView:
    """A link that was just made: its address is shown this once. `code` is a drawing for a phone's camera;
    `is_out_of_reach` where no other device reaches this address."""

    link: LinkView
    address: str
    code: str
    is_out_of_reach: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientWordView:
    """A word of a client to the coach."""

    id: uuid.UUID
    text: str
    made_at: datetime
    read_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ClientPageView:
    """What the coach knows of a client's page: its links, and words that came by it."""

    client: str
    links: list[LinkView]
    words: list[ClientWordView]


@dataclass(frozen=True, slots=True, kw_only=True)
class SwapView:
    """A container that another one may change its day with."""

    row_id: uuid.UUID
    container: int
    name: str
    on: date


@dataclass(frozen=True, slots=True, kw_only=True)
class MyPartView:
    """A part of a container and what there was of it [g]."""

    component_id: uuid.UUID
    name: str
    grams: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MyContainerView:
    """A container on the client's own page. `figures` and `kcal` are empty where the page shows no macros.

    `told` is what was said of it, `left` how much was left, in words; it may change its day with one of `swaps`.
    """

    row_id: uuid.UUID
    container: int
    of: int
    dish: str
    meal: str
    keep: str
    use_by: str
    thaw: str
    is_frozen: bool
    reheat: str
    parts: list[str]
    weighed: list[MyPartView]
    also: list[str]
    allergens: list[str]
    figures: list[str]
    kcal: str
    is_planned: bool
    grams: float
    told: EatingEvent | None
    left: str
    swaps: list[SwapView]


@dataclass(frozen=True, slots=True, kw_only=True)
class MyBesideView:
    """What else belongs to a day: a food, or a meal that is in no container of the batch."""

    name: str
    kcal: str
    is_meal: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class MyDayView:
    """A day on the client's own page; `total` against the day's target where macros are shown."""

    on: date
    day_type: str
    containers: list[MyContainerView]
    beside: list[MyBesideView]
    total: str
    thaw: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class MyAmountView:
    """A food, and how much of it goes into the pan."""

    name: str
    amount: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MyPanView:
    """A component that the client cooks alone. `kinds` are their containers; `is_weighed` where the grams for each
    follow from what the pan weighs, and else it is divided as `division` says."""

    batch_id: uuid.UUID
    component_id: uuid.UUID
    name: str
    amounts: list[MyAmountView]
    steps: list[str]
    done: str
    expected: str
    kinds: list[str]
    is_weighed: bool
    division: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MyKitchenView:
    """All that the client may cook alone, with cautions."""

    pans: list[MyPanView]
    cautions: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class MySharesView:
    """Grams for one container of each kind."""

    grams: list[str]


@dataclass(frozen=True, slots=True, kw_only=True)
class MyPageView:
    """The client's own page. `feed` is the address of its calendar."""

    client: str
    coach: str
    today: date
    expires_at: datetime
    shows_macros: bool
    days: list[MyDayView]
    feed: str
    cautions: list[str]
