"""What a screen does: values, focus, buttons, dialogs, other threads, time, functions that fail.

Modules: ``screens.screen``, ``screens.running``, ``screens.field``, ``screens.dialogs``, ``screens.faults``,
``screens.inside``, ``screens.unattended``, ``screens.pager_part``, ``screens.menu_bar``,
``widgets.parts.simple_parts``,
``widgets.parts.listing``, ``widgets.parts.table``,
``widgets.parts.around``,
``widgets.parts.tabs``, ``widgets.parts.figures``, ``widgets.parts.message_view``, ``widgets.parts.rows_part``.
"""

from __future__ import annotations

import asyncio
import functools
import os
import threading
import time
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import (
    Across,
    Button,
    Column,
    CommandGroup,
    Context,
    DeclarationError,
    Down,
    Field,
    Label,
    Listing,
    MenuBar,
    MenuEntry,
    MessageView,
    Meter,
    Pager,
    Problems,
    Program,
    Screen,
    Table,
    Tabs,
    Trend,
    any_of,
    ask,
    choose,
    choose_file,
    confirm,
    one_of,
    show_message,
    show_work,
    slot,
    working,
)
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import Key
from wesperon.scope import within
from wesperon.testing import Session
from wesperon.widgets.parts.screen_widget import ScreenWidget, letters_of

TARGETS = ["Lantern", "Thimble", "Wicker"]


class Clock:
    """A clock that the test sets."""

    def __init__(self) -> None:
        self.now = 100.0

    def time(self) -> float:
        """Return the time."""
        return self.now

    def monotonic(self) -> float:
        """Return the time."""
        return self.now


def test_fields_are_filled_and_the_default_button_gives_the_result() -> None:
    frames, target = Field(slot(int, "Frames", low=1)), Field(slot(one_of(TARGETS), "Target"))
    screen = Screen(
        Down(frames, target, Button("Expose", lambda: screen.close((frames.value, target.value)), default=True))
    )
    with Session(screen.run) as session:
        session.type("12").press("tab", "space", "down", "enter", "tab").see("[ Expose ]").press("enter")
    assert session.result == (12, "Thimble")


def test_enter_goes_from_field_to_field_and_presses_the_default_button_after_the_last() -> None:
    one, two = Field(slot(int, "One")), Field(slot(int, "Two"))
    screen = Screen(
        Down(one, two, Button("Leave"), Button("Do", lambda: screen.close(one.value + two.value), default=True))
    )
    with Session(screen.run) as session:
        session.type("1").press("enter").type("2").press("enter")
    assert session.result == 3


def test_a_fault_is_beside_its_field_once_that_is_left_and_goes_with_the_next_letter() -> None:
    frames = Field(slot(int, "Frames", low=1, high=9))
    screen = Screen(Down(frames, Button("Leave", lambda: screen.close())))
    with Session(screen.run) as session:
        session.type("40")
        assert "must be" not in session.screen
        session.press("tab")
        assert "must be" in session.screen
        assert frames.problem is not None
        session.press("shift-tab", "backspace")
        assert frames.value == 4
        session.press("tab")
        assert "must be" not in session.screen


def test_letters_with_alt_go_to_fields_and_press_buttons() -> None:
    one, two = Field(slot(int, "Quota"), value=1), Field(slot(int, "Xerus"), value=2)
    pressed: list[str] = []
    screen = Screen(Down(one, two, Button("Zoom", lambda: pressed.append("zoom")), Listing(TARGETS)))
    with Session(screen.run) as session:
        assert session.cursor is not None
        first = session.cursor[0]
        session.press("alt-x")
        assert session.cursor[0] == first + 1
        session.press("alt-z", "alt-q")
        assert pressed == ["zoom"]
        assert session.cursor[0] == first


def test_changes_are_told_and_each_part_shows_others() -> None:
    told: list[Any] = []
    filters, said = Field(slot(any_of(["red", "green"]), "Filters")), Label("none")
    listing = Listing(TARGETS)
    filters.on_change(lambda value: said.show(", ".join(value)))
    listing.on_change(told.append)
    with Session(Screen(Down(filters, said, listing)).run) as session:
        session.press("space", "space", "down", "space", "enter").see("red, green")
        session.press("tab", "down", "down", "up")
    assert told == ["Thimble", "Wicker", "Thimble"]


