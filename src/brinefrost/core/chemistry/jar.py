"""A jar of vegetables and brine: where its pH comes to rest, and what it takes to bring it lower."""

import tomllib
from functools import lru_cache
from importlib import resources
from typing import Literal

from pydantic import Field

from brinefrost.core.bounds import AT_LEAST_0, PH, bounded
from brinefrost.core.chemistry.acid import ACIDS, Balance, Solution, balance
from brinefrost.core.chemistry.brine import SALT_G_MOL
from brinefrost.core.errors import NotFoundError, OutOfRangeError
from brinefrost.core.roots import changeover, zero_of
from brinefrost.core.words import joined, say
from brinefrost.core.working import Document

DOUBT_PH = 0.2  # how far vegetables differ by lot; common practice, no source
VegetableKey = Literal[
    "cucumber",
    "courgette",
    "kohlrabi",
    "cabbage",
    "carrot",
    "onion",
    "beetroot",
    "cauliflower",
    "pepper",
    "green_bean",
    "mushroom",
    "garlic",
    "cooked_bean",
    "tomato",
    "fruit",
]


class Vegetable(Document):
    """What a vegetable brings into a jar."""

    key: str
    name: str
    ph: float
    buffer_mmol_kg: float
    water_share: float
    of: tuple[str, ...] = ()  # the catalogue's ingredients that it stands for
    low_acid: bool = True
    note: str = ""


class Jar(Document):
    """What goes in, by mass."""

    vegetable: str
    vegetable_kg: float = Field(ge=0, le=1000)
    vinegar_kg: float = Field(ge=0, le=1000)
    vinegar_percent: float = Field(ge=0, le=30)
    water_kg: float = Field(ge=0, le=1000)
    salt_kg: float = Field(default=0, ge=0, le=300)
    sugar_kg: float = Field(default=0, ge=0, le=1000)
    other_acid: str = ""
    other_acid_kg: float = Field(default=0, ge=0, le=100)


@lru_cache(maxsize=1)
def vegetables() -> dict[str, Vegetable]:
    """All vegetables by key."""
    text = resources.files(__name__.rpartition(".")[0]).joinpath("vegetables.toml").read_text(encoding="utf-8")
    found = [Vegetable.model_validate(each) for each in tomllib.loads(text)["vegetables"]]
    return {each.key: each for each in found}


def vegetable(key: str) -> Vegetable:
    """The vegetable of a key."""
    if key not in vegetables():
        raise NotFoundError(say("chemistry.jar.there_is_no_buffer_known_for", key=key), vegetable=key)
    return vegetables()[key]


def water_kg(jar: Jar) -> float:
    """All the water of a jar: brine, vinegar and vegetable together [kg].

    Valid for any jar; a mass balance.
    """
    acetic = jar.vinegar_kg * jar.vinegar_percent / 100
    return jar.water_kg + jar.vinegar_kg - acetic + jar.vegetable_kg * vegetable(jar.vegetable).water_share


@bounded(buffer_factor=AT_LEAST_0)
def solution_of(jar: Jar, buffer_factor: float = 1.0) -> Solution:
    """What the water of a jar holds at rest.

    Parameters
    ----------
    jar : Jar
        Masses [kg] and the vinegar's strength [% w/v].
    buffer_factor : float
        The vegetable's buffer against the table's value [-].

    Returns
    -------
    Solution
        [mol/kg water].

    Raises
    ------
    OutOfRangeError
        If there is no water, or an acid is not known.

    Notes
    -----
    Valid once acid and salt are even throughout the jar.

    References
    ----------
    Mass balance; buffers from ``vegetables.toml``.
    """
    water, veg = water_kg(jar), vegetable(jar.vegetable)
    if not water > 0:
        raise OutOfRangeError(say("chemistry.jar.there_is_no_water_in_the"))
    acids = {"acetic": jar.vinegar_kg * jar.vinegar_percent * 10 / ACIDS["acetic"][1] / water}
    if jar.other_acid and jar.other_acid_kg > 0:
        if jar.other_acid not in ACIDS:
            raise OutOfRangeError(say("chemistry.jar.known_acids_are", acids=joined(ACIDS, ", ")), acid=jar.other_acid)
        more = jar.other_acid_kg * 1000 / ACIDS[jar.other_acid][1] / water
        acids[jar.other_acid] = acids.get(jar.other_acid, 0.0) + more
    buffer = veg.buffer_mmol_kg / 1000 * jar.vegetable_kg / water * buffer_factor
    return Solution(acids, 0.0, jar.salt_kg * 1000 / SALT_G_MOL / water, buffer, veg.ph)


