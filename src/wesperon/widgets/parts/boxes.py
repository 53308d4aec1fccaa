"""Boxes: parts side by side (``Across``) or below each other (``Down``), in boxes of their own.

To lay parts out is to compute: what comes back is a list of places. If not even the least of all parts fits, they have
their least, and what is in sight is a window on them that moves with the focus.
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.frame import Frame
from wesperon.screen.shares import Wants, shares
from wesperon.values import DeclarationError
from wesperon.widgets.parts.checked import checked_flag
from wesperon.widgets.parts.part import RULE, Box, Part, checked_part, scroll_cell
from wesperon.widgets.widget import SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator
    from typing import Any

    from wesperon.editing.keys.events import Mouse
    from wesperon.widgets.parts.part import Host

#: Columns between parts side by side; with a divider, and what that is drawn with.
GAP, DIVIDED_GAP, DIVIDER = 2, 3, "│"
#: The fewest cells that a divider leaves to a part.
LEAST_MOVED = 3
#: The columns of a scroll bar, with the blank before it; so narrow a group has none.
BAR_COLUMNS, LEAST_WITH_BAR = 2, 12


class Placed(Frozen):
    """A part that is no group, in its box, and what of the box is in sight."""

    part: Part
    box: Box
    clip: Box


class Boxes(Part):
    """Several ``parts`` that share the room; with ``divided`` a rule between them can be moved."""

    #: Whether the parts are below each other.
    down = True
    _is_hidden = False

    def __init__(self, *parts: Part, divided: bool = False, **place: Any) -> None:
        super().__init__(**place)
        if not parts:
            raise DeclarationError(f"{type(self).__name__}() needs parts")
        self.parts = [checked_part(part) for part in parts]
        leaves = [*self.leaves()]
        if len(set(map(id, leaves))) < len(leaves):
            raise DeclarationError("a part is at one place of a screen only")
        count = len(self.parts) - 1 if checked_flag("divided", divided) else 0
        self.dividers = [Divider(self, at) for at in range(count)]
        #: What is in sight of parts that do not fit: from which cell on, of how many, and how many of them.
        self.top = self.total = self.room = 0
        #: From which cell on the user wants to see them; if none, the one with the focus is in sight.
        self.held: int | None = None
        self.bar = ScrollBar(self)
        #: The sizes that the user has given the parts by a divider; those of the last layout.
        self.moved: list[int] = []
        self.sizes: list[int] = []

    def leaves(self) -> Iterator[Part]:
        """See ``Part``."""
        for part in self.parts:
            yield from part.leaves()

    def shown_leaves(self) -> Iterator[Part]:
        """See ``Part``."""
        for part in self.shown_parts:
            yield from part.shown_leaves()

    @property
    def shown_parts(self) -> list[Part]:
        """The parts that are not hidden; a group of which nothing is shown is hidden too."""
        return [part for part in self.parts if not part.is_hidden]

    @property
    def is_hidden(self) -> bool:
        """See ``Part``."""
        return self._is_hidden or all(part.is_hidden for part in self.parts)

    @is_hidden.setter
    def is_hidden(self, is_hidden: bool) -> None:
        self._is_hidden = is_hidden

    def add(self, part: Part) -> None:
        """Show a part below the others."""
        if checked_part(part) in self.parts:
            raise DeclarationError("a part is at one place of a screen only")
        part.attach(self.host, self)
        self.parts.append(part)
        if self.host is not None:
            self.host.adopt(part)

    def attach(self, host: Host | None, parent: Part | None = None) -> None:
        """See ``Part``; a part is on one screen at a time."""
        super().attach(host, parent)
        for part in [*self.parts, *self.dividers, self.bar]:
            part.attach(host, self)

    @property
    def gap(self) -> int:
        """The cells between two parts."""
        if self.down:
            return 1 if self.dividers else 0
        return DIVIDED_GAP if self.dividers else GAP

    # The size --------------------------------------------------------------------------------------------------------

    def wanted(self, columns: int) -> list[Wants]:
        """Return what each part wants along the row or the column."""
        return [part.wants(columns, down=self.down) for part in self.shown_parts]

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``: what all parts want together."""
        room = max(columns, 1)
        if self.down:
            hints = [part.size(room) for part in self.shown_parts]
            if not hints:
                return SizeHint(1, 0, 1, 0)
            wants = self.wanted(room)
            between = self.gap * (len(wants) - 1)
            least = sum(one.least for one in wants if not one.hide_below) + between
            rows = sum(max(one.size or one.least, one.least) for one in wants) + between
            return SizeHint(max(hint.least_columns for hint in hints), least, max(h.columns for h in hints), rows)
        wants = self.wanted(room)
        between = self.gap * (len(wants) - 1)
        found = shares(max(room - between, 1), wants)
        hints = [part.size(cells or room) for part, cells in zip(self.shown_parts, found, strict=True)]
        titles = [part.title_rows for part in self.shown_parts]
        if not hints:
            return SizeHint(1, 0, 1, 0)
        return SizeHint(
            sum(one.least for one in wants if not one.hide_below) + between,
            max(hint.least_rows + title for hint, title in zip(hints, titles, strict=True)),
            sum(max(one.size or one.least, one.least) for one in wants) + between,
            max(hint.rows + title for hint, title in zip(hints, titles, strict=True)),
        )

    def useful_rows(self, columns: int) -> int | None:
        """See ``Part``."""
        if not self.down or self.wished[0] is not None or self.wished[3] is not None:
            return super().useful_rows(columns)
        rows = [part.useful_rows(columns) for part in self.shown_parts]
        known = [count for count in rows if count is not None]
        return sum(known) + self.gap * (len(rows) - 1) if len(known) == len(rows) else None

    @property
    def fills_across(self) -> bool:  # type: ignore[override]
        """Whether one of the parts takes more columns than its content needs."""
        return any(part.fills_across or part.wished[1] for part in self.parts)

    @property
    def fills_down(self) -> bool:  # type: ignore[override]
        """Whether one of the parts takes more rows than its content needs."""
        return any(part.fills_down or (part.wished[1] and self.down) for part in self.parts)

    # Places ----------------------------------------------------------------------------------------------------------

    def place(self, box: Box, clip: Box, focused: Part | None) -> Iterator[Placed]:
        """Yield every part that is in sight, in a box; the window on parts that do not fit goes where the focus is."""
        if self.title_rows and box.rows > 1:
            first = Box(box.row, box.column, 1, box.columns)
            yield Placed(Heading(self), first, first.inside(clip))
            box = Box(box.row + 1, box.column, box.rows - 1, box.columns)
        clip = box.inside(clip)
        room = box.rows if self.down else box.columns
        found = self._sizes(box.columns, room)
        if self.down and box.columns > LEAST_WITH_BAR and room > 1 and self._cells(found) > room:
            edge = Box(box.row, box.column + box.columns - 1, box.rows, 1)
            yield Placed(self.bar, edge, edge.inside(clip))
            box = Box(box.row, box.column, box.rows, box.columns - BAR_COLUMNS)
            found = self._sizes(box.columns, room)
        inner: list[Placed] = []
        at = (box.row if self.down else box.column) - self.top
        start, seen = at, False
        for number, (part, cells) in enumerate(zip(self.shown_parts, found, strict=True)):
            if not cells:
                continue
            if seen and self.gap:
                if self.dividers:
                    between = self._between(box, at)
                    inner.append(Placed(self.dividers[number - 1], between, between))
                at += self.gap
            seen = True
            own = Box(at, box.column, cells, box.columns) if self.down else Box(box.row, at, box.rows, cells)
            inner += place(part, own, own, focused)
            at += cells
        self.sizes = found
        by = self._scrolled(inner, box, at - start, focused)
        for one in inner:
            rows, columns = (by, 0) if self.down else (0, by)
            yield Placed(one.part, one.box.moved(rows, columns), one.clip.moved(rows, columns).inside(clip))

    def _sizes(self, columns: int, room: int) -> list[int]:
        """Return the cells of each part; those that the user has given them by a divider, in proportion."""
        wants = self.wanted(columns)
        if self.moved:
            wants = [
                Wants(None, max(cells, 1), one.least, one.most, one.hide_below)
                for one, cells in zip(wants, self.moved, strict=True)
            ]
        return shares(max(room - self.gap * (len(wants) - 1), 1), wants)

    def _cells(self, found: list[int]) -> int:
        """Return how many cells parts of these sizes take together."""
        shown = [cells for cells in found if cells]
        return sum(shown) + self.gap * (len(shown) - 1)

    def _between(self, box: Box, at: int) -> Box:
        return Box(at, box.column, 1, box.columns) if self.down else Box(box.row, at, box.rows, self.gap)

    def _scrolled(self, inner: list[Placed], box: Box, total: int, focused: Part | None) -> int:
        """Return by how much all parts are moved so that the one with the focus is in sight; note where they are."""
        room = box.rows if self.down else box.columns
        first = box.row if self.down else box.column
        top = self.top if self.held is None else self.held
        self.total, self.room = total, room
        for one in inner:
            if one.part is focused and self.held is None:
                start = (one.box.row if self.down else one.box.column) - first + self.top
                end = start + min(one.box.rows if self.down else one.box.columns, room)
                top = min(max(top, end - room), start)
        top = max(min(top, total - room), 0)
        by, self.top = self.top - top, top
        return by

    @property
    def overflows(self) -> bool:
        """Whether not all of its parts are in sight."""
        return self.total > self.room > 0

    def scroll(self, top: int) -> bool:
        """Show its parts from a cell on. Return False if they are shown so already."""
        self.held = max(min(top, self.total - self.room), 0)
        return self.held != self.top

    def move_divider(self, at: int, by: int) -> None:
        """Give the part before a divider so many cells more, and the part after it so many fewer."""
        if len(self.sizes) != len(self.shown_parts) or not (self.sizes[at] and self.sizes[at + 1]):
            return
        by = min(max(by, LEAST_MOVED - self.sizes[at]), self.sizes[at + 1] - LEAST_MOVED)
        if by:
            self.moved = [*self.sizes]
            self.moved[at] += by
            self.moved[at + 1] -= by
            self.sizes = self.moved
            if self.host is not None:
                self.host.touch(self)

    def view(self, columns: int, rows: int) -> Frame:
        """Return nothing: its parts are drawn by themselves."""
        return Frame(())


