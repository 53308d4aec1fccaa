"""Widgets in plain lines: what is printed before an answer, and what an answer that is one line of text does.

For terminals that cannot move their cursor, for screen readers and slow lines. Values and complaints are those of the
widgets themselves; only the way in is another.
"""

from __future__ import annotations

from wesperon.editing.text_state import whole
from wesperon.screen.width import width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint, quoted
from wesperon.values.suggestions import text_of
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.secret import Secret
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.suggested import Suggested
from wesperon.widgets.value_list import ValueList
from wesperon.widgets.widget import Ended, Prompt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: The most choices that are listed.
LISTED = 60
#: The most suggestions that are listed.
TOLD = 10
#: The line that ends a text of several lines.
END = "."


class PlainWidget:
    """What most widgets in plain lines share: one line is an answer, and all there is."""

    #: Whether the answer is typed unseen.
    hides = False

    def __init__(self, widget: Any, prompt: Prompt | None = None) -> None:
        self.widget = widget
        self.prompt_around = prompt or Prompt("", 0)

    def is_whole(self, lines: list[str]) -> bool:
        """Return True if the answer is complete with these lines."""
        return True

    def has_own(self, word: str) -> bool:
        """Return True if a word that goes back or helps elsewhere is an answer here."""
        return self.hides

    def end(self) -> None:
        """Take the end of input."""
        self.widget.outcome = Ended()


class PlainLine(PlainWidget):
    """A line, or yes or no: the answer is its text."""

    widget: Line

    def rows(self) -> list[str]:
        """Return what is above the prompt: the question, and what is wrong with the last answer."""
        complaint = self.widget.complaint
        rows = [row for row in self.prompt_around.question.split("\n") if row]
        return [*rows, *([f"  {complaint.reason}"] if complaint else [])]

    def prompt(self) -> str:
        """Return the label, what is wanted, and what an empty answer means."""
        prompt, default = self.prompt_around, self.widget.default
        wanted = f" ({prompt.hint})" if prompt.hint else ""
        return f"{prompt.label}{wanted}{f' [{visible(default)}]' if default else ''}: "

    def answer(self, lines: list[str]) -> None:
        """Take the answer; where it will not do, the widget has a complaint."""
        text = "\n".join(lines)
        self.widget.complaint = None
        self.widget.editor.replace(whole(text or self.widget.default or ""))
        self.widget.enter()


class PlainLines(PlainLine):
    """A text of several lines: up to one that says so, or until the program has enough."""

    widget: SeveralLines

    def rows(self) -> list[str]:
        """Return the same, and how the text is ended."""
        how = [] if self.widget.is_whole else [tell("Several lines: a line with {end} alone ends the text.", end=END)]
        return [*super().rows(), *how]

    def is_whole(self, lines: list[str]) -> bool:
        """See ``PlainLine``."""
        if self.widget.is_whole is not None:
            return bool(self.widget.is_whole("\n".join(lines)))
        if lines[-1] == END:
            lines.pop()
            return True
        return lines == [""] and bool(self.widget.default)


class PlainValueList(PlainLine):
    """Several values: one after the other, up to an empty answer; each is checked at once."""

    widget: ValueList
    has_told = False

    def rows(self) -> list[str]:
        """Return the question, what is wrong with the last answer, and the values so far; once, what a value may be."""
        rows = self.widget.rows_of(self.widget.text)
        return [*super().rows(), *self._told(), *(f"  {visible(row)}" for row in rows)]

    def _told(self) -> list[str]:
        if self.has_told or self.widget.lists is None:
            return []
        self.has_told = True
        found = self.widget.lists("", TOLD + 1)
        texts = [visible(one.text) for one in found[:TOLD]]
        more = ", ..." if len(found) > TOLD else ""
        return [tell("such as {texts}", texts=", ".join(texts) + more)] if texts else []

    def prompt(self) -> str:
        """Return the label, what is wanted, and how the values are ended."""
        prompt = self.prompt_around
        wanted = f"{prompt.hint}; " if prompt.hint else ""
        return f"{prompt.label} ({wanted}{tell('an empty line ends')}): "

    def answer(self, lines: list[str]) -> None:
        """Take one more value; an empty answer accepts what is there."""
        widget, text = self.widget, lines[0]
        widget.complaint = None
        if widget.rules.is_blank(text):
            widget.enter()
            return
        rows = widget.rows_of(widget.text)
        complaint = widget.fault_of(text, widget.names_in(rows))
        if complaint is not None:
            widget.complaint = complaint
            return
        rows.append(text)
        widget.editor.become(whole("".join([row + "\n" for row in rows])))
        if widget.rules.most is not None and len(rows) >= widget.rules.most:
            widget.enter()


