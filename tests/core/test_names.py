"""A name is what it looks like: in any script, and no other than it seems."""

import pytest

from brinefrost.core.names import check_name


@pytest.mark.parametrize(
    "name",
    [
        "Ilse Brandvik",
        "Tomasz Źrebiec",
        "Анна",
        "王小明",
        "José-María O’Neill",
        "Probe 1 (walk-in)",
        "Ω-meter",
        "pH meter",
    ],
)
def test_names_of_every_script_are_taken(name: str) -> None:
    assert check_name(name) == name


def test_one_spelling_is_kept() -> None:
    assert check_name("  Zo\u0065\u0308 ") == "Zo\u00eb"


@pytest.mark.parametrize(
    "name",
    [
        "Anna\u200b Lead",  # a space of no width
        "Anna\u202eLead",  # read from the right
        "Anna\nLead",
        "Anna\x1fLead",
        "\u0410nna Lead",  # a Cyrillic A
        "Ann\u0430 Lead",
        "Il\u03bfse",  # a Greek o
    ],
)
def test_what_stands_for_another_name_is_refused(name: str) -> None:
    with pytest.raises(ValueError, match="name"):
        check_name(name)
