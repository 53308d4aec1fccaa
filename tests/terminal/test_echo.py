"""A key that types at the end of a line is shown without a frame: the screen is what a frame would have made it.

Modules: ``terminal.driver``, ``terminal.live_screen``, ``screen.painter``.
"""

from __future__ import annotations

from collections.abc import Callable, Generator
from contextlib import suppress
from datetime import date
from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import (
    Across,
    Button,
    Command,
    Console,
    Context,
    Down,
    Field,
    Form,
    Label,
    Program,
    Screen,
    Trend,
    one_of,
    slot,
)
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.events import typed
from wesperon.editing.keys.families import family_named
from wesperon.editing.text_state import TextState, whole
from wesperon.scope import within
from wesperon.screen.frame import Frame
from wesperon.screen.painter import Painter
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.scripted import Scripted, key_named
from wesperon.testing import Resize
from wesperon.text.escape import is_plain
from wesperon.values.candidate import Candidate
from wesperon.values.problems import Problems
from wesperon.widgets.line import Line
from wesperon.widgets.widget import Widget

#: In a step: a notice is shown below the widget until the next step; the terminal is narrower, though nothing says so;
#: others have written to it.
NOTICE, NARROWER, WRITTEN = object(), object(), object()


class Echoing(Scripted):
    """A driver that shows keys without a frame where it can; wherever it waits, a frame would send nothing."""

    echoes = True

    def __init__(self, script: list[Any], **size: int) -> None:
        super().__init__(script, **size)
        self.widgets: list[Widget] = []
        self.screen.theme.colours = 16
        self.echoed = 0
        echo = self.screen.echo

        def counted(text: str, columns: int, rows: int) -> bool:
            shows = echo(text, columns, rows)
            self.echoed += shows
            return shows

        self.screen.echo = counted  # type: ignore[method-assign]

    def steps(self, widget: Widget, options: DriverOptions | None = None) -> Generator[None, list[Any], None]:
        self.widgets.append(widget)
        yield from super().steps(widget, options)
        self.widgets.pop()

    def wait(self) -> list[Any]:
        columns, rows = self.size()
        if self.widgets and not self.inbox:
            sent = len(self.sent)
            self.screen.draw_again(columns, rows)
            self.screen.draw(self.widgets[-1].view(columns, rows), columns, rows)
            assert self.sent[sent:] == []
        events: list[Any] = super().wait()
        self.screen.notice = "time is short" if NOTICE in events else ""
        self.columns -= NARROWER in events and self.columns > 20
        if WRITTEN in events:
            self.screen.painter.forget_rows()
        return [event for event in events if event not in (NOTICE, NARROWER, WRITTEN)]


def enclosed(state: TextState) -> TextState:
    """Put in both brackets, the cursor between them."""
    return TextState(state.text + "()", len(state.text) + 1)


SLOTS: dict[str, Callable[[], Any]] = {
    "target": lambda: slot(help="what to look at", default="Lantern"),
    "frames": lambda: slot(int, low=1, high=99, unit="frames"),
    "night": lambda: slot(date),
    "note": lambda: slot(lines=True, syntax="python"),
    "site": lambda: slot(suggest=["Hollin", "Holm", "Isle"]),
    "lamps": lambda: slot(dict[str, int]),
    "password": lambda: slot(secret=True),
    "where": lambda: slot(Path),
    "sure": lambda: slot(bool),
    "rows": lambda: slot(str, many=True),
    "lamp": lambda: slot(one_of(["north", "south"])),
}


class Expose(Command):
    """Expose."""

    target = slot()
    seconds = slot(float)

    def run(self) -> None:
        """Do nothing."""


class Park(Command):
    """Park."""

    def run(self) -> None:
        """Do nothing."""


class Pan(Park):
    """Pan."""


def questions(*names: str) -> Callable[[Scripted], None]:
    form: Any = type("Plan", (Form,), {name: SLOTS[name]() for name in names})

    def opened(driver: Scripted) -> None:
        form.fill(["--asking", "all"], driver=driver, bindings={"ctrl-t": "enclose"}, actions={"enclose": enclosed})

    return opened


