"""Themes: contrast, nothing told by colour alone, and what a terminal with fewer colours gets.

Modules: ``screen.themes``, ``screen.theme``.
"""

from __future__ import annotations

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import DeclarationError, Form, Program, slot, styled
from wesperon.screen.renditions import COLOURS, NAMES, STYLES, rendition, rgb_of, rgb_of_number
from wesperon.screen.theme import COLOURED, UNCOLOURED, colours_of
from wesperon.screen.themes import COLOURLESS, GROUNDS, ROLES, THEMES, look_of
from wesperon.testing import Press, Scripted
from wesperon.values import Complaint

DEPTHS = (0, 8, 16, 256, 1 << 24)


def luminance(rgb: tuple[int, int, int]) -> float:
    """Return the relative luminance of a colour (WCAG 2, from 0 to 1)."""
    parts = [part / 255 for part in rgb]
    red, green, blue = (part / 12.92 if part <= 0.03928 else ((part + 0.055) / 1.055) ** 2.4 for part in parts)
    return 0.2126 * red + 0.7152 * green + 0.0722 * blue


def contrast(one: tuple[int, int, int], other: tuple[int, int, int]) -> float:
    """Return the contrast of two colours (WCAG 2, from 1 to 21)."""
    dark, light = sorted((luminance(one), luminance(other)))
    return (light + 0.05) / (dark + 0.05)


def colour_sent(parameters: str) -> tuple[int, int, int] | None:
    """Return the foreground of a rendition, where it is known: a colour of the 256 or a full one."""
    full = re.search(r"38;2;(\d+);(\d+);(\d+)", parameters)
    if full:
        return int(full[1]), int(full[2]), int(full[3])
    number = re.search(r"38;5;(\d+)", parameters)
    return rgb_of_number(int(number[1])) if number else None


@pytest.mark.parametrize("depth", [256, 1 << 24])
@pytest.mark.parametrize("name", GROUNDS)
def test_every_role_is_read_on_the_ground_of_its_theme(name: str, depth: int) -> None:
    ground = rgb_of(GROUNDS[name])
    assert ground is not None
    for role, parameters in look_of(name, depth)[0].items():
        colour = colour_sent(parameters)
        assert colour is not None, role
        assert contrast(colour, ground) >= 4.5, (role, parameters)


#: The sixteen colours that xterm has where nobody sets others, the eighth of them its own text.
XTERM = (
    "000000 cd0000 00cd00 cdcd00 0000ee cd00cd 00cdcd e5e5e5 7f7f7f ff0000 00ff00 ffff00 5c5cff ff00ff 00ffff ffffff"
)


@pytest.mark.parametrize("name", THEMES)
@pytest.mark.parametrize("depth", DEPTHS)
def test_every_role_is_read_where_the_terminal_has_its_usual_colours(name: str, depth: int) -> None:
    """What is dim is taken to lose a third of its colour to the ground."""
    ground = rgb_of(GROUNDS.get(name, "#000000")) if depth > 16 else (0, 0, 0)
    assert ground is not None
    shown = {}
    for role, parameters in look_of(name, depth)[0].items():
        parts = parameters.split(";")
        number = next((int(part) for part in parts if part in map(str, (*range(30, 38), *range(90, 98)))), None)
        is_bright = number is not None and (number >= 90 or (depth == 8 and "1" in parts))  # as bold is shown there
        palette = XTERM.split()[7 if number is None else number % 10 + 8 * is_bright]
        colour = colour_sent(parameters) or rgb_of(f"#{palette}") or ground
        if "2" in parts and "38" not in parts:
            red, green, blue = ((2 * one + other) // 3 for one, other in zip(colour, ground, strict=True))
            colour = red, green, blue
        shown[role] = contrast(colour, ground)
        assert shown[role] >= 4.5, (role, parameters)
    if name != "high-contrast":  # in which nothing is dimmer than anything else
        assert shown["question"] > min(shown.values()), "instructions are the dimmest text"


@pytest.mark.parametrize("name", THEMES)
def test_no_role_is_told_by_colour_alone(name: str) -> None:
    assert set(THEMES[name]) == set(ROLES)
    for role, words in THEMES[name].items():
        styles = {word for word in words.split() if word in STYLES}
        if role in ("current", "current-match", "selected", "match", "fault", "marked", "known", "title"):
            assert set(COLOURLESS[role].split()) <= styles, role
        assert set(COLOURLESS[role].split()) <= set(STYLES)
    assert look_of(name, 0)[0] == look_of("colourless", 0)[0]


def test_the_usual_looks_are_those_of_the_palette() -> None:
    assert look_of("palette", 16)[0] == COLOURED
    assert look_of("palette", 0)[0] == UNCOLOURED


@given(
    st.lists(st.sampled_from([*STYLES, *NAMES, "on-blue", "#12ab9f", "on-#000000", "208", "on-3"]), max_size=4),
    st.sampled_from(DEPTHS),
)
def test_what_a_terminal_does_not_have_is_never_sent(words: list[str], depth: int) -> None:
    sent = rendition(" ".join(words), depth)
    numbers = [int(part) for part in sent.split(";") if part]
    if depth < 1 << 24:
        assert not re.search(r"\b[34]8;2;", sent)
    if depth < 256:
        assert not re.search(r"\b[34]8;5;", sent)
        assert all(number < 108 for number in numbers)
    if depth == 8:
        assert all(number < 50 for number in numbers)
    if depth == 0:
        assert all(number < 10 for number in numbers)
        assert [STYLES[word] for word in words if word in STYLES] == [part for part in sent.split(";") if part]


@given(st.text(max_size=8), st.sampled_from(DEPTHS))
def test_any_text_is_a_rendition_or_is_refused_with_a_reason(text: str, depth: int) -> None:
    fault, sent = "", ""
    try:
        sent = rendition(text, depth)
    except Complaint as complaint:
        fault = complaint.reason
    assert "is not a style or a colour" in fault or set(sent) <= set("0123456789;")


def test_what_is_wrong_with_a_theme_is_reported_with_the_nearest() -> None:
    with pytest.raises(Complaint, match=r'"drk" is not a theme; nearest: dark; there are palette, dark, light'):
        look_of("drk", 16)
    _, faults = look_of("dark", 16, {"fautl": "bold", "fault": "bold cyann", "label": "cyan"})
    assert faults["fautl"].startswith('"fautl" is no role; nearest: fault')
    assert faults["fault"] == '"cyann" is not a style or a colour; nearest: cyan'
    assert "label" not in faults
    with pytest.raises(DeclarationError, match=r"theme: fault: .*cyann"):
        Program("desk", theme={"fault": "cyann"})

    class Plan(Form):
        target = slot()

    with pytest.raises(DeclarationError, match="drk"):
        Plan.fill([], theme="drk", driver=Scripted(["x", Press("enter")]))
    assert Plan.fill([], theme="light", driver=Scripted(["x", Press("enter")])).target == "x"
    with pytest.raises(DeclarationError, match="bolt"):
        styled("x", "bolt")


def test_a_terminal_says_how_many_colours_it_has() -> None:
    assert colours_of({"TERM": "xterm-256color", "NO_COLOR": "1"}) == 0
    assert colours_of({"TERM": "xterm-256color", "COLORTERM": "truecolor"}) == 1 << 24
    assert len(COLOURS) == 8


def test_the_theme_of_high_contrast_dims_nothing_and_has_no_colour() -> None:
    for parameters in THEMES["high-contrast"].values():
        assert {*parameters.split()} <= {"bold", "underline", "reverse", "italic"}
