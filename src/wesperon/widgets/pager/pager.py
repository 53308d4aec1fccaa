"""The pager: long texts to read, a screen at a time, from one source or several.

It knows the texts that it shows (``text_view``), and what goes on: a search (``searching``), the way to a line
(``line_seek``), what is typed in the last row (``typed_row``), the lines that are picked (``picks``). A key is a move
(``moves``) or a method (``ACTIONS``).

    view       the heading, the rows from the top place on, the foot
    growing    what is wanted of a text that has not come yet: a screen more than is seen, or much on the way to the end
    pause      a file is looked at again
    work       a slice of what takes its time: the search, the count of hits, the way to a line, numbers of lines
    Ctrl-C     ends what goes on; if nothing does, the pager
"""

from __future__ import annotations

from wesperon.editing.keys.events import TYPE, Action, Key, Mouse, Paste
from wesperon.screen.frame import Frame, row_text
from wesperon.text.messages import tell, tell_many
from wesperon.values import Complaint
from wesperon.widgets.key_rows import key_rows
from wesperon.widgets.pager.foot import FOOT, FOOT_OF_HELP, FOOT_OF_PICKS, Foot
from wesperon.widgets.pager.line_seek import LineSeek
from wesperon.widgets.pager.meanings import MEANINGS
from wesperon.widgets.pager.moves import MOVES, to_share
from wesperon.widgets.pager.needle import Needle
from wesperon.widgets.pager.picks import Picks, line_at
from wesperon.widgets.pager.searching import Searching
from wesperon.widgets.pager.sheet import Sheet
from wesperon.widgets.pager.text_view import TextView
from wesperon.widgets.pager.whole_text import WholeText
from wesperon.widgets.typed_row import Page
from wesperon.widgets.widget import COPY, Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, ClassVar

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.widgets.pager.text_view import PagedSource
    from wesperon.widgets.widget import Effect, Growing

#: How many rows a turn of the wheel moves.
WHEEL_ROWS = 3
#: The rows that are left to a prompt below a text that fits: that of a console, with what its keys do.
PROMPT_ROWS = 2
#: How many bytes more are asked for at a time on the way to the end, and while a search goes on.
AHEAD = 1 << 22
#: The most characters that are copied: terminals take no endless sequence.
MOST_COPIED = 100_000
#: The actions with which a search, or the way to a line or to the end, goes on; or which stop it themselves.
GOES_ON = frozenset(
    (
        *("interrupt", "cancel", "repeat-search", "toggle-line-breaks", "toggle-line-numbers", "copy-lines"),
        *("clear-screen", "set-place", "toggle-mark"),
    )
)
#: The actions for which something to look for is typed: how that is called, whether it is looked for towards the start,
#: and whether it is a pattern.
ASKED: dict[str, tuple[str, bool, bool]] = {
    "search-text-forward": ("Search", False, False),
    "search-text-back": ("Search back", True, False),
    "search-pattern-forward": ("Pattern", False, True),
    "search-pattern-back": ("Pattern back", True, True),
}
#: The moves of rows, which are moves of lines where these are picked.
BY_LINES = {"move-up": -1, "move-down": 1}
#: The digits that a count may have.
MOST_DIGITS = 9


