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

#: Shell to its script, and where the script goes.
SCRIPTS = {
    "bash": (BASH, "~/.local/share/bash-completion/completions/PROGRAM"),
    "zsh": (ZSH, "a file called _PROGRAM in a folder of $fpath, or source it in ~/.zshrc after compinit"),
    "fish": (FISH, "~/.config/fish/completions/PROGRAM.fish"),
}


def script(shell: str, program: str) -> str:
    """The script that completes a program's command lines in a shell."""
    text, place = SCRIPTS[shell]
    function = "".join(char if char.isalnum() else "_" for char in program)
    filled = text.replace("FUNCTION", function).replace("PROGRAM", program)
    lines = filled.splitlines()
    at = 1 if lines[0].startswith("#compdef") else 0
    lines.insert(at, f"# Completion of {program} for {shell}; goes to {place.replace('PROGRAM', program)}")
    return "\n".join(lines)


def answer(shell: str, words: Sequence[str], complete: Complete) -> str:
    """The candidates that a script asks for, a line for each."""
    words = words[1:] if words[:1] == ["--"] else words
    if shell == "bash" and len(words) == 2:
        lines = _for_bash(words[0], words[1], complete)
    else:
        *before, word = words or [""]
        found = complete(before, word)
        how = ("", "") if shell == "fish" else (".\t", "...\t")
        lines = [f"{_line(one.text)}\t{how[one.goes_on]}{_line(one.note)}" for one in found]
    return "".join([line + "\n" for line in lines])


def _line(text: str) -> str:
    """A text as part of a line of the answer."""
    return visible(text)


def _for_bash(line: str, current: str, complete: Complete) -> list[str]:
    """The answer for bash, which leaves the reading of the line to us.

    ``current`` is what bash takes for the word: it begins again after each ``=`` and ``:``, and after an opening
    quote. What is before it in the real word must be left out of the answer.
    """
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
    """What is left of an escaped text after the part of the word that bash keeps."""
    alone = bool(current) and set(current) <= {"=", ":"}
    head = raw if alone or not raw.endswith(current) else raw[: len(raw) - len(current)]
    if not quoted.startswith(head):  # the user has quoted in another way: count what it means
        head = _escaped("".join(text for text, _ in split_words(head)))
    return quoted[len(head) :]


def _escaped(text: str) -> str:
    """The text with a backslash before everything that bash would act on."""
    return "".join("\\" + char if char in " \t\\'\"`$&|;<>()*?[]{}~#!^" else char for char in text)


def _inside(text: str, mark: str) -> str:
    """The text as it is inside a quote that has been opened."""
    if mark == "'":
        return text.replace("'", "'\\''")
    return "".join("\\" + char if char in '\\"$`' else char for char in text)
