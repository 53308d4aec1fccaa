"""Annotations in the body of a form: the kind of a slot that names none, and else a mistake that says what to write.

Loaded only for a class that has annotations.
"""

from __future__ import annotations

import sys

from wesperon.values import DeclarationError
from wesperon.values.kind import kind_of
from wesperon.values.kinds.annotated import annotated, shown
from wesperon.values.slots import Slot, slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from wesperon.values.records import Record


def read_annotations(cls: type[Record]) -> None:
    """Give slots without a kind that of their annotation; raise DeclarationError for a name that is no slot."""
    for name, value in cls.__dict__.items():
        if value is slot:
            raise DeclarationError(f"{cls.__name__}: {name} = slot is no slot: call it, as {name} = slot()")
    try:
        annotations: Mapping[str, Any] = cls.__annotations__
    except NameError:  # later versions of Python look the names up here, and one is not there yet
        return
    for name, annotation in annotations.items():
        declared = cls.__dict__.get(name)
        if isinstance(declared, Slot):
            if not declared.names_kind and "Slot" not in str(annotation):
                _set_kind(cls, name, declared, annotation)
        elif hasattr(declared, "asked_after"):  # a rule, whose module is not loaded for that
            continue
        elif not name.startswith("_") and "ClassVar" not in str(annotation) and not _is_inherited(cls, name):
            # The class itself stands for "no value": every other object may be one.
            value = cls.__dict__.get(name, cls)
            said = f"{name}: {_said(annotation)}" + ("" if value is cls else f" = {value!r}")
            right = f"slot({_said(annotation)}" + (")" if value is cls else f", default={value!r})")
            other = "what is no value of the form is ClassVar[...]"
            raise DeclarationError(f"{cls.__name__}: {said} is no slot: write {name} = {right}; {other}")


def _set_kind(cls: type, name: str, made: Slot[Any], annotation: Any) -> None:
    if isinstance(annotation, str):
        try:
            # ``from __future__ import annotations`` makes a text of each (PEP 563): code of the class, not of the user.
            annotation = eval(annotation, _names(cls), dict(vars(cls)))
        except Exception as error:
            reason = f"{annotation} cannot be resolved ({type(error).__name__}: {error})"
            raise DeclarationError(f"{cls.__name__}.{name}: {reason}: write {name} = slot(KIND)") from None
    try:
        kind, series = annotated(annotation, made.__dict__)
        made.set_kind(kind_of(kind, made.__dict__))
    except DeclarationError as error:
        raise DeclarationError(f"{cls.__name__}.{name}: {error}") from None
    made.names_kind, made.series = True, series
    made.is_examined = False


def _names(cls: type) -> dict[str, Any]:
    """Return the names that the module of a class has."""
    module = sys.modules.get(cls.__module__)
    return dict(vars(module)) if module is not None else {}


def _is_inherited(cls: type, name: str) -> bool:
    return any(name in vars(base) for base in cls.__mro__[1:])


def _said(annotation: Any) -> str:
    return annotation if isinstance(annotation, str) else shown(annotation)
