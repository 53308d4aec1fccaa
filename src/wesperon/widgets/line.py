"""The line: a text typed and edited in place.

A key becomes an act (``editing.chords``), and an act is a method of the line (``ACTS``), an edit of its text, a
function that the program or the user has bound, or one of the rarer acts, which are loaded with the first of them. A
default stands in the line as if selected: Enter takes it, the first character typed replaces it, an editing key keeps
it. A complaint about the text stays under it, the cursor at the fault, until the text changes.
"""

from __future__ import annotations

from wesperon.editing.editor import OWN, SELECTING, Editor, Memory
from wesperon.editing.edits import CHANGES, DELETIONS, MOVES, TextState, insert, whole
from wesperon.editing.graphemes import after
from wesperon.editing.keys.events import Closed, Key, Mouse, Paste
from wesperon.editing.keys.modeless import MODELESS
from wesperon.editing.keys.resolver import TYPE, Action, KeyResolver
from wesperon.ground import Complaint
from wesperon.screen.frame import Frame, row_text
from wesperon.screen.layout import field, field_area, labelled
from wesperon.screen.line_wrap import Sheet, overlay
from wesperon.screen.width import width
from wesperon.text.messages import tell
from wesperon.widgets.footer import foot_row, in_columns, wrap_limited
from wesperon.widgets.widget import Answered, Ended, QuestionBase

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any, ClassVar

    from wesperon.editing.history_view import Past, Recall
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.editing.line_index import LineIndex
    from wesperon.highlight.highlighting import Colours
    from wesperon.screen.frame import Row
    from wesperon.screen.layout import FieldArea
    from wesperon.screen.line_wrap import Marks
    from wesperon.widgets.incremental_search import IncrementalSearch
    from wesperon.widgets.widget import Outcome, Prompt

#: The most rows of a text that are shown at a time.
MOST_ROWS = 8
#: Longer texts are not coloured: what was pasted in one piece has to be read in one piece.
COLOURED = 80_000


