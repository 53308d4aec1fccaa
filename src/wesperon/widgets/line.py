"""The line: a text typed and edited in place.

A key becomes an action (``editing.keys.resolver``), and an action is a method of the line (``ACTIONS``), an edit of its
text, a function that the program or the user has bound, or one of the rarer actions, which are loaded with the first of
them. A default is in the line as if selected: Enter takes it, the first character typed replaces it, an editing key
keeps it. The fault that a complaint names is marked, the cursor at its end,
until the text changes.
"""

from __future__ import annotations

from wesperon.editing.editor import SELECTING, STATEFUL_EDITS, Editor, Memory
from wesperon.editing.edits import CHANGES, DELETIONS, MOVES, TextState, insert, whole
from wesperon.editing.graphemes import after
from wesperon.editing.keys.events import TYPE, Action, Key
from wesperon.screen.frame import Frame
from wesperon.screen.line_wrap import WrappedText, overlay
from wesperon.text.escape import is_plain
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.widget import QUESTION_ACTIONS, Answered, Ended, SizeHint, Widget, size_hint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any, ClassVar

    from wesperon.editing.history_view import Past, PutAside, Recall
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event, Mouse
    from wesperon.editing.line_index import LineIndex
    from wesperon.highlight.highlighting import Colours
    from wesperon.screen.frame import Row
    from wesperon.screen.line_wrap import Marks
    from wesperon.values.candidate import Candidate
    from wesperon.widgets.finder import Ending, Finder
    from wesperon.widgets.line_actions import InlineWalk, InsertedWord
    from wesperon.widgets.modal_line import ModalLine

    #: Gives the offset at which the text to complete begins, and what it may become.
    Complete = Callable[[str, int], tuple[int, list[Candidate]]]

#: The most rows of a text that are shown at a time.
MOST_ROWS = 8
#: Longer texts are not coloured: what was pasted in one piece has to be read in one piece.
COLOURED = 80_000


