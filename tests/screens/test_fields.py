"""A field for every kind of slot: what is typed means what it means everywhere.

Modules: ``screens.field``.
"""

from __future__ import annotations

import enum
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Button, Column, Down, Field, Label, Screen, Table, any_of, ask, one_of, slot
from wesperon.kinds import size
from wesperon.testing import Press, Session


class Sky(enum.Enum):
    CLEAR = "clear"
    CLOUD = "cloud"


KINDS: list[tuple[Any, list[Any], Any]] = [
    (slot(str, "V"), ["dome"], "dome"),
    (slot(int, "V"), ["12"], 12),
    (slot(float, "V"), ["1.5"], 1.5),
    (slot(Decimal, "V"), ["1.50"], Decimal("1.50")),
    (slot(bool, "V"), [Press("ctrl-u"), "yes"], True),
    (slot(date, "V"), ["2031-02-03"], date(2031, 2, 3)),
    (slot(datetime, "V"), ["2031-02-03T21:30"], datetime(2031, 2, 3, 21, 30)),
    (slot(time, "V"), ["21:30"], time(21, 30)),
    (slot(timedelta, "V"), ["90s"], timedelta(seconds=90)),
    (slot(Path, "V"), ["raw/night"], Path("raw/night")),
    (slot(Sky, "V"), [Press("space"), "cloud", Press("enter"), Press("tab")], Sky.CLOUD),
    (slot(one_of({"a": 1, "b": 2}), "V"), [Press("space"), "b", Press("enter"), Press("tab")], 2),
    (slot(any_of(["a", "b"]), "V"), [Press("space"), Press("space"), Press("enter"), Press("tab")], ("a",)),
    (slot(str, "V", secret=True), ["moonstone"], "moonstone"),
    (slot(size(), "V"), ["4MiB"], 4 << 20),
    (slot(int, "V", many=True), ["3", Press("enter"), "4", Press("enter"), Press("enter")], (3, 4)),
    (slot(str, "V", lines=True), ["one", Press("enter"), "two", Press("alt-enter")], "one\ntwo"),
    (slot(int, "V", low=3, initial=5), [Press("up")], 6),
    (slot(str, "V", suggest=["Lantern", "Thimble"]), ["Lan", Press("tab"), Press("enter")], "Lantern"),
]


@pytest.mark.parametrize(
    ("declared", "keys", "value"), KINDS, ids=lambda one: getattr(one, "kind", one).__class__.__name__
)
@pytest.mark.parametrize("columns", [80, 26])
def test_a_field_gives_the_value_of_what_is_typed(declared: Any, keys: list[Any], value: Any, columns: int) -> None:
    field = Field(declared)
    screen = Screen(Down(Label("above"), field, Button("Take", lambda: screen.close(field.value))))
    with Session(screen.run, columns=columns, rows=12) as session:
        for key in keys:
            if isinstance(key, Press):
                session.press(key.name)
            else:
                session.type(key)
        assert "moonstone" not in session.screen
        session.choose("Take")
    assert session.result == value
    assert type(session.result) is type(value)
    assert field.check() is None  # once more: what was accepted stays so
    assert field.value == value


@pytest.mark.parametrize(
    ("declared", "keys", "value"), KINDS, ids=lambda one: getattr(one, "kind", one).__class__.__name__
)
def test_a_value_of_the_program_is_shown_and_stays(declared: Any, keys: list[Any], value: Any) -> None:
    field = Field(declared, value=value)
    screen = Screen(Down(field, Button("Take", lambda: screen.close(field.value))))
    with Session(screen.run, rows=12) as session:
        assert "moonstone" not in session.screen
        session.press("tab", "shift-tab").choose("Take")
    assert session.result == value


