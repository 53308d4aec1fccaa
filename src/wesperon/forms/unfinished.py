"""Whether an earlier run of a form has left something: one look at a folder, before the first question is shown.

All else is in ``saved_answers``, and is loaded once there is something to read, or something was typed.
"""

from __future__ import annotations

import os
import sys

from wesperon.context import current
from wesperon.frozen import later
from wesperon.user_folders import UNFINISHED, folder

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.forms import saved_answers
    from wesperon.forms.saved_answers import Left, SavedAnswers
else:
    saved_answers = later("wesperon.forms.saved_answers")


def program_path() -> str:
    """Return what tells the program that runs from all others: its path, or the name of its module; empty for ``-c``.

    In a context of its own it is the name that this gives.
    """
    if not current().is_process:
        return current().program_name
    main = sys.modules.get("__main__")
    spec = getattr(main, "__spec__", None)
    if spec is not None:
        return f"-m {spec.name}"
    return getattr(main, "__file__", None) or ""


class Unfinished:
    """What a run keeps of its questions, and what is left of an earlier one of the same program.

    ``program`` names the folder, ``path`` says which program it is.
    """

    def __init__(self, program: str, form: type[Any], path: str) -> None:
        self.program = program
        self.form = form
        self.path = path
        self._store: SavedAnswers | None = None

    @property
    def store(self) -> saved_answers.SavedAnswers:
        """The files; made when they are wanted first."""
        if self._store is None:
            path = os.path.realpath(self.path) if os.path.isabs(self.path) else self.path
            self._store = saved_answers.SavedAnswers(self.program, self.form, path)
        return self._store

    def left(self, named: Callable[[str], str]) -> Left | None:
        """Return what is left to go on with; ``named`` gives the slot of a name that is kept, or nothing."""
        return (
            self.store.left(named) if os.path.isdir(os.path.join(folder("state", self.program), UNFINISHED)) else None
        )

    def keep(self, answers: Mapping[str, str], drafts: Mapping[str, str]) -> None:
        """Keep the answers, and what was typed in other questions."""
        if answers or drafts or self._store is not None:
            self.store.keep(answers, drafts)

    def prepare(self) -> None:
        """Open the file before anything is typed: a key then takes no longer than to write what it changes."""
        self.store.prepare()

    def note(self, name: str, text: str) -> None:
        """Add to that what is in the open question now."""
        self.store.note(name, text)

    def forget(self) -> None:
        """Keep nothing any more: the form is filled."""
        if self._store is not None:
            self._store.forget()

    def end(self) -> None:
        """Let other runs have what this one leaves."""
        if self._store is not None:
            self._store.end()


def unfinished(program: str, form: type[Any]) -> Unfinished | None:
    """Return what keeps the answers of a form; None for a program that has no path, and so is a new one each time."""
    path = program_path()
    return Unfinished(program, form, path) if path else None
