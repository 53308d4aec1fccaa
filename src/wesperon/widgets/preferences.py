"""What a user may prefer, one entry for each: its values, what it is for, and how a text or a file says it."""

from __future__ import annotations

from wesperon.editing.keys.families import FAMILIES
from wesperon.frozen import Frozen, later
from wesperon.screen.themes import THEMES
from wesperon.values import Complaint, quoted, tell
from wesperon.values.kind import BOOL

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.text import spelling
else:
    spelling = later("wesperon.text.spelling")


class Preference(Frozen):
    """One thing that a user may prefer.

    ``values`` gives the texts that it may be, the first of them if nobody says anything; ``variable`` is that of the
    environment which goes before all files, if there is one. What it is for is in ``MEANINGS``.
    """

    values: Callable[[], tuple[str, ...]]
    variable: str = ""


def _themes() -> tuple[str, ...]:
    return tuple(THEMES)


#: No limit.
ALL = "all"
#: Yes and no as preferences are shown.
NO_YES = ("no", "yes")
PREFERENCES: dict[str, Preference] = {
    "keys": Preference(lambda: tuple(FAMILIES), "WESPERON_KEYS"),
    "opens_in": Preference(lambda: ("insert", "command")),
    "theme": Preference(_themes, "WESPERON_THEME"),
    "mouse": Preference(lambda: NO_YES, "WESPERON_MOUSE"),
    "suggestions": Preference(lambda: ("list", "grid", "inline")),
    "paging": Preference(lambda: NO_YES),
    "last_screen": Preference(lambda: NO_YES),
    "clipboard": Preference(lambda: NO_YES),
    "history_entries": Preference(lambda: (ALL, "1000", "10000", "100000", "1000000")),
    "history_days": Preference(lambda: (ALL, "30", "90", "365", "1000")),
    "history_shared": Preference(lambda: NO_YES),
    "plain": Preference(lambda: NO_YES, "WESPERON_PLAIN"),
    "progress": Preference(lambda: ("yes", "no"), "WESPERON_PROGRESS"),
}
MEANINGS: dict[str, str] = {
    "keys": "the family of keys",
    "opens_in": "the mode in which a text opens, in the modal family",
    "theme": "the colours and weights of text",
    "mouse": "whether the mouse is the program's, not the terminal's",
    "suggestions": "how candidates of a completion are shown",
    "paging": "whether long results and help go to the pager",
    "last_screen": "whether what the pager showed last stays on the screen",
    "clipboard": "whether lines may be put on the clipboard of the terminal",
    "history_entries": "how many of the newest entries of a history are kept",
    "history_days": "for how many days the entries of a history are kept",
    "history_shared": "whether the consoles of all programs have one history",
    "plain": "questions as plain lines, with no cursor moved",
    "progress": "whether long work shows how far it is",
}
#: Those that are yes or no.
SWITCHES = tuple(name for name, one in PREFERENCES.items() if set(one.values()) == set(NO_YES))
#: Those that are a number too, other than those that are offered.
NUMBERS = ("history_entries", "history_days")
#: The tables of a file beside them.
TABLES = ("bindings", "roles")


def value_of(name: str, said: object) -> str:
    """Return a preference as its text, from a file or the environment; raises Complaint if it cannot be that."""
    values = PREFERENCES[name].values()
    if name in SWITCHES:
        if isinstance(said, bool):
            return "yes" if said else "no"
        if not isinstance(said, str):
            raise Complaint(tell("{name} must be true or false", name=name))
        return "yes" if BOOL.parse(said) else "no"
    if name in NUMBERS and (number := _positive(said)):
        return number
    if not isinstance(said, str) or said not in values:
        near = spelling.suggestion(said, values) if isinstance(said, str) else ""
        got = quoted(said) if isinstance(said, str) else quoted(repr(said))
        raise Complaint(
            tell("{name} must be one of {list}, not {got}{hint}", name=name, list=", ".join(values), got=got, hint=near)
        )
    return said


def _positive(said: object) -> str:
    """Return a positive whole number as it is shown; empty for anything else."""
    text = "" if isinstance(said, bool) else str(said)
    return text.lstrip("0") if text.isascii() and text.isdecimal() else ""
