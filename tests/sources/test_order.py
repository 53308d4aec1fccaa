"""The order of the sources: one list, which the fast way and the other way of filling a record both follow.

Modules: ``forms.precedence``, ``forms.filling``.
"""

from __future__ import annotations

import io
import itertools
from pathlib import Path
from typing import Any

import pytest

from wesperon import Context, Form, Problems, slot
from wesperon.testing import Press, Scripted
from wesperon.values.records import ASKED, DEFAULT, SOURCES, WORDS
from wesperon.values.signatures import Given

ALL_SOURCES = ["words", "env", "answers", "settings", "pipe", "asked", "default"]


class Log(Form):
    frames = slot(int, env="FRAMES", piped=True, default=7)


class Needed(Form):
    frames = slot(int, env="FRAMES", piped=True)


def test_there_is_one_list_of_sources() -> None:
    assert [WORDS, *(origin for origin, _ in SOURCES)] == ALL_SOURCES


@pytest.mark.parametrize("given", [set(chosen) for n in range(7) for chosen in itertools.combinations(ALL_SOURCES, n)])
def test_the_first_source_that_has_something_gives_the_value(given: set[str], tmp_path: Path) -> None:
    values = {name: str(number) for number, name in enumerate(ALL_SOURCES, 1)}
    answers, config = tmp_path / "answers.toml", tmp_path / "config"
    answers.write_text(f"frames = {values['answers']}\n")
    (config / "log").mkdir(parents=True)
    (config / "log" / "settings.toml").write_text(f"frames = {values['settings']}\n")
    words = [values["words"]] if "words" in given else []
    words += [f"--answers={answers}"] if "answers" in given else []
    environ = {"XDG_CONFIG_HOME": str(config)} | ({"FRAMES": values["env"]} if "env" in given else {})
    context = Context(environ=environ, stdin=io.StringIO(values["pipe"] if "pipe" in given else ""))
    asked = "asked" in given
    driver = Scripted([Press("ctrl-u"), values["asked"], Press("enter")]) if asked else None
    form: Any = Log if "default" in given else Needed
    settings = "log" if "settings" in given else None
    expected = next((name for name in ALL_SOURCES if name in given), None)
    keywords: Any = {"settings": settings, "driver": driver, "asking": "missing" if asked else "never"}
    if expected is None:
        with pytest.raises(Problems, match="is missing"):
            form.fill(words, context=context, **keywords)
        return
    record = form.fill(words, context=context, **keywords)
    if expected == ASKED and "default" in given:
        expected = DEFAULT  # what has a default is not asked for
    assert record.origins == {"frames": expected}
    assert record.frames == (7 if expected == DEFAULT else int(values[str(expected)]))


def test_the_fast_way_asks_the_same_list() -> None:
    """A slot that no source but its default may fill is filled without any of them; with one, it is not."""
    plain, given = slot(int, default=1), Given(answers=None, settings=None, asks_all=False)
    assert not any(may_fill(plain, given) for _, may_fill in SOURCES)
    slower: list[tuple[Any, Given]] = [
        (slot(int, default=1, env="X"), given), (slot(int, default=1, piped=True), given), (slot(int), given),
        (plain, Given(answers="answers.toml", settings=None, asks_all=False)),
        (plain, Given(answers=None, settings="log", asks_all=False)),
        (plain, Given(answers=None, settings=None, asks_all=True)),
        (slot(int, default=lambda answers: 1), given), (slot(int, default=1, applies=lambda answers: True), given),
    ]  # fmt: skip
    for one, run in slower:
        assert any(may_fill(one, run) for _, may_fill in SOURCES), one
