"""Sheets of a batch: each client's week, the coach's list, and a kitchen sheet for who cooks alone."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass

from yantai.core.foods.energy import Rules
from yantai.core.foods.nutrients import Amounts, Nutrient
from yantai.core.planning.portioning import Place
from yantai.core.speaking import energy
from yantai.core.storage.calendar import Store
from yantai.core.targets.days import ANY_DAY, Standing
from yantai.formats.sheet_document import (
    EatenRow,
    KitchenSheet,
    ListedClient,
    ListedContainer,
    ListSheet,
    Paper,
    WeekDay,
    WeekSheet,
)
from yantai.formats.sheets_pdf import set_sheets
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.loading import kept_rules
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules
from yantai.work.fill.shown import read_filling
from yantai.work.fill.views import FillContainerView
from yantai.work.handover.days import EatingDay, Served, eating_days, meal_order
from yantai.work.handover.labels import Labeller
from yantai.work.handover.laid import Laid, lay_out
from yantai.work.handover.pans import IN_KITCHEN, pans_of
from yantai.work.handover.words import KEEP_COLD, LOCAL_RULES, day_words

_WARMING = (
    "No foil and no closed lid in a microwave; glass from the freezer not into a hot oven.",
    KEEP_COLD,
    LOCAL_RULES,
)


@dataclass(frozen=True, kw_only=True)
class _Batch:
    laid: Laid
    containers: list[FillContainerView]
    rules: Rules
    labeller: Labeller


def week_sheets(
    database: Database, who: SignedIn, batch_id: uuid.UUID, client_id: uuid.UUID | None, paper: Paper
) -> bytes:
    """The week of one client, or of every client of a batch.

    Raises:
        Missing: there is no such batch, or no such client in it.
        Invalid: no container has a day yet.
    """
    batch = _read(database, who, batch_id)
    clients = _wanted(batch.laid, client_id)
    sheets = [_week(batch, client, who.name) for client in clients]
    if not any(sheet.days for sheet in sheets):
        raise Invalid("No container has a day yet. Give every container its day in Hand over, then print the week.")
    return set_sheets([sheet for sheet in sheets if sheet.days], paper)


def list_sheet(database: Database, who: SignedIn, batch_id: uuid.UUID, paper: Paper) -> bytes:
    """The coach's list to fill and to hand over by.

    Raises:
        Missing: there is no such batch.
        Invalid: it has no container.
    """
    batch = _read(database, who, batch_id)
    if not batch.containers:
        raise Invalid("There is no container to hand over. Give clients their containers in the plan first.")
    plan = batch.laid.plan.batch
    sheet = ListSheet(
        title=f"Hand over {plan.name}",
        detail=f"Cooked {day_words(batch.laid.cooked_on)}. {len(batch.containers)} containers. A tick: it is filled.",
        clients=tuple(_listed(batch, client) for client in _wanted(batch.laid, None)),
        cautions=(*batch.laid.plan.cautions, KEEP_COLD, LOCAL_RULES),
    )
    return set_sheets([sheet], paper)


def kitchen_sheet(database: Database, who: SignedIn, batch_id: uuid.UUID, client_id: uuid.UUID, paper: Paper) -> bytes:
    """What one client cooks alone: amounts for their containers, steps, and tables of grams for the weighed pan.

    Raises:
        Missing: there is no such batch, or no such client in it.
    """
    batch = _read(database, who, batch_id)
    (client,) = _wanted(batch.laid, client_id)
    count = sum(row.count for row in batch.laid.of_client(client.id))
    sheet = KitchenSheet(
        title=f"Kitchen sheet for {client.name}",
        detail=f"{batch.laid.plan.batch.name}: {count} {'container' if count == 1 else 'containers'}. From {who.name}. "
        "Amounts are for these; steps are as they were written for the whole batch.",
        pans=tuple(pan.sheet for pan in pans_of(database, who, batch.laid, client.id)),
        cautions=IN_KITCHEN,
    )
    return set_sheets([sheet], paper)


def _read(database: Database, who: SignedIn, batch_id: uuid.UUID) -> _Batch:
    filling = read_filling(database, who, batch_id)
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
        row = session.get_one(tables.Batch, batch_id)
        rules = kept_rules(row) or workspace_rules(read_workspace(session))
    return _Batch(laid=laid, containers=filling.containers, rules=rules, labeller=Labeller(laid, ""))


def _wanted(laid: Laid, client_id: uuid.UUID | None) -> list[tables.Client]:
    there = list(dict.fromkeys(row.client_id for row in laid.rows.values()))
    if client_id is not None and client_id not in there:
        raise Missing("This client has no containers in this batch.")
    return [laid.clients[key] for key in there if client_id in (None, key)]


def _week(batch: _Batch, client: tables.Client, coach: str) -> WeekSheet:
    days = eating_days(batch.laid, client, batch.containers, batch.rules)
    own = [one for one in batch.containers if one.client_id == client.id]
    placed = {served.spot for day in days for served in day.served}
    allergens = sorted({word for one in own for word in batch.labeller.label(one).allergens})
    waiting = [one for one in own if (one.row_id, one.number) not in placed]
    return WeekSheet(
        title=f"{client.name}, from {day_words(days[0].on)}" if days else client.name,
        detail=f"{batch.laid.plan.batch.name}, cooked {day_words(batch.laid.cooked_on)}. From {coach}.",
        days=tuple(_week_day(batch, day) for day in days),
        waiting=tuple(f"{one.dish}, {one.slot}, {one.number} of {one.of}" for one in waiting),
        allergens=f"In these containers: {', '.join(allergens).upper()}."
        if allergens
        else "No allergen is stated for what is in these containers.",
        cautions=_WARMING,
    )


def _week_day(batch: _Batch, day: EatingDay) -> WeekDay:
    stands = {one.nutrient: one for one in day.standings}
    kind = f", {day.day_type} day" if day.day_type and day.day_type.casefold() != ANY_DAY else ""
    rows = [_eaten_row(batch, served) for served in day.served]
    rows += [
        EatenRow(
            meal="", what=one.name, detail="", figures=_macros(one.amounts), kcal=energy(one.amounts[Nutrient.KCAL])
        )
        for one in day.beside
    ]
    has_total = bool(day.served)
    return WeekDay(
        title=f"{day_words(day.on)}{kind}",
        rows=tuple(rows),
        total=_against(day.total, stands) if has_total else "",
        kcal=_of_target(stands.get(Nutrient.KCAL), energy(day.total[Nutrient.KCAL])) if has_total else "",
        evening="".join(_thaw_words(day.thaw)),
    )


def _thaw_words(thaw: Sequence[Served]) -> str:
    if not thaw:
        return ""
    names = [f"{one.shown.dish}, {one.shown.slot.lower()}, {one.spot[1]} of {one.shown.of}" for one in thaw]
    return f"from the freezer into the fridge: {'; '.join(names)}."


def _eaten_row(batch: _Batch, served: Served) -> EatenRow:
    label = batch.labeller.label(served.shown)
    where = f"{label.keep}, until {label.use_by}" if served.store is Store.FRIDGE else "From the freezer"
    beside = [part for part in label.parts if part.endswith("in the small tub")]
    more = " ".join((*(f"{part}." for part in beside), *label.also))
    planned = " Planned, not weighed." if label.is_planned else ""
    return EatenRow(
        meal=f"{served.shown.slot[:1].upper()}{served.shown.slot[1:]}",
        what=f"{label.dish}, {label.box}",
        detail=f"{where}. {label.reheat} {more}{planned}".replace("  ", " ").strip(),
        figures="  ".join(label.macros),
        kcal=label.energy,
    )


def _macros(amounts: Amounts) -> str:
    return "  ".join(
        f"{letter} {amounts[nutrient]:.0f}"
        for letter, nutrient in (
            ("P", Nutrient.PROTEIN),
            ("C", Nutrient.CARBOHYDRATE),
            ("F", Nutrient.FAT),
        )
    )


def _against(held: Amounts, stands: dict[Nutrient, Standing]) -> str:
    """Protein, carbohydrate and fat of a day, against its figures where there are any."""
    return ", ".join(
        f"{name} {_of_target(stands.get(nutrient), f'{held[nutrient]:.0f} g')}"
        for name, nutrient in (
            ("protein", Nutrient.PROTEIN),
            ("carbohydrate", Nutrient.CARBOHYDRATE),
            ("fat", Nutrient.FAT),
        )
    )


def _of_target(stands: Standing | None, held: str) -> str:
    """A figure against its target: “146 of 150 g”."""
    if stands is None:
        return held
    amount, _, unit = held.partition(" ")
    target = energy(stands.target).partition(" ")[0] if stands.nutrient is Nutrient.KCAL else f"{stands.target:.0f}"
    return f"{amount} of {target} {unit}"


def _listed(batch: _Batch, client: tables.Client) -> ListedClient:
    own = sorted(
        (one for one in batch.containers if one.client_id == client.id),
        key=lambda one: (meal_order(one.slot), one.slot, str(one.row_id), one.number),
    )
    rows, beside = [], 0
    frozen = 0
    for one in own:
        label = batch.labeller.label(one)
        placement = batch.laid.placements.get((one.row_id, one.number))
        on = placement.eaten_on if placement is not None else None
        is_frozen = placement is not None and placement.store is Store.FREEZER
        frozen += is_frozen
        beside += sum(part.place is Place.BESIDE and part.grams > 0 for part in one.parts)
        rows.append(
            ListedContainer(
                number=f"{one.number}/{one.of}",
                what=f"{one.dish}, {one.slot}",
                grams=f"{', '.join(label.parts)}. {label.grams}",
                place=f"Freezer, good until {label.use_by}" if is_frozen else f"Fridge, use by {label.use_by}",
                day=day_words(on) if on is not None else "no day yet",
                is_closed=one.is_closed,
            )
        )
    words = f"{len(own) - frozen} for the fridge, {frozen} for the freezer" if frozen else f"{len(own)} for the fridge"
    kept_out = ", ".join(sorted({*client.allergens, *client.exclusions}))
    return ListedClient(
        name=client.name,
        detail=f"{words}. No {kept_out}" if kept_out else words,
        containers=tuple(rows),
        beside=f"And {beside} {'tub' if beside == 1 else 'tubs'} beside them." if beside else "",
    )
