"""Requests made by schemathesis from the API's own description: answered, or refused in words."""

from __future__ import annotations

from functools import cache
from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st

from tests.api.case import ApiCase, shared_app
from tests.kitchens import planned
from tests.volume import volume

ROUNDS = settings(
    max_examples=volume(8, 100),
    deadline=None,
    phases=[Phase.generate],
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.filter_too_much, HealthCheck.data_too_large],
)
REFUSED = {400, 404, 405, 409, 413, 415, 422}


@cache
def description() -> Any:
    return schemathesis.openapi.from_dict(shared_app().openapi())


def operations(*parts: str) -> dict[str, Any]:
    """The operations of the paths that hold one of `parts`, by method and path."""
    found = {}
    for result in description().get_all_operations():
        operation = result.ok()
        if any(part in operation.path for part in parts):
            found[f"{operation.method.upper()} {operation.path}"] = operation
    return found


class FromTheDescription(ApiCase):
    def answers(self, method: str, path: str, query: Any, body: Any) -> None:
        answer = self.client.request(method, path, params=query or None, json=body)
        said = f"{answer.status_code} {answer.text}"
        self.assertTrue(answer.status_code < 400 or answer.status_code in REFUSED, said)
        self.assertNotIn("Traceback", said)
        if answer.headers.get("content-type", "").startswith("application/problem"):
            self.assertTrue(answer.json()["detail"], said)

    def test_every_operation_on_batches_with_anything_that_fits_its_schema(self) -> None:
        batch_id = str(planned(self.who).batch.id)
        for name, operation in operations("/batches").items():
            with self.subTest(name):
                self.attempt(name.split()[0], operation, batch_id)
        # Whatever was tried, the batch can still be read and computed.
        self.get(f"/batches/{batch_id}/plan")

    def attempt(self, method: str, operation: Any, batch_id: str) -> None:
        tried = []

        @ROUNDS
        @given(operation.as_strategy(), st.booleans())
        def once(case: Any, ours: bool) -> None:
            path = str(case.formatted_path)
            if ours and "batch_id" in (case.path_parameters or {}):
                path = path.replace(str(case.path_parameters["batch_id"]), batch_id)
            body = case.body if isinstance(case.body, dict | list | str | int | float | bool) else None
            self.answers(method, path, dict(case.query or {}), body)
            tried.append(path)

        once()
        self.assertTrue(tried)

    def test_changes_of_a_batch_that_is_there(self) -> None:
        """The changes themselves, with ids of this batch in the places of ids."""
        plan = self.plan()
        rows = [row["id"] for row in plan["rows"]]
        components = [component["id"] for component in plan["components"]]
        lines = [line["id"] for component in plan["components"] for line in component["lines"]]
        operation = operations("/batches/{batch_id}/changes")["POST /api/v1/batches/{batch_id}/changes"]

        def placed(change: Any, draw: Any) -> Any:
            ids = {"row_id": rows, "component_id": components, "line_id": lines}
            return {key: draw(st.sampled_from(ids[key])) if key in ids else value for key, value in change.items()}

        @settings(ROUNDS, max_examples=volume(30, 300))
        @given(operation.as_strategy(), st.data())
        def attempt(case: Any, data: st.DataObject) -> None:
            if not isinstance(case.body, dict) or not isinstance(case.body.get("changes"), list):
                return
            changes = [placed(one, data.draw) for one in case.body["changes"][:3] if isinstance(one, dict)]
            now = self.get(f"/batches/{plan['batch']['id']}/plan")
            body = {"version": now["batch"]["version"], "changes": changes, "confirmed": True}
            self.answers("POST", f"/api/v1/batches/{plan['batch']['id']}/changes", {}, body)
            after = self.get(f"/batches/{plan['batch']['id']}/plan")
            for row in after["rows"]:
                held = sum(cell["amounts"]["protein_g"] for cell in row["cells"])
                self.assertAlmostEqual(row["amounts"]["protein_g"], held, delta=1e-6 * (1 + held))

        attempt()
