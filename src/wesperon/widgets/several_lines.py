"""A text of several lines: Enter adds one or accepts, the cursor goes anywhere, what is too high scrolls."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.widgets.line import Line
from wesperon.widgets.several_lines_view import SeveralLinesView
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, ClassVar

    from wesperon.screen.frame import Row

#: Columns between two stops of the Tab key.
INDENT = 4


class SeveralLines(Line):
    """Asks for a text of several lines.

    ``is_whole`` says of a text whether Enter accepts it; if it does not, Enter adds a line. ``None``: Enter always
    adds one. Alt-Enter does what Enter would not.
    """

    FOOT = "Alt-Enter or Ctrl-D: accept   Enter: new line   Ctrl-C: stop"
    FOOT_IN_MODAL = "Escape Enter: accept   Enter: new line   Ctrl-C: stop"
    has_lines = True
    display: SeveralLinesView

    def __init__(
        self, accept: Callable[[str], Any], *, is_whole: Callable[[str], object] | None = None, **settings: Any
    ) -> None:
        super().__init__(accept, **settings)
        self.is_whole = is_whole

    def new_display(self, syntax: Any) -> SeveralLinesView:
        """See ``Line``."""
        return SeveralLinesView(syntax)

    #: Whether keys that tell one line from several take it for one until it has several.
    STARTS_AS_ONE: ClassVar[bool] = False

    @property
    def is_of_lines(self) -> bool:
        """Whether keys that tell one line from several take it for several."""
        return not self.STARTS_AS_ONE or "\n" in self.text

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers of the family of keys that hold now."""
        return self.LAYERS if self.is_of_lines else Line.LAYERS

    def enter_or_line(self) -> None:
        """Accept the text if it is whole, else add a line."""
        if self.editor.selected or (self.is_whole is not None and self.is_whole(self.text)):
            self.enter()
        else:
            self.new_line()

    def other_than_enter(self) -> None:
        """Do what Enter would not."""
        if self.is_whole is not None and self.is_whole(self.text):
            self.new_line()
        else:
            self.enter()

    def new_line(self) -> None:
        """Add a line, indented like the one before it."""
        text, cursor = self.text, self.draft.cursor
        start = line_start(text, cursor)
        blanks = len(text[start:cursor]) - len(text[start:cursor].lstrip(" \t"))
        self.editor.put("\n" + text[start : start + blanks])

    def end(self) -> None:
        """Accept after the end of several lines, where Enter may add one; else as in any line."""
        if self.is_of_lines and self.text and self.draft.cursor == len(self.text):
            self.enter()
        else:
            super().end()

    def up(self) -> None:
        """Go to the line above; from the first, to the entry before."""
        self._up_or_down("recall-older", "move-up", line_start(self.text, self.draft.cursor) > 0)

    def down(self) -> None:
        """Go to the line below; from the last, to the entry after."""
        text, cursor = self.text, self.draft.cursor
        self._up_or_down("recall-newer", "move-down", line_end(text, cursor) < len(text))

    def _up_or_down(self, recall: str, move: str, moves: bool) -> None:
        if moves and self.modal is not None and self.modal.takes_commands:
            self.modal.commands.move(move.replace("move-", "move-line-"), self.action)
        elif moves:
            self.editor.apply(move, self.action.count)
        else:
            from wesperon.editing.entry_actions import ENTRY_ACTIONS

            ENTRY_ACTIONS[recall](self.editor, self.action)

    def complete_or_indent(self) -> None:
        """Complete, or indent if there is nothing to complete."""
        if self.editor.complete is not None:
            from wesperon.editing.completing import complete_word

            complete_word(self.editor, self.action)
        else:
            column = self.draft.cursor - line_start(self.text, self.draft.cursor)
            self.editor.put(" " * (INDENT - column % INDENT))

    def size(self, columns: int) -> SizeHint:
        """Return at least a row; the rows of the whole text if there is room."""
        finding = int(self.editor.finder is not None)
        return SizeHint(1, 1 + finding, columns, self.row_count(columns) + finding + len(self.listing(columns)))

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """See ``Widget``; the unit is shown beside a value of one line."""
        return self.display.record(self.text, columns)

    LAYERS = ("several-lines",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **Line.ACTIONS,
        "accept-if-whole": "enter_or_line",
        "accept-unless-whole": "other_than_enter",
        "complete": "complete_or_indent",
        "recall-older": "up",
        "recall-newer": "down",
    }
