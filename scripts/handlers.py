"""Check that every error that goes no further says why: a handler that drops a broad error has a comment.

``python -m scripts.handlers`` prints each handler that says nothing; the status is 1 if there is one. A handler drops
an error if all that it does is to pass, to go on, to break or to return. ``BROAD`` are the classes that do not say by
themselves what has happened.
"""

from __future__ import annotations

import ast
import sys
from collections.abc import Iterator
from pathlib import Path

SOURCE = Path(__file__).parent.parent / "src" / "wesperon"
BROAD = frozenset(("OSError", "ValueError", "TypeError", "Exception", "BaseException"))


def main() -> int:
    """Print each handler that says nothing; the status is 1 if there is one."""
    faults = list(silent())
    for fault in faults:
        print(fault)
    print(f"{len(faults)} handlers drop an error and do not say why")
    return 1 if faults else 0


def silent(source: Path = SOURCE) -> Iterator[str]:
    """Yield a line for each handler that drops a broad error without a comment."""
    for path in sorted(source.rglob("*.py")):
        text = path.read_text(encoding="utf-8")
        rows = text.split("\n")
        for node in ast.walk(ast.parse(text)):
            if isinstance(node, ast.ExceptHandler) and _drops(node) and _classes(node) & BROAD:
                end = node.body[0].end_lineno
                if not any("#" in row for row in rows[node.lineno - 1 : end]):
                    yield f"{path}:{node.lineno}: {rows[node.lineno - 1].strip()}"


def _drops(handler: ast.ExceptHandler) -> bool:
    """Return True if a handler ends what it was in, and hands the error to nobody."""
    body = handler.body
    is_named = any(isinstance(node, ast.Name) and node.id == handler.name for one in body for node in ast.walk(one))
    return not is_named and len(body) == 1 and isinstance(body[0], (ast.Pass, ast.Continue, ast.Break, ast.Return))


def _classes(handler: ast.ExceptHandler) -> set[str]:
    """Return the names of the classes that a handler takes; those of a bare one are all."""
    if handler.type is None:
        return {"BaseException"}
    return {node.id for node in ast.walk(handler.type) if isinstance(node, ast.Name)} | {
        node.attr for node in ast.walk(handler.type) if isinstance(node, ast.Attribute)
    }


if __name__ == "__main__":
    sys.exit(main())
