"""The card: the questions of a form one below the other, what was answered standing above as a record.

What comes next is not the card's to say: a ``QuestionFlow`` says which question is open, and what was answered before.
The cost of a key is that of the open question; the rows above it are kept as they were made.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Key
from wesperon.screen.frame import Frame
from wesperon.screen.layout import field_area, wrap_limited
from wesperon.text.messages import tell
from wesperon.widgets.delegate import Delegate
from wesperon.widgets.widget import BACK, HELP, Answered, Ended, Interrupted, WentBack

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, Protocol

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint
    from wesperon.widgets.question import Question
    from wesperon.widgets.widget import Effect, Outcome

    class QuestionFlow(Protocol):
        """Which questions there are, with the answers so far."""

        @property
        def passed(self) -> Sequence[AnsweredField]:
            """What was answered before the open question."""

        @property
        def stands_alone(self) -> bool:
            """Whether the open question shows by itself all that is to be seen."""

        @property
        def leads_back(self) -> bool:
            """Whether something was asked before the first question, to which the way back leads."""

        @property
        def leaves_record(self) -> bool:
            """Whether the answers stay on the screen."""

        def accept(self, value: Any) -> Question | None:
            """Take the answer to the open question. Return the next one, or None."""

        def end(self) -> Question | None:
            """Learn that the user gives no answer. Return the next question, or None."""

        def work(self) -> bool:
            """Run one slice of background work. Return True if the view changed."""

        def back(self) -> Question | None:
            """Return the question before; None if there is none."""


class AnsweredField:
    """A question that has been answered, as it is on the card."""

    def __init__(self, question: Question) -> None:
        self.question = question
        self.columns = 0
        self.kept: tuple[Row, ...] = ()

    def rows(self, columns: int) -> tuple[Row, ...]:
        """Its record, made again only for another width."""
        if columns != self.columns:
            self.columns = columns
            self.kept = self.question.view(columns, 1_000).rows
        return self.kept


class Card(Delegate):
    """Asks the questions of a flow, from the first to the last; its outcome is that of the whole."""

    def __init__(self, flow: QuestionFlow, first: Question) -> None:
        super().__init__(first)
        self.flow = flow
        self._outcome: Outcome | None = None
        self.shows_help = self._help_is_drawn = False
        self._bindings: Bindings | None = None
        self._theme: Theme | None = None
        self._last_key: tuple[object, ...] = ()
        self._last_rows: tuple[Row, ...] = ()
        self.open = first
        #: How many questions have been opened, so that a driver can tell one from the next.
        self.opened = 1

    @property
    def outcome(self) -> Outcome | None:
        """How all questions together have ended."""
        return self._outcome

    @outcome.setter
    def outcome(self, outcome: Outcome | None) -> None:
        self._outcome = outcome

    def press(self, event: Event) -> Effect | None:
        """Take one event, which is the open question's, unless it wants another question or help."""
        if isinstance(event, Key):
            self.shows_help = False
        wanted = self.open.press(event)
        if wanted is BACK:
            self.back()
        elif wanted is HELP:
            self.shows_help = True
        elif self.open.field.outcome is not None:
            self.go_on()
        else:
            return wanted
        return None

    def back(self) -> bool:
        """Open the question before, or leave the card for what was asked before it. Return False if nothing was."""
        before = self.flow.back()
        if before is not None:
            self._open(before)
        elif self.flow.leads_back:
            self.outcome = WentBack()
        return before is not None or self.flow.leads_back

    def go_on(self) -> None:
        """Open the next question, now that the open one has an outcome."""
        outcome = self.open.outcome
        if isinstance(outcome, Interrupted):
            self.outcome = outcome
            return
        following = self.flow.accept(outcome.value) if isinstance(outcome, Answered) else self.flow.end()
        if following is None:
            self.outcome = Answered(None) if isinstance(outcome, Answered) else Ended()
        else:
            self._open(following)

    def refuse(self, complaint: Complaint) -> None:
        """See ``Widget``; what comes after an answer, such as a check of all together, may have been stopped."""
        if self.open.field.outcome is not None:
            before = self.flow.back()
            if before is not None:
                self._open(before)
            self.open.field.outcome = None
        super().refuse(complaint)

    def _open(self, question: Question) -> None:
        self.open = self.inner = question
        self.opened += 1
        if self._bindings is not None:
            question.bind(self._bindings)
        if self._theme is not None:
            question.set_theme(self._theme)

    def view(self, columns: int, rows: int) -> Frame:
        """Return the answers that there is room for, the open question, and its help if that is wanted."""
        passed = self.flow.passed
        if isinstance(self.outcome, WentBack) or (isinstance(self.outcome, Answered) and not self.flow.leaves_record):
            return Frame(())
        if self.outcome is not None:
            shown = tuple([row for one in passed for row in one.rows(columns)])
            if not isinstance(self.outcome, Answered):
                return Frame((*shown, *self.open.view(columns, rows).rows))
            # What is printed next begins after an empty row.
            return self.open.view(columns, rows) if self.flow.stands_alone else Frame((*shown, ()) if shown else ())
        frame = self.open.view(columns, rows)
        below = self._help(columns)[: max(rows - len(frame.rows), 0)] if self.shows_help else []
        room = rows - len(frame.rows) - len(below)
        above: tuple[Row, ...] = ()
        if not self.flow.stands_alone:
            above = self._last(passed, columns, room)
        if not above and not below:
            return frame
        cursor = None if frame.cursor is None else (frame.cursor[0] + len(above), frame.cursor[1])
        return Frame((*above, *frame.rows, *below), cursor, frame.shape, clicks=frame.clicks.moved(len(above), 0))

    def drawn(self) -> None:
        """See ``Widget``."""
        self._help_is_drawn = self.shows_help
        super().drawn()

    def echo(self) -> str:
        """See ``Widget``: what is above and below the open question is as it was."""
        return "" if self._help_is_drawn or self.shows_help else self.open.field.echo()

    def _last(self, passed: Sequence[AnsweredField], columns: int, room: int) -> tuple[Row, ...]:
        """Return the last of the answers, as many as there is room for; and how many more there are."""
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
        """Return what is said about the open question, and its keys."""
        where = field_area(self.open.prompt.gutter, columns)
        indent = (" " * where.left, "")
        said = [(line, "") for line in wrap_limited(self.open.prompt.help, where.width)]
        leads_back = bool(self.flow.passed) or self.flow.leads_back
        back = (("Shift-Tab", tell("back to the previous question")),) if leads_back else ()
        for keys, what in (*self.open.field.MORE, *back):
            said += [(line, "note") for line in wrap_limited(f"{tell(keys)}: {tell(what)}", where.width)]
        said += [(line, "note") for line in wrap_limited(tell("Ctrl-X P: preferences"), where.width)]
        return [(indent, one) for one in said]

    # For every question -----------------------------------------------------------------------------------------------

    def bind(self, bindings: Bindings) -> None:
        """Take the bindings, for every question."""
        self._bindings = bindings
        self.open.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """Take the theme, for every question."""
        self._theme = theme
        self.open.set_theme(theme)

    def work(self) -> bool:
        """Run one slice of background work, of the open question and of the flow."""
        return self.open.field.work() or self.flow.work()
