"""Arguments as units of a text: runs of characters between blanks, in which quotes and backslashes keep blanks."""

from __future__ import annotations


def spans(text: str) -> list[tuple[int, int]]:
    """The offsets of the start and the end of each argument; an open quote goes on to the end of the text."""
    found: list[tuple[int, int]] = []
    start, quote, at = -1, "", 0
    while at < len(text):
        char = text[at]
        if not quote and char.isspace():
            if start >= 0:
                found.append((start, at))
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
        found.append((start, len(text)))
    return found
