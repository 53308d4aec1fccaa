"""A screen of parts that change from a thread: ``screens.py HOW [SOURCE OF NOISE]...``; prints what came of it."""

from __future__ import annotations

import asyncio
import random
import sys
import threading
import time
from collections.abc import Callable

from campaign.programs import noise
from wesperon import (
    Across,
    Button,
    Down,
    Field,
    Form,
    Label,
    Listing,
    MenuEntry,
    MessageView,
    Pager,
    Problems,
    Program,
    Screen,
    Table,
    Tabs,
    Trend,
    any_of,
    ask,
    ask_async,
    choose,
    choose_async,
    confirm,
    one_of,
    page_async,
    show_message,
    show_work,
    slot,
)
from wesperon.screens.dialogs import DialogWork

TEXTS = ["frame", "dome \x1b[31mred", "漢字の名", "\x1b[2J", "seeing " * 30, "e\u0301👩‍👩‍👧", ""]
#: Set once the screen has ended.
ENDS = threading.Event()
NAMES = ["Lantern", "Thimble", "Wicker", "漢"]


class Plan(Form):
    """A form that is filled on one screen."""

    frames = slot(int, "Frames", low=1, section="How")
    target = slot(one_of(NAMES), "Target", section="What")
    note = slot(str, "Note", default=None, section="What")


def stack(work: DialogWork) -> None:
    """Do some work."""
    for _ in range(20):
        work.add()
        time.sleep(0.02)


def report(frames: int = 3, target: str = "Lantern") -> None:
    """Say what was taken."""
    print(f"{frames} of {target}")


def screen_of(*, is_async: bool = False) -> Screen:
    """Return a screen with some of everything, of which much changes all the time."""
    table = Table([[text, at, at * 0.5] for at, text in enumerate(TEXTS * 20)], ["text", "n", "half"], title="Queue")
    trend, said, messages = Trend(title="Wind", unit="m/s"), Label("waiting"), MessageView(title="Mast")
    fields = [Field(slot(int, "Frames", low=1), value=3), Field(slot(one_of(NAMES), "Target"))]
    fields += [Field(slot(any_of(NAMES), "Filters")), Field(slot(str, "Note", lines=True, low=0), value="")]
    buttons = [
        Button("Say", lambda: show_message("漢 " * 40)),
        Button("Ask", lambda: ask("How many?", int)),
        Button("Choose", lambda: choose("Which?", NAMES)),
        Button("Sure", lambda: confirm("Really?")),
        Button("Work", lambda: show_work("Stacking", stack, total=20)),
        Button("Fail", lambda: TEXTS[99]),
        Button("Print", lambda: print("printed")),
        Button("Plan", lambda: Plan.fill([], layout="screen")),
    ]
    if is_async:
        buttons.append(Button("Await", lambda: ask_async("How many now?", int)))
    screen = Screen(
        Down(
            Across(Down(*fields), Tabs(table, Pager("\n".join(TEXTS * 30), title="Log")), divided=True),
            Across(trend, Listing(NAMES, several=True), messages),
            said,
            Across(*buttons),
        ),
        title="Desk",
        menus=[
            Program("night", members=[report]),
            {"Dome": [MenuEntry("Open", lambda: None), {"Lamps": [MenuEntry("Red", lambda: said.show("red"))]}]},
        ],
    )

    def change() -> None:
        chance = random.Random(1)
        while True:
            time.sleep(chance.random() / 20)
            trend.show(chance.random() * 20)
            said.show(chance.choice(TEXTS))
            messages.show(chance.choice(TEXTS))

    def wonder() -> None:
        chance = random.Random(2)
        while not ENDS.wait(chance.random() * 2):
            try:
                messages.show(f"told {asked(chance)}")
            except Problems:
                messages.show("told nothing")

    for work in (change, wonder):
        screen.call_later(0, threading.Thread(target=work, daemon=True).start)
    return screen


def asked(chance: random.Random) -> object:
    """Return what a thread is told."""
    ways: list[Callable[[], object]] = [
        lambda: ask("Who is there?"),
        lambda: ask("How many more?", int),
        lambda: confirm("Go on?"),
        lambda: choose("Which of them?", NAMES, several=True),
        lambda: show_message("The mast is up.", buttons=["Good", "Bad"]),
    ]
    return chance.choice(ways)()


async def beside() -> object:
    """Show it in an event loop, in which another task asks as well."""
    screen = screen_of(is_async=True)

    async def wonder() -> None:
        chance = random.Random(3)
        while True:
            await asyncio.sleep(chance.random() * 2)
            try:
                if chance.random() < 0.5:
                    await page_async(TEXTS * 20)
                else:
                    await choose_async("Which now?", NAMES)
            except Problems:
                pass

    task = asyncio.create_task(wonder())
    try:
        return await screen.run_async()
    finally:
        task.cancel()


def main() -> None:
    """Show it."""
    how, *names = sys.argv[1:]
    noise.begin(names)
    result: object
    if how == "form":
        result = Plan.fill([], layout="screen")
    elif how == "async":
        result = asyncio.run(beside())
    else:
        result = screen_of().run()
    ENDS.set()
    print(f"got {result!a}"[:200], flush=True)


if __name__ == "__main__":
    noise.tidy(main)
