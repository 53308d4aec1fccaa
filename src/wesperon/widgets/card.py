"""The card: the questions of a form one below the other, what was answered standing above as a record.

What comes next is not the card's to say: a ``course`` tells it which question is open, and what was answered before.
The cost of a key is that of the open question; the rows above it are kept as they were made.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Key, Mouse
from wesperon.screen.frame import Frame
from wesperon.screen.layout import field_area
from wesperon.text.messages import tell
from wesperon.widgets.footer import wrap_limited
from wesperon.widgets.widget import Answered, Ended, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, Protocol

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.widgets.widget import Outcome, Widget

    class QuestionFlow(Protocol):
        """Which questions there are, with the answers so far."""

        @property
        def passed(self) -> Sequence[AnsweredField]:
            """What was answered before the open question."""

        @property
        def stands_alone(self) -> bool:
            """Whether the open question shows by itself all that is to be seen."""

        def take(self, value: Any) -> Widget | None:
            """Take the answer to the open question; the next one, if there is one."""

        def end(self) -> Widget | None:
            """Know that the user gives no answer; the next question, if there is one."""

        def work(self) -> bool:
            """Do what no key is to wait for; whether there is something new to show."""

        def back(self) -> Widget | None:
            """The question before; None where there is none."""


class AnsweredField:
    """A question that has been answered, as it stands on the card; ``widget`` shows it."""

    def __init__(self, widget: Widget) -> None:
        self.widget = widget
        self.columns = 0
        self.kept: tuple[Row, ...] = ()

    def rows(self, columns: int) -> tuple[Row, ...]:
        """Its record, made anew for another width only."""
        if columns != self.columns:
            self.columns = columns
            self.kept = self.widget.view(columns, 1_000).rows
        return self.kept


class Card:
    """Asks the questions of a course, from the first to the last; its outcome is that of the whole."""

    def __init__(self, course: QuestionFlow, first: Widget) -> None:
        self.course = course
        self.bindings: Bindings | None = None
        self.dressing: tuple[Any, ...] | None = None
        self.outcome: Outcome | None = None
        self.shows_help = False
        self.above = 0
        self._last_key: tuple[object, ...] = ()
        self._last_rows: tuple[Row, ...] = ()
        self.open: Any = first
        #: How many questions have been opened, so that a driver can tell one from the next.
        self.opened = 1

    def press(self, event: Event) -> None:
        """Take one event, which is the open question's, unless it asks for another question or for help."""
        if isinstance(event, Mouse):
            event = Mouse(event.name, event.action, event.row - self.above, event.column)
        if isinstance(event, Key):
            self.shows_help = False
        self.open.press(event)
        request = getattr(self.open, "request", "")
        if request:
            self.open.request = ""
            if request == "back":
                self.back()
            else:
                self.shows_help = True
        elif self.open.outcome is not None:
            self.go_on()

    def back(self) -> bool:
        """Open the question before; whether there is one."""
        before = self.course.back()
        if before is None:
            return False
        self._open(before)
        return True

    def go_on(self) -> None:
        """Open the next question, now that the open one has an outcome."""
        outcome = self.open.outcome
        if isinstance(outcome, Interrupted):
            self.outcome = outcome
            return
        following = self.course.take(outcome.value) if isinstance(outcome, Answered) else self.course.end()
        if following is None:
            self.outcome = Answered(None) if isinstance(outcome, Answered) else Ended()
        else:
            self._open(following)

    def _open(self, widget: Any) -> None:
        self.open = widget
        self.opened += 1
        if self.bindings is not None and hasattr(widget, "bind"):
            widget.bind(self.bindings)
        if self.dressing is not None and hasattr(widget, "set_theme"):
            widget.set_theme(*self.dressing)

    def view(self, columns: int, rows: int) -> Frame:
        """The answers that there is room for, the open question, and its help where that is wanted."""
        passed = self.course.passed
        if self.outcome is not None:
            shown = self._records(passed, columns)
            if isinstance(self.outcome, Answered) and not self.course.stands_alone:
                return Frame(shown)
            if isinstance(self.outcome, Answered):
                return Frame(self.open.view(columns, rows).rows)
            return Frame((*shown, *self.open.view(columns, rows).rows))
        frame: Frame = self.open.view(columns, rows)
        below = self._help(columns)[: max(rows - len(frame.rows), 0)] if self.shows_help else []
        room = rows - len(frame.rows) - len(below)
        above: tuple[Row, ...] = ()
        if not self.course.stands_alone:
            above = self._last(passed, columns, room)
        self.above = len(above)
        cursor = None if frame.cursor is None else (frame.cursor[0] + len(above), frame.cursor[1])
        return Frame((*above, *frame.rows, *below), cursor, frame.shape)

    def _records(self, passed: Sequence[AnsweredField], columns: int) -> tuple[Row, ...]:
        return tuple([row for one in passed for row in one.rows(columns)])

    def _last(self, passed: Sequence[AnsweredField], columns: int, room: int) -> tuple[Row, ...]:
        """The last of the answers, as many as there is room for; and how many more there are."""
        key = (len(passed), passed[-1] if passed else None, columns, room)
        if key != self._last_key:
            self._last_key, self._last_rows = key, self._fitting(passed, columns, room)
        return self._last_rows

    def _fitting(self, passed: Sequence[AnsweredField], columns: int, room: int) -> tuple[Row, ...]:
        shown: tuple[Row, ...] = ()
        for count, one in enumerate(reversed(passed)):
            rows = one.rows(columns)
            if len(rows) + len(shown) > room - (count + 1 < len(passed)):
                if room > len(shown):
                    left = tell("{count} answers above", count=len(passed) - count)
                    where = field_area(self.open.prompt.gutter, columns)
                    shown = (((" " * where.left, ""), (left[: where.width], "note")), *shown)
                return shown
            shown = (*rows, *shown)
        return shown

    def _help(self, columns: int) -> list[Row]:
        """What is said about the open question, and its keys."""
        where = field_area(self.open.prompt.gutter, columns)
        indent = (" " * where.left, "")
        said = [(line, "") for line in wrap_limited(self.open.prompt.help, where.width)]
        keys = [*getattr(self.open, "MORE", ()), ("Shift-Tab", tell("back to the question before"))]
        said += [
            (line, "note") for keys, what in keys for line in wrap_limited(f"{tell(keys)}: {tell(what)}", where.width)
        ]
        return [(indent, one) for one in said]

    def bind(self, bindings: Bindings) -> None:
        """Take the user's own bindings, for every question."""
        self.bindings = bindings
        if hasattr(self.open, "bind"):
            self.open.bind(bindings)

    def set_theme(self, *dressing: Any) -> None:
        """Learn how languages are to be shown."""
        self.dressing = dressing
        if hasattr(self.open, "set_theme"):
            self.open.set_theme(*dressing)

    @property
    def wish(self) -> str:
        """What the driver is to do for the open question."""
        return getattr(self.open, "wish", "")

    @wish.setter
    def wish(self, wish: str) -> None:
        self.open.wish = wish

    @property
    def text(self) -> str:
        """The text of the open question."""
        text: str = self.open.text
        return text

    @property
    def syntax(self) -> Any:
        """The language of that text."""
        return self.open.syntax

    def returned(self, text: Any) -> None:
        """Take what became of the text outside."""
        self.open.returned(text)

    @property
    def supplies(self) -> Sequence[Any]:
        """What the open question is to be drawn from."""
        supplies: Sequence[Any] = getattr(self.open, "supplies", ())
        return supplies

    def work(self) -> bool:
        """Do a piece of what no key is to wait for."""
        work = getattr(self.open, "work", None)
        return (work is not None and work()) or self.course.work()
