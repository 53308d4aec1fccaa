"""The TOML that most settings are, read at little cost: tables, and a value in one line (TOML 1.0.0).

``tomllib``, with all that it loads, costs a start 64 million instructions: three quarters of what it takes to show a
question. Whatever is not as simple as this is left to it, also to say what is wrong, so that both agree on every
document.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: The characters of a key without quotes, and those of a whole number.
BARE = frozenset("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789_-")
DIGITS = frozenset("0123456789")
WORDS = {"true": True, "false": False}
BLANKS = " \t"


def read_plainly(text: str) -> dict[str, Any] | None:
    """Return what a document says; None if it is not this simple, or if anything is wrong."""
    if any((char < " " and char not in "\n\t") or char == "\x7f" for char in text):
        return None
    top: dict[str, Any] = {}
    table = top
    for line in text.split("\n"):
        row = line.strip(BLANKS)
        if not row or row[0] == "#":
            continue
        if row[0] == "[":
            opened = _opened(top, row)
            if opened is None:
                return None
            table = opened
            continue
        key, rest = _key(row)
        rest = rest.lstrip(BLANKS)
        if not key or rest[:1] != "=":
            return None
        is_value, value = _value(rest[1:].strip(BLANKS))
        if not is_value or key in table:
            return None
        table[key] = value
    return top


def _opened(top: dict[str, Any], row: str) -> dict[str, Any] | None:
    """Return the table that a heading begins, which must be a new one; None if it cannot."""
    name, bracket, rest = row[1:].partition("]")
    if not bracket or not _is_end(rest):
        return None
    table = top
    *above, last = name.split(".")
    for key in above:
        if not key or not BARE.issuperset(key) or not isinstance(table.setdefault(key, {}), dict):
            return None
        table = table[key]
    if not last or not BARE.issuperset(last) or last in table:
        return None
    made: dict[str, Any] = {}
    table[last] = made
    return made


def _key(row: str) -> tuple[str, str]:
    """Return the key of a row and what comes after it; an empty key if it has dots, or none."""
    if row[0] in "\"'":
        key, quote, rest = row[1:].partition(row[0])
        return ("", "") if not quote or (row[0] == '"' and "\\" in key) else (key, rest)
    at = 0
    while at < len(row) and row[at] in BARE:
        at += 1
    return row[:at], row[at:]


def _value(said: str) -> tuple[bool, Any]:
    """Return whether what is after the sign is a plain value, and the value."""
    if said[:1] and said[0] in "\"'":
        text, quote, rest = said[1:].partition(said[0])
        is_plain = bool(quote) and not (said[0] == '"' and "\\" in text) and _is_end(rest)
        return is_plain and not (not text and rest[:1] == said[0]), text
    word, _, _ = said.partition("#")
    word = word.rstrip(BLANKS)
    if word in WORDS:
        return True, WORDS[word]
    digits = word[1:] if word[:1] in ("+", "-") else word
    is_number = bool(digits) and DIGITS.issuperset(digits) and (digits == "0" or digits[0] != "0") and len(digits) < 19
    return is_number, int(word) if is_number else None


def _is_end(rest: str) -> bool:
    """Return True if nothing but blanks and a comment is left of a row."""
    left = rest.lstrip(BLANKS)
    return not left or left[0] == "#"
