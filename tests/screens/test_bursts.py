"""What is typed in one burst means the same as key by key, whatever the keys open: each reaches what is open by then.

The law: random keys, cut into bursts at random places, leave the same screen, and what was answered is the same, as
when they come one at a time. The keys open dialogs and questions of every sort, by functions that wait and by tasks.

Modules: ``terminal.bursts``, ``terminal.driver``, ``terminal.inbox``.
"""

from __future__ import annotations

import asyncio
import random
import time
from collections.abc import Callable
from datetime import date
from types import SimpleNamespace
from typing import Any

import pytest

from tests.harness import ENTER
from tests.screens.test_on_a_terminal import script
from tests.terminal.test_tty_driver import driver_on
from wesperon import (
    Across,
    Button,
    Column,
    Complaint,
    Down,
    Field,
    Form,
    Listing,
    Pager,
    Program,
    Screen,
    Table,
    Tabs,
    any_of,
    ask,
    ask_async,
    choose,
    choose_async,
    confirm,
    confirm_async,
    one_of,
    show_message,
    show_message_async,
    slot,
)
from wesperon.editing.keys.events import Key, Mouse
from wesperon.terminal.alarm import Alarm
from wesperon.terminal.scripted import key_named
from wesperon.testing import Session

#: Keys that answer, leave, move and type; those with Alt open something.
ANSWERS = ["enter", "enter", "enter", "tab", "shift-tab", "up", "down", "escape", "backspace", "a", "b", "y", "n", "2"]
OPENERS = [f"alt-{letter}" for letter in "qcmopfst"]


class Plan(Form):
    """What is filled in a dialog."""

    frames = slot(int, "Frames", low=1)
    note = slot(str, "Note", default="dry")


def doubted(text: str) -> None:
    """Ask once more: a check that asks."""
    if text.startswith("b") and not confirm("Really?"):
        raise Complaint("something else")


def desk(is_async: bool) -> Callable[[], Any]:
    """Return a program that shows a screen whose buttons ask, and gives what was answered."""

    def run() -> Any:
        got: list[Any] = []

        def inner() -> Screen:
            note = Field(slot(str, "Inside"))
            inside = Screen(Down(note, Button("Well", lambda: inside.close(note.value), default=True)))
            return inside

        waits: dict[str, Callable[[], Any]] = {
            "Question": lambda: got.append(ask("Note")),
            "Confirm": lambda: got.append(confirm("Sure?")),
            "Message": lambda: got.append(show_message("Hello", buttons=["Abc", "Bcd"])),
            "Options": lambda: got.append(choose("Which", ["ab", "ba", "bb"])),
            "Plan": lambda: got.append(Plan.fill([])),
            "Form": lambda: got.append(Plan.fill([], layout="screen")),
            "Screen": lambda: got.append(inner().run()),
            "Twice": lambda: got.extend([ask("First"), ask("Second")]),
        }

        async def question() -> None:
            got.append(await ask_async("Note"))

        async def sure() -> None:
            got.append(await confirm_async("Sure?"))

        async def message() -> None:
            got.append(await show_message_async("Hello", buttons=["Abc", "Bcd"]))

        async def options() -> None:
            got.append(await choose_async("Which", ["ab", "ba", "bb"]))

        async def plan() -> None:
            got.append(await Plan.fill_async([]))

        async def form() -> None:
            got.append(await Plan.fill_async([], layout="screen"))

        async def within() -> None:
            got.append(await inner().run_async())

        async def twice() -> None:
            got.append(await ask_async("First"))
            got.append(await ask_async("Second"))

        tasks = [question, sure, message, options, plan, form, within, twice]
        actions = dict(zip(waits, tasks, strict=True)) if is_async else waits
        text = Field(slot(str, "Text", check=doubted))
        screen = Screen(Down(text, *(Button(label, action) for label, action in actions.items())))
        try:
            result = asyncio.run(screen.run_async()) if is_async else screen.run()
        except KeyboardInterrupt:
            result = "stopped"
        return result, got

    return run


