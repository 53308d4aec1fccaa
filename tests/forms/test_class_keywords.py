"""What the head of a class says of all its slots.

Modules: ``forms.class_keywords``.
"""

from __future__ import annotations

import contextlib
import io
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import Command, Complaint, Context, DeclarationError, Form, Problems, Program, fill, run, slot
from wesperon.values.records import slots_of


class Base(Form):
    """Slots that a copy inherits."""

    target = slot(default="")
    seconds = slot(float, default=1.0, named_only=False)


class Copy(Base, named_only=True, repeats="last", env_prefix="DESK_"):
    """Most are given by name."""

    mode = slot(default="plain")
    tags = slot(str, many=True)
    depth = slot(int, default=0, repeats="error", env="DEPTH")
    key = slot(secret=True, default="")
    files = slot(Path, rest=True)


class Deeper(Copy):
    """The same holds for what a subclass adds."""

    night = slot(default="")


def test_by_name_are_all_but_the_rest_and_what_says_otherwise() -> None:
    by_position = [name for name, one in slots_of(Deeper).items() if not one.named_only]
    assert by_position == ["seconds", "files"]
    assert [name for name, one in slots_of(Base).items() if not one.named_only] == ["target", "seconds"]
    record = Deeper.fill(["2.5", "one", "two", "--night=n", "--target", "t"], asking="never")
    assert (record.seconds, record.files, record.night, record.target) == (2.5, (Path("one"), Path("two")), "n", "t")
    assert record.words()[-2:] == ["--night=n", "--target=t"]
    assert Deeper.fill(record.words(), asking="never") == record


def test_a_subclass_may_say_otherwise_for_its_own() -> None:
    class Open(Copy, named_only=False):
        night = slot(default="")

    assert [name for name, one in slots_of(Open).items() if not one.named_only] == ["seconds", "files", "night"]


@given(st.lists(st.sampled_from(["a", "b"]), min_size=2, max_size=4))
def test_the_last_value_counts_but_where_all_do_or_a_slot_says_otherwise(given_values: list[str]) -> None:
    words = [f"--mode={one}" for one in given_values]
    assert Copy.fill(words, asking="never").mode == given_values[-1]
    assert Copy.fill([f"--tags={one}" for one in given_values], asking="never").tags == tuple(given_values)
    with pytest.raises(Problems, match="depth: is given 2 times"):
        Copy.fill(["--depth=1", "--depth=2"], asking="never")
    with pytest.raises(Problems, match="target: is given 2 times"):
        Base.fill(["--target=1", "--target=2"], asking="never")


def test_each_slot_has_a_variable_but_those_that_have_one() -> None:
    environ = {"DESK_TARGET": "Lantern", "DESK_NIGHT": "n", "DESK_DEPTH": "9", "DEPTH": "3", "DESK_KEY": "hush"}
    record = Deeper.fill([], asking="never", context=Context(environ=environ))
    assert (record.target, record.night, record.depth, record.key) == ("Lantern", "n", 3, "hush")
    assert record.origins["target"] == "env"


def test_calls_take_them_too(capsys: pytest.CaptureFixture[str]) -> None:
    frames, tags = fill(["--frames=1", "--frames=2", "x"], frames=slot(int), tags=slot(rest=True), repeats="last")
    assert (frames, tags) == (2, ("x",))

    def plan(frames: int = 1, note: str = "") -> str:
        return f"{frames}{note}"

    run(plan, ["--note=a", "--frames=3"], named_only=True)
    assert capsys.readouterr().out == "3a\n"
    with pytest.raises(SystemExit):
        run(plan, ["3"], named_only=True)
    assert '"3"' in capsys.readouterr().err

    class Expose(Command, named_only=True):
        """Expose."""

        target = slot(default="")

        def run(self) -> str:
            """Say what."""
            return self.target

    assert Program("desk", members=[Expose]).main(["expose", "Lantern"]) == 2
    assert Program("desk", members=[Expose]).main(["expose", "--target=Lantern"]) == 0


@pytest.mark.parametrize(
    ("said", "reason"),
    [
        ({"named_only": "yes"}, "named_only='yes': must be True or False"),
        ({"repeats": "first"}, "repeats='first': must be 'error' or 'last'"),
        ({"env_prefix": "A B"}, "env_prefix='A B': must be the beginning of names of environment variables"),
    ],
)
def test_what_cannot_be_said_is_refused(said: dict[str, Any], reason: str) -> None:
    with pytest.raises(DeclarationError, match=reason):
        type("Wrong", (Form,), {"target": slot()}, **said)


@pytest.mark.parametrize("make", [lambda: slot(bool, named_only=False), lambda: slot(secret=True, named_only=False)])
def test_what_is_always_by_name_cannot_say_otherwise(make: Any) -> None:
    with pytest.raises(DeclarationError, match="named_only=False: a switch, a secret"):
        type("Wrong", (Form,), {"value": make()})


class Copied(Command):
    """Copy."""

    frames = slot(int, default=1, named_only=True)
    tags = slot(many=True)
    once = slot(int, default=0, named_only=True, repeats="error")

    def check(self) -> None:
        if self.frames > 8:
            raise Complaint("too many", slot="frames")

    def run(self) -> str:
        return f"{type(self).__name__} {self.frames} {self.tags} {self.origins['frames']} {self.replay()}"


class OfAll(Form):
    site = slot(default="x")


@given(
    st.lists(
        st.sampled_from(["--frames=2", "--frames=9", "--frames=x", "--frames 3", "--tags=a", "--site=q", "--site=r"]),
        max_size=5,
    ),
    st.booleans(),
)
@settings(deadline=None)
def test_a_whole_program_lets_the_last_value_count(words: list[str], is_shared: bool) -> None:
    """What the program says is what the class would say: the same words give the same, also with what is shared."""
    said: Any = {"shared": OfAll} if is_shared else {}
    other: Any = type("Copied", (Copied,), {"__doc__": Copied.__doc__}, repeats="last")
    known: Any = {"shared": type("OfAll", (OfAll,), {}, repeats="last")} if is_shared else {}
    results = []
    for program in (
        Program("desk", members=[Copied], repeats="last", **said),
        Program("desk", members=[other], **known),
    ):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            status = program.main(["copied", *" ".join(words).split()], context=Context(stdout=out, stderr=err))
        results.append((status, out.getvalue(), err.getvalue()))
    assert results[0] == results[1]


def test_a_program_says_how_values_repeat() -> None:
    assert "of a value that is given again the last one counts" in Program("desk", repeats="last").contract()
    with pytest.raises(DeclarationError, match="repeats='first': must be 'error' or 'last'"):
        Program("desk", repeats="first")
