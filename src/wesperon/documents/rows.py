"""Data files: rows in TOML, JSON, YAML or CSV, or texts, one on each line."""

from __future__ import annotations

import csv
import io
import os

from wesperon.files.document import Document, read_text
from wesperon.text.messages import tell
from wesperon.values.problems import Problem, Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def read_rows(name: str, under: str = "") -> list[Any]:
    """Return the rows of a file: texts, numbers, or tables.

    In TOML, JSON and YAML they are a list, at the top or under a key; ``under`` names it if there are several. CSV
    has the names of its columns in the first line (RFC 4180). Any other file holds a text on each line; empty ones are
    left out. Raises Problems.
    """
    ending = os.path.splitext(name)[1].lower()
    if ending in (".toml", ".json", ".yaml", ".yml"):
        return _listed(Document(name), under)
    text = read_text(name)
    if ending == ".csv":
        try:
            rows: list[Any] = list(csv.DictReader(io.StringIO(text, newline=""), strict=True))
        except csv.Error as error:
            raise _unusable(name, tell("cannot be parsed: {error}", error=error)) from None
    else:
        rows = [line for line in text.splitlines() if line.strip()]
    if not rows:
        raise _unusable(name, tell("holds no rows"))
    return rows


def _listed(document: Document, under: str) -> list[Any]:
    top = document.top
    if under:
        top = top.get(under) if isinstance(top, dict) else None
    elif isinstance(top, dict):
        lists = [value for value in top.values() if isinstance(value, list)]
        top = lists[0] if len(lists) == 1 else None
    if not isinstance(top, list):
        wanted = tell("{key} must be a list", key=under) if under else tell("must hold exactly one list of rows")
        raise _unusable(document.name, wanted)
    if not top:
        raise _unusable(document.name, tell("holds no rows"))
    return top


def _unusable(name: str, reason: str) -> Problems:
    return Problems([Problem(reason, None, "file", name, location=name)])
