"""Coach Tamsin Reyes cooks twice a week for a rowing club in the harbour town of Port Alder. All invented."""

from __future__ import annotations

import uuid
from datetime import UTC, date, datetime, time, timedelta

from yantai.core.planning.containers import ContainerMove
from yantai.core.shopping.trip import TripEvent
from yantai.demo.afterwards import address_of, eaten, newcomer
from yantai.demo.house import STAPLES, in_the_house
from yantai.demo.kitchens import OUT_WITH, container_kinds, instruments, kitchens
from yantai.demo.market import priced, priced_before
from yantai.demo.schools import school_days
from yantai.demo.sunday import EATEN, at_hand, bowls, egg_bake, lentil_pot, more_clients
from yantai.demo.weeks import COOKED, SHORT_PAN, CookDay
from yantai.store.database import Database
from yantai.work.accounts.sessions import account_exists, create_workspace, sign_in
from yantai.work.batches.commands import change_batch
from yantai.work.batches.inputs import (
    BatchInput,
    Change,
    Changes,
    CookApart,
    DishInput,
    EaterInput,
    RawAmount,
    SetLine,
    SetPacked,
    SetPin,
    SetRaw,
    SharePot,
    SpreadChoices,
    Vessel,
    Weigh,
)
from yantai.work.batches.lists import list_batches
from yantai.work.batches.make import create_batch
from yantai.work.batches.views import PlanComponentView, PlanView
from yantai.work.clients.clients import save_client
from yantai.work.clients.inputs import ClientInput, DayExtraInput, DayInput, TargetInput, ToleranceInput
from yantai.work.clients.views import ClientView
from yantai.work.common.who import SignedIn
from yantai.work.containers.inputs import ContainerMoveInput
from yantai.work.containers.kinds import move as move_containers
from yantai.work.containers.kinds import save_kind
from yantai.work.cook.kitchens import save_kitchen
from yantai.work.instruments.instruments import save_instrument
from yantai.work.kitchen.inputs import DailyAimsInput, VesselInput, WorkspaceInput
from yantai.work.kitchen.settings import save_settings
from yantai.work.pantry.inputs import FoodInput, LabelInput, MeasureInput, PackInput, SupplyInput
from yantai.work.pantry.own_foods import save_food, save_supply
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput, StepInput
from yantai.work.recipes.recipes import list_recipes, save_recipe
from yantai.work.recipes.views import RecipeView
from yantai.work.shop.house import answer_staple, put_in
from yantai.work.shop.inputs import (
    BoughtInput,
    LotsInput,
    PackBoughtInput,
    StapleInput,
    TillInput,
    TripEntryInput,
    TripInput,
)
from yantai.work.shop.trips import finish, note, read_trip, start
from yantai.work.surveys.surveys import answer_recipe, start_survey

DEMO_EMAIL = "tamsin@port-alder.example"
DEMO_PASSWORD = "harbour kitchen"  # noqa: S105 -- shown on the sign-in page of demo installations

_TO_THE_GRAM = ToleranceInput(kcal=25, protein_g=2, carbohydrate_g=4, fat_g=2)


