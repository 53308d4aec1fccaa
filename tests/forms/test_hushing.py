"""Promise 6 from within: whatever a program's own functions do with a secret, no error that leaves says it.

A law over every place in which they run, every source of the secret, every shape of error and every way in. A second
text that is no secret is in the same errors, and must be shown.
"""

from __future__ import annotations

import gc
import io
import json
import os
import sys
import traceback
import types
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import Command, CommandGroup, Complaint, Console, Context, Form, Problems, Program, Refusal, fill, slot
from wesperon.context import current
from wesperon.scope import within
from wesperon.testing import Press, Scripted
from wesperon.text.quoting import join
from wesperon.values.secrets import hush_error

#: Whether every case is to be tried, not only some.
NIGHTLY = os.environ.get("HYPOTHESIS_PROFILE") == "nightly"
SECRET, PUBLIC = "Zq7hunter-Kestrel", "harbourlight"


class Own(Exception):
    """An error of the program whose text is made of an attribute."""

    def __init__(self, secret: str) -> None:
        super().__init__()
        self.held = [{"deep": (secret, PUBLIC)}]
        self.secret = secret

    def __str__(self) -> str:
        return f"own {self.secret} {PUBLIC}"


class Slotted(ValueError):
    """One that keeps what it says where no dictionary has it."""

    __slots__ = ("said",)

    def __init__(self, said: str) -> None:
        self.said = said

    def __str__(self) -> str:
        return f"slotted {self.said} {PUBLIC}"


class Enter(Command):
    """Enter."""

    user = slot()
    password = slot(secret="anywhere")


class Say(Command):
    """Say."""

    what = slot(rest=True)
    count = slot(int, default=1)
    loud = slot(bool)


CONSOLE = Console(Program("desk", members=[Enter, Say, CommandGroup("deep", members=[Enter])]), history=False)


def noted(secret: str) -> Exception:
    error = RuntimeError(PUBLIC)
    error.add_note(f"it was {secret}")
    return error


def caused(secret: str) -> Exception:
    error, cause, context = RuntimeError(PUBLIC), KeyError(secret), OSError(2, secret, secret)
    error.__cause__, error.__context__, error.__suppress_context__ = cause, context, False
    cause.__context__ = LookupError(f"deeper {secret}")
    return error


def of_syntax(secret: str) -> Exception:
    return SyntaxError(PUBLIC, (secret, 1, 2, f"x = {secret}", 1, 3))


#: Every shape in which an error may hold a text.
ERRORS: list[Callable[[str], BaseException]] = [
    lambda secret: ValueError(f"no {secret} at {PUBLIC}"),
    lambda secret: Complaint(f"no {secret} at {PUBLIC}", 3),
    lambda secret: Refusal(f"no {secret} at {PUBLIC}", 4),
    KeyError,
    lambda secret: KeyError((PUBLIC, [secret, {secret: secret}])),
    lambda secret: OSError(2, f"{secret} {PUBLIC}", secret),
    lambda secret: RuntimeError(f"x{secret}y {PUBLIC}"),
    lambda secret: RuntimeError(secret.upper(), PUBLIC),
    lambda secret: RuntimeError(f"{secret} {PUBLIC}".encode()),
    lambda secret: RuntimeError(f"the end of it is {secret[6:]} {PUBLIC}"),
    lambda secret: SystemExit(f"bye {secret} {PUBLIC}"),
    lambda secret: UnicodeDecodeError("utf-8", secret.encode(), 0, 1, PUBLIC),
    lambda secret: ExceptionGroup(f"{secret} {PUBLIC}", [KeyError(secret), noted(secret)]),
    lambda secret: NameError(f"name {secret} {PUBLIC}", name=secret),
    lambda secret: AttributeError(PUBLIC, name="x", obj=secret),
    noted,
    caused,
    of_syntax,
    Own,
    Slotted,
]


def fails(make: Callable[[str], BaseException]) -> Callable[[str], None]:
    def failing(secret: str) -> None:
        raise make(secret)

    return failing


def log(kind: Any = str, check: Any = None, **body: Any) -> Any:
    """Return a form with a password, and more in its body."""
    return type("Log", (Form,), {"password": slot(kind, "Password", secret="anywhere", env="PW", check=check), **body})


def kind(make: Callable[[str], BaseException]) -> Any:
    def own(text: str) -> str:
        raise make(text)

    return log(own), {}


