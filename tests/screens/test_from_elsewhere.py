"""What others do with a screen: tasks that the program has begun itself, and threads. It shows, and it asks for them.

Modules: ``screens.from_threads``, ``screens.running``, ``terminal.asyncio_driver``, ``terminal.elsewhere``.
"""

from __future__ import annotations

import asyncio
import re
import textwrap
import threading
import time
from collections.abc import Callable
from types import SimpleNamespace
from typing import Any

import pytest

from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal
from tests.screens.test_on_a_terminal import press, script
from wesperon import (
    Button,
    Down,
    Form,
    Label,
    MessageView,
    Problems,
    Screen,
    ask_async,
    choose_async,
    choose_file_async,
    confirm_async,
    page_async,
    show_message_async,
    show_work,
    show_work_async,
    slot,
)
from wesperon.editing.keys.events import Key
from wesperon.screen.ecma48 import ALTERNATE_OFF
from wesperon.terminal.asyncio_driver import AsyncioDriver
from wesperon.terminal.inbox import Inbox
from wesperon.testing import Session


def wait_for(condition: Callable[[], object]) -> None:
    """Wait until a condition holds."""
    latest = time.monotonic() + 10
    while not condition():
        assert time.monotonic() < latest
        time.sleep(0.01)


IN_A_TASK = """
import asyncio
from wesperon import *

said, field = Label("here"), Field(slot(int, "Frames", low=1))
tabs = Tabs(Label("first", title="One"), Label("second", title="Two"))
screen = Screen(Down(said, field, tabs, Button("Go", lambda: None)))

class Plan(Form):
    note = slot(str, "Note")

async def inside():
    inner = Screen(Down(Label("inner"), Button("Well", lambda: inner.close("well"), default=True)))
    said.show(await inner.run_async())

async def later():
    await asyncio.sleep(0.3)
{act}

async def main():
    task = asyncio.create_task(later())
    print("ended with", await screen.run_async())
    task.cancel()

asyncio.run(main())
"""


@pytest.mark.parametrize(
    ("act", "opened", "keys", "seen"),
    [
        ("said.show('shown')", "", "", "shown"),
        ("field.show(1234)", "", "", "1234"),
        ("field.check()", "", "", "required"),
        ("tabs.show('Two')", "", "", "second"),
        ("screen.call_later(0.1, lambda: said.show('timed'))", "", "", "timed"),
        ("screen.close('well')", "", "", "ended with well"),
        ("said.show(await show_message_async('Hello', buttons=['Well']))", "Hello", ENTER, "Well"),
        ("said.show(await choose_async('Which?', ['dry', 'well']))", "Which?", "we" + ENTER, "well"),
        ("said.show(await ask_async('Note?'))", "Note?", "well" + ENTER, "well"),
        ("said.show(str(await confirm_async('Sure?')))", "Sure?", "y" + ENTER, "True"),
        ("said.show(await show_work_async('Counting', lambda work: 'well'))", "", "", "well"),
        ("said.show((await Plan.fill_async([], layout='screen')).note)", "Note", "well" + ENTER, "well"),
        ("said.show(str(await page_async(['line one'] * 50, pick=True)))", "line one", " " + ENTER, "['line one"),
        ("await inside()", "inner", ENTER, "well"),
        ("said.show(ask('Note?'))", "Note?", "well" + ENTER, "well"),
        ("said.show(show_message('Hello', buttons=['Well']))", "Hello", ENTER, "Well"),
        (
            "asyncio.get_running_loop().call_later(0.2, screen.close_dialog)\nawait show_message_async('Hello')\n"
            "said.show('closed')",
            "", "", "closed",
        ),
        (
            "first, other = await asyncio.gather(ask_async('One?'), ask_async('Other?'))\nsaid.show(first + other)",
            "Other?", "x" + ENTER + "y" + ENTER, "yx",
        ),
    ],
)  # fmt: skip
def test_what_a_task_of_the_program_does_is_seen_at_once(act: str, opened: str, keys: str, seen: str) -> None:
    """Nothing else comes meanwhile: no key, and no time that the screen waits for."""
    with script(IN_A_TASK.format(act=textwrap.indent(act, "    "))) as terminal:
        terminal.see("here")
        if opened:
            terminal.see(opened)
            terminal.type(keys)
        terminal.see(seen)
        assert ALTERNATE_OFF.encode() not in terminal.received.partition(b"ended")[0] or "ended" in seen
        if "ended" not in seen:
            terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


