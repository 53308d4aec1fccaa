"""Words quoted for a POSIX shell (Shell Command Language, 2.2 Quoting), so that it splits them the same way again.

``values.words`` splits a line by the same rules.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable

#: Characters that no shell treats specially anywhere in a word.
_SAFE = frozenset("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789_@%+:,./-")


def quote(word: str) -> str:
    """Return the word, in single quotes where a shell would not take it as it is."""
    # "=" is safe inside a word, and special at its start in one common shell.
    if word and _SAFE.issuperset(word[1:].replace("=", "")) and word[0] in _SAFE:
        return word
    return "'" + word.replace("'", "'\\''") + "'"


def join(words: Iterable[str]) -> str:
    """Return the words as a line."""
    return " ".join([quote(word) for word in words])
