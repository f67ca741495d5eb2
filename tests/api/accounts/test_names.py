"""The names that a server answers to, and the pages whose requests it takes."""

from __future__ import annotations

from tests.api.case import API, ApiCase


class Names(ApiCase):
    def test_another_name_gets_nothing_not_even_the_page(self) -> None:
        for path in (f"{API}/installation", "/", f"{API}/session"):
            for host in ("evil.example", "evil.example:8765", "testserver.evil.example", ""):
                with self.subTest(path=path, host=host):
                    answer = self.client.get(path, headers={"Host": host})
                    self.assertEqual(answer.status_code, 421)
                    self.assertNotIn("password", answer.text)
        self.assertIn("does not answer to “evil.example”", self.client.get("/", headers={"Host": "evil.example"}).text)

    def test_its_own_name_with_any_port(self) -> None:
        for host in ("testserver", "TestServer:8765", "127.0.0.1:1"):
            self.assertEqual(self.client.get(f"{API}/installation", headers={"Host": host}).status_code, 200)

    def test_a_page_of_somebody_else_changes_nothing(self) -> None:
        body = {"is_always_there": True}
        path = f"{API}/house/staples/00000000-0000-0000-0000-000000000000"
        for origin in ("https://evil.example", "null", "http://testserver:9", "http://testserver.evil.example"):
            answer = self.client.put(path, json=body, headers={"Origin": origin})
            self.assertEqual((answer.status_code, answer.json()["type"]), (403, "wrong-origin"), origin)
        self.assertEqual(self.client.put(path, json=body, headers={"Origin": "http://testserver"}).status_code, 404)

    def test_reading_is_no_matter_of_origin(self) -> None:
        headers = {"Origin": "https://evil.example"}
        self.assertEqual(self.client.get(f"{API}/installation", headers=headers).status_code, 200)
