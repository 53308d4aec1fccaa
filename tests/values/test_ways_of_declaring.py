"""A kind is named at the slot, beside it or at a parameter: what may be said of it is the same.

Modules: ``values.examination``, ``values.parameters``.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Annotated, Any

import hypothesis.strategies as st
from hypothesis import given, settings

from wesperon import DeclarationError, Form, Program, slot
from wesperon.values.records import slots_of

KINDS = (int, float, bool, str, Path, date, list[int], tuple[str, ...])
KEYWORDS: dict[str, tuple[Any, ...]] = {
    "default": (1, "x", True, None, 2.5),
    "initial": (1, "x", None),
    "short": ("n", "1", "nn"),
    "short_no": ("N", "Q", "QQ"),
    "env": ("PLACE", "a b"),
    "low": (0, 5),
    "high": (3, 9),
    "unit": ("s",),
    "many": (True,),
    "rest": (True, "verbatim"),
    "least": (1,),
    "most": (3,),
    "secret": (True,),
    "lines": (True,),
    "step": (2,),
    "pattern": ("a+",),
    "repeats": ("last", "error"),
    "named_only": (True, False),
    "piped": (True,),
    "exists": ("file",),
    "live": (True,),
    "suggest": (["a", "b"],),
}
#: What the annotation and the default of a parameter say.
SAID_BY_PARAMETERS = {"default", "many", "rest"}
#: What a slot is made of that can be compared, but for how it came to be.
COMPARED = [*KEYWORDS, "ask", "help", "keeps_position", "repeats_said"]


def declared(make: Callable[[], Any]) -> dict[str, Any] | None:
    """Return what the slot of a form is; None if it is refused."""
    try:
        made = slots_of(make())["a"]
    except DeclarationError:
        return None
    return {
        **{key: getattr(made, key) for key in COMPARED},
        "kind": (type(made.kind), made.kind.wanted),
        "shape": type(made.shape),
    }


def by_parameter(kind: Any, keywords: dict[str, Any]) -> Any:
    """Return the command of a function that has the slot at its parameter."""

    def act(a: Any) -> None: ...

    act.__annotations__["a"] = Annotated[kind, slot(**keywords)]
    program = Program("act", members=[act])
    return program.members["act"].loaded


@settings(max_examples=200, deadline=None)
@given(kind=st.sampled_from(KINDS), data=st.data())
def test_a_kind_beside_a_slot_is_as_good_as_in_it(kind: Any, data: st.DataObject) -> None:
    names = data.draw(st.lists(st.sampled_from(sorted(KEYWORDS)), unique=True, max_size=3))
    keywords = {name: data.draw(st.sampled_from(KEYWORDS[name])) for name in names}
    inside = declared(lambda: type("Inside", (Form,), {"a": slot(kind, **keywords)}))
    beside = declared(lambda: type("Beside", (Form,), {"a": slot(**keywords), "__annotations__": {"a": kind}}))
    assert inside == beside
    if not SAID_BY_PARAMETERS & keywords.keys():
        assert declared(lambda: by_parameter(kind, keywords)) == inside
