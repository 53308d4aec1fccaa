"""A question: a field with everything around it, which is its label, the question, what is wrong, and what keys do.

The label is in a gutter, the field in the box beside it; on a narrow terminal the label has a row of its own. If
there are too few rows, the field keeps what it needs at least; then the question, the fault, the rest of the field and
the foot get what is left.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Mouse
from wesperon.screen.frame import Frame, row_text
from wesperon.screen.layout import field_area, labelled
from wesperon.screen.width import width
from wesperon.widgets.footer import foot_row, wrap_limited
from wesperon.widgets.widget import Outcome, Widget

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Row
    from wesperon.screen.layout import FieldArea
    from wesperon.screen.theme import Theme
    from wesperon.values import Complaint
    from wesperon.widgets.widget import Growing, Prompt


class Question(Widget):
    """Asks for the value of a field; its outcome is that of the field."""

    def __init__(self, prompt: Prompt, field: Widget) -> None:
        self.prompt = prompt
        self.field = field
        #: Where the box of the field begins, in rows and columns.
        self.corner = (0, 0)

    def press(self, event: Event) -> None:
        """Take one event, which is the field's."""
        if isinstance(event, Mouse):
            event = Mouse(event.name, event.action, event.row - self.corner[0], event.column - self.corner[1])
        self.field.press(event)

    def view(self, columns: int, rows: int) -> Frame:
        """The label, the field, what is wrong with it, and what the keys do."""
        field, prompt = self.field, self.prompt
        if field.outcome is not None:
            where = field_area(prompt.gutter, columns)
            return Frame(tuple(labelled(prompt.label, prompt.gutter, field.record(where.width, prompt.unit), columns)))
        where = field_area(prompt.gutter, columns)
        size = field.size(where.width)
        beside = field.begins_beside()
        is_list = not beside and bool(prompt.label)
        has_label = rows >= (3 if is_list else 2) or not (is_list or where.stacked)
        label_rows = int(where.stacked and has_label and bool(prompt.label))
        head = self._head(where, beside) if has_label else []
        room = rows - label_rows - size.least_rows
        if head and len(head) > room - is_list:
            # A list keeps its foot, and the end of a long question; a line has its question whole, or not at all.
            head = [head[0], *head[len(head) - room + 2 :]][: room - 1] if is_list else []
        room -= len(head)
        reasons = self._reasons(where)[: max(room - is_list, 0)] if field.complaint else []
        room -= len(reasons)
        box = field.view(where.width, size.least_rows + max(min(size.rows - size.least_rows, room - 1), 0))
        body = self._body(head, box, where, beside)
        if not label_rows and (where.stacked or not has_label):
            shown = [((" " * where.left, ""), *row) for row in body]
        else:
            shown = labelled(prompt.label, prompt.gutter, body, columns)
        shown += [((" " * where.left, ""), *row) for row in reasons]
        if len(shown) < rows:
            shown.append(self._foot(columns))
        self.corner = above, left = label_rows + len(head), where.left
        cursor = box.cursor and (min(box.cursor[0] + above, rows - 1), box.cursor[1] + left)
        return Frame(tuple(shown[:rows]), cursor, box.shape)

    def _head(self, where: FieldArea, beside: bool) -> list[Row]:
        """The question; beside the label of a list, an empty row if there is none."""
        parts = self.prompt.question.split("\n") if self.prompt.question else []
        rows: list[Row] = [((row, "question"),) for part in parts for row in wrap_limited(part, where.width) or [""]]
        if len(rows) == 1 and self.field.hides_question():
            return []
        if not rows and not beside and not where.stacked and self.prompt.label:
            return [(("", "question"),)]
        return rows

    def _body(self, head: list[Row], box: Frame, where: FieldArea, beside: bool) -> list[Row]:
        """The question and the field, with the note at the right edge."""
        body = [*head, *box.rows]
        at = len(head) if beside else 0
        if self.prompt.note and not where.stacked and at < len(body):
            body[at] = self._noted(body[at], where.width)
        return body

    def _noted(self, row: Row, columns: int) -> Row:
        """A row with the note at the right edge, if there is room for it."""
        note = self.prompt.note
        gap = columns - width(row_text(row)) - width(note)
        return (*row, (" " * gap, ""), (note, "note")) if gap > 1 else row

    def _reasons(self, where: FieldArea) -> list[Row]:
        """What is wrong with what was given."""
        complaint = self.field.complaint
        return [((row, "reason"),) for row in wrap_limited(complaint.reason, where.width)] if complaint else []

    def _foot(self, columns: int) -> Row:
        """What the keys do, and what the value must be; or the keys that wait for another."""
        if self.field.pending:
            return foot_row(self.field.pending, columns)
        return foot_row(self.field.foot(), columns, self.field.status() or self.prompt.hint, self.prompt.keys)

    # Everything else is the field's ----------------------------------------------------------------------------------

    @property
    def outcome(self) -> Outcome | None:
        """How the field has ended."""
        return self.field.outcome

    @outcome.setter
    def outcome(self, outcome: Outcome | None) -> None:
        self.field.outcome = outcome

    @property
    def complaint(self) -> Complaint | None:
        """What is wrong with what was given so far."""
        return self.field.complaint

    @complaint.setter
    def complaint(self, complaint: Complaint | None) -> None:
        self.field.complaint = complaint

    @property
    def request(self) -> str:
        """What the card is to do."""
        return self.field.request

    @request.setter
    def request(self, request: str) -> None:
        self.field.request = request

    @property
    def driver_request(self) -> str:
        """What the driver is to do."""
        return self.field.driver_request

    @driver_request.setter
    def driver_request(self, request: str) -> None:
        self.field.driver_request = request

    def size(self, columns: int) -> Any:
        """As the field's."""
        return self.field.size(columns)

    def focus(self, gained: bool) -> None:
        """Learn that keys go here from now on, or no longer."""
        self.field.focus(gained)

    @property
    def wants_pause(self) -> bool:
        """Whether there is work for a moment without keys."""
        return self.field.wants_pause

    def pause(self) -> None:
        """Do that work."""
        self.field.pause()

    def work(self) -> bool:
        """Run one slice of background work."""
        return self.field.work()

    @property
    def growing(self) -> Sequence[Growing]:
        """What the driver is to pull from."""
        return self.field.growing

    def bind(self, bindings: Bindings) -> None:
        """Take the bindings."""
        self.field.bind(bindings)

    def set_theme(self, theme: Theme) -> None:
        """Take the theme."""
        self.field.set_theme(theme)

    @property
    def text(self) -> str:
        """The text that is being edited."""
        return self.field.text

    @property
    def syntax(self) -> Any:
        """The syntax of that text."""
        return self.field.syntax

    @property
    def draft_text(self) -> str:
        """What was typed and not accepted yet."""
        return self.field.draft_text

    def keep_draft(self) -> None:
        """Learn that what is in it at first was typed."""
        self.field.keep_draft()

    def returned(self, text: str | Complaint) -> None:
        """Take what became of the text in the user's editor."""
        self.field.returned(text)
