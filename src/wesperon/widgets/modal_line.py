"""A line in the modal family of keys: its modes, and the commands that are not about the text alone.

What a command does to the text is in ``editing.modal``. Here is what it needs of the line around it: earlier entries,
the search, candidates, recorded keys. One command at a time is done, and known to have failed if it could not be; that
ends the keys that are being played.
"""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.entry_actions import ENTRY_ACTIONS
from wesperon.editing.graphemes import before
from wesperon.editing.history_view import Recall
from wesperon.editing.keys.events import TYPE, Action, Key, NoEscape, typed
from wesperon.editing.keys.resolver import literal
from wesperon.editing.modal.commands import Commands
from wesperon.editing.modal.modal_text import COMMAND, VISUAL
from wesperon.editing.modal.operators import shifted_back, shifted_forward
from wesperon.editing.modal.places import SEARCHES
from wesperon.editing.modal.registers import INSERTED
from wesperon.editing.modal.text_objects import sort_of
from wesperon.editing.text_search import TextSearch
from wesperon.editing.text_state import TextState
from wesperon.widgets.line_actions import play

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.finder import Ending
    from wesperon.editing.keys.events import Event
    from wesperon.widgets.line_actions import TextLine

#: The mode in which what is looked for is typed.
SEARCH = "search"
#: Actions of other families that change nothing if they cannot be done.
RECALLS = ("recall-older", "recall-newer", "recall-oldest", "recall-newest", "search-again", "search-again-reversed")
#: The searches of the history, and whether they go back.
WAYS = {"search-back": True, "search-forward": False}
#: Those after which a completed word goes on being typed, as POSIX ``sh`` has it.
COMPLETING = ("complete", "insert-candidates", "list-candidates")
#: Keys that are pressed right after Escape, so that both arrive as one.
BURSTS = ("enter", "backspace", "tab", "space", "escape")
#: Keys that have a name but send a character.
NAMED = {"\x1b": "escape", "\r": "enter", "\n": "enter", "\t": "tab", "\x7f": "backspace", "\b": "backspace"}