@bounded(buffer_factor=AT_LEAST_0)
def resting_ph(jar: Jar, buffer_factor: float = 1.0) -> Balance:
    """Equilibrium pH of a jar.

    Parameters
    ----------
    jar : Jar
        Masses [kg] and the vinegar's strength [% w/v].
    buffer_factor : float
        The vegetable's buffer against the table's value [-].

    Returns
    -------
    Balance
        pH [-] and what belongs to it.

    Raises
    ------
    OutOfRangeError
        As ``solution_of``.

    Notes
    -----
    Valid as a plan: vegetables differ by lot, so the pH of a blended sample decides.

    References
    ----------
    As ``balance``.
    """
    return balance(solution_of(jar, buffer_factor))


@bounded(target_ph=PH, buffer_factor=AT_LEAST_0)
def vinegar_needed_kg(jar: Jar, target_ph: float, buffer_factor: float = 1.0) -> float | None:
    """Vinegar that brings the jar to a pH, everything else as it is.

    Parameters
    ----------
    jar : Jar
        Its own vinegar is left out of account [kg].
    target_ph : float
        [-].
    buffer_factor : float
        The vegetable's buffer against the table's value [-].

    Returns
    -------
    float or None
        [kg]; 0 when none is needed, None when not even twenty times the vegetable's mass is enough.

    Raises
    ------
    OutOfRangeError
        If the strength is not above zero or the target not 2.5 to 6.

    Notes
    -----
    Valid as ``resting_ph``; more acid never raises pH.

    References
    ----------
    Bisection on ``resting_ph``.
    """
    if not (jar.vinegar_percent > 0 and 2.5 <= target_ph <= 6):
        raise OutOfRangeError(say("chemistry.jar.a_target_of_ph_2_5"))

    def enough(kg: float) -> bool:
        return resting_ph(jar.model_copy(update={"vinegar_kg": kg}), buffer_factor).ph <= target_ph

    return changeover(enough, 0.0, 20 * max(jar.vegetable_kg, 0.1), 1e-4 * max(jar.vegetable_kg, 0.1))


@bounded(measured_ph=PH, target_ph=PH)
def vinegar_to_add_kg(jar: Jar, measured_ph: float, target_ph: float) -> tuple[float | None, float]:
    """Vinegar to add now to a jar whose pH was measured.

    Parameters
    ----------
    jar : Jar
        What went in [kg].
    measured_ph : float
        Of a blended sample at rest [-].
    target_ph : float
        [-].

    Returns
    -------
    (float or None, float)
        Vinegar to add [kg], and the vegetable's buffer against the table's value that the measurement shows [-].

    Raises
    ------
    OutOfRangeError
        If no buffer explains the measurement: then what went in is not what was written down.

    Notes
    -----
    Valid for a jar at rest: the measurement replaces the table's buffer, so what is left to assume is little.

    References
    ----------
    As ``balance``.
    """
    shown = zero_of(lambda factor: resting_ph(jar, factor).ph - measured_ph, 0.02, 12.0, 1e-4)
    whole = vinegar_needed_kg(jar, target_ph, shown)
    return (None if whole is None else max(0.0, whole - jar.vinegar_kg)), shown
