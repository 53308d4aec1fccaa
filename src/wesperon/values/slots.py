"""Slots: one value that a program needs, declared once.

A slot is a typed descriptor in the body of a form. It holds what is common to all sources: how a text is read
(:meth:`Slot.parse`), how a value of the program's own is checked (:meth:`Slot.validate`), and what a missing value
falls back to (:meth:`Slot.fallback`). Both ways in lead through the same bounds and the same check.
"""

from wesperon.values import MISSING, Complaint, DeclarationError, Generic, T, subscripted
from wesperon.values.kind import FLOAT, ONE, TEXT, FloatKind, Kind, kind_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.values.kind import Shape
    from wesperon.values.rules import Rule
    from wesperon.values.signatures import Descriptor
else:
    Descriptor = Generic


INFINITE = (float("inf"), -float("inf"))


class Slot(Descriptor[T]):
    """One value that a program needs; made by :func:`slot`.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int, low=1, high=99)
        >>> Plan.frames
        <slot frames: a whole number>
        >>> Plan.frames.parse("12")
        12

    """

    kind: "Kind[Any]"
    shape: "Shape"
    depends: bool
    #: Whether the declaration names a kind, and whether what it says was examined. Without a kind, that of a parameter
    #: is the kind of its annotation, and a slot in the body of a form is text.
    names_kind = True
    is_examined = True
    #: Whether help, usage and completion have it.
    is_listed = True
    #: Whether it is a switch whose opposite is the name of another slot: ``--no-target`` beside ``--target=NAME``.
    is_one_way = False
    #: Whether it says itself that it may be filled by position, and what happens if it is named again.
    keeps_position = repeats_said = False
    #: The rules of its form that it is in (``values.rules``).
    rules: "tuple[Rule[Any], ...]" = ()
    #: What makes the value of several from a tuple; None if it is one.
    series: "Callable[[Any], Any] | None" = None

    def __init__(self, kind: "Kind[Any]", ask: str | None, settings: "dict[str, Any]") -> None:
        self.name = ""
        self.ask = ask
        self.__dict__.update(settings)
        self.set_kind(kind)
        if self.secret is True or self.applies is not None or self.alone is not MISSING:
            self.named_only = True
        if self.initial is None and self.default is MISSING:
            self.default = None  # it is asked for all the same
        if kind is FLOAT and (self.low in INFINITE or self.high in INFINITE):
            self.kind = FloatKind(infinite=True)

    def set_kind(self, kind: "Kind[Any]") -> None:
        """Take ``kind``, and the shape that it gives together with ``many`` and ``rest``."""
        self.kind, self.shape = kind, kind.shape
        if self.many or self.rest or kind.shape is not ONE:
            if not kind.shape.takes_text:
                self.named_only = True
                if self.many is True:
                    from wesperon.values.kinds.counts import count

                    count(self)
            elif kind.shape.splits:
                self.many = not self.rest
            elif not kind.shape.repeats:
                from wesperon.values.shapes_of_several import MANY

                self.shape = MANY
        #: Whether what is right depends on the answers before.
        self.depends = kind.depends or callable(self.low) or callable(self.high)

    def __set_name__(self, owner: type, name: str) -> None:
        self.name = name

    if not TYPE_CHECKING:
        __class_getitem__ = subscripted

        def __get__(self, record, owner):
            if record is None:
                return self
            try:
                return record.__dict__[self.name]
            except KeyError:
                raise AttributeError(f"{self.name} has no value yet", name=self.name, obj=record) from None

        def __set__(self, record, value):
            raise AttributeError(f"{self.name} is read-only: a filled record stays as it is")

    def __repr__(self) -> str:
        return f"<slot {self.name or '?'}: {self.kind.wanted}>"

    @property
    def word(self) -> str:
        """The long name on the command line, without its hyphens: ``low_light`` is ``low-light``."""
        return spelled(self.name)

    @property
    def label(self) -> str:
        """The label beside the value on a card: the question if it is short, else the name."""
        return self.ask if self.ask and len(self.ask) <= LONGEST_LABEL else self.name.strip("_").replace("_", " ")

    @property
    def has_fallback(self) -> bool:
        """Whether the slot has a value if none is given."""
        return self.default is not MISSING or (self.initial is MISSING and self.shape.none(self) is not MISSING)

    @property
    def wants_word(self) -> bool:
        """Whether the word after its name is its value: it takes a text, and cannot stand alone."""
        return self.shape.takes_text and self.alone is MISSING

    @property
    def is_asked_for(self) -> bool:
        """Whether it is asked for if nothing gives it a value; several that may be none only with a question."""
        return not self.has_fallback or self.initial is None or (bool(self.ask) and self.default is MISSING)

    @property
    def can_be_empty(self) -> bool:
        """Whether an empty text is a value here."""
        return (
            self.kind.takes_empty
            or self.rest == VERBATIM
            or (self.kind.bounded == "length" and self.low == 0 and self.low is not None)
        )

    def is_blank(self, text: str) -> bool:
        """Return True if ``text`` counts as missing: it is empty or blank, and the kind takes no such text."""
        if self.can_be_empty:
            return False
        return not (text if self.kind.keeps_blanks else text.strip())

    def may_be_none(self, texts: list[str]) -> bool:
        """Return True if ``texts`` say that the slot stays empty, where it may."""
        return self.initial is None and len(texts) == 1 and self.is_blank(texts[0])

    def parse(self, text: str) -> "Any":
        """Return the value of ``text``; if the slot takes several, one item.

        Raises Complaint; its position counts in ``text`` as given, blanks included.
        """
        trimmed = text.strip() if self.kind.strips else text
        if self.secret:
            from wesperon.values.secrets import secretly

            return secretly(self, trimmed, lambda: self.checked(self.kind.parse(trimmed), trimmed))
        try:
            return self.checked(self.kind.parse(trimmed), trimmed)
        except Complaint as complaint:
            if complaint.position is None or trimmed is text:
                raise
            position = complaint.position + len(text) - len(text.lstrip())
            raise Complaint(complaint.reason, position) from complaint.__cause__

    def combine(self, texts: list[str]) -> "Any":
        """Return the value of all ``texts`` that were given for the slot; raises Complaint."""
        return self.shape.parse(self, texts)

    def validate(self, value: "Any") -> "Any":
        """``value``, one of the program's own, checked like one that was read; raises Complaint."""
        return self.shape.validate(self, value)

    def streamed(self, values: "tuple[Any, ...]") -> "Any":
        """``values`` as they are, or as an iterator if the slot is declared with ``piped="stream"``."""
        if self.piped != "stream":
            return values
        from wesperon.values.streams import stream_of

        return stream_of(values)

    def resolve(self, answers: object) -> "Slot[T]":
        """Return the slot with the choices and bounds that these ``answers`` give.

        Raises Complaint if no value is possible.

        ``answers`` has the values of the slots before this one as attributes.
        """
        if not self.depends:
            return self
        made = self.copied()
        made.kind, made.depends = self.kind.resolve(answers), False
        if callable(self.low) or callable(self.high):
            from wesperon.values.bounds import resolve_bounds

            resolve_bounds(made, answers)
        return made

    def by_name_only(self) -> "Slot[T]":
        """Return a slot like this one that is never filled by position; the declaration stays as it is."""
        made = self.copied()
        made.named_only = True
        return made

    def copied(self) -> "Slot[T]":
        """Return a slot like this one, to be changed without it."""
        made: Slot[T] = object.__new__(type(self))
        made.__dict__.update(self.__dict__)
        return made

    def is_skipped(self, answers: object) -> bool:
        """Return True if the slot does not apply, with these ``answers``."""
        return self.applies is not None and not self.applies(answers)

    def fallback(self, answers: object) -> "Any":
        """Return the default, or what its function gives; MISSING if there is none.

        ``answers`` has the values of the slots before this one as attributes. Raises Complaint if the function
        gives a value that the slot does not take.
        """
        if callable(self.default):
            from wesperon.values.calls import call_with_optional_answers

            return self.resolve(answers).validate(call_with_optional_answers(self.default, answers))
        if self.depends and self.default is not MISSING and self.default is not None:
            return self.resolve(answers).validate(self.default)
        if self.default is MISSING:
            return self.shape.none(self)
        made = type(self.default)
        return made(self.default) if made is dict or made is list else self.default  # each record has its own

    def skipped(self, answers: object) -> "Any":
        """Return the value of a slot that does not apply: the default, else ``None``, or no values if it takes several.

        ``answers`` is as in :meth:`fallback`.
        """
        slot = self
        if self.depends and not callable(self.default):  # which is right without being looked at
            slot = self.copied()
            slot.depends = False
        value = slot.fallback(answers)
        return None if value is MISSING else value

    def format(self, value: "Any") -> str:
        """Return the text of ``value``, which :meth:`parse` reads again; if the slot takes several, of one item."""
        return self.kind.format(value)

    def validate_one(self, value: "Any") -> "Any":
        """``value`` (one item, if the slot takes several) as the kind has it, checked; raises Complaint."""
        if self.secret:
            from wesperon.values.secrets import secretly

            return secretly(self, str(value), lambda: self.checked(self.kind.validate(value)))
        return self.checked(self.kind.validate(value))

    def checked(self, value: "Any", text: str | None = None) -> "Any":
        """``value``, within the bounds, the pattern and the check; raises Complaint, which quotes the ``text``."""
        if (self.low is not None or self.high is not None) and not self.depends:
            self._within(value, text)
        if self.pattern is not None:
            from wesperon.values.bounds import check_pattern

            check_pattern(self.pattern, value, self.pattern_says)
        if self.check is not None:
            from wesperon.values.calls import call_check

            call_check(self, value, text)
        return value

    def _within(self, value: "Any", text: str | None) -> None:
        measure = len(value) if self.kind.bounded == "length" else value
        try:
            if (self.low is None or measure >= self.low) and (self.high is None or measure <= self.high):
                return
        except TypeError:  # one of two times has a time zone
            pass
        from wesperon.values.bounds import out_of_bounds

        raise out_of_bounds(self, value, text)


