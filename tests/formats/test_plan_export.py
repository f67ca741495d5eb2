"""A plan out of the core and into a document again: every field is written, and read, as itself."""

from __future__ import annotations

import copy
import json
import unittest
import uuid
from typing import Any

from yantai.core.foods.nutrients import Nutrient
from yantai.formats.plan_document import PlanDocument, core_classes, core_dishes, read_plan
from yantai.formats.plan_export import Eater, Told, plan_document
from yantai.formats.plan_result import compute_plan

FULL: dict[str, Any] = {
    "format": "yantai-plan",
    "version": 6,
    "name": "Every field",
    "step_g": 5.0,
    "buffer_share": 0.03,
    "sure_share": 0.9,
    "budget": 4.25,
    "sharing": "ranked",
    "leftover": "spread",
    "components": [
        {
            "key": "chicken",
            "name": "Chicken and rice",
            "role": "protein",
            "method": "simmered",
            "lid": "off",
            "cook_min": 40.0,
            "school": None,
            "ingredients": [
                {
                    "name": "Chicken thigh",
                    "allergens": ["celery"],
                    "purchased_g": 2100.0,
                    "per_100g": {
                        "kcal": 121.5, "protein_g": 18.6, "carbohydrate_g": 0.4, "fat_g": 7.9, "fibre_g": 0.1,
                        "sugars_g": 0.2, "saturated_g": 2.1, "sodium_mg": 91.0, "potassium_mg": 240.0,
                    },
                    "between": {},
                    "refuse_share": 0.12,
                    "refuse_after": True,
                    "retained_share": 0.93,
                    "counted": True,
                    "role": "food",
                    "cooks": {"expected": 0.72, "low": 0.66, "high": 0.79},
                    "price": 0.82,
                },
                {
                    "name": "Herbs",
                    "allergens": [],
                    "purchased_g": 11.0,
                    "per_100g": {
                        "kcal": 40.0, "protein_g": 2.5, "carbohydrate_g": 4.0, "fat_g": 0.6, "fibre_g": None,
                        "sugars_g": 0.3, "saturated_g": 0.1, "sodium_mg": 30.0, "potassium_mg": 410.0,
                    },
                    "between": {},
                    "refuse_share": 0.0,
                    "refuse_after": False,
                    "retained_share": 1.0,
                    "counted": False,
                    "role": "food",
                    "cooks": {"expected": 0.9, "low": 0.8, "high": 1.0},
                    "price": 0.4,
                },
            ],
            "cooks": {"expected": 0.74, "low": 0.7, "high": 0.81},
            "cooked": True,
            "cooked_g": 1510.0,
            "poured_fat_g": 21.0,
            "raw_fixed": True,
            "share_g": None,
            "minimum_g": None,
            "maximum_g": None,
            "density_g_per_ml": 0.87,
            "pieces": None,
            "unit_g": None,
            "unit_part": None,
            "plate_share": None,
            "eye_g": None,
            "packed_raw": True,
            "kit_text": "Thaw, then four hours on low.",
            "whole_pans": False,
        },
        {
            "key": "muffin",
            "name": "Egg muffins",
            "role": "grain",
            "method": "baked",
            "lid": "on",
            "cook_min": 25.0,
            "school": None,
            "ingredients": [
                {
                    "name": "Eggs",
                    "allergens": ["eggs"],
                    "purchased_g": 640.0,
                    "per_100g": {
                        "kcal": 143.0, "protein_g": 12.4, "carbohydrate_g": 0.9, "fat_g": 9.9, "fibre_g": 0.0,
                        "sugars_g": 0.3, "saturated_g": 3.2, "sodium_mg": 129.0, "potassium_mg": 141.0,
                    },
                    "between": {"protein_g": {"below": 0.05, "above": 0.05}, "fat_g": {"below": 0.4, "above": 0.1}},
                    "refuse_share": 0.1,
                    "refuse_after": False,
                    "retained_share": 1.0,
                    "counted": True,
                    "role": "food",
                    "cooks": {"expected": 0.93, "low": 0.88, "high": 0.97},
                    "price": 0.5,
                }
            ],
            "cooks": None,
            "cooked": True,
            "cooked_g": None,
            "poured_fat_g": 0.0,
            "raw_fixed": False,
            "share_g": None,
            "minimum_g": None,
            "maximum_g": None,
            "density_g_per_ml": 0.6,
            "pieces": 12,
            "unit_g": None,
            "unit_part": None,
            "plate_share": None,
            "eye_g": None,
            "packed_raw": False,
            "kit_text": "",
            "whole_pans": True,
        },
    ],
    "dishes": [
        {
            "key": "tray",
            "name": "Tray",
            "groups": {"bread": 1},
            "parts": [
                {
                    "component": "chicken", "school": "by component", "share_g": 190.0, "minimum_g": 40.0,
                    "maximum_g": 320.0, "unit_g": None, "unit_part": 1.0, "plate_share": 2.0, "eye_g": 130.0,
                    "place": "in the container", "tub_ml": None, "takes_g": 900.0, "group": None,
                },
                {
                    "component": "muffin", "school": "pieces", "share_g": 120.0, "minimum_g": 0.0, "maximum_g": None,
                    "unit_g": 45.0, "unit_part": 0.5, "plate_share": 1.0, "eye_g": 0.0, "place": "beside",
                    "tub_ml": 250.0, "takes_g": None, "group": "bread",
                },
            ],
        }
    ],
    "containers": [
        {
            "name": "Lunch",
            "client": "Mira",
            "client_id": "0b7a5a3e-3c1d-4a53-9c61-0d6a6d9c2f11",
            "dish": "tray",
            "slot": "lunch",
            "day_type": "training",
            "count": 3,
            "target": {
                "kcal": 520.0, "protein_g": 42.0, "carbohydrate_g": 44.0, "fat_g": 16.0, "fibre_g": 7.0,
                "saturated_g": 6.0, "sodium_mg": 800.0,
            },
            "tolerance": {
                "percent": True, "kcal": 6.0, "protein_g": 7.0, "carbohydrate_g": 8.0, "fat_g": 9.0,
                "priority_kcal": 1.5, "priority_protein_g": 3.0, "priority_carbohydrate_g": 0.5,
                "priority_fat_g": 0.25,
            },
            "capacity_ml": 900.0,
            "capacity_g": 700.0,
            "plate_g": 410.0,
            "rank": 4,
            "helping": 0.5,
            "pins": {"muffin": 45.0},
            "left_out": [],
            "chosen": ["muffin"],
        },
        {
            "name": "Supper",
            "client": "Odo",
            "client_id": "5f0f0c0a-7e4b-4b1e-8f59-2a8cf1f6a7d2",
            "dish": "tray",
            "slot": "dinner",
            "day_type": "rest",
            "count": 2,
            "target": {
                "kcal": None, "protein_g": 35.0, "carbohydrate_g": None, "fat_g": None, "fibre_g": None,
                "saturated_g": None, "sodium_mg": None,
            },
            "tolerance": {
                "percent": False, "kcal": 30.0, "protein_g": 4.0, "carbohydrate_g": 5.0, "fat_g": 3.0,
                "priority_kcal": 2.0, "priority_protein_g": 2.0, "priority_carbohydrate_g": 1.0, "priority_fat_g": 1.0,
            },
            "capacity_ml": None,
            "capacity_g": None,
            "plate_g": None,
            "rank": 0,
            "helping": 1.0,
            "pins": {},
            "left_out": ["muffin"],
            "chosen": [],
        },
    ],
    "steps": [
        {
            "component": "muffin",
            "text": "Bake in the middle.",
            "hands_on_min": 6.0,
            "unattended_min": 18.0,
            "temperature_c": 175.0,
            "equipment": "oven",
            "lead_min": 720.0,
            "lead_most_min": 960.0,
            "every_min": 9.0,
            "growth": "per-load",
            "load_g": 900.0,
            "core_c": 71.0,
            "done_when": "the top springs back",
        }
    ],
}  # fmt: skip


