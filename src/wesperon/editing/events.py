"""What can happen to a widget. Small records, made by whoever reads the terminal, or by a script."""

from __future__ import annotations

from wesperon.core.frozen import frozen


@frozen
class Key:
    """A key that was pressed.

    ``name`` is what key tables are written in: the character itself for keys that type one, else a word such as
    ``enter``, ``left``, ``f5``, with ``ctrl-``, ``alt-``, ``shift-`` before it, in this order. ``text`` is what the
    key types; empty where it types nothing.
    """

    name: str
    text: str = ""


@frozen
class Paste:
    """Text that was pasted in one piece: it is text throughout, whatever it holds."""

    text: str


@frozen
class Resize:
    """The terminal has another size now."""

    columns: int
    rows: int


@frozen
class Position:
    """Where the terminal says that its cursor stands, counted from 0; an answer to a question of the driver's own."""

    row: int
    column: int


@frozen
class Closed:
    """Nothing will come any more: the terminal is gone."""


Event = Key | Paste | Resize | Position | Closed


def typed(char: str) -> Key:
    """The key that types a character."""
    return Key("space" if char == " " else char, char)
