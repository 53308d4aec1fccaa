"""Forms: records that fill themselves from the words and from the user."""

import os
import sys

from wesperon.argv import fill_from_words, read_words, words_of
from wesperon.values import DeclarationError
from wesperon.values.records import Record, has_secrets, keeps_last, made_class, slots_of
from wesperon.values.slots import Slot, slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any, ClassVar, Self, TypeVar, Unpack

    from wesperon.argv import ParsedArgs
    from wesperon.completion.shells import Complete
    from wesperon.forms.signatures import Keywords

    R = TypeVar("R", bound=Record)


class Form(Record):
    """A set of values that a program needs, declared as slots in the body of a subclass.

    An instance is the filled record: its attributes are the values, it iterates over them in the order of
    declaration, and it does not change. ``Form(**values)`` makes one of values of the program's own; :meth:`fill` makes
    one of what the command line says and the user answers. Both check alike, and raise Problems.

    The head of a class may say something of all slots, inherited ones too: ``class Copy(Form, named_only=True)`` has
    none but its rest filled by position, with ``repeats="last"`` the last of several values counts,
    ``env_prefix="DESK_"`` lets ``DESK_FRAMES`` give ``frames``. A slot that says otherwise keeps that.

    Example:
        >>> class Plan(Form):
        ...     target = slot()
        ...     frames = slot(int, low=1, default=12)
        >>> Plan.fill(["Lantern", "--frames=3"])
        Plan(target='Lantern', frames=3)
        >>> Plan(target="Lantern").words()
        ['--target=Lantern']

    """

    _methods: "ClassVar[frozenset[str]]" = frozenset(
        {"fill", "fill_async", "from_file", "in_order", "words", "replay", "blank_answers"}
    )

    #: Whether a record takes further attributes, as a command that keeps something while it runs.
    _takes_more: "ClassVar[bool]" = False

    def __setattr__(self, name: str, value: object) -> None:
        if not self._takes_more and name not in slots_of(self) and not hasattr(type(self), name):
            kept = f"a filled record stays as it is, and {type(self).__name__} declares no {name}"
            raise AttributeError(f"{name} cannot be set: {kept}", name=name, obj=self)
        super().__setattr__(name, value)

    #: What the heads of its classes say of all slots (``forms.class_keywords``).
    _class_keywords: "ClassVar[Mapping[str, Any]]" = {}

    def __init_subclass__(cls, **keywords: "Any") -> None:
        own = cls.__dict__
        has_some = "__annotations__" in own or "__annotate_func__" in own or slot in own.values()
        if has_some and not cls.__module__.startswith("wesperon."):
            from wesperon.forms.class_annotations import read_annotations

            read_annotations(cls)
        made = super().__init_subclass__
        if keywords or cls._class_keywords:
            from wesperon.forms.class_keywords import made_with

            made_with(cls, made, keywords)
        else:
            made()

    @classmethod
    def fill(cls, words: "Sequence[str] | None" = None, **keywords: "Unpack[Keywords]") -> "Self":
        """Fill a record.

        ``words`` are those of the command line without the program's name; ``None`` means those of the process. All
        keywords of :class:`wesperon.Program` that are not about several commands are keywords here.

        Keywords:
            asking: ``"missing"`` asks for what has no value and no default, ``"all"`` for all that no word gave,
                ``"never"`` for nothing; unless the words or the environment (``WESPERON_ASKING``) say otherwise
            driver: what runs the questions, such as a script of keys; the controlling terminal if it is not given
            context: the context to be in force meanwhile (see :class:`wesperon.Context`)

        Raises Problems with everything that is wrong or, if nobody can be asked, missing; KeyboardInterrupt if
        the user stops the questions; SystemExit after ``--help`` and ``--version``. A program that does not catch them
        ends with what is wrong on standard error, status 2, or by SIGINT, without a trace.
        """
        refuse_unknown(f"{cls.__name__}.fill", keywords)
        context = keywords.pop("context", None)
        if context is not None:
            from wesperon.scope import within

            with within(context):
                return cls.fill(words, **keywords)
        answer_shell(words, cls)
        try:
            return filled(cls, words, keywords)
        except (Exception, KeyboardInterrupt) as error:
            from wesperon.output.uncaught import tell_uncaught

            tell_uncaught(error)
            raise

    @classmethod
    async def fill_async(cls, words: "Sequence[str] | None" = None, **keywords: "Unpack[Keywords]") -> "Self":
        """Fill a record inside an event loop, whose other tasks go on while a question is open.

        ``words``, the keywords, the result and the errors are those of :meth:`fill`. A task that is cancelled gives the
        terminal back.
        """
        from wesperon.context import current
        from wesperon.forms.filling import fill_async
        from wesperon.scope import within

        refuse_unknown(f"{cls.__name__}.fill_async", keywords)
        with within(keywords.pop("context", None) or current()):
            answer_shell(words, cls)
            try:
                return await fill_async(cls, read(cls, words, keywords), keywords)
            except (Exception, KeyboardInterrupt) as error:
                from wesperon.output.uncaught import tell_uncaught

                tell_uncaught(error)
                raise

    @classmethod
    def from_file(cls, path: "str | os.PathLike[str]", command: str = "") -> "type[Untyped]":
        """Return the form that a file declares, in TOML, JSON or YAML: see the guide on sets of questions.

        ``path`` is the file; ``command`` names one of the set's commands, with blanks between its names. The values of
        choices are the entries of the file: texts, or tables with a label. Raises Problems with everything that is
        wrong with the file.
        """
        from wesperon.documents.question_set import form_at

        try:
            made: type[Untyped] = form_at(os.fspath(path), Untyped, command)
            return made
        except Exception as error:
            from wesperon.output.uncaught import tell_uncaught

            tell_uncaught(error)
            raise

    @classmethod
    def blank_answers(cls) -> str:
        """Return a blank answers file in TOML for ``--answers``: a line a value, with its question as a comment."""
        from wesperon.forms.blank_answers import blank_answers

        return blank_answers(slots_of(cls).values())

    def in_order(self, *, with_end: bool = False) -> "list[tuple[str, Any]]":
        """Return the names and values of the command line as they were typed, for programs in which the order matters.

        There is a pair for each text that was given, its value converted; left out are those that others replaced, and
        secrets. ``with_end``: ``("--", None)`` is where ``--`` ended the names. A record made of values has no pairs.

        Example:
            >>> class Mix(Form):
            ...     add = slot(int, many=True)
            ...     take = slot(int, many=True)
            >>> Mix.fill(["--add=3", "--take=1", "--add=2"]).in_order()
            [('add', 3), ('take', 1), ('add', 2)]

        """
        from wesperon.argv.typed import in_order

        return in_order(self, with_end=with_end)

    def words(self) -> list[str]:
        """Return the words that give the same values again, ``--name=value`` for each, as :meth:`in_order` has them.

        A default is left out if nothing else could fill the slot, and so is ``None``. Raises DeclarationError for
        a value of a kind of the program's own without ``text=``.
        """
        from wesperon.argv.replay import words_of

        return words_of(self)

    def replay(self) -> str:
        """Return the whole command line that gives the same values again, quoted for a POSIX shell.

        See :meth:`words`.
        """
        from wesperon.argv.replay import replay_of

        return replay_of(self)

    def __str__(self) -> str:
        """Return the record as a card: labels in a gutter, values beside them."""
        from wesperon.output.card import card

        return card(self)


