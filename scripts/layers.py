"""Check which modules import which: the layers of the house, and what each folder may not touch.

``python scripts/layers.py`` prints each import that breaks a rule, with its file and line; the status is 1 if there is
one. Imports inside functions count, and modules that are loaded ``later`` (``frozen``); imports that only a type
checker sees do not.

Rules:

- A folder imports only from folders below it (``LAYERS``, from the ground up) and from itself.
- Only a folder at the top imports the root of the package, which leads to all others.
- The pure folders do no input or output and know no clock: they import none of ``FORBIDDEN``, and call none of
  ``TOUCHING``.
- Nobody imports a module of the standard library that does this very job (``NEVER``).
- The first sentences of a folder say what it imports, and whether it is pure (``sentences``).
- A name that begins with an underscore is used in its own folder only (``private_uses``).
- A function takes eight arguments at most, or is a public constructor (``long_signatures``).
- Imports inside functions are few (``MOST_INSIDE``), since ``later`` names such a module at the top; see ``frozen``.
- Every exception to a rule (``EXCEPTIONS``) is used; one that is not any more is an error too.
"""

from __future__ import annotations

import ast
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import TypeGuard

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
    ("kinds",),
    ("editing",),
    ("highlight",),
    ("screen",),
    ("widgets",),
    ("files",),
    ("terminal",),
    ("history", "output", "long_work"),
    ("paging",),
    ("argv",),
    ("completion",),
    ("sources",),
    ("documents",),
    ("forms",),
    ("form",),
    ("guides",),
    ("commands",),
    ("function",),
    ("screens",),
    ("console",),
    ("testing",),
    ("demo", "tool"),
)
#: Folders that compute and nothing else.
PURE = ("frozen", "text", "values", "editing", "highlight", "screen", "widgets")
#: From here up, folders use the library as a program does, by the names of its root.
ABOVE_ROOT = "demo"
#: What a pure folder may not import.
FORBIDDEN = frozenset(
    (
        *("asyncio", "fcntl", "io", "os", "pathlib", "select", "signal", "socket", "subprocess", "sys"),
        *("termios", "threading", "time", "tty"),
    )
)
#: Methods that reach the disk or the clock, whatever they are called on.
TOUCHING = frozenset(
    (
        *("exists", "is_dir", "is_file", "is_symlink", "stat", "lstat", "resolve_path", "iterdir", "glob", "mkdir"),
        *("read_text", "write_text", "read_bytes", "write_bytes", "unlink", "monotonic", "sleep", "now", "today"),
    )
)
MOST_ARGUMENTS = 8
MOST_INSIDE = 170
PUBLIC_CONSTRUCTORS = frozenset(
    (
        ("console", "__init__"),
        ("program", "__init__"),
        ("command_tree", "__init__"),
        ("command_tree", "from_function"),
        ("session", "__init__"),
    )
)
#: Functions that take the name of an attribute as a text.
BY_NAME = frozenset(("getattr", "setattr", "hasattr", "delattr", "get", "pop"))
#: Names of the standard library with an underscore in front, each of which its reference describes.
OF_THE_STANDARD_LIBRARY = frozenset(("_fields", "_exit", "_get_running_loop", "_getframe"))
#: The same of our own.
OUTWARD = ("wesperon.context", "wesperon.scope", "wesperon.user_folders", "wesperon.locale")
#: Modules of the standard library that do the work of this library; nobody imports them.
NEVER = frozenset(("arg" + "parse", "opt" + "parse", "get" + "opt", "cm" + "d", "read" + "line", "cur" + "ses"))
#: The reason of an import that is not run.
FOR_TYPES = "read by type checkers only"
#: Why a form may load what is above it.
ON_SCREEN = "a form on a screen, loaded where a program wants that"
#: Imports that break a rule on purpose: module and what it imports, with the reason.
EXCEPTIONS: dict[tuple[str, str], str] = {
    ("text.messages", "wesperon.context"): "the one question that pure code asks: in which language",
    ("forms.signatures", "wesperon.form"): FOR_TYPES,
    ("forms.precedence", "wesperon.screens.form_screen"): ON_SCREEN,
    ("context", "wesperon.text.spelling"): "loaded with a wrong argument",
    ("context", "wesperon.system"): "the disk of the process, loaded when somebody asks for it",
    ("values.kinds.dates", "wesperon.context"): "what day is today is asked of the context, which a test can replace",
    ("values.kinds.path", "wesperon.context"): "what a path leads to is asked of the context, which a test can replace",
}


