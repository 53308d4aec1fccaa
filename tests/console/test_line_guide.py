"""What the line of a console knows of what is typed: completion with right quotes, weight, and what is wanted next.

Modules: ``console.line_guide``.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import Terminal, python
from tests.tables import tabled
from wesperon import Command, CommandGroup, Console, DeclarationError, Program, one_of, slot
from wesperon.console.line_guide import LineGuide, word_at, written
from wesperon.editing.keys.events import Key
from wesperon.values.candidate import Candidate
from wesperon.values.words import split_words
from wesperon.widgets.line import Line

LABELS = ["Lantern Nebula", "Lantern Low", "Twin 'Lamps'", 'The "Thimble"', "Back\\slash $5", "Plain", "é è"]


class Expose(Command):
    """Put an exposure into the queue."""

    target = slot(one_of(LABELS), help="what to look at")
    seconds = slot(float, low=0.1, high=3600)
    frames = slot(int, default=1, help="how many")
    guided = slot(bool, default=False, help="follow the star")
    note = slot(named_only=True, default="")


class Add(Command):
    """Add a target."""

    label = slot(rest=True)


PROGRAM = Program("desk", members=[Expose, CommandGroup("targets", "Everything about targets.", [Add])])


def console(**keywords: Any) -> Console:
    return Console(PROGRAM, history=False, **keywords)


TYPED = st.sampled_from(
    ["", "Lan", "'Lantern ", '"Lan', "Twin", "x", "--", "--sec", "--note='a b", "Back", "5 ", "exp", "tar"]
)


@given(
    st.lists(
        st.sampled_from(["expose", "targets", "add", "5", "'Lantern Low'", "--frames=3", "--seconds"]), max_size=3
    ),
    TYPED,
)
@settings(deadline=None)
def test_the_line_completes_what_the_shell_completes(before: list[str], begun: str) -> None:
    lines = console().lines
    text = "".join(f"{word} " for word in before) + begun
    words, word, start, _ = word_at(text, len(text))
    known = PROGRAM.candidates(words, word)
    own = [name for name in lines.builtins.members if name.startswith(word)] if not words else []
    at, found = lines.candidates(text, len(text))
    assert at == start
    assert [one.shown for one in found] == [*[one.text for one in known], *own]
    assert [one.note for one in found][: len(known)] == [one.note for one in known]


@given(st.text("aé '\"\\$`\n", min_size=1, max_size=8), st.sampled_from(["", "'", '"']))
def test_a_completed_word_is_that_word_whatever_is_in_it(label: str, mark: str) -> None:
    [made] = written([Candidate(label)], mark)
    for after in ("", " x"):
        assert [word for word, _ in split_words(f"say {made.text}{after}")][1] == label
    line = Line(str, complete=lambda text, cursor: (word_at(text, cursor)[2], written([Candidate(label)], mark)))
    for char in f"say {mark}":
        line.press(Key(char, char))
    line.press(Key("tab"))
    assert [word for word, _ in split_words(line.text)] == ["say", label]


@given(st.text("ab '\"\\\n", max_size=14), st.integers(0, 14))
def test_the_word_at_the_cursor_begins_where_the_line_is_split(text: str, cursor: int) -> None:
    cursor = min(cursor, len(text))
    before, word, start, mark = word_at(text, cursor)
    assert 0 <= start <= cursor
    if not mark and not text[:cursor].endswith("\\"):
        assert [one for one, _ in split_words(text[:start])] == before
        assert [one for one, _ in split_words(text[start:cursor])] == ([word] if start < cursor else [])


@tabled
def test_what_is_known_has_weight_and_what_is_wanted_next_is_shown(text: str, wanted: str, known: list[str]) -> None:
    guide = LineGuide(console().lines.owner)
    assert guide.wanted(text) == wanted
    assert [text[start:end] for start, end, _ in guide.marks(text)] == known


def test_candidates_come_with_notes_below_the_line_and_in_the_middle_of_it(tmp_path: Path) -> None:
    (tmp_path / "in here").mkdir()
    (tmp_path / "in here" / "late.desk").write_text("exit 3\n")
    (tmp_path / "a night.desk").write_text("[slots.colour]\nkind = 'one-of'\nchoices = ['red', 'green']\n")
    code = (
        f"import os; os.chdir({str(tmp_path)!r})\nfrom tests.console.test_line_guide import *\n"
        "raise SystemExit(console().run())"
    )
    with Terminal(python("-c", code), rows=30, columns=90) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type("expose Lan\t")
        terminal.see("expose 'Lantern")
        terminal.see("Lantern Nebula")
        terminal.type("N\t")
        terminal.see("expose 'Lantern Nebula' SECONDS [FRAMES]")
        terminal.type("\x1b[H\x1b[1;5C --gu\t")
        terminal.see("expose --guided 'Lantern Nebula'")
        terminal.type("\x1b[F\x15run a\t")
        terminal.see("run 'a night.desk'")
        terminal.type("r\t")
        terminal.see("run 'a night.desk' red")
        terminal.type("\x1b[F\x15help ta\t")
        terminal.see("help targets")
        terminal.type("\x1b[F\x15run in\t")
        terminal.see("run 'in here/")
        terminal.type("l\t")
        terminal.see("run 'in here/late.desk'")
        terminal.type("\r")
        assert terminal.end() == 3


def test_candidates_may_come_one_after_the_other_in_the_line() -> None:
    line = console(suggest_as="inline").lines.line(str)
    for key in ["t", "a", "r", "tab", "a", "tab"]:
        line.press(Key(key, key if len(key) == 1 else ""))
    assert line.text == "targets add "
    for key in ["ctrl-u", *"expose --", "tab", "tab"]:
        line.press(Key(key, key if len(key) == 1 else ""))
    seen = [line.text]
    for _ in range(12):
        line.press(Key("tab"))
        seen.append(line.text)
    assert "expose --seconds=" in seen
    assert "expose --guided" in seen
    assert seen[0] in seen[1:]
    assert line.size(80).rows == 1
    with pytest.raises(DeclarationError, match="not one of 'list'"):
        console(suggest_as="heap")


def test_a_quote_comes_only_with_what_it_is_for() -> None:
    found = [Candidate("H0 one"), Candidate("H02 two")]
    line = Line(str, complete=lambda text, cursor: (0, written(found, text[:cursor])))
    for key in ("H", "0", "tab"):
        line.press(Key(key, key if len(key) == 1 else ""))
    assert line.text == "H0"
    assert [one.shown for one in line.editor.candidates] == ["H0 one", "H02 two"]
