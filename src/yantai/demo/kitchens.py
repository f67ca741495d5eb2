"""The kitchens of the rowing club: the one in the boathouse, and the one of a bothy with a single ring."""

from __future__ import annotations

from collections.abc import Mapping

from yantai.core.schedule.day import Skill
from yantai.devices.device import Connection, InstrumentKind
from yantai.work.containers.inputs import ContainerKindInput
from yantai.work.cook.inputs import KitchenInput, KitchenItemInput, KitchenPersonInput
from yantai.work.cook.kitchens import usual_equipment
from yantai.work.instruments.inputs import InstrumentInput

_BOATHOUSE: tuple[tuple[str, str, int], ...] = (
    ("oven-2-shelves", "Oven", 1),
    ("tray-baking-45x37", "Baking tray", 4),
    ("dish-baking-3", "Baking dish", 2),
    ("hob-4-rings", "Hob", 1),
    ("pan-frying-28", "Frying pan 28 cm", 2),
    ("pan-saute-deep-28", "Deep pan 28 cm", 1),
    ("pot-8", "Pot 8 l", 2),
    ("pot-5", "Pot 5 l", 2),
    ("rice-cooker-1-8", "Rice cooker", 1),
    ("blender-jug-1-75", "Blender", 1),
    ("food-processor-2-5", "Food processor", 1),
    ("scale-5kg", "Bench scale", 1),
    ("probe-thermometer", "Thermometer", 1),
    ("fridge-space", "Fridge", 1),
    ("freezer-space", "Freezer", 1),
    ("board", "Green board", 2),
    ("board-raw", "Red board", 1),
)
_BOTHY: tuple[tuple[str, str, int], ...] = (
    ("hob-2-rings", "Camping stove", 1),
    ("pot-5", "Pot 5 l", 1),
    ("pan-frying-28", "Frying pan", 1),
    ("board", "Board", 1),
)


def kitchens() -> list[KitchenInput]:
    """The kitchens, that of the boathouse first by name."""
    return [
        KitchenInput(
            name="Boathouse",
            items=_items(_BOATHOUSE),
            people=[
                KitchenPersonInput(name="Tamsin"),
                KitchenPersonInput(name="Jory", does=[Skill.KNIFE, Skill.HEAT, Skill.OTHER], pace=1.2),
            ],
        ),
        KitchenInput(name="Headland bothy", items=_items(_BOTHY), people=[KitchenPersonInput(name="Tamsin")]),
    ]


def instruments() -> list[InstrumentInput]:
    """What stands on the bench: simulated, to try filling with."""
    return [
        InstrumentInput(name="Bench scale", connection=Connection.SIMULATED, capacity_g=5000, step_g=1),
        InstrumentInput(
            name="Thermometer", kind=InstrumentKind.THERMOMETER, connection=Connection.SIMULATED, capacity_g=None
        ),
    ]


OUT_WITH = (("Meal box", "Ines Haverkamp", 5), ("Meal box", "Bram Oduya", 4), ("Glass box", "Odell Marsh", 3))
"""Containers that are out with clients: the kind, with whom, how many."""


def container_kinds() -> list[ContainerKindInput]:
    """The containers of the boathouse, the smallest first."""
    glass = {"oven": True, "microwave": True, "dishwasher": True}
    return [
        ContainerKindInput(name="Sauce tub", ml=120, empty_g=12, lid_g=4, owned=60, freezer=True, dishwasher=True),
        ContainerKindInput(name="Small box", ml=520, empty_g=48, lid_g=14, owned=8, freezer=True, microwave=True),
        ContainerKindInput(name="Breakfast bowl", ml=650, empty_g=64, lid_g=18, owned=20, freezer=True, microwave=True),
        ContainerKindInput(name="Round box", ml=700, empty_g=70, lid_g=20, owned=8, freezer=True, microwave=True),
        ContainerKindInput(name="Oat jar", ml=750, empty_g=342, lid_g=40, owned=12, dishwasher=True),
        ContainerKindInput(name="Flat box", ml=850, empty_g=80, lid_g=26, owned=10, freezer=True, microwave=True),
        ContainerKindInput(name="Meal box", ml=900, empty_g=86, lid_g=24, owned=30, freezer=True, microwave=True),
        ContainerKindInput(name="Glass box", ml=1200, empty_g=612, lid_g=88, owned=14, freezer=True, **glass),
    ]


def _items(wanted: tuple[tuple[str, str, int], ...]) -> list[KitchenItemInput]:
    usual: Mapping[str, object] = {item.key: item for item in usual_equipment()}
    return [
        KitchenItemInput(
            name=name,
            count=count,
            **{
                field: getattr(usual[key], field)
                for field in ("kind", "places", "capacity_l", "meat_g", "vegetables_g", "grain_g", "most_c")
            },
        )
        for key, name, count in wanted
    ]
