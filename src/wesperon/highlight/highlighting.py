"""Colours while typing: which stretches of a text have which role, by the syntax that is typed.

A syntax is the name of a lexer of Pygments, such a lexer, or a function from a text to spans ``(start, end, role)``.
A lexer of regular expressions is a stack machine: where a token begins at the beginning of a line, the stack says all
that the rest depends on. ``LexerHighlighter`` keeps that stack for each line, so that after a change it starts at the
line before it, and stops where a line begins with the stack that it had before: a key costs the lines that it changes,
and lines that nobody has seen yet cost nothing.
"""

from __future__ import annotations

from pygments.lexer import ExtendedRegexLexer, Lexer, LexerContext, RegexLexer
from pygments.lexers import get_lexer_by_name
from pygments.util import ClassNotFound

from wesperon.editing.line_index import LineIndex
from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Iterator
    from typing import Any, Protocol

    from wesperon.editing.line_index import Change

    Marks = tuple[tuple[int, int, str], ...]
    Painted = Callable[[str], Iterable[tuple[int, int, str]]]

    class Colours(Protocol):
        """What knows the roles in a text."""

        def marks(self, text: str, number: int) -> Marks:
            """Return those of one line, from 0; offsets count in the line."""

        @property
        def is_late(self) -> bool:
            """Whether marks may be wrong until ``catch_up``, since to find out takes too long for a key."""

        def catch_up(self) -> None:
            """Bring the marks up to date."""


#: The roles of the look for the types of tokens; a type that is not here has that of the type above it.
ROLES = {
    "Keyword": "keyword",
    "Keyword.Constant": "constant",
    "Keyword.Type": "name",
    "Name.Function": "name",
    "Name.Class": "name",
    "Name.Decorator": "name",
    "Name.Builtin": "name",
    "Name.Tag": "keyword",
    "Name.Attribute": "name",
    "Literal": "constant",
    "Literal.String": "string",
    "Literal.Number": "constant",
    "Operator.Word": "keyword",
    "Comment": "comment",
    "Generic.Heading": "title",
    "Generic.Strong": "title",
    "Error": "fault",
}
#: Longer texts are not coloured by lexers that can only read a text as a whole, nor by functions.
WHOLE = 50_000
#: How many lines are read beyond the one that is asked for, since the next ones will be asked for too.
AHEAD = 40
#: How many lines above a change are read again because something in them could not be read.
DOUBTED = 20
#: How many lines above a change are read again in any case: some languages look a line or two ahead.
BEFORE = 2


def colours_for(syntax: object, roles: Callable[[Any], str] | None = None, split: LineIndex | None = None) -> Colours:
    """Return what knows the roles in a text of a language; raises DeclarationError if there is no such language.

    ``roles`` gives the role of a type of token; ``None`` means those of ``ROLES``. ``split`` holds the lines of the
    text, if somebody keeps them already.
    """
    if isinstance(syntax, str):
        try:
            syntax = get_lexer_by_name(syntax)
        except ClassNotFound:
            raise DeclarationError(f"syntax={syntax!r} is no syntax that Pygments knows") from None
    elif isinstance(syntax, type) and issubclass(syntax, Lexer):
        syntax = syntax()
    if isinstance(syntax, RegexLexer) and not isinstance(syntax, ExtendedRegexLexer):
        return LexerHighlighter(syntax, roles or role_of, split or LineIndex())
    if isinstance(syntax, Lexer):
        lexer, role = syntax, roles or role_of
        return FunctionHighlighter(
            lambda text: (
                (start, start + len(part), role(kind)) for start, kind, part in lexer.get_tokens_unprocessed(text)
            )
        )
    if callable(syntax):
        return FunctionHighlighter(syntax)
    raise DeclarationError(f"syntax={syntax!r} is no name, no lexer of Pygments and no function")


