"""Answers of a run that was broken off, kept for a day in the user's state folder.

They are written after each answer, so that not even a kill loses them, and taken away when the form is filled. Secrets
are not among them, nor values that cannot be written as texts. Two forms are the same where their program, their name
and the names of their slots are. Each run has a file of its own, and holds the lock of a second one for as long as it
lasts: no other run offers its answers, or takes them away, before it has ended.
"""

from __future__ import annotations

import os
import time

from wesperon.context import current
from wesperon.files.private import make_own_folder, open_private, read_private, replace_private, try_lock
from wesperon.text.messages import tell, tell_many
from wesperon.user_folders import folder

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection, Mapping
    from typing import Any

    from wesperon.widgets.question import Question

    Left = tuple[Callable[[int], Question], Mapping[str, str]]

#: How long answers are kept, in seconds.
KEPT = 24 * 60 * 60
#: What the name of the file ends with whose lock a run holds.
LOCK = ".lock"


class Unfinished:
    """What is left of the last run of one form of one program."""

    def __init__(self, program: str, form: type[Any]) -> None:
        import zlib

        self.program = program
        self.form = form
        named = ":".join((form.__module__, form.__qualname__, *form._slots))
        self.name = f"{zlib.crc32(named.encode()):08x}"
        #: The file of this run, its lock, and the file of an earlier run that this one may go on from.
        self.own, self.lock, self.taken = "", -1, ""

    def offer(self, asked: Collection[str]) -> Left | None:
        """The question whether to go on with what is left, for a gutter, and the texts; None if nothing is."""
        return self._offered(lambda name: name if name in asked else "")

    def left(self) -> Left | None:
        """The same for a guide, whose steps are in their order, a number before each name."""
        return self._offered(lambda name: name.partition(" ")[2])

    def _offered(self, named: Callable[[str], str]) -> Left | None:
        texts, saved = self._read()
        texts = {name: text for name, text in texts.items() if named(name)}
        if not texts:
            return None

        def question(gutter: int) -> Question:
            from wesperon.forms.questions import accept_text
            from wesperon.screen.width import width
            from wesperon.values.slots import slot
            from wesperon.widgets.question import Question
            from wesperon.widgets.widget import Prompt
            from wesperon.widgets.yes_no import YesNo

            label = tell("Resume")
            slots = self.form._slots
            labels = ", ".join([slots[named(name)].label for name in texts if named(name) in slots])
            said = tell_many(
                "One saved answer, from {time}: {labels}",
                "{count} saved answers, from {time}: {labels}",
                len(texts),
                time=time.strftime("%H:%M", time.localtime(saved)),
                labels=labels,
            )
            switch: Any = slot(bool)
            prompt = Prompt(label, max(gutter, width(label)), said, switch.kind.wants)
            field = YesNo(lambda text: accept_text(switch, text), default=switch.format(True))
            return Question(prompt, field)

        return question, texts

    def keep(self, answers: Mapping[str, str]) -> None:
        """Write the answers of this run; if that is not possible, they are not kept."""
        import json

        data = json.dumps({"saved": current().clock.time(), "answers": dict(answers)})
        try:
            if not self.own:
                self._begin()
            replace_private(self.own, data.encode())
            self._take_away(self.taken)
            self.taken = ""
        except OSError:
            pass

    def forget(self) -> None:
        """Take away what this run has kept, and what it went on from: the form is filled."""
        self._take_away(self.own)
        self._take_away(self.taken)
        self.own = self.taken = ""
        place = self._folder()
        try:
            os.rmdir(place)  # if nothing else is left in it
            os.rmdir(os.path.dirname(place))
        except OSError:
            pass

    def end(self) -> None:
        """Let other runs have what this one leaves: it has ended."""
        if self.lock >= 0:
            os.close(self.lock)
            self.lock = -1

    def _begin(self) -> None:
        """Have a file of this run's own, with a lock that lasts as long as the run; raises OSError."""
        place = self._folder()
        make_own_folder(os.path.dirname(place))
        make_own_folder(place)
        self._sweep(place)
        own = os.path.join(place, f"{self.name}-{os.urandom(6).hex()}.json")
        self.lock = open_private(own + LOCK, os.O_RDWR | os.O_CREAT)
        try_lock(self.lock)
        self.own = own

    def _read(self) -> tuple[dict[str, str], float]:
        """The texts by name of the latest run that has ended, and when they were written; none if there is none."""
        import json

        latest: tuple[dict[str, str], float, str] = ({}, 0.0, "")
        for path in self._left():
            try:
                found = json.loads(read_private(path))
                saved, answers = float(found["saved"]), dict(found["answers"])
            except (OSError, ValueError, TypeError, KeyError):
                continue
            is_fresh = 0 <= current().clock.time() - saved < KEPT
            # A run that ends meanwhile takes its answers away before its lock.
            if is_fresh and saved >= latest[1] and not self._is_running(path) and os.path.lexists(path):
                latest = ({name: text for name, text in answers.items() if isinstance(text, str)}, saved, path)
        self.taken = latest[2]
        return latest[0], latest[1]

    def _is_running(self, path: str) -> bool:
        """Whether the run that wrote a file goes on."""
        try:
            handle = open_private(path + LOCK, os.O_RDWR)
        except FileNotFoundError:
            return False
        except OSError:
            return True
        try:
            return not try_lock(handle)
        finally:
            os.close(handle)

    def _take_away(self, path: str) -> None:
        for name in (path, path + LOCK) if path else ():
            try:
                os.unlink(name)
            except OSError:
                pass

    def _sweep(self, place: str) -> None:
        """Take away what other forms have left too long ago."""
        for entry in os.scandir(place):
            try:
                is_old = current().clock.time() - entry.stat(follow_symlinks=False).st_mtime > KEPT
                if is_old and not self._is_running(entry.path.removesuffix(LOCK)):
                    os.unlink(entry.path)
            except OSError:
                pass

    def _left(self) -> list[str]:
        """The files that runs of this form have left, or still write."""
        place = self._folder()
        try:
            names = os.listdir(place)
        except OSError:
            return []
        return [os.path.join(place, name) for name in names if name.startswith(self.name) and name.endswith(".json")]

    def _folder(self) -> str:
        return os.path.join(folder("state", self.program), "unfinished")
