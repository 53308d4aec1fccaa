"""What is kept of runs that were broken off: whose it is, and who may read it.

Modules: ``forms.saved_answers``, ``forms.unfinished``, ``files.private``.
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import stat
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.asking import asked
from tests.harness import BACKSPACE, CTRL_C, CTRL_D, DOWN, ENTER, LEFT, UP, Terminal, python
from wesperon import Context, Form, slot
from wesperon.files.private import make_own_folder, open_private, read_private, replace_private
from wesperon.forms import saved_answers
from wesperon.forms.saved_answers import SavedAnswers
from wesperon.history.history_file import History
from wesperon.scope import within

#: Whether every case is to be tried, not only some.
NIGHTLY = os.environ.get("HYPOTHESIS_PROFILE") == "nightly"
PROGRAM = (
    "from wesperon import Form, slot\n"
    "class Log(Form):\n"
    "    target = slot()\n"
    "    frames = slot(int)\n"
    "    seconds = slot(int)\n"
    "print(tuple(Log.fill()))\n"
)


def program_of(path: Path, text: str) -> list[str]:
    """Return a program in a file: what belongs to one is known by its path."""
    path.write_text(text)
    return [sys.executable, str(path)]


def answered(terminal: Terminal, *texts: str) -> None:
    for text in texts:
        terminal.quiet()
        terminal.type(text + ENTER)


def test_two_runs_at_once_leave_each_other_alone(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path)}
    argv = program_of(tmp_path / "log.py", PROGRAM)
    with Terminal(argv, env=env) as one, Terminal(argv, env=env) as other:
        one.see("target")
        other.see("target")
        answered(one, "first")
        one.see("frames")
        answered(other, "second", "2")
        other.see("seconds")
        with Terminal(argv, env=env) as third:  # both are still there: nothing is offered
            third.see("target")
            answered(third, "third", "3", "3")
            assert third.end() == 0
        answered(one, "1", "1")
        assert one.end() == 0
        other.process.kill(signal.SIGKILL)
        other.end()
    with Terminal(argv, env=env) as next_one:
        next_one.see("2 saved answers")
        answered(next_one, "")
        next_one.see("seconds")
        answered(next_one, "9")
        next_one.see("('second', 2, 9)")
    assert not list(tmp_path.rglob("*.json"))


class Log(Form):
    frames = slot(int)
    seconds = slot(int)


@pytest.mark.parametrize("moment", ["listdir", "read_private", "open_private", "try_lock"])
def test_a_run_that_ends_while_another_looks_is_not_offered(
    moment: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    with within(Context(environ={"XDG_STATE_HOME": str(tmp_path)})):
        ending = SavedAnswers("desk", Log, "/desk.py")
        ending.keep({"frames": "1"}, {})
        assert SavedAnswers("desk", Log, "/desk.py").left(asked("frames")) is None  # it goes on
        where: Any = os if moment == "listdir" else saved_answers
        real = getattr(where, moment)

        def ends_meanwhile(*given: Any) -> Any:
            try:
                return real(*given)
            finally:
                ending.forget()
                if moment in ("listdir", "read_private"):
                    ending.end()

        monkeypatch.setattr(where, moment, ends_meanwhile)
        other = SavedAnswers("desk", Log, "/desk.py")
        assert other.left(asked("frames")) is None
        assert other.taken == ""
    assert not list(tmp_path.rglob("*.json*"))


def modes(folder: Path) -> set[tuple[bool, int]]:
    """Return the permissions of everything below a folder."""
    return {(path.is_dir(), stat.S_IMODE(path.stat().st_mode)) for path in folder.rglob("*")}


@pytest.mark.parametrize("umask", [0o000, 0o022, 0o077, 0o777, 0o277])
def test_what_is_kept_is_the_users_alone_whatever_the_umask(umask: int, tmp_path: Path) -> None:
    code = f"""
import os
os.umask({umask})
from wesperon import Form, slot
from wesperon.forms.saved_answers import SavedAnswers
from wesperon.history.history_file import History, state_file
class Log(Form):
    frames = slot(int)
    seconds = slot(int)
