"""What lies outside a model is refused with a sentence, and nothing is guessed: the ranges are the models' own."""

from collections.abc import Callable

import numpy as np
import pytest

from brinefrost.core.chemistry.brine import (
    brine_density_kg_m3,
    percent_of_total,
    resting_salt_percent,
    salt_needed_kg,
    water_density_kg_m3,
)
from brinefrost.core.chemistry.diffusion import Piece, share_in_middle
from brinefrost.core.chemistry.jar import Jar, resting_ph
from brinefrost.core.chemistry.nitrite import as_ion_ppm, cure_for_ppm_kg, slip_suspected
from brinefrost.core.chemistry.water_activity import aw_of_salt, aw_of_sugar
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.cooling import pot_area_m2
from brinefrost.core.physics.freezing import FISH, pham_s
from brinefrost.core.physics.heat import heat_through
from brinefrost.core.physics.properties import properties_from_composition
from brinefrost.core.physics.reservoir import Reservoir, immerse

SLAB = Body(Shape.slab, 0.014, 1.2e-7, 0.48)


@pytest.mark.parametrize(
    ("ask", "words"),
    [
        (lambda: water_density_kg_m3(120), "0 to 100 °C"),
        (lambda: brine_density_kg_m3(40), "at most"),
        (lambda: resting_salt_percent(0, 0.7, 0.1, 1), "above zero"),
        (lambda: salt_needed_kg(1, 1, 60), "Strength"),
        (lambda: percent_of_total(-1, 1), ""),
        (lambda: share_in_middle(Piece(Shape.slab, 2.0, 4e-10), np.array([3600.0])), "0.2 to 400 mm"),
        (
            lambda: resting_ph(Jar(vegetable="fruit", vegetable_kg=0, vinegar_kg=0, vinegar_percent=5, water_kg=0)),
            "water",
        ),
        (
            lambda: resting_ph(
                Jar(
                    vegetable="carrot",
                    vegetable_kg=1,
                    vinegar_kg=0,
                    vinegar_percent=5,
                    water_kg=1,
                    other_acid="aqua",
                    other_acid_kg=1,
                )
            ),
            "Known acids",
        ),
        (lambda: cure_for_ppm_kg("dry", 5000, 6.25, 5, 0, 10), "0 to 1000 ppm"),
        (lambda: as_ion_ppm(-1), "negative"),
        (lambda: slip_suspected(100, 0), "above zero"),
        (lambda: aw_of_salt(-0.1, 1), "must not be negative"),
        (lambda: aw_of_sugar("honey", 0.1, 1), ""),
        (lambda: pot_area_m2(0, 0.1), "above zero"),
        (lambda: pham_s(FISH, Shape.slab, 0.03, 15, 4, -7, -8), "Freezing times are known"),
        (lambda: pham_s(FISH, Shape.slab, 0.03, 15, 4, -20, -5), "above the air"),
        (lambda: properties_from_composition({"water": 1.0}, 200), "0 to 150 °C"),
        (lambda: Reservoir(0.1, 60), "between 0.5 and 5000 kg"),
        (lambda: immerse(SLAB, 1, 1060, 4, 95, Reservoir(20, 60, 60, 2000), 0), "above zero"),
        (lambda: boiling_c(20_000), ""),
        (lambda: heat_through(SLAB, [], 4), ""),
    ],
)
def test_outside_its_range_a_model_refuses(ask: Callable[[], object], words: str) -> None:
    with pytest.raises(OutOfRangeError, match=words or ".") as refused:
        ask()
    assert refused.value.sentence.endswith(".")
