r"""The history file: a text that people can read, that is only ever appended to, and that is searched in one pass.

    # wesperon history 1                  the first line, which says whose the file is, and its version
    expose HOLLIN-051 90                      an entry as it was typed
    ·²⁰²⁶⁻¹¹⁻²³·⁰⁹·¹⁵·⁰²                  when it was entered: year, month, day, hour, minute, second, in UTC
    ⁼⁰                                    how it ended; ⁼²·¹⁴⁰ is that of the entry at byte 140, if others came between
    ⁼⁰·⁰·²                                right after the first line: how often entries were removed from the file
    note "first                           an entry of several lines:
    →light"                               all but the first begin with a tab

Numbers that are not part of an entry are written in superscript digits. So no text that anybody looks for is found
if no entry is, and a search is one pass over the memory of the file, whatever it looks for. A line that begins with
neither a tab nor one of the two signs begins an entry, so that a list of plain lines is a history too, without times. A
first line of an entry that would look like something else has a tab before it; where that could go on with an entry
without a time, a line with nothing but the sign of a time is between them.

Everything here works on bytes, in memory or in a file: ``Buffer`` is what both have.
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection, Iterator

    from wesperon.files.file_view import FileView

    Buffer = bytes | FileView

#: What every history file begins with, and the first line of this version.
OURS = b"# wesperon history "
HEADER = OURS + b"1\n"
#: The signs before a time and before a status.
TIME, STATUS = "·", "⁼"
SIGNS = (TIME.encode(), STATUS.encode())
DIGITS = "⁰¹²³⁴⁵⁶⁷⁸⁹"
_UP = {ord(str(value)): digit for value, digit in enumerate(DIGITS)} | {ord("-"): "⁻"}
_DOWN = {ord(digit): str(value) for value, digit in enumerate(DIGITS)} | {ord("⁻"): "-"}
#: So many entries in a row that have been shown already are looked at one by one; then whole stretches are.
PATIENT, STRETCH = 200, 1 << 16
#: The most bytes of repeated entries that one step of a search goes through; the next step goes on from there.
MOST_REPEATED = 1 << 20
#: How far after an entry its status is looked for, if others came between.
NEAR_STATUS = 1 << 16
#: So many entries are looked at one by one in one step.
MOST_REFUSED = 5_000
#: What is between the lines of one entry while several are compared at once.
JOINED = b"\0\t"


class Kept(Frozen):
    """An entry of a history file: its text; when it was entered, as year to second, and its status, if these are told.

    ``start`` and ``end`` are the offsets of its lines in the file.
    """

    text: str
    time: tuple[int, ...] | None
    status: int | None
    start: int
    end: int


def raised(number: int | str) -> str:
    """Return a number in superscript digits."""
    return str(number).translate(_UP)


def lowered(text: str) -> str:
    """Return the digits of a text as they usually are."""
    return text.translate(_DOWN)


def encoded(text: str) -> bytes:
    """Return the lines of an entry."""
    data = text.encode("utf-8", "surrogatepass").replace(b"\n", b"\n\t")
    return b"\t" + data + b"\n" if data.startswith((b"\t", *SIGNS)) else data + b"\n"


def line_between(lines: bytes) -> bytes:
    """Return what is written before the lines of an entry, so that they do not go on with one that has no time."""
    return SIGNS[0] + b"\n" if lines.startswith(b"\t") else b""


def time_line(time: tuple[int, ...]) -> bytes:
    """Return the line that says when an entry was made."""
    year, month, day, *clock = time[:6]
    parts = [f"{year:04}-{month:02}-{day:02}", *(f"{part:02}" for part in clock)]
    return (TIME + TIME.join(raised(part) for part in parts) + "\n").encode()


def status_line(status: int, start: int | None = None) -> bytes:
    """Return the line that says how an entry ended; ``start`` where it begins, if others are between."""
    return (STATUS + raised(status) + (TIME + raised(start) if start is not None else "") + "\n").encode()


def line_before(data: Buffer, end: int) -> int:
    """Return where the line begins that ends at an offset, its line end included."""
    return data.rfind(b"\n", 0, max(end - 1, 0)) + 1


def line_after(data: Buffer, start: int) -> int:
    """Return where the line ends that begins at an offset, its line end included."""
    end = data.find(b"\n", start)
    return len(data) if end < 0 else end + 1


def is_sign(data: Buffer, start: int) -> bool:
    """Return True if the line at an offset is none of an entry."""
    return data[start : start + 2] == SIGNS[0] or data[start : start + 3] == SIGNS[1]


def entry_around(data: Buffer, at: int, end: int) -> tuple[int, str] | None:
    """Return the offset and the text of the entry that has a line at ``at``, no further than ``end``.

    Return None if none has.
    """
    start = data.rfind(b"\n", 0, at) + 1
    if is_sign(data, start) or start < len(HEADER):
        return None
    while data[start : start + 1] == b"\t" and start > len(HEADER):
        above = line_before(data, start)
        if is_sign(data, above) or above < len(HEADER):
            break
        start = above
    stop = line_after(data, start)
    while stop < end and data[stop : stop + 1] == b"\t":
        stop = line_after(data, stop)
    return start, decoded(data[start : min(stop, end)])


def decoded(lines: bytes) -> str:
    """Return the text of an entry."""
    lines = lines.removesuffix(b"\n").removeprefix(b"\t").replace(b"\n\t", b"\n")
    try:
        return lines.decode("utf-8", "surrogatepass")
    except UnicodeDecodeError:
        return lines.decode("utf-8", "replace")


def entry_before(data: Buffer, end: int) -> tuple[int, str] | None:
    """Return the last entry before an offset where one begins or the text ends."""
    while end > len(HEADER):
        start = line_before(data, end)
        found = entry_around(data, start, end)
        if found is not None:
            return found
        end = start
    return None


def entry_after(data: Buffer, start: int, end: int) -> tuple[int, str] | None:
    """Return the first entry after the one that begins at an offset."""
    start = line_after(data, start)
    while start < end:
        found = (
            None if data[start : start + 1] == b"\t" and not is_first(data, start) else entry_around(data, start, end)
        )
        if found is not None:
            return found
        start = line_after(data, start)
    return None


def is_first(data: Buffer, start: int) -> bool:
    """Return True if a line that begins with a tab is the first of its entry."""
    above = line_before(data, start)
    return above < len(HEADER) or is_sign(data, above)


def last_of(data: Buffer, end: int, text: str) -> int | None:
    """Return the offset of the last entry of a text before an offset; None if there is none."""
    lines = b"\n" + encoded(text)
    at = data.rfind(lines, 0, end)
    while at >= 0:
        found = entry_around(data, at + 1, end)
        if found == (at + 1, text):
            return at + 1
        at = data.rfind(lines, 0, at + 1)
    return None


def whole_before(data: Buffer, end: int) -> int:
    """Return an offset before which there are whole entries only: this one, or where the entry begins that is cut."""
    while 0 < end < len(data) and (
        data[end - 1 : end] != b"\n" or (data[end : end + 1] == b"\t" and not is_first(data, end))
    ):
        end = line_before(data, end)
    return end


def search_back(data: Buffer, end: int, needle: str, *, begins: bool, seen: Collection[str]) -> tuple[int, str] | None:
    """Return the last entry before an offset that has the needle, or begins with it, and whose text is not in ``seen``.

    Where very many entries in a row are in ``seen``, an offset with an empty text says how far the search has come.
    """
    pattern = _pattern(needle, begins)
    if not needle:
        return _last_unseen(data, end, seen)
    refused = skipped = 0
    high = end
    while (at := data.rfind(pattern, 0, high)) >= 0:
        found = entry_around(data, at + begins, end)
        if found is None:
            high = line_before(data, at + 1)
            continue
        start, text = found
        matches = text.startswith(needle) if begins else needle in text
        if matches and text not in seen:
            return found
        high = min(start, at) + begins * (start > at)
        refused += 1
        if refused > PATIENT and seen:
            low = _skip(data, high, max(high - MOST_REPEATED + skipped, 0), pattern[begins:], begins, seen)
            skipped += high - low
            high, refused = low, 0
            if skipped >= MOST_REPEATED:
                return high, ""
    return None


def _last_unseen(data: Buffer, end: int, seen: Collection[str]) -> tuple[int, str] | None:
    """Return the last entry before an offset whose text is not in ``seen``; see ``search_back``."""
    refused = looked = skipped = 0
    found = entry_before(data, end)
    while found is not None and found[1] in seen:
        refused, looked = refused + 1, looked + 1
        high = found[0]
        if refused > PATIENT:
            refused = 0
            low = _skip(data, high, max(high - MOST_REPEATED + skipped, 0), b"", True, seen)
            skipped += high - low
            high = low
            if skipped >= MOST_REPEATED or looked > MOST_REFUSED:
                return high, ""
        found = entry_before(data, high)
    return found


def search_on(
    data: Buffer, start: int, end: int, needle: str, *, begins: bool, seen: Collection[str]
) -> tuple[int, str] | None:
    """Return the first entry after the one at ``start`` that has the needle, or begins with it, likewise."""
    pattern = _pattern(needle, begins)
    if not needle:
        found, refused = entry_after(data, start, end), 0
        while found is not None and found[1] in seen:
            refused += 1
            if refused > MOST_REFUSED:
                return found[0], ""
            found = entry_after(data, found[0], end)
        return found
    at = line_after(data, start) - begins
    while (at := data.find(pattern, at, end)) >= 0:
        found = entry_around(data, at + begins, end)
        if found is not None and found[0] > start and found[1] not in seen:
            text = found[1]
            if text.startswith(needle) if begins else needle in text:
                return found
        at = line_after(data, at + begins) - begins
    return None


def _pattern(needle: str, begins: bool) -> bytes:
    """Return the bytes that are in the file where an entry has the needle, or begins with it."""
    wanted = needle.encode("utf-8", "surrogatepass").replace(b"\n", b"\n\t")
    if not begins:
        return wanted
    return b"\n\t" + wanted if wanted.startswith(SIGNS) else b"\n" + wanted


def _skip(data: Buffer, high: int, least: int, wanted: bytes, begins: bool, seen: Collection[str]) -> int:
    """Return an offset after which, up to ``high``, no line has these bytes but those of entries in ``seen``.

    Looks no further than one stretch before ``least``.
    """
    known = {encoded(text)[:-1].replace(b"\n\t", JOINED) for text in seen}
    wanted = wanted.replace(b"\n\t", JOINED)
    while high > max(len(HEADER), least):
        low = line_before(data, max(high - STRETCH, 1))
        while data[low : low + 1] == b"\t" and low > len(HEADER):  # the lines of an entry stay together
            low = line_before(data, low)
        fresh = set(data[low:high].replace(b"\n\t", JOINED).split(b"\n")) - known - {b""}
        # An entry that begins with a tab is joined to what is before it, and is looked at by itself.
        if any(
            JOINED in line if line.startswith(SIGNS) else (line.startswith(wanted) if begins else wanted in line)
            for line in fresh
        ):
            return high
        high = low
    return high


def removals(head: bytes) -> int:
    """Return how often entries were removed from the file that begins so."""
    line = head[len(HEADER) : line_after(head, len(HEADER))].decode("utf-8", "replace").rstrip("\n")
    numbers = _numbers(line[1:]) if line.startswith(STATUS) else ()
    return numbers[2] if len(numbers) == 3 and not any(numbers[:2]) else 0


def header(removed: int) -> bytes:
    """Return what a file begins with from which entries were removed so often."""
    return HEADER + (f"{STATUS}{raised(0)}{TIME}{raised(0)}{TIME}{raised(removed)}\n".encode() if removed else b"")


def details_of(data: Buffer, start: int) -> tuple[tuple[int, ...] | None, int | None]:
    """Return the time and the status of the entry that begins at an offset, None for what is not told nearby."""
    time: tuple[int, ...] | None = None
    at = line_after(data, start)
    while data[at : at + 1] == b"\t":
        at = line_after(data, at)
    while is_sign(data, at):
        end = line_after(data, at)
        line = data[at:end].decode("utf-8", "replace").rstrip("\n")
        numbers = _numbers(line[1:].replace("⁻", TIME))
        if line.startswith(TIME):
            time = numbers if len(numbers) == 6 else time
        elif len(numbers) == 1:
            return time, numbers[0]
        at = end
    # Others have entered something before it ended: its status says where it begins.
    named = (TIME + raised(start) + "\n").encode()
    found = data.find(named, at, min(at + NEAR_STATUS, len(data)))
    if found < 0:
        return time, None
    line = data[line_before(data, found + 1) : found].decode("utf-8", "replace")
    numbers = _numbers(line[1:]) if line.startswith(STATUS) else ()
    return time, numbers[0] if numbers else None


def count_of(data: bytes) -> int:
    """Return how many entries there are, without reading them."""
    others = data.count(b"\n\t") + sum(data.count(b"\n" + sign) for sign in SIGNS)
    return max(data.count(b"\n") - 1 - others, 0)


def begins_before(data: bytes, time: tuple[int, ...]) -> bool:
    """Return True if the first entry whose time is told was made before this one."""
    at = data.find(b"\n" + SIGNS[0])
    while at >= 0:
        line = data[at + 1 : line_after(data, at + 1)].decode("utf-8", "replace").rstrip("\n")
        found = _numbers(line[1:].replace("⁻", TIME))
        if len(found) == len(time):
            return found < time
        at = data.find(b"\n" + SIGNS[0], at + 1)
    return False


def written(kept: Kept) -> bytes:
    """Return the lines of an entry with what is told of it."""
    lines = encoded(kept.text) + (time_line(kept.time) if kept.time else b"")
    return line_between(lines) + lines + (status_line(kept.status) if kept.status is not None else b"")


def entries(data: bytes) -> Iterator[Kept]:
    """Yield all entries, the oldest first, each with its time and its status."""
    found: dict[int, Kept] = {}
    start = len(HEADER) if data.startswith(HEADER) else 0
    last: int | None = None
    at = start
    while at < len(data):
        end = line_after(data, at)
        line = data[at:end].decode("utf-8", "replace").rstrip("\n")
        if line.startswith(TIME):
            time = _numbers(line[1:].replace("⁻", TIME))
            if last is not None and len(time) == 6:
                kept = found[last]
                found[last] = Kept(kept.text, time, kept.status, last, end)
        elif line.startswith(STATUS):
            numbers = _numbers(line[1:])
            of = numbers[1] if len(numbers) > 1 else last
            if of in found and numbers:
                kept = found[of]
                found[of] = Kept(kept.text, kept.time, numbers[0], kept.start, kept.end)
        else:
            while end < len(data) and data[end : end + 1] == b"\t":
                end = line_after(data, end)
            last = at
            found[at] = Kept(decoded(data[at:end]), None, None, at, end)
        at = end
    yield from found.values()


def _numbers(text: str) -> tuple[int, ...]:
    parts = [lowered(part) for part in text.split(TIME)]
    return tuple(int(part) for part in parts) if all(part.lstrip("-").isdecimal() for part in parts) else ()
