"""Paths by default: what is on the disk is looked at when a value is used, never where it is declared.

Modules: ``values.examination``, ``values.slots``, ``forms.form_flow``.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from wesperon import DeclarationError, Form, Problems, slot
from wesperon.testing import Session
from wesperon.values.kinds.path import EXISTS, check_exists

THERE = {"file": "file", "folder": "folder", "either": "file", "nothing": "gone", "parent": "gone"}
NOT_THERE = {"file": "gone", "folder": "file", "either": "gone", "nothing": "file", "parent": "gone/deep"}


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "file").touch()
    (tmp_path / "folder").mkdir()
    return tmp_path


@given(st.sampled_from([*EXISTS]), st.booleans(), st.booleans(), st.booleans(), st.booleans())
@settings(deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_a_default_is_declared_anywhere_and_must_be_there_where_it_is_used(
    folder: Path, exists: str, is_right: bool, several: bool, applies: bool, is_given: bool
) -> None:
    path = folder / (THERE if is_right else NOT_THERE)[exists]
    right = folder / THERE[exists]
    make: Any = slot
    one = make(Path, exists=exists, many=several, default=(path,) if several else path, applies=lambda so_far: applies)
    form: Any = type("Night", (Form,), {"first": slot(int, default=1), "path": one})
    words = [f"--path={right}"] if is_given and applies else []
    if is_right or words or not applies:
        wanted = right if words else path
        assert form.fill(words).path == ((wanted,) if several else wanted)
        assert form(path=[right]).path == (right,) if applies and several else True
    else:
        with pytest.raises(Problems) as told:
            form.fill(words)
        [problem] = told.value.problems
        assert (problem.slot, problem.source) == ("path", "default")
        with pytest.raises(Exception, match=r".") as why:
            check_exists(path, exists)
        assert problem.reason == str(why.value)


def test_a_start_value_that_is_not_there_stands_in_the_line_and_is_refused(folder: Path) -> None:
    class Night(Form):
        plan = slot(Path, "Plan", initial=folder / "gone", exists="file")

    with Session(Night, []) as session:
        assert "/gone" in session.screen
        session.press("enter")
        assert "there is no file" in session.screen
        session.press("ctrl-u").type(str(folder / "file")).press("enter")
        assert session.result is not None


@pytest.mark.parametrize("value", [3, "text", b"bytes"])
def test_a_default_of_another_type_is_an_error_at_declaration(value: Any) -> None:
    make: Any = slot
    for keyword in ("default", "initial"):
        with pytest.raises(DeclarationError, match=f"{keyword}="):
            make(Path, exists="file", **{keyword: value})
