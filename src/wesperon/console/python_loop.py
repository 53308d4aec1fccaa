"""Python as the language of a console, over objects of the program's own.

The value of a last expression is printed in a tidy form, and is ``_`` afterwards. ``await`` may be anywhere. A trace
begins with what was typed; names and attributes are completed without running any code of the objects.
"""

from __future__ import annotations

import ast
import builtins
import keyword
import re
import reprlib
import traceback
import warnings
from contextlib import contextmanager
from inspect import CO_COROUTINE
from itertools import islice
from textwrap import wrap
from types import FunctionType, MemberDescriptorType, ModuleType

from wesperon.output.terminal_size import terminal_size
from wesperon.text.messages import tell
from wesperon.values.problems import Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Coroutine, Iterator, MutableMapping
    from types import CodeType
    from typing import Any

#: Flags of :func:`compile`: a tree; ``await`` outside of functions; a text that is not whole has an error of its own.
TREE, AWAITS, INCOMPLETE = ast.PyCF_ONLY_AST, ast.PyCF_ALLOW_TOP_LEVEL_AWAIT, 0x4000
#: The names and attributes before the cursor.
REFERENCE = re.compile(r"(?:[^\W\d]\w*\.)*(?:[^\W\d]\w*)?$")
#: The most items of an item, where each has a row.
MOST_INSIDE = 20
#: The most items, levels, characters of one text, and rows of a value that are shown.
MOST_ITEMS, MOST_LEVELS, MOST_CHARACTERS, MOST_ROWS = 100, 6, 1_000, 120
#: The most names that are offered.
MOST_NAMES = 400


class PythonLoop:
    """Evaluates Python in a ``namespace``; ``leave`` is called with the status if the code wants to end the program."""

    def __init__(self, namespace: MutableMapping[str, Any], leave: Callable[[int], object]) -> None:
        self.names: dict[str, Any] = namespace if isinstance(namespace, dict) else dict(namespace)
        self.names.setdefault("__name__", "__console__")
        for name in ("exit", "quit"):  # the interpreter's own would close standard input as well
            self.names.setdefault(name, _exit)
        self.leave = leave
        self.count = 0

    def whole(self, text: str) -> bool:
        """Return True if a text can be run: a block ends with an empty line."""
        try:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")  # they are shown when the text is run
                compile(text, "<input>", "exec", TREE | AWAITS | INCOMPLETE)
        except SyntaxError as error:
            if "incomplete input" in (error.msg or ""):
                return False
        except (ValueError, OverflowError, RecursionError, MemoryError):  # told when it is run
            return True
        last = text.rpartition("\n")[2]
        return not (last.strip() and last[0].isspace())

    def evaluate(self, text: str) -> str | Coroutine[Any, Any, str | None] | None:
        """Run a text; its last expression as it is shown. Raises SyntaxError, and Refusal with a trace."""
        self.count += 1
        name = f"<input {self.count}>"
        try:
            tree = compile(text, name, "exec", TREE | AWAITS)
        except (ValueError, OverflowError, RecursionError, MemoryError) as error:
            raise Refusal(f"{type(error).__name__}: {error}") from None
        last = tree.body.pop() if tree.body and isinstance(tree.body[-1], ast.Expr) else None
        parts = [compile(tree, name, "exec", AWAITS)] if tree.body else []
        value = compile(ast.Expression(last.value), name, "eval", AWAITS) if isinstance(last, ast.Expr) else None
        codes = [*parts, value] if value is not None else parts
        if any(code.co_flags & CO_COROUTINE for code in codes):
            return self._awaited(codes, value, name, text)
        result = None
        with self._caught(name, text):
            for code in codes:
                result = eval(code, self.names)
        return self._shown(result if value is not None else None)

    @contextmanager
    def _caught(self, name: str, text: str) -> Iterator[None]:
        """Turn an error of the code into a Refusal with its trace, and the end of the program into that of the loop."""
        try:
            yield
        except SystemExit as ended:
            self.leave(ended.code if isinstance(ended.code, int) else int(ended.code is not None))
        except Exception as error:
            raise Refusal(self._trace(error, name, text)) from None

    async def _awaited(self, codes: list[CodeType], value: CodeType | None, name: str, text: str) -> str | None:
        """Return the same for code that awaits."""
        result: Any = None
        with self._caught(name, text):
            for code in codes:
                result = eval(code, self.names)
                if code.co_flags & CO_COROUTINE:
                    result = await result
        return self._shown(result if value is not None else None)

    def _shown(self, result: object) -> str | None:
        if result is None:
            return None
        self.names["_"] = result
        return tidy(result, max(terminal_size().columns - 1, 20))

    def _trace(self, error: BaseException, name: str, text: str) -> str:
        """Return the trace of an error, from what was typed on."""
        rows = text.split("\n")
        frames = list(traceback.extract_tb(error.__traceback__))
        first = next((at for at, frame in enumerate(frames) if frame.filename == name), len(frames))
        shown = []
        for frame in frames[first:]:
            line = frame.line
            if frame.filename == name and 0 < (frame.lineno or 0) <= len(rows):
                line = rows[(frame.lineno or 1) - 1]
            shown.append(traceback.FrameSummary(frame.filename, frame.lineno, frame.name, line=line))
        try:
            said = "".join(traceback.format_exception_only(error)).rstrip()
        except Exception:  # its own text fails
            said = type(error).__name__
        return "".join([*traceback.StackSummary.from_list(shown).format(), said])

    def complete(self, text: str, cursor: int) -> tuple[int, list[str]]:
        """Return the names that the one before the cursor may become, and where it begins."""
        found = REFERENCE.search(text, 0, cursor)
        reference = found[0] if found else ""
        *owners, begun = reference.split(".")
        known: set[str]
        if owners:
            owner = self._resolved(owners)
            known = set() if owner is _UNKNOWN else attributes(owner)
        else:
            known = {*self.names, *vars(builtins), *keyword.kwlist}
        names = [one for one in sorted(known) if one.startswith(begun) and (begun or not one.startswith("_"))]
        return cursor - len(begun), names[:MOST_NAMES]

    def _resolved(self, owners: list[str]) -> object:
        """Return the object that names with dots between them mean, if nothing has to be run to know it."""
        first, *rest = owners
        found = self.names.get(first, vars(builtins).get(first, _UNKNOWN))
        for name in rest:
            found = _attribute(found, name)
        return found