class ModalLine:
    """Does the actions of the modal family in a ``line``."""

    def __init__(self, line: TextLine, start: str) -> None:
        self.line = line
        self.commands = Commands(line.editor, has_lines=line.has_lines)
        self.commands.places.sight = lambda: line.display.in_sight
        self.commands.begin()
        #: The text and the place at which an Escape has ended an insertion, if that was the last event.
        self._left: TextState | None = None
        #: Which way the history was searched last.
        self.searches_back = True
        if start == COMMAND:
            self.commands.enter_command_mode()

    @property
    def mode(self) -> str:
        """The mode in which keys are read now."""
        return SEARCH if self.line.editor.finder is not None else self.commands.mode

    @property
    def is_typed(self) -> bool:
        """Whether a character is typed as it is: in insert mode, with nothing that waits for it."""
        return self.commands.mode == "insert" == self.line.resolver.mode and self.line.editor.finder is None

    @property
    def takes_commands(self) -> bool:
        """Whether keys are commands."""
        return self.commands.mode in (COMMAND, VISUAL)

    @property
    def spans(self) -> list[tuple[int, int]]:
        """The offsets between which the text is selected; none outside visual mode."""
        if self.commands.mode != VISUAL:
            return []
        draft = self.line.draft
        return self.commands.selection.spans(draft.text, draft.cursor)

    def events(self, event: Event) -> tuple[Event, ...]:
        """Return the events that one is: Alt with a character is Escape and the character."""
        resolver, mode, of_lines = self.line.resolver, self.mode, self.line.is_of_lines
        self.commands.failed = False
        if mode != resolver.mode or of_lines != self.commands.has_lines:
            self.commands.has_lines = of_lines
            if not resolver.is_pending:
                resolver.enter_mode(mode)
        if isinstance(event, NoEscape):
            self._undo_escape()
        self._left = None
        if not isinstance(event, Key):
            return (event,)
        if event.name == "escape" and self.commands.mode == "insert":
            self._left = self.line.draft
        is_alt = event.name.startswith("alt-")
        if is_alt and len(event.name) == 5 and event.name not in resolver.table:
            return Key("escape"), typed(event.name[-1])
        if is_alt and event.name[4:] in BURSTS:  # two keys in a row are one on the line
            return Key("escape"), Key(event.name[4:])
        return (event,)

    def _undo_escape(self) -> None:
        """Go on with the insertion that an Escape has ended which was none."""
        left = self._left
        if left is not None and self.commands.mode == COMMAND and self.line.draft.text == left.text:
            self.line.editor.move(left.cursor)
            self.commands.begin()
            self.line.resolver.enter_mode(self.mode)

    def do(self, action: Action) -> bool:
        """Do an action. Return False if the line is to do it."""
        line, commands, name = self.line, self.commands, action.name
        before_it, cursor = line.draft.text, line.draft.cursor
        if name in ACTIONS:
            ACTIONS[name](self, action)
        elif not self.takes_commands or (commands.returns and name == TYPE):
            commands.failed = False
            return False
        elif (name in SEARCHES or action.motion in SEARCHES) and not action.text:
            self._open_search(action)
            return True
        elif commands.knows(action):
            commands.do(action)
        elif name in COMPLETING and not line.is_of_lines:
            self._complete(name)
        else:
            if name in WAYS:
                self.searches_back = WAYS[name]
            line.do_as_usual(action)
            commands.settle()
            has_changed = (line.draft.text, line.draft.cursor) != (before_it, cursor)
            if name in RECALLS and has_changed and not line.is_of_lines:
                line.editor.move(0)
            commands.failed = not name or (name in RECALLS and not has_changed)
        self.follow(before_it)
        return True

    def follow(self, before_it: str) -> None:
        """Tell the line what has become of its text, and the resolver of the mode."""
        line = self.line
        if self.mode != line.resolver.mode:
            line.resolver.enter_mode(self.mode)
        if line.draft.text != before_it:
            line.editor.changed()
        line.editor.moved()

    # Modes -----------------------------------------------------------------------------------------------------------

    def enter_command_mode(self, action: Action) -> None:
        """Escape."""
        if self.commands.mode == COMMAND:  # a search has ended
            self.commands.settle()
        else:
            self.commands.enter_command_mode()
        self.commands.failed = False

    def enter_command_once(self, action: Action) -> None:
        """Do one command, and go on inserting."""
        self.commands.enter_command_once()

    # Searching -------------------------------------------------------------------------------------------------------

    def _open_search(self, action: Action) -> None:
        self.line.editor.finder = TextSearch(self.line.draft, self.commands.places, action, self.line.memory.needle)
        self.line.resolver.enter_mode(SEARCH)

    def end_search(self, ending: Ending, before_it: str) -> None:
        """Do what is to be done once a search is over: the command that waited for it, if one did."""
        if ending.command is not None:
            self.commands.do(ending.command)
        elif ending.takes:
            self.commands.settle()
        elif ending.fails:
            self.commands.failed = True
        else:
            return
        self.follow(before_it)

    def search_again(self, action: Action) -> None:
        """Recall the next entry that holds what was searched for."""
        line = self.line
        past, needle, recall = line.editor.past, line.memory.needle, line.editor.recall
        back = self.searches_back == (action.name == "search-again")
        self.commands.failed = True
        for _ in range(line.action.times):
            place = recall.place if recall is not None else None
            seen = (line.text,)
            if past is None or not needle or (place is None and not back):
                return
            find = past.older if back else past.newer
            entry = find(place, needle, begins=False, seen=seen)  # type: ignore[arg-type]
            if entry is None or not entry.text:
                return
            chosen = entry
            line.editor.recall_by(lambda recall, chosen=chosen: Recall.start(recall, chosen))  # type: ignore[misc]
            line.editor.move(chosen.text.find(needle))
            recall = line.editor.recall
            self.commands.failed = False
        self.commands.settle()

    # Insert mode -----------------------------------------------------------------------------------------------------

    def erase_word_back(self, action: Action) -> None:
        """Delete back to the start of a word, within the line; nothing is kept of it."""
        text, cursor = self.line.draft.text, self.line.draft.cursor
        first, at = line_start(text, cursor), cursor
        for _ in range(self.line.action.times):
            while at > first and text[at - 1].isspace():
                at -= 1
            sort = sort_of(text, at - 1, False) if at > first else 0
            while at > first and sort_of(text, before(text, at), False) == sort:
                at = before(text, at)
        self._erase(at if at < cursor or at == 0 else cursor - 1)

    def erase_line_back(self, action: Action) -> None:
        """Delete back to the start of the line; nothing is kept of it."""
        text, cursor = self.line.draft.text, self.line.draft.cursor
        first = line_start(text, cursor)
        self._erase(first if first < cursor else max(cursor - 1, 0))

    def _erase(self, start: int) -> None:
        draft = self.line.draft
        if start < draft.cursor:
            self.line.editor.replace(TextState(draft.text[:start] + draft.text[draft.cursor :], start))

    def shift_line(self, action: Action) -> None:
        """Shift the line of the cursor, which stays with its character."""
        self._shift(shifted_forward)

    def shift_back_or_end(self, action: Action) -> None:
        """Shift the line back; an empty text ends, as everywhere."""
        if not self.line.draft.text:
            self.line.end()
        else:
            self._shift(shifted_back)

    def _shift(self, shift: Callable[[str], str]) -> None:
        text, cursor = self.line.draft.text, self.line.draft.cursor
        start, end = line_start(text, cursor), line_end(text, cursor)
        row = text[start:end]
        made = shift(row) or (shift(" ")[1:] if shift is shifted_forward else "")
        where = max(cursor + len(made) - len(row), start)
        if made != row:
            self.line.editor.replace(TextState(text[:start] + made + text[end:], where))

    def insert_register(self, action: Action) -> None:
        """Put in what a register holds."""
        self._put(self.commands.registers.text(action.text))

    def insert_again(self, action: Action) -> None:
        """Put in what was inserted last."""
        self._put(self.line.memory.registers.get(INSERTED, ""))

    def _put(self, text: str) -> None:
        if text:
            self.line.editor.put(text if self.line.is_of_lines else text.replace("\n", " ").rstrip(" "))

    # Earlier entries and candidates ----------------------------------------------------------------------------------

    def append_last_word(self, action: Action) -> None:
        """Put the last word of the entry before after the cursor, or the word of the count, and insert after it."""
        line = self.line
        place = line.editor.recall.place if line.editor.recall is not None else None
        entry = line.editor.past.older(place, "", begins=True, seen=()) if line.editor.past is not None else None
        words = entry.text.split() if entry is not None else []
        number = -1 if action.count is None else action.count - 1
        self.commands.failed = not -len(words) <= number < len(words)
        if not self.commands.failed:
            self.commands.insert_here(" " + words[number] if line.text else words[number])

    def _complete(self, name: str) -> None:
        """Complete the word at the cursor, and go on inserting after it; a list leaves everything as it is."""
        line = self.line
        text, cursor = line.draft.text, line.draft.cursor
        end = cursor
        while end < len(text) and not text[end].isspace():
            end += 1
        line.editor.move(end)
        if name == "list-candidates":
            ENTRY_ACTIONS[name](line.editor, self.line.action)
            line.editor.move(cursor)
            self.commands.settle()
            return
        self.commands.begin()
        ENTRY_ACTIONS[name](line.editor, self.line.action)
        if not (name == "complete" and line.draft.text[-1:] != " " and line.draft.text == text):
            listed = line.editor.candidates
            self.commands.mode = "insert"
            line.editor.candidates = listed
        else:
            self.commands.enter_command_mode()

    # Recorded keys ---------------------------------------------------------------------------------------------------

    def record(self, action: Action) -> None:
        """Begin to record keys into a register."""
        macros, name = self.line.memory.macros, action.text
        if name.isascii() and (name.isalnum() or name == '"'):
            macros.begin(name)
        self.commands.failed = macros.recording is None

    def record_end(self, action: Action) -> None:
        """End the recording, which may be read in its register."""
        memory, macros = self.line.memory, self.line.memory.macros
        name, keys = macros.end(self.line.resolver.length) or ("", [])
        if not name:
            return
        text = "".join(key.text or literal(key) for key in keys)
        if name.isupper():
            name = name.lower()
            keys, text = [*macros.in_registers.get(name, ("", []))[1], *keys], memory.registers.get(name, "") + text
        memory.registers[name], macros.in_registers[name] = text, (text, keys)

    def play(self, action: Action) -> None:
        """Press the keys of a register again, as often as the count says; what fails ends it."""
        macros, name = self.line.memory.macros, action.text.lower()
        name = macros.played if name == "@" else name
        text, keys = macros.in_registers.get(name, ("", []))
        now = self.commands.registers.text(name) if name else ""
        if text != now:
            keys = [key_of(char) for char in now]
        macros.played = name
        if not keys:
            self.commands.failed = True
            return
        play(self.line, keys, self.line.action.times)


def key_of(char: str) -> Key:
    """Return the key that sends a character."""
    if char in NAMED:
        return Key(NAMED[char])
    return Key("ctrl-" + chr(ord(char) ^ 0x40).lower()) if char < " " else typed(char)


#: What is done here, by the name of the action.
ACTIONS: dict[str, Callable[[ModalLine, Action], None]] = {
    "mode-command": ModalLine.enter_command_mode,
    "mode-command-once": ModalLine.enter_command_once,
    "search-again": ModalLine.search_again,
    "search-again-reversed": ModalLine.search_again,
    "erase-word-back": ModalLine.erase_word_back,
    "erase-line-back": ModalLine.erase_line_back,
    "shift-line-forward": ModalLine.shift_line,
    "shift-line-back-or-end": ModalLine.shift_back_or_end,
    "insert-register": ModalLine.insert_register,
    "insert-again": ModalLine.insert_again,
    "append-last-word": ModalLine.append_last_word,
    "record-register": ModalLine.record,
    "record-keys-end": ModalLine.record_end,
    "play-register": ModalLine.play,
}
