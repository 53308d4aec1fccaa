"""A check that takes its time and is stopped leaves the question it was about, with what was typed.

Modules: ``terminal.tty_driver``, ``widgets.card``.
"""

from __future__ import annotations

import pytest

from tests.harness import CTRL_C, ENTER, Terminal, python

CHECKED = """
import sys, time
from wesperon import Form, slot
checks = []
class Plan(Form):
    {slots}
    def check(self):
        checks.append(1)
        if len(checks) == 1:
            time.sleep(60)
print("got", *Plan.fill())
"""
SLOTS = ["frames = slot(int, 'Frames')", "target = slot(str, 'Target')", "note = slot(str, 'Note')"]
TYPED = ["12", "Lantern", "clear"]


@pytest.mark.parametrize("count", [1, 2, 3])
def test_a_check_of_all_together_that_is_stopped_asks_for_the_last_again(count: int) -> None:
    program = CHECKED.format(slots="; ".join(SLOTS[:count]))
    with Terminal(python("-c", program)) as terminal:
        for slot, text in zip(SLOTS, TYPED[:count], strict=False):
            terminal.see(slot.split("'")[1])
            terminal.type(text + ENTER)
        terminal.see("being checked")
        terminal.type(CTRL_C)
        terminal.see("the check was stopped")
        assert "being checked" not in terminal.text()
        assert terminal.text().count(TYPED[count - 1]) == 1
        terminal.type("2" + ENTER)
        terminal.see("got " + " ".join([*TYPED[: count - 1], TYPED[count - 1] + "2"]))
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