PRINTING = """
import asyncio
from wesperon import *

async def report():
    for number in range(5):
        print(f"line {{number}}.")
        for _ in range({turns}):
            await asyncio.sleep(0)

screen = Screen(Label("here"), menus=Program("night", members=[report]))
asyncio.run(screen.run_async())
"""


@pytest.mark.parametrize("turns", range(6))
def test_all_that_a_command_prints_is_shown_however_often_it_gives_way(turns: int) -> None:
    with script(PRINTING.format(turns=turns)) as terminal:
        terminal.see("here")
        terminal.type("\x1b[21~" + ENTER + ENTER)
        terminal.see("[ OK ]")
        for number in range(5):
            terminal.see(f"line {number}.")
        terminal.type(ENTER + CTRL_D)
        assert terminal.end() == 0


def test_what_has_come_is_taken_only_when_it_is_handled_at_once() -> None:
    """Who is cancelled in between has taken nothing, and what ends in between finds what it has printed."""
    driver: Any = object.__new__(AsyncioDriver)
    driver.port = SimpleNamespace(is_resized=False)
    driver.inbox, driver.is_gone, driver.is_left = Inbox(lambda: None), False, False
    driver._is_stopping, driver._is_continued, driver.is_own = False, False, False

    async def take() -> list[Any]:
        driver.inbox.post(Key("a", "a"))
        for turns in range(3):
            taking = asyncio.create_task(driver.events())
            for _ in range(turns):
                await asyncio.sleep(0)
            if taking.done():
                return [*taking.result()]
            assert driver.inbox
            taking.cancel()
            await asyncio.gather(taking, return_exceptions=True)
        return []

    assert asyncio.run(take()) == [Key("a", "a")]


IN_A_THREAD = """
import asyncio, threading
from wesperon import *

said = Label("here")

def work(*of_the_dialog):
    try:
        said.show("got " + str({call}))
    except Problems as problems:
        print("left:", problems)

def act():
    {begins}

screen = Screen(Down(said, Button("Act", act)))
try:
    {run}
finally:
    {waits}
"""
BEGINS = {
    "thread": "global thread; thread = threading.Thread(target=work); thread.start()",
    "work": "show_work('Working', work)",
}
CALLS = [
    ("ask('Note?')", "Note?", "well" + ENTER, "got well"),
    ("ask('Note?', int, unattended=3, low=1)", "Note?", "12" + ENTER, "got 12"),
    ("confirm('Sure?')", "Sure?", "y" + ENTER, "got True"),
    ("choose('Which?', ['dry', 'well'])", "Which?", "we" + ENTER, "got well"),
    ("show_message('Hello', buttons=['Well', 'Bad'])", "Hello", ENTER, "got Well"),
    ("asyncio.run(ask_async('Note?'))", "Note?", "well" + ENTER, "got well"),
    ("asyncio.run(confirm_async('Sure?'))", "Sure?", "n" + ENTER, "got False"),
    ("asyncio.run(choose_async('Which?', ['dry', 'well']))", "Which?", "we" + ENTER, "got well"),
    ("asyncio.run(show_message_async('Hello', buttons=['Well']))", "Hello", ENTER, "got Well"),
]
RUNS = ["screen.run()", "asyncio.run(screen.run_async())"]


def in_a_thread(call: str, run: str, begins: str = "thread", waits: str = "pass") -> Terminal:
    """Return a terminal with a screen, of which a thread asks something."""
    return script(IN_A_THREAD.format(call=call, run=run, begins=BEGINS[begins], waits=waits))


@pytest.mark.parametrize("run", RUNS)
@pytest.mark.parametrize(("call", "opened", "keys", "seen"), CALLS)
def test_what_a_thread_asks_is_a_dialog(call: str, opened: str, keys: str, seen: str, run: str) -> None:
    with in_a_thread(call, run) as terminal:
        press(terminal, "Act")
        terminal.see(opened)
        assert "here" in terminal.text()
        terminal.type(keys)
        terminal.see(seen)
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


