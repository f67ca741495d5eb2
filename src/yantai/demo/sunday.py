"""Sunday at the boathouse: four dishes for nine people, one pot of rice under two of them, bowls from parts."""

from __future__ import annotations

from yantai.core.planning.portioning import Place, School
from yantai.work.clients.inputs import AtHandInput, ClientInput, DayInput, TargetInput
from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput, StepInput

EATEN = (
    (
        "Turkey kofta tray",
        {
            ("Ines Haverkamp", "lunch, training"): 3,
            ("Bram Oduya", "lunch"): 3,
            ("Teo Vasquez-Lind", "lunch"): 2,
            ("Wilf Tanaka", "lunch"): 2,
            ("Petra Nowicka", "dinner"): 2,
        },
    ),
    ("Egg and spinach tray", {("Runa Castellane", "breakfast"): 4, ("Odell Marsh", "breakfast"): 4}),
    ("Lentil pot", {("Odell Marsh", "dinner"): 6, ("Runa Castellane", "dinner"): 5}),
    ("Bowls from parts", {("Safiya Lund", "lunch"): 5, ("Ottilie Senn", "lunch"): 5}),
)
"""Containers of each dish by client and slot: 41."""


def at_hand(*foods: tuple[str, float, int]) -> list[AtHandInput]:
    """Foods of the reference with the grams of a serving, and how many a day at most."""
    return [AtHandInput(food_id=reference_id(food), serving_g=grams, most=most) for food, grams, most in foods]


def more_clients() -> list[ClientInput]:
    """Three who row in the second boat."""
    return [
        ClientInput(
            name="Runa Castellane",
            note="Rows two seat. Breakfast in the car.",
            targets=[
                TargetInput(slot="breakfast", protein_g=28, carbohydrate_g=42, fat_g=23, capacity_ml=650),
                TargetInput(slot="dinner", protein_g=27, carbohydrate_g=72, fat_g=8, capacity_ml=900),
            ],
        ),
        ClientInput(
            name="Odell Marsh",
            note="Boat mechanic. Eats the same every day and likes it.",
            days=[DayInput(protein_g=97, carbohydrate_g=195, fat_g=50)],
            at_hand=at_hand(
                ("greek-yogurt-plain-low-fat", 200, 1),
                ("banana-raw", 120, 2),
                ("almonds-raw", 20, 1),
                ("apple-with-skin-raw", 150, 2),
            ),
            targets=[
                TargetInput(slot="breakfast", protein_g=42, carbohydrate_g=62, fat_g=35, capacity_ml=750),
                TargetInput(slot="dinner", protein_g=33, carbohydrate_g=96, fat_g=10, capacity_ml=1200),
            ],
        ),
        ClientInput(
            name="Ottilie Senn",
            note="Never the same lunch twice running.",
            exclusions=["chicken"],
            dislikes=["carrot"],
            targets=[TargetInput(slot="lunch", protein_g=27, carbohydrate_g=45, fat_g=16, capacity_ml=850)],
        ),
    ]


def _line(food: str, grams: float, refuse: float = 0) -> LineInput:
    return LineInput(food_id=reference_id(food), purchased_g=grams, refuse_share=refuse)


def egg_bake() -> RecipeInput:
    """A tray that is cut; never half a tray."""
    return RecipeInput(
        name="Egg and spinach tray",
        note="One tray makes twelve pieces. It is done at 71 °C inside; cool it before cutting.",
        serves=4,
        steps=[
            StepInput(
                text="Wilt the spinach, press it, and mix everything but the eggs.",
                component="Egg tray",
                hands_on_min=15,
                equipment="hob",
            ),
            StepInput(
                text="Pour the eggs over it and bake at 180 °C for 25 minutes, to 71 °C inside.",
                component="Egg tray",
                unattended_min=25,
                temperature_c=180,
                equipment="oven",
            ),
            StepInput(text="Cool it and cut twelve pieces.", component="Egg tray", hands_on_min=5, unattended_min=20),
        ],
        components=[
            ComponentInput(
                name="Egg tray",
                role="protein",
                method="baked",
                school=School.PIECES,
                pieces=12,
                whole_pans=True,
                maximum_g=500,
                lines=[
                    _line("egg-whole-raw", 900, 0.12),
                    _line("spinach-raw", 300),
                    _line("feta", 150),
                    _line("potato-peeled-boiled", 350),
                    _line("olive-oil", 20),
                ],
            ),
            ComponentInput(
                name="Rye bread",
                role="grain",
                method="none",
                school=School.BY_COMPONENT,
                place=Place.AT_EATING,
                maximum_g=140,
                lines=[_line("bread-rye", 300)],
            ),
        ],
    )


def _rice(grams: float) -> ComponentInput:
    return ComponentInput(
        name="Rice",
        role="grain",
        method="boiled",
        maximum_g=380,
        lines=[
            _line("rice-white-long-grain-dry", grams),
            _line("water", 2 * grams),
            _line("salt-table-dry", grams / 100),
        ],
    )


