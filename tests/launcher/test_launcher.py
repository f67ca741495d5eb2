from __future__ import annotations

import os
import pwd
import shutil
import signal
import socket
import subprocess
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from yantai.launcher.console import Trouble, run
from yantai.launcher.places import ROOT, fingerprint, is_current
from yantai.launcher.postgres import free_port, port_is_free
from yantai.launcher.system import check_disk, ensure_packages
from yantai.launcher.workers import Workers

IS_ROOT = os.geteuid() == 0
SYSTEM_PYTHON = Path("/usr/bin/python3")

TRY_CLUSTER = """
from yantai.launcher.postgres import Cluster
cluster = Cluster(name="unit", durable=False)
print(cluster.folder)
print(cluster.ensure_running())
print(cluster.is_running())
"""


class ClusterCase(unittest.TestCase):
    """A copy of the launcher and an empty state folder, in a place that every user may enter."""

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="yantai-"))
        self.folder.chmod(0o755)
        self.addCleanup(shutil.rmtree, self.folder)
        package = self.folder / "copy" / "src" / "yantai"
        shutil.copytree(ROOT / "src" / "yantai" / "launcher", package / "launcher")
        shutil.copy(ROOT / "src" / "yantai" / "__init__.py", package)
        self.state = self.folder / "state"
        self.state.mkdir()
        self.user: str | None = None

    def python(self, code: str) -> list[str]:
        """The lines that this code prints when it runs as `self.user`."""
        as_user = ["runuser", "-u", self.user, "--"] if self.user else []
        env = {"PYTHONPATH": str(self.folder / "copy" / "src"), "PATH": os.environ["PATH"]}
        env["YANTAI_STATE"] = str(self.state)
        done = subprocess.run(
            [*as_user, str(SYSTEM_PYTHON), "-c", code],
            env=env,
            cwd="/",
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr)
        return [one for one in done.stdout.splitlines() if not one.startswith("  ")]

    def start(self) -> tuple[Path, str]:
        """Folder and URL of the running cluster, stopped when the test ends."""
        stop = 'from yantai.launcher.postgres import Cluster; Cluster(name="unit").stop()'
        self.addCleanup(self.python, stop)
        folder, url, running = self.python(TRY_CLUSTER)
        self.assertEqual(running, "True")
        return Path(folder), url

    def query(self, url: str, statement: str) -> str:
        plain = url.replace("+psycopg", "")
        return run(["psql", plain, "-Atc", statement], mend="").strip()


class Clusters(ClusterCase):
    def test_its_role_may_not_bypass_row_level_security(self) -> None:
        _, url = self.start()
        self.assertEqual(self.query(url, "SELECT rolsuper OR rolbypassrls FROM pg_roles WHERE rolname = user"), "f")

    def test_a_second_start_keeps_the_data(self) -> None:
        _, url = self.start()
        self.query(url, "CREATE TABLE kept (n int)")
        self.python('from yantai.launcher.postgres import Cluster; Cluster(name="unit").stop()')
        _, again = self.start()
        self.assertEqual(self.query(again, "SELECT count(*) FROM kept"), "0")

    def test_an_interrupted_start_leaves_nothing_that_stops_the_next(self) -> None:
        for name in ("unit.new", "unit"):
            (self.state / name).mkdir()
            (self.state / name / "half-made").touch()
        folder, _ = self.start()
        self.assertFalse((folder / "half-made").exists())
        self.assertFalse((self.state / "unit.new").exists())

    def test_a_port_taken_meanwhile_is_changed(self) -> None:
        _, url = self.start()
        self.python('from yantai.launcher.postgres import Cluster; Cluster(name="unit").stop()')
        port = int(url.rsplit(":", 1)[1].split("/")[0])
        with socket.create_server(("127.0.0.1", port)):
            _, again = self.start()
            self.assertNotIn(f":{port}/", again)

    def test_passwords_are_for_their_owner_only(self) -> None:
        self.start()
        self.assertEqual((self.state / "unit.json").stat().st_mode & 0o077, 0)


class OtherUsers(ClusterCase):
    def setUp(self) -> None:
        if not IS_ROOT:
            self.skipTest("only root can become another user")
        super().setUp()

    def test_an_ordinary_user_runs_it_as_themselves(self) -> None:
        self.user = "nobody"
        os.chown(self.state, pwd.getpwnam("nobody").pw_uid, -1)
        folder, _ = self.start()
        self.assertEqual(folder.owner(), "nobody")

    def test_root_runs_it_as_the_database_user(self) -> None:
        folder, _ = self.start()
        self.assertEqual(folder.owner(), "postgres")

    def test_a_state_folder_that_postgres_cannot_enter_moves_the_cluster(self) -> None:
        self.state.chmod(0o700)
        folder, _ = self.start()
        self.addCleanup(shutil.rmtree, folder.parent)
        self.assertTrue(folder.is_relative_to("/var/lib/yantai"))


