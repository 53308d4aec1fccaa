"""Declare each value that a console program needs once; Wesperon fills it from whatever is there.

Public names are loaded on first use, so that a program pays for nothing that it does not use.
"""

import os

__version__ = "0.1.0"

#: The shell that wants to know which words may come next, if one does, as a completion script says. It is taken out of
#: the environment, so that no program that this one starts takes the question for its own.
asked_by = os.environ.pop("WESPERON_CANDIDATES", "")
if asked_by:
    from wesperon.system import asked

    asked.begin()

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.argv.arguments import split
    from wesperon.commands.command_tree import Command, CommandGroup
    from wesperon.commands.listeners import Heard
    from wesperon.commands.program import Program
    from wesperon.console.console import Console
    from wesperon.context import Context
    from wesperon.form import Form, fill
    from wesperon.forms.one_question import ask, ask_async, confirm, confirm_async
    from wesperon.function import run
    from wesperon.guides.guide import Guide
    from wesperon.long_work.progress import progress, working
    from wesperon.long_work.work import Work
    from wesperon.output.style import styled
    from wesperon.output.terminal_size import terminal_size
    from wesperon.paging.page import page, page_async
    from wesperon.values import Complaint, DeclarationError
    from wesperon.values.kinds.choices import any_of, one_of
    from wesperon.values.problems import Problem, Problems, Refusal
    from wesperon.values.rules import all_or_none, at_least_one, at_most_one, exactly_one, needs
    from wesperon.values.slots import Slot, slot

#: Where each public name lives.
_HOMES = {
    "CommandGroup": "commands.command_tree",
    "Complaint": "values",
    "Command": "commands.command_tree",
    "Console": "console.console",
    "Context": "context",
    "DeclarationError": "values",
    "Form": "form",
    "Guide": "guides.guide",
    "Heard": "commands.listeners",
    "Problem": "values.problems",
    "Problems": "values.problems",
    "Program": "commands.program",
    "Refusal": "values.problems",
    "Slot": "values.slots",
    "Work": "long_work.work",
    "all_or_none": "values.rules",
    "any_of": "values.kinds.choices",
    "ask": "forms.one_question",
    "ask_async": "forms.one_question",
    "at_least_one": "values.rules",
    "at_most_one": "values.rules",
    "confirm": "forms.one_question",
    "confirm_async": "forms.one_question",
    "exactly_one": "values.rules",
    "fill": "form",
    "needs": "values.rules",
    "one_of": "values.kinds.choices",
    "page": "paging.page",
    "page_async": "paging.page",
    "progress": "long_work.progress",
    "run": "function",
    "styled": "output.style",
    "slot": "values.slots",
    "split": "argv.arguments",
    "terminal_size": "output.terminal_size",
    "working": "long_work.progress",
}

__all__ = [
    "Command",
    "CommandGroup",
    "Complaint",
    "Console",
    "Context",
    "DeclarationError",
    "Form",
    "Guide",
    "Heard",
    "Problem",
    "Problems",
    "Program",
    "Refusal",
    "Slot",
    "Work",
    "all_or_none",
    "any_of",
    "ask",
    "ask_async",
    "at_least_one",
    "at_most_one",
    "confirm",
    "confirm_async",
    "exactly_one",
    "fill",
    "needs",
    "one_of",
    "page",
    "page_async",
    "progress",
    "run",
    "slot",
    "split",
    "styled",
    "terminal_size",
    "working",
]


def __getattr__(name: str) -> object:
    """Load a public name on first use."""
    home = _HOMES.get(name)
    if home is None:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    module = __import__(f"{__name__}.{home}", fromlist=[name])
    value: object = getattr(module, name)
    globals()[name] = value
    return value


def __dir__() -> list[str]:
    """Return the public names."""
    return [*__all__, "__version__"]