class Across(Boxes):
    """Parts side by side, from left to right.

    ``parts`` are any parts, also other boxes; with ``divided=True`` a rule between them can be moved by the mouse and
    by keys. ``title``, ``size``, ``weight``, ``least``, ``most`` and ``hide_below`` are those of every part.

    Example:
        >>> Across(Label("dome"), Label("mast")).parts[1].value
        'mast'

    """

    down = False


class Down(Boxes):
    """Parts below each other, from top to bottom.

    ``parts`` are any parts, also other boxes; with ``divided=True`` a rule between them can be moved by the mouse and
    by keys. ``title``, ``size``, ``weight``, ``least``, ``most`` and ``hide_below`` are those of every part.

    Example:
        >>> len(Down(Label("dome"), Label("mast")).parts)
        2

    """

    down = True


def place(part: Part, box: Box, clip: Box, focused: Part | None) -> Iterator[Placed]:
    """Yield what a part shows, in a box of which ``clip`` is in sight: itself, or what is in it."""
    inner = getattr(part, "place", None)
    if inner is None:
        yield Placed(part, box, box.inside(clip))
    else:
        yield from inner(box, clip, focused)


class Heading(Part):
    """The title of a group of parts, in the rule above them."""

    def __init__(self, group: Part) -> None:
        super().__init__()
        self.group = group

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Heading) and other.group is self.group

    def __hash__(self) -> int:
        return hash(id(self.group))

    def view(self, columns: int, rows: int) -> Frame:
        """Return the title."""
        return Frame((self.group.title_row(columns),))


