"""The commands of ``wesperon`` beside the demo."""

from __future__ import annotations

import os
import sys

from wesperon import Command, DeclarationError, Refusal, one_of, slot, split
from wesperon.completion.shells import SHELLS, script
from wesperon.output.results import Told


class SplitCommand(Command):
    """Show what arrived: each word with its position, its name or value, and the type it looks like.

    Put -- before the words, so that none of them is taken for a name of this command.
    """

    examples = ("split -- --frames 12 Lantern Nebula",)
    word = slot(str, rest=True, low=0, help="the words to look at, after --")

    def run(self) -> str:
        """Return the table."""
        found = split(self.word)
        words = [
            {"position": one.position, "word": one.text, "name": one.name, "value": one.value, "looks_like": one.looks}
            for one in found.parts
        ]
        return Told(str(found), {"program": found.program, "line": found.line, "words": words})


class CompletionCommand(Command):
    """Print the script that completes a program's command lines in a shell, and say where it goes."""

    examples = ("completion bash wesperon",)
    shell = slot(one_of(list(SHELLS)), "Shell")
    program = slot(ask="Program", pattern=r"[\w.+-]+", help="the name by which the program is called")

    def run(self) -> str:
        """Return the script."""
        made = script(self.shell, self.program)
        return Told(made, {"shell": self.shell, "program": self.program, "script": made})


class BlankAnswersCommand(Command):
    """Print a blank answers file for a form, a program or a function, with the questions as comments."""

    examples = ("answers wesperon.demo.commands:Expose",)
    place = slot(ask="Place", pattern=r"[\w.]+:\w+", help="where it is, as module:Name")

    def run(self) -> str:
        """Return the file, in TOML."""
        module, _, name = self.place.partition(":")
        sys.path.insert(0, os.getcwd())
        try:
            found = getattr(__import__(module, fromlist=[name]), name)
            if callable(found) and not isinstance(found, type):
                found = Command.from_function(found)
            blank = str(found.blank_answers())
        except (ImportError, AttributeError, DeclarationError) as error:
            raise Refusal(f"there is no form, program or function at {self.place}: {error}") from None
        return Told(blank, {"place": self.place, "format": "toml", "file": blank})
