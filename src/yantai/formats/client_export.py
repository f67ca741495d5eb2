"""Everything about one client in one file: a ZIP with the whole as JSON, and each kind of it as CSV."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Mapping, Sequence
from datetime import date, datetime
from typing import Any

from yantai.formats.tables import unformulated

FORMAT = "yantai-client/1"
READ_ME = """This is everything that is kept about {name}, as of {at}.

client.json   all of it, for programs
*.csv         each kind of it as a table, for spreadsheets; weights are grams, energy is kcal

Left out are secrets of links, which are not kept either, and what is about other people.
"""


def write(name: str, tables: Mapping[str, Sequence[Mapping[str, Any]]], at: datetime) -> bytes:
    """The file. `tables` are rows by the kind of what they tell; kinds without a row are in the JSON alone."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        whole = {"format": FORMAT, "client": name, "at": at, **tables}
        _add(file, "README.txt", READ_ME.format(name=name, at=f"{at:%-d %B %Y}"), at)
        _add(file, "client.json", json.dumps(whole, default=_plain, ensure_ascii=False, indent=1), at)
        for kind, rows in tables.items():
            if rows:
                _add(file, f"{kind}.csv", _csv(rows), at)
    return out.getvalue()


def _add(file: zipfile.ZipFile, name: str, text: str, at: datetime) -> None:
    info = zipfile.ZipInfo(name, date_time=(at.year, at.month, at.day, at.hour, at.minute, at.second))
    info.compress_type = zipfile.ZIP_DEFLATED
    file.writestr(info, text.encode())


def _csv(rows: Sequence[Mapping[str, Any]]) -> str:
    out = io.StringIO(newline="")
    writer = csv.writer(out)
    headings = list(dict.fromkeys(heading for row in rows for heading in row))
    writer.writerow(headings)
    writer.writerows([_cell(row.get(heading)) for heading in headings] for row in rows)
    return "\ufeff" + out.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, list | dict):
        return json.dumps(value, default=_plain, ensure_ascii=False)
    return unformulated(value) if isinstance(value, str) else str(_plain(value) if not _is_number(value) else value)


def _is_number(value: Any) -> bool:
    return isinstance(value, int | float)


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, date | datetime) else str(value)
