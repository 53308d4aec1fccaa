"""A blank answers file, made from the declaration: a line for each value, its question as a comment."""

from __future__ import annotations

import json

from wesperon.output.help import described
from wesperon.text.escape import visible
from wesperon.values.slots import MISSING

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable
    from typing import Any

    from wesperon.values.slots import Slot


def blank_answers(slots: Iterable[Slot[Any]]) -> str:
    """The lines of a TOML file for these slots: values that are needed with an empty text, the others commented out."""
    lines = []
    for slot in slots:
        lines.append(f"# {visible(described(slot))}")
        if slot.has_fallback:
            lines.append(f"# {slot.name} = {_toml(slot)}")
        else:
            lines.append(f'{slot.name} = ""')
        lines.append("")
    return "\n".join(lines)


def _toml(slot: Slot[Any]) -> str:
    """The default as TOML writes it; a text is read like a word, so a text does for every kind."""
    value = slot.default
    if value is MISSING or value is None or callable(value) or slot.secret:
        return '""'
    if slot.several or slot.kind.is_set:
        return "[" + ", ".join(_quoted(_item(slot, item)) for item in value) + "]"
    if isinstance(value, (bool, int)):
        return slot.format(value) if not isinstance(value, bool) else str(value).lower()
    return _quoted(slot.format(value))


def _item(slot: Slot[Any], item: Any) -> str:
    return slot.format((item,)) if slot.kind.is_set else slot.format(item)


def _quoted(text: str) -> str:
    """A basic string of TOML, whose escapes are those of JSON."""
    return json.dumps(text, ensure_ascii=True)
