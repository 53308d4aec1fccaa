"""The themes that are there without any file: for each role, in words, what it looks like (``renditions``).

``palette`` is the one that holds where nobody says otherwise: the sixteen colours of the terminal, so that the user's
own colours hold. ``dark`` and ``light`` are made for a ground, which they name but do not paint, and for more than
sixteen colours: with these they look like ``palette``. ``colourless`` tells every role without a colour, and the others
tell it that way too.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.screen.renditions import rendition
from wesperon.values import Complaint, DeclarationError, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping

    from wesperon.text import spelling
else:
    spelling = later("wesperon.text.spelling")

#: The roles, each with what it is for.
ROLES: dict[str, str] = {
    "label": "what a value is called, headings of tables",
    "letter": "the letter of a label that goes to it",
    "question": "a question beside its label",
    "note": "what is said beside a choice or a row",
    "foot": "what the keys do",
    "title": "the title of a page",
    "bar": "the part of long work that is done",
    "bar-rest": "the part that is left",
    "bar-line": "numbers over time",
    "current": "the current choice",
    "current-match": "in it, what was looked for",
    "selected": "what is selected in a text",
    "marked": "a choice with a mark",
    "hint": "what may be taken or is wanted next",
    "match": "what was looked for; a pair of brackets",
    "known": "names of commands and options that exist",
    "fault": "the part of a text that is at fault",
    "reason": "why it is",
    "keyword": "in a coloured text: words of the language",
    "name": "in a coloured text: names",
    "string": "in a coloured text: texts in quotes",
    "constant": "in a coloured text: numbers and the like",
    "comment": "in a coloured text: comments",
}
#: What tells roles apart without colours.
COLOURLESS: dict[str, str] = {
    "label": "",
    "letter": "underline",
    "question": "",
    **dict.fromkeys(("note", "foot", "hint"), "dim"),
    "title": "bold",
    "bar": "reverse",
    "bar-rest": "dim underline",
    "bar-line": "",
    "current": "reverse",
    "current-match": "reverse bold underline",
    "selected": "reverse",
    "marked": "bold",
    "match": "bold underline",
    "known": "bold",
    "fault": "underline",
    "reason": "bold",
    "keyword": "bold",
    **dict.fromkeys(("name", "string", "constant"), ""),
    "comment": "dim italic",
}
#: The ground that a theme is made for, if it is made for one.
GROUNDS = {"dark": "#12161c", "light": "#fbfaf7"}
THEMES: dict[str, dict[str, str]] = {
    "palette": {
        **COLOURLESS,
        "label": "cyan",
        "letter": "underline cyan",
        "bar": "reverse cyan",
        "bar-line": "cyan",
        "name": "yellow",
        "string": "green",
        "constant": "cyan",
        "fault": "bold underline bright-red",
        "reason": "bold bright-red",
    },
    "dark": {
        "label": "#6fc3c0",
        "letter": "underline #6fc3c0",
        "question": "#a9b4c0",
        "note": "#93a1b1",
        "foot": "#8494a6",
        "title": "bold #e8edf2",
        "bar": "reverse #6fc3c0",
        "bar-rest": "underline #8494a6",
        "bar-line": "#6fc3c0",
        "current": "reverse #cdb35a",
        "current-match": "reverse bold underline #cdb35a",
        "selected": "reverse #b9c7d6",
        "marked": "bold #cdb35a",
        "hint": "#a3b0be",
        "match": "bold underline #f0d79a",
        "known": "bold #cfe3ff",
        "fault": "underline #ff9a8a",
        "reason": "bold #ff9a8a",
        "keyword": "bold #c3a6f2",
        "name": "#8fb8ff",
        "string": "#9ccc8f",
        "constant": "#6fc3c0",
        "comment": "italic #93a1b1",
    },
    "light": {
        "label": "#0b6a6c",
        "letter": "underline #0b6a6c",
        "question": "#4b5663",
        "note": "#55606d",
        "foot": "#5d6875",
        "title": "bold #1b2129",
        "bar": "reverse #0b6a6c",
        "bar-rest": "underline #5d6875",
        "bar-line": "#0b6a6c",
        "current": "reverse #7a4e00",
        "current-match": "reverse bold underline #7a4e00",
        "selected": "reverse #34506b",
        "marked": "bold #7a4e00",
        "hint": "#4b5663",
        "match": "bold underline #6a4300",
        "known": "bold #14407a",
        "fault": "underline #a8201a",
        "reason": "bold #a8201a",
        "keyword": "bold #5b2e91",
        "name": "#1b4f9c",
        "string": "#2b6419",
        "constant": "#0b6a6c",
        "comment": "italic #55606d",
    },
    # Every character in the terminal's own two colours, none of them dimmed: nothing has more contrast.
    "high-contrast": {
        **COLOURLESS,
        **dict.fromkeys(("note", "foot", "hint"), ""),
        "label": "bold",
        "letter": "bold underline",
        "bar-rest": "underline",
        "comment": "italic",
    },
    "colourless": COLOURLESS,
}
#: With at most this number of colours, they are those of the terminal's palette.
PALETTE = 16
#: The theme that holds where nobody says otherwise, and the one for terminals without colours.
DEFAULT, NO_COLOURS = "palette", "colourless"


def checked(theme: str | Mapping[str, str]) -> None:
    """Raise DeclarationError if a program's theme is none: neither the name of one nor roles by name."""
    try:
        faults = look_of(theme, 0)[1] if isinstance(theme, str) else look_of(DEFAULT, 0, theme)[1]
    except Complaint as complaint:
        raise DeclarationError(f"theme: {complaint.reason}") from None
    for role, reason in faults.items():
        raise DeclarationError(f"theme: {role}: {reason}")


def look_of(name: str, colours: int, own: Mapping[str, str] | None = None) -> tuple[dict[str, str], dict[str, str]]:
    """Return the renditions of all roles in a theme, with roles of one's ``own`` over it, and what is wrong with these.

    Raises Complaint if there is no such theme.
    """
    words = THEMES.get(name)
    if words is None:
        hint, known = spelling.suggestion(name, THEMES), ", ".join(THEMES)
        raise Complaint(tell("{name} is not a theme{hint}; there are {list}", name=quoted(name), hint=hint, list=known))
    faults: dict[str, str] = {}
    if not colours:
        words = COLOURLESS
    elif colours <= PALETTE and name in GROUNDS:  # what is nearest there has no hue, on a ground that is not known
        words = THEMES[DEFAULT]
    look = {role: rendition(said, colours) for role, said in words.items()}
    for role, said in (own or {}).items():
        if role not in ROLES:
            faults[role] = f"{quoted(role)} is no role{spelling.suggestion(role, ROLES)}; wesperon theme lists them"
        elif not isinstance(said, str):
            faults[role] = "must be a text, such as 'bold cyan'"
        else:
            try:
                look[role] = rendition(said, colours)
            except Complaint as complaint:
                faults[role] = complaint.reason
    return look, faults