def role_of(kind: Any) -> str:
    """Return the role of a type of token."""
    while kind.parent is not None:
        name = ".".join(kind)
        if name in ROLES:
            return ROLES[name]
        kind = kind.parent
    return ""


class FunctionHighlighter:
    """The colours of something that reads a text as a whole."""

    def __init__(self, spans: Painted) -> None:
        self.spans = spans
        self.text: str | None = None
        self.lines: dict[int, list[tuple[int, int, str]]] = {}

    def marks(self, text: str, number: int) -> Marks:
        """See ``Colours``."""
        if text != self.text:
            self.text, self.lines = text, {}
            if len(text) <= WHOLE:
                self._read(text)
        return tuple(self.lines.get(number, ()))

    is_late = False

    def catch_up(self) -> None:
        """See ``Colours``."""

    def _read(self, text: str) -> None:
        line = start_of_line = reached = 0
        for start, end, role in sorted(self.spans(text)):
            start = max(start, reached)
            while start < min(end, len(text)):
                line += text.count("\n", start_of_line, start)
                start_of_line = text.rfind("\n", 0, start) + 1
                stop = text.find("\n", start, end)
                stop = min(end, len(text)) if stop < 0 else stop
                if role and start < stop:
                    self.lines.setdefault(line, []).append((start - start_of_line, stop - start_of_line, role))
                start = reached = stop + (text[stop : stop + 1] == "\n")
                if stop == end:
                    break


