"""Something that is said, and to be read before it goes on."""

from __future__ import annotations

from wesperon.screen.frame import Frame
from wesperon.screen.width import cut, wrap
from wesperon.text.messages import tell
from wesperon.widgets.widget import QUESTION_ACTIONS, Answered, SizeHint, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import ClassVar

    from wesperon.screen.frame import Row


class Notice(Widget):
    """Shows a text; Enter goes on."""

    FOOT = "Enter: continue   Ctrl-C: stop"

    def __init__(self, message: str) -> None:
        super().__init__()
        self.message = message

    def size(self, columns: int) -> SizeHint:
        """Return at least a row; the whole text if there is room."""
        return SizeHint(1, 1, columns, len(self._rows(columns)))

    def view(self, columns: int, rows: int) -> Frame:
        """Return the text, or as much of it as there is room for."""
        made = self._rows(columns)
        if len(made) > rows:
            made = [*made[: rows - 1], ((cut(tell("... more than fits here"), columns), "note"),)]
        return Frame(tuple(made), (0, 0) if self.has_focus else None)

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """Return the first row of the text."""
        return self._rows(columns)[:1]

    def _rows(self, columns: int) -> list[Row]:
        return [((row, ""),) for part in self.message.split("\n") for row in wrap(part, columns) or [""]]

    def foot(self) -> str:
        """Return what the keys do."""
        return tell(self.FOOT)

    def enter(self) -> None:
        """Go on."""
        self.outcome = Answered(None)

    CHOOSES = True
    LAYERS = ("notice",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **QUESTION_ACTIONS,
        **dict.fromkeys(("accept", "accept-if-whole", "accept-unless-whole"), "enter"),
    }
