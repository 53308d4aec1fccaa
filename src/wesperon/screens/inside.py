"""A question of the program in a dialog: any widget as a part, which has all keys until it has ended."""

from __future__ import annotations

from wesperon.screen.frame import Frame
from wesperon.widgets.parts.around import Around
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Event, Key
    from wesperon.widgets.widget import Effect, Widget

#: The least rows of what takes all the room.
LEAST_ROWS = 3
#: The columns and rows that a question wants in a dialog, and how many candidates it may list.
COLUMNS, ROWS = 60, 14


class Inside(Around):
    """Shows an ``inner`` widget, and calls ``close`` once that has an outcome, or has failed."""

    takes_focus = works = True

    def __init__(self, inner: Widget) -> None:
        super().__init__()
        self.inner = inner
        self.close: Callable[[], object] = lambda: None
        #: What a function of the program has raised, to be raised where the question was asked.
        self.failure: Exception | None = None

    def wants_key(self, key: Key) -> bool:
        """See ``Part``: all keys are its own, but Escape, which leaves the dialog where it has no other meaning."""
        inner = self.inner
        return key.name != "escape" or bool(inner.mode_label or inner.pending or inner.is_busy)

    @property
    def fills_down(self) -> bool:  # type: ignore[override]
        """Whether it takes all the room that there is."""
        return bool(self.inner.fills)

    def press(self, event: Event) -> Effect | None:
        """See ``Widget``."""
        wanted: Effect | None = None
        try:
            wanted = self.inner.press(event)
        except Exception as error:
            self.failure = error
        if self.inner.outcome is not None or self.failure is not None:
            self.close()
        return wanted

    def view(self, columns: int, rows: int) -> Frame:
        """See ``Widget``."""
        try:
            return super().view(columns, rows)
        except Exception as error:
            if self.failure is None and self.host is not None:
                self.failure = error
                self.host.call_soon(self.close)
            return Frame(())

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        if self.inner.fills:
            return SizeHint(min(columns, 20), LEAST_ROWS, columns, ROWS)
        wide = min(columns, COLUMNS)
        rows = len(self.view(wide, ROWS).rows)
        return SizeHint(min(wide, 20), 1, wide, rows)

    def hint_keys(self) -> str:
        """See ``Part``: the question says what its keys do."""
        return ""
