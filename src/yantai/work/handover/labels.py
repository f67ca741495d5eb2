"""Labels for the containers of a batch: what was filled, where it waits, until when, and how it is warmed up."""

from __future__ import annotations

import base64
import uuid
from collections.abc import Mapping, Sequence
from datetime import timedelta
from string import ascii_uppercase

from sqlalchemy.orm import Session

from yantai.core.planning.portioning import Place
from yantai.core.speaking import energy, weight
from yantai.core.storage.calendar import Store
from yantai.core.storage.matching import filled_bread
from yantai.core.storage.reheating import Warmed, reheating
from yantai.core.targets.days import ANY_DAY
from yantai.formats.label_document import A4, DROPS, GRIDS, Label, LabelGrid
from yantai.formats.labels_pdf import preview, ruler_page, set_labels
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.batches import stored
from yantai.work.batches.views import PlanRowView
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.who import SignedIn
from yantai.work.fill.shown import read_filling
from yantai.work.fill.views import FillContainerView, FillPartView
from yantai.work.handover.calendar import use_by
from yantai.work.handover.inputs import GridInput, LabelsInput
from yantai.work.handover.laid import Laid, Spot, lay_out
from yantai.work.handover.views import ContainerPageView, GridView, LabelFitView, LabelsView
from yantai.work.handover.words import day_words

_OWN = "own"


