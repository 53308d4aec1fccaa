"""Whatever is in a folder, it is listed, and a path in it is completed.

Modules: ``system.folders``.
"""

from __future__ import annotations

import os
import tempfile
from pathlib import Path
from typing import Any

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from wesperon import ask
from wesperon.completion.candidates import paths
from wesperon.system.folders import entries
from wesperon.testing import Session

NAMES = st.text(st.characters(exclude_characters="/\0", exclude_categories=["Cs"]), min_size=1, max_size=6).filter(
    lambda name: name not in (".", "..")
)
KINDS = ("file", "folder", "loop", "nowhere", "to folder", "pipe")


def make(path: str, kind: str) -> None:
    if kind == "folder":
        os.mkdir(path)
    elif kind == "pipe":
        os.mkfifo(path)
    elif kind == "file":
        Path(path).touch()
    else:
        os.symlink({"loop": path, "nowhere": "/nowhere/at/all", "to folder": os.path.dirname(path)}[kind], path)


@given(held=st.dictionaries(NAMES, st.sampled_from(KINDS), max_size=6), word=st.text("ab./~\0 é", max_size=5))
@example(held={}, word="~\0/")
def test_a_folder_is_what_the_system_says(held: dict[str, str], word: str) -> None:
    with tempfile.TemporaryDirectory() as folder:
        for name, kind in held.items():
            make(os.path.join(folder, name), kind)
        wanted = {name: os.path.isdir(os.path.join(folder, name)) for name in os.listdir(folder)}
        assert dict(entries(folder)) == wanted
        for only in (False, True):
            found = {one.text for one in paths(f"{folder}/", folders=only)}
            seen = {name: is_folder for name, is_folder in wanted.items() if not name.startswith(".")}
            assert found == {
                f"{folder}/{name}" + "/" * is_folder for name, is_folder in seen.items() if is_folder or not only
            }
            paths(word, folders=only)


@pytest.mark.parametrize("kind", KINDS)
def test_a_path_is_completed_beside_anything(tmp_path: Path, kind: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    make(str(tmp_path / "raw1"), kind)
    (tmp_path / "raw2.toml").touch()
    wanted: Any = Path("raw2.toml")
    with Session(lambda: ask("Which file?", Path)) as session:
        session.type("raw2").press("tab", "enter")
        assert session.result == wanted
