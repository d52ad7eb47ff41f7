"""What is asked of the kit: a reading to judge, a thermometer to check, an electrode to calibrate."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.working import Sent

READINGS = ("temperature", "reading")


class KitQuestion(Sent):
    """A reading to judge, a thermometer to check, or an electrode to calibrate."""

    what: Literal["temperature", "reading", "thermometer", "electrode"] = field("choice", "temperature", main=True)
    unit: Literal["pH", "%", "aw"] = field("choice", "pH", main=True, only={"what": ("reading",)})
    reading_c: float = field("temperature", 62.6, -60, 300, main=True, only={"what": ("temperature",)})
    reading: float = field("number", 4.55, 0, 400, main=True, only={"what": ("reading",)})
    limit_c: float = field("temperature", 62.5, -60, 300, main=True, only={"what": ("temperature",)})
    limit: float = field("number", 4.6, 0, 400, main=True, only={"what": ("reading",)})
    comparison: Literal["at_least", "at_most"] = field("choice", "at_least", main=True, only={"what": READINGS})
    uncertainty_c: float = field("difference", 0.5, 0, 20, step=0.05, main=True, only={"what": ("temperature",)})
    uncertainty: float = field("number", 0.1, 0, 20, step=0.001, main=True, only={"what": ("reading",)})
    fixed_point: Literal["ice", "boiling"] = field("choice", "boiling", main=True, only={"what": ("thermometer",)})
    shown_c: float = field("temperature", 92.4, -20, 110, main=True, only={"what": ("thermometer",)})
    allowed_c: float = field("difference", 1.0, 0.1, 5, step=0.1, only={"what": ("thermometer",)})
    altitude_m: float = field("height", 2140, -100, 6000, main=True, only={"what": ("thermometer",)})
    mv_acid: float = field("number", 171, -500, 500, "mV", main=True, only={"what": ("electrode",)})
    mv_neutral: float = field("number", -2, -500, 500, "mV", main=True, only={"what": ("electrode",)})
    buffer_c: float = field("temperature", 20, 5, 40, only={"what": ("electrode",)})
    third_buffer: float = field("ph", 4.63, 1, 12, only={"what": ("electrode",)})
    third_reading: float | None = field("ph", None, 1, 12, only={"what": ("electrode",)})
