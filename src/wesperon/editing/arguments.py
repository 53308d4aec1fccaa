"""Arguments as units of a text: runs of characters between blanks, in which quotes and backslashes keep blanks."""

from __future__ import annotations

from bisect import bisect_left, bisect_right

from wesperon.frozen import remembered


def end_after(text: str, at: int) -> int:
    """The end of the first argument that ends after an offset; the end of the text if there is none."""
    ends = spans(text)[1]
    place = bisect_right(ends, at)
    return ends[place] if place < len(ends) else len(text)


def start_before(text: str, at: int) -> int:
    """The start of the last argument that begins before an offset; the start of the text if there is none."""
    starts = spans(text)[0]
    place = bisect_left(starts, at)
    return starts[place - 1] if place else 0


@remembered(1)
def spans(text: str) -> tuple[list[int], list[int]]:
    """The offsets of the start and of the end of each argument; an open quote goes on to the end of the text."""
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
