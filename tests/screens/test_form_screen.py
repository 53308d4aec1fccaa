"""A form on one screen gives what the card gives: record, origins, replay, problems.

Modules: ``screens.form_screen``.
"""

from __future__ import annotations

import random
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from tests.harness import CTRL_C, CTRL_D, ENTER, Terminal, python
from wesperon import (
    Button,
    Complaint,
    Down,
    Form,
    Label,
    Problems,
    Screen,
    all_or_none,
    any_of,
    at_least_one,
    at_most_one,
    exactly_one,
    needs,
    one_of,
    slot,
)
from wesperon.screens.field import CLOSED, Field
from wesperon.terminal.scripted import key_named
from wesperon.testing import Press, Scripted, Session

NAMES = ["Lantern", "Thimble", "Wicker", "Ladder"]


#: What asks, by its class on the card; all others are lines.
KINDS = {"Menu": "menu", "Checkboxes": "checkboxes", "ValueList": "list", "SeveralLines": "several-lines"}
#: What is marked is the first of several.
FIRST = "*"
#: What is chosen at the question of a rule.
RULE_TEXTS = {"exactly_one": "Low", "at_most_one": "High", "at_least_one": FIRST, "all_or_none": "yes", "needs": ""}


def keys_of(field_kind: str, text: str) -> list[Any]:
    """Return the keys that answer a question of this kind with a text, on the card and in a field that is empty."""
    if field_kind == "menu":
        return [*text, Press("enter")]
    if text == FIRST:
        return [Press("space"), Press("enter")]
    if field_kind == "checkboxes":
        marks: list[Any] = []
        for name in NAMES:
            marks += [Press("space")] if name in text.split(",") else []
            marks.append(Press("down"))
        return [*marks, Press("enter")]
    if field_kind in ("list", "several-lines"):
        rows = [[*row, Press("enter")] for row in text.split("\n")]
        ends = [Press("enter")] if field_kind == "list" else [Press("backspace"), Press("alt-enter")]
        return [*[key for row in rows for key in row], *ends]
    return [*text, Press("enter")]


class OnScreen(Scripted):
    """Fills each field that is shown with the text that the test has for it, then presses the first button."""

    def __init__(self, texts: dict[str, str], rows: int, rolled: random.Random) -> None:
        super().__init__(rows=rows)
        self.texts, self.rolled = dict(texts), rolled
        self.done: set[str] = set()

    def wait(self) -> list[Any]:
        """Return the keys for the field that has the focus."""
        if self.inbox:
            return self.inbox.pop_all()
        stage: Any = self.stage
        part = stage.focused
        if isinstance(part, Field) and part.slot.name not in self.done and part.slot.name in self.texts:
            self.done.add(part.slot.name)
            keys = keys_of(part.kind_name, self.texts[part.slot.name])
            if part.kind_name not in CLOSED and self.rolled.random() < 0.5:  # left by Tab in place of what accepts it
                while isinstance(keys[-1], Press):
                    keys.pop()
                keys.append(Press("tab"))
            if part.slot.twice:
                keys = [*keys[:-1], Press("enter"), *keys]
            opened = [key_named("alt-down")] if part.kind_name in CLOSED else []
            closed = [key_named("tab")] if part.kind_name in CLOSED else []
            steps = [key_named(key.name) if isinstance(key, Press) else key_named(key) for key in keys]
            return [*opened, *steps, *closed]
        waiting = [
            one for one in stage.top.arrangement.stops() if isinstance(one, Field) and one.slot.name not in self.done
        ]
        if waiting:
            return [key_named("tab")]
        if part.is_button:
            return [key_named("enter")] if part.is_default else [key_named("shift-tab")]
        return [key_named("tab")]


def made(rolled: random.Random) -> tuple[type[Form], dict[str, str]]:
    """Return a random form, and a text for each slot that may be asked."""
    slots: dict[str, Any] = {}
    texts: dict[str, str] = {}
    for number in range(rolled.randint(1, 6)):
        name = f"v{number}"
        more: dict[str, Any] = {}
        if rolled.random() < 0.3:
            more["section"] = rolled.choice(["Night", "Dome"])
        if number and rolled.random() < 0.3:
            before = f"v{rolled.randrange(number)}"
            more["applies"] = lambda answers, before=before: bool(getattr(answers, before))
            more["default"] = None if rolled.random() < 0.5 else more.get("default")
        kinds: list[tuple[Any, str]] = [
            (int, str(rolled.randint(0, 99))),
            (float, f"{rolled.randint(0, 9)}.5"),
            (str, rolled.choice(["clear", "漢", "a b"])),
            (one_of(NAMES), rolled.choice(NAMES)),
            (any_of(NAMES), ",".join(rolled.sample(NAMES, 2))),
            (int, str(rolled.randint(100, 200))),
            (list[str], "a b\nc, d\n'e"),
            (list[int], "3\n5"),
            (dict[str, int], "a=1\nb=2"),
            (bool, rolled.choice(["yes", "no"])),
            (date, "2031-04-17"),
            (Path, "raw/the night"),
            (str, "x\ny z"),
        ]
        kind, text = rolled.choice(kinds)
        if kind is str and "\n" in text:
            more["lines"] = True
        if kind is int and rolled.random() < 0.3:
            more["low"] = 0
        slots[name] = slot(kind, f"Value {number}", **more)
        texts[name] = text
    if rolled.random() < 0.3:
        slots["pin"] = slot(str, "Pin", secret="anywhere", twice=rolled.random() < 0.5)
        texts["pin"] = "moonstone"
    if rolled.random() < 0.5:
        slots["low"], slots["high"] = slot(int, "Low", default=None), slot(int, "High", default=None)
        texts |= {"low": "3", "high": "7"}
        rule: Any = rolled.choice([exactly_one, all_or_none, needs, at_least_one, at_most_one])
        slots["rule"] = rule("low", "high")
        texts["rule"] = RULE_TEXTS[rule.__name__]
    form = type("Plan", (Form,), {"__module__": __name__, **slots})
    return form, texts


