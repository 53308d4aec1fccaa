"""Changing a document in TOML: one value is changed or added, everything else stays as it is, comments and order too.

Whatever is done to the text, it is read again and compared: the document must say what it said before, but for the one
path, else the next way is tried. One process at a time writes, so that none loses what another has just kept.
"""

from __future__ import annotations

import json
import os
import time

from wesperon.files.document import not_utf8, parsed
from wesperon.files.private import make_folder, open_private, replace_private, try_lock
from wesperon.files.toml_lines import find_bare, lines_of, split_row
from wesperon.values import Complaint, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

#: The most rows that a value is looked for in.
MOST_ROWS = 200
#: What the name of the file ends with whose lock a writer holds, and how long is waited for it, in seconds.
LOCK, PATIENCE = ".lock", 10.0


def set_value(file: str, path: tuple[str, ...], value: str) -> None:
    """Write one value, in TOML, into a file, which is made if there is none; raises OSError, or Complaint."""
    make_folder(os.path.dirname(file))
    with _Lock(file + LOCK):
        replace_private(file, with_value(_read(file), path, value).encode())


class _Lock:
    """The right to write a file, which one process has at a time; raises OSError where it cannot be had."""

    def __init__(self, path: str) -> None:
        self.path = path

    def __enter__(self) -> None:
        self.handle = open_private(self.path, os.O_RDWR | os.O_CREAT)
        end = time.monotonic() + PATIENCE
        while not try_lock(self.handle):
            if time.monotonic() > end:
                os.close(self.handle)
                raise TimeoutError(None, "another program is writing it")
            # The other one writes a file of a few lines: it is done before a second look.
            time.sleep(0.01)

    def __exit__(self, *error: object) -> None:
        os.close(self.handle)


def in_quotes(text: str) -> str:
    """Return a text as TOML has it."""
    return json.dumps(text, ensure_ascii=False).replace("\x7f", "\\u007f")


def with_value(text: str, path: tuple[str, ...], value: str) -> str:
    """Return a document in TOML in which a key of the top, or of a table, has a value; comments and the order stay.

    ``path`` are the names of the tables and the key. Raises Complaint if the document cannot be parsed, or if nothing
    that is tried says this and leaves all else as it was.
    """
    text = text.replace("\r\n", "\n")
    try:
        before = parsed("toml", text)
        wanted = _set(before, path, parsed("toml", f"value = {value}")["value"])
    except ValueError as error:
        raise Complaint(tell("cannot be parsed: {error}", error=error)) from None
    except TypeError:
        raise Complaint(tell("{name} cannot be set there: change it by hand", name=path[-1])) from None
    for made in _tries(text, path, value, wanted):
        made = made if made.endswith("\n") else made + "\n"
        try:
            if _same(parsed("toml", made), wanted):
                return made
        except ValueError:  # written there it would be no TOML: the next place
            continue
    raise Complaint(tell("{name} cannot be set there: change it by hand", name=path[-1]))


def _set(document: dict[str, Any], path: tuple[str, ...], value: Any) -> dict[str, Any]:
    """Return the document with a value at a path; raises TypeError where something else than a table is on the way."""
    made = dict(document)
    if len(path) == 1:
        held = made.get(path[0])
        if isinstance(held, dict) or (isinstance(held, list) and any(isinstance(one, dict) for one in held)):
            raise TypeError
        made[path[0]] = value
        return made
    below = made.get(path[0], {})
    if not isinstance(below, dict):
        raise TypeError
    made[path[0]] = _set(below, path[1:], value)
    return made


def _same(one: Any, other: Any) -> bool:
    """Return True if two values of TOML are the same: 1, 1.0 and true are three."""
    if type(one) is not type(other):
        return False
    if isinstance(one, dict):
        return one.keys() == other.keys() and all(_same(one[key], other[key]) for key in one)
    if isinstance(one, list):
        return len(one) == len(other) and all(map(_same, one, other))
    return bool(one == other or (one != one and other != other))


def _tries(text: str, path: tuple[str, ...], value: str, wanted: dict[str, Any]) -> Iterator[str]:
    """Yield the documents that may be meant, the one that changes least first."""
    rows, lines = text.split("\n"), lines_of(text)
    for depth in range(len(path), 0, -1):  # the key itself, else the table in braces that it is in
        at = lines.get(path[:depth])
        if at is None:
            continue
        here: Any = wanted
        for name in path[:depth]:
            here = here[name]
        said = value if depth == len(path) else literal(here)
        for count in range(1, min(len(rows) - at + 1, MOST_ROWS) + 1):
            head, sign, old = split_row(rows[at - 1])
            if sign:
                comment = _comment_of(old) if count == 1 else ""
                yield "\n".join([*rows[: at - 1], f"{head.rstrip()} = {said}{comment}", *rows[at - 1 + count :]])
    names = [_name(name) for name in path]
    table = [*rows[: _end_of_rows(rows, len(rows))], "", f"[{'.'.join(names[:-1])}]", f"{names[-1]} = {value}", ""]
    for depth in range(len(path) - 1, -1, -1):  # under the heading of its table, else of one that this is in
        row = f"{'.'.join(names[depth:])} = {value}"
        if len(path) > 1 and not depth:  # else in a table of its own
            yield "\n".join(table[1:] if not table[0] else table)
        start = lines.get(path[:depth], 0) if depth else 0
        if depth and not start:
            continue
        end = next((number for number in range(start, len(rows)) if rows[number].lstrip().startswith("[")), len(rows))
        while not depth and 0 < end < len(rows) and (not rows[end - 1].strip() or rows[end - 1].lstrip()[0] == "#"):
            end -= 1  # the comment above a heading belongs to that
        if depth == len(path) - 1 or not depth:
            yield "\n".join(_with_row(rows, _end_of_rows(rows, end), row))
    for place in range(min(len(rows), MOST_ROWS), -1, -1):  # wherever it means that
        for depth in range(len(path) - 1, -1, -1):
            yield "\n".join(_with_row(rows, place, f"{'.'.join(names[depth:])} = {value}"))


def _with_row(rows: list[str], at: int, row: str) -> list[str]:
    is_before_heading = not at and rows[0].startswith("[")
    return [*rows[:at], row, *([""] if is_before_heading else []), *rows[at:]]


def _name(key: str) -> str:
    """Return a key as TOML has it."""
    is_bare = key.isascii() and key.replace("-", "").replace("_", "").isalnum()
    return key if is_bare else in_quotes(key)


def literal(value: Any) -> str:
    """Return a value as TOML has it, in one row."""
    if isinstance(value, str):
        return in_quotes(value)
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, dict):
        return "{" + ", ".join([f"{_name(key)} = {literal(one)}" for key, one in value.items()]) + "}"
    if isinstance(value, list):
        return "[" + ", ".join(map(literal, value)) + "]"
    return value.isoformat() if hasattr(value, "isoformat") else repr(value)


def _end_of_rows(rows: list[str], end: int) -> int:
    """Return where a row can be put after the last that is not blank before ``end``."""
    while end > 0 and not rows[end - 1].strip():
        end -= 1
    return end


def _comment_of(value: str) -> str:
    """Return the comment after a value, with the blanks before it; empty if there is none."""
    at = find_bare(value, "#")
    return value[len(value[:at].rstrip()) :] if at >= 0 else ""


def _read(path: str) -> str:
    """Return the text of the file; empty if there is none. Raises Complaint if it is none, with the line."""
    try:
        with open(path, "rb") as file:
            data = file.read()
    except FileNotFoundError:
        return ""
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise Complaint(not_utf8(error)) from None