def test_a_list_is_narrowed_by_what_is_typed() -> None:
    listing = Listing([f"HOLLIN-{number:03}" for number in range(200)], several=True)
    screen = Screen(Down(listing, Button("Take", lambda: screen.close(listing.value))))
    with Session(screen.run) as session:
        session.type("15").see("HOLLIN-015").press("space").press("down", "space")
        session.press("escape").see("HOLLIN-110").press("tab", "enter")
    assert session.result == ("HOLLIN-015", "HOLLIN-115")


@given(st.lists(st.sampled_from(["", " ", "a", "A", "b", "漢"]), min_size=1, max_size=8), st.data())
def test_a_list_shows_whatever_there_is_and_keeps_its_place(texts: list[str], data: st.DataObject) -> None:
    listing = Listing(texts)
    at = data.draw(st.integers(0, len(texts) - 1))
    listing.at = at
    assert (listing.value, listing.at) == (texts[at], at)
    listing.show(texts + data.draw(st.lists(st.sampled_from(["", "a", "c"]), max_size=3)))
    assert (listing.value, listing.at) == (texts[at], at)
    assert len(listing.rows_in_sight(0, len(texts), 20)) == len(texts)


def test_a_list_takes_what_one_of_takes_and_what_it_gives() -> None:
    class Mast:
        def __init__(self, name: str) -> None:
            self.name = name

    masts = [Mast("east"), Mast("west")]
    for choices in (one_of(masts, label="name"), any_of(masts, label="name"), {"east": masts[0], "west": masts[1]}):
        assert Listing(choices).value is masts[0]
    assert Listing(lambda: ["east", "west"]).value == "east"
    assert Listing(list).value is None


def test_a_file_whose_name_is_blank_is_listed(tmp_path: Path) -> None:
    (tmp_path / " ").write_text("")
    with Session(Screen(Button("File", lambda: found.append(choose_file(start=tmp_path)))).run) as session:
        found: list[Any] = []
        session.press("enter").see("1 of 2").press("down", "enter").press("ctrl-d")
    assert found == [tmp_path / " "]


def test_a_column_whose_key_no_row_has_is_a_wrong_declaration() -> None:
    rows = [{"mast": "east"}, {"mast": "west", "note": "calm"}]
    Table(rows, [Column("Mast", key="mast"), Column("Note", key="note")])
    with pytest.raises(DeclarationError, match="no row has 'Mast'; there are: mast, note"):
        Table(rows, [Column("mast", "Mast")])


def test_a_table_is_sorted_by_a_heading_and_changed_in_place() -> None:
    rows = [["HOLLIN-051", 90], ["HOLLIN-007", 60], ["HOLLIN-102", 75]]
    table = Table(rows, ["target", Column("seconds", slot=slot(int, low=1))])
    with Session(Screen(table).run) as session:
        session.type("s")
        lines = [line.split()[0] for line in session.screen.splitlines() if "HOLLIN" in line]
        assert lines == ["HOLLIN-007", "HOLLIN-051", "HOLLIN-102"]
        assert table.value == ["HOLLIN-051", 90]  # the row stays current
        session.press("right", "enter").see("Change").press("ctrl-u").type("0").press("enter").see("must be")
        session.press("backspace").type("45").press("enter")
        assert "Change" not in session.screen
    assert rows[0] == ["HOLLIN-051", 45]


def test_a_table_asks_an_object_only_for_what_is_in_sight() -> None:
    class Rows:
        def __init__(self) -> None:
            self.asked = 0

        def __len__(self) -> int:
            return 10_000_000

        def rows(self, first: int, count: int) -> list[tuple[int]]:
            self.asked += count
            return [(at,) for at in range(first, min(first + count, len(self)))]

    rows = Rows()
    table = Table(rows, ["number"])
    with Session(Screen(table).run, rows=12) as session:
        session.press("end").see("9999999").press("page-up", "home", "page-down")
    assert rows.asked < 2_000


