"""The signatures of ``fill`` as type checkers read them. Nothing loads this module when a program runs."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any, TypedDict, TypeVar, Unpack, overload

from wesperon.context import Context
from wesperon.editing.text_state import TextState
from wesperon.form import Form
from wesperon.forms.filling import KnownValues
from wesperon.terminal.driver import Driver

F = TypeVar("F", bound="Form")


# Written by scripts/keywords.py
class ProgramKeywords(TypedDict, total=False):
    """Those of :class:`Program` that forms have."""

    gate: Callable[[tuple[str, ...], type[Any], KnownValues], object] | None
    prefixes: bool
    settings: bool | str | None
    log: bool
    timeout: float | None
    mouse: bool
    style: str
    keys: str
    theme: str | Mapping[str, str]
    bindings: Mapping[str, object] | None
    actions: Mapping[str, Callable[[TextState], TextState]] | None
    capture: bool
    review: bool | str
    layout: str
    resume: bool
    replay: bool


class Keywords(ProgramKeywords, total=False):
    """Those of :meth:`Form.fill`."""

    name: str
    version: str
    description: str
    asking: str | None
    driver: Driver | None
    context: Context | None


# The end of what is written


class Untyped(Form):
    """A form whose slots no class body names, so that a type checker does not know them."""

    def __getattr__(self, name: str) -> Any:
        """Return the value of a slot."""


@overload
def fill(words: Sequence[str] | None = None, /, **slots: Any) -> Untyped: ...
@overload
def fill(form: type[F], words: Sequence[str] | None = None, /, **keywords: Unpack[Keywords]) -> F: ...
def fill(form: Any = None, words: Any = None, /, **keywords: Any) -> Any:
    """See :func:`wesperon.form.fill`."""
