"""The levels of a screen, which are its content and the dialogs over it, and how one is drawn over another."""

from __future__ import annotations

from wesperon.screen.frame import Frame
from wesperon.screen.overlay import overlay
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.widgets.parts.arrangement import Arrangement, Hits
from wesperon.widgets.parts.part import RULE, said_instead

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any

    from wesperon.screen.frame import Row
    from wesperon.widgets.parts.part import Part

#: Columns between the edge of a dialog and what is in it; the rows of its frame.
EDGE, FRAME_ROWS = 2, 2
#: The frame of a dialog: corners, and the sides.
CORNERS, SIDE = ("┌", "┐", "└", "┘"), "│"
#: On a smaller screen a dialog has no frame.
LEAST_COLUMNS, LEAST_ROWS = 24, 8
#: How many columns of the screen a dialog leaves free at least, if there are so many.
FREE = 4
#: What the keys of every screen do.
KEYS_OF_SCREEN = (
    "Tab Shift-Tab: the next part, the one before",
    "arrows: to the part beside it",
    "Alt and an underlined letter: to that part",
    "PageUp PageDown: what does not fit",
    "Enter: on; the default button after the last",
    "Ctrl-X P: preferences",
    "Ctrl-L: draw again",
    "Escape: leave a dialog   Ctrl-D: leave",
)
#: The same for a screen with a menu bar, and beside a rule that can be moved.
KEYS_OF_BAR = "F10: the menus"
KEYS_OF_DIVIDER = "Ctrl-X and an arrow: the rule beside this part"
#: What shows the keys that there was no room for.
MORE_KEYS = "F1: more keys"


class Level:
    """The content of a screen, or of a dialog over it; ``outcome`` is set once it is closed, with its ``result``."""

    def __init__(self, content: Part, title: str = "") -> None:
        self.title = visible(title)
        self.arrangement = Arrangement(content)
        self.is_closed = False
        #: The parts that may have something to do without keys, or lists that grow.
        self.working: list[Part] = []
        self.result: Any = None
        #: Called once it is closed.
        self.on_close: Callable[[], object] | None = None
        #: Where it was drawn, as the first row and column.
        self.place = (0, 0)

    @property
    def content(self) -> Part:
        """The parts in it."""
        return self.arrangement.content


def title_row(title: str, columns: int) -> Row:
    """Return the title of a screen, and a rule up to the edge."""
    text = cut(title, columns - 1)
    rest = columns - 2 - width(text)
    return ((text, "title"), (" " + RULE * rest, "hint")) if rest > 0 else ((text, "title"),)


def with_list(frame: Frame, level: Level, columns: int, rows: int) -> Frame:
    """Return the frame with what the part with the focus lets down over it."""
    part = level.arrangement.focused
    if part is None:
        return frame
    at = level.arrangement.box_of(part)
    if at is None:
        return frame
    top, left = at.row + level.place[0], at.column + level.place[1]
    below_it = rows - 1 - (top + 1)
    room = at.columns
    found = part.tried(part.below, lambda error: (said_instead(error, room), room), room, max(below_it, top, 1))
    if found is None:
        return frame
    shown, wide = found
    height = len(shown.rows)
    row = top + 1 if height <= below_it or below_it >= top else max(top - height, 0)
    over = overlay(frame, shown, row, left, min(wide, columns - left), is_cut_out=True)
    clicks = Hits(level.arrangement.hits_with(part, shown, row - level.place[0], left - level.place[1], wide))
    return Frame(over.rows, over.cursor or frame.cursor, over.shape, clicks=clicks.moved(*level.place))


def with_dialog(frame: Frame, level: Level, columns: int, rows: int) -> Frame:
    """Return the frame with a dialog over it, in the middle."""
    if columns < LEAST_COLUMNS or rows < LEAST_ROWS:
        return _bare(frame, level, columns, rows)
    edge = EDGE if columns > 40 else 1
    most_columns = max(columns - 2 * edge - 1 - (FREE if columns > 40 else 0), 1)
    hint = level.content.size(most_columns)
    natural = hint.columns if not level.content.fills_across else max(hint.columns, min(60, most_columns))
    wide = max(min(max(natural, width(level.title) + 2, hint.least_columns), most_columns), 1)
    hint = level.content.size(wide)
    most_rows = max(rows - 1 - FRAME_ROWS, 1)
    useful = level.content.useful_rows(wide)
    high = max(min(most_rows if useful is None else max(useful, hint.least_rows), most_rows), 1)
    body = level.arrangement.view(wide, high)
    outer = wide + 2 * edge + 1
    top, left = max((rows - 1 - high - FRAME_ROWS) // 2, 0), max((columns - outer) // 2, 0)
    level.place = top + 1, left + edge
    title = f" {cut(level.title, outer - 6)} " if level.title else ""
    first = CORNERS[0] + RULE + title + RULE * (outer - 3 - width(title)) + CORNERS[1]
    last = CORNERS[2] + RULE * (outer - 2) + CORNERS[3]
    inner = [
        ((SIDE + " " * (edge - 1), ""), *row, (" " * (wide - _width(row)) + " " * edge + SIDE, "")) for row in body.rows
    ]
    shown = (((first, ""),), *inner, ((last, ""),))
    cursor = None if body.cursor is None else (body.cursor[0] + 1, body.cursor[1] + edge)
    made = Frame(shown, cursor, body.shape, clicks=body.clicks.moved(1, edge))
    over = overlay(frame, made, top, left, outer)
    return Frame(over.rows[:rows], over.cursor, over.shape, clicks=body.clicks.moved(*level.place))


def _bare(frame: Frame, level: Level, columns: int, rows: int) -> Frame:
    """Return a dialog without a frame, where there is no room for one."""
    has_foot = rows > 1
    body = level.arrangement.view(max(columns - 1, 1), rows - has_foot)
    level.place = (0, 0)
    return Frame((*body.rows, *frame.rows[len(body.rows) :]), body.cursor, body.shape, clicks=body.clicks)


def pages_of_keys(keys: Sequence[str], rows: int) -> list[list[str]]:
    """Return what all keys do, in pages of so many rows of a screen: ``keys`` are those of this one, or of its part."""
    said = [tell(text) for text in (*keys, *KEYS_OF_SCREEN)]
    room = max(rows - 2, 1)
    if len(said) <= room:
        return [said]
    each = max(room - 1, 1)
    pages = [said[at : at + each] for at in range(0, len(said), each)]
    return [[*page, tell(MORE_KEYS)][:room] for page in pages[:-1]] + pages[-1:]


def with_keys(frame: Frame, said: Sequence[str], columns: int, rows: int) -> Frame:
    """Return the frame with a page of what the keys do over it."""
    wide = min(max(width(text) for text in said) + 2 * EDGE, columns)
    shown = [((" " * EDGE + cut(text, wide - 2 * EDGE), "selected"),) for text in said]
    padded = tuple([((row[0][0] + " " * (wide - width(row[0][0])), "selected"),) for row in shown])
    over = overlay(frame, Frame(padded), max((rows - len(padded)) // 2, 0), max((columns - wide) // 2, 0), wide)
    return Frame(over.rows[:rows], frame.cursor, frame.shape, clicks=frame.clicks)


def _width(row: Row) -> int:
    return sum(width(text) for text, _ in row)
