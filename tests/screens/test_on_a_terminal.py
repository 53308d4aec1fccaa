"""Screens on a terminal: it comes back as it was on every way out, and shows what other threads have, in time.

Modules: ``screens.screen``, ``screens.running``, ``screens.as_form``, ``screen.full_screen``, ``terminal.tty_events``.
"""

from __future__ import annotations

import os
import re
import signal
import sys
import textwrap
import time
from pathlib import Path

import pytest

from tests.harness import CTRL_C, CTRL_D, ENTER, RIGHT, Terminal, python

DESK = """
import sys, threading, time
from wesperon import *

frames = Field(slot(int, "Frames", low=1), value=12)
note = Field(slot(str, "Note", low=0), value="")
said = Label("waiting")
messages = MessageView(title="Mast")
screen = Screen(
    Down(
        Across(Down(frames, note), Table([(f"HOLLIN-{n:03}", n) for n in range(100)], ["target", "n"], title="Queue")),
        said,
        messages,
        Across(
            Button("Expose", lambda: screen.close(frames.value), default=True),
            Button("Fail", lambda: [][1]),
            Button("Print", lambda: print("printed")),
            Button("Message", lambda: show_message("The dome is open.")),
            Button("Block", lambda: time.sleep(60)),
        ),
    ),
    title="Desk",
)
"""
RUN = (
    DESK
    + """
print("before")
print("result", screen.run())
"""
)


def script(text: str, **options: object) -> Terminal:
    """Return a terminal in which a script runs."""
    return Terminal(python("-c", textwrap.dedent(text)), **options)  # type: ignore[arg-type]


def press(terminal: Terminal, label: str) -> None:
    """Press the letter of a label, which is underlined, with Alt."""
    terminal.see(label)
    for number, row in enumerate(terminal.lines()):
        at = row.find(label)
        if at >= 0:
            cells = terminal.screen.buffer[number]
            letter = next(cells[column].data for column in range(at, at + len(label)) if cells[column].underscore)
            terminal.type(f"\x1b{letter.lower()}")
            return


def test_a_screen_is_used_by_keys_and_gone_when_it_is_closed() -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        assert "before" not in terminal.text()
        terminal.type("\x7f\x7f34" + ENTER)
        terminal.type("gusts" + ENTER)
        terminal.see("gusts")
        press(terminal, "Expose")
        terminal.see("result 34")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
        assert terminal.lines()[:2] == ["before", "result 34"]


ENDS = [signal.SIGTERM, signal.SIGHUP, signal.SIGINT, signal.SIGUSR1]


@pytest.mark.parametrize("end", ENDS)
@pytest.mark.parametrize("where", ["screen", "dialog"])
def test_a_signal_leaves_the_terminal_as_it_was(end: signal.Signals, where: str) -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        if where == "dialog":
            press(terminal, "Message")
            terminal.see("The dome is open.")
        os.kill(terminal.process.pid, end)
        terminal.end()
        assert terminal.modes() == terminal.initial
        assert "HOLLIN" not in terminal.text()
        assert terminal.lines()[0] == "before"


@pytest.mark.parametrize(("keys", "status", "shown"), [(CTRL_D, 0, "result None"), (CTRL_C, -signal.SIGINT, "before")])
def test_ctrl_d_gives_none_and_ctrl_c_ends_the_process(keys: str, status: int, shown: str) -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        terminal.type("\t\t" + keys)
        assert terminal.end() == status
        assert terminal.modes() == terminal.initial
        assert shown in terminal.text()


def test_an_error_that_ends_the_screen_is_raised_on_the_main_screen() -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        press(terminal, "Fail")
        terminal.see("IndexError")
        terminal.type("\t\t" + ENTER)
        assert terminal.end() == 1
        assert terminal.modes() == terminal.initial
        assert "IndexError" in terminal.text()
        assert "Traceback" in terminal.text()


def test_what_is_printed_is_among_the_messages_and_written_once_the_screen_is_left() -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        press(terminal, "Print")
        terminal.see("printed")
        terminal.type(CTRL_D)
        terminal.see("result None")
        assert terminal.end() == 0
        assert "printed" in terminal.lines()


