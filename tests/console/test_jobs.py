"""Commands in the background: their output with their number, stopped, waited for, and what comes at leaving.

Modules: ``console.jobs``.
"""

from __future__ import annotations

import io
from pathlib import Path

import pytest

from tests.harness import Terminal, python
from tests.tables import tabled
from wesperon import Command, Console, Context, DeclarationError, Form, Program, slot
from wesperon.text.elapsed import elapsed

DESK = """
import asyncio, os, sys, time
from wesperon import Command, Console, Program, slot

class Cool(Command):
    '''Cool the camera.'''
    steps = slot(int)
    def run(self):
        for left in range(self.steps, 0, -1):
            print(f"{left} to go")
            time.sleep(0.3)
        return "it is cold"

class Later(Command):
    '''Do it in the loop.'''
    async def run(self):
        await asyncio.sleep(30)

class Break(Command):
    '''Fail.'''
    background = True
    def run(self):
        while not os.path.exists("GATE"):
            time.sleep(0.01)
        raise ValueError("broken")

class Ask(Command):
    '''Ask in the background.'''
    def run(self):
        from wesperon import Form
        class More(Form):
            what = slot()
        print(More.fill([]).what)

console = Console(
    Program("desk", members=[Cool, Later, Break, Ask]), history=False, background=2,
    at_leaving=sys.argv[2] if len(sys.argv) > 2 else "wait",
)
heard = []
console.listen("cool", lambda line: console.say(f"heard {line.line}"))
if sys.argv[1] == "async":
    sys.exit(asyncio.run(console.run_async()))
sys.exit(console.run())
"""


@pytest.mark.parametrize("way", ["sync", "async"])
def test_commands_run_while_the_prompt_stays(way: str, tmp_path: Path) -> None:
    gate = tmp_path / "gate"
    with Terminal(python("-c", DESK.replace("GATE", str(gate)), way), rows=60) as terminal:
        terminal.answer("desk", "cool 2000 &")
        terminal.see("[1] started: cool 2000")
        terminal.see("[1] 1998 to go")
        terminal.answer("desk", "break")
        terminal.see("[2] started: break")
        terminal.answer("desk", "cool 5 &")
        terminal.see("at most 2 run at a time: wait for one of 1, 2, or stop it")
        gate.touch()
        terminal.see("[2] ValueError: broken")
        terminal.see("[2] failed after ")
        terminal.see(", status 1: break")
        terminal.answer("desk", "jobs")
        terminal.see("job  time")
        terminal.see("cool 2000")
        terminal.answer("desk", "stop 7")
        terminal.see("there is no job 7")
        terminal.answer("desk", "stop 1")
        terminal.see("[1] stopped after")
        terminal.answer("desk", "cool &")
        terminal.answer("steps", "4")
        terminal.see("[3] started: cool")
        terminal.answer("desk", "wait 3")
        terminal.see("[3] it is cold")
        terminal.see("heard cool")
        terminal.see("[3] done after ")
        terminal.answer("desk", "ask &")
        terminal.see("--what")
        terminal.see("[4] failed after")
        terminal.answer("desk", "jobs")
        terminal.see("nothing runs in the background")
        terminal.answer("desk", "exit 5")
        assert terminal.end() == 5
        assert "no rows" not in terminal.text()


@pytest.mark.parametrize("way", ["sync", "async"])
def test_what_still_runs_at_leaving_is_said_and_waited_for_or_stopped(way: str) -> None:
    for how, line, says in (
        ("wait", "cool 6 &", "[1] done after"),
        ("stop", "cool 9999 &", "[1] stopped after"),
        ("stop", "later &", "[1] stopped after"),
    ):
        if (way, line) == ("sync", "later &"):
            continue  # a thread that sleeps in its own loop is not stopped at once
        with Terminal(python("-c", DESK, way, how), rows=40) as terminal:
            terminal.answer("desk", line)
            terminal.see("[1] started")
            terminal.quiet()
            terminal.type("exit 4\r")
            terminal.see("1 job still runs; " + ("waiting for the end" if how == "wait" else "stopping"))
            terminal.see(says)
            assert terminal.end() == 4


def test_an_ampersand_is_a_word_like_others_where_nothing_may_run_in_the_background() -> None:
    class Say(Command):
        """Say."""

    console = Console(Program("desk", members=[Say]), history=False)
    assert console.lines.entered("say &").words == ["say", "&"]
    assert "jobs" not in console.lines.builtins.members
    able = Console(Program("desk", members=[Say]), history=False, background=1)
    assert able.lines.entered("say '&'").words == ["say", "&"]
    assert not able.lines.entered("say '&'").in_background
    assert able.lines.entered("say 'a' & ").words == ["say", "a"]
    assert able.lines.entered("say a &").in_background
    with pytest.raises(DeclarationError, match="not one of 'wait'"):
        Console(Program("desk", members=[Say]), at_leaving="hope")


@tabled
def test_how_long_something_took_is_short(seconds: float, text: str) -> None:
    assert elapsed(seconds) == text


def test_a_secret_is_not_in_the_line_of_a_job_nor_in_the_history(tmp_path: Path) -> None:
    class Enter(Command):
        """Enter."""

        key = slot(secret="anywhere")

        def run(self) -> None:
            """Nothing."""
            raise ValueError(self.key)

    class Say(Command):
        """Say."""

        text = slot()

        def run(self) -> None:
            """Nothing."""

    file = tmp_path / "login.desk"
    file.write_text("[slots.key]\nsecret = 'anywhere'\nenter {key} &\n")
    out, path = io.StringIO(), tmp_path / "history"
    lines = f"enter Zq7hunterX &\nwait 1\njobs\nrun {file} Zq7hunterX\nwait 2\n"
    context = Context(stdin=io.StringIO(lines), stdout=out, stderr=out, environ={})
    program = Program("desk", members=[Enter, Say])
    console = Console(program, history=str(path), context=context, background=1, output_files=True)
    assert console.run() == 1
    assert "[1] started: enter ***" in out.getvalue()
    assert "login.desk, line 3: ValueError: ***" in out.getvalue()
    assert "hunter" not in out.getvalue()
    for line, kept in {
        f"run {file} Zq7hunterX": False, f"run {file}": True, "enter Zq7hunterX &": False,
        f"run --words=Zq7hunterX {file}": False, f"run --keep-going {file} Zq7hunterX": False,
        "enter Zq7hunterX > x": False,
        "say a > x": True, "say a &": True, "exit 3": True, "run nowhere x": True,
    }.items():  # fmt: skip
        assert console.lines.is_private(line) is not kept, line

    class Shared(Form):
        token = slot(secret="anywhere", default="")

    shared = Console(Program("desk", members=[Say], shared=Shared), history=False, background=1, output_files=True)
    assert not shared.lines.is_private("say a > x &")
    assert shared.lines.is_private("say a --token=b > x &")


def test_a_coroutine_in_the_background_is_stopped_at_once() -> None:
    with Terminal(python("-c", DESK, "async"), rows=60) as terminal:
        terminal.answer("desk", "later &")
        terminal.see("[1] started: later")
        terminal.answer("desk", "stop 1")
        terminal.see("[1] stopped after")
        terminal.answer("desk", "jobs")
        terminal.see("nothing runs in the background")
        terminal.answer("desk", "exit")
        assert terminal.end() == 0
