"""Check the docstrings of everything public: there is one, and the arguments that it names are those of the signature.

``python scripts/docstrings.py`` prints each fault; the status is 1 if there is one. Public are the names of
``wesperon.__all__`` and of ``wesperon.testing.__all__``, with the public methods of their classes, but for those that
a base defines, which says what the arguments are. A docstring names an
argument in double backquotes, or in a list whose lines begin with ``name:`` or ``name, name:``.
"""

from __future__ import annotations

import inspect
import re
import sys
from collections.abc import Iterator
from typing import Any

import wesperon
import wesperon.testing

#: Arguments that need no word.
OBVIOUS = {"self", "cls"}
#: Lists of arguments, by the heading above them.
HEADINGS = ("Keywords:", "Arguments:", "Arguments, all by name, each that of the parent if it is not given:")


def main() -> int:
    """Print each fault; the status is 1 if there is one."""
    faults = sorted({fault for module in (wesperon, wesperon.testing) for fault in faults_of(module)})
    print("\n".join(faults) if faults else "every public name has its docstring")
    return 1 if faults else 0


def faults_of(module: Any) -> Iterator[str]:
    """Yield what is wrong with the docstrings of a module's public names."""
    for name in module.__all__:
        thing = getattr(module, name)
        yield from _faults(name, thing)
        if not isinstance(thing, type):
            continue
        for member, value in vars(thing).items():
            function = value.__func__ if isinstance(value, (classmethod, staticmethod)) else value
            is_new = not any(member in vars(base) for base in thing.__mro__[1:])
            if is_new and not member.startswith("_") and inspect.isfunction(function):
                yield from _faults(f"{name}.{member}", function)
            elif isinstance(value, property) and not value.__doc__:
                yield f"{name}.{member}: has no docstring"


def _faults(name: str, thing: Any) -> Iterator[str]:
    doc = inspect.getdoc(thing) or ""
    if not doc.strip():
        yield f"{name}: has no docstring"
        return
    first = doc.split("\n\n")[0]
    if not first.rstrip().endswith((".", ":", "?")):
        yield f"{name}: the first paragraph is no sentence"
    wanted = parameters(name, thing)
    listed = set(listed_in(doc))
    named = listed | set(re.findall(r"``(\w+)(?:=[^`]*)?``", doc))
    for missing in sorted(wanted - named):
        yield f"{name}: the argument {missing} is not in the docstring"
    for extra in sorted(listed - wanted):
        yield f"{name}: the docstring lists {extra}, which is no argument"


def parameters(name: str, thing: Any) -> set[str]:
    """Return the names of the arguments."""
    if name == "slot":
        from wesperon.values.slots import KEYWORDS

        return {"kind", "ask", *KEYWORDS}
    if name == "Context":
        from wesperon.context import PARTS

        return {"parent", *PARTS}
    if name == "Program":
        from wesperon.values.wishes import NAMES, OF_A_CALL

        return {*inspect.signature(thing).parameters, *NAMES} - {"keywords", *OF_A_CALL}
    if name == "Form.fill":
        return {"words", "asking", "driver", "context"}  # the others are those of Program
    if isinstance(thing, type):
        if "__init__" not in vars(thing) or issubclass(thing, (wesperon.Form, tuple)) or name == "Slot":
            return set()
        thing = thing.__init__
    if not inspect.isfunction(thing):
        return set()
    found = inspect.signature(thing).parameters.values()
    return {one.name for one in found if one.kind not in (one.VAR_KEYWORD, one.VAR_POSITIONAL)} - OBVIOUS


def listed_in(doc: str) -> Iterator[str]:
    """Yield the names in the lists of arguments of a docstring."""
    inside = ""
    for line in doc.split("\n"):
        bare = line.strip()
        indent = len(line) - len(line.lstrip())
        if bare in HEADINGS:
            inside, within = "yes", indent
        elif inside and bare and indent <= within:
            inside = ""
        elif inside and indent == within + 4 and re.match(r"\w+(, \w+)*: ", bare):
            yield from bare.partition(":")[0].split(", ")


if __name__ == "__main__":
    sys.exit(main())