unfinished = SavedAnswers("desk", Log, "/desk.py")
unfinished.keep({{"frames": "1"}}, {{}})
unfinished.keep({{"frames": "2"}}, {{}})
history = History(state_file("desk"), limit=200, owns_folder=True)
for number in range(20):
    history.add(f"entry {{number}}")
assert not history.fault, history.fault
"""
    env = {**os.environ, "XDG_STATE_HOME": str(tmp_path / "a" / "b")}
    subprocess.run([sys.executable, "-c", code], check=True, env=env)
    assert modes(tmp_path) == {(True, 0o700), (False, 0o600)}
    assert len(list(tmp_path.rglob("*.json"))) == 1


def test_folders_and_files_that_others_could_read_are_closed(tmp_path: Path) -> None:
    folder = tmp_path / "desk"
    folder.mkdir(mode=0o755)
    os.chmod(folder, 0o755)
    path = folder / "history.txt"
    History(str(path)).add("one")
    os.chmod(path, 0o644)
    History(str(path), owns_folder=True).add("two")
    assert (stat.S_IMODE(folder.stat().st_mode), stat.S_IMODE(path.stat().st_mode)) == (0o700, 0o600)
    os.chmod(path, 0o666)
    history = History(str(path))
    assert history.add("three") is None
    assert "other users may write to it" in history.fault


def test_a_file_is_the_old_one_or_the_new_one(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "answers.json"
    replace_private(str(path), b"old")
    for name in ("open", "write", "fsync", "replace", "fchmod"):
        real: Any = getattr(os, name)

        def fails(*given: Any, **more: Any) -> Any:
            raise OSError(28, "No space left on device")

        monkeypatch.setattr(os, name, fails)
        with pytest.raises(OSError, match="No space"):
            replace_private(str(path), b"new")
        monkeypatch.setattr(os, name, real)
        assert read_private(str(path)) == b"old"
        assert [one.name for one in tmp_path.iterdir()] == ["answers.json"]
    own_link = tmp_path / "link"
    own_link.symlink_to(path)
    replace_private(str(own_link), b"new")  # the user's own link leads on
    assert (own_link.is_symlink(), path.read_bytes()) == (True, b"new")
    os.mkfifo(tmp_path / "pipe")
    with pytest.raises(OSError, match="not a regular file"):
        read_private(str(tmp_path / "pipe"))


@pytest.mark.skipif(os.geteuid() != 0, reason="only root can become another user")
def test_nothing_that_another_user_has_planted_is_followed(request: pytest.FixtureRequest) -> None:
    """In a folder that everybody can write to, as ``/tmp`` is."""
    tmp_path = Path(tempfile.mkdtemp())  # below a folder that the other user can reach
    request.addfinalizer(lambda: shutil.rmtree(tmp_path))
    os.chmod(tmp_path, 0o755)
    shared = tmp_path / "shared"
    shared.mkdir()
    os.chmod(shared, 0o1777)
    victim = tmp_path / "victim.txt"
    victim.write_text("untouched")
    plant = (
        "import os, sys\n"
        "os.setgid(65534); os.setuid(65534)\n"
        "shared, victim = sys.argv[1:]\n"
        "os.symlink(victim, shared + '/history.txt')\n"
        "os.symlink(os.path.dirname(victim), shared + '/desk')\n"
        "open(shared + '/theirs.txt', 'w').close()\n"
        "os.chmod(shared + '/theirs.txt', 0o666)\n"
        "os.mkdir(shared + '/dome', 0o777)\n"
    )
    subprocess.run([sys.executable, "-c", plant, str(shared), str(victim)], check=True)
    for name in ("history.txt", "theirs.txt", "desk/history.txt"):
        history = History(str(shared / name))
        history.open()
        history.add("secret plans")
        assert "another user" in history.fault, name
    with pytest.raises(PermissionError):
        replace_private(str(shared / "history.txt"), b"x")
    for name in ("desk", "dome"):
        with pytest.raises(PermissionError):
            make_own_folder(str(shared / name))
    with pytest.raises(PermissionError):
        open_private(str(shared / "history.txt"), os.O_RDONLY)
    assert victim.read_text() == "untouched"
    assert {path.name for path in tmp_path.iterdir()} == {"shared", "victim.txt"}


def test_a_form_that_cannot_keep_its_answers_goes_on(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    class Log(Form):
        frames = slot(int)

    (tmp_path / "desk").write_text("in the way")
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path))
    unfinished = SavedAnswers("desk", Log, "/desk.py")
    unfinished.keep({"frames": "1"}, {})
    assert unfinished.left(asked("frames")) is None
    unfinished.forget()
    assert (tmp_path / "desk").read_text() == "in the way"


# The law ------------------------------------------------------------------------------------------------------------

#: Questions of every sort, the keys typed at each, what is given in the end, and what of it must be seen again.
SORTS: dict[str, tuple[str, list[str], str, str]] = {
    "line": ("note = slot()", [*"one tw", LEFT, LEFT, "X"], ENTER, "'one Xtw'"),
    "lines": ("note = slot(lines=True)", [*"one", ENTER, *"two", ENTER, *"thr"], CTRL_D, "'one\\ntwo\\nthr'"),
    "list": ("note = slot(many=True, least=1)", [*"ab", ENTER, *"c d", ENTER, *"ef"], CTRL_D, "('ab', 'c d', 'ef')"),
    "pairs": (
        "note = slot(dict[str, int], least=1)", [*"red=3", ENTER, *"blue=", *"4"], CTRL_D, "{'red': 3, 'blue': 4}",
    ),
    "checkboxes": (
        "note = slot(any_of(['a,b', 'c', 'd e', 'f']))", [" ", DOWN, DOWN, " ", UP, " "], ENTER, "('a,b', 'c', 'd e')",
    ),
    "menu": ("note = slot(one_of(['red', 'green', 'blue']))", [*"gre"], ENTER, "'green'"),
    "number": ("note = slot(int)", [*"120"], ENTER, "120"),
    "suggested": ("note = slot(suggest=['Lantern', 'Wicker'])", [*"Lant"], ENTER, "'Lant'"),
    "path": ("note = slot(Path)", [*"/no/where"], ENTER, "PosixPath('/no/where')"),
    "pasted": ("note = slot()", ["\x1b[200~a b \x1b[201~", *"é中", "👍🏽", BACKSPACE, "z"], ENTER, "'a b é中z'"),
}  # fmt: skip
LAW = """
import sys
from pathlib import Path
from wesperon import Form, any_of, one_of, slot
class Log(Form):
    {before}
    {slot}
    password = slot(secret=True, default="")
