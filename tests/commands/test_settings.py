"""Settings that a program writes: the next run reads what was set, and nothing else in the file has changed.

Modules: ``commands.settings``.
"""

from __future__ import annotations

import datetime
import decimal
import os
import subprocess
import tomllib
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.harness import python
from wesperon import Command, CommandGroup, DeclarationError, Form, Problems, Program, Refusal, any_of, one_of, slot
from wesperon.kinds import size

RECORDS: list[Any] = []


class Options(Form):
    site = slot(default="Hollin")


class Expose(Command):
    """Put an exposure into the queue."""

    seconds = slot(float, default=30, low=0.1, high=3600)
    frames = slot(int, default=1, low=1)
    note = slot(default="")
    tags = slot(dict[str, int], default={})
    days = slot(int, many=True, default=())
    names = slot(many=True, default=())
    camera = slot(one_of(["wide", "deep"]), default="wide")
    filters = slot(any_of(["red", "blue, dark", "green"]), default=())
    when = slot(datetime.date, default=None)
    pause = slot(datetime.timedelta, default=None)
    gain = slot(decimal.Decimal, default=None)
    memory = slot(size(), default=0)
    guided = slot(bool, default=False)
    loud = slot(bool, many=True)
    class_ = slot(default="")
    token = slot(secret=True, default=None)

    def run(self) -> None:
        RECORDS.append(self)


class Park(Command):
    """Park the telescope."""

    seconds = slot(int, default=3)
    listed = False


class Queue(Command):
    depth = slot(int, default=1)


def desk(**keywords: Any) -> Program:
    members = [Expose, Park, CommandGroup("mast", members=[Park])]
    return Program("desk", shared=Options, members=members, default_command=Queue, settings=True, **keywords)


VALUES: dict[str, st.SearchStrategy[Any]] = {
    "seconds": st.floats(0.1, 3600) | st.integers(1, 3600) | st.integers(1, 3600).map(str),
    "frames": st.integers(1, 10**9) | st.integers(1, 99).map(str),
    "note": st.text(max_size=12).filter(lambda text: text.strip() != ""),
    "tags": st.dictionaries(
        st.text('ab .["#', min_size=1, max_size=4).filter(lambda text: text.strip() == text),
        st.integers(),
        min_size=1,
    ),
    "days": st.lists(st.integers(), min_size=1).map(tuple),
    "names": st.lists(st.text(min_size=1, max_size=6).filter(lambda text: text.strip() != ""), min_size=1).map(tuple),
    "camera": st.sampled_from(["wide", "deep"]),
    "filters": st.sets(st.sampled_from(["red", "blue, dark", "green"]), min_size=1),
    "when": st.dates(),
    "pause": st.timedeltas(datetime.timedelta(0), datetime.timedelta(days=9)).map(
        lambda one: one - datetime.timedelta(microseconds=one.microseconds)
    ),
    "gain": st.decimals(allow_nan=False, allow_infinity=False, places=3),
    "memory": st.integers(0, 10**12),
    "guided": st.booleans() | st.sampled_from(["yes", "no"]),
    "loud": st.integers(0, 5),
    "class_": st.sampled_from(["a", "a b", "'", "\\"]),
}
DOCUMENT = """# mine
site = "Quill"   # where

[expose]  # how
# the camera
camera = "deep" # narrow

[mast]
"""


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    return tmp_path / "desk"


@given(st.data())
@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_what_is_set_is_what_the_next_run_reads(folder: Path, data: st.DataObject) -> None:
    folder.mkdir(exist_ok=True)
    path = folder / "settings.toml"
    path.write_text(
        data.draw(
            st.sampled_from(["", DOCUMENT, DOCUMENT.replace("[expose]", "[other]\n[expose]").replace("[other]\n", "")])
        )
    )
    comments = [line.strip() for line in path.read_text().splitlines() if line.startswith("#")]
    program, wanted = desk(), {}
    for name in data.draw(st.lists(st.sampled_from([*VALUES]), min_size=1, max_size=4)):
        value = data.draw(VALUES[name])
        typed = data.draw(st.sampled_from([f"expose {name}", f"expose.{name}", *([name] if name != "seconds" else [])]))
        try:
            str(value).encode()
        except UnicodeEncodeError:
            with pytest.raises(Problems, match="no file can hold"):
                program.settings.set(typed, value)
            continue
        program.settings.set(typed, value)
        wanted[name] = value
    text = path.read_text()
    assert [line.strip() for line in text.splitlines() if line.startswith("#")] == comments
    assert set(tomllib.loads(text).get("expose", {})) <= {*VALUES, "camera"}
    RECORDS.clear()
    assert program.main(["expose"]) == 0
    record = RECORDS
    for name, value in wanted.items():
        slot_of: Any = getattr(Expose, name)
        if isinstance(value, str) and name != "note":
            value = slot_of.combine([value])
        if name == "filters":
            value = tuple(one for one in ["red", "blue, dark", "green"] if one in value)
        assert getattr(record[0], name) == value
        assert record[0].origins[name] == "settings"


