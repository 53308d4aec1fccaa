"""Kinds: how a text becomes a value, and a value a text.

One object means each kind, here for those that a built-in type names, else in the folder ``kinds``, and every
source of values goes through it, so a text means the same wherever it comes from. ``registry`` lists all kinds.

    parse(text)     the value, or a Complaint that says what was got, what was wanted, and where the fault is
    format(value)   the text that ``parse`` turns into an equal value
    validate(value) a value made by the program itself, checked to be of the kind

``TABLE`` lists the kinds that are named by a built-in type.

A shape is how many texts a value is made of, and what it is then. A slot has one of five, by its kind and by ``many``
and ``rest``:

    ONE         one value, of one text
    SWITCH      one value, whose name on the command line takes no text
    MANY        a tuple, an item for each text
    PAIRS       a dictionary, a name and a value for each text
    CHOICE_SET  a tuple in the order of the choices, to which each text adds some

Code that has a value or some texts of a slot asks its shape for them, and never which shape it is. A shape has no
state: the slot is the first argument. The first two are here, since every program uses them, and a module of their own
would cost a start 315,000 instructions (``benchmarks/startup.py``); ``shapes_of_several`` has the others.
"""

from wesperon.values import MISSING, Complaint, DeclarationError, Generic, T, quoted, subscripted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable, Mapping, Sequence
    from typing import Any

    from wesperon.values.kinds.choice_list import Choices
    from wesperon.values.slots import Slot


#: A whole number of more bits may have more digits than Python writes (``sys.get_int_max_str_digits``).
MOST_BITS = 2_000


