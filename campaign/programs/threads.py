"""Three threads that ask at once; each prints what it got: ``threads.py [console]``."""

from __future__ import annotations

import sys
import threading
from functools import partial
from typing import Any

from campaign.programs import noise
from wesperon import Command, Console, Form, Program, slot


class Say(Command):
    """Say a text."""

    text = slot()

    def run(self) -> str:
        """Give it back."""
        return f"said {self.text!r}"


def ask(name: str) -> None:
    """Ask one question."""
    form: type[Any] = type("Note", (Form,), {"note": slot(ask=f"Thread {name}")})
    print(f"{name} got", ascii(form.fill([], resume=False).note), flush=True)


def main() -> None:
    """Begin the threads, and wait for them."""
    threads = [threading.Thread(target=noise.tidy, args=(partial(ask, name),)) for name in "abc"]
    for thread in threads:
        thread.start()
    if "console" in sys.argv:
        Console(Program("desk", members=[Say]), history=False).run()
    for thread in threads:
        thread.join()


if __name__ == "__main__":
    noise.tidy(main)
