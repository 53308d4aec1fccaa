"""The pager on a terminal: ``page`` in programs, ``wesperon page`` in a shell, results and help of programs.

Modules: ``paging.page``, ``paging.long_output``, ``tool.page``, ``widgets.plain.pager``, ``widgets.typed_row``,
``widgets.pager.picks``, ``widgets.pager.foot``.
"""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import textwrap
from collections.abc import Mapping
from pathlib import Path

import pytest

from tests.harness import CTRL_C, DOWN, ENTER, Terminal, python

TOOL = f"{sys.executable} -m wesperon page"


def shell(command: str, **options: object) -> Terminal:
    """Return a terminal in which a shell runs a command, and says its status."""
    return Terminal(["sh", "-c", f"{command}; echo status $?"], **options)  # type: ignore[arg-type]


def script(text: str, **options: object) -> Terminal:
    """Return a terminal in which a script runs."""
    return Terminal(python("-c", textwrap.dedent(text)), **options)  # type: ignore[arg-type]


def preferring(tmp_path: Path, text: str) -> dict[str, str]:
    """Return an environment with preferences."""
    folder = tmp_path / "wesperon"
    folder.mkdir()
    (folder / "preferences.toml").write_text(text)
    return {"XDG_CONFIG_HOME": str(tmp_path)}


@pytest.fixture
def night(tmp_path: Path) -> Path:
    """A file of 500 lines."""
    path = tmp_path / "night.log"
    path.write_text("".join(f"{at:03} frame {'Dome' if at % 50 == 0 else 'mast'}\n" for at in range(1, 501)))
    return path


def test_a_file_is_read_searched_and_left_with_the_screen_as_it_was(night: Path) -> None:
    with shell(f"echo before; {TOOL} {night}", rows=10) as terminal:
        terminal.see("001 frame mast")
        terminal.see("night.log  1-9 of 500  1%")
        assert "before" not in terminal.text()
        terminal.type(" ")
        terminal.see("018 frame mast")
        terminal.type("/dome\r")
        terminal.see("050 frame Dome")
        terminal.see("hit 1 of 10")
        terminal.type("nn")
        terminal.see("hit 3 of 10")
        terminal.type("G")
        terminal.see("500 frame Dome")
        terminal.type("q")
        terminal.see("status 0")
        assert terminal.lines()[:2] == ["before", "status 0"]
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


ENDS = [signal.SIGTERM, signal.SIGHUP, signal.SIGINT, signal.SIGUSR1, signal.SIGXCPU, signal.SIGALRM]


@pytest.mark.parametrize("end", ENDS)
@pytest.mark.parametrize("then", [None, signal.SIGUSR2, signal.SIGTERM])
def test_a_signal_or_two_leave_the_screen_as_it_was(
    night: Path, end: signal.Signals, then: signal.Signals | None
) -> None:
    with Terminal(python("-m", "wesperon", "page", str(night)), rows=8) as terminal:
        terminal.see("q: leave")
        os.kill(terminal.process.pid, end)
        if then is not None:
            os.kill(terminal.process.pid, then)
        terminal.end()
        assert terminal.modes() == terminal.initial
        assert "frame" not in terminal.text()


def test_stop_and_continue_come_back_to_the_pager(night: Path) -> None:
    with Terminal(["bash", "--norc", "-i"], rows=8, env={"PS1": "ready> "}) as terminal:
        terminal.see("ready>")
        terminal.type(f"{TOOL} {night}\r")
        terminal.see("q: leave")
        terminal.type("\x1a")
        terminal.see("Stopped")
        terminal.type("fg\r")
        terminal.see("001 frame mast")
        terminal.type("q")
        terminal.wait(lambda: "frame" not in terminal.text())
        terminal.type("exit\r")
        terminal.end()


def test_what_fits_is_written_and_no_pager_opens() -> None:
    with shell(f"printf 'one\\ntw\\033[31mo\\033[m\\033[2J\\n' | {TOOL}", rows=8) as terminal:
        terminal.see("status 0")
        assert terminal.lines()[:3] == ["one", "two^[[2J", "status 0"]
        assert b"1049" not in terminal.received


