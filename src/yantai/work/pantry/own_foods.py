"""Own foods: from a label, as a copy, or from a file; their versions, measures and packs."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import delete, func, insert, select, update
from sqlalchemy.orm import Session

from yantai.core.foods.allergens import ALLERGENS
from yantai.core.foods.labels import Label
from yantai.core.foods.nutrients import STATED, Stated
from yantai.core.foods.states import FoodState
from yantai.core.speaking import exact_weight
from yantai.formats import food_csv
from yantai.formats.documents import BadFile
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Collector, Invalid, Missing, Stale, located, sentence
from yantai.work.common.files import file_fault
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, touch_basis, workspace_rules
from yantai.work.pantry.composition import food_brief
from yantai.work.pantry.foods import detail_view
from yantai.work.pantry.index import touch_foods
from yantai.work.pantry.inputs import FoodInput, ImportInput, LabelInput, MeasureInput, PackInput, SupplyInput
from yantai.work.pantry.ledger import note_price
from yantai.work.pantry.reference import plain
from yantai.work.pantry.views import BadLine, Duplicate, FoodDetail, ImportView

STATES = tuple(FoodState)
DIETS = ("vegan", "vegetarian", "pescatarian", "contains-meat")


def preview_label(database: Database, who: SignedIn, payload: FoodInput) -> FoodDetail:
    """What a label comes to per 100 g, and whether it agrees with itself; nothing is saved.

    Raises:
        Invalid: a figure makes no sense.
    """
    with database.reading(who.workspace_id) as session:
        food = _new_food(who)
        _write(food, payload, _label(payload.label))
        return detail_view(session, food)


def save_food(database: Database, who: SignedIn, payload: FoodInput, food_id: uuid.UUID | None) -> FoodDetail:
    """Make an own food, or change the one with `food_id`.

    Recipes follow the new figures at once. Batches keep those they were made with: the old figures stay as a
    row of their own, and open batches offer to be planned anew.

    Raises:
        Invalid: values make no sense; all of them are named.
        Missing: there is no such own food.
        Stale: it was changed since version `payload.version`.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _check(session, payload)
        label = _label(payload.label)
        if food_id is None:
            food = _added(session, who, payload, label)
            food.copied_from = payload.copied_from
            if payload.copied_from is not None:
                _copy_knowledge(session, who, payload.copied_from, food.id)
        else:
            food = _own(session, food_id)
            if food.version != payload.version:
                raise Stale(
                    f"{food.name} was changed in another window since you opened this page. What you typed is still "
                    "here: open the newest in a second tab, compare, and save again."
                )
            before = _figures(food)
            kept = _copy_row(food)
            _write(food, payload, label)
            food.version += 1
            if _figures(food) != before:
                _keep_for_batches(session, kept, food.id)
        _supply(session, who, food.id, _measured(payload), payload.packs)
        touch_foods(session)
        touch_basis(session)
        session.expire_all()
        return keep(detail_view(session, session.get_one(tables.Food, food.id)))


def add_food(session: Session, who: SignedIn, payload: FoodInput) -> tables.Food:
    """Make an own food inside a transaction.

    Raises:
        Invalid: the label makes no sense.
    """
    _check(session, payload)
    food = _added(session, who, payload, _label(payload.label))
    touch_foods(session)
    return food


def _added(session: Session, who: SignedIn, payload: FoodInput, label: Label) -> tables.Food:
    food = _new_food(who)
    _write(food, payload, label)
    session.add(food)
    session.flush()
    return food


