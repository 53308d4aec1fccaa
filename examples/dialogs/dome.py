"""The console of a device with modes: the label says which, each has its commands, ``?`` lists what may follow."""

from wesperon import Console, Program, Refusal

state = {"mode": "watch", "azimuth": 0}


def setup() -> None:
    """Go to the setup, where the dome can be turned."""
    state["mode"] = "setup"


def watch() -> None:
    """Go back to watching."""
    state["mode"] = "watch"


def turn(to: int) -> str:
    """Turn the dome, in degrees."""
    state["azimuth"] = to % 360
    return show()


def show() -> str:
    """Say where the dome is."""
    return f"azimuth {state['azimuth']}"


def gate(path: tuple[str, ...], command: object, values: object) -> None:
    """Some commands are for one mode alone."""
    if path == ("turn",) and state["mode"] != "setup":
        raise Refusal("the dome turns in the setup only: setup")


program = Program("dome", members=[show, setup, watch, turn], gate=gate, bindings={"?": "list-candidates"})
raise SystemExit(Console(program, name=lambda: f"dome {state['mode']}", history=False).run())
