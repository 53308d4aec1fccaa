"""What was typed at questions that were not finished, kept for a day in the user's state folder.

Answers are written as they are given, and what is in the open question after each key, so that not even a kill loses
it; it is taken away when the form is filled. Secrets are not among it, nor values that cannot be written as texts. It
belongs to one form of one program, by its path. Each run has a file of its own, and holds the lock of a second one for
as long as it lasts: no other run offers what it has kept, or takes it away, before it has ended.

A file begins with a line of JSON: when it was begun, the answers, and the drafts: what was in other questions when the
user went back from them. Each further line is what a key has changed in the open question: its name, the characters
that stay at the start and at the end, and what is between them now. With the next answer it is written again. It is
never forced to the disk: a process that is killed is meant, not a power cut.
"""

from __future__ import annotations

import json
import os
import time
import zlib
from json.encoder import encode_basestring_ascii as in_json

from wesperon.context import current
from wesperon.files.private import create_private, make_own_folder, open_private, read_private, try_lock, write_all
from wesperon.forms.questions import accept_text
from wesperon.frozen import Frozen
from wesperon.screen.width import width
from wesperon.text.messages import tell, tell_many
from wesperon.user_folders import UNFINISHED, folder
from wesperon.values.provenance import declared_in
from wesperon.values.records import slots_of
from wesperon.values.slots import slot
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Prompt
from wesperon.widgets.yes_no import YesNo

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.widgets.question import Question

#: How long answers are kept, in seconds.
KEPT = 24 * 60 * 60
#: What the name of the file ends with whose lock a run holds.
LOCK = ".lock"
#: How long what was changed may become before the file is written again, in bytes.
LONGEST = 1 << 18


class Left(Frozen):
    """What an earlier run has left: ``question`` asks, for a gutter, whether to go on with it."""

    question: Callable[[int], Question]
    answers: Mapping[str, str]
    drafts: Mapping[str, str]