@pytest.mark.parametrize(("call", "opened", "keys", "seen"), CALLS[:5])
def test_long_work_asks_over_its_own_dialog(call: str, opened: str, keys: str, seen: str) -> None:
    with in_a_thread(call, RUNS[0], "work") as terminal:
        press(terminal, "Act")
        terminal.see(opened)
        terminal.type(keys)
        terminal.see(seen)
        terminal.type(CTRL_D)
        assert terminal.end() == 0


@pytest.mark.parametrize("run", RUNS)
@pytest.mark.parametrize(
    ("call", "ends"),
    [("ask('Note?')", "left: Note?: is missing"), ("choose('Note?', ['dry'])", "got None")],
)
@pytest.mark.parametrize("how", ["the dialog is left", "the screen is left", "it is closed"])
def test_a_thread_goes_on_when_nobody_answers(call: str, ends: str, run: str, how: str) -> None:
    with in_a_thread(call, run, waits="thread.join(); print(said.value)") as terminal:
        press(terminal, "Act")
        terminal.see("Note?")
        if how == "the dialog is left":
            terminal.type("\x1b")
            terminal.wait(lambda: "Note?" not in terminal.text())
        elif how == "it is closed":
            terminal.type(CTRL_C)
        terminal.type(CTRL_D * 2)
        terminal.end()
        assert ends in terminal.everything()
        assert terminal.modes() == terminal.initial


PRINTING_ON = """
import sys, threading, time
from wesperon import *

ends = threading.Event()

def work():
    number = 0
    while not ends.is_set():
        print(f"line {{number}}.")
        number += 1
        time.sleep(0.0002)
    print(f"{{number}} lines")

thread = threading.Thread(target=work)
def act():
    {act}
def begin():
    thread.start()
    said.show("begun")
said = Label("here")
screen = Screen(Down(said, Button("Act", act)))
screen.call_later(0, begin)
try:
    screen.run()
except BaseException as error:
    print("raised", type(error).__name__)
time.sleep(0.05)
ends.set()
thread.join()
"""


@pytest.mark.parametrize("seed", range(3))
@pytest.mark.parametrize(
    ("act", "keys"),
    [("screen.close()", ""), ("raise KeyboardInterrupt", ""), ("raise SystemExit(0)", ""), ("ask('Note?')", CTRL_C)],
)
def test_what_a_thread_prints_while_a_screen_ends_is_not_lost_with_it(act: str, keys: str, seed: int) -> None:
    with script(PRINTING_ON.format(act=act)) as terminal:
        terminal.see("begun")
        press(terminal, "Act")
        if keys:
            terminal.see("Note?")
            terminal.type(keys)
        terminal.end()
        after = terminal.received.rpartition(ALTERNATE_OFF.encode())[2].decode()
        count = int(re.findall(r"(\d+) lines", after)[0])
        assert sorted(map(int, re.findall(r"line (\d+)\.", after))) == [*range(count)]


TWO_THREADS = """
import threading
from wesperon import *

answers = []
ready = threading.Barrier(3)

def work(question):
    ready.wait()
    answers.append(ask(question))

threads = [threading.Thread(target=work, args=(question,)) for question in ("One?", "Other?", "Third?")]
screen = Screen(Label("here"))
screen.call_later(0.1, lambda: [thread.start() for thread in threads] and None)
screen.run()
for thread in threads:
    thread.join()
print("answers:", *sorted(answers))
"""


def test_several_threads_may_ask_at_once() -> None:
    with script(TWO_THREADS) as terminal:
        terminal.see("here")
        for number in range(3):
            terminal.wait(lambda: "?" in terminal.text(), "a question")
            terminal.quiet()
            asked = next(question for question in ("One?", "Other?", "Third?") if question in terminal.text())
            terminal.type(f"answer {number}" + ENTER)
            terminal.wait(lambda asked=asked: asked not in terminal.text(), "the next")  # type: ignore[misc]
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert "answers: answer 0 answer 1 answer 2" in terminal.everything()


@pytest.mark.parametrize("second", ["confirm('Two?')", "await confirm_async('Two?')"])
def test_who_asks_while_a_screen_waits_for_its_turn_asks_in_its_dialogs_then(second: str) -> None:
    source = f"""
import asyncio
from wesperon import *

said = Label("here")
screen = Screen(Down(said, Button("Go", lambda: screen.close("went"), default=True)))

async def main():
    task = asyncio.create_task(screen.run_async())
    first = await confirm_async("One?")
    said.show(f"got {{first, {second}}}")
    print("ended with", await task)

asyncio.run(main())
"""
    with script(source) as terminal:
        terminal.see("One?")
        terminal.type("y" + ENTER)
        terminal.see("Two?")
        assert "here" in terminal.text()
        terminal.type("n" + ENTER)
        terminal.see("got (True, False)")
        terminal.type(ENTER)
        terminal.see("ended with went")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


