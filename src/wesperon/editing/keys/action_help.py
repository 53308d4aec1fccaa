"""What every action is for, in the order of the page of keys: read by that page, and where bindings are checked."""

from __future__ import annotations

#: Group to the actions in it, each with what it does.
GROUPS: dict[str, dict[str, str]] = {
    "Moving": {
        "move-char-back": "a character to the left",
        "move-char-forward": "a character to the right; at the end, take what is hinted at",
        "move-word-back": "to the beginning of the word before",
        "move-word-forward": "to the end of the word after",
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
        "accept-and-recall": "accept, and have the entry that followed this one in the next line",
        "complete": "complete the word; list what it may become",
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

#: Every act with what it does.
ACTIONS: dict[str, str] = {name: does for group in GROUPS.values() for name, does in group.items()}

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
