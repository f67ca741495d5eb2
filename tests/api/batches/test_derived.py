"""What is derived follows every change of what it derives from: each field of a component, of a line, of the batch and
of its containers, changed in an open plan, gives the figures of a batch that was made so."""

from __future__ import annotations

from typing import Any

from tests.api.case import ApiCase, food_id

LUNCH = {"slot": "lunch", "protein_g": 45, "carbohydrate_g": 55, "fat_g": 18, "capacity_ml": 900}


def recipe() -> dict[str, Any]:
    return {
        "name": "Tray and grain",
        "components": [
            {
                "name": "Kofta",
                "role": "protein",
                "method": "roasted",
                "maximum_g": 400,
                "lines": [
                    {"food_id": food_id("ground-turkey-93-lean-raw"), "purchased_g": 2800},
                    {"food_id": food_id("olive-oil"), "purchased_g": 30},
                ],
            },
            {
                "name": "Bulgur",
                "role": "grain",
                "method": "boiled",
                "maximum_g": 500,
                "lines": [{"food_id": food_id("bulgur-wheat-dry"), "purchased_g": 900}],
            },
            {
                "name": "Sauce",
                "role": "sauce",
                "method": "none",
                "minimum_g": 20,
                "lines": [{"food_id": food_id("greek-yogurt-plain-low-fat"), "purchased_g": 800}],
            },
        ],
    }


BOUNDS = {"minimum_g": 0, "maximum_g": 400}
SCHOOL = {"school": "by component", "unit_g": None, "unit_part": 1, "plate_share": 1, "eye_g": 0, "pieces": None}
PIECES = {"school": "pieces", "pieces": 8}


