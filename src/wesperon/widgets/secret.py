"""A line whose text is not shown: a mark is shown for each character while it is typed, and none stays."""

from __future__ import annotations

from wesperon.editing.editor import Memory
from wesperon.editing.entry_editor import EntryEditor
from wesperon.editing.graphemes import clusters
from wesperon.editing.text_state import TextState
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.line import Line
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.editing.keys.events import Action, Mouse

#: What is shown for each character while it is typed, and for a whole secret afterwards.
MARK, HIDDEN = "*", "***"
#: What would take the text elsewhere. What is deleted, copied and recorded is forgotten with the line.
OUTWARD = ("edit-outside",)


class Secret(Line):
    """Asks for a text that nobody may read over the shoulder; ``twice`` has it typed again to confirm it.

    ``mask`` is what is shown for each character; with an empty one nothing is. What was deleted can be brought back
    within the line, and is forgotten with it.
    """

    def __init__(self, accept: Callable[[str], Any], *, twice: bool = False, mask: str = MARK, **settings: Any) -> None:
        #: The text that was masked last, and what is shown for it.
        self._masked: tuple[TextState | None, TextState] = (None, TextState())
        super().__init__(accept, **{**settings, "memory": None})  # what is deleted here goes nowhere else
        self.twice = twice
        self.mask = mask
        self.first: str | None = None

    def do(self, action: Action) -> None:
        """Do what a key means, unless it would let the text out."""
        if action.name not in OUTWARD:
            super().do(action)

    def click(self, event: Mouse) -> None:
        """Put the cursor where the mouse was pressed, if there is something to be seen."""
        if self.mask:
            super().click(event)

    def paste(self, text: str) -> None:
        """Put in what was pasted, without the line end that often comes with it."""
        super().paste(text.rstrip("\n"))

    def enter(self) -> None:
        """Accept the text, the second time that it is typed where it is wanted twice."""
        typed = self.draft.text
        if self.first is None:
            super().enter()
            if not isinstance(self.outcome, Answered):
                self._begin_again(self.complaint)
                return
            self._forget()
            if self.twice and self.outcome.value is not None:  # an empty answer, where it may stay empty
                self.outcome = None
                self.first = typed
        elif typed == self.first:
            self.outcome = Answered(self.accept(typed))
            self._forget()
        else:
            self.first = None
            self._begin_again(Complaint(tell("the two entries differ: type it again, then once more")))

    def _begin_again(self, complaint: Complaint | None) -> None:
        """Say what is wrong, under an empty line: nobody can mend what is not shown."""
        self._forget()
        if complaint is not None:
            self._complain(complaint)

    def _forget(self) -> None:
        """Keep nothing of what was typed, nor of what it was before."""
        self.memory = Memory()
        if self._resolver is not None:
            self._resolver.macros = self.memory.macros
        old, self.editor = self.editor, EntryEditor("", self.memory, past=None, complete=None)
        self.editor.on_change, self.editor.has_modes = old.on_change, old.has_modes
        if self.modal is not None:  # its commands are for the new text, and it is typed from the beginning
            self.modal = type(self.modal)(self, "insert")
        self._masked = (None, TextState())

    @property
    def shown(self) -> TextState:
        """A mark for each character."""
        draft = self.draft
        if self._masked[0] is not draft:
            left = self.mask * len(list(clusters(draft.text[: draft.cursor])))
            rest = self.mask * len(list(clusters(draft.text[draft.cursor :])))
            self._masked = draft, TextState(left + rest, len(left))
        return self._masked[1]

    def foot(self) -> str:
        """Return what the keys do, and that nothing is shown."""
        unseen = "" if self.mask else tell("Nothing is shown while you type") + "   "
        return unseen + ("" if self.first is None else tell("Once more, to be sure") + "   ") + tell(self.FOOT)

    def fault(self) -> tuple[int, int]:
        """See ``Line``: no part is marked, since none is shown."""
        return (0, 0)

    def record_text(self) -> str:
        """Return the same for each secret, however long it is."""
        return HIDDEN if isinstance(self.outcome, Answered) and self.outcome.value is not None else ""

    @property
    def draft_text(self) -> str:
        """Nothing: what was typed goes nowhere else."""
        return ""
