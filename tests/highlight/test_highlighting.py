"""Colours while typing.

Modules: ``highlight.highlighting``.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, ClassVar
from unittest.mock import patch

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pygments.lexer import Lexer, RegexLexer
from pygments.lexers import get_lexer_by_name
from pygments.token import Generic, Name, String, Text, Whitespace

from tests.tables import tabled
from wesperon import DeclarationError
from wesperon.highlight.highlighting import LexerHighlighter, colours_for, role_of
from wesperon.highlight.sgr_colours import colour, roles_of
from wesperon.screen.theme import COLOURED, Theme, colours_of
from wesperon.widgets.line import Line
from wesperon.widgets.several_lines import SeveralLines

PIECES = st.sampled_from(
    ['"', '"""', "'", "\n", "def f(", "/*", "*/", "# ", "{", "}", "(", ")", " ", "12", "<b>", "</b>", "x = 1\n", "`",
     "class", "\n\n", "a", "e", "\\\n", "'''", "<!--", "-->"]
)  # fmt: skip
CHANGES = st.lists(st.tuples(st.integers(0, 200), st.integers(0, 6), PIECES, st.integers(0, 40)), max_size=12)


def marks_of(text: str, syntax: str | Lexer) -> list[tuple[tuple[int, int, str], ...]]:
    """Return the marks of each line, from one pass over the whole text by the lexer itself."""
    spans: list[list[tuple[int, int, str]]] = [[] for _ in range(text.count("\n") + 2)]
    line = column = 0
    lexer = get_lexer_by_name(syntax) if isinstance(syntax, str) else syntax
    for _, kind, value in lexer.get_tokens_unprocessed(text + "\n"):
        role = role_of(kind)
        for number, piece in enumerate(value.split("\n")):
            line, column = (line + 1, 0) if number else (line, column)
            if role and piece:
                spans[line].append((column, column + len(piece), role))
            column += len(piece)
    return [tuple(one) for one in spans[: text.count("\n") + 1]]


@pytest.mark.parametrize("syntax", ["python", "c", "html", "bash", "toml"])
@settings(max_examples=40, deadline=None)
@given(st.lists(PIECES, max_size=30), CHANGES)
def test_what_changed_is_coloured_as_the_whole_would_be(
    syntax: str, pieces: list[str], changes: list[tuple[int, int, str, int]]
) -> None:
    colours = colours_for(syntax)
    assert isinstance(colours, LexerHighlighter)
    text = "".join(pieces)
    for at, size, piece, seen in changes:
        at = min(at, len(text))
        text = text[:at] + piece + text[at + size :]
        colours.marks(text, min(seen, text.count("\n")))
        if seen % 2:
            colours.catch_up()
    colours.marks(text, 0)
    colours.catch_up()
    found = [joined(colours.marks(text, number)) for number in range(text.count("\n") + 1)]
    assert found == [joined(marks) for marks in marks_of(text, syntax)]


def test_a_letter_inside_a_long_token_costs_its_line_and_is_found_out_later() -> None:
    lines = ["def f():", '    """Text.', *["many words"] * 399, '    """', "    number = 1"]
    colours = colours_for("python")
    assert isinstance(colours, LexerHighlighter)
    colours.marks("\n".join(lines), 402)
    for typed in ("many words a", "many words ab", "many words ab "):
        lines[200] = typed
        with patch.object(colours, "_tokens", side_effect=AssertionError("read")):
            assert colours.marks("\n".join(lines), 200) == ((0, len(typed), "string"),)
    assert colours.is_late
    colours.catch_up()
    assert not colours.is_late
    assert [colours.marks("\n".join(lines), at) for at in (200, 401, 402)] == [
        ((0, 14, "string"),), ((0, 7, "string"),), marks_of("\n".join(lines), "python")[402]
    ]  # fmt: skip


def test_a_letter_that_ends_a_long_token_is_found_out_between_keys() -> None:
    begun = "cat <<EOF\none\nEO\necho 1"
    colours = colours_for("bash")
    for text in (begun, begun.replace("EO\n", "EOF\n")):
        colours.marks(text, 3)
        colours.catch_up()
        found = [joined(colours.marks(text, number)) for number in range(4)]
        assert found == [joined(marks) for marks in marks_of(text, "bash")]