class Line(QuestionBase):
    """Asks for a text in one line.

    ``accept`` turns the text into the value and raises Complaint where it cannot; ``default`` is the text that
    stands in the line at first; ``complaint`` one that stands under it from the start. ``live`` has the text checked
    while it is typed, and ``syntax`` coloured (see ``editing.colours``). ``past`` holds the entries to recall and to
    search. ``complete`` gives the offset at which the text to complete begins, and its candidates. ``memory`` is what
    earlier lines have left.
    """

    FOOT = "Enter: accept   Ctrl-C: stop"
    #: Whether the text may have several lines.
    has_lines = False
    #: What stands behind a word that has been completed.
    ending = " "

    def __init__(
        self,
        prompt: Prompt,
        accept: Callable[[str], Any],
        *,
        default: str | None = None,
        complaint: Complaint | None = None,
        live: bool = False,
        syntax: Any = None,
        past: Past | None = None,
        complete: Callable[[str, int], tuple[int, list[str]]] | None = None,
        memory: Memory | None = None,
    ) -> None:
        self.prompt = prompt
        self.accept = accept
        self.default = default
        self.memory = Memory() if memory is None else memory
        self.editor = Editor(default or self.memory.following, self.memory)
        self.memory.following = ""
        self.chords = KeyResolver(self._keymap({}), self.memory)
        self.functions: Mapping[str, Callable[[TextState], TextState]] = {}
        self.selected = bool(default)
        self.live = live
        self.syntax = syntax
        self.colours: Colours | None = None
        self.dressing: tuple[dict[str, str], int, str] = ({}, 0, "")
        self.complaint: Complaint | None = None
        self.outcome: Outcome | None = None
        self.past = past
        self.recall: Recall | None = None
        self.finder: IncrementalSearch | None = None
        self.hint = ""
        self.complete = complete
        self.candidates: list[str] = []
        self.sheet = Sheet(tabs=self.has_lines)
        self.corner = (0, 0)
        #: What the driver is to do for the line: ``edit-outside`` or ``clear-screen``.
        self.wish = ""
        self.act = Action("")
        self.act_before = ""
        if complaint:
            self._complain(complaint)

    def bind(self, bindings: Bindings) -> None:
        """Take the user's own bindings, on top of those of the family."""
        self.chords = KeyResolver(self._keymap(bindings.keys), self.memory)
        self.functions = bindings.functions

    def set_theme(self, look: dict[str, str], colours: int, style: str) -> None:
        """Learn how languages are to be shown: the look, to which a style adds its roles, and how many colours."""
        self.dressing = (look, colours, style)

    def _keymap(self, own: Mapping[str, str]) -> dict[str, str]:
        return {**MODELESS, **own, **self.KEYS} if own or self.KEYS else MODELESS

    def press(self, event: Event) -> None:
        """Take one event."""
        if isinstance(event, Key):
            act = self.chords.press(event)
            if act is not None:
                self.do(act)
        elif isinstance(event, Paste):
            self.leave_finder()
            self._put(event.text)
        elif isinstance(event, Mouse):
            from wesperon.widgets.line_actions import click

            click(self, event)
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def do(self, act: Action) -> None:
        """Do what a key stands for."""
        if self.finder is not None and self.finder.do(act):
            return
        self.act = act
        name = act.name
        if name == TYPE:
            self.type(act.text, 1 if act.count is None else act.count)
        elif name in self.ACTS:
            getattr(self, self.ACTS[name])()
        elif name in self.functions:
            self.become(self.functions[name](self.draft))
        elif name in MOVES or name in DELETIONS or name in CHANGES or name in OWN or name in SELECTING:
            self._edit(name, act.count)
        elif name:
            from wesperon.widgets.line_actions import LINE_ACTIONS

            LINE_ACTIONS[name](self)
        self.act_before = name

    def view(self, columns: int, rows: int) -> Frame:
        """The label, the text, what is wrong with it, and what the keys do."""
        if self.outcome is not None:
            return self._record(columns)
        where = field_area(self.prompt.gutter, columns)
        parts = self.prompt.question.split("\n") if self.prompt.question else []
        above: list[Row] = [((row, "question"),) for part in parts for row in wrap_limited(part, where.width) or [""]]
        named = bool(where.stacked and rows > 1)  # whether the label has a row of its own
        finding = self.finder.rows(where, columns) if self.finder else []
        room = self._room(rows - named - len(finding))
        text, cursor = self._text(where, room)
        if rows < named + len(above) + len(text) + len(finding):
            above = []
        if self.prompt.note and not where.stacked:
            text = [self._noted(text[0], where.width), *text[1:]]
        body = labelled(self.prompt.label, self.prompt.gutter, [*above, *text], columns)
        if where.stacked and not named:
            del body[0]
        self.corner = (named + len(above), where.left)
        at = (named + len(above) + cursor[0], where.left + cursor[1])
        if self.finder:
            at = (len(body), self.finder.column(where))
        below = [*finding, *(((" " * where.left, ""), *row) for row in self._below(where.width)), self._foot(columns)]
        del below[max(rows - len(body), 0) :]
        return Frame((*body, *below), (min(at[0], rows - 1), at[1]), "underline" if self.editor.overwrites else "")

    def _room(self, rows: int) -> int:
        """The most rows that the text may have."""
        return max(min(rows, MOST_ROWS), 1)

    def _text(self, where: FieldArea, room: int) -> tuple[list[Row], tuple[int, int]]:
        """The rows of the text in sight, and the cursor in them."""
        lines, shown = self.lines, self.shown
        layers = [(*self.editor.region, "selected"), (*self._fault(), "fault"), *self._brackets()]
        if self.selected:
            layers.insert(0, (0, len(shown.text), "selected"))
        if self.finder:
            layers.append((*self.finder.match, "match"))
        at = self._line_of(shown.cursor)
        placed = [(self._line_of(start), self._line_of(end), role) for start, end, role in layers if start < end]
        last = len(lines) - 1
        if self.complaint and self._fault()[0] >= len(shown.text):  # a fault behind the end is shown as one blank
            placed.append(((last, len(lines[last])), (last, len(lines[last]) + 1), "fault"))
            lines = [*lines[:last], lines[last] + " "]
        if self.hint:
            lines = [*lines[:last], lines[last] + self.hint]

        def marks(number: int) -> Marks:
            found = self._colours(number)
            for (first, start), (final, end), role in placed:
                if first <= number <= final:
                    upto = end if number == final else len(lines[number])
                    found = overlay(found, start if number == first else 0, upto, role)
            if self.hint and number == last:
                found = overlay(found, len(lines[last]) - len(self.hint), len(lines[last]), "hint")
            return found

        return self.sheet.view(lines, at, where.width, room, marks)

    @property
    def lines(self) -> list[str]:
        """The lines of what is shown: here a line end is a character like others."""
        return [self.shown.text]

    def _line_of(self, at: int) -> tuple[int, int]:
        """The line of an offset in what is shown, from 0, and the offset in it."""
        return 0, at

    def _colours(self, number: int) -> Marks:
        """What the language says about a line."""
        text = self.shown.text
        if self.syntax is None or not text or not self.dressing[1] or len(text) > COLOURED:
            return ()
        if self.colours is None:
            from wesperon.highlight.highlighting import colours_for
            from wesperon.highlight.sgr_colours import roles_of

            self.colours = colours_for(self.syntax, roles_of(*self.dressing), self._split())
        return self.colours.marks(text, number)

    def _split(self) -> LineIndex | None:
        """What holds the lines of the text, where anything does."""
        return None

    def _brackets(self) -> list[tuple[int, int, str]]:
        """The brackets at the cursor that belong together, where the text has a language."""
        if self.syntax is None:
            return []
        from wesperon.editing.brackets import matching

        pair = matching(self.shown.text, self.shown.cursor)
        return [(at, at + 1, "match") for at in sorted(pair)] if pair else []

    def _noted(self, row: Row, columns: int) -> Row:
        """The first row with the note at the right edge, where there is room for it."""
        note = self.prompt.note
        gap = columns - width(row_text(row)) - width(note)
        return (*row, (" " * gap, ""), (note, "note")) if gap > 1 else row

    def _below(self, columns: int) -> list[Row]:
        """The rows under the text: what is wrong with it, or what it may become."""
        reasons = wrap_limited(self.complaint.reason, columns) if self.complaint else []
        candidates = in_columns(self.candidates, columns) if self.candidates else []
        if len(candidates) > MOST_ROWS:
            candidates[MOST_ROWS - 1 :] = [tell("and more: type on")]
        return [*[((row, "reason"),) for row in reasons], *[((row, "note"),) for row in candidates]]

    def _foot(self, columns: int) -> Row:
        """What the keys do, and what is wanted; or the keys that wait for another."""
        if self.chords.shown:
            return foot_row(self.chords.shown, columns)
        if self.finder:
            return foot_row(tell(self.finder.FOOT), columns)
        return foot_row(self._foot_text(), columns, self.prompt.hint, self.prompt.keys)

    def _foot_text(self) -> str:
        return tell(self.FOOT)

    def _record(self, columns: int) -> Frame:
        text = self.draft.text
        unit = f" {self.prompt.unit}" if self.prompt.unit and text else ""
        return Frame(tuple(field(self.prompt.label, text + unit, self.prompt.gutter, columns)))

    def _fault(self) -> tuple[int, int]:
        """The offsets between which the text is at fault."""
        if self.complaint is None:
            return (0, 0)
        at = self.complaint.position
        if at is None:
            return (0, len(self.draft.text))
        return (at, max(after(self.draft.text, at), at + 1))

    @property
    def draft(self) -> TextState:
        """The text and the cursor."""
        return self.editor.draft

    @property
    def text(self) -> str:
        """The text as it stands."""
        return self.draft.text

    @property
    def shown(self) -> TextState:
        """What is shown of it."""
        return self.finder.shown if self.finder else self.draft

    def type(self, text: str, times: int = 1) -> None:
        """Put in a text that a key types."""
        self._replace_selected()
        self.editor.type(text, max(times, 0))
        self._changed()

    def _put(self, text: str) -> None:
        self._replace_selected()
        self.editor.put(text)
        self._changed()

    def _replace_selected(self) -> None:
        if self.selected:
            self.editor.replace(TextState())

    def _edit(self, name: str, count: int | None = None) -> None:
        if self.hint and name in ("move-char-forward", "move-line-end", "move-word-forward", "move-text-end"):
            self._take_hint(name)
            return
        before = self.draft
        self.editor.apply(name, count)
        self.selected = False
        if self.draft.text != before.text:
            self._changed()
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
        self._changed()

    def _changed(self) -> None:
        """Forget what was said about the text before, and say what may be said while it is typed."""
        self.selected = False
        self.complaint = None
        self.candidates = []
        self.recall = None
        text, self.hint = self.draft.text, ""
        if self.past is not None and text and self.draft.cursor == len(text) and "\n" not in text:
            self.hint = self.past.hint(text)[len(text) :].partition("\n")[0]
        if self.live and text:
            try:
                self.accept(text)
            except Complaint as complaint:
                self.complaint = complaint

    def _complain(self, complaint: Complaint) -> None:
        """Show what is wrong, with the cursor at the fault."""
        self.complaint = complaint
        self.candidates = []
        self.selected = False
        self.hint = ""
        if complaint.position is not None:
            self.editor.move(min(complaint.position, len(self.draft.text)))

    def offset(self, line: int, offset: int) -> int:
        """The place in the text of an offset in one of the lines that are shown."""
        return offset

    def moved(self) -> None:
        """Know that the cursor has moved, and the text stays."""
        self.selected, self.hint = False, ""

    def leave_finder(self) -> None:
        """Have what a search has found in the line, if one is open."""
        if self.finder is not None:
            self.finder.take()

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
                self._complain(Complaint(tell("{reason}; Enter takes this one", reason=complaint.reason)))
                self.selected = True
            else:
                self._complain(complaint)
        else:
            self.outcome = Answered(value)

    def end(self) -> None:
        """End of input on an empty line; else delete the character at the cursor."""
        if self.draft.text:
            self._edit("delete-char-forward", self.act.count)
        else:
            self.outcome = Ended()

    def give_up(self) -> None:
        """Leave what is under way: a region, a list of candidates, a complaint."""
        self.editor.drop_region()
        self.candidates = []
        self.complaint = None

    #: The keys that have another act here than in their family.
    KEYS: ClassVar[dict[str, str]] = {}

    #: The name of an act to the name of the method that does it, so that a kind of line of its own may do another.
    ACTS: ClassVar[dict[str, str]] = {
        "accept": "enter",
        "accept-if-whole": "enter",
        "accept-unless-whole": "enter",
        "interrupt": "interrupt",
        "delete-char-forward-or-end": "end",
        "cancel": "give_up",
        "go-back": "back",
        "show-help": "help",
    }
