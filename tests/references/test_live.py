"""The core against independent programs, run live where ``requirements/references.in`` is installed."""

from typing import Any

import numpy as np
import pytest

from brinefrost.core.chemistry.acid import Solution, balance
from brinefrost.core.chemistry.brine import brine_density_kg_m3
from brinefrost.core.chemistry.water_activity import aw_of_salt
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.humid_air import wet_bulb_c
from brinefrost.core.physics.properties import properties_from_composition
from tests.core.chemicals import molality_of

pytestmark = pytest.mark.filterwarnings("ignore")


@pytest.mark.parametrize("dry", [10.0, 30.0, 60.0, 90.0])  # its own search fails above
@pytest.mark.parametrize("humidity", [0.2, 0.4])
@pytest.mark.parametrize("altitude", [0.0, 2140.0])
def test_wet_bulb_by_psychrolib(dry: float, humidity: float, altitude: float) -> None:
    library: Any = pytest.importorskip("psychrolib")
    library.SetUnitSystem(library.SI)
    pressure = library.GetStandardAtmPressure(altitude)
    theirs = library.GetTWetBulbFromRelHum(dry, humidity, pressure)
    assert wet_bulb_c(dry, humidity, altitude) == pytest.approx(theirs, abs=0.01)


@pytest.mark.parametrize(
    ("part", "fluid"), [("protein", "FoodProtein"), ("fat", "FoodFat"), ("water", "FoodWater"), ("ash", "FoodAsh")]
)
def test_food_properties_by_coolprop(part: str, fluid: str) -> None:
    library: Any = pytest.importorskip("CoolProp.CoolProp")
    for temperature in (5.0, 30.0, 75.0):
        found = properties_from_composition({part: 1.0}, temperature)
        got = (found.conductivity_w_mk, found.density_kg_m3, found.heat_capacity_j_kgk)
        keys = ("conductivity", "D", "C")
        theirs = [library.PropsSI(k, "T", temperature + 273.15, "P", 101325, f"INCOMP::{fluid}") for k in keys]
        assert got == pytest.approx(theirs, rel=1e-5)


def test_boiling_point_by_coolprop() -> None:
    library: Any = pytest.importorskip("CoolProp.CoolProp")
    for altitude in (0.0, 500.0, 1000.0, 2140.0, 3000.0):
        pressure = 101325 * (1 - 0.0065 * altitude / 288.15) ** 5.255877
        assert boiling_c(altitude) == pytest.approx(
            library.PropsSI("T", "P", pressure, "Q", 0, "Water") - 273.15, abs=0.05
        )


def _phreeqc(database: str, text: str, *wanted: str) -> list[float]:
    library: Any = pytest.importorskip("phreeqc")
    engine = library.Phreeqc()
    engine.LoadBuiltInDatabase(database)
    engine.RunString(text)
    rows, columns = engine.GetSelectedOutputRowCount(), engine.GetSelectedOutputColumnCount()
    head = [str(engine.GetSelectedOutputValue(0, column)).lower() for column in range(columns)]
    return [float(engine.GetSelectedOutputValue(rows - 1, head.index(each))) for each in wanted]


@pytest.mark.parametrize("percent", [3.5, 7.0, 10.0, 16.0, 20.0])
def test_salt_water_by_phreeqc(percent: float) -> None:
    molal = percent * 1000 / 58.443 / (100 - percent)
    for temperature in (25.0, 15.56):
        text = (
            f"SOLUTION 1\n temp {temperature}\n units mol/kgw\n Na {molal}\n Cl {molal}\n"
            'SELECTED_OUTPUT\n -reset false\nUSER_PUNCH\n -headings aw rho\n 10 PUNCH ACT("H2O"), RHO\nEND\n'
        )
        activity, density = _phreeqc("pitzer.dat", text, "aw", "rho")
        if temperature == 25.0:
            assert aw_of_salt(percent, 100 - percent) == pytest.approx(activity, abs=6e-4)
        else:
            assert brine_density_kg_m3(percent) == pytest.approx(1000 * density, abs=0.8)


@pytest.mark.parametrize("percent", [1.0, 3.0, 5.0])
def test_vinegar_by_phreeqc(percent: float) -> None:
    molal = molality_of("acetic", percent)
    text = (
        f"SOLUTION 1\n temp 25\n units mol/kgw\n pH 3 charge\n Acetate {molal}\n"
        "SELECTED_OUTPUT\n -reset false\n -pH true\nEND\n"
    )
    (theirs,) = _phreeqc("minteq.v4.dat", text, "ph")
    assert balance(Solution({"acetic": molal})).ph == pytest.approx(theirs, abs=0.01)


def test_a_jar_by_finite_elements() -> None:
    """Axisymmetric quadratic elements, Crank-Nicolson after four implicit half steps."""
    fem: Any = pytest.importorskip("skfem")
    from scipy.sparse.linalg import splu
    from skfem.helpers import dot, grad

    radius, half, alpha, k, h, start, bath = 0.04, 0.055, 1.35e-7, 0.55, 95.0, 20.0, 82.0
    mesh = fem.MeshQuad.init_tensor(np.linspace(0, radius, 31), np.linspace(0, half, 31))
    mesh = mesh.with_boundaries({"r": lambda x: np.isclose(x[0], radius), "z": lambda x: np.isclose(x[1], half)})
    element = fem.ElementQuad2()
    basis = fem.Basis(mesh, element)
    stiff = k * fem.BilinearForm(lambda u, v, w: dot(grad(u), grad(v)) * w.x[0]).assemble(basis)
    mass = k / alpha * fem.BilinearForm(lambda u, v, w: u * v * w.x[0]).assemble(basis)
    for face in ("r", "z"):
        stiff = stiff + fem.BilinearForm(lambda u, v, w: h * u * v * w.x[0]).assemble(
            fem.FacetBasis(mesh, element, facets=face)
        )
    step, field = 10.0, np.full(stiff.shape[0], start - bath)
    centre = int(np.argmin((basis.doflocs**2).sum(axis=0)))
    first, later = splu((mass + step / 4 * stiff).tocsc()), splu((mass + step / 2 * stiff).tocsc())
    for _ in range(4):
        field = first.solve(mass @ field)
    for _ in range(359):
        field = later.solve((mass - step / 2 * stiff) @ field)
    ours = Heating(Body(Shape.cylinder, radius, alpha, k, (half,)), h, start, bath).core_c(np.array([3600.0]))[0]
    assert ours == pytest.approx(field[centre] + bath, abs=5e-3)
