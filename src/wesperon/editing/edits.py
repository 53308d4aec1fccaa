r"""Edits: pure functions from one state of a text to the next.

A state is the text and the cursor, an offset in characters that always is between two clusters. A text may have
several lines, with ``\n`` between them. Every edit is named verb, unit, direction. Three tables hold all of them, and
key tables and documentation read these: ``MOVES`` leads from an offset to another, ``DELETIONS`` takes away what such a
move would step over, ``CHANGES`` rewrites something at the cursor. What needs to remember is in ``editor``.
"""

from __future__ import annotations

from wesperon.editing.graphemes import after, before, snap_to_grapheme
from wesperon.frozen import frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable


@frozen
class TextState:
    """A text being edited, and where the cursor is in it."""

    text: str = ""
    cursor: int = 0


def insert(draft: TextState, text: str) -> TextState:
    """Put a text at the cursor, which then is after it."""
    joined = draft.text[: draft.cursor] + text + draft.text[draft.cursor :]
    return TextState(joined, snap_to_grapheme(joined, draft.cursor + len(text)))


def without(draft: TextState, start: int, end: int) -> TextState:
    """The draft without what is between two offsets, the cursor in its place."""
    left = draft.text[:start] + draft.text[end:]
    return TextState(left, snap_to_grapheme(left, start))  # what was apart may have become one cluster


def whole(text: str) -> TextState:
    """A text with the cursor at its end."""
    return TextState(text, len(text))


def word_end(text: str, at: int) -> int:
    """The offset of the end of the word at or after ``at``: letters, digits and ``_``."""
    while at < len(text) and not in_word(text[at]):
        at = after(text, at)
    while at < len(text) and in_word(text[at]):
        at = after(text, at)
    return at


def word_start(text: str, at: int) -> int:
    """The offset of the beginning of the word at or before ``at``."""
    return _before_run(text, _before_run(text, at, lambda char: not in_word(char)), in_word)


def in_word(char: str) -> bool:
    """Whether a cluster that begins so belongs to a word."""
    return char.isalnum() or char == "_"


def _before_run(text: str, at: int, belongs: Callable[[str], bool]) -> int:
    """The offset where the run of clusters begins that ends at ``at``, each of which begins as ``belongs`` says."""
    while at > 0:
        start = before(text, at)
        if not belongs(text[start]):
            break
        at = start
    return at


def line_start(text: str, at: int) -> int:
    """The offset of the beginning of the line."""
    return text.rfind("\n", 0, at) + 1


def line_end(text: str, at: int) -> int:
    """The offset of the end of the line, before its line end."""
    end = text.find("\n", at)
    if end < 0:
        return len(text)
    return end - 1 if end > at and text[end - 1] == "\r" else end  # both together are one cluster


def blank_word_start(text: str, at: int) -> int:
    """The beginning of the run of non-blanks before ``at``."""
    return _before_run(text, _before_run(text, at, str.isspace), lambda char: not char.isspace())


def _to_line_start(text: str, at: int) -> int:
    """The start of the line; if the cursor is there already, the end of the line above."""
    start = line_start(text, at)
    return before(text, at) if start == at else start


def _to_line_end(text: str, at: int) -> int:
    """The end of the line; if the cursor is there already, the start of the line below."""
    end = line_end(text, at)
    return after(text, at) if end == at else end


def text_start(text: str, at: int) -> int:
    """The beginning of the text."""
    return 0


def text_end(text: str, at: int) -> int:
    """The end of the text."""
    return len(text)


def exchange_chars(draft: TextState) -> TextState:
    """Exchange the characters on both sides of the cursor, and step over them; at the end, the last two."""
    text = draft.text
    middle = before(text, draft.cursor) if draft.cursor == len(text) else draft.cursor
    first, last = before(text, middle), after(text, middle)
    if middle == 0 or last == middle:
        return draft
    return TextState(text[:first] + text[middle:last] + text[first:middle] + text[last:], last)


