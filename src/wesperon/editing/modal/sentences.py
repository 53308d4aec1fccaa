"""Sentences and paragraphs, as motions and objects of the modal family see them.

A paragraph is a run of lines that are not empty. A sentence ends at ``.``, ``!`` or ``?``, with any closing brackets
and quotes after it, if a blank or the end of the line follows; the end of a paragraph ends it too. The next one begins
at the next character that is no blank. An empty line that follows another line is a bound of its own.
"""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start

#: What ends a sentence, and what may be between that and the blank after it.
ENDS, CLOSERS = ".!?", ")]\"'"
BLANKS = " \t"


def is_empty_line(text: str, at: int) -> bool:
    """Return True if an offset is in a line without characters."""
    return text[at : at + 1] in ("", "\n") and (at == 0 or text[at - 1] == "\n")


def bounds(text: str) -> list[int]:
    """Return where sentences begin, empty lines that end a paragraph included, in order."""
    found: list[int] = []
    at, begins = 0, True
    while at < len(text):
        char = text[at]
        if char == "\n" and is_empty_line(text, at):
            if at == 0 or not is_empty_line(text, at - 1):
                found.append(at)
            begins = True
        elif at and (char in BLANKS or char == "\n"):
            pass
        elif begins:
            found.append(at)
            begins = False
        if char in ENDS:
            end = at + 1
            while end < len(text) and text[end] in CLOSERS:
                end += 1
            if end == len(text) or text[end] in BLANKS or text[end] == "\n":
                begins, at = True, end - 1
        at += 1
    return found


def sentence_bounds(text: str, at: int, step: int) -> list[int]:
    """Return the bounds of sentences after an offset, or those before it, the nearest first."""
    if step > 0:
        return [place for place in bounds(text) if place > at]
    return [place for place in [_last_empty(text, place) for place in reversed(bounds(text))] if place < at]


def _last_empty(text: str, at: int) -> int:
    """Return the last of the empty lines that begin at an offset; the offset itself if none does."""
    while text[at : at + 1] == "\n" and text[at + 1 : at + 2] in ("", "\n"):
        at += 1
    return at


def is_ended(text: str) -> bool:
    """Return True if the last sentence of a text has its end."""
    return text.rstrip(CLOSERS)[-1:] in tuple(ENDS)


def paragraph_bound(text: str, at: int, step: int) -> tuple[int, bool]:
    """Return the empty line after the paragraph, or before it, and whether there is one.

    Otherwise return the end or the start of the text.
    """
    there, has_text = line_start(text, at), not is_empty_line(text, line_start(text, at))
    while True:
        end = line_end(text, there)
        if (step > 0 and end == len(text)) or (step < 0 and there == 0):
            return (end if step > 0 else 0), False
        there = end + 1 if step > 0 else line_start(text, there - 1)
        empty = is_empty_line(text, there)
        if empty and has_text:
            return there, True
        has_text = has_text or not empty


def inner_paragraph(text: str, at: int, count: int) -> tuple[int, int] | None:
    """So many runs of lines that are blank, or are not, from the one at the cursor on."""
    start, end = _run_of_lines(text, at)
    for _ in range(count - 1):
        if end >= len(text):
            return None
        end = _run_of_lines(text, end + 1)[1]
    return start, end


def around_paragraph(text: str, at: int, count: int) -> tuple[int, int] | None:
    """So many paragraphs with the blank lines after them, or before if there are none after."""
    start, end = _run_of_lines(text, at)
    begins_blank = not text[start:end].strip()
    for number in range(count):
        if number or begins_blank:
            if end >= len(text):
                return None
            end = _run_of_lines(text, end + 1)[1]
        if begins_blank and number == count - 1:
            return start, end
        if end < len(text) and not _has_text(text, end + 1):
            end = _run_of_lines(text, end + 1)[1]
    if not begins_blank and _has_text(text, end) and start > 0 and not _has_text(text, start - 1):
        start = _run_of_lines(text, start - 1)[0]
    return start, end


def _has_text(text: str, at: int) -> bool:
    """Return True if the line of an offset has anything but blanks."""
    return bool(text[line_start(text, at) : line_end(text, at)].strip())


def _run_of_lines(text: str, at: int) -> tuple[int, int]:
    """Return the run of lines around an offset that have text, or of those that have none."""
    sort = _has_text(text, at)
    start, end = line_start(text, at), line_end(text, at)
    while start > 0 and _has_text(text, start - 1) == sort:
        start = line_start(text, start - 1)
    while end < len(text) and _has_text(text, end + 1) == sort:
        end = line_end(text, end + 1)
    return start, end


def inner_sentence(text: str, at: int, count: int) -> tuple[int, int] | None:
    """So many sentences, or blanks between two, from the one at the cursor on."""
    pieces = _pieces(text)
    here = _piece_at(pieces, at)
    if here is None:
        return None
    return pieces[here][0], pieces[min(here + count, len(pieces)) - 1][1]


def around_sentence(text: str, at: int, count: int) -> tuple[int, int] | None:
    """So many sentences with the blanks after them, or before if there are none after."""
    pieces = _pieces(text)
    here = _piece_at(pieces, at)
    if here is None:
        return None
    last = min(here + 2 * count, len(pieces)) - 1
    start, end = pieces[here][0], pieces[last][1]
    if not pieces[here][2] and pieces[last][0] == end and here > 0 and pieces[here - 1][0] < pieces[here - 1][1]:
        start = pieces[here - 1][0]
    return start, end


def _pieces(text: str) -> list[tuple[int, int, bool]]:
    """Return the sentences, and the blanks between them, which may be none: start, end, and whether it is blanks."""
    starts = bounds(text)
    pieces: list[tuple[int, int, bool]] = []
    if not starts or starts[0] > 0:
        pieces.append((0, starts[0] if starts else len(text), True))
    for number, start in enumerate(starts):
        until = starts[number + 1] if number + 1 < len(starts) else len(text)
        end = start + len(text[start:until].rstrip(BLANKS + "\n")) if text[start] != "\n" else min(start + 1, until)
        pieces.append((start, end, False))
        first = end + 1 if text[end : end + 1] == "\n" else end
        last = until - 1 if text[until - 1] == "\n" else until
        pieces.append((first, last, True) if first < last else (end, end, True))
    return pieces


def _piece_at(pieces: list[tuple[int, int, bool]], at: int) -> int | None:
    """Return the number of the piece that an offset is in, or after."""
    if pieces and at > pieces[-1][1]:
        return None
    return max((number for number, (start, end, _) in enumerate(pieces) if start <= at and start < end), default=None)
