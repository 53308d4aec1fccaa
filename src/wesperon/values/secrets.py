"""The secrets of one filling, and errors that say none of them.

Whatever a program's own functions do with a secret, from the first word to the end of the command: an error that leaves
:class:`Hushing` says none of it. It is the one place for that. Every text that a secret slot reads is noted there
(``Slot.parse``), so it knows those that were refused too.
"""

from __future__ import annotations

import types
from contextvars import ContextVar

from wesperon.text.hushing import MASK, Traces, hidden, hushed
from wesperon.values import Complaint
from wesperon.values.problems import Problems
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from types import TracebackType
    from typing import Any, Self

    from wesperon.values.records import Record
    from wesperon.values.slots import Slot

#: The secrets that the fillings in progress have read.
_NOTED: ContextVar[set[str] | None] = ContextVar("noted", default=None)
#: The same of all threads: one that a command has started knows nothing of its context.
_ACTIVE: list[set[str]] = []
#: The most choices whose labels count as texts of the declaration.
MOST_LABELS = 10_000


def note(*texts: str) -> None:
    """Keep these texts out of the errors of the filling in progress."""
    noted = _NOTED.get()
    if noted is not None:
        noted.update(texts)


def hush_text(text: str) -> str:
    """Return a text without the secrets that fillings and commands in progress have read."""
    noted = [secret for some in _ACTIVE for secret in some if secret]
    return hidden(text, Traces(noted)) if noted else text


def secretly(slot: Slot[Any], text: str, make: Callable[[], Any]) -> Any:
    """Return what ``make`` gives of the ``text`` of a secret; an error that it raises says nothing of it."""
    note(text)
    try:
        return make()
    except Complaint as complaint:
        raise Complaint(hushed(complaint.reason, text, declared_texts([slot]))) from None
    except Exception as error:
        raise hush_error(error, [text]) from None


class Hushing:
    """A context, such that no error that leaves it says a secret that was read inside it, or that a record holds."""

    def __init__(self, record: Record | None = None) -> None:
        self.record = record

    def __enter__(self) -> Self:
        self.before = _NOTED.get()
        self.noted: set[str] = set() if self.before is None else self.before
        if self.record is not None:
            self.noted.update(secrets_of(self.record))
        _NOTED.set(self.noted)
        _ACTIVE.append(self.noted)
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        _NOTED.set(self.before)
        del _ACTIVE[next(at for at, noted in enumerate(_ACTIVE) if noted is self.noted)]
        if error is None or isinstance(error, (KeyboardInterrupt, GeneratorExit)):
            return
        secrets = self.noted if self.record is None else {*self.noted, *secrets_of(self.record)}
        shown = hush_error(error, secrets)
        if shown is not error:
            raise shown from None


def secrets_of(record: Record) -> list[str]:
    """Return the texts of all secrets that a record holds, the longest first."""
    found: set[str] = set()
    for slot in slots_of(record).values():
        value = record.__dict__.get(slot.name)
        if slot.secret and value is not None:
            for one in _items(slot, value):
                found.add(str(one))
                try:
                    found.add(slot.format(one))
                except Exception:  # a kind of the program's own that has no text
                    pass
    return sorted(found - {""}, key=len, reverse=True)


def _items(slot: Slot[Any], value: Any) -> Iterable[Any]:
    """Return what of a value may be shown by itself."""
    if isinstance(value, dict):
        return [*value, *value.values(), *value.items()]
    return value if slot.shape.repeats and isinstance(value, tuple) else (value,)


def declared_texts(slots: Iterable[Slot[Any]]) -> list[str]:
    """Return the texts of a declaration that a message may hold: names, what is wanted, bounds, choices."""
    texts: set[str] = set()
    for slot in slots:
        kind: Any = slot.kind
        texts |= {slot.name, slot.word, slot.label, kind.wants, *(text for text in (slot.ask, slot.unit) if text)}
        texts |= {text for text in (slot.pattern, slot.pattern_says) if isinstance(text, str)}
        for bound in (slot.low, slot.high):
            if bound is not None and not callable(bound):
                texts |= {str(bound), _formatted(slot, bound)}
        choices = getattr(kind, "choices", None)
        if choices is not None and not kind.depends and not choices.is_growing and len(choices) <= MOST_LABELS:
            texts.update(choices.labels())
    return [text for text in texts if text and isinstance(text, str)]


def _formatted(slot: Slot[Any], value: Any) -> str:
    try:
        return slot.format(value)
    except Exception:  # a bound of a length, or a kind that has no text
        return ""


def hush_error(error: BaseException, secrets: Iterable[str]) -> BaseException:
    """Return the error without the secrets in what it says, and in what those before it say that lead to it.

    It is the error itself, changed, as far as it can be; one that cannot is replaced by one like it.
    """
    traces = Traces([secret for secret in secrets if secret])
    if not traces:
        return error
    try:
        return _Hush(traces).error(error)
    except Exception:  # an error of a class that does what no other does
        made: BaseException = type(type(error).__name__, (Exception,), {"__module__": type(error).__module__})(MASK)
        return made.with_traceback(error.__traceback__)


