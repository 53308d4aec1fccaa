"""The last row of a page while something is typed there: what to search for, the number of a line, a file."""

from __future__ import annotations

from wesperon.editing.keys.events import Key
from wesperon.screen.width import cut, width
from wesperon.text.truncate import cut_middle
from wesperon.widgets.line import Line
from wesperon.widgets.widget import CLEAR_SCREEN, Answered, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import ClassVar

    from wesperon.editing.editor import Memory
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.widgets.widget import Effect

#: Columns before the label, and between it and what is typed.
MARGIN, BETWEEN = 2, 2


class TypedLine(Line):
    """The line of the row, which Escape leaves."""

    LAYERS: ClassVar[tuple[str, ...]] = ("one-line", "typed")


class TypedRow:
    """A line with a ``label``.

    ``read`` makes of the text what is to be done with it, a function; raises Complaint, which is shown beside the text.
    """

    def __init__(self, label: str, read: Callable[[str], Callable[[], object]], memory: Memory, theme: Theme) -> None:
        self.label = label
        self.line = TypedLine(read, memory=memory)
        self.line.set_theme(theme)
        self.is_left = False

    def press(self, event: Event) -> Effect | None:
        """Take an event; ``is_left`` says whether the row has ended, with ``done`` or without."""
        if isinstance(event, Key) and event.name == "backspace" and not self.line.text:
            self.is_left = True
            return None
        effect = self.line.press(event)
        is_cancelled = isinstance(event, Key) and self.line.action.name == "cancel"
        self.is_left = self.line.outcome is not None or is_cancelled
        return effect

    @property
    def done(self) -> Callable[[], object] | None:
        """What is to be done with what was typed; None if nothing is."""
        outcome = self.line.outcome
        return outcome.value if isinstance(outcome, Answered) else None

    def view(self, columns: int) -> tuple[Row, int]:
        """Return the row, and the column of the cursor in it."""
        label = " " * MARGIN + cut(self.label, max(columns // 2 - MARGIN - BETWEEN, 1)) + " " * BETWEEN
        complaint = self.line.complaint
        reason = "" if complaint is None else "   " + complaint.reason
        room = max(columns - width(label) - 1, 1)
        if reason:  # the end of what is typed, and why it will not do
            room = max(room - min(width(reason), room // 2), 1)
        inner = self.line.view(room, 1)
        row: Row = ((label, "label"), *(inner.rows[0] if inner.rows else ()))
        used = sum(width(text) for text, _ in row)
        if reason and columns - used > 1:
            row = (*row, (cut_middle(reason, columns - used - 1), "reason"))
        return row, width(label) + (inner.cursor[1] if inner.cursor else 0)


class Page(Widget):
    """A widget on the full screen, in whose last row something may be typed; events are for that meanwhile."""

    is_full_screen = True

    def __init__(self) -> None:
        super().__init__()
        #: What is typed in the last row, if anything is.
        self.typed: TypedRow | None = None
        self._bindings: Bindings | None = None

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        self._bindings = bindings
        super().bind(bindings)

    def ask(self, label: str, read: Callable[[str], Callable[[], object]]) -> None:
        """Have something typed in the last row; ``label`` and ``read`` are those of a :class:`TypedRow`."""
        self.typed = TypedRow(label, read, self.memory, self.theme)
        if self._bindings is not None:
            self.typed.line.bind(self._bindings)

    def press(self, event: Event) -> Effect | None:
        """See ``Widget``."""
        typed = self.typed
        if typed is None:
            return super().press(event)
        effect = typed.press(event)
        if typed.is_left:
            self.typed = None
            if typed.done is not None:
                typed.done()
        return effect if effect is CLEAR_SCREEN else None
