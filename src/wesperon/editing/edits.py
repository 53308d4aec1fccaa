r"""Edits: pure functions from one state of a text to the next.

A state is the text and the cursor, an offset in characters that always is between two clusters. A text may have
several lines, with ``\n`` between them. Every edit is named verb, unit, direction. Three tables hold all of them, and
key tables and documentation read these: ``MOVES`` leads from an offset to another, ``DELETIONS`` takes away what such a
move would step over, ``CHANGES`` rewrites something at the cursor. What needs to remember is in ``editor``.
"""

from __future__ import annotations

from wesperon.editing.graphemes import after, before, snap_to_grapheme
from wesperon.editing.text_state import TextState, insert, without

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable


def word_end(text: str, at: int) -> int:
    """Return the offset of the end of the word at or after ``at``: letters and digits."""
    while at < len(text) and not in_word(text[at]):
        at = after(text, at)
    while at < len(text) and in_word(text[at]):
        at = after(text, at)
    return at


def word_start(text: str, at: int) -> int:
    """Return the offset of the beginning of the word at or before ``at``."""
    return _before_run(text, _before_run(text, at, lambda char: not in_word(char)), in_word)


def in_word(char: str) -> bool:
    """Return True if a cluster that begins so belongs to a word."""
    return char.isalnum()


def _before_run(text: str, at: int, belongs: Callable[[str], bool]) -> int:
    """Start of the run of clusters that ends at ``at`` and whose first characters satisfy ``belongs``."""
    while at > 0:
        start = before(text, at)
        if not belongs(text[start]):
            break
        at = start
    return at


def line_start(text: str, at: int) -> int:
    """Return the offset of the beginning of the line."""
    return text.rfind("\n", 0, at) + 1


def line_end(text: str, at: int) -> int:
    """Return the offset of the end of the line, before its line end."""
    end = text.find("\n", at)
    if end < 0:
        return len(text)
    return end - 1 if end > at and text[end - 1] == "\r" else end  # both together are one cluster


def blank_word_start(text: str, at: int) -> int:
    """Return the beginning of the run of non-blanks before ``at``."""
    return _before_run(text, _before_run(text, at, str.isspace), lambda char: not char.isspace())


def argument_end(text: str, at: int) -> int:
    """Return the end of the argument at or after ``at``; the end of the text if there is none."""
    from wesperon.editing.arguments import end_after

    return end_after(text, at)


def argument_start(text: str, at: int) -> int:
    """Return the start of the argument at or before ``at``; the start of the text if there is none."""
    from wesperon.editing.arguments import start_before

    return start_before(text, at)


def bracket_end(text: str, at: int) -> int:
    """Return the offset after the bracket that belongs to the next one, if that opens one.

    Otherwise return the end of the argument.
    """
    from wesperon.editing.brackets import matching

    opening = at
    while opening < len(text) and text[opening].isspace():
        opening += 1
    pair = matching(text, opening) if text[opening : opening + 1] in ("(", "[", "{") else None
    return pair[1] + 1 if pair is not None else argument_end(text, at)


def _to_line_start(text: str, at: int) -> int:
    """Return the start of the line; if the cursor is there already, the end of the line above."""
    start = line_start(text, at)
    return before(text, at) if start == at else start


def _to_line_end(text: str, at: int) -> int:
    """Return the end of the line; if the cursor is there already, the start of the line below."""
    end = line_end(text, at)
    return after(text, at) if end == at else end


def text_start(text: str, at: int) -> int:
    """Return the beginning of the text."""
    return 0


def text_end(text: str, at: int) -> int:
    """Return the end of the text."""
    return len(text)


def exchange_chars(draft: TextState, times: int = 1) -> TextState:
    """Carry the character before the cursor over ``times`` characters after it; at the end, exchange the last two."""
    text = draft.text
    middle, steps = (before(text, draft.cursor), 1) if draft.cursor == len(text) else (draft.cursor, times)
    first = before(text, middle)
    if middle == 0 or times == 0:
        return draft
    carried, rest = text[first:middle], text[:first] + text[middle:]
    at = go(rest, first, after, before, steps)
    return TextState(rest[:at] + carried + rest[at:], at + len(carried))


def exchange(
    to_start: Callable[[str, int], int], to_end: Callable[[str, int], int]
) -> Callable[[TextState, int], TextState]:
    """Return an edit that carries the unit before the cursor over the next units.

    At the end, it exchanges the last two.
    """

    def edit(draft: TextState, times: int = 1) -> TextState:
        text = draft.text
        end = go(text, draft.cursor, to_end, to_start, times)
        start = to_start(text, end)
        first = go(text, start, to_start, to_end, times)
        first_end = to_end(text, first)
        if first == start or start < first_end:
            return draft
        swapped = text[start:end] + text[first_end:start] + text[first:first_end]
        return TextState(text[:first] + swapped + text[end:], end)

    return edit


