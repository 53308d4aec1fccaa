"""A file that the reader takes is one that the schema takes, and the other way round.

Modules: ``documents.set_schema``, ``guides.schema``.
"""

from __future__ import annotations

import copy
import json
import random
import re
from pathlib import Path
from typing import Any

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon import Form, Guide, Problems
from wesperon.documents.question_set import KEYS, SORTS, TESTS
from wesperon.documents.set_schema import set_schema
from wesperon.guides.guide import lint
from wesperon.guides.schema import guide_schema

SET: Any = json.loads(Path(__file__).with_name("set.json").read_text())
GUIDE: Any = json.loads(Path(__file__).with_name("guide.json").read_text())
VALIDATORS = [
    (SET, jsonschema.Draft202012Validator(set_schema())),
    (GUIDE, jsonschema.Draft202012Validator(guide_schema())),
]
VALUES: list[Any] = [
    None, True, False, 0, 1, -1, 2.5, "", "x", "deep", "red", "cameras", "integer", "any-of", [], ["red"], [1], {},
    {"slot": "deep"}, {"all": []}, [{"slot": "deep"}], {"label": "x"}, {"a": "b"}, {"learned": "lamp"},
]  # fmt: skip
NAMES = [
    *KEYS, *SORTS, *TESTS, "learned", "says", "next", "learns", "ends", "to", "when", "label", "value", "aliases",
    "file", "slots", "commands", "start", "steps", "version", "unknown", "a b", "_x",
]  # fmt: skip
#: What only the names and the texts of a file decide, which no schema says.
BEYOND = re.compile(
    r"^unknown (earlier slot|step|fact|list of choices|answer)|has no order$|^\".*\" is (no|none|too|neither|empty)"
    r"|^\".*\" cannot|is declared after this one|is also (that|one) of|cannot be read|is above high"
    r"|^(default|initial|alone)="
    r"|no next step|both called|empty label|unreachable|no end can be reached|meaning of its own|leave nothing"
    r"|both want the rest|is more than most"
    r"|^[^\"]+ is not (an?|one of|text|yes or no)\b|no regular expression|is no name|names no (lexer|language)"
    r"|^\"[^\"]*\" (ends|begins|must|matches)|chosen: choose at (least|most)"
)


def paths(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Return the way to every part of a document."""
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    return [path, *(one for key, inner in items for one in paths(inner, (*path, key)))]


def changed(document: Any, chance: random.Random) -> Any:
    """Return the document with something taken away, put in, given another value or another name."""
    made = copy.deepcopy(document)
    for _ in range(chance.choice([1, 1, 2, 3])):
        *above, last = chance.choice(paths(made)[1:])
        inside = made
        for key in above:
            inside = inside[key]
        way = chance.choice(["away", "other", "new", "new", "renamed"])
        value = copy.deepcopy(chance.choice(VALUES))
        if way == "away":
            del inside[last]
        elif way == "other":
            inside[last] = value
        elif way == "renamed" and isinstance(inside, dict):
            inside[chance.choice(NAMES)] = inside.pop(last)
        elif isinstance(inside[last], dict):
            inside[last][chance.choice(NAMES)] = value
        elif isinstance(inside[last], list):
            inside[last].append(value)
        if len(paths(made)) < 2:
            return copy.deepcopy(document)
    return made


@pytest.mark.parametrize(("document", "schema"), VALIDATORS, ids=["set", "guide"])
@settings(max_examples=80, deadline=None)
@given(chance=st.randoms(use_true_random=False))
def test_what_the_reader_takes_the_schema_takes_and_the_other_way_round(
    document: Any, schema: Any, chance: random.Random, tmp_path_factory: pytest.TempPathFactory
) -> None:
    made = changed(document, chance)
    path = tmp_path_factory.getbasetemp() / "changed.json"
    path.write_text(json.dumps(made))
    reasons = [problem.reason.partition(": ")[2] or problem.reason for problem in lint(path)]
    if not schema.is_valid(made):
        assert reasons, next(schema.iter_errors(made)).message
    elif reasons:
        assert any(BEYOND.search(reason) for reason in reasons), reasons


@pytest.mark.parametrize(("document", "opened"), [(SET, Form.from_file), (GUIDE, Guide)])
def test_the_documents_of_that_law_are_right(document: Any, opened: Any, tmp_path: Path) -> None:
    path = tmp_path / "right.json"
    path.write_text(json.dumps(document))
    opened(path)


@tabled
def test_a_condition_says_one_thing(condition: Any, reason: str, tmp_path: Path) -> None:
    made = copy.deepcopy(GUIDE if "learned" in condition else SET)
    if "learned" in condition:
        made["steps"]["count"]["next"][0]["when"] = condition
    else:
        made["slots"]["name"]["applies"] = condition
    path = tmp_path / "one.json"
    path.write_text(json.dumps(made))
    assert any(reason in str(problem) for problem in lint(path)), [str(problem) for problem in lint(path)]


def test_steps_of_any_name_are_asked_about_and_answers_are_put_in_once(tmp_path: Path) -> None:
    made = {
        "steps": {
            "learned": {"ask": "What?", "learns": "known", "next": "said"},
            "said": {"ask": "And?", "next": [{"when": {"learned": "known"}, "to": "end"}, {"to": "wrong"}]},
            "wrong": {"ends": True},
            "end": {"says": "{learned} and {said}, {{learned} {}", "ends": True},
        }
    }
    path = tmp_path / "guide.json"
    path.write_text(json.dumps(made))
    walk = Guide(path).walk(["--learned={said}", "--said={learned}"], asking="never")
    assert (walk.end, walk.says) == ("end", "{said} and {learned}, {learned} {}")
    path.write_text(json.dumps(made).replace("{said}", "{siad}"))
    with pytest.raises(Problems, match=r'steps.end.says: unknown step: "siad"; nearest: said'):
        Guide(path)
    path.write_text(json.dumps(made).replace('"said"', '"answers"').replace("{said}", "{answers}"))
    with pytest.raises(Problems, match="--answers of answers is also one of the four names"):
        Guide(path)
