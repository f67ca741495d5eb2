"""Forms by link: filled in by half, handed in, read beside the client, and taken field by field."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from fastapi.testclient import TestClient
from sqlalchemy import text

from tests.api.case import API, ApiCase
from tests.support import database
from yantai.api.access import LinkLimit, get_now
from yantai.core.targets.suggestions import Condition

HEADER = "X-Client-Link"
ADDRESS = "https://192.0.2.7:8765"
NOVA: dict[str, Any] = {
    "name": "Nova Lind",
    "email": "nova@port-alder.example",
    "likes": "salmon; oats",
    "dislikes": "mushrooms, olives",
    "allergens": ["milk"],
    "avoid": [{"what": "pork", "why": "belief or conviction"}, {"what": "liver", "why": "another reason"}],
    "meals": ["lunch", "dinner"],
    "training_days": [0, 2, 4],
    "goals": "Row the spring regatta\nand sleep better",
    "container_ml": 900,
    "fridge_l": 25,
    "equipment": ["freezer", "microwave"],
    "kitchen": "one small shelf",
}
BODY: dict[str, Any] = {
    "wants_suggestion": True,
    "birthday": "1996-05-10",
    "sex": "female",
    "height_cm": 170,
    "weight_kg": 65,
    "activity": "sport three to five times a week",
}


class FormCase(ApiCase):
    """It is the 28th of November 2026."""

    def setUp(self) -> None:
        super().setUp()
        self.app.state.link_limit = LinkLimit()
        self.app.dependency_overrides[get_now] = lambda: datetime.fromisoformat("2026-11-28T09:00:00Z")
        self.phone = TestClient(self.app)

    def form(self, **more: Any) -> tuple[str, str]:
        """A new form: its id, and the secret of its link."""
        body = {"name": "Nova", "days": 14, "address": ADDRESS, **more}
        made = self.send("POST", "/forms", body, status=201)
        address, _, token = made["address"].partition("#")
        self.assertEqual(address, f"{ADDRESS}/form")
        return str(made["form"]["id"]), str(token)

    def mine(self, token: str, status: int = 200) -> Any:
        answer = self.phone.get(f"{API}/form", headers={HEADER: token})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json()

    def tell(self, token: str, status: int = 204, **answers: Any) -> Any:
        answer = self.phone.patch(f"{API}/form", json=answers, headers={HEADER: token})
        self.assertEqual(answer.status_code, status, answer.text[:500])
        return answer.json() if answer.content else None

    def hand_in(self, token: str, status: int = 204) -> Any:
        answer = self.phone.post(f"{API}/form/handed-in", headers={HEADER: token})
        self.assertEqual(answer.status_code, status, answer.text)
        return answer.json() if answer.content else None

    def handed_in(self, client_id: str | None = None, **answers: Any) -> str:
        form, token = self.form(client_id=client_id)
        self.tell(token, agrees=True, **(answers or NOVA))
        self.hand_in(token)
        return form

    def review(self, form: str) -> Any:
        return self.get(f"/forms/{form}")

    def take(self, form: str, *keys: str, status: int = 200, **mended: str) -> Any:
        fields = [{"key": key, "text": mended.get(key)} for key in keys]
        body = {"revision": self.review(form)["revision"], "fields": fields}
        return self.send("POST", f"/forms/{form}/taken", body, status=status)

    def client_of(self, form: str) -> dict[str, Any]:
        return dict(self.get(f"/clients/{self.review(form)['form']['client_id']}"))


class FillingIn(FormCase):
    def test_half_filled_it_is_kept(self) -> None:
        form, token = self.form()
        self.assertEqual(self.mine(token)["answers"]["likes"], None)
        self.tell(token, agrees=True, likes="salmon")
        self.tell(token, goals="sleep")
        answers = self.mine(token)["answers"]
        self.assertEqual((answers["likes"], answers["goals"]), ("salmon", "sleep"))
        self.assertEqual(self.get("/forms")[0]["answered"], 3)
        self.assertIsNone(self.review(form)["form"]["handed_in_at"])

    def test_two_phones_do_not_undo_each_other(self) -> None:
        _, token = self.form()
        self.tell(token, agrees=True, likes="salmon", dislikes="olives")
        self.tell(token, dislikes="mushrooms")
        answers = self.mine(token)["answers"]
        self.assertEqual((answers["likes"], answers["dislikes"]), ("salmon", "mushrooms"))

    def test_nothing_is_kept_before_it_is_agreed_to_nor_after_that_is_taken_back(self) -> None:
        form, token = self.form()
        self.assert_fault(self.tell(token, status=422, health="asthma"), "/agrees", "before you agree")
        self.assertIsNone(self.mine(token)["answers"]["health"])
        self.tell(token, agrees=True, name="Nova", health="asthma")
        self.hand_in(token)
        self.assertIsNotNone(self.review(form)["agreed_at"])
        self.tell(token, agrees=False)
        self.assertIsNone(self.mine(token)["answers"]["health"])
        self.assertEqual(self.review(form)["form"]["handed_in_at"], None)
        with database().workspace(self.who.workspace_id) as session:
            self.assertEqual(session.execute(text("SELECT answers FROM client_form")).scalar_one(), {})

    def test_what_makes_no_sense_is_told_at_its_field(self) -> None:
        _, token = self.form()
        self.tell(token, agrees=True)
        for answers, pointer, words in (
            ({"birthday": "2026-11-29"}, "/birthday", "yet to come"),
            ({"birthday": "1890-01-01"}, "/birthday", "110 years"),
            ({"birthday": "no day"}, "/birthday", "date"),
            ({"weight_kg": 6500}, "/weight_kg", "300"),
            ({"email": "nova"}, "/email", "no e-mail address"),
            ({"likes": "a" * 1001}, "/likes", "1,000 fit"),
            ({"goals": "a" * 1_000_000}, "/goals", "5,000 fit"),
            ({"goals": "a\x00b"}, "/goals", "cannot be read"),
            ({"allergens": ["moonlight"]}, "/allergens", "not one of the known"),
            ({"training_days": [7]}, "/training_days/0", "6"),
            ({"conditions": ["thirst"]}, "/conditions/0", "kidney"),
        ):
            with self.subTest(**{key: str(value)[:20] for key, value in answers.items()}):
                self.assert_fault(self.tell(token, status=422, **answers), pointer, words)

    def test_more_than_fits_into_a_request_is_refused(self) -> None:
        _, token = self.form()
        self.tell(token, status=413, goals="a" * 3_000_000)

    def test_markup_stays_text(self) -> None:
        form = self.handed_in(name="<img src=x onerror=alert(1)>", goals="<script>alert(1)</script>")
        self.take(form, "name", "goals")
        client = self.client_of(form)
        self.assertEqual(
            (client["name"], client["goals"]), ("<img src=x onerror=alert(1)>", "<script>alert(1)</script>")
        )

    def test_a_name_is_needed_to_hand_it_in(self) -> None:
        _, token = self.form()
        self.tell(token, agrees=True, likes="salmon")
        self.assert_fault(self.hand_in(token, status=422), "/name", "your name")

    def test_it_may_be_changed_until_it_is_taken(self) -> None:
        form, token = self.form()
        self.tell(token, agrees=True, **NOVA)
        self.hand_in(token)
        seen = self.review(form)["revision"]
        self.tell(token, likes="trout")
        stale = {"revision": seen, "fields": [{"key": "likes"}]}
        self.assertIn("changed answers", self.send("POST", f"/forms/{form}/taken", stale, status=409)["detail"])
        self.take(form, "likes")
        self.assertEqual(self.client_of(form)["likes"], ["trout"])
        self.assertTrue(self.mine(token)["is_taken"])
        self.assertIn("taken it over", self.tell(token, status=422, likes="cod")["detail"])


class Links(FormCase):
    def test_one_that_is_no_more_opens_nothing(self) -> None:
        form, token = self.form()
        self.tell(token, agrees=True, likes="salmon")
        self.send("POST", f"/forms/{form}/revoked")
        self.assertEqual(self.mine(token, status=404)["detail"], self.mine("guessed", status=404)["detail"])
        self.assertEqual(self.review(form)["fields"][5]["said"], "salmon")
        _, other = self.form()
        self.app.dependency_overrides[get_now] = lambda: datetime.fromisoformat("2026-12-12T09:00:01Z")
        self.mine(other, status=404)

    def test_only_a_hash_is_kept(self) -> None:
        _, token = self.form()
        with database().workspace(self.who.workspace_id) as session:
            kept = str(session.execute(text("SELECT f::text FROM client_form f")).scalars().all())
        self.assertNotIn(token, kept)

    def test_a_form_opens_no_page_and_a_page_no_form(self) -> None:
        _, token = self.form()
        self.assertEqual(self.phone.get(f"{API}/my", headers={HEADER: token}).status_code, 404)
        client = self.send("POST", "/clients", {"name": "Ada"}, status=201)["id"]
        link = self.send("POST", f"/clients/{client}/links", {"address": ADDRESS, "days": 3}, status=201)
        page = link["address"].partition("#")[2]
        self.mine(page, status=404)
        self.assertEqual(self.phone.get(f"{API}/forms", headers={HEADER: token}).status_code, 401)

    def test_guessing_is_limited(self) -> None:
        answers = [self.phone.get(f"{API}/form", headers={HEADER: str(n)}).status_code for n in range(22)]
        self.assertEqual(answers, [404] * 20 + [429] * 2)

    def test_another_kitchen_sees_none_of_it(self) -> None:
        form = self.handed_in()
        other = self.other_kitchen()
        self.assertEqual(other.get(f"{API}/forms").json(), [])
        self.assertEqual(other.get(f"{API}/forms/{form}").status_code, 404)
        taken = {"revision": 1, "fields": []}
        self.assertEqual(other.post(f"{API}/forms/{form}/taken", json=taken).status_code, 404)


class Taking(FormCase):
    def test_every_field_becomes_the_clients(self) -> None:
        form = self.handed_in()
        before = {one["key"]: one for one in self.review(form)["fields"]}
        self.assertEqual(before["meals"]["said"], "lunch, dinner; containers of 900 ml")
        self.assertEqual(before["week"]["said"], "training on Monday, Wednesday, Friday")
        self.assertIsNone(self.review(form)["client"])
        self.take(form, *before)
        client = self.client_of(form)
        self.assertEqual(
            {key: client[key] for key in ("name", "email", "likes", "dislikes", "allergens", "exclusions", "goals")},
            {
                "name": "Nova Lind",
                "email": "nova@port-alder.example",
                "likes": ["salmon", "oats"],
                "dislikes": ["mushrooms", "olives"],
                "allergens": ["milk"],
                "exclusions": ["pork", "liver"],
                "goals": "Row the spring regatta\nand sleep better",
            },
        )
        self.assertEqual(client["kitchen"], "freezer, microwave\none small shelf")
        self.assertEqual(client["health"], "pork: belief or conviction\nliver: another reason")
        self.assertEqual(
            [(one["slot"], one["capacity_ml"]) for one in client["targets"]], [("lunch", 900), ("dinner", 900)]
        )
        after = {one["key"]: one for one in self.review(form)["fields"]}
        self.assertEqual([key for key, one in after.items() if not one["same"]], [])
        self.assertEqual(
            (after["week"]["now"], after["fridge"]["now"]), (before["week"]["said"], "25 l for containers")
        )

    def test_only_what_is_taken_changes(self) -> None:
        form = self.handed_in()
        self.take(form, "dislikes", dislikes="mushrooms")
        client = self.client_of(form)
        self.assertEqual((client["name"], client["dislikes"], client["likes"]), ("Nova", ["mushrooms"], []))
        self.assertIn("taken already", self.take(form, "likes", status=422)["detail"])

    def test_what_was_not_answered_cannot_be_taken(self) -> None:
        form = self.handed_in(name="Nova")
        for one in self.review(form)["fields"]:
            if one["key"] != "name":
                with self.subTest(field=one["key"]):
                    self.assertFalse(one["can_take"])
                    fault = self.take(form, one["key"], status=422, **{one["key"]: "made up"})
                    self.assert_fault(fault, "/fields/0/text", "not answered")
        self.assertEqual(self.get("/clients"), [])

    def test_a_client_that_is_there_keeps_what_they_have(self) -> None:
        target = {"slot": "lunch", "protein_g": 40, "capacity_ml": 700}
        body = {"name": "Nova L.", "dislikes": ["liver"], "exclusions": ["Pork"], "note": "early riser"}
        client = self.send("POST", "/clients", {**body, "targets": [target]}, status=201)["id"]
        form = self.handed_in(client_id=client)
        self.take(form, "dislikes", "exclusions", "meals", "goals")
        after = self.client_of(form)
        self.assertEqual((after["name"], after["note"], after["version"]), ("Nova L.", "early riser", 2))
        self.assertEqual(
            (after["dislikes"], after["exclusions"]), (["liver", "mushrooms", "olives"], ["Pork", "liver"])
        )
        found = [(one["slot"], one["protein_g"], one["capacity_ml"]) for one in after["targets"]]
        self.assertEqual(found, [("lunch", 40, 700), ("dinner", None, 900)])

    def test_mended_words_are_checked(self) -> None:
        form = self.handed_in()
        self.assert_fault(self.take(form, "name", "email", status=422, email="nova"), "/fields/1/text", "e-mail")
        self.assertIn("name", self.take(form, "name", status=422, name=" ")["detail"])
        self.assertEqual(self.get("/clients"), [])

    def test_what_is_half_filled_is_not_taken(self) -> None:
        form, token = self.form()
        self.tell(token, agrees=True, **NOVA)
        self.assertIn("not handed in", self.take(form, "name", status=422)["detail"])

    def test_a_suggested_day(self) -> None:
        """Resting energy 10 · 65 + 6.25 · 170 - 5 · 30 - 161 = 1,401.5 kcal, times 1.55 = 2,172; protein 1.8 · 65 g,
        fat 0.9 · 65 g, and carbohydrate takes the rest: (2172.3 - 117 · 4 - 58.5 · 9) / 4 = 294 g."""
        form = self.handed_in(**NOVA, **BODY)
        review = self.review(form)
        self.assertIn("2,172", review["fields"][-1]["said"])
        self.assertGreater(len(review["suggestion"]["steps"]), 3)
        self.take(form, "name", "day")
        day = self.client_of(form)["days"][0]
        found = [day[key] for key in ("day_type", "kcal", "protein_g", "carbohydrate_g", "fat_g")]
        self.assertEqual(found, ["any", 2172, 117, 294, 58])
        self.assertNotIn("weight", str(self.client_of(form)))

    def test_whom_to_refer_gets_no_suggestion(self) -> None:
        """Every condition of the list, and an age under 18: said, and nothing to take."""
        cases: list[tuple[dict[str, Any], str]] = [
            ({"conditions": [condition.value]}, condition.value.capitalize()) for condition in Condition
        ]
        for more, words in [*cases, ({"birthday": "2008-11-29"}, "Under 18")]:
            with self.subTest(words=words):
                form = self.handed_in(**{**NOVA, **BODY, **more})
                review = self.review(form)
                self.assertIn(words, " ".join(review["cautions"]))
                self.assertIn("dietitian", " ".join(review["cautions"]))
                self.assertIn("dietitian", review["suggestion"]["referral"])
                self.assertNotIn("day", [one["key"] for one in review["fields"]])
                self.assert_fault(self.take(form, "day", status=422), "/fields/0/text", "No day is suggested")

    def test_a_suggestion_lacks_figures(self) -> None:
        review = self.review(self.handed_in(**NOVA, wants_suggestion=True, birthday="1996-05-10"))
        self.assertIn("takes birthday, sex, height", review["suggestion"]["referral"])
        self.assertIsNone(self.review(self.handed_in(**NOVA))["suggestion"])


class HowWasIt(FormCase):
    def test_three_questions(self) -> None:
        self.assert_fault(
            self.send("POST", "/forms", {"kind": "how was it", "name": "x", "address": ADDRESS}, status=422),
            "/client_id", "Choose the client",
        )  # fmt: skip
        client = self.send("POST", "/clients", {"name": "Ada"}, status=201)["id"]
        form, token = self.form(kind="how was it", client_id=client)
        self.tell(token, agrees=True)
        self.assert_fault(self.hand_in(token, status=422), "/enough", "one of the three")
        self.tell(token, enough="too little", again="The curry again, the bowl not", week="Thawed too late once")
        self.hand_in(token)
        self.assertEqual(
            [(one["said"], one["can_take"]) for one in self.review(form)["fields"]],
            [("too little", False), ("The curry again, the bowl not", False), ("Thawed too late once", False)],
        )
        self.take(form)
        self.assertIsNotNone(self.review(form)["form"]["taken_at"])
        self.assertEqual(self.get(f"/clients/{client}")["version"], 1)

    def test_there_is_no_such_client(self) -> None:
        body = {"client_id": str(uuid.uuid4()), "address": ADDRESS}
        self.assertIn("no such client", self.send("POST", "/forms", body, status=404)["detail"])