def load_demo(database: Database, today: date | None = None) -> None:
    """Load the scenario once; dates lie around `today`."""
    if account_exists(database, DEMO_EMAIL):
        return
    today = today or datetime.now(UTC).date()
    create_workspace(
        database,
        name="Port Alder Rowing kitchen",
        email=DEMO_EMAIL,
        coach="Tamsin Reyes",
        password=DEMO_PASSWORD,
    )
    _, who = sign_in(database, DEMO_EMAIL, DEMO_PASSWORD, datetime.now(UTC))
    aims = DailyAimsInput(produce_g=400, fibre_g=30, sodium_mg=3000)
    save_settings(database, who, WorkspaceInput(vessels=_vessels(), daily_aims=aims, currency="EUR"))
    for food in _own_foods():
        save_food(database, who, food, None)
    for key, pack in priced_before(today):
        save_supply(database, who, reference_id(key), SupplyInput(packs=[pack]))
    for key, packs in priced(today).items():
        save_supply(database, who, reference_id(key), SupplyInput(packs=packs))
    everybody = [
        client.model_copy(update={"email": address_of(client.name)}) for client in [*_clients(), *more_clients()]
    ]
    clients = {client.name: save_client(database, who, client, None) for client in everybody}
    given = (_kofta_tray(), _bean_stew(), egg_bake(), lentil_pot(), bowls())
    recipes = {recipe.name: save_recipe(database, who, recipe, None) for recipe in given}
    kofta = recipes["Turkey kofta tray"]
    sunday = today + timedelta(days=(6 - today.weekday()) % 7)
    over = [
        _cooked(database, who, cooked, recipes, clients, sunday - timedelta(days=cooked.days_before), packed=True)
        for cooked in COOKED
    ]
    this_morning = datetime.combine(today, time(7), UTC)
    eaten(database, who, over, clients, this_morning)
    newcomer(database, who, this_morning)
    _cooked(database, who, SHORT_PAN, recipes, clients, today, packed=False)
    _planned(database, who, kofta, clients, sunday)
    for day in school_days():
        recipe = save_recipe(database, who, day.recipe, None)
        eaters = _eaters(clients, day.counts)
        payload = BatchInput(
            name=day.name,
            cook_on=sunday + timedelta(days=day.days_after),
            dishes=[DishInput(recipe_id=_id(recipe), eaters=eaters)],
        )
        create_batch(database, who, payload)
    to_go = {("Ines Haverkamp", "lunch, training"): 2, ("Bram Oduya", "lunch"): 3, ("Safiya Lund", "lunch"): 2}
    payload = BatchInput(
        name="Kofta to go",
        # It is to be bought for tomorrow, whichever day the demo begins on.
        cook_on=today + timedelta(days=2),
        step_g=1,
        budget=2.9,
        dishes=[DishInput(recipe_id=_id(kofta), eaters=_eaters(clients, to_go))],
    )
    create_batch(database, who, payload)
    known = {kind.name: save_kind(database, who, kind, None, datetime.now(UTC)) for kind in container_kinds()}
    for name, client, count in OUT_WITH:
        out = ContainerMoveInput(
            kind_id=known[name].id, client_id=clients[client].id, move=ContainerMove.OUT, count=count
        )
        move_containers(database, who, out, datetime.now(UTC))
    for kitchen in kitchens():
        save_kitchen(database, who, kitchen, None)
    for instrument in instruments():
        save_instrument(database, who, instrument, None)
    _sunday_at_the_boathouse(database, who, recipes, clients, sunday + timedelta(days=7))
    # It is counted after the weeks that were cooked, so none of them took of it.
    put_in(database, who, LotsInput(lots=in_the_house(today)), this_morning)
    for key in STAPLES:
        answer_staple(database, who, reference_id(key), StapleInput(is_always_there=True), datetime.now(UTC))
    bought = next(batch for batch in list_batches(database, who) if batch.name == BOUGHT)
    _shopped(database, who, bought.id, datetime.combine(today, time(8), UTC))
    _ask_who_can_eat_what(database, who)


BOUGHT = "Egg bakes Monday"
"""The batch that was bought for this morning."""


def _shopped(database: Database, who: SignedIn, batch_id: uuid.UUID, began: datetime) -> None:
    """A trip that is over: all that has packs was bought as the list said, one price was another, and it was paid."""
    trip = start(database, who, TripInput(batches=[batch_id]), began)
    found = read_trip(database, who, trip.id, began)
    paid = 0.0
    for minutes, item in enumerate(found.shopping.items, start=1):
        if not item.choices or item.choices[0].cost is None:
            continue
        packs = [
            PackBoughtInput(
                name=one.name, grams=one.grams, count=one.count, price=one.price, shop=one.shop, sold=one.sold
            )
            for one in item.choices[0].packs
        ]
        grams = sum(pack.grams * pack.count for pack in packs)
        entry = TripEntryInput(
            item=item.food_id,
            event=TripEvent.BOUGHT,
            bought=BoughtInput(food_id=item.food_id, grams=grams, packs=packs),
        )
        note(database, who, trip.id, entry, began + timedelta(minutes=minutes))
        paid += item.choices[0].cost
    finish(database, who, trip.id, TillInput(paid=round(paid + 0.35, 2)), began + timedelta(minutes=40))


