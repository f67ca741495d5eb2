"""`./yantai wheels`: the application and its rules alone, as packages that are installed anywhere."""

from __future__ import annotations

import shutil
import tempfile
from pathlib import Path

from yantai.launcher import environment
from yantai.launcher.console import run, step
from yantai.launcher.places import BIN, ROOT

DIST = ROOT / "dist"
_MEND = "Run ./yantai check; what is built is what that checks."


def build(out: Path = DIST) -> list[Path]:
    """Build both wheels into a folder; their paths."""
    environment.ensure_python(development=True)
    environment.ensure_web_build()
    return [build_whole(out), build_core(out)]


def build_whole(out: Path) -> Path:
    """The application with its built front end."""
    with step("building the application's wheel"), tempfile.TemporaryDirectory() as folder:
        source = Path(folder)
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            shutil.copy(ROOT / name, source)
        shutil.copytree(ROOT / "requirements", source / "requirements")
        shutil.copytree(ROOT / "src", source / "src", ignore=shutil.ignore_patterns("__pycache__"))
        return _built(source, out)


def build_core(out: Path) -> Path:
    """The rules alone: no database, no server, no formats."""
    with step("building the wheel of the rules"), tempfile.TemporaryDirectory() as folder:
        source = Path(folder)
        shutil.copy(ROOT / "packaging" / "core" / "pyproject.toml", source)
        core = Path("src") / "yantai" / "core"
        shutil.copytree(ROOT / core, source / core, ignore=shutil.ignore_patterns("__pycache__"))
        return _built(source, out)


def _built(source: Path, out: Path) -> Path:
    with tempfile.TemporaryDirectory() as folder:
        command: list[str | Path] = [BIN / "uv", "build", "-q", "--wheel", "--no-build-isolation"]
        run([*command, "--python", BIN / "python", "--out-dir", folder, source], mend=_MEND)
        (made,) = Path(folder).glob("*.whl")
        out.mkdir(parents=True, exist_ok=True)
        return Path(shutil.copy(made, out / made.name))
