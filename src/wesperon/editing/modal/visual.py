"""Commands on what is selected in visual mode: characters, whole lines, or a block of columns."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import after, before
from wesperon.editing.modal.modal_text import SELECTING, Change, ModalText
from wesperon.editing.modal.motions import first_sign
from wesperon.editing.modal.operators import OPERATORS, SHIFT, SHIFTS, Span, joined
from wesperon.editing.modal.registers import Block, WholeLines
from wesperon.editing.modal.selection import BLOCK, CHARS, LINES, at_column, column_of, of_shape
from wesperon.editing.modal.text_objects import OBJECTS, OF_LINES
from wesperon.editing.text_state import TextState, insert, without

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Action
    from wesperon.editing.modal.selection import Selection, Shape

#: Commands that take whole lines, or in a block what is up to the ends of the lines.
OF_WHOLE_LINES = {
    "delete-selected-lines": "delete",
    "change-selected-lines": "change",
    "copy-selected-lines": "copy",
}


def do_on_selection(modal: ModalText, action: Action) -> bool:
    """Do a command of visual mode. Return False if it cannot be done."""
    editor, selection, name = modal.editor, modal.selection, action.name
    if name in SELECTING:
        if selection.sort == SELECTING[name]:
            modal.leave_selection(editor.draft.cursor)
        selection.sort = SELECTING[name]
        return True
    if name in ("exchange-ends", "exchange-sides"):
        return _exchange(modal, sides=name == "exchange-sides")
    if name in OBJECTS:
        return _select_object(modal, name, action)
    if name == "select-again":
        return modal.select_again()
    if not _changes(name):
        before_it = editor.draft.cursor
        done = modal.move(name, action)
        if done or editor.draft.cursor != before_it:
            selection.to_ends = name == "move-line-last-char" or (selection.to_ends and name.startswith("move-line-"))
        return done
    shape = selection.shape(editor.draft.text, editor.draft.cursor)
    done = _act(modal, action)
    if done and not name.startswith("copy"):
        modal.change = Change(action, shape)
    return done


def do_on_shape(modal: ModalText, action: Action, shape: Shape) -> bool:
    """Do a command on as much from the cursor on as was selected before."""
    modal.selection, cursor = of_shape(modal.editor.draft.text, modal.editor.draft.cursor, shape)
    modal.mode = "visual"
    modal.editor.move(cursor)
    return _act(modal, action)


def _changes(name: str) -> bool:
    """Return True if a command acts on the selection, and ends it."""
    return name.endswith("-selection") or name in OF_WHOLE_LINES or name.startswith("paste-over-")


def _exchange(modal: ModalText, *, sides: bool) -> bool:
    """Put the cursor at the other end; of a block, to the other side in the same line."""
    editor, selection = modal.editor, modal.selection
    text, cursor = editor.draft.text, editor.draft.cursor
    if sides and selection.sort == BLOCK:
        one, other = column_of(text, selection.anchor), column_of(text, cursor)
        selection.anchor = at_column(text, line_start(text, selection.anchor), other)
        editor.move(at_column(text, line_start(text, cursor), one))
        return True
    selection.anchor, there = cursor, selection.anchor
    editor.move(there)
    return True


def _select_object(modal: ModalText, name: str, action: Action) -> bool:
    """Select an object; if something is selected already, the next one with it, or the one around it."""
    editor, selection = modal.editor, modal.selection
    text, cursor = editor.draft.text, editor.draft.cursor
    count = max(action.count or 1, 1)
    start, end = selection.ends(cursor)
    if start == end:
        found = OBJECTS[name](text, cursor, count)
    elif cursor >= selection.anchor:
        found = OBJECTS[name](text, cursor, count)
        if found is not None and found[1] <= after(text, cursor):  # it ends here already
            further = OBJECTS[name](text, min(after(text, cursor), len(text)), count)
            around = OBJECTS[name](text, cursor, count + 1)
            found = further if further is not None and further[0] > start else around
        if found is not None and found[0] > start:
            found = (start, found[1])
    else:
        found = OBJECTS[name](text, cursor, count)
    if found is None or found[0] == found[1]:
        return False
    if name in OF_LINES:
        selection.sort = LINES
    selection.anchor = found[0]
    editor.move(max(before(text, found[1]), found[0]))
    return True


def _act(modal: ModalText, action: Action) -> bool:
    """Do a command that changes or copies what is selected."""
    editor, selection, name = modal.editor, modal.selection, action.name
    text, cursor = editor.draft.text, editor.draft.cursor
    count = 1 if action.count is None else max(action.count, 1)
    start, last = selection.ends(cursor)
    spans, sort = selection.spans(text, cursor), selection.sort
    if name in OF_WHOLE_LINES:
        operator = OF_WHOLE_LINES[name]
        if sort == BLOCK and operator == "copy":
            return _operate_on_block(modal, operator, spans, action.register)
        if sort == BLOCK:
            selection.to_ends = True
            return _operate_on_block(modal, operator, selection.spans(text, cursor), action.register)
        modal.leave_selection(start)
        return modal.apply(operator, _lines(modal, start, last), action.register)
    operator = name.removesuffix("-selection")
    if operator in ("insert-before", "insert-after"):
        return _insert(modal, spans, after_it=operator == "insert-after")
    if operator in OPERATORS:
        if sort == BLOCK:
            return _operate_on_block(modal, operator, spans, action.register, count)
        modal.leave_selection(start)
        if sort == LINES or operator in SHIFTS:
            return modal.apply(operator, _lines(modal, start, last), action.register, count)
        return modal.apply(operator, Span(*spans[0], start), action.register)
    if operator in ("join", "join-bare"):
        modal.leave_selection(start)
        lines = text.count("\n", start, last)
        made = joined(text, start, max(lines, 1), with_blanks=operator == "join")
        if made is not None:
            modal.become(TextState(*made))
        return made is not None
    if name == "replace-selection":
        modal.leave_selection(start)
        for first, end in reversed(spans):
            put = "".join([char if char == "\n" else action.text for char in text[first:end]])
            text = text[:first] + put + text[end:]
        modal.become(TextState(text, spans[0][0]))
        return True
    return _paste_over(modal, action, spans, count, keeps=name == "paste-over-and-keep")


def _lines(modal: ModalText, start: int, last: int) -> Span:
    """Return the whole lines of a selection; in one line, its characters."""
    text = modal.editor.draft.text
    first = line_start(text, start)
    begins = modal.selection.anchor < last or last <= line_end(text, start)
    return Span(first, line_end(text, last), first if begins else start, lines=modal.has_lines)


def _operate_on_block(
    modal: ModalText, operator: str, spans: list[tuple[int, int]], register: str, times: int = 1
) -> bool:
    """Do an operator on each row of a block."""
    editor, selection = modal.editor, modal.selection
    text, cursor = editor.draft.text, spans[0][0]
    left = selection.columns(text, editor.draft.cursor)[0]
    taken = Block("\n".join(_block_rows(selection, text, editor.draft.cursor, spans)))
    modal.leave_selection(cursor)
    if operator == "copy":
        modal.registers.copied(taken, register)
        return True
    change = OPERATORS[operator]
    if operator in ("delete", "change"):
        modal.remember_step()
        modal.registers.deleted(taken, register, is_large=False)
    for start, end in reversed(spans):
        if operator == "shift-forward":
            put = " " * (SHIFT * times) if start < line_end(text, start) else ""
            text = text[:start] + put + text[start:]
        elif operator == "shift-back":
            blanks = len(text[start : line_end(text, start)]) - len(text[start : line_end(text, start)].lstrip(" "))
            text = text[:start] + text[start + min(blanks, SHIFT * times) :]
        else:
            text = text[:start] + (change(text[start:end]) if change is not None else "") + text[end:]
    modal.become(TextState(text, cursor))
    if operator == "change":
        modal.insert_in_rows(_rows_reaching(spans, editor.draft.text, left), left)
    elif operator == "delete":
        modal.join_steps()
    return True


def _block_rows(selection: Selection, text: str, cursor: int, spans: list[tuple[int, int]]) -> list[str]:
    """Return the rows of a block as registers keep them: blanks for those that do not reach its left side."""
    left, right = selection.columns(text, cursor)
    blanks = "" if right is None else " " * (right - left)
    return [blanks if column_of(text, line_end(text, start)) < left else text[start:end] for start, end in spans]


def _rows_reaching(spans: list[tuple[int, int]], text: str, column: int) -> list[int]:
    """Return the rows below the first of a block, of those that reach its left side, counted from the first."""
    first = line_start(text, spans[0][0])
    rows = []
    for number in range(1, len(spans)):
        first = line_end(text, first) + 1
        if column_of(text, line_end(text, first)) >= column:
            rows.append(number)
    return rows


def _insert(modal: ModalText, spans: list[tuple[int, int]], *, after_it: bool) -> bool:
    """Insert before or after what is selected; in a block, in each of its rows."""
    editor, selection = modal.editor, modal.selection
    text, cursor = editor.draft.text, editor.draft.cursor
    sort, to_ends = selection.sort, selection.to_ends
    left, right = selection.columns(text, cursor) if sort == BLOCK else (0, 0)
    start, end = spans[0]
    modal.leave_selection(start)
    modal.remember_step()
    if sort != BLOCK:
        last = spans[-1][1]
        at = (
            (last if after_it else start)
            if sort == CHARS
            else line_end(text, last)
            if after_it
            else line_start(text, start)
        )
        editor.move(min(at, len(text)))
        modal.insert_in_rows([], 0)
        return True
    if not after_it:
        editor.move(start)
        modal.insert_in_rows(_rows_reaching(spans, text, left), left, start)
        return True
    column = None if to_ends else right
    if column is not None and column_of(text, end) < column:  # the first row is shorter: blanks up to there
        pad = " " * (column - column_of(text, end))
        editor.replace(insert(TextState(text, end), pad))
        end += len(pad)
    editor.move(end)
    modal.insert_in_rows(list(range(1, len(spans))), column, start)
    return True


def _paste_over(modal: ModalText, action: Action, spans: list[tuple[int, int]], count: int, *, keeps: bool) -> bool:
    """Put what was taken before in the place of the selection, which is what was taken now unless it ``keeps`` that."""
    # What is to be put in is read first: what is taken away may go to the same register.
    text = modal.registers.text(action.register)
    modal.remember_step()
    steps = modal.since
    sort = modal.selection.sort if modal.has_lines or modal.selection.sort != LINES else CHARS
    OVER[sort](modal, spans, text, count, "_" if keeps else "")
    if steps is not None:  # taking away and putting in is one step, though each begins one
        modal.since = steps
        modal.join_steps()
    return True


def _over_block(modal: ModalText, spans: list[tuple[int, int]], text: str, count: int, register: str) -> None:
    """Put a text over a block; a text of one line goes into each of its rows."""
    editor, start = modal.editor, spans[0][0]
    _operate_on_block(modal, "delete", spans, register)
    is_for_each = bool(text) and not isinstance(text, (Block, WholeLines)) and "\n" not in text and len(spans) > 1
    is_at_end = _to_insertion(modal, start)
    corner = editor.draft.cursor + is_at_end
    if text:
        modal.put(Block("\n".join([text] * len(spans))) if is_for_each else text, count, after_cursor=is_at_end)
    if is_for_each:
        editor.move(corner + len(text) * count - 1)


def _over_lines(modal: ModalText, spans: list[tuple[int, int]], text: str, count: int, register: str) -> None:
    """Put a text over whole lines, as lines of its own."""
    editor, (start, end) = modal.editor, spans[0]
    is_last = end == len(editor.draft.text)
    has_others = start > 0 or not is_last
    modal.leave_selection(start)
    modal.apply("delete", _lines(modal, start, end), register)
    if not text:
        return
    lines = text if isinstance(text, WholeLines) else WholeLines(text + "\n")
    if has_others:
        modal.put(lines, count, after_cursor=is_last)
    else:  # an empty text is left, which is a line: it would stay beside those that are put in
        modal.become(TextState((lines * count)[:-1], 0))
        editor.move(first_sign(editor.draft.text, 0))


def _over_chars(modal: ModalText, spans: list[tuple[int, int]], text: str, count: int, register: str) -> None:
    """Put a text over characters; whole lines break the line in two and are between its parts."""
    editor, (start, end) = modal.editor, spans[0]
    before_it = editor.draft.text
    modal.leave_selection(start)
    modal.registers.deleted(before_it[start:end], register, is_large=False)
    rest = without(TextState(before_it, start), start, end)
    if isinstance(text, WholeLines) and modal.has_lines:
        modal.become(TextState(f"{rest.text[:start]}\n{text * count}{rest.text[start:]}", start + 1))
        editor.move(first_sign(editor.draft.text, start + 1))
        return
    editor.replace(rest)
    if text:
        modal.put(text, count, after_cursor=_to_insertion(modal, start))


def _to_insertion(modal: ModalText, start: int) -> bool:
    """Go to where something is to be put in at an offset. Return True if it goes after the cursor.

    Nothing is put before the end of a line, since no command has its cursor there: it goes after the last character.
    """
    text = modal.editor.draft.text
    is_at_end = start >= line_end(text, start) and start > line_start(text, start)
    modal.editor.move(before(text, start) if is_at_end else start)
    return is_at_end


#: How a text is put over a selection, by its sort.
OVER: dict[str, Callable[[ModalText, list[tuple[int, int]], str, int, str], None]] = {
    BLOCK: _over_block,
    LINES: _over_lines,
    CHARS: _over_chars,
}
