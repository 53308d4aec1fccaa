"""A desk calculator with a small language of its own, on a console that stays open.

    a = 2 * (3 + 4)            a name
    area(r) = pi * r ^ 2       a function of its own
    area(a)                    what comes to a number is printed; ``last`` is that number

An open bracket goes on in the next line. What is wrong comes back into the line, with the cursor at the fault.
"""

from __future__ import annotations

import math
import re
import sys
from collections.abc import Callable

from wesperon import Complaint, Console

TOKEN = re.compile(r"\s*(?:(\d+(?:\.\d*)?|\.\d+)|([^\W\d]\w*)|(.))", re.DOTALL)
FUNCTIONS: dict[str, Callable[..., float]] = {"sqrt": math.sqrt, "sin": math.sin, "cos": math.cos, "max": max}
Operation = Callable[[float, float], float]
ADD: dict[str, Operation] = {"+": lambda a, b: a + b, "-": lambda a, b: a - b}
MULTIPLY: dict[str, Operation] = {"*": lambda a, b: a * b, "/": lambda a, b: a / b}


class Calculator:
    """Names with their values, functions with their parameters and terms."""

    def __init__(self) -> None:
        self.names: dict[str, float] = {"pi": math.pi, "e": math.e, "last": 0.0}
        self.own: dict[str, tuple[list[str], str]] = {}

    def evaluate(self, text: str) -> str | None:
        """The value of a text as it is printed; None for a definition."""
        made = re.match(r"\s*([^\W\d]\w*)\s*(?:\(([\w\s,]*)\))?\s*=", text)
        if made is None:
            self.names["last"] = Reader(self, text, self.names).whole()
            return f"{self.names['last']:.12g}"
        name, parameters = made[1], made[2]
        if parameters is None:
            self.names[name] = Reader(self, text, self.names, made.end()).whole()
            return None
        names = [one.strip() for one in parameters.split(",")]
        Reader(self, text, {**self.names, **dict.fromkeys(names, 1.0)}, made.end()).whole()  # said now, not when called
        self.own[name] = (names, text[made.end() :])
        return None

    def call(self, name: str, values: list[float], at: int) -> float:
        """The value of a function, whose name is at an offset."""
        try:
            if name in self.own:
                names, term = self.own[name]
                if len(values) != len(names):
                    raise Complaint(f"{name} takes {len(names)} values, got {len(values)}", at)
                return Reader(self, term, {**self.names, **dict(zip(names, values, strict=True))}).whole()
            return float(FUNCTIONS[name](*values))
        except KeyError:
            raise Complaint(f"there is no function {name}", at) from None
        except Complaint:
            raise
        except (ValueError, TypeError, OverflowError, RecursionError) as error:
            raise Complaint(f"{name}: {error}", at) from None

    def complete(self, text: str, cursor: int) -> tuple[int, list[str]]:
        """The names that the one before the cursor may become."""
        begun = re.search(r"\w*$", text[:cursor])
        start = begun.start() if begun else cursor
        functions = [f"{name}(" for name in (*FUNCTIONS, *self.own)]
        return start, [name for name in sorted([*self.names, *functions]) if name.startswith(text[start:cursor])]


class Reader:
    """Reads one term from the left to the right, and computes it on the way."""

    def __init__(self, calculator: Calculator, text: str, names: dict[str, float], at: int = 0) -> None:
        self.calculator, self.text, self.names, self.end = calculator, text, names, at
        self.number: str | None = None
        self.name: str | None = None
        self.sign: str | None = None
        self.step()

    def step(self) -> None:
        """Go on to the next token."""
        found = TOKEN.match(self.text, self.end)
        self.number, self.name, self.sign = found.groups() if found else (None, None, None)
        self.at, self.end = (
            (found.start(found.lastindex or 0), found.end()) if found else (len(self.text.rstrip()),) * 2
        )
        if self.sign is not None and self.sign.isspace():
            self.sign = None

    def whole(self) -> float:
        """The value of all that is left."""
        value = self.series(ADD, lambda: self.series(MULTIPLY, self.power))
        if self.sign or self.name or self.number:
            raise Complaint("an operator is missing here, such as * or +", self.at)
        return value

    def series(self, operations: dict[str, Operation], part: Callable[[], float]) -> float:
        """Parts with operators of one strength between them."""
        value = part()
        while self.sign in operations:
            operation, at = operations[self.sign], self.at
            self.step()
            try:
                value = operation(value, part())
            except ZeroDivisionError:
                raise Complaint("this divides by zero", at) from None
        return value

    def power(self) -> float:
        """A sign, a power, or one value."""
        if self.sign == "-":
            self.step()
            return -self.power()
        value, at = self.one(), self.at
        if self.sign != "^":
            return value
        self.step()
        try:
            return math.pow(value, self.power())
        except (OverflowError, ValueError):
            raise Complaint("this power is no number, or too large", at) from None

    def one(self) -> float:
        """A number, a name, a call, or a term in brackets."""
        number, name, sign, at = self.number, self.name, self.sign, self.at
        self.step()
        if number:
            return float(number)
        if name and self.sign == "(":
            return self.calculator.call(name, self.inside(","), at)
        if name and name in self.names:
            return self.names[name]
        if name:
            raise Complaint(f"{name} has no value yet: write {name} = ... first", at)
        if sign == "(":
            self.end = at
            self.step()
            return self.inside("")[0]
        raise Complaint("a number, a name or a bracket is missing here", at)

    def inside(self, comma: str) -> list[float]:
        """The terms between two brackets."""
        opened = self.at
        values: list[float] = []
        while not values or self.sign == (comma or None):
            self.step()
            values.append(self.series(ADD, lambda: self.series(MULTIPLY, self.power)))
        if self.sign != ")":
            raise Complaint("this bracket is never closed", opened)
        self.step()
        return values


if __name__ == "__main__":
    calculator = Calculator()
    console = Console(
        evaluate=calculator.evaluate,
        name="calc",
        history=False,
        whole=lambda text: text.count("(") <= text.count(")"),
        complete=calculator.complete,
    )
    sys.exit(console.run())