def _sunday_at_the_boathouse(
    database: Database, who: SignedIn, recipes: dict[str, RecipeView], clients: dict[str, ClientView], cook_on: date
) -> None:
    """Four dishes at once: one pot of rice for two of them, choices spread, a sauce without milk cooked apart."""
    payload = BatchInput(
        name="Sunday at the boathouse",
        cook_on=cook_on,
        dishes=[DishInput(recipe_id=_id(recipes[name]), eaters=_eaters(clients, counts)) for name, counts in EATEN],
    )
    plan = create_batch(database, who, payload)
    kofta_dish, _, lentils, from_parts = plan.dishes
    mine, other = (
        next(part.component_id for part in dish.parts if _name(plan, part.component_id) == "Rice")
        for dish in (lentils, from_parts)
    )
    done = datetime.combine(cook_on, time(9), UTC) - timedelta(days=1)
    plan = _change(database, who, plan, SharePot(component_id=other, with_component_id=mine), done)
    plan = _change(database, who, plan, SpreadChoices(dish_id=from_parts.id), done)
    petra = next(row.id for row in plan.rows if row.client == "Petra Nowicka")
    sauce = next(part.component_id for part in kofta_dish.parts if _name(plan, part.component_id) == "Mint yoghurt")
    plan = _change(database, who, plan, CookApart(component_id=sauce, row_ids=[petra]), done)
    without_milk = next(component for component in plan.components if component.name.startswith("Mint yoghurt for"))
    yoghurt = without_milk.lines[0]
    swap = SetLine(
        component_id=without_milk.id,
        line_id=yoghurt.id,
        food_id=reference_id("soy-yogurt-sweetened"),
        purchased_g=700,
    )
    _change(database, who, plan, swap, done)


def _name(plan: PlanView, component_id: uuid.UUID) -> str:
    return next(component.name for component in plan.components if component.id == component_id)


def _ask_who_can_eat_what(database: Database, who: SignedIn) -> None:
    survey = start_survey(database, who, datetime.now(UTC))
    for recipe in list_recipes(database, who):
        # The jobs on the queue find these answered.
        answer_recipe(database, who.workspace_id, survey.id, recipe.id)


def _planned(
    database: Database, who: SignedIn, recipe: RecipeView, clients: dict[str, ClientView], cook_on: date
) -> None:
    counts = {
        ("Ines Haverkamp", "lunch, training"): 4,
        ("Ines Haverkamp", "lunch, rest"): 2,
        ("Bram Oduya", "lunch"): 5,
        ("Bram Oduya", "dinner"): 3,
        ("Safiya Lund", "lunch"): 5,
        ("Teo Vasquez-Lind", "lunch"): 4,
        ("Petra Nowicka", "dinner"): 5,
        ("Wilf Tanaka", "lunch"): 4,
    }
    plan = create_batch(
        database,
        who,
        BatchInput(
            name="Kofta Sunday",
            cook_on=cook_on,
            dishes=[DishInput(recipe_id=_id(recipe), eaters=_eaters(clients, counts))],
        ),
    )
    sauce = plan.components[3].id
    safiya = next(row.id for row in plan.rows if row.client == "Safiya Lund")
    pin = SetPin(row_id=safiya, component_id=sauce, grams=30)
    change_batch(
        database,
        who,
        plan.batch.id,
        Changes(version=plan.batch.version, changes=[pin], command_id=uuid.uuid4()),
        datetime.now(UTC),
    )


def _cooked(
    database: Database,
    who: SignedIn,
    day: CookDay,
    recipes: dict[str, RecipeView],
    clients: dict[str, ClientView],
    cook_on: date,
    *,
    packed: bool,
) -> uuid.UUID:
    """A batch that was cooked: all its pans weighed and packed, or only those of which it is said how they came out."""
    payload = BatchInput(
        name=day.name,
        cook_on=cook_on,
        dishes=[
            DishInput(recipe_id=_id(recipes[name]), eaters=_eaters(clients, counts))
            for name, counts in day.dishes.items()
        ],
    )
    plan = create_batch(database, who, payload)
    done = datetime.combine(cook_on, time(8, 40), UTC)
    for key in [component.id for component in plan.components]:
        # What is not cooked yet follows what was weighed before it.
        component = next(one for one in plan.components if one.id == key)
        if component.to_weigh and (packed or component.name in day.came_out):
            if component.name in day.bought:
                plan = _change(database, who, plan, _less(component, day.bought[component.name]), done)
                component = next(one for one in plan.components if one.id == key)
            empty_g = _EMPTY_G.get(component.role, 905)
            gross = round(component.cooked_g * day.came_out.get(component.name, 1)) + empty_g
            weigh = Weigh(component_id=component.id, vessels=[Vessel(gross_g=gross, vessel_g=empty_g)])
            # A pan that boiled down too far is doubted, and stands.
            plan = _change(database, who, plan, weigh, done, confirmed=not packed)
    if packed:
        _change(database, who, plan, SetPacked(packed=True), done + timedelta(minutes=50))
    return plan.batch.id