def test_what_is_written_hides_nothing_and_leaves_no_rendition_behind() -> None:
    with shell(f"printf 'plain \\033[8mhidden\\033[31m red\\nnext' | {TOOL}", rows=8) as terminal:
        terminal.see("status 0")
        sent = terminal.received
        assert b"[8" not in sent
        assert sent.count(b"hidden") == 1
        assert sent.rindex(b"\x1b[m") > sent.rindex(b"\x1b[31m")
        assert sent.index(b"next") > sent.rindex(b"\x1b[m")


@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_escape_leaves_what_is_typed(night: Path, keys: str) -> None:
    with shell(f"{TOOL} {night}", rows=8, env={"WESPERON_KEYS": keys}) as terminal:
        terminal.see("q: leave")
        terminal.type("/dome")
        terminal.see("Search  dome")
        terminal.type("\x1b")
        terminal.wait(lambda: "Search" not in terminal.text())
        terminal.type("q")
        terminal.see("status 0")


def test_a_slow_stream_that_turns_out_short_is_written_in_the_end() -> None:
    with shell(f"(echo one; sleep 3; echo two) | {TOOL}", rows=8) as terminal:
        terminal.see("1-1")
        terminal.see("status 0")
        assert terminal.lines()[:3] == ["one", "two", "status 0"]


def test_an_endless_stream_is_read_at_its_own_pace_and_the_way_to_its_end_can_be_stopped() -> None:
    with shell(f"yes | {TOOL}", rows=8) as terminal:
        terminal.see("q: leave")
        terminal.type("G")
        terminal.see("reading to the end")
        terminal.type(CTRL_C)
        terminal.see("stopped")
        terminal.type("q")
        terminal.see("status 0")


def test_a_bad_pattern_is_refused_and_one_that_takes_for_ever_is_given_up(night: Path) -> None:
    night.write_text("a" * 60 + "b\n" + night.read_text())
    with shell(f"{TOOL} {night}", rows=8) as terminal:
        terminal.see("q: leave")
        terminal.type("g/[\r")
        terminal.see("not a pattern: unterminated character set")
        terminal.type("\x7f(a+)+$\r")
        terminal.see("takes too long on a line here")
        terminal.type("g/^\\d+0 frame [D]\r")
        terminal.see("050 frame Dome")
        terminal.type("g/[[]x\r")
        terminal.see("no line from here on contains")
        terminal.type("q")
        terminal.see("status 0")
        assert "Warning" not in terminal.text()


def test_lines_are_picked_and_printed() -> None:
    with shell(f"seq 100 200 | {TOOL} --pick", rows=10) as terminal:
        terminal.see("[ ] 100")
        terminal.type(" " + DOWN + "x")
        terminal.see("2 marked")
        terminal.see("[x] 102")
        terminal.type(ENTER)
        terminal.see("status 0")
        assert terminal.lines()[:3] == ["100", "102", "status 0"]


def test_several_files_have_a_name_each(night: Path, tmp_path: Path) -> None:
    other = tmp_path / "weather.log"
    other.write_text("".join(f"seeing {at}\n" for at in range(40)))
    with shell(f"{TOOL} {night} {other}", rows=8, columns=120) as terminal:
        terminal.see("night.log  1 of 2")
        terminal.type("]")
        terminal.see("seeing 0")
        terminal.see("weather.log  2 of 2")
        terminal.type("]")
        terminal.see("this is the last text")
        terminal.type("[")
        terminal.see("001 frame")
        terminal.type("q")
        terminal.see("status 0")


def test_a_missing_file_a_folder_and_no_pipe_are_said(tmp_path: Path) -> None:
    with shell(f"{TOOL} nothing.log; {TOOL} {tmp_path}; {TOOL}", rows=12, columns=140) as terminal:
        terminal.see("status 2")
        assert "nothing.log: No such file or directory" in terminal.text()
        assert "Is a directory" in terminal.text()
        assert "standard input is the terminal" in terminal.text()


