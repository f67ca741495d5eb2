"""The worked example of every portioning school: four small recipes of the same kitchen, planned for next week."""

from __future__ import annotations

from dataclasses import dataclass

from yantai.work.pantry.reference import reference_id
from yantai.work.recipes.inputs import ComponentInput, LineInput, RecipeInput


@dataclass(frozen=True, kw_only=True)
class SchoolDay:
    """A batch: its recipe, how many days after the Sunday, and containers by client and slot or day type."""

    name: str
    days_after: int
    recipe: RecipeInput
    counts: dict[tuple[str, str], int]


def _line(food: str, grams: float, refuse: float = 0) -> LineInput:
    return LineInput(food_id=reference_id(food), purchased_g=grams, refuse_share=refuse)


def school_days() -> list[SchoolDay]:
    """Pieces with leaves by eye; one pot; plate shares; built raw; scoops with an equal split."""
    return [
        SchoolDay(
            name="Egg bakes Monday",
            days_after=1,
            recipe=_egg_bakes(),
            counts={("Ines Haverkamp", "lunch, rest"): 2, ("Wilf Tanaka", "lunch"): 3, ("Safiya Lund", "lunch"): 2},
        ),
        SchoolDay(
            name="Dhal Tuesday",
            days_after=2,
            recipe=_dhal(),
            counts={("Bram Oduya", "dinner"): 3, ("Petra Nowicka", "dinner"): 3, ("Safiya Lund", "lunch"): 2},
        ),
        SchoolDay(
            name="Wraps Wednesday",
            days_after=3,
            recipe=_wraps(),
            counts={("Bram Oduya", "lunch"): 2, ("Wilf Tanaka", "lunch"): 2},
        ),
        SchoolDay(
            name="Salmon plates Thursday",
            days_after=4,
            recipe=_plates(),
            counts={("Ines Haverkamp", "lunch, training"): 2, ("Petra Nowicka", "dinner"): 2},
        ),
        SchoolDay(
            name="Porridge Friday",
            days_after=5,
            recipe=_porridge(),
            counts={("Ines Haverkamp", "lunch, training"): 2, ("Safiya Lund", "lunch"): 2, ("Bram Oduya", "lunch"): 2},
        ),
    ]


def _egg_bakes() -> RecipeInput:
    """Pieces, a grain by grams beside them, and leaves that nobody weighs."""
    return RecipeInput(
        name="Courgette egg bakes",
        note="Twelve bakes from one tin. Egg bakes are done at 71 °C inside.",
        components=[
            ComponentInput(
                name="Egg bakes",
                role="protein",
                method="baked",
                minimum_g=0,
                maximum_g=500,
                school="pieces",
                pieces=12,
                lines=[
                    _line("egg-whole-raw", 1000, 0.12),
                    _line("zucchini-with-skin-raw", 400, 0.05),
                    _line("feta", 200),
                    # They take up what the eggs and the courgette give, and nothing from outside the tin.
                    _line("oats-rolled-dry", 80).model_copy(update={"yield_factor": 1.0}),
                    _line("salt-table-dry", 4),
                ],
            ),
            ComponentInput(
                name="Turkey crumble",
                role="protein",
                method="roasted",
                minimum_g=0,
                maximum_g=250,
                lines=[_line("ground-turkey-99-fat-free-raw", 900), _line("paprika-dry", 6)],
            ),
            ComponentInput(
                name="Bulgur salad",
                role="grain",
                method="boiled",
                minimum_g=0,
                maximum_g=400,
                lines=[_line("bulgur-wheat-dry", 400), _line("water", 750), _line("olive-oil", 10)],
            ),
            ComponentInput(
                name="Leaves",
                role="vegetable",
                method="none",
                minimum_g=0,
                maximum_g=80,
                school="by eye",
                eye_g=25,
                density_g_per_ml=0.1,
                lines=[_line("spinach-raw", 250)],
            ),
        ],
    )


