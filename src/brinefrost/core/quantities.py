"""The one list of what can be measured: its unit, where it can lie, how it is written, what kit reads it."""

from typing import Literal

from brinefrost.core.fields import Kind
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document

Quantity = Literal[
    "core",
    "surface",
    "bath",
    "air",
    "age",
    "ph",
    "aw",
    "salt",
    "nitrite",
    "nitrate",
    "slope",
    "log",
    "mass",
    "loss",
    "looks",
    "lid",
    "lasted",
    "waited",
]
ReadingQuantity = Literal["core", "bath", "air", "ph", "salt", "aw", "mass", "looks", "lid"]
ChannelQuantity = Literal["core", "bath", "air", "ph", "salt", "aw", "unknown"]


class QuantityInfo(Document):
    """One quantity that somebody reads off an instrument. Ranges are what a kitchen's instruments can read.

    ``far`` is how far from what the plan expects a reading is asked about, ``good_to`` the usual expanded uncertainty
    of its kit (k = 2), ``most_off`` how far off kit may be found and still be used, ``most_apart`` how far two
    instruments may differ at the same time without a question, all in its unit: a food thermometer is accurate to
    1 °C, Food Code 4-203.11(A); the rest is common practice, no source.
    """

    key: ReadingQuantity
    name: Words
    noun: Words
    unit: str
    kind: Kind
    low: float
    high: float
    decimals: int
    kit: tuple[str, ...]
    far: float
    good_to: float = 0.0
    most_off: float = 0.0
    most_apart: float = 0.0


_ALL = (
    QuantityInfo(
        key="core", name=say("core.quantities.a_core"), noun=say("core.quantities.noun_core"),
        unit="°C", kind="temperature", low=-40, high=120,
        decimals=1, kit=("probe", "logger"), far=12, good_to=0.5, most_off=1, most_apart=3,
    ),
    QuantityInfo(
        key="bath", name=say("core.quantities.a_bath"), noun=say("core.quantities.noun_bath"),
        unit="°C", kind="temperature", low=-5, high=101,
        decimals=1, kit=("probe", "logger"), far=12, good_to=0.5, most_off=1, most_apart=3,
    ),
    QuantityInfo(
        key="air", name=say("core.quantities.a_air"), noun=say("core.quantities.noun_air"),
        unit="°C", kind="temperature", low=-45, high=300,
        decimals=1, kit=("unit", "logger", "probe"), far=12, good_to=0.5, most_off=1, most_apart=3,
    ),
    QuantityInfo(
        key="ph", name=say("core.quantities.a_ph"), noun=say("core.quantities.noun_ph"),
        unit="pH", kind="ph", low=0, high=14,
        decimals=2, kit=("meter",), far=1.5, good_to=0.05, most_off=0.1, most_apart=0.3,
    ),
    QuantityInfo(
        key="salt", name=say("core.quantities.a_salt"), noun=say("core.quantities.noun_salt"),
        unit="%", kind="percent", low=0, high=40,
        decimals=1, kit=("meter",), far=3, good_to=0.3, most_off=0.5, most_apart=1,
    ),
    QuantityInfo(
        key="aw", name=say("core.quantities.a_aw"), noun=say("core.quantities.noun_aw"),
        unit="aw", kind="number", low=0.3, high=1,
        decimals=3, kit=("meter",), far=0.1, good_to=0.005, most_off=0.01, most_apart=0.02,
    ),
    QuantityInfo(
        key="mass", name=say("core.quantities.a_mass"), noun=say("core.quantities.noun_mass"),
        unit="kg", kind="mass", low=0.001, high=2000,
        decimals=3, kit=("scale",), far=1000, good_to=0.005, most_off=0.01, most_apart=0.05,
    ),
    QuantityInfo(
        key="looks", name=say("core.quantities.a_looks"), noun=say("core.quantities.noun_looks"),
        unit="", kind="flag", low=0, high=1,
        decimals=0, kit=(), far=1,
    ),
    QuantityInfo(
        key="lid", name=say("core.quantities.a_lid"), noun=say("core.quantities.noun_lid"),
        unit="", kind="flag", low=0, high=1,
        decimals=0, kit=(), far=1,
    ),
)  # fmt: skip
BY_EYE = "eyes"  # the instrument of what no instrument reads
BY_CLOCK: frozenset[Quantity] = frozenset({"lasted", "waited"})  # what the batch's own times tell, and no instrument
WORKED_FROM: dict[Quantity, ReadingQuantity] = {"loss": "mass"}  # what is worked out of another reading
QUANTITIES: dict[ReadingQuantity, QuantityInfo] = {info.key: info for info in _ALL}
