"""Small changes made by chance to core and formats, one at a time: which of them does some test notice?

    PYTHONPATH=src:. python -m tests.tools.mutate --count 200 --seed 1 --workers 2 > survivors.md

Each change is made to a copy of the sources; the unit tests of core and formats run on it until one fails. What is
left is listed, to be looked at one by one: a change that alters nothing (an equivalent one) cannot be noticed.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import re
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from queue import Queue
from typing import Any

ROOT = Path(__file__).parents[2]
PACKAGES = ("core", "formats")
QUICK = 8
LONGEST_S = 240
"""A change that makes the tests go on for ever is noticed too."""

_SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
    ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In,
    ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult, ast.And: ast.Or, ast.Or: ast.And,
}  # fmt: skip
_CALLS = {"min": "max", "max": "min", "any": "all", "all": "any", "floor": "ceil", "ceil": "floor"}


@dataclass(frozen=True)
class Change:
    """One change: the node of the module's tree by its place in a walk, and which of its variants."""

    file: Path
    line: int
    words: str
    index: int
    variant: int

    def text(self) -> str:
        """The whole changed module."""
        tree = ast.parse(self.file.read_text(encoding="utf-8"))
        node = next(one for at, one in enumerate(ast.walk(tree)) if at == self.index)
        _, fields = list(_variants(node))[self.variant]
        for name, value in fields.items():
            setattr(node, name, value)
        return ast.unparse(ast.fix_missing_locations(tree))


def changes_of(file: Path) -> Iterator[Change]:
    """Every small change of a module."""
    tree = ast.parse(file.read_text(encoding="utf-8"))
    for index, node in enumerate(ast.walk(tree)):
        for variant, (words, _) in enumerate(_variants(node)):
            yield Change(file, getattr(node, "lineno", 0), words, index, variant)


def _variants(node: Any) -> Iterator[tuple[str, dict[str, Any]]]:
    """What may be changed at a node: in words, and the fields to set."""
    match node:
        case ast.Compare():
            for at, operator in enumerate(node.ops):
                if type(operator) in _SWAPS:
                    other = _SWAPS[type(operator)]
                    ops = [*node.ops[:at], other(), *node.ops[at + 1 :]]
                    yield f"{_name(operator)} → {other.__name__}", {"ops": ops}
        case ast.BinOp() | ast.BoolOp() | ast.AugAssign() if type(node.op) in _SWAPS:
            other = _SWAPS[type(node.op)]
            yield f"{_name(node.op)} → {other.__name__}", {"op": other()}
        case ast.UnaryOp(op=ast.Not()):
            yield "not left out", {"operand": ast.UnaryOp(ast.Not(), node.operand)}
        case ast.Constant(value=bool() as truth):
            yield f"{truth} → {not truth}", {"value": not truth}
        case ast.Constant(value=int() as whole):
            yield f"{whole} → {whole + 1}", {"value": whole + 1}
        case ast.Constant(value=float() as figure):
            other_figure = figure * 1.1 if figure else 1.0
            yield f"{figure} → {other_figure:g}", {"value": other_figure}
        case ast.Call(func=ast.Name(id=called)) if called in _CALLS:
            yield f"{called} → {_CALLS[called]}", {"func": ast.Name(_CALLS[called], ast.Load())}
        case ast.Call(func=ast.Attribute(value=of, attr=called)) if called in _CALLS:
            func = ast.Attribute(of, _CALLS[called], ast.Load())
            yield f"{called} → {_CALLS[called]}", {"func": func}
        case ast.Call(func=ast.Name(id=called)) if called.startswith("require_"):
            yield f"{called} left out", {"func": ast.Name("bool", ast.Load()), "args": [], "keywords": []}
        case ast.If(body=[ast.Raise()]):
            yield "guard left out", {"body": [ast.Pass()]}
        case ast.If() | ast.IfExp():
            yield "condition turned round", {"test": ast.UnaryOp(ast.Not(), node.test)}


def _name(operator: ast.AST) -> str:
    return type(operator).__name__


