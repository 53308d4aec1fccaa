"""Real programs in a real pseudo-terminal, their screens read back by an independent emulator.

Modules: ``terminal.ports.posix``.
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from tests.harness import BACKSPACE, CTRL_C, CTRL_D, DEADLINE, DOWN, ENTER, EXAMPLES, LEFT, Terminal, example, python
from tests.tables import tabled

WORDS = ["Lantern Nebula", "2", "90", "5", "21:30"]
PLAN = [
    "Lantern Nebula: 2 frames of 90 s",
    "    1  21:30:00  to  21:31:30",
    "    2  21:31:35  to  21:33:05",
    "The last one ends at 21:33:05.",
]
ANSWERS = list(zip(["Target", "Frames", "Seconds each", "Pause between", "First frame at"], WORDS, strict=True))

#: Runs a program without a controlling terminal.
DETACHED = "import os, sys; os.setsid(); os.execv(sys.executable, [sys.executable, *sys.argv[1:]])"


def run(*words: str, detached: bool = True) -> subprocess.CompletedProcess[str]:
    """Return the night plan with nobody at a terminal."""
    argv = [str(EXAMPLES / "nightplan.py"), *words]
    prefix = [sys.executable, "-c", DETACHED] if detached else [sys.executable]
    return subprocess.run([*prefix, *argv], stdin=subprocess.DEVNULL, capture_output=True, text=True, timeout=60)


@tabled
def test_given_by_position_or_by_name_nothing_is_asked(words: list[str]) -> None:
    done = run(*words)
    assert (done.returncode, done.stdout.splitlines(), done.stderr) == (0, PLAN, "")


def test_with_nobody_to_ask_all_that_is_missing_or_wrong_comes_in_one_message() -> None:
    done = run("Lantern Nebula", "4x5")
    assert (done.returncode, done.stdout) == (2, "")
    assert done.stderr.splitlines() == [
        "nightplan.py 'Lantern Nebula' 4x5",
        "                              ^^^",
        '  --frames  "4x5" is not a whole number, such as 12',
        "Missing:",
        "  --seconds=NUMBER  Seconds each: a number",
        "    --pause=NUMBER  Pause between: a number",
        "     --first=HH:MM  First frame at: a time of day",
        "nightplan.py --help shows all values.",
    ]
    assert run().stderr.splitlines()[0] == "nightplan.py: 5 values are missing"


@pytest.mark.parametrize("given", [{}, {"Target": 0, "Pause between": 3}, {"Frames": 1}])
def test_exactly_what_is_missing_is_asked_for_in_order(given: dict[str, int]) -> None:
    names = {"Target": "target", "Pause between": "pause", "Frames": "frames"}
    words = [f"--{names[label]}={WORDS[place]}" for label, place in given.items()]
    with Terminal(example("nightplan.py", *words), columns=80, rows=30) as terminal:
        modes = terminal.initial
        asked = [(label, text) for label, text in ANSWERS if label not in given]
        for label, text in asked:
            terminal.answer(label, text)
        assert terminal.end() == 0
        lines = terminal.text().splitlines()
        labels = [label for label, _ in asked]
        assert [
            line[: line.index("  ", len(line) - len(line.lstrip()))].strip() for line in lines[: len(asked)]
        ] == labels
        assert lines[len(asked) :] == ["", *PLAN]
        assert terminal.modes() == modes


def test_a_wrong_answer_stays_in_the_line_with_its_reason() -> None:
    with Terminal(example("nightplan.py", "--target=x")) as terminal:
        terminal.answer("Frames", "4x5")
        terminal.see('"4x5" is not a whole number')
        assert "Frames  4x5 " in terminal.lines()[0]
        assert terminal.screen.cursor.x == terminal.lines()[0].index("5 ")
        fault = terminal.screen.buffer[0][terminal.screen.cursor.x - 1]
        assert fault.underscore
        terminal.type(ENTER + BACKSPACE * 2 + ENTER)
        terminal.see("Seconds each")
        assert "Frames  5" in terminal.lines()[0]


def test_a_wrong_word_is_told_before_anything_is_asked() -> None:
    with Terminal(example("nightplan.py", "x", "4x5")) as terminal:
        assert terminal.end() == 2
        assert terminal.text().splitlines() == [
            "nightplan.py x 4x5",
            "               ^^^",
            '  --frames  "4x5" is not a whole number, such as 12',
            "nightplan.py --help shows all values.",
        ]


def test_an_empty_answer_is_asked_again_and_end_of_input_counts_as_missing() -> None:
    with Terminal(example("nightplan.py", *WORDS[:3])) as terminal:
        terminal.answer("Pause between", "")
        terminal.see("a value is required: enter a number")
        terminal.type(CTRL_D)
        assert terminal.end() == 2
        assert "nightplan.py: 2 values are missing" in terminal.text()
        assert "--first=HH:MM  First frame at: a time of day" in terminal.text()


def test_an_interrupt_leaves_one_line_and_ends_by_the_signal() -> None:
    with Terminal(example("nightplan.py", *WORDS[:4])) as terminal:
        modes = terminal.initial
        terminal.see("First frame at")
        terminal.quiet()
        terminal.type("21" + CTRL_C)
        assert terminal.end() == -signal.SIGINT
        assert terminal.text().splitlines() == ["  First frame at  21", "Interrupted."]
        assert terminal.modes() == modes
        assert not terminal.screen.cursor.hidden


def test_an_impatient_interrupt_shows_no_trace() -> None:
    for _ in range(5):
        with Terminal(example("nightplan.py")) as terminal:
            terminal.quiet()
            for _ in range(40):
                if terminal.process.isalive():
                    terminal.type(CTRL_C)
                    terminal.read(0.001)
            assert terminal.end() == -signal.SIGINT
            assert "Traceback" not in terminal.text()


def test_a_pipe_that_nobody_reads_ends_the_program_quietly() -> None:
    line = f"{sys.executable} -m wesperon tour | true; echo ${{PIPESTATUS[0]}}"
    done = subprocess.run(["bash", "-c", line], capture_output=True, text=True)
    assert (done.stdout.splitlines()[-1], done.stderr) == ("141", "")


@pytest.mark.parametrize("line", ["python nightplan.py {words} | cat", 'x=$(python nightplan.py {words}); echo "$x"'])
def test_questions_go_to_the_terminal_and_never_to_standard_output(line: str) -> None:
    path = f"{Path(sys.executable).parent}:{os.environ['PATH']}"
    command = line.format(words="--target='Lantern Nebula' --frames=2 --seconds=90 --pause=5")
    with Terminal(["bash", "-c", f"cd {EXAMPLES}; {command}; echo status $?"], env={"PATH": path}) as terminal:
        terminal.answer("First frame at", "21:30")
        assert terminal.end() == 0
        assert terminal.text().splitlines() == ["  First frame at  21:30", "", *PLAN, "status 0"]


def test_a_shell_shows_130_after_an_interrupt() -> None:
    line = f"{sys.executable} {EXAMPLES / 'nightplan.py'} x; echo status $?"
    with Terminal(["bash", "-ic", line]) as terminal:
        terminal.see("Frames")
        terminal.quiet()
        terminal.type(CTRL_C)
        terminal.wait(lambda: "130" in terminal.everything() or terminal.is_closed, "the status")
        assert "Interrupted." in terminal.everything()


@pytest.mark.parametrize("shell", ["dash -c", "bash -c", "bash -mc"])
def test_a_background_job_asks_nobody(shell: str) -> None:
    line = f"{sys.executable} {EXAMPLES / 'nightplan.py'} x & wait $!; echo status $?"
    with Terminal([*shell.split(), line]) as terminal:
        assert terminal.end() == 0
        assert "nightplan.py: 4 values are missing" in terminal.text()
        assert "status 2" in terminal.text()


@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP, signal.SIGINT])
def test_a_signal_gives_the_terminal_back_and_ends_the_program(number: signal.Signals) -> None:
    with Terminal(example("nightplan.py")) as terminal:
        modes = terminal.initial
        terminal.see("Target")
        terminal.quiet()
        assert terminal.modes() != modes
        terminal.process.kill(number)
        assert terminal.end() == -number
        assert terminal.modes() == modes
        assert terminal.received.count(b"\x1b[?2004l") == terminal.received.count(b"\x1b[?2004h")


def test_a_program_that_is_stopped_gives_the_terminal_back_and_takes_it_again() -> None:
    line = (
        f"set -m; {sys.executable} {EXAMPLES / 'nightplan.py'} --target=x 3 90 5; echo stopped; stty -a; fg; echo end"
    )
    with Terminal(["bash", "-c", line], rows=40) as terminal:
        terminal.see("First frame at")
        terminal.quiet()
        terminal.type("21")
        terminal.see("First frame at  21")
        terminal.type("\x1a")
        terminal.see("stopped")
        terminal.wait(lambda: terminal.text().count("First frame at  21") == 2, "the question, drawn anew")
        assert " icanon" in terminal.text()
        terminal.type(":30" + ENTER)
        assert terminal.end() == 0
        assert "The last one ends at 21:34:40." in terminal.everything()


def test_a_hang_up_ends_the_program_with_a_status() -> None:
    terminal = Terminal(example("nightplan.py"))
    terminal.see("Target")
    terminal.quiet()
    terminal.process.fileobj.close()
    _, status = os.waitpid(terminal.process.pid, 0)
    assert os.waitstatus_to_exitcode(status) in (-signal.SIGHUP, 2)


def test_a_hang_up_that_is_ignored_ends_the_questions() -> None:
    script = (
        "import signal; signal.signal(signal.SIGHUP, signal.SIG_IGN); from wesperon import fill, slot; fill(n=slot())"
    )
    terminal = Terminal(python("-c", script))
    terminal.see("accept")
    terminal.quiet()
    terminal.process.fileobj.close()
    _, status = os.waitpid(terminal.process.pid, 0)
    assert os.waitstatus_to_exitcode(status) == 2


@pytest.mark.parametrize(("columns", "rows"), [(1, 1), (2, 3), (20, 5), (20, 24), (200, 60)])
def test_every_size_of_terminal_serves(columns: int, rows: int) -> None:
    with Terminal(example("nightplan.py", *WORDS[:4]), columns=columns, rows=rows) as terminal:
        terminal.quiet()
        terminal.type("21:3x" + ENTER + BACKSPACE + "0" + ENTER)
        assert terminal.end() == 0
        if columns >= 20:
            assert PLAN[-1][:19] in terminal.everything()


def test_resizing_an_open_question_keeps_its_text_and_what_stands_above() -> None:
    with Terminal(example("nightplan.py", "x"), columns=60, rows=12) as terminal:
        terminal.answer("Frames", "7")
        terminal.see("Seconds each")
        terminal.quiet()
        terminal.type("123456")
        terminal.see("123456")
        for columns, rows in [(24, 12), (60, 12), (33, 12), (100, 20)]:
            terminal.resize(columns, rows)
            terminal.wait(
                lambda: terminal.text().count("Seconds each") == 1 and "123456" in terminal.text(), "one question"
            )
            terminal.quiet()
        assert "7" in terminal.lines()[0]
        terminal.type(LEFT + BACKSPACE + ENTER)
        terminal.see("too high")


def test_what_a_terminal_lost_in_another_size_is_drawn_again_though_it_has_the_same_again() -> None:
    with Terminal(example("nightplan.py", *WORDS[:3])) as terminal:
        terminal.see("Pause between")
        terminal.quiet()
        shown = terminal.lines()
        for row in range(terminal.screen.cursor.y + 1, terminal.screen.lines):
            terminal.screen.buffer.pop(row, None)  # it was lower for a moment
        assert terminal.lines() != shown
        terminal.process.kill(signal.SIGWINCH)
        terminal.wait(lambda: terminal.lines() == shown, "the same frame")


def test_a_terminal_that_breaks_long_rows_shows_one_question_after_a_resize() -> None:
    if shutil.which("tmux") is None:
        pytest.skip("tmux is not installed")
    name = f"wesperon-{os.getpid()}"

    def tmux(*words: str) -> str:
        return subprocess.run(["tmux", "-L", name, *words], capture_output=True, text=True, check=True).stdout

    def screen_with(text: str, count: int = 1) -> str:
        end = time.monotonic() + DEADLINE
        while (shown := tmux("capture-pane", "-pJ")).replace("\n", "").replace(" ", "").count(text) != count:
            assert time.monotonic() < end, shown
            time.sleep(0.05)
        return shown

    program = [sys.executable, str(EXAMPLES / "nightplan.py"), "x"]
    tmux("-f", "/dev/null", "new-session", "-d", "-x", "80", "-y", "20", *program)
    try:
        screen_with("Frames")
        tmux("send-keys", "1" * 50)
        screen_with("1" * 50)
        for columns in ("50", "80", "33"):
            tmux("resize-window", "-x", columns)
            screen_with("Frames")
            shown = screen_with("1" * 50)
            assert shown.count("Enter: accept") == 1, shown
    finally:
        tmux("kill-server")


STORM = """
import threading, time
from wesperon import Command, Console, Program

