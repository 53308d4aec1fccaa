"""What a theme says of a role, in words: ``bold #7fb4ff``, ``reverse``, ``underline red``, ``white on-blue``.

Words are weights and the like (``STYLES``), and a colour: one of the sixteen of the terminal's palette by its name, a
number of the 256, or ``#`` and six hexadecimal digits; after ``on-`` it is that of the background. A colour that the
terminal does not have gives way to the nearest one; with no colours at all the other words remain.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.highlight.sgr_colours import LEVELS, SIXTEEN, colour
from wesperon.values import Complaint, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.text import spelling
else:
    spelling = later("wesperon.text.spelling")

#: The words that are no colours, with their parameter of SGR (ECMA-48, 8.3.117).
STYLES = {"bold": "1", "dim": "2", "italic": "3", "underline": "4", "reverse": "7"}
#: The colours of the palette in the order of their parameters; with ``bright-`` before them the second eight.
COLOURS = ("black", "red", "green", "yellow", "blue", "magenta", "cyan", "white")
NAMES = (*COLOURS, *(f"bright-{name}" for name in COLOURS))
HEXADECIMAL = "0123456789abcdef"


def rendition(words: str, colours: int) -> str:
    """Return the parameters of SGR for what a theme says; raises Complaint for what it cannot say."""
    parameters: list[str] = []
    for word in words.lower().split():
        if word in STYLES:
            parameters.append(STYLES[word])
        else:
            made = _colour(word, colours)
            parameters += [made] if made else []
    return ";".join(parameters)


def _colour(said: str, colours: int) -> str:
    """Return the parameter for a colour; empty where there are none."""
    word = said.removeprefix("on-")
    base = 30 if word == said else 40
    if word in NAMES:
        number = NAMES.index(word)
        if not colours:
            return ""
        return str(base + number if number < 8 else base + 52 + number if colours >= 16 else base + number - 8)
    rgb = rgb_of(word)
    if rgb is None:
        hint = spelling.suggestion(word, [*STYLES, *NAMES])
        raise Complaint(tell("{word} is not a style or a colour{hint}", word=quoted(word), hint=hint))
    if not colours:
        return ""
    if word.isdecimal() and colours >= 256:
        return f"{base + 8};5;{int(word)}"
    return colour("".join(f"{part:02x}" for part in rgb), colours, base)


def rgb_of(word: str) -> tuple[int, int, int] | None:
    """Return the red, green and blue of a colour, from 0 to 255.

    A name of the palette is taken as most terminals show it.
    """
    if word in NAMES:
        return SIXTEEN[NAMES.index(word)]
    if len(word) == 7 and word[0] == "#" and all(digit in HEXADECIMAL for digit in word[1:]):
        return int(word[1:3], 16), int(word[3:5], 16), int(word[5:7], 16)
    if word.isdecimal() and word.isascii() and len(word) <= 3 and int(word) < 256:
        return rgb_of_number(int(word))
    return None


def rgb_of_number(number: int) -> tuple[int, int, int]:
    """Return the red, green and blue of one of the 256 colours."""
    if number < 16:
        return SIXTEEN[number]
    if number >= 232:
        level = 8 + 10 * (number - 232)
        return level, level, level
    place = number - 16
    return LEVELS[place // 36], LEVELS[place // 6 % 6], LEVELS[place % 6]