def _less(component: PlanComponentView, share: float) -> SetRaw:
    lines = [RawAmount(line_id=line.id, purchased_g=round(line.purchased_g * share)) for line in component.lines]
    return SetRaw(component_id=component.id, fixed=True, lines=lines)


_EMPTY_G = {"protein": 1312.0, "mixed": 2210.0, "grain": 1480.0}
"""What pans weigh empty [g] by what is cooked in them, as the kitchen's vessels do."""


def _change(
    database: Database, who: SignedIn, plan: PlanView, change: Change, now: datetime, *, confirmed: bool = False
) -> PlanView:
    payload = Changes(version=plan.batch.version, changes=[change], command_id=uuid.uuid4(), confirmed=confirmed)
    return change_batch(database, who, plan.batch.id, payload, now).plan


def _eaters(clients: dict[str, ClientView], counts: dict[tuple[str, str], int]) -> list[EaterInput]:
    """Containers by client and slot, with the day type where it has one."""
    return [
        EaterInput(target_id=target.id, count=count)
        for (name, which), count in counts.items()
        for target in clients[name].targets
        if which in (target.slot, f"{target.slot}, {target.day_type}")
    ]


def _id(recipe: RecipeView) -> uuid.UUID:
    assert recipe.id is not None
    return recipe.id


def _target(
    slot: str, protein: float, carbohydrate: float, fat: float, capacity_ml: float, day: str = "any"
) -> TargetInput:
    return TargetInput(
        slot=slot, day_type=day, protein_g=protein, carbohydrate_g=carbohydrate, fat_g=fat, capacity_ml=capacity_ml
    )


def _day(day: str, protein: float, carbohydrate: float, fat: float, extras: list[tuple[str, float]]) -> DayInput:
    return DayInput(
        day_type=day,
        protein_g=protein,
        carbohydrate_g=carbohydrate,
        fat_g=fat,
        extras=[DayExtraInput(food_id=reference_id(food), grams=grams) for food, grams in extras],
    )


def _breakfast(oats_g: float, milk_g: float) -> list[tuple[str, float]]:
    """What is eaten outside the containers on every day: oats with milk, yoghurt, almonds."""
    return [
        ("oats-rolled-dry", oats_g),
        ("milk-semi-skimmed-2-fat", milk_g),
        ("greek-yogurt-plain-low-fat", 200),
        ("almonds-raw", 25),
    ]


def _clients() -> list[ClientInput]:
    return [
        ClientInput(
            name="Ines Haverkamp",
            note="Rows stroke in the women's four. Rests on Mondays and Thursdays.",
            days=[
                _day("training", 137, 285, 60, [*_breakfast(80, 300), ("banana-raw", 120), ("bread-rye", 100)]),
                _day("rest", 128, 170, 58, [*_breakfast(60, 250), ("bread-rye", 60)]),
            ],
            at_hand=at_hand(
                ("apple-with-skin-raw", 150, 2), ("carrot-raw", 80, 2), ("greek-yogurt-plain-low-fat", 150, 1)
            ),
            targets=[
                _target("lunch", 45, 70, 16, 900, "training"),
                _target("lunch", 45, 42, 18, 900, "rest"),
                TargetInput(slot="dinner", day_type="training", day_share=0.45, capacity_ml=900),
                TargetInput(slot="dinner", day_type="rest", day_share=0.45, capacity_ml=900),
            ],
        ),
        ClientInput(
            name="Bram Oduya",
            note="Two boxes a day in the heavy weeks.",
            targets=[_target("lunch", 58, 85, 23, 1200), _target("dinner", 50, 65, 20, 1200)],
        ),
        ClientInput(name="Safiya Lund", note="Coxswain, small appetite.", targets=[_target("lunch", 28, 34, 11, 700)]),
        ClientInput(
            name="Teo Vasquez-Lind",
            note="Owns small round boxes only.",
            tolerance=_TO_THE_GRAM,
            targets=[_target("lunch", 46, 52, 17, 520)],
        ),
        ClientInput(
            name="Petra Nowicka",
            note="Milk allergy. Her sauce stays out; oil goes on at home.",
            allergens=["milk"],
            targets=[_target("dinner", 40, 55, 14, 850)],
        ),
        ClientInput(
            name="Wilf Tanaka",
            note="Eats courgette only when it is charred well.",
            dislikes=["courgette"],
            targets=[_target("lunch", 48, 50, 18, 850)],
        ),
    ]