@pytest.mark.parametrize("visits", [0, 1, 2])
def test_what_depends_on_another_field_follows_it(visits: int) -> None:
    """Also where the field was there, and was used, before the other one was changed."""
    low = Field(slot(int, "Low"), value=3)
    high = Field(slot(int, "High", low=lambda answers: answers.low))
    low.slot.name = "low"
    screen = Screen(Down(low, high, Button("Take", lambda: screen.close(high.problem))))
    with Session(screen.run) as session:
        session.press("tab", "shift-tab", times=visits)
        session.press("ctrl-u").type("7").press("tab").type("5").press("tab")
        assert "at least 7" in session.screen
        session.choose("Take")
    assert session.result is not None


ROWS = st.lists(st.text("ab1 ,='\"-", min_size=1, max_size=5).filter(lambda row: row.strip()), min_size=1, max_size=3)


@pytest.mark.parametrize("kind", [list[str], list[int], tuple[str, ...], dict[str, str], dict[str, int], str])
@pytest.mark.parametrize("leave", ["tab", "enter"])
@given(rows=ROWS)
def test_rows_mean_what_they_mean_in_a_question(kind: Any, leave: str, rows: list[str]) -> None:
    """However they are left, and whatever they said on the way, as long as they are right there."""
    declare: Any = slot
    declared = declare(kind, "V", lines=kind is str)
    accept = ("alt-enter",) if kind is str else ("enter", "enter")
    with Session(lambda: ask("V", kind, lines=kind is str)) as session:
        _type_rows(session, rows)
        session.press(*accept)
        wanted = None if session.is_open else session.result
    field = Field(declared)
    screen = Screen(Down(field, Button("Take", lambda: None)), bindings={"f5": lambda: screen.close(field.value)})
    with Session(screen.run) as session:
        _type_rows(session, rows)
        session.press(*(("tab",) if leave == "tab" else accept))
        problem = field.shown_problem or field.inner.complaint
        session.press("f5")
    if wanted is None:
        assert problem is not None
    else:
        assert (session.result, problem) == (wanted, None)


def _type_rows(session: Session, rows: list[str]) -> None:
    for number, row in enumerate(rows):
        if number:
            session.press("enter")
        session.type(row)


WRONG = [None, "", "abc", 700, -1.5, date(2031, 2, 3), "a\x1b[31mb", ["x"], 2 + 1j]


@pytest.mark.parametrize(
    ("declared", "text", "value"), [(int, "7", 7), (date, "2031-02-03", date(2031, 2, 3)), (str, "z", "z")]
)
@pytest.mark.parametrize("cell", WRONG, ids=repr)
def test_a_cell_can_be_mended_whatever_is_in_it(declared: Any, text: str, value: Any, cell: Any) -> None:
    rows = [["dome", cell]]
    table = Table(rows, ["name", Column("n", slot=slot(declared, pattern="z|dome" if declared is str else None))])
    screen = Screen(Down(table))
    with Session(screen.run, rows=12) as session:
        session.press("right", "enter", "end", "ctrl-u").type(text).press("enter")
        assert "Change" not in session.screen
    assert rows == [["dome", value]]


@given(
    changes=st.lists(st.tuples(st.sampled_from(["low", "site"]), st.integers(0, 9)), min_size=1, max_size=6),
    visits=st.booleans(),
)
def test_a_value_that_does_not_fit_any_more_stays_and_is_a_problem(
    changes: list[tuple[str, int]], visits: bool
) -> None:
    """It is no problem any more once it fits again."""
    domes = {"north": ["n1", "both"], "south": ["s1", "both"], "west": ["w1"]}
    low, high = Field(slot(int, "Low"), value=1), Field(slot(int, "High", low=lambda answers: answers.low), value=5)
    site = Field(slot(one_of([*domes]), "Site"), value="north")
    dome = Field(slot(one_of(lambda answers: domes[answers.site]), "Dome"), value="both")
    some = Field(slot(any_of(lambda answers: domes[answers.site]), "Some"), value=("n1", "both"))
    low.slot.name, site.slot.name = "low", "site"
    screen = Screen(Down(low, high, site, dome, some))
    with Session(screen.run, rows=16) as session:
        for name, number in changes:
            if name == "low":
                session.choose("Low").press("ctrl-u").type(str(number)).press("tab")
            else:
                session.choose("Site").press("space", *["down"] * (number % 3), "enter")
            if visits:
                session.choose("Dome").press("space", "escape")
            assert (high.value, dome.value, some.value) == (5, "both", ("n1", "both"))
            assert (high.problem is None) == (low.value <= 5)
            assert (dome.problem is None) == (site.value != "west")
            assert (some.problem is None) == (site.value == "north")
            for field, said in ((high, "too low"), (dome, "is not one of the"), (some, "is not")):
                if field.problem is not None:
                    assert said in session.screen
            assert "This has failed" not in session.screen


