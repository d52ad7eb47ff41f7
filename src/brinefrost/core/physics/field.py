"""The modes of a whole body: products of the modes of its axes, flattened and sorted by how long they last."""

from dataclasses import dataclass
from functools import lru_cache, reduce

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.physics.body import Array, Body
from brinefrost.core.physics.modes import MODE_COUNT, Modes, modes_of, polynomials

# Modes an axis, by the number of axes. Each axis has as many polynomials as modes: fewer modes than polynomials would
# not hold an even field, and a piece at its bath's temperature would read colder for ever.
KEPT = {1: MODE_COUNT, 2: 16, 3: 9}


@dataclass(frozen=True)
class Field:
    """Modes of a body in one surrounding. All vectors have one entry a mode, the slowest mode first."""

    rates_s: Array  # [1/s]
    gain: Array  # amplitudes of an even field of 1
    at_centre: Array
    at_surface: Array  # in the middle of the face across the first axis
    mean: Array
    axes: tuple[Modes, ...]
    order: NDArray[np.intp]

    def to_basis(self, amplitudes: Array) -> Array:
        """Coefficients of the polynomials [-], one dimension an axis, from the modes' amplitudes.

        Valid for amplitudes of this field's own modes.
        """
        kept = KEPT[len(self.axes)]
        flat = np.empty(kept ** len(self.axes))
        flat[self.order] = amplitudes
        return _along(flat.reshape((kept,) * len(self.axes)), [axis.from_basis for axis in self.axes])

    def from_basis(self, coefficients: Array) -> Array:
        """Amplitudes [-] of a field that another surrounding left behind, from its coefficients.

        Valid for the same body.
        """
        back = [axis.from_basis.T @ axis.mass for axis in self.axes]
        return np.asarray(_along(coefficients, back).ravel()[self.order])


def field_of(body: Body, h_w_m2k: float) -> Field:
    """Modes of a body with one surface coefficient on all its faces.

    Parameters
    ----------
    body : Body
        The piece; half thicknesses [m], diffusivity [m²/s], conductivity [W/m·K].
    h_w_m2k : float
        Surface coefficient [W/m²·K].

    Returns
    -------
    Field
        Rates [1/s] and the vectors that read the field, each (n,).

    Raises
    ------
    OutOfRangeError
        If the coefficient lies outside its range.

    Notes
    -----
    Valid for constant properties. A product of one-dimensional modes solves the equation of the bar, the
    brick and the finite cylinder exactly, and its rates add, since the equation and the surface condition
    separate.

    References
    ----------
    Carslaw & Jaeger (1959), section 1.15, product solutions; Newman (1936).
    """
    body.biot(h_w_m2k)
    return _field(body, h_w_m2k)


@lru_cache(maxsize=128)
def _field(body: Body, h_w_m2k: float) -> Field:
    axes = body.axes()
    kept = KEPT[len(axes)]
    modes = tuple(modes_of(exponent, h_w_m2k * half / body.conductivity_w_mk, kept) for exponent, half in axes)
    rates = [m.rates * body.diffusivity_m2_s / half**2 for m, (_, half) in zip(modes, axes, strict=True)]
    total = reduce(np.add.outer, rates).ravel()
    order = np.argsort(total, kind="stable")
    centres = [m.at_centre for m in modes]
    surfaces = [modes[0].at_surface, *centres[1:]]
    return Field(
        total[order],
        _product([m.gain for m in modes])[order],
        _product(centres)[order],
        _product(surfaces)[order],
        _product([m.mean for m in modes])[order],
        modes,
        order,
    )


def line_inside(coefficients: Array) -> Array:
    """The field along the first axis, through the middle of the others.

    Parameters
    ----------
    coefficients : array
        Of the polynomials [°C], one dimension an axis.

    Returns
    -------
    array
        Coefficients along the first axis [°C], (n,).

    Raises
    ------
    ValueError
        If there are no coefficients.

    Notes
    -----
    Valid for fields of every body.

    References
    ----------
    Even Legendre polynomials, textbook numerical analysis.
    """
    while coefficients.ndim > 1:
        coefficients = coefficients @ polynomials(np.zeros(1), coefficients.shape[-1])[0]
    return coefficients


def spread_line(coefficients: Array, axes: int) -> Array:
    """A field that is as its line along the first axis everywhere across it.

    Parameters
    ----------
    coefficients : array
        Along the first axis [°C], (n,), as many as each axis keeps.
    axes : int
        How many there are.

    Returns
    -------
    array
        Coefficients of the whole body [°C], one dimension an axis.

    Raises
    ------
    ValueError
        If there are no coefficients.

    Notes
    -----
    Valid for one to three axes; the first polynomial is 1.

    References
    ----------
    Even Legendre polynomials, textbook numerical analysis.
    """
    even = np.eye(len(coefficients))[0]
    return np.asarray(reduce(np.multiply.outer, [coefficients, *[even] * (axes - 1)]))


def _product(vectors: list[Array]) -> Array:
    return np.asarray(reduce(np.multiply.outer, vectors)).ravel()


def _along(tensor: Array, matrices: list[Array]) -> Array:
    """Each matrix applied along its own dimension."""
    for axis, matrix in enumerate(matrices):
        tensor = np.moveaxis(np.tensordot(matrix, tensor, axes=(1, axis)), 0, axis)
    return tensor
