"""Find the line of every key of a TOML document, which the parser does not report."""

from __future__ import annotations


def lines_of(text: str) -> dict[tuple[str | int, ...], int]:
    """The line, from 1, on which each table and each key of a TOML document begins, by its path from the top.

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
            inside = _counted(_keys(bare.strip("[").partition("]")[0]), counts, is_array)
            for end in range(1, len(inside) + 1):
                found.setdefault(inside[:end], number)
            continue
        name, mark, value = bare.partition("=")
        if mark and not bare.startswith("#"):
            keys = _keys(name)
            for end in range(1, len(keys) + 1):
                found.setdefault((*inside, *keys[:end]), number)
            for quotes in ('"""', "'''"):
                if value.count(quotes) == 1:
                    closing = quotes
    return found


def _counted(keys: tuple[str, ...], counts: dict[tuple[str | int, ...], int], is_array: bool) -> tuple[str | int, ...]:
    """The path of a table's heading, with the place in each array on the way."""
    path: tuple[str | int, ...] = ()
    for at, key in enumerate(keys):
        path = (*path, key)
        if is_array and at == len(keys) - 1:
            counts[path] = counts.get(path, -1) + 1
        if path in counts:
            path = (*path, counts[path])
    return path


def _keys(text: str) -> tuple[str, ...]:
    """The parts of a key with dots between them."""
    return tuple([part.strip().strip("\"'") for part in text.split(".")])
