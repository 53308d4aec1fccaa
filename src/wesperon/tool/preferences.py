"""``wesperon preferences`` and ``wesperon theme``: what holds, from where, how to change it, what it looks like."""

from __future__ import annotations

import json

from wesperon import Command, CommandGroup, Refusal, slot, terminal_size
from wesperon.context import current
from wesperon.editing.keys.bindings import Bindings
from wesperon.editing.keys.families import FAMILIES, family_named
from wesperon.files.toml_change import in_quotes, set_value
from wesperon.output.results import Told
from wesperon.output.style import shows_styles
from wesperon.output.terminal_size import is_terminal
from wesperon.screen.ecma48 import SGR_RESET, sgr
from wesperon.screen.frame import row_text
from wesperon.screen.renditions import rendition
from wesperon.screen.table import INDENT
from wesperon.screen.theme import colours_of
from wesperon.screen.themes import GROUNDS, ROLES, THEMES, look_of
from wesperon.screen.width import wrap
from wesperon.terminal.preferences import Preferences, preferences_of
from wesperon.terminal.preferences_file import as_toml
from wesperon.text.escape import visible
from wesperon.text.spelling import suggestion
from wesperon.tool.preferences_schema import schema
from wesperon.user_folders import preference_files, preference_path
from wesperon.values import Complaint
from wesperon.widgets.preferences import PREFERENCES, TABLES, value_of
from wesperon.widgets.preferences_page import SAMPLE

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: Columns for what a theme says of a role.
WORDS = 31
#: The fewest columns in which what a role is for is beside it; and a width that no text has.
LEAST, NO_LIMIT = 24, 100_000
OF_PROGRAM = "for this program only; without it for all"


class Show(Command):
    """Show what holds, and where each value is from: a file and its line, the environment, or the default."""

    name = "show"
    examples = ("preferences show", "preferences show --program 'night desk'")
    program = slot(default="", named_only=True, help="as this program sees them")

    def run(self) -> str:
        """Return a table of them, then what is wrong in the files."""
        held = preferences_of(preference_files(self.program), environ=current().environ)
        held.faults += held.bindings({}, {})[1]
        return Told(listed(held), data_of(held))


def listed(held: Preferences) -> str:
    """Return what holds, in lines."""
    rows = [(name, value, held.origins[name]) for name, value in held.values.items()]
    rows += [(f"roles.{role}", words, held.role_origins[role]) for role, words in held.roles.items()]
    for document, table in held.tables:
        rows += [
            (f"bindings.{'.'.join(path)}", does, document.where(("bindings", *path))[0]) for path, does in bound(table)
        ]
    rows = [(visible(name), visible(value), visible(origin)) for name, value, origin in rows]
    widths = [max(len(row[at]) for row in rows) for at in range(2)]
    lines = [f"{name:{widths[0]}}  {value:{widths[1]}}  {origin}" for name, value, origin in rows]
    return "\n".join([*lines, *([""] if held.faults else []), *held.faults])


def bound(table: dict[str, Any], path: tuple[str, ...] = ()) -> list[tuple[tuple[str, ...], str]]:
    """Return the bindings of a table and of those in it, each with its path."""
    rows: list[tuple[tuple[str, ...], str]] = []
    for key, does in table.items():
        if isinstance(does, dict) and list(does) != ["text"]:
            rows += bound(does, (*path, key))
        else:
            rows.append(((*path, key), f"types {does['text']!r}" if isinstance(does, dict) else str(does)))
    return rows


def data_of(held: Preferences) -> dict[str, Any]:
    """Return the same as data."""
    return {
        "preferences": {name: {"value": value, "from": held.origins[name]} for name, value in held.values.items()},
        "roles": {role: {"value": words, "from": held.role_origins[role]} for role, words in held.roles.items()},
        "bindings": [
            {"key": path[-1], "in": list(path[:-1]), "does": does}
            for _, table in held.tables
            for path, does in bound(table)
        ],
        "problems": held.faults,
    }


class Set(Command):
    """Write one preference into the file; its comments and its order stay.

    A role is named roles.LABEL, a binding bindings.KEY, or bindings.modal.command.KEY for one mode of a family.
    """

    name = "set"
    examples = (
        "preferences set keys modal",
        "preferences set mouse yes --program 'night desk'",
        "preferences set roles.fault 'bold underline red'",
        "preferences set bindings.ctrl-t delete-line-end",
    )
    name_ = slot(ask="Name", help="the preference, roles.ROLE or bindings.KEY")
    value = slot(ask="Value", low=0, help="what it is to be")
    program = slot(default="", named_only=True, help=OF_PROGRAM)

    def run(self) -> str:
        """Return where it is now."""
        path, value = checked(self.name_, self.value)
        file = preference_path(self.program)
        try:
            set_value(file, path, value)
        except OSError as error:
            raise Refusal(f"{file} cannot be written: {error.strerror or error}") from None
        except Complaint as complaint:
            raise Refusal(f"{file}: {complaint.reason}") from None
        return Told(f"{'.'.join(path)} = {value} in {visible(file)}", {"name": self.name_, "file": file})


