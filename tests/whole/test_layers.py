"""The contract of the folders finds what breaks it."""

from __future__ import annotations

from pathlib import Path

from scripts.circles import circles, undocumented
from scripts.handlers import silent
from scripts.layers import broken, long_signatures, private_uses, sentences
from tests.tables import tabled


@tabled
def test_a_module_that_breaks_a_rule_is_named(fault: str, where: str, text: str, said: str, tmp_path: Path) -> None:
    path = tmp_path / where
    path.parent.mkdir()
    path.write_text(text, encoding="utf-8")
    faults = [*broken(tmp_path), *sentences(tmp_path), *private_uses(tmp_path), *long_signatures(tmp_path)]
    assert any(said in one and where in one for one in faults), (fault, faults)


def test_a_circle_is_found_whichever_way_a_module_is_imported(tmp_path: Path) -> None:
    for name, text in {
        "a": "from wesperon.one import b",
        "b": "def f():\n    from wesperon.one.c import g",
        "c": "if TYPE_CHECKING:\n    import wesperon.one.d\nelse:\n    d = later('wesperon.one.d')",
        "d": "a = later('wesperon.one.a')",
        "e": "from wesperon.one.a import f",
    }.items():
        path = tmp_path / "wesperon" / "one" / f"{name}.py"
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text + "\n", encoding="utf-8")
    circle = ("one.a", "one.b", "one.c", "one.d")
    assert list(circles(tmp_path / "wesperon")) == [circle]
    assert list(undocumented(tmp_path / "wesperon", {circle: "because"})) == []
    wrong = list(undocumented(tmp_path / "wesperon", {("one.a", "one.e"): "because"}))
    assert [one.partition(":")[0] for one in wrong] == ["a circle that is not written down", "is no circle"]
    path.with_name("c.py").write_text("if TYPE_CHECKING:\n    import wesperon.one.d\n", encoding="utf-8")
    assert list(circles(tmp_path / "wesperon")) == [circle]
    wrong = list(undocumented(tmp_path / "wesperon", {circle: "because"}))
    assert [one.partition(":")[0] for one in wrong] == ["a circle for types alone"]


def test_a_handler_that_drops_an_error_says_why(tmp_path: Path) -> None:
    path = tmp_path / "one.py"
    for handler, is_silent in {
        "except OSError:\n    pass": True,
        "except (KeyError, os.error, ValueError):\n    pass": True,
        "except:\n    pass": True,
        "except OSError:  # gone\n    pass": False,
        "except OSError:\n    # gone\n    pass": False,
        "except KeyError:\n    pass": False,
        "except OSError as error:\n    raise TypeError from error": False,
        "except OSError:\n    tell()": False,
    }.items():
        path.write_text("try:\n    f()\n" + handler + "\n", encoding="utf-8")
        assert bool(list(silent(tmp_path))) is is_silent, handler
