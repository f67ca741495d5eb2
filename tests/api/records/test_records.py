"""Everything about one client in one file; and a client who is erased, with a name that stands nowhere any more."""

from __future__ import annotations

import csv
import io
import json
import tempfile
import unittest
import uuid
import zipfile
from pathlib import Path
from typing import Any

from sqlalchemy import text

from tests.api.case import API
from tests.api.outbox.test_outbox import OutboxCase, Post
from tests.kitchens import apply, full_kitchen, weigh
from tests.support import NOW, database
from yantai.devices.mail import SmtpMailer
from yantai.devices.post_office import PostOffice, arrived
from yantai.launcher.postgres import free_port
from yantai.store.tables import Base
from yantai.work.batches.inputs import SetPacked
from yantai.work.batches.lists import list_batches
from yantai.work.batches.reading import read_plan
from yantai.work.clients.clients import list_clients
from yantai.work.common.errors import Invalid
from yantai.work.common.who import SignedIn
from yantai.work.outbox.sending import send_message
from yantai.work.records.client_data import SECRETS, about, export_client
from yantai.work.records.erase import KNOW_NO_PEOPLE, erase_client, read_erasure
from yantai.work.records.inputs import ErasureInput

HEALTH = "asthma since childhood, secret-of-theirs"


def opened(content: bytes) -> zipfile.ZipFile:
    return zipfile.ZipFile(io.BytesIO(content))


def pack_all(who: SignedIn, client_id: uuid.UUID) -> None:
    """Weigh and pack every batch with containers of a client."""
    for brief in list_batches(database(), who):
        plan = read_plan(database(), who, brief.id)
        if plan.batch.packed_at is not None or all(row.client_id != client_id for row in plan.rows):
            continue
        for index, component in enumerate(plan.components):
            if component.weighing is None and component.to_weigh:
                plan = apply(who, plan, weigh(plan, index, component.cooked_g), confirmed=True)
        apply(who, plan, SetPacked(packed=True), confirmed=True)


class Records(OutboxCase):
    def setUp(self) -> None:
        super().setUp()
        self.ada = self.client_id("Ada Vance")
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("UPDATE client SET health = :health WHERE name = 'Ada Vance'"), {"health": HEALTH})

    def client_id(self, name: str) -> str:
        return str(next(one for one in self.get("/clients") if one["name"] == name)["id"])

    def file(self) -> zipfile.ZipFile:
        answer = self.client.get(f"{API}/clients/{self.ada}/data.zip")
        self.assertEqual((answer.status_code, answer.headers["Content-Type"]), (200, "application/zip"))
        self.assertEqual(answer.headers["Cache-Control"], "no-store")
        return opened(answer.content)

    def pack(self) -> None:
        self.weigh(**{one["name"]: one["cooked_g"] for one in self.batch_plan()["components"]})
        self.change(self.batch_plan(), {"kind": "packed", "packed": True}, confirmed=True)

    def erase(self, name: str = "Ada Vance", status: int = 200) -> Any:
        return self.send("POST", f"/clients/{self.ada}/erased", {"name": name}, status=status)


class Export(Records):
    def test_json_and_csv_tell_the_same(self) -> None:
        self.posted()
        file = self.file()
        whole = json.loads(file.read("client.json"))
        self.assertEqual((whole["client"], whole["format"]), ("Ada Vance", "yantai-client/1"))
        for name in file.namelist():
            if name.endswith(".csv"):
                told = list(csv.DictReader(io.StringIO(file.read(name).decode("utf-8-sig"))))
                with self.subTest(name=name):
                    self.assertEqual(len(told), len(whole[name.removesuffix(".csv")]))
        lunch = next(one for one in whole["containers"] if one["meal"] == "lunch")
        self.assertEqual((lunch["dish"], lunch["containers"]), ("Chicken bowl", 5))
        row = next(row for row in self.batch_plan()["rows"] if row["slot"] == "lunch" and row["client"] == "Ada Vance")
        self.assertAlmostEqual(lunch["holds"]["kcal"], row["amounts"]["kcal"])
        self.assertEqual(len(whole["message"]), 1)
        self.assertIn(HEALTH, str(whole["person"]))

    def test_nothing_of_others_and_no_secret(self) -> None:
        self.send("POST", f"/clients/{self.ada}/links", {"address": "https://192.0.2.7:8765", "days": 3}, status=201)
        text_ = str(self.file().read("client.json").decode())
        self.assertNotIn("Milo", text_)
        for secret in (*SECRETS, "_hash", str(self.who.account_id)):
            self.assertNotIn(secret, text_)
        other = self.other_kitchen().get(f"{API}/clients/{self.ada}/data.zip")
        self.assertEqual(other.status_code, 404)

    def test_no_spreadsheet_takes_a_text_for_a_formula(self) -> None:
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("UPDATE client SET note = '=1+1' WHERE name = 'Ada Vance'"))
        told = next(csv.DictReader(io.StringIO(self.file().read("person.csv").decode("utf-8-sig"))))
        self.assertEqual(told["note"], "'=1+1")


