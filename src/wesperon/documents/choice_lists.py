"""Choices in files: listed where they are used, or rows of a data file of their own."""

from __future__ import annotations

import os

from wesperon.documents.rows import read_rows
from wesperon.text.messages import tell
from wesperon.values.problems import Problems

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.documents.faults import Faults
    from wesperon.files.document import Path

#: What a choice that is a table may say.
CHOICE = ("label", "value", "note", "aliases", "disabled", "group")
#: What the table of choices in a file may say: the file, and which of its columns are what.
CHOICES_FILE = ("file", "under", *CHOICE)


class ListReader:
    """Reads lists of choices; what is wrong joins the faults."""

    def __init__(self, faults: Faults) -> None:
        self.faults = faults

    def choices_of(self, path: Path, given: Any) -> list[Any] | None:
        """Return the objects of a list of choices: texts, or tables with a label; None if something is wrong."""
        count = len(self.faults.problems)
        if isinstance(given, dict):
            table = self.faults.table(path, given, CHOICES_FILE)
            for key, value in table.items():
                self.faults.is_a((*path, key), value, str)
            if "file" not in table:
                self.faults.add(path, tell("file is missing: the file that holds the choices"))
            if len(self.faults.problems) > count:
                return None
            rows = self._rows(path, table["file"], table.get("under", ""))
            names = {key: table[key] for key in CHOICE if key in table}
            return None if rows is None else self._renamed(path, rows, names)
        if not self.faults.is_a(path, given, list):
            return None
        if not given:
            self.faults.add(path, tell("there is nothing to choose from: the list of choices is empty"))
            return None
        for at, entry in enumerate(given):
            self._choice((*path, at), entry)
        return given if len(self.faults.problems) == count else None

    def _choice(self, path: Path, entry: Any) -> None:
        if isinstance(entry, dict):
            table = self.faults.table(path, entry, CHOICE)
            if "label" not in table:
                self.faults.add(path, tell("label is missing: the text of the choice"))
            for key in table:
                if key == "aliases":
                    if self.faults.is_a((*path, key), table[key], str, list) and isinstance(table[key], list):
                        for at, word in enumerate(table[key]):
                            self.faults.is_a((*path, key, at), word, str)
                elif key != "value":
                    self.faults.is_a((*path, key), table[key], str)
        elif not isinstance(entry, (str, int, float)) or isinstance(entry, bool):
            self.faults.wrong(path, entry, tell("a text, a number or a table with a label"))

    def _rows(self, path: Path, name: str, under: str) -> list[Any] | None:
        """Return the rows of a data file, which is beside the set."""
        try:
            return read_rows(os.path.join(self.faults.document.folder, name), under)
        except Problems as problems:
            for problem in problems:
                self.faults.add((*path, "file"), f"{problem.location}: {problem.reason}", name)
            return None

    def _renamed(self, path: Path, rows: list[Any], columns: Mapping[str, str]) -> list[Any] | None:
        """Return the rows with what their columns mean; what else they hold stays in them."""
        made = []
        for at, row in enumerate(rows):
            if not isinstance(row, dict):
                made.append(row)
                continue
            entry = {
                **row,
                **{key: row[column] for key, column in columns.items() if row.get(column) not in (None, "")},
            }
            if not entry.get("label"):
                column = columns.get("label", "label")
                self.faults.add(
                    (*path, "file"), tell("row {at} has no {column}, which is its label", at=at + 1, column=column)
                )
                return None
            made.append(entry)
        return made

    def suggested(self, path: Path, given: dict[str, Any]) -> list[tuple[str, str]]:
        """Return the texts of a data file with their notes."""
        table = self.faults.table(path, given, CHOICES_FILE)
        rows = self._rows(path, str(table["file"]), str(table.get("under", "")))
        rows = self._renamed(path, rows or [], {key: str(table[key]) for key in CHOICE if key in table})
        return [(label_of(row), column("note")(row) or "") for row in rows or []]


def label_of(entry: Any) -> str:
    """Return the label of a choice in a file."""
    return str(entry["label"]) if isinstance(entry, dict) else str(entry)


def value_of_choice(entry: Any) -> Any:
    """Return what a choice in a file means: its value, else its label."""
    return entry.get("value", entry["label"]) if isinstance(entry, dict) else entry


def column(key: str) -> Callable[[Any], Any]:
    """Return a function that gives what a choice in a file says under a key."""
    return lambda entry: entry.get(key) if isinstance(entry, dict) else None
