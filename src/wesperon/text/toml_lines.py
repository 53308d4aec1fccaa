"""Where something stands in a text that a parser has read without saying so."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence


def line_of(text: str, where: Sequence[str]) -> int | None:
    """The line, from 1, on which a key stands, as far as a look at the lines can tell; None where it cannot."""
    *path, key = where
    inside: list[str] = []
    for number, line in enumerate(text.splitlines(), 1):
        bare = line.strip()
        if bare.startswith("[") and bare.rstrip().endswith("]") and "=" not in bare:
            inside = [part.strip().strip("\"'") for part in bare.strip("[]").split(".")]
            if inside == [*path, key]:
                return number
            continue
        name, mark, _ = bare.lstrip("{, ").partition("=" if "=" in bare else ":")
        if mark and name.strip().strip("\"'") == key and (not path or inside == path or ":" in mark):
            return number
    return None


def lines_of(text: str) -> dict[tuple[str | int, ...], int]:
    """The line, from 1, on which each table and each key of a TOML document begins, by its path from the top.

    The tables of an array are counted from 0. Keys within braces are not told apart.
    """
    found: dict[tuple[str | int, ...], int] = {}
    counts: dict[tuple[str | int, ...], int] = {}
    inside: tuple[str | int, ...] = ()
    closing = ""
    for number, line in enumerate(text.splitlines(), 1):
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