def _dhal() -> RecipeInput:
    """One pot: lentils and rice are mixed, so their macros move together."""
    return RecipeInput(
        name="Red lentil pot",
        note="Lentils and rice are folded together before filling. Cool the rice fast.",
        components=[
            ComponentInput(
                name="Lentil dhal",
                role="mixed",
                method="simmered",
                minimum_g=0,
                maximum_g=700,
                school="one pot",
                density_g_per_ml=1.0,
                lines=[
                    _line("lentils-red-split-dry", 700),
                    _line("water", 1900),
                    _line("tomatoes-crushed-canned", 400),
                    _line("onion-raw", 250, 0.1),
                    _line("rapeseed-canola-oil", 40),
                    _line("salt-table-dry", 12),
                ],
            ),
            ComponentInput(
                name="Rice",
                role="grain",
                method="boiled",
                minimum_g=0,
                maximum_g=500,
                school="one pot",
                density_g_per_ml=0.75,
                lines=[_line("rice-white-basmati-long-grain-values-dry", 350), _line("water", 600)],
            ),
            ComponentInput(
                name="Baked tofu",
                role="protein",
                method="baked",
                minimum_g=0,
                maximum_g=300,
                lines=[_line("tofu-extra-firm", 1200), _line("paprika-dry", 6)],
            ),
        ],
    )


def _wraps() -> RecipeInput:
    """Built raw: what goes into one wrap is weighed raw, and each is fried on its own."""
    return RecipeInput(
        name="Turkey breakfast wraps",
        note="Weigh raw for each wrap, fry one by one. Minced turkey is done at 74 °C inside.",
        components=[
            ComponentInput(
                name="Wrap",
                role="mixed",
                method="none",
                school="built raw",
                unit_part=0.5,
                lines=[
                    _line("tortilla-whole-wheat", 60),
                    _line("ground-turkey-93-lean-raw", 95),
                    _line("egg-whole-liquid-pasteurised", 60),
                ],
            ),
            ComponentInput(
                name="White beans",
                role="vegetable",
                method="none",
                minimum_g=30,
                maximum_g=250,
                lines=[_line("white-cannellini-beans-canned-drained", 120)],
            ),
        ],
    )


def _plates() -> RecipeInput:
    """Plate shares: half vegetables, a quarter protein, a quarter starch; the macros are shown, not solved."""
    return RecipeInput(
        name="Salmon plate in quarters",
        note="Half vegetables, a quarter fish, a quarter potatoes. Salmon is done at 63 °C inside.",
        components=[
            ComponentInput(
                name="Salmon",
                role="protein",
                method="baked",
                maximum_g=400,
                school="plate shares",
                plate_share=1,
                lines=[_line("salmon-atlantic-farmed-raw", 700)],
            ),
            ComponentInput(
                name="Potatoes",
                role="grain",
                method="boiled",
                maximum_g=400,
                school="plate shares",
                plate_share=1,
                lines=[_line("potato-with-skin-raw", 700), _line("salt-table-dry", 5)],
            ),
            ComponentInput(
                name="Courgette and greens",
                role="vegetable",
                method="steamed",
                maximum_g=600,
                school="plate shares",
                plate_share=2,
                lines=[_line("zucchini-with-skin-raw", 900, 0.05), _line("kale-raw", 500, 0.28)],
            ),
        ],
    )


def _porridge() -> RecipeInput:
    """Ladles of porridge, scoops of yoghurt, and a bowl of berries that is divided among all."""
    return RecipeInput(
        name="Porridge by the ladle",
        note="One ladle and one scoop were weighed; the berries are divided.",
        components=[
            ComponentInput(
                name="Porridge",
                role="grain",
                method="simmered",
                maximum_g=900,
                school="fixed measure",
                unit_g=150,
                unit_part=0.5,
                density_g_per_ml=1.0,
                lines=[_line("oats-rolled-dry", 600), _line("milk-semi-skimmed-2-fat", 1500), _line("water", 900)],
            ),
            ComponentInput(
                name="Greek yoghurt",
                role="protein",
                method="none",
                maximum_g=500,
                school="fixed measure",
                unit_g=60,
                unit_part=0.5,
                density_g_per_ml=1.05,
                lines=[_line("greek-yogurt-plain-low-fat", 1500)],
            ),
            ComponentInput(
                name="Blueberries",
                role="topping",
                method="none",
                maximum_g=200,
                school="equal split",
                density_g_per_ml=0.6,
                lines=[_line("blueberries-raw", 480)],
            ),
        ],
    )
