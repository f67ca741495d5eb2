"""Reading recipes: pasted text, JSON-LD and CSV to proposals, and saved recipes back out."""

from __future__ import annotations

import json
import uuid
from collections.abc import Sequence

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.energy import Rules
from yantai.core.errors import CoreError
from yantai.core.intake import Proposal, propose
from yantai.core.matching import FoodIndex, FoodName, words_of
from yantai.core.nutrients import Nutrient
from yantai.core.quantities import LineReading, read_line, weight_g
from yantai.core.steps import StepReading, read_step
from yantai.formats import recipe_csv, recipe_jsonld
from yantai.formats.documents import (
    BadFile,
    ComponentDocument,
    LineDocument,
    RecipeDocument,
    StepDocument,
)
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.accounts import SignedIn
from yantai.work.errors import Invalid, Missing, sentence
from yantai.work.findings import read_measures
from yantai.work.inputs import AnswerInput, IntakeInput
from yantai.work.kitchen import Larder, food_brief, food_composition, read_workspace, workspace_rules, workspace_spoons
from yantai.work.own_foods import file_fault
from yantai.work.recipes import load_recipe
from yantai.work.reference_foods import read_usual, reference_id
from yantai.work.views import (
    DisagreementView,
    FoodMatchView,
    IntakeView,
    ProposalView,
    StepView,
    WeightView,
)

MOST_LINES = 300
_HEADING = ("ingredients", "for the", "method", "instructions", "directions", "steps", "preparation")


def read_text(database: Database, who: SignedIn, given: IntakeInput) -> IntakeView:
    """The ingredient lines and steps of a pasted text: plain, JSON-LD, a page that holds it, or our CSV.

    Every line of it comes back: as an ingredient, or as a step.

    Raises:
        Invalid: it is a file that cannot be read, or far too long.
    """
    try:
        document = _document(given.text)
    except BadFile as error:
        raise file_fault(error) from error
    if len(document.lines) > MOST_LINES:
        raise Invalid.at("/text", f"{len(document.lines)} ingredients are more than the {MOST_LINES} read at once.")
    with database.workspace(who.workspace_id) as session:
        readings = [read_line(line.text) for line in document.lines]
        proposals = _proposals(session, readings, given.food_id)
        return IntakeView(
            name=document.name,
            lines=proposals,
            steps=[_step_view(step) for step in document.steps],
        )


def read_weight(text: str) -> WeightView:
    """What was typed in a weight field, in grams.

    Raises:
        Invalid: it is no weight.
    """
    try:
        return WeightView(grams=weight_g(text))
    except CoreError as error:
        raise Invalid.at("/text", sentence(str(error))) from error


def answer(database: Database, who: SignedIn, given: AnswerInput) -> None:
    """Remember which food some words mean in this kitchen.

    Raises:
        Missing: there is no such food here.
    """
    words = " ".join(words_of(given.words))[:200]
    with database.workspace(who.workspace_id) as session:
        if session.get(tables.Food, given.food_id) is None:
            raise Missing("There is no such food in your pantry.")
        if not words:
            return
        row = {"id": uuid.uuid4(), "workspace_id": who.workspace_id, "words": words, "food_id": given.food_id}
        statement = insert(tables.FoodWord).values(row)
        session.execute(
            statement.on_conflict_do_update(index_elements=["workspace_id", "words"], set_={"food_id": given.food_id})
        )


def export_jsonld(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> str:
    """A recipe as schema.org JSON-LD."""
    return json.dumps(recipe_jsonld.write(_exported(database, who, recipe_id)), ensure_ascii=False, indent=2)


def export_csv(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> str:
    """A recipe as CSV."""
    return recipe_csv.write(_exported(database, who, recipe_id))


def _document(text: str) -> RecipeDocument:
    """The recipe in a text of any of the formats."""
    start = text.strip()[:1]
    if start in ("{", "[", "<"):
        return recipe_jsonld.read(text)
    first = text.strip().partition("\n")[0].casefold()
    if first.startswith("recipe,component,"):
        return recipe_csv.read(text)
    lines: list[LineDocument] = []
    steps: list[StepDocument] = []
    in_steps = False
    for raw in text.splitlines():
        line = raw.strip()
        if not line:
            continue
        head = line.rstrip(":").casefold()
        if head in _HEADING or (line.endswith(":") and head.startswith("for the")):
            in_steps = head in ("method", "instructions", "directions", "steps", "preparation")
            continue
        if in_steps:
            steps.append(_step_document(read_step(line)))
        else:
            lines.append(LineDocument(text=line))
    return RecipeDocument(name="", lines=tuple(lines), steps=tuple(steps))


def _proposals(session: Session, readings: Sequence[LineReading], answer_id: uuid.UUID | None) -> list[ProposalView]:
    workspace = read_workspace(session)
    rules, spoons = workspace_rules(workspace), workspace_spoons(workspace)
    index = food_index(session, rules)
    matched = [index.match(reading.food, state=reading.state, note=reading.note) for reading in readings]
    ids = {uuid.UUID(match.key) for found in matched for match in found.matches}
    if answer_id is not None:
        ids.add(answer_id)
    by_id = read_measures(session, ids, spoons)
    measures = {str(key): value for key, value in by_id.items()}
    foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(ids)))}
    if answer_id is not None and answer_id not in foods:
        raise Missing("There is no such food in your pantry.")
    answer = None if answer_id is None else str(answer_id)
    return [
        _proposal_view(propose(reading, index, measures, spoons=spoons, answer=answer), foods, rules)
        for reading in readings
    ]


