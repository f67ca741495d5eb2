"""What became of the containers of the weeks before, and a newcomer who has handed in a form."""

from __future__ import annotations

import uuid
from collections.abc import Mapping
from datetime import UTC, datetime, time, timedelta

from yantai.core.storage.eating import EatingEvent
from yantai.core.targets.forms import Activity, Equipment, Why
from yantai.core.targets.suggestions import Sex
from yantai.store.database import Database
from yantai.work.clients.views import ClientView
from yantai.work.common.who import SignedIn
from yantai.work.forms.answered import hand_in, keep_answers, open_form
from yantai.work.forms.inputs import AnswersInput, AvoidInput, FormInput
from yantai.work.forms.made import make_form
from yantai.work.handover.calendar import make_calendar
from yantai.work.handover.inputs import CalendarInput, EatenInput
from yantai.work.returns.views import EatenContainerView
from yantai.work.returns.weeks import note_eaten, read_weeks

EATERS = ("Ines Haverkamp", "Bram Oduya", "Wilf Tanaka")
"""Those who tell what they eat."""
LEAVES = {"Wilf Tanaka": ("Charred courgette", 0.6), "Bram Oduya": ("Garlic greens", 0.3)}
"""What some of them leave, as a share of it."""
UNTOLD_OF = 6
"""One container in so many is not told of."""


def address_of(name: str) -> str:
    """A made-up e-mail address of a client: no mail is ever delivered to that domain."""
    return f"{name.split()[0].lower()}@port-alder.example"


def eaten(
    database: Database, who: SignedIn, batches: list[uuid.UUID], clients: Mapping[str, ClientView], now: datetime
) -> None:
    """Every container of these batches has had its day, and most were told of."""
    for batch_id in batches:
        make_calendar(database, who, batch_id, CalendarInput(), now)
    for name in EATERS:
        client_id = clients[name].id
        for number, one in enumerate(read_weeks(database, who, client_id, 6, now).containers):
            if number % UNTOLD_OF != UNTOLD_OF - 1:
                at = datetime.combine(one.on, time(19), UTC)
                note_eaten(database, who, client_id, _fate(name, one), max(at, now - timedelta(days=60)))


def _fate(name: str, one: EatenContainerView) -> EatenInput:
    part_name, share = LEAVES.get(name, ("", 0.0))
    part = next((part for part in one.parts if part.name == part_name), None)
    if part is None:
        return EatenInput(row_id=one.row_id, container=one.container, event=EatingEvent.EATEN)
    left = {part.component_id: float(round(part.grams * share))}
    return EatenInput(row_id=one.row_id, container=one.container, event=EatingEvent.LEFT, left_parts=left)


def newcomer(database: Database, who: SignedIn, now: datetime) -> None:
    """Somebody has answered a form, and waits for the coach to read it."""
    sent = now - timedelta(days=2)
    given = FormInput(name="Nova Lind", email=address_of("Nova Lind"), address="http://localhost:8420")
    made = make_form(database, who, given, "", sent)
    by_link, form = open_form(database, made.address.partition("#")[2], sent)
    answers = AnswersInput(
        agrees=True,
        name="Nova Lind",
        email=address_of("Nova Lind"),
        goals="Row the spring regatta, and stop buying lunch.",
        likes="salmon, oats, anything with lemon",
        dislikes="mushrooms, olives",
        allergens=["nuts"],
        avoid=[AvoidInput(what="pork", why=Why.BELIEF)],
        meals=["lunch", "dinner"],
        training_days=[0, 2, 4],
        container_ml=900,
        fridge_l=20,
        equipment=[Equipment.FREEZER, Equipment.MICROWAVE],
        wants_suggestion=True,
        birthday=(now - timedelta(days=31 * 365)).date(),
        sex=Sex.FEMALE,
        height_cm=171,
        weight_kg=66,
        activity=Activity.MODERATE,
    )
    keep_answers(database, by_link, form, answers, sent)
    hand_in(database, by_link, form, sent)
