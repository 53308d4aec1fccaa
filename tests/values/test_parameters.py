"""Functions as declarations: what a signature says becomes slots, and the values become its arguments.

Modules: ``values.parameters``, ``values.kinds.annotated``, ``values.docstrings``.
"""

from __future__ import annotations

import datetime
import functools
import json
import typing  # noqa: F401
from collections.abc import Callable, Iterable, Iterator, Sequence  # noqa: F401
from decimal import Decimal  # noqa: F401
from enum import Enum
from pathlib import Path
from typing import Annotated, Any, Literal, NewType

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Command, DeclarationError, Form, slot
from wesperon.values import MISSING
from wesperon.values.docstrings import read_docstring
from wesperon.values.parameters import Parameters
from wesperon.values.records import slots_of

Seconds = NewType("Seconds", float)


class Camera(Enum):
    NORTH = "north"
    SOUTH = "south"


#: A kind whose values can be called.
KINDS = {"int": int, "float": float}

#: An annotation as it is written, and values of it.
ANNOTATIONS: dict[str, st.SearchStrategy[Any]] = {
    "str": st.text(st.characters(codec="utf-8"), min_size=1).filter(str.strip),
    "int": st.integers(-(10**9), 10**9),
    "float": st.floats(allow_nan=False, allow_infinity=False),
    "bool": st.booleans(),
    "Decimal": st.decimals(allow_nan=False, allow_infinity=False, places=2),
    "Path": st.sampled_from(["a", "b/c"]).map(Path),
    "datetime.date": st.dates(),
    "Camera": st.sampled_from(list(Camera)),
    "Seconds": st.floats(0, 10),
    "Literal['red', 'blue', 3]": st.sampled_from(["red", "blue", 3]),
    "Annotated[int, slot('How many?', low=1, high=9)]": st.integers(1, 9),
    "int | None": st.integers(0, 99),
    "typing.Optional[Path]": st.sampled_from(["a", "b"]).map(Path),
    "list[int]": st.lists(st.integers(0, 9), min_size=1, max_size=3),
    "tuple[int, ...]": st.lists(st.integers(0, 9), min_size=1, max_size=3).map(tuple),
    "Sequence[Annotated[int, slot(low=0)]]": st.lists(st.integers(0, 9), min_size=1, max_size=3).map(tuple),
    "list[Camera]": st.lists(st.sampled_from(list(Camera)), min_size=1, max_size=3),
}


@st.composite
def functions(draw: st.DrawFn) -> tuple[str, dict[str, Any], bool]:
    """Return the head of a function, a value for each parameter by name, and whether its annotations are texts."""
    count = draw(st.integers(1, 5))
    star = draw(st.integers(-1, count))
    parts, values, has_default = [], {}, False
    for at in range(count):
        name = f"p{at}"
        if at == star:
            values["more"] = tuple(draw(st.lists(st.integers(0, 9), max_size=3)))
            parts.append("*more: int")
            has_default = False
        annotation = draw(st.sampled_from(sorted(ANNOTATIONS)))
        values[name] = draw(ANNOTATIONS[annotation])
        has_default = draw(st.booleans()) or (has_default and not 0 <= star <= at)
        parts.append(f"{name}: {annotation}" + (f" = D[{name!r}]" if has_default else ""))
    return f"def f({', '.join(parts)}): return locals()", values, draw(st.booleans())


@given(functions())
def test_the_words_of_a_call_call_the_function_with_the_same_arguments(made: tuple[str, dict[str, Any], bool]) -> None:
    head, values, are_texts = made
    space = {**globals(), "D": values}
    future = "from __future__ import annotations\n" if are_texts else ""
    exec(compile(future + head, "f", "exec", dont_inherit=True), space)
    function = space["f"]
    parameters = Parameters(function)
    form = Form.with_slots("F", parameters.slots, {})
    assert list(parameters.slots) == list(values)
    words = form(**values).words()
    found = parameters.call(form.fill(words, asking="never").__dict__)
    assert found == values
    assert {name: type(value) for name, value in found.items()} == {name: type(value) for name, value in values.items()}
    plain = [values[name] for name in parameters.plain]
    rest = {name: value for name, value in values.items() if name not in parameters.plain and name != "more"}
    assert function(*plain, *values.get("more", ()), **rest) == found


def test_what_a_signature_says_becomes_slots() -> None:
    def expose(
        target: str,
        seconds: Annotated[float, slot("Seconds each", low=0.1, unit="s")] = 30.0,
        *notes: str,
        class_: Literal["dark", "light"] = "light",
        fast: bool = False,
        last: datetime.date | None = None,
    ) -> None:
        """Plan an exposure.

        Arguments:
            target: what to look at, by number
                or by name
            class_ (str): dark, or light
        """

    slots = slots_of(Command.from_function(expose))
    assert list(slots) == ["target", "seconds", "notes", "class_", "fast", "last"]
    assert [slot.word for slot in slots.values()] == ["target", "seconds", "notes", "class", "fast", "last"]
    assert [slot.named_only for slot in slots.values()] == [False, False, False, True, True, True]
    assert (slots["target"].default, slots["seconds"].default, slots["last"].default) == (MISSING, 30.0, None)
    assert (slots["seconds"].low, slots["seconds"].unit, slots["seconds"].ask) == (0.1, "s", "Seconds each")
    assert slots["notes"].rest
    assert slots["target"].help == "what to look at, by number or by name"
    assert slots["class_"].help == "dark, or light"
    assert slots["fast"].help == ""


def test_a_kind_in_the_slot_goes_before_the_annotation() -> None:
    def f(moment: Annotated[int, slot(lambda text: len(text), text=lambda value: "x" * value)]) -> int:
        return moment

    parameters = Parameters(f)
    assert parameters.call(Form.with_slots("F", parameters.slots, {}).fill(["abc"], asking="never").__dict__) == 3


