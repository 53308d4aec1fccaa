"""The history as a page: what it lists, what is put together, what is removed, also for other consoles.

Modules: ``widgets.history_page``, ``history.history_file``, ``history.file_format``, ``history.writing``,
``tool.history``,
``widgets.plain.history``.
"""

from __future__ import annotations

import errno
import json
import os
import random
from pathlib import Path

import pytest

from tests.harness import Terminal, python
from wesperon import Console, Program
from wesperon.context import PROCESS
from wesperon.editing.history_view import ListHistory
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import typed
from wesperon.editing.keys.families import family_named
from wesperon.history import history_file
from wesperon.history.history_file import History
from wesperon.history.writing import Writing
from wesperon.scope import within
from wesperon.screen.frame import row_text
from wesperon.terminal.scripted import key_named
from wesperon.testing import Session
from wesperon.tool.main import main
from wesperon.widgets.history_page import FOOT, HistoryPage
from wesperon.widgets.pager import foot as pager_foot
from wesperon.widgets.pager.pager import Pager
from wesperon.widgets.pager.whole_text import WholeText
from wesperon.widgets.widget import Answered


def slew() -> None:
    """Do nothing."""


WORDS = ["expose", "slew", "queue", "note", "HOLLIN-051", "HOLLIN-102", "90", "first light", "漢"]


def entered(path: Path, texts: list[str]) -> History:
    """Return a history in a file with these entries, each with a status."""
    history = History(str(path))
    for number, text in enumerate(texts):
        history.finish(history.add(text), number % 3)
    return history


def press(page: HistoryPage, *names: str) -> None:
    """Press keys."""
    for name in names:
        page.press(typed(name) if len(name) == 1 else key_named(name))


def listed(page: HistoryPage, columns: int = 200, rows: int = 12) -> list[str]:
    """Return the texts that are listed, the current one with a colon."""
    frame = page.view(columns, rows)
    page.drawn()
    shown = ["".join(text for text, _ in row) for row in frame.rows]
    return [row[:1].replace(" ", "") + row[28:].strip() for row in shown if row[2:6] == "2031" or row[4:6].isdigit()]


@pytest.mark.parametrize("family", ["modeless", "modal"])
def test_the_keys_of_the_foot_are_on_the_page_of_keys(family: str) -> None:
    pager = Pager([WholeText("night", b"")], limited=lambda step: step())
    for page, foot in ((pager, pager_foot.FOOT), (HistoryPage(ListHistory(["one"])), FOOT)):
        page.bind(Bindings(family_named(family)))
        page.view(100, 60)
        page.press(key_named("f1"))
        rows = [row_text(row) for row in page.view(100, 60).rows]
        named = {key.strip() for row in rows for key in row.strip().partition("  ")[0].split(",")}
        wanted = {entry.partition(":")[0].strip() for entry in foot.split("   ")} - {"F1"}
        assert wanted <= named, rows


@pytest.mark.parametrize("seed", range(12))
def test_any_keys_list_what_a_list_would(seed: int, tmp_path: Path) -> None:
    rolled = random.Random(seed)
    texts = [" ".join(rolled.choices(WORDS, k=rolled.randint(1, 4))) for _ in range(rolled.randint(1, 60))]
    page = HistoryPage(entered(tmp_path / "history.txt", texts))
    needle, at = "", len(texts) - 1

    def found() -> list[int]:
        return [number for number, text in enumerate(texts) if needle in text]

    for _ in range(60):
        names = found()
        place = names.index(at) if at in names else -1
        key = rolled.choice(["up", "down", "page-up", "page-down", "home", "end", "letter", "backspace", "ctrl-u"])
        room = page._room
        if key == "letter":
            letter = rolled.choice(["e", "o", "0", "漢", "5", "t"])
            press(page, letter)
            needle += letter
            at = found()[-1] if found() else -1
        elif key in ("backspace", "ctrl-u"):
            press(page, key)
            needle = needle[:-1] if key == "backspace" else ""
            at = found()[-1] if found() else -1
        else:
            press(page, key)
            steps = {"up": -1, "down": 1, "page-up": -room, "page-down": room, "home": -99, "end": 99}[key]
            at = names[min(max(place + steps, 0), len(names) - 1)] if names else -1
        rows = listed(page, rows=rolled.randint(6, 14))
        current = [row for row in rows if row.startswith(":")]
        assert current == ([":" + texts[at]] if at >= 0 else []), (key, needle)
        assert page.current is None or page.current.text == texts[at]
        shown = [row.removeprefix(":") for row in rows]
        names = found()
        first = names.index(at) - rows.index(current[0]) if at >= 0 else 0
        assert shown == [texts[number] for number in names[first : first + len(shown)]]
        assert len(shown) == min(len(names), page._room)


