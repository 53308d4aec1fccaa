"""What every action is for, in the order of the page of keys: read by that page, and where bindings are checked."""

from __future__ import annotations

#: Group to the actions in it, each with what it does.
GROUPS: dict[str, dict[str, str]] = {
    "Moving": {
        "move-char-back": "a character to the left",
        "move-char-forward": "a character to the right; at the end, take what is hinted at",
        "move-word-back": "to the beginning of the word before",
        "move-word-forward": "to the end of the word after; at the end, take a word of what is hinted at",
        "move-argument-back": "to the beginning of the argument before; quotes hold one together",
        "move-argument-forward": "to the end of the argument after",
        "move-line-start": "to the start of the line",
        "move-line-end": "to the end of the line",
        "move-up": "to the line above, in the same column",
        "move-down": "to the line below, in the same column",
        "move-page-up": "up by as many lines as are in sight",
        "move-page-down": "down by as many lines as are in sight",
        "move-text-start": "to the start of the text",
        "move-text-end": "to the end of the text",
        "move-bracket-match": "to the bracket that belongs to the one at the cursor",
        "jump-char-forward": "to the next place of the character that is typed next",
        "jump-char-back": "to the place before, of the character that is typed next",
    },
    "Deleting": {
        "delete-char-back": "the character before the cursor",
        "delete-char-forward": "the character at the cursor",
        "delete-char-forward-or-end": "the same; on an empty line, no answer; after several lines, accept them",
        "delete-word-back": "back to the beginning of a word",
        "delete-word-forward": "up to the end of a word",
        "delete-blank-word-back": "back to a blank",
        "delete-argument-back": "back to the beginning of an argument",
        "delete-argument-forward": "up to the end of an argument; quotes hold one together",
        "delete-bracket-forward": "up to the bracket that belongs to the next one; where none opens, an argument",
        "delete-region-or-word-back": "the region if one is shown, else back to a blank",
        "delete-line-start": "back to the start of the line",
        "delete-line-end": "up to the end of the line; there, the line end",
        "delete-line-whole": "the line",
        "delete-text-start": "back to the start of the text",
        "delete-text-end": "up to the end of the text",
        "delete-text-whole": "the text",
        "delete-blanks-around": "blanks and tabs around the cursor",
        "leave-blank-around": "the same, but for one blank",
    },
    "Bringing back": {
        "paste": "what was deleted last by more than a character; deletions in a row come back as one",
        "paste-older": "right after that: the deletion before it instead",
        "undo": "undo a step",
        "undo-all": "undo everything",
        "redo": "do again what was undone",
    },
    "Changing": {
        "transpose-chars": "exchange the characters on both sides",
        "transpose-words": "exchange the words before and after",
        "transpose-arguments": "exchange the arguments before and after",
        "uppercase-word": "the rest of the word in capitals",
        "lowercase-word": "the rest of the word in small letters",
        "capitalize-word": "the rest of the word with one capital",
        "insert-literal": "put in what the next key sends, a control character for instance",
        "insert-newline": "put in a line end",
        "insert-tab": "put in a tab",
        "toggle-overwrite": "typed characters replace those at the cursor, or no longer",
        "edit-outside": "edit the text in the program that VISUAL or EDITOR names",
    },
    "Region": {
        "set-mark": "put the mark here; the region lies between it and the cursor",
        "exchange-mark": "exchange the mark and the cursor",
        "drop-region": "show no region any more",
        "copy-region": "copy the region, to be brought back",
        "delete-region": "delete the region",
        "select-char-back": "select a character to the left; typing replaces what is selected",
        "select-char-forward": "select a character to the right",
        "select-word-back": "select to the beginning of the word before",
        "select-word-forward": "select to the end of the word after",
        "select-argument-back": "select to the beginning of the argument before",
        "select-argument-forward": "select to the end of the argument after",
        "select-line-start": "select to the start of the line",
        "select-line-end": "select to the end of the line",
        "select-up": "select up to the line above",
        "select-down": "select down to the line below",
        "select-text-start": "select to the start of the text",
        "select-text-end": "select to the end of the text",
    },
    "Earlier entries": {
        "recall-older": "the entry before that begins with what is typed; in several lines, the line above first",
        "recall-newer": "the entry after; at last what was typed",
        "recall-oldest": "the first entry of all",
        "recall-newest": "back to what was typed",
        "search-back": "search, as the text to look for is typed; again: further back",
        "search-forward": "the same, towards newer entries",
        "recall-last-word": "the last word of the entry before; again: of the one before that",
        "recall-first-word": "the first word after the command of the entry before",
        "reload-history": "take in what other consoles have entered since this one began",
    },
    "Menus, checkboxes, yes or no": {
        "toggle-mark": "mark the current choice, or take its mark away",
        "toggle-all-marks": "mark all choices that are listed, or none of them",
        "invert-marks": "mark those listed that are not marked, and only them",
        "extend-marks": "give all choices from the last changed one to this one the same mark",
        "extend-mark-up": "go up, and give that choice the mark of this one",
        "extend-mark-down": "go down, and give that choice the mark of this one",
        "toggle-answer": "change yes to no, and no to yes",
    },
    "The rest": {
        "accept": "accept the text",
        "accept-if-whole": "accept the text; in several lines, add a line unless the text is whole",
        "accept-unless-whole": "accept the text; in several lines, add a line if the text is whole",
        "accept-as-comment": "in a console, put # before the line and keep it for later; nothing runs",
        "accept-and-recall": "accept, and have the entry that followed this one in the next line",
        "complete": "complete the word; list what it may become",
        "list-candidates": "list what the word may become",
        "insert-candidates": "put in everything that the word may become",
        "record-keys": "record the keys that follow",
        "record-keys-end": "end the recording",
        "play-keys": "press the recorded keys again",
        "clear-screen": "empty the screen and draw the line at its top",
        "cancel": "leave a search, a region, a list",
        "go-back": "back to the previous question",
        "show-help": "show what is said about the question",
        "interrupt": "stop asking",
    },
}

