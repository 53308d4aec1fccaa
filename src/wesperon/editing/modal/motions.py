"""The motions of the modal family: from the cursor to another place in the text.

A motion is a function of the text, the cursor and a count (None if none was given). It gives a :class:`Target`, or None
if it leads nowhere. Words are runs of letters, digits and ``_``, or runs of other characters that are no blanks; *blank
words* are runs of anything but blanks. An empty line is a word of its own. Motions that depend on what was looked for,
on marks or on what is in sight are in ``places``.
"""

from __future__ import annotations

from wesperon.editing.brackets import CLOSING, PAIRS
from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, before
from wesperon.editing.modal.sentences import is_ended, paragraph_bound, sentence_bounds
from wesperon.editing.modal.text_objects import sort_of
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    Motion = Callable[[str, int, "int | None"], "Target | None"]


class Target(Frozen):
    """Where a motion leads.

    ``at`` is an offset. ``inclusive``: an operator takes the character there as well; ``lines``: it takes whole lines.
    ``is_short``: the way was too short for the count. The motion has failed then, though the cursor goes as far as it
    can; an operator takes what there is if ``reaches``, else it does nothing.
    """

    at: int
    inclusive: bool = False
    lines: bool = False
    is_short: bool = False
    reaches: bool = True


def _skip_blanks(text: str, at: int) -> int:
    """Over blanks and line ends to the next sign, or to an empty line, which is a word of its own."""
    while at < len(text) and text[at].isspace():
        if text[at] == "\n" and text[at + 1 : at + 2] == "\n":
            return at + 1
        at = after(text, at)
    return at


def _words_forward(big: bool) -> Motion:
    def go(text: str, at: int, count: int | None) -> Target | None:
        there = at
        for _ in range(count or 1):
            if there >= len(text) > at and not text.endswith("\n"):
                break
            if after(text, there) >= len(text) and text[there : there + 1] != "\n":
                return Target(len(text), is_short=True)
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
    """Return the same for an operator: the last word does not lead over the end of its line."""
    words = _words_forward(big)

    def go(text: str, at: int, count: int | None) -> Target | None:
        found = words(text, at, count - 1) if (count or 1) > 1 and count else Target(at)
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
    def go(text: str, at: int, count: int | None) -> Target | None:
        there = at
        for _ in range(count or 1):
            there = after(text, there)
            while there < len(text) and text[there].isspace():
                there = after(text, there)
            if there >= len(text):
                return Target(len(text) if text.endswith("\n") else before(text, len(text)), True, is_short=True)
            kind = sort_of(text, there, big)
            while (next_one := after(text, there)) < len(text) and sort_of(text, next_one, big) == kind:
                there = next_one
        return Target(there, inclusive=True)

    return go


def _words_back(big: bool) -> Motion:
    def go(text: str, at: int, count: int | None) -> Target | None:
        there = at
        for _ in range(count or 1):
            if there == 0:
                return None if there == at else Target(0, is_short=text.startswith("\n"), reaches=False)
            there = before(text, there)
            while there > 0 and text[there].isspace() and not _is_empty_line(text, there):
                there = before(text, there)
            kind = sort_of(text, there, big)
            while kind and there > 0 and sort_of(text, before(text, there), big) == kind:
                there = before(text, there)
        return Target(there)

    return go


def _word_ends_back(big: bool) -> Motion:
    def go(text: str, at: int, count: int | None) -> Target | None:
        there = at
        for _ in range(count or 1):
            if there == 0:
                return None if there == at else Target(0, True, is_short=True, reaches=False)
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
            if there == 0 and sort_of(text, 0, big) == 0 and not text.startswith("\n"):
                break  # only blanks are before it
        return Target(there, inclusive=True)

    return go


def _is_empty_line(text: str, at: int) -> bool:
    """Return True if an offset is in a line without characters."""
    return text[at : at + 1] == "\n" and (at == 0 or text[at - 1] == "\n")


def _lines(down: int, *, first_sign: bool = False, less: int = 0) -> Motion:
    """So many lines down or up, or as many as there are; None if there is none."""

    def go(text: str, at: int, count: int | None) -> Target | None:
        there = first = line_start(text, at)
        for _ in range((count or 1) - less):
            further = line_end(text, there) + 1 if down > 0 else line_start(text, max(there - 1, 0))
            if further > len(text) or (down < 0 and there == 0):
                break
            there = further
        if there == first and (count or 1) > less:
            return None
        return Target(sign_from(text, there) if first_sign else there, lines=True)

    return go


def _to_line(last: bool) -> Motion:
    """To the line of a count, from 1; without one to the last line, or to the first."""

    def go(text: str, at: int, count: int | None) -> Target | None:
        lines = text.count("\n") + 1
        number = min(count or (lines if last else 1), lines)
        there = 0
        for _ in range(number - 1):
            there = line_end(text, there) + 1
        return Target(sign_from(text, there), lines=True)

    return go


def _chars(step: int) -> Motion:
    def go(text: str, at: int, count: int | None) -> Target | None:
        there = at
        for _ in range(count or 1):
            further = after(text, there) if step > 0 else before(text, there)
            if further == there or "\n" in text[min(there, further) : max(there, further)]:
                break
            there = further
        return Target(there, is_short=there == at)

    return go


