"""The last look: all values of a form, to go on with or to change one of them."""

from __future__ import annotations

from wesperon.editing.keys.events import Closed, Key, Mouse
from wesperon.screen.frame import Frame
from wesperon.screen.layout import BETWEEN, MARGIN, field, field_area
from wesperon.screen.width import cut
from wesperon.text.messages import tell
from wesperon.widgets.footer import foot_row
from wesperon.widgets.widget import Answered, Ended, QuestionBase

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import ClassVar

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.widgets.widget import Outcome, Prompt


class Summary(QuestionBase):
    """Shows labels with their values; the outcome is the place of one that is to be changed, or None to go on."""

    FOOT = "Enter: go on   Up Down: to a value   Ctrl-C: stop"
    FOOT_AT_VALUE = "Enter: change this value   Up Down: move   Ctrl-C: stop"

    def __init__(self, prompt: Prompt, entries: Sequence[tuple[str, str]]) -> None:
        self.prompt = prompt
        self.entries = entries
        #: The current entry; the row behind the last one goes on.
        self.at = len(entries)
        self.places: list[int] = []
        self.outcome: Outcome | None = None

    def press(self, event: Event) -> None:
        """Take one event."""
        if isinstance(event, Key):
            act = self.KEYS.get(event.name)
            if act is not None:
                getattr(self, act)()
        elif isinstance(event, Mouse):
            if event.name == "left" and event.action == "press" and 0 <= event.row < len(self.places):
                self.at = self.places[event.row]
                self.enter()
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def view(self, columns: int, rows: int) -> Frame:
        """The values, the current one in reverse, and the row that goes on."""
        made: list[Row] = []
        self.places = []
        for at, (label, value) in enumerate(self.entries):
            shown = field(label, value, self.prompt.gutter, columns)
            if self.outcome is None and at == self.at:
                shown = [_reversed(row) for row in shown]
            made += shown
            self.places += [at] * len(shown)
        if self.outcome is not None:
            return Frame(tuple(made))
        where = field_area(self.prompt.gutter, columns)
        last = self.at == len(self.entries)
        said = cut(self.prompt.question or tell("All of this is right: go on"), where.width)
        gap = MARGIN + self.prompt.gutter + BETWEEN if not where.stacked else where.left
        made.append(((" " * gap, ""), (said, "current" if last else "")))
        self.places.append(len(self.entries))
        room = max(rows - 1, 1)
        bottom = len(made) - self.places[::-1].index(self.at)
        top = max(min(bottom - room, len(made) - room), 0)
        self.places = self.places[top : top + room]
        foot = [foot_row(tell(self.FOOT if last else self.FOOT_AT_VALUE), columns)] if rows > 1 else []
        return Frame((*made[top : top + room], *foot))

    def go(self, at: int) -> None:
        """Make another row the current one; behind the last comes the first."""
        self.at = at % (len(self.entries) + 1)

    def up(self) -> None:
        """To the row above."""
        self.go(self.at - 1)

    def down(self) -> None:
        """To the row below."""
        self.go(self.at + 1)

    def first(self) -> None:
        """To the first value."""
        self.go(0)

    def last(self) -> None:
        """To the row that goes on."""
        self.go(-1)

    def enter(self) -> None:
        """Go on, or change the value."""
        self.outcome = Answered(None if self.at == len(self.entries) else self.at)

    KEYS: ClassVar[dict[str, str]] = {
        "up": "up",
        "down": "down",
        "ctrl-p": "up",
        "ctrl-n": "down",
        "tab": "down",
        "home": "first",
        "end": "last",
        "enter": "enter",
        "ctrl-j": "enter",
        "shift-tab": "back",
        "f1": "help",
        "ctrl-c": "interrupt",
    }


def _reversed(row: Row) -> Row:
    """The row with its value in reverse."""
    return tuple([(text, role if role == "label" or not text.strip() else "current") for text, role in row])
