"""Values together: what the rules and the ``check`` of a form say of them, once each of them is right by itself."""

from __future__ import annotations

from contextvars import ContextVar

from wesperon.frozen import later
from wesperon.text.hushing import Traces, hidden
from wesperon.text.messages import tell
from wesperon.text.spelling import suggestion
from wesperon.values import MISSING, Complaint, DeclarationError
from wesperon.values.calls import refuse_result
from wesperon.values.records import Record, slots_of
from wesperon.values.secrets import declared_texts, secrets_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    from wesperon.values import rules
else:
    rules = later("wesperon.values.rules")


class Asked:
    """What was asked on the way, in the checks of one filling: the answers to questions, and the values they were for.

    ``values`` are those that are checked now.
    """

    def __init__(self) -> None:
        self.values: Mapping[str, Any] = {}
        self.answers: list[tuple[object, Mapping[str, Any], Any]] = []

    def find(self, question: object) -> Any:
        """Return the answer to a question that was asked for the same values; MISSING if it was not."""
        found = [answer for asked, values, answer in self.answers if asked == question and values == self.values]
        return found[0] if found else MISSING

    def keep(self, question: object, answer: Any) -> None:
        """Keep the answer to a question."""
        self.answers.append((question, self.values, answer))


#: What was asked on the way in the check that runs now; None while none does.
ASKED: ContextVar[Asked | None] = ContextVar("asked", default=None)


def complaint_together(record: Record, asked: Asked | None = None) -> Complaint | None:
    """Return what the rules and the ``check`` of its class say is wrong with a record, without any of its secrets.

    Return None if nothing is. ``asked`` is what the checks before of the same filling have asked.

    The ``slot`` of the complaint is a tuple of names, which may be empty. Other errors than Complaint and ValueError
    are those of the program. Raises DeclarationError if a slot is named that there is not.
    """
    form = type(record)
    if any(slot.rules for slot in slots_of(form).values()) and (broken := rules.broken_of(record)):
        return Complaint(broken[0], None, broken[1])
    if form.check is Record.check:
        return None
    check: Callable[[], Any] = form.check.__get__(record)
    asked = asked or Asked()
    asked.values = {name: record.__dict__[name] for name in slots_of(form)}
    within = ASKED.set(asked)
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
    finally:
        ASKED.reset(within)
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
