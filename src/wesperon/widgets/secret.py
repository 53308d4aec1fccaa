"""A line whose text is not shown: a mark stands for each character while it is typed, and none stays behind."""

from __future__ import annotations

from wesperon.core import Complaint
from wesperon.editing.clusters import clusters
from wesperon.editing.edits import Draft
from wesperon.screen.frame import Frame
from wesperon.screen.layout import field
from wesperon.widgets.line import Line
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.widgets.widget import Prompt

#: What is shown for each character while it is typed, and for a whole secret afterwards.
MARK, HIDDEN = "*", "***"


class Secret(Line):
    """Asks for a text that nobody may read over the shoulder; ``twice`` has it typed again to confirm it."""

    def __init__(self, prompt: Prompt, accept: Callable[[str], Any], *, twice: bool = False, **settings: Any) -> None:
        super().__init__(prompt, accept, **settings)
        self.twice = twice
        self.first: str | None = None

    def enter(self) -> None:
        """Accept the text, the second time that it is typed where it is wanted twice."""
        typed = self.draft.text
        if self.first is None:
            super().enter()
            if self.twice and isinstance(self.outcome, Answered):
                self.outcome = None
                self.first = typed
                self._become(Draft())
        elif typed == self.first:
            self.outcome = Answered(self.accept(typed))
        else:
            self.first = None
            self._become(Draft())
            self._complain(Complaint("the two are not the same: type it anew, then once more"))

    @property
    def shown(self) -> Draft:
        """A mark for each character."""
        text, cursor = self.draft.text, self.draft.cursor
        return Draft(MARK * len(list(clusters(text))), len(list(clusters(text[:cursor]))))

    def _foot_text(self) -> str:
        return self.FOOT if self.first is None else "Once more, to be sure   " + self.FOOT

    def _fault(self) -> tuple[int, int]:
        return (0, 0)

    def _record(self, columns: int) -> Frame:
        text = HIDDEN if isinstance(self.outcome, Answered) else ""
        return Frame(tuple(field(self.prompt.label, text, self.prompt.gutter, columns)))