class Plan(Form):
    """What a task asks for."""

    note = slot(str, "Note")


WAYS: dict[str, Callable[[], Any]] = {
    "ask": lambda: ask_async("Note"),
    "confirm": lambda: confirm_async("Sure?"),
    "message": lambda: show_message_async("Hello"),
    "choose": lambda: choose_async("Which", ["a", "b"]),
    "file": choose_file_async,
    "form": lambda: Plan.fill_async([]),
    "form on a screen": lambda: Plan.fill_async([], layout="screen"),
    "screen": lambda: Screen(Label("inner")).run_async(),
    "page": lambda: page_async("a long text\n" * 100),
    "work": lambda: show_work_async("Stacking", lambda work: threading.Event().wait(0.1)),
}


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("begins", ["with it", "later"])
@pytest.mark.parametrize("ends", ["closed", "cancelled"])
def test_a_task_of_the_program_goes_on_when_the_screen_ends_over_its_question(way: str, begins: str, ends: str) -> None:
    """The screen has not begun it, and so does not end it either: nobody has answered."""

    def run() -> Any:
        screen = Screen(Label("here"), title="Desk")

        async def asks() -> Any:
            await asyncio.sleep(0.05 if begins == "later" else 0)
            try:
                return "went on", await WAYS[way]()
            except Problems:
                return "nobody answered"

        async def main() -> Any:
            work = [asyncio.create_task(screen.run_async()), asyncio.create_task(asks())]
            await asyncio.sleep(0.5)
            if ends == "closed":
                screen.close()
            else:
                work[0].cancel()
            return await asyncio.wait_for(asyncio.gather(*work, return_exceptions=True), 5)

        return asyncio.run(main())

    with Session(run) as session:
        end = time.monotonic() + 10
        while not session.stage.has_ended and time.monotonic() < end:
            time.sleep(0.02)
    _, other = session.result
    assert other == "nobody answered" or other[0] == "went on"


@pytest.mark.parametrize("is_async", [False, True])
def test_work_says_the_same_of_itself_over_a_screen_and_without_one(is_async: bool) -> None:
    def stack(work: Any) -> tuple[float, float | None, str]:
        work.add()
        work.add(2.5)
        work.set(7)
        work.total = 9
        work.label = "Stacking more"
        work.say("a \x1b\nframe")
        return work.count, work.total, work.label

    wanted = (7, 9, "Stacking more")

    async def over_a_screen() -> None:
        screen.close(await show_work_async("Stacking", stack, total=40))

    with Session(lambda: show_work("Stacking", stack, total=40)) as session:
        assert session.result == wanted
    assert "a ^[\nframe" in session.errors
    action = over_a_screen if is_async else lambda: screen.close(show_work("Stacking", stack, total=40))
    messages = MessageView()
    screen: Screen = Screen(Down(messages, Button("Stack", action)))
    with Session((lambda: asyncio.run(screen.run_async())) if is_async else screen.run) as session:
        session.choose("Stack")
        wait_for(lambda: not session.is_open)
    assert session.result == wanted
    assert messages.value[-2:] == ("a ^[", "frame")


def test_work_that_was_stopped_gives_nothing_whatever_it_says() -> None:
    stopped = threading.Event()
    said: list[str] = []

    def stack(work: Any) -> str:
        work.add()
        stopped.wait(10)
        calls = {"say": lambda: work.say("x"), "label": lambda: setattr(work, "label", "x"), "add": work.add}
        for name, call in calls.items():
            try:
                call()
            except BaseException:
                said.append(name)
        work.add()
        return "stacked"

    screen = Screen(Button("Stack", lambda: screen.close(show_work("Stacking", stack))))
    with Session(screen.run) as session:
        session.choose("Stack").see("Stop")
        session.press("enter")
        stopped.set()
        wait_for(lambda: not session.is_open)
    assert session.result is None
    assert said == ["say", "label", "add"]
