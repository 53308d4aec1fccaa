"""Questions on terminals and in plain lines: lists that grow, candidates that take their time, time that runs out.

Modules: ``output.timed_pull``, ``terminal.feeder``.
"""

from __future__ import annotations

import random
import sys
from pathlib import Path
from typing import Any

import pytest

from tests.harness import BACKSPACE, CTRL_C, DOWN, ENTER, UP, Terminal, example, python
from tests.tables import tabled
from wesperon import Form, Problems, one_of, slot, terminal_size
from wesperon.testing import Press, Scripted
from wesperon.widgets.plain.widgets import plainly

SLOW = """
import time
from wesperon import fill, one_of, slot
def targets():
    yield "HOLLIN-007 Harrow Cluster"
    for number in range(10, 400):
        time.sleep(FIRST if number == 10 else 0.002)
        yield f"HOLLIN-{number:03} target"
print(fill(target=slot(one_of(targets()), "Target")).target)
"""


def test_a_menu_opens_at_once_and_grows_while_it_is_open() -> None:
    with Terminal(python("-c", SLOW.replace("FIRST", "0.3"))) as terminal:
        terminal.see("HOLLIN-007 Harrow Cluster")
        terminal.see("more to come")
        terminal.type(DOWN)
        terminal.see("HOLLIN-011 target")
        terminal.type("398")
        terminal.see("1 of 1 (of ")
        terminal.type(ENTER)
        terminal.see("HOLLIN-398 target")
        assert terminal.end() == 0


def test_what_is_there_already_can_be_taken_while_the_rest_takes_its_time() -> None:
    with Terminal(python("-c", SLOW.replace("FIRST", "60"))) as terminal:
        terminal.see("more to come")
        terminal.quiet()
        terminal.type(ENTER)
        assert terminal.end() == 0
        assert terminal.text().endswith("HOLLIN-007 Harrow Cluster")


@pytest.mark.parametrize("env", [{}, {"WESPERON_PLAIN": "1"}])
def test_a_list_that_fails_ends_there_and_the_question_goes_on(env: dict[str, str]) -> None:
    program = (
        "from wesperon import fill, one_of, slot\ndef bad():\n    yield 'a'\n    raise RuntimeError('mast lost')\n"
    )
    with Terminal(python("-c", program + "print(fill(target=slot(one_of(bad()))).target * 2)"), env=env) as terminal:
        terminal.see("further ones could not be loaded: RuntimeError: mast lost")
        terminal.type("a\r")
        assert terminal.end() == 0
        assert terminal.text().endswith("aa")
    with Terminal(
        python("-c", program.replace("RuntimeError", "TypeError") + "fill(target=slot(one_of(bad())))")
    ) as terminal:
        modes = terminal.initial
        terminal.see("TypeError: mast lost")
        assert terminal.end() == 1
        assert terminal.modes() == modes


MANY = """
import os, time
from wesperon import fill, slot
def known():
    while not os.path.exists(GATE):
        time.sleep(0.01)
    return [f"HOLLIN-{n:07} target" for n in range(1_000_000)]
print(fill(target=slot(ask="Target", suggest=known)).target)
"""


def test_no_key_waits_for_a_million_candidates(tmp_path: Path) -> None:
    gate = tmp_path / "gate"
    with Terminal(python("-c", MANY.replace("GATE", repr(str(gate))))) as terminal:
        terminal.see("Target")
        terminal.quiet()
        terminal.type("0999")
        terminal.see("Target  0999")
        assert "HOLLIN" not in terminal.text(), "the candidates are still to come"
        gate.touch()
        terminal.see("HOLLIN-0000999 target")
        terminal.type("99 t")
        terminal.see("Target  099999 t")
        terminal.see("HOLLIN-0099999 target")
        terminal.type(DOWN)
        terminal.see("Target  HOLLIN-0099999 target")
        terminal.type(ENTER)
        assert terminal.end() == 0


@pytest.mark.parametrize("env", [{}, {"WESPERON_PLAIN": "1"}])
def test_the_time_that_is_left_is_shown_near_its_end(env: dict[str, str]) -> None:
    program = "from wesperon import fill, slot; fill(frames=slot(int, 'Frames'))"
    with Terminal(python("-c", program), env={"WESPERON_TIMEOUT": "3", **env}) as terminal:
        terminal.see("Frames")
        assert "Nobody" not in terminal.text()
        terminal.see("1 second left" if not env else "left to answer")
        assert terminal.end() == 2
        assert "--frames" in terminal.text()
    if not env:
        with Terminal(python("-c", program), env={"WESPERON_TIMEOUT": "3"}) as terminal:
            terminal.see("1 second left")
            terminal.type("1")
            terminal.wait(lambda: "Nobody" not in terminal.text(), "a key begins the time anew")
            terminal.type(BACKSPACE + "2" + ENTER)
            assert terminal.end() == 0


def test_the_size_of_a_terminal_and_its_colours(monkeypatch: pytest.MonkeyPatch) -> None:
    program = "from wesperon import terminal_size; size = terminal_size(); print(size, size.colours, *size)"
    with Terminal(python("-c", program), columns=67, rows=9) as terminal:
        terminal.see("TerminalSize(columns=67, rows=9) 256 67 9")
    with Terminal(python("-c", program), env={"NO_COLOR": "1", "COLUMNS": "44"}, rows=9) as terminal:
        terminal.see("TerminalSize(columns=44, rows=9) 0 44 9")
    monkeypatch.delenv("COLUMNS", raising=False)
    monkeypatch.delenv("LINES", raising=False)
    for name in ("stdout", "stderr", "stdin"):
        monkeypatch.setattr(sys, name, None)
    assert terminal_size() == (80, 24)
    assert terminal_size().colours == 0
    assert (terminal_size(100).columns, terminal_size(high=60).columns) == (100, 60)
    for wrong in ("0", "-5", "x", "99999999", "²"):
        monkeypatch.setenv("COLUMNS", wrong)
        assert terminal_size().columns == 80


