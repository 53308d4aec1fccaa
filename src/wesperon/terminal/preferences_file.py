"""Writing what a user prefers: one line of ``preferences.toml`` is changed or added, everything else stays as it is."""

from __future__ import annotations

import os

from wesperon.text.escape import visible
from wesperon.user_folders import preference_path
from wesperon.values import Complaint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping


def write_preferences(program: str, values: Mapping[str, str]) -> list[str]:
    """Keep preferences for a program, or for all of them without a name. Return what went wrong, in lines."""
    path = preference_path(program)
    try:
        for name, said in values.items():
            set_value(path, (name,), as_toml(name, said))
    except (OSError, Complaint) as error:
        reason = error.reason if isinstance(error, Complaint) else error.strerror or str(error)
        return [visible(f"{path} is not written: {reason}")]
    return []


def set_value(file: str, path: tuple[str, ...], value: str) -> None:
    """Write one value, in TOML, into a file, which is made if there is none; raises OSError, or Complaint."""
    _write(file, with_value(_read(file), path, value))


def as_toml(name: str, said: str) -> str:
    """The value of a preference as a file has it."""
    from wesperon.widgets.preferences import SWITCHES, value_of

    if name in SWITCHES:
        return "true" if value_of(name, said) == "yes" else "false"
    return in_quotes(said)


def in_quotes(text: str) -> str:
    """A text as TOML has it."""
    import json

    return json.dumps(text, ensure_ascii=False).replace("\x7f", "\\u007f")


def with_value(text: str, path: tuple[str, ...], value: str) -> str:
    """A document in TOML in which a key of the top, or of a table, has a value; comments and the order stay.

    ``path`` are the table's names and the key. Raises Complaint if the document cannot be parsed, or the key has a
    value there that is more than one line.
    """
    from wesperon.files.document import parsed
    from wesperon.files.toml_lines import lines_of

    try:
        parsed("toml", text)
    except ValueError as error:
        raise Complaint(f"cannot be parsed: {error}") from None
    rows, lines = text.split("\n"), lines_of(text)
    table, key = path[:-1], path[-1]
    bare = key if key.replace("-", "").replace("_", "").isalnum() and key.isascii() else in_quotes(key)
    at = lines.get(path)
    if at is not None:
        row = rows[at - 1]
        name, _, old = row.partition("=")
        rows[at - 1] = f"{name.rstrip()} = {value}{_comment_of(old)}"
    elif not table:
        first = next((number for number, row in enumerate(rows) if row.lstrip().startswith("[")), len(rows))
        while (
            first > 0
            and (not rows[first - 1].strip() or rows[first - 1].lstrip().startswith("#"))
            and first < len(rows)
        ):
            first -= 1
        rows.insert(_end_of_rows(rows, first), f"{bare} = {value}")
    elif table in lines:
        start = lines[table]
        end = next((number for number in range(start, len(rows)) if rows[number].lstrip().startswith("[")), len(rows))
        rows.insert(_end_of_rows(rows, end), f"{bare} = {value}")
    else:
        rows = [*rows[: _end_of_rows(rows, len(rows))], "", f"[{'.'.join(table)}]", f"{bare} = {value}", ""]
        rows = rows[1:] if not rows[0] else rows
    made = "\n".join(rows)
    made = made if made.endswith("\n") else made + "\n"
    try:
        parsed("toml", made)
    except ValueError:
        raise Complaint(f"{key} has a value there that is more than one line: change it by hand") from None
    return made


def _end_of_rows(rows: list[str], end: int) -> int:
    """Where a row can be put after the last that is not blank before ``end``."""
    while end > 0 and not rows[end - 1].strip():
        end -= 1
    return end


def _comment_of(value: str) -> str:
    """The comment after a value, with the blanks before it; empty if there is none."""
    quote = ""
    for at, char in enumerate(value):
        if quote:
            quote = "" if char == quote and (quote == "'" or value[at - 1] != "\\") else quote
        elif char in "\"'":
            quote = char
        elif char == "#":
            before = value[:at]
            return before[len(before.rstrip()) :] + value[at:]
    return ""


def _read(path: str) -> str:
    """The text of the file; empty if there is none."""
    if not os.path.exists(path):
        return ""
    with open(path, encoding="utf-8-sig") as file:
        return file.read()


def _write(path: str, text: str) -> None:
    from wesperon.files.private import make_folder, replace_private

    make_folder(os.path.dirname(path))
    replace_private(path, text.encode())
