"""Assignments for a shell: the values of a set as lines that a shell evaluates, and nothing else on standard output.

A script says ``v=$(wesperon fill --to=shell plan.toml "$@") || exit; eval "$v"``, with words that anybody may have
typed. So whatever the words ask for (help, a version, a listing) goes to standard error, the status is 1 if there is no
assignment, and no assignment is to a name that a shell gives a meaning of its own: ``PATH``, or one that is read as an
expression, in which more could be hidden.
"""

from __future__ import annotations

import io
import os

from wesperon import Refusal
from wesperon.context import current
from wesperon.output.exit_status import end_by_interrupt
from wesperon.scope import within
from wesperon.text.escape import quoted
from wesperon.text.quoting import quote

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence

    from wesperon.context import Context

#: The forms of the result that a shell evaluates.
EVALUATED = ("shell", "env")
#: Names in small letters that a common shell ties to variables of its own (zsh, with what its modules have).
TIED = frozenset(
    """
    aliases argv auto_resume builtins cdpath commands dirstack dis_aliases dis_builtins dis_functions
    dis_functions_source dis_galiases dis_patchars dis_reswords dis_saliases epochtime errnos fignore fpath
    funcfiletrace funcsourcetrace funcstack functions functions_source functrace galiases histchars history
    historywords jobdirs jobstates jobtexts keymaps langinfo mailpath manpath mapfile module_path modules nameddirs
    options parameters patchars path pipestatus prompt psvar reswords saliases signals status sysparams termcap
    terminfo userdirs usergroups watch widgets zcurses_attrs zcurses_colors zcurses_keycodes zcurses_windows
    zsh_eval_context zsh_scheduled_events
    """.split()  # noqa: SIM905
)
#: Names in capitals that have a meaning for POSIX ``sh`` or another common shell.
SPECIAL = frozenset(
    """
    ARGC CDPATH CHILD_MAX COLUMNS COPROC DIRSTACK EGID ENV EUID EXECIGNORE FCEDIT FIGNORE FPATH FUNCNAME FUNCNEST GID
    GLOBIGNORE GROUPS HISTCHARS HISTCMD HISTCONTROL HISTFILE HISTFILESIZE HISTIGNORE HISTSIZE HISTTIMEFORMAT HOME IFS
    IGNOREEOF KEYBOARD_HACK KEYTIMEOUT LANG LANGUAGE LINENO LINES LISTMAX MAILCHECK MAILPATH MANPATH MAPFILE
    MODULE_PATH NLSPATH NULLCMD OLDPWD OPTARG OPTERR OPTIND PATH POSIXLY_CORRECT PPID PROMPT PROMPT2 PROMPT3 PROMPT4
    PROMPT_COMMAND PROMPT_DIRTRIM PS0 PS1 PS2 PS3 PS4 PSVAR PWD RANDOM READNULLCMD REPORTTIME RPROMPT RPROMPT2 RPS1
    RPS2 SAVEHIST SECONDS SHELL SHELLOPTS SHLVL SPROMPT SRANDOM TERM TIMEFMT TIMEFORMAT TMOUT TMPPREFIX
    TRY_BLOCK_ERROR TRY_BLOCK_INTERRUPT TTYIDLE UID USERNAME WATCH WATCHFMT WORDCHARS ZDOTDIR
    """.split()  # noqa: SIM905
)
#: What further names of shells and of the loader of programs begin with.
SPECIAL_BEGINNINGS = ("BASH", "COMP_", "DYLD_", "EPOCH", "LC_", "LD_", "READLINE_", "ZCURSES_", "ZSH")
#: Those that many sets have too, for a number: they take one.
COUNTERS = frozenset(("COLUMNS", "LINES", "SECONDS"))
LETTERS = frozenset("ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_")
DIGITS = frozenset("0123456789")
#: Characters that are in an environment line without quotes.
BARE = LETTERS | DIGITS | frozenset("@%+:,./-")


