"""The ``wesperon`` command. What each of its commands needs is loaded when it is called."""

from __future__ import annotations

from wesperon import Problems, Program, __version__
from wesperon.context import current
from wesperon.text.truncate import end_names, plain_from
from wesperon.tool.assignments import are_wanted, aside

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

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
        "preferences": ("wesperon.tool.preferences:PREFERENCES_GROUP", "What you prefer: keys, theme, mouse and more."),
        "theme": ("wesperon.tool.preferences:Themes", "Show what every role of text looks like in each theme."),
        "keys": ("wesperon.tool.keys:Keys", "Show what each key sends, what it is called, and what it does."),
        "history": ("wesperon.tool.history:HISTORY", "What was entered in the console of a program."),
        "page": ("wesperon.tool.page:Page", "Read long texts: files, or what comes through a pipe."),
        "answers": (
            "wesperon.tool.commands:BlankAnswersCommand",
            "Print a blank answers file of a form, program or function.",
        ),
    },
    results=True,
)


def main(words: Sequence[str] | None = None) -> int:
    """Run the command line; the exit status."""
    given = list(current().words if words is None else words)
    if current().asking_shell:
        return PROGRAM.main(words)
    at, name = _command(given, PROGRAM, 0)
    if name in ("fill", "guide"):
        words = end_names(given, at)
    elif name == "demo":
        at, name = _command(given, PROGRAM.members["demo"].loaded, at + 1)
        if name == "dome":
            words = [*given[: at + 1], "--", *given[at + 1 :]]
    if name in ("fill", "") and are_wanted(given if words is None else words):
        return aside(lambda: PROGRAM.main(words))
    return PROGRAM.main(words)


def _command(words: list[str], group: Any, start: int) -> tuple[int, str]:
    """Return the place and the whole name of the command that is named from a place on; -1 and no name if none is."""
    at = plain_from(words, start)
    try:
        return at, PROGRAM.find(words[at], group) if at >= 0 else ""
    except Problems:
        return at, ""
