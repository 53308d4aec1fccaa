"""The folders of the user: where settings, preferences, histories and saved answers of a program are.

The XDG Base Directory Specification holds on POSIX systems; elsewhere platformdirs says where the folders are.
"""

from __future__ import annotations

import os
import sys

from wesperon.context import current

#: The folder that all programs share.
SHARED = "wesperon"
#: The name of the file that says what a user prefers.
PREFERENCES = "preferences.toml"
#: The folder, below that of a program's state, of what runs have left that were not finished.
UNFINISHED = "unfinished"
#: Kind of folder to its variable and its default (XDG Base Directory Specification).
XDG = {"config": ("XDG_CONFIG_HOME", "~/.config"), "state": ("XDG_STATE_HOME", "~/.local/state")}


def folder(kind: str, program: str) -> str:
    """Return the folder of a program; ``kind`` is ``config`` or ``state``. It may not exist yet."""
    name = file_name(program)
    if sys.platform in ("win32", "darwin"):
        import platformdirs

        find = platformdirs.user_config_dir if kind == "config" else platformdirs.user_state_dir
        return find(name, appauthor=False)
    variable, default = XDG[kind]
    environ = current().environ
    base = environ.get(variable, "")
    if not os.path.isabs(base):  # the specification ignores relative paths
        home = environ.get("HOME", "")
        base = os.path.join(home if os.path.isabs(home) else _home_of_user(), default[2:])
    return os.path.join(base, name)


def _home_of_user() -> str:
    """Return the folder that the system has for the user, where the environment names none that can be used."""
    try:
        import pwd

        return pwd.getpwuid(os.getuid()).pw_dir
    except (ImportError, KeyError):
        return os.path.expanduser("~")


def file_name(program: str) -> str:
    """Return the name of a program as the name of a folder."""
    return program.replace(os.sep, "-").replace("\0", "").strip(".") or "program"


def preference_path(program: str) -> str:
    """Return the path of a program's file of preferences; of the one for all programs, without a name."""
    return os.path.join(folder("config", program or SHARED), PREFERENCES)


def preference_files(program: str) -> list[str]:
    """Return the files of preferences that there are, that for all programs first."""
    files = [preference_path(name) for name in dict.fromkeys((SHARED, program or SHARED))]
    return [file for file in files if os.path.exists(file)]