def console(driver: Scripted) -> None:
    opened = Console(
        Program("desk", members=[Expose, Park, Pan]), driver=driver, history=False, note="note", prompt="above"
    )
    opened.history.add("bab 12")
    opened.run()


def language(driver: Scripted) -> None:
    Console(evaluate=len, driver=driver, syntax="python", complete=lambda text, at: ["alpha", "alps"]).run()


def calculator(driver: Scripted) -> None:
    Console(evaluate=len, driver=driver, complete=lambda text, at: ["alpha", "alps"]).run()


def fields(driver: Scripted) -> None:
    said = Label("")
    made: list[Any] = [Field(one(), label=name) for name, one in SLOTS.items()]
    made.insert(0, Field(slot(int, low=100, high=199, live=True), label="live"))
    for at, field in enumerate(made):
        field.on_change(lambda value, at=at: said.show(f"{at}: {value}") if at % 2 else None)
    opened = Button("Open", lambda: screen.dialog(Down(Field(slot(str), label="inside"))))
    screen: Any = Screen(Across(Down(*made[:6]), Down(*made[6:], said, opened)), title="Log")
    screen.run(driver=driver)


def form_on_a_screen(driver: Scripted) -> None:
    form: Any = type("Plan", (Form,), {name: one() for name, one in SLOTS.items()})
    form.fill(["--asking", "all"], driver=driver, layout="screen")


OPENED = {
    "fields": fields,
    "form on a screen": form_on_a_screen,
    "card": questions(*SLOTS),
    "console": console,
    "language": language,
    "calculator": calculator,
    **{name: questions(name) for name in SLOTS},
}
CHARS = [*"ab1 =:,-'(é€", "\u0301"]
NAMED = ["left", "end", "up", "down", "backspace", "tab", "enter", "ctrl-r", "ctrl-w", "insert", "f1", "alt-enter"]
NAMED += ["ctrl-t", "ctrl-l", "shift-tab", "ctrl-_", "ctrl-space", "escape"]
WORDS = ["expose ", "park", "al", "if ", "a" * 12, "12", "2031-04-17"]
WORDS += ["size 24 6", "size 60 9", "notice", "noticea", "narrower", "written"]


def steps(name: str) -> list[Any]:
    """Return the steps of a name: a size, a notice, a named key, or a text, key by key."""
    if name.startswith("size "):
        return [Resize(*map(int, name.split()[1:]))]
    if name.startswith("notice"):
        return [[NOTICE, *map(typed, name.removeprefix("notice"))]]
    if name in ("narrower", "written"):
        return [[NARROWER if name == "narrower" else WRITTEN, typed("a")]]
    return [[key_named(name)]] if name in NAMED else [*name]


@pytest.mark.parametrize("family", ["modeless", "modal"])
@pytest.mark.parametrize("opened", OPENED.values(), ids=list(OPENED))
@settings(max_examples=40)
@given(keys=st.lists(st.sampled_from([*"abc"] * 3) | st.sampled_from([*CHARS, *NAMED, *WORDS]), max_size=40))
def test_a_frame_drawn_after_any_key_would_send_nothing(
    opened: Callable[[Scripted], None], family: str, keys: list[str]
) -> None:
    driver = Echoing([one for key in keys for one in steps(key)], columns=40, rows=12)
    with suppress(SystemExit, KeyboardInterrupt, Problems), within(Context(environ={"WESPERON_KEYS": family})):
        opened(driver)


@pytest.mark.parametrize("columns", [20, 31, 40, 41])
@pytest.mark.parametrize("opened", OPENED.values(), ids=list(OPENED))
def test_a_line_is_echoed_up_to_where_it_breaks(opened: Callable[[Scripted], None], columns: int) -> None:
    driver = Echoing([*"c" * 100], columns=columns)
    with suppress(SystemExit, Problems):
        opened(driver)
    assert driver.frames


def test_keys_at_the_end_of_a_line_are_echoed_and_others_are_not() -> None:
    driver = Echoing([*"Lan", [key_named("left")], "x", [key_named("end")], *"tern", "é", *"abc"], columns=60)
    with pytest.raises(Problems):
        questions("frames", "site")(driver)
    assert driver.echoed == len("an") + len("tern")  # before the first one, it was not known what keys do
    assert [text for text in driver.sent if is_plain(text)][:3] == ["L", "a", "n"]


