"""The look: which graphic rendition each role of text has, and what the environment says of the terminal.

Widgets name roles, never colours. The parameters are those of SGR in ECMA-48 (8.3.117), from the sixteen-colour
palette only, so that the user's own theme holds. No role is shown by colour alone.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping

#: Role to the parameters of SGR; a role that is not here is shown as plain text.
COLOURED: dict[str, str] = {
    "label": "36",
    "letter": "4;36",
    "question": "",
    "note": "2",
    "foot": "2",
    "current": "7",
    "current-match": "7;1;4",
    "selected": "7",
    "marked": "1",
    "hint": "2",
    "match": "1;4",
    "known": "1",
    "keyword": "1",
    "name": "33",
    "string": "32",
    "constant": "36",
    "comment": "2;3",
    "fault": "1;4;91",
    "reason": "1;91",
    "title": "1",
    "bar": "7;36",
    "bar-rest": "2;4",
    "bar-line": "36",
}

#: The same without colours, as NO_COLOR asks for: weight, underline and reverse stay.
UNCOLOURED: dict[str, str] = {
    **COLOURED,
    **dict.fromkeys(("label", "name", "string", "constant"), ""),
    "letter": "4",
    "bar": "7",
    "bar-line": "",
    "fault": "4",
    "reason": "1",
}


class Theme:
    """How roles of text are shown.

    ``roles`` maps a role to the parameters of SGR; ``colours`` is how many colours the terminal shows, 0 if none are
    wanted; ``style`` names a style of Pygments for the colours of syntaxes, else they are of the terminal's palette.
    """

    def __init__(self, roles: dict[str, str], colours: int = 0, style: str = "") -> None:
        self.roles = roles
        self.colours = colours
        self.style = style


#: The theme of a widget that nobody has given another one: no colours.
PLAIN_THEME = Theme(UNCOLOURED)


def colours_of(environment: Mapping[str, str]) -> int:
    """Return how many colours the terminal shows, as far as the environment says; 0 if NO_COLOR is set to anything.

    COLORTERM says 16 million, the ending of TERM 256; the names of consoles that have eight are known by themselves.
    """
    if environment.get("NO_COLOR"):
        return 0
    if environment.get("COLORTERM", "").lower() in ("truecolor", "24bit"):
        return 1 << 24
    term = environment.get("TERM", "")
    if term.endswith(("-direct", "-truecolor")):
        return 1 << 24
    if "256" in term:
        return 256
    return 8 if term in ("linux", "vt220", "ansi", "cons25", "xterm-color") else 16


def is_plain(environment: Mapping[str, str]) -> bool:
    """Return True if the environment wants plain lines, or the terminal cannot move its cursor."""
    said = environment.get("WESPERON_PLAIN", "0").lower()
    return environment.get("TERM") == "dumb" or said not in ("", "0", "no", "n", "off", "false")


def breaks_rows(environment: Mapping[str, str]) -> bool:
    """Return True if the terminal is one that breaks rows which have become too long for it, as most do."""
    if "TMUX" in environment:
        return True
    return "XTERM_VERSION" not in environment and "STY" not in environment


def roles_for(environment: Mapping[str, str]) -> dict[str, str]:
    """Return the roles that an environment asks for: without colours where NO_COLOR is set to anything."""
    return UNCOLOURED if environment.get("NO_COLOR") else COLOURED
