"""The reference page, made from the signatures and docstrings: ``python scripts/reference_page.py`` writes it."""

from __future__ import annotations

import inspect
import re
from pathlib import Path
from typing import Any

import wesperon
from wesperon import testing
from wesperon.frozen import Frozen
from wesperon.values.kinds.registry import KINDS
from wesperon.values.slots import KEYWORDS
from wesperon.values.wishes import NAMES, OF_A_CALL, Wishes

PAGE = Path(__file__).parent.parent / "docs" / "reference.md"
HEAD = """# Reference

Every name that a program may use, with its arguments, and every variable, file, format and exit status: to look up what
the [guides](../README.md#read-on) have introduced.

[Functions](#functions) · [Classes](#classes) · [For tests](#for-tests) ·
[Kinds by name](#kinds-by-name) · [Names that every program has](#names-that-every-program-has) ·
[Exit statuses](#exit-statuses) · [Formats](#formats) · [Variables](#variables-of-the-environment) ·
[Files](#files)

The page is made from signatures and docstrings by `scripts/reference_page.py`.
"""
#: Every variable of the environment that is read, and what it does.
VARIABLES = {
    "WESPERON_ASKING": "`never`, `missing` or `all`: which values to ask for, as `--asking`, which comes before it",
    "WESPERON_TIMEOUT": "the seconds after which a question that nobody answers ends",
    "WESPERON_PLAIN": "`1`: questions in plain lines, on any terminal; empty or `0`: not",
    "WESPERON_KEYS": "`modeless` or `modal`: the family of keys, whatever the program and the preferences say",
    "WESPERON_THEME": "the theme, likewise: `palette`, `dark`, `light`, `high-contrast` or `colourless`",
    "WESPERON_PROGRESS": "`no`: long work does not show how far it is",
    "WESPERON_MOUSE": "`1` or `0`: whether the mouse is the program's, whatever the program says",
    "WESPERON_PROBLEMS": "`json`: what is wrong is printed as JSON, for programs that start programs",
    "WESPERON_TRACE": "`1`: the whole trace of an unexpected error",
    "WESPERON_LOG": "the areas that say what happens: `argv`, `sources`, `terminal`, `commands`, with commas between",
    "WESPERON_LOG_FILE": "the file that they say it in; standard error if it is not set",
    "WESPERON_CANDIDATES": "set by the completion script of a shell, which asks which words may come next",
    "WESPERON_KEEP": "`1`: screens that tests compare are written again",
    "NO_COLOR": "not empty: no colours",
    "COLORTERM, TERM": "how many colours the terminal has; `TERM=dumb` has no cursor that moves: plain lines",
    "COLUMNS, LINES": "the size for a program's own output, before that of the terminal (POSIX, 8.3)",
    "LANGUAGE, LC_ALL, LC_MESSAGES, LANG": "the language of messages (POSIX, 8.2)",
    "VISUAL, EDITOR": "the editor that a key opens for a text",
    "XDG_CONFIG_HOME": "where the folders with settings and preferences are; `~/.config` if it is not set",
    "XDG_STATE_HOME": "where the folders with histories and saved answers are; `~/.local/state` if it is not set",
}
#: Every file that is read or written without being named by the user.
FILES = {
    "`NAME/settings.toml` in the configuration folder": "settings of a program; `program.settings.set` writes it",
    "`wesperon/preferences.toml` there": "what the user prefers in all programs; written by the page of preferences",
    "`NAME/preferences.toml` there": "the same for one program, on top of those",
    "`NAME/history.txt` in the state folder": "the lines of a console; private, shared by its runs",
    "`NAME/unfinished/` there": "the answers of a form that was left, a file for each run; private, kept for a day",
    "`NAME/last/` there": 'the values of the last run for slots with `initial="last"`, a file for each form; private',
}
#: The kinds by their names in files, with the type that names them in a program and what is taken.
KIND_NAMES = {
    "text": "`str`: text as it is given",
    "integer": "`int`: `12`, `-3`, `1_000`",
    "number": "`float`: `2.5`, `1e-3`; no infinity",
    "decimal": "`Decimal`: `2.50`, kept as it is written",
    "boolean": "`bool`: `yes`, `no`, `true`, `false`, `on`, `off`, `y`, `n`, `1`, `0`",
    "date": "`date`: `2031-04-17` (RFC 3339)",
    "date-time": "`datetime`: `2031-04-17T21:30`, `2031-04-17 21:30:05+02:00` (RFC 3339, seconds may be left out)",
    "time": "`time`: `21:30`, `21:30:05`",
    "duration": "`timedelta`: `90s`, `1m30s`, `2h`",
    "path": "`Path`: a path, as it is given",
    "one-of": "`one_of(...)`, an `Enum`, `Literal[...]`: a label or an alias, in any letter case",
    "any-of": "`any_of(...)`: labels with commas between; empty for none",
    "size": "bytes with a unit: `10K`, `4MiB`, `1.5G`; in files a whole number too",
    "percent": "`25%`; in files the share too, 0.25",
    "ranges": "`1-5,8`",
    "mode": "octal digits: `644`",
    "url": "a URL with a scheme and a host",
    "email": "an e-mail address",
    "json": "a JSON text; in files any value",
    "address": "an IP address of either version",
    "network": "an IP network of either version",
    "uuid": "a UUID",
    "pattern": "a regular expression",
    "time-zone": "the name of a time zone",
    "pairs": "`dict[str, int]`: `name=value`, once for each",
}
#: The names that every program has.
OWN_NAMES = {
    "--help, -h": "the help page of the program or command; `-h` unless the program has that letter itself",
    "--help=all": "of a program with commands: the pages of all of them",
    "--version": "the version",
    "--asking=WHEN": "`never`, `missing` or `all`: which values to ask for on the terminal",
    "--answers=FILE": "values from a TOML or JSON file (YAML with the extra); `-` is standard input",
    "--as=FORM": "`text` or `json`: the form of the result, of a program with `results=True`",
    "help COMMAND": "the page of a command, of a program with commands that has none of that name itself",
}
STATUSES = {
    "0": "done; also after `--help` and `--version`",
    "1": "refused or failed: a `Refusal` with no status of its own, an error that nobody foresaw, an output that "
    "cannot be written",
    "2": "wrong use: something that was given is wrong, or is missing and nobody can be asked",
    "130 in a shell": "interrupted: the terminal is as before, and the process has ended by SIGINT",
    "129, 143 in a shell": "ended by SIGHUP or SIGTERM; a console ends so too, once its last command is stopped",
    "141 in a shell": "nobody reads the output: the process has ended by SIGPIPE",
    "any other": "that of a `Refusal`, of `SystemExit`, of `exit STATUS` in a console; from 0 to 255",
}
FORMATS = {
    "answers and settings": "TOML, JSON or YAML: a key for each value, tables by command path, texts as on the "
    "command line or values of the kind itself; `wesperon answers MODULE:NAME` prints a blank one",
    "sets of questions, guides": "TOML, JSON or YAML, by [set.schema.json](set.schema.json) and "
    "[guide.schema.json](guide.schema.json); see [sets](guide-files.md) and [guides](guide-branching.md)",
    "choices": "rows of CSV, or a list in TOML, JSON or YAML",
    "files of commands": "a command on each line, quotes as in a POSIX shell, `#` comments, a backslash at the end of "
    "a line goes on; values at the top, see [Consoles](guide-consoles.md)",
    "preferences": "TOML, by [preferences.schema.json](preferences.schema.json); see "
    "[What a user prefers](guide-preferences.md)",
    "results": "a text, a card, a table; `--as=json`: JSON (RFC 8259)",
    "wesperon fill": "`--to=json`, `--to=shell` (assignments for `eval`) or `--to=env` (lines `NAME=value`)",
    "problems": "with `WESPERON_PROBLEMS=json` a JSON array of objects on standard error: `slot`, `source`, `text`, "
    "`position`, `words`, `location`, `timed_out`, `reason`, as the attributes of `Problem`; a refusal is one too",
    "history": "an entry a line, in UTF-8: see the head of `history/file_format.py`",
}
#: The rules of a form.
RULES = ("exactly_one", "at_most_one", "at_least_one", "all_or_none", "needs")
SHOWN = (
    "slot",
    "fill",
    "run",
    "ask",
    "confirm",
    "ask_async",
    "confirm_async",
    "split",
    "one_of",
    "any_of",
    *RULES,
    "page",
    "page_async",
    "show_message",
    "show_message_async",
    "choose",
    "choose_async",
    "choose_file",
    "choose_file_async",
    "show_work",
    "show_work_async",
    "progress",
    "working",
    "styled",
    "terminal_size",
)
#: The classes, each with its members that programs may use.
CLASSES = {
    "Form": "fill fill_async from_file blank_answers check in_order words replay origins with_slots",
    "Command": "run from_function",
    "CommandGroup": "",
    "Program": "main call call_async page manual contract blank_answers turn_on_log",
    "Console": "run run_async leave say handler listen on_leave run_file run_file_async python",
    "Heard": "",
    "Work": "add set label total count say fail aside remote",
    "Guide": "walk",
    "Screen": "run run_async close call_later dialog close_dialog aside",
    "MenuBar": "",
    "MenuEntry": "",
    "Across": "",
    "Down": "",
    "Tabs": "value show",
    "Field": "value problem show check on_change enabled",
    "Button": "enabled",
    "Label": "value show",
    "Listing": "value show on_change enabled",
    "Table": "value show index sort_by on_change enabled",
    "Column": "",
    "Pager": "value show",
    "MessageView": "value show",
    "Meter": "value show",
    "Trend": "value show",
    "Context": "derive",
    "Complaint": "",
    "Refusal": "",
    "Problems": "json",
    "Problem": "sentence",
    "DeclarationError": "",
    "Slot": "",
}
FOR_TESTS = {
    "Session": "type press paste choose focus resize see compare close screen cursor work is_open output errors status",
    "Scripted": "",
    "Press": "",
    "Paste": "",
    "Resize": "",
}
#: Members that are there for the library's own parts: programs do not use them, and they may change.
INNER = {
    "Widget": "*",
    "Screen": "content title menus bindings running",
    "Column": "heading key width right slot",
    "MenuEntry": "label action keys off marked reason",
    "Form": "of",
    "Command": "in_steps",
    "CommandGroup": "examine inside named slots table_names",
    "Program": "candidates find invocation settings_of",
    "Console": "finish",
    "Work": "begin end stop forget is_never seconds",
    "Context": "asking_shell catalogue flush is_process print program_name",
    "Problems": "lists_commands command",
    "Slot": "*",
    "Scripted": "*",
}


