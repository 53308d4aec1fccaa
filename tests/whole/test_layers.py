"""The contract of the folders finds what breaks it."""

from __future__ import annotations

from pathlib import Path

from scripts.layers import broken, long_signatures, private_uses, sentences
from tests.tables import tabled


@tabled
def test_a_module_that_breaks_a_rule_is_named(fault: str, where: str, text: str, said: str, tmp_path: Path) -> None:
    path = tmp_path / where
    path.parent.mkdir()
    path.write_text(text, encoding="utf-8")
    faults = [*broken(tmp_path), *sentences(tmp_path), *private_uses(tmp_path), *long_signatures(tmp_path)]
    assert any(said in one and where in one for one in faults), (fault, faults)
