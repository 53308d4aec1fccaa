"""Answers of a run that was broken off, kept for a day in the user's state folder.

They are written after each answer, so that not even a kill loses them, and taken away when the form is filled. Secrets
are not among them, nor values that cannot be written as texts. Two forms are the same where their program, their name
and the names of their slots are.
"""

from __future__ import annotations

import os
import time

from wesperon.context import current
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


class Unfinished:
    """What is left of the last run of one form of one program."""

    def __init__(self, program: str, form: type[Any]) -> None:
        import zlib

        self.program = program
        self.form = form
        named = ":".join((form.__module__, form.__qualname__, *form._slots))
        self.name = f"{zlib.crc32(named.encode()):08x}.json"

    def offer(self, asked: Collection[str]) -> Left | None:
        """The question whether to go on with what is left, for a gutter, and the texts; None if nothing is."""
        return self._offered(lambda name: name if name in asked else "")

    def left(self) -> Left | None:
        """The same for a guide, whose steps are in their order, a number before each name."""
        return self._offered(lambda name: name.partition(" ")[2])

    def _offered(self, named: Callable[[str], str]) -> Left | None:
        if not self._may_be_left():
            return None
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
        """Write the answers; if that is not possible, they are not kept."""
        import json

        place = self._folder()
        path = os.path.join(place, self.name)
        try:
            os.makedirs(place, 0o700, exist_ok=True)
            self._sweep(place)
            handle = os.open(path + ".new", os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
            with open(handle, "w", encoding="utf-8") as file:
                json.dump({"saved": current().clock.time(), "answers": dict(answers)}, file)
            os.replace(path + ".new", path)
        except OSError:
            pass

    def forget(self) -> None:
        """Take away what is left: the form is filled."""
        if self._may_be_left():
            place = self._folder()
            try:
                os.unlink(os.path.join(place, self.name))
                os.rmdir(place)  # if nothing else is left in it
                os.rmdir(os.path.dirname(place))
            except OSError:
                pass

    def _read(self) -> tuple[dict[str, str], float]:
        """The texts by name, and when they were written; none where they are too old, or not readable."""
        import json

        try:
            with open(os.path.join(self._folder(), self.name), encoding="utf-8") as file:
                found = json.load(file)
            saved, answers = float(found["saved"]), dict(found["answers"])
        except (OSError, ValueError, TypeError, KeyError):
            return {}, 0.0
        if not 0 <= current().clock.time() - saved < KEPT:
            return {}, 0.0
        return {name: text for name, text in answers.items() if isinstance(text, str)}, saved

    def _sweep(self, place: str) -> None:
        """Take away what other forms have left too long ago."""
        for entry in os.scandir(place):
            if current().clock.time() - entry.stat().st_mtime > KEPT:
                os.unlink(entry.path)

    def _may_be_left(self) -> bool:
        """Whether there may be something."""
        return os.path.exists(os.path.join(self._folder(), self.name))

    def _folder(self) -> str:
        return os.path.join(folder("state", self.program), "unfinished")