@given(
    st.lists(
        st.sampled_from(["alt-b", "alt-0", "alt-w", "alt-x", "x", "d", "w", "i", "escape", "space", "a"]), max_size=8
    )
)
def test_escape_and_a_letter_in_one_read_are_both_taken_where_letters_are_commands(keys: list[str]) -> None:
    """A terminal sends Alt with a letter for them; a letter that no label has means what it means in a question."""
    texts = []
    modal = {"WESPERON_KEYS": "modal"}
    with Session(lambda: ask("V", str), environment=modal) as session:
        session.type("one two three").press(*keys, "escape", "i").type("Z").press("enter")
        texts.append(session.result)
    field = Field(slot(str, "V"))
    screen = Screen(Down(field), bindings={"f5": lambda: screen.close(field.inner.text)})
    with Session(screen.run, environment=modal) as session:
        session.type("one two three").press(*keys, "escape", "i").type("Z").press("escape", "f5")
        texts.append(session.result)
    assert texts[0] == texts[1]


@pytest.mark.parametrize("lines", [False, True])
@pytest.mark.parametrize("key", ["alt-enter", "shift-enter", "ctrl-o"])
def test_every_key_that_accepts_a_question_accepts_a_field_and_goes_on(lines: bool, key: str) -> None:
    field = Field(slot(str, "V", lines=lines))
    screen = Screen(Down(field, Button("Take", lambda: screen.close(field.value))))
    with Session(screen.run) as session:
        session.type("dome").press(key)
        assert session.focus == "Take"
        session.press("enter")
    assert session.result == "dome"


def test_what_is_typed_while_all_keys_are_shown_is_typed() -> None:
    field = Field(slot(str, "V"))
    screen = Screen(Down(field))
    with Session(screen.run) as session:
        session.type("do").press("f1").see("draw again").type("me")
        assert "draw again" not in session.screen
        session.press("f1", "escape", "f1", "f1", "f1", "left").type("X")
    assert field.inner.text == "domeX"


@given(st.lists(st.tuples(st.sampled_from(["moonstone", "sunstone"]), st.sampled_from(["enter", "tab"])), max_size=6))
def test_what_is_wanted_twice_has_a_value_once_it_was_typed_twice(entries: list[tuple[str, str]]) -> None:
    """Accepted by Enter, or left and come back to; and no sooner."""
    field = Field(slot(str, "Key", secret=True, twice=True))
    screen = Screen(Down(field, Button("Other", lambda: None)))
    first = None
    with Session(screen.run) as session:
        for text, way in entries:
            session.choose("Key").type(text).press(way)
            assert text not in session.screen
            if first is not None and text == first:
                assert (field.value, field.problem) == (text, None)
                break
            assert field.value is None
            assert field.check() is not None
            first = text if first is None else None
            said = "to be sure" in session.screen
            assert said == (first is not None)


def test_a_secret_in_a_table_is_not_to_be_seen() -> None:
    """Nor while it is changed, nor is what the rows are sorted by then shown."""
    rows = [["west", "sunstone"], ["east", "moonstone"], ["none", ""]]
    table = Table(rows, ["mast", Column("key", slot=slot(str, "Key", secret=True))])
    screen = Screen(Down(table))
    with Session(screen.run) as session:
        for keys in ((), ("right", "s"), ("s",), ("enter",), ("end", "a", "enter"), ("down",)):
            session.press(*keys)
            assert "stone" not in session.screen
            assert "***" in session.screen
    assert any(str(row[1]).endswith("stonea") for row in rows)
