"""A blank answers file, made from the declaration: a line for each value, its question as a comment."""

from __future__ import annotations

from wesperon.output.help import described
from wesperon.text.escape import visible
from wesperon.values import MISSING

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable
    from typing import Any

    from wesperon.values.slots import Slot


def blank_answers(slots: Iterable[Slot[Any]]) -> str:
    """Return the lines of a TOML file for these slots: required values with an empty text, the others commented out."""
    lines = []
    for slot in slots:
        lines.append(f"# {visible(described(slot))}")
        if slot.has_fallback:
            lines.append(f"# {_key(slot.name)} = {_toml(slot)}")
        else:
            lines.append(f'{_key(slot.name)} = ""')
        lines.append("")
    return "\n".join(lines)


def _key(name: str) -> str:
    return name if name.isascii() else _quoted(name)


def _toml(slot: Slot[Any]) -> str:
    """Return the default as TOML writes it; a text is read like a word, so a text does for every kind."""
    value = slot.default
    if value is MISSING or value is None or callable(value) or slot.secret:
        return '""'
    if slot.shape.repeats and slot.shape.takes_text:
        return "[" + ", ".join([_quoted(text) for text in slot.shape.texts(slot, value)]) + "]"
    if isinstance(value, (bool, int)):
        return slot.format(value) if not isinstance(value, bool) else str(value).lower()
    return _quoted(slot.format(value))


def _quoted(text: str) -> str:
    """Return a basic string of TOML; what is no character there, half of a surrogate pair, is left out."""
    return '"' + "".join([_character(char) for char in text]) + '"'


def _character(char: str) -> str:
    code = ord(char)
    if char in '"\\':
        return "\\" + char
    if char.isprintable():
        return char
    return "" if 0xD800 <= code <= 0xDFFF else f"\\u{code:04x}" if code <= 0xFFFF else f"\\U{code:08x}"
