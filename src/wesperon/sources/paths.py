"""Whether a path leads where a slot wants it to."""

from __future__ import annotations

from wesperon.core import Complaint, quoted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from pathlib import Path


def look(path: Path, wanted: str) -> None:
    """Check what a path leads to; raises Complaint. ``wanted`` is ``file``, ``folder``, ``either`` or ``nothing``."""
    shown = quoted(str(path))
    try:
        is_folder, exists = path.is_dir(), path.exists() or path.is_symlink()
        is_file = path.is_file() or (exists and not is_folder)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or "no file can be called so"
        raise Complaint(f"{shown} cannot be looked at: {why}") from None
    if wanted == "nothing":
        if exists:
            raise Complaint(f"{shown} exists already: a path where nothing is yet is wanted")
    elif not exists:
        what = {"file": "file", "folder": "folder", "either": "file or folder"}[wanted]
        raise Complaint(f"there is no {what} {shown}")
    elif wanted == "file" and not is_file:
        raise Complaint(f"{shown} is a folder: a file is wanted")
    elif wanted == "folder" and not is_folder:
        raise Complaint(f"{shown} is a file: a folder is wanted")
