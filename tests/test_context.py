"""Nothing is global that belongs to one user: each context has its own terminal, streams, language and values.

Modules: ``context``, ``scope``.
"""

from __future__ import annotations

import asyncio
import io
import os
import pty
import signal
import sys
import threading
import time
from collections.abc import Iterator
from typing import Any

import pytest

from tests.asking import ENTER
from wesperon import Command, Console, Context, Form, Problems, Program, slot
from wesperon.context import PROCESS, current
from wesperon.scope import within
from wesperon.system.streams import STDOUT
from wesperon.terminal.asyncio_driver import AsyncioDriver
from wesperon.terminal.ports.posix import PosixPort
from wesperon.testing import Scripted


class Options(Form):
    site = slot(default="ridge")


class Point(Command):
    target = slot()

    def run(self) -> str:
        print(f"turning to {self.target}")
        return f"{self.target} from {self.shared.site}, {Sum(frames=2).run()}"


class Sum(Command):
    frames = slot(int)

    def run(self) -> str:
        return f"{self.frames} frames at {self.shared.site}"


class Wait(Command):
    name = "wait"
    seconds = slot(float)

    async def run(self) -> str:
        print("begun")
        await asyncio.sleep(self.seconds)
        return "waited"


PROGRAM = Program("desk", members=[Point, Sum, Wait], shared=Options)


def test_two_consoles_on_two_drivers_run_side_by_side_in_one_event_loop(capsys: pytest.CaptureFixture[str]) -> None:
    first = Scripted(["wait 0.2", ENTER, "point Lantern", ENTER])
    second = Scripted(["point Wicker", ENTER, "--site=valley point Ember", ENTER, "sum x", ENTER])

    async def both() -> tuple[int, int]:
        consoles = [Console(PROGRAM, driver=driver) for driver in (first, second)]
        ends = await asyncio.gather(*(console.run_async() for console in consoles))
        return ends[0], ends[1]

    assert asyncio.run(both()) == (0, 0)
    assert first.said == ["begun", "waited", "turning to Lantern", "Lantern from ridge, 2 frames at ridge"]
    assert second.said[:4] == [
        "turning to Wicker",
        "Wicker from ridge, 2 frames at ridge",
        "turning to Ember",
        "Ember from valley, 2 frames at valley",
    ]
    assert any("is not a whole number" in line for line in second.said)
    assert capsys.readouterr() == ("", "")
    assert sys.stdout is not STDOUT


class Pseudo:
    """A pseudo-terminal that is not the process's own, with a driver on it."""

    def __init__(self) -> None:
        self.handle, self.end = pty.openpty()
        self.driver = AsyncioDriver(PosixPort(self.end))
        self.received = b""

    def type(self, text: str) -> None:
        os.write(self.handle, text.encode())

    async def see(self, text: str) -> None:
        os.set_blocking(self.handle, False)
        end = time.monotonic() + 20
        while text.encode() not in self.received:
            assert time.monotonic() < end, f"no {text!r} in {self.received!r}"
            try:
                self.received += os.read(self.handle, 1 << 16)
            except BlockingIOError:
                await asyncio.sleep(0.005)

    def close(self) -> None:
        self.driver.close()
        os.close(self.handle)


@pytest.fixture
def pseudo() -> Iterator[tuple[Pseudo, Pseudo]]:
    both = Pseudo(), Pseudo()
    yield both
    for one in both:
        one.close()


def test_two_terminals_are_served_in_one_loop_and_neither_waits_for_the_other(pseudo: tuple[Pseudo, Pseudo]) -> None:
    first, second = pseudo

    async def talk() -> None:
        consoles = [Console(PROGRAM, driver=one.driver) for one in pseudo]
        ends = asyncio.gather(*(console.run_async() for console in consoles))
        first.type("wait 60\r")
        await first.see("begun")
        second.type("point Wicker\r")
        await second.see("Wicker from ridge")
        second.type("point Ember\x1a\r")  # Ctrl-Z is no order to this process
        await second.see("Ember from ridge")
        second.type("exit\r")
        await second.see("exit")
        ends.cancel()

    handlers = [signal.getsignal(number) for number in (signal.SIGWINCH, signal.SIGTERM, signal.SIGTSTP)]
    asyncio.run(talk())
    assert [signal.getsignal(number) for number in (signal.SIGWINCH, signal.SIGTERM, signal.SIGTSTP)] == handlers
    assert b"Wicker" not in first.received


