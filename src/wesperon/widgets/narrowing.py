"""Which texts hold what was typed: all its parts, in any order, whatever their letter case.

Cost: one pass of ``in`` over the texts for each part, over those that are left of the last letter where the needle has
only grown.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence

    from wesperon.screen.frame import Row

#: How many matches are looked through for one that begins with the needle.
LOOKED_AT = 1_000


def parts_of(needle: str, comma: bool = False) -> list[str]:
    """What is looked for, the longest first: the parts between blanks, with ``comma`` between commas too."""
    folded = needle.casefold()
    return sorted((folded.replace(",", " ") if comma else folded).split(), key=len, reverse=True)


def matching(
    texts: Sequence[str], parts: Sequence[str], among: Iterable[int] | None = None, first: int = 0
) -> list[int]:
    """The places of the texts that hold all the parts: of all from ``first`` on, or of some."""
    found: Iterable[int] | None = among
    for part in parts:
        if found is None:
            found = [at for at, text in enumerate(texts[first:] if first else texts, first) if part in text]
        else:
            found = [at for at in found if part in texts[at]]
    return list(range(first, len(texts)) if found is None else found)


def best(texts: Sequence[str], found: Sequence[int], needle: str) -> int:
    """Which of the matches is meant most likely: one that begins with the needle, else with a word that does."""
    needle = needle.casefold().strip()
    looked = found[:LOOKED_AT]
    for at, place in enumerate(looked):
        if texts[place].startswith(needle):
            return at
    for at, place in enumerate(looked):
        if " " + needle in texts[place]:
            return at
    return 0


def marked(text: str, parts: Iterable[str], role: str, found: str) -> Row:
    """The text in spans: ``found`` is the role of what the parts match, ``role`` that of the rest."""
    folded = text.casefold()
    if len(folded) != len(text):
        return ((text, role),)
    hits = bytearray(len(text))
    for part in parts:
        at = folded.find(part)
        if at >= 0:
            hits[at : at + len(part)] = b"\1" * len(part)
    spans: list[tuple[str, str]] = []
    start = 0
    for at in range(1, len(text) + 1):
        if at == len(text) or hits[at] != hits[start]:
            spans.append((text[start:at], found if hits[start] else role))
            start = at
    return tuple(spans)
