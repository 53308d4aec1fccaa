"""The line of a console: what its words are, and when Enter runs it."""

from __future__ import annotations

from wesperon.console.entered import COMMENT, words_of
from wesperon.console.line_guide import LineGuide, word_at
from wesperon.editing.keys.events import Action, Key
from wesperon.values import Complaint, tell
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.several_lines_view import SeveralLinesView

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.line_wrap import Marks


class ConsoleLine(SeveralLines):
    """The line of a console: Enter runs it, or adds a line if a quote is open or a backslash is at its end."""

    def __init__(self, accept: Callable[[str], Any], guide: LineGuide, **settings: Any) -> None:
        self.guide = guide
        super().__init__(accept, **settings)

    def new_display(self, syntax: Any) -> SeveralLinesView:
        """See ``Line``."""
        return GuidedView(self.guide)

    #: The foot that is on the screen.
    _drawn_foot = ""

    STARTS_AS_ONE = True
    FOOT = "Enter: run   Tab: complete   Up: earlier   Ctrl-R: search   Ctrl-D: leave"
    FOOT_IN_MODAL = "Enter: run   Tab: complete   Up: earlier   Escape /: search   Ctrl-D: leave"
    comment_sign = COMMENT

    #: What characters do that the program has bound, instead of being typed.
    characters: Mapping[str, str] = {}

    def bind(self, bindings: Bindings) -> None:
        """Take the bindings, with those of characters."""
        super().bind(bindings)
        self.characters = bindings.characters

    def handle(self, event: Event) -> None:
        """Take one event: a character that the program has bound is typed in a quote and after a backslash alone."""
        does = self.characters.get(event.text) if isinstance(event, Key) and event.text else None
        types = self.resolver.keymap.mode.types and not self.resolver.is_pending
        if does and types and self.editor.finder is None and self._is_outside_quotes():
            self.do(Action(does))
        else:
            super().handle(event)

    def _is_outside_quotes(self) -> bool:
        """Return True if a character at the cursor is not in a quote, and not after a backslash."""
        *_, mark = word_at(self.text, self.draft.cursor)
        head = self.text[: self.draft.cursor]
        return not mark and (len(head) - len(head.rstrip("\\"))) % 2 == 0

    def foot(self) -> str:
        """Return what the keys do; after an open quote, what Enter does."""
        if self.editor.finder is not None or self.takes_commands:
            return super().foot() if self.editor.finder is not None else self.usual_foot()
        try:
            words_of(self.text)
        except Complaint as complaint:
            return complaint.reason.partition(":")[0] + "   " + tell("Enter: add a line   Ctrl-C: drop it")
        return self.usual_foot()

    def drawn(self) -> None:
        """See ``Widget``."""
        super().drawn()
        self._drawn_foot = self.foot()

    def echo(self) -> str:
        """See ``Widget``: the foot may say that a quote is open."""
        return super().echo() if self.foot() == self._drawn_foot else ""

    @property
    def trail(self) -> str:
        """The rest of an entry that began so, else what is wanted next."""
        editor, draft = self.editor, self.draft
        if editor.hint or editor.finder is not None or draft.cursor < len(draft.text):
            return editor.hint
        return self.guide.wanted(draft.text)


class GuidedView(SeveralLinesView):
    """Draws a line of a console: what the ``guide`` knows of it is marked."""

    def __init__(self, guide: LineGuide) -> None:
        super().__init__()
        self.guide = guide

    def is_coloured(self, text: str) -> bool:
        """See ``LineView``: whether anything in the line is known."""
        return bool(self.guide.marks(text))

    def marks_of(self, text: str) -> Callable[[int], Marks]:
        """See ``LineView``: what is known."""
        marks, lines = self.guide.marks(text), self.lines(text)
        starts = [0]
        for line in lines:
            starts.append(starts[-1] + len(line) + 1)

        def of_line(number: int) -> Marks:
            begin, end = starts[number], starts[number + 1]
            return tuple([(at - begin, min(to, end) - begin, role) for at, to, role in marks if begin <= at < end])

        return of_line
