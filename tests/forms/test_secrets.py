"""Promise 6: secrets stay secret, wherever they come from and whatever is wrong with them.

Modules: ``argv.masking``, ``values.secrets``, ``widgets.secret``.
"""

from __future__ import annotations

import pickle
from typing import Any

import pytest

from wesperon import Command, CommandGroup, DeclarationError, Form, Problems, Program, slot
from wesperon.editing.editor import Memory
from wesperon.output.report import report
from wesperon.testing import Press, Scripted
from wesperon.widgets.question import Question
from wesperon.widgets.secret import Secret
from wesperon.widgets.widget import Prompt

KEY = "hunter\x1b7"


class Login(Form):
    user = slot()
    password = slot(secret=True, env="DESK_PASSWORD", short="p")
    pin = slot(int, secret="anywhere", default=None)


def told(problems: Problems) -> str:
    return "\n".join(
        [str(problems), repr(problems), problems.json(), report(problems, ["desk"], None), repr(problems.args)]
    )


def test_a_secret_before_the_command_is_not_repeated_either() -> None:
    class Enter(Command):
        password = slot(secret=True)

    program = Program("desk", members=[CommandGroup("deep", members=[Enter])])
    for words in (["--password", KEY, "deep", "enter"], ["deep", "--password", KEY, "enter"]):
        with pytest.raises(Problems) as caught:
            program.call(words)
        assert "hunter" not in told(caught.value)
        assert "is not a command of" in told(caught.value) or "belongs to enter" in told(caught.value)


def test_a_secret_as_a_word_is_refused_with_the_places_it_may_come_from() -> None:
    with pytest.raises(Problems) as caught:
        Login.fill(["ann", "--password", KEY])
    problem = caught.value.problems[0]
    assert problem.slot == "password"
    assert (
        "DESK_PASSWORD in the environment, an answers file (--answers) or an answer at the terminal" in problem.reason
    )
    assert report(caught.value, ["desk"], None).splitlines()[:2] == [
        "desk '***' --password '***'", "                      ^^^^^",
    ]  # fmt: skip


def test_a_secret_is_nowhere_in_a_record(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("DESK_PASSWORD", KEY)
    record = Login.fill(["ann", "--pin=4711"])
    assert (record.password, record.pin, record.origins["password"]) == (KEY, 4711, "env")
    for shown in (repr(record), str(record), record.replay(), str(record.words())):
        assert "hunter" not in shown
        assert "4711" not in shown
    assert str(record).splitlines()[1] == "  password  ***"
    for wrong in (5, b"hunter"):
        with pytest.raises(Problems) as caught:
            Login(user="ann", password=wrong)
        assert "hunter" not in told(caught.value)
    assert pickle.dumps(record.origins)


def test_a_secret_is_typed_unseen() -> None:
    driver = Scripted(["ann", Press("enter"), KEY, Press("left"), "x", Press("enter")])
    record = Login.fill([], asking="missing", driver=driver)
    assert record.password == KEY[:-1] + "x" + KEY[-1]
    everything = "\n".join([*driver.frames, *driver.sent])
    assert "hunter" not in everything
    assert "  password  ********" in driver.frames[4]
    assert driver.frames[-1].splitlines()[-1] == "  password  ***"


@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_what_is_typed_in_a_secret_is_nowhere_in_the_next_line(keys: str) -> None:
    class Two(Form):
        password = slot(secret=True)
        note = slot(low=0)

    enter, escape = Press("enter"), Press("escape")
    begin, others = Press("ctrl-x"), [Press("ctrl-y"), Press("up"), Press("ctrl-r")]
    script: list[Any] = [begin, "(", KEY, Press("ctrl-u"), KEY, begin, ")", enter, begin, "e", *others, enter]
    if keys == "modal":
        script = [escape, "qai", KEY, escape, '"byyq', enter, escape, '@a"bpp.k', enter]
    driver = Scripted(script)
    Two.fill([], driver=driver, keys=keys)
    assert not any("hunter" in text for text in [*driver.frames, *driver.sent])
    memory = Memory()
    line = Question(Prompt("Password", 8), Secret(str, memory=memory))
    Scripted(script[: script.index(enter) + 1]).run(line)
    assert vars(memory) == vars(Memory())


def test_a_secret_may_be_wanted_twice() -> None:
    class New(Form):
        password = slot(secret=True, twice=True, low=3)

    enter = Press("enter")
    # What was refused cannot be seen, so it cannot be mended: the line is empty again.
    script: list[Any] = ["ab", enter, "abcd", enter, "abd", enter, "abcd", enter, "abcd", enter]
    driver = Scripted(script)
    assert New.fill([], driver=driver).password == "abcd"
    shown = "\n".join(driver.frames)
    for said in (
        "the given value is too short: must have at least 3 characters",
        "Once more",
        "the two entries differ",
    ):
        assert said in shown


def test_a_secret_comes_from_a_file(tmp_path: Any) -> None:
    (tmp_path / "a.json").write_text('{"password": "abc", "user": "ann"}')
    assert Login.fill([f"--answers={tmp_path / 'a.json'}"]).password == "abc"


@pytest.mark.parametrize("settings", [{"kind": bool, "secret": True}, {"secret": "often"}, {"twice": True}])
def test_what_cannot_be_secret_is_refused(settings: Any) -> None:
    with pytest.raises(DeclarationError):
        slot(**settings)
