"""What can happen to a widget, and what a key means to it.

Small records: events are made by what reads the terminal, or by a script; actions by a ``resolver.KeyResolver``.
"""

from __future__ import annotations

from wesperon.frozen import Frozen, remembered_of_one

#: The action of a key that types something.
TYPE = "type"


class Key(Frozen):
    """A key that was pressed.

    ``name`` is what key tables are written in: the character itself for keys that type one, else a word such as
    ``enter``, ``left``, ``f5``, with ``ctrl-``, ``alt-``, ``shift-`` before it, in this order. ``text`` is what the
    key types; empty if it types nothing.
    """

    name: str
    text: str = ""


class Paste(Frozen):
    """Text that was pasted in one piece; ``text`` is text throughout, whatever it holds.

    Example:
        >>> class Plan(Form):
        ...     target = slot()
        >>> Plan.fill([], driver=Scripted([Paste("Lantern"), Press("enter")])).target
        'Lantern'

    """

    text: str


class Resize(Frozen):
    """The terminal has another size now, in ``columns`` and ``rows``.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int)
        >>> Plan.fill([], driver=Scripted([Resize(30, 10), "3", Press("enter")])).frames
        3

    """

    columns: int
    rows: int


class Position(Frozen):
    """Where the terminal says that its cursor is, counted from 0; an answer to a question of the driver's own."""

    row: int
    column: int


class NoEscape(Frozen):
    """The Escape that was told of last is no key: the key that comes now began with it, on a slow line."""


class Focus(Frozen):
    """The terminal's window has come to the front (``True``), or something else has."""

    gained: bool


class Mouse(Frozen):
    """The mouse did something.

    ``name`` is ``left``, ``middle``, ``right``, ``wheel-up`` or ``wheel-down``, with ``ctrl-``, ``alt-``, ``shift-``
    before it; ``action`` is ``press``, ``release`` or ``drag``. The place is counted from 0: on the screen as the
    decoder gives it, in its own box as a widget gets it. ``hit`` is what the widget has shown in that row, if it is one
    of several things (``screen.frame.ClickMap``).
    """

    name: str
    action: str
    row: int
    column: int
    hit: object = None


class Closed(Frozen):
    """Nothing will come any more: the terminal is gone."""


Event = Key | Paste | Resize | Position | NoEscape | Focus | Mouse | Closed


@remembered_of_one(512)
def typed(char: str) -> Key:
    """Return the key that types a character."""
    return Key("space" if char == " " else char, char)


class Action(Frozen):
    """What is to be done.

    ``name`` says what, ``count`` how often (``None``: no count was given), ``text`` what the key types or what was
    wanted, ``register`` which register is used (empty: the default one), ``motion`` how far an operator goes.
    """

    name: str
    count: int | None = None
    text: str = ""
    register: str = ""
    motion: str = ""

    @property
    def times(self) -> int:
        """How often it is to be done; once if no count was given."""
        return 1 if self.count is None else self.count


@remembered_of_one(512)
def typing(text: str) -> Action:
    """Return the action of a key that types a text."""
    return Action(TYPE, None, text)