def on_card(form: type[Any], words: list[str], texts: dict[str, str], asking: str) -> Any:
    """Fill a form on the card."""

    class OnCard(Scripted):
        card: Any = None

        def steps(self, widget: Any, options: Any = None) -> Any:
            self.card = widget
            return super().steps(widget, options)

        def wait(self) -> list[Any]:
            card = self.card
            name = card.flow.slot.name
            kind = KINDS.get(type(card.open.field).__name__, "line")
            keys = keys_of(kind, texts[name])
            clear = [key_named("ctrl-u")] if kind == "line" else []
            return [*clear, *(key_named(key.name) if isinstance(key, Press) else key_named(key) for key in keys)]

    return form.fill(words, driver=OnCard(), resume=False, asking=asking)


@pytest.mark.parametrize("seed", range(40))
def test_the_record_is_that_of_the_card(seed: int) -> None:
    rolled = random.Random(seed)
    form, texts = made(rolled)
    given = [
        f"--{name}={texts[name]}"
        for name in texts
        if rolled.random() < 0.2
        and name not in ("rule", "pin")
        and not form.__dict__[name].applies
        and "\n" not in texts[name]
    ]
    words = [] if rolled.random() < 0.5 else given
    asking = rolled.choice(["missing", "missing", "all"])
    by_card = on_card(form, words, texts, asking)
    rows = rolled.choice([24, 24, 8])
    by_screen = form.fill(words, driver=OnScreen(texts, rows, rolled), resume=False, layout="screen", asking=asking)
    assert by_screen == by_card
    assert by_screen.origins == by_card.origins
    assert by_screen.words() == by_card.words()


class Exposure(Form):
    frames = slot(int, "Frames", low=1, section="How")
    seconds = slot(float, "Seconds", low=0, section="How")
    target = slot(one_of(NAMES), "Target", section="What")

    def check(self) -> None:
        if self.frames * self.seconds > 1000:
            raise Complaint("more than the night has", slot="seconds")


def test_groups_have_headings_and_what_is_missing_is_said() -> None:
    with Session(lambda: Exposure.fill([], layout="screen", resume=False)) as session:
        assert "How ─" in session.screen
        assert "What ─" in session.screen
        assert "missing: Frames, Seconds, Target" in session.screen
        session.type("12").press("enter")
        assert "missing: Seconds, Target" in session.screen
        session.press("tab", "tab", "enter")  # the button
        assert not session.status
        assert session.screen.count("a value is required") + session.screen.count("required") >= 1
        session.press("ctrl-c")
    assert isinstance(session.error, KeyboardInterrupt)


def test_values_that_do_not_go_together_are_said_beside_a_field_and_can_be_mended() -> None:
    with Session(lambda: Exposure.fill(["--target=Wicker"], layout="screen", resume=False)) as session:
        session.type("12").press("enter").type("900").press("enter")
        session.see("more than the night has")
        session.press("ctrl-u").type("60").press("enter")
    assert session.result == Exposure(frames=12, seconds=60, target="Wicker")


class Source(Form):
    path = slot(str, "Path", default=None)
    host = slot(str, "Host", default=None)
    source = exactly_one("path", "host", ask="Where from?")


def test_of_slots_that_exclude_each_other_only_the_chosen_one_is_shown() -> None:
    with Session(lambda: Source.fill([], layout="screen", resume=False)) as session:
        assert "Path" not in session.screen.replace("Where from?", "")
        session.press("alt-down").type("Host").press("enter", "tab")
        session.see("Host")
        session.type("ridge").press("enter")
    assert session.result == Source(host="ridge")


def test_a_last_look_comes_before_the_record() -> None:
    with Session(
        lambda: Exposure.fill(["--target=Wicker", "--frames=3"], layout="screen", review=True, resume=False)
    ) as s:
        s.type("5").press("enter")
        s.see("Target").see("Wicker")
        s.press("enter")
    assert s.result == Exposure(frames=3, seconds=5, target="Wicker")