def test_tabs_hide_what_is_not_shown() -> None:
    inner = Field(slot(int, "Frames"))
    tabs = Tabs(Label("clear", title="Weather"), Down(inner, title="Plan"))
    with Session(Screen(tabs).run) as session:
        assert "Frames" not in session.screen
        session.press("right").see("Frames").press("tab").type("7")
    assert inner.value == 7


def test_what_is_printed_is_in_the_messages_and_stays_after_the_screen(capsys: pytest.CaptureFixture[str]) -> None:
    messages = MessageView(title="Mast")
    screen = Screen(Down(Button("Say", lambda: print("the mast\x1b is up")), messages))
    with Session(screen.run) as session:
        session.press("enter").see("the mast^[ is up")
        session.press("ctrl-d")
    assert "the mast" in session.output


def test_a_part_is_shown_from_a_thread_and_functions_are_called_later() -> None:
    clock, said = Clock(), Label("waiting")
    screen = Screen(Down(said, Button("Leave", lambda: screen.close("left"))))
    called: list[float] = []

    def later() -> None:
        called.append(clock.now)
        said.show("later")

    with Session(screen.run, clock=clock) as session:
        thread = threading.Thread(target=lambda: said.show("from a thread"))
        thread.start()
        thread.join()
        clock.now += 1
        session.see("from a thread")
        cancel = screen.call_later(5, lambda: called.append(-1))
        screen.call_later(5, later)
        cancel()
        clock.now += 4
        assert "later" not in session.screen
        clock.now += 2
        session.see("later")
        assert called == [107.0]
        threading.Thread(target=lambda: screen.close("closed")).start()
        latest = time.monotonic() + 10
        while session.is_open:
            assert time.monotonic() < latest, "the screen is not closed"
            time.sleep(0.01)
    assert session.result == "closed"


