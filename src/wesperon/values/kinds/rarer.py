"""Kinds whose types come from modules that few programs load: ``Decimal``, paths, and ``Enum`` classes."""

from __future__ import annotations

from wesperon.ground import Complaint, Generic, T, quoted, tell
from wesperon.values.kinds.builtin import Kind
from wesperon.values.kinds.number_errors import number_fault

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class DecimalKind(Kind[T], Generic[T]):
    """Decimal numbers, kept digit for digit; finite ones only."""

    wanted = "a decimal number"
    example = "2.50"
    placeholder = "NUMBER"
    bounded = "value"
    has_steps = True

    def step_by(self, value: T, units: int, unit: Any = None) -> T:
        """See ``Kind``; the unit is 1."""
        number: Any = value
        make: Any = self.made
        return number + units * make(str(1 if unit is None else unit))  # type: ignore[no-any-return]

    def __init__(self, made: type[T]) -> None:
        self.made = made

    def parse(self, text: str) -> T:
        """The number; raises Complaint."""
        make: Any = self.made
        try:
            value = make(text)
        except ArithmeticError:
            raise number_fault(self, text, fraction=True) from None
        if not value.is_finite():
            raise Complaint(
                tell("{text} is not a finite number, such as {example}", text=quoted(text), example=self.example), 0
            )
        return value  # type: ignore[no-any-return]

    def format(self, value: T) -> str:
        """The digits, as many as there are."""
        return str(value)

    def validate(self, value: Any) -> T:
        """The number itself, or a whole number made one; raises Complaint for anything else."""
        make: Any = self.made
        if isinstance(value, int) and not isinstance(value, bool):
            return make(value)  # type: ignore[no-any-return]
        if not isinstance(value, self.made):
            raise self.refused(value)
        return self.parse(str(value))


#: What ``exists`` may say of a path, and how it is put into words.
EXISTS = {
    "file": "a file that exists",
    "folder": "a folder that exists",
    "either": "a file or folder that exists",
    "nothing": "a path where nothing is yet",
}


class PathKind(Kind[T], Generic[T]):
    """Paths of the file system, taken as they are written."""

    wanted = "a path"
    example = "plans/tonight.toml"
    placeholder = "PATH"
    strips = False  # a file may be called so
    keeps_blanks = True

    def __init__(self, made: type[T], exists: str | None = None) -> None:
        self.made = made
        self.exists = exists
        self.wanted = EXISTS.get(exists or "", "a path")

    def parse(self, text: str) -> T:
        """The path; raises Complaint for a text that no path can be."""
        if "\0" in text:
            raise Complaint(
                tell("{text} is not a path: it holds a null character", text=quoted(text)), text.index("\0")
            )
        make: Any = self.made
        return make(text)  # type: ignore[no-any-return]

    def format(self, value: T) -> str:
        """The path as it is written."""
        return str(value)

    def validate(self, value: Any) -> T:
        """The path itself; raises Complaint for anything else."""
        if hasattr(value, "__fspath__") and isinstance(value, self.made):
            return value
        raise self.refused(value)


def kind_of_type(given: type, exists: str | None = None) -> Kind[Any] | None:
    """The kind that a type of another module names; None where it names none."""
    if hasattr(given, "__members__"):
        from wesperon.values.kinds.choices import Choices, OneOf

        return OneOf(Choices(list(given)))  # type: ignore[call-overload]
    if given.__name__ == "Decimal" and given.__module__ in ("decimal", "_decimal", "_pydecimal"):
        return DecimalKind(given)
    if given.__module__.partition(".")[0] == "pathlib":
        return PathKind(given, exists)
    return None
