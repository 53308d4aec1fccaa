"""What to write for a word of the trade that is no keyword here; read only where a declaration or a call is wrong.

A word is here only if several independent programs, or forms on the web, share it for the same thing.
"""

from __future__ import annotations

#: What to write in place of keywords of ``slot``: each sentence with the words that it answers.
SLOT: dict[str, tuple[str, ...]] = {
    "the kind comes first: slot(int), slot(Path), slot(one_of([...]))": (
        "type", "cls", "datatype", "dtype", "convert", "converter", "coerce", "cast", "parse", "parser",
        "transform", "format",
    ),
    "a value without default= is required": ("required", "mandatory", "needed", "notnull", "not_null", "obligatory"),
    "a value with a default is optional: write default=None, or default= with another value": (
        "optional", "nullable", "allow_none", "none", "allow_empty", "blank",
    ),
    "choices are a kind: slot(one_of([...])), or slot(any_of([...])) for several": (
        "choices", "choice", "options", "values", "enum", "allowed", "one_of", "any_of", "select", "items", "radio",
        "checkbox", "checkboxes",
    ),
    'the question comes after the kind: slot(int, "How many?")': (
        "prompt", "question", "message", "title", "caption", "label", "legend",
    ),
    "the name is that of the variable: count = slot(int) is --count": (
        "name", "key", "id", "long", "long_name", "names", "flags", "variable", "var",
    ),
    "the word for the value in help is that of the kind": ("placeholder",),
    "several values are many=True (the name repeated), or rest=True (all remaining words), with least= and most=": (
        "nargs", "multiple", "multi", "repeat", "repeatable", "repeated", "list", "is_list", "array", "variadic",
            ),
    "a value is given by position or by name; named_only=True leaves the name": (
        "positional", "position", "argument", "index", "pos", "is_positional", "keyword_only",     ),
    "a switch is slot(bool): --name, --no-name": ("flag", "switch", "boolean", "toggle", "action"),
    "lowest and highest are low= and high=": ("gt", "ge", "lt", "le", "range", "between", "bounds", "limit", "limits"),
    "of a text, low= and high= are the least and the most characters": (
        "length", "minlength", "maxlength", "min_length", "max_length", "size", "min_len", "max_len", "len",
    ),
    "how many values there are is least= and most=": ("min_items", "max_items", "min_count", "max_count", "at_least"),
    "a function that looks at the value is check=; it raises Complaint(...)": (
        "validate", "validator", "validators", "validation", "constraint", "constraints", "callback", "hook", "verify",
        "valid", "is_valid", "test", "rule", "rules",
    ),
    "a regular expression is pattern=, with pattern_says= for people": ("regex", "regexp", "match", "matches", "re"),
    "a value that nobody may see is secret=True": (
        "password", "hidden", "hide", "sensitive", "private", "masked", "echo", "silent", "obscure", "concealed",
    ),
    "a secret that is typed twice is twice=True": ("confirm", "confirmation", "confirm_password", "verify_password"),
    "a sentence for the help page is help=": ("description", "desc", "doc", "docs", "help_text", "tooltip", "comment"),
    "one letter is short=": ("alias", "aliases", "abbreviation", "abbrev", "letter", "short_name", "shortcut"),
    "the environment variable is env=": ("env_var", "environment", "environ", "from_env", "environment_var"),
    "standard input is piped=True": ("stdin", "pipe", "from_stdin", "std_in", "input"),
    "a settings file belongs to the program: settings=True": ("config", "config_file", "settings", "ini", "from_file"),
    "the value if none is given is default=, a function of the answers or a value": (
        "default_value", "default_factory", "factory", "fallback", "const", "constant", "value", "missing",
    ),
    "a start value that is still asked for is initial=": ("initial_value", "start", "prefill", "preset", "suggested"),
    "when the value is wanted is applies=, a function of the answers before": (
        "when", "condition", "depends_on", "show_if", "visible", "enabled", "disabled", "only_if", "requires",
        "skip", "skip_if", "active",
    ),
    "texts that are offered are suggest=": (
        "autocomplete", "completer", "completion", "complete", "completions", "suggestions", "hints",
    ),
    "a text of several lines is lines=True": ("multiline", "textarea", "rows", "multi_line", "paragraph"),
    "by how much arrow keys change it is step=": ("interval", "by"),
    'what a path leads to is exists="file", "folder", "either", "nothing" or "parent"': (
        "must_exist", "is_file", "is_dir", "file", "folder", "directory", "path",     ),
    "what is said beside a value is unit=": ("units", "suffix", "postfix", "append_text"),
    "an old name that goes on working is renamed_from=": ("deprecated", "old_name", "formerly", "replaces"),
    "colours while typing are syntax=": ("lexer", "language", "highlight", "highlighter"),
    "it is read-only as it is: a filled record does not change": ("readonly", "read_only", "frozen", "final"),
}  # fmt: skip