def test_a_function_that_fails_is_shown_and_the_screen_goes_on_or_ends_and_raises_it() -> None:
    screen = Screen(Down(Button("Fail", lambda: 1 // 0), Button("Leave", lambda: screen.close("left"))))
    with Session(screen.run) as session:
        session.press("enter").see("ZeroDivisionError").press("tab", "enter").see("line").press("shift-tab", "enter")
        assert "ZeroDivisionError" not in session.screen
        session.press("tab", "enter")
    assert session.result == "left"
    with Session(screen.run) as session:
        session.press("enter").see("ZeroDivisionError").press("tab", "tab", "enter")
    assert isinstance(session.error, ZeroDivisionError)


def test_dialogs_are_over_the_screen_and_give_what_was_chosen(tmp_path: Path) -> None:
    (tmp_path / "night.toml").write_text("")
    (tmp_path / "raw").mkdir()
    found: list[Any] = []

    def stack(work: Any) -> str:
        for _ in range(3):
            work.add()
        return "stacked"

    buttons = [
        Button(
            "Say", lambda: found.append(show_message("The dome is open.", title="Dome", buttons=["Good", "Close it"]))
        ),
        Button("Choose", lambda: found.append(choose("Which target?", TARGETS))),
        Button("Ask", lambda: found.append(ask("How many frames?", int, low=1))),
        Button("Confirm", lambda: found.append(confirm("Park?"))),
        Button("File", lambda: found.append(choose_file(start=tmp_path))),
        Button("Work", lambda: found.append(show_work("Stacking", stack, total=3))),
    ]
    with Session(Screen(Across(*buttons)).run, columns=120) as session:
        session.press("enter").see("The dome is open.").press("tab", "enter")
        session.press("tab", "enter").see("Which target?").press("down", "enter")
        session.press("tab", "enter").see("How many frames?").type("0").press("enter").see("1 or more")
        session.press("backspace").type("5").press("enter")
        session.press("tab", "enter").see("Park?").type("y").press("enter")
        session.press("tab", "enter").see("night.toml").type("night").press("enter")
        session.press("tab", "enter")
        session.see("[ Work ]")
        assert found[:5] == ["Close it", "Thimble", 5, True, tmp_path / "night.toml"]
        session.press("shift-tab", "shift-tab", "shift-tab", "shift-tab", "enter").see("Which target?").press("escape")
        session.press("ctrl-d")
    assert found[-1] is None
    assert found[5] == "stacked"


def test_a_screen_inside_another_is_a_dialog_and_may_run_again() -> None:
    inner = Screen(Down(Label("inner"), Button("Give", lambda: inner.close(7))), title="Inner")
    found: list[Any] = []
    outer = Screen(Button("Open", lambda: found.append(inner.run())))
    for _ in range(2):
        with Session(outer.run) as session:
            session.press("enter").see("inner").press("enter")
            assert "inner" not in session.screen
            session.press("ctrl-d")
        assert session.result is None
    assert found == [7, 7]


def test_ctrl_c_raises_also_in_a_dialog_and_ctrl_d_leaves_one_after_the_other() -> None:
    screen = Screen(Button("Say", lambda: show_message("hello")))
    with Session(screen.run) as session:
        session.press("enter").see("hello").press("ctrl-c")
    assert isinstance(session.error, KeyboardInterrupt)
    with Session(screen.run) as session:
        session.press("enter").see("hello").press("ctrl-d")
        assert "hello" not in session.screen
        session.press("ctrl-d")
    assert session.status == 0


def test_inside_an_event_loop_other_tasks_go_on_and_actions_may_be_coroutines() -> None:
    said = Label("0")

    async def count() -> None:
        for number in range(5):
            said.show(str(number))
            await asyncio.sleep(0.01)
        said.show("counted")

    async def run() -> Any:
        screen = Screen(Down(said, Button("Count", count), Button("Leave", lambda: screen.close("left"))))
        return await screen.run_async()

    with Session(lambda: asyncio.run(run())) as session:
        session.press("enter").see("counted").press("tab", "enter")
    assert session.result == "left"


def test_a_coroutine_without_an_event_loop_is_a_fault_that_is_shown() -> None:
    async def count() -> None:
        """Do nothing."""

    with Session(Screen(Button("Count", count)).run) as session:
        session.press("enter").see("run_async")


def test_where_nobody_is_the_fields_that_lack_a_value_are_named() -> None:
    screen = Screen(Down(Field(slot(int, "Frames")), Field(slot(str, "Note"), value="x"), Field(slot(int, "Seconds"))))
    with within(Context(environ={"WESPERON_ASKING": "never"})), pytest.raises(Problems) as caught:
        screen.run()
    assert [problem.reason.split(":")[0] for problem in caught.value] == ["Frames", "Seconds"]


def test_a_program_key_is_called_where_the_part_does_nothing_with_it() -> None:
    pressed: list[str] = []
    screen = Screen(
        Field(slot(str, "Note")), bindings={"f5": lambda: pressed.append("f5"), "a": lambda: pressed.append("a")}
    )
    with Session(screen.run) as session:
        session.press("f5").type("a").see("Note  a")
    assert pressed == ["f5"]


def test_parts_that_are_not_enabled_are_passed_by() -> None:
    one, two, three = (Button(name) for name in ("One", "Two", "Three"))
    two.enabled = False
    screen = Screen(Down(one, two, three))
    with Session(screen.run) as session:
        session.press("tab")
        assert session.cursor is not None
        assert session.cursor[0] == 2


@pytest.mark.parametrize(
    "wrong",
    [
        lambda: Screen("text"),  # type: ignore[arg-type]
        lambda: Down(),
        lambda: Down(Label("x"), "y"),  # type: ignore[arg-type]
        lambda: Field("frames"),  # type: ignore[arg-type]
        lambda: Button(""),
        lambda: Button("x", 3),  # type: ignore[arg-type]
        lambda: Label("x", size=0),
        lambda: Label("x", weight=-1),
        lambda: Table([], []),
        lambda: Table(3, ["a"]),
        lambda: Tabs(Label("x")),
        lambda: Screen(Label("x"), bindings={"ctrl-nothing": print}),
        lambda: Screen(Label("x"), bindings={"f5": 3}),  # type: ignore[dict-item]
        lambda: Trend(keeps=0),
        lambda: MessageView(keeps=0),
        lambda: Listing(TARGETS, action=3),  # type: ignore[arg-type]
    ],
)
def test_a_wrong_declaration_is_said_where_it_is_made(wrong: Any) -> None:
    with pytest.raises((DeclarationError, TypeError)) as caught:
        wrong()
    assert str(caught.value)


def test_the_same_part_twice_is_refused() -> None:
    part = Label("x")
    with pytest.raises(DeclarationError):
        Down(part, part)


def test_figures_are_drawn() -> None:
    meter, trend = Meter("Stacking", total=20, unit="frames"), Trend([1, 2, 3], low=0, high=8, unit="m/s")
    with Session(Screen(Down(meter, trend)).run) as session:
        assert "0 of 20" in session.screen
        meter.show(5)
        session.see("25%")
        work = working("Cooling", total=40)
        work.set(20)
        meter.show(work)
        session.see("Cooling").see("20 of 40").see("50%")
        trend.show(8)
        session.see("█")


def test_a_pager_is_a_part() -> None:
    pager = Pager("\n".join(f"frame {number}" for number in range(200)), title="Log")
    with Session(Screen(Down(pager, Button("Leave"))).run) as session:
        session.type("/frame 150").press("enter").see("frame 150").press("tab")
        session.type("q").see("frame 150")


def test_a_menu_bar_calls_what_is_chosen_and_gives_the_focus_back() -> None:
    chosen: list[str] = []
    night = {"open": False}
    menus = {
        "Dome": [
            MenuEntry("Open", lambda: chosen.append("open"), keys="F8"),
            MenuEntry("Park", lambda: chosen.append("park"), off=lambda: "" if night["open"] else "the dome is closed"),
            {"Lamps": [MenuEntry("Red", lambda: chosen.append("red"), marked=lambda: True)]},
        ],
        "Mast": [MenuEntry("Up", lambda: chosen.append("up"))],
    }
    frames = Field(slot(int, "Frames"))
    with Session(Screen(frames, menus=menus).run) as session:
        session.type("1").press("f10", "down").see("Park").press("down", "enter")
        assert chosen == []
        session.see("the dome is closed")
        session.press("down", "right").see("[x] Red").press("enter")
        assert chosen == ["red"]
        session.type("2")
        assert frames.value == 12
        session.press("f10", "down", "right", "enter").press("f10", "left", "down").see("Open").press("enter")
        assert chosen == ["red", "up", "open"]
        session.press("f10", "escape").type("3")
        assert frames.value == 123


def test_the_menus_of_a_program_ask_for_the_values_of_a_command_and_run_it() -> None:
    done: list[Any] = []

    def slew(target: str) -> None:
        """Turn to a target."""
        done.append(target)

    def show() -> None:
        """Show the queue."""
        print("12 frames")

    program = Program("desk", members=[slew, CommandGroup("queue", members=[show])])
    messages = MessageView(title="Said")
    with Session(Screen(messages, menus=[program, {"More": [MenuEntry("Nothing")]}]).run) as session:
        assert session.screen.startswith(" Desk   Queue   More")
        session.press("f10", "down").see("Turn to a target").press("enter").see("target")
        session.type("HOLLIN-051").press("enter")
        assert done == ["HOLLIN-051"]
        session.press("f10", "right", "down", "enter").see("12 frames")


def test_a_menu_asks_for_what_has_a_default_too() -> None:
    done: list[Any] = []

    def expose(count: int = 1, seconds: float = 60) -> None:
        """Take frames."""
        done.append((count, seconds))

    with Session(Screen(Label("desk"), menus=Program("night", members=[expose])).run) as session:
        session.press("f10", "down", "enter").see("count  1").see("seconds  60")
        session.type("3").choose("Accept")
        assert done == [(3, 60)]
        session.press("f10", "down", "enter").see("count  1").press("escape")
        assert len(done) == 1
        session.press("ctrl-d")


def test_a_session_finds_parts_by_what_they_say() -> None:
    frames = Field(slot(int, "Frames"))
    screen = Screen(Down(frames, Table([[1]], ["n"], title="Queue"), Button("Expose", lambda: screen.close("exposed"))))
    with Session(screen.run) as session:
        assert session.focus == "Frames"
        session.choose("Queue")
        assert session.focus == "Queue"
        with pytest.raises(AssertionError, match="Frames, Queue, Expose"):
            session.choose("Park")
        session.choose("Expose")
    assert session.result == "exposed"


def test_a_session_marks_where_the_focus_is() -> None:
    screen = Screen(Down(Field(slot(int, "Frames")), Label("between"), Button("Done")))
    with Session(screen.run) as session:
        rows = session.marked.split("\n")
        assert rows[0].startswith("> Frames")
        assert [row[2:].rstrip() for row in rows] == [row.rstrip() for row in session.screen.split("\n")]
        session.press("tab")
        assert [row for row in session.marked.split("\n") if row.startswith("> ")] == ["> [ Done ]"]
        session.press("ctrl-d")


def test_a_dialog_that_is_closed_leaves_the_screen_as_it_was() -> None:
    frames = Field(slot(int, "Frames"))
    screen = Screen(Down(frames, Label("below")), bindings={"f5": lambda: show_message("hello")})
    with Session(screen.run) as session:
        before, cursor = session.screen, session.cursor
        session.press("f5").see("hello").press("enter")
        assert session.screen == before
        assert session.cursor == cursor
        session.press("f5").see("hello").press("escape")
        assert session.screen == before
        assert frames.has_focus


class Gone:
    """Rows that cannot be read."""

    def __init__(self, *, has_length: bool = True) -> None:
        self.has_length = has_length

    def __len__(self) -> int:
        if not self.has_length:
            raise OSError("there is no disk")
        return 5

    def rows(self, first: int, count: int) -> list[Any]:
        raise OSError("the disk is gone")


def fail(value: object) -> None:
    """Fail as no check should."""
    raise RuntimeError("the check fails")


FAILING = [
    (lambda: Table(Gone(), ["a"]), "the disk is gone"),
    (lambda: Table([[1]], [Column("a", key=fail)]), "a"),
    (lambda: Table([{"a": 1}, None, 3], [Column("a", key="a"), "b"]), "a"),
    (lambda: Field(slot(int, "N", check=fail)), "the check fails"),
    (lambda: Field(slot(str, "N", live=True, check=fail)), "the check fails"),
    (lambda: Listing([]), "Leave"),
]


@pytest.mark.parametrize("make", [make for make, _ in FAILING])
def test_whatever_of_the_program_fails_the_screen_goes_on(make: Any) -> None:
    said = dict(FAILING)[make]
    screen = Screen(Down(make(), Button("Leave", lambda: screen.close("left"))))
    with Session(screen.run) as session:
        session.type("5").press("down", "home", "tab")
        assert said in session.screen
        if "This has failed" in session.screen:
            session.choose("Go on")
        session.choose("Leave")
    assert session.result == "left"


def test_a_pager_on_a_screen_closes_what_it_reads_from_and_opens_it_again(tmp_path: Path) -> None:
    path = tmp_path / "night.log"
    path.write_text("the wind is steady\n" * 50)

    def handles() -> int:
        return sum(os.path.realpath(f"/proc/self/fd/{name}") == str(path) for name in os.listdir("/proc/self/fd"))

    screen = Screen(Pager(path), title="Log")
    assert handles() == 1
    for _ in range(3):
        with Session(screen.run) as session:
            session.see("the wind is steady")
            session.press("ctrl-d")
        assert not handles()


def test_a_folder_to_begin_in_is_not_taken_for_the_wish_to_choose_one(tmp_path: Path) -> None:
    with pytest.raises(DeclarationError, match="start="):
        choose_file(folder=tmp_path)  # type: ignore[arg-type]


def test_every_underlined_letter_leads_to_its_part_from_every_other_one() -> None:
    pressed: list[str] = []
    parts: list[Any] = [
        Table([[1, 2]] * 9, ["n", "m"], title="Queue"),
        Listing(["one", "two"], title="Next"),
        Pager("text\n" * 50, title="Pages"),
        MessageView(title="Said"),
        Tabs(Label("a", title="Near"), Label("b", title="Far")),
        Field(slot(str, "Note", low=0), value=""),
        Field(slot(int, "Number"), value=3),
        Field(slot(one_of(["x", "y"]), "Kind")),
        *[Button(label, functools.partial(pressed.append, label)) for label in ("Park", "Pan", "Run", "Nod", "Cut")],
    ]
    widget = ScreenWidget(Down(*parts))
    widget.top.content.attach(None)
    widget.bind(Bindings())
    letters = letters_of(widget.top.content)
    assert len(letters) >= 10
    for start in parts:
        for goal, letter in letters.items():
            widget.view(100, 60)
            widget.top.arrangement.give_focus(start)
            widget.press(Key(f"alt-{letter}"))
            assert widget.focused is goal, (start, goal, letter)


def test_the_letter_of_a_part_that_is_not_to_be_seen_or_used_does_nothing() -> None:
    pressed: list[str] = []

    def button(label: str, **more: Any) -> Button:
        return Button(label, functools.partial(pressed.append, label), **more)

    note, unseen = Field(slot(str, "Note", low=0), value="one two"), button("D")
    gone, narrow, off = button("Fling"), button("Burn", hide_below=400), button("Wipe")
    tabs = Tabs(Label("a", title="Near"), Down(unseen, Field(slot(int, "Vane")), title="Xenial"))
    parts = [note, tabs, gone, Across(button("Halt"), narrow), off]
    gone.hide(True)
    off.enabled = False
    with Session(Screen(Down(*parts)).run) as session:
        letters = letters_of(session.stage.stage.top.content)
        for part in (unseen, gone, narrow, off):
            session.press(f"alt-{letters[part]}")
            assert session.focus == "Note"
        session.choose("Note")
        assert not pressed
        # What such a letter means in a field, it means there.
        assert letters[unseen] == "d"
        session.press("home", "alt-d")
        assert note.text.strip() == "two"


def test_no_letter_leads_to_a_part_and_opens_a_menu() -> None:
    bar = MenuBar({"Night": [MenuEntry("Leave")], "Dome": [MenuEntry("Open")]})
    content = Down(bar, Field(slot(str, "nd", low=0), value=""), Button("Dno"))
    assert set(letters_of(content).values()) == {"o"}


def test_parts_of_a_screen_inside_a_screen_are_found_by_their_labels() -> None:
    def open_inner() -> None:
        inner = Screen(Down(Field(slot(str, "Note")), Button("Done", lambda: inner.close("inside"))))
        said.show(str(inner.run()))

    said = Label("nothing")
    screen = Screen(Down(said, Button("Inner", open_inner), Button("Leave", lambda: screen.close("outside"))))
    with Session(screen.run) as session:
        session.choose("Inner")
        assert session.focus == "Note"
        session.type("clear").choose("Done").see("inside")
        assert session.focus == "Inner"
        session.choose("Leave")
    assert session.result == "outside"


@given(columns=st.integers(20, 100), rows=st.integers(6, 30))
def test_a_message_is_in_sight_on_the_smallest_screen(columns: int, rows: int) -> None:
    """With the button that closes it, whatever is around them."""
    screen = Screen(Button("Say", lambda: show_message("the dome is shut")), title="Desk")
    with Session(screen.run, columns=columns, rows=rows) as session:
        session.choose("Say")
        assert "the dome is shut" in session.screen
        assert "[ OK ]" in session.screen
        session.press("enter")
        assert "the dome is shut" not in session.screen


def test_a_part_is_at_one_place() -> None:
    """Else what is shown at one of them would be lost as the other one is closed."""
    part, other = Label("calm"), Label("wet")
    groups: list[Any] = [
        lambda: Down(part, Across(part)),
        lambda: Screen(Tabs(Down(part, title="a"), Down(part, title="b"))),
        lambda: Down(Down(part), part),
    ]
    for group in groups:
        with pytest.raises(DeclarationError, match="one place"):
            group()
    box = Down(Label("first"))
    acts: list[Any] = [lambda: screen.dialog(Down(other)), lambda: box.add(other), lambda: box.add(box)]
    buttons = [Button(f"Act{number}", act) for number, act in enumerate(acts)]
    screen: Screen = Screen(Down(box, other, *buttons))
    with Session(screen.run) as session:
        for number in range(len(acts)):
            session.choose(f"Act{number}")
            assert "one place" in session.screen
            session.press("escape")
            other.show(f"shown {number}")
            session.press("f1", "f1")
            assert f"shown {number}" in session.screen
