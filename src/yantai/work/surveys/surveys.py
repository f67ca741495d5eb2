"""Who can eat what: every recipe as written against every client's targets, answered on the queue recipe by recipe."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import delete, func, insert, select
from sqlalchemy.dialects import postgresql
from sqlalchemy.orm import Session

from yantai.core.errors import CoreError
from yantai.core.foods.exclusions import Contents, reasons
from yantai.core.planning import dishes as core
from yantai.core.planning import fit
from yantai.core.portions.words import binding_words
from yantai.core.speaking import weight
from yantai.core.targets import words
from yantai.core.targets.targets import Held, Target
from yantai.store import queue, tables
from yantai.store.database import Database
from yantai.work.clients.clients import client_query
from yantai.work.clients.days import effective_target, stored_days
from yantai.work.clients.kept_out import kept_out
from yantai.work.common.errors import Invalid, Missing
from yantai.work.common.receipts import once
from yantai.work.common.who import SignedIn
from yantai.work.pantry.composition import contents
from yantai.work.recipes.larder import Larder
from yantai.work.recipes.parts import recipe_dish
from yantai.work.recipes.recipes import load_recipe
from yantai.work.surveys.views import AnswerPage, AnswerView, SurveyView

ANSWER_RECIPE = "answer_recipe"
"""The queue's name for the work on one recipe."""

CLIENTS_AT_ONCE = 50
"""Between so many targets a worker looks whether the survey was cancelled."""

MOST_ANSWERS = 500
_STEP_G = 5.0
_MOST_LIMITS = 2


