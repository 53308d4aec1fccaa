"""Declare each value that a console program needs once; Wesperon fills it from whatever is there.

Public names are loaded on first use, so that a program pays for nothing that it does not use.
"""

from __future__ import annotations

__version__ = "0.1.0"

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.commands.members import Branch, Command
    from wesperon.commands.program import Program
    from wesperon.console.console import Console
    from wesperon.core import DeclarationError
    from wesperon.core.choices import any_of, one_of
    from wesperon.core.problems import Problem, Problems, Refusal
    from wesperon.core.slots import Slot, slot
    from wesperon.guides.guide import Guide
    from wesperon.pages.emphasis import paint
    from wesperon.sources.forms import Form, fill
    from wesperon.sources.raw import split
    from wesperon.sources.width import terminal_size

#: Where each public name lives.
_HOMES = {
    "Branch": "commands.members",
    "Command": "commands.members",
    "Console": "console.console",
    "DeclarationError": "core",
    "Form": "sources.forms",
    "Guide": "guides.guide",
    "Problem": "core.problems",
    "Problems": "core.problems",
    "Program": "commands.program",
    "Refusal": "core.problems",
    "Slot": "core.slots",
    "any_of": "core.choices",
    "fill": "sources.forms",
    "one_of": "core.choices",
    "paint": "pages.emphasis",
    "slot": "core.slots",
    "split": "sources.raw",
    "terminal_size": "sources.width",
}

__all__ = [
    "Branch",
    "Command",
    "Console",
    "DeclarationError",
    "Form",
    "Guide",
    "Problem",
    "Problems",
    "Program",
    "Refusal",
    "Slot",
    "any_of",
    "fill",
    "one_of",
    "paint",
    "slot",
    "split",
    "terminal_size",
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
    """The public names."""
    return [*__all__, "__version__"]
