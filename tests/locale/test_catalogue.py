"""The language of messages: one catalogue, a second language that is complete, labels of any script in line.

Modules: ``locale.catalogue``, ``text.messages``.
"""

from __future__ import annotations

import os
import string
import subprocess
import sys
from collections.abc import Iterator
from typing import Any

import pytest
from babel.messages.catalog import Catalog
from babel.messages.mofile import read_mo
from babel.messages.pofile import read_po

from scripts.catalogue import LOCALE, messages, template
from tests.asking import ENTER
from tests.harness import EXAMPLES, ROOT
from tests.tables import tabled
from wesperon import Context, Form, Problems, any_of, one_of, slot
from wesperon.locale.catalogue import languages
from wesperon.output.report import report
from wesperon.scope import within
from wesperon.screen.width import width
from wesperon.testing import Press, Scripted
from wesperon.text.messages import tell, tell_many


@pytest.fixture
def german() -> Iterator[None]:
    with within(Context(language="de_DE.UTF-8")):
        yield


def test_every_message_is_translated_with_all_its_parts() -> None:
    assert languages() == ["de"]
    path = LOCALE / "de" / "LC_MESSAGES" / "wesperon.po"
    with path.open("rb") as file:
        translated = _said(read_po(file, locale="de"))
    with path.with_suffix(".mo").open("rb") as file:
        assert _said(read_mo(file)) == translated
    assert translated.keys() == _said(template()).keys()
    with (LOCALE / "wesperon.pot").open("rb") as file:
        assert _said(read_po(file)).keys() == translated.keys()
    for message, texts in translated.items():
        assert all(texts), message
        assert all(_parts(text) <= _parts(message[-1]) for text in texts), message
        assert _parts(texts[-1]) == _parts(message[-1]), message


def _said(catalog: Catalog) -> dict[tuple[str, ...], tuple[str, ...]]:
    """Return each message, singular and plural, with its translations."""
    return {_all(message.id): _all(message.string) for message in catalog if message.id}


def _all(texts: Any) -> tuple[str, ...]:
    return (texts,) if isinstance(texts, str) else tuple(texts or ())


def _parts(text: str) -> set[str]:
    return {name for _, name, _, _ in string.Formatter().parse(text) if name}


def test_nothing_is_said_without_the_catalogue() -> None:
    """What is on the screen while questions of every kind go wrong is all of the catalogue's."""
    known = {text for message in messages() for text in ((message,) if isinstance(message, str) else message)}
    shout = type("Shout", (), {
        "gettext": lambda self, text: text if text in known else pytest.fail(f"not in the catalogue: {text!r}"),
        "ngettext": lambda self, one, many, count: (one if count == 1 else many) if one in known else pytest.fail(one),
    })  # fmt: skip
    context = Context(language="de")
    context._catalogue.append(shout())
    with within(context):
        script: list[Any] = ["x", ENTER, Press("backspace"), "3", ENTER, "?", ENTER, Press("ctrl-u"), "y", ENTER]
        driver = Scripted([*script, "zz", Press("ctrl-u"), ENTER, ENTER, Press("space"), ENTER, "ab"])

        class Log(Form):
            frames = slot(int, low=1, high=9, help="how many")
            guided = slot(bool)
            target = slot(one_of([*"abc"], disabled=lambda c: "low" * (c == "b")))
            some = slot(any_of([*"abc"], least=1))
            secret = slot(secret=True, twice=True)

        with pytest.raises(Problems) as caught:
            Log.fill([], driver=driver)
        assert report(caught.value, ["log"], 80)
        with pytest.raises(Problems):
            Log.fill(["x", "--fraems=3", "--target=z", "--some=a,z", "--secret=x"], asking="never")
        with pytest.raises(SystemExit):
            Log.fill(["--help"])


@pytest.mark.usefixtures("german")
def test_questions_and_complaints_are_said_in_the_users_language() -> None:
    class Log(Form):
        frames = slot(int, "Bilder", low=1, high=9)
        target = slot(one_of(["Laterne", "Sichel"], disabled=lambda name: "zu tief" * (name == "Sichel")), "Ziel")

    driver = Scripted(["4x", ENTER, Press("backspace"), ENTER, Press("down"), ENTER, Press("up"), ENTER])
    record: Any = Log.fill([], driver=driver)
    assert tuple(record) == (4, "Laterne")
    assert any('"4x" passt nicht, erwartet wird: eine ganze Zahl, zum Beispiel 12' in frame for frame in driver.frames)
    assert any("Enter: annehmen" in frame and "eine ganze Zahl von 1 bis 9" in frame for frame in driver.frames)
    assert any("jetzt nicht: zu tief" in frame for frame in driver.frames)
    assert tell_many("{count} word", "{count} words", 2) == "2 Wörter"
    assert tell("such as {example}", example="{x}") == "zum Beispiel {x}"


@tabled
def test_the_environment_says_which_language(variables: dict[str, str], expected: str) -> None:
    kept = {name: value for name, value in os.environ.items() if not name.startswith(("LC_", "LANG"))}
    done = subprocess.run(
        [sys.executable, str(EXAMPLES / "nightplan.py"), "--asking=never", "x"],
        env={**kept, **variables, "PYTHONPATH": str(ROOT / "src"), "PYTHONIOENCODING": "utf-8"},
        capture_output=True,
        text=True,
    )
    assert expected in done.stderr


def test_labels_of_any_script_stand_in_line() -> None:
    labels = ["対象", "Ziel", "مرشح", "ชื่อ", "e\u0301toile", "🔭 scope"]
    form: Any = type("Log", (Form,), {f"value{at}": slot(ask=label) for at, label in enumerate(labels)})
    driver = Scripted([step for _ in labels for step in ("x", ENTER)])
    form.fill([], driver=driver)
    ends = {width(row[: row.rindex("x")]) for row in driver.frames[-1].splitlines()}
    assert len(ends) == 1


@pytest.mark.parametrize("text", ["ja", "Ja", "j", "nein", "N", "yes", "no", "true", "off"])
def test_yes_and_no_are_taken_in_the_language_of_the_user_from_every_source(
    text: str,
) -> None:
    class Night(Form):
        guided = slot(bool, "Guided", env="GUIDED")

    wanted = text.lower() in ("ja", "j", "yes", "true")
    with within(Context(language="de", environ={})):
        assert Night.fill([f"--guided={text}"], asking="never").guided is wanted
        driver = Scripted([*text, ENTER])
        assert Night.fill([], driver=driver).guided is wanted
        assert ("ja" if wanted else "nein") in driver.frames[-1]
        driver = Scripted([Press("space"), ENTER])
        assert Night.fill([], driver=driver).guided is True
        assert Night.fill(Night(guided=wanted).words(), asking="never").guided is wanted
    with within(Context(language="de", environ={"GUIDED": text})):
        assert Night.fill([], asking="never").guided is wanted
    if text.lower() in ("ja", "j", "nein"):
        with within(Context(environ={})), pytest.raises(Problems):
            Night.fill([f"--guided={text}"], asking="never")
