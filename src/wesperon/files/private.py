"""Files of one user: histories and saved answers, which nobody else may read, plant or redirect.

Files are 0600 and folders 0700 whatever the umask is (POSIX, File Permission Bits). In a folder that others can write
to, a symbolic link that belongs to another user is not followed, and a file that others may write to is not used. What
is replaced is written beside its place under a name that nobody can foresee, and then takes the place at once.
"""

from __future__ import annotations

import errno
import os
import stat

#: How files are opened on systems where it matters: not for other programs, and with line ends as they are.
PLAIN = getattr(os, "O_CLOEXEC", 0) | getattr(os, "O_BINARY", 0) | getattr(os, "O_NONBLOCK", 0)
NO_LINKS = getattr(os, "O_NOFOLLOW", 0)
#: The permissions of a file and of a folder that are the user's alone.
FILE_MODE, FOLDER_MODE = 0o600, 0o700
#: The permissions of everybody but the owner; those to write.
OTHERS, OTHERS_WRITE = 0o077, 0o022


def make_folder(path: str) -> None:
    """Make a folder, and those above it that are missing, for the user alone; raises OSError."""
    path = os.path.abspath(path)
    if _is_somebody_elses_link(path):
        raise PermissionError(errno.EPERM, "it is a link of another user", path)
    if os.path.isdir(path):
        return
    parent = os.path.dirname(path)
    if parent != path:
        make_folder(parent)
    try:
        os.mkdir(path, FOLDER_MODE)
        os.chmod(path, FOLDER_MODE)  # a umask can have taken permissions of the owner away
    except FileExistsError:
        if not os.path.isdir(path):
            raise


def make_own_folder(path: str) -> None:
    """Make a folder that only this library uses, and have it be the user's alone if it is there already."""
    make_folder(path)
    found = os.stat(path)
    if hasattr(os, "geteuid"):
        if found.st_uid != os.geteuid():
            raise PermissionError(errno.EPERM, "it belongs to another user", path)
        if stat.S_IMODE(found.st_mode) & OTHERS:
            os.chmod(path, FOLDER_MODE)


def open_private(path: str, flags: int) -> int:
    """Open a file of the user's alone, which is made if the flags say so; a descriptor. Raises OSError.

    A file that others may read is closed to them. Only a regular file is opened, and for writing none that belongs to
    somebody else or that others may write to.
    """
    handle = os.open(_resolved(path), flags | PLAIN | NO_LINKS, FILE_MODE)
    try:
        found = os.fstat(handle)
        if not stat.S_ISREG(found.st_mode):
            raise OSError(errno.EINVAL, "it is not a regular file", path)
        if hasattr(os, "geteuid"):
            writes = flags & (os.O_WRONLY | os.O_RDWR)
            if found.st_uid != os.geteuid():
                if writes:
                    raise PermissionError(errno.EPERM, "it belongs to another user", path)
            elif writes and stat.S_IMODE(found.st_mode) & OTHERS_WRITE:
                raise PermissionError(errno.EPERM, "other users may write to it: chmod 600 ends that", path)
            elif stat.S_IMODE(found.st_mode) & OTHERS or (flags & os.O_CREAT and not found.st_mode & stat.S_IWUSR):
                os.fchmod(handle, FILE_MODE)
    except BaseException:
        os.close(handle)
        raise
    return handle


def read_private(path: str) -> bytes:
    """Return the bytes of a file; raises OSError, also for what is no regular file."""
    with open(open_private(path, os.O_RDONLY), "rb") as file:
        return file.read()


def replace_private(path: str, data: bytes) -> None:
    """Replace the bytes of a file at once: it is the old one or the new one. Raises OSError."""
    os.close(create_private(path, data, to_disk=True))


def create_private(path: str, data: bytes, *, to_disk: bool = False) -> int:
    """Do the same, and leave the file open, so that more can be added; a descriptor. Raises OSError.

    ``to_disk``: it is on the disk when that is done.
    """
    path = _resolved(path)
    new = f"{path}.{os.urandom(8).hex()}.new"
    handle = os.open(new, os.O_WRONLY | os.O_CREAT | os.O_EXCL | os.O_APPEND | PLAIN | NO_LINKS, FILE_MODE)
    try:
        if hasattr(os, "fchmod"):
            os.fchmod(handle, FILE_MODE)
        write_all(handle, data)
        if to_disk:
            os.fsync(handle)
        os.replace(new, path)
    except BaseException:
        os.close(handle)
        try:
            os.unlink(new)
        except OSError:  # the error under way says more
            pass
        raise
    return handle


def write_all(handle: int, data: bytes) -> None:
    """Write all of this; raises OSError."""
    while (written := os.write(handle, data)) < len(data):
        data = data[written:]


def try_lock(handle: int) -> bool:
    """Take the lock of an open file if nobody has it. Return True if it is ours. Closing the file lets go of it."""
    try:
        import fcntl
    except ImportError:  # on Windows
        import msvcrt

        os.lseek(handle, 0, os.SEEK_SET)
        try:
            msvcrt.locking(handle, msvcrt.LK_NBLCK, 1)  # type: ignore[attr-defined]
        except OSError:  # somebody has it
            return False
        return True
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError as error:
        if error.errno in (errno.EWOULDBLOCK, errno.EACCES, errno.EAGAIN):
            return False
        raise
    return True


def _resolved(path: str) -> str:
    """Return the path that links of the user's own lead to; raises OSError at a link of somebody else."""
    path = os.path.abspath(path)
    if not os.path.islink(path):
        return path
    if _is_somebody_elses_link(path):
        raise PermissionError(errno.EPERM, "it is a link of another user", path)
    return os.path.realpath(path)


def _is_somebody_elses_link(path: str) -> bool:
    try:
        found = os.lstat(path)
    except OSError:  # nothing is there yet, so it is nobody's link
        return False
    is_link = stat.S_ISLNK(found.st_mode)
    return is_link and hasattr(os, "geteuid") and found.st_uid not in (os.geteuid(), 0)