def main() -> int:
    """Print each import that breaks a rule; the status is 1 if there is one."""
    faults = [*broken(), *sentences(), *private_uses(), *long_signatures(), *imports_inside()]
    for fault in faults:
        print(fault)
    print(f"{len(faults)} faults in {len(list(SOURCE.rglob('*.py')))} modules")
    return 1 if faults else 0


def broken(source: Path = SOURCE) -> Iterator[str]:
    """Yield a line for each import that breaks a rule, and for each exception that is not used."""
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
        tree = ast.parse(path.read_text(encoding="utf-8"))
        if folder in PURE:
            yield from (f"{path}:{line}: {folder} is pure and calls {name}()" for name, line in touched(tree))
        for name, line in imported(tree):
            reason = _reason(folder, name, heights)
            if not reason:
                continue
            if (module, name) in EXCEPTIONS:
                unused.discard((module, name))
            else:
                yield f"{path}:{line}: {reason}"
    for module, name in sorted(unused):
        yield f"scripts/layers.py: the exception for {module} and {name} is not used"


def private_uses(source: Path = SOURCE) -> Iterator[str]:
    """Yield a line for each use of a name with an underscore in front that its own folder does not define."""
    trees = {path: ast.parse(path.read_text(encoding="utf-8")) for path in sorted(source.rglob("*.py"))}
    own: dict[str, set[str]] = {}
    for path, tree in trees.items():
        own.setdefault(_folder(path, source), set()).update(_defined(tree))
    for path, tree in trees.items():
        for name, line in _used_privately(tree):
            if name not in own[_folder(path, source)] and name not in OF_THE_STANDARD_LIBRARY:
                yield f"{path}:{line}: {name} belongs to another folder"


