"""Every field of every input, with values that no kitchen has: each is taken or refused in words."""

from __future__ import annotations

import copy
import itertools
import json
import uuid
from collections.abc import Iterator
from typing import Any

from tests.api.case import API, ApiCase
from tests.volume import THOROUGH
from yantai.work.common.typed import LARGEST, LONGEST_LINE, LONGEST_NOTE, SMALLEST

TEXTS = ["\x00", "a\x00b", "\ud800", "\x07", "x" * 200_001, "👩‍🍳", "̈" * 50, "'; DROP TABLE client; --"]
NUMBERS: list[Any] = [
    -1,
    float("nan"),
    float("inf"),
    -float("inf"),
    10**400,
    1e-320,
    1e308,
    -1e-320,
    True,
    "1e400",
    "٣",
]
ANYTHING: list[Any] = [None, [], {}, "", 0, [None], {"a": {"b": []}}]


class EveryField(ApiCase):
    """The fields are read off the contract, so a new one is tried without being added here."""

    def test_no_value_of_any_field_is_a_fault_of_ours(self) -> None:
        self.values = {str: itertools.cycle(TEXTS), float: itertools.cycle(NUMBERS), object: itertools.cycle(ANYTHING)}
        contract = self.app.openapi()
        plan = self.plan()
        known = {
            "batch_id": plan["batch"]["id"],
            "row_id": plan["rows"][0]["id"],
            "component_id": plan["components"][0]["id"],
            "client_id": plan["rows"][0]["client_id"],
            "recipe_id": plan["dishes"][0]["recipe_id"],
        }
        tried = 0
        for path, methods in contract["paths"].items():
            for method, operation in methods.items():
                body = operation.get("requestBody")
                if body is None:
                    continue
                schema = body["content"]["application/json"]["schema"]
                address = path.removeprefix(API)
                for name, value in known.items():
                    address = address.replace("{" + name + "}", value)
                address = address.replace("{food_id}", str(uuid.uuid4())).replace("{survey_id}", str(uuid.uuid4()))
                whole = _example(schema, contract, known)
                for index, kind in _leaves(whole):
                    # Each field gets some of the values, the next one the next; --thorough gives each all.
                    all_of = TEXTS if kind is str else NUMBERS
                    turn = itertools.islice(self.values[kind], len(all_of) if THOROUGH else 2)
                    for value in (*turn, *itertools.islice(self.values[object], len(ANYTHING) if THOROUGH else 1)):
                        tried += 1
                        self.send_raw(method, address, _with(whole, index, value), (path, index, repr(value)[:40]))
        self.assertGreater(tried, 600)

    def send_raw(self, method: str, address: str, body: Any, what: Any) -> None:
        # Plain json.dumps writes NaN, Infinity and lone surrogates as a careless client would.
        sent = json.dumps(body).encode()
        headers = {"Content-Type": "application/json"}
        answer = self.client.request(method, f"{API}{address}", content=sent, headers=headers)
        self.assertLess(answer.status_code, 500, (what, answer.text[:300]))
        if answer.status_code >= 400 and answer.content:
            self.assertIn("detail", answer.json(), what)


class EachType(ApiCase):
    """Both sides of every bound of a text and of a number."""

    def client_with(self, status: int, **fields: Any) -> Any:
        return self.send("POST", "/clients", {"name": "Wren", **fields}, status=status)

    def test_a_note_fits_up_to_its_longest_and_keeps_its_lines(self) -> None:
        note = "a\nb\t" + "x" * (LONGEST_NOTE - 4)
        self.assertEqual(self.client_with(201, note=note)["note"], note)
        problem = self.client_with(422, note="x" * (LONGEST_NOTE + 1))
        self.assert_fault(problem, "/note", "5,001 characters; 5,000 fit")

    def test_a_line_of_text_has_no_line_breaks_and_no_control_characters(self) -> None:
        self.client_with(201, signed_off_by="Dr. Å 👩‍🍳")
        for bad in ("\x00", "\x1b", "\ud800", "a\nb"):
            with self.subTest(text=repr(bad)):
                body = json.dumps({"name": "Wren", "signed_off_by": bad}).encode()
                headers = {"Content-Type": "application/json"}
                answer = self.client.request("POST", f"{API}/clients", content=body, headers=headers)
                self.assertEqual(answer.status_code, 422, answer.text)
                self.assertIn("cannot be read", answer.text)
        self.assert_fault(self.client_with(422, slot_="x", name="x" * (LONGEST_LINE + 1)), "/name", "501 characters")

    def test_numbers_at_both_ends(self) -> None:
        target = {"slot": "lunch", "protein_g": 40}
        tolerance = {"protein_g": SMALLEST}
        self.client_with(201, targets=[target], tolerance=tolerance)
        for value, words in ((SMALLEST / 2, "as good as nothing"), (2 * LARGEST, "check the digits")):
            problem = self.client_with(422, targets=[target], tolerance={"protein_g": value})
            self.assert_fault(problem, "/tolerance/protein_g", words)

    def test_a_sum_of_200_000_terms_is_refused_at_once(self) -> None:
        line = {"food_id": str(uuid.uuid4()), "purchased_g": "1" + "+1" * 200_000}
        body = {"name": "Stew", "components": [{"name": "Pot", "lines": [line]}]}
        problem = self.send("POST", "/recipes", body, status=422)
        self.assert_fault(problem, "/components/0/lines/0/purchased_g", "400,001 characters are no weight; 400 fit")


def _example(schema: dict[str, Any], contract: dict[str, Any], known: dict[str, str], depth: int = 0) -> Any:
    """A value of a schema with every field filled, one element in every list."""
    if "$ref" in schema:
        found = contract["components"]["schemas"][schema["$ref"].rsplit("/", 1)[1]]
        return _example(found, contract, known, depth + 1)
    if "oneOf" in schema:
        return [_example(one, contract, known, depth + 1) for one in schema["oneOf"]]
    if "anyOf" in schema:
        return _example(schema["anyOf"][0], contract, known, depth + 1)
    if "const" in schema or "enum" in schema:
        return schema.get("const", schema.get("enum", [None])[0])
    kind = schema.get("type")
    if kind == "object":
        fields = schema.get("properties", {})
        return {
            name: known.get(name) or _example(one, contract, known, depth + 1)
            for name, one in fields.items()
            if depth < 14
        }
    if kind == "array":
        items = _example(schema.get("items", {}), contract, known, depth + 1)
        return items if isinstance(items, list) else [items]
    if kind == "string":
        formats = {"uuid": str(uuid.uuid4()), "date": "2026-11-29"}
        return formats.get(schema.get("format", ""), "x")
    return {"number": 1.5, "integer": 1, "boolean": False}.get(kind or "")


def _leaves(value: Any, index: tuple[str | int, ...] = ()) -> Iterator[tuple[tuple[str | int, ...], type]]:
    if isinstance(value, dict):
        for key, one in value.items():
            yield from _leaves(one, (*index, key))
    elif isinstance(value, list):
        for number, one in enumerate(value):
            yield from _leaves(one, (*index, number))
    elif isinstance(value, str):
        yield index, str
    elif isinstance(value, int | float) and not isinstance(value, bool):
        yield index, float


def _with(value: Any, index: tuple[str | int, ...], leaf: Any) -> Any:
    found = copy.deepcopy(value)
    at = found
    for part in index[:-1]:
        at = at[part]
    at[index[-1]] = leaf
    return found
