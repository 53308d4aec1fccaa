"""The editor: a draft with its past, and the ring of what was cut.

Whatever remembers lives here; ``edits`` holds the pure functions. The rules:

- Every edit that changes the text can be undone, in sensible steps: characters typed one after the other are one step
  up to the end of a word, characters deleted one after the other are one step, everything else is a step of its own. A
  movement ends a step. What was undone can be done again until the text changes in another way.
- Edits that take away more than a character cut: the text goes to the ring. Cuts one right after the other are joined
  to one, each on the side on which it was cut.
- ``paste-cut`` brings back the newest cut. Right after it, ``paste-older-cut`` puts the one before in its place, and so
  on round the ring.
"""

from __future__ import annotations

from wesperon.editing.edits import EDITS, Draft, insert, whole

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

#: How many cuts the ring holds, and how many steps can be undone.
RING, STEPS = 60, 1_000

#: What the edit before was, where it matters to the next one.
TYPED, ERASED, CUT, PASTED, OTHER = "typed", "erased", "cut", "pasted", ""


class Editor:
    """A text being edited, what can be undone, and what was cut."""

    def __init__(self, text: str = "", ring: list[str] | None = None) -> None:
        self.draft = whole(text)
        self.ring: list[str] = [] if ring is None else ring
        self.past: list[Draft] = []
        self.future: list[Draft] = []
        self.before = OTHER
        self.pasted = (0, 0)
        self.turn = 0

    def type(self, text: str) -> None:
        """Put a typed text at the cursor."""
        joins = self.before == TYPED and not (text[:1].isspace() and not self._left().isspace())
        self._change(insert(self.draft, text), TYPED, joins=joins)

    def put(self, text: str) -> None:
        """Put a text at the cursor that came in one piece; a step of its own."""
        self._change(insert(self.draft, text), OTHER)

    def replace(self, draft: Draft) -> None:
        """Take another text altogether; a step of its own."""
        self._change(draft, OTHER)

    def move(self, cursor: int) -> None:
        """Put the cursor at an offset between two clusters."""
        self.draft = Draft(self.draft.text, cursor)
        self.before = OTHER

    def apply(self, name: str) -> None:
        """Do the edit of this name, from ``EDITS`` or from ``OWN``."""
        own = OWN.get(name)
        if own is not None:
            own(self)
            return
        draft = EDITS[name](self.draft)
        if draft.text == self.draft.text:
            self.draft, self.before = draft, OTHER
        elif name in ("delete-char-back", "delete-char-forward"):
            self._change(draft, ERASED, joins=self.before == ERASED)
        elif name.startswith("delete-"):
            self._cut(draft)
        else:
            self._change(draft, OTHER)

    def undo(self) -> None:
        """Take the last step back."""
        if self.past:
            self.future.append(self.draft)
            self.draft = self.past.pop()
        self.before = OTHER

    def redo(self) -> None:
        """Do again the step that was taken back last."""
        if self.future:
            self.past.append(self.draft)
            self.draft = self.future.pop()
        self.before = OTHER

    def paste_cut(self) -> None:
        """Bring back what was cut last."""
        self.turn = 0
        if self.ring:
            start = self.draft.cursor
            self._change(insert(self.draft, self.ring[-1]), PASTED)
            self.pasted = (start, self.draft.cursor)

    def paste_older_cut(self) -> None:
        """Right after a cut was brought back, put the one before it in its place."""
        if self.before != PASTED or not self.ring:
            return
        self.turn = (self.turn + 1) % len(self.ring)
        start, end = self.pasted
        without = Draft(self.draft.text[:start] + self.draft.text[end:], start)
        self._change(insert(without, self.ring[-1 - self.turn]), PASTED, joins=True)
        self.pasted = (start, self.draft.cursor)

    def _left(self) -> str:
        return self.draft.text[self.draft.cursor - 1 : self.draft.cursor] or " "

    def _cut(self, draft: Draft) -> None:
        """Take over a draft from which something was cut."""
        old = self.draft
        size = len(old.text) - len(draft.text)
        back = draft.cursor < old.cursor
        taken = old.text[old.cursor - size : old.cursor] if back else old.text[old.cursor : old.cursor + size]
        if self.before == CUT and self.ring:
            self.ring[-1] = taken + self.ring[-1] if back else self.ring[-1] + taken
        else:
            self.ring.append(taken)
            del self.ring[:-RING]
        self._change(draft, CUT)

    def _change(self, draft: Draft, kind: str, *, joins: bool = False) -> None:
        """Take over a draft with another text; ``joins``: the step before goes on."""
        if not joins:
            self.past.append(self.draft)
            del self.past[:-STEPS]
        self.future.clear()
        self.draft = draft
        self.before = kind


#: The edits that need to remember, by name.
OWN: dict[str, Callable[[Any], None]] = {
    "undo": Editor.undo,
    "redo": Editor.redo,
    "paste-cut": Editor.paste_cut,
    "paste-older-cut": Editor.paste_older_cut,
}