class PlainSecret(PlainLine):
    """A secret: typed unseen."""

    hides = True
    widget: Secret

    def prompt(self) -> str:
        """See ``PlainLine``; the default is not shown."""
        again = tell("once more") if self.widget.first is not None else tell("not shown while you type")
        return f"{self.prompt_around.label} ({again}): "


class PlainMenu(PlainWidget):
    """One of several choices, by number or by text."""

    HOW = "number or text"

    widget: Menu
    has_listed = False

    def rows(self) -> list[str]:
        """Return the choices with their numbers, once; what is wrong with the last answer."""
        rows = [] if self.has_listed else self._list()
        self.has_listed = True
        complaint = self.widget.complaint
        return [*rows, *([f"  {complaint.reason}"] if complaint else [])]

    def prompt(self) -> str:
        """Return the label, how to answer, and what an empty answer means."""
        default = self.default()
        return f"{self.prompt_around.label} ({tell(self.HOW)}){f' [{visible(default)}]' if default else ''}: "

    def default(self) -> str:
        """Return the text that an empty answer means."""
        at = self.widget.default
        return "" if at is None else self.widget.choices.label(at)

    def has_own(self, word: str) -> bool:
        """See ``PlainLine``."""
        return self.widget.choices.find(word) is not None

    def answer(self, lines: list[str]) -> None:
        """See ``PlainLine``."""
        widget, text = self.widget, lines[0].strip()
        widget.complaint = None
        try:
            if text or widget.default is not None:
                by_letter = widget.index_by_letter(text) if text else widget.default or 0
                widget.current = self.index_of(text) if by_letter is None else by_letter
                widget.enter()
            else:
                widget.complaint = Complaint(tell("a value is required: enter the number of a choice, or its text"))
        except Complaint as complaint:
            widget.complaint = complaint

    def index_of(self, text: str) -> int:
        """Return the place of a choice by its text, else by its number; raises Complaint."""
        choices = self.widget.choices
        at = choices.find(text)
        if at is None and text.isdecimal():
            if not 1 <= int(text[:9]) <= len(choices):
                raise Complaint(
                    tell(
                        "{text} is not the number of a choice: must be from 1 to {count:,}",
                        text=quoted(text),
                        count=len(choices),
                    )
                )
            at = int(text) - 1
        if at is None:
            raise choices.unknown(text)
        return at

    def _list(self) -> list[str]:
        """Return what is asked, and the choices, as many as are listed, with notes in a column after them."""
        choices, question = self.widget.choices, self.prompt_around.question
        choices.pull_all(LISTED + 1)
        shown = range(min(len(choices), LISTED))
        labels = [visible(choices.label(at)) for at in shown]
        widest = max(map(width, labels), default=0)
        rows = question.split("\n") if question else [self.prompt_around.label]
        heading = ""
        for at, label in zip(shown, labels, strict=True):
            if choices.group(at) != heading:
                heading = choices.group(at)
                rows.append(f"  {visible(heading)}")
            disabled = choices.disabled(at)
            note = tell("not now: {reason}", reason=disabled) if disabled else choices.note(at)
            padded = label + " " * (widest - width(label)) if note else label
            rows.append(f"{at + 1:>4}  {padded}{f'  {visible(note)}' if note else ''}")
        more = len(choices) - len(labels)
        many = tell("and more, by number or text") if choices.is_growing else ""
        many = many or tell("and {count} more, by number or text", count=f"{more:,}")
        error = choices.source.ended_early
        if error:
            rows.append("      " + tell("further ones could not be loaded: {error}", error=visible(error)))
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
        """Return the places that the answer names; raises Complaint."""
        at = self.widget.choices.find(text)
        if at is not None:
            return {at}
        found: set[int] = set()
        for part in text.split(","):
            first, mark, last = part.strip().partition("-")
            if mark and first.strip().isdecimal() and last.strip().isdecimal():
                low, high = self.index_of(first.strip()), self.index_of(last.strip())
                if low > high:
                    reason = tell(
                        "{part} runs backwards: write {last}-{first}", part=part.strip(), last=last, first=first
                    )
                    raise Complaint(reason)
                found |= set(range(low, high + 1))
            elif part.strip():
                found.add(self.index_of(part.strip()))
            else:
                raise Complaint(tell("there is nothing between two commas: write none for no choice"))
        return found


class PlainSuggested(PlainLine):
    """A text of which some are known: the first of them are listed."""

    widget: Suggested
    has_told = False

    def rows(self) -> list[str]:
        """See ``PlainLine``."""
        if self.has_told:
            return super().rows()
        self.has_told = True
        suggestions = self.widget.offers.suggestions
        suggestions.pull_all(TOLD + 1)
        texts = [text_of(item) for item in suggestions.items[:TOLD]]
        more = ", ..." if len(suggestions.items) > TOLD else ""
        return [*super().rows(), *([tell("such as {texts}", texts=", ".join(texts) + more)] if texts else [])]
