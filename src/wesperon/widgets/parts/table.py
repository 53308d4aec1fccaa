"""A table on a screen: columns with headings over rows, however many there are.

Only the rows in sight are asked for. A column is as wide as the widest of its cells among the first rows that were
seen, so that it stays as it is while the table scrolls.
"""

from __future__ import annotations

from functools import partial

from wesperon.frozen import Frozen
from wesperon.screen.shares import Wants, shares
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.hushing import MASK
from wesperon.text.messages import tell
from wesperon.values import Complaint, DeclarationError
from wesperon.widgets.parts.checked import checked_count, checked_flag, checked_text, function_or_none
from wesperon.widgets.parts.part import fault_text
from wesperon.widgets.parts.row_cells import can_change, changed_row
from wesperon.widgets.parts.rows_part import RowsPart

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, ClassVar, TypeVar

    from wesperon.editing.keys.events import Mouse
    from wesperon.screen.frame import Row
    from wesperon.values.slots import Slot

    Fallback = TypeVar("Fallback")

#: Blanks between two columns, how many rows say how wide a column is, and how wide it is at most and at least.
BETWEEN, SAMPLED, WIDEST, NARROWEST = 2, 200, 40, 4
#: What is after the heading of the column by which the rows are sorted.
RISING, FALLING = " +", " -"


class Column(Frozen):
    """A column of a table: its ``heading``, and what there is to say of it.

    ``key`` is the name, the index or the function by which a row gives its cell; by default the heading where rows are
    mappings, or objects with attributes, else the place of the column.
    ``width`` is fixed, else it is found. ``right`` aligns to the right; None means that numbers are. ``slot`` lets a
    cell be changed in place.

    Example:
        >>> Column("seeing", right=True).heading
        'seeing'

    """

    heading: str
    key: Any = None
    width: int | None = None
    right: bool | None = None
    slot: Any = None


class Unnamed(Frozen):
    """The key of a column that has none: its ``place`` and its ``heading``, of which the sort of row decides."""

    place: int
    heading: str


class Fault(str):
    """What is seen in a cell in place of a text that cannot be made."""


