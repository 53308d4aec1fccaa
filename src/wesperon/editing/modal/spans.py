"""What an operator acts on: from a motion or an object to a span of the text."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after
from wesperon.editing.modal.motions import (
    JUMPS,
    LARGE,
    MOTIONS,
    WORD_ENDS,
    WORDS_FORWARD,
    Target,
    first_sign,
)
from wesperon.editing.modal.operators import SHIFTS, Span
from wesperon.editing.modal.text_objects import OBJECTS, OF_LINES, OF_SENTENCES, sort_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.events import Action
    from wesperon.editing.modal.modal_text import ModalText

#: Motions that are the line of the cursor.
WHOLE_LINE = ("move-line-whole", "move-line-here")


def span_of(modal: ModalText, operator: str, motion: str, action: Action) -> Span | None:
    """Return what an operator with a motion or an object acts on; None if that is nothing."""
    text, at = modal.editor.draft.text, modal.editor.draft.cursor
    if motion in OBJECTS:
        around = OBJECTS[motion](text, at, max(action.count or 1, 1))
        if around is None:
            return None
        start, end = around
        if operator in SHIFTS and start < end == line_start(text, end):
            end -= 1
        if motion in OF_LINES or operator in SHIFTS:
            return _lines(modal, start, end, cursor=start)
        if motion in OF_SENTENCES:
            return _up_to(modal, operator, start, end + (text[end : end + 1] == "\n"))
        return _part(modal, operator, start, end)
    if operator == "change" and motion in WORD_ENDS and at < len(text) and not text[at].isspace():
        found = _word_to_change(modal, motion, action)
    else:
        found = modal.target(motion, action, operates=True)
    if found is None or (found.is_short and not found.reaches):
        return None
    start, end = min(at, found.at), max(at, found.at)
    is_before_line = "\n" in text[start:end] and end == line_start(text, end)
    if operator in SHIFTS and is_before_line and not found.lines and not found.inclusive:
        end -= 1
    if found.lines or operator in SHIFTS:
        return _lines(modal, start, end, cursor=at if motion in WHOLE_LINE and operator == "copy" else start)
    if motion in JUMPS:
        modal.places.leave(motion)
    if found.inclusive:
        end = min(after(text, end), line_end(text, end))
        return _part(modal, operator, start, end, is_large=motion in LARGE)
    return _up_to(modal, operator, start, end, is_large=motion in LARGE)


def _lines(modal: ModalText, start: int, end: int, cursor: int) -> Span | None:
    """Return the whole lines between two offsets; in one line, its characters."""
    text = modal.editor.draft.text
    if not modal.has_lines:
        return Span(0, len(text), modal.editor.draft.cursor)
    return Span(line_start(text, start), line_end(text, end), cursor, lines=True)


def _up_to(modal: ModalText, operator: str, start: int, end: int, *, is_large: bool = False) -> Span | None:
    """Return the characters up to an offset; up to a line is up to the end of the one before, of whole lines, lines."""
    text = modal.editor.draft.text
    if end > start and "\n" in text[start:end] and end == line_start(text, end):
        end -= 1
        if first_sign(text, start) >= start and modal.has_lines:
            return _lines(modal, start, end, cursor=start)
    return _part(modal, operator, start, end, is_large=is_large)


def _part(modal: ModalText, operator: str, start: int, end: int, *, is_large: bool = False) -> Span | None:
    """Return the characters between two offsets; a deletion that leaves but blanks of several lines takes the lines."""
    text = modal.editor.draft.text
    leaves_blanks = first_sign(text, start) >= start and not text[end : line_end(text, end)].strip()
    if operator == "delete" and leaves_blanks and "\n" in text[start:end]:
        return _lines(modal, start, end, cursor=start)
    return Span(start, end, start, is_large=is_large)


def _word_to_change(modal: ModalText, motion: str, action: Action) -> Target | None:
    """Return the end of the word that is changed; the one at the cursor counts, even if the cursor is at its end."""
    text, at = modal.editor.draft.text, modal.editor.draft.cursor
    big = motion == WORDS_FORWARD[1]
    count, kind, there = max(action.count or 1, 1), sort_of(text, at, big), at
    while (next_one := after(text, there)) < len(text) and sort_of(text, next_one, big) == kind:
        there = next_one
    if count == 1:
        return Target(there, inclusive=True)
    return MOTIONS[WORD_ENDS[motion]](text, there, count - 1)
