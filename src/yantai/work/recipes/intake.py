"""Reading recipes: pasted text, JSON-LD and CSV to proposals."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from yantai.core.cooking.steps import StepReading, read_step
from yantai.core.errors import CoreError
from yantai.core.foods.energy import Rules
from yantai.core.foods.intake import ASKED, Flag, Proposal, propose
from yantai.core.foods.kitchen_words import telling_words
from yantai.core.foods.matching import FoodIndex
from yantai.core.quantities import InGrams, read_line, weight_g
from yantai.formats import recipe_csv, recipe_jsonld
from yantai.formats.documents import (
    BadFile,
    LineDocument,
    RecipeDocument,
    StepDocument,
)
from yantai.store import tables
from yantai.store.database import Database
from yantai.work.common.errors import Invalid, Missing, sentence
from yantai.work.common.files import file_fault
from yantai.work.common.receipts import once
from yantai.work.common.typed import LONGEST_LINE
from yantai.work.common.who import SignedIn
from yantai.work.common.workspace import read_workspace, workspace_rules, workspace_spoons
from yantai.work.pantry.composition import food_brief
from yantai.work.pantry.index import food_index, touch_foods
from yantai.work.pantry.measures import read_measures
from yantai.work.recipes.inputs import AnswerInput, IntakeInput
from yantai.work.recipes.steps import step_view
from yantai.work.recipes.views import DisagreementView, FoodMatchView, IntakePart, IntakeView, ProposalView, WeightView

MOST_LINES = 300
_HEADING = ("ingredients", "for the", "method", "instructions", "directions", "steps", "preparation")


def read_text(database: Database, who: SignedIn, payload: IntakeInput) -> IntakeView:
    """The ingredient lines and steps of a pasted text: plain, JSON-LD, a page that holds it, or our CSV.

    Every line of it comes back: as an ingredient, or as a step.

    Raises:
        Invalid: it is a file that cannot be read, or far too long.
    """
    try:
        document = _document(payload.text)
    except BadFile as error:
        raise file_fault(error) from error
    longest = max((len(line.text) for line in document.lines), default=0)
    if longest > LONGEST_LINE:
        raise Invalid.at("/text", f"One line has {longest:,} characters; {LONGEST_LINE} fit. Break it where it ends.")
    if len(document.lines) > MOST_LINES:
        raise Invalid.at("/text", f"{len(document.lines)} ingredients are more than the {MOST_LINES} read at once.")
    with database.reading(who.workspace_id) as session:
        return IntakeView(
            name=document.name,
            description=document.note,
            components=[
                IntakePart(name=component.name, role=component.role, method=component.method)
                for component in document.components
            ],
            lines=proposals(session, document.lines, payload.food_id),
            steps=[step_view(step) for step in document.steps],
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


def answer(database: Database, who: SignedIn, payload: AnswerInput) -> None:
    """Remember which food some words mean in this kitchen.

    Raises:
        Missing: there is no such food here.
    """
    words = " ".join(telling_words(payload.words))[:200]
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        if session.get(tables.Food, payload.food_id) is None:
            raise Missing("There is no such food in your pantry.")
        keep(None)
        if not words:
            return
        row = {"id": uuid.uuid4(), "workspace_id": who.workspace_id, "words": words, "food_id": payload.food_id}
        statement = insert(tables.FoodWord).values(row)
        touch_foods(session)
        session.execute(
            statement.on_conflict_do_update(index_elements=["workspace_id", "words"], set_={"food_id": payload.food_id})
        )


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


def proposals(session: Session, lines: Sequence[LineDocument], answer_id: uuid.UUID | None) -> list[ProposalView]:
    """What lines are taken to mean; `answer_id` is the food of all of them, where the coach chose it.

    Raises:
        Missing: there is no such food here.
    """
    workspace = read_workspace(session)
    rules, spoons = workspace_rules(workspace), workspace_spoons(workspace)
    index = food_index(session)
    readings = [read_line(line.text) for line in lines]
    matched = [index.match(reading.food, state=reading.state, note=reading.note) for reading in readings]
    answers = [str(answer_id) if answer_id is not None else _named(index, line) for line in lines]
    ids = {uuid.UUID(match.key) for found in matched for match in found.matches}
    ids |= {uuid.UUID(answer) for answer in answers if answer is not None}
    measures = {str(key): value for key, value in read_measures(session, ids, spoons).items()}
    foods = {food.id: food for food in session.scalars(select(tables.Food).where(tables.Food.id.in_(ids)))}
    if answer_id is not None and answer_id not in foods:
        raise Missing("There is no such food in your pantry.")
    return [
        _proposal_view(line, propose(reading, index, measures, spoons=spoons, answer=answer), foods, rules)
        for line, reading, answer in zip(lines, readings, answers, strict=True)
    ]


def _named(index: FoodIndex, line: LineDocument) -> str | None:
    """The food that a file names by its very name and state, if it is here."""
    return next((food.key for food in index.foods if (food.name, food.state) == (line.food, line.state)), None)


def _proposal_view(
    line: LineDocument, proposal: Proposal, foods: dict[uuid.UUID, tables.Food], rules: Rules
) -> ProposalView:
    amount, reading = proposal.amount, proposal.reading
    flags = proposal.flags
    if line.grams is not None:
        # A file that gives grams has been weighed; what its text would come to is not asked again.
        amount = InGrams(low=line.grams, grams=line.grams, high=line.grams, how="by the file")
        flags = flags - {Flag.NO_AMOUNT, Flag.NO_MEASURE, Flag.ASSUMED, Flag.TWO_READINGS}
    asks = bool(flags & ASKED)
    return ProposalView(
        text=reading.text,
        component=line.component,
        refuse_share=line.refuse_share or proposal.refuse_share,
        retained_share=line.retained_share,
        yield_factor=line.yield_factor,
        words=", ".join(part for part in (reading.food, reading.note) if part),
        note=reading.note,
        matches=[
            FoodMatchView(food=food_brief(foods[uuid.UUID(match.key)], rules), score=match.score)
            for match in proposal.matches
        ],
        sure=not asks,
        grams=None if amount is None else amount.grams,
        low_g=None if amount is None else amount.low,
        high_g=None if amount is None else amount.high,
        how="" if amount is None else amount.how,
        trouble=sentence(proposal.trouble) if proposal.trouble else "",
        flags=sorted(flag.value for flag in flags),
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
        asks=asks,
    )


def _step_document(read: StepReading) -> StepDocument:
    return StepDocument(
        text=read.text,
        hands_on_min=read.hands_on_min,
        unattended_min=read.unattended_min,
        temperature_c=read.temperature_c,
        equipment=read.equipment,
        lead_min=read.lead_min,
        lead_most_min=read.lead_most_min,
        every_min=read.every_min,
        core_c=read.core_c,
        done_when=read.done_when,
    )