class LexerHighlighter:
    """The colours of a lexer with states, line by line.

    For each line: the stack with which it begins, None if it begins inside a token; its marks, None if they are
    not known; and its heads, the columns where the lexer could start again, each with the stack it has there. The first
    ``known`` lines are right. Later marks are stale. They become valid again, up to the next unknown line, when the
    lexer reaches a line with the same stack as before. ``offset`` is the start of the first unknown line, or -1 if it
    would have to be counted.

    A letter or a blank in a line that lies inside a token of several lines, such as a long comment, gets the role of
    that token at once. Whether it has ended the token is found out by ``catch_up``, since that takes all of the token.
    """

    def __init__(self, lexer: Any, role: Callable[[Any], str], split: LineIndex) -> None:
        self.lexer = lexer
        self.split = split
        self.version = -1
        self.role = role
        self.roles: dict[Any, str] = {}
        self.whole: FunctionHighlighter | None = None
        self.text = ""
        self.known = self.offset = 0
        self.stacks: list[tuple[str, ...] | None] = [("root",)]
        self.spans: list[Marks | None] = [None]
        self.heads: list[tuple[tuple[int, tuple[str, ...]], ...]] = [()]
        #: For each line, 1 where something in it could not be read; and 1 where its marks are not known.
        self.faults, self.unknown = bytearray(1), bytearray(b"\1")
        #: The change to a line inside a token whose consequences are not known yet; None if there is none.
        self.late: Change | None = None

    def marks(self, text: str, number: int) -> Marks:
        """See ``Colours``."""
        if text is not self.text:
            if self.whole is not None:
                return self.whole.marks(text, number)
            self.split.replace(text)
            if self.split.version != self.version:
                self._follow()
        if number >= self.known:
            try:
                self._read(number)
            except TypeError:  # a lexer with functions of its own that cannot start in the middle
                self.whole, self.text = FunctionHighlighter(self._read_whole), ""
                return self.whole.marks(text, number)
        return self.spans[number] or ()

    @property
    def is_late(self) -> bool:
        """Whether it is not known what the last change has done to the lines around it."""
        return self.late is not None

    def catch_up(self) -> None:
        """Read the lines around the last change again, when their marks are asked for."""
        if self.late is not None:
            change, self.late = self.late, None
            self._reread(change)

    def _follow(self) -> None:
        """Take over the text as it is now; the lines that did not change keep what is known of them."""
        old, split = self.text, self.split
        text, change = split.text, split.change
        is_next = split.version == self.version + 1
        self.text, self.version = text, split.version
        if not is_next or (self.late is not None and self.late.line != change.line):
            count = len(split.lines)
            self.stacks, self.spans = [("root",), *[None] * (count - 1)], [None] * count
            self.heads, self.faults, self.unknown = [()] * count, bytearray(count), bytearray(b"\1" * count)
            self.known = self.offset = 0
            self.late = None
            return
        end, longer = len(text) - change.tail, len(text) - len(old)
        changed = old[change.start : len(old) - change.tail] + text[change.start : end]
        if change.line < self.known and changed.isalnum():
            column = change.start - change.begin
            if self._patch(change.line, change.begin, column, end - change.begin, longer):
                self.offset += longer if self.offset >= 0 else 0
                return  # letters and digits complete nothing
        if change.line < self.known and self._stretch(change, changed, longer):
            return
        self.late = None
        self._reread(change)

    def _stretch(self, change: Change, changed: str, longer: int) -> bool:
        """Give what was typed in a line inside a token the role of the token, for now; False if it is no such line."""
        line = change.line
        spans, size = self.spans[line], len(self.split.lines[line])
        inside = self.stacks[line] is None and not self.heads[line] and spans is not None and len(spans) == 1
        if not inside or not changed.replace(" ", "a").isalnum() or change.old != 1 or change.new != 1:
            return False
        assert spans is not None
        start, end, role = spans[0]
        if start or end != size - longer or not size:
            return False
        self.spans[line], self.late = ((0, size, role),), change
        self.offset += longer if self.offset >= 0 else 0
        return True

    def _reread(self, change: Change) -> None:
        """Invalidate the changed lines, and those above that may depend on them."""
        split = self.split
        start = min(max(change.line - BEFORE, 0), self.known)
        while start > 0 and (start == len(self.stacks) or self.stacks[start] is None):
            start -= 1
        self.offset = change.begin - sum(map(len, split.lines[start : change.line])) - (change.line - start)
        tail, lines = change.line + change.old, change.line + change.new - start
        self.stacks[start:tail] = [self.stacks[start], *[None] * (lines - 1)]
        self.spans[start:tail] = [None] * lines
        self.heads[start:tail] = [()] * lines
        self.faults[start:tail], self.unknown[start:tail] = bytes(lines), b"\1" * lines
        self._doubt(start)

    def _doubt(self, start: int) -> None:
        """Keep the lines before ``start`` as valid, but those with lexer errors, which the change may have repaired."""
        self.known = start
        for _ in range(DOUBTED):
            line = self.faults.rfind(1, 0, self.known)
            if line < 0:
                return
            while line > 0 and self.stacks[line] is None:
                line -= 1
            self.spans[line], self.faults[line], self.unknown[line] = None, 0, 1
            self.known, self.offset = line, -1

    def _patch(self, line: int, begin: int, start: int, end: int, longer: int) -> bool:
        """Read again what changed in a line that begins at an offset, between two columns; False if that is not all.

        For letters and digits only: other characters may pair up with some far before them. Two tokens before the
        change are read again, since they may depend on what follows them, and two after it, or the end of the line,
        must begin as they did before. If something in the line could not be read, it may have become readable.
        """
        heads, spans = self.heads[line], self.spans[line]
        if spans is None or not heads or any(mark[2] == "fault" for mark in spans):
            return False
        here = next((n for n in range(len(heads) - 1, -1, -1) if heads[n][0] <= start), -1)
        if here < 0 or (here < 2 and self.stacks[line] is None):
            return False  # it belongs to a token that began in a line above
        first = max(here - 2, 0)
        column, begun = heads[first]
        stop = self.text.find("\n", begin)
        stop = len(self.text) if stop < 0 else stop
        met, known = 0, {(at + longer, stack) for at, stack in heads if at + longer >= end}
        made = [mark for mark in spans if mark[1] <= column]
        new: list[tuple[int, tuple[str, ...]]] = []
        for at, is_head, role, value, stack in self._tokens(begin + column, begun):
            column = at - begin
            if is_head:
                met = met + 1 if (column, stack) in known else 0
                if met > 1 or (met and at == stop):
                    made += [(a + longer, b + longer, role) for a, b, role in spans if a + longer >= column]
                    new += [(at + longer, stack) for at, stack in heads if at + longer >= column]
                    self.spans[line], self.heads[line] = tuple(made), (*heads[:first], *new)
                    return True
                new.append((column, stack))
            if at + len(value) > stop:
                return False
            if role:
                made.append((column, column + len(value), role))
        return False

    def _offset(self, line: int) -> int:
        """Return where a line begins."""
        offset = 0
        for _ in range(line):
            offset = self.text.index("\n", offset) + 1
        return offset

    def _read(self, number: int) -> None:
        """Read on until this line is known."""
        line, is_new = self.known, False
        offset = self.offset if self.offset >= 0 else self._offset(line)
        is_faulty = False
        made: list[tuple[int, int, str]] = []
        heads: list[tuple[int, tuple[str, ...]]] = []
        for at, is_head, role, value, stack in self._tokens(offset, self.stacks[line] or ("root",)):
            if is_new and at == offset:  # a token of no length may come before another at the same place
                is_new = False
                if is_head and stack == self.stacks[line] and self.spans[line] is not None:
                    unknown = self.unknown.find(1, line)
                    self.known, self.offset = len(self.spans) if unknown < 0 else unknown, -1
                    return
                self.stacks[line] = stack if is_head else None
                if is_head and line > number + AHEAD:
                    self.spans[line], self.unknown[line] = None, 1
                    self.known, self.offset = line, offset
                    return
            if is_head:
                heads.append((at - offset, stack))
            if role == "fault":
                is_faulty = True
            if "\n" not in value:
                if role and value:
                    made.append((at - offset, at - offset + len(value), role))
                continue
            first, *inner, rest = value.split("\n")
            if role and first:
                made.append((at - offset, at - offset + len(first), role))
            self.spans[line], made = tuple(made), []
            self.heads[line], heads = tuple(heads), []
            self.faults[line], self.unknown[line], is_faulty = is_faulty, 0, False
            line += 1
            if inner:  # whole lines of one token
                end = line + len(inner)
                self.spans[line:end] = [((0, len(piece), role),) if role and piece else () for piece in inner]
                self.heads[line:end] = [()] * len(inner)
                self.faults[line:end] = self.unknown[line:end] = bytes(len(inner))
                self.stacks[line:end] = [None] * len(inner)
                line = end
            offset, is_new = at + len(value) - len(rest), True
            if rest:
                self.stacks[line] = None
                if role:
                    made.append((0, len(rest), role))
        self.known = len(self.spans)

    def _tokens(self, offset: int, stack: tuple[str, ...]) -> Iterator[tuple[int, bool, str, str, tuple[str, ...]]]:
        """Yield the tokens from an offset on: place, whether the lexer can start there, its stack, role, text."""
        context: Any = LexerContext(self.text + "\n", offset, list(stack), len(self.text) + 1)
        tokens: Any = ExtendedRegexLexer.get_tokens_unprocessed(self.lexer, context=context)
        roles = self.roles
        live = context.stack
        for at, kind, value in tokens:
            role = roles.get(kind)
            if role is None:
                role = roles[kind] = self.role(kind)
            is_head = context.pos == at
            # At a line end that no rule takes, the lexer begins with a new stack before it tells the token.
            now, live = tuple(live), context.stack
            stack = stack if stack == now else now  # the same one for many tokens
            yield at, is_head, role, value, stack

    def _read_whole(self, text: str) -> Iterable[tuple[int, int, str]]:
        for at, kind, value in self.lexer.get_tokens_unprocessed(text):
            yield at, at + len(value), self.role(kind)
