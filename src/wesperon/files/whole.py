"""Files that are written whole or not at all."""

from __future__ import annotations

import os
import stat


def write_whole(path: str, data: bytes, *, appends: bool = False) -> None:
    """Write ``data`` to a file, after what is in it if ``appends``; raises OSError, and then it is as it was.

    What is no regular file, such as a pipe or a terminal, is written to as it is. A link is followed.
    """
    target = os.path.realpath(path)
    try:
        found = os.stat(target)
    except FileNotFoundError:
        mode, before = None, b""
    else:
        if stat.S_ISDIR(found.st_mode):
            raise IsADirectoryError(21, os.strerror(21), path)
        if not stat.S_ISREG(found.st_mode):
            with open(target, "wb", buffering=0) as special:
                special.write(data)
            return
        mode = stat.S_IMODE(found.st_mode)
        before = b""
        with open(target, "rb" if appends else "ab") as file:  # also where nothing is read: it must be writable
            before = file.read() if appends else b""
        # A new file in the place of the old one asks for rights on the folder only: those of the file count too.
        if not os.access(target, os.W_OK):
            raise PermissionError(13, os.strerror(13), path)
    made = f"{target}.{os.urandom(8).hex()}.new"
    handle = os.open(made, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o666 if mode is None else 0o600)
    try:
        with open(handle, "wb") as file:
            file.write(before + data)
            file.flush()
            os.fsync(file.fileno())
        if mode is not None:
            os.chmod(made, mode)
        os.replace(made, target)
    except BaseException:
        os.unlink(made)
        raise