class Shape:
    """One value, of one text; the others are like it but for what they say."""

    #: Whether further texts add to the value, rather than being too many.
    repeats = False
    #: Whether one line, of a question or a variable, holds several texts, and each of them is an item.
    splits = False
    #: Whether it is how often a switch is given.
    counts = False
    #: What is said before its choices, which follow one in a row or in a list.
    some = "one of"
    some_of = "one of {list}"
    #: What follows the name in a line of usage (POSIX, Base Definitions, 12.1).
    ellipsis = ""

    def __init__(self, *, takes_text: bool = True) -> None:
        #: Whether a name on the command line takes a text; a switch takes none.
        self.takes_text = takes_text

    def parse(self, slot: "Slot[Any]", texts: "Sequence[str]") -> "Any":
        """Return the value of all ``texts`` that were given; raises Complaint."""
        value = slot.parse(texts[0])
        return slot.streamed((value,)) if slot.piped == "stream" else value

    def parse_word(self, slot: "Slot[Any]", text: str) -> "Any":
        """Return what one text that was given adds to the value; raises Complaint."""
        return slot.parse(text)

    def parse_item(self, slot: "Slot[Any]", item: "Any") -> "Any":
        """Return what one item of a list or table in a document adds to the value; raises Complaint."""
        return slot.parse(item) if isinstance(item, str) else slot.validate_one(item)

    def value_of_item(self, slot: "Slot[Any]", item: "Any") -> "Any":
        """Return the value that one item of a document makes alone; raises Complaint."""
        return self.parse_line(slot, item) if isinstance(item, str) else slot.validate(item)

    def validate(self, slot: "Slot[Any]", value: "Any") -> "Any":
        """``value``, one of the program's own, checked; raises Complaint."""
        if value is None and slot.default is None:
            return None
        value = slot.validate_one(value)
        return slot.streamed((value,)) if slot.piped == "stream" else value

    def items(self, value: "Any") -> "Iterable[Any]":
        """Return the items of a ``value``."""
        return (value,)

    def count(self, slot: "Slot[Any]", values: "tuple[Any, ...]") -> "Any":
        """Return the value of these items; raises Complaint if it cannot have so many."""
        return values[0]

    def words(self, slot: "Slot[Any]", value: "Any") -> list[str]:
        """Return the texts of which :meth:`parse` makes an equal value, which may be a stream."""
        return [slot.format(value if slot.piped != "stream" else value.items[0])]

    def texts(self, slot: "Slot[Any]", value: "Any") -> list[str]:
        """Return the text of each item of a ``value``."""
        return [slot.format(value)]

    def as_data(self, slot: "Slot[Any]", value: "Any", item_as_data: "Callable[[Slot[Any], Any], Any]") -> "Any":
        """Return the value as documents have it: an item by itself, a list of items or a dictionary of texts and items.

        ``item_as_data`` is called with the slot that an item is of, and the item.
        """
        return item_as_data(slot, value)

    def none(self, slot: "Slot[Any]") -> "Any":
        """Return the value of no texts at all; MISSING if there must be one."""
        return MISSING

    def names(self, slot: "Slot[Any]") -> tuple[str, ...]:
        """Return how the slot is given by name, with a placeholder for its text; of a switch also what says no."""
        if slot.wants_word:
            return (f"--{slot.word}={slot.kind.placeholder}",)
        if self.takes_text:
            return (f"--{slot.word}[={slot.kind.placeholder}]",)
        return (f"--{slot.word}",) if slot.is_one_way else (f"--{slot.word}", f"--{opposite(slot.word)}")

    def question(self, slot: "Slot[Any]") -> str:
        """Return the question that asks for it, ``line`` or a key of ``forms.question_widgets.QUESTIONS``."""
        return slot.kind.question

    def parse_line(self, slot: "Slot[Any]", line: str) -> "Any":
        """Return the value of one line, such as an answer; raises Complaint, whose position counts in the line."""
        return self.parse(slot, [line])

    def line(self, texts: "Sequence[str]") -> str | None:
        """Return the line of which :meth:`parse_line` makes the value of some texts; None if no line says several."""
        return texts[0] if len(texts) == 1 else None

    def parse_quickly(self, slot: "Slot[Any]", texts: list[str]) -> "Any":
        """Return the value of very many texts, if the kind has a quick way and nothing is wrong; else None."""
        return None

    def name_of(self, slot: "Slot[Any]") -> "Callable[[str], Any] | None":
        """Return what gives the name in a row of a list, which only one row can have; None if rows have none."""
        return None

    def misuse(self, slot: "Slot[Any]") -> str:
        """Return why what a declaration says of the slot does not go with the shape; empty if it does."""
        return ""

    def parse_list(self, slot: "Slot[Any]", values: "list[Any]") -> "Any":
        """Return the value of a list in a document; raises Complaint."""
        if slot.kind.is_structured:
            return slot.validate(values)
        raise Complaint(tell("got a list: must be {wanted}", wanted=slot.kind.wants))

    def parse_table(self, slot: "Slot[Any]", table: "dict[str, Any]") -> "Any":
        """Return the value of a table in a document; raises Complaint."""
        if slot.kind.is_structured:
            return slot.validate(table)
        raise Complaint(tell("got a table: must be {wanted}", wanted=slot.kind.wants))

    def parts(self, found: "Any") -> "list[tuple[Any, int]]":
        """Return what of a text, list or table can be wrong alone, each part with its offset in the text."""
        return []


ONE, SWITCH = Shape(), Shape(takes_text=False)


