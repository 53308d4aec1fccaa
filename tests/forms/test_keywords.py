"""The keywords of a program are those of filling a form: the same names with the same meaning.

Modules: ``values.wishes``, ``values.keywords``, ``forms.filling``.
"""

from __future__ import annotations

import asyncio
import inspect
import logging
from pathlib import Path
from typing import Any

import pytest

from scripts.keywords import PROGRAM, SIGNATURES, program, signatures
from scripts.reference_page import keywords
from tests.asking import ENTER
from wesperon import Context, Form, Problems, Program, Refusal, fill, slot
from wesperon.editing.text_state import TextState
from wesperon.forms.signatures import Keywords
from wesperon.testing import Press, Scripted
from wesperon.values.wishes import NAMES, OF_A_CALL


class Plan(Form):
    """Plan something."""

    target = slot(ask="Target")
    seconds = slot(int, default=30)


def test_a_form_has_every_keyword_of_a_program_and_type_checkers_know_them() -> None:
    for path, text in ((SIGNATURES, signatures()), (PROGRAM, program())):
        assert path.read_text(encoding="utf-8") == text, "scripts/keywords.py writes it again"
    assert set(Keywords.__annotations__) == set(NAMES)
    assert {name for name, _ in keywords(inspect.getdoc(Program) or "")} >= set(NAMES) - set(OF_A_CALL)


@pytest.mark.parametrize("way", ["method", "function", "loop"])
def test_an_unknown_keyword_is_refused_with_the_nearest(way: str) -> None:
    keywords: Any = {"revew": True}
    with pytest.raises(TypeError, match=r"'revew'.*review"):  # noqa: PT012
        if way == "method":
            Plan.fill(["x"], **keywords)
        elif way == "function":
            fill(Plan, ["x"], **keywords)
        else:
            asyncio.run(Plan.fill_async(["x"], **keywords))


def test_name_version_and_description(capsys: pytest.CaptureFixture[str]) -> None:
    said: Any = {"name": "night plan", "version": "3.1", "description": "Plan the night."}
    for words, out in ((["--version"], "night plan 3.1\n"), (["--help"], "Plan the night.")):
        with pytest.raises(SystemExit):
            fill(Plan, words, **said)
        assert out in capsys.readouterr().out
    with pytest.raises(SystemExit):
        fill(Plan, ["--no"], asking="never", **said)
    assert capsys.readouterr().err.startswith("'night plan' --no\n")


def test_prefixes_may_be_turned_off() -> None:
    assert Plan.fill(["--tar=x"]).target == "x"
    with pytest.raises(Problems, match="--tar is unknown"):
        Plan.fill(["--tar=x"], prefixes=False, asking="never")


def test_settings_and_last_values_are_under_the_name(tmp_path: Path) -> None:
    folder = tmp_path / "night plan"
    folder.mkdir()
    (folder / "settings.toml").write_text('target = "from settings"\n')
    context = Context(words=[], environ={"XDG_CONFIG_HOME": str(tmp_path)})
    for settings in (True, "night plan"):
        record = Plan.fill([], name="night plan", settings=settings, context=context)
        assert record.target == "from settings"
        assert record.origins["target"] == "settings"


@pytest.mark.parametrize("words", [["x"], []])
def test_the_gate_comes_before_any_question(words: list[str]) -> None:
    seen: list[Any] = []

    def gate(path: tuple[str, ...], form: type[Any], values: Any) -> None:
        seen.append((path, form, dict(values)))
        raise Refusal("closed", status=3)

    driver = Scripted([Press("y"), ENTER])
    with pytest.raises(Refusal):
        Plan.fill(words, gate=gate, driver=driver)
    assert seen == [((), Plan, {"seconds": 30, **({"target": "x"} if words else {})})]
    assert driver.frames == []
    with pytest.raises(SystemExit) as caught:
        fill(Plan, words, gate=gate, driver=Scripted([Press("y"), ENTER]))
    assert caught.value.code == 3


def test_actions_of_the_program_can_be_bound() -> None:
    def shout(draft: TextState) -> TextState:
        return TextState(draft.text.upper(), draft.cursor)

    keys = [*map(Press, "abc"), Press("f5"), ENTER]
    record = Plan.fill([], driver=Scripted(keys), actions={"shout": shout}, bindings={"f5": "shout"})
    assert record.target == "ABC"


def test_the_log_of_the_program_is_turned_on() -> None:
    context = Context(words=["x"], environ={"NIGHT_PLAN_LOG": "otherwise.mast:info"})
    Plan.fill(name="night plan", log=True, context=context)
    assert logging.getLogger("otherwise.mast").level == logging.INFO