def test_only_the_driver_of_the_process_s_own_terminal_handles_its_signals(pseudo: tuple[Pseudo, Pseudo]) -> None:
    before = signal.getsignal(signal.SIGWINCH)
    inherited = signal.signal(signal.SIGINT, signal.default_int_handler)  # a shell in the background ignores it
    driver = pseudo[0].driver
    try:
        with driver:
            assert signal.getsignal(signal.SIGWINCH) is before
            assert signal.getsignal(signal.SIGINT) is signal.default_int_handler
    finally:
        signal.signal(signal.SIGINT, inherited)


def test_two_threads_see_the_shared_values_of_their_own_call() -> None:
    begun = threading.Barrier(2)
    found: dict[str, str] = {}

    class Ask(Command):
        def run(self) -> str:
            begun.wait(20)  # both run now
            found[self.shared.site] = str(Sum(frames=1).run())
            begun.wait(20)
            return ""

    program = Program("desk", members=[Ask], shared=Options)
    threads = [threading.Thread(target=program.call, args=([f"--site={site}", "ask"],)) for site in ("ridge", "valley")]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    assert found == {"ridge": "1 frames at ridge", "valley": "1 frames at valley"}


def test_two_contexts_speak_two_languages_at_once() -> None:
    form: Any = type("Log", (Form,), {"frames": slot(int)})

    async def fault(language: str) -> str:
        with within(Context(language=language)):
            for _ in range(3):
                await asyncio.sleep(0)
            try:
                form.fill(["x"], asking="never")
            except Problems as problems:
                await asyncio.sleep(0)
                return str(problems)
        return ""

    async def both() -> list[str]:
        return list(await asyncio.gather(fault("de"), fault("en"), fault("de_DE.UTF-8")))

    german, english, again = asyncio.run(both())
    assert english == 'frames: "x" is not a whole number, such as 12'
    assert german == again != english
    assert "ganze Zahl" in german


def test_a_context_gives_words_environment_and_streams_of_its_own(tmp_path: Any) -> None:
    class Log(Form):
        frames = slot(int)
        site = slot(env="SITE")

    context = Context(words=["5"], environ={"SITE": "valley"}, program="night")
    record = Log.fill(context=context)
    assert (record.frames, record.site) == (5, "valley")
    assert "SITE" not in os.environ
    with open(tmp_path / "out", "w+") as out, open(tmp_path / "err", "w+") as err:
        context = Context(stdout=out, stderr=err, words=["sum", "3"])
        assert PROGRAM.main(context=context) == 0
        assert PROGRAM.main(["sum", "x"], context=context) == 2
        out.seek(0), err.seek(0)
        assert out.read() == "3 frames at ridge\n"
        assert "is not a whole number" in err.read()
    with pytest.raises(TypeError, match="nearest: words"):
        Context(word=["x"])
    assert current() is PROCESS


def test_a_driver_in_the_context_asks_the_questions() -> None:
    class Log(Form):
        frames = slot(int)

    driver = Scripted(["7", ENTER])
    assert Log.fill([], context=Context(driver=driver)).frames == 7
    assert asyncio.run(Log.fill_async([], context=Context(driver=Scripted(["8", ENTER])))).frames == 8


def test_lines_that_threads_print_are_whole() -> None:
    class Slow(io.StringIO):
        def write(self, text: str) -> int:
            time.sleep(0.0005)
            return super().write(text)

    out = Slow()
    context = Context(stdout=out)

    def say() -> None:
        for _ in range(30):
            context.print("a line")

    threads = [threading.Thread(target=say) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert out.getvalue() == "a line\n" * 120
