"""Files that come with a package, wherever it was loaded from: a folder, a zip file, a frozen program.

A folder is the usual case, and read without ``importlib.resources``, which takes its time to load.
"""

from __future__ import annotations

import atexit
import contextlib
import os
import sys
from importlib.resources import as_file, files

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


def read_file(package: str, *names: str) -> bytes:
    """Return the bytes of a file of a package; ``names`` lead to it. Raises OSError if it is not there."""
    path = _in_folder(package, names)
    if os.path.exists(path):
        with open(path, "rb") as file:
            return file.read()
    return bytes(_resource(package, names).read_bytes())


def path_of(package: str, *names: str) -> str:
    """Return the path of a file of a package, which is a copy until the process ends if it is in no folder.

    Raises OSError if it is not there.
    """
    path = _in_folder(package, names)
    if os.path.exists(path):
        return path
    kept = contextlib.ExitStack()
    atexit.register(kept.close)
    return str(kept.enter_context(as_file(_resource(package, names))))


def names_in(package: str) -> list[str]:
    """Return the names of what is in a package; none if that cannot be told."""
    try:
        return sorted(entry.name for entry in _resource(package, ()).iterdir())
    except OSError:  # a package in an archive may have no such folder
        return []


def _in_folder(package: str, names: tuple[str, ...]) -> str:
    """Return where the file is if the package is in a folder; empty if it is in none."""
    here = getattr(sys.modules.get(package) or __import__(package, fromlist=["_"]), "__file__", None)
    return os.path.join(os.path.dirname(here), *names) if here else ""


def _resource(package: str, names: tuple[str, ...]) -> Any:
    try:
        found = files(package)
        for name in names:
            found = found.joinpath(name)
    except Exception as error:  # a loader that knows of no files
        raise FileNotFoundError(f"{package} has no files: {error}") from error
    return found