def played(program: Callable[[], Any], bursts: list[list[str]]) -> tuple[str, str, Any]:
    """Return the screen that bursts of keys lead to, what has the focus by then, and what the program gave back."""
    with Session(program, rows=30) as session:
        for burst in bursts:
            if session.stage.has_ended:
                break
            session.press(*burst)
        shown, focus = session.screen, session.focus
    return shown, focus, session.result


def cut(keys: list[str], chance: random.Random) -> list[list[str]]:
    """Return the keys cut at random places."""
    bursts: list[list[str]] = []
    while keys:
        count = chance.randint(1, 8)
        bursts.append(keys[:count])
        keys = keys[count:]
    return bursts


@pytest.mark.parametrize("is_async", [False, True])
@pytest.mark.parametrize("seed", range(20))
def test_keys_in_one_burst_mean_what_they_mean_one_by_one(seed: int, is_async: bool) -> None:
    chance = random.Random(seed)
    keys = [chance.choice(OPENERS if chance.random() < 0.2 else ANSWERS) for _ in range(30)]
    assert played(desk(is_async), cut(keys, chance)) == played(desk(is_async), [[key] for key in keys])


#: Keys for a screen of all parts: they move the focus by places, which change with what is shown.
MOVES = [
    "enter", "enter", "tab", "tab", "shift-tab", "up", "down", "left", "right", "escape", "backspace", "a", "b", " ",
    "2", "/", "home", "end", "page-up", "page-down", "delete", "f1", "f10", "ctrl-left", "ctrl-right", "ctrl-up",
    "ctrl-down", "alt-a", "alt-d", "alt-k", "alt-m", "alt-n", "alt-o", "alt-s", "alt-left", "alt-right",
]  # fmt: skip


def all_parts() -> Any:
    got: list[Any] = []

    def weigh(frames: int, note: str = "dry") -> None:
        got.append((frames, note))

    rows = [{"mast": "east", "note": "calm"}, {"mast": "west", "note": "gusts"}]
    table = Table(rows, [Column("mast"), Column("note", slot=slot(str, "Note"))], title="Masts", cells=True)
    kind, frames = Field(slot(one_of(["dark", "flat"]), "Kind")), Field(slot(int, "Frames", low=1))
    tabs = Tabs(
        Down(kind, frames, title="One"),
        Down(Field(slot(date, "Day")), Field(slot(any_of(["red", "green"]), "Filters")), title="Two"),
        Down(Field(slot(bool, "Dim")), Button("Ominous", lambda: got.append("pressed unseen?")), title="Three"),
    )
    stars = Listing([f"HOLLIN-{number:03}" for number in range(9)], title="Stars")
    send = Button("Send", lambda: got.append((kind.value, frames.value)))
    name = Button("Name", lambda: got.append(ask("Name")))
    content = Across(Down(table, tabs, weight=2), Down(stars, send, name))
    try:
        return Screen(content, title="Desk", menus=Program("night", members=[weigh])).run(), got
    except KeyboardInterrupt:
        return "stopped", got


@pytest.mark.parametrize("seed", range(40))
def test_the_focus_moves_in_a_burst_as_key_by_key(seed: int) -> None:
    chance = random.Random(seed)
    keys = [chance.choice(MOVES) for _ in range(30)]
    assert played(all_parts, cut(keys, chance)) == played(all_parts, [[key] for key in keys])


def long_lists() -> Any:
    """Run a screen of lists with more rows than are in sight."""
    places = [f"HOLLIN-{number:03}" for number in range(60)]
    parts = [
        Listing(places, title="Places", size=7),
        Table([[place, number] for number, place in enumerate(places)], ["place", "number"], title="Queue", size=6),
        Pager("\n".join(places), title="Log", size=6),
    ]
    return Screen(Down(*parts)).run()


