"""Which bracket belongs to which."""

from __future__ import annotations

#: Opening brackets and what closes them.
PAIRS = {"(": ")", "[": "]", "{": "}"}
CLOSING = {there: here for here, there in PAIRS.items()}
#: How far a partner is looked for, in characters.
FAR = 20_000


def matching(text: str, cursor: int) -> tuple[int, int] | None:
    """Return the offsets of a bracket at or right before the cursor, and of its partner; None if there is no pair.

    Only brackets of the same kind are counted on the way.
    """
    for at in (cursor, cursor - 1):
        char = text[at : at + 1] if at >= 0 else ""
        if char in PAIRS and char:
            there = _partner(text, at, char, PAIRS[char], 1)
        elif char in CLOSING and char:
            there = _partner(text, at, char, CLOSING[char], -1)
        else:
            continue
        return (at, there) if there >= 0 else None
    return None


def _partner(text: str, at: int, own: str, other: str, step: int) -> int:
    """Return the offset of the bracket that ends what the one at ``at`` begins, or -1."""
    depth, there = 1, at
    while depth:
        if step > 0:
            ends = [text.find(one, there + 1, at + FAR) for one in (own, other)]
            there = min(end for end in ends if end >= 0) if ends[1] >= 0 else -1
        else:
            there = max(text.rfind(one, max(at - FAR, 0), there) for one in (own, other))
        if there < 0:
            return -1
        depth += 1 if text[there] == own else -1
    return there
