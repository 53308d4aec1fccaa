"""What a command returns, printed in a sensible form: text, a card, a table, or JSON."""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.output.result_texts import fields_of, for_stream, formatted, text_of
from wesperon.output.style import rendered
from wesperon.output.terminal_size import is_terminal, terminal_size
from wesperon.screen.table import Column, columns
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values.records import Record

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, Self

    from wesperon.output import card, result_formats
    from wesperon.screen.frame import Row
    from wesperon.values.kinds import registry
else:
    card = later("wesperon.output.card")
    result_formats = later("wesperon.output.result_formats")
    registry = later("wesperon.values.kinds.registry")


class Told(str):
    """A text for people, and the ``data`` that it says, which is printed where JSON is wanted."""

    data: Any

    def __new__(cls, text: str, data: Any) -> Self:
        """Make it of a text and its data."""
        made = super().__new__(cls, text)
        made.data = data
        return made


def show(result: Any, *, form: str = "text") -> None:
    """Print a result on standard output as text, JSON, CSV or YAML; raises Refusal if it has no such form.

    As text, a ``str`` is printed as it is, a :class:`Told` as its text if it has one; a record or mapping as a card; a
    list of records or mappings as a table; any other series an item on each line, as it comes. That a list is empty is
    said on standard error.
    """
    if form != "text":
        result_formats.WRITERS[form](result.data if isinstance(result, Told) else result)
    elif isinstance(result, Told) and not result:
        return
    elif isinstance(result, (list, tuple)) and not result:
        current().print(tell("no rows"), error=True)
    elif isinstance(result, str):
        current().print(for_stream(result))
    elif fields_of(result) is not None:
        current().print(rendered(_card(result)))
    elif isinstance(result, (list, tuple)) and all(fields_of(item) is not None for item in result):
        current().print(rendered(table(result, _limit())))
    elif hasattr(result, "__iter__") and not isinstance(result, (bytes, bytearray)):
        for item in result:
            current().print(for_stream(formatted(item)))
    else:
        current().print(for_stream(formatted(result)))


def table(items: Any, limit: int | None = None) -> list[Row]:
    """Return records or mappings as a table: a heading, then a row for each; numbers and durations are right-aligned.

    ``limit`` is the width of the terminal that it is for; ``None`` means that nothing is cut.
    """
    rows = [fields_of(item) or {} for item in items]
    names = list(dict.fromkeys(name for row in rows for name in row))
    of = [Column(_label(name), all(_is_number(row.get(name)) for row in rows)) for name in names]
    return columns(of, [[visible(text_of(row.get(name))) for name in names] for row in rows], limit)


def _limit() -> int | None:
    """Return the width of the terminal that shows standard output; None if it is no terminal."""
    return terminal_size().columns if is_terminal() else None


def _label(name: object) -> str:
    return str(name).strip("_").replace("_", " ")


def _is_number(value: Any) -> bool:
    """Return True if a value is in a column of numbers: a number, a duration, or nothing."""
    if value is None or (isinstance(value, (int, float)) and not isinstance(value, bool)):
        return True
    return type(value).__name__ in ("Decimal", "timedelta")


def _card(result: Any) -> list[Row]:
    if isinstance(result, Record):
        return card.card_rows(card.pairs_of(result))
    return card.card_rows([(str(name), text_of(value)) for name, value in (fields_of(result) or {}).items()])
