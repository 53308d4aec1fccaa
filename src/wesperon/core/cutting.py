"""Long text made short, and counted nouns."""

from __future__ import annotations


def cut_middle(text: str, limit: int) -> str:
    """The text, or its two ends around ``...`` where it is longer than ``limit`` characters."""
    if len(text) <= limit:
        return text
    kept = max(limit - 3, 0)
    head = kept - kept // 3
    return text[:head] + "..." + text[len(text) - (kept - head) :]


def counted(number: int, noun: str, nouns: str = "") -> str:
    """``1 word``, ``3 words``: the noun in the form that the number wants."""
    return f"{number:,} {noun if number == 1 else nouns or noun + 's'}"


def ordinal(number: int) -> str:
    """``1st``, ``2nd``, ``11th``."""
    ending = "th" if number % 100 in (11, 12, 13) else {1: "st", 2: "nd", 3: "rd"}.get(number % 10, "th")
    return f"{number:,}{ending}"
