"""Threads that print while contexts with streams of their own come and go; no terminal is needed."""

from __future__ import annotations

import io
import threading
import time

from wesperon import Context, Form, slot


class Count(Form):
    """One number."""

    a = slot(int)


if __name__ == "__main__":
    end = time.monotonic() + 1.5

    def work() -> None:
        """Print a line in two parts, again and again."""
        while time.monotonic() < end:
            print("a", "b")

    threads = [threading.Thread(target=work) for _ in range(3)]
    for thread in threads:
        thread.start()
    while time.monotonic() < end:
        Count.fill(["--a=1"], context=Context(stdout=io.StringIO()))
    for thread in threads:
        thread.join()