def test_a_name_alone_is_the_programs_own_slot_or_the_only_one(folder: Path) -> None:
    program = desk()
    assert program.settings.path == str(folder / "settings.toml")
    for name, value in (
        ("site", "Quill"),
        ("depth", 4),
        ("mast park seconds", 5),
        ("park.seconds", "6"),
        ("expose class", "x"),
    ):
        program.settings.set(name, value)
    assert tomllib.loads((folder / "settings.toml").read_text()) == {
        "site": "Quill", "depth": 4, "mast": {"park": {"seconds": 5}}, "park": {"seconds": 6}, "expose": {"class_": "x"}
    }  # fmt: skip
    assert (folder / "settings.toml").stat().st_mode & 0o77 == 0


@pytest.mark.parametrize(
    ("name", "value", "reason"),
    [
        ("seconds", 3, '"seconds" is ambiguous: expose seconds, park seconds, mast park seconds'),
        ("exposed seconds", 3, '"exposed seconds" is no setting of desk'),
        ("framess", 3, "nearest: frames"),
        ("frames", 0, "too low: must be at least 1"),
        ("frames", "x", '"x" is not a whole number'),
        ("frames", 2.5, "2.5"),
        ("frames", None, "is nothing, which no file of settings can say"),
        ("note", "", "is empty"),
        ("camera", "round", '"round" is not one of'),
        ("token", "abc", "is a secret, and is not written to a file"),
        ("", 3, "is no setting of desk"),
    ],
)
def test_what_cannot_be_set_is_told_and_the_file_stays(folder: Path, name: str, value: Any, reason: str) -> None:
    folder.mkdir()
    (folder / "settings.toml").write_text(DOCUMENT)
    with pytest.raises(Problems, match=reason):
        desk().settings.set(name, value)
    assert (folder / "settings.toml").read_text() == DOCUMENT


def test_a_file_that_cannot_be_changed_is_told(folder: Path) -> None:
    folder.mkdir()
    path = folder / "settings.toml"
    for text, reason in (
        ("a = = 1", "cannot be parsed"),
        ("expose = 3\n", "change it by hand"),
        ("# \xe9", "not UTF-8"),
    ):
        path.write_bytes(text.encode("latin-1"))
        with pytest.raises(Refusal, match=reason):
            desk().settings.set("frames", 3)
        assert path.read_bytes() == text.encode("latin-1")
    path.unlink()
    path.mkdir()
    with pytest.raises(Refusal, match="is not written"):
        desk().settings.set("frames", 3)
    with pytest.raises(DeclarationError, match="settings=True"):
        _ = Program("desk", members=[Expose]).settings


def test_many_programs_may_write_at_once(folder: Path) -> None:
    code = (
        "import sys\nfrom tests.commands.test_settings import desk\ndesk().settings.set('expose names', sys.argv[1:])\n"
    )
    code += "desk().settings.set('expose ' + sys.argv[1], sys.argv[2])"
    pairs = [("frames", "7"), ("note", "x"), ("memory", "4K"), ("camera", "deep"), ("loud", "2"), ("guided", "yes")]
    running = [subprocess.Popen(python("-c", code, *pair), env={**os.environ}) for pair in pairs]
    assert [one.wait() for one in running] == [0] * len(pairs)
    held = tomllib.loads((folder / "settings.toml").read_text())["expose"]
    assert held.pop("names") in [list(pair) for pair in pairs]
    assert held == {"frames": 7, "note": "x", "memory": "4K", "camera": "deep", "loud": 2, "guided": True}