class Table(RowsPart):
    """Rows in columns, with a heading above each.

    ``rows`` is a sequence of rows, each a sequence or a mapping; or an object with ``len`` and a method
    ``rows(first, count)``. ``columns`` are headings, or :class:`Column`. With ``cells`` the selection is a cell, else a
    row. ``action`` is called with the row at Enter or a click on the current one. ``sorts=False`` leaves the rows in
    their order. ``show(rows)`` shows others. The other keywords are those of every part.

    ``value`` is the current row, None if there is none; ``at`` its number, ``column`` that of the cell.

    Example:
        >>> table = Table([("HOLLIN-051", 90), ("HOLLIN-102", 60)], ["target", "seconds"])
        >>> table.value
        ('HOLLIN-051', 90)

    """

    def __init__(
        self,
        rows: Any = (),
        columns: Sequence[str | Column] = (),
        *,
        cells: bool = False,
        action: Callable[[Any], Any] | Callable[[], Any] | None = None,
        sorts: bool = True,
        **place: Any,
    ) -> None:
        super().__init__(**place)
        if not hasattr(columns, "__iter__") or isinstance(columns, str | bytes):
            raise DeclarationError(f"columns={columns!r}: must be a list of columns, each a heading or a Column")
        made = [Column(one) if isinstance(one, str) else one for one in columns]
        if not made or not all(isinstance(one, Column) for one in made):
            raise DeclarationError(f"Table(..., {columns!r}): must have columns, each a heading or a Column")
        self.columns = [
            Column(
                visible(checked_text("heading", one.heading)),
                Unnamed(number, one.heading) if one.key is None else one.key,
                one.width if one.width is None else checked_count("width", one.width, 1, "a number of cells"),
                one.right if one.right is None else checked_flag("right", one.right),
                one.slot,
            )
            for number, one in enumerate(made)
        ]
        self.cells = checked_flag("cells", cells) or any(one.slot is not None for one in made)
        self.action_function = function_or_none("action", action, "the row")
        self.sorts = checked_flag("sorts", sorts)
        self.column = 0
        #: The column that the rows are sorted by, and whether they fall.
        self.sorted_by: tuple[int, bool] | None = None
        self._order: Sequence[int] | None = None
        self._widths: tuple[tuple[int, int], list[int]] | None = None
        #: Whether it has more columns than there is room for, and the first that is in sight then.
        self.is_wide, self._first_column = False, 0
        self._rights: list[bool] = []
        self.rows: Any = ()
        #: The current row when the user came to it, in a list of one; the program may have changed the rows since.
        self._current: list[Any] = []
        #: What the rows of the program have raised; empty if nothing.
        self.fault = ""
        self.receive(rows)

    def receive(self, rows: Any = (), *more: Any) -> None:
        """See ``Part``."""
        if not hasattr(rows, "__len__") and hasattr(rows, "__iter__"):
            rows = list(rows)
        if not hasattr(rows, "__len__") or not (hasattr(rows, "rows") or hasattr(rows, "__getitem__")):
            raise DeclarationError(
                f"a table needs a sequence of rows, or an object with rows(first, count), got {rows!r}"
            )
        self._check_headings(rows)
        self._check_changes(rows)
        self.rows = rows
        self._widths, self.fault = None, ""
        self._sort()
        self.at = min(self.at, max(self.count - 1, 0))
        self._stay_at_current()
        self.stale()

    def moved(self) -> None:
        """See ``RowsPart``."""
        self._keep_current()
        super().moved()

    def _keep_current(self) -> None:
        if isinstance(self.rows, list | tuple):
            self._current = [self.value] if self.count else []

    def _stay_at_current(self) -> None:
        """Have the row current that was, if it is still there."""
        if not isinstance(self.rows, list | tuple):
            return
        found = self._place_of(self._current[0], self.index) if self._current and self.rows else None
        if found is not None:
            self.at = found if self._order is None else self._order.index(found)
        self._keep_current()

    def _place_of(self, row: Any, before: int) -> int | None:
        """Return the place of a row that was at another one ``before``; None if it is gone."""
        rows = self.rows
        if before < len(rows) and rows[before] is row:
            return before
        identical = [*map(id, rows)]
        if id(row) in identical:
            return identical.index(id(row))
        try:
            return before if before < len(rows) and rows[before] == row else int(rows.index(row))
        except Exception:  # none is equal, or rows cannot be compared
            return None

    def _check_headings(self, rows: Any) -> None:
        """Raise DeclarationError for a key that none of the first rows has: the column's own, or its heading."""
        first = list(rows[:SAMPLED]) if isinstance(rows, list | tuple) else []
        if not first or not all(hasattr(row, "keys") for row in first):
            return
        names = dict.fromkeys(str(name) for row in first for name in row)
        for column in self.columns:
            if isinstance(column.key, Unnamed) and column.key.heading not in names:
                raise DeclarationError(
                    f"no row has {column.key.heading!r}; there are: {', '.join(names)}; "
                    f"write Column({column.key.heading!r}, key=...)"
                )
            if isinstance(column.key, str) and column.key not in names:
                raise DeclarationError(
                    f"Column({column.heading!r}, key={column.key!r}): no row has {column.key!r}; "
                    f"there are: {', '.join(names)}"
                )

    def _check_changes(self, rows: Any) -> None:
        """Raise DeclarationError for a column that has a slot where no value can be put into the first rows."""
        for column in self.columns:
            if column.slot is not None:
                if callable(column.key):
                    _refuse_change(column)
                for row in rows[:SAMPLED] if isinstance(rows, list | tuple) else ():
                    if not can_change(rows, row, _key_of(row, column)):
                        _refuse_change(column)

    @property
    def count(self) -> int:
        """See ``RowsPart``."""
        try:
            return len(self.rows)
        except Exception as error:
            return self._failed(error, 0)

    def _failed(self, error: Exception, instead: Fallback) -> Fallback:
        """Note what the rows of the program have raised, to be shown in their place, and go on with something else."""
        self.fault = fault_text(error)
        return instead

    @property
    def value(self) -> Any:
        """The current row; None if there is none."""
        if not self.count:
            return None
        found = self._fetch(min(self.at, self.count - 1), 1)
        return found[0] if found else None

    @property
    def index(self) -> int:
        """The place of the current row among the rows that were given, however they are sorted; -1 if there is none."""
        if not self.count:
            return -1
        at = min(self.at, self.count - 1)
        return at if self._order is None else self._order[at]

    def _fetch(self, first: int, count: int) -> Sequence[Any]:
        """Return so many rows in the order in which they are shown; none if the program cannot give them."""
        try:
            if self._order is not None:
                return [self.rows[at] for at in self._order[first : first + count]]
            if hasattr(self.rows, "rows"):
                return [*self.rows.rows(first, count)][:count]
            return [self.rows[at] for at in range(first, min(first + count, len(self.rows)))]
        except Exception as error:
            return self._failed(error, [])

    def cell(self, row: Any, column: Column) -> Any:
        """Return what a ``row`` has in a ``column``."""
        key = column.key
        if key.__class__ is Unnamed:
            key = key.place if row.__class__ is list or row.__class__ is tuple else _key_of(row, column)
        try:
            if callable(key):
                return self._called(key, row)
            if isinstance(key, str) and not hasattr(row, "keys"):
                return getattr(row, key)
            return row[key]
        except (LookupError, TypeError, AttributeError):  # a row that is shorter than others, or has no such name
            return ""
        except Exception as error:
            return Fault(fault_text(self._failed(error, error)))

    def _called(self, key: Callable[[Any], Any], row: Any) -> Any:
        """Return what a function of the program gives for a row; what it has raised is seen in the cell."""
        try:
            return key(row)
        except Exception as error:
            return Fault(fault_text(self._failed(error, error)))

    def _text(self, row: Any, column: Column) -> str:
        value = self.cell(row, column)
        is_empty = value is None or (isinstance(value, str) and not value)
        if column.slot is not None and column.slot.secret and not is_empty:
            return MASK
        try:
            return value if isinstance(value, Fault) else "" if value is None else visible(str(value))
        except Exception as error:
            return Fault(fault_text(self._failed(error, error)))

    # Sorting ---------------------------------------------------------------------------------------------------------

    def sort(self) -> None:
        """Sort by the column of the cursor: rising, then falling, then as they were given."""
        self.sort_by(self.column)

    def sort_by(self, column: int) -> None:
        """Sort by the number of a ``column``: rising, then falling, then as the rows were given."""
        if not self.sorts or not hasattr(self.rows, "__getitem__"):
            return
        before = self.sorted_by
        row = self.index
        if before is None or before[0] != column:
            self.sorted_by = column, False
        else:
            self.sorted_by = None if before[1] else (column, True)
        self._sort()
        if row >= 0:
            self.at = row if self._order is None else self._order.index(row)
        self.stale()

    def _sort(self) -> None:
        if self.sorted_by is None or not hasattr(self.rows, "__getitem__"):
            self._order = None
            return
        number, falls = self.sorted_by
        column = self.columns[number]
        values = [self.cell(row, column) for row in self.rows]
        try:
            self._order = sorted(range(len(values)), key=values.__getitem__, reverse=falls)
        except TypeError:  # not all of one kind: by what is seen of them
            texts = [self._text(row, column) for row in self.rows]
            self._order = sorted(range(len(texts)), key=texts.__getitem__, reverse=falls)

    # View ------------------------------------------------------------------------------------------------------------

    def widths(self, columns: int) -> list[int]:
        """Return how wide each column is in a box of so many ``columns``."""
        if self._widths is not None and self._widths[0] == (columns, self.column):
            return self._widths[1]
        sample = self._fetch(0, min(SAMPLED, self.count))
        wants = []
        self._rights = [self._is_right(column, sample) for column in self.columns]
        for column in self.columns:
            widest = max([width(self._text(row, column)) for row in sample] + [width(column.heading) + len(RISING)])
            size = column.width or min(widest, WIDEST)
            wants.append(Wants(None, max(size, 1), min(size, NARROWEST), size))
        room = columns - BETWEEN * (len(wants) - 1)
        if sum(one.least for one in wants) <= room or len(wants) == 1:
            self.is_wide, found = False, shares(max(room, 1), wants)
        else:
            self.is_wide, found = True, self._window([one.most or 1 for one in wants], columns)
        self._widths = (columns, self.column), found
        return found

    def _window(self, sizes: Sequence[int], columns: int) -> list[int]:
        """Return how wide the columns are that are in sight, with the current one among them, and 0 for all others."""
        last = len(sizes)
        first = min(self._first_column, self.column)
        while first and sum(sizes[first - 1 :]) + BETWEEN * (last - first) <= columns:
            first -= 1
        while True:
            found, left = [0] * last, columns
            for number in range(first, last):
                if left < NARROWEST and number > first:
                    break
                found[number] = min(sizes[number], max(left, 1))
                left -= found[number] + BETWEEN
            if first == self.column or found[self.column] == sizes[self.column]:
                self._first_column = first
                return found
            first += 1

    def _is_right(self, column: Column, sample: Sequence[Any]) -> bool:
        """Return True if a column is aligned to the right: as it says, else if all that is in it are numbers."""
        if column.right is not None:
            return column.right
        found = [value for row in sample if (value := self.cell(row, column)) not in (None, "")]
        return bool(found) and all(isinstance(value, (int, float)) and not isinstance(value, bool) for value in found)

    @property
    def heading_rows(self) -> int:
        """See ``RowsPart``."""
        return 1

    def heading(self, columns: int) -> Sequence[Row]:
        """See ``RowsPart``."""
        spans: list[tuple[str, str]] = []
        for number, (column, wide) in enumerate(zip(self.columns, self.widths(columns), strict=True)):
            if not wide:
                continue
            sign = ""
            if self.sorted_by is not None and self.sorted_by[0] == number:
                sign = FALLING if self.sorted_by[1] else RISING
            text = cut(column.heading, max(wide - len(sign), 1)) + sign
            blank = " " * max(wide - width(text), 0)
            is_right = self._rights[number]
            spans += [(" " * BETWEEN, "")] if spans else []
            spans += [(blank, ""), (text, "title")] if is_right else [(text, "title"), (blank, "")]
        return (tuple([span for span in spans if span[0]]),)

    def rows_in_sight(self, first: int, count: int, columns: int) -> Sequence[Row]:
        """See ``RowsPart``."""
        widths = self.widths(columns)
        found = self._fetch(first, count)
        if not found and self.fault:
            return [((cut(self.fault, columns), "reason"),)]
        return [self._line(first + number, row, widths) for number, row in enumerate(found)]

    def _line(self, number: int, row: Any, widths: list[int]) -> Row:
        is_current = number == min(self.at, self.count - 1)
        whole = ("current" if self.has_focus else "marked") if is_current and not self.cells else ""
        spans: list[tuple[str, str]] = []
        for at, (column, wide) in enumerate(zip(self.columns, widths, strict=True)):
            if not wide:
                continue
            found = self._text(row, column)
            text = cut(found, wide)
            blank = " " * (wide - width(text))
            plain = "reason" if isinstance(found, Fault) else ""
            role = whole or ("current" if is_current and at == self.column and self.has_focus else plain)
            if spans:
                spans.append((" " * BETWEEN, whole))
            padded = blank + text if self._rights[at] else text + blank
            spans.append((padded, role))
        return tuple(spans)

    def cursor_column(self, columns: int) -> int:
        """See ``RowsPart``."""
        if not self.cells:
            return 0
        return sum(wide + BETWEEN for wide in self.widths(columns)[: self.column] if wide)

    def column_at(self, place: int) -> int | None:
        """Return the number of the column that a ``place`` in a row is in; None if it is in none."""
        left = 0
        for number, wide in enumerate(self._widths[1] if self._widths else ()):
            if left <= place < left + wide + BETWEEN and wide:
                return number
            left += wide + BETWEEN if wide else 0
        return None

    # Keys ------------------------------------------------------------------------------------------------------------

    def left(self) -> None:
        """To the column before."""
        self.column = max(self.column - 1, 0)
        self.stale()

    def right(self) -> None:
        """To the column after."""
        self.column = min(self.column + 1, len(self.columns) - 1)
        self.stale()

    def click(self, event: Mouse) -> None:
        """See ``Widget``: a click on a heading sorts, one on a cell goes there."""
        column = self.column_at(event.column)
        if event.row == 0 and column is not None:
            self.column = column
            self.sort_by(column)
            return
        was = self.column
        if column is not None:
            self.column = column
        if event.hit == self.at and self.cells and was != self.column:
            self.stale()
            return
        super().click(event)

    def enter(self) -> None:
        """See ``RowsPart``: change the cell if its column has a slot, else call the action."""
        if not self.count:
            return
        column: Column = self.columns[self.column]
        slot: Slot[Any] | None = column.slot
        row = self.value
        if row is None and self.fault:
            return
        if slot is not None and self.host is not None:
            if can_change(self.rows, row, _key_of(row, column)):
                self.host.edit_cell(self, self.index, row, column)
            else:
                self.host.call(partial(_refuse_change, column))
        elif self.action_function is not None and self.host is not None:
            self.host.call(self.action_function, self.value)

    def set_cell(self, index: int, row: Any, column: Column, value: Any) -> None:
        """Put a ``value`` into a ``column`` of a ``row`` that was at ``index`` when the change was begun.

        Raises Complaint if the row is gone since then, and what the rows of the program raise.
        """
        at = index
        if isinstance(self.rows, list | tuple):
            found = self._place_of(row, index) if self.rows else None
            if found is None:
                raise Complaint(tell("this row is not there any more"))
            at, row = found, self.rows[found]  # it may be another one that is equal
        key = _key_of(row, column)
        made = changed_row(row, key, value)
        if made is not row or (hasattr(self.rows, "rows") and hasattr(self.rows, "__setitem__")):
            self.rows[at] = made
        elif hasattr(self.rows, "rows"):
            now = next(iter(self.rows.rows(at, 1)), None)
            if self.cell(now, column) != self.cell(made, column):  # they are made anew each time
                _refuse_change(column)
        self._widths = None
        self._keep_current()
        self.stale()

    def status(self) -> str:
        """See ``RowsPart``; of more columns than there is room for, also which one is current."""
        said = super().status()
        if not self.is_wide:
            return said
        return f"{said}   " + tell("column {at} of {count}", at=self.column + 1, count=len(self.columns))

    def hint_keys(self) -> str:
        """See ``Part``."""
        parts = []
        if (self.is_wide or self.cells) and len(self.columns) > 1:
            parts.append(tell("Left Right: column"))
        if self.cells and self.columns[self.column].slot is not None and self.count:
            parts.append(tell("Enter: change"))
        elif self.action_function is not None:
            parts.append(tell("Enter: choose"))
        parts.append(tell("Up Down: move"))
        if self.sorts and hasattr(self.rows, "__getitem__"):
            parts.append(tell("s: sort"))
        return "   ".join(parts)

    @property
    def letters(self) -> str:
        """See ``Part``."""
        return self.title

    LAYERS: ClassVar[tuple[str, ...]] = ("rows", "table")
    ACTIONS: ClassVar[dict[str, str]] = {
        **RowsPart.ACTIONS,
        "move-char-back": "left",
        "move-char-forward": "right",
        "sort-rows": "sort",
    }


def _refuse_change(column: Column) -> None:
    raise DeclarationError(
        f"Column({column.heading!r}, slot=...): no value can be put into these rows: they must be lists, mappings or "
        "objects, or in a list or another object with __setitem__, and the key no function"
    )


def _key_of(row: Any, column: Column) -> Any:
    """Return the key by which a ``row`` gives its cell of a ``column``."""
    key = column.key
    if not isinstance(key, Unnamed):
        return key
    return key.place if hasattr(row, "__getitem__") and not hasattr(row, "keys") else key.heading
