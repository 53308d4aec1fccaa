"""Completion in the user's own shell: the scripts, and the answers that they ask the program for.

A script calls the program itself with ``WESPERON_CANDIDATES`` set to the name of the shell, and the program answers
from its declaration instead of running. So the script never changes, and a ``suggest`` function is called at that
moment.

    shell   the words after the program              the answer, a line for each candidate
    bash    the line up to the cursor, and its word   what is to be in place of the word, quoted, a blank at its end
    zsh     the words up to the cursor, unquoted      the text, "..." where it goes on, what is said beside it
    fish    the words up to the cursor, unquoted      the text, a tab, what is said beside it
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.text.escape import visible
from wesperon.values import Complaint
from wesperon.values.candidate import Candidate
from wesperon.values.words import split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence

    Complete = Callable[[list[str], str], list[Candidate]]

VARIABLE = "WESPERON_CANDIDATES"

BASH = """\
_complete_FUNCTION() {
    local candidate
    COMPREPLY=()
    while IFS= read -r candidate; do
        COMPREPLY+=("$candidate")
    done < <(WESPERON_CANDIDATES=bash "$1" -- "${COMP_LINE:0:COMP_POINT}" "$2" 2> /dev/null)
}
complete -o nospace -F _complete_FUNCTION PROGRAM
"""

ZSH = """\
#compdef PROGRAM
_complete_FUNCTION() {
    local rest text note word=$PREFIX
    local -a texts notes open open_notes literal
    [[ -z $compstate[quote] ]] && word=${(Q)word}
    # What the user has typed stays as it is, and what comes after it is quoted.
    [[ -z $compstate[quote] ]] && literal=(-Q)
    while IFS=$'\\t' read -r text rest note; do
        if [[ -z $compstate[quote] ]]; then
            [[ ${text[1,$#word]} == "$word" ]] && text=$PREFIX${(q)text[$#word+1,-1]} || text=${(q)text}
        fi
        if [[ $rest == ... ]]; then
            open+=("$text"); open_notes+=("$text${note:+  $note}")
        else
            texts+=("$text"); notes+=("$text${note:+  $note}")
        fi
    done < <(WESPERON_CANDIDATES=zsh "${(Q)words[1]}" -- "${(@Q)words[2,CURRENT-1]}" "$word" 2> /dev/null)
    (( $#texts )) && compadd $literal -l -d notes -- "${texts[@]}"
    (( $#open )) && compadd $literal -S '' -l -d open_notes -- "${open[@]}"
}
compdef _complete_FUNCTION PROGRAM
"""

FISH = """\
function __complete_FUNCTION
    set -l words (commandline -opc)
    WESPERON_CANDIDATES=fish $words[1] -- $words[2..-1] (commandline -ct | string unescape) 2> /dev/null
end
complete -c PROGRAM -f -k -a '(__complete_FUNCTION)'
"""


def script(shell: str, program: str) -> str:
    """Return the script that completes a program's command lines in a shell."""
    text, file = SHELLS[shell].script, SHELLS[shell].file
    function = "".join(char if char.isalnum() else "_" for char in program)
    filled = text.replace("FUNCTION", function).replace("PROGRAM", program)
    lines = filled.splitlines()
    at = 1 if lines[0].startswith("#compdef") else 0
    lines.insert(at, f"# Completion of {program} for {shell}; goes to {file.replace('PROGRAM', program)}")
    return "\n".join(lines)


def answer(shell: str, words: Sequence[str], complete: Complete) -> str:
    """Return the candidates that a script asks for, a line for each."""
    words = words[1:] if words[:1] == ["--"] else words
    answers = SHELLS[shell].answers if shell in SHELLS else _with_dots
    return "".join([line + "\n" for line in answers(words, complete)])


def _found(words: Sequence[str], complete: Complete) -> list[Candidate]:
    *before, word = words or [""]
    return complete(before, word)


def _with_dots(words: Sequence[str], complete: Complete) -> list[str]:
    """Return each candidate, whether it goes on, and its note, with tabs between them."""
    return [f"{_line(one.text)}\t{'...' if one.goes_on else '.'}\t{_line(one.note)}" for one in _found(words, complete)]


def _with_notes(words: Sequence[str], complete: Complete) -> list[str]:
    """Return each candidate and its note, with a tab between them."""
    return [f"{_line(one.text)}\t{_line(one.note)}" for one in _found(words, complete)]


def _line(text: str) -> str:
    """Return a text as part of a line of the answer."""
    return visible(text)


def _for_bash(words: Sequence[str], complete: Complete) -> list[str]:
    """Return the answer for bash, which leaves the reading of the line to us: the words are line and current word.

    The latter is what bash takes for the word: it begins again after each ``=`` and ``:``, and after an opening
    quote. What is before it in the real word must be left out of the answer.
    """
    if len(words) != 2:
        return _with_dots(words, complete)
    line, current = words
    mark = ""
    for closing in ("", "'", '"'):
        try:
            parts = split_words(line + closing)
        except Complaint:
            continue
        mark = closing
        break
    else:
        return []
    begins = not line or (line[-1] in " \t" and not mark and not line.endswith("\\ "))
    if begins:
        parts.append(("", len(line)))
    *before, (word, start) = parts
    raw = line[start:]
    found = complete([text for text, _ in before[1:]], word)
    answers = []
    for one in found:
        text = _line(one.text)
        if mark:
            # Within an open quote the answer replaces what is after the quote, and bash closes it.
            opened = raw.index(mark)
            head, _ = split_words(raw[:opened])[0] if raw[:opened] else ("", 0)
            inner = text[len(head) :]
            answers.append(_inside(inner, mark))
            continue
        # What the user has typed stays as it is: a ~ that the shell expands would be none after a backslash.
        quoted = raw + _escaped(text[len(word) :]) if text.startswith(word) else _escaped(text)
        answers.append(_rest(quoted, raw, current) + ("" if one.goes_on else " "))
    return answers


def _rest(quoted: str, raw: str, current: str) -> str:
    """Return what is left of an escaped text after the part of the word that bash keeps."""
    alone = bool(current) and set(current) <= {"=", ":"}
    head = raw if alone or not raw.endswith(current) else raw[: len(raw) - len(current)]
    if not quoted.startswith(head):  # the user has quoted in another way: count what it means
        head = _escaped("".join(text for text, _ in split_words(head)))
    return quoted[len(head) :]


def _escaped(text: str) -> str:
    """Return the text with a backslash before everything that bash would act on."""
    return "".join("\\" + char if char in " \t\\'\"`$&|;<>()*?[]{}~#!^" else char for char in text)


def _inside(text: str, mark: str) -> str:
    """Return the text as it is inside a quote that has been opened."""
    if mark == "'":
        return text.replace("'", "'\\''")
    return "".join("\\" + char if char in '\\"$`' else char for char in text)


class Shell(Frozen):
    """A shell: its ``script``, the ``file`` where it goes, and how the ``answers`` to it are made of the words."""

    script: str
    file: str
    answers: Callable[[Sequence[str], Complete], list[str]]


#: Every shell, by the name that its script gives.
SHELLS = {
    "bash": Shell(BASH, "~/.local/share/bash-completion/completions/PROGRAM", _for_bash),
    "zsh": Shell(
        ZSH, "a file called _PROGRAM in a folder of $fpath, or source it in ~/.zshrc after compinit", _with_dots
    ),
    "fish": Shell(FISH, "~/.config/fish/completions/PROGRAM.fish", _with_notes),
}
