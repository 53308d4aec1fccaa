"""The commands of the modal family on a text: operators, insertions, pasting, repeating, as POSIX has them.

In command mode the cursor is on a character, not between two: at the end of a line it is on the last one. A motion
leads to another character (``motions``, ``places``); what an operator takes goes up to it, or with it (*inclusive*), or
is whole lines. A command that cannot be done does nothing and has *failed*, which ends a macro. Whatever changes the
mode, the text or what may be repeated is done here; what is selected in visual mode is in ``visual``.
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
from wesperon.editing.modal.operators import OPERATORS, SHIFTS, SHORT, Span, joined
from wesperon.editing.modal.pasting import pasted
from wesperon.editing.modal.places import Places
from wesperon.editing.modal.registers import INSERTED, Registers, WholeLines
from wesperon.editing.modal.selection import BLOCK, CHARS, LINES, Selection, at_column
from wesperon.editing.modal.spans import span_of
from wesperon.editing.modal.text_objects import OBJECTS
from wesperon.editing.modal.visual import do_on_selection, do_on_shape
from wesperon.editing.text_state import TextState, without
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.editor import Editor
    from wesperon.editing.keys.events import Action
    from wesperon.editing.modal.selection import Shape

#: The modes of the family.
INSERT, REPLACE, COMMAND, VISUAL = "insert", "replace", "command", "visual"
#: A column after all others: the end of whatever line the cursor comes to.
LINE_ENDS = 1 << 30
#: Commands that begin an insertion, and where it begins.
INSERTIONS: dict[str, Callable[[str, int], int]] = {
    "insert-before": lambda text, at: at,
    "insert-after": lambda text, at: min(after(text, at), line_end(text, at)),
    "insert-at-line-start": first_sign,
    "insert-at-line-end": line_end,
}
#: What begins a selection, and of which sort.
SELECTING = {"mode-visual": CHARS, "mode-visual-lines": LINES, "mode-visual-block": BLOCK}
#: How often lines are shifted at most.
MOST_SHIFTS = 50
#: Commands that are not repeated: they change nothing.
COPIES = ("copy", "copy-line")


class Change(Frozen):
    """A change that may be repeated: its action, and the shape of the selection that it was done on, if it was."""

    action: Action
    shape: Shape | None = None


class Commands:
    """Does the commands of the modal family on the text of an ``editor``; what it remembers is for the next command.

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
        self._insert()

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

    def _insert(self, times: int = 1, mode: str = INSERT, *, opens: bool = False) -> None:
        self.mode = mode
        self.insertion.begin(times, overwrites=mode == REPLACE, opens=opens)

    def insert_in_rows(self, lines: list[int], column: int | None, corner: int | None = None) -> None:
        """Begin to insert here, and in further lines at a column, or at their ends.

        Afterwards the cursor goes to the ``corner``, if there is one.
        """
        self._insert()
        self.insertion.lines, self.insertion.column, self.insertion.corner = lines, column, corner

    def insert_here(self, text: str = "") -> None:
        """Put in a text after the cursor and go on inserting after it."""
        self.remember_step()
        draft = self.editor.draft
        self.editor.move(min(after(draft.text, draft.cursor), line_end(draft.text, draft.cursor)))
        self._insert()
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

    # Commands --------------------------------------------------------------------------------------------------------

    def knows(self, action: Action) -> bool:
        """Return True if an action is one of the commands here."""
        return bool(action.motion) or action.name in NAMES

    def do(self, action: Action) -> bool:
        """Do a command. Return False if it cannot be done."""
        cursor = self.editor.draft.cursor
        at_end = self.returns and cursor == line_end(self.editor.draft.text, cursor)
        if at_end:
            self.settle()
        before_it = self.editor.draft
        done = do_on_selection(self, action) if self.mode == VISUAL else self._do(action)
        self.settle()
        self.failed = not done
        if self.returns and self.mode == COMMAND:
            self.returns = False
            self.remember_step()
            if at_end and self.editor.draft == before_it:
                self.editor.move(cursor)
            self._insert()
        return done

    def _do(self, action: Action) -> bool:
        name, count = action.name, 1 if action.count is None else max(action.count, 1)
        if action.motion:
            done = self._operate(name, action.motion, action)
        elif name in SHORT:
            done = self._operate(*SHORT[name], action)
        elif name in INSERTIONS:
            draft = self.editor.draft
            self.remember_step()
            self.editor.move(INSERTIONS[name](draft.text, draft.cursor))
            self._insert(count)
            done = True
        elif name in COMMANDS:
            done = COMMANDS[name](self, action, count)
        else:
            return self.move(name, action)
        if done and name not in COPIES and name not in UNREPEATED:
            self.change = Change(action)
        return done

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

    # Operators -------------------------------------------------------------------------------------------------------

    def _operate(self, operator: str, motion: str, action: Action) -> bool:
        """Do an operator over what a motion or an object says."""
        span = span_of(self, operator, motion, action)
        return span is not None and self.apply(operator, span, action.register)

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
                self._insert()
            return True
        self.registers.deleted(WholeLines(taken + "\n") if span.lines else taken, register, is_large=span.is_large)
        if span.lines and operator == "delete":
            self._delete_lines(span.start, span.end)
        elif taken:
            editor.replace(without(editor.draft, span.start, span.end))
        else:
            editor.move(span.start)
        if operator == "change":
            self._insert()
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

    # Single commands -------------------------------------------------------------------------------------------------

    def replace_mode(self, action: Action, count: int) -> bool:
        """Begin to replace: typed characters take the place of others."""
        self.remember_step()
        self._insert(count, REPLACE)
        return True

    def select(self, action: Action, count: int) -> bool:
        """Begin a selection."""
        self.mode = VISUAL
        self.selection = Selection(self.editor.draft.cursor, SELECTING[action.name])
        return True

    def select_again(self, action: Action, count: int) -> bool:
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

    def set_mark(self, action: Action, count: int) -> bool:
        """Give the place of the cursor a name."""
        return self.places.mark(action.text)

    def open_line_below(self, action: Action, count: int) -> bool:
        """Begin to insert in a new line below."""
        return self._open_line(count, below=True)

    def open_line_above(self, action: Action, count: int) -> bool:
        """Begin to insert in a new line above."""
        return self._open_line(count, below=False)

    def _open_line(self, count: int, *, below: bool) -> bool:
        if not self.has_lines:
            return False
        draft = self.editor.draft
        self.remember_step()
        at = line_end(draft.text, draft.cursor) if below else line_start(draft.text, draft.cursor)
        made = draft.text[:at] + "\n" + draft.text[at:]
        self.editor.replace(TextState(made, at + 1 if below else at))
        self._insert(count, opens=True)
        return True

    def join_lines(self, action: Action, count: int) -> bool:
        """Put the next lines at the end of this one, with a blank between them, or as they are."""
        draft = self.editor.draft
        made = joined(draft.text, draft.cursor, max(count - 1, 1), with_blanks=action.name == "join-lines")
        if made is None:
            return False
        self.become(TextState(*made))
        return True

    def paste(self, action: Action, count: int) -> bool:
        """Put in what a register holds, after the cursor or before it, below or above the line."""
        text = self.registers.text(action.register)
        if not text:
            return False
        self.put(text, count, after_cursor="-after" in action.name, goes_on=action.name.endswith("-and-go-on"))
        return True

    def put(self, text: str, count: int, *, after_cursor: bool, goes_on: bool = False) -> None:
        """Put in a text; see :func:`pasting.pasted`."""
        made = pasted(
            self.editor.draft, text, count, has_lines=self.has_lines, after_cursor=after_cursor, goes_on=goes_on
        )
        self.become(made)

    def replace_chars(self, action: Action, count: int) -> bool:
        """Replace ``count`` characters by one that is typed."""
        draft, char = self.editor.draft, "\n" if action.text == "\r" else action.text
        end = draft.cursor
        for _ in range(count):
            if end >= line_end(draft.text, draft.cursor):
                return False
            end = after(draft.text, end)
        self.editor.memory.registers[INSERTED] = char
        if char == "\n":
            if not self.has_lines:
                return False
            made = draft.text[: draft.cursor] + "\n" + draft.text[end:]
            self.become(TextState(made, draft.cursor + 1))
            return True
        made = draft.text[: draft.cursor] + char * count + draft.text[end:]
        self.become(TextState(made, draft.cursor + len(char) * (count - 1)))
        return True

    def toggle_chars(self, action: Action, count: int) -> bool:
        """Toggle the letter case of ``count`` characters, and move after them."""
        draft = self.editor.draft
        end = draft.cursor
        for _ in range(count):
            end = min(after(draft.text, end), line_end(draft.text, draft.cursor))
        if end == draft.cursor:
            return False
        made = draft.text[: draft.cursor] + draft.text[draft.cursor : end].swapcase() + draft.text[end:]
        self.become(TextState(made, end))
        return True

    def repeat(self, action: Action, count: int) -> bool:
        """Do the last change once more; a count takes the place of its own."""
        last = self.change
        if last is None:
            return False
        of = last.action
        register = str(int(of.register) % 9 + 1) if of.register.isdecimal() and of.register != "0" else of.register
        again = type(of)(of.name, of.count if action.count is None else action.count, of.text, register, of.motion)
        inserted = self.editor.memory.registers.get(INSERTED, "")
        done = do_on_shape(self, again, last.shape) if last.shape is not None else self._do(again)
        if done and self.mode in (INSERT, REPLACE):
            if self.mode == REPLACE:
                self.editor.type(inserted)
            elif inserted:
                self.editor.put(inserted)
            self.enter_command_mode()
        if done:
            self.change = Change(again, last.shape)
        return done


