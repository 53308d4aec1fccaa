"""Menus: choices below their label, of which only those in sight are asked for their labels.

What is typed narrows the list to the choices that hold its parts, in any order; the one that begins with it becomes
current. The list may grow while it is open.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Closed, Key, Mouse, Paste
from wesperon.ground import Complaint
from wesperon.screen.frame import Frame
from wesperon.screen.layout import field, field_area, labelled
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.widgets.footer import foot_row, wrap_limited
from wesperon.widgets.viewport import IN_SIGHT, Viewport
from wesperon.widgets.widget import Answered, Ended, QuestionBase

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.layout import FieldArea
    from wesperon.values.kinds.choice_list import Choices
    from wesperon.widgets.filtering import ChoiceFilter
    from wesperon.widgets.widget import Outcome, Prompt


class Menu(QuestionBase):
    """Asks for one of several choices.

    ``accept`` turns the place of the choice into the value, and raises Complaint where it cannot be taken; ``current``
    is the place of the default, which is current at first; ``needle`` what is typed already.
    """

    #: What the keys do, the most needed first.
    FOOT = "Enter: take   Up Down: move   Type: narrow   Ctrl-C: stop"
    #: Further keys, for the page of help.
    MORE: ClassVar[tuple[tuple[str, str], ...]] = (
        ("Page-Up Page-Down Home End", "move further"),
        ("letters, Backspace, Ctrl-U", "narrow the list, widen it again"),
    )
    #: Whether a comma separates the parts of what is typed, because a blank does something else.
    comma = False

    def __init__(
        self,
        prompt: Prompt,
        choices: Choices[Any],
        accept: Callable[[Any], Any],
        *,
        current: int | None = None,
        complaint: Complaint | None = None,
        needle: str = "",
    ) -> None:
        self.prompt = prompt
        self.choices = choices
        self.accept = accept
        self.default = current
        self.needle = ""
        #: The search for what was typed; None where nothing was.
        self.search: ChoiceFilter | None = None
        self.at = current or 0
        self.sight = Viewport(choices)
        #: Which of those listed stands in each row that is shown.
        self.rows: Sequence[int | None] = []
        self.complaint = complaint
        self.outcome: Outcome | None = None
        if needle:
            self._narrow(needle)

    @property
    def supplies(self) -> tuple[Choices[Any], ...]:
        """What the driver is to draw from while the menu is open."""
        return (self.choices,) if self.choices.is_growing else ()

    @property
    def listed(self) -> Sequence[int]:
        """The places of all choices that are listed."""
        return range(len(self.choices)) if self.search is None else self.search.all()

    def work(self) -> bool:
        """Go on with the search for what was typed; whether there was something to do."""
        if self.search is None or self.search.is_done:
            return False
        self.search.work()
        return True

    @property
    def current(self) -> int:
        """The place of the current choice; -1 where there is none."""
        listed = self._upto(self.at)
        return listed[min(self.at, len(listed) - 1)] if listed else -1

    @current.setter
    def current(self, field_area: int) -> None:
        self.needle, self.search = "", None
        self.at = field_area

    def _upto(self, at: int) -> Sequence[int]:
        """The places of those listed, down to one of them at least."""
        return range(len(self.choices)) if self.search is None else self.search.upto(at + 1)

    def press(self, event: Event) -> None:
        """Take one event."""
        if isinstance(event, Key):
            act = self.KEYS.get(event.name)
            if act is not None:
                self.complaint = None
                getattr(self, act)()
            elif event.text and event.text.isprintable():
                self.type(event.text)
        elif isinstance(event, Paste):
            self.type(" ".join(event.text.split()))
        elif isinstance(event, Mouse):
            self._click(event)
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def _click(self, event: Mouse) -> None:
        """Pick the choice under the mouse; the wheel moves."""
        if event.action != "press":
            return
        if event.name in ("wheel-up", "wheel-down"):
            self.go(self.at + (1 if event.name == "wheel-down" else -1))
        elif event.name == "left" and 0 <= event.row < len(self.rows):
            at = self.rows[event.row]
            if at is not None:
                self.complaint = None
                self.go(at)
                self.pick()

    def pick(self) -> None:
        """Do what a click on the current choice does."""
        self.enter()

    def type(self, text: str) -> None:
        """Narrow the list further."""
        self.complaint = None
        if self.needle or text.strip():
            self._narrow(self.needle + text)

    def take_back(self) -> None:
        """Widen the list by one letter."""
        self._narrow(self.needle[:-1])

    def widen(self) -> None:
        """List everything again."""
        self._narrow("")

    def space(self) -> None:
        """Begin another part of what is typed."""
        self.type(" ")

    def _narrow(self, needle: str) -> None:
        """List the choices that hold what was typed."""
        from wesperon.widgets.filtering import ChoiceFilter

        before = self.current
        self.needle = needle if needle.strip() else ""
        if not self.needle:
            self.search = None
            self.at = max(before, 0)
            return
        if self.search is None:
            choices = self.choices
            self.search = ChoiceFilter(lambda: len(choices), choices.texts, comma=self.comma)
        self.search.seek(needle)
        self.at, self.sight.top = self.search.best(), 0

    def view(self, columns: int, rows: int) -> Frame:
        """The label, the choices in sight below it, what is wrong, and what the keys do."""
        if self.outcome is not None:
            return Frame(tuple(field(self.prompt.label, self.summary(), self.prompt.gutter, columns)))
        where = field_area(self.prompt.gutter, columns)
        heading, cursor = self._heading(where, columns)
        if rows < 3:
            heading, cursor = [], None
        elif len(heading) > rows - 2:  # what is said gives way to the choices
            heading, cursor = [heading[0], *heading[len(heading) - rows + 3 :]], None
        below = self._below(where)
        room = max(rows - len(heading), 1)
        below = below[: max(room - 2, 0)]
        with_foot = room - len(below) > 1
        listed = self._listed(where, min(room - len(below) - with_foot, IN_SIGHT))
        self.rows = [*([None] * len(heading)), *self.rows]
        foot = [self._foot(columns)] if with_foot else []
        return Frame((*heading, *listed, *below, *foot), cursor)

    def _heading(self, where: FieldArea, columns: int) -> tuple[list[Row], tuple[int, int] | None]:
        """The label, with the question beside it or what was typed; and the cursor, where something was."""
        cursor = None
        parts = self.prompt.question.split("\n") if self.prompt.question else []
        beside: list[Row] = [((row, "question"),) for part in parts for row in wrap_limited(part, where.width) or [""]]
        if self.needle:
            text = cut(visible(self.needle), max(where.width - 1, 1))
            if len(beside) > 1:
                beside.append(((text, ""),))
            else:
                beside = [((text, ""),)]
            cursor = (len(beside) - (0 if where.stacked else 1), where.left + width(text))
        elif not beside and not where.stacked:
            beside = [(("", "question"),)]
        if beside and self.prompt.note and not where.stacked:
            said = width(beside[0][0][0])
            gap = where.width - said - width(self.prompt.note)
            if gap > 1:
                beside = [(*beside[0], (" " * gap, ""), (self.prompt.note, "note"))]
        return labelled(self.prompt.label, self.prompt.gutter, beside, columns), cursor

    def _below(self, where: FieldArea) -> list[Row]:
        """What is wrong, or that there is nothing to list."""
        reason = self.complaint.reason if self.complaint else ""
        if not reason and not self._upto(0):
            reason = self._nothing()
        indent = (" " * where.left, "")
        return [(indent, (line, "reason")) for line in wrap_limited(reason, where.width)]

    def _nothing(self) -> str:
        """Why nothing is listed."""
        if self.needle:
            return tell(
                "none of the {count} has {text}; Backspace widens", count=f"{len(self.choices):,}", text=self.needle
            )
        if self.choices.is_growing:
            return tell("the choices are still to come")
        return tell("there is nothing to choose from")

    def summary(self) -> str:
        """The label of what was chosen, for the record."""
        return self.choices.label(self.current) if isinstance(self.outcome, Answered) else ""

    def _foot(self, columns: int) -> Row:
        count = len(self.choices)
        listed = count if self.search is None else len(self.search.hits)
        position = tell("{at} of {count}", at=f"{min(self.at + 1, listed):,}", count=f"{listed:,}")
        if listed < count:
            position += tell(" (of {count})", count=f"{count:,}")
        if self.choices.is_growing:
            position += tell(", more to come")
        return foot_row(tell(self.FOOT), columns, "   ".join([*self._counts(), position]), self.prompt.keys)

    def _counts(self) -> list[str]:
        """What is said in the foot beside the position."""
        return []

    def _listed(self, where: FieldArea, room: int) -> list[Row]:
        """The choices in sight: their marks, their labels, and in a column behind these their notes."""
        listed = self._upto(self.at + room)
        self.at = min(max(self.at, 0), max(len(listed) - 1, 0))
        sight = self.sight.rows(listed, self.at, max(room, 1))
        places = [listed[at] for at, _ in sight if at is not None]
        if not places:
            self.rows = []
            return []
        inner = 2 if self.choices.has_groups else 0
        columns = where.width - inner - len(self._mark(places[0]))
        labels = {at: cut(self.choices.label(at), max(columns, 1)) for at in places}
        widest = min(max(map(width, labels.values())), 2 * columns // 3)
        rows: list[Row] = []
        for at, heading in sight:
            if at is None:
                rows.append(((" " * where.left, ""), (cut(heading, where.width), "title")))
            else:
                row = self._row(listed[at], labels[listed[at]], widest, columns)
                rows.append(((" " * (where.left + inner), ""), *row))
        self.rows = [at for at, _ in sight]
        return rows

    def _row(self, at: int, label: str, widest: int, room: int) -> Row:
        """One choice: its mark, its label, its note or the reason why it cannot be chosen."""
        disabled = self.choices.disabled(at)
        is_current = at == self.current
        role = "current" if is_current else "note" if disabled else self._role(at)
        row: Row = ((self._mark(at), role),) if self._mark(at) else ()
        if self.search is not None:
            from wesperon.widgets.filtering import marked

            row = (*row, *marked(label, self.search.parts, role, "current-match" if is_current else "match"))
        else:
            row = ((self._mark(at) + label, role),)
        taken = max(widest, width(label)) + 2
        note = self._note(at, disabled)
        if not note or room - taken < 4:
            return row
        return (*row, (" " * (taken - width(label)), ""), (cut(note, room - taken), "note"))

    def _note(self, at: int, disabled: str) -> str:
        """What is said beside a choice."""
        if disabled:
            return tell("not now: {reason}", reason=disabled)
        note = self.choices.note(at)
        if at != self.default:
            return note
        return tell("default") + (f"   {note}" if note else "")

    def _mark(self, at: int) -> str:
        return ""

    def _role(self, at: int) -> str:
        return ""

    def go(self, at: int) -> None:
        """Make another one of those listed the current one."""
        self.at = min(max(at, 0), max(len(self._upto(at)) - 1, 0))

    def enter(self) -> None:
        """Take the current choice, or say why not."""
        if self._upto(0):
            self._try(self.current)

    def _try(self, chosen: Any) -> None:
        try:
            self.outcome = Answered(self.accept(chosen))
        except Complaint as complaint:
            self.complaint = complaint

    def end(self) -> None:
        """End of input."""
        self.outcome = Ended()

    def up(self) -> None:
        """To the choice above; from the first to the last."""
        self.go(self.at - 1 if self.at else len(self.listed) - 1)

    def down(self) -> None:
        """To the choice below; from the last to the first, unless more are to come."""
        self.go(self.at + 1 if self.at + 1 < len(self._upto(self.at + 1)) or self.choices.is_growing else 0)

    def page_up(self) -> None:
        """Up by as many choices as are in sight."""
        self.go(self.at - self.sight.page)

    def page_down(self) -> None:
        """Down by as many choices as are in sight."""
        self.go(self.at + self.sight.page)

    def first(self) -> None:
        """To the first choice."""
        self.go(0)

    def last(self) -> None:
        """To the last choice."""
        self.go(len(self.listed) - 1)

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
        "space": "space",
        "backspace": "take_back",
        "ctrl-u": "widen",
        "escape": "widen",
        "ctrl-g": "widen",
        "shift-tab": "back",
        "alt-up": "back",
        "f1": "help",
        "ctrl-c": "interrupt",
        "ctrl-d": "end",
    }