def exchange_words(draft: TextState) -> TextState:
    """Exchange the word before the cursor with the word at or after it; at the end, the last two."""
    text = draft.text
    end = word_end(text, draft.cursor)
    if not any(in_word(char) for char in text[draft.cursor : end]):
        end = word_end(text, word_start(text, draft.cursor))
    start = word_start(text, end)
    first = word_start(text, start)
    first_end = word_end(text, first)
    if first_end > start or first == start:
        return draft
    swapped = text[start:end] + text[first_end:start] + text[first:first_end]
    return TextState(text[:first] + swapped + text[end:], first + len(swapped))


def recase(change: Callable[[str], str]) -> Callable[[TextState], TextState]:
    """An edit that changes the letters from the cursor to the end of the word, and steps after them."""

    def edit(draft: TextState) -> TextState:
        end = word_end(draft.text, draft.cursor)
        changed = draft.text[: draft.cursor] + change(draft.text[draft.cursor : end])
        text = changed + draft.text[end:]
        return TextState(text, snap_to_grapheme(text, len(changed)))

    return edit


def capitalised(text: str) -> str:
    """The text with the first letter of its word in upper case, the others in lower case."""
    first = next((at for at, char in enumerate(text) if in_word(char)), len(text))
    return text[:first] + text[first : first + 1].title() + text[first + 1 :].lower()


def around(keep: str) -> Callable[[TextState], TextState]:
    """An edit that puts ``keep`` in place of the blanks and tabs around the cursor."""

    def edit(draft: TextState) -> TextState:
        start = end = draft.cursor
        while start > 0 and draft.text[start - 1] in " \t":
            start -= 1
        while end < len(draft.text) and draft.text[end] in " \t":
            end += 1
        return insert(without(draft, start, end), keep)

    return edit


#: Where each movement leads.
MOVES: dict[str, Callable[[str, int], int]] = {
    "move-char-back": before,
    "move-char-forward": after,
    "move-word-back": word_start,
    "move-word-forward": word_end,
    "move-line-start": line_start,
    "move-line-end": line_end,
    "move-text-start": text_start,
    "move-text-end": text_end,
}

#: How far each deletion reaches. Those of more than a character are cuts: what they take away can be brought back.
DELETIONS: dict[str, Callable[[str, int], int]] = {
    "delete-char-back": before,
    "delete-char-forward": after,
    "delete-word-back": word_start,
    "delete-word-forward": word_end,
    "delete-blank-word-back": blank_word_start,
    "delete-line-start": _to_line_start,
    "delete-line-end": _to_line_end,
    "delete-text-start": text_start,
    "delete-text-end": text_end,
}

#: Everything else that is a function of the draft alone.
CHANGES: dict[str, Callable[[TextState], TextState]] = {
    "transpose-chars": exchange_chars,
    "transpose-words": exchange_words,
    "uppercase-word": recase(str.upper),
    "lowercase-word": recase(str.lower),
    "capitalize-word": recase(capitalised),
    "delete-blanks-around": around(""),
    "leave-blank-around": around(" "),
    "insert-newline": lambda draft: insert(draft, "\n"),
    "insert-tab": lambda draft: insert(draft, "\t"),
}

#: What a negative count makes of a direction.
_OPPOSITE = {"start": "end", "back": "forward", "up": "down"}
_OPPOSITE.update({there: here for here, there in _OPPOSITE.items()})


def opposite(name: str) -> str:
    """The edit in the other direction; the same one where it has none."""
    stem, _, direction = name.rpartition("-")
    turned = f"{stem}-{_OPPOSITE.get(direction, direction)}"
    return turned if turned in MOVES or turned in DELETIONS else name


def reach(name: str, draft: TextState, times: int = 1) -> int:
    """Where a movement, or the end of a deletion, is after so many steps."""
    step = MOVES.get(name) or DELETIONS[name]
    at = draft.cursor
    for _ in range(times):
        there = step(draft.text, at)
        if there == at:
            break
        at = there
    return at


def edited(draft: TextState, name: str) -> TextState:
    """The draft after one edit."""
    if name in CHANGES:
        return CHANGES[name](draft)
    at = reach(name, draft)
    if name in MOVES:
        return TextState(draft.text, at)
    return without(draft, min(at, draft.cursor), max(at, draft.cursor))