class Derived(ApiCase):
    def made(self, given: dict[str, Any], *, count: int = 4, **batch: Any) -> dict[str, Any]:
        """The plan of a batch made of this recipe, with everything set from the beginning."""
        target = {**LUNCH, **batch.pop("target", {})}
        name = f"Wren {len(self.get('/clients'))}"
        client = self.send("POST", "/clients", {"name": name, "targets": [target]}, status=201)
        made = self.send("POST", "/recipes", {**given, "name": f"{given['name']} {name}"}, status=201)
        eaters = [{"target_id": client["targets"][0]["id"], "count": count}]
        body = {
            "name": "Made",
            "cook_on": "2026-11-29",
            "dishes": [{"recipe_id": made["id"], "eaters": eaters}],
            **batch,
        }
        return dict(self.send("POST", "/batches", body, status=201))

    def figures(self, plan: dict[str, Any]) -> dict[str, Any]:
        """Everything that is computed, without ids, names and versions."""
        components = [
            {key: one[key] for key in ("needed_g", "cooked_g", "cooked_low_g", "cooked_high_g", "spare_g", "basis_g",
                                       "purchased_g", "yield_factor", "makes", "piece_g", "over_g", "round_g")}
            | {"per_100g": one["per_100g"], "lines": [(line["purchased_g"], line["cooked_g"], line["unit_g"])
                                                      for line in one["lines"]]}
            for one in plan["components"]
        ]  # fmt: skip
        rows = [
            {"grams": [cell["grams"] for cell in row["cells"]], "units": [cell["units"] for cell in row["cells"]],
             "limits": [cell["limit"] for cell in row["cells"]], "amounts": row["amounts"],
             "misses": [gauge["miss"] for gauge in row["gauges"]]}
            for row in plan["rows"]
        ]  # fmt: skip
        return {"components": components, "rows": rows, "settle": [one["title"] for one in plan["to_settle"]]}

    def assert_as_made(self, changed: dict[str, Any], anew: dict[str, Any]) -> None:
        self.maxDiff = None
        for mine, other in zip(changed["rows"], anew["rows"], strict=True):
            changed["to_settle"] = [
                one | {"title": one["title"].replace(mine["client"], other["client"])} for one in changed["to_settle"]
            ]
        left, right = self.figures(changed), self.figures(anew)
        for key in left:
            self.assertEqual(_rounded(left[key]), _rounded(right[key]), key)

    def test_every_field_of_how_a_component_is_portioned(self) -> None:
        cases: list[dict[str, Any]] = [
            {"school": "pieces", "pieces": 8},
            {"school": "pieces", "pieces": 14},
            {"school": "fixed measure", "unit_g": 60},
            {"school": "fixed measure", "unit_g": 60, "unit_part": 0.5},
            {"school": "equal split"},
            {"school": "one pot"},
            {"school": "built raw", "pieces": 14},
            {"school": "built raw", "pieces": 14, "unit_part": 0.5},
            {"school": "plate shares", "plate_share": 2},
            {"school": "by eye", "eye_g": 130},
        ]
        for case in cases:
            with self.subTest(**case):
                plan = self.made(recipe())
                change = {"kind": "school", "component_id": plan["components"][0]["id"], **SCHOOL, **case}
                changed = self.change(plan, change)["plan"]
                given = recipe()
                given["components"][0] |= case
                self.assert_as_made(changed, self.made(given))

    def test_halves_too_in_an_open_plan_of_pieces(self) -> None:
        """The form sends what the plan shows; what follows is what a batch with halves from the beginning has."""
        given = recipe()
        given["components"][0] |= PIECES
        plan = self.made(given, count=7)
        part = plan["dishes"][0]["parts"][0] | {"pieces": plan["components"][0]["pieces"]}
        shown = {key: part[key] for key in ("school", "unit_g", "plate_share", "eye_g", "pieces")}
        change = {"kind": "school", "component_id": plan["components"][0]["id"], **shown, "unit_part": 0.5}
        changed = self.change(plan, change)["plan"]
        given["components"][0] |= {"unit_part": 0.5}
        self.assert_as_made(changed, self.made(given, count=7))

    def test_every_bound_and_the_open_one(self) -> None:
        for case in ({"maximum_g": 90}, {"minimum_g": 200}, {"maximum_g": None}, {"minimum_g": 30, "maximum_g": 33}):
            with self.subTest(**case):
                plan = self.made(recipe())
                change = {"kind": "bounds", "component_id": plan["components"][0]["id"], **BOUNDS, **case}
                changed = self.change(plan, change)["plan"]
                given = recipe()
                given["components"][0] |= case
                self.assert_as_made(changed, self.made(given))

    def test_the_amount_and_the_food_of_a_line(self) -> None:
        beef = food_id("ground-beef-95-lean-raw")
        for line in ({"purchased_g": 3300.0}, {"food_id": beef}, {"purchased_g": 2000.0, "food_id": beef}):
            with self.subTest(**line):
                plan = self.made(recipe())
                component = plan["components"][0]
                whole = {"food_id": food_id("ground-turkey-93-lean-raw"), "purchased_g": 2800.0, **line}
                change = {"kind": "line", "component_id": component["id"], "line_id": component["lines"][0]["id"]}
                changed = self.change(plan, change | whole)["plan"]
                given = recipe()
                given["components"][0]["lines"][0] |= line
                self.assert_as_made(changed, self.made(given))

    def test_every_field_of_the_containers_and_of_the_target(self) -> None:
        rooms: list[dict[str, Any]] = [
            {"capacity_ml": 350},
            {"capacity_g": 260},
            {"plate_g": 380},
            {"capacity_ml": None},
        ]
        for room in rooms:
            with self.subTest(**room):
                given = recipe()
                given["components"][2] |= {"school": "plate shares"}
                plan = self.made(given)
                row = plan["rows"][0]
                kept = {key: row[key] for key in ("count", "capacity_ml", "capacity_g", "plate_g", "rank")}
                changed = self.change(plan, {"kind": "containers", "row_id": row["id"], **kept, **room})["plan"]
                self.assert_as_made(changed, self.made(given, target=room))
        for aim in ({"protein_g": 60}, {"fat_g": None, "kcal": 600}, {"sodium_mg": 150}, {"fibre_g": 9}):
            with self.subTest(**aim):
                plan = self.made(recipe())
                row = plan["rows"][0]
                changed = self.change(plan, {"kind": "target", "row_id": row["id"], **row["target"], **aim})["plan"]
                self.assert_as_made(changed, self.made(recipe(), target=aim))

    def test_step_and_buffer_of_the_batch(self) -> None:
        for rule in ({"step_g": 1}, {"step_g": 20}, {"buffer_share": 0.12}):
            with self.subTest(**rule):
                plan = self.made(recipe())
                batch = {key: plan["batch"][key] for key in ("name", "cook_on", "step_g", "buffer_share")}
                changed = self.change(plan, {"kind": "batch", **batch, **rule})["plan"]
                self.assert_as_made(changed, self.made(recipe(), **rule))

    def test_how_many_containers(self) -> None:
        plan = self.made(recipe())
        row = plan["rows"][0]
        kept = {key: row[key] for key in ("capacity_ml", "capacity_g", "plate_g", "rank")}
        changed = self.change(plan, {"kind": "containers", "row_id": row["id"], **kept, "count": 9})["plan"]
        self.assert_as_made(changed, self.made(recipe(), count=9))


def _rounded(value: Any) -> Any:
    if isinstance(value, float):
        return round(value, 4)
    if isinstance(value, dict):
        return {key: _rounded(one) for key, one in value.items()}
    return [_rounded(one) for one in value] if isinstance(value, list | tuple) else value


