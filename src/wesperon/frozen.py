"""Small immutable records, as :mod:`dataclasses` would make them, at a hundredth of its start-up time.

And functions that remember their results, as :mod:`functools` has them, which takes as long to load; and modules that
are loaded later. Every import costs a start about 315,000 instructions, beside what the module holds, and most runs
need few of 285 (``benchmarks/startup.py``). So a module on the way of many runs names at its top what it needs on other
ways only, such as for an error: ``errors = later("wesperon.argv.errors")``. For a type checker it is an import. The
modules on the way of *every* run (``form``, ``function``, ``argv``, and ``kind``, ``slots`` and ``records`` of
``values``) import in the function that needs it, since a name at the top costs a start 3,000 instructions.

``Frozen`` as a base turns the annotated names of a class body into slots, in order, with a constructor that takes them
by position or by name; instances compare and hash by type and value and print themselves. A type checker treats the
class as a frozen dataclass.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import ParamSpec, TypeVar, dataclass_transform

    P = ParamSpec("P")
    R = TypeVar("R")

    @dataclass_transform(frozen_default=True)
    class Frozen:
        """A frozen record: the annotated names of the body are slots, given once, in the constructor."""

    def later(name: str) -> object:
        """Return the module of this name, which is loaded when something of it is used for the first time."""

    def remembered(most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
        """Cache the last ``most`` results of a pure function of hashable positional arguments."""
        ...

    def remembered_of_one(most: int) -> Callable[[Callable[P, R]], Callable[P, R]]:
        """Cache as ``remembered`` does, for a function of one positional argument, which costs less."""
        ...

else:
    # One constructor for each number of fields: a loop over them would take three times as long, and to compile one for
    # each class longer still. The setters of the slots are in globals of their own for each class.
    put_0 = put_1 = put_2 = put_3 = put_4 = put_5 = put_6 = put_7 = None

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

    CONSTRUCTORS = (_of_0, _of_1, _of_2, _of_3, _of_4, _of_5, _of_6, _of_7, _of_8)

    def _of(count):
        # The one record with so many fields is that of a problem, which costs what it costs.
        fields = [f"field_{at}" for at in range(count)]
        puts = "".join([f"    put_{at}(self, {field})\n" for at, field in enumerate(fields)])
        made = {}
        exec(f"def init(self, {', '.join(fields)}):\n{puts}", made)
        return made["init"]

    class _FrozenType(type):
        """Makes the class of a record: a class made first and changed afterwards would take twice as long."""

        def __new__(meta, name, bases, body):
            fields = tuple(body.get("__annotations__", ()))
            defaults = tuple([body.pop(field) for field in fields if field in body])
            body["__slots__"] = fields
            # The arguments of the constructor for this number of fields get the names of the fields.
            setters = {}
            code = (CONSTRUCTORS[len(fields)] if len(fields) < len(CONSTRUCTORS) else _of(len(fields))).__code__
            init = type(_of_0)(code.replace(co_varnames=("self", *fields)), setters, "__init__", defaults)
            init.__qualname__ = f"{body['__qualname__']}.__init__"
            body.setdefault("__init__", init)
            made = type.__new__(meta, name, bases, body)
            own = made.__dict__
            for at, field in enumerate(fields):
                setters[f"put_{at}"] = own[field].__set__
            return made

    class Frozen(metaclass=_FrozenType):
        """A frozen record: the annotated names of the body are slots, given once, in the constructor."""

        def __setattr__(self, name, value):
            raise AttributeError(f"{type(self).__name__}.{name} is read-only")

        def __eq__(self, other):
            if other.__class__ is not self.__class__:
                return NotImplemented
            return all(getattr(self, name) == getattr(other, name) for name in self.__slots__)

        def __hash__(self):
            return hash((self.__class__, *[getattr(self, name) for name in self.__slots__]))

        def __repr__(self):
            inside = ", ".join(f"{name}={getattr(self, name)!r}" for name in self.__slots__)
            return f"{type(self).__name__}({inside})"

        def __reduce__(self):
            return type(self), tuple([getattr(self, name) for name in self.__slots__])

    class Later:
        """The module of this name, which is loaded when something of it is used for the first time."""

        def __init__(self, name):
            self.__name__ = name

        def __getattr__(self, attribute):
            return getattr(__import__(self.__name__, fromlist=["*"]), attribute)

    later = Later

    def remembered(most):
        """Cache the last ``most`` results of a pure function of hashable positional arguments."""

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

    def remembered_of_one(most):
        """Cache as ``remembered`` does, for a function of one positional argument, which costs less."""

        def wrap(function):
            results = {}

            def call(given):
                try:
                    return results[given]
                except KeyError:
                    if len(results) >= most:
                        results.clear()
                    result = results[given] = function(given)
                    return result

            call.__name__, call.__doc__ = function.__name__, function.__doc__
            return call

        return wrap