class Commands(unittest.TestCase):
    def yantai(self, *arguments: str) -> subprocess.CompletedProcess[str]:
        with tempfile.TemporaryDirectory() as state:
            return subprocess.run(
                [ROOT / "yantai", *arguments],
                env={**os.environ, "YANTAI_STATE": state},
                capture_output=True,
                text=True,
                check=False,
            )

    def test_a_taken_port_is_told_with_the_mend(self) -> None:
        with socket.create_server(("127.0.0.1", 0)) as taken:
            port = taken.getsockname()[1]
            done = self.yantai("start", "--port", str(port))
        self.assertEqual(done.returncode, 1)
        self.assertIn(f"port {port} of this machine is taken", done.stderr)
        self.assertIn("./yantai start --port", done.stderr)
        self.assertNotIn("Traceback", done.stderr)

    def test_status_and_stop_of_something_that_does_not_run(self) -> None:
        self.assertEqual(self.yantai("status").returncode, 3)
        done = self.yantai("stop")
        self.assertEqual((done.returncode, done.stdout.strip()), (0, "Yantai is not running."))

    def test_an_unknown_command_lists_the_known_ones(self) -> None:
        done = self.yantai("dance")
        self.assertEqual(done.returncode, 2)
        self.assertIn("screenshots", done.stderr)


class Console(unittest.TestCase):
    def test_a_failed_command_shows_the_end_of_what_it_said(self) -> None:
        with self.assertRaisesRegex(Trouble, "sh failed:\nbroken pipe of soup") as caught:
            run(["sh", "-c", "echo broken pipe of soup; exit 3"], mend="Stir.")
        self.assertEqual(caught.exception.mend, "Stir.")

    def test_a_full_disk_is_named(self) -> None:
        with self.assertRaises(Trouble) as caught:
            run(["sh", "-c", "echo 'write: No space left on device'; exit 1"], mend="Stir.")
        self.assertIn("disk is full", caught.exception.mend)


class MissingPackages(unittest.TestCase):
    def ask(self, *, root: bool, postgresql: Path | None = None) -> Trouble:
        """The trouble when packages are missing; a root without apt-get cannot install either."""
        with (
            mock.patch("yantai.launcher.system.postgresql_bin", return_value=postgresql),
            mock.patch("yantai.launcher.system.CHROMIUM", Path("/nowhere/chromium")),
            mock.patch("yantai.launcher.system.os.geteuid", return_value=0 if root else 1000),
            mock.patch("yantai.launcher.system.shutil.which", return_value=None),
            self.assertRaises(Trouble) as caught,
        ):
            ensure_packages(browser=True, database=True)
        return caught.exception

    def test_without_the_rights_the_one_command_is_told(self) -> None:
        trouble = self.ask(root=False)
        self.assertIn("postgresql chromium", str(trouble))
        self.assertIn("sudo sh -c 'apt-get update && apt-get install", trouble.mend)

    def test_only_what_is_missing_is_asked_for(self) -> None:
        trouble = self.ask(root=False, postgresql=Path("/usr/lib/postgresql/15/bin"))
        self.assertNotIn("postgresql", str(trouble))
        self.assertIn("chromium", str(trouble))

    def test_another_system_is_told_what_to_install(self) -> None:
        self.assertIn("package manager", self.ask(root=True).mend)

    def test_a_disk_too_full_is_told_before_anything_is_made(self) -> None:
        nearly_full = mock.Mock(free=200 * 1024**2)
        with (
            mock.patch("yantai.launcher.system.shutil.disk_usage", return_value=nearly_full),
            self.assertRaisesRegex(Trouble, "only 0.2 GB are free"),
        ):
            check_disk()


class CrewOfWorkers(unittest.TestCase):
    """Each worker writes its process id into a pipe, on which the test waits."""

    def setUp(self) -> None:
        self.folder = Path(tempfile.mkdtemp(prefix="yantai-"))
        self.addCleanup(shutil.rmtree, self.folder)
        self.pipe = self.folder / "pipe"
        os.mkfifo(self.pipe)
        command = ["sh", "-c", f"echo $$ > {self.pipe}; exec sleep 1000"]
        self.pid_file = self.folder / "workers.pid"
        self.workers = Workers(command, 2, os.environ, self.pid_file)
        self.workers.start()
        self.addCleanup(self.workers.stop)

    def started(self, count: int) -> set[int]:
        pids: set[int] = set()
        while len(pids) < count:
            pids |= {int(line) for line in self.pipe.read_text().split()}
        return pids

    def test_one_that_ends_is_started_again(self) -> None:
        first = self.started(2)
        os.kill(min(first), signal.SIGKILL)
        (again,) = self.started(1)
        self.assertNotIn(again, first)

    def test_a_stop_ends_all_of_them(self) -> None:
        pids = self.started(2)
        self.assertEqual(self.workers.pids(), pids)
        self.assertEqual({int(pid) for pid in self.pid_file.read_text().split()}, pids)
        self.workers.stop()
        for pid in pids:
            self.assertFalse(Path(f"/proc/{pid}").exists())
        self.assertFalse(self.pid_file.exists())


class Stamps(unittest.TestCase):
    def test_a_step_is_current_only_while_its_inputs_are_the_same(self) -> None:
        with tempfile.TemporaryDirectory(dir=ROOT) as name:
            folder = Path(name)
            (folder / "input").write_text("one")
            stamp = folder / "stamp"
            stamp.write_text(fingerprint([folder / "input"]))
            self.assertTrue(is_current(stamp, fingerprint([folder / "input"])))
            (folder / "input").write_text("two")
            self.assertFalse(is_current(stamp, fingerprint([folder / "input"])))
            self.assertFalse(is_current(folder / "none", "x"))

    def test_free_ports(self) -> None:
        port = free_port()
        self.assertTrue(port_is_free(port))
        with socket.create_server(("127.0.0.1", port)):
            self.assertFalse(port_is_free(port))
