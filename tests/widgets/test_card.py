"""Cards: questions in order, back and forth, a last look, answers that survive a break.

Modules: ``forms.form_flow``, ``forms.question_flow``, ``widgets.card``, ``widgets.summary``.
"""

from __future__ import annotations

import json
import os
import sys
import tempfile
import time
from datetime import date
from pathlib import Path
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.asking import DOWN, ENTER, UP, asked
from tests.harness import CTRL_C, Terminal
from tests.tables import tabled
from wesperon import Form, Problems, any_of, one_of, slot
from wesperon.editing.keys.events import Key, Paste, Resize, typed
from wesperon.screen.frame import cells
from wesperon.testing import Press, Scripted
from wesperon.values.records import slots_of
from wesperon.widgets.card import Card
from wesperon.widgets.widget import Answered, Ended, Interrupted

TARGETS = ["Lantern Nebula", "Wicker Nebula", "Thimble Group"]


class Night(Form):
    target = slot(one_of(TARGETS), "Target", help="What the telescope is turned to.")
    guided = slot(bool, "Guided")
    star = slot(
        one_of(lambda so_far: [name for name in TARGETS if name != so_far.target]), applies=lambda so_far: so_far.guided
    )
    frames = slot(int, "Frames", low=1, high=200)
    seconds = slot(float, "Seconds", default=lambda so_far: so_far.frames * 2.0)
    key = slot(secret=True)


def fill(*script: Any, form: Any = Night, **settings: Any) -> tuple[Any, Scripted]:
    driver = Scripted(script, rows=settings.pop("rows", 24))
    return form.fill([], driver=driver, **{"asking": "missing", **settings}), driver


ANSWERS: list[Any] = [ENTER, "y", ENTER, DOWN, ENTER, "12", ENTER, "abc", ENTER]


def test_the_answered_questions_stand_above_as_a_record() -> None:
    record, driver = fill(*ANSWERS)
    assert tuple(record) == ("Lantern Nebula", True, "Thimble Group", 12, 24.0, "abc")
    assert driver.frames[-1].splitlines() == [
        "  Target  Lantern Nebula",
        "  Guided  yes",
        "    star  Thimble Group",
        "  Frames  12",
        "     key  ***",
    ]
    assert record.origins["seconds"] == "default"


@tabled
def test_earlier_answers_can_be_changed(script: list[Any], expected: tuple[object, ...]) -> None:
    assert tuple(fill(*script)[0]) == expected


def test_the_card_says_how_many_are_left_and_helps_on_a_key() -> None:
    _, driver = fill(Press("f1"), *ANSWERS)
    assert driver.frames[0].splitlines()[0].endswith("4 more")
    assert "What the telescope is turned to." in driver.frames[1]
    assert "What the telescope" not in driver.frames[2]


def test_a_last_look_can_change_one_value_and_asks_what_that_brings_up() -> None:
    script = [ENTER, "n", ENTER, "12", ENTER, "k", ENTER]  # then to Guided, which brings up the star
    record, driver = fill(*script, Press("home"), DOWN, ENTER, "y", ENTER, ENTER, ENTER, review=True)
    assert tuple(record) == ("Lantern Nebula", True, "Wicker Nebula", 12, 24.0, "k")
    looks = [frame for frame in driver.frames if "Everything is right" in frame]
    assert looks[0].splitlines()[:2] == ["   Target  Lantern Nebula", "   Guided  no"]
    assert "***" in looks[0]
    assert "k" not in looks[0].split("***")[1]
    assert "star  Wicker Nebula" in looks[-1]


def test_a_value_that_nobody_asked_for_can_be_changed_at_the_last_look() -> None:
    record, _ = fill(*ANSWERS, UP, UP, ENTER, "90", ENTER, ENTER, review=True)
    assert (record.seconds, record.origins["seconds"]) == (90.0, "asked")


def test_values_that_nobody_confirmed_are_not_taken() -> None:
    with pytest.raises(Problems, match="the values were not confirmed"):
        fill(*ANSWERS, review=True)
    with pytest.raises(KeyboardInterrupt):
        fill(*ANSWERS, Press("ctrl-c"), review=True)


def test_the_line_that_repeats_the_run_is_said_where_it_is_wanted() -> None:
    _, driver = fill(*ANSWERS, replay=True)
    assert "'--target=Lantern Nebula' --guided=yes '--star=Thimble Group' --frames=12" in "".join(driver.sent)
    assert "The same again" not in "".join(fill(*ANSWERS)[1].sent)


