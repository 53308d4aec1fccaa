"""Write what is made of the list of keywords of filling (``values.wishes``): signatures, and a docstring.

``python scripts/keywords.py`` writes both; with ``--check`` it changes nothing, and the status is 1 if one is not as it
would be written.
"""

from __future__ import annotations

import ast
import sys
import textwrap
from pathlib import Path

SOURCE = Path(__file__).parent.parent / "src" / "wesperon"
LIST, SIGNATURES = SOURCE / "values" / "wishes.py", SOURCE / "forms" / "signatures.py"
PROGRAM = SOURCE / "commands" / "program.py"
BEGIN, END = "# Written by scripts/keywords.py\n", "# The end of what is written\n"
#: Keywords that a program takes by position, and those that only a call has.
OF_A_PROGRAM, OF_A_CALL = ("name", "version", "description"), ("asking", "driver", "context")
#: Keywords of a program that the list has not, each after one that it has.
BESIDE = {
    "description": [
        "epilogue: what it says at the end: paragraphs, and lists and examples as they were written",
        "members, shared, default_command: as in :class:`CommandGroup`",
        'repeats: what a value means that is given again: ``"error"``, or ``"last"``, where the last one counts',
        "results: whether there are ``--as json``, ``csv`` and ``yaml``",
    ],
}


def keywords() -> dict[str, tuple[str, str]]:
    """Return each keyword with its type and what it is, as they are written in the list."""
    text = LIST.read_text(encoding="utf-8")
    lines = text.splitlines()
    (wishes,) = [node for node in ast.parse(text).body if isinstance(node, ast.ClassDef)]
    found = {}
    for node in wishes.body:
        if isinstance(node, ast.AnnAssign) and isinstance(node.target, ast.Name):
            first = node.lineno - 1
            while lines[first - 1].strip().startswith("#:"):
                first -= 1
            said = " ".join(line.strip().removeprefix("#: ") for line in lines[first : node.lineno - 1])
            found[node.target.id] = ast.unparse(node.annotation), said
    return found


def signatures() -> str:
    """Return the module of signatures, with the dictionaries of keywords."""
    known = keywords()
    more = [name for name in known if name not in (*OF_A_PROGRAM, *OF_A_CALL)]
    rows = [
        BEGIN,
        *_dictionary("ProgramKeywords", "TypedDict, total=False", "Those of :class:`Program` that forms have.", more),
    ]
    rest = [name for name in known if name not in more]
    rows += [
        "\n\n",
        *_dictionary("Keywords", "ProgramKeywords, total=False", "Those of :meth:`Form.fill`.", rest),
        "\n\n",
        END,
    ]
    text = SIGNATURES.read_text(encoding="utf-8")
    before, after = text.partition(BEGIN)[0], text.partition(END)[2]
    return before + "".join(rows) + after


def _dictionary(name: str, bases: str, said: str, names: list[str]) -> list[str]:
    known = keywords()
    return [f"class {name}({bases}):\n", f'    """{said}"""\n\n', *[f"    {one}: {known[one][0]}\n" for one in names]]


def program() -> str:
    """Return the module of programs, with a docstring that lists the keywords."""
    rows = []
    for name, (_, said) in keywords().items():
        if name not in OF_A_CALL:
            rows += [f"{name}: {said}", *BESIDE.get(name, ())]
    wrapped = [
        line
        for row in rows
        for line in textwrap.wrap(row, 120, initial_indent=" " * 8, subsequent_indent=" " * 12, break_on_hyphens=False)
    ]
    text = PROGRAM.read_text(encoding="utf-8")
    before, begin, after = text.partition("    Keywords:\n")
    end = after.index("\n\n    Example:\n")
    return before + begin + "\n".join(wrapped) + after[end:]


def main() -> int:
    """Write both; the status."""
    made = {SIGNATURES: signatures(), PROGRAM: program()}
    old = [path for path, text in made.items() if path.read_text(encoding="utf-8") != text]
    if "--check" in sys.argv:
        print("\n".join(f"{path} is not what the list of keywords gives" for path in old) or "as the list says")
        return 1 if old else 0
    for path, text in made.items():
        path.write_text(text, encoding="utf-8")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
