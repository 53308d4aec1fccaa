"""The ``wesperon`` command. What each of its commands needs is loaded when it is called."""

from __future__ import annotations

import sys

from wesperon import Program, __version__
from wesperon.context import current

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

PROGRAM = Program(
    "wesperon",
    version=__version__,
    description="Try out what Wesperon does for console programs.",
    members={
        "demo": ("wesperon.demo.commands:DEMO", "The night desk of an invented observatory."),
        "tour": ("wesperon.demo.tour:Tour", "Play the demo by itself and print each screen on the way."),
        "fill": ("wesperon.tool.fill:Fill", "Fill the values that a file declares, and print them for a script."),
        "guide": ("wesperon.tool.guide:GuideCommand", "Go through a guide in a file, step by step."),
        "lint": ("wesperon.tool.guide:LintCommand", "Find what is wrong with guides and sets of questions in files."),
        "split": ("wesperon.tool.commands:SplitCommand", "Show which words arrived, and what each looks like."),
        "completion": ("wesperon.tool.commands:CompletionCommand", "Print the completion script for a shell."),
        "keys": ("wesperon.tool.keys:Keys", "Show what each key sends, what it is called, and what it does."),
        "history": ("wesperon.tool.history:HISTORY", "What was entered in the console of a program."),
        "answers": ("wesperon.tool.commands:BlankAnswersCommand", "Print a blank answers file of a form or program."),
    },
    results=True,
)


def main(words: Sequence[str] | None = None) -> int:
    """Run the command line; the exit status."""
    given = sys.argv[1:] if words is None else list(words)
    is_asked = bool(current().asking_shell)
    if given[:1] in (["fill"], ["guide"]) and not is_asked:
        from wesperon.text.truncate import behind_first

        words = behind_first(given)
    elif given[:2] == ["demo", "dome"]:
        words = [*given[:2], "--", *given[2:]]
    if given[:1] == ["fill"] and not is_asked:
        from wesperon.tool.assignments import are_wanted, aside

        if are_wanted(given if words is None else words):
            return aside(lambda: PROGRAM.main(words))
    return PROGRAM.main(words)
