"""The commands of the modal family on a text: motions, operators, registers, repeating, as POSIX has them.

In command mode the cursor is on a character, not between two: at the end of a line it is on the last one. A motion
leads to another character; what an operator takes goes up to it, or with it (*inclusive*). A command that cannot be
done as often as its count says does nothing.

Words are runs of letters, digits and ``_``, or runs of other characters that are no blanks; *blank words* are runs of
anything but blanks.
"""

from __future__ import annotations

from wesperon.editing.brackets import CLOSING, PAIRS
from wesperon.editing.edits import TextState, insert, line_end, line_start, without
from wesperon.editing.graphemes import after, before
from wesperon.editing.text_objects import OBJECTS, sort_of
from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.editor import Editor
    from wesperon.editing.keys.events import Action

    Motion = Callable[[str, int, int], "Target | None"]
    LineMotion = Callable[[str, int, int | None], "Target | None"]

#: The modes of the family.
INSERT, REPLACE, COMMAND = "insert", "replace", "command"


class Target(Frozen):
    """Where a motion leads: an offset, and whether an operator takes the character there as well.

    ``is_short``: the way was too short for the count; a motion goes as far as it can, an operator does nothing.
    """

    at: int
    inclusive: bool = False
    is_short: bool = False


def _skip_blanks(text: str, at: int) -> int:
    """Over blanks and line ends to the next sign, or to an empty line, which is a word of its own."""
    while at < len(text) and text[at].isspace():
        if text[at] == "\n" and text[at + 1 : at + 2] == "\n":
            return at + 1
        at = after(text, at)
    return at