def test_a_form_higher_than_the_terminal_shows_what_fits_and_leaves_everything() -> None:
    form: Any = type("Long", (Form,), {f"value_{at}": slot(int) for at in range(60)})
    record, driver = fill(*[step for at in range(60) for step in (str(at), ENTER)], form=form, rows=10)
    assert tuple(record) == tuple(range(60))
    assert all(len(frame.splitlines()) <= 10 for frame in driver.frames[:-1])
    assert "52 answers above" in driver.frames[-2]
    assert len(driver.frames[-1].splitlines()) == 60


def test_choices_that_depend_on_answers_are_read_from_words_too() -> None:
    def star(*words: str) -> Any:
        return Night.fill(["--target=Lantern Nebula", "--guided", "--frames=1", *words], asking="never")

    with pytest.raises(Problems, match=r'star: "Lantern Nebula" is not one of the 2 choices; choose from: Wicker'):
        star("--star=Lantern Nebula")
    with pytest.raises(Problems, match="star: is missing"):
        star()
    values = {"target": "Lantern Nebula", "guided": True, "star": "Thimble Group", "frames": 1, "key": "k"}
    record = Night(**values)
    assert "--star=Thimble Group" in record.words()
    with pytest.raises(Problems):
        Night(**{**values, "star": "Lantern Nebula"})


def test_a_word_that_does_not_fit_the_answers_is_mended_at_its_question() -> None:
    driver = Scripted([ENTER, DOWN, ENTER])
    form: Any = type(
        "Two",
        (Form,),
        {name: slots_of(Night)[name] for name in ("target",)}
        | {
            "star": slot(one_of(lambda so_far: [name for name in TARGETS if name != so_far.target])),
        },
    )
    record = form.fill(["--star=Lantern Nebula"], asking="missing", driver=driver)
    assert record.star == "Thimble Group"
    assert any("is not one of the 2 choices" in frame for frame in driver.frames)


# Interrupted is not lost ------------------------------------------------------------------------------------------

PROGRAM = """
import sys
from datetime import date
from wesperon import Form, slot
class Log(Form):
    night = slot(date, "Night")
    word = slot(secret=True)
    frames = slot(int, "Frames")
    note = slot(ask="Note")
print(tuple(Log.fill(resume="off" not in sys.argv, words=[])))
"""


def test_an_interrupted_form_offers_to_go_on(tmp_path: Path) -> None:
    program = tmp_path / "nightlog.py"
    program.write_text(PROGRAM)
    home = {"XDG_STATE_HOME": tempfile.mkdtemp(dir=tmp_path)}
    argv = [sys.executable, str(program)]
    for way in ("interrupt", "kill"):
        with Terminal(argv, env=home) as terminal:
            terminal.answer("Night", "2031-04-17")
            terminal.answer("word", "hush-hush")
            terminal.answer("Frames", "12")
            terminal.see("Note")
            terminal.quiet()
            if way == "kill":
                terminal.process.kill(9)
            else:
                terminal.type(CTRL_C)
                terminal.end()
        kept = list(Path(home["XDG_STATE_HOME"]).rglob("*.json"))
        assert [path.stat().st_mode & 0o777 for path in kept] == [0o600]
        assert json.loads(kept[0].read_text().splitlines()[0])["answers"] == {"night": "2031-04-17", "frames": "12"}
        with Terminal([*argv, "off"], env=home) as terminal:
            terminal.see("Night")
            assert "go on" not in terminal.text()
            terminal.type(CTRL_C)
        with Terminal(argv, env=home) as terminal:
            terminal.see("2 saved answers")
            terminal.quiet()
            terminal.type("\r")
            terminal.see("word")
            terminal.quiet()
            terminal.type("hush\r")
            terminal.see("Note")
            terminal.quiet()
            terminal.type("dim\r")
            terminal.see("(datetime.date(2031, 4, 17), 'hush', 12, 'dim')")
        assert not list(Path(home["XDG_STATE_HOME"]).rglob("*.json"))