def test_several_are_put_together_in_the_order_of_picking() -> None:
    page = HistoryPage(ListHistory(["one", "two", "three\nfour"]))
    page.view(60, 12)
    press(page, "tab", "up", "up", "tab")
    assert page.view(60, 12).text().count("Next input") == 1
    press(page, "up", "tab", "tab", "enter")
    assert isinstance(page.outcome, Answered)
    assert page.outcome.value.text == "three\nfour\none"


def test_the_current_entry_is_taken_if_none_was_picked_and_nothing_if_it_is_left() -> None:
    page = HistoryPage(ListHistory(["one", "two"]))
    press(page, "up", "enter")
    assert isinstance(page.outcome, Answered)
    assert page.outcome.value.text == "one"
    page = HistoryPage(ListHistory(["one"]))
    press(page, "ctrl-g")
    assert isinstance(page.outcome, Answered)
    assert page.outcome.value.text == ""


def test_what_is_removed_is_gone_from_the_file_and_from_a_console_that_has_it_open(tmp_path: Path) -> None:
    path = tmp_path / "history.txt"
    mine = entered(path, ["slew", "login swordfish", "queue", "login swordfish"])
    other = History(str(path))
    assert other.older(None, "login", begins=True, seen=()) is not None
    third = entered(path, ["note"])
    page = HistoryPage(mine)
    press(page, "s", "w", "o", "r", "d", "delete", "x")
    assert b"swordfish" in path.read_bytes()
    press(page, "delete", "enter")
    assert "2 entries removed" in page.view(60, 8).text()
    assert b"swordfish" not in path.read_bytes()
    for history in (mine, other, third, History(str(path))):
        assert history.older(None, "swordfish", begins=False, seen=()) is None
        assert history.hint("login") == ""
        assert history.texts() == ["slew", "queue", "note"]
        found = history.older(None, "queue", begins=True, seen=())
        assert found is not None
        assert history.details(found)[1] == 2
    other.finish(other.add("expose"), 0)
    assert History(str(path)).texts() == ["slew", "queue", "note", "expose"]


def test_a_status_that_came_later_is_found_and_stays_with_its_entry_when_others_are_removed(tmp_path: Path) -> None:
    history = History(str(tmp_path / "history.txt"))
    removed = history.add("first")
    mark = history.add("expose")
    history.finish(removed, 7)
    history.add("between")
    history.finish(mark, 3)
    entry = history.older(None, "expose", begins=True, seen=())
    history.load()
    entry = history.older(None, "expose", begins=True, seen=())
    assert entry is not None
    assert history.details(entry)[1] == 3
    assert history.remove("first") == 1
    entry = history.older(None, "expose", begins=True, seen=())
    assert entry is not None
    assert history.details(entry)[1] == 3


def test_favourites_are_kept_apart_and_shown_alone(tmp_path: Path) -> None:
    page = HistoryPage(entered(tmp_path / "history.txt", ["slew", "queue", "slew"]))
    page.view(60, 8)
    press(page, "up", "ctrl-f")
    assert "*" in page.view(60, 8).text()
    press(page, "ctrl-t")
    assert [entry.text for entry in page.sight] == ["queue"]
    again = History(str(tmp_path / "history.txt"))
    assert again.is_favourite("queue")
    press(page, "ctrl-f")
    assert not History(str(tmp_path / "history.txt")).is_favourite("queue")


DESK = """
import sys
from wesperon import Console, Program
def expose(seconds: int):
    return f"exposed {seconds}"
def queue():
    return "the queue"
sys.exit(Console(Program("desk", members=[expose, queue])).run())
"""


def test_the_page_in_a_console_gives_the_next_input_which_runs_only_with_enter() -> None:
    with Terminal(python("-c", DESK), columns=90, rows=14) as terminal:
        terminal.see("Enter: run")
        terminal.type("expose 5\rqueue\rexpose x\r")
        terminal.see("is not a whole number")
        terminal.type("history\r")
        terminal.see("Tab: pick")
        terminal.see("expose 5")
        terminal.type("queue\t\x7f\x7f\x7f\x7f\x7fexpose 5\t")
        terminal.see("Next input")
        terminal.type("\r")
        terminal.wait(lambda: "Enter: run" in terminal.text() and "Next input" not in terminal.text())
        assert terminal.text().count("the queue") == 1
        terminal.type("\r")
        terminal.wait(lambda: terminal.text().count("exposed 5") == 2)
        assert terminal.text().count("the queue") == 2
        terminal.type("\x18hx\x07exit\r")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial


