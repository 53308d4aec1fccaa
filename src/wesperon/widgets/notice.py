"""Something that is said, and to be read before it goes on."""

from __future__ import annotations

from wesperon.editing.keys.events import Closed, Key
from wesperon.screen.frame import Frame
from wesperon.screen.layout import field_area, labelled
from wesperon.screen.width import cut, wrap
from wesperon.text.messages import tell
from wesperon.widgets.footer import foot_row
from wesperon.widgets.widget import Answered, Ended, QuestionBase

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import ClassVar

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.widgets.widget import Outcome, Prompt


class Notice(QuestionBase):
    """Shows the question of its prompt as a text; Enter goes on."""

    FOOT = "Enter: go on   Ctrl-C: stop"

    def __init__(self, prompt: Prompt) -> None:
        self.prompt = prompt
        self.outcome: Outcome | None = None

    def press(self, event: Event) -> None:
        """Take one event."""
        if isinstance(event, Key):
            if event.name in ("enter", "ctrl-j", "space"):
                self.outcome = Answered(None)
            elif event.name == "ctrl-c":
                self.interrupt()
            elif event.name == "ctrl-d":
                self.outcome = Ended()
            else:
                self.request = self.REQUESTS.get(event.name, "")
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def view(self, columns: int, rows: int) -> Frame:
        """The text, and what the keys do; behind the answer its first row alone."""
        where = field_area(self.prompt.gutter, columns)
        text: list[Row] = [
            ((row, ""),) for part in self.prompt.question.split("\n") for row in wrap(part, where.width) or [""]
        ]
        if self.outcome is not None:
            return Frame(tuple(labelled(self.prompt.label, self.prompt.gutter, text[:1], columns)))
        shown = labelled(self.prompt.label, self.prompt.gutter, text, columns)
        room = max(rows - 1, 1)
        if len(shown) > room:
            shown = [*shown[: room - 1], (("  " + cut(tell("... and more than fits here"), columns - 3), "note"),)]
        return Frame((*shown, *([foot_row(tell(self.FOOT), columns, "", self.prompt.keys)] if rows > 1 else [])))

    REQUESTS: ClassVar[dict[str, str]] = {"shift-tab": "back", "alt-up": "back", "f1": "help"}
