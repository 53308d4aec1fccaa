"""The texts of what a command returns: those that the command line takes for the same values."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.output.terminal_size import is_terminal
from wesperon.text.escape import showable
from wesperon.text.hushing import MASK
from wesperon.values.records import Record, slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.kinds import registry
else:
    registry = later("wesperon.values.kinds.registry")


def fields_of(value: Any) -> dict[str, Any] | None:
    """Return the names and values of a record, a mapping, a dataclass or a named tuple; None for anything else."""
    if isinstance(value, Record):
        return {
            name: MASK if slot.secret and value.__dict__[name] not in (None, ()) else value.__dict__[name]
            for name, slot in slots_of(value).items()
        }
    if isinstance(value, dict):
        return value
    names = getattr(type(value), "__dataclass_fields__", None) or getattr(value, "_fields", None)
    return {name: getattr(value, name) for name in names} if names else None


def text_of(value: Any) -> str:
    """Return the text of a cell: nothing of None, ``yes`` and ``no`` of a bool, several with commas between."""
    if isinstance(value, (tuple, list)):
        return ", ".join([text_of(item) for item in value])
    if type(value).__module__ == "builtins":
        return "" if value is None else "yes" if value is True else "no" if value is False else str(value)
    return formatted(value)


def formatted(value: Any) -> str:
    """Return the text of a value: that of the kind of its type (``5m`` for a duration), if it has one."""
    if type(value).__module__ == "builtins":
        return str(value)
    kind = registry.find_kind(type(value), {})
    return str(value) if kind is None else kind.format(value)


def for_stream(text: str) -> str:
    """Return a text as it is, or for a terminal without anything that would act on it but styles."""
    return showable(text) if is_terminal() else text
