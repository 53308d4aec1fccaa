"""YAML: a scalar without quotes is a text for our kinds, and a document of the core schema elsewhere.

Modules: ``files.yaml_values``.
"""

from __future__ import annotations

import json
from datetime import date, time
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import Form, Problems, any_of, one_of, slot
from wesperon.files.document import parsed

KINDS: dict[str, Any] = {
    "text": slot(),
    "whole": slot(int),
    "number": slot(float),
    "switch": slot(bool),
    "clock": slot(time),
    "day": slot(date),
    "choice": slot(one_of(["no", "on", "1e3", "red"])),
    "choices": slot(any_of(["no", "on", "1e3", "red"])),
    "several": slot(int, many=True, least=1),
}
FORMS: dict[str, type[Form]] = {name: type("One", (Form,), {"value": made}) for name, made in KINDS.items()}
SCALARS = [
    "10:00",
    "12:30",
    "21:30:15",
    "no",
    "on",
    "Yes",
    "010",
    "0x1F",
    "1e3",
    "1_000",
    "2031-04-17",
    ".5",
    "=",
    "red",
    "+1",
    "0o7",
    "y",
]


def taken(form: type[Form], words: list[str]) -> Any:
    """Return what the words give; or that they give nothing."""
    try:
        return form.fill(words, asking="never").__dict__["value"]
    except Problems:
        return "refused"


@settings(max_examples=80)
@given(st.sampled_from(list(FORMS)), st.sampled_from(SCALARS), st.sampled_from(["{}", "!!str {}", '"{}"', "[{}]"]))
def test_a_scalar_means_what_it_means_as_a_word(
    tmp_path_factory: pytest.TempPathFactory, name: str, text: str, written: str
) -> None:
    if written == "[{}]" and name not in ("several", "choices"):
        return
    path = tmp_path_factory.getbasetemp() / "answers.yaml"
    path.write_text(f"value: {written.format(text)}\n")
    assert taken(FORMS[name], [f"--answers={path}"]) == taken(FORMS[name], [f"--value={text}"])


JSON = st.recursive(
    st.none()
    | st.booleans()
    | st.integers()
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text("aé 1:-#~", max_size=5),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text("ab1 ", max_size=3), inner, max_size=3),
    max_leaves=12,
)


@given(JSON)
def test_a_document_in_json_says_the_same_as_yaml(document: Any) -> None:
    text = json.dumps(document)
    assert parsed("yaml", text) == parsed("json", text) == document


@tabled
def test_plain_scalars_are_those_of_the_core_schema(text: str, meant: Any) -> None:
    if isinstance(meant, type):
        with pytest.raises(meant):
            parsed("yaml", text)
    else:
        assert repr(parsed("yaml", text)) == repr(meant)


def test_merged_tables_and_names_for_parts() -> None:
    text = "base: &base {a: 1, b: 2}\none: {<<: *base, b: 3}\ntwo: {<<: [{b: 4}, *base]}\nthree: *base\n"
    found = parsed("yaml", text)
    assert (found["one"], found["two"], found["three"]) == ({"a": 1, "b": 3}, {"b": 4, "a": 1}, {"a": 1, "b": 2})


@tabled
def test_a_key_that_is_given_twice_is_a_problem_in_every_format(ending: str, text: str, tmp_path: Path) -> None:
    path = tmp_path / f"twice.{ending}"
    path.write_text(text)
    with pytest.raises(Problems, match=r"given twice|overwrite|Cannot"):
        FORMS["text"].fill([f"--answers={path}"], asking="never")


def test_names_within_names_take_no_time() -> None:
    rows = ["a: &a [x, x, x, x, x, x, x, x, x]"]
    rows += [f"{chr(98 + at)}: &{chr(98 + at)} [{', '.join(['*' + chr(97 + at)] * 9)}]" for at in range(24)]
    with pytest.raises(ValueError, match="more than 1,000,000 values"):
        parsed("yaml", "\n".join(rows))
