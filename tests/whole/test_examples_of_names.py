"""Every public name has an example in its docstring, which does what it says."""

from __future__ import annotations

import asyncio
import doctest
import inspect
import io
from pathlib import Path

import pytest

import wesperon
import wesperon.testing

NAMES = {name: module for module in (wesperon, wesperon.testing) for name in module.__all__}
KNOWN = {name: getattr(module, name) for name, module in NAMES.items()}


@pytest.mark.parametrize("name", NAMES)
def test_the_example_of_a_name_does_what_it_says(name: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    text = inspect.getdoc(KNOWN[name]) or ""
    known = {**KNOWN, "asyncio": asyncio, "io": io, "Path": Path, "folder": tmp_path}
    example = doctest.DocTestParser().get_doctest(text, known, name, None, None)
    assert example.examples, f"{name} has no example"
    said: list[str] = []
    runner = doctest.DocTestRunner(optionflags=doctest.ELLIPSIS)
    assert runner.run(example, out=said.append).failed == 0, "".join(said)