def test_what_is_left_is_too_old_after_a_day_and_never_offered_unattended(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    from wesperon.forms.saved_answers import KEPT, SavedAnswers

    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    left = SavedAnswers("nightlog", Night, "/desk.py")
    left.keep({"frames": "12", "target": "Wicker Nebula"}, {})
    assert SavedAnswers("nightlog", Night, "/desk.py").left(asked("frames", "seconds")) is None  # that run goes on
    os.close(left.lock)
    offered = left.left(asked("frames", "seconds"))
    assert offered is not None
    assert offered.answers == {"frames": "12"}
    driver = Scripted(ANSWERS)
    Night.fill([], asking="missing", driver=driver)
    assert "go on" not in driver.frames[0]
    later = time.time() + KEPT + 1
    monkeypatch.setattr(time, "time", lambda: later)
    assert left.left(asked("frames")) is None
    left.keep({"frames": "13"}, {})
    for broken in ("", "[]", '{"saved": "x", "answers": {}}', '{"saved": 1e99, "answers": {"frames": "1"}}'):
        path = Path(left.path)
        path.write_text(broken)
        assert left.left(asked("frames")) is None
    os.chmod(path.parent, 0o500)
    left.keep({"frames": "1"}, {})  # not kept, and no error
    os.chmod(path.parent, 0o700)


# Any script of keys -------------------------------------------------------------------------------------------------


class Everything(Form):
    text = slot(low=0)
    whole = slot(int, low=-5, high=500)
    part = slot(float, unit="s")
    yes = slot(bool)
    hidden = slot(secret=True, twice=True)
    night = slot(date)
    known = slot(str, suggest={"Ada": "first desk", "Bea": "second desk", "Cleo": ""})
    hues = slot(str, many=True, suggest=["red", "green"], suggest_as="inline")
    path = slot(Path)
    one = slot(
        one_of(
            TARGETS,
            group=lambda name: name[-6:],
            note=lambda name: str(len(name)),
            disabled=lambda name: "low" * name.startswith("W"),
        )
    )
    some = slot(any_of((name for name in TARGETS), least=1, most=2))
    later = slot(one_of(lambda so_far: so_far.some), applies=lambda so_far: so_far.yes)
    long = slot(lines=True)


KEYS = st.sampled_from(
    ["enter"] * 6 + ["tab", "shift-tab", "up", "down", "left", "home", "end", "page-up", "page-down", "backspace"]
    + ["f1", "space", "ctrl-a", "ctrl-t", "ctrl-r", "shift-down", "ctrl-u", "ctrl-y", "alt-enter", "escape", "ctrl-g"]
    + ["ctrl-d"]
).map(Key)  # fmt: skip
EVENTS = st.one_of(
    KEYS,
    KEYS,
    st.sampled_from("yn1259nebul -z,2031").map(typed),
    st.sampled_from(["12", "2031-04-17", "a\nb", "\x1b[2J", "漢字", "y"]).map(Paste),
    st.builds(Resize, st.integers(1, 90), st.integers(1, 24)),
    st.just(Key("ctrl-c")),
)


@settings(max_examples=60, deadline=None)
@given(st.lists(EVENTS, max_size=120), st.integers(4, 90), st.integers(1, 30), st.booleans())
@example([Paste("漢字"), Key("enter"), Resize(1, 7)], 4, 1, False)
def test_any_script_of_keys_ends_or_still_asks_on_a_screen_that_fits(
    events: list[Any], columns: int, rows: int, review: bool
) -> None:
    seen: list[Card] = []

    class Watched(Scripted):
        def look_at(self, frame: Any) -> None:
            super().look_at(frame)
            for row in frame.rows:
                assert len(cells(row, 10_000)) <= self.columns or seen[-1].outcome is not None
            assert seen[-1].outcome is not None or len(frame.rows) <= self.rows
            assert frame.cursor is None or (0 <= frame.cursor[0] < len(frame.rows))

        def run(self, widget: Any, options: Any = None) -> Any:
            seen.append(widget)
            return super().run(widget, options)

    driver = Watched((), columns=columns, rows=rows)
    driver.script = [[event] for event in events]
    try:
        record = Everything.fill([], asking="missing", driver=driver, review=review)
    except (KeyboardInterrupt, Problems):
        assert isinstance(seen[-1].outcome, (Interrupted, Ended, Answered))
    else:
        assert (
            Everything.fill(
                [f"--hidden={record.hidden}", *record.words()][1:],
                asking="missing",
                driver=Scripted([record.hidden, ENTER, record.hidden, ENTER]),
            )
            == record
        )
