"""The line: a text typed and edited in place.

A key becomes an action (``editing.keys.resolver``), and an action is a method of the line (``ACTIONS``), one of what is
edited (``editing.entry_editor``), a function that the program or the user has bound, or one of the rarer actions, which
are loaded with the first of them. What is shown is made in ``line_view``. The fault that a complaint names is marked,
the cursor at its end, until the text changes.
"""

from __future__ import annotations

from wesperon.editing.entry_editor import EntryEditor
from wesperon.editing.graphemes import after
from wesperon.editing.keys.events import TYPE, Action, Key
from wesperon.editing.text_state import TextState, whole
from wesperon.screen.frame import Frame
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.line_view import MOST_ROWS, LineView
from wesperon.widgets.widget import QUESTION_ACTIONS, Answered, Ended, SizeHint, Widget, size_hint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any, ClassVar

    from wesperon.editing.editor import Memory
    from wesperon.editing.entry_editor import Complete
    from wesperon.editing.finder import Ending
    from wesperon.editing.history_view import Past
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event, Mouse
    from wesperon.editing.keys.family import Keymap
    from wesperon.screen.frame import Row
    from wesperon.screen.line_wrap import Mark
    from wesperon.screen.theme import Theme
    from wesperon.widgets.modal_line import ModalLine
    from wesperon.widgets.widget import Effect


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
        self.live = live
        self.functions: Mapping[str, Callable[[TextState], TextState]] = {}
        if memory is not None:
            self.memory = memory
        self.editor = EntryEditor(default or "", self.memory, past=past, complete=complete)
        self.editor.on_change = self.changed
        self.display = self.new_display(syntax)
        #: What keys did when it was drawn last, if nothing was there but the text, and a cursor of the usual shape.
        self._bare: Keymap | None = None
        #: Does the actions of the modal family, if that is the one.
        self.modal: ModalLine | None = None
        if complaint:
            self._complain(complaint)

    def new_display(self, syntax: Any) -> LineView:
        """Return what draws the text."""
        return LineView(syntax)

    def bind(self, bindings: Bindings) -> None:
        """Take the bindings, with the functions that they name."""
        super().bind(bindings)
        self.functions = bindings.functions
        if bindings.family.has_commands and self.modal is None:
            from wesperon.widgets.modal_line import ModalLine

            self.modal = ModalLine(self, self.resolver.mode)
            self.editor.has_modes = True
        self.editor.suggest_as = bindings.suggestions or self.editor.suggest_as

    @property
    def is_of_lines(self) -> bool:
        """Whether keys that tell one line from several take it for several."""
        return self.has_lines

    def known_actions(self) -> None:
        """Return None, for all actions: every edit is one."""

    # Events ----------------------------------------------------------------------------------------------------------

    def handle(self, event: Event) -> None:
        """Take one event."""
        if self.modal is None or (isinstance(event, Key) and event.text and self.modal.is_typed):
            super().handle(event)
        else:
            for one in self.modal.events(event):
                super().handle(one)

    def do(self, action: Action) -> None:
        """Do what a key means."""
        if self.editor.finder is not None:
            ending = self.editor.finder.do(action)
            if ending is None or not self._end_search(ending):
                return
        self.action = action
        if action.name == TYPE and (self.modal is None or self.modal.commands.mode == "insert"):
            self.type(action.text) if action.count is None else self.type(action.text, action.times)
        elif self.modal is None or not self.modal.do(action):
            self.do_as_usual(action)
        self.editor.action_before = action.name

    def do_as_usual(self, action: Action) -> None:
        """Do an action that every family has."""
        name = action.name
        if name == TYPE:
            self.type(action.text, action.times)
        elif name in self.ACTIONS:
            getattr(self, self.ACTIONS[name])()
        elif name in self.functions:
            self._call(self.functions[name])
        elif name and not self.editor.do(action):
            self._do_rarely(action)

    def _do_rarely(self, action: Action) -> None:
        """Do an action that few keys are for, which is loaded with the first of them."""
        from wesperon.editing import entry_actions
        from wesperon.widgets.line_actions import LINE_ACTIONS

        if action.name in LINE_ACTIONS:
            LINE_ACTIONS[action.name](self)
        elif entry_actions.do(self.editor, action) and self.editor.finder is not None:  # a search has been opened
            self.complaint = None

    def _call(self, function: Callable[[TextState], TextState]) -> None:
        """Do what a function of the program makes of the text; a fault in it is shown under the line."""
        try:
            made = function(self.draft)
            self.editor.become(TextState(str(made.text), min(max(int(made.cursor), 0), len(made.text))))
        except Exception as error:
            reason = f"{type(error).__name__} in {self.action.name}"
            self.complaint = error if isinstance(error, Complaint) else Complaint(reason)

    def type(self, text: str, times: int = 1) -> None:
        """Put in a text that a key types."""
        self.editor.type(text, max(times, 0))

    def paste(self, text: str) -> None:
        """Take a text that was pasted in one piece."""
        self.leave_finder()
        self.editor.put(text)

    def click(self, event: Mouse) -> None:
        """Put the cursor where the mouse was pressed."""
        from wesperon.widgets.line_actions import click

        click(self, event)

    def leave_finder(self) -> None:
        """Close a search that is open, with what it has found in the line."""
        if self.editor.finder is not None:
            from wesperon.editing.finder import Ending

            self._end_search(Ending(takes=True, passes_on=True))

    def _end_search(self, ending: Ending) -> bool:
        """Close a search. Return True if the action that ended it is still to be done."""
        from wesperon.editing.entry_actions import end_search

        before = self.text
        end_search(self.editor, ending)
        if self.modal is not None and not ending.passes_on:
            self.modal.end_search(ending, before)
        return ending.passes_on

    # The text --------------------------------------------------------------------------------------------------------

    @property
    def draft(self) -> TextState:
        """The text and the cursor."""
        return self.editor.draft

    @property
    def text(self) -> str:
        """The text as it is."""
        return self.editor.draft.text

    @property
    def syntax(self) -> Any:
        """The syntax of the text; None if it has none."""
        return self.display.syntax

    def changed(self) -> None:
        """Forget what was said about the text before, and say what may be said while it is typed."""
        self.complaint = None
        if self.live and self.text:
            try:
                self.accept(self.text)
            except Complaint as complaint:
                self.complaint = complaint

    def _complain(self, complaint: Complaint) -> None:
        """Show what is wrong, with the cursor at the end of what is at fault."""
        self.complaint = complaint
        self.editor.candidates = []
        self.editor.moved()
        self.editor.move(min(self.fault()[1], len(self.text)))

    def fault(self) -> tuple[int, int]:
        """Return the offsets between which the text is at fault: from a letter on, all that follow it."""
        if self.complaint is None:
            return (0, 0)
        at, text = self.complaint.position, self.text
        if at is None:
            return (0, len(text))
        end = max(after(text, at), at + 1)
        while text[at : at + 1].isalpha() and text[end : end + 1].isalpha():
            end += 1
        return (at, end)

    #: Writes entries to a file of commands by its name; None if there are no such files.
    write_entries: Callable[[str, list[str]], object] | None = None

    def about(self, effect: Effect) -> Any:
        """See ``Widget``."""
        return self.editor.past, self.write_entries

    def returned(self, text: str | Complaint) -> None:
        """Take what became of the text outside, or why nothing did."""
        if isinstance(text, Complaint):
            self._complain(text)
        elif text != self.text:
            self.editor.become(whole(text))

    def enter(self) -> None:
        """Accept the text, or say what is wrong with it."""
        try:
            value = self.accept(self.text)
        except Complaint as complaint:
            if not self.text and self.default:
                self.editor.become(whole(self.default))
                self._complain(Complaint(tell("{reason}; Enter accepts this one", reason=complaint.reason)))
                self.editor.selected = True
            else:
                self._complain(complaint)
        else:
            self.outcome = Answered(value)

    def end(self) -> None:
        """End of input on an empty line; else delete the character at the cursor."""
        if self.text:
            self.editor.apply("delete-char-forward", self.action.count)
        else:
            self.outcome = Ended()

    def give_up(self) -> None:
        """Leave what is under way: a region, a list of candidates, a complaint."""
        self.editor.give_up()
        self.complaint = None

    #: Whether what was in it at first was typed, in an earlier run or before it was left.
    is_draft = False

    @property
    def draft_text(self) -> str:
        """What was typed and not accepted yet."""
        return self.text if self.is_draft or self.text != self.default else ""

    def keep_draft(self) -> None:
        """Learn that what is in the line was typed: it is not selected."""
        self.editor.selected = False
        self.is_draft = True

    # View ------------------------------------------------------------------------------------------------------------

    @property
    def shown(self) -> TextState:
        """What is shown of the text."""
        return self.editor.shown

    @property
    def trail(self) -> str:
        """What is shown dimly after the text."""
        return self.editor.hint

    def spans(self) -> list[Mark]:
        """Return what is marked in the text, each over the one before it."""
        editor, shown = self.editor, self.shown
        spans = [(0, len(shown.text), "selected")] if editor.selected else []
        spans += [(start, end, "selected") for start, end in self._selections() if start < end]
        if self.complaint is not None:
            spans.append((*self.fault(), "fault"))
        if self.display.syntax is not None:
            spans += self.display.brackets(shown)
        if editor.finder is not None:
            spans.append((*editor.finder.match, "match"))
        return spans

    def _selections(self) -> Sequence[tuple[int, int]]:
        """Return from where to where the text is selected; nothing between the two if it is not."""
        return [self.editor.region] if self.modal is None else self.modal.spans

    def view(self, columns: int, rows: int) -> Frame:
        """Return the text, the cursor in it, and what is listed below it."""
        finder = self.editor.finder
        room = max(min(rows - (finder is not None), self.display.most_rows), 1)
        shown, cursor = self.display.rows(self.shown, self.spans(), self.trail, columns, room)
        if finder is not None:
            from wesperon.widgets.finder_row import finder_row

            row, column = finder_row(finder, columns)
            shown, cursor = [*shown, row], (len(shown), column)
        listed = self.listing(columns)[: max(rows - len(shown), 0)]
        resolver = self._resolver
        shape = "" if resolver is None else "underline" if self.editor.overwrites else resolver.keymap.mode.shape
        return Frame((*shown, *listed), cursor if self.has_focus else None, shape)

    def echo(self) -> str:
        """See ``Widget``."""
        resolver = self._resolver
        if self._bare is None or resolver is None or resolver.keymap is not self._bare:
            return ""
        if self.editor.selected or self.editor.finder is not None or self.complaint is not None:
            return ""
        if self.trail or self.listing(self.display.columns):
            return ""
        for start, end in self._selections():
            if start < end:
                return ""
        return self.display.added(self.shown)

    def listing(self, columns: int) -> list[Row]:
        """Return the rows below the text: what it may become."""
        if not self.editor.candidates:
            return []
        from wesperon.widgets.candidate_list import candidate_rows

        return candidate_rows(self.editor.candidates, columns, self.editor.suggest_as, MOST_ROWS)

    def size(self, columns: int) -> SizeHint:
        """Return the rows of the text, and of what is listed below it."""
        rows = min(self.row_count(columns), MOST_ROWS) + (self.editor.finder is not None)
        return size_hint(1, rows, columns, rows + len(self.listing(columns)))

    def row_count(self, columns: int) -> int:
        """Return the rows that the whole text would have."""
        shown, trail = self.shown, self.trail
        if len(shown.text) + len(trail) + 1 < columns and shown.text.isascii() and "\n" not in shown.text:
            return 1
        return self.display.count(shown, self.spans, trail, columns)

    def drawn(self) -> None:
        """See ``Widget``."""
        self.display.drawn()
        resolver, self._bare = self._resolver, None
        if self.display.is_bare and resolver is not None and not resolver.is_pending:
            self._bare = None if self.listing(self.display.columns) else resolver.keymap

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        self.theme = theme
        self.display.set_theme(theme)

    @property
    def wants_pause(self) -> bool:
        """Whether the last change may have coloured more than its line."""
        return self.display.is_late

    def pause(self) -> None:
        """Colour the rest of the text as the last change wants it."""
        self.display.catch_up()

    def uses(self, key: str) -> bool:
        """See ``Widget``; Tab if it has something to complete, or adds blanks."""
        return super().uses(key) and (key != "tab" or self.editor.complete is not None or self.has_lines)

    @property
    def mode_label(self) -> str:
        """The mode that keys are read in, as people know it; empty if there is only one."""
        return "" if self.modal is None else tell(self.resolver.keymap.mode.label)

    @property
    def takes_commands(self) -> bool:
        """Whether keys are commands of the modal family, of which Enter accepts in several lines too."""
        return self.modal is not None and self.modal.takes_commands

    def foot(self) -> str:
        """Return what the keys do."""
        if self.editor.finder is not None:
            return self.editor.finder.foot()
        if self.takes_commands and self.is_of_lines:
            return tell(Line.FOOT)
        return self.usual_foot()

    def usual_foot(self) -> str:
        """Return what the keys do while a text is typed."""
        return tell(self.FOOT_IN_MODAL if self.modal is not None and self.FOOT_IN_MODAL else self.FOOT)

    def record_text(self) -> str:
        """Return the text as it was accepted."""
        return self.text

    LAYERS: ClassVar[tuple[str, ...]] = ("one-line",)
    ACTIONS: ClassVar[dict[str, str]] = {
        **QUESTION_ACTIONS,
        "accept": "enter",
        "accept-if-whole": "enter",
        "accept-unless-whole": "enter",
        "cancel": "give_up",
    }
