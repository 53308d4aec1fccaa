"""An arrangement: parts on a screen or in a dialog, of which one has the focus, and how they are put together.

The places of all parts are computed again only when the size or the content has changed. A part is drawn again only if
it says that it is not as it was (``Part.is_stale``) or has the focus, and a row of the screen is put together again
only if a part in it was. So a key costs what the part with the focus costs, however many others there are.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Mouse
from wesperon.frozen import Frozen
from wesperon.screen.frame import Frame, fitted
from wesperon.screen.overlay import clipped
from wesperon.widgets.parts.boxes import Boxes, Divider, Heading, Placed, ScrollBar, place
from wesperon.widgets.parts.part import Box

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator

    from wesperon.screen.frame import Row
    from wesperon.widgets.parts.part import Part
    from wesperon.widgets.widget import SizeHint

#: Which way an arrow goes: rows and columns.
ARROWS = {"up": (-1, 0), "down": (1, 0), "left": (0, -1), "right": (0, 1)}


class Hit(Frozen):
    """What a click hits: a part, and the event as it gets it."""

    part: Part
    event: Mouse


class Hits(Frozen):
    """The map of clicks on parts; see ``screen.frame.ClickMap``."""

    placed: tuple[tuple[Placed, Frame], ...]
    row: int = 0
    column: int = 0

    def moved(self, rows: int, columns: int) -> Hits:
        """Return the map for a frame in which everything is further down and to the right."""
        return Hits(self.placed, self.row + rows, self.column + columns)

    def aimed(self, event: Mouse) -> Mouse:
        """Return the event with the part that is hit."""
        row, column = event.row - self.row, event.column - self.column
        for placed, frame in reversed(self.placed):
            clip, box = placed.clip, placed.box
            if clip.row <= row < clip.row + clip.rows and clip.column <= column < clip.column + clip.columns:
                inner = frame.clicks.aimed(Mouse(event.name, event.action, row - box.row, column - box.column))
                return Mouse(event.name, event.action, row, column, Hit(placed.part, inner))
        return Mouse(event.name, event.action, row, column)


class Arrangement:
    """The parts of a ``content``, in a box of any size."""

    def __init__(self, content: Part) -> None:
        self.content = content
        self.focused: Part | None = next(self.stops(), None)
        if self.focused is not None:
            self.focused.focus(True)
        self.placed: list[Placed] = []
        self._shown: set[Part] = set()
        #: What each part wanted in its box when the places were computed, with the columns of that.
        self._hints: dict[Part, tuple[int, SizeHint]] = {}
        self._hits: tuple[tuple[Placed, Frame], ...] | None = None
        self._laid: tuple[int, int, Part | None] | None = None
        self._frames: dict[Part, tuple[Box, Box, Frame]] = {}
        self._segments: dict[int, list[tuple[int, int, Part, int]]] = {}
        self._rows: list[Row] = []
        #: The groups that the user has scrolled since the focus was moved.
        self._scrolled: list[Boxes] = []

    # Focus -----------------------------------------------------------------------------------------------------------

    def stops(self) -> Iterator[Part]:
        """Yield the parts that may have the focus, in the order of declaration."""
        for part in self.content.shown_leaves():
            if part.takes_focus and part.enabled and not part.is_bar:
                yield part

    def is_stop(self, part: Part) -> bool:
        """Return True if a part may have the focus now: it is not left out either."""
        return part in self._reachable()

    def _reachable(self) -> Iterator[Part]:
        """Yield those of ``stops`` that are not left out for want of room."""
        for part in self.stops():
            if self._laid is None or part in self.shown:  # else it is known only once the places are computed
                yield part

    @property
    def shown(self) -> set[Part]:
        """The parts that are not left out, in sight or not."""
        return self._shown

    def give_focus(self, part: Part | None) -> None:
        """Give the focus to a part."""
        if part is self.focused:
            return
        before, self.focused = self.focused, part
        if before is not None:
            before.focus(False)
        if part is not None:
            part.focus(True)

    def step(self, by: int) -> None:
        """Give the focus to the next part, or the one before; after the last comes the first."""
        stops = list(self._reachable())
        if not stops:
            self.give_focus(None)
            return
        if self.focused in stops:
            self.give_focus(stops[(stops.index(self.focused) + by) % len(stops)])
        else:
            self.give_focus(stops[0 if by > 0 else -1])

    def is_last(self, part: Part) -> bool:
        """Return True if no other part after this one takes the focus, buttons apart."""
        stops = list(self.stops())
        after = stops[stops.index(part) + 1 :] if part in stops else []
        return not any(not one.is_button for one in after)

    def to_neighbour(self, key: str) -> bool:
        """Give the focus to the nearest part in the direction of an arrow. Return False if there is none."""
        rows, columns = ARROWS[key]
        boxes = {one.part: one.box for one in self.placed}
        here = boxes.get(self.focused) if self.focused is not None else None
        if here is None:
            return False
        best: tuple[int, int, int] | None = None
        found: Part | None = None
        for number, part in enumerate(self.stops()):
            box = boxes.get(part)
            if box is None or part is self.focused:
                continue
            ahead, beside = _distance(here, box, rows, columns)
            if ahead > 0 and (best is None or (beside, ahead, number) < best):
                best, found = (beside, ahead, number), part
        self.give_focus(found or self.focused)
        return found is not None

    def heed(self) -> None:
        """Have the focus somewhere in sight, whatever has become of the part that had it."""
        part = self.focused
        if part is not None and part.is_bar:
            return
        is_left_out = self._laid is not None and part not in self.shown
        if part is None or not part.enabled or part.is_away or is_left_out:
            self.step(1)

    # Scrolling -------------------------------------------------------------------------------------------------------

    def page(self, by: int) -> bool:
        """Show the next page of the parts that do not fit, or the one before. Return False if all are in sight."""
        group = self._overflowing()
        return group is not None and self.scroll(group, group.top + by * max(group.room - 1, 1))

    def wheel(self, part: Part, by: int) -> None:
        """Move what does not fit around a part by some rows."""
        group = self._around(part.group if isinstance(part, (Divider, Heading, ScrollBar)) else part)
        if group is not None:
            self.scroll(group, group.top + 3 * by)

    def scroll(self, group: Boxes, top: int) -> bool:
        """Show the parts of a group from a cell on. Return False if it shows them so already.

        The focus goes to the nearest part in sight, if one there takes it.
        """
        before = group.top
        if not group.scroll(top) or self._laid is None:
            return False
        self._scrolled.append(group)
        columns, rows, _ = self._laid
        self._lay(columns, rows)
        seen = {one.part for one in self.placed}
        if self.focused not in seen:
            stops = [part for part in self.stops() if part in seen]
            if stops:
                self.give_focus(stops[0 if top > before else -1])
        self.forget()
        return True

    def follow(self) -> None:
        """Have the part with the focus in sight again."""
        if self._scrolled:
            for group in self._scrolled:
                group.held = None
            self._scrolled.clear()
            self.forget()

    def _around(self, part: Part | None) -> Boxes | None:
        """Return the group around a part that does not fit."""
        around = part
        while around is not None:
            if isinstance(around, Boxes) and around.overflows:
                return around
            around = around.parent
        return None

    def _overflowing(self) -> Boxes | None:
        """Return the group to scroll: around the part with the focus, else any; rows rather than columns."""
        groups = [self._around(self.focused), *[self._around(part) for part in self.content.shown_leaves()]]
        found = [group for group in groups if group is not None]
        return next((group for group in found if group.down), found[0] if found else None)

    # Drawing ---------------------------------------------------------------------------------------------------------

    def reconsider(self, part: Part) -> None:
        """Compute all places again if a part of it wants another size than when they were computed."""
        part.is_stale = True
        hint = self._hints.get(part)
        if hint is not None and not part.is_hidden and part.size(hint[0]) == hint[1]:
            return
        around = part
        while around.parent is not None:
            around = around.parent
        if around is self.content:
            self._laid = None

    def box_of(self, part: Part) -> Box | None:
        """Return the box of a part that is in sight."""
        kept = self._frames.get(part)
        return None if kept is None else kept[0]

    @property
    def laid(self) -> tuple[int, int, Part | None] | None:
        """The size and the focus for which the places are computed; None if they are to be computed again."""
        return self._laid

    def forget(self) -> None:
        """Compute all places again."""
        self._laid = None

    def view(self, columns: int, rows: int) -> Frame:
        """Return all parts in a box of this size, exactly as many rows."""
        if (columns, rows, self.focused) != self._laid:
            self._lay(columns, rows)
            self._laid = (columns, rows, self.focused)
            self.heed()  # who has the focus may have no room here
            if self.focused is not None:  # what is in sight follows the focus
                self._lay(columns, rows)
            self._laid = (columns, rows, self.focused)
        dirty: set[int] = set()
        focused, frames = self.focused, self._frames
        for one in self.placed:
            part = one.part
            kept = frames.get(part)
            if kept is not None and not part.is_stale and part is not focused and kept[0] is one.box:
                continue
            frame = part.framed(one.box.columns, one.box.rows)
            if not (part.enabled or isinstance(part, Divider)):
                frame = _dim(frame)
            self._mark(one, None if kept is None or kept[0] is not one.box else kept[2], frame, dirty)
            frames[part] = (one.box, one.clip, frame)
            self._hits = None
        for row in dirty:
            if 0 <= row < rows:
                self._rows[row] = self._put_together(row, columns)
        return Frame(tuple(self._rows), *self._cursor(rows, columns), clicks=self._clicks())

    def hits_with(
        self, part: Part, frame: Frame, row: int, column: int, columns: int
    ) -> tuple[tuple[Placed, Frame], ...]:
        """Return what a click hits if a part shows a frame over the others, at this place."""
        box = Box(row, column, len(frame.rows), columns)
        return (*self._clicks().placed, (Placed(part, box, box), frame))

    def drawn(self) -> None:
        """Note that what the last view showed is on the screen."""
        for one in self.placed:
            if one.part.is_stale or one.part is self.focused:
                one.part.is_stale = False
                one.part.drawn()

    def _clicks(self) -> Hits:
        if self._hits is None:
            self._hits = tuple([(one, self._frames[one.part][2]) for one in self.placed])
        return Hits(self._hits)

    def _lay(self, columns: int, rows: int) -> None:
        """Compute the place of every part."""
        whole = Box(0, 0, rows, columns)
        every = list(place(self.content, whole, whole, self.focused))
        self._shown = {one.part for one in every}
        self._hints = {one.part: (one.box.columns, one.part.size(one.box.columns)) for one in every}
        self.placed = placed = [one for one in every if one.clip.rows and one.clip.columns]
        self._frames = {}
        self._rows = [()] * rows
        self._segments = {}
        for one in placed:
            for row in range(one.clip.row, one.clip.row + one.clip.rows):
                self._segments.setdefault(row, []).append((one.clip.column, one.clip.columns, one.part, row))
        for segments in self._segments.values():
            segments.sort(key=lambda segment: segment[0])

    def _mark(self, one: Placed, before: Frame | None, after: Frame, dirty: set[int]) -> None:
        """Note the rows of the screen in which a part looks different from before."""
        first = one.box.row
        for row in range(one.clip.row, one.clip.row + one.clip.rows):
            at = row - first
            if before is None or (before.rows[at] is not after.rows[at] and before.rows[at] != after.rows[at]):
                dirty.add(row)

    def _put_together(self, row: int, columns: int) -> Row:
        """Return a row of the screen, from the rows of all parts in it."""
        made: list[tuple[str, str]] = []
        at = 0
        for column, wide, part, _ in self._segments.get(row, ()):
            box, clip, frame = self._frames[part]
            if column > at:
                made.append((" " * (column - at), ""))
            own = frame.rows[row - box.row]
            if clip.columns < box.columns:
                own = clipped(own, clip.column - box.column, clip.columns)
            made += fitted(own, wide)
            at = column + wide
        return tuple(made)

    def _cursor(self, rows: int, columns: int) -> tuple[tuple[int, int] | None, str]:
        """Return where the cursor is, in the part with the focus, and its shape."""
        kept = self._frames.get(self.focused) if self.focused is not None else None
        if kept is None:
            return None, ""
        box, clip, frame = kept
        row, column = frame.cursor or (min((self.focused.title_rows if self.focused else 0), box.rows - 1), 0)
        row, column = row + box.row, column + box.column
        row = min(max(row, clip.row), clip.row + clip.rows - 1)
        column = min(max(column, clip.column), clip.column + clip.columns)
        return (row, min(column, columns)), frame.shape if frame.cursor else ""


def _dim(frame: Frame) -> Frame:
    """Return the frame of a part that cannot be used."""
    return Frame(tuple([tuple([(text, "hint") for text, _ in row]) for row in frame.rows]))


def _distance(here: Box, there: Box, rows: int, columns: int) -> tuple[int, int]:
    """Return how far a box is ahead in a direction, 0 if it is not, and how far beside it."""
    if rows:
        ahead = there.row - (here.row + here.rows - 1) if rows > 0 else here.row - (there.row + there.rows - 1)
        beside = _apart(here.column, here.columns, there.column, there.columns)
    else:
        ahead = (
            there.column - (here.column + here.columns - 1)
            if columns > 0
            else here.column - (there.column + there.columns - 1)
        )
        beside = _apart(here.row, here.rows, there.row, there.rows)
    return ahead, beside


def _apart(first: int, size: int, other: int, other_size: int) -> int:
    """Return how far apart two stretches are, 0 if they overlap."""
    return max(other - (first + size - 1), first - (other + other_size - 1), 0)