class Aside(io.TextIOBase):
    """Standard output while a shell waits for assignments: what is printed goes to standard error."""

    def __init__(self, context: Context) -> None:
        self.output, self.error = context.stdout, context.stderr
        #: Whether the assignments have been written.
        self.is_done = False

    def write(self, text: str) -> int:
        """Write a text, to standard error if that is open."""
        if self.error is not None:
            self.error.write(text)
        return len(text)

    def flush(self) -> None:
        """Write everything that waits."""
        if self.error is not None:
            self.error.flush()

    def isatty(self) -> bool:
        """Return True if a terminal shows it."""
        return self.error is not None and self.error.isatty()

    def fileno(self) -> int:
        """Return the descriptor of the stream that it goes to; raises OSError if there is none."""
        if self.error is None:
            raise OSError("standard error is closed")
        return self.error.fileno()

    def assign(self, text: str) -> None:
        """Write the assignments, in the bytes of the system, whatever the encoding of standard output."""
        self.is_done = True
        if self.output is None:
            return
        self.output.flush()
        if hasattr(self.output, "buffer"):
            self.output.buffer.write(os.fsencode(text + "\n"))
        else:
            self.output.write(text + "\n")
        self.output.flush()


def aside(run: Callable[[], int]) -> int:
    """Run something that may ``assign``; the exit status, which is 1 if all went well and nothing was assigned."""
    context = current()
    if isinstance(context.stdout, Aside):
        return run()
    stream = Aside(context)
    with within(context.derive(stdout=stream)):
        status = run()
    if status == 130 and context.is_process:
        return end_by_interrupt()
    return status or (0 if stream.is_done else 1)


def are_wanted(words: Sequence[str]) -> bool:
    """Return True if the words of ``wesperon fill`` before those of the set may ask for assignments; in doubt, yes."""
    own = words[: list(words).index("--")] if "--" in words else words
    return any(form in word.lower() for word in own for form in EVALUATED)


def lines(texts: Mapping[str, str], how: str, prefix: str = "") -> list[str]:
    """Return assignments of texts to names, for ``how``: ``shell`` or ``env``; raises Refusal at what cannot be one."""
    made: dict[str, str] = {}
    for name, text in texts.items():
        own = prefix + name
        wanted = own if how == "shell" else own.upper()
        reason = _reason_against(own, text) or _reason_against(wanted, text)
        if wanted in made:
            reason = "is the name of two values"
        if reason:
            better = "" if prefix else f": --prefix=set_ makes it {'set_' if how == 'shell' else 'SET_'}{wanted}"
            raise Refusal(f"{wanted} {reason}{better}", 2)
        if "\0" in text:
            raise Refusal(f"{name} holds a null character, which no variable of a shell can hold")
        made[wanted] = f"{wanted}={quote(text) if how == 'shell' else _in_quotes(text)}"
    return list(made.values())


def _reason_against(name: str, text: str) -> str:
    """Return why a name cannot be assigned to; empty if it can."""
    if not name or not LETTERS.issuperset(name[0]) or not (LETTERS | DIGITS).issuperset(name):
        return f"is no name of a variable: a shell has letters from a to z, digits and _, not {quoted(name)}"
    is_special = (
        name in TIED or name in SPECIAL or name == "_" or (name.upper() == name and name.startswith(SPECIAL_BEGINNINGS))
    )
    if is_special and not (name in COUNTERS and DIGITS.issuperset(text.replace(".", "", 1)) and text.strip(".")):
        return "has a meaning of its own for a shell"
    return ""


def _in_quotes(text: str) -> str:
    """Return the text, in double quotes with backslashes where anything in it could be taken for more than itself."""
    if BARE.issuperset(text):
        return text
    escaped = text.replace("\\", "\\\\").replace('"', '\\"').replace("$", "\\$").replace("`", "\\`")
    return '"' + escaped.replace("\n", "\\n").replace("\r", "\\r") + '"'
