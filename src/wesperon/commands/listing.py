"""The members of a group as they are listed: in help, menus and completion, and for words that are cut or misspelt."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.commands.command_tree import CommandGroup


def offered(group: CommandGroup, *, inside: bool = False) -> dict[str, str]:
    """Return the words that may be cut, and that a misspelt one may be near to, each with the name that it means.

    Those of members that are not listed are left out. ``inside`` is that of :meth:`CommandGroup.named`.
    """
    members = group.inside if inside else group.members
    words = {name: name for name in members} | group.aliases_of
    return {word: name for word, name in words.items() if name in members and members[name].listed}


def summaries(group: CommandGroup, *, inside: bool = False) -> dict[str, str]:
    """Return the members that are listed, with a line about each; ``inside`` a console the default command too."""
    members = group.inside if inside else group.members
    return {name: member.summary for name, member in members.items() if member.listed}


def summaries_for(group: CommandGroup, begun: str, *, inside: bool = False) -> dict[str, str]:
    """Return the same of those whose names have ``begun`` so; if there are none, by further names that have.

    ``inside`` is that of :meth:`CommandGroup.named`.
    """
    found = {name: text for name, text in summaries(group, inside=inside).items() if name.startswith(begun)}
    members = group.inside if inside else group.members
    more = offered(group, inside=inside).items()
    return found or {word: members[name].summary for word, name in more if word.startswith(begun)}


def headings(group: CommandGroup, *, inside: bool = False) -> dict[str, dict[str, str]]:
    """Return the same by heading, those without one first, each name with the further ones after it.

    ``inside`` is that of :meth:`CommandGroup.named`.
    """
    found: dict[str, dict[str, str]] = {"": {}}
    members = group.inside if inside else group.members
    for name, text in summaries(group, inside=inside).items():
        member = members[name]
        found.setdefault(member.section, {})[", ".join((name, *member.aliases))] = text
    return found