def test_the_last_screen_stays_if_the_user_prefers_that(night: Path, tmp_path: Path) -> None:
    environment = preferring(tmp_path, "last_screen = true\n")
    with shell(f"{TOOL} {night}", rows=12, env=environment) as terminal:
        terminal.see("q: leave")
        terminal.type("q")
        terminal.see("status 0")
        assert "001 frame mast" in terminal.everything()
        assert "q: leave" not in terminal.everything()


def test_lines_are_copied_only_if_the_user_prefers_that(night: Path, tmp_path: Path) -> None:
    with shell(f"{TOOL} {night}", rows=6, columns=100) as terminal:
        terminal.see("q: leave")
        terminal.type("y")
        terminal.see("the preference clipboard is off")
        assert b"\x1b]52" not in terminal.received
        terminal.type("q")
        terminal.see("status 0")
    with shell(f"{TOOL} {night}", rows=4, env=preferring(tmp_path, "clipboard = true\n")) as terminal:
        terminal.see("q: leave")
        terminal.type("y")
        terminal.see("3 lines copied")
        assert b"\x1b]52;c;MDAxIGZyYW1lIG1hc3QKMDAyIGZyYW1lIG1hc3QKMDAzIGZyYW1lIG1hc3QK\x1b\\" in terminal.received
        terminal.type("q")
        terminal.see("status 0")


def test_plain_lines_have_numbers_and_take_them(night: Path) -> None:
    with shell(f"{TOOL} {night}", rows=40, columns=100, env={"TERM": "dumb"}) as terminal:
        terminal.see("     1  001 frame mast")
        terminal.see("q: leave:")
        terminal.type("/dome\r")
        terminal.see("    50  050 frame Dome")
        terminal.type("495\r")
        terminal.see("   500  500 frame Dome")
        terminal.see("the end")
        terminal.type("9999\r")
        terminal.see("there is no line 9,999")
        terminal.type("\r")
        terminal.see("status 0")
        assert b"\x1b" not in terminal.received


def test_the_mouse_turns_jumps_and_picks(night: Path) -> None:
    with shell(f"{TOOL} --pick {night}", rows=11, env={"WESPERON_MOUSE": "yes"}) as terminal:
        terminal.see("[ ] 001")
        terminal.type("\x1b[<65;5;5M")
        terminal.wait(lambda: "[ ] 004" in terminal.text() and "[ ] 003" not in terminal.text())
        terminal.type("\x1b[<0;80;10M")
        terminal.see("[ ] 500")
        terminal.type("\x1b[<0;9;4M\x1b[<0;9;4M")
        terminal.see("[x] 494")
        terminal.type("\r")
        terminal.see("status 0")
        assert "494 frame mast" in terminal.text()


@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_both_families_have_the_letters_and_counts(night: Path, keys: str) -> None:
    with shell(f"{TOOL} {night}", rows=8, env={"WESPERON_KEYS": keys}) as terminal:
        terminal.see("q: leave")
        terminal.type("120G")
        terminal.see("120 frame mast")
        terminal.type("mag")
        terminal.type("g")
        terminal.see("001 frame mast")
        terminal.type("'a")
        terminal.see("120 frame mast")
        terminal.type("/150\r")
        terminal.see("150 frame Dome")
        terminal.type("3j50%")
        terminal.see("251 frame mast")
        terminal.type("q")
        terminal.see("status 0")


# In programs ---------------------------------------------------------------------------------------------------------


def test_a_program_pages_lines_of_its_own_and_what_it_prints_meanwhile_comes_after() -> None:
    program = """
        import threading, time
        from wesperon import page

        def lines():
            for number in range(1, 10**9):
                if number == 30:
                    print("thirty were made")
                yield f"frame {number}"

        print(page(lines(), heading=1))
    """
    with script(program, rows=8) as terminal:
        terminal.see("frame 7")
        terminal.type("     ")
        terminal.see("frame 32")
        assert terminal.lines()[0] == "frame 1"
        terminal.type("q")
        terminal.see("None")
        assert terminal.end() == 0
        assert terminal.lines()[:2] == ["thirty were made", "None"]


