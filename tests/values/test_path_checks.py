"""What a path must lead to is asked of the context: on a disk, and without one.

Modules: ``values.kinds.path``.
"""

from __future__ import annotations

from pathlib import Path
from types import SimpleNamespace
from typing import Any

import pytest

from wesperon import Context, Form, Problems, slot
from wesperon.system import disk

#: What is there, by the way that it leads to, and what each word of ``exists`` takes of it.
TREE = {
    "plan": "file",
    "night": "folder",
    "broken": "file",
    "none": "",
    "night/log": "",
    "none/log": "",
    "plan/log": "",
}
TAKES = {
    "file": {"plan", "broken"},
    "folder": {"night"},
    "either": {"plan", "broken", "night"},
    "nothing": {"none", "night/log", "none/log", "plan/log"},
    "parent": {"plan", "night", "broken", "none", "night/log"},
}


def taken(exists: Any, **parts: Any) -> set[str]:
    """Return the paths that a slot takes, in a context."""
    form: Any = type("Where", (Form,), {"path": slot(Path, exists=exists)})
    right = set()
    for name in TREE:
        try:
            form.fill([name], asking="never", context=Context(**parts))
            right.add(name)
        except Problems:
            continue
    return right


@pytest.mark.parametrize("exists", TAKES)
def test_a_disk_and_one_that_is_made_up_say_the_same(
    exists: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made_up = SimpleNamespace(look=lambda path: {**TREE, ".": "folder"}[str(path)])
    assert taken(exists, files=made_up) == TAKES[exists]
    (tmp_path / "plan").touch()
    (tmp_path / "night").mkdir()
    (tmp_path / "broken").symlink_to("nowhere")
    monkeypatch.chdir(tmp_path)
    assert taken(exists) == TAKES[exists]
    assert {name: disk.look(Path(name)) for name in TREE} == TREE