@pytest.mark.parametrize("leaves", ["\x07", ENTER])
def test_the_page_of_preferences_over_a_screen_gives_it_back(leaves: str) -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        terminal.quiet()
        shown = terminal.lines()
        terminal.type("\x18p")
        terminal.see("the family of keys")
        assert "HOLLIN-003" not in terminal.text()
        terminal.type(leaves)
        terminal.wait(lambda: terminal.lines() == shown)
        terminal.type(CTRL_D)
        terminal.see("result None")
        assert terminal.end() == 0
        assert terminal.lines()[:2] == ["before", "result None"]
        assert terminal.modes() == terminal.initial


def test_letters_are_commands_in_a_field_in_the_modal_family() -> None:
    with script(RUN, columns=100, env={"WESPERON_KEYS": "modal"}) as terminal:
        terminal.see("HOLLIN-003")
        terminal.type("5\x1b")
        terminal.see("command mode")
        terminal.type("x")
        terminal.type("i7" + "\t")
        terminal.see("Frames  7")
        terminal.type("\x1b")
        press(terminal, "Expose")
        terminal.see("result 7")
        assert terminal.end() == 0


def test_a_function_that_blocks_is_seen_and_ctrl_c_gets_through() -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        press(terminal, "Block")
        terminal.see("Ctrl-C: stop that")
        terminal.type(CTRL_C)
        terminal.wait(lambda: "Ctrl-C: stop that" not in terminal.text())
        press(terminal, "Expose")
        terminal.see("result 12")
        assert terminal.end() == 0


