"""What is being inserted: where it began, how often it is put in, and into which further rows of a block."""

from __future__ import annotations

from wesperon.editing.modal.operators import bounded
from wesperon.editing.modal.registers import INSERTED
from wesperon.editing.modal.selection import at_column
from wesperon.editing.text_state import TextState

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.editor import Editor


class Insertion:
    """An insertion into the text of an ``editor``; there is one at a time.

    ``opens`` says that each time is a line of its own. ``lines`` are the further lines that it is put into at its end,
    counted from the first, at a ``column``, or at their ends where that is None; then the cursor goes to the
    ``corner``.
    """

    def __init__(self, editor: Editor) -> None:
        self.editor = editor
        self.start: TextState | None = None
        self.overwrites = False
        self.times, self.opens = 1, False
        self.lines: list[int] = []
        self.column: int | None = 0
        self.corner: int | None = None

    def begin(self, times: int = 1, *, overwrites: bool = False, opens: bool = False) -> None:
        """Begin at the cursor; typed characters take the place of others if it ``overwrites``."""
        self.start = self.editor.draft
        self.times, self.opens, self.overwrites = times, opens, overwrites
        self.editor.overwrites = overwrites
        self.lines, self.column, self.corner = [], 0, None

    def end(self) -> bool:
        """Put in what is to be there more than once. Return whether the cursor is where it belongs already."""
        editor, start, self.start = self.editor, self.start, None
        editor.overwrites = False
        if start is None:
            return False
        text, cursor = editor.draft.text, editor.draft.cursor
        inserted = text[start.cursor : cursor] if self.overwrites else put_in(start, text)
        editor.memory.registers[INSERTED] = inserted
        if self.times > 1:
            self._repeat(inserted)
        if self.lines and inserted and "\n" not in inserted:
            self._put_in_lines(start.cursor, inserted)
        if self.corner is None:
            return False
        editor.move(min(self.corner, len(editor.draft.text)))
        return True

    def _repeat(self, inserted: str) -> None:
        editor, more = self.editor, bounded(self.times - 1, inserted)
        if self.overwrites:
            editor.overwrites = True
            editor.type(inserted, more)
            editor.overwrites = False
        elif inserted or self.opens:
            editor.put(("\n" * self.opens + inserted) * more)

    def _put_in_lines(self, start: int, inserted: str) -> None:
        text = self.editor.draft.text
        rows, first = text.split("\n"), text.count("\n", 0, start)
        for line in self.lines:
            row = rows[first + line]
            at = len(row) if self.column is None else at_column(row, 0, self.column)
            pad = "" if self.column is None else " " * (self.column - len(row) if at == len(row) else 0)
            rows[first + line] = row[:at] + pad + inserted + row[at:]
        self.editor.replace(TextState("\n".join(rows), self.editor.draft.cursor))


def put_in(start: TextState, text: str) -> str:
    """Return what was put in at the cursor of a draft so that it became a text; empty if it was more than that."""
    head, tail = start.text[: start.cursor], start.text[start.cursor :]
    if len(text) < len(start.text) or not (text.startswith(head) and text.endswith(tail)):
        return ""
    return text[len(head) : len(text) - len(tail)]
