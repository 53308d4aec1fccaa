"""Forms: records that fill themselves from the words and from the user."""

import os
import sys

from wesperon.argv import ALL, IF_MISSING, MODES, convert, read_words, words_of
from wesperon.values import DeclarationError, quoted, tell
from wesperon.values.records import DEFAULT, SOURCES, WORDS, Record
from wesperon.values.slots import Slot, slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any, ClassVar, Self, Unpack

    from wesperon.argv import ParsedArgs
    from wesperon.completion.shells import Complete
    from wesperon.forms.interaction import Interaction
    from wesperon.forms.options import FillOptions
    from wesperon.forms.signatures import Keywords
    from wesperon.values.signatures import Given


#: The keywords of filling a form; those in ``WAIT`` have something done before its values are looked at.
FILL_KEYWORDS = frozenset((
    "actions", "asking", "bindings", "capture", "confirm", "context", "description", "driver", "gate", "keys", "log",
    "mouse", "name", "prefixes", "replay", "resume", "settings", "style", "theme", "timeout", "version",
))  # fmt: skip
WAIT = frozenset(("gate", "log", "settings"))


class Form(Record):
    """A set of values that a program needs, declared as slots in the body of a subclass.

    An instance is the filled record: its attributes are the values, it iterates over them in the order of
    declaration, and it does not change. ``Form(**values)`` makes one of values of the program's own; :meth:`fill` makes
    one of what the command line says and the user answers. Both check alike, and raise Problems.
    """

    _methods: "ClassVar[frozenset[str]]" = frozenset(
        {"check", "origins", "fill", "fill_async", "from_file", "words", "replay", "blank_answers"}
    )

    #: Whether a record takes further attributes, as a command that keeps something while it runs.
    _takes_more: "ClassVar[bool]" = False

    def __setattr__(self, name: str, value: object) -> None:
        if not self._takes_more and name not in self._slots and not hasattr(type(self), name):
            kept = f"a filled record stays as it is, and {type(self).__name__} declares no {name}"
            raise AttributeError(f"{name} cannot be set: {kept}", name=name, obj=self)
        super().__setattr__(name, value)

    def __init_subclass__(cls, **keywords: "Any") -> None:
        own = cls.__dict__
        has_some = "__annotations__" in own or "__annotate_func__" in own or slot in own.values()
        if has_some and not cls.__module__.startswith("wesperon."):
            from wesperon.forms.class_annotations import read_annotations

            read_annotations(cls)
        super().__init_subclass__(**keywords)

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
        answer_shell(words, lambda: cls._slots)
        try:
            return cls._filled(cls._read(words, keywords), **keywords)
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
        from wesperon.forms.interaction import play_async
        from wesperon.forms.options import FillOptions
        from wesperon.scope import within

        refuse_unknown(f"{cls.__name__}.fill_async", keywords)
        context = keywords.pop("context", None)
        options = FillOptions.of(cls, keywords, is_async=True)
        with within(context or current()):
            answer_shell(words, lambda: cls._slots)
            try:
                return await play_async(cls._filling(cls._read(words, keywords), options))
            except (Exception, KeyboardInterrupt) as error:
                from wesperon.output.uncaught import tell_uncaught

                tell_uncaught(error)
                raise

    @classmethod
    def from_file(cls, path: "str | os.PathLike[str]", command: str = "") -> "type[Untyped]":
        """The form that a file declares, in TOML, JSON or YAML: see the guide on sets of questions.

        ``path`` is the file; ``command`` names one of the set's commands, with blanks between its names. The values of
        choices are the entries of the file: texts, or tables with a label. Raises Problems with everything that is
        wrong with the file.
        """
        from wesperon.documents.question_set import read_set

        try:
            declared = read_set(os.fspath(path), Untyped)
        except Exception as error:
            from wesperon.output.uncaught import tell_uncaught

            tell_uncaught(error)
            raise
        for name in command.split():
            if name not in declared.commands:
                from wesperon.text.spelling import suggestion

                raise DeclarationError(f"{path} has no command {name!r}{suggestion(name, declared.commands)}")
            declared = declared.commands[name]
        return declared.form

    @classmethod
    def blank_answers(cls) -> str:
        """A blank answers file in TOML, for ``--answers``: a line for each value, with its question as a comment."""
        from wesperon.forms.blank_answers import blank_answers

        return blank_answers(cls._slots.values())

    def words(self) -> list[str]:
        """The words that give the same values again, ``--name=value`` for each.

        A default is left out if nothing else could fill the slot, and so is ``None``. Raises DeclarationError for
        a value of a kind of the program's own without ``text=``.
        """
        from wesperon.argv.replay import words_of

        return words_of(self)

    def replay(self) -> str:
        """The whole command line that gives the same values again, quoted for a POSIX shell; see :meth:`words`."""
        from wesperon.argv.replay import replay_of

        return replay_of(self)

    def __str__(self) -> str:
        """The record as a card: labels in a gutter, values beside them."""
        from wesperon.output.card import card

        return card(self)

    @classmethod
    def _read(cls, words: "Sequence[str] | None", keywords: "Mapping[str, Any]") -> "ParsedArgs":
        """What the words say; where they ask for a page, it is printed, and the program ends.

        The ``keywords`` are those of :meth:`fill`.
        """
        given = list(surroundings()[1]) if words is None else words_of(words)
        reading = read_words(cls._slots, given, prefixes=keywords.get("prefixes", True))
        if "help" in reading.own or "version" in reading.own:
            cls._say(reading, keywords)
        if reading.renamed:
            from wesperon.argv.renaming import say_renamed

            say_renamed(reading.renamed)
        return reading

    @classmethod
    def _filled(cls, reading: "ParsedArgs", **keywords: "Any") -> "Self":
        """A record of what the words said; whatever else it takes is loaded only if something is left to do.

        The keywords are those of :meth:`fill`, and of :class:`FillOptions`.
        """
        if not cls._has_secrets:
            return cls._filled_openly(reading, **keywords)
        from wesperon.values.secrets import Hushing

        with Hushing():
            return cls._filled_openly(reading, **keywords)

    @classmethod
    def _filled_openly(cls, reading: "ParsedArgs", **keywords: "Any") -> "Self":
        made, values, mode = None, None, ""
        if not keywords.keys() & WAIT:
            made, values, mode = cls._made_of_words(reading, keywords.get("asking"), keywords.get("settings"))
        if made is None:
            from wesperon.forms.interaction import play
            from wesperon.forms.options import FillOptions

            options = FillOptions.of(cls, keywords)
            if values is None:
                return play(cls._filling(reading, options))
            from wesperon.forms.precedence import fill_record

            made = play(fill_record(cls, reading, values, mode, options))
        if cls._keeps_last:
            from wesperon.forms.last_values import keep_last

            keep_last(made, keywords.get("name", ""))
        return made

    @classmethod
    def _filling(cls, reading: "ParsedArgs", options: "FillOptions") -> "Interaction[Self]":
        """The same in steps."""
        if not cls._has_secrets:
            return (yield from cls._filling_openly(reading, options))
        from wesperon.values.secrets import Hushing

        with Hushing():
            return (yield from cls._filling_openly(reading, options))

    @classmethod
    def _filling_openly(cls, reading: "ParsedArgs", options: "FillOptions") -> "Interaction[Self]":
        made, values, mode = cls._made_of_words(reading, options.asking, options.settings)
        if made is not None and not options.asked_before:
            options.open_gate({name: made.__dict__[name] for name in cls._slots})
        else:
            if made is not None:  # what was asked before is to stay on the screen
                values = {name: value for name, value in values.items() if made.origins[name] == WORDS}
            from wesperon.forms.precedence import fill_record

            made = yield from fill_record(cls, reading, values, mode, options)
        if cls._keeps_last:
            from wesperon.forms.last_values import keep_last

            keep_last(made, options.driver_options.get("program", ""))
        return made

    @classmethod
    def _made_of_words(
        cls, reading: "ParsedArgs", asking: str | None, settings: str | None
    ) -> "tuple[Self | None, dict[str, Any], str]":
        """Fast path: return a record (None unless words and constant defaults fill it), the values, and when to ask."""
        environ, _ = surroundings()
        mode = mode_of(asking, reading, environ)
        if reading.is_mended:  # what the words would say without their quotes is beside the point
            raise reading.refused(reading.problems)
        if "WESPERON_LOG" in environ:
            from wesperon.terminal.diagnostics import area

            places = {name: [one.word + 1 for one in given] for name, given in reading.given.items()}
            area("argv").debug("%d words; by slot: %s; own names: %s", len(reading.words), places, sorted(reading.own))
        values = convert(cls._slots, reading)
        origins = dict.fromkeys(values, WORDS)
        if not reading.problems and not reading.claims:
            given: Given = {"answers": reading.own.get("answers"), "settings": settings, "asks_all": mode == ALL}
            for name, slot in cls._slots.items():
                if name not in values or slot.applies is not None:
                    if any(may_fill(slot, given) for _, may_fill in SOURCES):
                        break
                    values[name], origins[name] = slot.fallback(None), DEFAULT
            else:
                if mode != ALL:
                    made = cls.of(values, origins)
                    if cls.check is not Record.check:
                        _check_together(made, reading)
                    return made, values, mode
        return None, {name: value for name, value in values.items() if origins[name] == WORDS}, mode

    @classmethod
    def _say(cls, reading: "ParsedArgs", keywords: "Mapping[str, Any]") -> None:
        """Print what ``--help`` or ``--version`` asks for, and end."""
        from wesperon.context import current
        from wesperon.output.exit_status import print_page
        from wesperon.output.help import help_rows, script_version, version_line
        from wesperon.output.style import rendered

        name = keywords.get("name") or current().program_name
        if "help" in reading.own:
            main = sys.modules.get("__main__")
            # A script that calls ``fill`` has its class made in this module: its own docstring says what it is about.
            about = cls.__dict__.get("__doc__") or (main.__doc__ if main and cls.__module__ == __name__ else None)
            about = keywords.get("description") or about
            print_page(rendered(help_rows([name], about, cls._slots)))
        else:
            version = keywords.get("version")
            print_page(version_line(name, version) if version else script_version(name))
        raise SystemExit(0)


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
        """
        if isinstance(form, type):
            return _fill_class(form, words, slots)
        if isinstance(form, Slot):
            raise DeclarationError("fill() takes slots by name: fill(frames=slot(int))")
        if words is not None:
            raise DeclarationError("fill takes the words, then slots by name; or a form, then the words")
        filled = type("Filled", (Untyped,), {"__module__": __name__, **slots})
        if len(filled._slots) < len(slots):
            name = next(name for name in slots if name not in filled._slots)
            raise DeclarationError(f"{name}={slots[name]!r} is no slot: write {name}=slot(...)")
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
    answer_shell(words, lambda: form._slots)
    options = {name: value for name, value in keywords.items() if name != "context"}
    try:
        record = form._filled(form._read(words, options), ends_process=True, **options)
        for slot in form._slots.values():
            if slot.piped == "stream" and record.__dict__[slot.name] is not None:
                record.__dict__[slot.name].instead = _ending
        return record
    except Exception as error:
        raise _ending(error, options.get("name")) from None
    except KeyboardInterrupt:
        raise SystemExit(end_interrupted()) from None


def refuse_unknown(caller: str, keywords: "Mapping[str, object]") -> None:
    """Raise DeclarationError for a keyword that filling a form does not have, or whose value is of another type."""
    if keywords:
        from wesperon.values.keywords import refuse_keywords

        refuse_keywords(caller, keywords, FILL_KEYWORDS)


def _ending(error: Exception, name: str | None = None) -> SystemExit:
    """What ends the process once it has been printed what is wrong."""
    from wesperon.context import current
    from wesperon.output.exit_status import status_of

    return SystemExit(status_of(error, [name or current().program_name]))


def _check_together(record: Form, reading: "ParsedArgs") -> None:
    """Raise Problems if the values of a record do not go together."""
    from wesperon.values.together import complaint_together

    complaint = complaint_together(record)
    if complaint is not None:
        from wesperon.argv.errors import together

        raise reading.refused([together(reading, record, complaint)])


def answer_shell(
    words: "Sequence[str] | None",
    asks: "Callable[[], Mapping[str, Slot[Any]] | Complete]",
    *,
    runs: bool = False,
) -> None:
    """Answer a shell that wants to know which words may come next, if one does, and end: nothing else is to run.

    ``words`` are those that are about to be read; a shell asks about those of the context. ``asks`` gives what knows
    the candidates: slots, or a function of the words before and the word that has been begun. ``runs``: something of
    the program would run with the words, so that the process ends without an answer if they are others.
    """
    if not is_asked_by_shell():
        return
    _, own = surroundings()
    from wesperon.context import current
    from wesperon.system.asked import end

    shell = current().asking_shell
    if not shell:
        return
    if words is not None and list(words) != list(own):
        if runs:
            end()
        return
    from wesperon.completion.candidates import candidates
    from wesperon.completion.shells import answer

    known = asks()
    end(answer(shell, own, known if callable(known) else lambda before, word: candidates(known, before, word)))


def is_asked_by_shell() -> bool:
    """Whether a shell wants to know which words may come next."""
    return bool(sys.modules["wesperon"]._asked_by) or "WESPERON_CANDIDATES" in surroundings()[0]


def surroundings() -> "tuple[Mapping[str, str], Sequence[str]]":
    """The environment variables and the words of the context in force.

    They are the process's own if the module of contexts was never loaded, since then there is no other.
    """
    if "wesperon.context" not in sys.modules:
        return os.environ, sys.argv[1:]
    from wesperon.context import current  # another thread may be loading it: this waits

    context = current()
    return context.environ, context.words


def end_interrupted() -> int:
    """End the process as an interrupt does, however often the key is pressed meanwhile."""
    while True:
        try:
            from wesperon.output.exit_status import interrupted

            return interrupted()
        except KeyboardInterrupt:
            continue


def mode_of(asking: str | None, reading: "ParsedArgs", environment: "Mapping[str, str]") -> str:
    """When to ask: as the words say, else the environment, else the program; raises Problems."""
    if "asking" in reading.own:
        return reading.own["asking"]
    mode = environment.get("WESPERON_ASKING") or asking or IF_MISSING
    if mode not in MODES:
        from wesperon.values.problems import Problem

        if mode == asking:
            raise DeclarationError(f"asking={asking!r} is not one of {', '.join(MODES)}")
        reason = tell("WESPERON_ASKING must be one of {list}, got {mode}", list=", ".join(MODES), mode=quoted(mode))
        raise reading.refused([Problem(reason, None, "env", mode)])
    return mode
