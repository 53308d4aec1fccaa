"""The reference page, made from the signatures and docstrings: ``python scripts/reference_page.py`` writes it."""

from __future__ import annotations

import inspect
import re
from pathlib import Path
from typing import Any

import wesperon
from wesperon.values.slots import KEYWORDS

PAGE = Path(__file__).parent.parent / "docs" / "reference.md"
HEAD = """# Reference

Made from signatures and docstrings by `scripts/reference_page.py`. The guides say what these are for.
"""
#: Every variable of the environment that is read, and what it does.
VARIABLES = {
    "WESPERON_ASKING": "`never`, `missing` or `all`: which values to ask for, as `--asking`, which comes before it",
    "WESPERON_TIMEOUT": "the seconds after which a question that nobody answers ends",
    "WESPERON_PLAIN": "`1`: questions in plain lines, on any terminal; empty or `0`: not",
    "WESPERON_KEYS": "`modeless` or `modal`: the family of keys, whatever the program and the preferences say",
    "WESPERON_THEME": "the theme, likewise: `palette`, `dark`, `light` or `colourless`",
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
    "`NAME/settings.toml` in the configuration folder": "settings of a program that says `settings=True`; read only",
    "`wesperon/preferences.toml` there": "what the user prefers in all programs; written by the page of preferences",
    "`NAME/preferences.toml` there": "the same for one program, on top of those",
    "`NAME/history` in the state folder": "the lines of a console; private, shared by its runs",
    "`NAME/unfinished/` there": "the answers of a form that was left, a file for each run; private, kept for a day",
    "`NAME/last/` there": 'the values of the last run for slots with `initial="last"`, a file for each form; private',
}
SHOWN = ("fill", "run", "split", "one_of", "any_of", "styled", "terminal_size")
CLASSES = ("Form", "Command", "CommandGroup", "Program", "Console", "Heard", "Guide", "Context", "Refusal", "Complaint")


def keywords(text: str) -> list[tuple[str, str]]:
    """The keywords of a docstring that lists them, each with its sentence."""
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


#: Parameters with one star, or two.
STARRED = (inspect.Parameter.VAR_KEYWORD, inspect.Parameter.VAR_POSITIONAL)


def table(heads: tuple[str, str], rows: list[tuple[str, str]]) -> list[str]:
    """A table of two columns."""
    cells = [(name, said.replace("``", "`").replace("|", "\\|")) for name, said in rows]
    return [f"| {heads[0]} | {heads[1]} |", "| --- | --- |", *[f"| {name} | {said} |" for name, said in cells], ""]


def described(name: str, one: Any) -> list[str]:
    """A function or class: its keywords with their defaults, and its docstring."""
    given = [
        f"`{parameter.name}`" if parameter.default is parameter.empty else f"`{parameter.name}={parameter.default!r}`"
        for parameter in inspect.signature(one).parameters.values()
        if parameter.name not in ("self", "cls") and parameter.kind not in STARRED
    ]
    doc = inspect.getdoc(one) or ""
    listed = keywords(doc)
    before, _, after = doc.partition("Keywords:\n")
    said, rest = (_plain(text) for text in (before, after.partition("\n\n")[2] if listed else ""))
    rows = [(", ".join(f"`{one}`" for one in names.split(", ")), _plain(means)) for names, means in listed]
    lines = [f"### `{name}`", "", "Takes " + ", ".join(given) + "." if given else "Takes keywords.", "", said, ""]
    return lines + (table(("keyword", "meaning"), rows) if rows else []) + ([rest, ""] if rest else [])


def _plain(text: str) -> str:
    """A docstring without the marks of roles."""
    return re.sub(r":\w+:(?=`)", "", text).replace("``", "`").strip()


def page() -> str:
    """The text of the page."""
    slot_says = inspect.getdoc(wesperon.slot) or ""
    listed = keywords(slot_says)
    names = {part for name, _ in listed for part in name.split(", ")}
    assert names == set(KEYWORDS), names ^ set(KEYWORDS)
    lines = [HEAD, "## Keywords of `slot`", ""]
    lines += table(
        ("keyword", "meaning"), [(", ".join(f"`{one}`" for one in name.split(", ")), s) for name, s in listed]
    )
    lines += ["## Functions", ""]
    for name in SHOWN:
        lines += described(name, getattr(wesperon, name))
    lines += ["## Classes", ""]
    for name in CLASSES:
        one = getattr(wesperon, name, None)
        if one is not None:
            lines += described(name, one)
    lines += described("Form.fill", wesperon.Form.fill)
    lines += ["## Variables of the environment", ""]
    spoken = [(", ".join(f"`{one}`" for one in name.split(", ")), said) for name, said in VARIABLES.items()]
    lines += table(("variable", "meaning"), spoken)
    lines += ["## Files", "", "`NAME` is the name of the program.", ""]
    lines += table(("file", "what is in it"), list(FILES.items()))
    return "\n".join(lines).rstrip() + "\n"


if __name__ == "__main__":
    PAGE.write_text(page())
