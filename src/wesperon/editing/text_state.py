"""A text with its cursor, and what is done to it most: putting in and taking away."""

from __future__ import annotations

from wesperon.editing.graphemes import snap_to_grapheme
from wesperon.frozen import Frozen


class TextState(Frozen):
    """A text being edited, and where the cursor is in it."""

    text: str = ""
    cursor: int = 0


def insert(draft: TextState, text: str) -> TextState:
    """Put a text at the cursor, which then is after it."""
    joined = draft.text[: draft.cursor] + text + draft.text[draft.cursor :]
    return TextState(joined, snap_to_grapheme(joined, draft.cursor + len(text)))


def without(draft: TextState, start: int, end: int) -> TextState:
    """Return the draft without what is between two offsets, the cursor in its place."""
    left = draft.text[:start] + draft.text[end:]
    return TextState(left, snap_to_grapheme(left, start))  # what was apart may have become one cluster


def whole(text: str) -> TextState:
    """Return a text with the cursor at its end."""
    return TextState(text, len(text))
