"""Text from outside, made safe to show: no control character, no reordering, no endless line.

Whatever a program did not write itself (a word, a choice, a file name, an error) passes through :func:`visible`
before it is shown. C0 controls and DEL appear in caret notation (``^[`` for escape), other controls, format
characters (bidirectional overrides among them), line separators and lone surrogates as ``<U+202E>``. Kept as
they are: spaces of every width, and the joiners that emoji and several scripts need inside a cluster.
"""

from __future__ import annotations

ZWNJ, ZWJ = "\u200c", "\u200d"

#: Categories of the Unicode Character Database that would act on the terminal instead of being seen.
_HIDDEN = {"Cc", "Cf", "Cs", "Zl", "Zp"}


def is_plain(text: str) -> bool:
    """Whether the text is printable ASCII throughout: one column per character, nothing to hide."""
    return text.isascii() and text.isprintable()


def visible(text: str) -> str:
    """The text with everything that would act on a terminal in a form that can be seen."""
    if text.isprintable():
        return text
    return "".join([char if char.isprintable() else _shown(char) for char in text])


def shown(char: str) -> str:
    """One character in its visible form."""
    return char if char.isprintable() else _shown(char)


def quoted(text: str, limit: int = 40) -> str:
    """The text in double quotes, visible, and at most ``limit`` characters long (its middle is cut out)."""
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
