"""Long text made short, and counted nouns."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection


def cut_middle(text: str, limit: int) -> str:
    """The text, or its two ends around ``...`` where it is longer than ``limit`` characters."""
    if len(text) <= limit:
        return text
    kept = max(limit - 3, 0)
    head = kept - kept // 3
    return text[:head] + "..." + text[len(text) - (kept - head) :]


def listed(names: Collection[str], joint: str = ", ", most: int = 6) -> str:
    """The names in one line, and of very many the first, with how many more there are."""
    first = joint.join(list(names)[:most])
    if len(names) <= most:
        return first
    from wesperon.text.messages import tell

    return tell("{names}, and {count} more", names=first, count=len(names) - most)


def counted(number: int, noun: str, nouns: str = "") -> str:
    """``1 word``, ``3 words``: the noun in the form that the number wants."""
    from wesperon.text.messages import tell_many

    return tell_many("{count} " + noun, "{count} " + (nouns or noun + "s"), number)


def behind_first(words: list[str], valued: tuple[str, ...] = ("as", "to", "prefix", "asking", "answers")) -> list[str]:
    """The words of a command with ``--`` after its first plain one, so that what follows is left to that.

    ``valued`` are the names of the command itself that take the next word.
    """
    at = 1
    while at < len(words) and words[at].startswith("-") and words[at] != "-":
        if words[at] == "--":
            return words
        at += 2 if words[at].removeprefix("--") in valued else 1
    return [*words[: at + 1], "--", *words[at + 1 :]] if at + 1 < len(words) else words
