"""Values one after the other, a row each: Enter goes on to the next, and on an empty last row accepts them all.

What was given stays above and can be edited: the rows are the lines of one text. Name-value pairs are shown in two
columns.
"""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.text_state import TextState, whole
from wesperon.frozen import Frozen
from wesperon.screen.width import cut
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.text.quoting import join
from wesperon.values import Complaint, quoted
from wesperon.values.words import split_words
from wesperon.widgets.line_view import MOST_ROWS
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.several_lines_view import RECORDED, PairsView, SeveralLinesView

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Iterable, Sequence
    from typing import Any, ClassVar

    from wesperon.screen.frame import Row
    from wesperon.values.candidate import Candidate

#: What is before each of the texts that a row may become.
INDENT = "  "


class RowRules(Frozen):
    """What a row is to be.

    ``check`` raises Complaint for one that is wrong; ``is_blank`` says of a row whether it is none. After ``most`` rows
    Enter accepts. ``name_of``: a row is a name, ``=`` and a value, for which ``placeholder`` is shown in an empty one;
    it gives the name, which must be once.
    """

    check: Callable[[str], object]
    is_blank: Callable[[str], bool]
    most: int | None = None
    name_of: Callable[[str], object] | None = None
    placeholder: str = ""


class ValueList(SeveralLines):
    """Asks for several values.

    ``accept`` takes the list of all rows that are not blank, and raises Complaint; ``rules`` say what a row is to be.
    ``rows`` are there at first; ``is_open``: the last of them is still typed. ``lists`` gives at most so many
    candidates for a row, which are listed while it is typed, not only when a key asks.
    """

    FOOT = "Empty row: accept   Enter: next   Up Down: other rows   Ctrl-C: stop"
    FOOT_IN_MODAL = "Escape Enter: accept   Enter: next   Ctrl-C: stop"

    def __init__(
        self,
        accept: Callable[[list[str]], Any],
        rules: RowRules,
        *,
        rows: Sequence[str] = (),
        lists: Callable[[str, int], list[Candidate]] | None = None,
        complaint: Complaint | None = None,
        is_open: bool = False,
        **settings: Any,
    ) -> None:
        self.rules = rules
        self.lists = lists
        #: The offsets of the row that a complaint is about as a whole; None if it says where it is wrong.
        self.faulty_row: tuple[int, int] | None = None
        self.first_rows = list(rows)
        is_open = is_open or (rules.most is not None and len(rows) >= rules.most)
        text = "\n".join(rows) if is_open else "".join([row + "\n" for row in rows])
        super().__init__(lambda typed: accept(self.rows_of(typed)), default=text or None, **settings)
        self.editor.selected = False
        if complaint is not None:
            self.complaint = complaint
            self._find_fault()
        else:
            self._list()

    def new_display(self, syntax: Any) -> SeveralLinesView:
        """See ``Line``; name-value pairs in two columns."""
        return SeveralLinesView(syntax) if self.rules.name_of is None else PairsView(syntax)

    def rows_of(self, text: str) -> list[str]:
        """Return the rows of a text that are not blank."""
        return [row for row in text.split("\n") if not self.rules.is_blank(row)]

    def enter_or_line(self) -> None:
        """Go on to the next row if this one is right; from an empty last row, accept all."""
        text, cursor = self.text, self.draft.cursor
        start, end = line_start(text, cursor), line_end(text, cursor)
        row = text[start:end]
        if (rows := self._several_in(row)) is not None:
            text = text[:start] + "\n".join(rows) + text[end:]
            end = start + len("\n".join(rows))
            self.editor.replace(TextState(text, end))
            start, row = line_start(text, end), rows[-1]
        if not self.rules.is_blank(row):
            others = [*text[: max(start - 1, 0)].split("\n"), *text[end + 1 :].split("\n")]
            complaint = self.fault_of(row, self.names_in(others))
            if complaint is not None:
                self._complain_of(complaint, start, row)
                return
        if end < len(text):
            self.editor.move(line_end(text, end + 1))
            self.editor.changed()
        elif self.rules.is_blank(row) or (self.rules.most is not None and len(self.rows_of(text)) >= self.rules.most):
            self.enter()
        else:
            self.editor.move(end)
            self.editor.put("\n")

    def _part(self) -> None:
        """Give each of several values in a row a row of its own."""
        before = self.text.split("\n")
        rows = [one for row in before for one in self._several_in(row) or [row]]
        if rows != before:
            self.editor.replace(whole("\n".join(rows)))

    def _several_in(self, row: str) -> list[str] | None:
        """Return the values in a row that is none itself, such as ``3 5 8``; None if there are not several in it."""
        try:
            words = [word for word, _ in split_words(row)]
            if len(words) < 2 or self.rules.is_blank(row):
                return None
            for word in words:
                self.rules.check(word)
        except Complaint:
            return None
        try:
            self.rules.check(row)
        except Complaint:
            return words
        return None

    def enter(self) -> None:
        """Accept all rows, or say which is wrong."""
        self._part()
        if self._find_fault():
            return
        rows = self.rows_of(self.text)
        super().enter()
        if self.outcome is not None:
            self.editor.replace(whole("\n".join(rows)))
        elif self.complaint is not None:  # it is about all of them
            self.faulty_row = (len(self.text), len(self.text))

    def _find_fault(self) -> bool:
        """Complain of the first row that is wrong. Return False if none is."""
        at, names = 0, set[object]()
        for row in self.text.split("\n"):
            if not self.rules.is_blank(row):
                complaint = self.fault_of(row, names)
                if complaint is not None:
                    self._complain_of(complaint, at, row)
                    return True
                if self.rules.name_of is not None:
                    names.add(self.rules.name_of(row))
            at += len(row) + 1
        return False

    def fault_of(self, row: str, names: Collection[object]) -> Complaint | None:
        """Return what is wrong with a row: by itself, or since its name is one of ``names``; None if nothing is."""
        try:
            self.rules.check(row)
            if self.rules.name_of is not None and self.rules.name_of(row) in names:
                shown = quoted(row.partition("=")[0].strip())[1:-1]
                raise Complaint(tell("{name} is given more than once: must be given once", name=shown))
        except Complaint as complaint:
            return complaint
        return None

    def names_in(self, rows: Iterable[str]) -> set[object]:
        """Return the names of the rows that are right; none if they have no names."""
        found: set[object] = set()
        if self.rules.name_of is not None:
            for row in rows:
                try:
                    found.add(self.rules.name_of(row))
                except Complaint:  # it is blank, or wrong by itself
                    continue
        return found

    def _complain_of(self, complaint: Complaint, start: int, row: str) -> None:
        """Show what is wrong with a row that begins at an offset."""
        self.faulty_row = (start, start + len(row)) if complaint.position is None else None
        self._complain(Complaint(complaint.reason, start + (complaint.position or 0)))

    def fault(self) -> tuple[int, int]:
        """See ``Line``; the whole row, unless the complaint says where in it."""
        if self.complaint is not None and self.faulty_row is not None:
            return self.faulty_row
        return super().fault()

    def other_than_enter(self) -> None:
        """Accept all rows."""
        self.enter()

    def changed(self) -> None:
        """Forget what was said about the rows before, and list what the row may become."""
        super().changed()
        self.faulty_row = None
        self._list()

    def _list(self) -> None:
        """List what the row of the cursor may become, as far as it is typed."""
        text, cursor = self.text, self.draft.cursor
        start = line_start(text, cursor)
        if self.lists is None or cursor < line_end(text, cursor):
            return
        found = self.lists(text[start:cursor], MOST_ROWS)
        self.editor.candidates = [] if [one.text for one in found] == [text[start:cursor]] else found

    def listing(self, columns: int) -> list[Row]:
        """Return what the row may become, further in than the rows, so that it is not taken for one."""
        return [((INDENT, ""), *row) for row in super().listing(max(columns - len(INDENT), 1))]

    def up(self) -> None:
        """Go to the end of the row above."""
        if line_start(self.text, self.draft.cursor) > 0:
            super().up()
            self._to_row_end()

    def down(self) -> None:
        """Go to the end of the row below."""
        if line_end(self.text, self.draft.cursor) < len(self.text):
            super().down()
            self._to_row_end()

    def _to_row_end(self) -> None:
        if not self.takes_commands:
            self.editor.move(line_end(self.text, self.draft.cursor))

    @property
    def trail(self) -> str:
        """What is shown dimly after the text: in an empty last row of pairs, how one is written."""
        text = self.text
        return self.rules.placeholder if self.complaint is None and (not text or text.endswith("\n")) else ""

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """Return the first rows, and how many more there are."""
        rows = self.display.lines(self.text) if self.text else [tell("none")]
        shown: list[Row] = [((cut(visible(row), columns), ""),) for row in rows[:RECORDED]]
        if len(rows) > RECORDED:
            rest = tell("... {count} more lines", count=len(rows) - RECORDED + 1)
            shown[-1] = ((cut(rest, columns), "note"),)
        return shown

    @property
    def draft_text(self) -> str:
        """The rows that were typed and not accepted yet, as words of a line; a blank at its end begins a new row."""
        rows = self.rows_of(self.text)
        if not self.is_draft and rows == self.first_rows:
            return ""
        return join(rows) + " " * self.text.endswith("\n")

    ACTIONS: ClassVar[dict[str, str]] = {**SeveralLines.ACTIONS, "accept": "enter"}