def food_index(session: Session, rules: Rules) -> FoodIndex:
    """All foods of the workspace by their names, kept while nothing about them changes."""
    food, word = tables.Food, tables.FoodWord
    current = food.superseded_by.is_(None), food.archived_at.is_(None)
    count, versions = session.execute(
        select(func.count(), func.coalesce(func.sum(food.version), 0)).where(*current)
    ).one()
    words = session.execute(select(word.words, word.food_id).order_by(word.words)).all()
    workspace_id = read_workspace(session).id
    key = (workspace_id, count, int(versions), tuple((row.words, row.food_id) for row in words), rules)
    kept = _INDEXES.get(key)
    if kept is None:
        rows = session.scalars(select(food).where(*current)).all()
        usual = {name: str(reference_id(reference)) for name, reference in read_usual()}
        usual |= {row.words: str(row.food_id) for row in words}
        kept = FoodIndex([_food_name(row, rules) for row in rows], usual)
        while len(_INDEXES) >= _MOST_INDEXES:
            _INDEXES.pop(next(iter(_INDEXES)))
        _INDEXES[key] = kept
    return kept


_INDEXES: dict[tuple[object, ...], FoodIndex] = {}
_MOST_INDEXES = 16


def _food_name(food: tables.Food, rules: Rules) -> FoodName:
    held = food_composition(food, rules)
    return FoodName(
        key=str(food.id),
        name=food.name,
        aliases=(food.search_text,),
        state=food.state,
        method=food.method,
        kcal=held[Nutrient.KCAL],
        protein_g=held[Nutrient.PROTEIN],
        own=food.workspace_id is not None,
    )


def _proposal_view(proposal: Proposal, foods: dict[uuid.UUID, tables.Food], rules: Rules) -> ProposalView:
    amount, reading = proposal.amount, proposal.reading
    return ProposalView(
        text=reading.text,
        words=reading.food,
        note=reading.note,
        matches=[
            FoodMatchView(food=food_brief(foods[uuid.UUID(match.key)], rules), score=match.score)
            for match in proposal.matches
        ],
        sure=not proposal.asks,
        grams=None if amount is None else amount.grams,
        low_g=None if amount is None else amount.low,
        high_g=None if amount is None else amount.high,
        how="" if amount is None else amount.how,
        trouble=sentence(proposal.trouble) if proposal.trouble else "",
        flags=sorted(flag.value for flag in proposal.flags),
        disagreements=[
            DisagreementView(
                first=pair.first,
                second=pair.second,
                first_reading=pair.first_reading,
                second_reading=pair.second_reading,
                unit=pair.unit,
            )
            for pair in proposal.disagreements
        ],
        asks=proposal.asks,
    )


def _step_document(read: StepReading) -> StepDocument:
    return StepDocument(
        text=read.text,
        hands_on_min=read.hands_on_min,
        unattended_min=read.unattended_min,
        temperature_c=read.temperature_c,
        equipment=read.equipment,
        lead_min=read.lead_min,
    )


def _step_view(step: StepDocument) -> StepView:
    return StepView(
        text=step.text,
        component=step.component,
        hands_on_min=step.hands_on_min,
        unattended_min=step.unattended_min,
        temperature_c=step.temperature_c,
        equipment=step.equipment,
        lead_min=step.lead_min,
    )


def _exported(database: Database, who: SignedIn, recipe_id: uuid.UUID) -> RecipeDocument:
    with database.workspace(who.workspace_id) as session:
        recipe = load_recipe(session, recipe_id)
        larder = Larder.read(session, recipe.components)
        lines = []
        for component in recipe.components:
            for line in component.lines:
                name, state = larder.line_name(line), larder.line_state(line)
                lines.append(
                    LineDocument(
                        text=line.text or f"{line.purchased_g:g} g {name}, {state}",
                        component=component.name,
                        food=name,
                        state=state,
                        grams=line.purchased_g,
                        refuse_share=line.refuse_share,
                        retained_share=line.retained_share,
                        yield_factor=line.yield_factor,
                    )
                )
        return RecipeDocument(
            name=recipe.name,
            note=recipe.note,
            lines=tuple(lines),
            components=tuple(
                ComponentDocument(name=one.name, role=one.role, method=one.method) for one in recipe.components
            ),
            steps=tuple(
                StepDocument(
                    text=step.text,
                    component=step.component,
                    hands_on_min=step.hands_on_min,
                    unattended_min=step.unattended_min,
                    temperature_c=step.temperature_c,
                    equipment=step.equipment,
                    lead_min=step.lead_min,
                )
                for step in recipe.steps
            ),
        )
