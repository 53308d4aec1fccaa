"""Small immutable records, as :mod:`dataclasses` would make them, at a hundredth of its start-up time.

And functions that remember their results, as :mod:`functools` has them, which takes as long to load.

``@frozen`` turns the annotated names of a class body into slots, in order, with a constructor that takes them by
position or by name; instances compare and hash by type and value and print themselves. A type checker treats the class
as a frozen dataclass. Methods of such a class cannot use ``super()``.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import ParamSpec, TypeVar, dataclass_transform

    C = TypeVar("C")
    P = ParamSpec("P")
    R = TypeVar("R")

    @dataclass_transform(frozen_default=True)
    def frozen(cls: type[C]) -> type[C]:
        """Make the class a frozen record."""
        ...

    def remembered(most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
        """Have a pure function of hashable arguments keep at most so many results, of calls without keywords."""
        ...

else:

    def frozen(cls):
        """Make the class a frozen record: its annotated names become slots, given once, in the constructor."""
        fields = tuple(cls.__annotations__)
        body = dict(cls.__dict__)
        defaults = tuple([body.pop(name) for name in fields if name in body])
        body.pop("__dict__", None)
        body.pop("__weakref__", None)
        body["__slots__"] = fields

        def __setattr__(self, name, value):
            raise AttributeError(f"{made.__name__}.{name} is read-only")

        def __eq__(self, other):
            if other.__class__ is not made:
                return NotImplemented
            return all(getattr(self, name) == getattr(other, name) for name in fields)

        def __hash__(self):
            return hash((made, *[getattr(self, name) for name in fields]))

        def __repr__(self):
            inside = ", ".join(f"{name}={getattr(self, name)!r}" for name in fields)
            return f"{made.__name__}({inside})"

        def __reduce__(self):
            return made, tuple([getattr(self, name) for name in fields])

        # The arguments of the constructor for this number of fields get the names of the fields.
        setters = {}
        code = CONSTRUCTORS[len(fields)].__code__
        __init__ = type(frozen)(code.replace(co_varnames=("self", *fields)), setters, "__init__", defaults)
        __init__.__qualname__ = f"{cls.__qualname__}.__init__"
        # In the body from the start: each method that a class gets later makes the interpreter go over the class again.
        for method in (__init__, __setattr__, __eq__, __hash__, __repr__, __reduce__):
            body.setdefault(method.__name__, method)
        made = type(cls)(cls.__name__, cls.__bases__, body)
        setters.update([(f"put_{at}", made.__dict__[name].__set__) for at, name in enumerate(fields)])
        return made

    # One constructor for each number of fields: a loop over them would take three times as long, and to compile one for
    # each class longer still. The setters of the slots are in globals of their own for each class.
    put_0 = put_1 = put_2 = put_3 = put_4 = put_5 = put_6 = put_7 = put_8 = None

    def _of_0(self):
        pass

    def _of_1(self, a):
        put_0(self, a)

    def _of_2(self, a, b):
        put_0(self, a)
        put_1(self, b)

    def _of_3(self, a, b, c):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)

    def _of_4(self, a, b, c, d):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)
        put_3(self, d)

    def _of_5(self, a, b, c, d, e):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)
        put_3(self, d)
        put_4(self, e)

    def _of_6(self, a, b, c, d, e, f):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)
        put_3(self, d)
        put_4(self, e)
        put_5(self, f)

    def _of_7(self, a, b, c, d, e, f, g):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)
        put_3(self, d)
        put_4(self, e)
        put_5(self, f)
        put_6(self, g)

    def _of_8(self, a, b, c, d, e, f, g, h):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)
        put_3(self, d)
        put_4(self, e)
        put_5(self, f)
        put_6(self, g)
        put_7(self, h)

    def _of_9(self, a, b, c, d, e, f, g, h, i):
        put_0(self, a)
        put_1(self, b)
        put_2(self, c)
        put_3(self, d)
        put_4(self, e)
        put_5(self, f)
        put_6(self, g)
        put_7(self, h)
        put_8(self, i)

    CONSTRUCTORS = (_of_0, _of_1, _of_2, _of_3, _of_4, _of_5, _of_6, _of_7, _of_8, _of_9)

    def remembered(most):
        """Have a pure function of hashable arguments keep at most so many results, of calls without keywords."""

        def wrap(function):
            results = {}

            def call(*given, **named):
                if named:
                    return function(*given, **named)
                try:
                    return results[given]
                except KeyError:
                    if len(results) >= most:
                        results.clear()
                    result = results[given] = function(*given)
                    return result

            call.__name__, call.__doc__ = function.__name__, function.__doc__
            return call

        return wrap
