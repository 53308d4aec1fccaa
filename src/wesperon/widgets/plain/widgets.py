"""Widgets in plain lines: cards and what is on them; and which class puts which widget into plain lines.

For terminals that cannot move their cursor, for screen readers and slow lines; see ``plain_answers``.
"""

from __future__ import annotations

from wesperon.screen.table import Column, columns, texts
from wesperon.text.messages import tell
from wesperon.values import quoted
from wesperon.widgets.card import Card
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.history_page import HistoryPage
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.notice import Notice
from wesperon.widgets.pager.pager import Pager
from wesperon.widgets.plain.answers import (
    PlainCheckboxes,
    PlainLine,
    PlainLines,
    PlainMenu,
    PlainSecret,
    PlainSuggested,
    PlainValueList,
    PlainWidget,
)
from wesperon.widgets.plain.history import PlainHistory
from wesperon.widgets.plain.pager import PlainPager
from wesperon.widgets.question import Question
from wesperon.widgets.secret import Secret
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.static_field import StaticField
from wesperon.widgets.suggested import Suggested
from wesperon.widgets.summary import Summary
from wesperon.widgets.value_list import ValueList
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, Protocol

    from wesperon.widgets.widget import Widget

    class Plain(Protocol):
        """A widget in plain lines."""

        @property
        def hides(self) -> bool:
            """Whether the answer is typed unseen."""

        def rows(self) -> list[str]:
            """Return what is printed above the prompt."""

        def prompt(self) -> str:
            """Return what is before the answer."""

        def is_whole(self, lines: list[str]) -> bool:
            """Return True if the answer is complete with these lines."""

        def answer(self, lines: list[str]) -> None:
            """Take the answer."""

        def end(self) -> None:
            """Take the end of input."""


class PlainNotice(PlainWidget):
    """Something that is said: an empty line goes on."""

    widget: Notice

    def rows(self) -> list[str]:
        """Return the text."""
        return self.widget.message.split("\n")

    def prompt(self) -> str:
        """Return how to go on."""
        return tell("Enter continues: ")

    def answer(self, lines: list[str]) -> None:
        """See ``PlainWidget``."""
        self.widget.outcome = Answered(None)


class PlainReview(PlainWidget):
    """The last look: the values with their numbers."""

    widget: Summary
    fault = ""

    def rows(self) -> list[str]:
        """Return the values."""
        entries = self.widget.entries
        of = [Column(right=True), Column(right=True), Column()]
        cells = [(str(number), label, value) for number, (label, value) in enumerate(entries, 1)]
        rows = ["   " + text if len(entries) < 10 else "  " + text for text in texts(columns(of, cells))]
        return [*rows, *([f"  {self.fault}"] if self.fault else [])]

    def prompt(self) -> str:
        """Return how to go on."""
        return tell("Enter accepts, a number changes a value: ")

    def answer(self, lines: list[str]) -> None:
        """See ``PlainWidget``."""
        text, last = lines[0].strip(), len(self.widget.entries)
        if not text:
            self.widget.outcome = Answered(None)
        elif text.isdecimal() and 1 <= int(text[:9]) <= last:
            self.widget.outcome = Answered(int(text[:9]) - 1)
        else:
            self.fault = tell(
                "{text} is not the number of a value: must be from 1 to {last}", text=quoted(text), last=last
            )


class PlainCard:
    """The questions of a card, one after the other; two words go back and help."""

    def __init__(self, widget: Card) -> None:
        self.widget: Card = widget
        self.opened = 0
        self.plain: Any = None
        self.told = len(widget.flow.passed)  # what was asked before can be read above
        self.said = ""
        self.has_begun = False

    @property
    def open(self) -> Any:
        """The open question in plain lines."""
        if self.opened != self.widget.opened:
            self.opened = self.widget.opened
            self.plain = plainly(self.widget.open)
        return self.plain

    @property
    def hides(self) -> bool:
        """Whether the answer is typed unseen."""
        return bool(self.open.hides)

    def rows(self) -> list[str]:
        """Return what is above the prompt; at the first one of several, which words go back and help."""
        passed = self.widget.flow.passed
        known = [(one.question.prompt.label, one.question.field) for one in passed[self.told :]]
        rows = [f"{label}: {field.value}" for label, field in known if isinstance(field, StaticField)]
        self.told = len(passed)
        if not self.has_begun and (self.widget.open.prompt.note or passed):
            self.has_begun = True
            word = tell("back"), tell("help")
            rows.append(
                tell(
                    "Type {back} alone for the previous question, {help} alone for help.",
                    back=word[0],
                    help=word[1],
                )
            )
        rows += self.said.split("\n") if self.said else []
        self.said = ""
        return [*rows, *self.open.rows()]

    def prompt(self) -> str:
        """Return the prompt of the open question."""
        return str(self.open.prompt())

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainWidget``."""
        return bool(self._word(lines)) or bool(self.open.is_whole(lines))

    def _word(self, lines: list[str]) -> str:
        """``back`` or ``help``, if the answer is that word and no value."""
        if len(lines) == 1:
            text = lines[0].strip()
            for word in ("back", "help"):
                if text == tell(word) and not self.open.has_own(text):
                    return word
        return ""

    def answer(self, lines: list[str]) -> None:
        """Take an answer, or one of the words; a backslash before one makes it an answer."""
        word = self._word(lines)
        if word == "back":
            if not self.widget.back():
                self.said = "  " + tell("this is the first question")
            return
        if word == "help":
            self.said = self.widget.open.prompt.help or "  " + tell("there is no further help on this question")
            return
        if lines[0] in ("\\" + tell("back"), "\\" + tell("help")):
            lines = [lines[0][1:], *lines[1:]]
        self.open.answer(lines)
        self._go_on()

    def end(self) -> None:
        """See ``PlainWidget``."""
        self.open.end()
        self._go_on()

    def _go_on(self) -> None:
        if self.widget.open.outcome is not None:
            self.widget.go_on()


#: What puts each kind of widget into plain lines; the first that fits.
PLAIN: tuple[tuple[type, type], ...] = (
    (Pager, PlainPager),
    (HistoryPage, PlainHistory),
    (Card, PlainCard),
    (Summary, PlainReview),
    (Notice, PlainNotice),
    (Checkboxes, PlainCheckboxes),
    (Menu, PlainMenu),
    (Secret, PlainSecret),
    (Suggested, PlainSuggested),
    (ValueList, PlainValueList),
    (SeveralLines, PlainLines),
    (Line, PlainLine),
)


def plainly(widget: Widget) -> Plain:
    """Return the widget in plain lines; raises TypeError for one that is of none of these kinds."""
    prompt, field = (widget.prompt, widget.field) if isinstance(widget, Question) else (None, widget)
    for kind, plain in PLAIN:
        if isinstance(field, kind):
            made: Plain = plain(field) if prompt is None else plain(field, prompt)
            return made
    raise TypeError(f"{type(field).__name__} cannot be asked in plain lines")
