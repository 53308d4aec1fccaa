"""A question of the program in a dialog: any widget as a part, which has all keys until it has ended."""

from __future__ import annotations

from wesperon.widgets.parts.part import Part
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event, Key
    from wesperon.screen.frame import Frame
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint
    from wesperon.widgets.widget import Effect, Widget

#: The columns and rows that a question wants in a dialog, and how many candidates it may list.
COLUMNS, ROWS = 60, 14


class Inside(Part):
    """Shows an ``inner`` widget, and calls ``close`` once that has an outcome."""

    takes_focus = works = True

    def __init__(self, inner: Widget) -> None:
        super().__init__()
        self.inner = inner
        self.close: Callable[[], object] = lambda: None

    def wants_key(self, key: Key) -> bool:
        """See ``Part``: all keys are its own."""
        return True

    def press(self, event: Event) -> Effect | None:
        """See ``Widget``."""
        wanted = self.inner.press(event)
        if self.inner.outcome is not None:
            self.close()
        return wanted

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        wide = min(columns, COLUMNS)
        rows = len(self.inner.view(wide, ROWS).rows)
        return SizeHint(min(wide, 20), 1, wide, rows)

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        return self.inner.view(columns, rows)

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        super().bind(bindings)
        self.inner.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        super().set_theme(theme)
        self.inner.set_theme(theme)

    def drawn(self) -> None:
        """See ``Widget``."""
        self.inner.drawn()

    def work(self) -> bool:
        """See ``Widget``."""
        return self.inner.work()

    @property
    def growing(self) -> Any:
        """See ``Widget``."""
        return self.inner.growing

    @property
    def text(self) -> str:
        """See ``Widget``."""
        return self.inner.text

    @property
    def syntax(self) -> Any:
        """See ``Widget``."""
        return self.inner.syntax

    def about(self, effect: Effect) -> Any:
        """See ``Widget``."""
        return self.inner.about(effect)

    def returned(self, text: str | Complaint) -> None:
        """See ``Widget``."""
        self.inner.returned(text)

    def refuse(self, complaint: Complaint) -> None:
        """See ``Widget``."""
        self.inner.refuse(complaint)

    @property
    def pending(self) -> str:
        """See ``Widget``."""
        return self.inner.pending

    def hint_keys(self) -> str:
        """See ``Part``: the question says what its keys do."""
        return ""