def recase(change: Callable[[str], str]) -> Callable[[TextState, int], TextState]:
    """Return an edit that changes the letters of the next words, and moves after them.

    With a negative number it changes those before the cursor, which stays.
    """

    def edit(draft: TextState, times: int = 1) -> TextState:
        there = go(draft.text, draft.cursor, word_end, word_start, times)
        start, end = min(draft.cursor, there), max(draft.cursor, there)
        changed = draft.text[:start] + change(draft.text[start:end])
        text = changed + draft.text[end:]
        return TextState(text, snap_to_grapheme(text, len(changed)))

    return edit


def capitalized(text: str) -> str:
    """Return the text with the first letter of each word in upper case, the others in lower case."""
    made, follows = [], False
    for char in text:
        made.append(char.lower() if follows else char.title())
        follows = in_word(char)
    return "".join(made)


def go(text: str, at: int, forward: Callable[[str, int], int], back: Callable[[str, int], int], times: int) -> int:
    """Return the offset after ``times`` steps forward, or back if it is negative."""
    step = forward if times > 0 else back
    for _ in range(abs(times)):
        there = step(text, at)
        if there == at:
            break
        at = there
    return at


def around(keep: str) -> Callable[[TextState, int], TextState]:
    """Return an edit that puts ``keep`` in place of the blanks and tabs around the cursor."""

    def edit(draft: TextState, times: int = 1) -> TextState:
        start = end = draft.cursor
        while start > 0 and draft.text[start - 1] in " \t":
            start -= 1
        while end < len(draft.text) and draft.text[end] in " \t":
            end += 1
        return insert(without(draft, start, end), keep * max(times, 0))

    return edit


#: Where each movement leads.
MOVES: dict[str, Callable[[str, int], int]] = {
    "move-char-back": before,
    "move-char-forward": after,
    "move-word-back": word_start,
    "move-word-forward": word_end,
    "move-argument-back": argument_start,
    "move-argument-forward": argument_end,
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
    "delete-argument-back": argument_start,
    "delete-argument-forward": argument_end,
    "delete-bracket-forward": bracket_end,
    "delete-line-start": _to_line_start,
    "delete-line-end": _to_line_end,
    "delete-text-start": text_start,
    "delete-text-end": text_end,
}

#: Everything else that is a function of the draft and a count.
CHANGES: dict[str, Callable[[TextState, int], TextState]] = {
    "transpose-chars": exchange_chars,
    "transpose-words": exchange(word_start, word_end),
    "transpose-arguments": exchange(argument_start, argument_end),
    "uppercase-word": recase(str.upper),
    "lowercase-word": recase(str.lower),
    "capitalize-word": recase(capitalized),
    "delete-blanks-around": around(""),
    "leave-blank-around": around(" "),
    "insert-newline": lambda draft, times: insert(draft, "\n" * max(times, 0)),
    "insert-tab": lambda draft, times: insert(draft, "\t" * max(times, 0)),
}

#: What a negative count makes of a direction; the start and the end of a line are where they are.
_OPPOSITE = {"back": "forward", "forward": "back", "up": "down", "down": "up"}


def opposite(name: str) -> str:
    """Return the edit in the other direction; the same one if it has none."""
    stem, _, direction = name.rpartition("-")
    turned = f"{stem}-{_OPPOSITE.get(direction, direction)}"
    return turned if turned in MOVES or turned in DELETIONS else name


def counted(name: str, times: int) -> tuple[str, int]:
    """Return the edit that a count makes of one, and how often it is done.

    A negative count turns the direction round. To the start or the end of a line or the text is one step, whatever the
    count; a negative one has ``delete-line-end`` go to the start.
    """
    if name.endswith(("-start", "-end")):
        return "delete-line-start" if times < 0 and name == "delete-line-end" else name, 1
    return (opposite(name), -times) if times < 0 else (name, times)


def reach(name: str, times: int, draft: TextState) -> int:
    """Return the offset to which a movement, or a deletion, goes with a count."""
    step = MOVES.get(name) or DELETIONS[name]
    return go(draft.text, draft.cursor, step, step, times)


#: The movements that Shift makes a selection of.
SELECTING = tuple(f"select-{name.removeprefix('move-')}" for name in (*MOVES, "move-up", "move-down"))
#: All edits that need to remember nothing.
ALL = frozenset((*MOVES, *DELETIONS, *CHANGES, *SELECTING))