def start_survey(database: Database, who: SignedIn, now: datetime) -> SurveyView:
    """Ask anew, with a job on the queue for each recipe; one that still runs goes on instead.

    Raises:
        Invalid: there is no recipe, or no client with a target.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        # Two windows that ask at once get one survey: the second waits here for the first.
        session.execute(select(tables.Workspace.id).with_for_update())
        running = _newest(session)
        if running is not None and _view(session, running).state == "running":
            return keep(_view(session, running))
        recipes = session.scalars(
            select(tables.Recipe.id)
            .where(tables.Recipe.archived_at.is_(None), tables.Recipe.components.any())
            .order_by(tables.Recipe.name)
        ).all()
        eaters = session.scalar(
            select(func.count(tables.Target.id))
            .join(tables.Client, tables.Client.id == tables.Target.client_id)
            .where(tables.Client.archived_at.is_(None))
        )
        if not recipes or not eaters:
            raise Invalid.at("", "This needs a recipe with components, and a client with a target.")
        # Only the newest is kept: answers are about recipes and targets as they were.
        session.execute(delete(tables.Survey))
        survey = tables.Survey(workspace_id=who.workspace_id, asked_at=now, asked_by=who.name, recipes=len(recipes))
        session.add(survey)
        session.flush()
        of_this = {"workspace_id": str(who.workspace_id), "survey_id": str(survey.id)}
        of_this |= {"mass_unit": who.units.mass, "energy_unit": who.units.energy}
        queue.put(session, ANSWER_RECIPE, [{**of_this, "recipe_id": str(recipe_id)} for recipe_id in recipes])
        return keep(_view(session, survey))


def read_survey(database: Database, who: SignedIn) -> SurveyView | None:
    """The newest survey and how far it is, None before the first."""
    with database.reading(who.workspace_id) as session:
        survey = _newest(session)
        return None if survey is None else _view(session, survey)


def cancel_survey(database: Database, who: SignedIn, survey_id: uuid.UUID, now: datetime) -> SurveyView:
    """Stop a survey; what is answered stays. Its jobs end at their next look.

    Raises:
        Missing: there is no such survey here.
    """
    with database.workspace(who.workspace_id) as session, once(session, who) as keep:
        survey = session.get(tables.Survey, survey_id, with_for_update=True)
        if survey is None:
            raise Missing("There is no such survey any more. Ask anew.")
        if survey.cancelled_at is None and _view(session, survey).state == "running":
            survey.cancelled_at = now
            session.flush()
        return keep(_view(session, survey))


def read_answers(
    database: Database,
    who: SignedIn,
    survey_id: uuid.UUID,
    *,
    sort: str = "nearest",
    recipe_id: uuid.UUID | None = None,
    client_id: uuid.UUID | None = None,
    met: bool | None = None,
    limit: int = 100,
    offset: int = 0,
) -> AnswerPage:
    """Answers of a survey, sorted by "nearest", "recipe" or "client", those of one recipe or client only.

    Raises:
        Invalid: the order is none of these, or more than `MOST_ANSWERS` are asked for.
    """
    answer = tables.SurveyAnswer
    orders: dict[str, list[Any]] = {
        "nearest": [answer.missed, answer.recipe, answer.client, answer.slot, answer.day_type],
        "recipe": [answer.recipe, answer.missed, answer.client, answer.slot, answer.day_type],
        "client": [answer.client, answer.slot, answer.day_type, answer.missed, answer.recipe],
    }
    if sort not in orders:
        raise Invalid.at("/sort", f"“{sort}” is no order of this table; it is sorted by {', '.join(orders)}.")
    if not (1 <= limit <= MOST_ANSWERS and 0 <= offset < 10_000_000):
        raise Invalid.at("/limit", f"Ask for 1 to {MOST_ANSWERS} answers, from 0 on.")
    wanted = [answer.survey_id == survey_id]
    if recipe_id is not None:
        wanted.append(answer.recipe_id == recipe_id)
    if client_id is not None:
        wanted.append(answer.client_id == client_id)
    if met is not None:
        wanted.append(answer.met.is_(met))
    with database.reading(who.workspace_id) as session:
        total = session.scalar(select(func.count()).select_from(answer).where(*wanted)) or 0
        rows = session.scalars(
            select(answer).where(*wanted).order_by(*orders[sort], answer.id).limit(limit).offset(offset)
        )
        return AnswerPage(total=total, answers=[_answer_view(row) for row in rows])


def answer_recipe(
    database: Database,
    workspace_id: uuid.UUID,
    survey_id: uuid.UUID,
    recipe_id: uuid.UUID,
    *,
    between: Callable[[], None] = lambda: None,
) -> None:
    """Answer one recipe for all clients and keep the answers. Doing it again, or twice at once, changes nothing.

    Nothing is held open while it computes, and nothing is written before all of it is known: a worker that is
    killed leaves no half of it. `between` is called at every look whether the survey was cancelled.
    """
    with database.workspace(workspace_id) as session:
        if not _is_wanted(session, survey_id, recipe_id):
            return
        asked = _ask(session, recipe_id)
    rows: list[dict[str, Any]] = []
    trouble = asked.trouble
    for start in range(0, len(asked.slots), CLIENTS_AT_ONCE):
        between()
        with database.workspace(workspace_id) as session:
            if not _is_wanted(session, survey_id, recipe_id):
                return
        try:
            rows += asked.answers(asked.slots[start : start + CLIENTS_AT_ONCE])
        except CoreError as error:
            trouble = str(error)
            break
    with database.workspace(workspace_id) as session:
        ours = {"workspace_id": workspace_id, "survey_id": survey_id, "recipe_id": recipe_id}
        if _finish(session, survey_id, recipe_id, workspace_id, trouble) and rows and not trouble:
            session.execute(insert(tables.SurveyAnswer), [{**ours, **row} for row in rows])


def give_up(
    database: Database, workspace_id: uuid.UUID, survey_id: uuid.UUID, recipe_id: uuid.UUID, trouble: str
) -> None:
    """Note that a recipe could not be answered, so that the survey ends and says so."""
    with database.workspace(workspace_id) as session:
        if session.get(tables.Survey, survey_id) is not None:
            _finish(session, survey_id, recipe_id, workspace_id, trouble)


def _finish(
    session: Session, survey_id: uuid.UUID, recipe_id: uuid.UUID, workspace_id: uuid.UUID, trouble: str
) -> bool:
    """Count a recipe as answered; False when it was already."""
    survey_part = tables.SurveyPart
    added = (
        postgresql.insert(survey_part)
        .values(
            id=uuid.uuid4(),
            workspace_id=workspace_id,
            survey_id=survey_id,
            recipe_id=recipe_id,
            trouble=trouble,
        )
        .on_conflict_do_nothing(index_elements=[survey_part.survey_id, survey_part.recipe_id])
        .returning(survey_part.id)
    )
    # A survey that was replaced in the meantime is no longer asked about.
    if session.get(tables.Survey, survey_id, with_for_update={"read": True}) is None:
        return False
    return session.scalar(added) is not None


def _is_wanted(session: Session, survey_id: uuid.UUID, recipe_id: uuid.UUID) -> bool:
    survey = session.get(tables.Survey, survey_id)
    if survey is None or survey.cancelled_at is not None:
        return False
    survey_part = tables.SurveyPart
    answered = select(survey_part.id).where(survey_part.survey_id == survey_id, survey_part.recipe_id == recipe_id)
    return session.scalar(answered) is None


@dataclass(frozen=True, kw_only=True)
class _Slot:
    """A target of a client, as it stands now."""

    client: tables.Client
    slot: str
    day_type: str
    target: Target
    capacity_ml: float | None
    capacity_g: float | None
    plate_g: float | None


@dataclass(frozen=True, kw_only=True)
class _Asked:
    """A recipe with everything its answers are computed from."""

    recipe: str
    dish: core.Dish | None
    contents: dict[str, Contents]
    slots: Sequence[_Slot]
    trouble: str = ""

    def answers(self, slots: Sequence[_Slot]) -> list[dict[str, Any]]:
        """Rows for these targets, without what is the same in all of them."""
        assert self.dish is not None, "without it there are no targets"
        left_out = [
            frozenset(key for key, why in kept_out(slot.client, self.recipe, self.contents).items() if why)
            for slot in slots
        ]
        classes = [
            core.ContainerClass(
                target=slot.target,
                tolerance=slot.client.tolerance,
                count=1,
                capacity_ml=slot.capacity_ml,
                capacity_g=slot.capacity_g,
                plate_g=slot.plate_g,
                left_out=without,
            )
            for slot, without in zip(slots, left_out, strict=True)
        ]
        disliked = [
            frozenset(
                key
                for key, why in reasons(self.recipe, self.contents, avoided=(), words=slot.client.dislikes).items()
                if why
            )
            for slot in slots
        ]
        return [
            {
                "id": uuid.uuid4(),
                "client_id": slot.client.id,
                "recipe": self.recipe,
                "client": slot.client.name,
                "slot": slot.slot,
                "day_type": slot.day_type,
                "met": found.met,
                "missed": found.missed,
                "told": self._told(self.dish, found, slot.target),
                "without": sorted(self.dish.parts[key].component.name for key in without),
            }
            for slot, without, found in zip(
                slots, left_out, fit.fits(self.dish, classes, step_g=_STEP_G, disliked=disliked), strict=True
            )
        ]

    def _told(self, dish: core.Dish, found: fit.Fit, target: Target) -> str:
        names = [part.component.name for part in dish.parts.values()]
        if found.met:
            grams = [f"{weight(g)} {name}" for name, g in zip(names, found.portions.grams, strict=True) if g]
            return ", ".join(grams) + (f"; divided over {found.containers} containers" if found.containers else "")
        aims = {**target.aims, **target.limits}
        held = [binding_words(binding, names) for binding in found.portions.bindings[:_MOST_LIMITS]]
        why = "; ".join(held) or "no mix of these components comes nearer"
        off: dict[Held, float] = {
            of: found.portions.amounts[of] - aim for of, aim in aims.items() if found.portions.misses[of]
        }
        missed = words.missed_words(off)
        chosen = [dish.parts[key].component.name for key in dish.parts if key in found.chosen]
        best = f" The best choice is {' and '.join(chosen)}." if chosen else ""
        return f"{', '.join(missed)}: {why}.{best}"


def _ask(session: Session, recipe_id: uuid.UUID) -> _Asked:
    recipe = load_recipe(session, recipe_id)
    larder = Larder.read(session, recipe.components)
    dish, trouble = None, ""
    try:
        dish = recipe_dish(larder, recipe)
        trouble = "" if dish.parts else "nothing of this recipe goes into containers"
    except CoreError as error:
        trouble = str(error)
    return _Asked(
        recipe=recipe.name,
        dish=dish,
        contents={
            str(component.id): contents(component.name, larder.foods_of(component.lines))
            for component in recipe.components
            if component.served
        },
        slots=[] if trouble else _slots(session, larder),
        trouble=trouble,
    )


def _slots(session: Session, larder: Larder) -> list[_Slot]:
    clients = session.scalars(
        client_query().where(tables.Client.archived_at.is_(None)).order_by(tables.Client.name)
    ).all()
    found = []
    for client in clients:
        days = stored_days(client, larder.rules)
        for target in client.targets:
            try:
                figures = effective_target(target, days)
            except CoreError:
                # A share of a day whose extras leave nothing is no container; the client's page says so.
                continue
            if not figures.aims:
                continue
            found.append(
                _Slot(
                    client=client,
                    slot=target.slot,
                    day_type=target.day_type,
                    target=figures,
                    capacity_ml=target.capacity_ml,
                    capacity_g=target.capacity_g,
                    plate_g=target.plate_g,
                )
            )
    return found


def _newest(session: Session) -> tables.Survey | None:
    return session.scalar(select(tables.Survey).order_by(tables.Survey.asked_at.desc()).limit(1))


def _view(session: Session, survey: tables.Survey) -> SurveyView:
    survey_part = tables.SurveyPart
    survey_parts = session.scalars(select(survey_part).where(survey_part.survey_id == survey.id)).all()
    names = dict(
        session.execute(
            select(tables.Recipe.id, tables.Recipe.name).where(
                tables.Recipe.id.in_([part.recipe_id for part in survey_parts if part.trouble])
            )
        ).all()
    )
    unfinished = "running" if survey.cancelled_at is None else "cancelled"
    return SurveyView(
        id=survey.id,
        asked_at=survey.asked_at,
        asked_by=survey.asked_by,
        state="done" if len(survey_parts) >= survey.recipes else unfinished,
        recipes=survey.recipes,
        answered=len(survey_parts),
        troubles=[f"{names.get(part.recipe_id, 'A recipe')}: {part.trouble}" for part in survey_parts if part.trouble],
    )


def _answer_view(row: tables.SurveyAnswer) -> AnswerView:
    return AnswerView(
        recipe_id=row.recipe_id,
        recipe=row.recipe,
        client_id=row.client_id,
        client=row.client,
        slot=row.slot,
        day_type=row.day_type,
        met=row.met,
        missed=row.missed,
        told=row.told,
        without=row.without,
    )