class ScrollBar(Part):
    """A bar beside the parts of a group that do not fit: where those are that are in sight."""

    def __init__(self, group: Boxes) -> None:
        super().__init__()
        self.group = group

    def view(self, columns: int, rows: int) -> Frame:
        """Return the bar."""
        group = self.group
        cells = [scroll_cell(at, group.top, rows, max(group.total, 1)) for at in range(rows)]
        return Frame(tuple([((text, role),) for text, role in cells]))

    def top_at(self, row: int) -> int:
        """Return from which cell on the parts are shown if the bar is to be at a row."""
        group = self.group
        return row * (group.total - group.room) // max(group.room - 1, 1)


class Divider(Part):
    """The rule between two parts of a group, which can be moved."""

    def __init__(self, group: Boxes, at: int) -> None:
        super().__init__()
        self.group, self.at = group, at

    def view(self, columns: int, rows: int) -> Frame:
        """Return the rule."""
        if self.group.down:
            return Frame((((RULE * columns, "hint"),),))
        return Frame(tuple([(((f" {DIVIDER} ")[:columns], "hint"),)] * rows))

    def dragged(self, event: Mouse) -> None:
        """Go to where the button of the mouse was let go."""
        self.group.move_divider(self.at, event.row if self.group.down else event.column - 1)
