"""A history file written again: without what is kept no longer, without what is repeated, without what was removed."""

from __future__ import annotations

from wesperon.history.file_format import HEADER, begins_before, count_of, entries, header, removals, written

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable


def trimmed(data: bytes, most: int | None, earliest: tuple[int, ...] | None) -> bytes | None:
    """Return a file without what the user wants to be kept no longer; None if that is not a tenth of it.

    ``most`` is how many entries are kept, ``earliest`` the time before which none is, as year to second in UTC; None
    for all. An entry whose time is not told is kept as long as those after it.
    """
    most = len(data) if most is None else most
    if count_of(data) <= most + most // 10 and (earliest is None or not begins_before(data, earliest)):
        return None
    every = list(entries(data))[-most:]
    first = 0
    if earliest is not None:
        first = max((at for at, one in enumerate(every, 1) if one.time and one.time < earliest), default=0)
    return header(removals(data)) + b"".join([written(entry) for entry in every[first:]])


def halved(data: bytes, limit: int) -> bytes:
    """Return a file with the newest entries, each once, in half of the bytes that it may have."""
    kept: list[bytes] = []
    size, seen = len(HEADER), set()
    for entry in reversed(list(entries(data))):
        if entry.text in seen:
            continue
        seen.add(entry.text)
        lines = written(entry)
        size += len(lines)
        if size > limit // 2:
            break
        kept.append(lines)
    return header(removals(data)) + b"".join(reversed(kept))


def without(data: bytes, is_meant: Callable[[str], bool]) -> tuple[bytes, int]:
    """Return a file without the entries whose texts are meant, which says so, and how many there were.

    It says so also if there were none: a console may have some that the file has lost, since it grew too large.
    """
    every = list(entries(data))
    kept = [entry for entry in every if not is_meant(entry.text)]
    return header(removals(data) + 1) + b"".join([written(entry) for entry in kept]), len(every) - len(kept)