def test_other_tasks_go_on_while_lines_come_from_an_asynchronous_iterable() -> None:
    program = """
        import asyncio
        from wesperon import page_async

        async def lines():
            for number in range(1, 200):
                await asyncio.sleep(0.001)
                yield f"frame {number}"

        async def main():
            turns = []

            async def tick():
                while True:
                    turns.append(1)
                    await asyncio.sleep(0.01)

            task = asyncio.ensure_future(tick())
            picked = await page_async(lines(), pick=True)
            print(picked, len(turns) > 3)
            task.cancel()

        asyncio.run(main())
    """
    with script(program, rows=8) as terminal:
        terminal.see("frame 7")
        terminal.type("G")
        terminal.see("frame 199")
        terminal.type("\x1b[F \r")
        terminal.see("['frame 193'] True")
        assert terminal.end() == 0


@pytest.mark.parametrize("end", [signal.SIGKILL, signal.SIGTERM, signal.SIGHUP])
def test_a_pager_in_a_thread_leaves_the_screen_whatever_ends_the_process(end: signal.Signals) -> None:
    program = """
        import threading
        from wesperon import page
        print("before")
        thread = threading.Thread(target=lambda: page("frame\\n" * 100))
        thread.start()
        thread.join()
    """
    with script(program, rows=8) as terminal:
        terminal.see("q: leave")
        os.kill(terminal.process.pid, end)
        terminal.wait(lambda: b"1049l" in terminal.received)
        terminal.wait(lambda: terminal.lines()[0] == "before" and terminal.modes() == terminal.initial)


def test_an_interrupt_in_the_pager_reaches_the_program() -> None:
    program = """
        from wesperon import page
        try:
            page("frame\\n" * 100)
        except KeyboardInterrupt:
            print("interrupted")
    """
    with script(program, rows=8) as terminal:
        terminal.see("q: leave")
        terminal.type(CTRL_C)
        terminal.see("interrupted")
        assert terminal.end() == 0


DESK = """
from wesperon import Console, Program

def targets():
    '''List all targets.'''
    return (f"HOLLIN-{number:03} Nebula" for number in range(1, 400))

def few():
    '''List a few.'''
    return ["HOLLIN-001", "HOLLIN-002"]

program = Program("desk", members=[targets, few])
import sys
sys.exit(program.main() if sys.argv[1:] else Console(program).run())
"""


@pytest.fixture
def desk(tmp_path: Path) -> str:
    """A console in a file."""
    path = tmp_path / "desk.py"
    path.write_text(DESK)
    return str(path)


def test_long_results_and_help_of_a_console_go_to_the_pager_if_the_user_prefers_that(desk: str, tmp_path: Path) -> None:
    environment = preferring(tmp_path, "paging = true\n")
    with Terminal(python(desk), rows=8, columns=60, env=environment) as terminal:
        terminal.see("desk")
        terminal.type("few\r")
        terminal.see("HOLLIN-002")
        terminal.quiet()
        assert b"1049h" not in terminal.received
        terminal.type("targets\r")
        terminal.see("q: leave")
        terminal.see("HOLLIN-007 Nebula")
        terminal.type("q")
        terminal.wait(lambda: "q: leave" not in terminal.text())
        terminal.type("help\r")
        terminal.see("1-7 of")
        terminal.type("q")
        terminal.wait(lambda: "Enter: run" in terminal.text())
        terminal.type("exit\r")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


@pytest.mark.parametrize("rows", range(8, 14))
def test_help_that_is_not_paged_is_all_seen_above_the_prompt(desk: str, tmp_path: Path, rows: int) -> None:
    with Terminal(python(desk), rows=rows, columns=70, env=preferring(tmp_path, "paging = true\n")) as terminal:
        terminal.see("desk")
        terminal.type("help\r")
        terminal.wait(lambda: "q: leave" in terminal.text() or "(keys, theme, mouse)" in terminal.text())
        terminal.quiet()
        first_words = [row.split()[0] for row in terminal.text().splitlines() if row.strip()]
        names = ["targets", "few", "help", "exit", "run", "history", "preferences"]
        is_all_seen = [name for name in first_words if name in names] == names
        assert is_all_seen or b"1049h" in terminal.received
        assert (b"1049h" in terminal.received) == (rows < 11), terminal.text()