class Look(Command):
    "Look."
    def run(self): ...

def talk():
    for number in range(60):
        time.sleep(0.03)
        console.say(f"message {number:02} came")

# Where a row of the line's frame breaks, this terminal moves as many rows at the top out of the screen, although there
# are empty ones below. If the cursor is in one of these, nothing can reach its row any more; so there are others above.
print("the desk opens\\n" * 5)
console = Console(Program("desk", members=[Look]))
threading.Thread(target=talk, daemon=True).start()
console.run()
"""


@pytest.mark.parametrize("seed", range(2))
def test_a_storm_of_sizes_with_messages_leaves_no_copy_behind(seed: int, tmp_path: Path) -> None:
    """The terminal has its new size well before the program hears of it."""
    if shutil.which("tmux") is None:
        pytest.skip("tmux is not installed")
    (tmp_path / "storm.py").write_text(STORM)
    name = f"wesperon-storm-{os.getpid()}-{seed}"

    def tmux(*words: str) -> str:
        return subprocess.run(["tmux", "-L", name, *words], capture_output=True, text=True, check=True).stdout

    def everything() -> str:
        return tmux("capture-pane", "-pJ", "-S", "-1000")

    program = [sys.executable, str(tmp_path / "storm.py")]
    tmux("-f", "/dev/null", "new-session", "-d", "-x", "80", "-y", "24", *program)
    try:
        end = time.monotonic() + DEADLINE
        while "Ctrl-D: leave" not in everything():
            assert time.monotonic() < end
            time.sleep(0.05)
        tmux("send-keys", "some words")
        chance = random.Random(seed)
        while "message 59 came" not in everything():
            assert time.monotonic() < end
            tmux("resize-window", "-x", str(chance.randint(30, 100)), "-y", str(chance.randint(4, 40)))
            time.sleep(chance.random() / 10)
        tmux("resize-window", "-x", "80", "-y", "24")
        while (shown := everything()).count("Ctrl-D: leave") != 1 or shown.count("some words") != 1:
            assert time.monotonic() < end, shown
            time.sleep(0.05)
        rows = [row.rstrip() for row in shown.splitlines() if "message" in row]
        assert rows == [f"message {number:02} came" for number in range(60)]
    finally:
        tmux("kill-server")


def test_a_fault_in_several_lines_has_the_cursor_at_it() -> None:
    with Terminal(example("nightscript.py")) as terminal:
        modes = terminal.initial
        terminal.see("Tonight")
        terminal.quiet()
        terminal.type("[HOLLIN-051]\rseconds = 5m\rframes = 4" + CTRL_D)
        terminal.see("not TOML yet")
        terminal.quiet()
        row = next(at for at, line in enumerate(terminal.lines()) if "seconds" in line)
        assert (terminal.screen.cursor.y, terminal.screen.cursor.x) == (row, terminal.lines()[row].index("m") + 1)
        assert terminal.screen.buffer[row][terminal.screen.cursor.x - 2].fg == "cyan"
        terminal.type("\x7f0\x1b\r")
        terminal.see("HOLLIN-051: {'seconds': 50, 'frames': 4}")
        assert terminal.end() == 0
        assert terminal.modes() == modes


def test_random_bytes_never_leave_the_terminal_changed() -> None:
    noise = random.Random(4).randbytes(30_000).translate(None, b"\x03\x04\x1a")
    with Terminal(example("nightplan.py", "x"), columns=60, rows=10, env={"VISUAL": "true"}) as terminal:
        modes = terminal.initial
        terminal.see("Frames")
        terminal.quiet()
        for at in range(0, len(noise), 500):
            terminal.send(noise[at : at + 500])
        terminal.quiet()
        terminal.type("\x1b[201~\x07" + CTRL_C)
        terminal.wait(lambda: terminal.is_closed or not terminal.process.isalive(), "the end")
        assert terminal.modes() == modes
        assert terminal.end() == -signal.SIGINT


def test_what_is_typed_ahead_is_answered_in_order() -> None:
    with Terminal(example("nightplan.py")) as terminal:
        terminal.see("Target")
        terminal.quiet()
        terminal.type(ENTER.join(WORDS) + ENTER)
        assert terminal.end() == 0
        assert terminal.text().splitlines()[-4:] == PLAN


def test_no_question_in_the_way_of_a_partial_line() -> None:
    script = "from wesperon import fill, slot; print(end='working...', flush=True); fill(n=slot(int))"
    with Terminal(python("-c", script)) as terminal:
        terminal.answer("n", "5")
        assert terminal.end() == 0
        assert terminal.text().splitlines() == ["working...", "  n  5"]


FRUGAL = ("wesperon.terminal", "wesperon.widgets", "wesperon.screen", "re", "enum", "dataclasses", "typing", "inspect",
          "pathlib", "logging", "termios", "wcwidth")  # fmt: skip


def test_a_run_with_all_values_given_loads_no_terminal_code() -> None:
    code = (
        "sys.argv = sys.argv[1:]\n"
        "exec(compile(open(sys.argv[0]).read(), sys.argv[0], 'exec'))\n"
        "print('loaded:', *(name for name in sys.modules))\n"
    )
    argv = [sys.executable, "-I", "-S", "-c", f"import sys; sys.path[:0] = {sys.path!r}\n{code}"]
    done = subprocess.run([*argv, str(EXAMPLES / "nightplan.py"), *WORDS], capture_output=True, text=True, check=True)
    loaded = done.stdout.splitlines()[-1].split()[1:]
    assert "wesperon.argv" in loaded
    assert [name for name in loaded if name in FRUGAL] == []


def test_menus_and_checkboxes_in_a_terminal() -> None:
    with Terminal(python("-m", "wesperon", "demo"), columns=200) as terminal:
        terminal.see("HOLLIN-077")
        terminal.quiet()
        terminal.type(DOWN * 5)
        terminal.see("6 of 8")
        row = next(at for at, line in enumerate(terminal.lines()) if "Lantern" in line)
        assert terminal.screen.buffer[row][terminal.lines()[row].index("HOLLIN-051")].reverse
        terminal.type(ENTER)
        terminal.see("[ ] Clear")
        terminal.type(" " + DOWN + " " + ENTER)
        terminal.answer("Seconds each", "300")
        terminal.answer("Note", "first light")
        assert terminal.end() == 0
        text = terminal.everything()
        assert text.count("HOLLIN-051 Lantern Nebula") == 3
        assert "--filters=Clear,Blue --seconds=300 '--note=first light'" in text


def test_what_a_key_has_coloured_elsewhere_shows_after_a_pause() -> None:
    """A letter that ends a token of several lines: its consequences are drawn when no key follows for a moment."""
    code = """
