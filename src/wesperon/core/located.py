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
