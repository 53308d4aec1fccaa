"""What is declared wrongly is refused where it is declared, with the nearest right name."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest

from wesperon import CommandGroup, Console, DeclarationError, Program, fill, slot

DESK = Program("desk")
WRONG: list[tuple[Any, type[Exception], str]] = [
    (lambda: Console(DESK, promt="x"), TypeError, r"Console\(\) has no keyword 'promt'; nearest: prompt"),  # type: ignore[call-arg]
    (lambda: Program("desk", member=[]), TypeError, "nearest: members"),  # type: ignore[call-arg]
    (lambda: CommandGroup("targets", defaultcommand="menu"), TypeError, "nearest: default_command"),  # type: ignore[call-arg]
    (lambda: fill([], frames=int), DeclarationError, r"frames=<class 'int'> is no slot: write frames=slot"),
    (lambda: Program("desk", keys="loud"), DeclarationError, "none of 'modeless', 'modal'"),
    (lambda: Console("desk"), DeclarationError, "needs a Program, got 'desk'"),  # type: ignore[arg-type]
    (lambda: Console(evaluate="x"), DeclarationError, "must be a function of a text"),  # type: ignore[arg-type]
    (lambda: Console(evaluate=str, sign=""), DeclarationError, "sign is empty"),
    (lambda: Console(DESK, background=True), DeclarationError, "must be a number of commands"),
    (lambda: Console(DESK, background=-1), DeclarationError, "no number of commands"),
    (lambda: Console(DESK, history=5), DeclarationError, "must be True, False or a path"),  # type: ignore[arg-type]
    (lambda: Console(DESK).leave("x"), TypeError, "whole number, got 'x'"),  # type: ignore[arg-type]
    (lambda: Console(DESK).listen(5, print), TypeError, "full name of a command"),  # type: ignore[call-overload]
    (lambda: slot(int, min=1), DeclarationError, "nearest: low"),  # type: ignore[call-overload]
]


@pytest.mark.parametrize(("declare", "error", "says"), WRONG, ids=[says for _, _, says in WRONG])
def test_a_wrong_declaration_is_refused_where_it_is_made(declare: Any, error: type[Exception], says: str) -> None:
    with pytest.raises(error, match=says):
        declare()


def test_paths_may_be_paths(tmp_path: Path) -> None:
    console = Console(DESK, history=tmp_path / "own.txt", first_file=tmp_path / "first.desk")
    assert console.history.path == str(tmp_path / "own.txt")
    assert console.first_file == str(tmp_path / "first.desk")
