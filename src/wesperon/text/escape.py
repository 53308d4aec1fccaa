"""Text from outside, made safe to show: no control character, no reordering, no endless line.

Whatever a program did not write itself (a word, a choice, a file name, an error) passes through :func:`visible`
before it is shown. C0 controls and DEL appear in caret notation (``^[`` for escape), other controls, format
characters (bidirectional overrides among them), line separators and lone surrogates as ``<U+202E>``. Kept as
they are: spaces of every width, and the joiners that emoji and several scripts need inside a cluster.
"""

from __future__ import annotations

#: What a control sequence begins with (ECMA-48, 5.4), and what is between that and its last character.
CSI, PARAMETERS = "\x1b[", frozenset("0123456789;:")
ZWNJ, ZWJ = "\u200c", "\u200d"

#: Categories of the Unicode Character Database that would act on the terminal instead of being seen.
_HIDDEN = {"Cc", "Cf", "Cs", "Zl", "Zp"}


def is_plain(text: str) -> bool:
    """Return True if the text is printable ASCII throughout: one column per character, nothing to hide."""
    return text.isascii() and text.isprintable()


def visible(text: str) -> str:
    """Return the text with everything that would act on a terminal in a form that can be seen."""
    if text.isprintable():
        return text
    return "".join([char if char.isprintable() else _shown(char) for char in text])


def visible_lines(text: str) -> str:
    """Return a text with what would act on a terminal in its visible form, its line ends kept."""
    return "\n".join([visible(line) for line in text.split("\n")])


def showable(text: str) -> str:
    """Return a text for a terminal: what would act on it is visible, but for line ends, tabs and styles (SGR)."""
    if text.isprintable():
        return text
    parts = []
    for number, piece in enumerate(text.split(CSI)):
        if number:
            end = next((at for at, char in enumerate(piece) if char not in PARAMETERS), len(piece))
            if piece[end : end + 1] == "m":  # ECMA-48, 8.3.117
                parts.append(CSI + piece[: end + 1])
                piece = piece[end + 1 :]
            else:
                piece = CSI + piece
        parts.append("".join([char if char in "\n\t" or char.isprintable() else _shown(char) for char in piece]))
    return "".join(parts)


def shown(char: str) -> str:
    """Return one character in its visible form."""
    return char if char.isprintable() else _shown(char)


def quoted(text: str, limit: int = 40) -> str:
    """Return the text in double quotes, visible, and at most ``limit`` characters long (its middle is cut out)."""
    from wesperon.text.truncate import cut_middle

    if len(text) > 4 * limit:
        text = text[: 2 * limit] + text[-2 * limit :]
    return f'"{cut_middle(visible(text), limit)}"'


def _shown(char: str) -> str:
    if char < " " or char == "\x7f":
        return "^" + chr(ord(char) ^ 0x40)
    if char in (ZWJ, ZWNJ):
        return char
    import unicodedata

    return f"<U+{ord(char):04X}>" if unicodedata.category(char) in _HIDDEN else char
