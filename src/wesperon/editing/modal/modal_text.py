"""A text under the modal family: its mode, its cursor on a character, what is selected, and how it is changed.

In command mode the cursor is on a character, not between two: at the end of a line it is on the last one. A motion
leads to another character (``motions``, ``places``); what an operator takes is a span (``spans``). Whatever changes the
mode, the text or what may be repeated is done here; which command does what is in ``commands`` and ``visual``.
"""

from __future__ import annotations

from wesperon.editing.editor import VERTICAL as KEEPS_COLUMN
from wesperon.editing.editor import in_column
from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, before
from wesperon.editing.modal import places
from wesperon.editing.modal.insertion import Insertion
from wesperon.editing.modal.motions import (
    COLUMNS,
    JUMPS,
    MOTIONS,
    SENTENCES,
    VERTICAL,
    WORDS_OF_OPERATORS,
    Target,
    first_sign,
)
from wesperon.editing.modal.operators import OPERATORS, SHIFTS, Span
from wesperon.editing.modal.pasting import pasted
from wesperon.editing.modal.places import Places
from wesperon.editing.modal.registers import Registers, WholeLines
from wesperon.editing.modal.selection import BLOCK, CHARS, LINES, Selection, at_column
from wesperon.editing.text_state import TextState, without
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.editor import Editor
    from wesperon.editing.keys.events import Action
    from wesperon.editing.modal.selection import Shape

#: The modes of the family.
INSERT, REPLACE, COMMAND, VISUAL = "insert", "replace", "command", "visual"
#: A column after all others: the end of whatever line the cursor comes to.
LINE_ENDS = 1 << 30
#: What begins a selection, and of which sort.
SELECTING = {"mode-visual": CHARS, "mode-visual-lines": LINES, "mode-visual-block": BLOCK}
#: How often lines are shifted at most.
MOST_SHIFTS = 50


class Change(Frozen):
    """A change that may be repeated: its action, and the shape of the selection that it was done on, if it was."""

    action: Action
    shape: Shape | None = None


