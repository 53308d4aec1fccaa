"""A value that stands on a card without having been asked for."""

from __future__ import annotations

from wesperon.screen.frame import Frame
from wesperon.screen.layout import field
from wesperon.text.escape import visible

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.events import Event
    from wesperon.widgets.widget import Outcome


class StaticField:
    """A label with its value; takes no keys."""

    outcome: Outcome | None = None

    def __init__(self, label: str, value: str, gutter: int) -> None:
        self.label, self.value, self.gutter = visible(label), value, gutter

    def press(self, event: Event) -> None:
        """Take one event: nothing comes of it."""

    def view(self, columns: int, rows: int) -> Frame:
        """The label and the value."""
        return Frame(tuple(field(self.label, self.value, self.gutter, columns)))