class Kind(Generic[T]):
    """What kind of value a slot holds."""

    if not TYPE_CHECKING:
        __class_getitem__ = subscripted

    #: What is wanted, with its article, as a complaint names it.
    wanted = "text"
    #: A right value, for complaints and help.
    example = ""
    #: The placeholder of the value in a line of help.
    placeholder = "TEXT"
    #: The placeholder in a row of a list of values; empty for none.
    row_placeholder = ""
    #: Whether blanks around the text are taken off before it is read.
    strips = True
    #: Whether a text of blanks alone is a value rather than a missing one.
    keeps_blanks = False
    #: Whether an empty text is a value of this kind rather than a missing one.
    takes_empty = False
    #: How many texts make a value, and what it is then, where the slot says no more; see ``values.kind``.
    shape: Shape = ONE
    #: What ``low`` and ``high`` bound: ``""`` nothing, ``"value"`` the value, ``"length"`` its length.
    bounded = ""
    #: A quick way from a right text to its value, which raises ValueError for every other text.
    fast_parse: "Callable[[str], T] | None" = None
    #: Whether what is right depends on the answers before (see ``here``).
    depends = False
    #: What is said of a value below and above its bounds.
    beyond = ("too low", "too high")
    #: Whether a value has a next one, a unit further (see ``step_by``).
    has_steps = False
    #: Whether a text of ``-`` and digits may be a value.
    takes_numbers = False
    #: The question that asks for it, ``line`` or a key of ``forms.question_widgets.QUESTIONS``.
    question = "line"
    #: What completes it, a key of ``completion.candidates.COMPLETIONS``; empty if nothing does.
    completion = ""
    #: What there is to choose from; None if the kind has no choices.
    choices: "Choices[Any] | None" = None
    #: Whether ``exists`` says something about it.
    leads_somewhere = False
    #: Whether a list or a table in a document is one value of it.
    is_structured = False
    #: The kind of its ``step`` in a file, by name; empty if a step is of the kind itself.
    step_kind = ""

    @property
    def limits(self) -> tuple[int, int | None] | None:
        """The least and the most that may be chosen; None if this is no set."""
        return None

    @property
    def wants(self) -> str:
        """What is wanted, in the user's language."""
        return tell(self.wanted)

    def parse(self, text: str) -> "T":
        """Return the value that the text means; raises Complaint."""
        raise NotImplementedError

    def format(self, value: "T") -> str:
        """Return the text that means the value."""
        raise NotImplementedError

    def validate(self, value: "Any") -> "T":
        """Return the value itself if it is of this kind; raises Complaint."""
        raise NotImplementedError

    def step_by(self, value: "T", units: int, unit: "Any" = None) -> "T":
        """Return the value ``units`` units further; if ``unit`` is None, the kind has a unit of its own."""
        raise NotImplementedError

    def first(self, low: "T | None", now: float) -> "T":
        """Return the value from which the arrow keys step if the line is empty: the lowest one, else zero.

        ``now`` is the time of the clock, in seconds.
        """
        return self.parse("0") if low is None else low

    def display(self, value: "T") -> str:
        """Return the value as people read it on a card."""
        return self.format(value)

    def resolve(self, answers: object) -> "Kind[T]":
        """Return the kind, resolved for the answers so far; raises Complaint if no value is possible."""
        return self

    def refused(self, value: object) -> "Complaint":
        """Return the complaint about a value of another type."""
        from wesperon.values.phrases import another_type

        return Complaint(another_type(value, self.wants, is_text=isinstance(self, TextKind)))


class TextKind(Kind[str]):
    """Text, kept as given."""

    strips = False
    keeps_blanks = True
    bounded = "length"
    beyond = ("too short", "too long")

    def parse(self, text: str) -> str:
        """Return the text itself."""
        return text

    def format(self, value: str) -> str:
        """Return the text itself."""
        return value

    def validate(self, value: "Any") -> str:
        """Return the text itself; raises Complaint for anything but a ``str``."""
        if isinstance(value, str):
            return value
        raise self.refused(value)


class IntKind(Kind[int]):
    """Whole numbers, written as in Python: a sign, digits, ``_`` between digits."""

    wanted = "a whole number"
    example = "12"
    placeholder = "NUMBER"
    bounded = "value"
    has_steps = True
    takes_numbers = True
    question = "spin"
    fraction = False
    fast_parse = int

    def step_by(self, value: int, units: int, unit: "Any" = None) -> int:
        """See ``Kind``; the unit is 1."""
        return value + units * (1 if unit is None else int(unit))

    def parse(self, text: str) -> int:
        """Return the number; raises Complaint at the first character that cannot be in a whole number."""
        try:
            return int(text)
        except ValueError as error:
            from wesperon.values.kinds.misreadings import number_fault

            raise number_fault(self, text, str(error), fraction=self.fraction) from None

    def format(self, value: int) -> str:
        """Return the digits."""
        return str(int(value))

    def validate(self, value: "Any") -> int:
        """Return the number itself; a ``bool`` is not one."""
        if isinstance(value, int) and not isinstance(value, bool):
            if value.bit_length() > MOST_BITS:
                from wesperon.values.kinds.misreadings import check_digits

                check_digits(value)
            return value
        raise self.refused(value)


