"""A shell asks, on Tab, which words may come next: nothing but the answer leaves the process, and it ends there.

The program runs up to the first place where it reads its words. What it prints until then would fall into the user's
command line, and what it reads would wait there, so its streams lead nowhere; the answer has a descriptor of its own.
"""

from __future__ import annotations

import os
import sys

from wesperon.context import current

#: Where the answer goes; -1 as long as no shell asks this process.
_answers_to = -1


def begin() -> None:
    """Lead the streams of the process nowhere, but for the answer."""
    global _answers_to
    try:
        _answers_to = os.dup(1)
        nowhere = os.open(os.devnull, os.O_RDWR)
    except OSError:  # there is no standard output: nobody waits for an answer
        return
    for number in (0, 1, 2):
        os.dup2(nowhere, number)
    os.close(nowhere)


def end(text: str = "") -> None:
    """Give the answer, and end the process: nothing of the program is to run, whatever it does about errors.

    Raises SystemExit in a context that is asked for itself, as in a test.
    """
    if _answers_to < 0:
        context = current()
        print(text, end="", file=context.stdout)
        context.flush()
        raise SystemExit(0)
    data = text.encode(errors="backslashreplace")
    try:
        while data:
            data = data[os.write(_answers_to, data) :]
    except OSError:  # the shell has given up
        pass
    sys.stdout = sys.stderr = None
    os._exit(0)