class TakenTargets(ApiCase):
    """A client's target that changed after a batch took it over."""

    def test_a_changed_target_is_told_and_taken_when_the_coach_says_so(self) -> None:
        plan = self.plan()
        self.assertEqual(plan["batch"]["targets_changed"], [])
        client = self.get(f"/clients/{plan['rows'][0]['client_id']}")
        days = [{"day_type": day["day_type"]} for day in client["days"]]
        targets = [{key: one[key] for key in _TARGET} for one in client["targets"]]
        targets[0] |= {"protein_g": 52, "capacity_ml": 1200}
        body = {"name": client["name"], "targets": targets, "days": days, "version": client["version"]}
        self.send("PUT", f"/clients/{client['id']}", body)
        again = self.get(f"/batches/{plan['batch']['id']}/plan")
        self.assertEqual(again["batch"]["targets_changed"], ["Ada Vance, lunch: protein 52 instead of 45"])
        self.assertEqual([row["target"] for row in again["rows"]], [row["target"] for row in plan["rows"]])
        path = f"/batches/{plan['batch']['id']}/targets"
        taken = self.send("POST", path, version=again["batch"]["version"])
        self.assertEqual((taken["rows"][0]["target"]["protein_g"], taken["rows"][0]["capacity_ml"]), (52, 1200))
        self.assertEqual(taken["batch"]["targets_changed"], [])
        self.send("POST", path, version=again["batch"]["version"], status=409)

    def test_a_target_set_for_this_batch_only_is_not_told(self) -> None:
        plan = self.plan()
        row = plan["rows"][0]
        changed = self.change(plan, {"kind": "target", "row_id": row["id"], **row["target"], "protein_g": 60})["plan"]
        self.assertEqual(changed["batch"]["targets_changed"], [])


_TARGET = ("id", "slot", "day_type", "kcal", "protein_g", "carbohydrate_g", "fat_g", "capacity_ml")


class Noted(ApiCase):
    def test_a_small_container_that_moves_a_component_far_is_named(self) -> None:
        plan = self.plan()
        row = plan["rows"][0]
        kept = {key: row[key] for key in ("count", "capacity_g", "plate_g", "rank")}
        self.assertEqual(row["notes"], [])
        changed = self.change(plan, {"kind": "containers", "row_id": row["id"], **kept, "capacity_ml": 250})["plan"]
        notes = changed["rows"][0]["notes"]
        self.assertTrue(any(note.startswith("The container holds 250 ml: that takes ") for note in notes), notes)

    def test_packing_asks_when_a_pin_takes_more_than_the_pan_holds(self) -> None:
        plan = self.plan()
        for index in range(3):
            component = plan["components"][index]
            vessels = [{"gross_g": round(component["cooked_g"]), "vessel_g": 0}]
            weigh = {"kind": "weigh", "component_id": component["id"]}
            plan = self.change(plan, weigh | {"vessels": vessels}, confirmed=True)["plan"]
        pin = {"kind": "pin", "row_id": plan["rows"][0]["id"], "component_id": plan["components"][0]["id"]}
        plan = self.change(plan, pin | {"grams": 900})["plan"]
        self.assertIn("short", plan["to_settle"][0]["title"])
        problem = self.change(plan, {"kind": "packed", "packed": True}, status=409)
        self.assertEqual(problem["type"], "doubtful")
        self.assertIn("of Chicken lack for what is pinned", problem["detail"])
        packed = self.change(plan, {"kind": "packed", "packed": True}, confirmed=True)["plan"]
        self.assertIsNotNone(packed["batch"]["packed_at"])


class SameDay(ApiCase):
    def test_the_day_knows_the_containers_of_another_batch_of_that_day(self) -> None:
        """Lunch here, dinner in another batch: the day holds both as they were planned, not the dinner as targeted."""
        targets = [LUNCH, {"slot": "dinner", "protein_g": 40, "carbohydrate_g": 100}]
        days = [{"day_type": "any", "protein_g": 120}]
        client = self.send("POST", "/clients", {"name": "Wren", "targets": targets, "days": days}, status=201)
        made = self.send("POST", "/recipes", recipe(), status=201)
        plans = []
        for target in client["targets"]:
            eaters = [{"target_id": target["id"], "count": 2}]
            body = {
                "name": target["slot"],
                "cook_on": "2026-11-29",
                "dishes": [{"recipe_id": made["id"], "eaters": eaters}],
            }
            plans.append(self.send("POST", "/batches", body, status=201))
        dinner = plans[1]["rows"][0]
        changed = self.change(
            plans[1], {"kind": "target", "row_id": dinner["id"], **dinner["target"], "carbohydrate_g": 60}
        )["plan"]
        (day,) = self.get(f"/batches/{plans[0]['batch']['id']}/days")
        parts = {part["name"]: part for part in day["parts"]}
        self.assertEqual(set(parts), {"lunch", "dinner from dinner"})
        held = changed["rows"][0]["amounts"]["carbohydrate_g"]
        self.assertAlmostEqual(parts["dinner from dinner"]["amounts"]["carbohydrate_g"], held)
        self.assertAlmostEqual(
            day["total"]["carbohydrate_g"], held + plans[0]["rows"][0]["amounts"]["carbohydrate_g"], places=4
        )
