"""What was put into a text last, where the same key pressed again puts something else in its place."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.values.candidate import Candidate


class InsertedWord:
    """The last-word insertion in progress, now between the offsets ``start`` and ``end``.

    ``number`` is which one it is, ``steps`` how many entries are between the text and that entry, ``back`` 1 if the
    next one is older, else -1.
    """

    def __init__(self, start: int, end: int, number: int) -> None:
        self.start, self.end, self.number = start, end, number
        self.steps, self.back = 0, 1


class InlineCandidates:
    """Candidates that come into the text one after the other; between which offsets the one is that is there now."""

    def __init__(self, start: int, end: int, candidates: list[Candidate]) -> None:
        self.start = start
        self.end = end
        self.candidates = candidates
        self.at = -1
