"""The shape of a value: what texts make of it, and what texts it makes.

Modules: ``values.shapes_of_several``.
"""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Complaint, any_of, slot
from wesperon.values import MISSING
from wesperon.values.kind import ONE, SWITCH
from wesperon.values.shapes_of_several import CHOICE_SET, MANY, PAIRS

LABELS = ["red", "green, dark", "blue\\n", "a=b"]
ITEMS = st.text(min_size=1).filter(str.strip)
#: Each shape, a slot that has it, and values of that.
SHAPES: dict[Any, tuple[Any, st.SearchStrategy[Any]]] = {
    ONE: (slot(str), ITEMS),
    SWITCH: (slot(bool), st.booleans()),
    MANY: (slot(str, many=True), st.lists(ITEMS, min_size=1).map(tuple)),
    PAIRS: (
        slot(dict[str, int]),
        st.dictionaries(ITEMS.filter(lambda text: "=" not in text), st.integers(), min_size=1),
    ),
    CHOICE_SET: (
        slot(any_of(LABELS)),
        st.sets(st.sampled_from(LABELS)).map(lambda some: tuple(label for label in LABELS if label in some)),
    ),
}


def test_a_declaration_has_its_shape() -> None:
    assert all(declared.shape is shape for shape, (declared, _) in SHAPES.items())
    assert slot(int, rest=True).shape is MANY
    assert slot(dict[str, int], rest=True).shape is PAIRS


@pytest.mark.parametrize("shape", SHAPES)
@given(st.data())
def test_a_value_goes_round_by_its_words_its_line_and_its_items(shape: Any, data: st.DataObject) -> None:
    declared, values = SHAPES[shape]
    value = data.draw(values)
    words = shape.words(declared, value)
    assert declared.combine(words) == declared.validate(value) == value
    line = shape.line(words)
    assert line is None or shape.parse_line(declared, line) == value
    assert len(words) == 1 or shape.repeats
    texts = shape.texts(declared, value)
    assert len(texts) == len([*shape.items(value)])
    if shape.repeats:
        assert shape.parse_list(declared, texts) == value
        assert [item for item, _ in shape.parts(texts)] == texts


@pytest.mark.parametrize("shape", SHAPES)
def test_no_texts_are_a_value_where_there_may_be_none(shape: Any) -> None:
    declared, _ = SHAPES[shape]
    none = shape.none(declared)
    assert none is MISSING or none == declared.validate(none)
    assert (none is not MISSING) == (shape in (MANY, PAIRS))


@pytest.mark.parametrize("shape", [ONE, SWITCH])
def test_a_list_or_a_table_is_no_single_value(shape: Any) -> None:
    declared, _ = SHAPES[shape]
    for read, one in ((shape.parse_list, ["yes"]), (shape.parse_table, {"a": "yes"})):
        with pytest.raises(Complaint, match="got a"):
            read(declared, one)


def test_a_table_is_the_value_of_pairs() -> None:
    assert PAIRS.parse_table(SHAPES[PAIRS][0], {"a": 1, "b": "2"}) == {"a": 1, "b": 2}
    with pytest.raises(Complaint, match="c: "):
        PAIRS.parse_table(SHAPES[PAIRS][0], {"c": []})
