"""The secrets that a record holds, and errors that say none of them."""

from __future__ import annotations

from contextlib import contextmanager

from wesperon.text.hushing import hush_error

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator
    from typing import Any

    from wesperon.values.records import Record
    from wesperon.values.slots import Slot


@contextmanager
def hushing(record: Record) -> Iterator[None]:
    """Have no error that leaves the block say a secret of the record."""
    try:
        yield
    except (Exception, SystemExit) as error:
        hushed = hush_error(error, secrets_of(record))
        if hushed is error:
            raise
        raise hushed from None


def _items(slot: Slot[Any], value: Any) -> Iterable[Any]:
    """What of a value may be shown by itself."""
    if isinstance(value, dict):
        return [*value, *value.values(), *value.items()]
    return value if slot.several and isinstance(value, tuple) else (value,)


def secrets_of(record: Record) -> list[str]:
    """The texts of all secrets that a record holds, the longest first."""
    found: set[str] = set()
    for slot in record._slots.values():
        value = record.__dict__.get(slot.name)
        if slot.secret and value is not None:
            for one in _items(slot, value):
                found.add(str(one))
                try:
                    found.add(slot.format(one))
                except Exception:  # a kind of the program's own that has no text
                    pass
    return sorted(found - {""}, key=len, reverse=True)
