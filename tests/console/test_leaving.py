"""How a console ends, and what it does with nobody at a terminal.

Modules: ``console.unattended``, ``console.ending_signals``.
"""

from __future__ import annotations

import random
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import pytest

from tests.harness import CTRL_D, ENTER, Terminal, python
from tests.tables import tabled

DESK = r"""
import os, sys, threading, time
from wesperon import Command, Console, Program, Refusal, slot

class Expose(Command):
    frames = slot(int, low=1)
    note = slot(default="")
    def run(self):
        print("exposed", self.frames, self.note, flush=True)

class Fail(Command):
    how = slot(default="refusal")
    def run(self):
        if self.how == "refusal":
            raise Refusal("no", 4)
        raise ValueError("broken")

unattended = "stay" if "stay" in sys.argv else "refuse"
console = Console(Program("desk", members=[Expose, Fail]), history=False, unattended=unattended)

@console.on_leave
def last():
    print("last", flush=True)

@console.on_leave
def first():
    print("first", flush=True)
    raise ValueError("a callback")

if "leave" in sys.argv:
    def leave():
        if os.path.isabs(sys.argv[-1]):
            while not os.path.exists(sys.argv[-1]):
                time.sleep(0.01)
        else:
            time.sleep(float(sys.argv[-1]))
        console.leave(5)
    threading.Thread(target=leave).start()
print("ready", flush=True)
if "async" in sys.argv:
    import asyncio
    async def main():
        ticks = 0
        async def tick():
            nonlocal ticks
            while True:
                await asyncio.sleep(0.02)
                ticks += 1
        task = asyncio.create_task(tick())
        status = await console.run_async()
        task.cancel()
        print("ticks" if ticks else "no ticks")
        return status
    status = asyncio.run(main())
else:
    status = console.run()
print("status", status, flush=True)
sys.exit(status)
"""
#: Begins a program in a session of its own, without any terminal.
ALONE = [sys.executable, "-c", "import os, sys; os.setsid(); os.execv(sys.executable, [sys.executable, *sys.argv[1:]])"]


def alone(text: str | bytes | None, *words: str) -> subprocess.CompletedProcess[bytes]:
    """Run the desk with lines for its standard input; None: there is none at all."""
    data = text.encode() if isinstance(text, str) else text
    given: dict[str, Any] = {"stdin": subprocess.DEVNULL} if data is None else {"input": data}
    return subprocess.run([*ALONE, "-c", DESK, *words], capture_output=True, timeout=60, check=False, **given)


@pytest.mark.parametrize("way", ["", "async"])
@tabled
def test_lines_from_standard_input_are_run_as_if_typed(text: str, out: list[str], status: int, way: str) -> None:
    done = alone(text, way)
    lines = done.stdout.decode().splitlines()
    assert lines[0] == "ready"
    assert lines[1 : 1 + len(out)] == out
    assert lines[1 + len(out) : 3 + len(out)] == ["first", "last"]
    assert done.returncode == status
    assert b"ValueError: a callback" in done.stderr
    assert b"Traceback" not in done.stderr


def test_hostile_lines_get_an_answer_and_never_a_trace() -> None:
    rolled = random.Random(5)
    noise = b"\n".join(rolled.randbytes(rolled.randint(0, 30)) for _ in range(2_000))
    for data in (
        noise,
        b"expose " + b"9" * 1_000_000 + b"\n",
        b"\x00" * 10_000,
        b"'" * 9_999,
        b"\xff\xfe\n" * 50,
        b"'" + b'x "\n' * 100_000,
    ):
        done = alone(data)
        assert b"Traceback" not in done.stderr
        assert b"\nstatus " in done.stdout


def test_nothing_at_all_to_read_from_is_refused_or_waited_out() -> None:
    done = alone(None)
    assert (done.returncode, done.stdout.decode().splitlines()[-1]) == (2, "status 2")
    assert b"requires a terminal" in done.stderr
    closed = subprocess.run(["sh", "-c", 'exec "$@" <&-', "sh", *ALONE, "-c", DESK], capture_output=True, check=False)
    assert closed.returncode == 2
    assert b"Traceback" not in closed.stderr


@pytest.mark.parametrize("way", ["", "async"])
@pytest.mark.parametrize("shut", ["", "<&-", "<&- 2>&-"])
def test_a_service_stays_until_it_is_to_leave(way: str, shut: str) -> None:
    command = ["sh", "-c", f'exec "$@" {shut or "< /dev/null"}', "sh", *ALONE, "-c", DESK, "stay", way]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL) as process:
        assert process.stdout is not None
        assert process.stdout.readline() == b"ready\n"
        time.sleep(0.5)
        assert process.poll() is None
        process.send_signal(signal.SIGTERM)
        rest = process.stdout.read().decode().splitlines()
        assert process.wait(30) == 143
    assert rest == ["first", "last", *(["ticks"] if way else []), "status 143"]
    left = subprocess.run([*command, "leave", "0.3"], capture_output=True, check=False, timeout=60)
    assert left.returncode == 5


