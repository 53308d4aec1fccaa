"""Arguments as units of a text: runs of characters between blanks, in which quotes and backslashes keep blanks."""

from __future__ import annotations

from bisect import bisect_left, bisect_right

#: What was found last, by the hash and the length of the text: a text may be a secret, and is not kept here.
_last: tuple[tuple[int, int], tuple[list[int], list[int]]] = ((0, -1), ([], []))


def end_after(text: str, at: int) -> int:
    """Return the end of the first argument that ends after an offset; the end of the text if there is none."""
    ends = spans(text)[1]
    index = bisect_right(ends, at)
    return ends[index] if index < len(ends) else len(text)


def start_before(text: str, at: int) -> int:
    """Return the start of the last argument that begins before an offset; the start of the text if there is none."""
    starts = spans(text)[0]
    index = bisect_left(starts, at)
    return starts[index - 1] if index else 0


def spans(text: str) -> tuple[list[int], list[int]]:
    """Return the offsets of the start and of the end of each argument; an open quote goes on to the end of the text."""
    global _last
    mark, found = _last
    now = hash(text), len(text)
    if mark != now:
        found = _find_spans(text)
        _last = now, found
    return found


def _find_spans(text: str) -> tuple[list[int], list[int]]:
    starts: list[int] = []
    ends: list[int] = []
    start, quote, at = -1, "", 0
    while at < len(text):
        char = text[at]
        if not quote and char.isspace():
            if start >= 0:
                starts.append(start)
                ends.append(at)
            start = -1
        else:
            start = at if start < 0 else start
            if char == "\\" and quote != "'":
                at += 1
            elif char == quote:
                quote = ""
            elif not quote and char in "'\"":
                quote = char
        at += 1
    if start >= 0:
        starts.append(start)
        ends.append(len(text))
    return starts, ends
