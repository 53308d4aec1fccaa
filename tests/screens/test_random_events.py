"""Random keys, clicks, pastes and sizes on random screens: what is shown fits, and is what drawing all again shows.

Modules: ``screens.running``, ``widgets.parts.screen_widget``, ``widgets.parts.levels``, ``screen.overlay``.
"""

from __future__ import annotations

import random
from typing import Any

import pytest

from tests.screens.trees import tree
from wesperon import Button, Down, Screen, show_message
from wesperon.editing.keys.events import Mouse, Paste, Resize, typed
from wesperon.screen.frame import Frame, row_text
from wesperon.screen.width import width
from wesperon.terminal.scripted import key_named
from wesperon.testing import Scripted

KEYS = [
    *("tab", "shift-tab", "up", "down", "left", "right", "enter", "space", "escape", "home", "end", "page-up"),
    *("page-down", "backspace", "delete", "ctrl-a", "ctrl-k", "alt-t", "alt-l", "f1", "ctrl-x", "ctrl-u", "alt-f"),
]


class Watching(Scripted):
    """A scripted driver that looks at each frame."""

    frames_seen = 0

    def look_at(self, frame: Frame) -> None:
        """Compare the frame with one that is made anew of the same screen."""
        super().look_at(frame)
        stage: Any = self.stage
        if stage is None or stage.outcome is not None:
            return
        self.frames_seen += 1
        columns, rows = self.size()
        assert len(frame.rows) == rows
        assert all(width(row_text(row)) <= columns for row in frame.rows)
        assert not any(control in row_text(row) for row in frame.rows for control in "\x1b\n\t\r\x07")
        for level in stage.levels:
            level.arrangement.forget()
            for part in level.content.leaves():
                part.is_stale = True
        again = stage.view(columns, rows)
        assert [row_text(row).rstrip() for row in again.rows] == [row_text(row).rstrip() for row in frame.rows]
        assert again.cursor == frame.cursor
        focused = stage.focused
        assert focused is None or (focused.enabled and focused in stage.top.arrangement.shown)


def events(rolled: random.Random, count: int) -> list[Any]:
    """Return random events."""
    made: list[Any] = []
    for _ in range(count):
        roll = rolled.random()
        if roll < 0.7:
            made.append(key_named(rolled.choice(KEYS)))
        elif roll < 0.8:
            made.append(typed(rolled.choice("abL1漢 é0")))
        elif roll < 0.86:
            made.append(Paste(rolled.choice(["12\x1b[2J", "two\nlines", "漢字", "x" * 300])))
        elif roll < 0.94:
            name = rolled.choice(["left", "wheel-up", "wheel-down"])
            action = rolled.choice(["press", "press", "release"])
            made.append(Mouse(name, action, rolled.randrange(40), rolled.randrange(120)))
        else:
            made.append(Resize(rolled.choice([1, 9, 20, 80, 130]), rolled.choice([1, 2, 6, 24, 50])))
    return [[one] for one in made]


@pytest.mark.parametrize("seed", range(12))
def test_any_events_leave_a_screen_that_fits_and_is_what_one_drawn_anew_shows(seed: int) -> None:
    rolled = random.Random(seed)
    content = Down(tree(rolled), Button("Say", lambda: show_message("漢 " * 30, title="said")))
    driver = Watching(events(rolled, 120), columns=80, rows=24)
    assert Screen(content, title=rolled.choice(["", "Desk"])).run(driver=driver) is None
    assert driver.frames_seen > 60