def test_keys_in_one_field_of_many_are_echoed() -> None:
    fields = [Field(slot(str), label=f"field {at}") for at in range(40)]
    driver = Echoing([*"Lan", [key_named("tab")], *"tern", [key_named("left")], "x"], columns=80)
    Screen(Across(Down(*fields[:20]), Down(*fields[20:]))).run(driver=driver)
    assert [field.value for field in fields[:2]] == ["Lan", "terxn"]
    assert driver.echoed == len("an") + len("tern")


def test_a_text_that_comes_back_selected_is_drawn() -> None:
    driver = Echoing([one for key in ("a", "ctrl-_", "ctrl-space", "ctrl-_") for one in steps(key)], columns=40)
    with pytest.raises(Problems):
        questions("target", "site")(driver)
    assert driver.echoed == 0


def test_a_key_that_changes_more_than_its_field_is_drawn() -> None:
    sizes, note = Trend(), Field(slot(str), label="note")
    note.on_change(lambda value: sizes.show(len(value)))
    driver = Echoing([*"clear"], columns=60)
    Screen(Down(note, sizes)).run(driver=driver)
    assert driver.echoed == 0
    assert sizes.value == (1, 2, 3, 4, 5)


def test_a_reason_that_comes_or_goes_is_drawn() -> None:
    def known(text: str) -> str:
        if len(text) < 4:
            raise ValueError(f"{text} is not known")
        return text

    site = Field(slot(known, live=True), label="site")
    driver = Echoing([*"Hollin", [key_named("backspace")] * 4, *"llin", [key_named("tab")]], columns=60)
    Screen(Down(site, Field(slot(str), label="note"))).run(driver=driver)
    assert site.value == "Hollin"
    assert driver.echoed == 4


def test_a_line_of_a_console_is_drawn_as_soon_as_its_command_is_known() -> None:
    driver = Echoing(["x", [key_named("backspace")], *"park"], columns=60)
    console(driver)
    assert driver.echoed == len("pa")


def bare_line(**settings: Any) -> Line:
    """Return a line that was drawn with a letter in it."""
    line = Line(slot(int).parse, **settings)
    line.bind(Bindings())
    line.press(typed("4"))
    line.view(40, 5)
    line.drawn()
    return line


def test_a_text_with_something_below_it_is_drawn() -> None:
    line = bare_line(complete=lambda text, at: (0, [Candidate("45 a"), Candidate("45 b")]))
    line.press(key_named("tab"))
    assert (line.text, line.echo()) == ("45 ", "")
    line = bare_line(live=True)
    line.press(typed("x"))
    assert (line.text, line.echo()) == ("4x", "")
    line = bare_line()
    line.editor.finder = SimpleNamespace(shown=whole("45"))  # type: ignore[assignment]
    assert line.echo() == ""


def test_only_plain_text_is_added_to_a_row() -> None:
    painter = Painter({"label": "1"})
    for role, added in (("", "d"), ("label", None)):
        painter.paint(Frame(((("abc", role),),), (0, 3)), 40, 5)
        assert painter.echo("d") == added


def test_a_line_whose_cursor_has_another_shape_by_now_is_drawn() -> None:
    line = Line(str)
    line.bind(Bindings())
    line.view(40, 1)
    line.drawn()
    line.press(typed("a"))
    assert line.echo() == "a"
    line.bind(Bindings(family_named("modal")))
    line.press(typed("b"))
    assert line.text == "ab"
    assert line.echo() == ""


def test_a_text_that_its_box_breaks_is_drawn() -> None:
    line = Line(str)
    line.bind(Bindings())
    line.view(10, 1)
    line.drawn()
    echoed = []
    for char in "a" * 12:
        line.press(typed(char))
        echoed.append(line.echo())
        line.drawn()
    assert echoed == ["a"] * 9 + [""] * 3
    assert len(line.view(10, 5).rows) == 2
