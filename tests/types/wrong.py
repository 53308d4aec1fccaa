"""Wrong uses, each with the error that a checker must give. Read by tests/types/test_types.py; nothing runs it."""

from wesperon import Form, Slot, fill, one_of, run, slot


class Exposure(Form):
    a = slot(int, default="x")  # error: Argument "default" to "slot" has incompatible type "str"
    b = slot(default=3)  # error: No overload variant of "slot" matches
    c = slot(int, many=True, default=3)  # error: No overload variant of "slot" matches
    d = slot(int, defualt=3)  # error: "defualt"
    e = slot(int, short=3)  # error: No overload variant of "slot" matches
    f = slot(int, exists="fille")  # error: No overload variant of "slot" matches
    g = slot(int, suggest_as="row")  # error: No overload variant of "slot" matches
    h = slot(one_of(["a"]), default=3)  # error: Argument "default" to "slot" has incompatible type "int"
    i = slot(dict[str, int], default=3)  # error: incompatible type "int"
    j = slot(int, exists="parents")  # error: No overload variant of "slot" matches
    k = slot("Which one?", hlep="x")  # error: "hlep"
    ll = slot("Which one?", default=3)  # error: No overload variant of "slot" matches
    frames = slot(int)


def use(record: Exposure) -> None:
    record.frames = 3  # error: expected "Never"
    record.frames + "x"  # error: Unsupported operand types
    record.framse  # error: has no attribute "framse"


class Small(Form):
    target: Slot[str] = slot()
    frames: Slot[int] = slot(int, default=1)


Small(target=3)  # error: incompatible type "int"
Small(targte="x")  # error: Unexpected keyword argument "targte"
fill(Small).targte  # error: has no attribute "targte"
fill(Small, confrim=True)  # error: No overload variant of "fill" matches
fill(Small, gate=3)  # error: No overload variant of "fill" matches
run(3)  # error: Argument 1 to "run" has incompatible type "int"
fill(3)  # error: No overload variant of "fill" matches
