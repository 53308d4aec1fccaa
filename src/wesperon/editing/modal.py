"""The commands of the modal family on a text: operators, insertions, registers, repeating, as POSIX has them.

In command mode the cursor is on a character, not between two: at the end of a line it is on the last one. A motion
(``motions``) leads to another character; what an operator takes goes up to it, or with it (*inclusive*). A
command that cannot be done as often as its count says does nothing.
"""

from __future__ import annotations

from wesperon.editing.edits import TextState, insert, line_end, line_start, without
from wesperon.editing.graphemes import after, before
from wesperon.editing.motions import (
    COLUMNS,
    FINDS,
    IN_ONE_LINE,
    LINES,
    MOTIONS,
    REPEATS,
    REVERSED,
    WORD_ENDS,
    WORDS_FORWARD,
    WORDS_OF_OPERATORS,
    Target,
    first_sign,
)
from wesperon.editing.text_objects import OBJECTS, sort_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.editor import Editor
    from wesperon.editing.keys.events import Action

#: The modes of the family.
INSERT, REPLACE, COMMAND, VISUAL = "insert", "replace", "command", "visual"
#: By how many blanks lines are shifted.
SHIFT = 4
#: The operators, each with what it makes of the text, None for those that take it away or copy it.
OPERATORS: dict[str, Callable[[str], str] | None] = {
    "delete": None,
    "change": None,
    "copy": None,
    "toggle-case": str.swapcase,
    "lowercase": str.lower,
    "uppercase": str.upper,
    "shift-forward": lambda text: "\n".join([" " * SHIFT + row if row else row for row in text.split("\n")]),
    "shift-back": lambda text: "\n".join([_shifted_back(row) for row in text.split("\n")]),
}
SHIFTS = ("shift-forward", "shift-back")
#: Commands that are an operator and a motion in one.
SHORT: dict[str, tuple[str, str]] = {
    "delete-char": ("delete", "move-column-forward"),
    "delete-char-before": ("delete", "move-column-back"),
    "delete-to-line-end": ("delete", "move-line-last-char"),
    "change-to-line-end": ("change", "move-line-last-char"),
    "change-char": ("change", "move-column-forward"),
    "change-line": ("change", "move-line-whole"),
    "copy-line": ("copy", "move-line-whole"),
}
#: Commands that begin an insertion, and where it begins.
INSERTIONS = {
    "insert-before": lambda text, at: at,
    "insert-after": lambda text, at: min(after(text, at), line_end(text, at)),
    "insert-at-line-start": lambda text, at: first_sign(text, at),
    "insert-at-line-end": line_end,
}


#: Every command by the name of its action.
NAMES = frozenset(
    (
        *(*MOTIONS, *FINDS, *REPEATS, *SHORT, *INSERTIONS),
        *("mode-replace", "repeat-change", "paste-after", "paste-before", "replace-char", "toggle-char-case"),
        *(*LINES, *OBJECTS, "open-line-below", "open-line-above", "join-lines"),
        *("mode-visual", "mode-visual-lines", "exchange-ends", "replace-selection", "paste-over-selection"),
        *(f"{operator}-selection" for operator in (*OPERATORS, "join")),
    )
)


def _shifted_back(row: str) -> str:
    return row[min(len(row) - len(row.lstrip(" ")), SHIFT) :]


def _put_in(start: TextState, text: str) -> str:
    """What was put in at the cursor of a draft so that it became a text; empty if it was more than that."""
    head, tail = start.text[: start.cursor], start.text[start.cursor :]
    if len(text) < len(start.text) or not (text.startswith(head) and text.endswith(tail)):
        return ""
    return text[len(head) : len(text) - len(tail)]


class WholeLines(str):
    """A text of whole lines, each with its end, as a register keeps it."""


