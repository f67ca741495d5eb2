"""CSV text as people's programs write it, comma, semicolon or tab, with headings; and what they read in ours."""

from __future__ import annotations

import csv
import io

from yantai.formats.documents import BadFile

LARGEST_CHARS = 12_000_000
MOST_ROWS = 50_000


def rows(text: str) -> tuple[list[str], list[tuple[int, dict[str, str]]]]:
    """The headings, and each row as heading to text with its line number; empty rows are left out.

    Raises:
        BadFile: it is too large, no text, or has no headings.
    """
    if len(text) > LARGEST_CHARS:
        raise BadFile(
            f"this file is {len(text) / 1e6:.0f} MB; up to {LARGEST_CHARS // 1_000_000} MB fit at "
            "once. Split it in parts"
        )
    if "\x00" in text:
        raise BadFile("this is not a CSV text; in a spreadsheet, save it as “CSV UTF-8”")
    if "\ufffd" in text:
        line = text[: text.index("\ufffd")].count("\n") + 1
        raise BadFile(
            "some letters cannot be read: the file is not UTF-8; save it as “CSV UTF-8”", location=f"line {line}"
        )
    text = text.lstrip("\ufeff")
    first = text.partition("\n")[0]
    delimiter = max(",;\t", key=first.count)
    reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
    try:
        headings = [cell.strip() for cell in next(reader, [])]
        if sum(bool(heading) for heading in headings) < 2:
            raise BadFile("the first line must hold the headings, at least a name and one figure", location="line 1")
        found: list[tuple[int, dict[str, str]]] = []
        for cells in reader:
            if not any(cell.strip() for cell in cells):
                continue
            if len(found) >= MOST_ROWS:
                raise BadFile(f"more than {MOST_ROWS:,} lines; split the file", location=f"line {reader.line_num}")
            values = dict(zip(headings, (cell.strip() for cell in cells), strict=False))
            found.append((reader.line_num, values))
    except csv.Error as error:
        raise BadFile(f"this line is no CSV: {error}", location=f"line {reader.line_num}") from error
    return headings, found


def unformulated(text: str) -> str:
    """A text that no spreadsheet takes for a formula.

    >>> unformulated("=1+1"), unformulated("Rice")
    ("'=1+1", 'Rice')
    """
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text


def number(text: str) -> float | None:
    """A figure with point or comma; None for an empty cell or a mark of "not stated" or a trace.

    Raises:
        ValueError: it is no figure.
    """
    plain = text.strip().replace("\u00a0", "").replace(" ", "")
    if plain.casefold() in ("", "-", "–", "na", "n/a", "nd", "n", "null"):
        return None
    if plain.casefold() in ("tr", "trace", "traces"):
        return 0.0
    plain = plain.removeprefix("<").removesuffix("g") if plain.startswith("<") else plain
    return float(plain.replace(",", "."))
