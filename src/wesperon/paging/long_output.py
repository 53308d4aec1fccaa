"""Results of commands and pages of help in the pager, where the user prefers that (``paging``).

Nothing of the pager is loaded where nobody says so, and nothing is held where it goes through a pipe.
"""

from __future__ import annotations

import io

from wesperon.context import current
from wesperon.frozen import later
from wesperon.output import exit_status, results
from wesperon.output.result_texts import fields_of, for_stream, formatted
from wesperon.scope import within
from wesperon.user_folders import preference_files

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.paging import page
    from wesperon.terminal import preferences
    from wesperon.terminal.interaction import Interaction
else:
    page = later("wesperon.paging.page")
    preferences = later("wesperon.terminal.preferences")


def is_preferred(name: str) -> bool:
    """Return True if long output of the program of this name goes to the pager, and there is a terminal for it."""
    files = preference_files(name)
    if not files or preferences.preferences_of(files).values["paging"] != "yes":
        return False
    return page.leads_to_terminal()


def show(result: Any, name: str, *, form: str = "text", is_async: bool = False) -> Interaction[None]:
    """Print a result as :func:`results.show` does, in the pager if it is long and the user prefers that.

    ``name`` is that of the program; ``is_async``: it is done inside an event loop.
    """
    if form != "text" or not is_preferred(name):
        results.show(result, form=form)
    elif is_series(result):
        yield from page.steps((for_stream(formatted(item)) for item in result), is_async=is_async, name=name)
    else:
        yield from say(printed(lambda: results.show(result)), name, is_async=is_async)


def say(text: str, name: str, *, is_async: bool = False) -> Interaction[None]:
    """Print a text, in the pager if it is long and the user prefers that; raises as ``exit_status.print_page``."""
    if is_preferred(name):
        yield from page.steps(text, is_async=is_async, name=name)
    else:
        exit_status.print_page(text)


def is_series(result: Any) -> bool:
    """Return True if a result is printed an item on each line, as it comes."""
    if isinstance(result, (str, bytes, bytearray, list, tuple)) or fields_of(result) is not None:
        return False
    return hasattr(result, "__iter__")


def printed(prints: Any) -> str:
    """Return what a function prints on standard output, made for the terminal."""
    held = _Held()
    with within(current().derive(stdout=held)):
        prints()
    return held.getvalue().removesuffix("\n")


class _Held(io.StringIO):
    """What goes to the pager, with the looks of what goes to the terminal."""

    def isatty(self) -> bool:
        """Return True: it is shown there."""
        return True