def _modules() -> list[str]:
    """The test modules, quick ones first."""
    slow = ("test_engine", "test_exhaustive", "test_portions", "test_plan_document", "test_fit", "test_docstrings")
    found = [
        ".".join(file.relative_to(ROOT).with_suffix("").parts)
        for package in PACKAGES
        for file in sorted((ROOT / "tests" / package).rglob("test_*.py"))
    ]
    return sorted(found, key=lambda name: (name.rpartition(".")[2] in slow, name.endswith("engine"), name))


def _is_near(module: str, file: Path) -> bool:
    """Whether tests name the changed module, or the package it is in: they are the likeliest to notice."""
    dotted = ".".join(file.relative_to(ROOT / "src").with_suffix("").parts)
    text = (ROOT / (module.replace(".", "/") + ".py")).read_text(encoding="utf-8")
    package = dotted.rpartition(".")[0]
    return dotted in text or (package not in ("yantai.core", "yantai.formats") and package in text)


@cache
def _imports(module: str) -> frozenset[str]:
    """The modules of the product that a test module brings in."""
    call = f"import sys, {module}; print(*(name for name in sys.modules if name.startswith('yantai')))"
    environment = {**os.environ, "PYTHONPATH": f"{ROOT / 'src'}{os.pathsep}{ROOT}"}
    done = subprocess.run([sys.executable, "-c", call], env=environment, capture_output=True, text=True, check=True)
    return frozenset(done.stdout.split())


def noticed(change: Change, home: Path) -> str:
    """The first test module that fails on `change`, "" if none does."""
    target = home / "src" / change.file.relative_to(ROOT / "src")
    was = target.read_text(encoding="utf-8")
    target.write_text(change.text(), encoding="utf-8")
    environment = {**os.environ, "PYTHONPATH": f"{home / 'src'}{os.pathsep}{ROOT}", "PYTHONDONTWRITEBYTECODE": "1"}
    dotted = ".".join(change.file.relative_to(ROOT / "src").with_suffix("").parts).removesuffix(".__init__")
    reached = [name for name in _modules() if dotted in _imports(name)]
    near = sorted(reached, key=lambda name: not _is_near(name, change.file))
    try:
        # In two processes: starting one takes longer than most tests do.
        for names in (near[:QUICK], near[QUICK:]):
            call = [sys.executable, "-m", "unittest", "-q", "-f", *names]
            try:
                done = subprocess.run(
                    call, env=environment, cwd=ROOT, capture_output=True, text=True, timeout=LONGEST_S, check=False
                )
            except subprocess.TimeoutExpired:
                return "a test without end"
            if names and done.returncode:
                named = re.search(r"^(?:FAIL|ERROR): .*?(tests\.\w+\.\w+)", done.stderr, re.MULTILINE)
                return named[1] if named else "an import"
        return ""
    finally:
        target.write_text(was, encoding="utf-8")


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--count", type=int, default=200)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--workers", type=int, default=2)
    given = parser.parse_args()
    files = [file for package in PACKAGES for file in sorted((ROOT / "src" / "yantai" / package).rglob("*.py"))]
    every = [change for file in files for change in changes_of(file)]
    chosen = random.Random(given.seed).sample(every, given.count)
    print(f"{len(every)} changes possible, {given.count} tried, seed {given.seed}\n", flush=True)
    homes: Queue[Path] = Queue()
    with tempfile.TemporaryDirectory() as scratch:
        for number in range(given.workers):
            home = Path(scratch) / str(number)
            shutil.copytree(ROOT / "src", home / "src", ignore=shutil.ignore_patterns("__pycache__"))
            homes.put(home)

        def tried(change: Change) -> tuple[Change, str]:
            home = homes.get()
            try:
                return change, noticed(change, home)
            finally:
                homes.put(home)

        left = 0
        with ThreadPoolExecutor(given.workers) as pool:
            for change, by in pool.map(tried, chosen):
                where = f"{change.file.relative_to(ROOT / 'src' / 'yantai')}:{change.line}"
                left += not by
                print(f"- {'noticed by ' + by if by else 'NOT NOTICED'}: {where}: {change.words}", flush=True)
    print(f"\n{given.count - left} of {given.count} noticed")


if __name__ == "__main__":
    main()