def joined(marks: tuple[tuple[int, int, str], ...]) -> list[tuple[int, int, str]]:
    """Return the marks with neighbours of one role as one, which look the same."""
    found: list[tuple[int, int, str]] = []
    for start, end, role in marks:
        if found and found[-1][1:] == (start, role):
            found[-1] = (found[-1][0], end, role)
        else:
            found.append((start, end, role))
    return found


def numbers(text: str) -> Iterator[tuple[int, int, str]]:
    for at, char in enumerate(text):
        if char.isdigit():
            yield at, at + 1, "constant"


def test_a_language_may_be_a_lexer_or_a_function() -> None:
    assert colours_for(numbers).marks("a1\n23", 1) == ((0, 1, "constant"), (1, 2, "constant"))
    assert colours_for(get_lexer_by_name("json")).marks("[1]", 0) == ((1, 2, "constant"),)
    assert colours_for(type(get_lexer_by_name("python"))).marks("def", 0)
    for wrong in ("nonesuch", 5):
        with pytest.raises(DeclarationError, match="syntax="):
            colours_for(wrong)


def test_a_line_shows_the_colours_of_its_language_and_its_brackets() -> None:
    line = Line(str, syntax="python", default="f(12)")
    line.set_theme(Theme(dict(COLOURED), 16))
    line.end()
    line.editor.move(5)
    line.editor.selected = False
    row = line.view(60, 5).rows[0]
    assert ("12", "constant") in row
    assert row.count(("(", "match")) + row.count((")", "match")) == 2
    line.set_theme(Theme(dict(COLOURED), 0))
    assert all(role != "constant" for _, role in line.view(60, 5).rows[0])


def test_a_style_is_shown_in_as_many_colours_as_there_are() -> None:
    for colours, parameters in [(1 << 24, "38;2;"), (256, "38;5;"), (16, ""), (8, "")]:
        look = dict(COLOURED)
        text = SeveralLines(str, syntax="python", default="class")
        text.editor.selected = False
        text.set_theme(Theme(look, colours, "monokai"))
        role = text.view(60, 5).rows[0][-1][1]
        assert parameters in look[role]
        assert look[role]
    assert roles_of({}, 0, "monokai") is None
    with pytest.raises(DeclarationError, match="style="):
        roles_of({}, 16, "nonesuch")


@tabled
def test_colours_become_the_nearest_there_are(code: str, colours: int, parameters: str) -> None:
    assert colour(code, colours) == parameters


@tabled
def test_the_environment_says_how_many_colours_there_are(environment: dict[str, str], colours: int) -> None:
    assert colours_of(environment) == colours


class Brackets(RegexLexer):
    """A list in brackets may run over lines; a bracket that is not closed cannot be read."""

    tokens: ClassVar[Any] = {"root": [(r"\[[^\]]*\]", String), (r"\w+", Name), (r"\s+", Whitespace)]}


def test_what_could_not_be_read_is_read_again_from_far_above_a_change() -> None:
    opened = "\n".join(["[a", *["b"] * 8])
    closed = opened + "]"
    colours = colours_for(Brackets())
    before = [joined(colours.marks(opened, number)) for number in range(9)]
    after = [joined(colours.marks(closed, number)) for number in range(9)]
    assert before[0][0] == (0, 1, "fault")
    assert after[0] == [(0, 2, "string")]
    assert after == [joined(marks) for marks in marks_of(closed, Brackets())]
    assert [joined(colours.marks(opened, number)) for number in range(9)] == before


class Underlined(RegexLexer):
    """A language that looks a line ahead: what is above a line of signs is a title."""

    tokens: ClassVar[dict[str, Any]] = {
        "root": [(r"[^\n]+(?=\n==)", Generic.Heading), (r"[^\n]+", Text), (r"\n", Whitespace)]
    }


def test_a_line_above_a_change_gets_the_colour_that_it_has_now() -> None:
    colours = colours_for(Underlined)
    text = "one\ntwo\nthree\nx"
    assert list(colours.marks(text, 3)) == []
    assert not any(colours.marks(text, line) for line in range(4))
    changed = "one\ntwo\nthree\n=="
    colours.marks(changed, 3)
    assert [bool(colours.marks(changed, line)) for line in range(4)] == [False, False, True, False]