from pygments.lexer import RegexLexer
from pygments.token import Keyword, String
from wesperon import fill, slot

class Upto(RegexLexer):
    tokens = {"root": [("<[^z]*z", String), (r"[^<]", Keyword)]}

fill(["--asking", "all"], note=slot(lines=True, syntax=Upto(), default="<one\\\\ntwo\\\\nxyxyxy\\\\nz"))
"""
    with Terminal([sys.executable, "-c", code.replace("\\\\n", "\\n")]) as terminal:
        terminal.see("xyxyxy")
        terminal.quiet()
        row = next(at for at, line in enumerate(terminal.lines()) if "xyxyxy" in line)
        column = terminal.lines()[row].index("xyxyxy")
        terminal.type("\x1b[A" * 2 + "\x1b[F")
        terminal.wait(lambda: terminal.screen.buffer[row][column].fg != "default", "the colour of a string")
        before = terminal.screen.buffer[row][column].fg
        terminal.type("z")
        terminal.see("twoz")
        terminal.wait(lambda: terminal.screen.buffer[row][column].fg != before, "another colour")
        terminal.type(CTRL_C)


SECRET = "hunter2hunter2"
LOGIN = (
    "from wesperon import Form, fill, slot\n"
    "user, password = fill(user=slot(), password=slot(secret=True))\n"
    "print('got', len(password), user)\n"
)


def cooked(terminal: Terminal) -> None:
    """Set the modes that a shell sets when a job of its own has been stopped: whole lines, with an echo."""
    import termios

    modes = termios.tcgetattr(terminal.process.fd)
    modes[3] |= termios.ECHO | termios.ICANON | termios.ISIG
    termios.tcsetattr(terminal.process.fd, termios.TCSANOW, modes)


def echoes(terminal: Terminal) -> bool:
    import termios

    return bool(termios.tcgetattr(terminal.process.fd)[3] & termios.ECHO)


@pytest.mark.parametrize("env", [{}, {"WESPERON_PLAIN": "1"}])
@pytest.mark.parametrize("times", [1, 3])
def test_no_secret_is_echoed_after_a_stop_from_outside(env: dict[str, str], times: int) -> None:
    """Whoever has the terminal while the process is stopped leaves the echo on; it is off before a key is typed."""
    with Terminal(python("-c", LOGIN), env=env) as terminal:
        before = terminal.initial
        terminal.see("user")
        terminal.type("ann" + ENTER)
        terminal.see("password")
        for _ in range(times):
            terminal.wait(lambda: not echoes(terminal), "no echo")
            terminal.process.kill(signal.SIGSTOP)
            terminal.wait(lambda: Path(f"/proc/{terminal.process.pid}/stat").read_text().split()[2] == "T", "a stop")
            cooked(terminal)
            terminal.process.kill(signal.SIGCONT)
        terminal.wait(lambda: not echoes(terminal), "no echo")
        terminal.type(SECRET + ENTER)
        terminal.see(f"got {len(SECRET)} ann")
        assert SECRET not in terminal.everything()
        assert SECRET[:5].encode() not in terminal.received
        assert terminal.end() == 0
        assert terminal.modes() == before


@pytest.mark.parametrize("env", [{}, {"WESPERON_PLAIN": "1"}])
@pytest.mark.parametrize("how", ["key", "signal"])
def test_no_secret_is_echoed_after_a_stop_and_fg(env: dict[str, str], how: str, tmp_path: Path) -> None:
    (tmp_path / "login.py").write_text(LOGIN)
    line = f"set -m; {sys.executable} {tmp_path / 'login.py'}; echo stopped; stty -a; fg; echo end"
    with Terminal(["bash", "-c", line], env=env, rows=40) as terminal:
        terminal.see("user")
        terminal.quiet() if not env else None
        terminal.type("ann" + ENTER)
        terminal.see("password")
        terminal.wait(lambda: not echoes(terminal), "no echo")
        if how == "key":
            terminal.type("\x1a")
        else:
            children = Path(f"/proc/{terminal.process.pid}/task/{terminal.process.pid}/children").read_text()
            os.kill(int(children.split()[0]), signal.SIGTSTP)
        terminal.see("stopped")
        terminal.wait(lambda: " icanon" in terminal.text() and " echo " in terminal.text(), "the modes of the shell")
        terminal.wait(lambda: not echoes(terminal), "no echo")
        terminal.type(SECRET + ENTER)
        terminal.see(f"got {len(SECRET)} ann")
        assert SECRET[:5].encode() not in terminal.received
        assert terminal.end() == 0


INJECTED = """
import os, signal, sys
from wesperon import Form, slot
import wesperon.terminal.tty_driver
at, number = int(sys.argv[1]), getattr(signal, sys.argv[2])
# Whatever takes part in taking the terminal and giving it back.
files = {
    module.__file__
    for name, module in sys.modules.items()
    if name.startswith(("wesperon.terminal.", "wesperon.system.")) and not name.endswith("decoder")
}
count = [0]

