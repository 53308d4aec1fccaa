"""The commands of ``wesperon``."""

from __future__ import annotations

from wesperon import Command, Program, __version__, one_of, slot, split
from wesperon.demo.commands import Demo, Tour

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence


class Split(Command):
    """Show what arrived: each word with its position, its name or value, and the type it looks like.

    Put -- before the words, so that none of them is taken for a name of this command:
    wesperon split -- --frames 12 Lantern Nebula
    """

    words_given = slot(str, "Words", rest=True, low=0, help="the words to look at, behind --")

    def run(self) -> str:
        """The table."""
        return str(split(self.words_given))


class Completion(Command):
    """Print the script that completes a program's command lines in a shell, and say where it goes."""

    examples = ("completion bash wesperon",)
    shell = slot(one_of(["bash", "zsh", "fish"]), "Shell")
    program = slot(ask="Program", pattern=r"[\w.+-]+", help="the name by which the program is called")

    def run(self) -> str:
        """The script."""
        from wesperon.sources.completion import script

        return script(self.shell, self.program)


PROGRAM = Program(
    "wesperon",
    version=__version__,
    about="Try out what Wesperon does for console programs.",
    members=[Completion, Demo, Split, Tour],
)


def main(words: Sequence[str] | None = None) -> int:
    """Run the command line; the exit status."""
    return PROGRAM.main(words)