def keywords(text: str) -> list[tuple[str, str]]:
    """Return the keywords of a docstring that lists them, each with its sentence."""
    found: list[tuple[str, str]] = []
    lines = text.partition("Keywords:\n")[2].partition("\n\n")[0].splitlines()
    for line in lines:
        if line.startswith(" " * 8):
            name, said = found[-1]
            found[-1] = (name, f"{said} {line.strip()}")
        else:
            name, _, said = line.strip().partition(": ")
            found.append((name, said))
    return found


def table(heads: tuple[str, str], rows: list[tuple[str, str]]) -> list[str]:
    """Return a table of two columns."""
    cells = [(name, said.replace("``", "`").replace("|", "\\|")) for name, said in rows]
    return [f"| {heads[0]} | {heads[1]} |", "| --- | --- |", *[f"| {name} | {said} |" for name, said in cells], ""]


def described(name: str, one: Any) -> list[str]:
    """Return a function or class: its keywords with their defaults, and its docstring."""
    try:
        parameters = [*inspect.signature(one).parameters.values()]
    except ValueError:  # an exception without arguments of its own
        parameters = []
    given = [
        f"`{'*' * (parameter.kind is parameter.VAR_POSITIONAL)}{parameter.name}`"
        if parameter.default is parameter.empty
        else f"`{parameter.name}={parameter.default!r}`"
        for parameter in parameters
        if parameter.name not in ("self", "cls") and parameter.kind is not parameter.VAR_KEYWORD
    ]
    if isinstance(one, type) and issubclass(one, Frozen):
        given = [f"`{field}`" for field in one.__annotations__]
    doc = inspect.getdoc(one) or ""
    listed = keywords(doc)
    before, _, after = doc.partition("Keywords:\n")
    said, rest = (_plain(text) for text in (before, after.partition("\n\n")[2] if listed else ""))
    rows = [(", ".join(f"`{one}`" for one in names.split(", ")), _plain(means)) for names, means in listed]
    if name == "Program":
        more = [keyword for keyword in NAMES if keyword not in (*OF_A_CALL, *(one.name for one in parameters))]
        given += [f"`{keyword}={getattr(Wishes, keyword)!r}`" for keyword in more]
        parameters = [one for one in parameters if one.kind is not one.VAR_KEYWORD]
    starred = any(parameter.kind is parameter.VAR_KEYWORD for parameter in parameters)
    takes = f"Takes {', '.join(given)}{', and keywords' if starred else ''}." if given else "Takes keywords." * starred
    lines = [f"### `{name}`", "", *([takes, ""] if takes else []), said, ""]
    return lines + (table(("keyword", "meaning"), rows) if rows else []) + ([rest, ""] if rest else [])


