"""Find the line of every key of a TOML document, which the parser does not report."""

from __future__ import annotations

from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    import json
else:
    json = later("json")


def lines_of(text: str) -> dict[tuple[str | int, ...], int]:
    """Return the line, from 1, on which each table and each key of a TOML document begins, by its path from the top.

    The tables of an array are counted from 0. Keys within braces are not told apart.
    """
    found: dict[tuple[str | int, ...], int] = {}
    counts: dict[tuple[str | int, ...], int] = {}
    inside: tuple[str | int, ...] = ()
    closing = ""
    for number, line in enumerate(text.split("\n"), 1):
        if closing:  # within a text of several lines
            closing = "" if closing in line else closing
            continue
        bare = line.strip()
        if bare.startswith("["):
            is_array = bare.startswith("[[")
            inside = _counted(_parts(_heading(bare)), counts, is_array)
            for end in range(1, len(inside) + 1):
                found.setdefault(inside[:end], number)
            continue
        name, mark, value = split_row(bare)
        if mark and not bare.startswith("#"):
            keys = _parts(name)
            for end in range(1, len(keys) + 1):
                found.setdefault((*inside, *keys[:end]), number)
            for quotes in ('"""', "'''"):
                if value.count(quotes) == 1:
                    closing = quotes
    return found


def _counted(keys: tuple[str, ...], counts: dict[tuple[str | int, ...], int], is_array: bool) -> tuple[str | int, ...]:
    """Return the path of a table's heading, with the place in each array on the way."""
    path: tuple[str | int, ...] = ()
    for at, key in enumerate(keys):
        path = (*path, key)
        if is_array and at == len(keys) - 1:
            counts[path] = counts.get(path, -1) + 1
        if path in counts:
            path = (*path, counts[path])
    return path


def _parts(text: str) -> tuple[str, ...]:
    """Return the parts of a key with dots between them; a part in quotes may have dots of its own."""
    parts, quote, escaped = [""], "", False
    for char in text:
        if escaped:
            escaped = False
        elif quote:
            escaped = char == "\\" and quote == '"'
            quote = "" if char == quote else quote
        elif char in "\"'":
            quote = char
        elif char == ".":
            parts.append("")
            continue
        parts[-1] += char
    return tuple([_unquoted(part.strip()) for part in parts])


def _unquoted(part: str) -> str:
    """Return a part of a key without its quotes."""
    if part[:1] == '"' == part[-1:] and "\\" in part:
        try:
            return str(json.loads(part))
        except ValueError:  # an escape that JSON does not have
            return part[1:-1]
    return part[1:-1] if part[:1] == part[-1:] and part[:1] in ("'", '"') and len(part) > 1 else part


def split_row(row: str) -> tuple[str, str, str]:
    """Return a row before its first sign of equality that is not in quotes, the sign, and what is after it."""
    at = find_bare(row, "=")
    return (row, "", "") if at < 0 else (row[:at], "=", row[at + 1 :])


def _heading(row: str) -> str:
    """Return what is between the brackets of the heading of a table."""
    row = row.lstrip("[")
    at = find_bare(row, "]")
    return row if at < 0 else row[:at]


def find_bare(row: str, wanted: str) -> int:
    """Return where a character is that is not in quotes; -1 if it is not there."""
    quote = ""
    for at, char in enumerate(row):
        if quote:
            quote = "" if char == quote and (quote == "'" or row[at - 1] != "\\") else quote
        elif char in "\"'":
            quote = char
        elif char == wanted:
            return at
    return -1
