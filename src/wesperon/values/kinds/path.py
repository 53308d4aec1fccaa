"""Paths of the file system, and what they must lead to."""

from __future__ import annotations

from wesperon.context import current
from wesperon.values import Complaint, Generic, T, quoted, tell
from wesperon.values.kind import Kind

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

#: What ``exists`` may say of a path, and how it is put into words.
EXISTS = {
    "file": "a file that exists",
    "folder": "a folder that exists",
    "either": "a file or folder that exists",
    "nothing": "a path that does not exist yet",
    "parent": "a path in a folder that exists",
}


class PathKind(Kind[T], Generic[T]):
    """Paths of the file system, taken as they are written."""

    wanted = "a path"
    example = "plans/tonight.toml"
    placeholder = "PATH"
    completion = "paths"
    question = "path"
    leads_somewhere = True
    strips = False  # a file may be called so
    keeps_blanks = True

    def __init__(self, made: type[T], exists: str | None = None) -> None:
        self.made = made
        self.exists = exists
        self.wanted = EXISTS.get(exists or "", "a path")

    def parse(self, text: str) -> T:
        """Return the path; raises Complaint for a text that no path can be."""
        if "\0" in text:
            raise Complaint(
                tell("{text} is not a path: it holds a null character", text=quoted(text)), text.index("\0")
            )
        return self._checked(self.made(text))  # type: ignore[call-arg]

    def format(self, value: T) -> str:
        """Return the path as it is written."""
        return str(value)

    def validate(self, value: Any) -> T:
        """Return the path itself; raises Complaint for anything else."""
        if hasattr(value, "__fspath__") and isinstance(value, self.made):
            return self._checked(value)
        raise self.refused(value)

    def anywhere(self) -> PathKind[T]:
        """Return the same kind for paths that may lead nowhere."""
        return PathKind(self.made)

    def _checked(self, path: Any) -> T:
        """Return the path, if it leads where it must."""
        if self.exists is not None:
            check_exists(path, self.exists)
        return path  # type: ignore[no-any-return]


class WrittenPath(PathKind[str]):
    """Paths as they are written, as texts: :mod:`pathlib` costs a start 36 million instructions."""

    def __init__(self, exists: str | None = None) -> None:
        super().__init__(_written, exists)  # type: ignore[arg-type]

    def anywhere(self) -> WrittenPath:
        """See ``PathKind``."""
        return WrittenPath()

    def validate(self, value: Any) -> str:
        """Return the text itself; raises Complaint for anything else."""
        if isinstance(value, str):
            return self._checked(value)
        raise self.refused(value)


def _written(text: str) -> str:
    """Return a path as it is shown: the folder that it begins in goes without saying, as in :mod:`pathlib`."""
    while text.startswith("./") and len(text) > 2:
        text = text[2:].lstrip("/")
    return text


def make(given: type[T], settings: Mapping[str, Any]) -> PathKind[T]:
    """Return the kind of a class of :mod:`pathlib`."""
    return PathKind(given, settings.get("exists"))


def check_exists(path: Any, wanted: str) -> None:
    """Check what a path leads to, by the files of the context; raises Complaint. ``wanted`` is a key of ``EXISTS``."""
    if wanted == "parent":
        path, wanted = path.parent, "folder"
    shown = quoted(str(path))
    try:
        found: str = current().files.look(path)
    except (OSError, ValueError) as error:
        why = getattr(error, "strerror", None) or tell("it is not a valid file name")
        raise Complaint(tell("{shown} cannot be checked: {why}", shown=shown, why=why)) from None
    if wanted == "nothing":
        if found:
            raise Complaint(tell("{shown} exists already: the path must not exist yet", shown=shown))
    elif not found:
        if wanted == "either":
            raise Complaint(tell("there is no file or folder {shown}", shown=shown))
        raise Complaint(
            tell("there is no file {shown}" if wanted == "file" else "there is no folder {shown}", shown=shown)
        )
    elif wanted == "file" and found == "folder":
        raise Complaint(tell("{shown} is a folder: must be a file", shown=shown))
    elif wanted == "folder" and found == "file":
        raise Complaint(tell("{shown} is a file: must be a folder", shown=shown))