def checked(name: str, value: str) -> tuple[tuple[str, ...], str]:
    """Return the path of a preference in the file and its value in TOML.

    Raises Refusal if there is none, or it is wrong.
    """
    table, dot, key = name.partition(".")
    try:
        if name in PREFERENCES:
            return (name,), as_toml(name, value_of(name, value))
        if table == "roles" and dot:
            faults = look_of("palette", 0, {key: value})[1]
            if faults:
                raise Refusal(faults[key], 2)
            return ("roles", key), in_quotes(value)
        if table == "bindings" and dot:
            return _checked_binding(key, value)
    except Complaint as complaint:
        raise Refusal(complaint.reason, 2) from None
    known = [*PREFERENCES, *(f"{table}." for table in TABLES)]
    near = suggestion(name, known, declared=True)
    raise Refusal(f"there is no preference {name!r}{near}; there are {', '.join(known)}", 2)


def _checked_binding(key: str, value: str) -> tuple[tuple[str, ...], str]:
    family, _, rest = key.partition(".")
    mode = ""
    if family in FAMILIES and rest:
        key, path = rest, [family]
        first, _, last = rest.partition(".")
        if first in family_named(family).modes and last:
            mode, key = first, last
            path.append(mode)
    else:
        path, family = [], "modal"
    for reason in Bindings(family_named(family)).add({key: value}, {}, mode).values():
        raise Refusal(f"{key}: {reason}", 2)
    return ("bindings", *path, key), in_quotes(value)


class Schema(Command):
    """Print the JSON Schema of preferences.toml, for an editor that checks files while they are written."""

    name = "schema"
    examples = ("preferences schema",)

    def run(self) -> str:
        """Return the schema."""
        made = schema()
        return Told(json.dumps(made, indent=2), made)


class Themes(Command):
    """Show what every role looks like in each theme, or in one of them; --toml prints it, to begin one's own with."""

    name = "theme"
    examples = ("theme", "theme dark", "theme light --toml")
    theme = slot(default="", suggest=tuple(THEMES), help="the name of a theme; all without it")
    toml = slot(bool, default=False, help="print the roles as the table of a preferences file")

    def run(self) -> str:
        """Return the themes, in their own looks."""
        names = [self.theme] if self.theme else list(THEMES)
        colours = colours_of(current().environ) if shows_styles(current().stdout) else 0
        for name in names:
            if name not in THEMES:
                raise Refusal(f"there is no theme {name!r}{suggestion(name, THEMES)}; there are {', '.join(THEMES)}", 2)
        if self.toml:
            rows = ["[roles]", *(f"{role} = {in_quotes(words)}" for role, words in THEMES[names[0]].items())]
            return Told("\n".join(rows), {"roles": THEMES[names[0]]})
        shows = shows_styles(current().stdout)
        shown = [_shown(name, colours, shows=shows) for name in names]
        return Told("\n\n".join(shown), {name: {"ground": GROUNDS.get(name), "roles": THEMES[name]} for name in names})


def _shown(name: str, colours: int, *, shows: bool) -> str:
    """Return one theme: each role in its own look with what it is for, and a sample."""
    look, ground = look_of(name, colours)[0], GROUNDS.get(name, "")
    background = rendition(f"on-{ground}", colours) if ground and colours > 16 else ""

    def drawn(text: str, role: str) -> str:
        parameters = ";".join(part for part in (background, look.get(role, "")) if part)
        return f"{sgr(parameters)}{text}{SGR_RESET}" if shows and parameters else text

    made_for = f", made for the ground {ground}" if ground else ""
    rows = [f"{name}{made_for}"]
    left, columns = WORDS + 19, terminal_size().columns - 1 if is_terminal() else NO_LIMIT
    left = left if columns - left >= LEAST else INDENT
    for role, what in ROLES.items():
        words = THEMES[name][role] or "plain"
        about = wrap(what, max(columns - left, 1))
        beside = "  " + about.pop(0) if left > INDENT else ""
        rows.append(drawn(f"  {role:13}  {words:{WORDS}}", role) + beside)
        rows += [" " * left + row for row in about]
    for row in SAMPLE:
        text = "".join(drawn(part, role) for part, role in row)
        rows.append(drawn("  ", "") + text + drawn(" " * max(48 - len(row_text(row)), 0), ""))
    return "\n".join(rows)


PREFERENCES_GROUP = CommandGroup(
    "preferences", "What you prefer: keys, theme, mouse and more.", [Show, Set, Schema], default_command=Show
)