def test_a_thread_that_shows_all_the_time_gets_thirty_frames_a_second_and_no_more() -> None:
    program = (
        DESK
        + """
def count():
    number = 0
    end = time.monotonic() + 2
    while time.monotonic() < end:
        number += 1
        said.show(f"number {number}")
    said.show("counted")

screen.call_later(0.2, threading.Thread(target=count, daemon=True).start)
screen.run()
"""
    )
    with script(program, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        begun = len(terminal.received)
        terminal.see("counted")
        frames = len(re.findall(rb"\x1b\[\d*B", terminal.received[begun:]))  # the cursor goes down and back in each
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert 5 < frames < 2 * 30 + 10


def test_a_screen_is_drawn_again_after_each_size() -> None:
    with script(RUN, columns=100) as terminal:
        terminal.see("HOLLIN-003")
        for columns, rows in ((60, 20), (20, 6), (120, 40), (100, 24)):
            terminal.resize(columns, rows)
            terminal.wait(lambda: terminal.text().startswith("Desk ─"))
            terminal.quiet()
        terminal.see("[ Expose ]")
        terminal.type(CTRL_D)
        assert terminal.end() == 0


def test_stop_and_continue_bring_the_screen_back() -> None:
    with Terminal(["bash", "--norc", "-i"], columns=100, env={"PS1": "ready> "}) as terminal:
        terminal.see("ready>")
        path = f"/tmp/desk-{os.getpid()}.py"
        with open(path, "w") as file:
            file.write(RUN)
        terminal.type(f"{sys.executable} {path}\r")
        terminal.see("HOLLIN-003")
        terminal.type("\x1a")
        terminal.see("Stopped")
        assert "HOLLIN" not in terminal.text()
        terminal.type("fg\r")
        terminal.see("HOLLIN-003")
        press(terminal, "Expose")
        terminal.see("result 12")
        terminal.type("exit\r")
        terminal.end()
        os.unlink(path)


def test_a_child_has_the_terminal_while_the_screen_is_aside() -> None:
    program = """
        import subprocess
        from wesperon import *

        def edit():
            with screen.aside():
                subprocess.run(["sh", "-c", "echo in the shell; read answer; echo got $answer"])

        screen = Screen(Down(Label("the desk"), Button("Shell", edit)))
        screen.run()
    """
    with script(program) as terminal:
        terminal.see("the desk")
        terminal.type(ENTER)
        terminal.see("in the shell")
        assert terminal.is_echoing()
        terminal.type("yes\r")
        terminal.see("the desk")
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert "got yes" in terminal.text()
        assert terminal.modes() == terminal.initial


def test_on_a_terminal_that_cannot_move_its_cursor_a_screen_is_asked_as_questions() -> None:
    with script(RUN, columns=100, env={"TERM": "dumb"}) as terminal:
        terminal.see("Frames (")
        terminal.type("40\r")
        terminal.see("Note")
        terminal.type("\r")
        terminal.see("HOLLIN-099")
        terminal.see("What next?")
        terminal.type("Expose\r")
        terminal.see("result 40")
        assert terminal.end() == 0


HOSTILE = """
from wesperon import *
bad = "a\\x1b[2J\\x07b\\x9bc"
said = Label(bad, title=bad)
def act():
    said.show(bad + "!")
    print(show_message(bad, title=bad, buttons=[bad]) and "said")
    screen.close(bad and "left")
screen = Screen(
    Down(
        said, Table([[bad, bad]], [bad, "n"], title=bad), Listing([bad, "x"], title=bad), Meter(bad, total=3, unit=bad),
        Trend([1], unit=bad, title=bad), Field(slot(str, bad), value="x"), Field(slot(one_of([bad, "y"]), "T")),
        Tabs(Label(bad, title=bad), Label("x", title="y")), Button(bad, act), title=bad,
    ),
    title=bad, menus={bad: [MenuEntry(bad, keys=bad, off=bad)]},
)
print("result", screen.run())
"""


@pytest.mark.parametrize("term", ["xterm-256color", "dumb"])
def test_no_control_character_of_the_program_s_texts_reaches_the_terminal(term: str) -> None:
    with script(HOSTILE, columns=100, rows=40, env={"TERM": term}) as terminal:
        if term == "dumb":
            for line in ("\r", "\r", "y\r"):  # the list, the text, one of two
                terminal.type(line)
            terminal.see("What next?")
            terminal.type("1\r")
        else:
            terminal.see("^[[2J")
            terminal.type("\x1b[21~\x1b[B")  # F10, and down
            terminal.see("not now")
            for left in ("not now", "Escape: back"):
                terminal.type("\x1b")
                terminal.wait(lambda left=left: left not in terminal.text())  # type: ignore[misc]
            while "press" not in terminal.text():
                terminal.type("\t")
                terminal.quiet()
            terminal.type(ENTER)
            terminal.see("press")
            terminal.type(ENTER)
        terminal.see("result left")
        assert terminal.end() == 0
        assert b"\x1b[2J\x07" not in terminal.received
        assert b"\x07" not in terminal.received
        assert b"\x9bc" not in terminal.received.replace("\u06db".encode(), b"")


def test_a_screen_of_another_thread_waits_until_this_one_has_ended() -> None:
    program = (
        DESK
        + """
def later():
    many = Field(slot(int, "How many?"))
    other = Screen(Down(many, Button("Take", lambda: other.close(many.value), default=True)))
    print("answer", other.run())

thread = threading.Thread(target=later)
screen.call_later(0.1, lambda: (thread.start(), said.show("begun")) and None)
print("result", screen.run())
thread.join()
"""
    )
    with script(program, columns=100) as terminal:
        terminal.see("begun")
        press(terminal, "Expose")
        terminal.see("How many?")
        terminal.type("7\r")
        terminal.see("answer 7")
        assert terminal.end() == 0


DIALOGS = """
import time
from wesperon import Button, Screen, show_message
def act():
    show_message("first")
    time.sleep(1.5)
    show_message("second")
    screen.close("acted")
screen = Screen(Button("Act", act))
print("ended with", screen.run())
"""


def test_a_dialog_that_an_action_has_opened_is_not_said_to_take_its_time() -> None:
    with script(DIALOGS) as terminal:
        press(terminal, "Act")
        terminal.see("first")
        terminal.wait(lambda: not terminal.read(0.8), "silence")
        assert "at work" not in terminal.text()
        terminal.see("Enter: press")
        terminal.type(ENTER)
        terminal.see("at work")  # nothing is open, and the action goes on
        terminal.see("second")
        terminal.wait(lambda: "at work" not in terminal.text(), "the foot of the dialog")
        terminal.wait(lambda: not terminal.read(0.8), "silence")
        assert "at work" not in terminal.text()
        terminal.type(ENTER)
        terminal.see("ended with acted")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


COMMANDS = """
from wesperon import Label, Program, Screen
def report(frames: int) -> None:
    "Say what was taken."
    print("taken:", frames)
    print("the wind is steady")
print("ended with", Screen(Label("nothing shows messages here"), menus=Program("night", members=[report])).run())
"""


def test_what_a_command_of_a_menu_prints_is_shown_where_no_part_shows_messages() -> None:
    with script(COMMANDS) as terminal:
        terminal.see("nothing shows messages here")
        terminal.type("\x1b[21~" + ENTER)  # F10, and the first entry
        terminal.wait(lambda: "Report" in terminal.text(), "the menu")
        terminal.type(ENTER)
        terminal.see("frames")
        terminal.type("12" + ENTER)
        terminal.see("taken: 12")
        terminal.see("the wind is steady")
        terminal.see("OK")
        terminal.type(ENTER)
        terminal.wait(lambda: "taken" not in terminal.text(), "the screen below")
        terminal.type(CTRL_D)
        terminal.see("ended with None")
        assert terminal.end() == 0
        assert terminal.lines()[:2] == ["taken: 12", "the wind is steady"]


#: What an action may ask by: the call, what is seen then, and the keys that answer it.
ASKED_BY = {
    "page(['Note'] * 50)": ("Note", "q"),
    "ask('Note')": ("Note", "clear" + ENTER),
    "confirm('Really?')": ("Really?", "y" + ENTER),
    "fill(note=slot(str, 'Note')).note": ("Note", "clear" + ENTER),
    "Plan.fill([]).note": ("Note", "clear" + ENTER),
    "Plan.fill([], layout='screen').note": ("Note", "clear\t" + ENTER),
    "Plan.fill([], timeout=30).note": ("Note", "clear" + ENTER),
    "choose('Which', ['open', 'closed'])": ("closed", ENTER),
    "show_message('The dome is open.')": ("The dome is open.", ENTER),
    "Program('night', members=[report]).call(['report'])": ("note", "clear" + ENTER),
    "Screen(Button('Inner', lambda: inner.close_dialog())).run()": ("Inner", "\x1b"),
    "Guide(guide).walk()": ("Is it open?", "y" + ENTER),
    "choose_file(start=guide.parent)": ("dome.toml", "dome" + ENTER),
    "show_work('Cooling', lambda work: [__import__('time').sleep(0.1) for _ in range(12)])": ("Cooling", ""),
    "Console(Program('night', members=[report]), history=False).run()": ("Enter: run", "report clear" + ENTER + CTRL_D),
}
ASKING_DESK = """
import tempfile
from pathlib import Path
from wesperon import *
guide = Path(tempfile.mkdtemp()) / "dome.toml"
guide.write_text('[steps.a]\\nask = "Is it open?"\\nkind = "boolean"\\nnext = "b"\\n[steps.b]\\nends = true\\n')
class Plan(Form):
    note = slot(str, "Note")
def report(note: str) -> None:
    "Say it."
said = Label("nothing yet")
times = []
def act():
    {call}
    times.append(1)
    said.show(f"asked {{len(times)}} times")
screen = Screen(Down(Button("Act", act), said, Button("Done", lambda: screen.close("well"))), title="Desk")
print("ended with", screen.run())
"""


#: The same in coroutines.
AWAITED = {
    "await page_async(['Note'] * 50)": ("Note", "q"),
    "await ask_async('Note')": ("Note", "clear" + ENTER),
    "await confirm_async('Really?')": ("Really?", "y" + ENTER),
    "await Plan.fill_async([])": ("Note", "clear" + ENTER),
    "await Plan.fill_async([], layout='screen')": ("Note", "clear" + ENTER),
    "await Program('night', members=[report]).call_async(['report'])": ("note", "clear" + ENTER),
}


@pytest.mark.parametrize("call", AWAITED)
def test_so_does_one_in_an_event_loop(call: str) -> None:
    program = ASKING_DESK.format(call=call).replace("def act", "async def act")
    program = program.replace("screen.run()", "__import__('asyncio').run(screen.run_async())")
    goes_on_after(program, *AWAITED[call])


@pytest.mark.parametrize("call", ASKED_BY)
def test_a_screen_goes_on_whatever_its_actions_ask_by(call: str) -> None:
    goes_on_after(ASKING_DESK.format(call=call), *ASKED_BY[call])


def goes_on_after(program: str, seen: str, keys: str) -> None:
    """Let an action ask twice, and close the screen."""
    with script(program) as terminal:
        press(terminal, "Act")
        for times in (1, 2):
            terminal.see(seen)
            terminal.wait(lambda: not terminal.read(0.1), "silence")
            terminal.type(keys)
            terminal.see(f"asked {times} times")
            terminal.see("Desk")
            if times == 1:
                press(terminal, "Act")
        press(terminal, "Done")
        terminal.see("ended with well")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


TABBED = """
from wesperon import *

first, second = Field(slot(str), label="first"), Field(slot(str), label="second")
third = Field(slot(str), label="third")
done = Button("Done", lambda: screen.close([first.value, second.value, third.value]), default=True)
screen = Screen(Down(Tabs(Down(first, title="Plan"), Tabs(Down(second, title="Dome"), title="More")), third, done))
print("got", screen.run())
"""


def test_in_plain_lines_fields_of_every_tab_are_asked_for() -> None:
    with script(TABBED, env={"TERM": "dumb"}) as terminal:
        for label in ("first", "second", "third"):
            terminal.see(f"{label}:")
            terminal.type(label + "!" + ENTER)
        terminal.see("What next?")
        terminal.type(ENTER)
        terminal.see("got ['first!', 'second!', 'third!']")
        assert terminal.end() == 0


PRINTING = """
import threading, time
from wesperon import *

def act():
    for number in range(3):
        print("from the action", number)

def watch():
    for number in range(40):
        print("from the thread", number)
        time.sleep(0.005)

watching = threading.Thread(target=watch)
screen = Screen(Down(Label("x"), Button("Act", act), Button("Done", lambda: (watching.join(), screen.close()))))
screen.call_later(0, watching.start)
screen.run()
print("ended")
"""


def test_what_is_printed_behind_a_screen_is_there_once_and_in_order() -> None:
    with script(PRINTING, history=100) as terminal:
        press(terminal, "Act")
        press(terminal, "Done")
        assert terminal.end() == 0
        shown = terminal.everything().split("\n")
        for source, count in (("action", 3), ("thread", 40)):
            assert [line for line in shown if source in line] == [f"from the {source} {at}" for at in range(count)]
        assert shown[-1] == "ended"


MOVING = """
import asyncio, time
from wesperon import *

class Plan(Form):
    frames = slot(int, "Frames")
    note = slot(str, "Note")

def report(note: str):
    print("noted", note)

async def fill():
    said.show("got " + (await Plan.fill_async([], layout="screen")).note)

async def inner():
    note = Field(slot(str, "Note"))
    inside = Screen(Down(note, Button("Accept", lambda: inside.close(note.value), default=True)), title="Inside")
    said.show(f"got {{await inside.run_async()}}")

async def message():
    said.show("got " + await show_message_async("The note is lost.", buttons=["clear", "dry"]))

async def choice():
    said.show("got " + await choose_async("Note", ["dry", "clear"]))

async def path():
    said.show(f"got {{(await choose_file_async(start={folder!r})).name}}")

async def made():
    said.show(f"got {{(await choose_file_async(start={folder!r}, folder=True)).name}}")

async def work():
    def count(work):
        while True:
            work.add()
            time.sleep(0.01)
    await show_work_async("Counting", count)
    said.show("got nothing")

async def several():
    first, second = await asyncio.gather(Plan.fill_async([], layout="screen"), Plan.fill_async([], layout="screen"))
    said.show(f"got {{first.note}} and {{second.note}}")

ticks, said = Label("no tick"), Label("")
rows = [{{"mast": "east", "note": "calm"}}]
table = Table(rows, [Column("mast"), Column("note", slot=slot(str, "Note"))])
program = Program("night", members=[report])
screen = Screen(Down(table, ticks, said, Button("Act", {action})), title="Desk", menus=program)

async def main():
    async def tick():
        for count in range(1, 10_000):
            ticks.show(f"tick {{count}}.")
            await asyncio.sleep(0.05)
    ticking = asyncio.create_task(tick())
    await screen.run_async()
    ticking.cancel()

asyncio.run(main())
"""


@pytest.mark.parametrize(
    ("opening", "action", "keys", "seen"),
    [
        ("\x1ba", "fill", "5" + "\t" + "clear" + ENTER, "got clear"),
        ("\x1ba", "inner", "clear" + ENTER, "got clear"),
        ("\x1ba", "message", ENTER, "got clear"),
        ("\x1ba", "choice", "cl" + ENTER, "got clear"),
        ("\x1ba", "path", "cl" + ENTER, "got clear.log"),
        ("\x1ba", "made", "\x1bn" + "clear" + ENTER + "\tcl\t" + ENTER, "got clear"),
        ("\x1ba", "work", "\x1bs", "got nothing"),
        ("\x1ba", "several", "5\tclear" + ENTER + "6\tdry" + ENTER, "got dry and clear"),
        ("\x1b[21~" + ENTER + ENTER, "fill", "clear" + ENTER, "noted clear"),
        (RIGHT + ENTER, "fill", "\x0b\x15clear" + ENTER, "clear"),
    ],
)
def test_other_tasks_go_on_while_a_dialog_of_any_kind_is_open(
    opening: str, action: str, keys: str, seen: str, tmp_path: Path
) -> None:
    (tmp_path / "clear.log").touch()
    with script(MOVING.format(action=action, folder=str(tmp_path))) as terminal:
        terminal.see("tick ")
        first = tick_of(terminal)
        terminal.type(opening)
        terminal.see("Escape: back")
        end = time.monotonic() + 1  # the dialog may be over the number
        while time.monotonic() < end:
            terminal.read(0.05)
        terminal.type(keys)
        terminal.see(seen)
        terminal.see("tick ")
        assert tick_of(terminal) > first + 5
        if "OK" in terminal.text():
            terminal.type(ENTER)
        terminal.type(CTRL_D)
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


def tick_of(terminal: Terminal) -> int:
    """Return the number that the task has shown last."""
    found = re.search(r"tick (\d+)\.", terminal.text())
    return int(found[1]) if found else 0


def test_a_screen_that_ends_under_a_question_of_a_task_gives_the_terminal_back() -> None:
    program = ASKING_DESK.format(call="screen.call_later(0.5, lambda: screen.close('well')); await ask_async('Note')")
    program = program.replace("def act", "async def act")
    program = program.replace("screen.run()", "__import__('asyncio').run(screen.run_async())")
    with script(program) as terminal:
        press(terminal, "Act")
        terminal.see("Note")
        terminal.see("ended with well")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


@pytest.mark.parametrize("how", ["", "async"])
@pytest.mark.parametrize(("key", "ends"), [("\x1b", False), (CTRL_D, False), (CTRL_C, True)])
def test_a_question_of_an_action_is_left_as_everywhere(how: str, key: str, ends: bool) -> None:
    program = ASKING_DESK.format(call="await ask_async('Note')" if how else "ask('Note')")
    if how:
        program = program.replace("def act", "async def act")
        program = program.replace("screen.run()", "__import__('asyncio').run(screen.run_async())")
    with script(program) as terminal:
        press(terminal, "Act")
        terminal.see("Note")
        terminal.wait(lambda: not terminal.read(0.1), "silence")
        terminal.type(key)
        if not ends:
            terminal.see("left without an answer")
            assert "nothing yet" in terminal.text()
            assert "failed" not in terminal.text()
            press(terminal, "Done")
            terminal.see("ended with well")
        assert terminal.end() == (-signal.SIGINT if ends else 0)
        assert "Traceback" not in terminal.everything()
        assert terminal.modes() == terminal.initial