# Plain lines ----------------------------------------------------------------------------------------------------------


class Plainly(Scripted):
    """Plays lines to widgets in plain lines; ``printed`` is what was printed."""

    def __init__(self, lines: list[str]) -> None:
        super().__init__()
        self.lines, self.printed = lines, ""

    def run(self, widget: Any, options: Any = None) -> Any:
        plain = plainly(widget)
        while widget.outcome is None:
            typed: list[str] = []
            self.printed += "\n".join([*plain.rows(), plain.prompt()])
            while not typed or not plain.is_whole(typed):
                if not self.lines:
                    plain.end()
                    break
                typed.append(self.lines.pop(0))
            else:
                self.printed += "\n".join(typed) + "\n"
                plain.answer(typed)
        return widget.outcome


NAMES = ["Lantern", "Thimble", "Wicker"]
ENTER_KEY, BACK = Press("enter"), Press("shift-tab")


@tabled
def test_keys_and_lines_give_the_same_value(declared: Any, keys: list[Any], lines: list[str]) -> None:
    form: Any = type("Two", (Form,), {"first": slot(int), "value": declared})
    typed = form.fill([], asking="missing", driver=Scripted(["1", ENTER_KEY, *keys]))
    assert form.fill([], asking="missing", driver=Plainly(["1", *lines])) == typed


class Night(Form):
    target = slot(
        one_of(NAMES, group=lambda name: "high" * (name != "Thimble")), "Target", help="What it is turned to."
    )
    guided = slot(bool, "Guided")
    star = slot(
        one_of(lambda so_far: [n for n in NAMES if n != so_far.target]), "Star", applies=lambda so_far: so_far.guided
    )
    frames = slot(int, "Frames", low=1, high=9)


@tabled
def test_words_go_back_and_help_in_plain_lines(lines: list[str], expected: tuple[object, ...]) -> None:
    driver = Plainly(list(lines))
    assert tuple(Night.fill([], asking="missing", driver=driver)) == expected
    assert "Type back alone" in driver.printed
    if "help" in lines:
        assert "What it is turned to." in driver.printed
        assert "there is no further help" in driver.printed
    if lines[0] == "back":
        assert "this is the first question" in driver.printed


def test_the_last_look_in_plain_lines() -> None:
    driver = Plainly(["1", "no", "4", "9", "2", "yes", "2", ""])
    record = Night.fill([], asking="missing", driver=driver, review=True)
    assert tuple(record) == ("Lantern", True, "Wicker", 4)
    assert "   1  Target  Lantern\n   2  Guided  no\n   3  Frames  4" in driver.printed
    assert '"9" is not the number of a value: must be from 1 to 3' in driver.printed
    with pytest.raises(Problems):
        Night.fill([], asking="missing", driver=Plainly(["1"]))


def test_a_plain_form_that_was_left_is_taken_up_again(tmp_path: Any) -> None:
    program = tmp_path / "log.py"
    program.write_text("from wesperon import fill, slot\nprint(*fill(night=slot(), note=slot()))\n")
    env = {"WESPERON_PLAIN": "1", "XDG_STATE_HOME": str(tmp_path / "state")}
    with Terminal([sys.executable, str(program)], env=env) as terminal:
        terminal.see("night:")
        terminal.type("clear\n")
        terminal.see("note:")
        terminal.read(0.3)
        terminal.type(CTRL_C)
        terminal.end()
    with Terminal([sys.executable, str(program)], env=env) as terminal:
        terminal.see("One saved answer")
        terminal.see("Resume? (yes or no) [yes]:")
        terminal.type("\n")
        terminal.see("night: clear")
        terminal.see("note:")
        terminal.type("dim\n")
        terminal.see("clear dim")


@pytest.mark.parametrize("seed", range(4))
def test_random_keys_leave_the_terminal_as_it_was(seed: int) -> None:
    keys = [
        "\r",
        "\r",
        "\r",
        "\t",
        "\x1b[Z",
        UP,
        DOWN,
        " ",
        "n",
        "y",
        "3",
        "2031-04-17",
        "90s",
        "\x15",
        "\x7f",
        "\x1bOP",
        "漢",
    ]
    chosen = random.Random(seed)
    with Terminal(example("nightcard.py"), columns=chosen.randrange(20, 100), rows=chosen.randrange(3, 24)) as terminal:
        modes = terminal.initial
        terminal.wait(terminal.is_raw)
        for _ in range(150):
            if terminal.is_closed:
                break
            terminal.type(chosen.choice(keys))
            if chosen.random() < 0.05:
                terminal.resize(chosen.randrange(20, 100), chosen.randrange(3, 24))
        for _ in range(3):
            terminal.read(0.3)
            if not terminal.is_closed and terminal.process.isalive():
                terminal.type(CTRL_C)
        assert terminal.end() in (0, -2)
        assert terminal.modes() == modes
        assert not terminal.screen.cursor.hidden


def test_a_help_page_does_not_wait_for_choices_that_are_still_to_come() -> None:
    program = SLOW.replace("FIRST", "60")
    with Terminal(python("-c", program, "--help")) as terminal:
        terminal.see("HOLLIN-007 Harrow Cluster")  # in far less time than the next choice takes
        assert terminal.end() == 0