record = Log.fill([])
print("got", ascii(record.note))
"""


def resumed(argv: list[str], env: dict[str, str], sort: str, keys: list[str], at: int, before: bool) -> str:
    """Type keys, be killed after one of them, go on, and type the rest; what came of it in the end."""
    _, _, end, _ = SORTS[sort]
    with Terminal(argv, env=env) as terminal:
        if before:
            terminal.see("first")
            terminal.quiet()
            terminal.type("answered" + ENTER)
        terminal.see("note")
        terminal.quiet()
        for key in keys[:at]:
            shown = len(terminal.received)
            terminal.type(key)
            terminal.wait(lambda: len(terminal.received) > shown, "the echo of the key")  # noqa: B023
        terminal.quiet()
        time.sleep(0.05)
        terminal.process.kill(signal.SIGKILL)
        terminal.end()
    with Terminal(argv, env=env) as terminal:
        if at or before:
            terminal.see("Resume")
            terminal.quiet()
            terminal.type(ENTER)
        terminal.see("note")
        terminal.quiet()
        for key in keys[at:]:
            terminal.type(key)
        terminal.quiet()
        terminal.type(end)
        terminal.see("got")
        assert terminal.end() == 0
        return terminal.text().rpartition("got ")[2].strip()


@pytest.mark.parametrize("before", [False, True])
@pytest.mark.parametrize("sort", SORTS)
def test_a_kill_after_any_key_of_any_question_loses_nothing(sort: str, before: bool, tmp_path: Path) -> None:
    """The text is there again, whole, with what was answered before; secrets and ``-c`` keep nothing."""
    declared, keys, _, expected = SORTS[sort]
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    argv = program_of(tmp_path / "log.py", LAW.format(slot=declared, before="first = slot()" if before else "pass"))
    # At the end of what is typed, and in the midst of it; every night everywhere.
    places = [len(keys)] if not before else random.Random(sort).sample(range(len(keys)), 1)
    for at in range(len(keys) + 1) if NIGHTLY else places:
        if sort in ("checkboxes", "line") and at < len(keys):
            continue  # where the cursor was is not kept, so the rest would do another thing
        assert resumed(argv, env, sort, keys, at, before) == ascii(eval(expected, {"PosixPath": Path})), at
    assert not list(tmp_path.rglob("*.json"))


def test_nothing_is_kept_of_a_secret_nor_of_a_program_without_a_path(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    secret = "from wesperon import fill, slot; fill([], password=slot(secret=True))"
    for argv in (program_of(tmp_path / "secret.py", secret), python("-c", "import wesperon\n" + PROGRAM)):
        with Terminal(argv, env=env) as terminal:
            terminal.wait(lambda: "Enter: accept" in terminal.text(), "a question")
            terminal.type("Zq7hunter")
            terminal.quiet()
            terminal.process.kill(signal.SIGKILL)
            terminal.end()
        assert not list(tmp_path.rglob("*.json"))


def test_a_key_finds_its_file_open(tmp_path: Path) -> None:
    """What a key needs is there before the first one; left untouched, it is offered to nobody and goes with the run."""
    argv, env = program_of(tmp_path / "log.py", PROGRAM), {"XDG_STATE_HOME": str(tmp_path / "state")}
    for key in (CTRL_C, ""):
        with Terminal(argv, env=env) as terminal:
            terminal.see("Enter: accept")
            terminal.wait(lambda: len(list(tmp_path.rglob("*.json"))) > 0, "a file")
            assert "Resume" not in terminal.text()
            if key:
                terminal.type(key)
            else:
                terminal.process.kill(signal.SIGKILL)
            terminal.end()
    with Terminal(argv, env=env) as terminal:
        terminal.quiet()
        assert "Resume" not in terminal.text()


def test_two_programs_of_one_name_keep_what_is_theirs(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    for name in ("a", "b"):
        (tmp_path / name).mkdir()
    one, other = (program_of(tmp_path / name / "main.py", PROGRAM) for name in ("a", "b"))
    with Terminal(one, env=env) as terminal:
        answered(terminal, "first")
        terminal.see("frames")
        terminal.quiet()
        terminal.process.kill(signal.SIGKILL)
        terminal.end()
    with Terminal(other, env=env) as terminal:
        terminal.see("target")
        assert "Resume" not in terminal.text()
    with Terminal(one, env=env) as terminal:
        terminal.see("Resume")


@given(st.lists(st.text(st.sampled_from('ab é中\n"\\\x1b'), max_size=8), min_size=1, max_size=20), st.integers(0, 40))
def test_what_is_kept_is_the_last_text_however_the_file_is_cut(texts: list[str], cut: int) -> None:
    with tempfile.TemporaryDirectory() as place, within(Context(environ={"XDG_STATE_HOME": place})):
        saved = SavedAnswers("desk", Log, "/desk.py")
        saved.keep({"frames": "1"}, {})
        for text in texts:
            saved.note("seconds", text)
        saved.end()
        path = Path(saved.path)
        os.truncate(path, path.stat().st_size - (cut if cut < path.read_bytes()[::-1].find(b"\n", 1) else 0))
        left = SavedAnswers("desk", Log, "/desk.py").left(lambda name: name)
        assert left is not None
        assert left.answers == {"frames": "1"}
        last = texts[-1] if path.read_bytes().endswith(b"\n") else ["", *texts][-2]
        assert left.drafts == ({"seconds": last} if last else {})


GUIDE = """
start = "target"
[steps.target]
says = "Look at the sky."
kind = "text"
ask = "Target"
next = "note"
[steps.note]
says = "Look again."
kind = "text"
ask = "Note"
next = "end"
[steps.end]
says = "That is all."
ends = "done"
"""


def test_a_guide_that_is_killed_goes_on_in_the_midst_of_a_line(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    (tmp_path / "guide.toml").write_text(GUIDE)
    program = "import sys; from wesperon import Guide; print(Guide(sys.argv.pop()).walk([]).answers)"
    argv = [*program_of(tmp_path / "walk.py", program), str(tmp_path / "guide.toml")]
    with Terminal(argv, env=env, rows=40) as terminal:
        answered(terminal, "Lantern")
        terminal.see("Look again")
        terminal.quiet()
        terminal.type("half of")
        terminal.see("half of")
        terminal.quiet()
        time.sleep(0.05)
        terminal.process.kill(signal.SIGKILL)
        terminal.end()
    with Terminal(argv, env=env, rows=40) as terminal:
        terminal.see("2 saved answers")
        answered(terminal, "")
        terminal.see("half of")
        answered(terminal, " a note")
        terminal.see("'half of a note'")
        assert "'Lantern'" in terminal.text()


def test_a_run_that_asks_for_other_values_leaves_what_was_kept_to_who_asks_for_it(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    argv = program_of(tmp_path / "log.py", PROGRAM)
    for words, typed in ((["--frames=1"], "Lantern"), (["--target=x", "--frames=1"], "12")):
        with Terminal([*argv, *words], env=env) as terminal:
            terminal.see("Enter: accept")
            assert "Resume" not in terminal.text()
            terminal.type(typed)
            terminal.see(typed)
            terminal.quiet()
            time.sleep(0.05)
            terminal.process.kill(signal.SIGKILL)
            terminal.end()
    with Terminal([*argv, "--frames=1", "--seconds=5"], env=env) as terminal:
        terminal.see("Resume")
        answered(terminal, "")
        terminal.see("target  Lantern")


def test_two_sets_of_questions_of_one_name_are_two(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path / "state")}
    for name in ("a", "b"):
        (tmp_path / name).mkdir()
        (tmp_path / name / "set.toml").write_text("[slots.note]\nkind = 'text'\n")
    fill = [sys.executable, "-m", "wesperon", "fill"]
    with Terminal([*fill, str(tmp_path / "a" / "set.toml")], env=env) as terminal:
        terminal.see("note")
        terminal.quiet()
        terminal.type("half")
        terminal.see("half")
        terminal.quiet()
        time.sleep(0.05)
        terminal.process.kill(signal.SIGKILL)
        terminal.end()
    with Terminal([*fill, str(tmp_path / "b" / "set.toml")], env=env) as terminal:
        terminal.see("note")
        assert "Resume" not in terminal.text()
    with Terminal([*fill, str(tmp_path / "a" / "set.toml")], env=env) as terminal:
        terminal.see("Resume")


def test_a_run_that_ends_before_anything_is_typed_leaves_nothing_for_the_next(tmp_path: Path) -> None:
    with within(Context(environ={"XDG_STATE_HOME": str(tmp_path)})):
        broken_off = SavedAnswers("desk", Log, "/desk.py")
        broken_off.prepare()
        going_on = SavedAnswers("desk", Log, "/desk.py")
        going_on.prepare()
        broken_off.end()
        later = SavedAnswers("desk", Log, "/desk.py")
        assert later.left(asked("frames")) is None
        later.prepare()
        later.note("frames", "12")
        assert len(list(tmp_path.rglob("*.json"))) == 2  # that of the run that goes on, and its own
        going_on.note("frames", "3")
        going_on.end()
        after = SavedAnswers("desk", Log, "/desk.py")
        left = after.left(asked("frames"))
        assert left is not None
        assert left.drafts == {"frames": "3"}
        for one in (later, after):
            one.forget()
            one.end()
    assert not list(tmp_path.rglob("*.json"))
