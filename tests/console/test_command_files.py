"""Files of commands: the same as typed, values that stay one word, and a problem with its place for everything else.

Modules: ``console.command_files``.
"""

from __future__ import annotations

import asyncio
import io
import os
import tempfile
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import Terminal, python
from wesperon import Command, Console, Context, Heard, Program, Refusal, slot
from wesperon.console.command_files import escaped

#: Parts of lines: quotes, line ends in them, joined lines, braces, comments.
PIECES = ["a", "é", " ", "'x y'", '"b\\"c"', "\\\n", "\\ ", '"\n"', "#", "{", "{{", "}", "$", "'#'", "\t"]


class Say(Command):
    """Say some words."""

    parts = slot(rest=True, low=0)

    def run(self) -> None:
        """Print them, a line each."""
        print(*self.parts, sep="\n")


class Fail(Command):
    """Fail with a status."""

    status = slot(int)

    def run(self) -> None:
        """Give it."""
        raise Refusal("", self.status)


class Enter(Command):
    """Enter."""

    seconds = slot(int)
    key = slot(secret="anywhere", default=None)

    def run(self) -> None:
        """Nothing."""


PROGRAM = Program("desk", members=[Say, Fail, Enter])


def run(path: Path, *words: str, lines: str | None = None, **settings: Any) -> tuple[int, str]:
    """Run a file, or lines as if typed; the status, and what was printed."""
    out = io.StringIO()
    context = Context(stdout=out, stderr=out, stdin=io.StringIO(lines or ""), environ={})
    console = Console(PROGRAM, history=False, context=context, **settings)
    status = console.run_file(path, words) if lines is None else console.run()
    return status, out.getvalue()


def file(folder: Path, text: str, name: str = "night.desk") -> Path:
    path = folder / name
    path.write_text(text)
    return path


@given(st.lists(st.lists(st.sampled_from(PIECES), max_size=6).map("".join), max_size=6))
@settings(deadline=None)
def test_a_file_says_the_same_as_its_lines_typed(lines: list[str]) -> None:
    heard: dict[str, list[tuple[str, ...]]] = {"file": [], "typed": []}

    def console(way: str, text: str) -> Console:
        context = Context(stdin=io.StringIO(text), stdout=io.StringIO(), stderr=io.StringIO())
        made = Console(PROGRAM, history=False, context=context)

        def hear(line: Heard) -> bool:
            heard[way].append(line.words)
            return True

        made.listen(None, hear)
        return made

    text = "".join(f"{line}\n" for line in lines)
    with tempfile.TemporaryDirectory() as folder:
        assert console("file", "").run_file(file(Path(folder), escaped(text))) in (0, 2)
    assert console("typed", text).run() in (0, 2)
    assert heard["file"] == heard["typed"]


@given(st.text(st.characters(exclude_categories=["Cs"], exclude_characters="\0"), max_size=20))
@settings(deadline=None)
def test_a_value_is_one_word_and_never_split_again(value: str) -> None:
    heard: list[tuple[str, ...]] = []
    context = Context(stdout=io.StringIO(), stderr=io.StringIO(), environ={})
    console = Console(PROGRAM, history=False, context=context)
    console.listen("say", lambda line: heard.append(line.words))
    with tempfile.TemporaryDirectory() as folder:
        path = file(Path(folder), '[slots.what]\nlow = 0\n\nsay -- {what} "<{what}>" {{what}\n')
        assert console.run_file(path, [f"--what={value}"]) == 0
    assert heard == [("say", "--", value, f"<{value}>", "{what}")]


@given(st.binary(max_size=60) | st.binary(max_size=40).map(lambda data: b"[slots.a]\n" + data))
@settings(deadline=None)
def test_any_bytes_are_run_or_refused_with_their_place(data: bytes) -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "night.desk"
        path.write_bytes(data)
        status, out = run(path)
    assert status in (0, 2)
    assert not status or "night.desk" in out


