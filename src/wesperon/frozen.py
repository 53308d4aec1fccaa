"""Small immutable records, as :mod:`dataclasses` would make them, at a hundredth of its start-up time.

``@frozen`` turns the annotated names of a class body into slots, in order, with a constructor that takes them by
position or by name; instances compare and hash by type and value and print themselves. A type checker treats the class
as a frozen dataclass. Methods of such a class cannot use ``super()``.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import TypeVar, dataclass_transform

    C = TypeVar("C")

    @dataclass_transform(frozen_default=True)
    def frozen(cls: type[C]) -> type[C]:
        """Make the class a frozen record."""
        ...

else:

    def frozen(cls):
        """Make the class a frozen record: its annotated names become slots, given once, in the constructor."""
        fields = tuple(cls.__annotations__)
        body = dict(cls.__dict__)
        defaults = {name: body.pop(name) for name in fields if name in body}
        body.pop("__dict__", None)
        body.pop("__weakref__", None)
        body["__slots__"] = fields
        required = len(fields) - len(defaults)

        def __init__(self, *values, **named):
            if named or len(values) != len(setters):
                values = _arranged(made, fields, required, defaults, values, named)
            for put, value in zip(setters, values, strict=True):
                put(self, value)

        def __setattr__(self, name, value):
            raise AttributeError(f"{made.__name__}.{name} is read-only")

        def __eq__(self, other):
            if other.__class__ is not made:
                return NotImplemented
            return all(getattr(self, name) == getattr(other, name) for name in fields)

        def __hash__(self):
            return hash((made, *(getattr(self, name) for name in fields)))

        def __repr__(self):
            inside = ", ".join(f"{name}={getattr(self, name)!r}" for name in fields)
            return f"{made.__name__}({inside})"

        # In the body from the start: each method that a class gets later makes the interpreter go over the class again.
        for method in (__init__, __setattr__, __eq__, __hash__, __repr__):
            body.setdefault(method.__name__, method)
        made = type(cls)(cls.__name__, cls.__bases__, body)
        setters = tuple([made.__dict__[name].__set__ for name in fields])
        return made

    def _arranged(made, fields, required, defaults, values, named):
        """The values of all fields in order, from those by position, those by name, and the defaults."""
        if len(values) > len(fields):
            raise TypeError(f"{made.__name__} takes at most {len(fields)} values, got {len(values)}")
        filled = dict(zip(fields, values, strict=False))
        for name, value in named.items():
            if name not in fields or name in filled:
                raise TypeError(f"{made.__name__} got an unexpected or repeated {name!r}")
            filled[name] = value
        filled = {**defaults, **filled}
        if len(filled) < len(fields):
            missing = next(name for name in fields if name not in filled)
            raise TypeError(f"{made.__name__} needs {missing!r} ({required} of its fields have no default)")
        return tuple(filled[name] for name in fields)
