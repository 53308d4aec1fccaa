"""Writing one preference into any document: it says what it said before, but for that one.

Modules: ``files.toml_change``, ``terminal.preferences_file``.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.harness import ENTER, Terminal, python
from wesperon.files.toml_change import set_value, with_value
from wesperon.terminal.preferences import preferences_of
from wesperon.values import Complaint

KEYS = ["keys", "theme", "ctrl-a", '"alt-."', "'alt-='", '"a = b"', "'[x]'", '"é"', "modal", "command", "bindings"]
VALUES = [
    '"dark"', "'x # y'", "true", "12", "1.5", "[1, 2]", "2031-04-17", "[\n  'a', # one\n  'b = c',\n]",
    '"""\n[bindings]\nkeys = "no"\n"""', "'''\na = 1'''",
    '{text = "a, b"}', '{"alt-." = "x", y = {z = "1"}}', '"a\\"b"',
]  # fmt: skip
ROWS = st.one_of(
    st.builds("{} = {}{}".format, st.sampled_from(KEYS), st.sampled_from(VALUES), st.sampled_from(["", " # why = 1"])),
    st.builds("{}.{} = {}".format, st.sampled_from(KEYS), st.sampled_from(KEYS), st.sampled_from(VALUES)),
    st.builds("[{}]".format, st.sampled_from(KEYS)),
    st.builds("[{}.{}]  # a heading".format, st.sampled_from(KEYS), st.sampled_from(KEYS)),
    st.builds("[[{}]]".format, st.sampled_from(KEYS)),
    st.sampled_from(["", "# a comment", "  # keys = 1"]),
)
PATHS = st.lists(
    st.sampled_from(["keys", "theme", "ctrl-a", "alt-.", "alt-=", "a = b", "[x]", "é", "modal", "command", "bindings"]),
    min_size=1, max_size=3,
).map(tuple)  # fmt: skip


def is_document(text: str) -> bool:
    try:
        tomllib.loads(text)
    except ValueError:
        return False
    return True


def put(document: dict[str, Any], path: tuple[str, ...], value: str) -> dict[str, Any] | None:
    """Return what the document is to say; None if something is in the way."""
    below: Any = document
    for name in path[:-1]:
        below = below.setdefault(name, {})
        if not isinstance(below, dict):
            return None
    held = below.get(path[-1])
    if isinstance(held, dict) or (isinstance(held, list) and any(isinstance(one, dict) for one in held)):
        return None
    below[path[-1]] = value
    return document


@settings(max_examples=200, deadline=None)
@given(text=st.lists(ROWS, max_size=8).map("\n".join).filter(is_document), path=PATHS)
def test_a_document_says_what_it_said_but_for_the_one_path(text: str, path: tuple[str, ...]) -> None:
    wanted = put(tomllib.loads(text), path, "new")
    if wanted is None:
        with pytest.raises(Complaint, match="change it by hand"):
            with_value(text, path, '"new"')
        return
    made = with_value(text, path, '"new"')
    assert tomllib.loads(made) == wanted
    assert all(row in made for row in text.split("\n") if row.strip() == "# a comment")


def test_what_many_write_at_once_is_all_kept(tmp_path: Path) -> None:
    path = tmp_path / "wesperon" / "preferences.toml"
    code = "import sys; from wesperon.files.toml_change import set_value\n"
    code += "set_value(sys.argv[1], ('bindings', 'f' + sys.argv[2]), '\"undo\"')"
    running = [subprocess.Popen([sys.executable, "-c", code, str(path), str(number)]) for number in range(1, 13)]
    assert [one.wait() for one in running] == [0] * 12
    assert tomllib.loads(path.read_text()) == {"bindings": {f"f{number}": "undo" for number in range(1, 13)}}


@pytest.mark.parametrize("data", [b"keys = 'modal'\n# caf\xe9\n", b"\xff\xfe", b"theme = '\x80'\n"])
def test_bytes_that_are_no_text_are_told_with_their_line_and_end_nothing(data: bytes, tmp_path: Path) -> None:
    path = tmp_path / "wesperon" / "preferences.toml"
    path.parent.mkdir()
    path.write_bytes(data)
    line = data.count(b"\n", 0, next(at for at, byte in enumerate(data) if byte >= 0x80)) + 1
    told = preferences_of([str(path)]).faults
    assert len(told) == 1
    assert f"in line {line}" in told[0]
    with pytest.raises(Complaint, match=f"in line {line}"):
        set_value(str(path), ("keys",), '"modal"')
    assert path.read_bytes() == data
    with Terminal(
        python("-c", "from wesperon import fill, slot; print('got', *fill([], a=slot()))"),
        env={"XDG_CONFIG_HOME": str(tmp_path)},
    ) as terminal:
        terminal.see("in line")
        terminal.see("Enter: accept")
        terminal.type("x" + ENTER)
        terminal.see("got x")
        assert terminal.end() == 0


def test_a_lock_that_is_never_given_back_is_told(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    import fcntl

    path = tmp_path / "preferences.toml"
    monkeypatch.setattr("wesperon.files.toml_change.PATIENCE", 0.05)
    with open(str(path) + ".lock", "w") as other:
        os.chmod(other.fileno(), 0o600)
        fcntl.flock(other, fcntl.LOCK_EX)
        with pytest.raises(OSError, match="another program"):
            set_value(str(path), ("keys",), '"modal"')
    assert not path.exists()
