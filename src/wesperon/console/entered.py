"""Lines of commands as they are entered: typed, piped, or read from a file, before anybody knows what they mean."""

from __future__ import annotations

from wesperon.values import Complaint
from wesperon.values.words import open_quote, split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.console.output_file import OutputFile
    from wesperon.history.writing import Mark

#: What a line begins with that does nothing.
COMMENT = "#"


class Entered:
    """One line that is to be run.

    ``text`` is the line, ``words`` its words; ``place`` the file and the line of it, empty if it was typed; ``secrets``
    the texts in it that no message may show; ``mark`` its place in the history.
    """

    def __init__(self, text: str, words: Sequence[str], place: str = "", secrets: Sequence[str] = ()) -> None:
        self.text = text
        self.words = list(words)
        self.place = place
        self.secrets = secrets
        self.mark: Mark | None = None
        self.in_background = False
        #: Where its output goes, if that is said.
        self.output: OutputFile | None = None

    @property
    def shown_words(self) -> list[str]:
        """The words of the line, before `{name}` is replaced by its value."""
        return [word for word, _ in split_words(self.text)]


def is_comment(text: str) -> bool:
    """Return True if a line does nothing."""
    return text.lstrip().startswith(COMMENT)


def words_of(text: str) -> list[str]:
    """Return the words of a line, none of a comment; raises Complaint if a quote is not closed."""
    if is_comment(text):
        return []
    return [word for word, _ in split_words(text)]


def goes_on(row: str) -> bool:
    """Return True if a row outside of quotes ends in a backslash, which joins the next one to it."""
    return (len(row) - len(row.rstrip("\\"))) % 2 == 1


def is_whole(text: str) -> bool:
    """Return True if every quote in a line is closed, and no backslash joins another line to it."""
    try:
        words_of(text)
    except Complaint:
        return False
    return is_comment(text) or not goes_on(text)


class Joiner:
    """Puts rows that come one after the other together to lines: an open quote or a backslash goes on with the next.

    It takes time for each row as it comes, however many there are in a line.
    """

    def __init__(self) -> None:
        self.parts: list[str] = []
        self.mark = ""

    def push(self, row: str) -> str | None:
        """Take a row, without its end; the line that it ends, if it does."""
        if not self.parts and is_comment(row):
            return row
        self.mark = open_quote(row + "\n", self.mark)
        self.parts.append(row)
        return None if self.mark or goes_on(row) else self.end()

    def end(self) -> str:
        """Return what has come of a line so far."""
        text = "\n".join(self.parts)
        self.parts.clear()
        self.mark = ""
        return text
