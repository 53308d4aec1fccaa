"""Comparing and hashing values of records."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def are_equal(one: Any, same: Any) -> bool:
    """Return True if two values are equal, or one moment with its distance from UTC.

    Equality is not asked of moments in hours that come twice, since they are never equal (Python Library Reference,
    ``datetime``).
    """
    if one == same:
        return True
    if type(one).__name__ != "datetime" or type(same) is not type(one):
        return False
    return one.tzinfo is not None and same.tzinfo is not None and bool(one.isoformat() == same.isoformat())


def hashable(value: Any) -> Any:
    """Return a value that is equal if ``value`` is, and can be hashed."""
    if type(value) is dict:
        return frozenset(value.items())
    return tuple(value) if type(value) is list else value
