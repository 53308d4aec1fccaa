"""Drivers: what runs a widget until it has an outcome.

``Driver`` is the loop that all of them share; a driver of its own kind says where events come from, where text goes and
how large the terminal is. Use it as a context: the terminal is the widget's between ``enter`` and ``leave``, which do
nothing where they are nested.
"""

from __future__ import annotations

from wesperon.editing.events import Position, Resize
from wesperon.screen.painter import Painter
from wesperon.widgets.widget import Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections import deque
    from collections.abc import Callable, Mapping
    from types import TracebackType
    from typing import Self

    from wesperon.core import Complaint
    from wesperon.editing.bindings import Bindings
    from wesperon.editing.edits import Draft
    from wesperon.editing.events import Event
    from wesperon.screen.frame import Frame, Row
    from wesperon.widgets.widget import Outcome, Widget


class Driver:
    """Runs widgets one after the other on one terminal."""

    def __init__(self, look: Mapping[str, str]) -> None:
        self.painter = Painter(look)
        self.queue: list[Event] = []
        self.depth = 0
        #: Whether the process ends once the user stops the questions, so that no interrupt matters any more then.
        self.ends_process = False
        #: The seconds after which a question that nobody answers ends, as if the terminal were gone; None: never.
        self.patience: float | None = None
        #: The name of the program, and the bindings and acts that it has of its own (see ``editing.bindings``).
        self.program = ""
        self.own_keys: Mapping[str, object] = {}
        self.own_acts: Mapping[str, Callable[[Draft], Draft]] = {}
        self.bindings: Bindings | None = None
        self.is_bound = False
        self.told: deque[tuple[Row, ...]] = deque()

    def size(self) -> tuple[int, int]:
        """The columns and rows of the terminal, at least 1 each."""
        raise NotImplementedError

    def wait(self) -> list[Event]:
        """The next events; at least one."""
        raise NotImplementedError

    def send(self, text: str) -> None:
        """Show a text that a painter made."""
        raise NotImplementedError

    def enter(self) -> None:
        """Take the terminal."""

    def hush(self) -> None:
        """Let no further interrupt through until the terminal is given back: the user has made one."""

    def leave(self) -> None:
        """Give the terminal back as it was."""

    def close(self) -> None:
        """Let go of the terminal for good."""

    def __enter__(self) -> Self:
        if not self.depth:
            self.enter()
            try:
                self.send(self.painter.start(self.size()[0]))
            except BaseException:
                self.leave()
                raise
        self.depth += 1
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.depth -= 1
        if not self.depth:
            if self.painter.rows:  # an exception came while a widget was open
                self.send(self.painter.abandon())
            self.leave()

    def look_at(self, frame: Frame) -> None:
        """Called with each frame before it is drawn."""

    def run(self, widget: Widget) -> Outcome:
        """Show the widget and give it events until it has an outcome; its record stays on the screen."""
        with self:
            while widget.outcome is None:
                columns, rows = self.size()
                frame = widget.view(columns, rows)
                self.look_at(frame)
                self.send(self.painter.paint(frame, columns, rows))
                if not self.queue:
                    self.queue = self.wait()
                self._press(widget)
            if isinstance(widget.outcome, Interrupted):
                self.hush()
            columns, rows = self.size()
            frame = widget.view(columns, rows)
            self.look_at(frame)
            self.send(self.painter.finish(frame, columns))
            return widget.outcome

    def _press(self, widget: Widget) -> None:
        """Give the widget the events that are there; those behind its outcome wait for the next widget."""
        for taken, event in enumerate(self.queue, 1):
            if not isinstance(event, (Resize, Position)):
                widget.press(event)
            if widget.outcome is not None:
                del self.queue[:taken]
                return
        self.queue.clear()