def _to_line_end(text: str, at: int, count: int | None) -> Target | None:
    end = line_end(text, at)
    for number in range((count or 1) - 1):
        if end == len(text):
            if not number:
                return None
            break
        end = line_end(text, end + 1)
    return Target(before(text, end) if end > line_start(text, end) else end, inclusive=True)


def _to_column(text: str, at: int, count: int | None) -> Target | None:
    there, end = line_start(text, at), line_end(text, at)
    for _ in range((count or 1) - 1):
        if after(text, there) >= end:
            break
        there = after(text, there)
    return Target(there)


def _to_bracket(text: str, at: int, count: int | None) -> Target | None:
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


def _sentences(step: int) -> Motion:
    def go(text: str, at: int, count: int | None) -> Target | None:
        ways = iter(sentence_bounds(text, at, step))
        for number in range(1, (count or 1) + 1):
            found = next(ways, None)
            if step > 0:
                ends = found is None and (at == len(text) or not (is_ended(text) or text.endswith("\n")))
            else:
                ends = not found and (at == 0 or not text.startswith("\n"))
            if ends and number < (count or 1):
                return None  # that is the end of the text, and more was wanted
            at = found if found is not None else len(text) if step > 0 else 0
        return Target(at)

    return go


def _paragraphs(step: int) -> Motion:
    def go(text: str, at: int, count: int | None) -> Target | None:
        there, is_bound = at, True
        for _ in range(count or 1):
            if not is_bound:
                return None
            there, is_bound = paragraph_bound(text, there, step)
        if step > 0 and line_end(text, there) == len(text) and not text.endswith("\n") and text:
            return Target(before(text, len(text)), inclusive=True)
        return Target(there)

    return go


def sign_from(text: str, at: int) -> int:
    """Return the first character of a line that is no blank; its last one if there is none."""
    there, end = first_sign(text, at), line_end(text, at)
    return max(before(text, end), line_start(text, at)) if there == end else there


def first_sign(text: str, at: int) -> int:
    """Return the first character of a line that is no blank; its end if there is none."""
    there, end = line_start(text, at), line_end(text, at)
    while there < end and text[there].isspace():
        there = after(text, there)
    return there


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
    "move-line-first-sign": lambda text, at, count: Target(sign_from(text, at)),
    "move-line-last-char": _to_line_end,
    "move-column": _to_column,
    "move-bracket-match": _to_bracket,
    "move-sentence-forward": _sentences(1),
    "move-sentence-back": _sentences(-1),
    "move-paragraph-forward": _paragraphs(1),
    "move-paragraph-back": _paragraphs(-1),
    "move-line-down": _lines(1),
    "move-line-up": _lines(-1),
    "move-line-down-first-sign": _lines(1, first_sign=True),
    "move-line-up-first-sign": _lines(-1, first_sign=True),
    "move-line-whole": _lines(1, first_sign=True, less=1),
    "move-line-here": _lines(1, first_sign=True, less=1),
    "move-to-line": _to_line(last=True),
    "move-to-first-line": _to_line(last=False),
}
#: Motions to the next word: an operator does not go over the end of a line with the last one.
WORDS_FORWARD = ("move-word-start-forward", "move-blank-word-start-forward")
WORDS_OF_OPERATORS = {name: _to_line_end_at_last("blank" in name) for name in WORDS_FORWARD}
#: What changing a word goes to instead: the blanks after it stay.
WORD_ENDS = dict(zip(WORDS_FORWARD, ("move-word-end-forward", "move-blank-word-end-forward"), strict=True))
#: A character back or forward.
COLUMNS = ("move-column-back", "move-column-forward")
#: Motions that may end after the last character of a line.
SENTENCES = ("move-sentence-forward", "move-sentence-back")
#: Motions that keep the column.
VERTICAL = ("move-line-down", "move-line-up")
#: Motions after which the place that was left is known as that of the last jump.
JUMPS = frozenset(
    (
        *(
            "move-bracket-match",
            "move-to-line",
            "move-to-first-line",
            "move-to-top",
            "move-to-middle",
            "move-to-bottom",
        ),
        *(f"move-{unit}-{way}" for unit in ("sentence", "paragraph") for way in ("forward", "back")),
        *("search-text-forward", "search-text-back", "repeat-search", "repeat-search-reversed"),
        *("search-word-forward", "search-word-back", "move-to-mark", "move-to-mark-line"),
    )
)
#: Of these, a deletion is kept with the large ones, however short it is.
LARGE = JUMPS - {"move-to-line", "move-to-first-line", "move-to-top", "move-to-middle", "move-to-bottom"}
#: Looking for a character in the line: forwards or back, and how far before it the cursor stops.
FINDS = {"find-char-forward": (1, 0), "find-char-back": (-1, 0), "till-char-forward": (1, 1), "till-char-back": (-1, 1)}
REPEATS = ("repeat-find", "repeat-find-reversed")
REVERSED = {
    "find-char-forward": "find-char-back",
    "find-char-back": "find-char-forward",
    "till-char-forward": "till-char-back",
    "till-char-back": "till-char-forward",
}