class _Hush:
    """Takes traces out of errors and what they hold."""

    def __init__(self, traces: Traces) -> None:
        self.traces = traces
        self.done: dict[int, BaseException] = {}

    def error(self, error: BaseException) -> BaseException:
        """Return the error, or one like it, without a trace; with all that leads to it."""
        if id(error) in self.done:
            return self.done[id(error)]
        self.done[id(error)] = error
        made = self._group(error) if isinstance(error, BaseExceptionGroup) else error
        self.done[id(error)] = made
        self._clean(made)
        for name in ("__cause__", "__context__"):
            before = getattr(error, name)
            if before is not None:
                suppressed = error.__suppress_context__
                setattr(made, name, self.error(before))
                made.__suppress_context__ = suppressed
        self.done[id(error)] = made = self._speechless(made)
        return made

    def _group(self, error: BaseExceptionGroup[Any]) -> BaseException:
        members = [self.error(one) for one in error.exceptions]
        message = hidden(error.message, self.traces)
        if message == error.message and all(one is same for one, same in zip(members, error.exceptions, strict=True)):
            return error
        try:
            made: BaseException = type(error)(message, members)
        except Exception:  # a class of the program's own that is made in another way
            made = BaseExceptionGroup(message, members)
        made.__dict__.update(error.__dict__)
        return made.with_traceback(error.__traceback__)

    def _clean(self, error: BaseException) -> None:
        """Take the traces out of all that an error holds."""
        if isinstance(error, Problems):
            error.problems = tuple([self._problem(one) for one in error.problems])
        error.args = tuple([self.part(part) for part in error.args])
        for name, part in [*getattr(error, "__dict__", {}).items()]:
            error.__dict__[name] = self.part(part)
        for base in type(error).__mro__:
            for name, member in vars(base).items():
                if isinstance(member, (types.MemberDescriptorType, types.GetSetDescriptorType)) and name[:2] != "__":
                    try:
                        before = getattr(error, name)
                        after = self.part(before)
                        if after is not before:
                            setattr(error, name, after)
                    except Exception:  # not set, or not to be set
                        pass

    def _problem(self, problem: Any) -> Any:
        """Return a problem without a trace: its text is left out, its reason says all the same what is wanted."""
        changed: dict[str, Any] = {
            name: after
            for name in ("reason", "text", "location")
            if (before := getattr(problem, name)) is not None and (after := hidden(before, self.traces)) != before
        }
        if "text" in changed:
            changed.update(text=None, position=None)
        if not changed:
            return problem
        fields = {name: getattr(problem, name) for name in type(problem).__annotations__}
        return type(problem)(**{**fields, **changed})

    def part(self, part: Any) -> Any:
        """Return what an error holds, without a trace; the same object if there is none in it."""
        if isinstance(part, str):
            after = hidden(part, self.traces)
            return part if after == part else after
        if isinstance(part, (bytes, bytearray)):
            text = bytes(part).decode("utf-8", "surrogateescape")
            after = hidden(text, self.traces)
            return part if after == text else type(part)(after.encode("utf-8", "surrogateescape"))
        if isinstance(part, (list, tuple, set, frozenset)) and type(part).__module__ == "builtins":
            items = [self.part(one) for one in part]
            return part if all(map(_is, items, part)) else type(part)(items)
        if type(part) is dict:
            pairs = [(self.part(name), self.part(value)) for name, value in part.items()]
            is_same = all(name is key and value is part[key] for (name, value), key in zip(pairs, part, strict=True))
            return part if is_same else dict(pairs)
        if part is None or isinstance(part, (int, float, BaseException, type)):
            return part
        try:
            return MASK if self.traces.are_in(repr(part)) else part
        except Exception:  # its own text fails, so nothing of it is shown
            return part

    def _speechless(self, error: BaseException) -> BaseException:
        """Return the error with another text if its own still has a trace, as it is made of what cannot be changed."""
        try:
            text, form = str(error), repr(error)
        except Exception:  # its own text fails, so nothing of it is shown
            return error
        if not self.traces.are_in(text) and not self.traces.are_in(form):
            return error
        said, shown = hidden(text, self.traces), hidden(form, self.traces)
        body = {"__str__": lambda self: said, "__repr__": lambda self: shown, "__module__": type(error).__module__}
        like = type(type(error).__name__, (type(error),), body)
        try:
            error.__class__ = like
        except TypeError:  # a class of the interpreter, whose objects keep their class
            made: BaseException = type(error).__new__(like, said)
            return made.with_traceback(error.__traceback__)
        return error


def _is(one: object, other: object) -> bool:
    return one is other