SCROLLS = [
    *("up", "down", "up", "down", "page-up", "page-down", "page-down", "home", "end", "1", "0", "tab", "space"),
    *("backspace", "escape", "ctrl-home", "ctrl-end", "shift-tab"),
]


@pytest.mark.parametrize("seed", range(30))
def test_a_burst_scrolls_as_far_as_its_keys_one_by_one(seed: int) -> None:
    chance = random.Random(seed)
    keys = [chance.choice(SCROLLS) for _ in range(40)]
    assert played(long_lists, cut(keys, chance)) == played(long_lists, [[key] for key in keys])


def test_a_burst_on_a_terminal_goes_to_the_dialog_that_its_first_key_opens() -> None:
    source = """
from wesperon import *
said, text = Label(""), Field(slot(str, "Text"))
screen = Screen(Down(text, said, Button("Question", lambda: said.show(f"got {ask('Note')}")),
                     Button("Done", lambda: screen.close((text.value, said.value)))))
print("ended with", screen.run())
"""
    with script(source) as terminal:
        terminal.see("Done")
        terminal.type(f"one\x1bqhello{ENTER}\x1bo")
        terminal.see("ended with ('one', 'got hello')")
        assert terminal.end() == 0


def test_clicks_made_before_a_dialog_has_opened_are_not_for_it() -> None:
    """Nobody has seen the dialog by then; what lies under the mouse in it may do harm."""

    got: list[Any] = []

    def run() -> Any:
        return Screen(Button("Question", lambda: got.append(show_message("Sure?", buttons=["Erase", "Keep"])))).run()

    with Session(run) as session:
        lines = session.press("enter").screen.split("\n")
        row = next(at for at, line in enumerate(lines) if "Erase" in line)
        column = lines[row].index("Erase")
        click = [Mouse("left", action, row, column) for action in ("press", "release")]
        session.stage.put([Key("escape"), Key("enter"), *click], 10)
        assert "Sure?" in session.screen
        session.stage.put([*click], 10)
        assert got == ["Keep", "Erase"]


def test_a_click_made_before_a_dialog_has_opened_hits_what_was_to_be_seen() -> None:
    """Neither the dialog, which nobody has seen, nor what is behind it by then."""
    pressed: list[str] = []
    table = Table([["east", "calm"]], ["mast", Column("note", slot=slot(str, "Note"))])
    row = Down(*[Button(f"Press {number}", lambda: pressed.append("behind")) for number in range(20)])
    with Session(Screen(Across(table, row)).run) as session:
        lines = session.screen.split("\n")
        beside = next((at, line.index("Press 0")) for at, line in enumerate(lines) if "Press 0" in line)
        session.press("right", "enter")
        lines = session.screen.split("\n")
        at = next(at for at, line in enumerate(lines) if "Change" in line)
        column = lines[at].index("Change")
        session.press("escape")
        session.stage.put([Key("enter"), Mouse("left", "press", at, column), Mouse("left", "release", at, column)], 10)
        session.press("escape")
        session.stage.put([Key("enter"), Mouse("left", "press", *beside), Mouse("left", "release", *beside)], 10)
        assert "Change" in session.screen
        assert not pressed
        session.stage.put([Mouse("left", "press", at, column), Mouse("left", "release", at, column)], 10)
        assert "Change" not in session.screen
    assert not pressed


@pytest.mark.parametrize("disturbs", ["call_later(1000, print)", "call_later(0, lambda: None)", "close_dialog()"])
def test_what_is_to_be_called_later_is_though_others_wake_the_screen_all_the_time(disturbs: str) -> None:
    source = f"""
import threading
from wesperon import *
screen = Screen(Label("here"))

def disturb():
    while not ended:
        screen.{disturbs}

ended = []
screen.call_later(0.5, lambda: screen.close("well"))
thread = threading.Thread(target=disturb)
thread.start()
print("ended with", screen.run())
ended.append(1)
thread.join()
"""
    with script(source) as terminal:
        terminal.see("ended with well")
        assert terminal.end() == 0


