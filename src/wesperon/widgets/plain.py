"""Widgets in plain lines: what is printed before an answer, and what an answer that is one line of text does.

For terminals that cannot move their cursor, for screen readers and slow lines. Values and complaints are those of the
widgets themselves; only the way in is another.
"""

from __future__ import annotations

from wesperon.core import Complaint, quoted
from wesperon.core.messages import tell
from wesperon.core.supply import text_of
from wesperon.core.visible import visible
from wesperon.editing.edits import whole
from wesperon.screen.width import width
from wesperon.widgets.card import Card
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.lines import Lines
from wesperon.widgets.menu import Menu
from wesperon.widgets.notice import Notice
from wesperon.widgets.review import Review
from wesperon.widgets.secret import Secret
from wesperon.widgets.shown import Shown
from wesperon.widgets.suggested import Suggested
from wesperon.widgets.widget import Answered, Ended

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
            """What is printed above the prompt."""

        def prompt(self) -> str:
            """What stands before the answer."""

        def is_whole(self, lines: list[str]) -> bool:
            """Whether the answer is complete with these lines."""

        def answer(self, lines: list[str]) -> None:
            """Take the answer."""

        def end(self) -> None:
            """Take the end of input."""


#: The most choices that are listed.
LISTED = 60
#: The most suggestions that are told.
TOLD = 10
#: The line that ends a text of several lines.
END = "."


class PlainLine:
    """A line, or yes or no: the answer is its text."""

    hides = False

    def __init__(self, widget: Line) -> None:
        self.widget: Line = widget

    def rows(self) -> list[str]:
        """What stands above the prompt: the question, and what is wrong with the last answer."""
        complaint = self.widget.complaint
        rows = [row for row in self.widget.prompt.question.split("\n") if row]
        return [*rows, *([f"  {complaint.reason}"] if complaint else [])]

    def prompt(self) -> str:
        """The label, what is wanted, and what an empty answer stands for."""
        prompt, default = self.widget.prompt, self.widget.default
        wanted = f" ({prompt.hint})" if prompt.hint else ""
        return f"{prompt.label}{wanted}{f' [{visible(default)}]' if default else ''}: "

    def is_whole(self, lines: list[str]) -> bool:
        """Whether the answer is complete with these lines."""
        return True

    def has_own(self, word: str) -> bool:
        """Whether a word that goes back or helps elsewhere is an answer here."""
        return self.hides

    def end(self) -> None:
        """Take the end of input."""
        self.widget.outcome = Ended()

    def answer(self, lines: list[str]) -> None:
        """Take the answer; where it will not do, the widget has a complaint."""
        text = "\n".join(lines)
        self.widget.complaint = None
        self.widget.editor.replace(whole(text or self.widget.default or ""))
        self.widget.enter()