def test_a_default_that_can_be_called_is_a_value() -> None:
    def f(kind: Annotated[type, slot(KINDS.__getitem__, text=lambda kind: kind.__name__)] = int) -> type:
        return kind

    parameters = Parameters(f)
    form = Form.with_slots("F", parameters.slots, {})
    assert parameters.call(form.fill([], asking="never").__dict__) is int
    assert parameters.call(form.fill(["float"], asking="never").__dict__) is float


def test_an_iterator_is_one_and_a_list_is_new_for_each_call() -> None:
    kept: list[int] = []

    def f(a: Iterator[int], b: list[int] = kept, c: Iterable[int] = (1,)) -> tuple[Any, ...]:
        b.append(9)
        return next(a), b, c

    parameters = Parameters(f)
    form = Form.with_slots("F", parameters.slots, {})
    for _ in range(2):
        assert parameters.call(form.fill(["--a=5", "--a=6"], asking="never").__dict__) == (5, [9], (1,))
    assert kept == []


def test_methods_and_decorated_functions_have_the_signature_that_people_see() -> None:
    class Desk:
        def expose(self, target: str, frames: int = 1) -> tuple[str, int]:
            return target, frames

    def loud(function: Callable[..., Any]) -> Callable[..., Any]:
        @functools.wraps(function)
        def around(*given: Any, **named: Any) -> Any:
            return "loud", function(*given, **named)

        return around

    bound = Parameters(Desk().expose)
    assert list(bound.slots) == ["target", "frames"]
    assert bound.call({"target": "a", "frames": 2}) == ("a", 2)
    decorated = Parameters(loud(Desk().expose))
    assert decorated.call({"target": "a", "frames": 2}) == ("loud", ("a", 2))


def test_a_class_of_the_body_around_is_known_in_an_annotation() -> None:
    class Wheel(Enum):
        RED = "red"

    def f(wheel: Wheel, other: Seconds | None = None) -> tuple[Wheel, Any]:
        return wheel, Wheel

    assert Parameters(f).slots["wheel"].parse("red") is Wheel.RED


# In the texts below, which names there are is what matters.
BROKEN: dict[str, list[str]] = json.loads(Path(__file__).with_name("broken_signatures.json").read_text())


@pytest.mark.parametrize("are_texts", [False, True])
@pytest.mark.parametrize("head", BROKEN)
def test_what_cannot_be_a_slot_is_refused_with_function_parameter_and_what_is_right(head: str, are_texts: bool) -> None:
    space = {**globals()}
    future = "from __future__ import annotations\n" if are_texts else ""
    exec(compile(future + head, "f", "exec", dont_inherit=True), space)
    with pytest.raises(DeclarationError) as caught:
        Parameters(space["f"])
    for part in BROKEN[head]:
        assert part in str(caught.value)


@pytest.mark.parametrize("thing", [3, int, print, functools.partial(json.loads)])
def test_what_is_no_function_is_refused(thing: Any) -> None:
    with pytest.raises(DeclarationError, match=r"is no function|has no signature"):
        Parameters(thing)


@pytest.mark.parametrize("name", ["help", "answers", "_hidden"])
def test_a_parameter_that_has_a_meaning_already_is_refused(name: str) -> None:
    space: dict[str, Any] = {}
    exec(f"def f({name}: int): ...", space)
    with pytest.raises(DeclarationError, match=name):
        Form.with_slots("F", Parameters(space["f"]).slots, {})


def test_a_parameter_may_have_the_name_of_a_method() -> None:
    def f(words: list[str], fill: int, origins: str = "x", replay: bool = False) -> tuple[Any, ...]:
        return words, fill, origins, replay

    parameters = Parameters(f)
    form = Form.with_slots("F", parameters.slots, {})
    record = form.fill(["--words=a", "--fill=3", "--replay"], asking="never")
    assert parameters.call(record.__dict__) == (["a"], 3, "x", True)
    assert record.origins["fill"] == "words"


DOCSTRINGS = [
    """Do it.

    At once.

    Arguments:
        a: the first,
            in two lines
        b (int, optional): the second
        *c: more

    Returns:
        nothing
    """,
    """Do it.

    At once.

    :param a: the first,
        in two lines
    :param int b: the second
    :parameter c: more

    Returns:
        nothing
    """,
    """Do it.

    At once.

    Parameters
    ----------
    a
        the first,
        in two lines
    b : int, optional
        the second
    *c
        more

    Returns:
        nothing
    """,
]


@pytest.mark.parametrize("text", DOCSTRINGS[:2])
def test_a_docstring_says_what_each_parameter_is_for(text: str) -> None:
    about, helps = read_docstring(text)
    assert helps == {"a": "the first, in two lines", "b": "the second", "c": "more"}
    assert (
        about == "Do it.\n\nAt once.\n\n\nReturns:\n    nothing"
        or about == "Do it.\n\nAt once.\n\nReturns:\n    nothing"
    )


def test_a_docstring_with_underlined_headings() -> None:
    text = DOCSTRINGS[2].replace("Returns:\n        nothing", "Returns\n    -------\n    nothing")
    about, helps = read_docstring(text)
    assert helps == {"a": "the first, in two lines", "b": "the second", "c": "more"}
    assert about.startswith("Do it.\n\nAt once.")
    assert "the second" not in about


@given(st.text("ab:(*) \n-" + "Args:", max_size=80))
def test_any_docstring_is_read(text: str) -> None:
    about, helps = read_docstring(text)
    assert len(about) <= len(text.expandtabs())
    assert all(name and said for name, said in helps.items())
