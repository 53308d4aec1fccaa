"""Arguments that nobody declared: what arrived, word by word."""

from __future__ import annotations

from wesperon.argv import is_plain_word, words_of
from wesperon.context import current
from wesperon.frozen import Frozen
from wesperon.screen.table import Column, columns, entries, texts
from wesperon.system.asked import end
from wesperon.text.escape import visible
from wesperon.text.quoting import join
from wesperon.text.truncate import counted, cut_middle
from wesperon.values import Complaint
from wesperon.values.kind import BOOL, FLOAT, INT

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator, Sequence


#: Nothing in the head of the table is broken: it is to be copied.
WIDE = 1_000_000


class Word(Frozen):
    """One word: its position, counted from 1 without the program, and what it seems to be.

    ``name`` is empty for a plain word; ``value`` is the text that the name has, or the word itself; ``looks`` the type
    that the value looks like.
    """

    position: int
    text: str
    name: str
    value: str
    looks: str


class Arguments:
    """The words that a program was given; made by :func:`split`.

    ``program`` is the program itself, ``line`` the line as the interpreter was started, ``words`` all words after the
    program, ``named`` those that have a name (``--name value``, ``--name=value``, ``name=value``; a name without a
    value is ``yes``), ``plain`` those that have none. ``len`` counts the words, ``str`` is a table.
    """

    def __init__(self, words: Sequence[str]) -> None:
        context = current()
        self.program = context.program
        self.line = join(context.line)
        self.words = list(words)
        self.named: dict[str, str] = {}
        self.plain: list[str] = []
        self.parts = self._parts()

    def __len__(self) -> int:
        return len(self.words)

    def __iter__(self) -> Iterator[Word]:
        return iter(self.parts)

    def _parts(self) -> list[Word]:
        parts: list[Word] = []
        at = 0
        named = True
        while at < len(self.words):
            word = self.words[at]
            following = self.words[at + 1] if at + 1 < len(self.words) else None
            name, value = _name_in(word) if named else ("", word)
            at += 1
            if named and word == "--":
                named = False
                parts.append(Word(at, word, "", "", "the end of the names"))
                continue
            if name and value is None and following is not None and is_plain_word(following):
                value = following
                parts.append(Word(at, word, name, "", "a name, its value follows"))
                parts.append(Word(at + 1, following, name, value, looks_like(value)))
                at += 1
            else:
                value = "yes" if value is None else value
                parts.append(Word(at, word, name, value, looks_like(value)))
            if name:
                self.named[name] = value
            else:
                self.plain.append(value)
        return parts

    def together(self) -> list[tuple[int, list[str]]]:
        """Return the runs of neighbouring plain words of text, each with the position of its first.

        These look like one value that lost its quotes.
        """
        runs: list[tuple[int, list[str]]] = []
        last = 0
        for part in self.parts:
            if part.looks != "text" or (part.name and part.text == part.value):
                continue
            if runs and last == part.position - 1 and not part.name:
                runs[-1][1].append(part.value)
            else:
                runs.append((part.position, [part.value]))
            last = part.position
        return [run for run in runs if len(run[1]) > 1]

    def __str__(self) -> str:
        head = [("program", self.program), ("line", self.line), ("words", str(len(self)))]
        lines = texts(entries([(name, visible(text)) for name, text in head], WIDE, gutter=7))
        if self.parts:
            rows = [
                (str(part.position), visible(part.text), visible(part.name), visible(part.value), part.looks)
                for part in self.parts
            ]
            of = [Column("", right=True), *map(Column, ("word", "name", "value", "looks like"))]
            # Five columns of at most 40 make a page of 200: wider ones would wrap on every terminal.
            cells = [tuple(cut_middle(text, 40) for text in row) for row in rows]
            lines += ["", *texts(columns(of, cells))]
        for position, words in self.together():
            last = position + len(words) - 1
            these = f"{position} and {last} are both" if len(words) == 2 else f"{position} to {last} are all"
            lines += ["", f"Words {these} text. If they are one value, quote it:"]
            lines.append(f"  {visible(join([' '.join(words)]))}")
        return "\n".join(lines)

    def __repr__(self) -> str:
        return f"<{counted(len(self), 'word')}: {self.words!r}>"


def split(words: Sequence[str] | None = None) -> Arguments:
    """Return what arrived, with no declaration: ``.program``, ``.line``, ``.words``, ``.named``, and a table to print.

    ``words`` are those after the program; ``None`` means those of the process. Nothing is converted and nothing is
    refused.

    Example:
        >>> arrived = split(["Lantern", "--frames=3", "-v"])
        >>> arrived.named
        {'frames': '3', 'v': 'yes'}

    """
    if words is not None:
        words = words_of(words)
    context = current()
    own = context.words if words is None or context.asking_shell else ()
    if context.asking_shell and (words is None or list(words) == list(own)):
        end()  # nothing is declared, so there is nothing to offer, and the program is not to run
    return Arguments(own if words is None else words)


def looks_like(text: str) -> str:
    """Return the type that a text looks like."""
    if not text.strip():
        return "nothing" if not text else "blanks"
    for kind in (INT, FLOAT, BOOL):
        try:
            kind.parse(text.strip())
        except Complaint:
            continue
        return kind.wanted
    return "text"


def _name_in(word: str) -> tuple[str, str | None]:
    """Return the name that a word carries and the value after it; an empty name where it is a plain word."""
    if not is_plain_word(word) and word != "--":
        name, equals, value = word.lstrip("-").partition("=")
        return (name, value if equals else None) if name else ("", word)
    name, equals, value = word.partition("=")
    if equals and name.replace("-", "_").isidentifier():
        return name, value
    return "", word
