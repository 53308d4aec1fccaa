"""What the names of every program ask for in one form, its page and its version, and what is said of old names."""

from __future__ import annotations

import sys

from wesperon.argv.renaming import say_renamed
from wesperon.context import current
from wesperon.output.exit_status import print_page
from wesperon.output.help import epilogue_of, help_rows, script_version, version_line
from wesperon.output.style import rendered
from wesperon.paging.long_output import say
from wesperon.terminal.interaction import play
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from wesperon.argv import ParsedArgs
    from wesperon.values.records import Record


def say_own_page(form: type[Record], reading: ParsedArgs, keywords: Mapping[str, Any]) -> None:
    """Print what ``--help`` or ``--version`` asks for, and end; say which old names were used."""
    name = keywords.get("name") or current().program_name
    if "help" in reading.builtin:
        main = sys.modules.get("__main__")
        # A script that calls ``fill`` has its class made by the library: its own docstring says what it is about.
        is_script = form.__module__ == "wesperon.form"
        about = form.__dict__.get("__doc__") or (main.__doc__ if main and is_script else None)
        about = keywords.get("description") or about
        rows = help_rows([name], about, slots_of(form), epilogue=epilogue_of(form))
        play(say(rendered(rows), name))
        raise SystemExit(0)
    if "version" in reading.builtin:
        version = keywords.get("version")
        print_page(version_line(name, version) if version else script_version(name))
        raise SystemExit(0)
    if reading.renamed:
        say_renamed(reading.renamed)
