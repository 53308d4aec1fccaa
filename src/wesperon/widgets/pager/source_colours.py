r"""The colours and weights that a text brings along, as control sequences in it (SGR: ECMA-48, 8.3.117).

They are taken out of the text, and become roles of stretches of it. Each line begins without any, whatever the line
before has left on, since a line is shown without the lines before it. What would hide a text (concealed, blinking) is
left out; without colours, colours are.
"""

from __future__ import annotations

import re

from wesperon.screen.ecma48 import SGR_RESET, sgr
from wesperon.text.escape import showable

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.screen.line_wrap import Mark, Marks
    from wesperon.screen.theme import Theme

#: A control sequence that selects renditions.
SGR = re.compile(r"\x1b\[([0-9;:]*)m")
#: The role of a rendition begins so, and its parameters follow.
ROLE = "sgr "
#: The most renditions that are told apart; a text may have as many as it has characters.
MOST_ROLES = 4_096
#: What a parameter sets, of those that set something: each replaces what was set of the same.
WEIGHTS = {1: "weight", 2: "weight", 3: "slant", 4: "line", 7: "reverse", 9: "strike", 21: "line"}
#: What a parameter ends.
ENDED = {22: "weight", 23: "slant", 24: "line", 27: "reverse", 29: "strike", 39: "colour", 49: "ground"}


def taken_out(text: str, theme: Theme) -> tuple[str, Marks]:
    """Return a line without its renditions, and the stretches of it that have one.

    Their roles are added to those of the ``theme``.
    """
    if "\x1b[" not in text:
        return text, ()
    kept: list[str] = []
    marks: list[Mark] = []
    on: dict[str, str] = {}
    at = length = 0
    for found in SGR.finditer(text):
        piece = text[at : found.start()]
        _add(marks, length, length + len(piece), on, theme)
        kept.append(piece)
        length += len(piece)
        at = found.end()
        _select(on, found[1])
    piece = text[at:]
    _add(marks, length, length + len(piece), on, theme)
    return "".join([*kept, piece]), tuple(marks)


def written(text: str, theme: Theme) -> str:
    """Return a line for the terminal itself: with its renditions, each ended, and all else visible."""
    plain, marks = taken_out(text, theme)
    parts, at = [], 0
    for start, end, role in marks:
        parts += [showable(plain[at:start]), sgr(theme.roles[role]), showable(plain[start:end]), SGR_RESET]
        at = end
    return "".join([*parts, showable(plain[at:])])


def _add(marks: list[Mark], start: int, end: int, on: dict[str, str], theme: Theme) -> None:
    shown = [value for what, value in on.items() if theme.colours or what not in ("colour", "ground")]
    parameters = ";".join(shown)
    if start == end or not parameters:
        return
    role = ROLE + parameters
    if role not in theme.roles:
        if len(theme.roles) > MOST_ROLES:
            return
        theme.roles[role] = parameters
    marks.append((start, end, role))


def _select(on: dict[str, str], parameters: str) -> None:
    """Do what the parameters of one sequence say to what is ``on``."""
    numbers = [part.split(":") for part in parameters.split(";")]
    while numbers:
        first, *sub = numbers.pop(0)
        number = int(first or 0) if len(first) < 4 else -1
        if number == 0:
            on.clear()
        elif number in WEIGHTS:
            on[WEIGHTS[number]] = first
        elif number in ENDED:
            on.pop(ENDED[number], None)
        elif 30 <= number <= 37 or 90 <= number <= 97:
            on["colour"] = first
        elif 40 <= number <= 47 or 100 <= number <= 107:
            on["ground"] = first
        elif number in (38, 48):
            if not sub:
                count = {"5": 2, "2": 4}.get(numbers[0][0] if numbers else "", 0)
                sub = [part[0] for part in numbers[:count]]
                del numbers[:count]
            if _is_colour(sub):
                on["colour" if number == 38 else "ground"] = ";".join([first, *[part for part in sub if part]])


def _is_colour(parts: list[str]) -> bool:
    """Return True for ``5;n`` and ``2;r;g;b``, in which a colour space may be empty (``2::r:g:b``)."""
    values = [part for part in parts if part]
    wanted = {"5": 2, "2": 4}.get(values[0] if values else "", 0)
    return len(values) == wanted and all(part.isdecimal() and int(part[:4]) < 256 for part in values[1:])