class Commands:
    """Does the commands of the modal family on the text of an ``editor``; what it remembers is for the next command.

    ``has_lines`` says whether it may have several lines; ``mode`` is the mode that a command has led to.
    """

    IN_ONE_LINE = IN_ONE_LINE

    def __init__(self, editor: Editor, *, has_lines: bool = False) -> None:
        self.editor = editor
        self.has_lines = has_lines
        self.mode = INSERT
        #: The search for a character that may be repeated: its action, and the character.
        self.found: tuple[str, str] | None = None
        #: The last command that changed the text, and what was inserted with it.
        self.change: Action | None = None
        self.inserted = ""
        self._times = 1
        #: In visual mode, where the selection begins, and whether it is of whole lines.
        self.anchor = 0
        self.selects_lines = False
        #: Whether what is inserted is a line of its own.
        self._opens = False
        self._since: tuple[int, TextState] | None = None
        self._start: TextState | None = None

    # Modes -----------------------------------------------------------------------------------------------------------

    def enter_command_mode(self) -> None:
        """End an insertion, which is one step that can be undone, and go to the character before the cursor."""
        editor, start, overwrote = self.editor, self._start, self.mode == REPLACE
        if self.mode == VISUAL:
            self._leave_selection(editor.draft.cursor)
            return
        self.mode, editor.overwrites = COMMAND, False
        if start is not None:
            text, cursor = editor.draft.text, editor.draft.cursor
            if overwrote:
                self.inserted = text[start.cursor : cursor]
                if self._times > 1:
                    editor.overwrites = True
                    editor.type(self.inserted, self._times - 1)
                    editor.overwrites = False
            else:
                self.inserted = _put_in(start, text)
                if self._times > 1 and (self.inserted or self._opens):
                    editor.put(("\n" * self._opens + self.inserted) * (self._times - 1))
            self._join_steps()
            self._start = None
        draft = editor.draft
        if draft.cursor > line_start(draft.text, draft.cursor):
            editor.move(before(draft.text, draft.cursor))

    def begin(self) -> None:
        """Know that an insertion begins here, as when a question opens."""
        self._since = (len(self.editor.past), self.editor.draft)
        self._start, self._times = self.editor.draft, 1

    def _insert(self, times: int = 1, mode: str = INSERT) -> None:
        self._start, self._times, self.mode, self._opens = self.editor.draft, times, mode, False
        self.editor.overwrites = mode == REPLACE

    def _remember_step(self) -> None:
        self._since = (len(self.editor.past), self.editor.draft)

    def _join_steps(self) -> None:
        """Make one step of all that was changed since it was remembered."""
        if self._since is not None:
            steps, draft = self._since
            self.editor.join_steps(steps, draft)
            self._since = None

    def knows(self, action: Action) -> bool:
        """Whether an action is one of the commands here."""
        name = action.name
        return bool(action.motion) or name in NAMES

    # Commands --------------------------------------------------------------------------------------------------------

    def do(self, action: Action) -> bool:
        """Do a command. Return False if it is none of these, or cannot be done."""
        name, count = action.name, 1 if action.count is None else max(action.count, 1)
        if self.mode == VISUAL:
            return self._do_on_selection(action, count)
        if name in ("mode-visual", "mode-visual-lines"):
            self.mode, self.anchor, self.selects_lines = VISUAL, self.editor.draft.cursor, name == "mode-visual-lines"
            return True
        if action.motion:
            done = self._operate(name, action.motion, action)
        elif name in SHORT:
            done = self._operate(*SHORT[name], action)
        elif name in INSERTIONS:
            draft = self.editor.draft
            self._remember_step()
            self.editor.move(INSERTIONS[name](draft.text, draft.cursor))
            self._insert(count)
            done = True
        elif name == "mode-replace":
            self._remember_step()
            self._insert(count, REPLACE)
            done = True
        elif name == "repeat-change":
            return self._repeat(action)
        elif name in ("open-line-below", "open-line-above"):
            done = self._open_line(count, below=name == "open-line-below")
        elif name == "join-lines":
            done = self._join_lines(max(count - 1, 1))
        elif name in ("paste-after", "paste-before"):
            done = self._paste(action, count, after_cursor=name == "paste-after")
        elif name == "replace-char":
            done = self._replace_chars(action.text, count)
        elif name == "toggle-char-case":
            done = self._toggle_chars(count)
        else:
            return self._move(name, action)
        if done and name != "copy-line" and not (action.motion and name == "copy"):
            self.change = action
        self.settle()
        return done

    @property
    def selection(self) -> tuple[int, int]:
        """The offsets between which the selection of visual mode is; equal ones if there is none."""
        if self.mode != VISUAL:
            return 0, 0
        text, at = self.editor.draft.text, self.editor.draft.cursor
        start, last = min(self.anchor, at), max(self.anchor, at)
        if self.selects_lines:
            return line_start(text, start), line_end(text, last)
        return start, min(after(text, last), len(text))

    def _do_on_selection(self, action: Action, count: int) -> bool:
        """Do a command of visual mode."""
        editor, name = self.editor, action.name
        text, (start, end) = editor.draft.text, self.selection
        if name in ("mode-visual", "mode-visual-lines"):
            if self.selects_lines == (name == "mode-visual-lines"):
                self._leave_selection(editor.draft.cursor)
            self.selects_lines = name == "mode-visual-lines"
            return True
        if name == "exchange-ends":
            self.anchor, cursor = editor.draft.cursor, self.anchor
            editor.move(cursor)
            return True
        if name in OBJECTS:
            found = OBJECTS[name](text, editor.draft.cursor, count)
            if found is not None:
                self.anchor = found[0]
                editor.move(max(before(text, found[1]), found[0]))
            return found is not None
        operator, first = name.removesuffix("-selection"), min(self.anchor, editor.draft.cursor)
        if operator in OPERATORS:
            self._leave_selection(start)
            if (self.selects_lines or operator in SHIFTS) and self.has_lines:
                where = first if self.selects_lines else first_sign(text, start)
                return self._take_lines(operator, line_start(text, start), line_end(text, end), action.register, where)
            return self._ended(self._take(operator, start, end, action.register))
        if operator == "join":
            self._leave_selection(start)
            return self._ended(self._join_lines(max(text.count("\n", start, end), 1)))
        if name == "replace-selection":
            self._leave_selection(start)
            made = "".join([char if char == "\n" else action.text for char in text[start:end]])
            self._become(TextState(text[:start] + made + text[end:], start))
            return self._ended(True)
        if name == "paste-over-selection":
            return self._paste_over(action, start, end)
        return self._move(name, action)

    def _ended(self, done: bool) -> bool:
        self.settle()
        return done

    def _leave_selection(self, cursor: int) -> None:
        self.mode, self.change = COMMAND, None  # what was done to a selection is not repeated elsewhere
        self.editor.move(cursor)

    def _paste_over(self, action: Action, start: int, end: int) -> bool:
        """Put what was taken before in the place of the selection, which is what was taken now."""
        editor, memory = self.editor, self.editor.memory
        register = action.register.lower()
        text = memory.registers.get(register, "") if register else memory.ring[-1] if memory.ring else ""
        self._leave_selection(start)
        whole = editor.draft.text
        self._keep(whole[start:end], "")
        if isinstance(text, WholeLines) and self.has_lines:
            lines = text if whole[:start] or whole[end:] else text[:-1]
            self._become(TextState(f"{whole[:start]}\n{lines}{whole[end:]}", start + 1))
            editor.move(first_sign(editor.draft.text, start + 1))
        else:
            made = insert(without(editor.draft, start, end), text)
            self._become(TextState(made.text, start if "\n" in text or not text else before(made.text, made.cursor)))
        return self._ended(True)

    def settle(self) -> None:
        """In command mode, have the cursor on a character."""
        draft = self.editor.draft
        if self.mode in (COMMAND, VISUAL) and draft.cursor == line_end(draft.text, draft.cursor):
            start = line_start(draft.text, draft.cursor)
            if draft.cursor > start:
                self.editor.move(before(draft.text, draft.cursor))

    def target(self, name: str, action: Action, *, operates: bool = False) -> Target | None:
        """Where a motion leads from the cursor; None if it leads nowhere."""
        text, at = self.editor.draft.text, self.editor.draft.cursor
        count = 1 if action.count is None else max(action.count, 1)
        if name in FINDS or name in REPEATS:
            return self._find(name, action.text, count)
        if name in LINES:
            line = LINES[name](text, at, action.count)
            return None if line is None else Target(first_sign(text, line.at))
        motion = MOTIONS.get(name)
        if motion is None:
            return None
        return (
            WORDS_OF_OPERATORS[name](text, at, count) if operates and name in WORDS_FORWARD else motion(text, at, count)
        )

    def _find(self, name: str, char: str, count: int) -> Target | None:
        if name not in REPEATS:
            self.found = (name, char)
            return self._found(name, char, count, again=False)
        if self.found is None:
            return None
        known, char = self.found
        return self._found(known if name == "repeat-find" else REVERSED[known], char, count, again=True)

    def _found(self, name: str, char: str, count: int, *, again: bool) -> Target | None:
        text, at = self.editor.draft.text, self.editor.draft.cursor
        step, short = FINDS[name]
        start, end = line_start(text, at), line_end(text, at)
        there = at
        if again and short and count == 1 and text[at + step : at + step + 1] == char:
            there += step  # it is right before that one already
        for _ in range(count):
            there = text.find(char, there + 1, end) if step > 0 else text.rfind(char, start, there)
            if there < 0:
                return None
        return Target(there - step * short, inclusive=step > 0)

    def _move(self, name: str, action: Action) -> bool:
        found = self.target(name, action)
        if found is None:
            return False
        self.editor.move(found.at)
        self.settle()
        return True

    def _operate(self, operator: str, motion: str, action: Action) -> bool:
        """Do an operator over what a motion or an object says."""
        text, at = self.editor.draft.text, self.editor.draft.cursor
        if motion in LINES or operator in SHIFTS:
            return self._operate_on_lines(operator, motion, action)
        if motion in OBJECTS:
            around = OBJECTS[motion](text, at, max(action.count or 1, 1))
            if around is None:
                return False
            return self._take_part(operator, *around, action.register)
        if operator == "change" and motion in WORD_ENDS and at < len(text) and not text[at].isspace():
            found = self._word_to_change(motion, action)
        else:
            found = self.target(motion, action, operates=True)
        if found is None and operator == "change" and motion in COLUMNS:
            found = Target(at)  # of nothing, there is something to be inserted all the same
        if found is None or found.is_short:
            return False
        start, end = min(at, found.at), max(at, found.at)
        if found.inclusive:
            end = min(after(text, end), line_end(text, end))
        elif end > start and "\n" in text[start:end] and end == line_start(text, end):
            end -= 1  # up to a line is up to the end of the one before; of whole lines, lines
            if first_sign(text, start) >= start and self.has_lines:
                return self._take_lines(operator, line_start(text, start), line_end(text, end), action.register, start)
        return self._take_part(operator, start, end, action.register)

    def _take_part(self, operator: str, start: int, end: int, register: str) -> bool:
        """Do an operator between two offsets; a deletion that leaves but blanks of several lines takes the lines."""
        text = self.editor.draft.text
        leaves_blanks = first_sign(text, start) >= start and not text[end : line_end(text, end)].strip()
        if operator == "delete" and leaves_blanks and "\n" in text[start:end]:
            return self._take_lines(operator, line_start(text, start), line_end(text, end), register, start)
        return self._take(operator, start, end, register)

    def _operate_on_lines(self, operator: str, motion: str, action: Action) -> bool:
        """Do an operator over whole lines: those from the cursor to where the motion leads."""
        text, at = self.editor.draft.text, self.editor.draft.cursor
        line = LINES[motion](text, at, action.count) if motion in LINES else self.target(motion, action)
        if line is None:
            return False
        start, end = line_start(text, min(at, line.at)), line_end(text, max(at, line.at))
        if not self.has_lines:
            return self._take(operator, start, end, action.register, cursor=at)
        if not text and operator == "delete":
            return False
        where = at
        if motion == "move-line-up":
            where = min(line.at + at - line_start(text, at), max(before(text, line_end(text, line.at)), line.at))
        elif motion not in ("move-line-down", "move-line-whole") and (operator, motion) != ("copy", "move-line-here"):
            where = min(at, first_sign(text, line.at))
        return self._take_lines(operator, start, end, action.register, where)

    def _take(self, operator: str, start: int, end: int, register: str, cursor: int | None = None) -> bool:
        """Do an operator on the characters between two offsets."""
        editor = self.editor
        text, where = editor.draft.text, start if cursor is None else cursor
        taken = text[start:end]
        if operator == "copy":
            self._keep(taken, register)
            editor.move(where)
            return True
        change = OPERATORS[operator]
        if change is not None:
            self._become(TextState(text[:start] + change(taken) + text[end:], where))
            return True
        self._remember_step()
        self._keep(taken, register)
        if taken:
            editor.replace(without(editor.draft, start, end))
        if operator == "change":
            self._insert()
        else:
            self._join_steps()
        return True

    def _take_lines(self, operator: str, start: int, end: int, register: str, cursor: int) -> bool:
        """Do an operator on the lines between two offsets; the cursor is at another one, if they stay."""
        editor = self.editor
        text = editor.draft.text
        taken = text[start:end]
        if operator == "copy":
            self._keep(WholeLines(taken + "\n") if text else "", register)
            editor.move(cursor)
            return True
        change = OPERATORS[operator]
        if change is not None:
            self._become(TextState(text[:start] + change(taken) + text[end:], start))
            editor.move(first_sign(editor.draft.text, start) if operator in SHIFTS else cursor)
            return True
        self._remember_step()
        self._keep(WholeLines(taken + "\n") if text else "", register)
        if operator == "change":
            editor.replace(without(editor.draft, start, end))
            self._insert()
            return True
        first, last = (start, end + 1) if end < len(text) else (max(start - 1, 0), end)
        editor.replace(without(editor.draft, first, last))
        left = editor.draft.text
        editor.move(first_sign(left, min(start, len(left)) if end < len(text) else line_start(left, len(left))))
        self._join_steps()
        return True

    def _open_line(self, count: int, *, below: bool) -> bool:
        """Begin to insert in a new line."""
        if not self.has_lines:
            return False
        draft = self.editor.draft
        self._remember_step()
        at = line_end(draft.text, draft.cursor) if below else line_start(draft.text, draft.cursor)
        made = draft.text[:at] + "\n" + draft.text[at:]
        self.editor.replace(TextState(made, at + 1 if below else at))
        self._insert(count)
        self._opens = True
        return True

    def _join_lines(self, times: int) -> bool:
        """Put the next lines at the end of this one, with a blank between them."""
        draft = self.editor.draft
        text, at = draft.text, draft.cursor
        if text.count("\n", at) < 1:
            return False
        for _ in range(times):
            end = line_end(text, at)
            if end == len(text):
                break
            rest = text[end + 1 :]
            indent = len(rest) - len(rest.lstrip(" \t"))
            head, tail = text[:end], rest[indent:]
            empty = not tail or tail[0] == "\n"
            joint = "" if tail[:1] == ")" or empty or not head.rpartition("\n")[2] or head[-1:] in " \t" else " "
            at = len(head)
            text = head + joint + tail
        self._become(TextState(text, at))
        return True

    def _word_to_change(self, motion: str, action: Action) -> Target | None:
        """The end of the word that is changed; the one at the cursor counts, even if the cursor is at its end."""
        text, at = self.editor.draft.text, self.editor.draft.cursor
        big = motion == WORDS_FORWARD[1]
        count, kind, there = max(action.count or 1, 1), sort_of(text, at, big), at
        while (next_one := after(text, there)) < len(text) and sort_of(text, next_one, big) == kind:
            there = next_one
        if count == 1:
            return Target(there, inclusive=True)
        return MOTIONS[WORD_ENDS[motion]](text, there, count - 1)

    def _keep(self, text: str, register: str) -> None:
        memory = self.editor.memory
        if not text:
            return
        memory.ring.append(text)
        if register and register.isalpha() and register.isupper():
            name, before_it = register.lower(), memory.registers.get(register.lower(), "")
            if isinstance(before_it, WholeLines) or isinstance(text, WholeLines):
                ended = before_it if not before_it or before_it.endswith("\n") else before_it + "\n"
                memory.registers[name] = WholeLines(ended + (text if text.endswith("\n") else text + "\n"))
            else:
                memory.registers[name] = before_it + text
        elif register:
            memory.registers[register] = text

    def _paste(self, action: Action, count: int, *, after_cursor: bool) -> bool:
        editor, memory = self.editor, self.editor.memory
        register = action.register.lower()
        text = memory.registers.get(register, "") if register else memory.ring[-1] if memory.ring else ""
        if not text:
            return False
        draft = editor.draft
        if isinstance(text, WholeLines):
            return self._paste_lines(text * count, after_cursor=after_cursor)
        at = min(after(draft.text, draft.cursor), line_end(draft.text, draft.cursor)) if after_cursor else draft.cursor
        made = insert(TextState(draft.text, at), text * count)
        editor.replace(TextState(made.text, at if "\n" in text else before(made.text, made.cursor)))
        return True

    def _paste_lines(self, text: str, *, after_cursor: bool) -> bool:
        """Put whole lines below or above the line of the cursor."""
        draft = self.editor.draft
        if after_cursor:
            at = line_end(draft.text, draft.cursor)
            made, where = draft.text[:at] + "\n" + text[:-1] + draft.text[at:], at + 1
        else:
            at = line_start(draft.text, draft.cursor)
            made, where = draft.text[:at] + text + draft.text[at:], at
        self.editor.replace(TextState(made, where))
        self.editor.move(first_sign(made, where))
        return True

    def _replace_chars(self, char: str, count: int) -> bool:
        draft = self.editor.draft
        end = draft.cursor
        for _ in range(count):
            if end >= line_end(draft.text, draft.cursor):
                return False
            end = after(draft.text, end)
        made = draft.text[: draft.cursor] + char * count + draft.text[end:]
        self._become(TextState(made, draft.cursor + len(char) * (count - 1)))
        return True

    def _become(self, draft: TextState) -> None:
        """Take another text as a step; if it is the same, there is none."""
        if draft.text != self.editor.draft.text:
            self.editor.replace(draft)
        else:
            self.editor.move(draft.cursor)

    def _toggle_chars(self, count: int) -> bool:
        draft = self.editor.draft
        end = draft.cursor
        for _ in range(count):
            end = min(after(draft.text, end), line_end(draft.text, draft.cursor))
        if end == draft.cursor:
            return False
        made = draft.text[: draft.cursor] + draft.text[draft.cursor : end].swapcase() + draft.text[end:]
        self._become(TextState(made, end))
        return True

    def _repeat(self, action: Action) -> bool:
        """Do the last change once more; a count takes the place of its own."""
        last = self.change
        if last is None:
            return False
        count = last.count if action.count is None else action.count
        inserted = self.inserted
        again = type(last)(last.name, count, last.text, last.register, last.motion)
        if not self.do(again):
            return False
        if self.mode != COMMAND:
            if self.mode == REPLACE:
                self.editor.type(inserted)
            elif inserted:
                self.editor.put(inserted)
            self.enter_command_mode()
        self.change = again
        return True