if TYPE_CHECKING:
    from wesperon.forms.signatures import Untyped as Untyped
    from wesperon.forms.signatures import fill as fill
else:
    Untyped = Form

    def fill(form=None, words=None, /, **slots):
        """Fill values for a script: ``frames, seconds = fill(frames=slot(int), seconds=slot(float))``.

        Without a class, each keyword is a slot, and the first argument is the ``words``, as in :meth:`Form.fill`.
        Returns a record with the values as attributes, which iterates over them in the order of their declaration.

        With a ``form``, a class of slots, the ``words`` and the keywords are those of :meth:`Form.fill`. Returns a
        record of that class.

        What is wrong is printed on standard error, and the program ends with status 2, for a Refusal with its status;
        if the user stops the questions it ends as by SIGINT.

        Example:
            >>> target, frames = fill(["Lantern", "3"], target=slot(), frames=slot(int))
            >>> target, frames
            ('Lantern', 3)

        """
        if isinstance(form, type):
            return _fill_class(form, words, slots)
        if isinstance(form, Slot):
            raise DeclarationError("fill() takes slots by name: fill(frames=slot(int))")
        if words is not None:
            raise DeclarationError("fill takes the words, then slots by name; or a form, then the words")
        filled = made_class("Filled", (Untyped,), {"__module__": __name__, **slots})
        if len(slots_of(filled)) < len(slots):
            from wesperon.forms.class_keywords import form_of_call

            filled = form_of_call(Untyped, __name__, slots)
        return _fill_class(filled, form, {})


