"""The pager in plain lines: numbered lines, some at a time, and a prompt that takes a number or something to search."""

from __future__ import annotations

from wesperon.editing.keys.events import Action
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint, quoted
from wesperon.widgets.pager.needle import Needle
from wesperon.widgets.pager.picks import line_at
from wesperon.widgets.pager.source_colours import taken_out
from wesperon.widgets.plain.answers import PlainWidget
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.widgets.pager.pager import Pager
    from wesperon.widgets.pager.text_view import TextView

#: How many lines are printed at a time, and the most characters of one.
PRINTED, LONGEST = 20, 2_000
#: The words that are typed instead of keys: leave, the lines before, the next and the previous hit or text.
LEAVE, BEFORE, NEXT, PREVIOUS, NEXT_TEXT = "q", "-", "n", "N", "]"
#: What numbers of lines to be marked follow.
MARK = "x"


class PlainPager(PlainWidget):
    """Long texts: Enter goes on, at the end it leaves."""

    widget: Pager

    def __init__(self, widget: Pager) -> None:
        super().__init__(widget)
        #: Where the lines begin that are printed next; None at the end.
        self.next: int | None = 0
        self._first = 0
        self._repeats = False
        self.said = ""

    @property
    def view(self) -> TextView:
        """The text that is printed."""
        return self.widget.text_view

    def rows(self) -> list[str]:
        """Return the lines that come next, with their numbers; and what was said."""
        rows, self.said = [f"  {self.said}"] if self.said else [], ""
        if self._repeats:
            self._repeats = False
            return rows
        at, self._first = self.next, self.next or 0
        for _ in range(PRINTED):
            at = self._come(at)
            if at is None:
                break
            rows.append(self._line(at))
            at = self.view.pieces.end(at)[1]
        self.next = self._come(at)
        view = self.view
        view.top = (self._first, 0)
        view.room = 1
        return [*rows, *([f"  {view.source.said}"] if view.source.said else [])]

    def _come(self, at: int | None) -> int | None:
        """Return an offset if something is there, or comes; else None."""
        source = self.view.source
        while at is not None and not source.is_whole and b"\n" not in source.data[at:]:
            source.pull(source.count + 1)
        return at if at is not None and at < len(source.data) else None

    def _line(self, at: int) -> str:
        numbers = self.view.numbers
        number = numbers.number(at)
        while number is None and numbers.step():
            number = numbers.number(at)
        text, _ = taken_out(line_at(self.view, at), self.widget.theme)
        if len(text) > LONGEST:
            text = text[:LONGEST] + "..."
        mark = self.widget.picks is not None and (self.widget.number, at) in self.widget.picks.marked
        return f"{number or 0:>6}{MARK if mark else ' '} {visible(text.expandtabs())}"

    def prompt(self) -> str:
        """Return what may be typed."""
        if self.widget.picks is not None:
            return tell("Enter: on, or accept at the end; x and numbers: mark these lines; /text: search; q: leave: ")
        if self.next is None:
            return tell("the end; Enter: leave; a number: from that line; /text: search: ")
        return tell("Enter: on; a number: from that line; /text: search; q: leave: ")

    def answer(self, lines: list[str]) -> None:
        """See ``PlainWidget``."""
        text, widget = lines[0].strip(), self.widget
        word, numbers = text[:1], text[1:].replace(",", " ").split()
        if text == LEAVE:
            widget.leave()
        elif not text:
            if self.next is None:
                widget.outcome = Answered(None if widget.picks is None else widget.picks.lines)
        elif text.isdecimal() and text.isascii():
            self._go_to(int(text[:15]))
        elif text == BEFORE:
            self.next = self.view.moved((self._first, 0), -PRINTED)[0]
        elif text in (NEXT, PREVIOUS):
            self._search(lambda: widget.search.further(self.view, back=widget.search.back == (text == NEXT)))
        elif text == NEXT_TEXT:
            widget.action = Action("move-to-next-text")
            widget.next_text()
            self.said, widget.message, self.next = widget.message, "", 0
        elif word in "/?":
            self._seek(text[1:], back=word == "?")
        elif word == MARK and widget.picks is not None and numbers and all(one.isdecimal() for one in numbers):
            self._mark([int(one[:15]) for one in numbers])
        else:
            self._say(tell("{text} is none of these", text=quoted(text)))

    def _say(self, said: str) -> None:
        self.said, self._repeats = said, True

    def _go_to(self, number: int) -> None:
        offset = self._offset(number)
        if offset is None:
            self._say(tell("there is no line {number}", number=f"{number:,}"))
        else:
            self.next = offset

    def _offset(self, number: int) -> int | None:
        """Return where a line begins; None if there is no such line."""
        view = self.view
        while True:
            offset = view.numbers.offset(number)
            if offset is not None and offset < len(view.source.data):
                return offset
            if not view.numbers.step() and not view.source.pull(view.source.count + 1) and view.numbers.is_done:
                offset = view.numbers.offset(number)
                return offset if offset is not None and offset < len(view.source.data) else None

    def _mark(self, numbers: list[int]) -> None:
        picks = self.widget.picks
        for number in numbers:
            offset = self._offset(number)
            if picks is None or offset is None:
                self._say(tell("there is no line {number}", number=f"{number:,}"))
                return
            picks.at = offset
            if picks.marked.pop((self.widget.number, offset), None) is None:
                picks.marked[self.widget.number, offset] = line_at(self.view, offset)
        count = 0 if picks is None else len(picks.marked)
        self._say(tell("{count} marked", count=f"{count:,}"))

    def _seek(self, text: str, *, back: bool) -> None:
        search = self.widget.search
        try:
            needle = Needle(text) if text else search.needle
        except Complaint as complaint:
            self._say(complaint.reason)
            return
        if needle is None:
            self._say(tell("nothing was searched for yet: / searches"))
        else:
            self._search(lambda: search.begin(self.view, needle, back=back))

    def _search(self, begin: Callable[[], object]) -> None:
        """Search to the next hit, from which lines are printed next."""
        search, view = self.widget.search, self.view
        begin()
        while search.is_on:
            if not search.step():
                view.source.pull(view.source.count + 1)
        if search.fault:
            self._say(search.fault)
            search.fault = ""
        elif view.hit is not None:
            self.next = view.hit
