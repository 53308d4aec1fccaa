"""Small immutable records.

Modules: ``frozen``.
"""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon.frozen import Frozen, remembered_of_one


class Span(Frozen):
    start: int
    end: int = 9
    name: str = ""

    def __repr__(self) -> str:
        return f"{self.name}[{self.start}:{self.end}]"


class Place(Frozen):
    start: int
    end: int = 9
    name: str = ""


@given(st.integers(), st.integers(), st.text())
def test_a_record_is_its_type_and_values(start: int, end: int, name: str) -> None:
    made = Span(start, end, name)
    assert (made.start, made.end, made.name) == (start, end, name)
    assert made == Span(start, name=name, end=end)
    assert hash(made) == hash(Span(start, end, name))
    other: Any = Place(start, end, name)
    assert made != other
    assert (made == Span(start + 1, end, name)) is False
    assert repr(made) == f"{name}[{start}:{end}]"  # the class's own method stays
    assert repr(Place(start, end, name)) == f"Place(start={start!r}, end={end!r}, name={name!r})"


def test_values_are_given_once_and_checked() -> None:
    make: Any = Span
    assert make(1).end == 9
    changed: Any = make(1)
    with pytest.raises(AttributeError, match=r"Span\.start is read-only"):
        changed.start = 2
    for values, named, told in [
        ((1, 2, "", 4), {}, "from 2 to 4 positional arguments but 5 were given"),
        ((), {}, "missing 1 required positional argument: 'start'"),
        ((1,), {"start": 2}, "multiple values for argument 'start'"),
        ((1,), {"stop": 2}, "unexpected keyword argument 'stop'"),
    ]:
        with pytest.raises(TypeError, match=told):
            make(*values, **named)


def test_results_are_remembered_up_to_a_number() -> None:
    called: list[int] = []

    @remembered_of_one(2)
    def doubled(number: int) -> int:
        """Return twice a number."""
        called.append(number)
        return 2 * number

    assert [doubled(number) for number in (1, 1, 2, 3, 1)] == [2, 2, 4, 6, 2]
    assert called == [1, 2, 3, 1]
    assert doubled.__doc__ == "Return twice a number."
