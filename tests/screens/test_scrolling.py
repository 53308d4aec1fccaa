"""What does not fit is seen page by page, by keys and by the mouse, also what never has the focus.

Modules: ``widgets.parts.boxes``, ``widgets.parts.arrangement``.
"""

from __future__ import annotations

import random

import pytest

from wesperon import Across, Button, Down, Field, Label, Screen, slot
from wesperon.editing.keys.events import Key, Mouse
from wesperon.screen.frame import Frame, row_text
from wesperon.testing import Session
from wesperon.widgets.parts.boxes import Divider, ScrollBar
from wesperon.widgets.parts.part import Part
from wesperon.widgets.parts.screen_widget import ScreenWidget


def words(rolled: random.Random, name: str) -> str:
    return "\n".join(f"{name}{number}" for number in range(rolled.randint(1, 14)))


def tree(rolled: random.Random) -> tuple[Part, set[str]]:
    """Return parts below each other, some with the focus, and the words in them."""
    parts: list[Part] = []
    texts: set[str] = set()
    for number in range(rolled.randint(1, 6)):
        name = "abcdefgh"[number]
        if rolled.random() < 0.3:
            parts.append(Button(f"{name}0"))
            texts.add(f"{name}0")
        elif rolled.random() < 0.3:
            text = words(rolled, name)
            parts.append(Across(Label(text), Label("beside"), title=f"{name}99" if rolled.random() < 0.5 else ""))
            texts |= {*text.split()}
        else:
            text = words(rolled, name)
            parts.append(Label(text))
            texts |= {*text.split()}
    return Down(*parts), texts


def seen(widget: ScreenWidget, columns: int, rows: int) -> tuple[Frame, set[str]]:
    frame = widget.view(columns, rows)
    widget.drawn()
    return frame, {word.strip("[]") for row in frame.rows for word in row_text(row).split()}


@pytest.mark.parametrize("seed", range(60))
def test_every_row_of_every_part_is_seen_page_by_page(seed: int) -> None:
    rolled = random.Random(seed)
    content, texts = tree(rolled)
    content.attach(None)
    widget = ScreenWidget(content)
    columns, rows = rolled.randint(20, 60), rolled.randint(4, 12)
    found = seen(widget, columns, rows)[1]
    for name in ("page-up", "page-down"):
        for _ in range(100):
            widget.press(Key(name))
            frame, more = seen(widget, columns, rows)
            assert len(frame.rows) == rows
            found |= more
    assert texts <= found
    # Any other key has the part with the focus in sight again.
    widget.press(Key("f9"))
    widget.view(columns, rows)
    focused = widget.top.arrangement.focused
    if focused is not None:
        box = widget.top.arrangement.box_of(focused)
        assert box is not None
        assert box.rows


@pytest.mark.parametrize("seed", range(30))
def test_the_wheel_and_the_bar_show_them_too(seed: int) -> None:
    rolled = random.Random(seed)
    content, texts = tree(rolled)
    content.attach(None)
    widget = ScreenWidget(content)
    columns, rows = 40, 8
    frame, found = seen(widget, columns, rows)
    bars = [one for one in widget.top.arrangement.placed if isinstance(one.part, ScrollBar)]
    assert bool(bars) == (not texts <= found)
    for way in ("wheel-up", "wheel-down"):
        for _ in range(60):
            widget.press(frame.clicks.aimed(Mouse(way, "press", 1, 0)))
            frame, more = seen(widget, columns, rows)
            found |= more
    assert texts <= found
    if bars:
        edge = bars[0].box
        for at in (edge.row, edge.row + edge.rows - 1):
            widget.press(frame.clicks.aimed(Mouse("left", "press", at, edge.column)))
            frame, more = seen(widget, columns, rows)
            first, last = sorted(texts)[0][0], sorted(texts)[-1][0]
            assert any(word.startswith(first if at == edge.row else last) for word in more)


def test_the_focus_comes_along_and_typing_shows_it_again() -> None:
    fields = [Field(slot(str, f"Field {number}", low=0), value="") for number in range(30)]
    with Session(lambda: Screen(Down(*fields)).run(), rows=10) as session:
        session.press("page-down", "page-down").see("Field 20")
        assert "Field 0 " not in session.screen
        session.type("here")
        assert "here" in session.screen
        session.press("page-up", "page-up").see("Field 0")
        session.press("ctrl-d")
    assert [field.value for field in fields if field.value] == ["here"]


def test_a_long_text_in_a_dialog_can_be_read_to_its_end_and_back() -> None:
    text = "\n".join(f"line {number}" for number in range(60))

    def show() -> None:
        screen = Screen(Button("More", lambda: screen.dialog(Down(Label(text), Button("Done")))))
        screen.run()

    with Session(show, rows=16) as session:
        session.press("enter").see("Done")
        found = set()
        for _ in range(12):
            found |= {line.strip("│ ") for line in session.screen.splitlines() if "line" in line}
            session.press("page-up")
        assert {found_line.split("  ")[0] for found_line in found} >= {f"line {number}" for number in range(60)}
        session.see("line 0")
        session.press("ctrl-d", "ctrl-d")


@pytest.mark.parametrize("down", [False, True])
@pytest.mark.parametrize("hides", [False, True])
@pytest.mark.parametrize("by", [-40, -4, 3, 40])
def test_a_divider_is_moved_by_the_mouse_and_by_keys(down: bool, hides: bool, by: int) -> None:
    parts = [Button("hidden"), Button("first"), Button("second")]
    parts[0].is_hidden = hides
    for part in parts:
        part.wished = (None, 1, None, None, 0)
    group = (Down if down else Across)(*parts, divided=True)
    group.attach(None)
    widget = ScreenWidget(group)
    columns, rows = 60, 30
    frame, _ = seen(widget, columns, rows)
    before = [*group.sizes]
    divider = [one for one in widget.top.arrangement.placed if isinstance(one.part, Divider)][-1].box
    to = (divider.row + by, divider.column) if down else (divider.row, divider.column + by)
    widget.press(frame.clicks.aimed(Mouse("left", "press", divider.row, divider.column)))
    widget.press(frame.clicks.aimed(Mouse("left", "release", *to)))
    seen(widget, columns, rows)
    after = [*group.sizes]
    assert sum(after) == sum(before)
    assert min(after) >= 3
    if abs(by) < 10:
        assert after[-2:] == [before[-2] + by, before[-1] - by]
    widget.top.arrangement.give_focus(parts[1])
    seen(widget, columns, rows)
    widget.divider_back()
    seen(widget, columns, rows)
    assert group.sizes[-2] == after[-2] - (by != -40)  # it has its least by then
