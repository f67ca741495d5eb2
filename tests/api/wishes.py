"""One wish of every kind that is written: for tests of what holds for all of them."""

from __future__ import annotations

import json
import uuid
from collections.abc import Callable
from typing import Any, NamedTuple

from fastapi.testclient import TestClient
from sqlalchemy import text

from tests.api.case import API, ApiCase, food_id
from tests.kitchens import CHICKEN, bowl, eaters, planned
from tests.support import database
from yantai.formats.plan_document import PlanDocument
from yantai.store.tables import Base
from yantai.work.batches.reading import export_batch
from yantai.work.instruments.instruments import read_instrument


class Wish(NamedTuple):
    method: str
    path: str
    body: Any = None
    other: Any = None
    """What else might be sent with the same id."""

    headers: dict[str, str] | None = None


def _food(name: str = "Own label") -> dict[str, Any]:
    label = {"kcal": 100, "protein_g": 10, "carbohydrate_g": 10, "fat_g": 2, "fibre_g": 1}
    return {"name": name, "group": "own", "state": "as-sold", "label": label}


class EveryWish(ApiCase):
    """A kitchen with a batch, and a wish for every route that writes."""

    def setUp(self) -> None:
        super().setUp()
        self.batch = planned(self.who)
        self.recipe = self.get(f"/recipes/{self.batch.dishes[0].recipe_id}")
        self.eater = self.get("/clients")[0]
        self.own = self.send("POST", "/foods", _food(), status=201)["food"]

    def wishes(self) -> dict[str, Callable[[], Wish]]:
        """One of each writing route, by its name in the contract; made when its turn comes."""
        batch = f"/batches/{self.batch.batch.id}"
        recipe = bowl().model_dump(mode="json")
        client = eaters()[0].model_dump(mode="json")
        settings = {"spoons": "metric", "energy_rule": "general", "carbohydrate": "total", "free_foods": []}
        person = {"mass_unit": "oz", "temperature_unit": "F", "energy_unit": "kJ"}
        csv = "name,kcal,protein,carbohydrate,fat\nOat drink,45,1,7,1.5\n"

        fact_id = str(uuid.uuid4())

        def fill_fact(grams: float) -> dict[str, Any]:
            row, component = self.batch.rows[0].id, self.batch.components[0].id
            return {
                "id": fact_id, "event": "filled", "row_id": str(row), "container": 1, "component_id": str(component),
                "grams": grams, "way": "tare after each",
            }  # fmt: skip

        def scale(name: str = "bench") -> dict[str, Any]:
            return {"name": name, "connection": "simulated"}

        def a_scale() -> str:
            return str(self.send("POST", "/instruments", scale(), status=201)["id"])

        def box(name: str = "Box") -> dict[str, Any]:
            return {"name": name, "ml": 900, "owned": 40}

        def a_box() -> str:
            return str(self.send("POST", "/containers", box(), status=201)["id"])

        def moved(count: int, kind: str | None = None) -> dict[str, Any]:
            return {"kind_id": kind or a_box(), "client_id": self.eater["id"], "move": "went out", "count": count}

        def move_boxes() -> Wish:
            kind = a_box()
            return Wish("POST", "/containers/moves", moved(2, kind), moved(3, kind))

        eater_of_batch = self.batch.rows[0].client_id

        def link() -> dict[str, Any]:
            return {"address": "https://192.0.2.7:8765", "days": 7}

        def a_link() -> tuple[str, str]:
            made = self.send("POST", f"/clients/{eater_of_batch}/links", link(), status=201)
            return made["link"]["id"], made["address"].partition("#")[2]

        def message(subject: str = "Hello") -> dict[str, Any]:
            made = {"name": "Nova", "email": "nova@port-alder.example", "address": "https://192.0.2.7:8765"}
            form = self.send("POST", "/forms", made, status=201)["form"]["id"]
            one = {"kind": "form", "form_id": form, "subject": subject, "body": "{link}"}
            return {"messages": [one], "address": "https://192.0.2.7:8765"}

        def a_message() -> str:
            return str(self.send("POST", "/outbox", message(), status=201)[0]["id"])

        def somebody() -> str:
            return str(self.send("POST", "/clients", {"name": "Nova"}, status=201)["id"])

        def bounds(grams: float) -> dict[str, Any]:
            version = self.get(f"/clients/{eater_of_batch}")["version"]
            return {"bounds": [{"word": "courgette", "maximum_g": grams}], "version": version}

        def set_aside() -> str:
            return str(self.send("POST", f"/outbox/{a_message()}/set-aside")["id"])

        def a_form() -> tuple[str, str]:
            body = {"name": "Nova", "address": "https://192.0.2.7:8765"}
            made = self.send("POST", "/forms", body, status=201)
            return made["form"]["id"], made["address"].partition("#")[2]

        def handed_in() -> str:
            form, token = a_form()
            answers = {"agrees": True, "name": "Nova"}
            for wish in (
                Wish("PATCH", "/form", answers, headers={"X-Client-Link": token}),
                Wish("POST", "/form/handed-in", headers={"X-Client-Link": token}),
            ):
                self.assertEqual(self.ask(wish, str(uuid.uuid4())).status_code, 204)
            return form

        def hand_in() -> Wish:
            _, token = a_form()
            answers = {"agrees": True, "name": "Nova"}
            self.ask(Wish("PATCH", "/form", answers, headers={"X-Client-Link": token}), str(uuid.uuid4()))
            return Wish("POST", "/form/handed-in", headers={"X-Client-Link": token})

        def by_link() -> dict[str, str]:
            return {"X-Client-Link": a_link()[1]}

        def mine(what: str, body: dict[str, Any], other: dict[str, Any]) -> Wish:
            spot = {"row_id": str(self.batch.rows[0].id), "container": 1}
            return Wish("POST", f"/my/{what}", {**spot, **body}, {**spot, **other}, by_link())

        def read_words() -> Wish:
            said = self.ask(Wish("POST", "/my/words", {"text": "a"}, headers=by_link()), str(uuid.uuid4()))
            self.assertEqual(said.status_code, 204, said.text)
            return Wish("POST", f"/clients/{eater_of_batch}/words/read")

        def swapped() -> Wish:
            for number, on in ((1, "2026-11-30"), (2, "2026-12-01"), (3, "2026-12-02")):
                moved = {"row_id": str(self.batch.rows[0].id), "container": number, "eaten_on": on}
                self.send("POST", f"{batch}/hand-over/placements", {"placements": [moved]}, status=204)
            row = str(self.batch.rows[0].id)
            body = {"row_id": row, "container": 2, "with_row_id": row, "with_container": 3}
            return Wish("POST", "/my/swaps", body, {**body, "with_container": 1}, by_link())

        def component() -> str:
            return str(self.get(f"{batch}/plan")["components"][0]["id"])

        def placed(on: str) -> dict[str, Any]:
            return {"placements": [{"row_id": str(self.batch.rows[0].id), "container": 1, "eaten_on": on}]}

        def hand_over() -> Wish:
            # A batch of its own: it is packed, and the others stay open.
            a_box()
            packed = f"/batches/{self.send('POST', '/batches', made(), status=201)['batch']['id']}"
            for component in self.get(f"{packed}/plan")["components"]:
                vessels = [{"gross_g": component["cooked_g"], "vessel_g": 0}]
                weighing = {"kind": "weigh", "component_id": component["id"], "vessels": vessels}
                if component["to_weigh"]:
                    self.change(self.get(f"{packed}/plan"), weighing, confirmed=True)
            self.change(self.get(f"{packed}/plan"), {"kind": "packed", "packed": True}, confirmed=True)
            return Wish("POST", f"{packed}/containers/handed-over")

        def open_device() -> str:
            key = a_scale()
            connection, how = read_instrument(database(), self.who, uuid.UUID(key))
            self.addCleanup(self.app.state.readings.hub.listen(uuid.UUID(key), connection, how, lambda _: None))
            return key

        def version() -> int:
            return int(self.get(f"{batch}/plan")["batch"]["version"])

        def made() -> dict[str, Any]:
            target = self.eater["targets"][0]["id"]
            of = {
                "cook_on": "2026-11-29",
                "dishes": [{"recipe_id": self.recipe["id"], "eaters": [{"target_id": target, "count": 2}]}],
            }
            return {"name": "Another", **of}

        def document() -> str:
            return _text(export_batch(database(), self.who, self.batch.batch.id))

        kitchen = {
            "name": "Galley",
            "items": [{"kind": "hob", "name": "Hob", "places": 2}],
            "people": [{"name": "Ada"}],
        }

        def made_kitchen() -> dict[str, Any]:
            return dict(self.send("POST", "/kitchens", kitchen, status=201))

        def cook_day() -> dict[str, Any]:
            made = made_kitchen()
            there = {"person_id": made["people"][0]["id"], "start_min": 540, "end_min": 900}
            known = self.get(f"{batch}/cooking")["day"]
            version = None if known is None else known["version"]
            return {"kitchen_id": made["id"], "start_min": 540, "there": [there], "version": version}

        def lot() -> str:
            sent = {"lots": [{"food_id": food_id(CHICKEN), "grams": 900, "place": "fridge"}]}
            known = {one["id"] for one in self.get("/house")["lots"]}
            change = self.send("POST", "/house/lots", sent, status=201)
            return next(str(one["id"]) for one in change["house"]["lots"] if one["id"] not in known)

        def act() -> str:
            return str(self.get(f"/house/lots/{lot()}/entries")[0]["act"])

        def trip() -> str:
            for going_on in self.get("/trips"):
                if going_on["finished_at"] is None:
                    return str(going_on["id"])
            return str(self.send("POST", "/trips", {"batches": [str(self.batch.batch.id)]}, status=201)["id"])

        def over() -> str:
            finished = trip()
            self.send("POST", f"/trips/{finished}/finished", {"paid": 9.3})
            return finished

        def start() -> Wish:
            for going_on in self.get("/trips"):
                if going_on["finished_at"] is None:
                    self.send("POST", f"/trips/{going_on['id']}/finished", {})
            return Wish("POST", "/trips", {"batches": [str(self.batch.batch.id)]})

        def device() -> str:
            asked = {"helper": "Ravi", "address": "https://192.0.2.7:8765", "rights": ["shop"]}
            code = self.send("POST", "/pairings", asked, status=201)["code"]
            TestClient(self.app).post(f"{API}/session/paired", json={"code": code})
            return str(next(one["id"] for one in self.get("/devices") if one["is_helper"]))

        def survey() -> str:
            return str(self.send("POST", "/surveys", status=202)["id"])

        return {
            "copy_batch": lambda: Wish(
                "POST",
                f"{batch}/copies",
                {"name": "Once more", "cook_on": "2026-12-06"},
                {"name": "Twice more", "cook_on": "2026-12-06"},
            ),
            "create_client": lambda: Wish("POST", "/clients", client, {**client, "name": "Else"}),
            "change_client": lambda: Wish(
                "PUT", f"/clients/{self.eater['id']}", {**client, "version": self.eater["version"], "note": "new"}
            ),
            "archive_client": lambda: Wish("PUT", f"/clients/{self.eater['id']}/archived?archived=true"),
            "create_recipe": lambda: Wish("POST", "/recipes", recipe, {**recipe, "name": "Else"}),
            "change_recipe": lambda: Wish(
                "PUT", f"/recipes/{self.recipe['id']}", {**recipe, "version": self.recipe["version"], "note": "new"}
            ),
            "archive_recipe": lambda: Wish("PUT", f"/recipes/{self.recipe['id']}/archived?archived=true"),
            "answer_line": lambda: Wish(
                "POST", "/recipes/answers", {"words": "the usual bird", "food_id": food_id(CHICKEN)}
            ),
            "create_food": lambda: Wish("POST", "/foods", _food("Another"), _food("Else")),
            "import_foods": lambda: Wish("POST", "/foods/import", {"text": csv, "save": True}),
            "change_food": lambda: Wish("PUT", f"/foods/{self.own['id']}", {**_food("Renamed"), "version": 1}),
            "change_supply": lambda: Wish(
                "PUT", f"/foods/{food_id(CHICKEN)}/supply", {"measures": [], "packs": [{"name": "tray", "grams": 600}]}
            ),
            "archive_food": lambda: Wish("PUT", f"/foods/{self.own['id']}/archived?archived=true"),
            "change_settings": lambda: Wish(
                "PUT", "/settings", {**settings, "vessels": [{"name": "Tray", "empty_g": 900}]}
            ),
            "change_person": lambda: Wish("PUT", "/person", person),
            "start_survey": lambda: Wish("POST", "/surveys"),
            "cancel_survey": lambda: Wish("POST", f"/surveys/{survey()}/cancelled"),
            "create_batch": lambda: Wish("POST", "/batches", made(), {**made(), "name": "Else"}),
            "import_plan": lambda: Wish(
                "POST", "/batches/import", {"text": document(), "cook_on": "2026-12-06"},
                {"text": document(), "cook_on": "2026-12-07"},
            ),
            "plan_anew": lambda: Wish("POST", f"{batch}/anew?version={version()}"),
            "take_recipe": lambda: Wish("POST", f"{batch}/recipe?version={version()}"),
            "take_foods": lambda: Wish("POST", f"{batch}/foods?version={version()}"),
            "add_kitchen": lambda: Wish("POST", "/kitchens", kitchen, {**kitchen, "name": "Else"}),
            "change_kitchen": lambda: Wish("PUT", f"/kitchens/{made_kitchen()['id']}", {**kitchen, "version": 1}),
            "archive_kitchen": lambda: Wish("PUT", f"/kitchens/{made_kitchen()['id']}/archived?archived=true"),
            "set_cook_day": lambda: Wish("PUT", f"{batch}/cooking/day", cook_day()),
            "note_fact": lambda: Wish(
                "POST", f"{batch}/cooking/facts", {"event": "timer", "minutes": 5, "text": "stock"},
                {"event": "timer", "minutes": 6, "text": "stock"},
            ),
            "add_container_kind": lambda: Wish("POST", "/containers", box(), box("Tub")),
            "change_container_kind": lambda: Wish("PUT", f"/containers/{a_box()}", box("Tub"), box("Jar")),
            "archive_container_kind": lambda: Wish("PUT", f"/containers/{a_box()}/archived?archived=true"),
            "move_containers": move_boxes,
            "add_instrument": lambda: Wish("POST", "/instruments", scale(), scale("window")),
            "change_instrument": lambda: Wish("PUT", f"/instruments/{a_scale()}", scale("window")),
            "put_instrument_away": lambda: Wish("POST", f"/instruments/{a_scale()}/put-away"),
            "tare_instrument": lambda: Wish("POST", f"/instruments/{open_device()}/tare"),
            "zero_instrument": lambda: Wish("POST", f"/instruments/{open_device()}/zero"),
            "put_on_pan": lambda: Wish("PUT", f"/instruments/{a_scale()}/pan", {"things": {"box": 312}}),
            "note_fill_fact": lambda: Wish(
                "POST", f"{batch}/filling/facts", fill_fact(140), fill_fact(150),
            ),
            "put_in_house": lambda: Wish(
                "POST", "/house/lots", {"lots": [{"food_id": food_id(CHICKEN), "grams": 500, "place": "fridge"}]},
                {"lots": [{"food_id": food_id(CHICKEN), "grams": 600, "place": "fridge"}]},
            ),
            "change_lot": lambda: Wish("PUT", f"/house/lots/{lot()}", {"place": "freezer", "opened": True}),
            "tell_of_lot": lambda: Wish(
                "POST", f"/house/lots/{lot()}/entries", {"kind": "used", "grams": 100}, {"kind": "used", "grams": 200}
            ),
            "divide_lot": lambda: Wish(
                "POST", f"/house/lots/{lot()}/bags", {"bags": 2, "bag_g": 200, "place": "freezer"}
            ),
            "take_back_act": lambda: Wish("POST", f"/house/acts/{act()}/undone"),
            "answer_staple": lambda: Wish(
                "PUT", f"/house/staples/{food_id(CHICKEN)}", {"is_always_there": True}, {"is_always_there": False}
            ),
            "start_pairing": lambda: Wish(
                "POST", "/pairings", {"helper": "Ravi", "address": "https://192.0.2.7:8765", "rights": ["cook"]},
                {"helper": "Ana", "address": "https://192.0.2.7:8765", "rights": ["cook"]},
            ),
            "make_feed": lambda: Wish(
                "POST", "/calendar", {"address": "https://192.0.2.7:8765"}, {"address": "https://192.0.2.8:8765"}
            ),
            "end_feed": lambda: Wish("POST", "/calendar/ended"),
            "end_device": lambda: Wish("POST", f"/devices/{device()}/ended"),
            "order_aisles": lambda: Wish("PUT", "/aisles", {"aisles": ["meat"]}, {"aisles": ["frozen"]}),
            "start_trip": start,
            "note_on_trip": lambda: Wish(
                "POST", f"/trips/{trip()}/entries",
                {"item": food_id(CHICKEN), "event": "bought", "bought": {"food_id": food_id(CHICKEN), "grams": 800}},
                {"item": food_id(CHICKEN), "event": "bought", "bought": {"food_id": food_id(CHICKEN), "grams": 900}},
            ),
            "finish_trip": lambda: Wish("POST", f"/trips/{trip()}/finished", {"paid": 12}, {"paid": 13}),
            "reopen_trip": lambda: Wish("POST", f"/trips/{over()}/reopened"),
            "take_targets": lambda: Wish("POST", f"{batch}/targets?version={version()}"),
            "hand_containers_over": hand_over,
            "make_calendar": lambda: Wish("POST", f"{batch}/hand-over/calendar", {}, {"keep_by_hand": False}),
            "place_containers": lambda: Wish(
                "POST", f"{batch}/hand-over/placements", placed("2026-12-01"), placed("2026-12-02")
            ),
            "send_labels": lambda: Wish(
                "POST", f"{batch}/labels/printed", {"grid": "roll-62"}, {"grid": "roll-50x30"}
            ),
            "switch_label_printer": lambda: Wish("PUT", "/label-printer", {"is_on": False}, {"is_on": True}),
            "make_client_link": lambda: Wish(
                "POST", f"/clients/{eater_of_batch}/links", link(), {**link(), "days": 8}
            ),
            "revoke_client_link": lambda: Wish("POST", f"/clients/{eater_of_batch}/links/{a_link()[0]}/revoked"),
            "make_form": lambda: Wish(
                "POST", "/forms", {"name": "Nova", "address": "https://192.0.2.7:8765"},
                {"name": "Ana", "address": "https://192.0.2.7:8765"},
            ),
            "keep_answers": lambda: Wish(
                "PATCH", "/form", {"agrees": True, "likes": "a"}, {"agrees": True, "likes": "b"},
                {"X-Client-Link": a_form()[1]},
            ),
            "hand_form_in": hand_in,
            "take_form": lambda: Wish(
                "POST", f"/forms/{handed_in()}/taken", {"revision": 1, "fields": [{"key": "name"}]},
                {"revision": 1, "fields": []},
            ),
            "revoke_form": lambda: Wish("POST", f"/forms/{a_form()[0]}/revoked"),
            "erase_client": lambda: Wish("POST", f"/clients/{somebody()}/erased", {"name": "Nova"}, {"name": "Ana"}),
            "change_bounds": lambda: Wish(
                "PUT", f"/clients/{eater_of_batch}/bounds", bounds(40), bounds(50)
            ),
            "note_eaten": lambda: Wish(
                "POST", f"/clients/{eater_of_batch}/eaten",
                {"row_id": str(self.batch.rows[0].id), "container": 1, "event": "eaten"},
                {"row_id": str(self.batch.rows[0].id), "container": 1, "event": "left", "left_share": 0.5},
            ),
            "send_messages": lambda: Wish("POST", "/outbox", message(), message("Another")),
            "send_again": lambda: Wish("POST", f"/outbox/{set_aside()}/again"),
            "set_message_aside": lambda: Wish("POST", f"/outbox/{a_message()}/set-aside"),
            "save_message_template": lambda: Wish(
                "PUT", "/message-templates/thaw tonight", {"subject": "a", "body": "b"}, {"subject": "c", "body": "b"}
            ),
            "mark_words_read": read_words,
            "tell_eaten": lambda: mine("eaten", {"event": "eaten"}, {"event": "left", "left_share": 0.5}),
            "swap_containers": swapped,
            "say_to_coach": lambda: Wish("POST", "/my/words", {"text": "a"}, {"text": "b"}, by_link()),
            "show_macros": lambda: Wish(
                "PUT", "/my/macros", {"shows_macros": False}, {"shows_macros": True}, by_link()
            ),
            "set_week": lambda: Wish(
                "PUT", f"{batch}/hand-over/weeks/{eater_of_batch}", {"fridge_l": 20}, {"fridge_l": 30}
            ),
            "choose_shelf": lambda: Wish(
                "PUT", f"{batch}/hand-over/shelf/{component()}", {"category": "chilli and bean stews"},
                {"category": "tomato sauces"},
            ),
        }  # fmt: skip

    def ask(self, wish: Wish, key: str, body: Any = ...) -> Any:
        body = wish.body if body is ... else body
        return self.client.request(
            wish.method, f"{API}{wish.path}", json=body, headers={"Idempotency-Key": key, **(wish.headers or {})}
        )  # fmt: skip

    def rows(self) -> dict[str, Any]:
        """Every row of this kitchen but the receipts."""
        with database().workspace(self.who.workspace_id) as session:
            return {
                name: session.execute(text(f'SELECT to_jsonb(t) FROM "{name}" AS t ORDER BY t.id::text'))
                .scalars()
                .all()
                for name, table in Base.metadata.tables.items()
                if "workspace_id" in table.c and name != "receipt"
            } | {"workspace": session.execute(text("SELECT aisles, printer_is_on FROM workspace")).all()}

    def take_up(self) -> None:
        """What the next wish changes is what is there by now."""
        recipe, client = f"/recipes/{self.recipe['id']}", f"/clients/{self.eater['id']}"
        for path in (recipe, client, f"/foods/{self.own['id']}"):
            self.send("PUT", f"{path}/archived", status=204, archived=False)
        self.recipe, self.eater = self.get(recipe), self.get(client)


def _text(document: PlanDocument) -> str:
    return json.dumps(document.model_dump(mode="json"))