class ModalText:
    """The text of an ``editor`` under the modal family; what is remembered is for the next command.

    ``has_lines`` says whether it may have several lines; ``mode`` is the mode that a command has led to.
    """

    def __init__(self, editor: Editor, *, has_lines: bool = False) -> None:
        self.editor = editor
        self.has_lines = has_lines
        self.registers = Registers(editor.memory)
        self.places = Places(editor)
        self.mode = INSERT
        #: Whether the last command could not be done.
        self.failed = False
        #: What is selected in visual mode.
        self.selection = Selection(0, CHARS)
        #: The last command that changed the text.
        self.change: Change | None = None
        #: Whether one command is done before the insertion goes on.
        self.returns = False
        self.insertion = Insertion(editor)
        self.since: tuple[int, TextState] | None = None

    # Modes -----------------------------------------------------------------------------------------------------------

    def begin(self) -> None:
        """Know that an insertion begins here, as when a question opens."""
        self.remember_step()
        self.insert()

    def enter_command_mode(self) -> None:
        """End an insertion, which is one step that can be undone, and go to the character before the cursor."""
        if self.mode == VISUAL:
            self.leave_selection(self.editor.draft.cursor)
            return
        is_placed = self._end_insertion()
        draft = self.editor.draft
        if not is_placed and draft.cursor > line_start(draft.text, draft.cursor):
            self.editor.move(before(draft.text, draft.cursor))
        self.settle()

    def enter_command_once(self) -> None:
        """End an insertion for one command, after which it goes on."""
        self._end_insertion()
        self.returns = True

    def _end_insertion(self) -> bool:
        self.mode = COMMAND
        is_placed = self.insertion.end()
        self.join_steps()
        return is_placed

    def insert(self, times: int = 1, mode: str = INSERT, *, opens: bool = False) -> None:
        """Begin an insertion, which is put in ``times`` times; ``opens``: in a line of its own."""
        self.mode = mode
        self.insertion.begin(times, overwrites=mode == REPLACE, opens=opens)

    def insert_in_rows(self, lines: list[int], column: int | None, corner: int | None = None) -> None:
        """Begin to insert here, and in further lines at a column, or at their ends.

        Afterwards the cursor goes to the ``corner``, if there is one.
        """
        self.insert()
        self.insertion.lines, self.insertion.column, self.insertion.corner = lines, column, corner

    def insert_here(self, text: str = "") -> None:
        """Put in a text after the cursor and go on inserting after it."""
        self.remember_step()
        draft = self.editor.draft
        self.editor.move(min(after(draft.text, draft.cursor), line_end(draft.text, draft.cursor)))
        self.insert()
        if text:
            self.editor.put(text)

    def remember_step(self) -> None:
        """Begin a step of undoing, which ends with the insertion or the command."""
        self.since = (len(self.editor.undo_steps), self.editor.draft)

    def join_steps(self) -> None:
        """Make one step of all that was changed since it was remembered."""
        if self.since is not None:
            steps, draft = self.since
            self.editor.join_steps(steps, draft)
            self.since = None

    def settle(self) -> None:
        """In command mode, have the cursor on a character; the column that the next line is to have stays."""
        draft = self.editor.draft
        if self.mode == COMMAND and draft.cursor == line_end(draft.text, draft.cursor):
            start = line_start(draft.text, draft.cursor)
            if draft.cursor > start:
                self.editor.draft = TextState(draft.text, before(draft.text, draft.cursor))

    # Motions ---------------------------------------------------------------------------------------------------------

    def target(self, name: str, action: Action, *, operates: bool = False) -> Target | None:
        """Return where a motion leads from the cursor; None if it leads nowhere."""
        text, at, count = self.editor.draft.text, self.editor.draft.cursor, action.count
        if name in places.NAMES:
            return self.places.target(name, action.text, count)
        motion = MOTIONS.get(name)
        if motion is None:
            return None
        found = (
            WORDS_OF_OPERATORS[name](text, at, count)
            if operates and name in WORDS_OF_OPERATORS
            else motion(text, at, count)
        )
        if found is not None and name in SENTENCES and self.mode != VISUAL:
            end = line_end(text, found.at)
            if found.at == end > line_start(text, end):
                return Target(before(text, end), inclusive=True)
        if name == "move-column" and self.mode == VISUAL:
            first = line_start(text, at)
            return Target(min(at_column(text, first, (count or 1) - 1), line_end(text, first)))
        if found is not None and name in VERTICAL:
            return Target(in_column(text, found.at, self._column()), lines=True)
        return found

    def _column(self) -> int:
        """Return the column that motions up and down keep."""
        editor = self.editor
        if editor.before != KEEPS_COLUMN:
            editor.goal = editor.column()
        return editor.goal

    def move(self, name: str, action: Action) -> bool:
        """Go where a motion leads. Return False if that is nowhere, or not as far as the count says."""
        found = self.target(name, action)
        if found is None:
            return False
        text, cursor = self.editor.draft.text, self.editor.draft.cursor
        if name == COLUMNS[1] and self.mode == COMMAND and found.at == line_end(text, cursor):
            found = Target(max(before(text, found.at), cursor), is_short=before(text, found.at) <= cursor)
        if name in JUMPS:
            self.places.leave(name)
        self.go(found.at, name)
        return not found.is_short

    def go(self, at: int, name: str = "") -> None:
        """Put the cursor at an offset; after a motion up or down, or to the end of the line, the column stays."""
        editor = self.editor
        is_to_end = name == "move-line-last-char"
        if is_to_end and self.mode == VISUAL:
            at = line_end(editor.draft.text, at)
        editor.move(at)
        if is_to_end:
            editor.goal = LINE_ENDS
        if is_to_end or name in VERTICAL:
            editor.before = KEEPS_COLUMN

    # Changes ---------------------------------------------------------------------------------------------------------

    def apply(self, operator: str, span: Span, register: str, times: int = 1) -> bool:
        """Do an operator on a span. Return False if there is nothing to do it on."""
        editor, text = self.editor, self.editor.draft.text
        taken = text[span.start : span.end]
        if operator == "copy":
            self.registers.copied(WholeLines(taken + "\n") if span.lines else taken, register)
            editor.move(span.cursor)
            return True
        change = OPERATORS[operator]
        if change is not None:
            for _ in range(min(times, MOST_SHIFTS)):
                taken = change(taken)
            self.become(TextState(text[: span.start] + taken + text[span.end :], span.cursor))
            if operator in SHIFTS:
                editor.move(first_sign(editor.draft.text, span.start))
            return True
        if operator == "delete" and span.lines and not text:
            return False
        self.remember_step()
        if not text:
            if operator == "change":
                self.insert()
            return True
        self.registers.deleted(WholeLines(taken + "\n") if span.lines else taken, register, is_large=span.is_large)
        if span.lines and operator == "delete":
            self._delete_lines(span.start, span.end)
        elif taken:
            editor.replace(without(editor.draft, span.start, span.end))
        else:
            editor.move(span.start)
        if operator == "change":
            self.insert()
        else:
            self.join_steps()
        return True

    def _delete_lines(self, start: int, end: int) -> None:
        editor, text = self.editor, self.editor.draft.text
        first, last = (start, end + 1) if end < len(text) else (max(start - 1, 0), end)
        editor.replace(without(editor.draft, first, last))
        left = editor.draft.text
        editor.move(first_sign(left, min(start, len(left)) if end < len(text) else line_start(left, len(left))))

    def become(self, draft: TextState) -> None:
        """Take another text as a step; if it is the same, there is none."""
        if draft.text != self.editor.draft.text:
            self.editor.replace(draft)
        else:
            self.editor.move(draft.cursor)

    def leave_selection(self, cursor: int) -> None:
        """Go back to command mode; the selection can be had again."""
        marks = self.editor.marks
        marks[places.SELECTION_START], marks[places.SELECTION_END] = self.selection.anchor, self.editor.draft.cursor
        self.mode = COMMAND
        self.editor.move(cursor)
        self.settle()

    def put(self, text: str, count: int, *, after_cursor: bool, goes_on: bool = False) -> None:
        """Put in a text; see :func:`pasting.pasted`."""
        made = pasted(
            self.editor.draft, text, count, has_lines=self.has_lines, after_cursor=after_cursor, goes_on=goes_on
        )
        self.become(made)

    def select_again(self) -> bool:
        """Select what was selected last."""
        marks, text = self.editor.marks, self.editor.draft.text
        if places.SELECTION_START not in marks:
            return False
        self.mode = VISUAL
        again = Selection(min(marks[places.SELECTION_START], len(text)), self.selection.sort)
        again.to_ends = self.selection.to_ends
        self.selection = again
        self.editor.move(marks[places.SELECTION_END])
        return True
