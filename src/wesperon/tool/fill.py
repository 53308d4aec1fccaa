"""``wesperon fill``: a set of questions from a file, filled as a program would, and printed for a shell script."""

from __future__ import annotations

from wesperon import Command, CommandGroup, Program, Refusal, one_of, slot
from wesperon.argv import read_words
from wesperon.context import current
from wesperon.documents.choice_lists import value_of_choice
from wesperon.documents.question_set import Declared, read_set
from wesperon.form import Untyped, end_interrupted, filled
from wesperon.output.exit_status import status_of
from wesperon.output.help import version_line
from wesperon.output.result_formats import json_text
from wesperon.scope import within
from wesperon.tool.assignments import EVALUATED, Aside, aside, lines
from wesperon.values.provenance import provenance_of
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any

    from wesperon.form import Form
    from wesperon.values.slots import Slot

FORMS = {
    "json": "one JSON object",
    "shell": "assignments for eval in a POSIX shell",
    "env": "lines NAME=value, names in capitals",
}


class Fill(Command):
    """Fill the values that a file declares, as a program would, and print them.

    What is after the file are the words of the set itself: wesperon fill plan.toml --help shows its help.
    In a shell script: plan=$(wesperon fill --to=shell plan.toml "$@") || exit; eval "$plan"
    """

    examples = ("fill plan.toml --frames 12", "fill --to=shell --prefix=plan_ plan.toml")
    to = slot(one_of(list(FORMS), note=FORMS.get), default="json", named_only=True, help="the form of the result")
    prefix = slot(default="", pattern=r"([A-Za-z_]\w*)?", named_only=True, help="put before each name, for a shell")
    file = slot(ask="File", help="the set, in TOML, JSON or YAML")
    word = slot(str, rest=True, low=0, help="the words of the set")

    def run(self) -> None:
        """Fill and print; raises Refusal with the exit status of what is wrong, which has been said."""
        if status := fill_set(self.file, self.word, self.to, self.prefix):
            raise Refusal("", status)


def fill_set(file: str, words: Sequence[str], how: str, prefix: str = "") -> int:
    """Fill the set of a file with words, and print the result; the exit status."""
    if how in EVALUATED and not isinstance(current().stdout, Aside):
        return aside(lambda: fill_set(file, words, how, prefix))
    declared = read_set(file, Untyped)
    found: list[tuple[str, Form]] = []
    with within(current().derive(program=declared.name, words=list(words))):
        status = _program(declared, found).main(words) if declared.commands else _fill_one(declared, words, found)
    if status or not found:
        return status
    command, record = found[0]
    text = printed(record, command if declared.commands else "", how, prefix)
    stream = current().stdout
    if isinstance(stream, Aside):
        stream.assign(text)
    else:
        print(text)
    return 0


def _fill_one(declared: Declared, words: Sequence[str], found: list[tuple[str, Form]]) -> int:
    """Fill a set without commands."""
    if declared.version and "version" in read_words(slots_of(declared.form), words).builtin:
        print(version_line(declared.name, declared.version))
        return 0
    try:
        found.append(("", filled(declared.form, words, {"name": declared.name}, ends_process=True)))
    except KeyboardInterrupt:
        return end_interrupted()
    except SystemExit:
        return 0
    except Exception as error:
        return status_of(error, [declared.name])
    return 0


def _program(declared: Declared, found: list[tuple[str, Form]]) -> Program:
    """Return the commands of a set as a program, each of which puts its record into ``found``."""
    shared = declared.form if slots_of(declared.form) else None
    members = [_member(one, (), found) for one in declared.commands.values()]
    return Program(declared.name, declared.version, declared.description, members, shared=shared)


def _member(declared: Declared, path: tuple[str, ...], found: list[tuple[str, Form]]) -> Any:
    path = (*path, declared.name)
    if declared.commands:
        shared = declared.form if slots_of(declared.form) else None
        members = [_member(one, path, found) for one in declared.commands.values()]
        return CommandGroup(declared.name, declared.description, members, shared=shared)

    def run(record: Any) -> None:
        found.append((" ".join(path), record))

    body = {"__doc__": declared.description, "name": declared.name, "run": run}
    return type(declared.form.__name__, (Command,), {**slots_of(declared.form), **body})


def printed(record: Any, command: str, how: str, prefix: str = "") -> str:
    """Return the values of a record in one of the forms."""
    whole = provenance_of(record).whole or record
    slots = slots_of(whole)
    values = {name: whole.__dict__[name] for name in slots}
    if how == "json":
        given = {name: json_of(slots[name], value) for name, value in values.items()}
        return json_text({"command": command, "values": given} if command else given)
    texts = {name: _text(slots[name], value) for name, value in values.items()}
    if command:
        texts = {"command": command, **texts}
    return "\n".join(lines(texts, how, prefix))


def json_of(slot: Slot[Any], value: Any) -> Any:
    """Return a value as JSON has it: choices by their value or label, what JSON has no type for as its text."""
    if value is None or isinstance(value, (bool, int)):
        return value
    return slot.shape.as_data(slot, value, json_of_one)


def json_of_one(slot: Slot[Any], value: Any) -> Any:
    """Return one value, or one of several."""
    if slot.kind.choices is not None:
        value = value_of_choice(value)
        return value if isinstance(value, (str, int, float, bool, list, dict, type(None))) else str(value)
    is_plain = isinstance(value, (str, bool, int)) or (isinstance(value, float) and value - value == 0)
    return value if is_plain else slot.format(value)


def _text(slot: Slot[Any], value: Any) -> str:
    """Return a value as a text; several on a line each."""
    if value is None:
        return ""
    return "\n".join([str(_plain(slot, item)) for item in slot.shape.items(value)])


def _plain(slot: Slot[Any], value: Any) -> Any:
    return value_of_choice(value) if slot.kind.choices is not None else slot.format(value)