def trace(frame, event, argument):
    if frame.f_code.co_filename not in files:
        return None
    if event == "line":
        count[0] += 1
        if count[0] == at:
            os.kill(os.getpid(), number)
            if number == signal.SIGTSTP:
                os.kill(os.getpid(), signal.SIGCONT)
    return trace

class Log(Form):
    frames = slot(int)
    password = slot(secret=True)

sys.settrace(trace)
try:
    record = Log.fill([])
    print("got", record.frames, flush=True)
except KeyboardInterrupt:
    print("interrupted", flush=True)
"""


def signalled(program: Path, at: int, name: str) -> int:
    """Run a session in which a signal comes at a line of the drivers, and check what is left; how it ended."""
    with Terminal(python(str(program), str(at), name)) as terminal:
        terminal.wait(lambda: terminal.is_closed or "accept" in terminal.text(), "a question")
        if not terminal.is_closed:
            terminal.type("5" + ENTER)
            terminal.wait(lambda: terminal.is_closed or "password" in terminal.text(), "the next question")
        # What is typed after the end of the program is not the program's to hide.
        terminal.wait(lambda: terminal.is_closed or not terminal.read(0.1), "waiting for a key, or the end")
        if not terminal.is_closed:
            terminal.type(SECRET + ENTER)
        status = terminal.end()
        assert SECRET[:5] not in terminal.everything(), at
        assert terminal.modes() == terminal.initial, at
        assert "Traceback" not in terminal.everything(), (at, terminal.everything())
        assert terminal.received.count(b"\x1b[?2004l") >= terminal.received.count(b"\x1b[?2004h"), at
        return status


#: The lines where the terminal has just been taken, and interrupts may come again.
ENTERED = range(162, 170)


@pytest.mark.parametrize("name", ["SIGINT", "SIGTERM", "SIGHUP", "SIGTSTP"])
def test_a_signal_at_any_line_of_a_session_leaves_the_terminal_as_it_was(name: str, tmp_path: Path) -> None:
    """The signal comes at each of very many lines of the drivers, taking and giving back the terminal included."""
    program = tmp_path / "program.py"
    program.write_text(INJECTED)
    ended = {signalled(program, at, name) for at in (*range(1, 60, 5), *range(60, 460, 57), *ENTERED)}
    assert ended <= {0, -getattr(signal, name)}, ended


#: A handler of the program raises: an error that looks like one of the system, as programs end a wait by a timer.
RAISING = (
    INJECTED.partition("class Log")[0]
    + """