def _words_forward(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            if there >= len(text):
                break
            kind = sort_of(text, there, big)
            if text[there] == "\n":  # an empty line
                there += 1
                if text[there : there + 1] == "\n":
                    continue
            while kind and there < len(text) and sort_of(text, there, big) == kind:
                there = after(text, there)
            there = _skip_blanks(text, there)
        return Target(there)

    return go


def _to_line_end_at_last(big: bool) -> Motion:
    """The same for an operator: the last word does not lead over the end of its line."""
    words = _words_forward(big)

    def go(text: str, at: int, count: int) -> Target | None:
        found = words(text, at, count - 1) if count > 1 else Target(at)
        if found is None:
            return None
        there = found.at
        further = words(text, there, 1)
        end = line_end(text, there)
        if further is None or further.at <= end:
            return further
        return Target(end if end > there else min(end + 1, len(text)))

    return go


def _word_ends_forward(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            there = after(text, there)
            while there < len(text) and text[there].isspace():
                there = after(text, there)
            if there >= len(text):
                return Target(len(text) if text.endswith("\n") else before(text, len(text)), inclusive=True)
            kind = sort_of(text, there, big)
            while (next_one := after(text, there)) < len(text) and sort_of(text, next_one, big) == kind:
                there = next_one
        return Target(there, inclusive=True)

    return go


def _words_back(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            if there == 0:
                return None if there == at else Target(0, is_short=text.startswith("\n"))
            there = before(text, there)
            while there > 0 and text[there].isspace() and not _is_empty_line(text, there):
                there = before(text, there)
            kind = sort_of(text, there, big)
            while kind and there > 0 and sort_of(text, before(text, there), big) == kind:
                there = before(text, there)
        return Target(there)

    return go


def _word_ends_back(big: bool) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            if there == 0:
                return None if there == at else Target(0, inclusive=True, is_short=True)
            kind, begin = sort_of(text, there, big), there
            while kind and there > 0 and sort_of(text, there, big) == kind:
                there = before(text, there)
                if there == 0 and sort_of(text, 0, big) == kind:
                    return Target(0, inclusive=True)
            while (
                there > 0
                and text[there : there + 1] in ("", " ", "\t", "\n")
                and not (there < begin and _is_empty_line(text, there))
            ):
                there = before(text, there)
        return Target(there, inclusive=True)

    return go


def _is_empty_line(text: str, at: int) -> bool:
    """Whether an offset is in a line without characters."""
    return text[at : at + 1] == "\n" and (at == 0 or text[at - 1] == "\n")


def _lines(down: int) -> Motion:
    """So many lines down or up, or as many as there are; None if there is none."""

    def go(text: str, at: int, count: int) -> Target | None:
        there = first = line_start(text, at)
        for _ in range(count):
            further = line_end(text, there) + 1 if down > 0 else line_start(text, max(there - 1, 0))
            if further > len(text) or (down < 0 and there == 0):
                break
            there = further
        return None if there == first and count else Target(there)

    return go


def _to_line(last: bool) -> LineMotion:
    """To the line of a count, from 1; without one to the last line, or to the first."""

    def go(text: str, at: int, count: int | None) -> Target | None:
        lines = text.count("\n") + 1
        number = min(count or (lines if last else 1), lines)
        there = 0
        for _ in range(number - 1):
            there = line_end(text, there) + 1
        return Target(there)

    return go


def _chars(step: int) -> Motion:
    def go(text: str, at: int, count: int) -> Target | None:
        there = at
        for _ in range(count):
            further = after(text, there) if step > 0 else before(text, there)
            if further == there or "\n" in text[min(there, further) : max(there, further)]:
                break
            there = further
        return None if there == at else Target(there)

    return go


def _to_line_end(text: str, at: int, count: int) -> Target | None:
    end = line_end(text, at)
    for number in range(count - 1):
        if end == len(text):
            if not number:
                return None
            break
        end = line_end(text, end + 1)
    return Target(before(text, end) if end > line_start(text, end) else end, inclusive=True)


def _to_first_sign(text: str, at: int, count: int) -> Target | None:
    there, end = line_start(text, at), line_end(text, at)
    while there < end and text[there].isspace():
        there = after(text, there)
    return Target(min(there, max(before(text, end), line_start(text, at))) if there == end else there)


def _to_column(text: str, at: int, count: int) -> Target | None:
    there, end = line_start(text, at), line_end(text, at)
    for _ in range(count - 1):
        if after(text, there) >= end:
            break
        there = after(text, there)
    return Target(there)


def _to_bracket(text: str, at: int, count: int) -> Target | None:
    """To the partner of the first bracket at the cursor or after it."""
    end = line_end(text, at)
    there = next((place for place in range(at, end) if text[place] in PARTNERS), None)
    if there is None:
        return None
    sign, partner = text[there], PARTNERS[text[there]]
    step = 1 if sign in PAIRS else -1
    depth = 0
    while 0 <= there < len(text):
        depth += (text[there] == sign) - (text[there] == partner)
        if depth == 0:
            return Target(there, inclusive=True)
        there += step
    return None


#: The brackets, each with its partner.
PARTNERS = {**PAIRS, **CLOSING}

#: The motions by the name of their action.
MOTIONS: dict[str, Motion] = {
    "move-column-back": _chars(-1),
    "move-column-forward": _chars(1),
    "move-word-start-forward": _words_forward(False),
    "move-blank-word-start-forward": _words_forward(True),
    "move-word-end-forward": _word_ends_forward(False),
    "move-blank-word-end-forward": _word_ends_forward(True),
    "move-word-start-back": _words_back(False),
    "move-blank-word-start-back": _words_back(True),
    "move-word-end-back": _word_ends_back(False),
    "move-blank-word-end-back": _word_ends_back(True),
    "move-line-start": lambda text, at, count: Target(line_start(text, at)),
    "move-line-first-sign": _to_first_sign,
    "move-line-last-char": _to_line_end,
    "move-column": _to_column,
    "move-bracket-match": _to_bracket,
}
#: Motions of which an operator takes whole lines; where they lead, the cursor is on the first sign of the line.
LINES: dict[str, LineMotion] = {
    "move-line-down": lambda text, at, count: _lines(1)(text, at, count or 1),
    "move-line-up": lambda text, at, count: _lines(-1)(text, at, count or 1),
    "move-line-down-first-sign": lambda text, at, count: _lines(1)(text, at, count or 1),
    "move-line-up-first-sign": lambda text, at, count: _lines(-1)(text, at, count or 1),
    "move-line-whole": lambda text, at, count: _lines(1)(text, at, (count or 1) - 1),
    "move-line-here": lambda text, at, count: _lines(1)(text, at, (count or 1) - 1),
    "move-to-line": _to_line(last=True),
    "move-to-first-line": _to_line(last=False),
}
#: What the keys of some of them do in one line.
IN_ONE_LINE = {
    "move-line-down-first-sign": "recall-newer",
    "move-line-up-first-sign": "recall-older",
    "move-to-line": "recall-oldest",
}
#: By how many blanks lines are shifted.
SHIFT = 4
#: The motions of which nothing is left to do where they lead, as an operator sees it.
WORDS_FORWARD = ("move-word-start-forward", "move-blank-word-start-forward")
WORDS_OF_OPERATORS = {name: _to_line_end_at_last("blank" in name) for name in WORDS_FORWARD}
#: A character back or forward.
COLUMNS = ("move-column-back", "move-column-forward")
#: What changing a word goes to instead: the blanks after it stay.
WORD_ENDS = dict(zip(WORDS_FORWARD, ("move-word-end-forward", "move-blank-word-end-forward"), strict=True))
#: Looking for a character in the line: forwards or back, and how far before it the cursor stops.
FINDS = {"find-char-forward": (1, 0), "find-char-back": (-1, 0), "till-char-forward": (1, 1), "till-char-back": (-1, 1)}
REPEATS = ("repeat-find", "repeat-find-reversed")
REVERSED = {
    "find-char-forward": "find-char-back",
    "find-char-back": "find-char-forward",
    "till-char-forward": "till-char-back",
    "till-char-back": "till-char-forward",
}
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
    "insert-at-line-start": lambda text, at: _first_sign(text, at),
    "insert-at-line-end": line_end,
}


#: Every command by the name of its action.
NAMES = frozenset(
    (
        *(*MOTIONS, *FINDS, *REPEATS, *SHORT, *INSERTIONS),
        *("mode-replace", "repeat-change", "paste-after", "paste-before", "replace-char", "toggle-char-case"),
        *(*LINES, "open-line-below", "open-line-above", "join-lines"),
    )
)


def _shifted_back(row: str) -> str:
    return row[min(len(row) - len(row.lstrip(" ")), SHIFT) :]


def _first_sign(text: str, at: int) -> int:
    there, end = line_start(text, at), line_end(text, at)
    while there < end and text[there].isspace():
        there = after(text, there)
    return there


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
        #: Whether what is inserted is a line of its own.
        self._opens = False
        self._since: tuple[int, TextState] | None = None
        self._start: TextState | None = None

    # Modes -----------------------------------------------------------------------------------------------------------

    def enter_command_mode(self) -> None:
        """End an insertion, which is one step that can be undone, and go to the character before the cursor."""
        editor, start, overwrote = self.editor, self._start, self.mode == REPLACE
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
            done = self._paste(action, count, behind=name == "paste-after")
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

    def settle(self) -> None:
        """In command mode, have the cursor on a character."""
        draft = self.editor.draft
        if self.mode == COMMAND and draft.cursor == line_end(draft.text, draft.cursor):
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
            return None if line is None else Target(_first_sign(text, line.at))
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
            if _first_sign(text, start) >= start and self.has_lines:
                return self._take_lines(operator, line_start(text, start), line_end(text, end), action.register, start)
        return self._take_part(operator, start, end, action.register)

    def _take_part(self, operator: str, start: int, end: int, register: str) -> bool:
        """Do an operator between two offsets; a deletion that leaves but blanks of several lines takes the lines."""
        text = self.editor.draft.text
        leaves_blanks = _first_sign(text, start) >= start and not text[end : line_end(text, end)].strip()
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
            where = min(at, _first_sign(text, line.at))
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
            editor.move(_first_sign(editor.draft.text, start) if operator in SHIFTS else cursor)
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
        editor.move(_first_sign(left, min(start, len(left)) if end < len(text) else line_start(left, len(left))))
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

    def _paste(self, action: Action, count: int, *, behind: bool) -> bool:
        editor, memory = self.editor, self.editor.memory
        register = action.register.lower()
        text = memory.registers.get(register, "") if register else memory.ring[-1] if memory.ring else ""
        if not text:
            return False
        draft = editor.draft
        if isinstance(text, WholeLines):
            return self._paste_lines(text * count, behind=behind)
        at = min(after(draft.text, draft.cursor), line_end(draft.text, draft.cursor)) if behind else draft.cursor
        made = insert(TextState(draft.text, at), text * count)
        editor.replace(TextState(made.text, at if "\n" in text else before(made.text, made.cursor)))
        return True

    def _paste_lines(self, text: str, *, behind: bool) -> bool:
        """Put whole lines below or above the line of the cursor."""
        draft = self.editor.draft
        if behind:
            at = line_end(draft.text, draft.cursor)
            made, where = draft.text[:at] + "\n" + text[:-1] + draft.text[at:], at + 1
        else:
            at = line_start(draft.text, draft.cursor)
            made, where = draft.text[:at] + text + draft.text[at:], at
        self.editor.replace(TextState(made, where))
        self.editor.move(_first_sign(made, where))
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
