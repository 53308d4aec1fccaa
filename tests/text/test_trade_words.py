"""A word of the trade that is not ours is answered with ours, where names are declared.

Modules: ``text.advice``, ``text.trade_words``.
"""

from __future__ import annotations

from pathlib import Path

import pytest

from wesperon import Form, Problems, slot
from wesperon.editing.keys.action_help import ACTIONS
from wesperon.editing.keys.bindings import NAMED, Bindings
from wesperon.terminal.scripted import Press, Scripted
from wesperon.testing import Session
from wesperon.text.trade_words import OURS
from wesperon.values.kinds.registry import KINDS
from wesperon.values.slots import KEYWORDS


def test_every_word_leads_to_a_name_that_there_is_and_is_none_itself() -> None:
    known = {*KEYWORDS, *NAMED, *ACTIONS, "ask", "choices", *KINDS}
    for word, names in OURS.items():
        assert set(names) <= known, word


def test_a_kind_an_action_and_a_key_of_the_trade_are_answered_with_ours(tmp_path: Path) -> None:
    (tmp_path / "plan.toml").write_text('[slots.note]\nkind = "string"\n')
    with pytest.raises(Problems, match="nearest: text"):
        Form.from_file(tmp_path / "plan.toml")
    faults = Bindings().add({"ctrl-t": "upcase-word", "pgup": "paste"}, {})
    assert "nearest: uppercase-word" in faults["ctrl-t"]
    assert "nearest: page-up" in faults["pgup"]


class One(Form):
    note = slot()


@pytest.mark.parametrize("name", ["nosuchkey", "pgup", "ctrl-x ctrl-e", ""])
def test_a_script_refuses_a_key_that_there_is_not(name: str) -> None:
    with pytest.raises(ValueError, match="key"):
        Scripted([Press(name)])
    with Session(One) as session, pytest.raises(ValueError, match="key"):
        session.press(name)


def test_a_key_that_types_a_character_types_it() -> None:
    driver = Scripted([Press("a"), Press("space"), Press("B", 2), Press("Enter")])
    assert One.fill([], driver=driver).note == "a BB"
