"""Regular expressions, as :mod:`re` reads them; the value is the compiled one."""

from __future__ import annotations

import re
import warnings

from wesperon.values import Complaint, tell
from wesperon.values.kind import Kind

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

#: The flags that a text can say, with the letter of each.
FLAGS = {re.ASCII: "a", re.IGNORECASE: "i", re.MULTILINE: "m", re.DOTALL: "s", re.VERBOSE: "x"}


class PatternKind(Kind["re.Pattern[str]"]):
    """A regular expression."""

    wanted = "a regular expression"
    example = "HOLLIN-[0-9]+"
    placeholder = "PATTERN"
    strips = False

    def parse(self, text: str) -> re.Pattern[str]:
        """Return the expression; raises Complaint where it is at fault."""
        try:
            with warnings.catch_warnings(action="ignore"):  # what it may mean some day is nothing to who types it
                return re.compile(text)
        except re.error as error:
            reason = tell("is not {wanted}: {reason}", wanted=self.wants, reason=error.msg)
            raise Complaint(reason, error.pos) from None
        except (OverflowError, RecursionError) as error:
            raise Complaint(tell("is not {wanted}: {reason}", wanted=self.wants, reason=str(error))) from None

    def format(self, value: re.Pattern[str]) -> str:
        """Return the text of the expression, with the flags that it does not say itself."""
        own = self.parse(value.pattern).flags
        letters = "".join([letter for flag, letter in FLAGS.items() if value.flags & ~own & flag])
        return f"(?{letters}){value.pattern}" if letters else value.pattern

    def validate(self, value: Any) -> re.Pattern[str]:
        """Return the expression itself; raises Complaint for anything but one for texts."""
        if isinstance(value, re.Pattern) and isinstance(value.pattern, str):
            return value
        raise self.refused(value)


KIND = PatternKind()