class Pager(Page):
    """Shows texts.

    ``sources`` are where they come from, ``heading`` how many of the first lines of each stay in sight; ``picks``:
    lines can be marked, and come back as the value; ``follows``: it begins at the end and stays there. ``limited``
    limits the time of a step of a search (``needle.Limited``). ``leaves_screen``: what was shown last stays on the
    screen; ``copies``: the user lets programs write on the clipboard; ``closes_if_short``: it ends by itself, before
    any key, with all of a text that fits on the screen.

    The value is the list of the lines that were marked, in their order; None without ``picks``.
    """

    CHOOSES = fills = True

    def __init__(
        self,
        sources: Sequence[PagedSource],
        *,
        heading: int = 0,
        picks: bool = False,
        follows: bool = False,
        limited: Any,
        leaves_screen: bool = False,
        copies: bool = False,
        closes_if_short: bool = False,
    ) -> None:
        super().__init__()
        self.views = [TextView(source, self.theme, heading) for source in sources]
        self.number = 0
        self.picks = Picks() if picks else None
        self.leaves_screen = leaves_screen
        self.copies = copies
        self.closes_if_short = closes_if_short
        self.search = Searching(limited)
        self.seek = LineSeek()
        #: Whether it is on the way to the end of a text that has not come yet.
        self.goes_to_end = False
        #: Whether it has ended by itself, since everything was on the screen.
        self.is_short = False
        #: The page of keys, while it is shown over the text.
        self.help: TextView | None = None
        self.message = ""
        self.shows_numbers = False
        self._copied = ""
        #: What the foot says of its keys, in place of what it says as a widget by itself.
        self.foot_keys = ""
        self._digits = ""
        self._size = (1, 1)
        for view in self.views:
            view.follows = follows

    @property
    def text_view(self) -> TextView:
        """The text that is shown."""
        return self.help or self.views[self.number]

    @property
    def picking(self) -> Picks | None:
        """The lines that are picked in what is shown; None if none can be."""
        return self.picks if self.help is None else None

    # Events ----------------------------------------------------------------------------------------------------------

    def handle(self, event: Event) -> None:
        """See ``Widget``; any key ends what was said."""
        if isinstance(event, (Key, Paste, Mouse)):
            self.closes_if_short = False
            self.message = self.search.fault = self.text_view.source.said = ""
        super().handle(event)

    def do(self, action: Action) -> None:
        """See ``Widget``; digits that were typed before are the count."""
        if action.name != TYPE:
            if self._digits and action.count is None:
                count = int(self._digits[-MOST_DIGITS:])
                action = Action(action.name, count, action.text, action.register, action.motion)
            self._digits = ""
            if action.name not in GOES_ON:
                self._stop()
        if action.name in ASKED:
            self._ask_needle(*ASKED[action.name])
            return
        move = MOVES.get(action.name)
        if move is None:
            super().do(action)
            self.gives_way = action.name != TYPE  # how a screen of it is laid out is computed when it is drawn
            return
        self.action = action
        self.text_view.follows = False
        if self.picking is not None and action.name in BY_LINES:
            self.picking.move(self.text_view, action.times * BY_LINES[action.name])
        else:
            self.message = move(self.text_view, action)
            self.goes_to_end = action.name == "move-text-end" and not self.text_view.source.is_whole

    def type(self, text: str, times: int = 1) -> None:
        """Take digits, which are the count of the next key."""
        self._digits = self._digits + text if text.isascii() and text.isdecimal() else ""

    def click(self, event: Mouse) -> None:
        """Take the line under the mouse, or the part of the text that the scroll bar has there."""
        columns, rows = self._size
        view = self.text_view
        if event.column >= columns - 1 and event.row < rows - 1:
            view.follows = False
            to_share(view, event.row / max(rows - 2, 1))
        elif self.picking is not None and isinstance(event.hit, int):
            was_current = self.picking.at == event.hit
            self.picking.at = event.hit
            if was_current:
                self.toggle_mark()

    def wheel(self, by: int) -> None:
        """Move by a few rows."""
        self.text_view.follows = False
        self.text_view.move(by * WHEEL_ROWS)

    def known_actions(self) -> frozenset[str]:
        """See ``Widget``."""
        return frozenset((*self.ACTIONS, *MOVES, *ASKED))

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        super().set_theme(theme)
        for view in self.views:
            view.set_theme(theme)

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers of the family of keys that hold now."""
        return ("pager",) if self.picks is None else ("pager", "picks")

    # Places ----------------------------------------------------------------------------------------------------------

    def to_line(self) -> None:
        """To the line of the count, else to the end."""
        if self.action.count is None:
            self.do(Action("move-text-end"))
        else:
            self._seek(self.action.count)

    def _seek(self, number: int) -> None:
        self.text_view.follows = False
        self.seek.begin(number)
        self.work()

    def follow(self) -> None:
        """Stay at the end while more comes, or no longer."""
        view = self.text_view
        view.follows = not view.follows
        view.top = view.end() or view.top

    def next_text(self) -> None:
        """To the next text."""
        self._to_text(self.number + self.action.times)

    def previous_text(self) -> None:
        """To the text before."""
        self._to_text(self.number - self.action.times)

    def _to_text(self, number: int) -> None:
        last = len(self.views) - 1
        if number > last:
            self.message = tell("this is the last text")
        elif number < 0:
            self.message = tell("this is the first text")
        self.help, self.number = None, min(max(number, 0), last)
        if self.picks is not None:
            self.picks.at = None
        self.search.adopt(self.text_view)

    def read_again(self) -> None:
        """Take the file that has the name now."""
        self.text_view.source.read_again()

    # What is typed in the last row -----------------------------------------------------------------------------------

    def _ask_needle(self, label: str, back: bool, is_pattern: bool) -> None:
        """Type what to look for."""
        view = self.text_view

        def read(text: str) -> Callable[[], object]:
            if not text:  # the one before, once more
                return lambda: self._search(back=back)
            colours, limited = view.layout.keeps_colours, self.search.limited
            needle = Needle(text, is_pattern=is_pattern, keeps_colours=colours, limited=limited)
            return lambda: self.search.begin(view, needle, back=back)

        view.follows = False
        self.ask(tell(label), read)

    def ask_line(self) -> None:
        """Type the number of a line, or a share such as 50%."""

        def read(text: str) -> Callable[[], object]:
            number = text.strip().removesuffix("%").strip().replace(",", "")
            if not (number.isascii() and number.isdecimal() and len(number) < 16):
                raise Complaint(tell("must be the number of a line, such as 120, or a share, such as 50%"))
            if text.strip().endswith("%"):
                return lambda: to_share(self.text_view, int(number) / 100)
            return lambda: self._seek(int(number))

        self.ask(tell("Line, or share in %"), read)

    # Searching -------------------------------------------------------------------------------------------------------

    def search_again(self) -> None:
        """To the next hit, in the direction of the search."""
        self._search(back=self.search.back)

    def search_again_reversed(self) -> None:
        """To the next hit, the other way."""
        self._search(back=not self.search.back)

    def _search(self, *, back: bool) -> None:
        self.text_view.follows = False
        self.search.further(self.text_view, back=back, times=self.action.times)

    def only_hits(self) -> None:
        """Show only the lines with hits, or all again."""
        self._show_around(None if self.text_view.around is not None else 0)

    def more_around(self) -> None:
        """Show more lines around each hit."""
        around = self.text_view.around
        self._show_around(self.action.times + (around or 0))

    def fewer_around(self) -> None:
        """Show fewer lines around each hit."""
        around = self.text_view.around
        self._show_around(max((around or 0) - self.action.times, 0))

    def _show_around(self, around: int | None) -> None:
        view = self.text_view
        if self.search.needle is None:
            self.message = tell("nothing was searched for yet: / searches")
            return
        self.search.adopt(view)
        view.top = view.place
        view.around = around
        view.settle()

    # Looks -----------------------------------------------------------------------------------------------------------

    def toggle_breaks(self) -> None:
        """Break lines at the width, or cut them there."""
        layout = self.text_view.layout
        layout.is_broken, layout.left = not layout.is_broken, 0

    def toggle_numbers(self) -> None:
        """Show the numbers of lines, or no longer."""
        self.shows_numbers = not self.shows_numbers

    def toggle_colours(self) -> None:
        """Show the colours of the text, or the control sequences that make them."""
        layout = self.text_view.layout
        layout.keeps_colours = not layout.keeps_colours
        needle = self.search.needle
        if needle is not None:
            self.search.needle = needle.keeping(layout.keeps_colours)
            self.search.adopt(self.text_view)

    def show_help(self) -> None:
        """Show what the keys do."""
        if self.help is None:
            rows = key_rows(self.resolver.keymap.table, MEANINGS, self._size[0])
            text = "\n".join([row_text(row) for row in rows])
            self.help = TextView(WholeText(tell("keys"), text.encode()), self.theme)

    # Picking ---------------------------------------------------------------------------------------------------------

    def toggle_mark(self) -> None:
        """Pick the current line, or no longer, and go to the next."""
        if self.picking is not None:
            self.picking.toggle(self.text_view, self.number)

    def copy_lines(self) -> None:
        """Put the lines that were picked, else those in sight, on the clipboard of the terminal."""
        view = self.text_view
        lines = self.picks.lines if self.picks is not None else []
        if not lines:
            lines = [line_at(view, start) for start in dict.fromkeys(at for at, _ in view.rows(view.top, view.room))]
        if not self.copies:
            self.message = tell("nothing is copied: the preference clipboard is off")
            return
        self._copied = "".join(f"{line}\n" for line in lines)[:MOST_COPIED]
        self.message = tell_many("{count} line copied", "{count} lines copied", len(lines))
        self.want(COPY)

    def about(self, effect: Effect) -> str:
        """See ``Widget``."""
        return self._copied

    # The end ---------------------------------------------------------------------------------------------------------

    def accept(self) -> None:
        """Take what was picked; else go down by a row."""
        if self.help is not None:
            self.help = None
        elif self.picks is not None:
            self.outcome = Answered(self.picks.lines)
        else:
            self.do(Action("move-down", self.action.count))

    def leave(self) -> None:
        """Leave the page of keys, or the pager."""
        if self.help is not None:
            self.help = None
        else:
            self.outcome = Answered(None if self.picks is None else [])

    def cancel(self) -> None:
        """Stop what goes on; else leave the page of keys; else mark no hits any more."""
        if self._stops():
            return
        if self.help is not None:
            self.help = None
        else:
            self.search.drop(self.text_view)

    def interrupt(self) -> None:
        """Stop what goes on; else leave the pager for good."""
        if not self._stops():
            self.outcome = Interrupted()

    def _stops(self) -> bool:
        """Stop what goes on. Return False if nothing did."""
        view = self.text_view
        if not (self.search.is_on or self.goes_to_end or self.seek.is_on or view.follows or view.owed):
            return False
        self._stop()
        view.follows, view.owed = False, 0
        self.message = tell("stopped")
        return True

    def _stop(self) -> None:
        """Stop a search, and the way to a line or to the end."""
        self.search.stop()
        self.seek.stop()
        self.goes_to_end = False

    # Work ------------------------------------------------------------------------------------------------------------

    def work(self) -> bool:
        """Run one slice of the search, the count of lines or of hits; see ``Widget``."""
        view = self.text_view
        if self.closes_if_short and self.fits(*self._size):
            self.is_short = True
            self.outcome = Answered(None)
            return True
        if self.search.is_on:
            changed = self.search.step()
            if self.picking is not None and not self.search.is_on and view.hit is not None:
                self.picking.at = view.hit
            return changed
        if self.seek.is_on:
            changed = self.seek.step(view)
            if not self.seek.is_on:
                self.message, self.seek.message = self.seek.message, ""
                if self.picking is not None:
                    self.picking.at = view.top[0] if view.top is not None else None
            return changed
        if self.search.collect(view):
            return True
        return self.shows_numbers and view.lacks_numbers and view.numbers.step()

    def fits(self, columns: int, rows: int) -> bool:
        """Return True if there is only one text, all of it is there, and a prompt is seen below it on the screen."""
        view = self.views[0]
        if len(self.views) > 1 or not view.source.is_whole:
            return False
        view.layout.columns = columns
        return len(view.rows(view.start_of_all, rows)) <= rows - PROMPT_ROWS

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """See ``Widget``: a screen more than is in sight, or much on the way to something."""
        return [(view.source, self._bytes_wanted(view)) for view in self.views]

    def _bytes_wanted(self, view: TextView) -> int:
        source = view.source
        if view is not self.views[self.number] or source.is_whole:
            return 0
        is_filtered = view.around is not None and view.lacks(view.top, view.room)
        source.hurries = self.goes_to_end or self.search.lacks or self.seek.is_on or view.follows or is_filtered
        if source.hurries:
            return source.count + AHEAD
        return source.count + 1 if view.owed or view.lacks(view.top or view.start(), 2 * view.room) else 0

    @property
    def wants_pause(self) -> bool:
        """Whether a file is shown, which is looked at again."""
        return self.outcome is None and self.views[self.number].source.may_change

    def pause(self) -> None:
        """Look whether the file has changed."""
        if self.outcome is None:
            self.views[self.number].source.look()

    # View ------------------------------------------------------------------------------------------------------------

    def view(self, columns: int, rows: int) -> Frame:
        """Return the heading, a part of the text and the foot; if it has ended, what stays on the screen."""
        self._size = columns, rows
        view = self.text_view
        self._heed_changes(view)
        is_help = self.help is not None
        sheet = Sheet(
            view,
            columns,
            rows,
            picks=self.picking,
            number=self.number,
            has_numbers=self.shows_numbers and not is_help,
            typed=self.typed,
        )
        if view.follows or self.goes_to_end:
            view.top = view.end()
            self.goes_to_end = self.goes_to_end and not view.source.is_whole
        view.settle()
        if self.picking is not None:
            self.picking.current(view)
        if self.outcome is not None:
            return sheet.frame(None) if self.leaves_screen and not self.is_short else Frame(())
        foot = Foot(
            self.search.fault,
            self.message or view.source.said,
            tell(FOOT_OF_HELP)
            if is_help
            else self._going_on(view) or tell(self.foot_keys or (FOOT_OF_PICKS if self.picks else FOOT)),
            self.number + 1,
            1 if is_help else len(self.views),
            self.search.needle is not None,
            0 if self.picks is None else len(self.picks.marked),
        )
        return sheet.frame(foot)

    def _heed_changes(self, view: TextView) -> None:
        """Begin again with a text that has become another one."""
        if view.renewed():
            if self.picks is not None:
                self.picks.forget(self.number)
            self.search.adopt(view)

    @property
    def is_busy(self) -> bool:  # type: ignore[override]
        """Whether something is typed in it, or goes on, or its keys are shown: what Escape leaves first."""
        return self.typed is not None or self.help is not None or bool(self._going_on(self.text_view))

    def _going_on(self, view: TextView) -> str:
        """Return what goes on, and how it is stopped; empty if nothing does."""
        if self.search.is_on:
            return tell("searching, {far}   Ctrl-C: stop", far=self.search.how_far)
        if self.goes_to_end:
            return tell("reading to the end   Ctrl-C: stop")
        if self.seek.is_on:
            return tell("counting lines   Ctrl-C: stop")
        return tell("following the end   Ctrl-C: stop") if view.follows else ""

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """Return nothing: what stays on the screen is its last view."""
        return []

    ACTIONS: ClassVar[dict[str, str]] = {
        "move-to-line": "to_line",
        "move-to-typed-line": "ask_line",
        "follow-end": "follow",
        "repeat-search": "search_again",
        "repeat-search-reversed": "search_again_reversed",
        "toggle-only-hits": "only_hits",
        "show-more-around": "more_around",
        "show-fewer-around": "fewer_around",
        "toggle-line-breaks": "toggle_breaks",
        "toggle-line-numbers": "toggle_numbers",
        "toggle-colours": "toggle_colours",
        "move-to-next-text": "next_text",
        "move-to-previous-text": "previous_text",
        "reload-text": "read_again",
        "toggle-mark": "toggle_mark",
        "copy-lines": "copy_lines",
        "clear-screen": "clear_screen",
        "show-help": "show_help",
        "accept": "accept",
        "cancel": "cancel",
        "leave-text": "leave",
        "interrupt": "interrupt",
    }
