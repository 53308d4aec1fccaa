"""Menus and checkboxes: choices below their label, of which only those in sight are asked for their labels."""

from __future__ import annotations

from wesperon.core import Complaint
from wesperon.editing.events import Closed, Key, Mouse
from wesperon.screen.frame import Frame
from wesperon.screen.layout import field, labelled, place
from wesperon.screen.width import cut, width
from wesperon.widgets.said import bounded
from wesperon.widgets.widget import Answered, Ended, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any, ClassVar

    from wesperon.core.choices import Choices
    from wesperon.editing.events import Event
    from wesperon.screen.frame import Row
    from wesperon.widgets.widget import Outcome, Prompt

#: The most choices shown at a time.
IN_SIGHT = 12


class Menu:
    """Asks for one of several choices.

    ``accept`` turns the place of the choice into the value, and raises Complaint where it cannot be taken; ``current``
    is the place of the default, which is current at first.
    """

    FOOT = "Up Down: move   Enter: take   Ctrl-C: stop"

    def __init__(
        self,
        prompt: Prompt,
        choices: Choices[Any],
        accept: Callable[[Any], Any],
        *,
        current: int | None = None,
        complaint: Complaint | None = None,
    ) -> None:
        self.prompt = prompt
        self.choices = choices
        self.accept = accept
        self.default = current
        self.current = current or 0
        self.top = 0
        self.page = IN_SIGHT
        self.heading = 0
        self.complaint = complaint
        self.outcome: Outcome | None = None

    def press(self, event: Event) -> None:
        """Take one event."""
        if isinstance(event, Key):
            act = self.KEYS.get(event.name)
            if act is not None:
                self.complaint = None
                getattr(self, act)()
        elif isinstance(event, Mouse):
            self._click(event)
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def _click(self, event: Mouse) -> None:
        """Pick the choice under the mouse; the wheel moves."""
        if event.action != "press":
            return
        if event.name in ("wheel-up", "wheel-down"):
            self.go(self.current + (1 if event.name == "wheel-down" else -1))
        elif event.name == "left" and 0 <= event.row - self.heading < self.page:
            self.complaint = None
            self.go(self.top + event.row - self.heading)
            self.pick()

    def pick(self) -> None:
        """Do what a click on the current choice does."""
        self.enter()

    def view(self, columns: int, rows: int) -> Frame:
        """The label, the choices in sight below it, what is wrong, and what the keys do."""
        if self.outcome is not None:
            return Frame(tuple(field(self.prompt.label, self.summary(), self.prompt.gutter, columns)))
        where = place(self.prompt.gutter, columns)
        reasons = bounded(self.complaint.reason, where.width) if self.complaint else []
        question = cut(self.prompt.question, where.width)
        beside: list[Row] = [((question, "question"),)] if question or not where.stacked else []
        heading = labelled(self.prompt.label, self.prompt.gutter, beside, columns)
        if rows < 3:
            heading = []
        self.heading = len(heading)
        room = rows - len(heading) - len(reasons)
        with_foot = room > 1
        self.page = max(min(room - with_foot, IN_SIGHT, len(self.choices)), 1)
        self.top = min(max(self.top, self.current - self.page + 1), self.current, len(self.choices) - self.page)
        indent = (" " * where.left, "")
        listed = [(indent, *row) for row in self._listed(where.width)]
        below: list[Row] = [(indent, (line, "reason")) for line in reasons]
        if with_foot:
            below.append(((cut(self._foot(columns), columns - 1), "foot"),))
        return Frame((*heading, *listed, *below))

    def summary(self) -> str:
        """The label of what was chosen, for the record."""
        return self.choices.label(self.current) if isinstance(self.outcome, Answered) else ""

    def _foot(self, columns: int) -> str:
        position = f"{self.current + 1:,} of {len(self.choices):,}"
        foot = f"{self.FOOT}   {position}"
        return "  " + foot if columns > len(foot) + 2 else foot if columns > len(foot) else position

    def _listed(self, columns: int) -> list[Row]:
        """The choices in sight: their marks, their labels, and in a column behind these their notes."""
        sight = range(self.top, self.top + self.page)
        room = columns - len(self._mark(self.top))
        labels = [cut(self.choices.label(at), room) for at in sight]
        widest = min(max(map(width, labels)), 2 * room // 3)
        return [self._row(at, label, widest, room) for at, label in zip(sight, labels, strict=True)]

    def _row(self, at: int, label: str, widest: int, room: int) -> Row:
        """One choice: its mark, its label, its note or the reason why it cannot be chosen."""
        barred = self.choices.barred(at)
        role = "current" if at == self.current else "note" if barred else self._role(at)
        row: Row = ((self._mark(at) + label, role),)
        note = f"not now: {barred}" if barred else self.choices.note(at)
        taken = max(widest, width(label)) + 2
        if not note or room - taken < 4:
            return row
        return (*row, (" " * (taken - width(label)), ""), (cut(note, room - taken), "note"))

    def _mark(self, at: int) -> str:
        return ""

    def _role(self, at: int) -> str:
        return ""

    def go(self, place: int) -> None:
        """Make another choice the current one."""
        self.current = min(max(place, 0), len(self.choices) - 1)

    def enter(self) -> None:
        """Take the current choice, or say why not."""
        self._try(self.current)

    def _try(self, chosen: Any) -> None:
        try:
            self.outcome = Answered(self.accept(chosen))
        except Complaint as complaint:
            self.complaint = complaint

    def interrupt(self) -> None:
        """Stop asking altogether."""
        self.outcome = Interrupted()

    def end(self) -> None:
        """End of input."""
        self.outcome = Ended()

    def up(self) -> None:
        """To the choice above."""
        self.go(self.current - 1)

    def down(self) -> None:
        """To the choice below."""
        self.go(self.current + 1)

    def page_up(self) -> None:
        """Up by as many choices as are in sight."""
        self.go(self.current - self.page)

    def page_down(self) -> None:
        """Down by as many choices as are in sight."""
        self.go(self.current + self.page)

    def first(self) -> None:
        """To the first choice."""
        self.go(0)

    def last(self) -> None:
        """To the last choice."""
        self.go(len(self.choices) - 1)

    #: Key to the name of the method that it calls.
    KEYS: ClassVar[dict[str, str]] = {
        "up": "up",
        "down": "down",
        "ctrl-p": "up",
        "ctrl-n": "down",
        "page-up": "page_up",
        "page-down": "page_down",
        "home": "first",
        "end": "last",
        "enter": "enter",
        "ctrl-j": "enter",
        "ctrl-c": "interrupt",
        "ctrl-d": "end",
    }


class Checkboxes(Menu):
    """Asks for some of several choices; ``accept`` takes the set of their places."""

    FOOT = "Up Down: move   Space: mark   Enter: accept   Ctrl-C: stop"

    def __init__(
        self,
        prompt: Prompt,
        choices: Choices[Any],
        accept: Callable[[Any], Any],
        *,
        marked: Iterable[int] = (),
        complaint: Complaint | None = None,
    ) -> None:
        super().__init__(prompt, choices, accept, complaint=complaint)
        self.marked = set(marked)

    def summary(self) -> str:
        """The labels of what was chosen, for the record."""
        if not isinstance(self.outcome, Answered):
            return ""
        return ", ".join([self.choices.label(at) for at in sorted(self.marked)]) or "none"

    def _mark(self, at: int) -> str:
        return "[x] " if at in self.marked else "[ ] "

    def _role(self, at: int) -> str:
        return "marked" if at in self.marked else ""

    def change(self) -> None:
        """Mark the current choice, or take its mark away."""
        reason = self.choices.barred(self.current)
        if reason and self.current not in self.marked:
            self.complaint = Complaint(f"this one cannot be chosen: {reason}")
            return
        self.marked ^= {self.current}

    def pick(self) -> None:
        """Mark it, or take its mark away."""
        self.change()

    def enter(self) -> None:
        """Accept what is marked, or say what is wrong with it."""
        self._try(set(self.marked))

    KEYS: ClassVar[dict[str, str]] = {**Menu.KEYS, "space": "change"}