def _vessels() -> list[VesselInput]:
    return [
        VesselInput(name="Roasting tray, large", empty_g=1312, capacity_g=2600),
        VesselInput(name="Stew pot, 8 litres", empty_g=2210, capacity_g=7000),
        VesselInput(name="Rice pot", empty_g=1480, capacity_g=3500),
        VesselInput(name="Frying pan, 30 cm", empty_g=905, capacity_g=900),
    ]


def _own_foods() -> list[FoodInput]:
    """Two labels: one that agrees with itself, and a spray whose zeros are not nothing."""
    return [
        FoodInput(
            name="Harissa paste from the quay",
            group="sauces-stocks",
            state="as-sold",
            label=LabelInput(
                serving_g=100, kcal=112, fat_g=6.2, saturated_g=0.9, carbohydrate_g=9.1, sugars_g=6.4, fibre_g=4.1,
                protein_g=2.6, salt_g=2.9,
            ),
            packs=[PackInput(name="jar", grams=180, price=2.4)],
            measures=[MeasureInput(name="tsp", grams=6)],
            diet_tags=["vegan", "vegetarian", "pescatarian"],
        ),
        FoodInput(
            name="Rapeseed spray oil",
            group="fats-oils",
            state="as-sold",
            label=LabelInput(
                serving_g=0.25, kcal=0, fat_g=0, carbohydrate_g=0, protein_g=0, carbohydrate="total", rounding="us"
            ),
            packs=[PackInput(name="can", grams=190, price=3.1)],
            measures=[MeasureInput(name="spray, 1 second", grams=1)],
            diet_tags=["vegan", "vegetarian", "pescatarian"],
            note="The label's zero per quarter gram is a rounded one.",
        ),
    ]  # fmt: skip


def _line(food: str, grams: float, refuse: float = 0, text: str = "") -> LineInput:
    return LineInput(food_id=reference_id(food), purchased_g=grams, refuse_share=refuse, text=text)


def _kofta_tray() -> RecipeInput:
    return RecipeInput(
        name="Turkey kofta tray",
        note="Kofta on two trays at 210 °C, 18 minutes. Courgette in a dry, very hot pan. Yoghurt stays cold.",
        steps=[
            StepInput(text="Mix the kofta by hand and shape 40 pieces.", component="Turkey kofta", hands_on_min=25),
            StepInput(
                text="Bake on two trays at 210 °C, 18 minutes, to 74 °C inside.",
                component="Turkey kofta",
                unattended_min=18,
                temperature_c=210,
                equipment="oven",
            ),
            StepInput(
                text="Bring the bulgur to the boil, then let it stand covered for 20 minutes.",
                component="Bulgur pilaf",
                hands_on_min=5,
                unattended_min=20,
                equipment="hob",
            ),
            StepInput(
                text="Char the courgette in a dry, very hot pan.",
                component="Charred courgette",
                hands_on_min=20,
                equipment="hob",
            ),
            StepInput(text="Stir the sauce and keep it cold.", component="Mint yoghurt", hands_on_min=8),
        ],
        components=[
            ComponentInput(
                name="Turkey kofta",
                role="protein",
                method="baked",
                minimum_g=60,
                maximum_g=280,
                density_g_per_ml=0.75,
                lines=[
                    _line("ground-turkey-93-lean-raw", 1000, text="1 kg turkey mince, 93 % lean"),
                    _line("ground-turkey-99-fat-free-raw", 1000, text="1 kg turkey mince, 99 % fat free"),
                    _line("onion-raw", 300, 0.1, "300 g onions, grated and pressed"),
                    _line("egg-whole-raw", 110, 0.12),
                    _line("parsley-fresh-raw", 40, text="40 g parsley, chopped"),
                    _line("cumin-seed-dry", 8),
                    _line("paprika-dry", 8),
                    _line("salt-table-dry", 18),
                ],
            ),
            ComponentInput(
                name="Bulgur pilaf",
                role="grain",
                method="boiled",
                minimum_g=40,
                maximum_g=350,
                density_g_per_ml=0.77,
                yield_low=2.6,
                yield_expected=2.77,
                yield_high=2.95,
                lines=[
                    _line("bulgur-wheat-dry", 800, text="800 g bulgur, coarse"),
                    _line("water", 1500, text="1.5 l water, hot"),
                    _line("tomato-paste-no-added-salt", 60),
                    _line("olive-oil", 25),
                    _line("salt-table-dry", 8),
                ],
            ),
            ComponentInput(
                name="Charred courgette",
                role="vegetable",
                method="grilled",
                minimum_g=80,
                maximum_g=200,
                density_g_per_ml=0.7,
                lines=[
                    _line("zucchini-with-skin-raw", 2500, 0.05, "2.5 kg courgettes in 1 cm slices"),
                    _line("olive-oil", 30),
                    _line("salt-table-dry", 6),
                ],
            ),
            ComponentInput(
                name="Mint yoghurt",
                role="sauce",
                method="none",
                minimum_g=20,
                maximum_g=90,
                density_g_per_ml=1.03,
                lines=[
                    _line("greek-yogurt-plain-low-fat", 700, text="700 g Greek yoghurt, low fat"),
                    _line("cucumber-with-peel-raw", 160, 0.03),
                    _line("tahini", 90),
                    _line("lemon-juice-raw", 40),
                    _line("mint-spearmint-fresh-raw", 20),
                    _line("salt-table-dry", 4),
                ],
            ),
        ],
    )