class PlainLines(PlainLine):
    """A text of several lines: up to one that says so, or until the program has enough."""

    widget: Lines

    def rows(self) -> list[str]:
        """The same, and how the text is ended."""
        how = [] if self.widget.is_whole else [tell("Several lines; one with {end} alone ends them.", end=END)]
        return [*super().rows(), *how]

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainLine``."""
        if self.widget.is_whole is not None:
            return bool(self.widget.is_whole("\n".join(lines)))
        if lines[-1] == END:
            lines.pop()
            return True
        return lines == [""] and bool(self.widget.default)


class PlainSecret(PlainLine):
    """A secret: typed unseen."""

    hides = True
    widget: Secret

    def prompt(self) -> str:
        """See ``PlainLine``; the default is not shown."""
        again = tell("once more") if self.widget.first is not None else tell("not shown while you type")
        return f"{self.widget.prompt.label} ({again}): "


class PlainMenu:
    """One of several choices, by number or by text."""

    hides = False
    HOW = "number or text"

    def __init__(self, widget: Menu) -> None:
        self.widget = widget
        self.has_listed = False

    def rows(self) -> list[str]:
        """The choices with their numbers, once; what is wrong with the last answer."""
        rows = [] if self.has_listed else self._list()
        self.has_listed = True
        complaint = self.widget.complaint
        return [*rows, *([f"  {complaint.reason}"] if complaint else [])]

    def prompt(self) -> str:
        """The label, how to answer, and what an empty answer stands for."""
        default = self.default()
        return f"{self.widget.prompt.label} ({tell(self.HOW)}){f' [{visible(default)}]' if default else ''}: "

    def default(self) -> str:
        """The text that an empty answer stands for."""
        at = self.widget.default
        return "" if at is None else self.widget.choices.label(at)

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainLine``."""
        return True

    def has_own(self, word: str) -> bool:
        """See ``PlainLine``."""
        return self.widget.choices.find(word) is not None

    def end(self) -> None:
        """See ``PlainLine``."""
        self.widget.outcome = Ended()

    def answer(self, lines: list[str]) -> None:
        """See ``PlainLine``."""
        widget, text = self.widget, lines[0].strip()
        widget.complaint = None
        try:
            if text or widget.default is not None:
                widget.current = self.place(text) if text else widget.default or 0
                widget.enter()
            else:
                widget.complaint = Complaint(tell("an answer is needed: the number of a choice, or its text"))
        except Complaint as complaint:
            widget.complaint = complaint

    def place(self, text: str) -> int:
        """The place of a choice by its text, else by its number; raises Complaint."""
        choices = self.widget.choices
        at = choices.find(text)
        if at is None and text.isdecimal():
            if not 1 <= int(text[:9]) <= len(choices):
                raise Complaint(
                    tell(
                        "{text} is no number of a choice: they go from 1 to {count:,}",
                        text=quoted(text),
                        count=len(choices),
                    )
                )
            at = int(text) - 1
        if at is None:
            raise choices.unknown(text)
        return at

    def _list(self) -> list[str]:
        """What is asked, and the choices, as many as are listed, with notes in a column behind them."""
        choices, question = self.widget.choices, self.widget.prompt.question
        choices.draw_all(LISTED + 1)
        shown = range(min(len(choices), LISTED))
        labels = [visible(choices.label(at)) for at in shown]
        widest = max(map(width, labels), default=0)
        rows = question.split("\n") if question else [self.widget.prompt.label]
        heading = ""
        for at, label in zip(shown, labels, strict=True):
            if choices.group(at) != heading:
                heading = choices.group(at)
                rows.append(f"  {visible(heading)}")
            barred = choices.barred(at)
            note = tell("not now: {reason}", reason=barred) if barred else choices.note(at)
            padded = label + " " * (widest - width(label)) if note else label
            rows.append(f"{at + 1:>4}  {padded}{f'  {visible(note)}' if note else ''}")
        more = len(choices) - len(labels)
        many = tell("and more, by number or text") if choices.is_growing else ""
        many = many or tell("and {count} more, by number or text", count=f"{more:,}")
        return [*rows, *([f"      {many}"] if more else [])]


class PlainCheckboxes(PlainMenu):
    """Some of several choices, by numbers, ranges and texts with commas between them."""

    HOW = "numbers such as 1,3-5, or texts"
    widget: Checkboxes

    def default(self) -> str:
        """See ``PlainMenu``."""
        return ", ".join(self.widget.choices.label(at) for at in sorted(self.widget.marked))

    def answer(self, lines: list[str]) -> None:
        """See ``PlainLine``."""
        widget, text = self.widget, lines[0].strip()
        widget.complaint = None
        try:
            if text.lower() in ("none", tell("none")) and widget.choices.find(text) is None:
                widget.marked = set()
            elif text:
                widget.marked = self.places(text)
            widget.enter()
        except Complaint as complaint:
            widget.complaint = complaint

    def places(self, text: str) -> set[int]:
        """The places that the answer names; raises Complaint."""
        at = self.widget.choices.find(text)
        if at is not None:
            return {at}
        found: set[int] = set()
        for part in text.split(","):
            first, mark, last = part.strip().partition("-")
            if mark and first.strip().isdecimal() and last.strip().isdecimal():
                found |= set(range(self.place(first.strip()), self.place(last.strip()) + 1))
            elif part.strip():
                found.add(self.place(part.strip()))
        return found


class PlainSuggested(PlainLine):
    """A text of which some are known: the first of them are told."""

    widget: Suggested
    has_told = False

    def rows(self) -> list[str]:
        """See ``PlainLine``."""
        if self.has_told:
            return super().rows()
        self.has_told = True
        supply = self.widget.offers.supply
        while len(supply.items) <= TOLD and supply.draw():
            pass
        texts = [text_of(item) for item in supply.items[:TOLD]]
        more = ", ..." if len(supply.items) > TOLD else ""
        return [*super().rows(), *([tell("such as {texts}", texts=", ".join(texts) + more)] if texts else [])]


