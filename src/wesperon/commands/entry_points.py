"""Commands of other packages: those that name them as entry points of a group (``members="entry-points:GROUP"``).

Looking for them reads what is known of the installed packages and imports none: each is imported when it is called. One
that cannot work is left out, and said on the page that lists the commands; one that cannot be imported says so when it
is called, and is passed over wherever all commands are gone through.
"""

from __future__ import annotations

from importlib.metadata import EntryPoint, entry_points
from importlib.util import find_spec

from wesperon.commands.command_tree import Member, is_word
from wesperon.text.escape import visible
from wesperon.values import quoted, tell
from wesperon.values.problems import Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Container, Sequence

    from wesperon.commands.command_tree import Command, CommandGroup


class PackagedMember(Member):
    """A member that another package brings along."""

    def __init__(self, point: EntryPoint) -> None:
        self.package, summary = _package_of(point)
        super().__init__((f"{point.module}:{point.attr}", visible(summary)), point.name)

    @property
    def loaded(self) -> type[Command] | CommandGroup:
        """The command or group itself; raises Refusal, which names the package, if it cannot be imported."""
        try:
            return super().loaded
        except Exception as error:
            reason = f"{type(error).__name__}: {error}"
            raise Refusal(
                tell(
                    "{name}, a command of the package {package}, cannot be loaded: {reason}",
                    name=self.name,
                    package=self.package,
                    reason=visible(reason),
                )
            ) from error


def members_in(groups: Sequence[str], taken: Container[str]) -> tuple[dict[str, Member], dict[str, str]]:
    """Return the members that packages name as entry points of some groups, and why others are left out.

    ``taken`` are the words that name members already. Both are by name, in the order of the names.
    """
    found: dict[str, Member] = {}
    left_out: dict[str, str] = {}
    points = [point for group in groups for point in entry_points(group=group)]
    for point in sorted(points, key=lambda point: (point.name.lower(), _package_of(point)[0], point.value)):
        reason = _reason_against(point, lambda name: name in taken or name in found)
        if reason:
            left_out[visible(point.name)] = reason
        else:
            found[point.name.lower()] = PackagedMember(point)
    return found, left_out


def _reason_against(point: EntryPoint, is_taken: Callable[[str], bool]) -> str:
    """Return why an entry point is no member; empty if it may be one."""
    package = _package_of(point)[0]
    if not is_word(point.name):
        return tell("of {package}: no name of a command", package=package)
    if is_taken(point.name.lower()):
        return tell("of {package}: another command has this name", package=package)
    if point.pattern.match(point.value) is None or not (point.module and point.attr):
        return tell(
            "of {package}: {value} is no place of a command, such as module:Name",
            package=package,
            value=quoted(point.value),
        )
    if not _is_there(point.module.partition(".")[0]):
        return tell("of {package}: there is no module {module}", package=package, module=point.module.partition(".")[0])
    return ""


def _is_there(module: str) -> bool:
    """Return True if there is a module of this name, without importing it."""
    try:
        return find_spec(module) is not None
    except (ImportError, ValueError):  # it is there and cannot be looked for: as if it were not
        return False


def _package_of(point: EntryPoint) -> tuple[str, str]:
    """Return the name of the package of an entry point, with its version, and what it says of itself in a line."""
    if point.dist is None:
        return "?", ""
    return visible(f"{point.dist.name} {point.dist.version}"), point.dist.metadata["Summary"] or ""
