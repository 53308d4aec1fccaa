"""The parameters of a function as slots: what its signature and its annotations say.

    parameter               slot
    seconds: float          needed; the kind is that of the annotation
    seconds: float = 30.0   the default
    seconds: float | None   the kind is that of float
    frames: list[int]       ``many``; also tuple[int, ...], Sequence[int], Iterable[int], Iterator[int]
    *files: Path            ``rest``
    *, dry_run: bool        named only
    camera: Literal[...]    a menu of these values; of an Enum class, of its members
    tags: dict[str, int]    name-value pairs
    Annotated[float, slot(low=0.1, unit="s")]   everything else that a slot may say

Neither :mod:`inspect` nor :mod:`typing` is imported: a signature is read from the code of the function, and an
annotation is known by the attributes that the language reference gives it.
"""

from wesperon.values import MISSING, DeclarationError
from wesperon.values.kind import kind_of
from wesperon.values.slots import KEYWORDS, PLAIN, Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

#: Flags of a code object (Python Language Reference, 3.2.13): a starred parameter, and one with two stars.
STARRED, DOUBLE_STARRED = 0x04, 0x08


class Parameters:
    """The parameters of a function, each with its slot (``slots``, by name, in their order)."""

    def __init__(self, function: "Callable[..., Any]") -> None:
        self.function = function
        self.slots: dict[str, Slot[Any]] = {}
        #: What makes the argument of a parameter from the value of its slot, for those whose type is another.
        self.made: dict[str, Callable[[Any], Any]] = {}
        self.inner, skipped = _inner(function)
        inner = self.inner
        code = inner.__code__
        names = code.co_varnames
        plain = code.co_argcount
        if code.co_posonlyargcount > skipped:
            reason = "it has no name to be given by: take the / out of the signature"
            raise self.fault(names[skipped], reason)
        starred = bool(code.co_flags & STARRED)
        if code.co_flags & DOUBLE_STARRED:
            name = names[plain + code.co_kwonlyargcount + starred]
            reason = "names that nobody declared are unknown: write one parameter for each, or take dict[str, str]"
            raise self.fault(f"**{name}", reason)
        defaults = inner.__defaults__ or ()
        first = plain - len(defaults)
        given = {names[first + at]: value for at, value in enumerate(defaults)}
        given.update(inner.__kwdefaults__ or {})
        #: The names of the parameters that are given by position, and of the starred one, if there is one.
        self.plain = names[skipped:plain]
        self.starred = names[plain + code.co_kwonlyargcount] if starred else ""
        ordered = [*self.plain, self.starred] if starred else self.plain
        try:
            annotations = inner.__annotations__
        except NameError as error:  # later versions of Python look the names up here
            reason = f"an annotation cannot be resolved: {error}"
            raise DeclarationError(f"{function.__qualname__}(): {reason}") from None
        for name in (*ordered, *names[plain : plain + code.co_kwonlyargcount]):
            self._add(name, annotations.get(name, MISSING), given.get(name, MISSING))
            if name not in ordered:
                self.slots[name].named_only = True

    def call(self, values: "Mapping[str, Any]") -> "Any":
        """Call the function with the values of its slots, by name; what it returns."""
        made = {
            name: self.made[name](values[name]) if name in self.made and values[name] is not None else values[name]
            for name in self.slots
        }
        arguments = [made.pop(name) for name in self.plain]
        if self.starred:
            arguments += made.pop(self.starred)
        return self.function(*arguments, **made)

    def fault(self, name: str, reason: str) -> DeclarationError:
        """Return the error that something is wrong with a parameter."""
        return DeclarationError(f"{self.function.__qualname__}(), parameter {name}: {reason}")

    def _add(self, name: str, annotation: "Any", default: "Any") -> None:
        """Make the slot of a parameter."""
        is_starred = name == self.starred
        if annotation is MISSING:  # the type of the default says it, else it is text
            annotation = str if default is MISSING or default is None else type(default)
        if type(annotation) is str:
            annotation = self._evaluated(annotation, name)
        kind, own, made = annotation, None, None
        if type(annotation) is not type or annotation not in PLAIN:
            from wesperon.values.kinds.annotated import read_annotation

            kind, own, made = read_annotation(
                annotation, lambda reason: self.fault(name, reason), lambda text: self._evaluated(text, name)
            )
        settings: dict[str, Any] = {key: own.__dict__[key] for key in KEYWORDS} if own else {**KEYWORDS}
        if own and own.default is not (None if own.initial is None else MISSING):
            raise self.fault(name, "a default belongs into the signature: write it after the annotation")
        if made is not None and is_starred:
            raise self.fault(f"*{name}", "a starred parameter has the type of one value: write *files: Path")
        if own and (own.many or own.rest) and made is None and not (is_starred and own.rest == "verbatim"):
            raise self.fault(name, "several values have a type of several: write list[...], and slot(...) for each")
        if is_starred or made is not None or own:
            settings["rest"] = settings["rest"] or is_starred
            # Some of several choices are one value, which is a tuple by itself.
            settings["many"] = not settings["rest"] and made is not None and not (own and own.kind.shape.repeats)
        if made is not None and made is not tuple and settings["piped"] != "stream":
            self.made[name] = made
        settings["default"] = _constant(default)
        try:
            kind = own.kind if own and own.names_kind else kind_of(kind, settings)
            slot: Slot[Any] = Slot(kind, own.ask if own else None, settings)
            if own:
                slot.keeps_position, slot.repeats_said = own.keeps_position, own.repeats_said
            if made is not None and not slot.shape.takes_text:
                slot.series = made  # which no switch has
            if own or made is not None or default is not MISSING or is_starred:
                from wesperon.values.examination import examine

                examine(slot)
        except DeclarationError as error:
            raise self.fault(name, str(error)) from None
        slot.name = name
        self.slots[name] = slot

    def _evaluated(self, text: str, name: str) -> "Any":
        """Return the annotation that a text means, such as one under ``from __future__ import annotations``."""
        inner = self.inner
        cells = zip(inner.__code__.co_freevars, inner.__closure__ or (), strict=False)
        known = {}
        for free, cell in cells:
            try:
                known[free] = cell.cell_contents
            except ValueError:  # it has no value yet
                continue
        try:
            return eval(text, inner.__globals__, known)
        except NameError as error:
            from wesperon.text.spelling import suggestion

            missing = error.name or text
            near = suggestion(missing, [*inner.__globals__, *known], declared=True)
            near = near or "; names of a function around it, or of a block for type checkers only, are unknown then"
            reason = f"{text} cannot be resolved, since {missing} is not there when the program runs{near}"
            raise self.fault(name, reason) from None
        except Exception as error:
            raise self.fault(name, f"{text} cannot be resolved: {type(error).__name__}: {error}") from None


def _inner(function: "Any") -> "tuple[Any, int]":
    """Return the function whose code has the signature, and how many of its first parameters are bound already."""
    if isinstance(function, type) or not callable(function):
        raise DeclarationError(f"{function!r} is no function: write one with def, or use a class of slots")
    skipped = 0
    inner = function
    while True:
        if hasattr(inner, "__wrapped__"):
            inner = inner.__wrapped__
        elif hasattr(inner, "__func__"):
            inner, skipped = inner.__func__, 1
        else:
            break
    if not hasattr(inner, "__code__"):
        raise DeclarationError(f"{function!r} has no signature that can be read: wrap it in a function with def")
    return inner, skipped


def _constant(default: "Any") -> "Any":
    """Return a default as a slot has it, in which a function means another thing."""
    return (lambda answers: default) if callable(default) else default
