"""What a command returns, printed in a sensible form: text, a card, a table, or JSON."""

from __future__ import annotations

from wesperon.context import current
from wesperon.text.escape import visible
from wesperon.values.records import Record

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def show(result: Any, *, as_json: bool = False) -> None:
    """Print a result on standard output.

    A ``str`` is printed as it is; a record or mapping as a card; a list of records or mappings as a table; any other
    series an item on each line, as it comes; JSON on request.
    """
    if as_json:
        import json

        current().print(json.dumps(_plain(result), ensure_ascii=False, indent=2, default=str))
    elif isinstance(result, str):
        current().print(result)
    elif _fields(result) is not None:
        current().print(_card(result))
    elif isinstance(result, (list, tuple)) and result and all(_fields(item) is not None for item in result):
        current().print(table(result))
    elif hasattr(result, "__iter__") and not isinstance(result, (bytes, bytearray)):
        for item in result:
            current().print(item)
    else:
        current().print(result)


def table(items: Any) -> str:
    """Records or mappings as a table: a heading, then a row for each; numbers are right-aligned."""
    from wesperon.screen.width import width

    rows = [_fields(item) or {} for item in items]
    names = list(dict.fromkeys(name for row in rows for name in row))
    texts = [[visible(_text(row.get(name))) for name in names] for row in rows]
    numeric = [all(isinstance(row.get(name), (int, float, type(None))) for row in rows) for name in names]
    lines = [[name.strip("_").replace("_", " ") for name in names], *texts]
    widths = [max(width(line[at]) for line in lines) for at in range(len(names))]
    shown = []
    for line in lines:
        gaps = [" " * (widths[at] - width(text)) for at, text in enumerate(line)]
        cells = [gap + text if right else text + gap for text, gap, right in zip(line, gaps, numeric, strict=True)]
        shown.append("  ".join(cells).rstrip())
    return "\n".join(shown)


def _card(result: Any) -> str:
    if isinstance(result, Record):
        return str(result)
    from wesperon.output.card import rows

    return rows([(str(name), _text(value)) for name, value in (_fields(result) or {}).items()])


def _fields(value: Any) -> dict[str, Any] | None:
    """The names and values of a record, a mapping, a dataclass or a named tuple; None for anything else."""
    if isinstance(value, Record):
        return {name: value.__dict__[name] for name in value._slots}
    if isinstance(value, dict):
        return value
    names = getattr(type(value), "__dataclass_fields__", None) or getattr(value, "_fields", None)
    return {name: getattr(value, name) for name in names} if names else None


def _text(value: Any) -> str:
    return "" if value is None else "yes" if value is True else "no" if value is False else str(value)


def _plain(value: Any) -> Any:
    """The value in terms of JSON: records as objects, series as arrays."""
    fields = _fields(value)
    if fields is not None:
        return {str(name): _plain(item) for name, item in fields.items()}
    if isinstance(value, (str, int, float, type(None))):
        return value
    if hasattr(value, "__iter__") and not isinstance(value, (bytes, bytearray)):
        return [_plain(item) for item in value]
    return str(value)
