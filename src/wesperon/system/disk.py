"""What is on the disk, as the context of the process has it (``Context.files``)."""

from __future__ import annotations

import errno
import os
import stat

TYPE_CHECKING = False
if TYPE_CHECKING:
    from os import PathLike

#: Errors that mean that a path leads nowhere, as :mod:`pathlib` has it.
NOWHERE = (errno.ENOENT, errno.ENOTDIR, errno.EBADF, errno.ELOOP)


def look(path: PathLike[str]) -> str:
    """Return what a path leads to: ``"folder"``, ``"file"`` (whatever else there is, a broken link too), or nothing.

    Raises OSError if that cannot be found out, and ValueError for a name that no file can have.
    """
    try:
        return "folder" if stat.S_ISDIR(os.stat(path).st_mode) else "file"
    except OSError as error:
        if error.errno not in NOWHERE:
            raise
    return "file" if os.path.islink(path) else ""