def _bean_stew() -> RecipeInput:
    return RecipeInput(
        name="Smoky tofu and white bean stew",
        note="Press the tofu while the millet steams. Greens last, they hold for ten minutes only.",
        steps=[
            StepInput(text="Press the tofu.", component="Smoky tofu", unattended_min=30, lead_min=30),
            StepInput(
                text="Bake the tofu at 200 °C for 25 minutes.",
                component="Smoky tofu",
                unattended_min=25,
                temperature_c=200,
                equipment="oven",
            ),
            StepInput(
                text="Simmer the beans for 35 minutes.",
                component="White bean stew",
                hands_on_min=15,
                unattended_min=35,
                equipment="hob",
            ),
            StepInput(text="Steam the millet.", component="Millet", unattended_min=22, equipment="rice cooker"),
            StepInput(text="Greens last.", component="Garlic greens", hands_on_min=10, equipment="hob"),
        ],
        components=[
            ComponentInput(
                name="Smoky tofu",
                role="protein",
                method="baked",
                minimum_g=80,
                maximum_g=400,
                density_g_per_ml=0.8,
                lines=[
                    _line("tofu-extra-firm", 2600),
                    _line("soy-sauce-reduced-salt", 80),
                    _line("paprika-dry", 15),
                    _line("rapeseed-canola-oil", 10),
                ],
            ),
            ComponentInput(
                name="White bean stew",
                role="mixed",
                method="simmered",
                minimum_g=80,
                maximum_g=350,
                density_g_per_ml=0.95,
                lines=[
                    _line("white-cannellini-beans-canned-drained", 1800),
                    _line("tomatoes-crushed-canned", 900),
                    _line("onion-raw", 250, 0.1),
                    _line("water", 250),
                    _line("olive-oil", 10),
                    _line("garlic-raw", 20, 0.13),
                    _line("salt-table-dry", 12),
                ],
            ),
            ComponentInput(
                name="Millet",
                role="grain",
                method="boiled",
                minimum_g=40,
                maximum_g=350,
                density_g_per_ml=0.74,
                lines=[_line("millet-dry", 500), _line("water", 1200), _line("salt-table-dry", 6)],
            ),
            ComponentInput(
                name="Garlic greens",
                role="vegetable",
                method="sauteed",
                minimum_g=50,
                maximum_g=150,
                density_g_per_ml=0.5,
                lines=[
                    _line("kale-raw", 1100, 0.28),
                    _line("olive-oil", 10),
                    _line("garlic-raw", 25, 0.13),
                    _line("salt-table-dry", 5),
                ],
            ),
        ],
    )
