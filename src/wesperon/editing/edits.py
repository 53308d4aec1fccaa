"""Edits: pure functions from one state of a text to the next.

A state is the text and the cursor, an offset in characters that always stands between two clusters. Every edit is
named verb, unit, direction; ``EDITS`` is the table of all of them, which key tables and documentation read.
"""

from __future__ import annotations

from wesperon.core.frozen import frozen
from wesperon.editing.clusters import after, before, settled

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable


@frozen
class Draft:
    """A text being edited, and where the cursor stands in it."""

    text: str = ""
    cursor: int = 0


def insert(draft: Draft, text: str) -> Draft:
    """Put a text at the cursor, which then stands behind it."""
    joined = draft.text[: draft.cursor] + text + draft.text[draft.cursor :]
    return Draft(joined, settled(joined, draft.cursor + len(text)))


def whole(text: str) -> Draft:
    """A text with the cursor at its end."""
    return Draft(text, len(text))


def word_end(text: str, at: int) -> int:
    """The offset of the end of the word at or behind ``at``: letters, digits and ``_``."""
    while at < len(text) and not _in_word(text[at]):
        at += 1
    while at < len(text) and _in_word(text[at]):
        at += 1
    return settled(text, at)


def word_start(text: str, at: int) -> int:
    """The offset of the beginning of the word at or before ``at``."""
    while at > 0 and not _in_word(text[at - 1]):
        at -= 1
    while at > 0 and _in_word(text[at - 1]):
        at -= 1
    return at


def _in_word(char: str) -> bool:
    if char.isascii():
        return char.isalnum() or char == "_"
    import unicodedata

    # A combining mark belongs to the letter before it.
    return char.isalnum() or unicodedata.combining(char) > 0


def _move(target: Callable[[str, int], int]) -> Callable[[Draft], Draft]:
    return lambda draft: Draft(draft.text, target(draft.text, draft.cursor))


def _delete(target: Callable[[str, int], int]) -> Callable[[Draft], Draft]:
    def edit(draft: Draft) -> Draft:
        here, there = sorted((draft.cursor, target(draft.text, draft.cursor)))
        left = draft.text[:here] + draft.text[there:]
        return Draft(left, settled(left, here))  # what stood apart may have become one cluster

    return edit


def _start(text: str, at: int) -> int:
    return 0


def _end(text: str, at: int) -> int:
    return len(text)


def _blank_word_start(text: str, at: int) -> int:
    """The beginning of the run of non-blanks before ``at``."""
    while at > 0 and text[at - 1].isspace():
        at -= 1
    while at > 0 and not text[at - 1].isspace():
        at -= 1
    return at


def exchange_chars(draft: Draft) -> Draft:
    """Exchange the characters on both sides of the cursor, and step over them; at the end, the last two."""
    text = draft.text
    middle = before(text, draft.cursor) if draft.cursor == len(text) else draft.cursor
    first, last = before(text, middle), after(text, middle)
    if middle == 0 or last == middle:
        return draft
    return Draft(text[:first] + text[middle:last] + text[first:middle] + text[last:], last)


#: Every edit by its name.
EDITS: dict[str, Callable[[Draft], Draft]] = {
    "move-char-left": _move(before),
    "move-char-right": _move(after),
    "move-word-left": _move(word_start),
    "move-word-right": _move(word_end),
    "move-line-start": _move(_start),
    "move-line-end": _move(_end),
    "delete-char-back": _delete(before),
    "delete-char-forward": _delete(after),
    "delete-word-back": _delete(word_start),
    "delete-word-forward": _delete(word_end),
    "delete-blank-word-back": _delete(_blank_word_start),
    "delete-line-start": _delete(_start),
    "delete-line-end": _delete(_end),
    "exchange-chars": exchange_chars,
}
