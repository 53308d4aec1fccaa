"""How a row of a table takes another value in one of its cells: in place, or as a row that is put in its place."""

from __future__ import annotations

from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    import dataclasses
    from typing import Any
else:
    dataclasses = later("dataclasses")


def can_change(rows: Any, row: Any, key: Any) -> bool:
    """Return True if the cell of a ``row`` of some ``rows`` that a ``key`` gives can have another value."""
    if callable(key):
        return False
    if isinstance(row, tuple):
        return hasattr(rows, "__setitem__") and (not isinstance(key, str) or key in getattr(row, "_fields", ()))
    if _is_frozen(row):
        return hasattr(rows, "__setitem__")
    return _is_attribute(row, key) or hasattr(row, "__setitem__")


def changed_row(row: Any, key: Any, value: Any) -> Any:
    """Return a ``row`` with a ``value`` under a ``key``: the same one, or another of its class if it is read-only.

    A row that is too short is made longer with None. Raises what the row raises.
    """
    if isinstance(row, tuple):
        names: Any = getattr(row, "_fields", ())
        cells = changed_row([*row], names.index(key) if isinstance(key, str) else key, value)
        kind: Any = type(row)
        return kind(*cells) if names else tuple(cells)
    if _is_frozen(row):
        return dataclasses.replace(row, **{key: value})
    if _is_attribute(row, key):
        setattr(row, key, value)
        return row
    if isinstance(row, list):
        row.extend([None] * (key + 1 - len(row)))
    row[key] = value
    return row


def _is_attribute(row: Any, key: Any) -> bool:
    return isinstance(key, str) and not hasattr(row, "keys")


def _is_frozen(row: Any) -> bool:
    return bool(getattr(getattr(row, "__dataclass_params__", None), "frozen", False))