#: The commands that are neither a motion, an operator nor an insertion.
COMMANDS: dict[str, Callable[[Commands, Action, int], bool]] = {
    "mode-replace": Commands.replace_mode,
    **dict.fromkeys(SELECTING, Commands.select),
    "select-again": Commands.select_again,
    "set-place": Commands.set_mark,
    "open-line-below": Commands.open_line_below,
    "open-line-above": Commands.open_line_above,
    "join-lines": Commands.join_lines,
    "join-lines-bare": Commands.join_lines,
    **dict.fromkeys(("paste-after", "paste-before"), Commands.paste),
    **dict.fromkeys(("paste-after-and-go-on", "paste-before-and-go-on"), Commands.paste),
    "replace-char": Commands.replace_chars,
    "toggle-char-case": Commands.toggle_chars,
    "repeat-change": Commands.repeat,
}
#: Those of them that change nothing, or say themselves what may be repeated.
UNREPEATED = frozenset((*SELECTING, "select-again", "set-place", "repeat-change"))
#: Every command by the name of its action.
NAMES = frozenset(
    (
        *(*MOTIONS, *places.NAMES, *SHORT, *INSERTIONS, *COMMANDS, *OBJECTS),
        *("exchange-ends", "exchange-sides", "replace-selection", "paste-over-selection", "paste-over-and-keep"),
        *(f"{operator}-selection" for operator in (*OPERATORS, "join", "join-bare")),
        *("delete-selected-lines", "change-selected-lines", "copy-selected-lines"),
        *("insert-before-selection", "insert-after-selection"),
    )
)