def slot_check(make: Callable[[str], BaseException]) -> Any:
    return log(check=fails(make)), {}


def form_check(make: Callable[[str], BaseException]) -> Any:
    class Checked(log()):  # type: ignore[misc]
        def check(self) -> None:
            raise make(self.password)

    return Checked, {}


def bound(make: Callable[[str], BaseException]) -> Any:
    n: Any = slot(int, low=lambda answers: fails(make)(answers.password), initial=5)
    return log(n=n), {"words": ["--n=3"]}


def default(make: Callable[[str], BaseException]) -> Any:
    n: Any = slot(int, default=lambda answers: fails(make)(answers.password))
    return log(n=n), {}


def applies(make: Callable[[str], BaseException]) -> Any:
    n: Any = slot(int, applies=lambda answers: fails(make)(answers.password), default=3)
    return log(n=n), {}


def gate(make: Callable[[str], BaseException]) -> Any:
    return log(), {"gate": lambda path, command, values: fails(make)(values.password)}


def running(make: Callable[[str], BaseException]) -> Any:
    return log(), {"run": make}


PLACES = [kind, slot_check, form_check, bound, default, applies, gate, running]


def sources(folder: Path) -> Iterator[tuple[str, list[str], dict[str, str], Any]]:
    """Yield each source of the password: its words, environment and driver."""
    yield "words", [f"--password={SECRET}"], {}, None
    yield "env", [], {"PW": SECRET}, None
    for suffix, text in (
        ("toml", f'password = "{SECRET}"'),
        ("json", json.dumps({"password": SECRET})),
        ("yaml", f"password: {SECRET}"),
    ):
        path = folder / f"answers.{suffix}"
        path.write_text(text)
        yield suffix, [f"--answers={path}"], {}, None
    yield "asked", [], {}, [SECRET, Press("enter"), Press("ctrl-c")]


def shown(error: BaseException) -> str:
    """Return all that may be printed of an error."""
    parts = [str(error), repr(error), repr(error.args), *traceback.format_exception(error)]
    if isinstance(error, Problems):
        parts.append(error.json())
    if isinstance(error, SystemExit):
        parts.append(str(error.code))
    return "\n".join(parts)


def is_clean(text: str) -> bool:
    return not any(SECRET[at : at + 6].casefold() in text.casefold() for at in range(len(SECRET) - 5))


def ways_in(
    form: Any, words: list[str], settings: dict[str, Any], keys: Any
) -> Iterator[tuple[str, Callable[[], Any]]]:
    """Yield every way in which the form is filled, by name."""

    def driven() -> dict[str, Any]:
        return {} if keys is None else {"driver": Scripted(keys)}

    class Go(Command, form):  # type: ignore[misc]
        """Go."""

        def run(self) -> None:
            """Nothing, or fail."""
            if run is not None:
                raise run(self.password)

    run = settings.pop("run", None)
    gate = settings.get("gate")

    def program() -> Any:
        made = Program("desk", members=[Go], gate=gate)
        return made.call(["go", *words], **driven())

    def main() -> Any:
        made = Program("desk", members=[Go], gate=gate)
        return made.main(["go", *words])

    def console() -> Any:
        made = Program("desk", members=[Go], gate=gate)
        said, (out, err) = current(), (current().stdout, current().stderr)
        typed = io.StringIO(join(["go", *words]) + "\n")
        with within(Context(stdin=typed, stdout=out, stderr=err, environ=said.environ)):
            return Console(made, history=False).run()

    if keys is None:
        yield "console", console
    if run is not None:  # only a command runs
        yield "Program.call", program
        return
    yield "Form.fill", lambda: form.fill(words, **settings, **driven())
    yield "fill", lambda: fill(form, words, **settings, **driven())
    yield "Program.call", program
    if keys is None:
        yield "Program.main", main