def test_history_prints_where_nobody_can_use_a_page_and_in_files_of_commands(tmp_path: Path) -> None:
    (tmp_path / "all.desk").write_text("history\n")
    with Session(
        Console(Program("desk", members=[slew]), history=str(tmp_path / "h")),
        environment={"WESPERON_PLAIN": "1"},
    ) as session:
        session.type("history").press("enter")
        assert "1  history" in session.screen
    with Session(Console(Program("desk", members=[slew]), history=str(tmp_path / "h"))) as session:
        session.type(f"run {tmp_path / 'all.desk'}").press("enter")
        assert "1  history" in session.screen
        session.type("history 1").press("enter")
        assert session.screen.count("1  history") == 2


def test_what_was_picked_is_written_to_a_file_of_commands(tmp_path: Path) -> None:
    path = tmp_path / "night.desk"
    with Session(Console(Program("desk", members=[slew]), history=str(tmp_path / "h"))) as session:
        session.type("slew").press("enter").type("history").press("enter")
        session.press("up", "tab", "ctrl-x", "w").see("Write to the file").type(str(path)).press("enter")
        session.see("written to")
        session.press("ctrl-x", "w").type(str(path)).press("enter").see("exist yet")
        session.press("ctrl-g", "ctrl-g")
    assert path.read_text() == "slew\n"


def test_lines_that_were_entered_at_once_run_one_after_the_other_up_to_one_that_fails() -> None:
    def expose(seconds: int) -> str:
        return f"exposed {seconds}"

    with Session(Console(Program("desk", members=[expose]))) as session:
        session.paste("expose 1\nexpose \\\n  2\n# a comment\nexpose x\nexpose 4").press("enter")
        assert "exposed 1\nexposed 2\n" in session.screen
        assert '"x" is not a whole number' in session.screen
        assert "exposed 4" not in session.screen


def kept(path: Path) -> list[str]:
    """Return the texts in a file."""
    return [entry.text for entry in History(str(path)).entries()]


def test_more_entries_than_the_user_wants_are_dropped_the_oldest_first(tmp_path: Path) -> None:
    path = tmp_path / "history.txt"
    entered(path, [f"expose {number}" for number in range(40)])
    History(str(path), entries=38).open()
    assert len(kept(path)) == 40, "a tenth more is no reason to write the file again"
    History(str(path), entries=10).open()
    assert kept(path) == [f"expose {number}" for number in range(30, 40)]


def test_entries_that_are_older_than_the_user_wants_are_dropped(tmp_path: Path) -> None:
    path = tmp_path / "history.txt"

    class Clock:
        now = 1_900_000_000.0

        def time(self) -> float:
            return self.now

        monotonic = time

    clock = Clock()
    with within(PROCESS.derive(clock=clock)):
        for number in range(10):
            clock.now += 86_400
            entered(path, [f"expose {number}"])
        History(str(path), days=100).open()
        assert len(kept(path)) == 10
        History(str(path), days=3).open()
    assert kept(path) == ["expose 6", "expose 7", "expose 8", "expose 9"]


def test_the_limits_and_one_history_for_all_programs_are_preferences(tmp_path: Path) -> None:
    folder = tmp_path / "wesperon"
    folder.mkdir()
    (folder / "preferences.toml").write_text('history_entries = 2\nhistory_days = "all"\nhistory_shared = true\n')
    environment = {"XDG_CONFIG_HOME": str(tmp_path), "XDG_STATE_HOME": str(tmp_path)}
    for name in ("desk", "dome"):
        with Session(Console(Program(name, members=[slew])), environment=environment) as session:
            for _ in range(2):
                session.type("slew").press("enter")
            session.type(f"help {name}").press("enter")
    assert kept(folder / "history.txt") == ["slew", "help desk", "slew", "slew", "help dome"]
    with Session(Console(Program("desk", members=[slew])), environment=environment) as session:
        session.press("up")
        assert "help dome" in session.screen
    assert kept(folder / "history.txt") == ["slew", "help dome"]


