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


def exchange_words(draft: Draft) -> Draft:
    """Exchange the word before the cursor with the word at or behind it; at the end, the last two."""
    text = draft.text
    end = word_end(text, draft.cursor)
    if not any(_in_word(char) for char in text[draft.cursor : end]):
        end = word_end(text, word_start(text, draft.cursor))
    start = word_start(text, end)
    first = word_start(text, start)
    first_end = word_end(text, first)
    if first_end > start or first == start:
        return draft
    swapped = text[start:end] + text[first_end:start] + text[first:first_end]
    return Draft(text[:first] + swapped + text[end:], first + len(swapped))


def _recase(change: Callable[[str], str]) -> Callable[[Draft], Draft]:
    """An edit that changes the letters from the cursor to the end of the word, and steps behind them."""

    def edit(draft: Draft) -> Draft:
        end = word_end(draft.text, draft.cursor)
        changed = draft.text[: draft.cursor] + change(draft.text[draft.cursor : end])
        text = changed + draft.text[end:]
        return Draft(text, settled(text, len(changed)))

    return edit


def _capitalised(text: str) -> str:
    """The text with the first letter of its word in upper case, the others in lower case."""
    first = next((at for at, char in enumerate(text) if _in_word(char)), len(text))
    return text[:first] + text[first : first + 1].title() + text[first + 1 :].lower()


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
    "exchange-words": exchange_words,
    "raise-word-forward": _recase(str.upper),
    "lower-word-forward": _recase(str.lower),
    "capitalise-word-forward": _recase(_capitalised),
}