def _fill_class(form: "type[Any]", words: "Sequence[str] | None", keywords: "Mapping[str, Any]") -> "Any":
    """Fill a record of a class; what is wrong ends the process."""
    if not issubclass(form, Form):
        raise DeclarationError(f"fill({form.__name__}) needs a subclass of Form, or the words")
    refuse_unknown(f"fill({form.__name__})", keywords)
    if keywords.get("context") is not None:
        from wesperon.scope import within

        with within(keywords["context"]):
            return _fill_class(form, words, {**keywords, "context": None})
    answer_shell(words, form)
    options = dict(keywords)
    options.pop("context", None)
    try:
        record = filled(form, words, options, ends_process=True)
        for slot in slots_of(form).values():
            if slot.piped == "stream" and record.__dict__[slot.name] is not None:
                # The stream is read after ``fill`` has returned: an error in its last line is one of the program still.
                record.__dict__[slot.name].instead = _ending
        return record
    except Exception as error:
        raise _ending(error, options.get("name")) from None
    except KeyboardInterrupt:
        raise SystemExit(end_interrupted()) from None


def read(form: "type[Record]", words: "Sequence[str] | None", keywords: "Mapping[str, Any]") -> "ParsedArgs":
    """Return what the ``words`` say of a form's slots; ``keywords`` are those of :meth:`Form.fill`."""
    given = list(surroundings()[1]) if words is None else words_of(words)
    return read_words(slots_of(form), given, prefixes=keywords.get("prefixes", True))


def filled(
    form: "type[R]", words: "Sequence[str] | None", keywords: "Mapping[str, Any]", *, ends_process: bool = False
) -> "R":
    """Return a record of a form; the keywords and errors are those of :meth:`Form.fill`.

    Everything else than reading and converting words is loaded if there is something left to do.
    """
    reading, environ = read(form, words, keywords), surroundings()[0]
    has_more = bool(reading.builtin or reading.renamed) or "WESPERON_LOG" in environ
    if has_more or has_secrets(form) or keeps_last(form) or (keywords and _looks_first(keywords)):
        from wesperon.forms.filling import fill

        return fill(form, reading, keywords, ends_process=ends_process)
    made, values, mode = fill_from_words(form, reading, environ, keywords.get("asking"))
    if made is not None:
        return made
    from wesperon.forms.filling import go_on

    return go_on(form, reading, values, mode, keywords, ends_process=ends_process)


def _looks_first(keywords: "Mapping[str, Any]") -> bool:
    """Return True if something is done before the values of the words are taken as they are."""
    from wesperon.values.wishes import FIRST

    return not keywords.keys().isdisjoint(FIRST)


def refuse_unknown(caller: str, keywords: "Mapping[str, object]") -> None:
    """Raise DeclarationError for a keyword that filling a form does not have, or whose value is of another type."""
    if keywords:
        from wesperon.values.keywords import refuse_keywords

        refuse_keywords(caller, keywords)


def _ending(error: Exception, name: str | None = None) -> SystemExit:
    """Return what ends the process once it has been printed what is wrong."""
    from wesperon.context import current
    from wesperon.output.exit_status import status_of

    return SystemExit(status_of(error, [name or current().program_name]))


def answer_shell(words: "Sequence[str] | None", asked: "type[Record] | Complete", *, runs: bool = False) -> None:
    """Answer a shell that asks which words may come next, if one does, and end; see ``completion.answering``."""
    if is_asked_by_shell():
        from wesperon.completion.answering import answer_shell

        answer_shell(words, asked, runs=runs)


def is_asked_by_shell() -> bool:
    """Return True if a shell wants to know which words may come next."""
    return bool(sys.modules["wesperon"].asked_by) or "WESPERON_CANDIDATES" in surroundings()[0]


def surroundings() -> "tuple[Mapping[str, str], Sequence[str]]":
    """Return the environment variables and the words of the context in force.

    They are the process's own if the module of contexts was never loaded, since then there is no other.
    """
    if "wesperon.context" not in sys.modules:
        return os.environ, sys.argv[1:]
    from wesperon.context import current  # another thread may be loading it: this waits

    context = current()
    return context.environ, context.words


def is_alone() -> bool:
    """Return True if no context but that of the process can be in force: what puts one there is not loaded."""
    return "wesperon.scope" not in sys.modules


def said_at_once(result: object) -> bool:
    """Print a result that is the same wherever it goes. Return False if ``output.results`` is to look at it.

    To load that for a number, with tables, styles and widths, would cost a third of the process (14 million of 48).
    """
    kind, stream = type(result), sys.stdout
    is_plain = kind is int or kind is float or (kind is str and str(result).replace("\n", "").isprintable())
    if not is_plain or "wesperon.context" in sys.modules or stream is None:
        return False
    try:
        stream.write(f"{result}\n")
    except UnicodeEncodeError:  # the stream has no such character
        return False
    except OSError as full:
        full.filename = "standard output"  # ``context.STANDARD_OUTPUT``, which is not loaded
        raise
    return True


def end_interrupted() -> int:
    """End the process as an interrupt does, however often the key is pressed meanwhile."""
    while True:
        try:
            from wesperon.output.exit_status import interrupted

            return interrupted()
        except KeyboardInterrupt:
            continue