def test_ctrl_d_says_what_is_missing() -> None:
    with Session(lambda: Exposure.fill([], layout="screen", resume=False)) as session:
        session.press("ctrl-d")
    assert isinstance(session.error, Problems)
    assert [problem.slot for problem in session.error] == ["frames", "seconds", "target"]


PROGRAM = """
from wesperon import Form, slot

class Plan(Form):
    frames = slot(int, "Frames")
    seconds = slot(int, "Seconds")

print(Plan.fill(layout="screen"))
"""


def test_what_was_filled_is_there_again_after_a_run_that_was_broken_off(tmp_path: Path) -> None:
    path = tmp_path / "plan.py"
    path.write_text(PROGRAM)
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    with Terminal(python(str(path)), env=env) as terminal:
        terminal.see("missing: Frames")
        terminal.type("12\t")
        terminal.see("missing: Seconds")
        terminal.type(CTRL_C)
        terminal.end()
        assert terminal.modes() == terminal.initial
    with Terminal(python(str(path)), env=env) as terminal:
        terminal.see("Resume?")
        terminal.quiet()
        terminal.type("y" + ENTER)
        terminal.see("missing: Seconds")
        terminal.see("12")
        terminal.type("\t5" + ENTER)
        terminal.see("Seconds  5")
        assert terminal.end() == 0
        assert "12" in terminal.text()
        assert CTRL_D


class Login(Form):
    """A form whose check fails, and says more than it should."""

    pin = slot(str, "Pin", secret="anywhere")

    def check(self) -> None:
        raise RuntimeError(f"cannot log in with {self.pin}")


def test_an_error_of_a_check_is_raised_as_by_the_card_and_says_no_secret() -> None:
    with Session(lambda: Login.fill([], layout="screen", resume=False)) as session:
        session.type("moonstone")
        assert "moonstone" not in session.screen
        session.press("enter")
        assert "moonstone" not in session.screen
    assert isinstance(session.error, RuntimeError)
    assert "moonstone" not in str(session.error)
    assert "moonstone" not in session.output + session.errors


class Guided(Form):
    """What goes together, and is asked for only then."""

    target = slot(str, "Target")
    star = slot(str, "Star", default=None)
    limit = slot(int, "Limit", default=None)
    low = slot(int, "Low", default=None)
    high = slot(int, "High", default=None)
    guiding = needs("star", "limit")
    bounds = all_or_none("low", "high")


def test_what_is_needed_by_what_was_given_is_asked_for_on_the_screen_too() -> None:
    with Session(lambda: Guided.fill(["--star=HOLLIN-051", "--low=3"], layout="screen", resume=False)) as session:
        session.type("Lantern").press("enter")
        for label in ("Limit", "High"):  # what is needed comes up as it is known
            assert session.focus == label
            assert "a value is required" in session.screen
            session.type("7").press("enter")
        if session.is_open:
            session.choose("Accept")
    assert session.result == Guided(target="Lantern", star="HOLLIN-051", limit=7, low=3, high=7)


def test_what_was_chosen_may_not_stay_empty() -> None:
    with Session(lambda: Source.fill([], layout="screen", resume=False)) as session:
        session.press("alt-down").type("Host").press("enter").choose("Accept")
        assert session.is_open
        assert session.focus == "Host"
        assert "a value is required" in session.screen
        session.type("ridge").press("enter")
    assert session.result == Source(host="ridge")


class Look(Form):
    frames = slot(int, "Frames", low=1)
    target = slot(one_of(NAMES), "Target")

    def check(self) -> None:
        if self.frames > 9 and self.target == "Wicker":
            raise Complaint("too many for that", slot="frames")


@pytest.mark.parametrize("stops", [False, True])
def test_a_form_in_an_action_of_a_screen_is_a_dialog_over_it(stops: bool) -> None:
    found: list[Any] = []

    def plan() -> None:
        try:
            found.append(Look.fill([], layout="screen"))
        except Problems as problems:
            found.append(str(problems))

    screen = Screen(Down(Label("what is behind"), Button("Plan", plan)), title="Desk")
    with Session(screen.run, rows=20) as session:
        session.press("enter").see("Frames")
        assert "Look" in session.screen
        assert "Desk" in session.screen
        assert "what is behind" in session.screen
        if stops:
            session.press("escape")
        else:
            session.type("12").press("tab").type("wick").press("enter")
            session.choose("Accept").see("too many for that")
            session.press("ctrl-u").type("3").choose("Accept")
        assert "Look" not in session.screen
        session.press("ctrl-d")
    if stops:
        assert "frames: is missing" in found[0]
    else:
        assert found == [Look(frames=3, target="Wicker")]


@pytest.mark.parametrize("leaves", ["Stop", "ctrl-d"])
def test_a_screen_that_is_left_is_not_accepted_though_nothing_is_missing(leaves: str) -> None:
    class Light(Form):
        frames = slot(int, "Frames", default=12)

    with Session(lambda: Light.fill([], asking="all", layout="screen")) as session:
        session.see("Frames  12")
        session.choose(leaves) if leaves == "Stop" else session.press(leaves)
    assert isinstance(session.error, Problems)
    assert "not confirmed" in str(session.error)
