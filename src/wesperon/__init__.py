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
    from wesperon.screens.dialogs import (
        choose,
        choose_async,
        choose_file,
        choose_file_async,
        show_message,
        show_message_async,
        show_work,
        show_work_async,
    )
    from wesperon.screens.field import Field
    from wesperon.screens.menu_bar import MenuBar, MenuEntry
    from wesperon.screens.pager_part import Pager
    from wesperon.screens.screen import Screen
    from wesperon.values import Complaint, DeclarationError
    from wesperon.values.kinds.choices import any_of, one_of
    from wesperon.values.problems import Problem, Problems, Refusal
    from wesperon.values.rules import all_or_none, at_least_one, at_most_one, exactly_one, needs
    from wesperon.values.slots import Slot, slot
    from wesperon.widgets.parts.boxes import Across, Down
    from wesperon.widgets.parts.figures import Meter, Trend
    from wesperon.widgets.parts.listing import Listing
    from wesperon.widgets.parts.message_view import MessageView
    from wesperon.widgets.parts.simple_parts import Button, Label
    from wesperon.widgets.parts.table import Column, Table
    from wesperon.widgets.parts.tabs import Tabs

#: Where each public name lives.
_HOMES = {
    "Across": "widgets.parts.boxes",
    "Button": "widgets.parts.simple_parts",
    "Column": "widgets.parts.table",
    "Command": "commands.command_tree",
    "CommandGroup": "commands.command_tree",
    "Complaint": "values",
    "Console": "console.console",
    "Context": "context",
    "DeclarationError": "values",
    "Down": "widgets.parts.boxes",
    "Field": "screens.field",
    "Form": "form",
    "Guide": "guides.guide",
    "Heard": "commands.listeners",
    "Label": "widgets.parts.simple_parts",
    "Listing": "widgets.parts.listing",
    "MenuBar": "screens.menu_bar",
    "MenuEntry": "screens.menu_bar",
    "MessageView": "widgets.parts.message_view",
    "Meter": "widgets.parts.figures",
    "Pager": "screens.pager_part",
    "Problem": "values.problems",
    "Problems": "values.problems",
    "Program": "commands.program",
    "Refusal": "values.problems",
    "Screen": "screens.screen",
    "Slot": "values.slots",
    "Table": "widgets.parts.table",
    "Tabs": "widgets.parts.tabs",
    "Trend": "widgets.parts.figures",
    "Work": "long_work.work",
    "all_or_none": "values.rules",
    "any_of": "values.kinds.choices",
    "ask": "forms.one_question",
    "ask_async": "forms.one_question",
    "at_least_one": "values.rules",
    "at_most_one": "values.rules",
    "choose": "screens.dialogs",
    "choose_async": "screens.dialogs",
    "choose_file": "screens.dialogs",
    "choose_file_async": "screens.dialogs",
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
    "show_message": "screens.dialogs",
    "show_message_async": "screens.dialogs",
    "show_work": "screens.dialogs",
    "show_work_async": "screens.dialogs",
    "slot": "values.slots",
    "split": "argv.arguments",
    "styled": "output.style",
    "terminal_size": "output.terminal_size",
    "working": "long_work.progress",
}

__all__ = [
    "Across",
    "Button",
    "Column",
    "Command",
    "CommandGroup",
    "Complaint",
    "Console",
    "Context",
    "DeclarationError",
    "Down",
    "Field",
    "Form",
    "Guide",
    "Heard",
    "Label",
    "Listing",
    "MenuBar",
    "MenuEntry",
    "MessageView",
    "Meter",
    "Pager",
    "Problem",
    "Problems",
    "Program",
    "Refusal",
    "Screen",
    "Slot",
    "Table",
    "Tabs",
    "Trend",
    "Work",
    "all_or_none",
    "any_of",
    "ask",
    "ask_async",
    "at_least_one",
    "at_most_one",
    "choose",
    "choose_async",
    "choose_file",
    "choose_file_async",
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
    "show_message",
    "show_message_async",
    "show_work",
    "show_work_async",
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