def late(number, frame):
    raise TimeoutError("too late")

signal.signal(signal.SIGALRM, late)

class First(Form):
    frames = slot(int)

class Second(Form):
    again = slot(int)

sys.settrace(trace)
for form in (First, Second):
    try:
        print("got", vars(form.fill([])), flush=True)
    except TimeoutError as error:
        print(error, flush=True)
sys.settrace(None)
print("reached", count[0] >= at, flush=True)
"""
)


def test_what_a_handler_of_the_program_raises_at_any_line_arrives_and_breaks_nothing(tmp_path: Path) -> None:
    program = tmp_path / "program.py"
    program.write_text(RAISING)
    for at in (*range(1, 140, 11), 139, 143, 145, 159, *range(161, 700, 37), 597, 619, 0):
        with Terminal(python(str(program), str(at), "SIGALRM")) as terminal:
            terminal.wait(lambda: "accept" in terminal.text() or "too late" in terminal.text(), "a question")
            if not at:  # while it waits
                terminal.quiet()
                terminal.process.kill(signal.SIGALRM)
            elif "frames" in terminal.text() and "too late" not in terminal.text():
                terminal.type("5" + ENTER)
            terminal.see("again")
            terminal.see("accept")
            terminal.type("6" + ENTER)
            assert terminal.end() == 0, at
            shown = terminal.everything()
            assert "reached True" in shown, "there are fewer lines"
            assert shown.count("too late") == 1, (at, shown)
            assert terminal.modes() == terminal.initial, at
            assert terminal.received.count(b"\x1b[?2004l") >= terminal.received.count(b"\x1b[?2004h"), at


AHEAD = """
import sys
from wesperon import fill, one_of, slot
first, = fill([], first=slot())
kind, = fill([], kind=slot(one_of(["red", "blue"])))
switch, = fill([], switch=slot(int))
own = sys.stdin.readline().strip() if len(sys.argv) > 1 else "-"
print("got", first, kind, switch, own, flush=True)
"""


def test_what_is_typed_ahead_is_kept_for_whoever_reads_next(tmp_path: Path) -> None:
    """The next question of another driver, a menu, the program's own input, and the shell that started it."""
    (tmp_path / "ahead.py").write_text(AHEAD)
    keys = "one" + ENTER + DOWN + ENTER + "42" + ENTER
    with Terminal(["bash", "--norc", "--noprofile", "-i"], rows=40) as terminal:
        for words, behind, seen in (
            ("", "echo the sh''ell got it" + ENTER, ["got one blue 42 -", "the shell got it"]),
            (" own", "own words" + ENTER, ["got one blue 42 own words"]),
        ):
            terminal.type(f"clear; echo rea''dy; {sys.executable} {tmp_path / 'ahead.py'}{words}\r")
            terminal.see("ready")
            terminal.see("first")
            terminal.quiet()
            terminal.type(keys + behind)
            for text in seen:
                terminal.see(text)


