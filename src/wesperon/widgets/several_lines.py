"""A text of several lines: Enter adds one or accepts, the cursor goes anywhere, what is too high scrolls."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.line_index import LineIndex
from wesperon.screen.line_wrap import spread
from wesperon.screen.width import cut
from wesperon.text.messages import tell
from wesperon.widgets.line import Line
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, ClassVar

    from wesperon.screen.frame import Row

#: Columns between two stops of the Tab key, and the most rows that stay on the screen of an accepted text.
INDENT, RECORDED = 4, 8
#: Of a text of more lines, only their number is looked at to find its size.
MANY = 200


class SeveralLines(Line):
    """Asks for a text of several lines.

    ``is_whole`` says of a text whether Enter accepts it; if it does not, Enter adds a line. ``None``: Enter always
    adds one. Alt-Enter does what Enter would not.
    """

    FOOT = "Alt-Enter or Ctrl-D: accept   Enter: new line   Ctrl-C: stop"
    FOOT_IN_MODAL = "Escape Enter: accept   Enter: new line   Ctrl-C: stop"
    has_lines = True

    def __init__(
        self, accept: Callable[[str], Any], *, is_whole: Callable[[str], object] | None = None, **settings: Any
    ) -> None:
        self.split = LineIndex()
        super().__init__(accept, **settings)
        self.is_whole = is_whole

    @property
    def lines(self) -> list[str]:
        """The lines of what is shown."""
        self.split.take(self.shown.text)
        return self.split.lines

    #: Whether keys that tell one line from several take it for one until it has several.
    STARTS_AS_ONE: ClassVar[bool] = False

    @property
    def is_of_lines(self) -> bool:
        """Whether keys that tell one line from several take it for several."""
        return not self.STARTS_AS_ONE or "\n" in self.draft.text

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers of the family of keys that hold now."""
        return self.LAYERS if self.is_of_lines else Line.LAYERS

    def enter_or_line(self) -> None:
        """Accept the text if it is whole, else add a line."""
        if self.selected or (self.is_whole is not None and self.is_whole(self.draft.text)):
            self.enter()
        else:
            self.new_line()

    def other_than_enter(self) -> None:
        """Do what Enter would not."""
        if self.is_whole is not None and self.is_whole(self.draft.text):
            self.new_line()
        else:
            self.enter()

    def new_line(self) -> None:
        """Add a line, indented like the one before it."""
        text, cursor = self.draft.text, self.draft.cursor
        start = line_start(text, cursor)
        blanks = len(text[start:cursor]) - len(text[start:cursor].lstrip(" \t"))
        self.put_text("\n" + text[start : start + blanks])

    def end(self) -> None:
        """Accept after the end of a text; else as in any line."""
        if self.draft.text and self.draft.cursor == len(self.draft.text):
            self.enter()
        else:
            super().end()

    def up(self) -> None:
        """Go to the line above; from the first, to the entry before."""
        self._up_or_down("recall-older", "move-up", line_start(self.draft.text, self.draft.cursor) > 0)

    def down(self) -> None:
        """Go to the line below; from the last, to the entry after."""
        text, cursor = self.draft.text, self.draft.cursor
        self._up_or_down("recall-newer", "move-down", line_end(text, cursor) < len(text))

    def _up_or_down(self, recall: str, move: str, moves: bool) -> None:
        if moves and self.modal is not None and self.modal.takes_commands:
            self.modal.commands.move(move.replace("move-", "move-line-"), self.action)
        elif moves:
            self._edit(move, self.action.count)
        else:
            from wesperon.widgets.line_actions import LINE_ACTIONS

            LINE_ACTIONS[recall](self)

    def complete_or_indent(self) -> None:
        """Complete, or indent if there is nothing to complete."""
        if self.complete is not None:
            from wesperon.widgets.line_actions import complete_word

            complete_word(self)
        else:
            column = self.draft.cursor - line_start(self.draft.text, self.draft.cursor)
            self.put_text(" " * (INDENT - column % INDENT))

    def _split(self) -> LineIndex:
        return self.split

    most_rows = 1_000_000

    def size(self, columns: int) -> SizeHint:
        """At least a row; the rows of the whole text if there is room."""
        finding = 1 if self.finder else 0
        return SizeHint(1, 1 + finding, columns, self._text_rows(columns) + finding + len(self._listing(columns)))

    def _text_rows(self, columns: int) -> int:
        """The rows that the whole text would have; of a long one, the number of its lines."""
        lines = self.lines
        if len(lines) > MANY:
            return len(lines)
        return sum(-(-(2 * len(line) if not line.isascii() else len(line) + 1) // columns) or 1 for line in lines)

    def _line_of(self, at: int) -> tuple[int, int]:
        """The line of an offset in what is shown, from 0, and the offset in it."""
        return self.split.line_of(min(at, len(self.split.text)))

    def offset(self, line: int, offset: int) -> int:
        """The place in the text of an offset in one of the lines that are shown."""
        lines = self.lines
        if line >= len(lines):  # the text has changed since it was shown
            return len(self.text)
        return sum(len(one) + 1 for one in lines[:line]) + min(offset, len(lines[line]))

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """The first rows of the text, and how many more there are."""
        rows: list[Row] = []
        lines = self.draft.text.rstrip("\n").split("\n")
        coloured = self._coloured()
        for number, line in enumerate(lines):
            rows.extend(spread(line[: RECORDED * columns], columns, coloured(number), tabs=True)[0])
            if len(rows) > RECORDED or (len(rows) == RECORDED and number + 1 < len(lines)):
                more = len(lines) - number
                rest = tell("... {count} more lines", count=more) if more > 1 else "..."
                return [*rows[: RECORDED - 1], ((cut(rest, columns), "note"),)]
        return rows

    LAYERS = ("several-lines",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **Line.ACTIONS,
        "accept-if-whole": "enter_or_line",
        "accept-unless-whole": "other_than_enter",
        "complete": "complete_or_indent",
        "recall-older": "up",
        "recall-newer": "down",
    }
