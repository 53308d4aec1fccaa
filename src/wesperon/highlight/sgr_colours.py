"""Styles of Pygments as renditions of a terminal, in as many colours as it has."""

from __future__ import annotations

from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

#: The levels of each component in the cube of the 256 colours, and the sixteen colours as terminals mostly have them.
LEVELS = (0, 95, 135, 175, 215, 255)
SIXTEEN = (
    (0, 0, 0), (205, 0, 0), (0, 205, 0), (205, 205, 0), (0, 0, 238), (205, 0, 205), (0, 205, 205), (229, 229, 229),
    (127, 127, 127), (255, 0, 0), (0, 255, 0), (255, 255, 0), (92, 92, 255), (255, 0, 255), (0, 255, 255),
    (255, 255, 255),
)  # fmt: skip


def roles_of(look: dict[str, str], colours: int, style: str) -> Callable[[Any], str] | None:
    """Return the role of each type of token in a style, which are added to the look; None if no style is wanted.

    Raises DeclarationError if there is no such style.
    """
    if not style or not colours:
        return None
    from pygments.styles import get_style_by_name
    from pygments.util import ClassNotFound

    try:
        chosen = get_style_by_name(style)
    except ClassNotFound:
        raise DeclarationError(f"style={style!r} is no style that Pygments knows") from None

    def role(kind: Any) -> str:
        name = f"{style} {'.'.join(kind)}"
        if name not in look:
            look[name] = _rendition(chosen.style_for_token(kind), colours)
        return name

    return role


def _rendition(wanted: Any, colours: int) -> str:
    """Return the parameters of SGR (ECMA-48, 8.3.117) for what a style says of a type of token."""
    parameters = [number for name, number in (("bold", "1"), ("italic", "3"), ("underline", "4")) if wanted[name]]
    if wanted["color"]:
        parameters.append(colour(wanted["color"], colours))
    return ";".join(parameters)


def colour(code: str, colours: int, base: int = 30) -> str:
    """Return the parameters for a colour given as six hexadecimal digits, or the nearest one that there is."""
    red, green, blue = (int(code[at : at + 2], 16) for at in (0, 2, 4))
    if colours > 256:
        return f"{base + 8};2;{red};{green};{blue}"
    if colours == 256:
        return f"{base + 8};5;{_in_cube(red, green, blue)}"
    near = min(range(min(colours, 16)), key=lambda n: _distance(SIXTEEN[n], (red, green, blue)))
    # 30 to 37, and 90 to 97 for the bright ones: no standard has these, every terminal knows them (aixterm).
    return str(base + near if near < 8 else base + 52 + near)


def _in_cube(red: int, green: int, blue: int) -> int:
    """Return the nearest of the 256 colours: one of the cube from 16 on, or of the greys from 232 on."""
    places = [min(range(6), key=lambda n: abs(LEVELS[n] - part)) for part in (red, green, blue)]
    # The greys of the 256 are 8, 18, ... 238, as every terminal with so many has them.
    grey = min(range(24), key=lambda n: abs(8 + 10 * n - (red + green + blue) // 3))
    in_cube = (LEVELS[places[0]], LEVELS[places[1]], LEVELS[places[2]])
    level = 8 + 10 * grey
    if _distance((level, level, level), (red, green, blue)) < _distance(in_cube, (red, green, blue)):
        return 232 + grey
    return 16 + 36 * places[0] + 6 * places[1] + places[2]


def _distance(one: tuple[int, int, int], other: tuple[int, int, int]) -> int:
    return sum((a - b) ** 2 for a, b in zip(one, other, strict=True))