def save_supply(database: Database, who: SignedIn, food_id: uuid.UUID, payload: SupplyInput) -> FoodDetail:
    """Set this kitchen's own measures and packs of a food, shared or own.

    Raises:
        Invalid: a weight or price makes no sense.
        Missing: there is no such food here.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        food = session.get(tables.Food, food_id)
        if food is None:
            raise Missing("There is no such food in your pantry.")
        faults = Collector()
        _check_supply(faults, payload.measures, payload.packs)
        faults.check()
        _supply(session, who, food_id, payload.measures, payload.packs)
        touch_basis(session)
        return keep(detail_view(session, food))


def archive_food(database: Database, who: SignedIn, food_id: uuid.UUID, now: datetime | None) -> None:
    """Take an own food off the lists at `now`, or bring it back with None. Recipes keep it."""
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        _own(session, food_id).archived_at = now
        touch_foods(session)
        touch_basis(session)
        keep(None)


def import_foods(database: Database, who: SignedIn, payload: ImportInput) -> ImportView:
    """Read a CSV of foods; save them when asked, all or, with `skip_bad`, those that make sense and are new.

    Raises:
        Invalid: the file cannot be read, or has bad lines and `skip_bad` is not set.
    """
    try:
        table = food_csv.read(
            payload.text,
            columns=payload.columns,
            carbohydrate=payload.carbohydrate,
            state=payload.state,
            group=payload.group,
        )
    except BadFile as error:
        raise file_fault(error) from error
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        known = _known_names(session)
        duplicates, fresh, seen = [], [], set()
        rules = workspace_rules(read_workspace(session))
        bad = [BadLine(line=row.line, column=row.column, message=sentence(row.message)) for row in table.bad]
        for row in table.rows:
            if row.state not in STATES:
                words = sentence(f"“{row.state}” is no state; use {', '.join(STATES)}")
                bad.append(BadLine(line=row.line, column=table.columns.get("state", ""), message=words))
                continue
            key = (plain(row.name), row.state)
            if key in known:
                duplicates.append(Duplicate(line=row.line, name=row.name, known=food_brief(known[key], rules)))
            elif key in seen:
                words = f"{row.name}, {row.state}, stands on an earlier line of this file too."
                bad.append(BadLine(line=row.line, column=table.columns["name"], message=words))
            else:
                seen.add(key)
                fresh.append(row)
        bad.sort(key=lambda one: one.line)
        foods = [_from_row(who, row) for row in fresh]
        saved = 0
        if payload.save:
            if bad and not payload.skip_bad:
                raise Invalid(
                    f"{len(bad)} {'line makes' if len(bad) == 1 else 'lines make'} no sense, so nothing was imported. "
                    "Mend the file, or import the good lines only."
                )
            session.add_all(foods)
            touch_foods(session)
            saved = len(foods)
        return keep(
            ImportView(
                headings=table.headings,
                columns=table.columns,
                layout=table.layout,
                good=len(foods),
                bad=bad,
                duplicates=duplicates,
                sample=[food_brief(food, rules) for food in foods[:8]],
                saved=saved,
            )
        )


def _known_names(session: Session) -> dict[tuple[str, str], tables.Food]:
    food = tables.Food
    query = select(food).where(food.superseded_by.is_(None), food.archived_at.is_(None))
    return {(plain(row.name), row.state): row for row in session.scalars(query)}


def _from_row(who: SignedIn, row: food_csv.FoodRow) -> tables.Food:
    food = _new_food(who)
    food.name, food.food_group, food.state = row.name, row.group or "own", FoodState(row.state)
    food.source, food.source_detail = "file", f"line {row.line} of an imported file"
    food.stated = _to_thousandths(row.stated)
    food.search_text = _search_text(food, "")
    return food


def _new_food(who: SignedIn) -> tables.Food:
    return tables.Food(
        id=uuid.uuid4(),
        workspace_id=who.workspace_id,
        method="",
        allergens=[],
        diet_tags=[],
        source="label",
        source_detail="",
        note="",
        weak=False,
        version=1,
        search_text="",
    )


def _own(session: Session, food_id: uuid.UUID) -> tables.Food:
    food = tables.Food
    query = select(food).where(food.id == food_id, food.workspace_id.is_not(None), food.superseded_by.is_(None))
    found = session.scalar(query.with_for_update())
    if found is None:
        raise Missing("There is no such own food. A reference food is changed by making a copy of it.")
    return found


def _label(payload: LabelInput) -> Label:
    with located("/label"):
        return Label.of(payload.model_dump())


def _check(session: Session, payload: FoodInput) -> None:
    faults = Collector()
    faults.text("/name", payload.name, what="the food's name")
    faults.text("/group", payload.group, what="the food's group")
    for unknown in sorted(set(payload.allergens) - set(ALLERGENS)):
        faults.add("/allergens", f"“{unknown}” is not one of the known allergens")
    for unknown in sorted(set(payload.diet_tags) - set(DIETS)):
        faults.add("/diet_tags", f"“{unknown}” is not one of {', '.join(DIETS)}")
    for field in ("protein_g", "carbohydrate_g", "fat_g"):
        if getattr(payload.label, field) is None:
            faults.add(f"/label/{field}", f"{field} is needed: nothing can be planned without it; 0 is a figure")
    try:
        _label(payload.label)
    except Invalid as error:
        faults.faults += error.faults
    if payload.copied_from is not None and session.get(tables.Food, payload.copied_from) is None:
        faults.add("/copied_from", "the food to copy is not in your pantry")
    _check_supply(faults, payload.measures, payload.packs)
    faults.check()


def _check_supply(faults: Collector, measures: Sequence[MeasureInput], packs: Sequence[PackInput]) -> None:
    for index, measure in enumerate(measures):
        faults.text(f"/measures/{index}/name", measure.name, what="the measure, as cup, slice or medium")
        faults.ranges(f"/measures/{index}", measure)
    for index, pack in enumerate(packs):
        pointer = f"/packs/{index}"
        faults.text(f"{pointer}/name", pack.name, what="the pack, as bag or tin")
        faults.ranges(pointer, pack)
        if pack.drained_g is not None and not 0 < pack.drained_g <= pack.grams:
            faults.add(
                f"{pointer}/drained_g",
                f"drained it weighs {exact_weight(pack.drained_g)} and the pack holds {exact_weight(pack.grams)}; give "
                "less than the pack",
            )


def _measured(payload: FoodInput) -> list[MeasureInput]:
    """The measures of a food, a millilitre among them where its label is for millilitres."""
    one_g = payload.label.ml_weighs_g
    if payload.label.serving_ml is None or one_g is None:
        return list(payload.measures)
    return [
        *(measure for measure in payload.measures if measure.name.strip() != "ml"),
        MeasureInput(name="ml", grams=one_g),
    ]


def _write(food: tables.Food, payload: FoodInput, label: Label) -> None:
    food.name, food.food_group = payload.name.strip(), payload.group.strip()
    food.state, food.method = payload.state, payload.method.strip()
    food.allergens = sorted(set(payload.allergens))
    food.diet_tags = sorted(set(payload.diet_tags))
    food.note = payload.note.strip()
    food.label = payload.label.model_dump() | {"serving_g": label.serving_g}
    food.source = "label"
    of = "" if label.serving_ml is None else f"{label.serving_ml:,.10g} ml of "
    food.source_detail = f"Label per {of}{label.serving_g:,.10g} g"
    food.stated = _to_thousandths(label.per_100g())
    food.search_text = _search_text(food, payload.other_names)


def _to_thousandths(stated: Stated) -> Stated:
    """As it will be stored."""
    figures = {name: getattr(stated, name) for name in STATED}
    rounded: dict[str, Any] = {name: None if value is None else round(value, 3) for name, value in figures.items()}
    uncertainty = {
        name: (round(below, 3), round(above, 3)) for name, (below, above) in (stated.uncertainty or {}).items()
    }
    return replace(stated, **rounded, uncertainty=uncertainty or None)


def _search_text(food: tables.Food, other: str) -> str:
    return plain(f"{food.name} {food.state} {food.method} {other}").replace("-", " ").strip()


def _figures(food: tables.Food) -> tuple[object, ...]:
    """What a plan depends on of a food."""
    return (food.stated, food.allergens, food.state)


def _copy_row(food: tables.Food) -> dict[str, object]:
    skipped = ("id", "reference")
    fields = (field.key for field in tables.Food.__mapper__.column_attrs)
    return {key: getattr(food, key) for key in fields if key not in skipped}


def _keep_for_batches(session: Session, kept: dict[str, object], food_id: uuid.UUID) -> None:
    """Let the lines of batches point to the figures they were made with."""
    line, component = tables.Line, tables.Component
    of_batches = select(component.id).where(component.batch_id.is_not(None))
    used = line.food_id == food_id, line.component_id.in_(of_batches)
    if not session.scalar(select(func.count()).select_from(line).where(*used)):
        return
    old_id = uuid.uuid4()
    session.execute(insert(tables.Food).values({**kept, "id": old_id, "superseded_by": food_id}))
    session.execute(update(line).where(*used).values(food_id=old_id).execution_options(synchronize_session=False))


def _copy_knowledge(session: Session, who: SignedIn, source_id: uuid.UUID, food_id: uuid.UUID) -> None:
    """A copy starts with the yields, edible portions and raw or cooked pairs of what it was copied from."""
    for table, columns in (
        (tables.YieldFactor, ("food_id",)),
        (tables.EdiblePortion, ("food_id",)),
        (tables.RawCookedPair, ("raw_food_id",)),
        (tables.RawCookedPair, ("cooked_food_id",)),
    ):
        for column in columns:
            rows = session.scalars(select(table).where(getattr(table, column) == source_id)).all()
            for row in rows:
                values = {field.key: getattr(row, field.key) for field in table.__mapper__.column_attrs}
                changed = {"id": uuid.uuid4(), "workspace_id": who.workspace_id, column: food_id}
                session.add(table(**{**values, **changed}))


def _supply(
    session: Session,
    who: SignedIn,
    food_id: uuid.UUID,
    measures: Sequence[MeasureInput],
    packs: Sequence[PackInput],
) -> None:
    measure, pack = tables.Measure, tables.Pack
    session.execute(delete(measure).where(measure.food_id == food_id, measure.workspace_id.is_not(None)))
    session.execute(delete(pack).where(pack.food_id == food_id))
    for one in measures:
        session.add(
            measure(
                workspace_id=who.workspace_id,
                food_id=food_id,
                name=one.name.strip(),
                grams=one.grams,
                source="own",
                note="",
            )
        )
    noted_at = datetime.now(UTC)
    for one_pack in packs:
        row = pack(
            workspace_id=who.workspace_id,
            food_id=food_id,
            name=one_pack.name.strip(),
            grams=one_pack.grams,
            drained_g=one_pack.drained_g,
            price=one_pack.price,
            shop=one_pack.shop.strip(),
            seen_on=one_pack.seen_on,
            sold=one_pack.sold,
        )
        session.add(row)
        note_price(session, who, row, noted_at)
