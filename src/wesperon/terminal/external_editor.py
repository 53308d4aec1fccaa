"""Another program on the terminal in between: the user's own editor."""

from __future__ import annotations

import os
import shutil
import signal
import subprocess
import tempfile

from wesperon.context import current
from wesperon.values import Complaint, quoted, tell
from wesperon.values.words import split_words

#: What is taken where neither VISUAL nor EDITOR says anything: the one editor that POSIX requires.
STANDARD = "vi"
#: Endings of files that are not called like their language.
ENDINGS = {"python": ".py", "bash": ".sh", "markdown": ".md", "javascript": ".js", "yaml": ".yml"}


def edited(text: str, syntax: object, terminal: int) -> str:
    """Return the text as the editor leaves it that VISUAL or EDITOR names, which has the terminal to itself.

    ``syntax`` gives the file its ending, ``terminal`` is the descriptor for the editor, -1 for its own. Raises
    Complaint if there is no such program or it fails; the text is as it was then.
    """
    environ = current().environ
    line = environ.get("VISUAL") or environ.get("EDITOR") or STANDARD
    words = [word for word, _ in split_words(line)]
    if not words or shutil.which(words[0]) is None:
        raise Complaint(tell("there is no program {line}: set VISUAL or EDITOR to an editor", line=quoted(line)))
    ending = ENDINGS.get(syntax, f".{syntax}") if isinstance(syntax, str) and syntax.isalnum() else ".txt"
    handle, path = tempfile.mkstemp(suffix=ending, prefix="wesperon-")
    try:
        with os.fdopen(handle, "w", encoding="utf-8", errors="surrogatepass", newline="") as file:
            file.write(text + "\n" if text and not text.endswith("\n") else text)
        status = _run([*words, path], terminal if terminal >= 0 else None)
        if status:
            raise Complaint(
                tell("{line} ended with status {status}: the text is unchanged", line=quoted(line), status=status)
            )
        with open(path, encoding="utf-8", errors="replace", newline="") as file:
            became = file.read().replace("\r\n", "\n")
    except OSError as error:
        raise Complaint(
            tell("{line} could not edit the text: {strerror}", line=quoted(line), strerror=error.strerror)
        ) from None
    finally:
        for left in (path, path + "~"):
            if os.path.exists(left):
                os.unlink(left)
    return became.removesuffix("\n")


def _run(words: list[str], terminal: int | None) -> int:
    """Run a program to its end, on this terminal; signals of the keyboard are its own meanwhile."""
    before = {}
    try:
        for number in (signal.SIGINT, getattr(signal, "SIGQUIT", signal.SIGINT)):
            # A handler, not SIG_IGN: what is ignored stays ignored in the program that is run (POSIX, exec).
            before[number] = signal.signal(number, lambda number, frame: None)
    except ValueError:  # not in the main thread, if no signal arrives
        pass
    try:
        return subprocess.call(words, stdin=terminal, stdout=terminal, stderr=terminal)
    finally:
        for number, handler in before.items():
            signal.signal(number, handler)
