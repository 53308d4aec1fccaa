"""Who hears of the commands of a console.

Modules: ``commands.listeners``.
"""

from __future__ import annotations

import asyncio
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import console as run_lines
from tests.harness import CTRL_C, Terminal, python
from wesperon import Command, CommandGroup, Console, Heard, Program, Refusal, slot


class Expose(Command):
    frames = slot(int, low=1)

    def run(self) -> str:
        return f"exposed {self.frames}"


class Park(Command):
    """Listeners do it."""

    gently = slot(bool, default=False)


PROGRAM = Program("desk", members=[Expose, CommandGroup("dome", members=[Park])])


def test_a_listener_gets_the_line_the_words_and_the_record() -> None:
    console = Console(PROGRAM, history=False)
    heard: list[Heard] = []
    end = console.listen("Expose", heard.append)

    @console.listen("dome  park")
    def park(said: Heard) -> None:
        heard.append(said)

    driver = run_lines(console, "exp --frames '3'", "DOME park --gently", "expose 0", "nothing")
    assert [(one.line, one.words, one.command) for one in heard] == [
        ("exp --frames '3'", ("exp", "--frames", "3"), "expose"),
        ("DOME park --gently", ("DOME", "park", "--gently"), "dome park"),
    ]
    assert [heard[0].record.frames, heard[1].record.gently] == [3, True]
    assert "exposed 3" in "\n".join(driver.said)
    end()
    end()
    run_lines(console, "expose 4", "dome park")
    assert [one.command for one in heard[2:]] == ["dome park"]
    assert callable(park)


def test_a_command_that_nobody_runs_or_listens_to_is_told_so() -> None:
    console = Console(PROGRAM, history=False)
    driver = run_lines(console, "dome park")
    assert "dome park has no function to run and no listener" in "\n".join(driver.said)
    assert console.status == 1


def test_one_that_fails_does_not_keep_the_others_from_hearing() -> None:
    console = Console(PROGRAM, history=False)
    order: list[str] = []

    def fails(said: Heard) -> None:
        order.append("fails")
        raise ValueError("a listener\x1b")

    def refuses(said: Heard) -> None:
        order.append("refuses")
        raise Refusal("not now")

    async def waits(said: Heard) -> None:
        await asyncio.sleep(0)
        order.append("waits")

    for listener in (fails, waits, refuses, lambda said: order.append("last")):
        console.listen("expose", listener)
    driver = run_lines(console, "expose 5")
    assert order == ["fails", "waits", "refuses", "last"]
    shown = "\n".join(driver.said)
    assert "a listener^[" in shown
    assert "not now" in shown
    assert console.status == 1


def test_one_without_a_name_hears_everything_and_may_answer() -> None:
    console = Console(PROGRAM, history=False)
    heard: list[tuple[str, str, bool]] = []

    @console.listen()
    def every(said: Heard) -> bool:
        heard.append((said.command, said.line, said.record is None))
        return said.line.startswith("hello")

    driver = run_lines(console, "hello there", "good-bye", "expose 2", "dome park")
    assert heard == [
        ("", "hello there", True),
        ("", "good-bye", True),
        ("expose", "expose 2", False),
        ("dome park", "dome park", False),
    ]
    shown = "\n".join(driver.said)
    assert "hello" not in shown
    assert '"good-bye" is not a command of desk' in shown


@given(
    st.lists(st.sampled_from(["expose", "dome park", ""]), max_size=6), st.sampled_from(["expose 1", "dome park", "x"])
)
def test_they_are_called_in_the_order_of_attachment(names: list[str], line: str) -> None:
    console = Console(PROGRAM, history=False)
    called: list[int] = []
    for number, name in enumerate(names):
        console.listen(name, lambda said, number=number: called.append(number))  # type: ignore[misc]
    run_lines(console, line)
    command = {"expose 1": "expose", "x": ""}.get(line, line)
    assert called == [number for number, name in enumerate(names) if name in ("", command)]


def test_a_listener_can_be_there_before_the_module_of_its_command() -> None:
    sys.modules.pop("tests.lazy_member", None)
    program = Program("desk", members=[("tests.lazy_member:Lazy", "comes late")])
    console = Console(program, history=False)
    heard: list[Heard] = []
    console.listen("lazy", heard.append)
    assert "tests.lazy_member" not in sys.modules
    run_lines(console, "lazy")
    assert [one.command for one in heard] == ["lazy"]


BLOCKING = """
import asyncio, sys, time
from wesperon import Command, Console, Program

class Go(Command):
    def run(self): print("gone", flush=True)

console = Console(Program("desk", members=[Go]), history=False)

@console.listen("go")
def blocks(heard):
    print("blocked", flush=True)
    time.sleep(600)

sys.exit(asyncio.run(console.run_async()) if "async" in sys.argv else console.run())
"""


@pytest.mark.parametrize("way", ["", "async"])
def test_an_interrupt_ends_a_listener_that_blocks(way: str) -> None:
    with Terminal(python("-c", BLOCKING, way)) as terminal:
        terminal.answer("desk", "go")
        terminal.see("blocked")
        terminal.type(CTRL_C)
        terminal.see("Interrupted.")
        terminal.answer("Interrupted.", "exit 4")
        assert terminal.end() == 4