def long_signatures(source: Path = SOURCE) -> Iterator[str]:
    """Yield a line for each function that takes too many arguments."""
    for path in sorted(source.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                names = [one.arg for one in (*node.args.posonlyargs, *node.args.args, *node.args.kwonlyargs)]
                count = len([name for name in names if name not in ("self", "cls")])
                if count > MOST_ARGUMENTS and (path.stem, node.name) not in PUBLIC_CONSTRUCTORS:
                    yield f"{path}:{node.lineno}: {node.name} takes {count} arguments"


def imports_inside(source: Path = SOURCE) -> Iterator[str]:
    """Yield a line if there are too many imports inside functions."""
    count = 0
    for path in source.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
                count += sum(isinstance(one, (ast.Import, ast.ImportFrom)) for one in ast.walk(node))
    if count > MOST_INSIDE:
        yield f"{source}: {count} imports inside functions: must be at most {MOST_INSIDE}"


def _folder(path: Path, source: Path) -> str:
    """Return the folder of the package that a module is in; a module of the root is one by itself."""
    return path.relative_to(source).with_suffix("").parts[0]


def _is_private(name: object) -> TypeGuard[str]:
    return isinstance(name, str) and name.startswith("_") and not name.startswith("__") and len(name) > 1


def _defined(tree: ast.AST) -> Iterator[str]:
    """Yield the private names that a module defines: functions, classes, variables and attributes."""
    for node in ast.walk(tree):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
            yield node.name
        elif isinstance(node, (ast.Name, ast.Attribute)) and isinstance(node.ctx, ast.Store):
            yield node.id if isinstance(node, ast.Name) else node.attr
        elif isinstance(node, ast.Dict):  # the body of a class that is made, or the state of an object
            yield from (key.value for key in node.keys if isinstance(key, ast.Constant) and _is_private(key.value))
        elif (
            isinstance(node, ast.Subscript) and isinstance(node.ctx, ast.Store) and isinstance(node.slice, ast.Constant)
        ):
            yield str(node.slice.value)


def _used_privately(tree: ast.AST) -> Iterator[tuple[str, int]]:
    """Yield the private names that a module uses: as attributes, imports, and keys of the state of an object."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Attribute) and _is_private(node.attr):
            yield node.attr, node.lineno
        elif isinstance(node, ast.ImportFrom):
            yield from ((alias.name, node.lineno) for alias in node.names if _is_private(alias.name))
        elif isinstance(node, ast.Subscript) and isinstance(node.slice, ast.Constant) and _is_private(node.slice.value):
            yield node.slice.value, node.lineno
        elif isinstance(node, ast.Call) and getattr(node.func, "attr", getattr(node.func, "id", "")) in BY_NAME:
            yield from (
                (one.value, node.lineno)
                for one in node.args
                if isinstance(one, ast.Constant) and _is_private(one.value)
            )


def sentences(source: Path = SOURCE) -> Iterator[str]:
    """Yield a line for each folder whose first sentences do not say what it imports, or whether it is pure.

    They end in ``Imports a, b and c.``, or in ``Imports a and below.``, where ``a`` is the highest of what it imports.
    """
    heights = {name: height for height, names in enumerate(LAYERS) for name in names}
    for path in sorted(source.glob("*/__init__.py")):
        folder = path.parent.name
        said = (ast.get_docstring(ast.parse(path.read_text(encoding="utf-8"))) or "").partition("\n")[0]
        found = _imports_of(path.parent, heights)
        names = re.split(", | and ", said.rpartition("Imports ")[2].removesuffix("."))
        if names[-1] == "below":
            top = max(heights[name] for name in found if name in heights)
            found = {name for name in found if heights.get(name, top) == top}
            names = names[:-1]
        if set(names) != found:
            yield f"{path}: says that it imports {', '.join(names)}, and imports {', '.join(sorted(found))}"
        if ("Pure." in said) != (folder in PURE):
            yield f"{path}: says that it is {'' if 'Pure.' in said else 'not '}pure"


def _imports_of(folder: Path, heights: dict[str, int]) -> set[str]:
    """Return the other folders that a folder imports, and ``the root``; without what only type checkers read."""
    found = set()
    for path in folder.rglob("*.py"):
        module = ".".join(path.relative_to(folder.parent).with_suffix("").parts)
        for name, _ in imported(ast.parse(path.read_text(encoding="utf-8"))):
            other = "the root" if name == "wesperon" else name.partition(".")[2].partition(".")[0]
            is_ours = name.partition(".")[0] == "wesperon" and (other in heights or other == "the root")
            if is_ours and other != folder.name and EXCEPTIONS.get((module, name)) not in (FOR_TYPES, ON_SCREEN):
                found.add(other)
    return found


def _reason(folder: str, name: str, heights: dict[str, int]) -> str:
    """Return why a folder may not import this; empty if it may."""
    top, _, rest = name.partition(".")
    if top in NEVER:
        return f"{name} does the work of this library"
    if folder in PURE and (top in FORBIDDEN or name.startswith(OUTWARD)):
        return f"{folder} is pure and imports {name}"
    if name == "wesperon" and heights[folder] < heights[ABOVE_ROOT]:
        return f"{folder} imports the root, which names everything that is above it"
    if top != "wesperon" or not rest:
        return ""
    other = rest.partition(".")[0]
    if other in heights and other != folder and heights[other] >= heights[folder]:
        return f"{folder} imports {name}, which is not below it"
    return ""


def touched(tree: ast.AST) -> Iterator[tuple[str, int]]:
    """Yield the calls of a module that reach the system whatever they are called on, each with its line."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Call):
            name = getattr(node.func, "attr", "") if isinstance(node.func, ast.Attribute) else ""
            plain = node.func.id if isinstance(node.func, ast.Name) else ""
            if name in TOUCHING or plain in ("open", "print", "input"):
                yield name or plain, node.lineno


def imported(tree: ast.AST) -> Iterator[tuple[str, int]]:
    """Yield the modules that a module imports when it runs, each with its line."""
    for node in _running(tree):
        if isinstance(node, ast.Import):
            yield from ((alias.name, node.lineno) for alias in node.names)
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "later":
            yield from ((str(one.value), node.lineno) for one in node.args if isinstance(one, ast.Constant))
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module, node.lineno
            if node.module == "wesperon":
                yield from ((f"wesperon.{alias.name}", node.lineno) for alias in node.names)


def _running(node: ast.AST) -> Iterator[ast.AST]:
    """Yield all nodes but those that only a type checker reads."""
    yield node
    if isinstance(node, ast.If) and isinstance(node.test, ast.Name) and node.test.id == "TYPE_CHECKING":
        children: list[ast.AST] = list(node.orelse)
    else:
        children = list(ast.iter_child_nodes(node))
    for child in children:
        yield from _running(child)


if __name__ == "__main__":
    sys.exit(main())
