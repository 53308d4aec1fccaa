"""A screen where nobody can be asked: which of its fields lack a value."""

from __future__ import annotations

from wesperon.screens.field import Field
from wesperon.text.messages import tell
from wesperon.values.problems import Problem

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.widgets.parts.part import Part


def problems_of(content: Part) -> list[Problem]:
    """Return a problem for each field that has no value."""
    return [
        Problem(
            f"{part.label}: " + tell("is missing: must be {wanted}", wanted=part.slot.kind.wants),
            part.slot.name or None,
            None,
            missing=True,
        )
        for part in content.leaves()
        if isinstance(part, Field) and not part.has_value
    ]
