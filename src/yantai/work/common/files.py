"""Files that cannot be read, in words."""

from __future__ import annotations

from yantai.formats.documents import BadFile
from yantai.work.common.errors import Invalid, sentence


def file_fault(error: BadFile) -> Invalid:
    """A file that cannot be read, as an error with its place in words."""
    where = f" ({error.location})" if error.location else ""
    return Invalid.at("/text", sentence(f"{error}{where}"))
