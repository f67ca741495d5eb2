"""Small changes made by chance to core and formats, one at a time: which of them does some test notice?

    PYTHONPATH=src:. python -m tests.tools.mutate --count 200 --seed 1 --workers 2 > survivors.md

Each change is made to a copy of the sources; the unit tests of core and formats run on it until one fails. What is
left is listed, to be looked at one by one: a change that alters nothing (an equivalent one) cannot be noticed.
"""

from __future__ import annotations

import argparse
import ast
import copy
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import Queue

ROOT = Path(__file__).parents[2]
PACKAGES = ("core", "formats")
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
    """One change: where it is, what it is, and the whole changed module."""

    file: Path
    line: int
    words: str
    text: str


def changes_of(file: Path) -> Iterator[Change]:
    """Every small change of a module."""
    tree = ast.parse(file.read_text(encoding="utf-8"))
    for place, node in enumerate(ast.walk(tree)):
        for number, (words, make) in enumerate(_variants(node)):
            del number
            mutant = copy.deepcopy(tree)
            twin = next(one for at, one in enumerate(ast.walk(mutant)) if at == place)
            make(twin)
            line = getattr(node, "lineno", 0)
            yield Change(file, line, words, ast.unparse(ast.fix_missing_locations(mutant)))


def _variants(node: ast.AST) -> Iterator[tuple[str, object]]:
    if isinstance(node, ast.Compare):
        for at, operator in enumerate(node.ops):
            if type(operator) in _SWAPS:
                other = _SWAPS[type(operator)]
                yield f"{_name(operator)} → {other.__name__}", lambda n, at=at, o=other: n.ops.__setitem__(at, o())
    elif isinstance(node, ast.BinOp | ast.BoolOp | ast.AugAssign) and type(node.op) in _SWAPS:
        other = _SWAPS[type(node.op)]
        yield f"{_name(node.op)} → {other.__name__}", lambda n, o=other: setattr(n, "op", o())
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.Not):
        yield "not left out", lambda n: setattr(n, "op", ast.UAdd()) or _truth(n)
    elif isinstance(node, ast.Constant) and type(node.value) in (int, float):
        value = node.value * 1.1 if isinstance(node.value, float) and node.value else node.value + 1
        yield f"{node.value} → {value:g}", lambda n, v=value: setattr(n, "value", v)
    elif isinstance(node, ast.Constant) and isinstance(node.value, bool):
        yield f"{node.value} → {not node.value}", lambda n: setattr(n, "value", not n.value)
    elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name | ast.Attribute):
        called = node.func.id if isinstance(node.func, ast.Name) else node.func.attr
        if called in _CALLS:
            field = "id" if isinstance(node.func, ast.Name) else "attr"
            yield f"{called} → {_CALLS[called]}", lambda n, f=field, c=called: setattr(n.func, f, _CALLS[c])
        elif called.startswith("require_"):
            yield f"{called} left out", lambda n: (setattr(n, "func", ast.Name("bool", ast.Load())), _empty(n))
    elif isinstance(node, ast.If) and len(node.body) == 1 and isinstance(node.body[0], ast.Raise):
        yield "guard left out", lambda n: setattr(n, "body", [ast.Pass()])
    elif isinstance(node, ast.If | ast.IfExp):
        yield "condition turned round", lambda n: setattr(n, "test", ast.UnaryOp(ast.Not(), n.test))


def _truth(node: ast.UnaryOp) -> None:
    # "not x" becomes "not not x".
    node.op, node.operand = ast.Not(), ast.UnaryOp(ast.Not(), node.operand)


def _empty(node: ast.Call) -> None:
    node.args, node.keywords = [], []


def _name(operator: ast.AST) -> str:
    return type(operator).__name__


def _modules() -> list[str]:
    """The test modules, quick ones first."""
    slow = ("test_engine", "test_exhaustive", "test_portions", "test_plan_document", "test_fit", "test_docstrings")
    found = [
        f"tests.{package}.{file.stem}"
        for package in PACKAGES
        for file in sorted((ROOT / "tests" / package).glob("test_*.py"))
    ]
    return sorted(found, key=lambda name: (name.rpartition(".")[2] in slow, name.endswith("engine"), name))


def noticed(change: Change, home: Path) -> str:
    """The first test module that fails on `change`, "" if none does."""
    target = home / "src" / change.file.relative_to(ROOT / "src")
    was = target.read_text(encoding="utf-8")
    target.write_text(change.text, encoding="utf-8")
    environment = {**os.environ, "PYTHONPATH": f"{home / 'src'}{os.pathsep}{ROOT}", "PYTHONDONTWRITEBYTECODE": "1"}
    # The tests of the same name are the likeliest to notice.
    near = sorted(_modules(), key=lambda name: change.file.stem not in name)
    try:
        for name in near:
            call = [sys.executable, "-m", "unittest", "-q", "-f", name]
            try:
                done = subprocess.run(
                    call, env=environment, cwd=ROOT, capture_output=True, timeout=LONGEST_S, check=False
                )
            except subprocess.TimeoutExpired:
                return f"{name} (no end)"
            if done.returncode:
                return name
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
