"""A file or a folder is chosen among whatever a folder holds.

Modules: ``screens.dialogs``.
"""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.system.test_folders import KINDS, NAMES, make
from wesperon import Button, Screen, choose_file
from wesperon.testing import Session
from wesperon.text.escape import visible


@given(
    held=st.dictionaries(NAMES, st.sampled_from(KINDS), max_size=6),
    at=st.integers(0, 6),
    is_folder=st.booleans(),
    hidden=st.booleans(),
)
def test_every_entry_is_listed_and_can_be_chosen(held: dict[str, str], at: int, is_folder: bool, hidden: bool) -> None:
    with tempfile.TemporaryDirectory() as folder:
        for name, kind in held.items():
            make(os.path.join(folder, name), kind)
        every = sorted(os.listdir(folder), key=lambda name: (not (Path(folder) / name).is_dir(), name.lower(), name))
        names = [name for name in every if hidden or not name.startswith(".")]
        if is_folder:
            names = [name for name in names if os.path.isdir(os.path.join(folder, name))]
        screen = Screen(Button("Open", lambda: screen.close(choose_file(start=folder, folder=is_folder))))
        with Session(screen.run, rows=24, columns=70) as session:
            session.choose("Open")
            if hidden:
                session.choose("Hidden files").press("shift-tab", "shift-tab", "shift-tab")
            for name in names:
                assert visible(name)[:8] in session.screen
            if not names:
                return
            chosen = names[at % len(names)]
            session.press(*["down"] * (1 + at % len(names)))
            session.choose("Choose")
            if not is_folder and os.path.isdir(os.path.join(folder, chosen)):
                assert session.is_open  # gone into
            else:
                assert session.result == Path(folder) / chosen


def test_what_was_typed_does_not_narrow_the_next_folder(tmp_path: Path) -> None:
    (tmp_path / "raw" / "night").mkdir(parents=True)
    (tmp_path / "raw" / "dome.toml").touch()
    screen = Screen(Button("Open", lambda: screen.close(choose_file(start=tmp_path))))
    with Session(screen.run) as session:
        session.choose("Open").type("raw").press("enter")
        assert "dome.toml" in session.screen
        session.type("night").press("enter")
        session.choose("Above").press("tab")
        assert "dome.toml" in session.screen
        session.choose("New folder").type("flat").press("enter")
        session.choose("Choose")
        assert session.is_open
        assert "dome.toml" not in session.screen  # gone into


@pytest.mark.parametrize("name", ["a/b", "raw", ""])
def test_a_folder_that_cannot_be_made_says_why(tmp_path: Path, name: str) -> None:
    (tmp_path / "raw").mkdir()
    screen = Screen(Button("Open", lambda: screen.close(choose_file(start=tmp_path, folder=True))))
    with Session(screen.run) as session:
        session.choose("Open").choose("New folder").type(name).press("enter")
        assert any(said in session.screen for said in ("No such file", "File exists", "a value is required"))
