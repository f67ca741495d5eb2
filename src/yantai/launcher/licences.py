"""Whether every package that is installed has a licence that an MIT product may be built with."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from importlib.metadata import Distribution, distributions
from pathlib import Path

ALLOWED = {
    "0bsd",
    "3-clause bsd license",
    "apache-2.0",
    "apache software license",
    "blueoak-1.0.0",
    "bsd license",
    "bsd-2-clause",
    "bsd-3-clause",
    "cc0-1.0",
    "isc",
    "isc license (iscl)",
    "mit",
    "mit license",
    "mit-0",
    "ofl-1.1",
    "psf-2.0",
    "python-2.0",
    "unlicense",
    "zlib",
    # A change to such a package itself has to be published; what merely uses it stays ours.
    "lgpl-3.0-only",
    "mozilla public license 2.0 (mpl 2.0)",
    "mpl-2.0",
}

READ = {
    # "OSI Approved" says that the other one is, and is no licence.
    ("aiosmtpd", "OSI Approved AND Apache Software License"): "Apache Software License",
    # A tool of the tests. Its parts are under BSD, Apache 2.0, MIT, Boost, zlib, FreeType, IJG, libtiff and ICU terms.
    ("pypdfium2", "BSD-3-Clause, Apache-2.0, dependency licenses"): "BSD-3-Clause AND Apache-2.0",
}
"""Statements in words of their own, by package, with what they come to: somebody has read the texts beside them."""

_MIT_TEXT = "Permission is hereby granted, free of charge, to any person obtaining a copy"


def refused(python_packages: Path, npm_lock: Path) -> list[str]:
    """Packages whose licence is unknown or not allowed, with what they state."""
    stated = [*_python(python_packages), *_npm(npm_lock)]
    return sorted(f"{name}: {licence or 'states none'}" for name, licence in stated if not is_allowed(licence))


def is_allowed(licence: str) -> bool:
    """Whether a licence, or one of those to choose from, is allowed; each of those that hold together must be.

    >>> is_allowed("MIT OR GPL-2.0-only"), is_allowed("MIT AND GPL-2.0-only"), is_allowed("")
    (True, False, False)
    """
    choices = re.split(r"\s+OR\s+", _bare(licence))
    return any(
        all(_bare(part).casefold() in ALLOWED for part in re.split(r"\s+AND\s+", _bare(choice))) for choice in choices
    )


def _bare(licence: str) -> str:
    """Without brackets around the whole."""
    return re.sub(r"^\((.*)\)$", r"\1", licence.strip())


def _python(packages: Path) -> Iterator[tuple[str, str]]:
    for found in distributions(path=[str(packages)]):
        name, said = found.metadata["Name"], _licence(found)
        yield name, READ.get((name, said), said)


def _licence(found: Distribution) -> str:
    said = found.metadata["License-Expression"]
    if said:
        return str(said)
    classes = [one.split(" :: ")[-1] for one in found.metadata.get_all("Classifier") or () if one.startswith("License")]
    if classes and classes != ["OSI Approved"]:
        return " AND ".join(classes)
    texts = [found.metadata["License"] or ""]
    texts += [file.read_text() for file in found.files or () if file.name.upper().startswith("LICEN")]
    if any(_MIT_TEXT in re.sub(r"\s+", " ", text) for text in texts):
        return "MIT"
    return texts[0].partition("\n")[0]


def _npm(lock: Path) -> Iterator[tuple[str, str]]:
    for place, package in json.loads(lock.read_text(encoding="utf-8"))["packages"].items():
        if place:
            yield place.rpartition("node_modules/")[2], str(package.get("license") or "")
