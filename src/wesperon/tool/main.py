"""The ``wesperon`` command. What each of its commands needs is loaded when it is called."""

from __future__ import annotations

from wesperon import Program, __version__

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

PROGRAM = Program(
    "wesperon",
    version=__version__,
    about="Try out what Wesperon does for console programs.",
    members={
        "demo": ("wesperon.demo.commands:DEMO", "The night desk of an invented observatory."),
        "tour": ("wesperon.demo.tour:Tour", "Play the demo by itself and print each screen on the way."),
        "split": ("wesperon.tool.commands:Split", "Show which words arrived, and what each looks like."),
        "completion": ("wesperon.tool.commands:Completion", "Print the script that completes a program's lines."),
        "keys": ("wesperon.tool.keys:Keys", "Show what each key sends, what it is called, and what it does."),
        "history": ("wesperon.tool.history:HISTORY", "What was entered in the console of a program."),
        "answers": ("wesperon.tool.commands:Answers", "Print a blank answers file for a form or a program."),
    },
    results=True,
)


def main(words: Sequence[str] | None = None) -> int:
    """Run the command line; the exit status."""
    return PROGRAM.main(words)