def lentil_pot() -> RecipeInput:
    """One pot over rice, with a spoon of yoghurt in a tub."""
    return RecipeInput(
        name="Lentil pot",
        note="Lentils from dry, 25 minutes. Yoghurt stays cold and apart.",
        serves=6,
        steps=[
            StepInput(
                text="Sweat the onions and carrots, then simmer with the lentils for 25 minutes.",
                component="Lentils",
                hands_on_min=15,
                unattended_min=25,
                equipment="hob",
            ),
            StepInput(
                text="Boil the rice. Cool it within the hour if it is kept.",
                component="Rice",
                unattended_min=20,
                equipment="rice cooker",
            ),
        ],
        components=[
            ComponentInput(
                name="Lentils",
                role="mixed",
                method="simmered",
                maximum_g=450,
                lines=[
                    _line("lentils-brown-or-green-dry", 700),
                    _line("water", 1900),
                    _line("tomato-paste-no-added-salt", 120),
                    _line("onion-raw", 300, 0.1),
                    _line("carrot-raw", 300, 0.11),
                    _line("olive-oil", 45),
                    _line("salt-table-dry", 14),
                ],
            ),
            _rice(500),
            ComponentInput(
                name="Yoghurt",
                role="sauce",
                method="none",
                maximum_g=90,
                place=Place.BESIDE,
                tub_ml=90,
                density_g_per_ml=1.03,
                lines=[_line("greek-yogurt-plain-low-fat", 400)],
            ),
        ],
    )


def bowls() -> RecipeInput:
    """Two grains, three proteins and three vegetables, of which a bowl takes one, one and two."""
    return RecipeInput(
        name="Bowls from parts",
        note="Dressing in its tub, leaves on top when it is eaten.",
        serves=8,
        groups={"grain": 1, "protein": 1, "vegetables": 2},
        steps=[
            StepInput(
                text="Salt the chicken and leave it in the fridge overnight.",
                component="Roast chicken",
                unattended_min=480,
                equipment="fridge",
                lead_min=480,
            ),
            StepInput(
                text="Roast the chicken at 200 °C for 25 minutes, to 74 °C inside.",
                component="Roast chicken",
                unattended_min=25,
                temperature_c=200,
                equipment="oven",
            ),
            StepInput(
                text="Roast carrots and peppers on one tray at 200 °C for 30 minutes.",
                component="Roast carrots",
                hands_on_min=15,
                unattended_min=30,
                temperature_c=200,
                equipment="oven",
            ),
            StepInput(
                text="Boil the eggs for 9 minutes and cool them.",
                component="Boiled eggs",
                unattended_min=9,
                equipment="hob",
            ),
            StepInput(text="Whisk the dressing.", component="Tahini dressing", hands_on_min=5),
        ],
        components=[
            _rice(400).model_copy(update={"group": "grain", "maximum_g": 260}),
            ComponentInput(
                name="Quinoa",
                role="grain",
                method="boiled",
                group="grain",
                maximum_g=260,
                lines=[_line("quinoa-dry", 300), _line("water", 620), _line("salt-table-dry", 3)],
            ),
            ComponentInput(
                name="Roast chicken",
                role="protein",
                method="roasted",
                group="protein",
                maximum_g=220,
                lines=[_line("chicken-breast-skinless-raw", 900), _line("olive-oil", 15), _line("salt-table-dry", 8)],
            ),
            ComponentInput(
                name="Boiled eggs",
                role="protein",
                method="boiled",
                group="protein",
                school=School.PIECES,
                pieces=12,
                unit_part=0.5,
                maximum_g=250,
                lines=[_line("egg-whole-raw", 720, 0.12)],
            ),
            ComponentInput(
                name="Chickpeas",
                role="protein",
                method="none",
                group="protein",
                maximum_g=260,
                lines=[_line("chickpeas-canned-drained", 800), _line("cumin-seed-dry", 4), _line("olive-oil", 12)],
            ),
            ComponentInput(
                name="Roast carrots",
                role="vegetable",
                method="roasted",
                group="vegetables",
                minimum_g=40,
                maximum_g=150,
                lines=[_line("carrot-raw", 1000, 0.11), _line("olive-oil", 15)],
            ),
            ComponentInput(
                name="Broccoli",
                role="vegetable",
                method="boiled",
                group="vegetables",
                minimum_g=40,
                maximum_g=150,
                lines=[_line("broccoli-raw", 900, 0.1)],
            ),
            ComponentInput(
                name="Roast peppers",
                role="vegetable",
                method="roasted",
                group="vegetables",
                minimum_g=40,
                maximum_g=150,
                lines=[_line("pepper-bell-red-raw", 900, 0.18), _line("olive-oil", 15)],
            ),
            ComponentInput(
                name="Tahini dressing",
                role="sauce",
                method="none",
                place=Place.BESIDE,
                tub_ml=60,
                density_g_per_ml=1.0,
                maximum_g=60,
                lines=[_line("tahini", 160), _line("lemon-juice-raw", 90), _line("water", 120)],
            ),
            ComponentInput(
                name="Leaves",
                role="topping",
                method="none",
                place=Place.AT_EATING,
                school=School.BY_EYE,
                eye_g=30,
                lines=[_line("arugula-raw", 100)],
            ),
        ],
    )
