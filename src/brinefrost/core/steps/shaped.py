"""The shape of a piece in a step: flat, long and round, a ball, short and round as a cup, or a block."""

from typing import Any, Protocol

from brinefrost.core.fields import field
from brinefrost.core.food.media import ShapeKey
from brinefrost.core.steps.food import Piece


class Shaped(Protocol):
    """A step that says what shape its piece has, all lengths [m]."""

    @property
    def thickness_m(self) -> float:
        """The least of a block, or across what is round."""

    @property
    def shape(self) -> ShapeKey:
        """Which."""

    @property
    def length_m(self) -> float:
        """Of a block, or how high what is short and round."""

    @property
    def width_m(self) -> float:
        """Of a block."""


def shape_field() -> Any:
    """The choice of a shape: flat unless somebody says more."""
    return field("choice", "slab")


def length_field() -> Any:
    """How long a block is, or how high what is short and round [m]."""
    return field("length", 0.15, 0.003, 0.6, "mm", 0.005, only={"shape": ("finite_cylinder", "brick")}, paper="long")


def width_field() -> Any:
    """How wide a block is [m]."""
    return field("length", 0.1, 0.003, 0.6, "mm", 0.005, only={"shape": ("brick",)}, paper="wide")


def piece_of(step: Shaped, start_c: float) -> Piece:
    """The piece of a step, as warm as it comes in [°C].

    Valid for every step that has a shape.
    """
    return Piece(step.thickness_m, start_c, step.shape, *sides_m(step))


def sides_m(step: Shaped) -> tuple[float, float]:
    """Its length and width [m], 0 where its shape has none. Valid for every step that has a shape."""
    is_block = step.shape == "brick"
    return (step.length_m if is_block or step.shape == "finite_cylinder" else 0.0, step.width_m if is_block else 0.0)


def sides_asked(step: Shaped) -> dict[str, float]:
    """Its length and width [m] as the Bench's page on heat asks for them; nothing where its shape has none.

    Valid for every step that has a shape.
    """
    length, width = sides_m(step)
    return ({"length_m": length} if length else {}) | ({"width_m": width} if width else {})
