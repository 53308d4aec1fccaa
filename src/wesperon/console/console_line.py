"""The line of a console: what its words are, and when Enter runs it."""

from __future__ import annotations

from wesperon.values import Complaint, tell
from wesperon.values.words import open_quote, split_words
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.several_lines_view import SeveralLinesView

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.console.line_guide import LineGuide
    from wesperon.screen.line_wrap import Marks


class ConsoleLine(SeveralLines):
    """The line of a console: Enter runs it, or adds a line if a quote is open or a backslash is at its end."""

    def __init__(self, accept: Callable[[str], Any], guide: LineGuide, **settings: Any) -> None:
        self.guide = guide
        super().__init__(accept, **settings)

    def new_display(self, syntax: Any) -> SeveralLinesView:
        """See ``Line``."""
        return GuidedView(self.guide)

    STARTS_AS_ONE = True
    FOOT = "Enter: run   Tab: complete   Up: earlier   Ctrl-R: search   Ctrl-D: leave"
    FOOT_IN_MODAL = "Enter: run   Tab: complete   Up: earlier   Escape /: search   Ctrl-D: leave"
    comment_sign = "#"

    def foot(self) -> str:
        """Return what the keys do; after an open quote, what Enter does."""
        if self.editor.finder is not None or self.takes_commands:
            return super().foot() if self.editor.finder is not None else self.usual_foot()
        try:
            words_of(self.text)
        except Complaint as complaint:
            return complaint.reason.partition(":")[0] + "   " + tell("Enter: add a line   Ctrl-C: drop it")
        return self.usual_foot()

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


def is_comment(text: str) -> bool:
    """Return True if a line does nothing."""
    return text.lstrip().startswith(ConsoleLine.comment_sign)


def words_of(text: str) -> list[str]:
    """Return the words of a line, none of a comment; raises Complaint if a quote is not closed."""
    if is_comment(text):
        return []
    return [word for word, _ in split_words(text)]


def goes_on(row: str) -> bool:
    """Return True if a row outside of quotes ends in a backslash, which joins the next one to it."""
    return (len(row) - len(row.rstrip("\\"))) % 2 == 1


def is_whole(text: str) -> bool:
    """Return True if every quote in a line is closed, and no backslash joins another line to it."""
    try:
        words_of(text)
    except Complaint:
        return False
    return is_comment(text) or not goes_on(text)


class Joiner:
    """Puts rows that come one after the other together to lines: an open quote or a backslash goes on with the next.

    It takes time for each row as it comes, however many there are in a line.
    """

    def __init__(self) -> None:
        self.parts: list[str] = []
        self.mark = ""

    def push(self, row: str) -> str | None:
        """Take a row, without its end; the line that it ends, if it does."""
        if not self.parts and is_comment(row):
            return row
        self.mark = open_quote(row + "\n", self.mark)
        self.parts.append(row)
        return None if self.mark or goes_on(row) else self.end()

    def end(self) -> str:
        """Return what has come of a line so far."""
        text = "\n".join(self.parts)
        self.parts.clear()
        self.mark = ""
        return text