@pytest.mark.parametrize("place", PLACES, ids=lambda place: place.__name__)
@pytest.mark.parametrize("trace", ["", "1"])
def test_no_error_of_a_programs_own_functions_says_a_secret(place: Any, trace: str, tmp_path: Path) -> None:
    faults = []
    tried = len(trace)
    for number, make in enumerate(ERRORS):
        form, extra = place(make)
        gate = {name: extra[name] for name in ("gate", "run") if name in extra}
        for source, words, environ, keys in sources(tmp_path):
            for way, call in ways_in(form, [*words, *extra.get("words", [])], dict(gate), keys):
                tried += 1
                if not NIGHTLY and tried % 3:  # every night all, and by day some of each
                    continue
                out, err = io.StringIO(), io.StringIO()
                asking = {} if keys else {"WESPERON_ASKING": "never"}
                text = ""
                with within(Context(stdout=out, stderr=err, environ={**environ, **asking, "WESPERON_TRACE": trace})):
                    try:
                        call()
                    except BaseException as error:
                        text = shown(error)
                text += out.getvalue() + err.getvalue()
                told = (number, place.__name__, source, way)
                if not is_clean(text):
                    faults.append((told, text))
    assert not faults, f"{len(faults)}: {faults[0][0]}\n{faults[0][1]}\n{[one[0] for one in faults[:200]]}"


@pytest.mark.parametrize("make", ERRORS)
def test_what_is_no_secret_is_shown(make: Callable[[str], BaseException]) -> None:
    """An error that says both loses the one, and keeps the other, its type, and what led to it."""
    made = make(SECRET)
    before = traceback.format_exception(made)
    hushed = hush_error(made, [SECRET])
    assert isinstance(hushed, type(made))
    after = shown(hushed)
    assert is_clean(after)
    if any(PUBLIC in line for line in before):
        assert PUBLIC in after
    assert len(traceback.format_exception(hushed)) == len(before)


WORDS = st.sampled_from(["a", "north", "say", "'x y'", "--loud", "&", ";", "&&", "|", "run", "help", "# x", "3"])


@given(
    before=st.lists(WORDS, max_size=3),
    sign=st.sampled_from(["; ", " ; ", " && ", " | ", " ", ";", " & "]),
    after=st.lists(WORDS, max_size=2),
    name=st.sampled_from(["enter u {}", "enter --password={}", "ENTER {}", "say --password {}", "deep enter x {}"]),
)
def test_no_line_with_a_secret_anywhere_joins_the_history(
    before: list[str], sign: str, after: list[str], name: str
) -> None:
    line = " ".join(before) + (sign if before else "") + " ".join([name.format(SECRET), *after])
    assert CONSOLE.lines.is_private(line), line


@given(words=st.lists(st.sampled_from(["a", "north", "'x y'", "3", "--count=3", "--loud"]), max_size=4))
def test_a_line_without_one_joins_it(words: list[str]) -> None:
    for line in (
        " ".join(["say", *words]),
        " ".join(["help", "say"]),
        "enter",
        "say a; say b",
        " ".join(["exit", "3"]),
    ):
        assert not CONSOLE.lines.is_private(line), line


@tabled
def test_no_fault_of_a_file_says_it(suffix: str, text: str, tmp_path: Path) -> None:
    path = tmp_path / f"answers.{suffix}"
    path.write_text(text.format(SECRET, SECRET))

    class Log(Form):
        password = slot(secret=True)

    with pytest.raises(Problems) as caught:
        Log.fill([f"--answers={path}", "--asking=never"])
    assert is_clean(shown(caught.value))
    assert str(path) in shown(caught.value)


def held_by_the_library() -> Iterator[str]:
    """Yield every text that can be reached from the modules of the library."""
    modules = [module for name, module in sys.modules.items() if name.partition(".")[0] == "wesperon"]
    others = [module for module in sys.modules.values() if module not in modules]
    seen = {id(one) for module in others for one in (module, getattr(module, "__dict__", None))}
    left: list[Any] = [vars(module) for module in modules]
    while left:
        one = left.pop()
        if id(one) in seen:
            continue
        seen.add(id(one))
        if isinstance(one, str):
            yield one
        elif not isinstance(one, types.FrameType):
            left += gc.get_referents(one)


@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_nothing_in_the_library_holds_it_afterwards(keys: str) -> None:
    class Log(Form):
        password = slot(secret=True)

    held = f"held-{keys}-{SECRET}"
    for name in (
        "ctrl-alt-b",
        "ctrl-alt-f",
        "alt-b",
        "ctrl-w",
        "ctrl-y",
        "ctrl-u",
        "ctrl-k",
        "ctrl-t",
        "alt-t",
        "ctrl-_",
    ):
        script: list[Any] = [f"{held} x", Press(name), Press("end"), held, Press("escape"), "WB", Press("enter")]
        assert Log.fill([], driver=Scripted(script), keys=keys).password
    gc.collect()
    assert not [text for text in held_by_the_library() if held in text]
