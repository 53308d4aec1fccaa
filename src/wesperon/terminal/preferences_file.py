"""Writing what a user prefers: values of ``preferences.toml`` are changed or added, everything else stays as it is."""

from __future__ import annotations

from wesperon.files.toml_change import in_quotes, set_value
from wesperon.text.escape import visible
from wesperon.user_folders import preference_path
from wesperon.values import Complaint, tell
from wesperon.widgets.preferences import SWITCHES, value_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping


def write_preferences(program: str, values: Mapping[str, str]) -> list[str]:
    """Keep preferences for a program, or for all of them without a name. Return what went wrong, in lines."""
    path = preference_path(program)
    try:
        for name, said in values.items():
            set_value(path, (name,), as_toml(name, said))
    except (OSError, Complaint) as error:
        reason = error.reason if isinstance(error, Complaint) else error.strerror or str(error)
        return [visible(tell("{path} is not written: {reason}", path=path, reason=reason))]
    return []


def as_toml(name: str, said: str) -> str:
    """Return the value of a preference as a file has it."""
    if name in SWITCHES:
        return "true" if value_of(name, said) == "yes" else "false"
    return in_quotes(said)
