"""Collect everything that Wesperon says into ``locale/wesperon.pot``, and compile the catalogues of other languages.

``python scripts/catalogue.py`` writes the template, brings each ``.po`` up to it and compiles it; messages that have no
translation yet are listed, with status 1.
"""

from __future__ import annotations

import ast
import sys
from datetime import UTC, datetime
from pathlib import Path

from babel.messages.catalog import Catalog
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

HEADER = "# What Wesperon says. Written by scripts/catalogue.py; the translations are edited here."
ROOT = Path(__file__).parent.parent
SOURCE = ROOT / "src" / "wesperon"
LOCALE = SOURCE / "locale"
#: Names whose values are said as they are, by class or module.
SAID = (
    "FOOT",
    "FOOT_AT_VALUE",
    "FOOT_IN_SCREEN",
    "KEYS_OF_SCREEN",
    "KEYS_OF_BAR",
    "KEYS_OF_DIVIDER",
    "MORE_KEYS",
    "FOOT_OF_COMMANDS",
    "FOOT_OF_PICKS",
    "FOOT_OF_HELP",
    "FOOT_OF_REMOVAL",
    "FOOT_IN_MODAL",
    "ASKED",
    "MEANINGS",
    "HOW",
    "MORE",
    "wanted",
    "beyond",
    "some",
    "some_of",
    "NOT_HERE",
    "NOBODY_LOOKS",
    "EXISTS",
    "BUILTIN_OPTIONS",
    "BUILTIN_COMMANDS",
    "TYPES",
    "LABELS",
    "NOTES",
)
#: The folders whose texts are a program's own rather than Wesperon's.
OWN = ("demo", "tool")
#: The file of the commands that every console has.
BUILT_IN = "console/builtin_commands.py"
#: Files that write for programs.
NOT_SAID = ("documents/set_schema.py",)


def messages() -> dict[str | tuple[str, str], list[tuple[str, int]]]:
    """Return every message, or pair of a singular and a plural, with the places where it is."""
    found: dict[str | tuple[str, str], list[tuple[str, int]]] = {}
    for path in sorted(SOURCE.rglob("*.py")):
        name = str(path.relative_to(SOURCE))
        if name.split("/")[0] in OWN or name in NOT_SAID:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            for message in [*_said(node), *(_of_command(node) if name == BUILT_IN else ())]:
                found.setdefault(message, []).append((name, getattr(node, "lineno", 0)))
    return found


def _said(node: ast.AST) -> list[str | tuple[str, str]]:
    """Return what one node of the source says."""
    if isinstance(node, ast.Call):
        name = node.func.id if isinstance(node.func, ast.Name) else ""
        if name == "tell":
            return [text for argument in node.args[:1] for text in _texts(argument)]
        if name == "DateKind":  # a kind whose wording is an argument
            return [*_texts(node.args[2])]
        given = [text for argument in node.args for text in _texts(argument)]
        if name == "tell_many" and len(given) >= 2:
            return [(given[0], given[1])]
        if name == "counted" and given:
            return [("{count} " + given[0], "{count} " + (given[1] if len(given) > 1 else given[0] + "s"))]
    targets = node.targets if isinstance(node, ast.Assign) else [node.target] if isinstance(node, ast.AnnAssign) else []
    if any(isinstance(target, ast.Name) and target.id in SAID for target in targets):
        value = node.value  # type: ignore[attr-defined]
        return [text for text in _texts(value) if any(map(str.islower, text)) and not _is_name(text)]
    return []


def _is_name(text: str) -> bool:
    """Return True for the name of an option or a key, which is the same in every language."""
    return text.startswith("-") or (text.startswith("Ctrl-") and ": " not in text)


def _of_command(node: ast.AST) -> list[str]:
    """Return what a command of the console itself says: its docstring, the questions and the helps of its values."""
    if isinstance(node, ast.ClassDef) and any(
        isinstance(base, ast.Name) and base.id == "BuiltIn" for base in node.bases
    ):
        return [ast.get_docstring(node) or ""]
    if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "slot":
        helps = [keyword.value for keyword in node.keywords if keyword.arg == "help"]
        return [text for one in [*node.args[1:2], *helps] for text in _texts(one)]
    return []


def _texts(node: ast.AST | None) -> list[str]:
    """Return the texts that an expression may come to."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        return [node.value]
    if isinstance(node, ast.IfExp):
        return [*_texts(node.body), *_texts(node.orelse)]
    if isinstance(node, (ast.Tuple, ast.List)):
        return [text for one in node.elts for text in _texts(one)]
    if isinstance(node, ast.Dict):
        return [text for one in node.values for text in _texts(one)]
    return []


def template() -> Catalog:
    """Return the template, with every message."""
    catalog = Catalog(project="Wesperon", charset="utf-8", fuzzy=False, header_comment=HEADER)
    catalog.creation_date = catalog.revision_date = datetime(2026, 1, 1, tzinfo=UTC)
    for message, places in sorted(messages().items(), key=str):
        text = message if isinstance(message, str) else message[0]
        flags = ["python-brace-format"] if "{" in text else []
        catalog.add(message, locations=[(name, 0) for name in dict.fromkeys(name for name, _ in places)], flags=flags)
    return catalog


def main() -> int:
    """Write, update and compile; 1 if something is not translated."""
    made = template()
    lacking = 0
    for path in sorted(LOCALE.glob("*/LC_MESSAGES/wesperon.po")):
        with path.open("rb") as file:
            catalog = read_po(file, locale=path.parent.parent.name, charset="utf-8")
        catalog.update(made, no_fuzzy_matching=True)
        for message in catalog:
            texts = message.string if isinstance(message.string, tuple) else (message.string,)
            if message.id and not all(texts):
                lacking += 1
                print(f"{path.parent.parent.name}: {message.id!r}")
        catalog.obsolete.clear()
        catalog.header_comment, catalog.creation_date = HEADER, made.creation_date
        catalog.last_translator = catalog.language_team = catalog.msgid_bugs_address = ""
        for old, write in ((path, write_po), (path.with_suffix(".mo"), write_mo)):
            with old.open("wb") as file:
                if write is write_po:
                    write_po(file, catalog, omit_header=False, width=120, include_lineno=False, sort_output=True)
                else:
                    write_mo(file, catalog)
    with (LOCALE / "wesperon.pot").open("wb") as file:
        write_po(file, made, width=120, include_lineno=False, sort_output=True)
    print(f"{len(list(made)) - 1} messages, {lacking} lacking")
    return 1 if lacking else 0


if __name__ == "__main__":
    sys.exit(main())
