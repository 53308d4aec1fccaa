"""The motions of the modal family: from the cursor to another place in the text.

Words are runs of letters, digits and ``_``, or runs of other characters that are no blanks; *blank words* are runs of
anything but blanks. An empty line is a word of its own.
"""

from __future__ import annotations

from wesperon.editing.brackets import CLOSING, PAIRS
from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, before
from wesperon.editing.text_objects import sort_of
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    Motion = Callable[[str, int, int], "Target | None"]
    LineMotion = Callable[[str, int, int | None], "Target | None"]


class Target(Frozen):
    """Where a motion leads: an offset, and whether an operator takes the character there as well.

    ``is_short``: the way was too short for the count; a motion goes as far as it can, an operator does nothing.
    """

    at: int
    inclusive: bool = False
    is_short: bool = False


def _skip_blanks(text: str, at: int) -> int:
    """Over blanks and line ends to the next sign, or to an empty line, which is a word of its own."""
    while at < len(text) and text[at].isspace():
        if text[at] == "\n" and text[at + 1 : at + 2] == "\n":
            return at + 1
        at = after(text, at)
    return at


def _words_forward(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            if there >= len(text):
                break
            kind = sort_of(text, there, big)
            if text[there] == "\n":  # an empty line
                there += 1
                if text[there : there + 1] == "\n":
                    continue
            while kind and there < len(text) and sort_of(text, there, big) == kind:
                there = after(text, there)
            there = _skip_blanks(text, there)
        return Target(there)

    return go


def _to_line_end_at_last(big: bool) -> Motion:
    """The same for an operator: the last word does not lead over the end of its line."""
    words = _words_forward(big)

    def go(text: str, at: int, count: int) -> Target | None:
        found = words(text, at, count - 1) if count > 1 else Target(at)
        if found is None:
            return None
        there = found.at
        further = words(text, there, 1)
        end = line_end(text, there)
        if further is None or further.at <= end:
            return further
        return Target(end if end > there else min(end + 1, len(text)))

    return go


def _word_ends_forward(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            there = after(text, there)
            while there < len(text) and text[there].isspace():
                there = after(text, there)
            if there >= len(text):
                return Target(len(text) if text.endswith("\n") else before(text, len(text)), inclusive=True)
            kind = sort_of(text, there, big)
            while (next_one := after(text, there)) < len(text) and sort_of(text, next_one, big) == kind:
                there = next_one
        return Target(there, inclusive=True)

    return go


def _words_back(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            if there == 0:
                return None if there == at else Target(0, is_short=text.startswith("\n"))
            there = before(text, there)
            while there > 0 and text[there].isspace() and not _is_empty_line(text, there):
                there = before(text, there)
            kind = sort_of(text, there, big)
            while kind and there > 0 and sort_of(text, before(text, there), big) == kind:
                there = before(text, there)
        return Target(there)

    return go


def _word_ends_back(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            if there == 0:
                return None if there == at else Target(0, inclusive=True, is_short=True)
            kind, begin = sort_of(text, there, big), there
            while kind and there > 0 and sort_of(text, there, big) == kind:
                there = before(text, there)
                if there == 0 and sort_of(text, 0, big) == kind:
                    return Target(0, inclusive=True)
            while (
                there > 0
                and text[there : there + 1] in ("", " ", "\t", "\n")
                and not (there < begin and _is_empty_line(text, there))
            ):
                there = before(text, there)
        return Target(there, inclusive=True)

    return go


def _is_empty_line(text: str, at: int) -> bool:
    """Whether an offset is in a line without characters."""
    return text[at : at + 1] == "\n" and (at == 0 or text[at - 1] == "\n")


def _lines(down: int) -> Motion:
    """So many lines down or up, or as many as there are; None if there is none."""

    def go(text: str, at: int, count: int) -> Target | None:
        there = first = line_start(text, at)
        for _ in range(count):
            further = line_end(text, there) + 1 if down > 0 else line_start(text, max(there - 1, 0))
            if further > len(text) or (down < 0 and there == 0):
                break
            there = further
        return None if there == first and count else Target(there)

    return go


def _to_line(last: bool) -> LineMotion:
    """To the line of a count, from 1; without one to the last line, or to the first."""

    def go(text: str, at: int, count: int | None) -> Target | None:
        lines = text.count("\n") + 1
        number = min(count or (lines if last else 1), lines)
        there = 0
        for _ in range(number - 1):
            there = line_end(text, there) + 1
        return Target(there)

    return go


def _chars(step: int) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            further = after(text, there) if step > 0 else before(text, there)
            if further == there or "\n" in text[min(there, further) : max(there, further)]:
                break
            there = further
        return None if there == at else Target(there)

    return go


def _to_line_end(text: str, at: int, count: int) -> Target | None:
    end = line_end(text, at)
    for number in range(count - 1):
        if end == len(text):
            if not number:
                return None
            break
        end = line_end(text, end + 1)
    return Target(before(text, end) if end > line_start(text, end) else end, inclusive=True)


def _to_first_sign(text: str, at: int, count: int) -> Target | None:
    there, end = line_start(text, at), line_end(text, at)
    while there < end and text[there].isspace():
        there = after(text, there)
    return Target(min(there, max(before(text, end), line_start(text, at))) if there == end else there)


def _to_column(text: str, at: int, count: int) -> Target | None:
    there, end = line_start(text, at), line_end(text, at)
    for _ in range(count - 1):
        if after(text, there) >= end:
            break
        there = after(text, there)
    return Target(there)


def _to_bracket(text: str, at: int, count: int) -> Target | None:
    """To the partner of the first bracket at the cursor or after it."""
    end = line_end(text, at)
    there = next((place for place in range(at, end) if text[place] in PARTNERS), None)
    if there is None:
        return None
    sign, partner = text[there], PARTNERS[text[there]]
    step = 1 if sign in PAIRS else -1
    depth = 0
    while 0 <= there < len(text):
        depth += (text[there] == sign) - (text[there] == partner)
        if depth == 0:
            return Target(there, inclusive=True)
        there += step
    return None


#: The brackets, each with its partner.
PARTNERS = {**PAIRS, **CLOSING}

#: The motions by the name of their action.
MOTIONS: dict[str, Motion] = {
    "move-column-back": _chars(-1),
    "move-column-forward": _chars(1),
    "move-word-start-forward": _words_forward(False),
    "move-blank-word-start-forward": _words_forward(True),
    "move-word-end-forward": _word_ends_forward(False),
    "move-blank-word-end-forward": _word_ends_forward(True),
    "move-word-start-back": _words_back(False),
    "move-blank-word-start-back": _words_back(True),
    "move-word-end-back": _word_ends_back(False),
    "move-blank-word-end-back": _word_ends_back(True),
    "move-line-start": lambda text, at, count: Target(line_start(text, at)),
    "move-line-first-sign": _to_first_sign,
    "move-line-last-char": _to_line_end,
    "move-column": _to_column,
    "move-bracket-match": _to_bracket,
}
#: Motions of which an operator takes whole lines; where they lead, the cursor is on the first sign of the line.
LINES: dict[str, LineMotion] = {
    "move-line-down": lambda text, at, count: _lines(1)(text, at, count or 1),
    "move-line-up": lambda text, at, count: _lines(-1)(text, at, count or 1),
    "move-line-down-first-sign": lambda text, at, count: _lines(1)(text, at, count or 1),
    "move-line-up-first-sign": lambda text, at, count: _lines(-1)(text, at, count or 1),
    "move-line-whole": lambda text, at, count: _lines(1)(text, at, (count or 1) - 1),
    "move-line-here": lambda text, at, count: _lines(1)(text, at, (count or 1) - 1),
    "move-to-line": _to_line(last=True),
    "move-to-first-line": _to_line(last=False),
}
#: What the keys of some of them do in one line.
IN_ONE_LINE = {
    "move-line-down-first-sign": "recall-newer",
    "move-line-up-first-sign": "recall-older",
    "move-to-line": "recall-oldest",
}
#: The motions of which nothing is left to do where they lead, as an operator sees it.
WORDS_FORWARD = ("move-word-start-forward", "move-blank-word-start-forward")
WORDS_OF_OPERATORS = {name: _to_line_end_at_last("blank" in name) for name in WORDS_FORWARD}
#: A character back or forward.
COLUMNS = ("move-column-back", "move-column-forward")
#: What changing a word goes to instead: the blanks after it stay.
WORD_ENDS = dict(zip(WORDS_FORWARD, ("move-word-end-forward", "move-blank-word-end-forward"), strict=True))
#: Looking for a character in the line: forwards or back, and how far before it the cursor stops.
FINDS = {"find-char-forward": (1, 0), "find-char-back": (-1, 0), "till-char-forward": (1, 1), "till-char-back": (-1, 1)}
REPEATS = ("repeat-find", "repeat-find-reversed")
REVERSED = {
    "find-char-forward": "find-char-back",
    "find-char-back": "find-char-forward",
    "till-char-forward": "till-char-back",
    "till-char-back": "till-char-forward",
}


def first_sign(text: str, at: int) -> int:
    """The first character of a line that is no blank; its end if there is none."""
    there, end = line_start(text, at), line_end(text, at)
    while there < end and text[there].isspace():
        there = after(text, there)
    return there
