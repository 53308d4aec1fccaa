"""The pager: long texts to read, a screen at a time, from one source or several.

It knows the texts that it shows (``text_view``), the search (``searching``), the row at the foot in which something is
typed, and the lines that were picked; each key is one method of it (``ACTIONS``). What comes from the texts while they
are shown is asked for in ``growing`` and ``pause``, what takes its time is done in ``work``, slice by slice.

    view       the heading, the rows from the top place on, the foot; makes a frame and changes nothing but what follows
               the end
    moves      each gives the text view another top place
    Ctrl-C     ends what goes on, one thing after the other: a search, the way to the end, following; then the pager
"""

from __future__ import annotations

from wesperon.editing.keys.events import TYPE, Action, Key, Mouse, Paste
from wesperon.screen.frame import ClickMap, Frame
from wesperon.screen.layout import CURRENT_MARK
from wesperon.text.messages import tell, tell_many
from wesperon.values import Complaint
from wesperon.widgets.line import Line
from wesperon.widgets.pager import foot
from wesperon.widgets.pager.laying import fitted
from wesperon.widgets.pager.needle import Needle, decoded
from wesperon.widgets.pager.searching import Searching
from wesperon.widgets.pager.text_view import TextView
from wesperon.widgets.pager.whole_text import key_page
from wesperon.widgets.widget import CLEAR_SCREEN, COPY, Answered, Ended, Interrupted, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, ClassVar

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.theme import Theme
    from wesperon.widgets.pager.text_view import PagedSource, Place
    from wesperon.widgets.widget import Effect, Growing

#: How many rows a turn of the wheel moves.
WHEEL_ROWS = 3
#: How many bytes more are asked for at a time on the way to the end, and while a search goes on.
AHEAD = 1 << 22
#: Of the width, the part by which a text moves sideways.
SIDEWAYS = 2
#: The most characters that are copied: terminals take no endless sequence.
MOST_COPIED = 100_000
#: What is before a line that may be picked, without and with its mark.
UNMARKED, MARKED = "[ ] ", "[x] "
#: The actions with which a search, or the way to a line or to the end, goes on; or which stop it themselves.
GOES_ON = frozenset(
    (
        *("interrupt", "cancel", "repeat-search", "toggle-line-breaks", "toggle-line-numbers", "copy-lines"),
        *("clear-screen", "set-place", "toggle-mark"),
    )
)
#: The most pieces of one line whose text is handed on when it is picked or copied.
MOST_PIECES = 100


