"""The local network: an encrypted port with a certificate of the installation's own, and the page to trust it by."""

from __future__ import annotations

import contextlib
import os
import re
import signal
import socket
import ssl
import stat
import subprocess
import sys
import tempfile
import time
import unittest
import urllib.error
import urllib.request
from datetime import UTC, datetime
from pathlib import Path

from cryptography import x509

from tests.support import database
from yantai.lan import CERTIFICATE_LASTS, own_names, prepare, told
from yantai.launcher.places import ROOT
from yantai.launcher.postgres import port_is_free

NAMES = ("127.0.0.1", "kitchen.local", "kitchen")
NOW = datetime(2026, 11, 27, tzinfo=UTC)


class Authority(unittest.TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory())) / "lan"

    def test_it_is_made_once_and_kept(self) -> None:
        first, again = prepare(self.folder, NAMES, NOW), prepare(self.folder, NAMES, NOW)
        self.assertEqual((first.authority_pem, first.fingerprint), (again.authority_pem, again.fingerprint))
        other = prepare(self.folder.parent / "other", NAMES, NOW)
        self.assertNotEqual(first.fingerprint, other.fingerprint)

    def test_its_keys_are_the_owners_alone(self) -> None:
        prepare(self.folder, NAMES, NOW)
        self.assertEqual(stat.S_IMODE(self.folder.stat().st_mode), 0o700)
        for key in ("authority-key.pem", "server-key.pem"):
            self.assertEqual(stat.S_IMODE((self.folder / key).stat().st_mode), 0o600)

    def test_the_certificate_is_for_its_names_and_no_longer_than_phones_take(self) -> None:
        found = x509.load_pem_x509_certificate(prepare(self.folder, NAMES, NOW).certificate.read_bytes())
        names = found.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
        self.assertLessEqual({"kitchen.local", "kitchen", "localhost"}, set(names.get_values_for_type(x509.DNSName)))
        self.assertLess(CERTIFICATE_LASTS.days, 398)
        self.assertEqual(found.not_valid_after_utc.date(), (NOW + CERTIFICATE_LASTS).date())

    def test_what_is_told_can_be_compared(self) -> None:
        lan = prepare(self.folder, NAMES, NOW)
        words = told(lan, 8766, 8767)
        self.assertIn("https://127.0.0.1:8766", words)
        self.assertIn("http://127.0.0.1:8767", words)
        self.assertIn(lan.fingerprint, words)
        self.assertRegex(lan.fingerprint, r"^([0-9A-F]{4} ){7}[0-9A-F]{4}$")

    def test_this_machine_has_a_name(self) -> None:
        address, local, _ = own_names()
        socket.inet_aton(address)
        self.assertTrue(local.endswith(".local"))


class Served(unittest.TestCase):
    """The server as `./yantai start --lan` starts it."""

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory())) / "lan"
        self.port = next(
            port for port in range(18765, 19765, 3) if all(port_is_free(port + more) for more in range(3))
        )  # fmt: skip
        url = database().engine.url.render_as_string(hide_password=False)
        env = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "YANTAI_DATABASE_URL": url, "YANTAI_DEMO": "1"}
        command = [sys.executable, "-m", "yantai.cli", "serve", "--port", str(self.port), "--lan", str(self.folder)]
        self.server = subprocess.Popen(command, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        self.addCleanup(self.server.wait)
        self.addCleanup(self.server.kill)
        deadline = time.monotonic() + 60
        while time.monotonic() < deadline:
            try:
                self.fetch(f"http://127.0.0.1:{self.port + 2}/")
                self.fetch(f"http://127.0.0.1:{self.port}/api/v1/health")
                return
            except OSError:
                self.assertIsNone(self.server.poll(), "the server ended")
                # It is asked again until it answers; nothing else tells when it listens.
                with contextlib.suppress(subprocess.TimeoutExpired):
                    self.server.wait(timeout=0.2)
        self.fail("the server did not answer")

    def fetch(self, url: str, **headers: str) -> tuple[int, str]:
        return self.trusting(url, None, **headers)

    def trusting(self, url: str, authority: Path | None, **headers: str) -> tuple[int, str]:
        context = ssl.create_default_context(cafile=None if authority is None else str(authority))
        request = urllib.request.Request(url, headers=headers)
        with urllib.request.urlopen(request, timeout=10, context=context if url[4] == "s" else None) as answer:
            return answer.status, answer.read().decode()

    def test_a_phone_that_trusts_the_authority_speaks_encrypted_and_another_does_not(self) -> None:
        secure = f"https://127.0.0.1:{self.port + 1}/api/v1/installation"
        with self.assertRaisesRegex(urllib.error.URLError, "CERTIFICATE_VERIFY_FAILED"):
            self.fetch(secure)
        _, taken = self.fetch(f"http://127.0.0.1:{self.port + 2}/yantai-authority.crt")
        authority = self.folder.parent / "taken.pem"
        authority.write_text(taken)
        self.assertEqual(self.trusting(secure, authority)[0], 200)
        # Another name gets nothing here either, and no password of the demo.
        with self.assertRaises(urllib.error.HTTPError) as refused:
            self.trusting(secure, authority, Host="evil.example")
        self.assertEqual(refused.exception.code, 421)

    def test_the_plain_page_has_three_steps_and_shows_nothing_else(self) -> None:
        _, page = self.fetch(f"http://127.0.0.1:{self.port + 2}/")
        self.assertEqual(len(re.findall("<li>", page)), 3)
        self.assertIn(prepare(self.folder, NAMES, NOW).fingerprint, page)
        self.assertIn(f"https://{own_names()[0]}:{self.port + 1}/pair", page)
        for path in ("/api/v1/health", "/index.html", "/authority-key.pem"):
            with self.assertRaises(urllib.error.HTTPError):
                self.fetch(f"http://127.0.0.1:{self.port + 2}{path}")

    def test_it_ends_when_it_is_asked_to(self) -> None:
        self.server.send_signal(signal.SIGTERM)
        self.assertIsNotNone(self.server.wait(timeout=20))
        self.assertTrue(all(port_is_free(self.port + more) for more in range(3)))
