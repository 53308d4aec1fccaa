"""What is kept of runs that were broken off: whose it is, and who may read it."""

from __future__ import annotations

import os
import shutil
import signal
import stat
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

import pytest

from tests.harness import ENTER, Terminal, python
from wesperon import Context, Form, slot
from wesperon.files.private import make_own_folder, open_private, read_private, replace_private
from wesperon.forms import saved_answers
from wesperon.forms.saved_answers import Unfinished
from wesperon.history.history_file import History
from wesperon.scope import within

PROGRAM = (
    "from wesperon import Form, slot\n"
    "class Log(Form):\n"
    "    target = slot()\n"
    "    frames = slot(int)\n"
    "    seconds = slot(int)\n"
    "print(tuple(Log.fill()))\n"
)


def answered(terminal: Terminal, *texts: str) -> None:
    for text in texts:
        terminal.quiet()
        terminal.type(text + ENTER)


def test_two_runs_at_once_leave_each_other_alone(tmp_path: Path) -> None:
    env = {"XDG_STATE_HOME": str(tmp_path)}
    with Terminal(python("-c", PROGRAM), env=env) as one, Terminal(python("-c", PROGRAM), env=env) as other:
        one.see("target")
        other.see("target")
        answered(one, "first")
        one.see("frames")
        answered(other, "second", "2")
        other.see("seconds")
        with Terminal(python("-c", PROGRAM), env=env) as third:  # both are still there: nothing is offered
            third.see("target")
            answered(third, "third", "3", "3")
            assert third.end() == 0
        answered(one, "1", "1")
        assert one.end() == 0
        other.process.kill(signal.SIGKILL)
        other.end()
    with Terminal(python("-c", PROGRAM), env=env) as next_one:
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
        ending = Unfinished("desk", Log)
        ending.keep({"frames": "1"})
        assert Unfinished("desk", Log).offer(("frames",)) is None  # it goes on
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
        other = Unfinished("desk", Log)
        assert other.offer(("frames",)) is None
        assert other.taken == ""
    assert not list(tmp_path.rglob("*.json*"))


def modes(folder: Path) -> set[tuple[bool, int]]:
    """The permissions of everything below a folder."""
    return {(path.is_dir(), stat.S_IMODE(path.stat().st_mode)) for path in folder.rglob("*")}


@pytest.mark.parametrize("umask", [0o000, 0o022, 0o077, 0o777, 0o277])
def test_what_is_kept_is_the_users_alone_whatever_the_umask(umask: int, tmp_path: Path) -> None:
    code = f"""
import os
os.umask({umask})
from wesperon import Form, slot
from wesperon.forms.saved_answers import Unfinished
from wesperon.history.history_file import History, state_file
class Log(Form):
    frames = slot(int)
    seconds = slot(int)
unfinished = Unfinished("desk", Log)
unfinished.keep({{"frames": "1"}})
unfinished.keep({{"frames": "2"}})
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
    unfinished = Unfinished("desk", Log)
    unfinished.keep({"frames": "1"})
    assert unfinished.offer({"frames"}) is None
    unfinished.forget()
    assert (tmp_path / "desk").read_text() == "in the way"
