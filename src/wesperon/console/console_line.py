"""The line of a console: what its words are, and when Enter runs it."""

from __future__ import annotations

from wesperon.values import Complaint, tell
from wesperon.values.words import split_words
from wesperon.widgets.several_lines import SeveralLines


class ConsoleLine(SeveralLines):
    """The line of a console: Enter runs it, or adds a line where a quote is open."""

    FOOT = "Enter: run   Tab: complete   Up: earlier   Ctrl-R: find   Ctrl-D: leave"
    comment_sign = "#"

    def foot(self) -> str:
        """What the keys do; after an open quote, what Enter does."""
        if self.finder is not None:
            return super().foot()
        try:
            words_of(self.draft.text)
        except Complaint as complaint:
            return complaint.reason.partition(":")[0] + "   " + tell("Enter: add a line   Ctrl-C: drop it")
        return tell(self.FOOT)


def is_comment(text: str) -> bool:
    """Whether a line does nothing."""
    return text.lstrip().startswith(ConsoleLine.comment_sign)


def words_of(text: str) -> list[str]:
    """The words of a line, none of a comment; raises Complaint if a quote is not closed."""
    if is_comment(text):
        return []
    return [word for word, _ in split_words(text)]


def is_whole(text: str) -> bool:
    """Whether every quote in a line is closed."""
    try:
        words_of(text)
    except Complaint:
        return False
    return True