#: The same for keywords of ``Program``.
PROGRAM: dict[str, tuple[str, ...]] = {
    "commands and groups are members=[...]": (
        "commands", "subcommands", "command", "handlers", "routes", "tasks", "children",
        "groups", "cmds",
    ),
    "values that several commands take are shared=, a class of slots": (
        "options", "globals", "global_options", "common", "parent", "parents", "arguments", "params", "slots",
    ),
    "the first line of help is description=": ("help", "about", "desc", "doc", "summary", "title"),
    "the name comes first: Program(\"desk\")": ("program", "app", "appname", "app_name"),
    "the command that runs without a name is default_command=": ("default", "main", "callback", "run", "invoke"),
    "what is looked at before each command is gate=": ("before", "middleware", "hook", "hooks", "setup", "pre", "auth"),
    "a settings file is settings=True, or settings= with a name": ("config", "config_file", "conf", "configuration"),
    "a prompt over the commands is Console(program)": ("prompt", "shell", "interactive", "repl", "history"),
}  # fmt: skip

#: The same for attributes of a program that is there.
PROGRAM_METHODS: dict[str, tuple[str, ...]] = {
    "main() runs the command that the words name, and gives the exit status": (
        "run", "start", "execute", "exec", "invoke", "dispatch", "parse", "launch", "go",
    ),
    "commands are given as members=[...], when the program is made": (
        "command", "add", "add_command", "register", "group", "subcommand",
    ),
    "page() is its help page": ("help", "format_help"),
}  # fmt: skip

#: The same for keywords of ``Form.fill`` and ``fill``.
FILL: dict[str, tuple[str, ...]] = {
    "words are the first argument: fill([...], name=slot(int))": ("args", "argv", "words", "line", "arguments"),
    'whether it asks is asking="never", "missing" or "all"': ("interactive", "prompt", "ask", "quiet", "batch"),
    "each value is a slot: name=slot(...)": ("default", "type", "help"),
}  # fmt: skip

#: The same for keywords of ``Console``.
CONSOLE: dict[str, tuple[str, ...]] = {
    "the prompt is name=, and prompt= a function that gives it": ("label", "title"),
    "Ctrl-D and the command exit leave it; leave() does so from the program": ("exit", "quit", "stop", "eof"),
    "lines are kept with history=True, or in a file by its path": ("history_file", "save_history", "histfile"),
    "what runs a line of a language is evaluate=": ("execute", "handler", "callback", "eval", "run", "on_line"),
    "what completes a line is complete=": ("completer", "completion", "autocomplete"),
    "commands belong to a Program: Console(Program(..., members=[...]))": ("commands", "members", "cmds"),
}  # fmt: skip


#: The table of each class.
OF_CLASS = {"Program": PROGRAM, "Console": CONSOLE}


def advice(word: str, table: dict[str, tuple[str, ...]]) -> str:
    """Return what to write for a word, after a colon; an empty text if nobody knows."""
    asked = word.strip("_").casefold()
    return next((f": {sentence}" for sentence, words in table.items() if asked in words), "")
