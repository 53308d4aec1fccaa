"""Yes or no: a line whose arrow keys and space bar change the answer, and in which either may be typed."""

from __future__ import annotations

from wesperon.editing.text_state import whole
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.values.kind import BOOL
from wesperon.widgets.line import Line
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import ClassVar

    from wesperon.editing.keys.events import Mouse


class YesNo(Line):
    """Asks for yes or no."""

    FOOT = "Enter: accept   Space: yes/no   Ctrl-C: stop"

    def change(self) -> None:
        """Make the answer the other one; yes where there was none."""
        try:
            says_yes = BOOL.parse(self.draft.text.strip())
        except Complaint:
            says_yes = False
        self.editor.become(whole(tell("no") if says_yes else tell("yes")))
        self.editor.selected = True

    def click(self, event: Mouse) -> None:
        """See ``Widget``: the answer becomes the other one."""
        self.change()

    def enter(self) -> None:
        """Accept the answer, which the record then says in full."""
        super().enter()
        if isinstance(self.outcome, Answered) and isinstance(self.outcome.value, bool):
            self.editor.replace(whole(tell("yes") if self.outcome.value else tell("no")))

    LAYERS = ("one-line", "yes-no")
    ACTIONS: ClassVar[dict[str, str]] = {**Line.ACTIONS, "toggle-answer": "change"}