class Line(Widget):
    """Asks for a text in one line.

    ``accept`` turns the text into the value and raises Complaint if it cannot; ``default`` is the text that
    is in the line at first; ``complaint`` one that is under it from the start. ``live`` has the text checked
    while it is typed, and ``syntax`` coloured (see ``highlight.highlighting``). ``past`` holds the entries to recall
    and to search. ``complete`` gives the offset at which the text to complete begins, and its candidates. ``memory``
    is what earlier lines have left.
    """

    FOOT = "Enter: accept   Ctrl-C: stop"
    #: The same while keys are typed in the modal family; empty for the same.
    FOOT_IN_MODAL = ""
    #: Whether the text may have several lines.
    has_lines = False
    #: What a comment begins with; empty if the text has none.
    comment_sign = ""
    #: What is after a word that has been completed.
    ending = " "

    def __init__(
        self,
        accept: Callable[[str], Any],
        *,
        default: str | None = None,
        complaint: Complaint | None = None,
        live: bool = False,
        syntax: Any = None,
        past: Past | None = None,
        complete: Complete | None = None,
        memory: Memory | None = None,
    ) -> None:
        super().__init__()
        self.accept = accept
        self.default = default
        self.functions: Mapping[str, Callable[[TextState], TextState]] = {}
        if memory is not None:
            self.memory = memory
        self.editor = Editor(default or self.memory.following, self.memory)
        self.memory.following = ""
        self.selected = bool(default)
        self.live = live
        self._syntax = syntax
        self.colours: Colours | None = None
        self.past = past
        self.recall: Recall | None = None
        #: What was left of the line itself (``None``) and of entries that were changed, by place.
        self.aside: dict[int | None, PutAside] = {}
        self.finder: Finder | None = None
        #: The word of an earlier entry that was put in last, for another one in its place.
        self.inserted_word: InsertedWord | None = None
        self.hint = ""
        self.complete = complete
        self.candidates: list[Candidate] = []
        #: How they are listed: with notes in a list, in a grid, or not at all but one after the other in the line.
        self.suggest_as = ""
        #: What goes through them one by one, if they are not listed.
        self.inline_walk: InlineWalk | None = None
        self.wrapped = WrappedText(tabs=self.has_lines)
        self.act_before = ""
        #: Does the actions of the modal family, if that is the one.
        self.modal: ModalLine | None = None
        if complaint:
            self._complain(complaint)

    def bind(self, bindings: Bindings) -> None:
        """Take the bindings, with the functions that they name."""
        super().bind(bindings)
        self.functions = bindings.functions
        if bindings.family.has_commands and self.modal is None:
            from wesperon.widgets.modal_line import ModalLine

            self.modal = ModalLine(self, self.resolver.mode)
        self.suggest_as = bindings.suggestions or self.suggest_as

    @property
    def is_of_lines(self) -> bool:
        """Whether keys that tell one line from several take it for several."""
        return self.has_lines

    def known_actions(self) -> None:
        """All actions: every edit is one."""

    @property
    def syntax(self) -> Any:
        """The syntax of the text; None if it has none."""
        return self._syntax

    def paste(self, text: str) -> None:
        """Take a text that was pasted in one piece."""
        self.leave_finder()
        self.put_text(text)

    def click(self, event: Mouse) -> None:
        """Put the cursor where the mouse was pressed."""
        from wesperon.widgets.line_actions import click

        click(self, event)

    def take(self, event: Event) -> None:
        """Take one event."""
        if self.modal is None or (isinstance(event, Key) and event.text and self.modal.is_typed):
            super().take(event)
        else:
            for one in self.modal.events(event):
                super().take(one)

    @property
    def mode_label(self) -> str:
        """The mode that keys are read in, as people know it; empty if there is only one."""
        return "" if self.modal is None else tell(self.resolver.keymap.mode.label)

    def do(self, action: Action) -> None:
        """Do what a key means."""
        if self.finder is not None:
            ending = self.finder.do(action)
            if ending is None or not self._end_search(ending):
                return
        self.action = action
        if action.name == TYPE and (self.modal is None or self.modal.commands.mode == "insert"):
            self.type(action.text, 1 if action.count is None else action.count)
        elif self.modal is None or not self.modal.do(action):
            self.do_as_usual(action)
        self.act_before = action.name

    def do_as_usual(self, action: Action) -> None:
        """Do an action that every family has."""
        name = action.name
        if name == TYPE:
            self.type(action.text, 1 if action.count is None else action.count)
        elif name in self.ACTIONS:
            getattr(self, self.ACTIONS[name])()
        elif name in self.functions:
            self._call(self.functions[name])
        elif name in MOVES or name in DELETIONS or name in CHANGES or name in STATEFUL_EDITS or name in SELECTING:
            self._edit(name, action.count)
        elif name:
            from wesperon.widgets.line_actions import LINE_ACTIONS

            does = LINE_ACTIONS.get(name)
            if does is not None:
                does(self)

    def _call(self, function: Callable[[TextState], TextState]) -> None:
        """Do what a function of the program makes of the text; a fault in it is shown under the line."""
        try:
            made = function(self.draft)
            self.become(TextState(str(made.text), min(max(int(made.cursor), 0), len(made.text))))
        except Exception as error:
            reason = f"{type(error).__name__} in {self.action.name}"
            self.complaint = error if isinstance(error, Complaint) else Complaint(reason)

    @property
    def count(self) -> int:
        """How often the action is to be done; 1 if no count was given."""
        return 1 if self.action.count is None else self.action.count

    @property
    def wants_pause(self) -> bool:
        """Whether the last change may have coloured more than its line."""
        return self.colours is not None and self.colours.is_late

    def pause(self) -> None:
        """Colour the rest of the text as the last change wants it."""
        if self.colours is not None:
            self.colours.catch_up()

    def size(self, columns: int) -> SizeHint:
        """The rows of the text, and of what is listed below it."""
        rows = min(self._text_rows(columns), MOST_ROWS) + (1 if self.finder else 0)
        listed = len(self._listing(columns))
        return size_hint(1, rows, columns, rows + listed)

    def _text_rows(self, columns: int) -> int:
        """The rows that the whole text would have."""
        text = self.shown.text
        return (
            1
            if len(text) + len(self.trail) + 1 < columns and text.isascii()
            else len(self._view_text(columns, MOST_ROWS)[0])
        )

    def drawn(self) -> None:
        """See ``Widget``."""
        self.wrapped.drawn()

    def uses(self, key: str) -> bool:
        """See ``Widget``; Tab if it has something to complete, or adds blanks."""
        return super().uses(key) and (key != "tab" or self.complete is not None or self.has_lines)

    def view(self, columns: int, rows: int) -> Frame:
        """The text, the cursor in it, and what is listed below it."""
        finding = self.finder.rows(columns) if self.finder else []
        text, cursor = self._view_text(columns, max(min(rows - len(finding), self.most_rows), 1))
        at = (len(text), self.finder.column(columns)) if self.finder else cursor
        listed = self._listing(columns)[: max(rows - len(text) - len(finding), 0)]
        resolver = self._resolver
        shape = "" if resolver is None else "underline" if self.editor.overwrites else resolver.keymap.mode.shape
        return Frame((*text, *finding, *listed), at if self.has_focus else None, shape)

    @property
    def trail(self) -> str:
        """What is shown dimly after the text."""
        return self.hint

    @property
    def is_coloured(self) -> bool:
        """Whether stretches of the text have roles of their own."""
        return self._syntax is not None

    #: The most rows of the text that are shown at a time.
    most_rows = MOST_ROWS

    def _view_text(self, columns: int, room: int) -> tuple[list[Row], tuple[int, int]]:
        """The rows of the text in sight, and the cursor in them."""
        shown = self.shown
        trail = self.trail
        regions = [self.editor.region] if self.modal is None else self.modal.spans
        marked = (
            self.selected
            or trail
            or any(start < end for start, end in regions)
            or self.complaint
            or self.finder
            or self.is_coloured
            or self.editor.is_active
        )
        if not marked and len(shown.text) < columns and is_plain(shown.text):
            return self.wrapped.one_row(shown.text, shown.cursor, columns)
        lines = self.lines
        layers = [
            *((start, end, "selected") for start, end in regions),
            (*self._fault(), "fault"),
            *self._brackets(),
        ]
        if self.selected:
            layers.insert(0, (0, len(shown.text), "selected"))
        if self.finder:
            layers.append((*self.finder.match, "match"))
        at = self._line_of(shown.cursor)
        placed = [(self._line_of(start), self._line_of(end), role) for start, end, role in layers if start < end]
        last = len(lines) - 1
        if self.complaint and self._fault()[0] >= len(shown.text):  # a fault after the end is shown as one blank
            placed.append(((last, len(lines[last])), (last, len(lines[last]) + 1), "fault"))
            lines = [*lines[:last], lines[last] + " "]
        if trail:
            lines = [*lines[:last], lines[last] + trail]

        coloured = self._coloured()
        if not placed and not trail:
            return self.wrapped.view(lines, at, columns, room, coloured)

        def marks(number: int) -> Marks:
            found = coloured(number)
            if number != last and not placed:
                return found
            for (first, start), (final, end), role in placed:
                if first <= number <= final:
                    upto = end if number == final else len(lines[number])
                    found = overlay(found, start if number == first else 0, upto, role)
            if trail and number == last:
                found = overlay(found, len(lines[last]) - len(trail), len(lines[last]), "hint")
            return found

        return self.wrapped.view(lines, at, columns, room, marks)

    @property
    def lines(self) -> list[str]:
        """The lines of what is shown: here a line end is a character like others."""
        return [self.shown.text]

    def _line_of(self, at: int) -> tuple[int, int]:
        """The line of an offset in what is shown, from 0, and the offset in it."""
        return 0, at

    def _coloured(self) -> Callable[[int], Marks]:
        """What the language says about each line, by its number."""
        text = self.shown.text
        if self._syntax is None or not text or not self.theme.colours or len(text) > COLOURED:
            return lambda number: ()
        if self.colours is None:
            from wesperon.highlight.highlighting import colours_for
            from wesperon.highlight.sgr_colours import roles_of

            self.colours = colours_for(
                self._syntax, roles_of(self.theme.roles, self.theme.colours, self.theme.style), self._split()
            )
        colours = self.colours
        return lambda number: colours.marks(text, number)

    def _split(self) -> LineIndex | None:
        """What holds the lines of the text, where anything does."""
        return None

    def _brackets(self) -> list[tuple[int, int, str]]:
        """The brackets at the cursor that belong together, if the text has a language."""
        if self._syntax is None:
            return []
        from wesperon.editing.brackets import matching

        pair = matching(self.shown.text, self.shown.cursor)
        return [(at, at + 1, "match") for at in sorted(pair)] if pair else []

    def _listing(self, columns: int) -> list[Row]:
        """The rows below the text: what it may become."""
        if not self.candidates:
            return []
        from wesperon.widgets.candidate_list import candidate_rows

        return candidate_rows(self.candidates, columns, self.suggest_as, MOST_ROWS)

    def foot(self) -> str:
        """What the keys do."""
        if self.finder:
            return self.finder.foot()
        if self.takes_commands and self.is_of_lines:
            return tell(Line.FOOT)
        return self.usual_foot()

    def usual_foot(self) -> str:
        """What the keys do while a text is typed."""
        return tell(self.FOOT_IN_MODAL if self.modal is not None and self.FOOT_IN_MODAL else self.FOOT)

    @property
    def takes_commands(self) -> bool:
        """Whether keys are commands of the modal family, of which Enter accepts in several lines too."""
        return self.modal is not None and self.modal.takes_commands

    def record_text(self) -> str:
        """The text as it was accepted."""
        return self.draft.text

    def _fault(self) -> tuple[int, int]:
        """The offsets between which the text is at fault: from a letter on, all that follow it."""
        if self.complaint is None:
            return (0, 0)
        at = self.complaint.position
        if at is None:
            return (0, len(self.draft.text))
        text = self.draft.text
        end = max(after(text, at), at + 1)
        while text[at : at + 1].isalpha() and text[end : end + 1].isalpha():
            end += 1
        return (at, end)

    @property
    def draft(self) -> TextState:
        """The text and the cursor."""
        return self.editor.draft

    @property
    def text(self) -> str:
        """The text as it is."""
        return self.draft.text

    @property
    def shown(self) -> TextState:
        """What is shown of it."""
        return self.finder.shown if self.finder else self.draft

    def type(self, text: str, times: int = 1) -> None:
        """Put in a text that a key types."""
        self._replace_selected()
        self.editor.type(text, max(times, 0))
        self.changed()

    def put_text(self, text: str) -> None:
        """Put a text at the cursor, in the place of what is selected."""
        self._replace_selected()
        self.editor.put(text)
        self.changed()

    def _replace_selected(self) -> None:
        if self.selected:
            self.editor.replace(TextState())

    def _edit(self, name: str, count: int | None = None) -> None:
        if self.hint and name in ("move-char-forward", "move-word-forward"):
            self._take_hint(name)
            return
        before = self.draft
        self.editor.apply(name, count)
        self.selected = False
        if self.draft.text != before.text:
            self.changed()
        elif self.draft.cursor != before.cursor:
            self.hint = ""

    def _take_hint(self, name: str) -> None:
        """Make the rest that is hinted at part of the text, or one word of it."""
        draft = insert(self.draft, self.hint)
        if name == "move-word-forward":
            end = MOVES[name](draft.text, self.draft.cursor)
            draft = whole(draft.text[:end])
        self.become(draft)

    def become(self, draft: TextState) -> None:
        """Take another text, of which nothing is known yet."""
        self.editor.replace(draft)
        self.changed()

    def walk(self, step: Callable[[Recall], bool]) -> bool:
        """Go to another entry, or back to the line itself; each keeps what was changed in it. Whether there is one."""
        if self.past is None:
            return False
        if self.recall is None:
            from wesperon.editing.history_view import Recall

            self.recall = Recall(self.past)
        left = self.recall.entry
        if not step(self.recall):
            return False
        if left is None or self.text != left.text or self.editor.undo_steps:
            self.aside[None if left is None else left.place] = self.editor.put_aside()
        entry = self.recall.entry
        kept = self.aside.get(None if entry is None else entry.place)
        self.editor.take_up(kept or self.recall.untouched())
        self.changed()
        self.hint = ""
        return True

    def changed(self) -> None:
        """Forget what was said about the text before, and say what may be said while it is typed."""
        self.selected = False
        self.complaint = None
        self.candidates, self.inline_walk = [], None
        text, self.hint = self.draft.text, ""
        if self.past is not None and text and self.draft.cursor == len(text) and "\n" not in text:
            self.hint = self.past.hint(text)[len(text) :].partition("\n")[0]
        if self.live and text:
            try:
                self.accept(text)
            except Complaint as complaint:
                self.complaint = complaint

    def _complain(self, complaint: Complaint) -> None:
        """Show what is wrong, with the cursor at the end of what is at fault."""
        self.complaint = complaint
        self.candidates = []
        self.selected = False
        self.hint = ""
        self.editor.move(min(self._fault()[1], len(self.draft.text)))

    def lines_in_sight(self) -> tuple[int, int]:
        """The first and the last line that are shown, from 0."""
        return self.wrapped.in_sight if self.has_lines else (0, 0)

    def offset(self, line: int, offset: int) -> int:
        """The place in the text of an offset in one of the lines that are shown."""
        return offset

    def moved(self) -> None:
        """Know that the cursor has moved, and the text stays."""
        self.selected, self.hint = False, ""

    def leave_finder(self) -> None:
        """Have what a search has found in the line, if one is open."""
        if self.finder is not None:
            from wesperon.widgets.finder import Ending

            self._end_search(Ending(takes=True, passes_on=True))

    def _end_search(self, ending: Ending) -> bool:
        """Close a search. Return True if the action that ended it is still to be done."""
        from wesperon.widgets.line_actions import end_search

        return end_search(self, ending)

    def returned(self, text: str | Complaint) -> None:
        """Take what became of the text outside, or why nothing did."""
        if isinstance(text, Complaint):
            self._complain(text)
        elif text != self.draft.text:
            self.become(whole(text))

    def enter(self) -> None:
        """Accept the text, or say what is wrong with it."""
        try:
            value = self.accept(self.draft.text)
        except Complaint as complaint:
            if not self.draft.text and self.default:
                self.become(whole(self.default))
                self._complain(Complaint(tell("{reason}; Enter accepts this one", reason=complaint.reason)))
                self.selected = True
            else:
                self._complain(complaint)
        else:
            self.outcome = Answered(value)

    def end(self) -> None:
        """End of input on an empty line; else delete the character at the cursor."""
        if self.draft.text:
            self._edit("delete-char-forward", self.action.count)
        else:
            self.outcome = Ended()

    def give_up(self) -> None:
        """Leave what is under way: a region, a list of candidates, a complaint."""
        self.editor.drop_region()
        self.candidates = []
        self.complaint = None

    @property
    def draft_text(self) -> str:
        """What was typed and not accepted yet."""
        return self.draft.text if self.is_draft or self.draft.text != self.default else ""

    def keep_draft(self) -> None:
        """Learn that what is in the line was typed: it is not selected."""
        self.selected = False
        self.is_draft = True

    #: Whether what was in it at first was typed, in an earlier run or before it was left.
    is_draft = False

    LAYERS: ClassVar[tuple[str, ...]] = ("one-line",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **QUESTION_ACTIONS,
        "accept": "enter",
        "accept-if-whole": "enter",
        "accept-unless-whole": "enter",
        "cancel": "give_up",
    }