def test_what_was_to_be_called_before_a_key_came_is_called_before_it() -> None:
    got: list[str] = []
    screen = Screen(Button("Act", lambda: got.append("key")))
    now = [10.0]
    clock = SimpleNamespace(time=time.time, monotonic=lambda: now[0])
    with Session(screen.run, clock=clock) as session:
        screen.call_later(5, lambda: got.append("timer"))
        session.press("enter", "enter")
        with session.stage.turn:  # both at once: neither is seen before the other
            now[0] = 20
            session.stage.coming.append(Key("enter"))
            session.stage.turn.notify_all()
        assert session.screen
        assert got == ["key", "key", "timer", "key"]


def test_an_alarm_is_heard_though_nothing_but_others_wake_the_screen() -> None:
    driver, _ = driver_on([])
    woken: Any = SimpleNamespace(wakes_at=0.0)
    driver.woken = woken
    assert driver.collect(False, True) == [Alarm()]
    woken.wakes_at = driver.clock.monotonic() + 1000
    assert driver.collect(False, True) == []


def test_arrows_move_in_a_dialog_that_the_same_burst_has_opened() -> None:
    for bursts in ([["right", "enter", "down"]], [["right"], ["enter"], ["down"]]):
        _, focus, _ = played(all_parts, bursts)
        assert focus == "Change"


def test_what_was_typed_in_the_burst_that_opened_a_question_is_among_the_saved_answers() -> None:
    class Night(Form):
        frames = slot(int, "Frames")
        target = slot(str, "Target")

    with Session(Screen(Button("Plan", lambda: Night.fill([]))).run) as session:
        session.press("enter", "5", "enter", "L").see("Target  L")
        session.press("escape", "enter").see("Resume?")
        assert "Frames, Target" in session.screen


PAIRS: Any = dict[str, str]
MANY = [f"frame {number:02}" for number in range(60)]
#: Questions of many choices, and of rows, each of which scrolls.
SCROLLED: dict[str, Callable[[], Any]] = {
    "one": lambda: slot(one_of(MANY), "Frame"),
    "any": lambda: slot(any_of(MANY), "Frame"),
    "suggested": lambda: slot(str, "Frame", suggest=MANY),
    "lines": lambda: slot(str, "Frame", lines=True),
    "rows": lambda: slot(list[str], "Frame"),
    "pairs": lambda: slot(PAIRS, "Frame"),
    "date": lambda: slot(date, "Frame"),
}
SCROLLING = [
    *["down"] * 6, *["up"] * 3, "page-down", "page-up", "home", "end", " ", "enter", "escape", "a", "i", "1",
    "backspace", "tab", "shift-tab", "alt-down", "left", "right", "alt-enter",
]  # fmt: skip


@pytest.mark.parametrize("family", ["modeless", "modal"])
@pytest.mark.parametrize("seed", range(50))
def test_what_is_let_down_scrolls_in_a_burst_as_key_by_key(seed: int, family: str) -> None:
    chance = random.Random(seed)
    kind, rows = chance.choice(sorted(SCROLLED)), chance.choice([8, 12, 24])
    keys = [chance.choice(SCROLLING) for _ in range(chance.randint(1, 30))]
    if seed % 3 == 0:  # more of what scrolls most
        kind, keys = chance.choice(["one", "any"]), ["down", *[chance.choice(SCROLLING[:13]) for _ in keys]]
    seen = []
    for bursts in ([keys], [[key] for key in keys]):
        field, other = Field(SCROLLED[kind]()), Field(slot(str, "Other"))
        screen = Screen(Down(field, other))
        with Session(screen.run, columns=50, rows=rows, environment={"WESPERON_KEYS": family}) as session:
            for burst in bursts:
                if session.is_open:
                    session.stage.put([key_named("space" if key == " " else key) for key in burst], 10)
            seen.append((session.screen, session.cursor, field.value, other.value))
            if session.is_open:
                session.press("ctrl-c")
    assert seen[0] == seen[1]
