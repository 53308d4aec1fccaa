"""Values together: what the rules and the ``check`` of a form say of them, once each of them is right by itself."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.text.hushing import Traces, hidden
from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.values import Complaint, DeclarationError
from wesperon.values.calls import refuse_result
from wesperon.values.records import Record, slots_of
from wesperon.values.secrets import declared_texts, secrets_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.values import rules
else:
    rules = later("wesperon.values.rules")


def complaint_together(record: Record) -> Complaint | None:
    """Return what the rules and the ``check`` of its class say is wrong with a record, without any of its secrets.

    Return None if nothing is.

    The ``slot`` of the complaint is a tuple of names, which may be empty. Other errors than Complaint and ValueError
    are those of the program. Raises DeclarationError if a slot is named that there is not.
    """
    form = type(record)
    if any(slot.rules for slot in slots_of(form).values()) and (broken := rules.broken_of(record)):
        return Complaint(broken[0], None, broken[1])
    if form.check is Record.check:
        return None
    check: Callable[[], Any] = form.check.__get__(record)
    try:
        said = check()
    except ValueError as error:
        reason = error.reason if isinstance(error, Complaint) else str(error)
        position = getattr(error, "position", None)
        named = getattr(error, "slot", None) or ()
    else:
        if said is not None:
            raise refuse_result(said, f"{form.__name__}.check()", "Complaint")
        return None
    names = (named,) if isinstance(named, str) else tuple(named)
    for name in names:
        if name not in slots_of(form):
            near = suggestion(str(name), slots_of(form), declared=True)
            raise DeclarationError(f"{form.__name__}.check() names {name!r}, which is no slot{near}")
    if any(slot.secret for slot in slots_of(form).values()):
        reason = hidden(reason, Traces(secrets_of(record)), kept=declared_texts(slots_of(form).values()))
    return Complaint(reason or tell("these values do not go together"), position, names)


def checked_by(check: Callable[..., object]) -> Callable[[Record], object]:
    """Return the method ``check`` of a form that a function does."""

    def checked(self: Record) -> object:
        return check(self)

    return checked
