"""What a word that has been begun may become."""

from __future__ import annotations

from wesperon.frozen import Frozen


class Candidate(Frozen):
    """A text for the whole word, what is said beside it, and whether the word may go on after it.

    ``shown`` is what a list shows in the place of the text; empty if it shows the text.
    """

    text: str
    note: str = ""
    goes_on: bool = False
    shown: str = ""
