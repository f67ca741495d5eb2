"""Kitchens with something in them, made through the same doors a user takes."""

from __future__ import annotations

import uuid
from dataclasses import replace
from datetime import date
from typing import Any

from tests.support import NOW, PASSWORD, database, new_email, new_kitchen
from yantai.core.filling import FillEvent
from yantai.core.messages.templates import MessageKind
from yantai.core.planning.containers import ContainerMove
from yantai.core.rights import Right
from yantai.core.schedule.kitchen import Kind
from yantai.core.schedule.live import CookEvent
from yantai.core.shopping.house import Keeping
from yantai.core.shopping.trip import TripEvent
from yantai.core.storage.eating import EatingEvent
from yantai.devices.device import Connection
from yantai.store.tables import Client
from yantai.work.accounts.feeds import make_feed
from yantai.work.accounts.inputs import FeedInput, PairingInput
from yantai.work.accounts.pairing import start_pairing
from yantai.work.accounts.sessions import sign_in
from yantai.work.batches.commands import change_batch
from yantai.work.batches.inputs import (
    BatchInput,
    Change,
    Changes,
    DishInput,
    EaterInput,
    SetPin,
    SetSteps,
    Vessel,
    Weigh,
)
from yantai.work.batches.make import create_batch
from yantai.work.batches.views import PlanView
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import AtHandInput, ClientInput, DayExtraInput, DayInput, TargetInput
from yantai.work.common.who import Sent, SignedIn
from yantai.work.containers.inputs import ContainerKindInput, ContainerMoveInput
from yantai.work.containers.kinds import move, save_kind
from yantai.work.cook.day import save_day
from yantai.work.cook.facts import note_fact
from yantai.work.cook.inputs import (
    CookDayInput,
    CookFactInput,
    KitchenInput,
    KitchenItemInput,
    KitchenPersonInput,
    PresenceInput,
)
from yantai.work.cook.kitchens import save_kitchen
from yantai.work.cook.shown import read_cooking
from yantai.work.fill.facts import note_fact as note_fill_fact
from yantai.work.fill.inputs import FillFactInput
from yantai.work.forms.answered import keep_answers, open_form
from yantai.work.forms.inputs import AnswersInput, FormInput
from yantai.work.forms.made import make_form
from yantai.work.handover.calendar import choose_shelf, make_calendar, set_week
from yantai.work.handover.inputs import (
    CalendarInput,
    ClientWordInput,
    EatenInput,
    LabelsInput,
    LinkInput,
    ShelfChoiceInput,
    WeekInput,
)
from yantai.work.handover.links import make_link, open_link
from yantai.work.handover.my import say, tell_eaten
from yantai.work.handover.printing import print_labels
from yantai.work.instruments.inputs import InstrumentInput
from yantai.work.instruments.instruments import save_instrument
from yantai.work.kitchen.inputs import VesselInput, WorkspaceInput
from yantai.work.kitchen.settings import save_settings
from yantai.work.outbox.inputs import MessageInput, SendInput, TemplateInput
from yantai.work.outbox.outbox import send_messages
from yantai.work.outbox.templates import save_template
from yantai.work.pantry.inputs import FoodInput, LabelInput, PackInput
from yantai.work.pantry.own_foods import save_food
from yantai.work.pantry.reference import reference_id
from yantai.work.plan.filled import read_filled
from yantai.work.recipes.inputs import AnswerInput, ComponentInput, LineInput, RecipeInput, StepInput
from yantai.work.recipes.intake import answer
from yantai.work.recipes.recipes import save_recipe
from yantai.work.shop.house import answer_staple, put_in
from yantai.work.shop.inputs import LotInput, LotsInput, StapleInput, TripEntryInput, TripInput
from yantai.work.shop.trips import note, start
from yantai.work.surveys.surveys import answer_recipe, start_survey

CHICKEN = "chicken-thigh-skinless-raw"
BULGUR = "bulgur-wheat-dry"
YOGURT = "greek-yogurt-plain-nonfat"


def line(food: str, grams: float, **rest: Any) -> LineInput:
    return LineInput(food_id=reference_id(food), purchased_g=grams, **rest)


