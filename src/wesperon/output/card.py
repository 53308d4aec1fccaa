"""A record as a card, in plain text."""

from __future__ import annotations

from wesperon.screen.layout import field, gutter_for
from wesperon.screen.table import texts
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import DeclarationError
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.screen.frame import Row
    from wesperon.values.records import Record
    from wesperon.values.slots import Slot


def card(record: Record, columns: int = 80) -> str:
    """Return the labels and values of a record, a row for each."""
    return rows(pairs_of(record), columns)


def pairs_of(record: Record) -> list[tuple[str, str]]:
    """Return the labels and values of a record."""
    return [(slot.label, shown(slot.resolve(record), record.__dict__[name])) for name, slot in slots_of(record).items()]


def rows(pairs: Sequence[tuple[str, str]], columns: int = 80) -> str:
    """Labels right-aligned in a gutter, the values beside them."""
    return "\n".join(texts(card_rows(pairs, columns)))


def card_rows(pairs: Sequence[tuple[str, str]], columns: int = 80) -> list[Row]:
    """Return the same as rows of styled text."""
    gutter = gutter_for(visible(label) for label, _ in pairs)
    return [row for label, value in pairs for row in field(visible(label), value, gutter, columns, most=8)]


def shown(slot: Slot[Any], value: Any) -> str:
    """Return a value as people read it."""
    if value is None:
        return ""
    if slot.secret:
        return "***"
    if slot.piped == "stream":
        if value.items is None:  # they come while the program works
            return "(" + tell("a stream") + ")"
        return ", ".join([shown_one(slot, item) for item in value.items])
    if slot.kind.limits is not None:
        return slot.kind.display(value)
    return ", ".join([shown_one(slot, item) for item in slot.shape.items(value)])


def shown_one(slot: Slot[Any], value: Any) -> str:
    """Return one value with its unit."""
    try:
        text = slot.format(value)
    except DeclarationError:
        text = str(value)
    return f"{text} {slot.unit}" if slot.unit and text else text