class PlainNotice:
    """Something that is said: an empty line goes on."""

    hides = False

    def __init__(self, widget: Notice) -> None:
        self.widget = widget

    def rows(self) -> list[str]:
        """The text."""
        return self.widget.prompt.question.split("\n")

    def prompt(self) -> str:
        """How to go on."""
        return tell("Enter goes on: ")

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainLine``."""
        return True

    def has_own(self, word: str) -> bool:
        """See ``PlainLine``."""
        return False

    def end(self) -> None:
        """See ``PlainLine``."""
        self.widget.outcome = Ended()

    def answer(self, lines: list[str]) -> None:
        """See ``PlainLine``."""
        self.widget.outcome = Answered(None)


class PlainReview:
    """The last look: the values with their numbers."""

    hides = False

    def __init__(self, widget: Review) -> None:
        self.widget = widget
        self.fault = ""

    def rows(self) -> list[str]:
        """The values."""
        entries = self.widget.entries
        gutter = max((width(label) for label, _ in entries), default=0)
        rows = [
            f"{number:>4}  {' ' * (gutter - width(label))}{label}  {value}".rstrip()
            for number, (label, value) in enumerate(entries, 1)
        ]
        return [*rows, *([f"  {self.fault}"] if self.fault else [])]

    def prompt(self) -> str:
        """How to go on."""
        return tell("Enter goes on, a number changes a value: ")

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainLine``."""
        return True

    def has_own(self, word: str) -> bool:
        """See ``PlainLine``."""
        return False

    def end(self) -> None:
        """See ``PlainLine``."""
        self.widget.outcome = Ended()

    def answer(self, lines: list[str]) -> None:
        """See ``PlainLine``."""
        text, last = lines[0].strip(), len(self.widget.entries)
        if not text:
            self.widget.outcome = Answered(None)
        elif text.isdecimal() and 1 <= int(text[:9]) <= last:
            self.widget.outcome = Answered(int(text[:9]) - 1)
        else:
            self.fault = tell("{text} is no number of a value: they go from 1 to {last}", text=quoted(text), last=last)


class PlainCard:
    """The questions of a card, one after the other; two words go back and help."""

    def __init__(self, widget: Card) -> None:
        self.widget = widget
        self.opened = 0
        self.plain: Any = None
        self.told = 0
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
        """What stands above the prompt; at the first one of several, which words go back and help."""
        passed = self.widget.course.passed
        known = [one.widget for one in passed[self.told :] if isinstance(one.widget, Shown)]
        rows = [f"{one.label}: {one.value}" for one in known]
        self.told = len(passed)
        if not self.has_begun and (self.widget.open.prompt.note or passed):
            self.has_begun = True
            word = tell("back"), tell("help")
            rows.append(
                tell(
                    "A line with {back} alone returns to the question before, with {help} says more.",
                    back=word[0],
                    help=word[1],
                )
            )
        rows += self.said.split("\n") if self.said else []
        self.said = ""
        return [*rows, *self.open.rows()]

    def prompt(self) -> str:
        """The prompt of the open question."""
        return str(self.open.prompt())

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainLine``."""
        return bool(self._word(lines)) or bool(self.open.is_whole(lines))

    def _word(self, lines: list[str]) -> str:
        """``back`` or ``help``, where the answer is that word and no value."""
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
            self.said = self.widget.open.prompt.help or "  " + tell("there is no more to say about this one")
            return
        if lines[0] in ("\\" + tell("back"), "\\" + tell("help")):
            lines = [lines[0][1:], *lines[1:]]
        self.open.answer(lines)
        self._go_on()

    def end(self) -> None:
        """See ``PlainLine``."""
        self.open.end()
        self._go_on()

    def _go_on(self) -> None:
        if self.widget.open.outcome is not None:
            self.widget.go_on()


#: What puts each kind of widget into plain lines; the first that fits.
PLAIN: tuple[tuple[type, type], ...] = (
    (Card, PlainCard),
    (Review, PlainReview),
    (Notice, PlainNotice),
    (Checkboxes, PlainCheckboxes),
    (Menu, PlainMenu),
    (Secret, PlainSecret),
    (Suggested, PlainSuggested),
    (Lines, PlainLines),
    (Line, PlainLine),
)


def plainly(widget: Widget) -> Plain:
    """The widget in plain lines; raises TypeError for one that is of none of these kinds."""
    for kind, plain in PLAIN:
        if isinstance(widget, kind):
            made: Plain = plain(widget)
            return made
    raise TypeError(f"{type(widget).__name__} cannot be asked in plain lines")