def spelled(name: str) -> str:
    """Return a Python name as it is typed: ``class_`` is ``class``, ``low_light`` is ``low-light``."""
    return name.rstrip("_").replace("_", "-")


#: The types that name a kind and nothing else.
PLAIN = (str, int, float, bool)
#: The start value that is that of the last run.
LAST = "last"

#: What ``rest`` says where all words from the first on are kept as they are.
VERBATIM = "verbatim"
#: A question up to this length is its own label on a card; for a longer one the name is there.
LONGEST_LABEL = 24


#: The keywords of ``slot`` with what each is when not given.
KEYWORDS: dict[str, object] = {
    "default": MISSING,
    "initial": MISSING,
    "short": None,
    "short_no": None,
    "alone": MISSING,
    "low": None,
    "high": None,
    "unit": "",
    "pattern": None,
    "pattern_says": "",
    "check": None,
    "env": None,
    "piped": False,
    "exists": None,
    "suggest": None,
    "suggest_as": "",
    "step": None,
    "applies": None,
    "secret": False,
    "twice": False,
    "mask": "*",
    "lines": False,
    "syntax": None,
    "live": False,
    "text": None,
    "repeats": "error",
    "many": False,
    "rest": False,
    "least": 0,
    "most": None,
    "named_only": False,
    "renamed_from": (),
    "section": "",
    "help": "",
}