class Erased(Records):
    def test_the_effect_is_told_before(self) -> None:
        self.posted()
        effect = self.get(f"/clients/{self.ada}/erasure")
        self.assertEqual((effect["name"], effect["pseudonym"]), ("Ada Vance", "Former client 1"))
        self.assertIn("1 message of the outbox", effect["gone"])
        self.assertIn("the figures of 1 batch, without the person", effect["stays"])
        self.assertIn("pack those batches", effect["in_the_way"][0])
        self.assertIn("pack those batches", self.erase(status=422)["detail"])
        self.pack()
        self.assertEqual(self.get(f"/clients/{self.ada}/erasure")["in_the_way"], [])
        self.assert_fault(self.erase("Ada", status=422), "/name", "Ada Vance")

    def test_figures_stay_and_the_person_goes(self) -> None:
        link = {"address": "https://192.0.2.7:8765", "days": 3}
        token = self.send("POST", f"/clients/{self.ada}/links", link, status=201)["address"].partition("#")[2]
        self.pack()
        before = self.batch_plan()
        done = self.erase()
        self.assertIsNotNone(done["erased_at"])
        self.assertEqual(self.client.get(f"{API}/my", headers={"X-Client-Link": token}).status_code, 404)
        self.assertEqual([one["name"] for one in self.get("/clients")], ["Milo Brandt"])
        after = self.batch_plan()
        self.assertEqual({row["client"] for row in after["rows"]}, {"Former client 1", "Milo Brandt"})
        for early, late in zip(before["rows"], after["rows"], strict=True):
            self.assertEqual((early["amounts"], early["cells"]), (late["amounts"], late["cells"]))
        self.assertIn("erased already", self.erase("Former client 1", status=422)["detail"])
        person = self.get(f"/clients/{self.ada}")
        self.assertEqual((person["health"], person["targets"], person["days"]), ("", [], []))

    def test_what_arrived_at_the_post_office_goes_too(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        office = PostOffice(Path(folder.name) / "post", free_port())
        office.open()
        self.addCleanup(office.close)
        self.go(self.posted(), SmtpMailer(office.url))
        self.pack()
        self.assertEqual(len(arrived(Path(folder.name) / "post")), 1)
        erase_client(
            database(),
            self.who,
            uuid.UUID(self.ada),
            ErasureInput(name="Ada Vance"),
            str(Path(folder.name) / "post"),
            NOW,
        )
        self.assertEqual(arrived(Path(folder.name) / "post"), [])

    def test_a_message_that_waits_goes_to_nobody(self) -> None:
        message, post = self.posted(), Post()
        self.pack()
        self.erase()
        send_message(database(), post, self.who.workspace_id, uuid.UUID(message["id"]), NOW, "")
        self.assertEqual(post.sent, [])


class Everywhere(unittest.TestCase):
    """A kitchen with a row in every table: the name stands nowhere afterwards, in none of them."""

    def setUp(self) -> None:
        self.who = full_kitchen()
        self.client = next(one for one in list_clients(database(), self.who) if one.name == "Ada Vance")
        pack_all(self.who, self.client.id)

    def found(self, words: str) -> list[str]:
        found = []
        with database().workspace(self.who.workspace_id) as session:
            for table in Base.metadata.sorted_tables:
                if "workspace_id" not in table.c and table.name != "workspace":
                    continue
                rows = session.execute(text(f"SELECT t::text FROM {table.name} t")).scalars().all()
                found += [table.name for row in rows if words in row]
        return sorted(set(found))

    def test_the_name_is_found_in_no_table(self) -> None:
        with database().workspace(self.who.workspace_id) as session:
            session.execute(
                text("UPDATE client SET health = :health WHERE id = :id"), {"health": HEALTH, "id": self.client.id}
            )
        before = self.found("Ada Vance")
        self.assertLess({"client", "stored_plan", "command"}, set(before) | {""})
        erase_client(database(), self.who, self.client.id, ErasureInput(name="Ada Vance"), "", NOW)
        self.assertEqual(self.found("Ada Vance"), [])
        self.assertEqual(self.found("secret-of-theirs"), [])
        self.assertEqual(self.found("ada@port-alder.example"), [])
        for brief in list_batches(database(), self.who):
            read_plan(database(), self.who, brief.id)

    def test_whatever_is_about_a_client_is_in_their_file(self) -> None:
        _, content = export_client(database(), self.who, self.client.id, NOW)
        whole = json.loads(opened(content).read("client.json"))
        told = {table.name for table, _ in about(self.client.id)} - {"client"}
        self.assertLessEqual(told, set(whole))
        with_client = {table.name for table in Base.metadata.sorted_tables if "client_id" in table.c}
        self.assertLessEqual(with_client, told)
        self.assertFalse(with_client & KNOW_NO_PEOPLE)

    def test_names_that_are_words_of_the_kitchen(self) -> None:
        """Whoever is called as a key of JSON, a place or a food is: what remains can still be read, and is right."""
        for name in ("name", "Bulgur", 'Ann "Nan" O\\Neill (2)', "Åse 鸡"):
            with self.subTest(name=name):
                who = full_kitchen()
                client = next(one for one in list_clients(database(), who) if one.name == "Ada Vance")
                with database().workspace(who.workspace_id) as session:
                    session.execute(
                        text("UPDATE client SET name = :name WHERE id = :id"), {"name": name, "id": client.id}
                    )
                pack_all(who, client.id)
                erase_client(database(), who, client.id, ErasureInput(name=name), "", NOW)
                for brief in list_batches(database(), who):
                    plan = read_plan(database(), who, brief.id)
                    self.assertNotIn(name, {row.client for row in plan.rows})
                    self.assertIn("Bulgur", {one.name for one in plan.components} | {"Bulgur"})

    def test_a_client_called_as_a_coach(self) -> None:
        with database().workspace(self.who.workspace_id) as session:
            session.execute(text("UPDATE client SET name = 'Test Coach' WHERE id = :id"), {"id": self.client.id})
        erase_client(database(), self.who, self.client.id, ErasureInput(name="Test Coach"), "", NOW)
        with database().workspace(self.who.workspace_id) as session:
            signed = session.execute(text("SELECT DISTINCT made_by FROM client_link")).scalars().all()
            self.assertEqual(session.execute(text("SELECT name FROM account")).scalar_one(), "Test Coach")
        self.assertNotIn("Former client 1", signed)

    def test_somebody_else_is_not_touched(self) -> None:
        milo = next(one for one in list_clients(database(), self.who) if one.name == "Milo Brandt")
        before = export_client(database(), self.who, milo.id, NOW)[1]
        erase_client(database(), self.who, self.client.id, ErasureInput(name="Ada Vance"), "", NOW)
        self.assertEqual(
            json.loads(opened(export_client(database(), self.who, milo.id, NOW)[1]).read("client.json")),
            json.loads(opened(before).read("client.json")),
        )

    def test_only_a_whole_name_is_one(self) -> None:
        with self.assertRaises(Invalid):
            erase_client(database(), self.who, self.client.id, ErasureInput(name=""), "", NOW)
        self.assertIsNone(read_erasure(database(), self.who, self.client.id).erased_at)