def test_the_tool_exports_and_removes(tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: object) -> None:
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    (tmp_path / "desk").mkdir(mode=0o700)
    entered(tmp_path / "desk" / "history.txt", ["slew", "login swordfish", "two\nlines"])

    def printed(*words: str) -> str:
        assert main(["history", *words]) == 0
        return capsys.readouterr().out  # type: ignore[attr-defined, no-any-return]

    rows = [json.loads(line) for line in printed("export", "desk").splitlines()]
    assert [(row["text"], row["status"]) for row in rows] == [
        ("slew", 0),
        ("login swordfish", 1),
        ("two\nlines", 2),
    ]
    assert json.loads(printed("export", "desk", "--as=json")) == rows
    assert printed("export", "--form=plain", "desk", "--find=lines") == "two\nlines\n"
    assert main(["history", "remove", "desk", "sword.*"]) == 1
    assert printed("remove", "--yes", "desk", "sword.*") == "1 entry removed\n"
    assert kept(tmp_path / "desk" / "history.txt") == ["slew", "two\nlines"]


def test_in_plain_lines_numbers_put_entries_together(tmp_path: Path) -> None:
    (tmp_path / "desk").mkdir(mode=0o700)
    entered(tmp_path / "desk" / "history.txt", ["slew", "queue", "expose 5", "note"])
    words = python("-m", "wesperon", "history", "look", "desk")
    environment = {"XDG_STATE_HOME": str(tmp_path), "TERM": "dumb"}
    with Terminal(words, env=environment, columns=90) as terminal:
        terminal.see("   1  note")
        terminal.see("   3  queue  (1)")
        terminal.type("7\r")
        terminal.see("must be numbers from 1 to 4")
        terminal.type("/e\r")
        terminal.see("   4  slew")
        terminal.type("3 1\r")
        terminal.see("queue\nnote")
        assert terminal.end() == 0


@pytest.mark.parametrize("leaves", ["\x07", "\x1b"])
def test_the_page_over_a_line_leaves_the_screen_below_it_as_it_was(leaves: str) -> None:
    with Terminal(python("-c", DESK), columns=90, rows=14) as terminal:
        terminal.see("Enter: run")
        terminal.type("expose 5\rqueue\r")
        terminal.see("the queue")
        terminal.quiet()
        before = terminal.lines()
        terminal.type("\x18h")
        terminal.see("Tab: pick")
        assert "the queue" not in terminal.text()
        terminal.type(leaves)
        terminal.wait(lambda: "Tab: pick" not in terminal.text() and "Enter: run" in terminal.text())
        terminal.quiet()
        assert terminal.lines() == before


def test_escape_leaves_what_is_typed_in_the_last_row(tmp_path: Path) -> None:
    page = HistoryPage(ListHistory(["slew"]), write=lambda name, texts: None)
    page.view(60, 8)
    press(page, "ctrl-x", "w")
    assert "Write to the file" in page.view(60, 8).text()
    press(page, "escape")
    assert "Write to the file" not in page.view(60, 8).text()
    assert page.outcome is None


def test_the_page_says_what_its_keys_do() -> None:
    page = HistoryPage(ListHistory(["slew"]))
    page.view(70, 20)
    press(page, "f1")
    shown = page.view(70, 20).text()
    assert "Ctrl-T" in shown
    assert "Ctrl-U" in shown
    press(page, "q")
    assert "slew" in page.view(70, 20).text()


def test_a_removal_that_cannot_be_written_is_said_and_the_history_goes_on(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    history = entered(tmp_path / "history.txt", ["slew", "login swordfish"])
    page = HistoryPage(history)
    page.view(60, 8)
    replace = os.replace

    def full(*given: object, **more: object) -> None:
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "replace", full)
    press(page, "delete", "enter")
    assert "nothing is removed: No space left on device" in page.view(60, 8).text()
    monkeypatch.setattr(os, "replace", replace)
    assert kept(tmp_path / "history.txt") == ["slew", "login swordfish"]
    assert not history.fault
    history.finish(history.add("queue"), 0)
    press(page, "delete", "enter")
    assert kept(tmp_path / "history.txt") == ["slew", "queue"]


def test_a_removal_waits_for_who_writes_and_says_if_that_takes_too_long(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    history = entered(tmp_path / "history.txt", ["slew"])
    monkeypatch.setattr(history_file, "LAST_PATIENCE", 0.05)
    with Writing(History(str(tmp_path / "history.txt"))):
        page = HistoryPage(history)
        page.view(60, 8)
        press(page, "delete", "enter")
        assert "another process writes to the history" in page.view(60, 8).text()
    assert kept(tmp_path / "history.txt") == ["slew"]