def bowl() -> RecipeInput:
    """Chicken, bulgur and a yoghurt sauce."""
    return RecipeInput(
        name="Chicken bowl",
        steps=[StepInput(text="Roast the chicken at 200 °C for 35 minutes.", unattended_min=35, temperature_c=200)],
        components=[
            ComponentInput(
                name="Chicken",
                role="protein",
                method="roasted",
                maximum_g=300,
                lines=[line(CHICKEN, 2400, refuse_share=0.06), line("olive-oil", 30)],
            ),
            ComponentInput(
                name="Bulgur",
                role="grain",
                method="boiled",
                maximum_g=400,
                yield_expected=2.775,
                lines=[line(BULGUR, 600), line("water", 1150), line("salt-table-dry", 5)],
            ),
            ComponentInput(
                name="Sauce", role="sauce", method="none", minimum_g=20, maximum_g=120, lines=[line(YOGURT, 500)]
            ),
        ],
    )


def from_parts() -> RecipeInput:
    """A bowl of one base of two, beside a sauce in a tub."""
    return RecipeInput(
        name="Bowls from parts",
        groups={"base": 1},
        components=[
            ComponentInput(
                name="Rice", role="grain", method="boiled", group="base", maximum_g=400,
                lines=[line("rice-white-long-grain-dry", 500), line("water", 1000)],
            ),
            ComponentInput(
                name="Quinoa", role="grain", method="boiled", group="base", maximum_g=400,
                lines=[line("quinoa-dry", 400), line("water", 800)],
            ),
            ComponentInput(
                name="Chicken strips", role="protein", method="grilled", maximum_g=300, lines=[line(CHICKEN, 900)],
            ),
            ComponentInput(
                name="Dressing", role="sauce", method="none", place="beside", tub_ml=60, maximum_g=60,
                lines=[line("tahini", 100)],
            ),
        ],
    )  # fmt: skip


def eaters() -> list[ClientInput]:
    lunch = TargetInput(slot="lunch", protein_g=45, carbohydrate_g=55, fat_g=18, capacity_ml=900)
    dinner = TargetInput(slot="dinner", kcal=520, protein_g=40)
    return [
        ClientInput(name="Ada Vance", targets=[lunch, dinner]),
        ClientInput(name="Milo Brandt", allergens=["milk"], dislikes=["bulgur"], targets=[lunch]),
    ]


def planned(who: SignedIn) -> PlanView:
    """A batch of the bowl for both clients: 5 lunches, 3 dinners, 4 lunches without milk."""
    recipe = save_recipe(database(), who, bowl(), None)
    targets = [target for client in eaters() for target in save_client(database(), who, client, None).targets]
    counts = [EaterInput(target_id=target.id, count=n) for target, n in zip(targets, (5, 3, 4), strict=True)]
    assert recipe.id is not None
    given = BatchInput(name="Bowls", cook_on=date(2026, 11, 29), dishes=[DishInput(recipe_id=recipe.id, eaters=counts)])
    return create_batch(database(), who, given)


def apply(who: SignedIn, plan: PlanView, *changes: Change, confirmed: bool = False) -> PlanView:
    given = Changes(version=plan.batch.version, changes=list(changes), confirmed=confirmed, command_id=uuid.uuid4())
    return change_batch(database(), who, plan.batch.id, given, NOW).plan


def weigh(plan: PlanView, index: int, grams: float) -> Weigh:
    component = plan.components[index]
    vessel = Vessel(gross_g=grams + 800, vessel_g=800)
    return Weigh(component_id=component.id, vessels=[vessel])


