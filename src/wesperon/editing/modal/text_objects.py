"""Text objects of the modal family: what an operator takes around the cursor, wherever in it the cursor is.

*Inner* objects are the thing itself, the others (*around*) have with them what belongs to it: the blanks after a word,
or before it if there are none after; the quotes of a text; the brackets; the blanks after a sentence; the blank lines
after a paragraph. If the cursor is in no quotes or brackets, the
next ones are meant.
"""

from __future__ import annotations

from wesperon.editing.brackets import PAIRS
from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, before
from wesperon.editing.modal.sentences import around_paragraph, around_sentence, inner_paragraph, inner_sentence

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    #: From a text, the cursor and a count to the range; None if there is no such object.
    TextObject = Callable[[str, int, int], tuple[int, int] | None]


def sort_of(text: str, at: int, big: bool) -> int:
    """0 for a blank or the end, 1 for another sign, 2 for a character of a word; of a blank word all signs are one."""
    if at >= len(text):
        return 0
    char = text[at]
    return 0 if char.isspace() else 1 if big or not (char.isalnum() or char == "_") else 2


def _run(text: str, at: int, big: bool) -> tuple[int, int]:
    """Return the run of characters of one sort around an offset, in its line."""
    first, last, sort = line_start(text, at), line_end(text, at), sort_of(text, at, big)
    start, end = at, after(text, at)
    while start > first and sort_of(text, before(text, start), big) == sort:
        start = before(text, start)
    while end < last and sort_of(text, end, big) == sort:
        end = after(text, end)
    return start, end


def _inner_word(big: bool) -> TextObject:
    def found(text: str, at: int, count: int) -> tuple[int, int] | None:
        if at >= line_end(text, at):
            return None
        start, end = _run(text, at, big)
        for _ in range(count - 1):
            if end >= line_end(text, at):
                return None
            end = _run(text, end, big)[1]
        return start, end

    return found


def _around_word(big: bool) -> TextObject:
    def found(text: str, at: int, count: int) -> tuple[int, int] | None:
        last = line_end(text, at)
        if at >= last:
            return None
        start, end = _run(text, at, big)
        begins_blank = text[start].isspace()
        for number in range(count):
            if (number or begins_blank) and end >= last:
                return None
            is_blank = text[end : end + 1].isspace() if number else begins_blank
            if number and is_blank:
                end = _run(text, end, big)[1]
                if end >= last:
                    return None
            if number or begins_blank:
                end = _run(text, end, big)[1]
            if not is_blank and end < last and text[end].isspace():
                end = _run(text, end, big)[1]
        if not begins_blank and not text[end - 1].isspace() and start > line_start(text, at):
            while start > line_start(text, at) and text[start - 1].isspace():
                start -= 1
            if start == line_start(text, at):  # blanks that begin a line stay
                start = _run(text, at, big)[0]
        return start, end

    return found


def _quoted(mark: str, around: bool) -> TextObject:
    def found(text: str, at: int, count: int) -> tuple[int, int] | None:
        first, last = line_start(text, at), line_end(text, at)
        marks = [place for place in range(first, last) if text[place] == mark and not _is_escaped(text, place, first)]
        pairs = list(zip(marks[::2], marks[1::2], strict=False))
        inside = [pair for pair in pairs if pair[0] <= at <= pair[1]] or [pair for pair in pairs if pair[0] > at]
        if not inside:
            return None
        start, end = inside[0]
        if not around:
            return (start + 1, end) if count == 1 else (start, end + 1)
        end += 1
        if end < last and text[end].isspace():
            return start, _run(text, end, True)[1]
        while start > first and text[start - 1].isspace():
            start -= 1
        return start, end

    return found


def _is_escaped(text: str, at: int, first: int) -> bool:
    bare = text[first:at]
    return (len(bare) - len(bare.rstrip("\\"))) % 2 == 1


def _bracketed(opening: str, around: bool) -> TextObject:
    closing = {**PAIRS, "<": ">"}[opening]

    def found(text: str, at: int, count: int) -> tuple[int, int] | None:
        start = _opening(text, at, opening, closing, count)
        if start is None:
            later = [place for place in range(at, len(text)) if text[place] == opening]
            is_inside = text[at : at + 1] == opening or _opening(text, at, opening, closing, 1) is not None
            if is_inside or len(later) < count:
                return None
            start = later[count - 1]
        depth = 0
        for end in range(start, len(text)):
            depth += (text[end] == opening) - (text[end] == closing)
            if depth == 0:
                return (start, end + 1) if around else (start + 1, end)
        return None

    return found


def _opening(text: str, at: int, opening: str, closing: str, count: int) -> int | None:
    """Return the ``count``-th opening bracket around an offset, counted from inside.

    A bracket at the offset itself counts.
    """
    depth = count - 1 if text[at : at + 1] == opening else count
    if text[at : at + 1] == opening and depth == 0:
        return at
    for place in range(at - 1, -1, -1):
        depth += (text[place] == closing) - (text[place] == opening)
        if depth == 0:
            return place
    return None


#: The objects by the name of their action.
OBJECTS: dict[str, TextObject] = {
    "inner-word": _inner_word(False),
    "around-word": _around_word(False),
    "inner-blank-word": _inner_word(True),
    "around-blank-word": _around_word(True),
    "inner-double-quotes": _quoted('"', False),
    "around-double-quotes": _quoted('"', True),
    "inner-single-quotes": _quoted("'", False),
    "around-single-quotes": _quoted("'", True),
    "inner-backquotes": _quoted("`", False),
    "around-backquotes": _quoted("`", True),
    "inner-parentheses": _bracketed("(", False),
    "around-parentheses": _bracketed("(", True),
    "inner-brackets": _bracketed("[", False),
    "around-brackets": _bracketed("[", True),
    "inner-braces": _bracketed("{", False),
    "around-braces": _bracketed("{", True),
    "inner-angles": _bracketed("<", False),
    "around-angles": _bracketed("<", True),
    "inner-sentence": inner_sentence,
    "around-sentence": around_sentence,
    "inner-paragraph": inner_paragraph,
    "around-paragraph": around_paragraph,
}
#: Those that go up to the next line, if they end at the end of one.
OF_SENTENCES = ("inner-sentence", "around-sentence")
#: Those that are whole lines.
OF_LINES = ("inner-paragraph", "around-paragraph")
