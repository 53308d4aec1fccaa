"""Check that the modules of a folder import each other in no circle but those that are written down.

``python -m scripts.circles`` prints each fault; the status is 1 if there is one. Every import counts: those inside
functions, modules that are loaded ``later`` (``frozen``), and those that only a type checker reads. Two modules are in
one circle if each leads to the other. A circle that is written down (``CIRCLES``) and is no more is a fault too.
"""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterator, Mapping
from pathlib import Path

SOURCE = Path(__file__).parent.parent / "src" / "wesperon"

#: An object and what is loaded with its first rare use: the object hands itself on, so that each names the other.
RARE = "what few runs need of it is loaded later, a start costs less by 315,000 instructions a module, and takes it"
#: The circles that stay, by their modules without the package, each with the reason.
CIRCLES: dict[tuple[str, ...], str] = {
    (
        "argv",
        "argv.errors",
        "argv.masking",
        "argv.option_words",
        "argv.rest_words",
        "argv.rivals",
    ): f"the reader of words: {RARE}",
    (
        "commands.at_once",
        "commands.command_tree",
        "commands.contract",
        "commands.entry_points",
        "commands.function_command",
        "commands.invocation",
        "commands.listing",
        "commands.lookup",
        "commands.merged",
        "commands.pages",
        "commands.program",
        "commands.settings",
        "commands.tree_secrets",
    ): f"a program and its tree of commands: {RARE}; a function in the tree is a program of its own",
    (
        "long_work.board",
        "long_work.last_line",
        "long_work.places",
        "long_work.remote",
        "long_work.rows",
        "long_work.shown",
        "long_work.wanted",
        "long_work.watch",
        "long_work.work",
    ): f"a piece of work and what shows it: {RARE}; most work has ended before anything is shown",
    ("terminal.plain_driver", "terminal.tty_driver"): "who looks for a terminal may find one that wants plain lines, "
    "whose driver is one of a terminal too",
    (
        "values.bounds",
        "values.construction",
        "values.dependencies",
        "values.examination",
        "values.kind",
        "values.kinds.annotated",
        "values.kinds.choices",
        "values.kinds.counts",
        "values.kinds.custom",
        "values.kinds.misreadings",
        "values.kinds.pairs",
        "values.kinds.registry",
        "values.phrases",
        "values.provenance",
        "values.records",
        "values.rules",
        "values.secrets",
        "values.shapes_of_several",
        "values.signatures",
        "values.slots",
        "values.streams",
        "values.together",
        "values.words",
    ): f"a record has slots, a slot has a kind, and the kind of a record is made of slots: {RARE}",
}


def main() -> int:
    """Print each fault; the status is 1 if there is one."""
    faults = list(undocumented())
    for fault in faults:
        print(fault)
    print(f"{len(faults)} faults, {len(CIRCLES)} circles are written down")
    return 1 if faults else 0


def undocumented(source: Path = SOURCE, written: Mapping[tuple[str, ...], str] = CIRCLES) -> Iterator[str]:
    """Yield a line for each circle that is not written down as it is, and for each that is written down and is none.

    One that is there for types alone is a fault, whether it is written down or not: a protocol says what is needed.
    """
    found = set(circles(source))
    run = {module for circle in circles(source, types=False) for module in circle}
    yield from (f"a circle for types alone: {', '.join(one)}" for one in sorted(found) if not run & set(one))
    yield from (f"a circle that is not written down: {', '.join(one)}" for one in sorted(found - set(written)))
    yield from (f"is no circle: {', '.join(one)}" for one in sorted(set(written) - found))


def circles(source: Path = SOURCE, *, types: bool = True) -> Iterator[tuple[str, ...]]:
    """Yield the modules of each circle inside a folder of the package; ``types``: also by what type checkers read."""
    graph = _imports(source, types)
    reached = {module: _reached(graph, module) for module in graph}
    seen: set[str] = set()
    for module in sorted(graph):
        circle = sorted(other for other in reached[module] if module in reached[other])
        if len(circle) > 1 and module not in seen:
            seen.update(circle)
            yield tuple(circle)


def _imports(source: Path, types: bool) -> dict[str, set[str]]:
    """Return the modules of its own folder that each module imports in any way."""
    modules = {_name(path, source): path for path in sorted(source.rglob("*.py"))}
    graph: dict[str, set[str]] = {module: set() for module in modules}
    for module, path in modules.items():
        for node in _nodes(ast.parse(path.read_text(encoding="utf-8")), types):
            for name in _named(node):
                other = name.removeprefix(f"{source.name}.")
                other = other if other in modules else other.rpartition(".")[0]
                if other in modules and other != module and other.partition(".")[0] == module.partition(".")[0]:
                    graph[module].add(other)
    return graph


def _nodes(node: ast.AST, types: bool) -> Iterator[ast.AST]:
    """Yield a piece of code and all inside it; without ``types`` not what is there for type checkers."""
    yield node
    of_types = isinstance(node, ast.If) and ast.unparse(node.test) == "TYPE_CHECKING" and not types
    for child in node.orelse if of_types and isinstance(node, ast.If) else ast.iter_child_nodes(node):
        yield from _nodes(child, types)


def _name(path: Path, source: Path) -> str:
    return ".".join(path.relative_to(source).with_suffix("").parts).removesuffix(".__init__")


def _named(node: ast.AST) -> Iterator[str]:
    """Yield what one piece of code imports, as a module or as a name in one."""
    if isinstance(node, ast.ImportFrom) and node.module:
        yield from (f"{node.module}.{alias.name}" for alias in node.names)
    elif isinstance(node, ast.Import):
        yield from (alias.name for alias in node.names)
    elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "later":
        yield from (str(one.value) for one in node.args if isinstance(one, ast.Constant))


def _reached(graph: Mapping[str, set[str]], module: str) -> set[str]:
    """Return all modules that a module leads to; itself among them."""
    seen, left = {module}, [module]
    while left:
        new = graph[left.pop()] - seen
        seen |= new
        left += new
    return seen


if __name__ == "__main__":
    sys.exit(main())
