"""Putting in what a register holds: characters, whole lines, or a block of columns."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, before, columns_of
from wesperon.editing.modal.motions import first_sign
from wesperon.editing.modal.operators import bounded
from wesperon.editing.modal.registers import Block, WholeLines
from wesperon.editing.modal.selection import at_column, column_of
from wesperon.editing.text_state import TextState, insert


def pasted(draft: TextState, text: str, count: int, *, has_lines: bool, after_cursor: bool, goes_on: bool) -> TextState:
    """Return a draft with a text put in so often.

    The cursor is on the last character of the text, of lines on their first sign, or right after the text if it
    ``goes_on``. ``has_lines`` says whether there may be several lines.
    """
    count = bounded(count, text)
    if isinstance(text, WholeLines) and has_lines:
        return _lines(draft, text * count, after_cursor=after_cursor, goes_on=goes_on)
    at = draft.cursor
    if after_cursor:
        at = min(after(draft.text, at), line_end(draft.text, at))
    if isinstance(text, Block) and has_lines:
        return _block(draft.text, text, at, count, goes_on=goes_on)
    made = insert(TextState(draft.text, at), text * count)
    return made if goes_on else TextState(made.text, at if "\n" in text else before(made.text, made.cursor))


def _lines(draft: TextState, text: str, *, after_cursor: bool, goes_on: bool) -> TextState:
    """Whole lines, below the line of the cursor or above it."""
    if after_cursor:
        at = line_end(draft.text, draft.cursor)
        made, where = draft.text[:at] + "\n" + text[:-1] + draft.text[at:], at + 1
    else:
        at = where = line_start(draft.text, draft.cursor)
        made = draft.text[:at] + text + draft.text[at:]
    below = where + len(text)
    if goes_on:
        return TextState(made, below if below <= len(made) else line_start(made, len(made)))
    return TextState(made, first_sign(made, where))


def _block(draft: str, text: str, at: int, count: int, *, goes_on: bool) -> TextState:
    """Return the rows of a block, in as many lines, at the same column of each."""
    column, first = column_of(draft, at), draft.count("\n", 0, at)
    lines, rows = draft.split("\n"), text.split("\n")
    widest = max(columns_of(row) for row in rows)
    lines += [""] * (first + len(rows) - len(lines))
    after_it = 0
    for number, row in enumerate(rows, first):
        line = lines[number]
        place = at_column(line, 0, column)
        head = line[:place] + " " * (column - columns_of(line[:place]) if place == len(line) else 0)
        tail = line[place:]
        padded = row + " " * (widest - columns_of(row))
        put = padded * (count - 1) + (padded if tail else row)
        lines[number] = head + put + tail
        after_it = len(head + put)
    last = first + len(rows) - 1
    end = sum(len(line) + 1 for line in lines[:last]) + after_it
    return TextState("\n".join(lines), end if goes_on else at)
