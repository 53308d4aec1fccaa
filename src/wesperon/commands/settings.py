"""The settings file of a program, as the program itself writes it."""

from __future__ import annotations

from wesperon.commands.pages import all_calls
from wesperon.files.toml_change import literal, set_value
from wesperon.sources.files import settings_path
from wesperon.sources.source import Found, value_of
from wesperon.text.escape import visible
from wesperon.text.spelling import suggestion
from wesperon.text.truncate import listed
from wesperon.values import Complaint, DeclarationError, quoted, tell
from wesperon.values.problems import Problem, Problems, Refusal
from wesperon.values.records import SETTINGS

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping
    from typing import Any

    from wesperon.commands.program import Program
    from wesperon.values.slots import Slot


#: Up to here every whole number is a float, too.
EXACT = 2.0**53


class Settings:
    """The settings file of a ``program``: ``program.settings``.

    Example:
        >>> class Options(Form):
        ...     seconds = slot(int, default=30, low=1)
        >>> desk = Program("desk", shared=Options, settings=True)
        >>> try:
        ...     desk.settings.set("seconds", 0)
        ... except Problems as problems:
        ...     print(problems.problems[0].reason)
        "0" is too low: must be at least 1

    """

    def __init__(self, program: Program) -> None:
        if program.settings_of is None:
            raise DeclarationError(f"{program.name} has no settings file: say Program({program.name!r}, settings=True)")
        self.program = program

    @property
    def path(self) -> str:
        """Where the file is, in the user's configuration folder; it may not be there yet."""
        return settings_path(self.program.settings_of or "")

    def set(self, name: str, value: Any) -> None:
        """Write one value into the file, which is made if there is none; its comments and its order stay.

        ``name`` is that of a slot, after the names of its command where several commands have such a slot
        (``"expose seconds"``, or with dots). A ``value`` that is a text is read like a word, any other must be of the
        slot's kind. Several programs may write at once. Raises Problems for a name that no slot has, and for a value
        that the slot does not take; Refusal if the file cannot be written, or changed without harm.
        """
        path, slot = self._slot(name)
        if slot.secret:
            reason = tell("is a secret, and is not written to a file")
            raise Problems([Problem(reason, slot.name, SETTINGS)])
        try:
            data = _data(slot, value)
        except Complaint as complaint:
            text = value if isinstance(value, str) else None
            raise Problems([Problem(complaint.reason, slot.name, SETTINGS, text, complaint.position)]) from None
        try:
            set_value(self.path, (*path, slot.name), literal(data))
        except (OSError, ValueError) as error:
            reason = error.reason if isinstance(error, Complaint) else getattr(error, "strerror", None) or str(error)
            raise Refusal(visible(tell("{path} is not written: {reason}", path=self.path, reason=reason))) from None

    def _slot(self, name: str) -> tuple[tuple[str, ...], Slot[Any]]:
        """Return the path of the table that has a slot, and the slot; raises Problems if there is none, or several."""
        known = self._known()
        *command, last = name.replace(".", " ").split() or [""]
        asked = last.replace("-", "_")
        found = {
            path: slot
            for path, slots in known.items()
            for slot in slots.values()
            if slot.name.strip("_") == asked.strip("_") and (not command or path == tuple(command))
        }
        if not command and () in found:
            found = {(): found[()]}
        if len(found) == 1:
            return found.popitem()
        names = [" ".join([*path, slot]) for path, slots in known.items() for slot in slots]
        if found:
            names = [" ".join([*path, slot.name]) for path, slot in found.items()]
            reason = tell("{name} is ambiguous: {list}", name=quoted(name), list=listed(names))
        else:
            hint = suggestion(name, [*names, *(slot for slots in known.values() for slot in slots)])
            program = self.program.name
            reason = tell("{name} is no setting of {program}{hint}", name=quoted(name), program=program, hint=hint)
        raise Problems([Problem(reason, None, SETTINGS, name)])

    def _known(self) -> Mapping[tuple[str, ...], Mapping[str, Slot[Any]]]:
        """Return the slots of the program, its groups and its commands, by the paths of their tables."""
        known = {}
        for call in all_calls(self.program, unlisted=True):
            path, slots, _ = call.levels[-1]
            more = call.default_slots if call.command is None else {}
            known[path] = {**{slot.name: slot for slot in slots}, **more}
        return known


def _data(slot: Slot[Any], value: Any) -> Any:
    """Return a value as a file has it, such that it is read as this value; raises Complaint."""
    if value is None:
        raise Complaint(tell("is nothing, which no file of settings can say"))
    if isinstance(value, str) and slot.is_blank(value):
        raise Complaint(tell("is empty: must be {wanted}", wanted=slot.kind.wants))
    if slot.depends and isinstance(value, str):  # what is right is known when the answers before are
        return value
    value = value_of(slot, Found(value, "")) if isinstance(value, str) else slot.validate(value)
    if slot.shape.repeats and slot.shape.takes_text:
        is_plain = slot.shape.splits and slot.shape.name_of(slot) is None
        items = [_one(slot, item) for item in slot.shape.items(value)] if is_plain else []
        data: Any = items or slot.shape.texts(slot, value)
    else:
        data = _one(slot, value)
    try:
        str(data).encode()
    except UnicodeEncodeError:
        raise Complaint(tell("has a character that no file can hold")) from None
    return data


def _one(slot: Slot[Any], value: Any) -> Any:
    """Return one value, or one of several: as its own type where a file has it and reads it so, else as its text."""
    if isinstance(value, bool):
        return value
    if slot.kind.choices is None and type(value) is float and abs(value) < EXACT:
        return int(value) if value.is_integer() else value
    text = slot.format(value)
    return value if slot.kind.choices is None and type(value) is int and str(value) == text else text