def test_a_service_that_stays_uses_no_time() -> None:
    with subprocess.Popen([*ALONE, "-c", DESK, "stay"], stdin=subprocess.DEVNULL, stdout=subprocess.PIPE) as process:
        assert process.stdout is not None
        process.stdout.readline()
        time.sleep(0.3)

        def used() -> int:
            with open(f"/proc/{process.pid}/stat", encoding="ascii") as stat:
                return sum(map(int, stat.read().rpartition(")")[2].split()[11:13]))

        before = used()
        time.sleep(1.0)
        assert used() - before <= 2  # ticks of 10 ms
        process.terminate()
        assert process.wait(30) == 143


@pytest.mark.parametrize("way", ["", "async"])
@pytest.mark.parametrize("typed", ["", "half a line", f"expose{ENTER}"])
def test_a_console_is_left_from_a_thread(way: str, typed: str, tmp_path: Path) -> None:
    wanted = tmp_path / "wanted"
    with Terminal(python("-c", DESK, way, "leave", str(wanted)), rows=40) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type(typed)
        terminal.quiet()
        wanted.touch()
        assert terminal.end() == 5
        assert terminal.modes() == terminal.initial
        lines = terminal.text().splitlines()
    assert [line for line in lines if line in ("first", "last", "status 5")] == ["first", "last", "status 5"]


def test_exit_takes_a_status() -> None:
    with Terminal(python("-c", DESK), rows=40) as terminal:
        terminal.answer("desk", "exit many")
        terminal.see("is not a whole number")
        terminal.answer("such as 12", "exit 9")
        assert terminal.end() == 9
    with Terminal(python("-c", DESK), rows=40) as terminal:
        terminal.see("desk")
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0


WATCH = r"""
import asyncio, sys, time
from wesperon import Command, Console, Program

class Watch(Command):
    '''Watch the sky.'''
    def run(self):
        print("watching", flush=True)
        time.sleep(60)

class Rest(Command):
    '''Rest in the loop.'''
    async def run(self):
        print("resting", flush=True)
        await asyncio.sleep(60)

class Inside(Command):
    '''Look inside.'''
    def run(self):
        return console.python({"time": time})

console = Console(Program("desk", members=[Watch, Rest, Inside]), history=False)
console.on_leave(lambda: print("called", flush=True))
status = asyncio.run(console.run_async()) if sys.argv[1] == "async" else console.run()
import signal
given_back = {signal.getsignal(number) for number in (signal.SIGTERM, signal.SIGHUP)} == {signal.SIG_DFL}
print("status", status, "given back" if given_back else "kept", flush=True)
sys.exit(status)
"""


@pytest.mark.parametrize("way", ["sync", "async"])
@pytest.mark.parametrize("number", [signal.SIGTERM, signal.SIGHUP])
@pytest.mark.parametrize("doing", ["nothing", "watch", "rest", "inside", "inside and busy"])
def test_a_signal_that_ends_a_process_leaves_the_console_with_its_callbacks(way: str, number: int, doing: str) -> None:
    with Terminal(python("-c", WATCH, way)) as terminal:
        terminal.see("desk")
        if doing != "nothing":
            terminal.answer("desk", doing.partition(" ")[0])
            terminal.see({"watch": "watching", "rest": "resting"}.get(doing, "python"))
        if doing == "inside and busy":
            terminal.answer("python", "print('busy'), time.sleep(60)")
            terminal.see("\nbusy")
        if doing in ("nothing", "inside"):
            terminal.quiet()
        terminal.process.kill(number)
        assert terminal.end() == 128 + number
        assert terminal.everything().count("called") == 1
        assert f"status {128 + number} given back" in terminal.everything()
        assert terminal.modes() == terminal.initial


@pytest.mark.parametrize("is_async", [False, True])
def test_leaving_before_the_console_is_open_ends_it_at_once_and_the_next_run_is_a_new_one(is_async: bool) -> None:
    import asyncio

    from wesperon import Console, Program
    from wesperon.testing import Press, Scripted

    console = Console(Program("desk"), history=False, driver=Scripted(["exit 4", Press("enter")]))

    def run() -> int:
        return asyncio.run(console.run_async()) if is_async else console.run()

    console.leave(3)
    assert run() == 3
    assert run() == 4


def test_a_file_of_commands_may_be_standard_input() -> None:
    """Its heading is not a line of commands; what it needs and has not got is a problem, since nobody can be asked."""
    text = "# tonight\n[slots.n]\nkind = 'integer'\n{more}\nexpose {{n}}\nexpose x\nexpose 5\n"
    done = alone(text.format(more="default = 3"))
    assert [line[:9] for line in done.stdout.decode().splitlines() if line.startswith("exposed")] == [
        "exposed 3",
        "exposed 5",
    ]
    assert b"line 6" in done.stderr or b'"x" is not a whole number' in done.stderr
    done = alone(text.format(more=""))
    assert b"exposed" not in done.stdout
    assert b"--n=NUMBER  a whole number" in done.stderr
