"""What a word that has been begun may become."""

from __future__ import annotations

from wesperon.frozen import Frozen

#: How candidates are shown: each in a row with its note, as many in a row as fit, or one after the other in the line.
LIST, GRID, INLINE = ("list", "grid", "inline")


class Candidate(Frozen):
    """A text for the whole word, what is said beside it, and whether the word may go on after it.

    ``shown`` is what a list shows in the place of the text; empty if it shows the text.
    """

    text: str
    note: str = ""
    goes_on: bool = False
    shown: str = ""