def full_kitchen() -> SignedIn:
    """A kitchen with a row in every table, an own food and an open session among them."""
    email = new_email()
    who = new_kitchen(email)
    sign_in(database(), email, PASSWORD, NOW)
    plan = planned(who)
    pin = SetPin(row_id=plan.rows[0].id, component_id=plan.components[2].id, grams=40)
    plan = apply(who, plan, pin)
    plan = apply(who, plan, weigh(plan, 0, plan.components[0].cooked_g))
    own = FoodInput(
        name="Own label",
        group="own",
        state="as-sold",
        label=LabelInput(kcal=100, protein_g=10, carbohydrate_g=10, fat_g=2, fibre_g=1),
        packs=[PackInput(name="bag", grams=500, price=2.5)],
    )
    food = save_food(database(), who, own, None).food
    answer(database(), who, AnswerInput(words="our own stuff", food_id=food.id))
    day = DayInput(protein_g=150, extras=[DayExtraInput(food_id=reference_id(YOGURT), grams=200)])
    at_hand = [AtHandInput(food_id=reference_id(YOGURT), serving_g=150, most=2)]
    save_client(database(), who, ClientInput(name="Day by day", days=[day], at_hand=at_hand), None)
    survey = start_survey(database(), who, NOW)
    answer_recipe(database(), who.workspace_id, survey.id, plan.dishes[0].recipe_id)
    sent = replace(who, sent=Sent(command_id=uuid.uuid4(), digest="as it was sent"))
    save_settings(database(), sent, WorkspaceInput(vessels=[VesselInput(name="Tray", empty_g=1312)]))
    read_filled(database(), who, plan.batch.id)
    put_in(database(), who, LotsInput(lots=[LotInput(food_id=food.id, grams=500, place=Keeping.CUPBOARD)]), NOW)
    answer_staple(database(), who, food.id, StapleInput(is_always_there=True), NOW)
    start_pairing(
        database(), who, PairingInput(helper="Ravi", address="https://192.0.2.7:8765", rights=[Right.SHOP]), "", NOW
    )
    cooked_in = save_kitchen(
        database(),
        who,
        KitchenInput(
            name="Galley",
            items=[KitchenItemInput(kind=Kind.HOB, name="Hob", places=4)],
            people=[KitchenPersonInput(name="Ada")],
        ),
        None,
    )
    there = PresenceInput(person_id=cooked_in.people[0].id, start_min=540, end_min=900)
    save_day(database(), who, plan.batch.id, CookDayInput(kitchen_id=cooked_in.id, start_min=540, there=[there]))
    steps = [StepInput(text="Stir it.", hands_on_min=5)]
    plan = apply(who, plan, SetSteps(component_id=plan.components[1].id, steps=steps))
    read_cooking(database(), who, plan.batch.id, NOW)
    note_fact(database(), who, plan.batch.id, CookFactInput(event=CookEvent.DAY_BEGUN), NOW)
    make_feed(database(), who, FeedInput(address="https://192.0.2.7:8765"), "", NOW)
    order = read_cooking(database(), who, plan.batch.id, NOW).order
    assert order is not None
    stirred = next(one for one in order.steps if one.says == "Stir it.")
    done = CookFactInput(event=CookEvent.DONE, task=stirred.key, minutes=9)
    note_fact(database(), who, plan.batch.id, done, NOW)
    read_cooking(database(), who, plan.batch.id, NOW)
    boxes = save_kind(database(), who, ContainerKindInput(name="Box", ml=900, owned=20), None, NOW)
    eater = plan.rows[0].client_id
    gone = ContainerMoveInput(kind_id=boxes.id, client_id=eater, move=ContainerMove.OUT, count=2)
    move(database(), who, gone, NOW)
    make_calendar(database(), who, plan.batch.id, CalendarInput(), NOW)
    set_week(database(), who, plan.batch.id, eater, WeekInput(first_on=date(2026, 11, 30), fridge_l=40))
    link = make_link(database(), who, eater, LinkInput(address="https://192.0.2.7:8765", days=30), "", NOW)
    by_link, opened = open_link(database(), link.address.partition("#")[2], NOW)
    mine = EatenInput(row_id=plan.rows[0].id, container=1, event=EatingEvent.EATEN)
    tell_eaten(database(), by_link, opened, mine, NOW)
    form = make_form(database(), who, FormInput(name="Nova", address="https://192.0.2.7:8765"), "", NOW)
    save_template(database(), who, MessageKind.THAW, TemplateInput(subject="Tonight", body="{containers}"), NOW)
    message = MessageInput(kind=MessageKind.THAW, client_id=eater, subject="Tonight", body="{containers}")
    with database().workspace(who.workspace_id) as session:
        session.get_one(Client, eater).email = "ada@port-alder.example"
    send_messages(database(), who, SendInput(messages=[message], address="https://192.0.2.7:8765"), "", NOW)
    keep_answers(
        database(), *open_form(database(), form.address.partition("#")[2], NOW), AnswersInput(agrees=True), NOW
    )
    say(database(), by_link, opened, ClientWordInput(text="Thank you"), NOW)
    print_labels(database(), who, plan.batch.id, LabelsInput(grid="roll-62"), NOW)
    kept = ShelfChoiceInput(category="cooked fish")
    choose_shelf(database(), who, plan.batch.id, plan.components[0].id, kept, NOW)
    save_instrument(database(), who, InstrumentInput(name="bench", connection=Connection.SIMULATED), None)
    filled = FillFactInput(
        id=uuid.uuid4(), event=FillEvent.FILLED, row_id=plan.rows[0].id, container=1,
        component_id=plan.components[0].id, grams=140,
    )  # fmt: skip
    note_fill_fact(database(), who, plan.batch.id, filled, NOW)
    trip = start(database(), who, TripInput(batches=[plan.batch.id]), NOW)
    by_hand = TripEntryInput(item=uuid.uuid4(), event=TripEvent.ADDED, text="kitchen roll")
    note(database(), who, trip.id, by_hand, NOW)
    return who