def _exit(code: object = None) -> None:
    """Leave the loop."""
    raise SystemExit(code)


_UNKNOWN = object()


def attributes(owner: object) -> set[str]:
    """Return the names of an object's attributes, found without running any code of it."""
    found = set(_own(owner))
    for base in _bases(owner):
        # ``base.__dict__`` would ask the metaclass first, which may run code of the program: Tab must not.
        found |= set(type.__dict__["__dict__"].__get__(base))
    return {name for name in found if isinstance(name, str)}


def _bases(owner: object) -> list[type]:
    """Return the classes in which an attribute of an object may be, in the order of lookup."""
    classes = [owner, type(owner)] if isinstance(owner, type) else [type(owner)]
    # As above: ``__mro__`` by ``type`` itself, whatever the metaclass says.
    return [base for one in classes for base in type.__dict__["__mro__"].__get__(one)]


def _own(owner: object) -> dict[str, Any]:
    """Return what an object itself holds."""
    if isinstance(owner, ModuleType):
        return vars(owner)
    try:
        held = object.__getattribute__(owner, "__dict__")
    except AttributeError:
        return {}
    return held if isinstance(held, dict) else {}


def _attribute(owner: object, name: str) -> object:
    """Return an attribute of an object, if nothing has to be run to know it."""
    if owner is _UNKNOWN:
        return _UNKNOWN
    own = _own(owner)
    if name in own:
        return own[name]
    for base in _bases(owner):
        found = type.__dict__["__dict__"].__get__(base).get(name, _UNKNOWN)
        if found is _UNKNOWN:
            continue
        if isinstance(found, MemberDescriptorType) and not isinstance(owner, type):
            try:
                return found.__get__(owner, type(owner))
            except AttributeError:
                return _UNKNOWN
        # Whatever else has ``__get__`` (a property, a lazy attribute) would run when it is looked at.
        if isinstance(found, FunctionType) or not hasattr(type(found), "__get__"):
            return found
        return _UNKNOWN
    return _UNKNOWN


#: What is around the items of a value.
BRACKETS: dict[Any, tuple[str, str]] = {
    list: ("[", "]"),
    tuple: ("(", ")"),
    set: ("{", "}"),
    frozenset: ("{", "}"),
    dict: ("{", "}"),
}


def tidy(value: object, columns: int) -> str:
    """Return a value as text of bounded size: in one row if it fits, else an item in each row."""
    shape = reprlib.Repr()
    shape.maxlevel = MOST_LEVELS
    _limit(shape, MOST_ITEMS)
    shape.maxstring = shape.maxother = shape.maxlong = MOST_CHARACTERS
    text = shape.repr(value)
    if len(text) <= columns and "\n" not in text:
        return text
    rows = text.split("\n")
    if type(value) in BRACKETS and value:
        _limit(shape, MOST_INSIDE)
        rows = _item_rows(value, shape, columns)
    if len(rows) > MOST_ROWS:
        rows = [*rows[:MOST_ROWS], f"... {tell('and {count} more', count=f'{len(rows) - MOST_ROWS:,}')}"]
    return "\n".join(rows)


def _limit(shape: reprlib.Repr, most: int) -> None:
    """Bound how many items of a value are shown."""
    for name in ("list", "tuple", "set", "frozenset", "dict", "deque", "array"):
        setattr(shape, f"max{name}", most)


def _item_rows(value: Any, shape: reprlib.Repr, columns: int) -> list[str]:
    """Return the rows of a value: an item in each, or as many short ones as fit."""
    first, last = BRACKETS[type(value)]
    if isinstance(value, dict):
        items = [f"{shape.repr(key)}: {shape.repr(one)}," for key, one in islice(value.items(), MOST_ITEMS)]
    else:
        items = [f"{shape.repr(one)}," for one in islice(value, MOST_ITEMS)]
    if not isinstance(value, dict) and max(map(len, items)) <= (columns - 4) // 3:
        items = wrap(" ".join(item.replace(" ", "\0") for item in items), columns - 4, break_on_hyphens=False)
        items = [item.replace("\0", " ") for item in items]
    rows = [first, *[f"    {row}" for item in items for row in item.split("\n")]]
    if (more := len(value) - MOST_ITEMS) > 0:
        rows.append("    ... " + tell("and {count} more", count=f"{more:,}"))
    return [*rows, last]