def described_member(name: str, cls: Any, member: str) -> list[str]:
    """Return a member of a class: a method as a function, a property by its docstring."""
    one = getattr(cls, member)
    if callable(one):
        return ["#" + line if line.startswith("### ") else line for line in described(f"{name}.{member}", one)]
    return [f"#### `{name}.{member}`", "", _plain(inspect.getdoc(one) or ""), ""]


def _plain(text: str) -> str:
    """Return a docstring without the marks of roles, its example as a block."""
    said, _, example = text.partition("Example:\n")
    said = re.sub(r":\w+:(?=`)", "", said).replace("``", "`").strip()
    return f"{said}\n\n```pycon\n{inspect.cleandoc(example)}\n```".strip() if example else said


def page() -> str:
    """Return the text of the page."""
    slot_says = inspect.getdoc(wesperon.slot) or ""
    listed = keywords(slot_says)
    names = {part for name, _ in listed for part in name.split(", ")}
    assert names == set(KEYWORDS), names ^ set(KEYWORDS)
    lines = [HEAD, "## Functions", ""]
    for name in SHOWN:
        lines += described(name, getattr(wesperon, name))
    for head, module, classes in (
        ("Classes", wesperon, CLASSES),
        ("For tests", testing, FOR_TESTS),
    ):
        lines += [f"## {head}", ""]
        for name, members in classes.items():
            one = getattr(module, name)
            lines += described(name, one)
            for member in members.split():
                lines += described_member(name, one, member)
    lines += ["## Kinds by name", "", "In sets of questions and guides a kind has a name.", ""]
    assert [*KIND_NAMES] == [*KINDS]
    lines += table(("name", "what it takes"), [(f"`{name}`", said) for name, said in KIND_NAMES.items()])
    lines += ["## Names that every program has", ""]
    own = [(", ".join(f"`{one}`" for one in name.split(", ")), said) for name, said in OWN_NAMES.items()]
    lines += table(("name", "meaning"), own)
    lines += ["## Exit statuses", "", "Of programs, scripts that `fill`, and consoles.", ""]
    lines += table(("status", "meaning"), [*STATUSES.items()])
    lines += ["## Formats", ""]
    lines += table(("of", "what it is"), [*FORMATS.items()])
    lines += ["## Variables of the environment", ""]
    spoken = [(", ".join(f"`{one}`" for one in name.split(", ")), said) for name, said in VARIABLES.items()]
    lines += table(("variable", "meaning"), spoken)
    lines += ["## Files", "", "`NAME` is the name of the program.", ""]
    lines += table(("file", "what is in it"), list(FILES.items()))
    return "\n".join(lines).rstrip() + "\n"


if __name__ == "__main__":
    PAGE.write_text(page())