def exported(document: PlanDocument) -> PlanDocument:
    """What the core holds of `document`, as a document."""
    told = {
        one.key: Told(
            role=one.role,
            method=one.method or "",
            lid=one.lid,
            cook_min=one.cook_min,
            kit_text=one.kit_text,
            allergens=[line.allergens for line in one.ingredients],
        )
        for one in document.components
    }
    eaters = [
        Eater(
            name=one.name,
            client=one.client or "",
            client_id=one.client_id or uuid.UUID(int=0),
            slot=one.slot,
            day_type=one.day_type,
        )
        for one in document.containers
    ]
    return plan_document(
        document.name,
        core_dishes(document),
        list(zip(eaters, core_classes(document), strict=True)),
        told,
        step_g=document.step_g,
        buffer_share=document.buffer_share,
        sure_share=document.sure_share,
        budget=document.budget,
        sharing=document.sharing,
        leftover=document.leftover,
        steps=document.steps,
    )


def leaves(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    if isinstance(value, dict) and value:
        return [leaf for key, part in value.items() for leaf in leaves(part, (*path, key))]
    if isinstance(value, list) and value:
        return [leaf for index, part in enumerate(value) for leaf in leaves(part, (*path, index))]
    return [path]


OTHERS: dict[str, Any] = {
    "school": "plate shares", "sharing": "fair", "leftover": "keep", "method": "braised", "unit_part": 0.25, "lid": "",
    "place": "at eating",
    "growth": "mild",
}  # fmt: skip
"""Another value of fields whose values are a closed set."""


def at(value: Any, path: tuple[Any, ...]) -> Any:
    for part in path:
        value = value[part]
    return value


REFERENCES = ("format", "version", "key", "component", "dish", "group")
"""Fields that name something else in the document, or what the document is."""

CLOSED = {
    ("components", 0, "ingredients", 0, "counted"),  # its fat is poured off
    ("components", 0, "ingredients", 0, "role"),
    ("dishes", 0, "groups", "bread"),  # there is one part in it
    ("components", 0, "raw_fixed"),  # what has been cooked and weighed is fixed
}
"""Fields that the others leave one value."""


def another(path: tuple[Any, ...], value: Any) -> Any:
    name = path[-1]
    if name == "role":
        return "water" if "ingredients" in path else "sauce"
    if isinstance(value, bool):
        return not value
    if name in OTHERS and value is not None:
        return OTHERS[name]
    if name == "client_id":
        return str(uuid.UUID(int=7))
    if name == "component":
        return "chicken"
    if isinstance(value, str):
        return value + " too"
    if isinstance(value, int | float):
        return value + 1 if isinstance(value, int) else value * 0.98 or 0.02
    return None


class Export(unittest.TestCase):
    def test_every_field_goes_into_the_core_and_comes_out_as_itself(self) -> None:
        document = read_plan(json.dumps(FULL))
        self.assertEqual(document.model_dump(mode="json"), FULL)  # no field of the schema is left out here
        self.assertEqual(exported(document).model_dump(mode="json"), FULL)

    def test_every_field_changed_alone_comes_out_changed_alone(self) -> None:
        tried = 0
        for path in leaves(FULL):
            changed = copy.deepcopy(FULL)
            holder: Any = changed
            for part in path[:-1]:
                holder = holder[part]
            value = another(path, holder[path[-1]])
            if value is None or path[-1] in REFERENCES or "left_out" in path or "chosen" in path or path in CLOSED:
                continue
            holder[path[-1]] = value
            out = exported(read_plan(json.dumps(changed))).model_dump(mode="json")
            with self.subTest(path=path):
                self.assertTrue(out == changed, [one for one in leaves(changed) if at(out, one) != at(changed, one)])
                tried += 1
        self.assertGreater(tried, 85)

    def test_the_result_of_a_document_is_that_of_its_export(self) -> None:
        document = read_plan(json.dumps(FULL))
        self.assertEqual(compute_plan(exported(document)), compute_plan(document))

    def test_what_is_not_known_is_left_empty(self) -> None:
        lines = core_dishes(read_plan(json.dumps(FULL)))["tray"].parts["chicken"].component.lines
        self.assertEqual([sorted(line.composition.at_least) for line in lines], [[], ["fibre_g"]])

    def test_energy_that_is_not_stated_follows_from_macros_that_are(self) -> None:
        """18.6 × 4 + 0.4 × 4 + 7.9 × 9 = 147.1 kcal; without the fat 76 at least."""
        for missing, kcal, unknown in (({"kcal"}, 147.1, []), ({"kcal", "fat_g"}, 76, ["fat_g", "kcal"])):
            with self.subTest(missing=missing):
                document = copy.deepcopy(FULL)
                document["components"][0]["poured_fat_g"] = 0
                held = document["components"][0]["ingredients"][0]["per_100g"]
                held.update(dict.fromkeys(missing))
                line = core_dishes(read_plan(json.dumps(document)))["tray"].parts["chicken"].component.lines[0]
                self.assertAlmostEqual(line.composition[Nutrient.KCAL], kcal)
                self.assertEqual(sorted(line.composition.at_least), unknown)


if __name__ == "__main__":
    unittest.main()
