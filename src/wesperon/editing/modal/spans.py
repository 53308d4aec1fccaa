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
    from wesperon.editing.modal.commands import Commands

#: Motions that are the line of the cursor.
WHOLE_LINE = ("move-line-whole", "move-line-here")


def span_of(commands: Commands, operator: str, motion: str, action: Action) -> Span | None:
    """Return what an operator with a motion or an object acts on; None if that is nothing."""
    text, at = commands.editor.draft.text, commands.editor.draft.cursor
    if motion in OBJECTS:
        around = OBJECTS[motion](text, at, max(action.count or 1, 1))
        if around is None:
            return None
        start, end = around
        if operator in SHIFTS and start < end == line_start(text, end):
            end -= 1
        if motion in OF_LINES or operator in SHIFTS:
            return _lines(commands, start, end, cursor=start)
        if motion in OF_SENTENCES:
            return _up_to(commands, operator, start, end + (text[end : end + 1] == "\n"))
        return _part(commands, operator, start, end)
    if operator == "change" and motion in WORD_ENDS and at < len(text) and not text[at].isspace():
        found = _word_to_change(commands, motion, action)
    else:
        found = commands.target(motion, action, operates=True)
    if found is None or (found.is_short and not found.reaches):
        return None
    start, end = min(at, found.at), max(at, found.at)
    is_before_line = "\n" in text[start:end] and end == line_start(text, end)
    if operator in SHIFTS and is_before_line and not found.lines and not found.inclusive:
        end -= 1
    if found.lines or operator in SHIFTS:
        return _lines(commands, start, end, cursor=at if motion in WHOLE_LINE and operator == "copy" else start)
    if motion in JUMPS:
        commands.places.leave(motion)
    if found.inclusive:
        end = min(after(text, end), line_end(text, end))
        return _part(commands, operator, start, end, is_large=motion in LARGE)
    return _up_to(commands, operator, start, end, is_large=motion in LARGE)


def _lines(commands: Commands, start: int, end: int, cursor: int) -> Span | None:
    """Return the whole lines between two offsets; in one line, its characters."""
    text = commands.editor.draft.text
    if not commands.has_lines:
        return Span(0, len(text), commands.editor.draft.cursor)
    return Span(line_start(text, start), line_end(text, end), cursor, lines=True)


def _up_to(commands: Commands, operator: str, start: int, end: int, *, is_large: bool = False) -> Span | None:
    """Return the characters up to an offset; up to a line is up to the end of the one before, of whole lines, lines."""
    text = commands.editor.draft.text
    if end > start and "\n" in text[start:end] and end == line_start(text, end):
        end -= 1
        if first_sign(text, start) >= start and commands.has_lines:
            return _lines(commands, start, end, cursor=start)
    return _part(commands, operator, start, end, is_large=is_large)


def _part(commands: Commands, operator: str, start: int, end: int, *, is_large: bool = False) -> Span | None:
    """Return the characters between two offsets; a deletion that leaves but blanks of several lines takes the lines."""
    text = commands.editor.draft.text
    leaves_blanks = first_sign(text, start) >= start and not text[end : line_end(text, end)].strip()
    if operator == "delete" and leaves_blanks and "\n" in text[start:end]:
        return _lines(commands, start, end, cursor=start)
    return Span(start, end, start, is_large=is_large)


def _word_to_change(commands: Commands, motion: str, action: Action) -> Target | None:
    """Return the end of the word that is changed; the one at the cursor counts, even if the cursor is at its end."""
    text, at = commands.editor.draft.text, commands.editor.draft.cursor
    big = motion == WORDS_FORWARD[1]
    count, kind, there = max(action.count or 1, 1), sort_of(text, at, big), at
    while (next_one := after(text, there)) < len(text) and sort_of(text, next_one, big) == kind:
        there = next_one
    if count == 1:
        return Target(there, inclusive=True)
    return MOTIONS[WORD_ENDS[motion]](text, there, count - 1)