if TYPE_CHECKING:
    from wesperon.values.signatures import slot as slot
else:

    def slot(kind=None, ask=None, **given):
        """Declare one value that a program needs.

        ``kind`` is ``str``, ``int``, ``float``, ``bool``, ``datetime.time``, ``one_of(...)``, ``any_of(...)`` or any
        callable from text to value that raises ``ValueError``; without it, it is text, but in the annotation of a
        parameter that of the annotation. ``ask`` is the question on the terminal, and up to 24 characters of it the
        label of the value; without it the name serves. ``slot("Which target?")`` has a question and no kind.

        Keywords:
            default: the value if none is given, or a function of the answers so far; then nobody is asked
            initial: what is in the line at first, although the value is still asked for; a value, a function of the
                answers so far, or ``"last"`` for the value of the last run; ``None``: the answer may stay empty, and
                is ``None`` then, and where nobody is there
            short: a letter or a digit, for ``-m``; or several, which all mean it
            short_no: the same for a switch that is turned off by it
            alone: the value if the name is alone; then another comes only after ``=``, or right after the letter
            low, high: bounds of the value (of a text: of its length), both allowed themselves; or functions of the
                answers so far that give them, or None
            unit: said beside the value, such as ``"s"``
            pattern: a regular expression that the whole of a text must match
            pattern_says: what that is in words, after "must be", such as ``"three letters and a number"``
            check: called with the value; raises ``ValueError`` with the complaint
            exists: what a path must lead to: ``"file"``, ``"folder"``, ``"either"``, ``"nothing"`` or ``"parent"`` (it
                may be made in a folder that exists)
            suggest: texts that the value may well be, or pairs of a text and a note, a mapping from text to note, a
                generator, or a function (of the answers so far, or of nothing) that gives these; any other text will do
            suggest_as: how they are laid out under the line: ``"list"`` (with their notes), ``"grid"`` or ``"inline"``
            step: by how much the arrow keys change a number, a date, a time or a duration
            applies: a function of the answers so far; where it says no, the slot is skipped: its value is the default
                or ``None``
            secret: never shown, logged or repeated, and refused as a word, unless it is ``"anywhere"``
            twice: a secret that is typed is typed again to confirm it
            mask: what is shown for each character of a secret while it is typed; empty for nothing
            lines: the text may have several lines; a function of the text says whether Enter accepts it, ``True`` that
                Enter always adds a line
            syntax: colours while typing: the name of a lexer of Pygments, such a lexer, or a function from a text to
                spans ``(start, end, role)``
            live: the text is checked while it is typed, not only when it is accepted
            env: the environment variable that may hold the value
            piped: standard input may hold the value; with ``"stream"`` an iterator of values, a line each
            text: from value to text, for a kind of the program's own
            repeats: what happens if it is named again: ``"error"``, or ``"last"``, where the last value counts
            many: the name may be repeated, the value is a tuple; of a ``bool`` it is how often, ``-vvv`` is 3
            rest: takes all remaining words, the value is a tuple; ``"verbatim"`` keeps them as they are from the first
                on, names and ``--`` too, as a wrapper hands them on
            least, most: how many, for ``many`` and ``rest``; how often at least and at most
            named_only: never filled by position
            renamed_from: a name that the value had before, or several: it still works, says the new one on standard
                error, and no help page has it
            section: a heading on the help page, under which the slots that name it stand together
            help: a sentence for the help page; ``False``: help, usage and completion leave the slot out

        Returns a :class:`Slot`. Raises DeclarationError for what cannot work, such as a default out of bounds.

        Example:
            >>> frames = slot(int, "How many frames?", low=1, default=12)
            >>> frames.parse("3")
            3

        """
        settings = {**KEYWORDS, **given}
        if len(settings) > len(KEYWORDS):
            from wesperon.values.keywords import unknown_keyword

            raise unknown_keyword(given, KEYWORDS)
        if hasattr(settings["suggest"], "__next__"):  # gone through once, and looked at by all who ask
            from wesperon.values.pull_source import PullSource

            settings["suggest"] = PullSource(settings["suggest"])
        if type(kind) is str and ask is None and not (kind.islower() and kind.replace("-", "").isalpha()):
            kind, ask = None, kind  # a question; one small word is more likely the name of a kind
        if kind is None:
            made = Slot(TEXT, ask, settings)
            made.names_kind, made.is_examined = False, not given
            if given:
                from wesperon.values.examination import examine, examine_keywords

                # With a default it is the slot of a form, since a parameter has its default elsewhere.
                (examine if isinstance(made.default, str) else examine_keywords)(made, given)
            return made
        if ask is not None and type(ask) is not str:
            raise DeclarationError(f'slot(): {ask!r} is no question: slot(KIND, "Question?") has one kind and a text')
        series = None
        if kind not in PLAIN if isinstance(kind, type) else not isinstance(kind, Kind):
            from wesperon.values.kinds.annotated import annotated

            kind, series = annotated(kind, settings)
        made = Slot(kind_of(kind, settings), ask, settings)
        if series is not None:
            made.series = series
        if given or series is not None or made.shape.splits:
            from wesperon.values.examination import examine

            examine(made, given)
        return made