class Pager(Widget):
    """Shows texts.

    ``sources`` are where they come from, ``heading`` how many of the first lines of each stay in sight; ``picks``:
    lines can be marked, and come back as the value; ``follows``: it begins at the end and stays there. ``limited``
    limits the time of a step of a search (``scan.Limited``). ``leaves_screen``: what was shown last stays on the
    screen; ``copies``: the user lets programs write on the clipboard; ``closes_if_short``: it ends by itself, before
    any key, with all of a text that fits on the screen.

    The value is the list of the lines that were marked, in their order; None without ``picks``.
    """

    is_full_screen = True
    CHOOSES = True

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
        self.picks = picks
        self.leaves_screen = leaves_screen
        self.copies = copies
        self.closes_if_short = closes_if_short
        self.search = Searching(limited)
        #: Whether it ended by itself, since everything was on the screen.
        self.is_short = False
        #: The page of keys, while it is shown over the text.
        self.help: TextView | None = None
        #: The row in which something is typed, and what is done with it.
        self.line: Line | None = None
        self.line_label = ""
        self._does: Any = None
        self.message = ""
        self.shows_numbers = False
        #: The lines that were picked, by text and by where they begin; and the one that keys mark.
        self.picked: dict[tuple[int, int], str] = {}
        self.at: int | None = None
        #: What is to be put on the clipboard.
        self._copied = ""
        #: Whether it is on the way to the end, which has not come yet; and to the line of a number, 0 for none.
        self.goes_to_end = False
        self._wanted_line = 0
        self._digits = ""
        self._columns = self._rows = 1
        self._bindings: Bindings | None = None
        for view in self.views:
            view.follows = follows

    @property
    def text_view(self) -> TextView:
        """The text that is shown."""
        return self.help or self.views[self.number]

    # Events ----------------------------------------------------------------------------------------------------------

    def press(self, event: Event) -> Effect | None:
        """See ``Widget``; while something is typed in the foot, events are for that."""
        if self.line is None:
            return super().press(event)
        line = self.line
        if isinstance(event, Key) and event.name == "backspace" and not line.text:
            self.line = None
            return None
        effect = line.press(event)
        if isinstance(line.outcome, Answered):
            self.line = None
            self._enter(line.outcome.value)
        elif line.outcome is not None or (isinstance(event, Key) and line.action.name == "cancel"):
            self.line = None
        return effect if effect is not None and effect.name == "clear-screen" else None

    def handle(self, event: Event) -> None:
        """See ``Widget``; any key ends what was said."""
        if isinstance(event, (Key, Paste, Mouse)):
            self.closes_if_short = False
            self.message = self.search.fault = self.text_view.source.said = ""
        super().handle(event)

    def do(self, action: Action) -> None:
        """See ``Widget``; digits that were typed before are the count."""
        if action.name == TYPE:
            self.type(action.text, action.times)
            return
        if self._digits and action.count is None:
            action = Action(action.name, int(self._digits[-9:]), action.text, action.register, action.motion)
        self._digits = ""
        if action.name not in GOES_ON:
            self.search.stop()
            self.goes_to_end = False
            self._wanted_line = 0
        super().do(action)

    def type(self, text: str, times: int = 1) -> None:
        """Take digits, which are the count of the next key."""
        self._digits = self._digits + text if text.isascii() and text.isdecimal() else ""

    def click(self, event: Mouse) -> None:
        """Take the line under the mouse, or the part of the text that the scroll bar has there."""
        view = self.text_view
        if event.column >= self._columns - 1 and event.row < self._rows - 1:
            share = event.row / max(self._rows - 2, 1)
            self._jump_to_share(share)
        elif self.picks and self.help is None and isinstance(event.hit, int):
            if self.at == event.hit:
                self.toggle_mark()
            self.at = event.hit
            view.follows = False

    def wheel(self, by: int) -> None:
        """Move by a few rows."""
        self._move(by * WHEEL_ROWS)

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``."""
        self._bindings = bindings
        super().bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """See ``Widget``."""
        super().set_theme(theme)
        for view in self.views:
            view.theme = view.layout.theme = theme
            view.layout.forget()

    @property
    def layers(self) -> tuple[str, ...]:
        """The layers of the family of keys that hold now."""
        return ("pager", "picks") if self.picks else ("pager",)

    @property
    def seeks_line(self) -> bool:
        """Whether it is on the way to the line of a number."""
        return self._wanted_line > 0

    # Moves -----------------------------------------------------------------------------------------------------------

    def _move(self, by: int) -> None:
        view = self.text_view
        view.follows = False
        view.move(by)

    def up(self) -> None:
        """To the row above, or to the line above if lines can be picked."""
        self._step(-self.action.times)

    def down(self) -> None:
        """To the row below, or to the line below."""
        self._step(self.action.times)

    def _step(self, by: int) -> None:
        view = self.text_view
        if not self.picks or self.help is not None or view.top is None:
            self._move(by)
            return
        view.follows = False
        at = self._current()
        for _ in range(abs(by)):
            following = view.order.after(at) if by > 0 else view.order.before(at)
            if following is None:
                break
            at = following
        self.at = at
        shown = view.rows(view.top, view.room)
        if (at, 0) not in shown:
            view.move(shown.index((at, 0)) if (at, 0) in shown else -1 if by < 0 else 1)
            if (at, 0) not in view.rows(view.top, view.room):
                view.top = view.in_bounds(view.moved((at, 0), 0 if by < 0 else 1 - view.room))

    def _current(self) -> int:
        """Return the line that keys mark: the first one in sight if the last one is out of sight."""
        view = self.text_view
        shown = [start for start, _ in view.rows(view.top, view.room)]
        if self.at not in shown:
            self.at = shown[0] if shown else 0
        return self.at or 0

    def page_up(self) -> None:
        """Up by a screen."""
        self._move(-self.action.times * self.text_view.room)

    def page_down(self) -> None:
        """Down by a screen; further where a source ends, in the next one."""
        self._move(self.action.times * self.text_view.room)

    def half_up(self) -> None:
        """Up by half a screen."""
        self._move(-self.action.times * max(self.text_view.room // 2, 1))

    def half_down(self) -> None:
        """Down by half a screen."""
        self._move(self.action.times * max(self.text_view.room // 2, 1))

    def first(self) -> None:
        """To the start, or to the line of the count."""
        if self.action.count is not None:
            self._go_to_line(self.action.count)
            return
        view = self.text_view
        view.follows = False
        view.jump(view.start())

    def last(self) -> None:
        """To the end, or to the line of the count; what has not come yet is taken."""
        if self.action.count is not None:
            self._go_to_line(self.action.count)
            return
        view = self.text_view
        view.follows = False
        self.goes_to_end = not view.source.is_whole
        view.jump(view.end())

    def share(self) -> None:
        """To the part of the text that the count says, in percent."""
        self._jump_to_share((self.action.count or 0) / 100)

    def _jump_to_share(self, share: float) -> None:
        view = self.text_view
        view.follows = False
        size = len(view.source.data)
        if share >= 1:
            view.jump(view.end())
        elif size:
            view.jump((view.pieces.start(min(int(size * max(share, 0)), size - 1)), 0))

    def _go_to_line(self, number: int) -> None:
        self._wanted_line = max(number, 1)
        self.text_view.follows = False
        self._seek_line()

    def _seek_line(self) -> bool:
        """Go on towards the line that is wanted. Return True if the view changed."""
        view, number = self.text_view, self._wanted_line
        offset = view.numbers.offset(number)
        if offset is not None and offset < len(view.source.data):
            self._wanted_line = 0
            view.jump((offset, 0))
            self.at = view.top[0] if view.top is not None and self.picks else self.at
            return True
        if view.numbers.step():
            return True
        if not view.source.is_whole:
            return False
        self._wanted_line = 0
        view.jump(view.end())
        self.message = tell("there is no line {number}: this is the end", number=f"{number:,}")
        return True

    def follow(self) -> None:
        """Stay at the end while more comes, or no longer."""
        view = self.text_view
        view.follows = not view.follows
        view.top = view.end() or view.top

    def left(self) -> None:
        """Sideways to the left, where lines are cut."""
        self._sideways(-1)

    def right(self) -> None:
        """Sideways to the right."""
        self._sideways(1)

    def _sideways(self, by: int) -> None:
        layout = self.text_view.layout
        step = self.action.count or max(layout.columns // SIDEWAYS, 1)
        if layout.is_broken:
            self.message = tell("lines are broken here, so nothing is to the side: w cuts them")
        layout.left = 0 if layout.is_broken else max(layout.left + by * step, 0)

    def set_place(self) -> None:
        """Give the part in sight a name, a letter."""
        view = self.text_view
        if view.top is not None:
            view.marks[self.action.text] = view.top
            self.message = tell("marked as {name}", name=self.action.text)

    def to_place(self) -> None:
        """To the part with a name; ``'`` is where the last jump began."""
        view = self.text_view
        place: Place | None = view.came_from if self.action.text in "'`" else view.marks.get(self.action.text)
        if place is None:
            known = ", ".join(sorted(view.marks))
            self.message = tell("nothing is marked as {name}", name=self.action.text)
            self.message += " " + tell("(marked: {list})", list=known) if known else ""
            return
        view.follows = False
        view.jump(place)

    def next_source(self) -> None:
        """To the next text."""
        self._to_source(self.number + self.action.times)

    def source_before(self) -> None:
        """To the text before."""
        self._to_source(self.number - self.action.times)

    def _to_source(self, number: int) -> None:
        bounded = max(min(number, len(self.views) - 1), 0)
        if bounded == self.number:
            self.message = tell("this is the last text") if number > bounded else tell("this is the first text")
        self.help, self.number = None, bounded
        self.at = None
        self.search.take(self.text_view)

    def read_again(self) -> None:
        """Take the file that has the name now."""
        self.text_view.source.read_again()

    # What is typed in the foot ---------------------------------------------------------------------------------------

    def _ask(self, label: str, does: Any) -> None:
        def accept(text: str) -> str:
            does(text, try_only=True)
            return text

        self.line = Line(accept, memory=self.memory)
        self.line_label, self._does = label, does
        if self._bindings is not None:
            self.line.bind(self._bindings)
        self.line.set_theme(self.theme)

    def _enter(self, text: str) -> None:
        self._does(text)

    def search_forward(self) -> None:
        """Type a text to look for."""
        self._ask_needle(tell("Search"), back=False, is_pattern=False)

    def search_back(self) -> None:
        """Type a text to look for, towards the start."""
        self._ask_needle(tell("Search back"), back=True, is_pattern=False)

    def pattern_forward(self) -> None:
        """Type a pattern to look for."""
        self._ask_needle(tell("Pattern"), back=False, is_pattern=True)

    def pattern_back(self) -> None:
        """Type a pattern to look for, towards the start."""
        self._ask_needle(tell("Pattern back"), back=True, is_pattern=True)

    def _ask_needle(self, label: str, *, back: bool, is_pattern: bool) -> None:
        def does(text: str, try_only: bool = False) -> None:
            view = self.text_view
            needle = Needle(text, is_pattern=is_pattern, keeps_colours=view.layout.keeps_colours)
            if try_only:
                return
            if not text:
                self.search.further(view, back=back)
                return
            view.follows = False
            self.search.begin(view, needle, back=back)

        self._ask(label, does)

    def go_to(self) -> None:
        """Type the number of a line, or a share such as 50%."""

        def does(text: str, try_only: bool = False) -> None:
            number = text.strip().removesuffix("%").strip().replace(",", "")
            if text.strip() and not (number.isascii() and number.isdecimal() and len(number) < 16):
                raise Complaint(tell("must be the number of a line, such as 120, or a share, such as 50%"))
            if try_only or not text.strip():
                return
            if text.strip().endswith("%"):
                self._jump_to_share(int(number) / 100)
            else:
                self._go_to_line(int(number))

        self._ask(tell("Line, or share in %"), does)

    # Searching -------------------------------------------------------------------------------------------------------

    def search_again(self) -> None:
        """To the next hit, in the direction of the search."""
        self.text_view.follows = False
        self.search.further(self.text_view, back=self.search.back, times=self.action.times)

    def search_again_reversed(self) -> None:
        """To the next hit, the other way."""
        self.text_view.follows = False
        self.search.further(self.text_view, back=not self.search.back, times=self.action.times)

    def only_hits(self) -> None:
        """Show only the lines with hits, or all again."""
        view = self.text_view
        if self.search.needle is None:
            self.message = tell("nothing was searched for yet: / searches")
            return
        self.search.take(view)
        view.around = None if view.around is not None else 0
        view.top = view.in_bounds(view.top)

    def more_around(self) -> None:
        """Show more lines around each hit."""
        self._around(self.action.times)

    def fewer_around(self) -> None:
        """Show fewer lines around each hit."""
        self._around(-self.action.times)

    def _around(self, by: int) -> None:
        view = self.text_view
        if view.around is None:
            self.only_hits()
        if view.around is not None:
            view.around = max(view.around + by, 0)
            view.top = view.in_bounds(view.top)

    # Looks -----------------------------------------------------------------------------------------------------------

    def toggle_broken(self) -> None:
        """Break lines at the width, or cut them there."""
        layout = self.text_view.layout
        layout.is_broken, layout.left = not layout.is_broken, 0

    def toggle_numbers(self) -> None:
        """Show the numbers of lines, or no longer."""
        self.shows_numbers = not self.shows_numbers

    def toggle_colours(self) -> None:
        """Show the colours of the text, or the control sequences that make them."""
        view = self.text_view
        view.layout.keeps_colours = not view.layout.keeps_colours
        needle = self.search.needle
        if needle is not None:
            self.search.needle = Needle(
                needle.text, is_pattern=needle.is_pattern, keeps_colours=view.layout.keeps_colours
            )
            self.search.take(view)

    def show_help(self) -> None:
        """Show what the keys do."""
        if self.help is None:
            self.help = TextView(key_page(self.resolver, self.ACTIONS), self.theme)
            self.help.layout.columns = self._columns

    # Picking ---------------------------------------------------------------------------------------------------------

    def toggle_mark(self) -> None:
        """Pick the current line, or no longer, and go to the next."""
        if not self.picks or self.help is not None or self.text_view.top is None:
            return
        key = (self.number, self._current())
        if key in self.picked:
            del self.picked[key]
        else:
            self.picked[key] = self._line_at(key[1])
        self._step(1)

    def _line_at(self, start: int) -> str:
        """Return the text of the line that the piece at an offset is a part of."""
        view = self.text_view
        at: int | None = view.pieces.line_start(start)
        parts: list[str] = []
        while at is not None and len(parts) < MOST_PIECES:
            end, after = view.pieces.end(at)
            parts.append(decoded(view.source.data[at:end]))
            at = after if after == end and after < len(view.source.data) else None
        return "".join(parts)

    def copy_lines(self) -> None:
        """Put what was picked, or the lines in sight, on the clipboard of the terminal."""
        view = self.text_view
        if self.picked:
            lines = [text for _, text in sorted(self.picked.items())]
        else:
            starts = dict.fromkeys(start for start, _ in view.rows(view.top, view.room))
            lines = [self._line_at(start) for start in starts]
        if not self.copies:
            self.message = tell("nothing is copied: the preference clipboard is off")
            return
        self._copied = "".join(f"{line}\n" for line in lines)[:MOST_COPIED]
        self.message = tell_many("{count} line copied", "{count} lines copied", len(lines))
        self.want(COPY)

    @property
    def copied(self) -> str:
        """See ``Widget``."""
        return self._copied

    # The end ---------------------------------------------------------------------------------------------------------

    def accept(self) -> None:
        """Take what was picked; else down by a row."""
        if self.help is not None:
            self.leave()
        elif self.picks:
            self.outcome = Answered([text for _, text in sorted(self.picked.items())])
        else:
            self.down()

    def leave(self) -> None:
        """Leave the page of keys, or the pager."""
        if self.help is not None:
            self.help = None
        else:
            self.outcome = Answered([] if self.picks else None)

    def cancel(self) -> None:
        """Stop what goes on; else mark no hits any more; else leave the page of keys."""
        if not self._stops():
            if self.help is not None:
                self.help = None
            elif self.search.needle is not None:
                self.search.drop(self.text_view)

    def interrupt(self) -> None:
        """Stop what goes on; else leave the pager for good."""
        if not self._stops():
            self.outcome = Interrupted()

    def _stops(self) -> bool:
        view = self.text_view
        goes_on = self.search.is_on or self.goes_to_end or bool(self._wanted_line) or view.follows
        self.search.stop()
        self.goes_to_end = view.follows = False
        self._wanted_line = 0
        if goes_on:
            self.message = tell("stopped")
        return goes_on

    # Work ------------------------------------------------------------------------------------------------------------

    def work(self) -> bool:
        """Search, count and look for the end, a slice at a time; see ``Widget``."""
        view = self.text_view
        if self.closes_if_short and self.fits(self._columns, self._rows):
            self.is_short = True
            self.outcome = Answered(None)
            return True
        if self.search.is_on:
            return self.search.step()
        if self._wanted_line:
            return self._seek_line()
        if view.hits is not None and not view.hits.is_done:
            try:
                view.hits.step()
            except TimeoutError:
                self.search.refuse(view)
            return True
        return self.shows_numbers and self._lacks_numbers(view) and view.numbers.step()

    def fits(self, columns: int, rows: int) -> bool:
        """Return True if there is only one text, all of it is there, and it is less than a screen."""
        view = self.views[0]
        if len(self.views) > 1 or not view.source.is_whole:
            return False
        view.layout.columns = columns
        return len(view.rows(view.start_of_all, rows)) < rows

    def _lacks_numbers(self, view: TextView) -> bool:
        return view.top is not None and view.numbers.number(view.top[0]) is None

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """See ``Widget``: a screen more than is in sight, or all on the way to something."""
        return [(view.source, self._bytes_wanted(view)) for view in self.views]

    def _bytes_wanted(self, view: TextView) -> int:
        if view is not self.views[self.number] or view.source.is_whole:
            return 0
        is_filtered = view.around is not None and view.lacks(view.top, view.room)
        view.source.hurries = bool(
            self.goes_to_end or self.search.lacks or self._wanted_line or view.follows or is_filtered
        )
        if view.source.hurries:
            return view.source.count + AHEAD
        return view.source.count + 1 if view.lacks(view.top or view.start(), 2 * view.room) else 0

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
        self._columns, self._rows = columns, rows
        view = self.text_view
        if view.renewed():
            self.picked = {key: text for key, text in self.picked.items() if self.views[key[0]] is not view}
            self.at = None
            self.search.take(view)
        has_foot = rows > 1 or self.line is not None
        gutter = self._gutter(view)
        view.layout.columns = max(columns - gutter, 1)
        heading = [(start, row) for start in view.headed for row in range(len(view.layout.piece(start).rows))]
        heading = heading[: max(rows - 2, 0)]
        view.room = max(rows - has_foot - len(heading), 1)
        if view.follows or self.goes_to_end:
            view.top = view.end()
            self.goes_to_end = self.goes_to_end and not view.source.is_whole
        view.top = view.in_bounds(view.top)
        shown = view.rows(view.top, view.room)
        body = [self._row(view, place, gutter) for place in shown]
        self._mark_bar(view, body, shown, columns)
        made = [*[self._row(view, place, gutter) for place in heading], *body]
        hits = [*[None for _ in heading], *[start for start, _ in shown]]
        if self.outcome is not None:
            return Frame(tuple(made) if self.leaves_screen and not self.is_short else ())
        made += [()] * (len(heading) + view.room - len(made))
        hits += [None] * (len(made) - len(hits))
        current = next((len(heading) + at for at, (start, _) in enumerate(shown) if start == self.at), None)
        if not has_foot:
            return Frame(tuple(made), clicks=ClickMap(hits=tuple(hits)))
        row, cursor = self._foot(view, columns)
        if cursor is None and self.picks and current is not None and self.help is None:
            place = (current, max(gutter - len(MARKED) - 1, 0))
        else:
            place = (len(made), cursor or 0)
        return Frame((*made, row), place, clicks=ClickMap(hits=(*hits, None)))

    def _gutter(self, view: TextView) -> int:
        """Return the columns before the text: of the number of the line, and of its mark."""
        marks = len(CURRENT_MARK) + len(MARKED) if self.picks and self.help is None else 0
        return marks + (foot.number_width(view) + 2 if self.shows_numbers and self.help is None else 0)

    def _row(self, view: TextView, place: tuple[int, int], gutter: int) -> Row:
        start, number = place
        row = view.layout.piece(start).rows[number]
        if start == view.hit:
            row = tuple([(text, "current-match" if role == "match" else role) for text, role in row])
        if not gutter:
            return row
        before: list[tuple[str, str]] = []
        is_first = number == 0 and view.pieces.is_line_start(start)
        if self.picks and self.help is None:
            if start == self.at and number == 0:
                before.append((CURRENT_MARK, "current"))
            else:
                before.append((" " * len(CURRENT_MARK), ""))
            is_picked = (self.number, start) in self.picked
            mark = MARKED if is_picked else UNMARKED
            before.append((mark if number == 0 else " " * len(mark), "marked" if is_picked else ""))
        if self.shows_numbers and self.help is None:
            found = view.numbers.number(start) if is_first else None
            text = "" if found is None else str(found)
            before.append((f"{text:>{foot.number_width(view)}}  ", "note"))
        return (*before, *row)

    def _mark_bar(self, view: TextView, body: list[Row], shown: list[tuple[int, int]], columns: int) -> None:
        """Put the scroll bar into the last column of the rows, as far as they leave it free."""
        size = len(view.source.data)
        if not shown or columns < foot.LEAST_FOR_BAR or len(shown) < view.room:
            return
        first, last = foot.bar(shown[0][0], view.layout.piece(shown[-1][0]).after, size, len(body))
        if (first, last) == (0, len(body)):
            return
        for at in range(len(body)):
            free = columns - 1 - foot.row_width(body[at])
            if free >= 0:
                body[at] = (*body[at], (" " * free, ""), (" ", "bar" if first <= at < last else ""))

    def _foot(self, view: TextView, columns: int) -> tuple[Row, int | None]:
        """Return the last row, and the column of the cursor if something is typed there."""
        if self.line is not None:
            label = f"  {self.line_label}  "
            room = max(columns - len(label) - 1, 1)
            inner = self.line.view(room, 1)
            complaint = self.line.complaint
            row: Row = ((label, "label"), *(inner.rows[0] if inner.rows else ()))
            if complaint is not None:
                used = foot.row_width(row)
                row = (*row, (fitted("   " + complaint.reason, max(columns - used - 1, 0)), "reason"))
            return row, len(label) + (inner.cursor[1] if inner.cursor else 0)
        fault = self.search.fault
        return foot.foot_of(self, view, columns, fault), None

    def record(self, columns: int, unit: str = "") -> list[Row]:
        """Return nothing: what stays on the screen is its last view."""
        return []

    def clear(self) -> None:
        """Draw everything again."""
        self.want(CLEAR_SCREEN)

    def end_input(self) -> None:
        """End of input."""
        self.outcome = Ended()

    ACTIONS: ClassVar[dict[str, str]] = {
        "move-up": "up",
        "move-down": "down",
        "move-page-up": "page_up",
        "move-page-down": "page_down",
        "move-half-page-up": "half_up",
        "move-half-page-down": "half_down",
        "move-text-start": "first",
        "move-text-end": "last",
        "move-to-first-line": "first",
        "move-to-line": "last",
        "move-to-share": "share",
        "move-to-typed-line": "go_to",
        "move-columns-back": "left",
        "move-columns-forward": "right",
        "follow-end": "follow",
        "set-place": "set_place",
        "move-to-mark": "to_place",
        "move-to-next-text": "next_source",
        "move-to-previous-text": "source_before",
        "reload-text": "read_again",
        "search-text-forward": "search_forward",
        "search-text-back": "search_back",
        "search-pattern-forward": "pattern_forward",
        "search-pattern-back": "pattern_back",
        "repeat-search": "search_again",
        "repeat-search-reversed": "search_again_reversed",
        "toggle-only-hits": "only_hits",
        "show-more-around": "more_around",
        "show-fewer-around": "fewer_around",
        "toggle-line-breaks": "toggle_broken",
        "toggle-line-numbers": "toggle_numbers",
        "toggle-colours": "toggle_colours",
        "toggle-mark": "toggle_mark",
        "copy-lines": "copy_lines",
        "clear-screen": "clear",
        "show-help": "show_help",
        "accept": "accept",
        "accept-if-whole": "accept",
        "leave-text": "leave",
        "cancel": "cancel",
        "interrupt": "interrupt",
    }
