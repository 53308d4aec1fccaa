"""What is missing is told all at once, also where it depends on something else that is missing."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import DeclarationError, Form, Problems, one_of, slot
from wesperon.testing import Press, Scripted

#: For each slot: which of those before it its choices depend on (none: it is free), whether it has a default, is given.
SLOTS = st.lists(st.tuples(st.integers(-1, 5), st.booleans(), st.booleans()), min_size=1, max_size=6)


def chosen_after(name: str) -> Any:
    """Choices that are made from an earlier answer."""
    return one_of(lambda answers: [f"{getattr(answers, name)}x", "other"])


@given(SLOTS)
def test_every_missing_value_is_told_at_once(described: list[tuple[int, bool, bool]]) -> None:
    body: dict[str, Any] = {}
    words: list[str] = []
    missing: set[str] = set()
    for at, (before, has_default, is_given) in enumerate(described):
        name = f"value_{at}"
        kind = chosen_after(f"value_{before}") if 0 <= before < at else str
        body[name] = slot(kind, default="other") if has_default else slot(kind)
        if is_given:
            words.append(f"--value-{at}=other")
        elif not has_default:
            missing.add(name)
    form: Any = type("Log", (Form,), body)
    if not missing:
        assert [getattr(form.fill([*words, "--asking=never"]), name) for name in body] == ["other"] * len(body)
        return
    with pytest.raises(Problems) as caught:
        form.fill([*words, "--asking=never"])
    assert {problem.slot for problem in caught.value} == missing
    assert all(problem.missing for problem in caught.value)


class Watch(Form):
    """Several values that may be none: one with a question, one without."""

    names = slot(many=True, ask="Names")
    tags = slot(dict[str, int], ask="Tags")
    rest = slot(rest=True)


def test_several_values_are_asked_for_only_where_there_is_a_question() -> None:
    """With nobody there, and after an empty answer, there are none; the answer is in the line that gives it again."""
    assert Watch.fill([], asking="never").names == ()
    enter = Press("enter")
    given = Watch.fill([], driver=Scripted(["Hollin", enter, enter, enter]))
    assert (given.names, given.tags, given.rest) == (("Hollin",), {}, ())
    assert given.words() == ["--names=Hollin", "--tags="]
    assert given.origins["names"] == given.origins["tags"] == "asked"
    none = Watch.fill([], driver=Scripted([enter, enter]))
    assert none.words() == ["--names=", "--tags="]
    assert Watch.fill(none.words(), driver=Scripted([])) == none
    assert Watch.fill(["x", "--names=a", "--tags=a=1"], driver=Scripted([])).rest == ("x",)
    with pytest.raises(DeclarationError, match=r"needs least=1, or a default such as \(\)"):
        slot(str, many=True, ask="Names", low=0)
