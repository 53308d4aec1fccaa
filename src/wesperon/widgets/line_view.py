"""What is shown of a line that is edited: the rows in sight, what is marked in them, and where the cursor is.

A view is given the text and what is marked in it, and knows nothing of how it is edited. Its lines may be longer than
those of the text (``several_lines_view``), so that it tells where an offset of the text is shown, and back.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.screen.theme import PLAIN_THEME
from wesperon.text.escape import is_plain

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any

    from wesperon.editing.line_index import LineIndex
    from wesperon.editing.text_state import TextState
    from wesperon.highlight.highlighting import Colours
    from wesperon.screen import line_wrap
    from wesperon.screen.frame import Row
    from wesperon.screen.line_wrap import Mark, Marks, WrappedText
    from wesperon.screen.theme import Theme
else:
    line_wrap = later("wesperon.screen.line_wrap")

#: The most rows of a text that are shown at a time.
MOST_ROWS = 8
#: Longer texts are not coloured: what was pasted in one piece has to be read in one piece.
COLOURED = 80_000


class LineView:
    """Draws a text in one line, which breaks at the width; ``syntax`` colours it (see ``highlight.highlighting``)."""

    most_rows = MOST_ROWS
    #: Whether a tab is blanks up to the next stop; else it is shown as a control character.
    has_tabs = False
    #: What holds the lines of the text, where anything does.
    index: LineIndex | None = None

    def __init__(self, syntax: Any = None) -> None:
        self.syntax = syntax
        self.theme: Theme = PLAIN_THEME
        self._colours: Colours | None = None
        #: The text of the one row that was made last, and of the one that is on the screen, which most lines are; None
        #: where there were more, and what breaks them then.
        self._made: str | None = None
        self._drawn: str | None = None
        #: How wide that was.
        self.columns = 0
        self._wrapped: WrappedText | None = None

    def set_theme(self, theme: Theme) -> None:
        """Take the theme that says how a language is coloured."""
        if theme is not self.theme:
            self.theme, self._colours = theme, None

    # Lines -----------------------------------------------------------------------------------------------------------

    def lines(self, text: str) -> list[str]:
        """Return the lines that are shown of a text: here a line end is a character like others."""
        return [text]

    def line_and_offset(self, at: int) -> tuple[int, int]:
        """Return the line in which an offset of that text is shown, from 0, and the offset there."""
        return 0, at

    def offset(self, line: int, offset: int) -> int:
        """Return the offset in that text of an offset in a line that is shown."""
        return offset

    # Rows ------------------------------------------------------------------------------------------------------------

    def rows(
        self, shown: TextState, spans: Sequence[Mark], trail: str, columns: int, room: int
    ) -> tuple[list[Row], tuple[int, int]]:
        """Return at most ``room`` rows, and the row and column of the cursor in them.

        Each of the ``spans`` is over the one before it: offsets between which the text has a role. A ``fault`` at the
        end of the text is shown as one blank. ``trail`` is shown dimly after the text.
        """
        text = shown.text
        if not spans and not trail and len(text) < columns and is_plain(text) and not self.is_coloured(text):
            self._made, self.columns = text, columns
            return [((text, ""),)], (0, shown.cursor)
        self._made = None
        wrapped = self._wrapped = self._wrapped or line_wrap.WrappedText(tabs=self.has_tabs)
        lines = self.lines(text)
        at = self.line_and_offset(shown.cursor)
        placed = [
            (self.line_and_offset(start), self.line_and_offset(end), role) for start, end, role in spans if start < end
        ]
        last = len(lines) - 1
        if any(role == "fault" and start >= len(text) for start, _, role in spans):
            placed.append(((last, len(lines[last])), (last, len(lines[last]) + 1), "fault"))
            lines = [*lines[:last], lines[last] + " "]
        if trail:
            lines = [*lines[:last], lines[last] + trail]
        coloured = self.marks_of(text)
        if not placed and not trail:
            return wrapped.view(lines, at, columns, room, coloured)

        def marks(number: int) -> Marks:
            found = coloured(number)
            if number != last and not placed:
                return found
            for (first, start), (final, end), role in placed:
                if first <= number <= final:
                    upto = end if number == final else len(lines[number])
                    found = line_wrap.overlay(found, start if number == first else 0, upto, role)
            if trail and number == last:
                found = line_wrap.overlay(found, len(lines[last]) - len(trail), len(lines[last]), "hint")
            return found

        return wrapped.view(lines, at, columns, room, marks)

    @property
    def is_bare(self) -> bool:
        """Whether one row of plain text is on the screen, with nothing marked in it or shown after it."""
        return self._drawn is not None

    def added(self, shown: TextState) -> str:
        """Return what a text with nothing marked has at its end that its row on the screen has not, with the cursor.

        It is empty if more differs than that; else the row is taken as drawn with it.
        """
        before, text = self._drawn, shown.text
        if before is None or not text.startswith(before) or shown.cursor != len(text) or len(text) >= self.columns:
            return ""
        added = text[len(before) :]
        if not is_plain(added) or self.is_coloured(text):
            return ""
        self._made = self._drawn = text
        return added

    def count(self, shown: TextState, spans: Callable[[], Sequence[Mark]], trail: str, columns: int) -> int:
        """Return how many rows there would be with enough room, or the most that are shown at a time."""
        return len(self.rows(shown, spans(), trail, columns, MOST_ROWS)[0])

    def drawn(self) -> None:
        """Note that the rows that were made last are on the screen."""
        self._drawn = self._made
        if self._drawn is not None:
            self._wrapped = None
        elif self._wrapped is not None:
            self._wrapped.drawn()

    @property
    def height(self) -> int:
        """The rows that were in sight last; at least 2."""
        return 2 if self._wrapped is None or self._drawn is not None else self._wrapped.height

    @property
    def in_sight(self) -> tuple[int, int]:
        """The first and the last line that were in sight last, from 0; all of them before anything was shown."""
        if self.index is None or self._drawn is not None:
            return (0, 0)
        return (0, 1 << 30) if self._wrapped is None else self._wrapped.in_sight

    def locate(self, row: int, column: int) -> int | None:
        """Return the offset in the text that is shown at a place of the box; None if none is."""
        if self._drawn is not None:
            return min(column, len(self._drawn)) if row == 0 else None
        found = None if self._wrapped is None else self._wrapped.locate(row, column)
        return None if found is None else self.offset(*found)

    # Colours ---------------------------------------------------------------------------------------------------------

    def is_coloured(self, text: str) -> bool:
        """Return True if stretches of a text have roles of their own."""
        return self.syntax is not None

    def marks_of(self, text: str) -> Callable[[int], Marks]:
        """Return what the language says about each line of a text, by its number."""
        if self.syntax is None or not text or not self.theme.colours or len(text) > COLOURED:
            return lambda number: ()
        if self._colours is None:
            from wesperon.highlight.highlighting import colours_for
            from wesperon.highlight.sgr_colours import roles_of

            roles = roles_of(self.theme.roles, self.theme.colours, self.theme.style)
            self._colours = colours_for(self.syntax, roles, self.index)
        from functools import partial  # loaded long ago by what colours it

        colours = self._colours
        return partial(colours.marks, text)

    def brackets(self, shown: TextState) -> list[Mark]:
        """Return the brackets at the cursor that belong together."""
        from wesperon.editing.brackets import matching

        pair = matching(shown.text, shown.cursor)
        return [(at, at + 1, "match") for at in sorted(pair)] if pair else []

    @property
    def is_late(self) -> bool:
        """Whether the last change may have coloured more than its line."""
        return self._colours is not None and self._colours.is_late

    def catch_up(self) -> None:
        """Colour the rest of the text as the last change wants it."""
        if self._colours is not None:
            self._colours.catch_up()
