"""The commands of the modal family on a text: operators, insertions, pasting, repeating, as POSIX has them.

What they act on is a text with a mode (``modal_text``). What an operator takes goes up to the character where a motion
leads, or with it (*inclusive*), or is whole lines (``spans``). A command that cannot be done does nothing and has
*failed*, which ends a macro. What is selected in visual mode is in ``visual``.
"""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after
from wesperon.editing.modal import places
from wesperon.editing.modal.modal_text import COMMAND, INSERT, REPLACE, SELECTING, VISUAL, Change, ModalText
from wesperon.editing.modal.motions import MOTIONS, first_sign
from wesperon.editing.modal.operators import OPERATORS, SHORT, joined
from wesperon.editing.modal.registers import INSERTED
from wesperon.editing.modal.selection import Selection
from wesperon.editing.modal.spans import span_of
from wesperon.editing.modal.text_objects import OBJECTS
from wesperon.editing.modal.visual import do_on_selection, do_on_shape
from wesperon.editing.text_state import TextState

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Action

#: Commands that begin an insertion, and where it begins.
INSERTIONS: dict[str, Callable[[str, int], int]] = {
    "insert-before": lambda text, at: at,
    "insert-after": lambda text, at: min(after(text, at), line_end(text, at)),
    "insert-at-line-start": first_sign,
    "insert-at-line-end": line_end,
}
#: Commands that are not repeated: they change nothing.
COPIES = ("copy", "copy-line")


class Commands(ModalText):
    """Does the commands of the modal family, each by the name of its action."""

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
            self.insert()
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
            self.insert(count)
            done = True
        elif name in COMMANDS:
            done = COMMANDS[name](self, action, count)
        else:
            return self.move(name, action)
        if done and name not in COPIES and name not in UNREPEATED:
            self.change = Change(action)
        return done

    # Operators -------------------------------------------------------------------------------------------------------

    def _operate(self, operator: str, motion: str, action: Action) -> bool:
        """Do an operator over what a motion or an object says."""
        span = span_of(self, operator, motion, action)
        return span is not None and self.apply(operator, span, action.register)

    # Single commands -------------------------------------------------------------------------------------------------

    def replace_mode(self, action: Action, count: int) -> bool:
        """Begin to replace: typed characters take the place of others."""
        self.remember_step()
        self.insert(count, REPLACE)
        return True

    def select(self, action: Action, count: int) -> bool:
        """Begin a selection."""
        self.mode = VISUAL
        self.selection = Selection(self.editor.draft.cursor, SELECTING[action.name])
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
        self.insert(count, opens=True)
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
    "select-again": lambda commands, action, count: commands.select_again(),
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
