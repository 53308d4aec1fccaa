"""Whether a path leads where a slot wants it to."""

from __future__ import annotations

from wesperon.ground import Complaint, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from pathlib import Path


def check_exists(path: Path, wanted: str) -> None:
    """Check what a path leads to; raises Complaint. ``wanted`` is ``file``, ``folder``, ``either`` or ``nothing``."""
    shown = quoted(str(path))
    try:
        is_folder, exists = path.is_dir(), path.exists() or path.is_symlink()
        is_file = path.is_file() or (exists and not is_folder)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or tell("no file can be called so")
        raise Complaint(tell("{shown} cannot be looked at: {why}", shown=shown, why=why)) from None
    if wanted == "nothing":
        if exists:
            raise Complaint(tell("{shown} exists already: a path where nothing is yet is wanted", shown=shown))
    elif not exists:
        if wanted == "either":
            raise Complaint(tell("there is no file or folder {shown}", shown=shown))
        raise Complaint(
            tell("there is no file {shown}" if wanted == "file" else "there is no folder {shown}", shown=shown)
        )
    elif wanted == "file" and not is_file:
        raise Complaint(tell("{shown} is a folder: a file is wanted", shown=shown))
    elif wanted == "folder" and not is_folder:
        raise Complaint(tell("{shown} is a file: a folder is wanted", shown=shown))