#: The same for the command mode of the modal family.
MODAL_GROUPS: dict[str, dict[str, str]] = {
    "Motions": {
        "move-column-back": "a character to the left, in the line",
        "move-column-forward": "a character to the right, in the line",
        "move-word-start-forward": "to the beginning of the next word",
        "move-word-start-back": "to the beginning of the word, or of the one before",
        "move-word-end-forward": "to the end of the word, or of the next one",
        "move-word-end-back": "to the end of the word before",
        "move-blank-word-start-forward": "to the beginning of the next word between blanks",
        "move-blank-word-start-back": "to the beginning of the word between blanks, or of the one before",
        "move-blank-word-end-forward": "to the end of the word between blanks, or of the next one",
        "move-blank-word-end-back": "to the end of the word between blanks that is before",
        "move-line-first-sign": "to the first character of the line that is no blank",
        "move-line-last-char": "to the last character of the line",
        "move-column": "to the column of the count",
        "find-char-forward": "to the next character that is the one typed next",
        "find-char-back": "the same, back",
        "till-char-forward": "up to the next character that is the one typed next",
        "till-char-back": "the same, back",
        "repeat-find": "look for the same character again",
        "repeat-find-reversed": "the same, the other way",
    },
    "Operators, each over a motion, or twice for the line": {
        "delete": "delete",
        "change": "delete, and insert",
        "copy": "copy, to be put in",
        "toggle-case": "small letters for capitals, and capitals for small ones",
        "lowercase": "small letters",
        "uppercase": "capitals",
    },
    "Objects, for operators": {
        **{
            f"{where}-{name}": f"{does}{what}"
            for name, does in {
                "word": "the word",
                "blank-word": "the word between blanks",
                "double-quotes": "what is in double quotes",
                "single-quotes": "what is in single quotes",
                "backquotes": "what is in backquotes",
                "parentheses": "what is in parentheses; of a count, those further out",
                "brackets": "the same of square brackets",
                "braces": "the same of braces",
                "angles": "the same of angle brackets",
            }.items()
            for where, what in (("inner", ""), ("around", ", with what is around it"))
        },
    },
    "Commands": {
        "delete-char": "delete the character at the cursor",
        "delete-char-before": "delete the character before the cursor",
        "delete-to-line-end": "delete up to the end of the line",
        "change-to-line-end": "delete up to the end of the line, and insert",
        "change-char": "delete the character at the cursor, and insert",
        "change-line": "delete the line, and insert",
        "copy-line": "copy the line",
        "insert-before": "insert at the cursor",
        "insert-after": "insert after the character at the cursor",
        "insert-at-line-start": "insert before the first character that is no blank",
        "insert-at-line-end": "insert at the end of the line",
        "replace-char": "the character typed next in the place of the one at the cursor",
        "toggle-char-case": "the other letter case, and go on",
        "paste-after": "put in what was deleted or copied last, after the cursor",
        "paste-before": "the same, at the cursor",
        "repeat-change": "do the last change once more",
        "use-register": "the register for the next command, by the letter that follows",
        "mode-command": "to command mode",
        "mode-replace": "typed characters take the place of others, until Escape",
    },
}

#: Every act with what it does.
ACTIONS: dict[str, str] = {
    name: does for groups in (GROUPS, MODAL_GROUPS) for group in groups.values() for name, does in group.items()
}

#: The actions that only the modal family has.
OF_MODAL = frozenset(name for group in MODAL_GROUPS.values() for name in group)
#: The actions of widgets that list choices, which mean nothing in a line.
CHOOSING = frozenset(GROUPS["Menus, checkboxes, yes or no"]) - {"toggle-answer"}

#: The layers of a family as people know them.
LAYER_NAMES = {
    "menu": "menus, checkboxes and the last look",
    "checkboxes": "checkboxes",
    "yes-no": "yes or no",
    "summary": "the last look at all values",
    "notice": "a text to be read",
}
