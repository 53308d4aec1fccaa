"""A value that is shown without having been asked for."""

from __future__ import annotations

from wesperon.screen.frame import Frame
from wesperon.text.escape import visible
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Answered, Prompt, Widget


class StaticField(Widget):
    """A value; takes no keys."""

    def __init__(self, value: str) -> None:
        super().__init__()
        self.value = value

    def view(self, columns: int, rows: int) -> Frame:
        """Return the value, wrapped."""
        return Frame(tuple(self.record(columns)[:rows]))

    def record_text(self) -> str:
        """Return the value."""
        return self.value


def answered(label: str, value: str, gutter: int, asked: str = "") -> Question:
    """Return a label with its value, as an answered question leaves them on a card.

    ``asked`` stays beside the value.
    """
    field = StaticField(value)
    field.outcome = Answered(value)
    return Question(Prompt(visible(label), gutter, beside=("", visible(asked))), field)