def test_a_burst_of_typing_is_read_at_once() -> None:
    """Keys that are there together are one frame, however many there are."""
    text = "abcdefghij" * 300
    with Terminal(
        python("-c", "from wesperon import fill, slot; print('got', len(fill(note=slot()).note))")
    ) as terminal:
        terminal.see("accept")
        terminal.quiet()
        terminal.type(text + ENTER)
        terminal.see(f"got {len(text)}")


ADOPTED = """
import os, threading, time
if os.fork():
    os._exit(os.waitstatus_to_exitcode(os.wait()[1]))
os.setsid()
from wesperon import fill, slot
def talk():
    time.sleep(0.2)
    print("meanwhile")
threading.Thread(target=talk, daemon=True).start()
print("got", *fill([], first=slot(), second=slot(secret=True)))
"""


@pytest.mark.parametrize("env", [{}, {"WESPERON_PLAIN": "1"}])
def test_the_terminal_of_standard_input_and_an_output_is_asked_on_where_none_controls(env: dict[str, str]) -> None:
    """As on a console that an init has opened, and in a session of its own."""
    with Terminal(python("-c", ADOPTED), env=env) as terminal:
        terminal.see("first")
        terminal.see("meanwhile")
        terminal.type("one" + ENTER)
        terminal.see("second")
        if not env:
            terminal.quiet()
        terminal.type(SECRET + ENTER)
        terminal.see("got one")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
        assert "meanwhile" in terminal.text().splitlines() or env
