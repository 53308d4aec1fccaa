"""Calling the functions that a program hands over."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any


def call_with_optional_answers(function: Callable[..., Any], answers: object) -> Any:
    """Call ``function`` with the answers so far if it takes an argument, otherwise without. Return its result."""
    code = getattr(getattr(function, "__func__", function), "__code__", None)
    if code is None:
        wants = 0 if isinstance(function, type) else 1
    else:
        defaults = getattr(getattr(function, "__func__", function), "__defaults__", None) or ()
        wants = code.co_argcount - len(defaults) - (hasattr(function, "__self__"))
    return function(answers) if wants > 0 else function()
