"""Keys for a question, and what comes of them: the helpers of all tests that ask with no terminal."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from wesperon import Console, Form
from wesperon.testing import Press, Scripted

ENTER, UP, DOWN = Press("enter"), Press("up"), Press("down")
CTRL_C, CTRL_D = Press("ctrl-c"), Press("ctrl-d")
#: To the question before, and away with the character before.
BACK, ERASE = Press("shift-tab"), Press("backspace")


def ask(declared: Any, *keys: Any, asking: str = "missing", words: tuple[str, ...] = (), **size: int) -> Any:
    """Return the value of one slot as the keys answer it, and the driver."""
    form: Any = type("OneValue", (Form,), {"value": declared})
    driver = Scripted(keys, **size)
    try:
        return form.fill(words, asking=asking, driver=driver).value, driver
    except KeyboardInterrupt:
        return KeyboardInterrupt, driver


def typed(*texts: str) -> list[Any]:
    """Return the keys that type each text and accept it."""
    return [key for text in texts for key in [*map(Press, text), ENTER]]


def console(opened: Console, *lines: str) -> Scripted:
    """Run lines in a console. Return its driver, with what was shown."""
    driver = Scripted([part for line in lines for part in (line, ENTER)])
    opened.driver = driver
    opened.run()
    return driver


def asked(*names: str) -> Callable[[str], str]:
    """Return what gives, of the names that are kept, those of slots that are asked for."""
    return lambda name: name if name in names else ""