def read_labels(database: Database, who: SignedIn, batch_id: uuid.UUID, wanted: LabelsInput) -> LabelsView:
    """What the labels of a batch say, and how they come out on a sheet or a roll.

    Raises:
        Missing: there is no such batch, or no such container in it.
        Invalid: there is no such sheet, or it has no such cell.
    """
    grid = grid_of(wanted)
    labels = _labels(database, who, batch_id, wanted)
    printed = set_labels([label for _, label in labels], grid, start=wanted.start) if labels else None
    fits = printed.fits if printed is not None else ()
    return LabelsView(
        count=len(labels),
        planned=sum(label.is_planned for _, label in labels),
        pages=-(-(len(labels) + wanted.start - 1) // grid.cells) if labels else 0,
        drops=list(DROPS),
        labels=[
            LabelFitView(
                row_id=spot[0],
                number=spot[1],
                name=f"{label.client}, {label.dish}, {label.box}",
                dropped=list(DROPS[: fit.dropped]),
                fits=fit.fits,
                lacking=sorted(fit.lacking),
            )
            for (spot, label), fit in zip(labels, fits, strict=True)
            if fit.dropped or not fit.fits or fit.lacking
        ],
    )


def set_batch_labels(
    database: Database, who: SignedIn, batch_id: uuid.UUID, wanted: LabelsInput
) -> tuple[str, int, bytes]:
    """The same, set to be printed: a title, how many they are, and the PDF.

    Raises:
        Missing: there is no such batch, or no such container in it.
        Invalid: there is no such sheet, it has no such cell, or there is nothing to print.
    """
    grid = grid_of(wanted)
    labels = [label for _, label in _labels(database, who, batch_id, wanted)]
    if not labels:
        raise Invalid("There is no container to print a label for. Give clients their containers in the plan first.")
    title = f"{labels[0].batch}: {grid.name}"
    return title, len(labels), set_labels(labels, grid, start=wanted.start, title=title).pdf


def labels_picture(database: Database, who: SignedIn, batch_id: uuid.UUID, wanted: LabelsInput) -> bytes:
    """The first page of the same as a picture.

    Raises:
        Missing: there is no such batch, or no such container in it.
        Invalid: there is no such sheet, or it has no such cell.
    """
    grid = grid_of(wanted)
    return preview([label for _, label in _labels(database, who, batch_id, wanted)], grid, start=wanted.start)


def label_test_page(wanted: GridInput) -> bytes:
    """A page with the edges of every label, and rulers.

    Raises:
        Invalid: there is no such sheet.
    """
    return ruler_page(grid_of(wanted))


def list_grids() -> list[GridView]:
    """The sheets and rolls that are known."""
    return [
        GridView(key=grid.key, name=grid.name, cells=grid.cells, is_roll=grid.page_mm is None)
        for grid in GRIDS.values()
    ]


def read_container(database: Database, who: SignedIn, code: str) -> ContainerPageView:
    """The container whose code was read off its label.

    Raises:
        Missing: there is no such container here.
    """
    row_id, number = _decoded(code)
    with database.reading(who.workspace_id) as session:
        batch_id = _batch_of(session, row_id)
    wanted = LabelsInput(grid=next(iter(GRIDS)), containers=[f"{row_id}:{number}"])
    ((_, label),) = _labels(database, who, batch_id, wanted)
    return ContainerPageView(
        batch_id=batch_id,
        batch=label.batch,
        client=label.client,
        meal=label.meal,
        dish=label.dish,
        container=label.box,
        cooked=label.cooked,
        use_by_words=label.use_by_words,
        use_by=label.use_by,
        keep=label.keep,
        thaw=label.thaw,
        reheat=label.reheat,
        parts=list(label.parts),
        figures=[*label.macros, label.energy, label.grams],
        allergens=list(label.allergens),
        also=list(label.also),
        is_planned=label.is_planned,
    )


def grid_of(wanted: GridInput) -> LabelGrid:
    """The sheet or roll that was asked for.

    Raises:
        Invalid: there is none of this name, an own one lacks measures or reaches beyond its sheet, or it has no such
            cell.
    """
    if wanted.grid != _OWN:
        grid = GRIDS.get(wanted.grid)
        if grid is None:
            raise Invalid.at("/grid", f"“{wanted.grid[:40]}” is none of {', '.join(GRIDS)}, or own with its measures.")
    else:
        if wanted.label_w_mm is None or wanted.label_h_mm is None:
            raise Invalid.at("/label_w_mm", "An own sheet needs the width and the height of a label in millimetres.")
        grid = LabelGrid(
            key=_OWN,
            name=f"{wanted.label_w_mm:g} × {wanted.label_h_mm:g} mm",
            page_mm=A4 if wanted.columns * wanted.rows > 1 else None,
            label_w_mm=wanted.label_w_mm,
            label_h_mm=wanted.label_h_mm,
            columns=wanted.columns,
            rows=wanted.rows,
            left_mm=wanted.left_mm,
            top_mm=wanted.top_mm,
            gap_x_mm=wanted.gap_x_mm,
            gap_y_mm=wanted.gap_y_mm,
        )
        if grid.overhang_mm() > _ROUNDING_MM:
            raise Invalid.at(
                "/columns", f"These labels reach {grid.overhang_mm():.1f} mm beyond the sheet. Check margins and gaps."
            )
    if isinstance(wanted, LabelsInput) and wanted.start > grid.cells:
        raise Invalid.at("/start", f"This sheet has {grid.cells} labels; start at one of them.")
    return grid


_ROUNDING_MM = 0.3


def _labels(database: Database, who: SignedIn, batch_id: uuid.UUID, wanted: LabelsInput) -> list[tuple[Spot, Label]]:
    filling = read_filling(database, who, batch_id)
    with stored.reading(database, who, lambda _: [batch_id]) as session:
        laid = lay_out(session, batch_id)
    made = Labeller(laid, wanted.address)
    picked = {_spot(one) for one in wanted.containers}
    found = [
        (spot, made.label(one))
        for one in sorted(filling.containers, key=lambda one: (one.client, one.slot, str(one.row_id), one.number))
        for spot in [(one.row_id, one.number)]
        if (not picked or spot in picked) and (wanted.client_id is None or one.client_id == wanted.client_id)
    ]
    if picked and not found:
        raise Missing("This container is no longer in its batch. Its label is out of date.")
    return found


def _spot(text: str) -> Spot:
    row, _, number = text.rpartition(":")
    try:
        return uuid.UUID(row), int(number)
    except ValueError:
        raise Invalid.at("/containers", f"“{text[:60]}” is no container.") from None


def _batch_of(session: Session, row_id: uuid.UUID) -> uuid.UUID:
    row = session.get(tables.ContainerClass, row_id)
    if row is None or row.removed:
        raise Missing("This container is no longer in its batch. Its label is out of date.")
    return row.batch_id


def code_of(spot: Spot) -> str:
    """What the code on a label says after the address: short, so that it can be printed small."""
    return f"{base64.urlsafe_b64encode(spot[0].bytes).decode().rstrip('=')}.{spot[1]}"


def _decoded(code: str) -> Spot:
    key, _, number = code.rpartition(".")
    try:
        return uuid.UUID(bytes=base64.urlsafe_b64decode(f"{key}==")), int(number)
    except ValueError:
        raise Missing("This is no code of a container. Scan the label again.") from None


class Labeller:
    """What all labels of a batch share."""

    def __init__(self, laid: Laid, address: str) -> None:
        self.laid, self.address = laid, address
        self.components = {one.id: one for one in laid.plan.components}
        clients = list(dict.fromkeys(row.client_id for row in laid.rows.values()))
        self.marks: Mapping[uuid.UUID, str] = {key: _letters(index) for index, key in enumerate(clients)}

    def label(self, one: FillContainerView) -> Label:
        """The label of one container."""
        laid = self.laid
        spot = (one.row_id, one.number)
        placement = laid.placements.get(spot)
        on, store = (placement.eaten_on, placement.store) if placement is not None else (None, None)
        until = placement.use_by if placement is not None and on is not None else use_by(laid, one.row_id, Store.FRIDGE)
        there = [part for part in one.parts if part.grams > 0]
        inside = [part for part in there if part.place is Place.IN_CONTAINER]
        beside = [part for part in there if part.place is Place.BESIDE]
        fresh = [part for part in there if part.place is Place.AT_EATING]
        day = f", {day_words(on)}" if on is not None else ""
        kind = "" if one.day_type.casefold() == ANY_DAY else f", {one.day_type} day"
        reheat, short = reheating(self._warmed(inside), store, [part.name for part in (*beside, *fresh)])
        frozen = store is Store.FREEZER
        thaw = ""
        if frozen and on is not None:
            thaw = f"Thaw {day_words(on - timedelta(days=1))} in the evening, in the fridge"
        elif on is not None and until is not None and on > until:
            thaw = "Its day is past this: eat it by then"
        amounts = one.amounts
        return Label(
            client=one.client,
            meal=f"{one.slot[:1].upper()}{one.slot[1:]}{kind}{day}",
            dish=one.dish,
            box=f"{one.number}\u00a0of\u00a0{one.of}",
            cooked=day_words(laid.cooked_on),
            use_by_words="Frozen, good until" if frozen else "Use by" if until else "Keeps:",
            use_by="no limit" if until is None else f"{until:%-d %b %Y}" if frozen else day_words(until),
            keep="Freezer, −18 °C" if frozen else "Fridge, 5 °C or below",
            thaw=thaw,
            reheat=reheat,
            reheat_short=short,
            parts=(
                *(_part_words(part) for part in inside),
                *(f"{_part_words(part)} in the small tub" for part in beside),
            ),
            macros=(
                f"P {amounts.protein_g:.0f}",
                f"C {amounts.carbohydrate_g:.0f}",
                f"F {amounts.fat_g:.0f}",
            ),
            energy=energy(amounts.kcal),
            grams=weight(sum(part.grams for part in inside)),
            allergens=self._allergens([*inside, *beside]),
            also=tuple(self._also(part) for part in fresh),
            is_planned=not one.is_closed,
            batch=laid.plan.batch.name,
            mark=self.marks[one.client_id] if self._is_wrap(inside) else "",
            code=f"{self.address}/c/{code_of(spot)}",
        )

    def dish_of(self, row: PlanRowView) -> str:
        """What a row's dish is called."""
        return next(dish.name for dish in self.laid.plan.dishes if dish.id == row.dish_id)

    def _warmed(self, parts: Sequence[FillPartView]) -> list[Warmed]:
        made = []
        for part in parts:
            for key in part.component_ids:
                kept = self.laid.shelved[key]
                made.append(
                    Warmed(
                        name=kept.name,
                        stuff=kept.stuff,
                        rows=kept.rows,
                        grams=part.grams / len(part.component_ids),
                        kit_text=self.components[key].kit_text,
                    )
                )
        return made

    def _is_wrap(self, parts: Sequence[FillPartView]) -> bool:
        return filled_bread([self.laid.shelved[key].stuff for part in parts for key in part.component_ids]) is not None

    def _allergens(self, parts: Sequence[FillPartView]) -> tuple[str, ...]:
        found = {word for part in parts for key in part.component_ids for word in self.components[key].allergens}
        return tuple(sorted(found))

    def _also(self, part: FillPartView) -> str:
        words = self._allergens([part])
        holds = f" ({', '.join(words).upper()})" if words else ""
        return f"Add {_part_words(part)} on the day{holds}."


def _part_words(part: FillPartView) -> str:
    about = "about " if part.is_by_eye else ""
    return f"{part.name} {about}{weight(part.grams)}"


def _letters(index: int) -> str:
    """A, B … Z, AA, AB …"""
    more, last = divmod(index, len(ascii_uppercase))
    return (_letters(more - 1) if more else "") + ascii_uppercase[last]
