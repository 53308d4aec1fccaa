"""A question: a field with everything around it, which is its label, the question, what is wrong, and what keys do.

The label is in a gutter, the field in the box beside it; on a narrow terminal the label has a row of its own. If
there are too few rows, the field keeps what it needs at least; then the question, the fault, the rest of the field and
the foot get what is left.
"""

from __future__ import annotations

from wesperon.screen.frame import WHOLE_BOX, ClickMap, Frame, row_text
from wesperon.screen.layout import (
    CURRENT_MARK,
    before_value,
    field_area,
    foot_row,
    labelled,
    marked_gutter,
    wrap_limited,
)
from wesperon.screen.painter import LEAST_GAP
from wesperon.screen.width import cut, width
from wesperon.widgets.delegate import Delegate

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.screen.frame import Row
    from wesperon.screen.layout import FieldArea
    from wesperon.widgets.widget import Prompt, SizeHint, Widget

    #: The rows above the field's box, those of the question in it, what is before its first row and before the others,
    #: its height, the rows below it, and where it begins, with the clicks that are in it.
    Surroundings = tuple[list[Row], list[Row], Row, Row, int, list[Row], ClickMap]


class Question(Delegate):
    """Asks for the value of a field; its outcome is that of the field."""

    def __init__(self, prompt: Prompt, field: Widget) -> None:
        super().__init__(field)
        self.prompt = prompt
        self.field = field
        self._asked: tuple[object, ...] = ()
        self._around: Surroundings
        #: The rows of the field at the last view, and with what was before them.
        self._last_rows: tuple[Sequence[Row], list[Row], Row] = (), [], ()

    def view(self, columns: int, rows: int) -> Frame:
        """Return the label, the field, what is wrong with it, and what the keys do."""
        field, prompt = self.field, self.prompt
        where = field_area(prompt.gutter, columns)
        if field.outcome is not None:
            unit, question = prompt.beside
            record = field.record(where.width, unit)
            if question:
                record = _with_question(question, record, where.width)
            return Frame(tuple(labelled(prompt.label, prompt.gutter, record, columns)))
        size, complaint, hides = field.size(where.width), field.complaint, field.hides_question()
        asked = (columns, rows, size, complaint, hides, field.pending, field.foot(), field.status(), field.mode_label)
        if asked != self._asked:
            self._asked, self._around = asked, self._surroundings(where, columns, rows, size)
        top, head, first, indent, room, below, place = self._around
        box = field.view(where.width, room)
        body: Sequence[Row] = [*head, *box.rows] if head else box.rows
        if prompt.note and not where.stacked:
            body = self._noted(body, len(head) if field.begins_beside() else 0, where.width)
        shown = [*top, (*first, *body[0])] if body else [*top, first]
        if len(body) > 1:
            shown += self._indented(body, indent)
        shown += below
        cursor = box.cursor and (min(box.cursor[0] + place.row, rows - 1), box.cursor[1] + place.column)
        if box.current is not None:
            at, before = place.row + box.current, indent if len(head) + box.current else first
            marked = marked_gutter(before)
            shown[at] = (*marked, *box.rows[box.current])
            if marked is not before and cursor and cursor[0] == at:
                # On the mark, since a block on a letter of the label would be hard to read.
                cursor = (at, where.left - len(CURRENT_MARK))
        # For a line, at each key, the map that is there already.
        clicks = place if box.clicks is WHOLE_BOX else box.clicks.moved(place.row, place.column)
        return Frame(tuple(shown[:rows]), cursor, box.shape, clicks=clicks)

    def _indented(self, body: Sequence[Row], indent: Row) -> list[Row]:
        """Return the rows of the field below its first, with what is before them.

        Those of rows that are the same objects as at the last view are the same again: a painter need not compare them.
        """
        before, made, same = self._last_rows
        if same is indent and len(before) == len(body):
            made = [one if row is old else (*indent, *row) for row, old, one in zip(body, before, made, strict=True)]
        else:
            made = [(*indent, *row) for row in body]
        self._last_rows = body, made, indent
        return made[1:]

    def _surroundings(self, where: FieldArea, columns: int, rows: int, size: SizeHint) -> Surroundings:
        """Return what is around the field in a box of this size; it stays as it is for most keys."""
        field, label = self.field, self.prompt.label
        beside = field.begins_beside()
        is_list = not beside and bool(label)
        has_label = bool(label) and (rows >= (3 if is_list else 2) or not (is_list or where.stacked))
        top: list[Row] = [((cut(label, max(columns - 1, 1)), "label"),)] if where.stacked and has_label else []
        head = self._head(where, beside) if has_label or not label else []
        room = rows - len(top) - size.least_rows
        if head and len(head) > room - is_list:
            # A list keeps its foot, and the end of a long question; a line has its question whole, or not at all.
            head = [head[0], *head[len(head) - room + 2 :]][: room - 1] if is_list else []
        room -= len(head)
        reasons = self._reasons(where)[: max(room - is_list, 0)] if field.complaint else []
        room -= len(reasons)
        indent: Row = ((" " * where.left, ""),)
        first = before_value(label, self.prompt.gutter) if has_label and not where.stacked else indent
        below: list[Row] = [*[(*indent, *row) for row in reasons], self._foot(columns)]
        box_rows = min(size.least_rows + max(min(size.rows - size.least_rows, room - 1), 0), max(rows - len(top), 1))
        return top, head, first, indent, box_rows, below, ClickMap(len(top) + len(head), where.left)

    def _head(self, where: FieldArea, beside: bool) -> list[Row]:
        """Return the question; beside the label of a list, an empty row if there is none."""
        parts = self.prompt.question.split("\n") if self.prompt.question else []
        rows: list[Row] = [((row, "question"),) for part in parts for row in wrap_limited(part, where.width) or [""]]
        if len(rows) == 1 and self.field.hides_question():
            return []
        if not rows and not beside and not where.stacked and self.prompt.label:
            return [(("", "question"),)]
        return rows

    def _noted(self, rows: Sequence[Row], at: int, columns: int) -> Sequence[Row]:
        """Return the rows with the note at the right edge of one of them, if there is room for it."""
        note = self.prompt.note
        gap = columns - width(row_text(rows[at])) - width(note) if at < len(rows) else 0
        if gap < LEAST_GAP:
            return rows
        return [*rows[:at], (*rows[at], (" " * gap, ""), (note, "note")), *rows[at + 1 :]]

    def _reasons(self, where: FieldArea) -> list[Row]:
        """Return what is wrong with what was given."""
        complaint = self.field.complaint
        return [((row, "reason"),) for row in wrap_limited(complaint.reason, where.width)] if complaint else []

    def _foot(self, columns: int) -> Row:
        """Return what the keys do, and what the value must be; or the keys that wait for another."""
        if self.field.pending:
            return foot_row(self.field.pending, columns)
        mode = self.field.mode_label
        keys = f"{mode}   {self.field.foot()}" if mode else self.field.foot()
        status = self.field.status()
        first = 1 + bool(mode) + bool(status)
        return foot_row(keys, columns, status or self.prompt.hint, self.prompt.keys, first)


def _with_question(asked: str, record: list[Row], columns: int) -> list[Row]:
    """Return the question before its answer: in one row if there is room, else above."""
    if len(record) == 1 and width(asked) + 2 + width(row_text(record[0])) <= columns:
        return [((asked, "question"), ("  ", ""), *record[0])]
    return [*[((row, "question"),) for row in wrap_limited(asked, columns)], *record]
