"""Check which modules import which: the layers of the house, and what each folder may not touch.

``python scripts/layers.py`` prints each import that breaks a rule, with its file and line; the status is 1 if there is
one. Imports inside functions count, imports that only a type checker sees do not.

Rules:

- A folder imports only from folders below it (``LAYERS``, from the ground up) and from itself.
- The pure folders do no input or output and know no clock: they import none of ``FORBIDDEN``.
- Nobody imports a module of the standard library that does this very job (``NEVER``).
- Every exception to a rule (``EXCEPTIONS``) is used; one that is not any more is an error too.
"""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parent.parent / "src" / "wesperon"

#: From the ground up. Names on one line are independent of each other.
LAYERS: tuple[tuple[str, ...], ...] = (
    ("frozen", "package_files"),
    ("locale",),
    ("context",),
    ("system",),
    ("scope", "user_folders"),
    ("text",),
    ("values",),
    ("editing",),
    ("highlight",),
    ("screen",),
    ("widgets",),
    ("files",),
    ("terminal",),
    ("history", "output"),
    ("argv",),
    ("completion",),
    ("sources",),
    ("documents",),
    ("forms",),
    ("form",),
    ("guides",),
    ("commands",),
    ("function",),
    ("console",),
    ("testing",),
    ("demo", "tool"),
)
#: Folders that compute and nothing else.
PURE = ("frozen", "text", "values", "editing", "highlight", "screen", "widgets")
#: What a pure folder may not import.
FORBIDDEN = frozenset(
    (
        *("asyncio", "fcntl", "io", "os", "pathlib", "select", "signal", "socket", "subprocess", "sys"),
        *("termios", "threading", "time", "tty"),
    )
)
#: The same of our own.
OUTWARD = ("wesperon.context", "wesperon.scope", "wesperon.user_folders", "wesperon.locale")
#: Modules of the standard library that do the work of this library; nobody imports them.
NEVER = frozenset(("arg" + "parse", "opt" + "parse", "get" + "opt", "cm" + "d", "read" + "line", "cur" + "ses"))
#: Imports that break a rule on purpose: module and what it imports, with the reason.
EXCEPTIONS: dict[tuple[str, str], str] = {
    ("text.messages", "wesperon.context"): "the one question that pure code asks: in which language",
    ("forms.signatures", "wesperon.form"): "read by type checkers only",
    ("context", "wesperon.text.spelling"): "loaded with a wrong argument",
}


def main() -> int:
    """Print each import that breaks a rule; the status is 1 if there is one."""
    faults = list(broken())
    for fault in faults:
        print(fault)
    print(f"{len(faults)} faults in {len(list(SOURCE.rglob('*.py')))} modules")
    return 1 if faults else 0


def broken(source: Path = SOURCE) -> Iterator[str]:
    """A line for each import that breaks a rule, and for each exception that is not used."""
    heights = {name: height for height, names in enumerate(LAYERS) for name in names}
    unused = set(EXCEPTIONS)
    for path in sorted(source.rglob("*.py")):
        parts = path.relative_to(source).with_suffix("").parts
        folder = parts[0]
        module = ".".join(parts)
        if folder in ("__init__", "__main__"):
            continue
        if folder not in heights:
            yield f"{path}: {folder} has no place in LAYERS"
            continue
        for name, line in imported(ast.parse(path.read_text(encoding="utf-8"))):
            reason = _reason(folder, name, heights)
            if not reason:
                continue
            if (module, name) in EXCEPTIONS:
                unused.discard((module, name))
            else:
                yield f"{path}:{line}: {reason}"
    for module, name in sorted(unused):
        yield f"scripts/layers.py: the exception for {module} and {name} is not used"


def _reason(folder: str, name: str, heights: dict[str, int]) -> str:
    """Why a folder may not import this; empty if it may."""
    top, _, rest = name.partition(".")
    if top in NEVER:
        return f"{name} does the work of this library"
    if folder in PURE and (top in FORBIDDEN or name.startswith(OUTWARD)):
        return f"{folder} is pure and imports {name}"
    if top != "wesperon" or not rest:
        return ""
    other = rest.partition(".")[0]
    if other in heights and other != folder and heights[other] >= heights[folder]:
        return f"{folder} imports {name}, which is not below it"
    return ""


def imported(tree: ast.AST) -> Iterator[tuple[str, int]]:
    """The modules that a module imports when it runs, each with its line."""
    for node in _running(tree):
        if isinstance(node, ast.Import):
            yield from ((alias.name, node.lineno) for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module, node.lineno
            if node.module == "wesperon":
                yield from ((f"wesperon.{alias.name}", node.lineno) for alias in node.names)


def _running(node: ast.AST) -> Iterator[ast.AST]:
    """All nodes but those that only a type checker reads."""
    yield node
    if isinstance(node, ast.If) and isinstance(node.test, ast.Name) and node.test.id == "TYPE_CHECKING":
        children: list[ast.AST] = list(node.orelse)
    else:
        children = list(ast.iter_child_nodes(node))
    for child in children:
        yield from _running(child)


if __name__ == "__main__":
    sys.exit(main())
