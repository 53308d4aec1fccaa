"""``wesperon guide`` and ``wesperon lint``: guides and sets of questions in files, gone through and checked."""

from __future__ import annotations

import json

from wesperon import Command, Guide, Problems, Refusal, slot
from wesperon.guides.guide import lint
from wesperon.output.results import show
from wesperon.output.terminal_size import is_terminal
from wesperon.text.escape import visible, visible_lines
from wesperon.text.hushing import MASK
from wesperon.text.truncate import counted
from wesperon.tool.fill import json_of
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class GuideCommand(Command):
    """Go through the guide in a file, and say what it came to.

    What is after the file are answers to its steps, by their names: wesperon guide dome.toml --lamp=no. With
    --answers FILE after it, the answers are in a file. With --as json before it, everything found is printed.
    """

    examples = ("guide dome.toml", "guide --as json dome.toml --answers answers.toml")
    file = slot(ask="File", help="the guide, in TOML, JSON or YAML")
    word = slot(str, rest=True, low=0, help="answers, as --lamp=no")

    def run(self) -> str | None:
        """Return what the guide says at its end."""
        guide = Guide(self.file)
        walk = guide.walk(self.word)
        if self.shared.as_ == "text":
            if walk.shown and is_terminal():
                return None
            return visible_lines(walk.says or str(walk.outcome or ""))
        slots: Any = slots_of(guide.form)

        def plain(name: str, answer: Any) -> Any:
            if name not in slots:
                return None
            return MASK if slots[name].secret and answer is not None else json_of(slots[name], answer)

        answers = {name: plain(name, answer) for name, answer in walk.answers.items()}
        trail = [[name, plain(name, answer)] for name, answer in walk.trail]
        found = {"end": walk.end, "outcome": walk.outcome, "answers": answers, "learned": walk.learned, "trail": trail}
        show(found, form=self.shared.as_)
        return None


class LintCommand(Command):
    """Find what is wrong with guides and sets of questions in files; the status is 1 if anything is.

    Steps that lead nowhere, that nobody reaches, loops without a way out, answers without a next step, unknown kinds
    and keys: each with its line, where the format tells.
    """

    examples = ("lint dome.toml plan.yaml",)
    files = slot(str, "Files", rest=True, least=1, help="guides and sets of questions")

    def run(self) -> None:
        """Print a line for each fault, as JSON an array of them; raises Refusal if there are any."""
        faults = [(file, problem) for file in self.files for problem in lint(file)]
        if self.shared.as_ != "text":
            found = [{"file": file, **json.loads(Problems([one]).json())[0]} for file, one in faults]
            show(found, form=self.shared.as_)
        else:
            for _, problem in faults:
                print(visible(problem.sentence))
            print(f"{counted(len(faults), 'problem')} in {counted(len(self.files), 'file')}")
        if faults:
            raise Refusal("")
