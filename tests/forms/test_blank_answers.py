"""Blank answers files: whatever a form declares, they parse, and their lines give the defaults.

Modules: ``forms.blank_answers``.
"""

from __future__ import annotations

import re
import tomllib
from datetime import timedelta
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import DeclarationError, Form, any_of, one_of, slot

TEXTS = st.text(st.characters(exclude_categories=["Cs"]), max_size=8)
KINDS: list[tuple[Any, st.SearchStrategy[Any]]] = [
    (str, TEXTS),
    (int, st.integers()),
    (float, st.floats(allow_nan=False)),
    (bool, st.booleans()),
    (Decimal, st.decimals(allow_nan=False, allow_infinity=False)),
    (timedelta, st.timedeltas(min_value=timedelta(0), max_value=timedelta(days=1_000))),
    (one_of(["a,b", "\U0001f52d", 'q"\\'], label=str), st.sampled_from(["a,b", "\U0001f52d", 'q"\\'])),
    (any_of(["a,b", "\x7f", "c"]), st.lists(st.sampled_from(["a,b", "\x7f", "c"]), unique=True).map(tuple)),
]
NAMES = ("frames", "low_light", "class_", "größe")


@given(st.data(), TEXTS, TEXTS)
def test_every_line_of_a_blank_file_gives_the_default(data: st.DataObject, ask: str, about: str) -> None:
    body: dict[str, Any] = {}
    for name in NAMES:
        kind, values = data.draw(st.sampled_from(KINDS))
        many = data.draw(st.booleans()) and kind is not bool and not getattr(kind, "is_set", False)
        default = data.draw(st.lists(values, max_size=3).map(tuple) if many else values)
        try:
            declare: Any = slot
            body[name] = declare(kind, ask or None, default=default, many=many, help=about)
        except DeclarationError:  # a default that the kind itself does not take
            continue
    form: Any = type("Log", (Form,), body)
    blank = form.blank_answers()
    assert tomllib.loads(blank) == {}
    lines = re.sub(r'(?m)^# ("?\w+"?) = ', r"\1 = ", blank)
    assert set(tomllib.loads(lines)) == set(body)
    path = Path("answers.toml")
    path.write_text(lines, encoding="utf-8", newline="")
    record = form.fill([f"--answers={path}"], asking="never")
    assert {name: getattr(record, name) for name in body} == {name: declared.default for name, declared in body.items()}


@pytest.fixture(autouse=True)
def in_a_folder_of_its_own(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
