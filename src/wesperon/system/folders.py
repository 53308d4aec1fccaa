"""What is in a folder."""

from __future__ import annotations

import os


def entries(folder: str | os.PathLike[str]) -> list[tuple[str, bool]]:
    """Return the names in a ``folder``, each with whether it is a folder, or a link to one.

    Raises OSError if it cannot be read, or has no possible name.
    """
    try:
        with os.scandir(folder) as found:
            return [(one.name, _is_folder(one)) for one in found]
    except ValueError as error:  # there is a NUL in the name
        raise OSError(str(error)) from None


def _is_folder(entry: os.DirEntry[str]) -> bool:
    try:
        return entry.is_dir()
    except OSError:  # a link that leads back to itself, or to where nobody may look
        return False