class FloatKind(Kind[float]):
    """Numbers with a fraction or an exponent; finite ones, unless a bound asks for more."""

    wanted = "a number"
    example = "2.5"
    placeholder = "NUMBER"
    bounded = "value"
    has_steps = True
    takes_numbers = True
    question = "spin"
    fraction = True

    def step_by(self, value: float, units: int, unit: "Any" = None) -> float:
        """See ``Kind``; the unit is 1."""
        return float(round(value + units * (1 if unit is None else unit), 12))

    def __init__(self, *, infinite: bool = False) -> None:
        self.infinite = infinite

    def parse(self, text: str) -> float:
        """Return the number; raises Complaint, also for what is not finite."""
        try:
            value = float(text)
        except ValueError as error:
            from wesperon.values.kinds.misreadings import number_fault

            raise number_fault(self, text, str(error), fraction=self.fraction) from None
        return self._finite(value, text)

    def format(self, value: float) -> str:
        """Return the shortest digits that give the same number."""
        return repr(float(value)).removesuffix(".0")

    def validate(self, value: "Any") -> float:
        """Return the number as a ``float``; whole numbers are numbers, a ``bool`` is not."""
        if isinstance(value, float):
            return self._finite(value, repr(value))
        if isinstance(value, int) and not isinstance(value, bool):
            try:
                return float(value)
            except OverflowError:
                raise Complaint(
                    tell("{value} is too large for a number with a fraction", value=quoted(hex(value)))
                ) from None
        raise self.refused(value)

    def _finite(self, value: float, text: str) -> float:
        # An infinity minus itself is "not a number", which equals nothing.
        if value - value == 0 or (self.infinite and value == value):
            return value
        raise Complaint(
            tell("{text} is not a finite number, such as {example}", text=quoted(text), example=self.example), 0
        )


class BoolKind(Kind[bool]):
    """Yes or no; on the command line a name alone."""

    wanted = "yes or no"
    example = "yes"
    placeholder = "yes|no"
    shape: Shape = SWITCH
    question = "yes-no"
    completion = "yes-no"

    #: Every text that means yes or no, in small letters.
    MEANINGS = {
        "yes": True, "true": True, "on": True, "1": True, "y": True,
        "no": False, "false": False, "off": False, "0": False, "n": False,
    }  # fmt: skip

    def parse(self, text: str) -> bool:
        """Yes or no from any of the accepted texts, in any letter case; raises Complaint.

        Beside those of every language, its two words in the user's own are taken, and their first letters.
        """
        value = self.MEANINGS.get(text.lower())
        if value is None:
            folded, yes, no = text.lower(), tell("yes"), tell("no")
            if folded in (yes, yes[:1], no, no[:1]):
                return folded in (yes, yes[:1])
            raise Complaint(tell("{text} is neither yes nor no (nor true, false, on, off, 1, 0)", text=quoted(text)), 0)
        return value

    def format(self, value: bool) -> str:
        """``yes`` or ``no``."""
        return "yes" if value else "no"

    def validate(self, value: "Any") -> bool:
        """Return the value itself; raises Complaint for anything but a ``bool``."""
        if isinstance(value, bool):
            return value
        raise self.refused(value)


TEXT, INT, FLOAT, BOOL = TextKind(), IntKind(), FloatKind(), BoolKind()

#: The kinds that a built-in type names.
TABLE: "dict[object, Kind[Any]]" = {str: TEXT, int: INT, float: FLOAT, bool: BOOL}


def kind_of(given: object, settings: "Mapping[str, Any]") -> "Kind[Any]":
    """Return the kind that a slot's first argument names; raises DeclarationError if it names none.

    ``settings`` are the keywords of the slot: ``text`` turns a value of a custom kind into text, ``exists`` says what a
    path must lead to.
    """
    try:
        kind = TABLE.get(given)
    except TypeError:
        kind = None
    if kind is not None:
        return kind
    if isinstance(given, Kind):
        return given
    if isinstance(given, type):
        from wesperon.values.kinds.registry import find_kind

        kind = find_kind(given, settings)
        if kind is not None:
            return kind
    if getattr(given, "__origin__", None) is dict:
        from wesperon.values.kinds.pairs import make

        return make(given, settings)
    if callable(given):
        from wesperon.values.kinds.custom import CustomKind

        return CustomKind(given, settings.get("text"), has_steps=settings.get("step") is not None)
    hint = f"; a default is written default={given!r}" if isinstance(given, (int, float)) else ""
    raise DeclarationError(
        f"{given!r} is no kind: use a type such as int, one_of(...), any_of(...), or a callable from text to value"
        + hint
    )


def opposite(word: str) -> str:
    """Return the name that says no to a switch: of ``dry-run`` it is ``no-dry-run``, and the other way round."""
    return word[3:] if word.startswith("no-") and len(word) > 3 else f"no-{word}"
