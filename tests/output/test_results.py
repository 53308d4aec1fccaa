"""What a command returns, as it is printed."""

from __future__ import annotations

import json
from datetime import date, timedelta
from decimal import Decimal
from enum import Enum
from pathlib import PurePosixPath
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Form, slot
from wesperon.output.results import show, table
from wesperon.values.kinds.registry import find_kind


class Lamp(Enum):
    RED = "red"
    WHITE = "white"


VALUES = (
    st.timedeltas(min_value=timedelta(0), max_value=timedelta(days=9))
    | st.dates()
    | st.decimals(allow_nan=False, allow_infinity=False, places=3, max_value=10**6, min_value=0)
    | st.sampled_from(Lamp)
    | st.just(PurePosixPath("logs/a.txt"))
)


@given(st.lists(VALUES, min_size=1, max_size=5))
def test_a_value_is_printed_as_its_kind_reads_it_again(values: list[Any]) -> None:
    for value in values:
        row = table([{"value": value, "next": "x"}], None)[-1]
        printed = "".join(text for text, _ in row).strip().split("  ")[0]
        kind: Any = find_kind(type(value), {})
        assert kind.parse(printed) == value


def test_numbers_and_durations_are_right_aligned(capsys: pytest.CaptureFixture[str]) -> None:
    show([{"name": "a", "each": timedelta(minutes=5), "n": 7}, {"name": "b", "each": timedelta(seconds=90), "n": 12}])
    assert capsys.readouterr().out.split("\n") == ["name   each   n", "a        5m   7", "b     1m30s  12", ""]


def test_json_has_the_texts_of_kinds_and_arrays_of_series(capsys: pytest.CaptureFixture[str]) -> None:
    class Exposure(Form):
        each = slot(timedelta)
        night = slot(date)
        lamp = slot(Lamp)
        gains = slot(Decimal, many=True)

    made = Exposure(
        each=timedelta(seconds=90), night=date(2031, 4, 17), lamp=Lamp.RED, gains=(Decimal("1.5"), Decimal(2))
    )
    show(made, as_json=True)
    assert json.loads(capsys.readouterr().out) == {
        "each": "1m30s", "night": "2031-04-17", "lamp": "red", "gains": ["1.5", "2"],
    }  # fmt: skip
