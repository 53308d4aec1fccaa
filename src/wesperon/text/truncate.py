"""Long text made short, and counted nouns."""

from __future__ import annotations

from wesperon.text.messages import tell, tell_many

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Collection


def cut_middle(text: str, limit: int) -> str:
    """Return the text, or its two ends around ``...`` where it is longer than ``limit`` characters."""
    if len(text) <= limit:
        return text
    kept = max(limit - 3, 0)
    head = kept - kept // 3
    return text[:head] + "..." + text[len(text) - (kept - head) :]


#: So many names are listed in a message; of more, the first of them and how many more there are.
MOST_NAMES = 6


def listed(names: Collection[str], joint: str = ", ", most: int = MOST_NAMES) -> str:
    """Return the names in one line, and of very many the first, with how many more there are."""
    first = joint.join(list(names)[:most])
    if len(names) <= most:
        return first
    return tell("{names}, and {count} more", names=first, count=len(names) - most)


def counted(number: int, noun: str, nouns: str = "") -> str:
    """``1 word``, ``3 words``: the noun in the form that the number wants."""
    return tell_many("{count} " + noun, "{count} " + (nouns or noun + "s"), number)


#: The names of the tool and its commands that take the next word.
VALUED = ("as", "to", "prefix", "asking", "answers")


def plain_from(words: list[str], at: int) -> int:
    """Return the place of the first plain word from a place on, names with their values passed over.

    Return -1 if there is none.
    """
    while at < len(words):
        if words[at] == "--":
            return -1
        if words[at] == "-" or not words[at].startswith("-"):
            return at
        at += 2 if words[at].removeprefix("--") in VALUED else 1
    return -1


def end_names(words: list[str], at: int = 0) -> list[str]:
    """Return the words with ``--`` after the first plain one after a position, so that what follows is left to that."""
    first = plain_from(words, at + 1)
    return [*words[: first + 1], "--", *words[first + 1 :]] if 0 <= first < len(words) - 1 else words
