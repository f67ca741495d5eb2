"""Who can eat what through the API: asking, following, reading, stopping."""

from __future__ import annotations

import uuid

from tests.api.case import API, ApiCase
from tests.support import database
from yantai.work.surveys import surveys


class Surveys(ApiCase):
    def test_asked_followed_and_read(self) -> None:
        self.assertIsNone(self.get("/surveys/newest"))
        problem = self.send("POST", "/surveys", status=422)
        self.assertIn("a recipe with components", problem["detail"])
        plan = self.plan()
        started = self.send("POST", "/surveys", status=202)
        self.assertEqual((started["state"], started["answered"], started["recipes"]), ("running", 0, 1))
        survey = surveys.read_survey(database(), self.who)
        assert survey is not None
        recipe_id = plan["dishes"][0]["recipe_id"]
        surveys.answer_recipe(database(), self.who.workspace_id, survey.id, uuid.UUID(recipe_id))
        self.assertEqual(self.get("/surveys/newest")["state"], "done")
        page = self.get(f"/surveys/{started['id']}/answers", sort="client", limit=2)
        self.assertEqual((page["total"], len(page["answers"])), (3, 2))
        self.assertEqual([one["slot"] for one in page["answers"]], ["dinner", "lunch"])
        milo = self.get(f"/surveys/{started['id']}/answers", client_id=plan["rows"][2]["client_id"])["answers"]
        self.assertEqual([(one["client"], one["without"]) for one in milo], [("Milo Brandt", ["Sauce"])])
        problem = self.client.get(f"{API}/surveys/{started['id']}/answers", params={"sort": "luck"}).json()
        self.assert_fault(problem, "/sort", "nearest, recipe, client")

    def test_the_grid_is_the_answers_counted_by_client_and_recipe(self) -> None:
        plan = self.plan()
        started = self.send("POST", "/surveys", status=202)
        recipe_id = plan["dishes"][0]["recipe_id"]
        surveys.answer_recipe(database(), self.who.workspace_id, uuid.UUID(started["id"]), uuid.UUID(recipe_id))
        answers = self.get(f"/surveys/{started['id']}/answers")["answers"]
        grid = self.get(f"/surveys/{started['id']}/grid")
        self.assertEqual((grid["total"], [one["name"] for one in grid["recipes"]]), (2, ["Chicken bowl"]))
        self.assertEqual([row["client"] for row in grid["rows"]], ["Ada Vance", "Milo Brandt"])
        for row in grid["rows"]:
            theirs = [one for one in answers if one["client_id"] == row["client_id"]]
            expected = {
                "recipe_id": recipe_id,
                "containers": len(theirs),
                "fits": sum(one["met"] for one in theirs),
                "missed": min(one["missed"] for one in theirs),
                "leaves_out": any(one["without"] for one in theirs),
            }
            self.assertEqual(row["cells"], [expected])
        second = self.get(f"/surveys/{started['id']}/grid", limit=1, offset=1)
        self.assertEqual([row["client"] for row in second["rows"]], ["Milo Brandt"])
        problem = self.client.get(f"{API}/surveys/{started['id']}/grid", params={"limit": 500}).json()
        self.assert_fault(problem, "/limit", "1 to 200")
        self.assertEqual(self.other_kitchen().get(f"{API}/surveys/{started['id']}/grid").json()["rows"], [])

    def test_stopped(self) -> None:
        self.plan()
        started = self.send("POST", "/surveys", status=202)
        stopped = self.send("POST", f"/surveys/{started['id']}/cancelled")
        self.assertEqual(stopped["state"], "cancelled")
        self.assertEqual(self.send("POST", f"/surveys/{started['id']}/cancelled")["state"], "cancelled")
        other = self.other_kitchen()
        self.assertEqual(other.post(f"{API}/surveys/{started['id']}/cancelled").status_code, 404)
        self.assertNotEqual(self.send("POST", "/surveys", status=202)["id"], started["id"])