def test_a_file_stops_at_its_first_failing_line_or_keeps_going(tmp_path: Path) -> None:
    path = file(tmp_path, "# about\nsay one\n\nfail 3\nsay two\nfail x\nsay three\n")
    assert run(path) == (3, f"one\n{path}, line 4: stopped here, status 3\n")
    status, out = run(path, lines=f"run --keep-going {path}\n")
    assert status == 2
    assert out.startswith("one\ntwo\n")
    assert f"{path}, line 6:\nfail x\n     ^\n" in out
    assert out.endswith("three\n")


def test_files_run_files_and_a_cycle_is_told_with_its_chain(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    file(tmp_path, "say first\nrun second\n", "first")
    file(tmp_path, "run third\n", "second")
    path = file(tmp_path, "say last\nrun ./first\nsay never\n", "third")
    status, out = run(Path("first"))
    assert status == 2
    assert "first: runs itself: first > second > third > first\n" in out
    assert out.count("third, line 2") == 2
    assert "never" not in out
    path.write_text("say last\n")
    assert run(Path("first")) == (0, "first\nlast\n")


def test_fifty_files_may_run_each_other_and_no_more(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    for number in range(51):
        file(tmp_path, f"run {number + 1}\n" if number < 50 else "say deep\n", str(number))
    assert run(Path("1")) == (0, "deep\n")
    status, out = run(Path("0"))
    assert status == 2
    assert "at most 50 deep" in out


def test_values_are_words_of_the_file_and_wrong_ones_have_carets(tmp_path: Path) -> None:
    head = (
        '# what\nname = "plan"\n[slots.target]\nkind = "one-of"\nchoices = [\n  "Lantern Nebula",\n  "Twin Lamps",\n]\n'
    )
    path = file(tmp_path, head + '[slots.times]\nkind = "integer"\ndefault = 2\nsay {target} {times}\nsay {tims}\n')
    status, out = run(path, lines=f"run {path} 'twin lamps' --times=5\n")
    assert status == 2
    assert out.startswith("Twin Lamps\n5\n")
    assert f'{path}, line 13: the file declares no value "tims"; nearest: times; for a brace write two' in out
    status, out = run(path, lines=f"run {path} nothing --times=x\n")
    assert status == 2
    assert [line.count("^") > 0 for line in out.split("\n")][1]
    assert '--times  "x" is not a whole number' in out
    assert "--target=CHOICE" in run(path, lines=f"run {path} --help\n")[1]
    assert run(path, lines=f"run --words='twin lamps' {path}\n")[1].startswith("Twin Lamps\n2\n")
    assert "run FILE [WORDS...]" in run(path, lines="help run\n")[1]
    assert f"run {path}: 1 value is missing" in run(path, lines=f"run {path}\n")[1]
    wrong = file(tmp_path, "[slots.a]\nkind = 'nothing'\nsay x\n", "wrong.desk")
    assert "wrong.desk, line 2" in run(wrong)[1]


@pytest.mark.parametrize("what", ["missing", "folder", "pipe", "binary", "latin", "loop", "nul"])
def test_what_is_no_file_of_commands_is_refused_at_once(what: str, tmp_path: Path) -> None:
    path = tmp_path / "night.desk"
    if what == "folder":
        path.mkdir()
    elif what == "pipe":
        os.mkfifo(path)
    elif what == "binary":
        path.write_bytes(b"say a\n\0\1\2")
    elif what == "latin":
        path.write_bytes("say a\nsay b\nsay é\n".encode("latin-1"))
    elif what == "loop":
        path.symlink_to(path)
    if what == "nul":
        path = Path("a\0b")
    status, out = run(path)
    assert status == 2
    assert len(out.splitlines()) == 1
    assert {"binary": "line 2", "latin": "line 3"}.get(what, "") in out


def test_a_value_of_a_file_that_is_secret_is_in_no_message(tmp_path: Path) -> None:
    path = file(tmp_path, "[slots.key]\nsecret = 'anywhere'\nsay ok\nenter {key}\nfail '{key}x'\nnothing {key}\n")
    for keep_going in ("", "--keep-going "):
        status, out = run(path, lines=f"run {keep_going}{path} --key=Zq7hunterX\n")
        assert status == 2
        assert "Zq7hunterX" not in out
        assert "hunter" not in out


def test_lines_of_the_history_are_a_file_that_does_the_same(tmp_path: Path) -> None:
    target = tmp_path / "again.desk"
    typed = ["say 'a {b}' # {{", 'say "two\nlines" \\\n  more', f"history --to {target} 1-2"]

    console = Console(PROGRAM, history=str(tmp_path / "history"))
    for line in typed[:2]:
        console.history.add(line)
    out = io.StringIO()
    context = Context(stdout=out, stderr=out, stdin=io.StringIO(typed[2] + "\nhistory 2\nhistory x\n"), environ={})
    again = Console(PROGRAM, history=str(tmp_path / "history"), context=context)
    assert again.run() == 2
    assert out.getvalue().startswith('2  say "two\n   lines" \\\n     more\n')
    assert '"x" is not a line' in out.getvalue()
    assert run(target) == (0, "a {b}\n#\n{{\ntwo\nlines\nmore\n")


def test_a_first_file_is_run_and_asks_for_what_is_missing(tmp_path: Path) -> None:
    path = file(tmp_path, "[slots.target]\nask = 'Which target'\nsay {target}\nsay done\n")
    code = (
        "import sys\nfrom tests.console.test_command_files import PROGRAM\nfrom wesperon import Console\n"
        "sys.exit(Console(PROGRAM, history=False, first_file=sys.argv[1]).run())"
    )
    with Terminal(python("-c", code, str(path))) as terminal:
        terminal.answer("Which target", "Twin Lamps")
        terminal.see("done")
        terminal.answer("desk", "exit 4")
        assert "Twin Lamps" in terminal.everything()
        assert terminal.end() == 4
    assert run(path, lines="say next\n", first_file=str(path))[1].endswith("next\n")


def test_a_coroutine_of_a_file_runs_in_the_loop(tmp_path: Path) -> None:
    class Wait(Command):
        """Wait a little."""

        async def run(self) -> None:
            """Wait."""
            await asyncio.sleep(0.01)
            print("waited")

    out = io.StringIO()
    context = Context(stdout=out, stderr=out, stdin=None)
    console = Console(Program("desk", members=[Wait]), history=False, context=context)
    assert asyncio.run(console.run_file_async(file(tmp_path, "wait\nwait\n"))) == 0
    assert out.getvalue() == "waited\nwaited\n"


def test_a_file_may_leave_the_console_have_a_byte_order_mark_and_any_line_ends(tmp_path: Path) -> None:
    path = tmp_path / "night.desk"
    text = "\ufeff[slots.what_else]\r\ndefault = 'x'\r\nsay {what-else}\r\nsay a \\\r\n b\r\nexit 6\r\nsay never\r\n"
    path.write_bytes(text.encode())
    assert run(path, lines=f"run {path}\nsay never\n") == (6, "x\na\nb\n")
    last = file(tmp_path, "exit 5\nsay never\n", "last.desk")
    assert run(path, lines="say never\n", first_file=str(last)) == (5, "")


@given(st.integers(0, 255), st.integers(0, 4), st.booleans())
@settings(deadline=None, max_examples=30)
def test_a_file_that_leaves_ends_with_its_status_and_the_next_one_runs_whole(
    status: int, before: int, inside: bool
) -> None:
    with tempfile.TemporaryDirectory() as folder:
        leaving = file(Path(folder), "say a\n" * before + f"exit {status}\nsay never\n", "leaving.desk")
        if inside:
            leaving = file(Path(folder), f"run {leaving}\nsay never\n", "outer.desk")
        whole = file(Path(folder), "say one\nsay two\n", "whole.desk")
        out = io.StringIO()
        context = Context(stdout=out, stderr=out, stdin=io.StringIO("say three\nsay four\n"), environ={})
        console = Console(PROGRAM, history=False, context=context)
        assert console.run_file(leaving) == status
        assert console.run_file(whole) == 0
        assert console.run() == 0
        assert asyncio.run(console.run_file_async(leaving)) == status
        assert out.getvalue().split() == ["a"] * before + ["one", "two", "three", "four"] + ["a"] * before