def test_nothing_is_paged_without_that_preference(desk: str) -> None:
    with Terminal(python(desk), rows=10, columns=60) as terminal:
        terminal.see("desk")
        terminal.type("targets\r")
        terminal.see("HOLLIN-399")
        assert b"1049h" not in terminal.received
        terminal.type("exit\r")
        assert terminal.end() == 0


def test_help_goes_to_the_pager_on_a_terminal_that_is_too_low(desk: str, tmp_path: Path) -> None:
    environment = preferring(tmp_path, "paging = true\n")
    with Terminal(python(desk, "--help"), rows=4, columns=60, env=environment) as terminal:
        terminal.see("1-3 of")
        terminal.type("q")
        assert terminal.end() == 0
    with Terminal(python(desk, "--help"), rows=40, columns=60, env=environment) as terminal:
        assert terminal.end() == 0
        assert "List all targets." in terminal.text()
        assert b"1049h" not in terminal.received


# Through pipes -------------------------------------------------------------------------------------------------------


def piped(command: str, data: bytes = b"", environment: Mapping[str, str] | None = None) -> bytes:
    """Return what a command writes to a pipe."""
    made = subprocess.run(
        ["sh", "-c", command], input=data, capture_output=True, check=True, env={**os.environ, **(environment or {})}
    )
    assert made.stderr == b""
    return made.stdout


def test_bytes_go_through_a_pipe_unchanged(tmp_path: Path) -> None:
    data = bytes(range(256)) * 1000 + b"no end"
    path = tmp_path / "bytes"
    path.write_bytes(data)
    assert piped(TOOL, data) == data
    assert piped(f"{TOOL} {path} {path} - < {path}") == data * 2
    assert piped(f"{TOOL} --pick {path}") == data


def test_a_pipe_that_nobody_reads_any_more_ends_it() -> None:
    assert piped(f"yes | {TOOL} | head -n 2") == b"y\ny\n"


def test_lines_go_through_as_they_come() -> None:
    program = f"(echo one; cat) | {TOOL}"
    with subprocess.Popen(["sh", "-c", program], stdin=subprocess.PIPE, stdout=subprocess.PIPE) as process:
        assert process.stdout is not None
        assert process.stdin is not None
        assert process.stdout.readline() == b"one\n"
        process.stdin.write(b"two\n")
        process.stdin.flush()
        assert process.stdout.readline() == b"two\n"
        process.stdin.close()
        assert process.wait() == 0


def test_a_program_that_is_not_on_a_terminal_writes_its_lines_and_picks_nothing() -> None:
    program = "from wesperon import page; print(page(['a', 'b'], pick=True), page('c\\n'))"
    assert piped(f'{sys.executable} -c "{program}"') == b"a\nb\nc\n[] None\n"


def test_nobody_is_asked_where_that_is_not_wanted(night: Path) -> None:
    with shell(f"{TOOL} {night}", rows=8, env={"WESPERON_ASKING": "never"}) as terminal:
        terminal.see("status 0")
        assert b"1049h" not in terminal.received


@pytest.mark.parametrize("count", [0, 3])
def test_a_short_text_that_ends_early_says_why(count: int) -> None:
    source = f"""
from wesperon import page
def lines():
    for number in range({count}):
        yield f"line {{number}}"
    raise ValueError("the mast is gone")
page(lines())
"""
    with Terminal(python("-c", source)) as terminal:
        assert terminal.end() == 0
        shown = [f"line {number}" for number in range(count)]
        assert terminal.text().split("\n") == [*shown, "it ends early: ValueError: the mast is gone"]