class SavedAnswers:
    """The files of one form of one program, which ``path`` tells from others of the same name."""

    def __init__(self, program: str, form: type[Any], path: str) -> None:
        self.program = program
        self.form = form
        named = ":".join((path, declared_in(form), form.__module__, form.__qualname__, *slots_of(form)))
        self.name = f"{zlib.crc32(named.encode('utf-8', 'surrogateescape')):08x}"
        #: The file of this run, its lock, and the file of an earlier run that this one may go on from.
        self.path, self.lock, self.taken = "", -1, ""
        self._handle = -1
        self._head: tuple[dict[str, str], dict[str, str]] = {}, {}
        self._noted, self._size = ("", ""), 0

    # What is left of an earlier run ----------------------------------------------------------------------------------

    def left(self, named: Callable[[str], str]) -> Left | None:
        """Return what there is to go on with; ``named`` gives the slot of a name that was kept.

        Return None if there is nothing.
        """
        answers, drafts, saved = self._read(named)
        kept = list(dict.fromkeys([*answers, *drafts]))
        if not kept:
            return None

        def question(gutter: int) -> Question:
            label = tell("Resume?")
            slots = slots_of(self.form)
            said = tell_many(
                "One saved answer, from {time}: {labels}",
                "{count} saved answers, from {time}: {labels}",
                len(kept),
                time=time.strftime("%H:%M", time.localtime(saved)),
                labels=", ".join([slots[named(name)].label for name in kept if named(name) in slots]),
            )
            switch: Any = slot(bool)
            prompt = Prompt(label, max(gutter, width(label)), said, switch.kind.wants)
            field = YesNo(lambda text: accept_text(switch, text), default=switch.format(True))
            return Question(prompt, field)

        return Left(question, answers, drafts)

    def _read(self, named: Callable[[str], str]) -> tuple[dict[str, str], dict[str, str], float]:
        """Return what the latest run that has ended has left of what is asked for, and when it was written.

        What others have left of other values stays for who asks for these.
        """
        latest: tuple[dict[str, str], dict[str, str], float] = {}, {}, 0.0
        for path in self._left():
            try:
                answers, drafts, saved = _parsed(read_private(path))
            except (OSError, ValueError, TypeError, KeyError):
                # half written by a run that was killed, or changed by hand: no use to anybody
                continue
            answers = {name: text for name, text in answers.items() if named(name)}
            drafts = {name: text for name, text in drafts.items() if named(name)}
            is_fresh = 0 <= current().clock.time() - saved < KEPT
            # A run that ends meanwhile takes its answers away before its lock.
            if (
                (answers or drafts)
                and is_fresh
                and saved >= latest[2]
                and not self._is_running(path)
                and os.path.lexists(path)
            ):
                latest = answers, drafts, saved
                self.taken = path
        return latest

    # What this run keeps ---------------------------------------------------------------------------------------------

    def keep(self, answers: Mapping[str, str], drafts: Mapping[str, str]) -> None:
        """Write the answers of this run; if that is not possible, they are not kept."""
        self._head = dict(answers), dict(drafts)
        self._noted = "", ""
        self._write()

    def prepare(self) -> None:
        """Open a file of this run's own, with nothing in it."""
        if self._handle < 0:
            self._replace(b"")

    def note(self, name: str, text: str) -> None:
        """Write what a key has changed in the open question."""
        before = self._noted[1] if self._noted[0] == name else ""
        self._noted = name, text
        start = _same(before, text)
        end = _same(before[start:][::-1], text[start:][::-1]) if start < len(before) else 0
        # The same as json.dumps() of the list, which makes an encoder for it: a tenth of what a key costs.
        typed = in_json(text[start : len(text) - end])
        line = f"[{in_json(name)}, {start}, {end}, {typed}]\n".encode()
        if not self._size:
            line = self._first_line() + line
        self._size += len(line)
        if self._handle < 0 or self._size > LONGEST:
            self._write()
            return
        try:
            write_all(self._handle, line)
        except OSError:  # a disk that takes no more costs what would be resumed, not the key that was typed
            pass

    def _write(self) -> None:
        """Write all that is to be kept; what was kept before is there until that is done."""
        name, text = self._noted
        self._replace(self._first_line() + (json.dumps([name, 0, 0, text]).encode() + b"\n" if name else b""))

    def _first_line(self) -> bytes:
        answers, drafts = self._head
        return json.dumps({"saved": current().clock.time(), "answers": answers, "drafts": drafts}).encode() + b"\n"

    def _replace(self, data: bytes) -> None:
        self._size = len(data)
        try:
            if not self.path:
                self._begin()
            handle = create_private(self.path, data)
            self._close()
            self._handle = handle
            self._remove(self.taken)
            self.taken = ""
        except OSError:  # likewise; the file of the earlier run is still there
            pass

    def _close(self) -> None:
        if self._handle >= 0:
            handle, self._handle = self._handle, -1
            os.close(handle)

    def forget(self) -> None:
        """Take away what this run has kept, and what it went on from: the form is filled."""
        self._close()
        self._remove(self.path)
        self._remove(self.taken)
        self.path = self.taken = ""
        folder = self._folder()
        try:
            os.rmdir(folder)  # if nothing else is left in it
            os.rmdir(os.path.dirname(folder))
        except OSError:  # something of another run is left in it
            pass

    def end(self) -> None:
        """Let other runs have what this one leaves: it has ended."""
        self._close()
        if self.lock >= 0:
            lock, self.lock = self.lock, -1
            os.close(lock)

    def __del__(self) -> None:
        """Do so in any case: an interrupt may have come in the midst of that."""
        self.end()

    def _begin(self) -> None:
        """Make a file of this run's own, with a lock that lasts as long as the run; raises OSError."""
        folder = self._folder()
        make_own_folder(os.path.dirname(folder))
        make_own_folder(folder)
        self._sweep(folder)
        path = os.path.join(folder, f"{self.name}-{os.urandom(6).hex()}.json")
        self.lock = open_private(path + LOCK, os.O_RDWR | os.O_CREAT)
        try_lock(self.lock)
        self.path = path

    def _is_running(self, path: str) -> bool:
        """Return True if the run that wrote a file goes on."""
        try:
            handle = open_private(path + LOCK, os.O_RDWR)
        except FileNotFoundError:
            return False
        except OSError:  # it is there and cannot be opened: better to leave it than to take it from a run that goes on
            return True
        try:
            return not try_lock(handle)
        finally:
            os.close(handle)

    def _remove(self, path: str) -> None:
        for name in (path, path + LOCK) if path else ():
            try:
                os.unlink(name)
            except OSError:  # another run has taken it away first
                pass

    def _sweep(self, folder: str) -> None:
        """Take away what other runs have left too long ago, or with nothing in it."""
        for entry in os.scandir(folder):
            try:
                found, path = entry.stat(follow_symlinks=False), entry.path.removesuffix(LOCK)
                is_old = current().clock.time() - found.st_mtime > KEPT
                is_blank = not found.st_size and path == entry.path
                if (is_old or is_blank) and not self._is_running(path):
                    self._remove(path)
            except OSError:  # it has vanished meanwhile: another run sweeps too
                pass

    def _left(self) -> list[str]:
        """Return the files that runs of this form have left, or still write."""
        folder = self._folder()
        try:
            names = os.listdir(folder)
        except OSError:  # no folder: nothing was ever left
            return []
        return [os.path.join(folder, name) for name in names if name.startswith(self.name) and name.endswith(".json")]

    def _folder(self) -> str:
        return os.path.join(folder("state", self.program), UNFINISHED)


def _parsed(data: bytes) -> tuple[dict[str, str], dict[str, str], float]:
    """Return the answers and the drafts of a file, and when it was written; raises ValueError, TypeError and KeyError.

    The last line may be cut off: the process was killed as it wrote it.
    """
    head, *changes = data.decode("utf-8", "replace").split("\n")[:-1]
    found = json.loads(head)
    answers, drafts = (
        {name: text for name, text in dict(found[which]).items() if isinstance(text, str)}
        for which in ("answers", "drafts")
    )
    saved = float(found["saved"])
    for change in changes:
        name, start, end, text = json.loads(change)
        before = drafts.get(name, "")
        drafts[name] = before[:start] + text + before[len(before) - end :]
    return answers, {name: text for name, text in drafts.items() if text}, saved


def _same(one: str, other: str) -> int:
    """Return how many characters at the start of two texts are the same."""
    if other.startswith(one):  # something was typed at its end
        return len(one)
    low, high = 0, min(len(one), len(other))
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if one[:middle] == other[:middle] else (low, middle - 1)
    return low
