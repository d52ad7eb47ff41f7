"""The fields of a question: what kind of quantity each is, so that it can be shown in anybody's units."""

from datetime import date
from typing import Any, Literal, get_args, get_origin

from pydantic import Field
from pydantic.fields import FieldInfo

from brinefrost.core.words import amount, duration, height, kg, mm, per_mass, say, temp
from brinefrost.core.working import Document

FIRST_DAY, LAST_DAY = date(2000, 1, 1), date(2100, 1, 1)
Kind = Literal[
    "temperature",
    "difference",
    "degree_hours",
    "length",
    "mass",
    "per_mass",
    "volume",
    "time",
    "percent",
    "ph",
    "number",
    "choice",
    "flag",
    "rows",
    "day",
    "height",
    "words",
]

ENDINGS = ("m", "c", "kg", "w", "s", "percent", "m2", "ppm")
FileUse = Literal["core", "course", "record", "surroundings", "ph"]


class FieldSpec(Document):
    """How one field is asked for. Numbers are in °C, m, kg, s, %; ``show`` says how people write it."""

    name: str
    kind: Kind
    low: float | None = None
    high: float | None = None
    step: float | None = None
    show: str = ""
    options: tuple[str, ...] = ()
    columns: tuple["FieldSpec", ...] = ()
    optional: bool = False
    fallback: float | str | None = None
    main: bool = False
    only: dict[str, tuple[str, ...]] = {}
    most: int | None = None  # rows at most
    file: FileUse | None = None  # what a logger file fills these rows with
    size: float = 1.0  # the field's own unit, in the inside unit of its kind
    paper: str = ""  # what paper calls it, where its name without the unit would not do

    def plain_name(self) -> str:
        """What paper calls it: mostly its name without the ending that tells its unit."""
        if self.paper:
            return self.paper
        stem, _, ending = self.name.rpartition("_")
        return (stem if stem and ending in ENDINGS else self.name).replace("_", " ")

    def written(self, value: object) -> str:
        """A value of it as paper bears it, its unit with it."""
        if isinstance(value, bool):
            return say("core.fields.yes") if value else say("core.fields.no")
        if not isinstance(value, int | float):
            return say("core.fields.not_given") if value is None else str(value).replace("_", " ")
        inside = float(value) * self.size
        match self.kind:
            case "time":
                return duration(inside)
            case "length":
                return mm(inside * 1000)
            case "temperature":
                return temp(inside, "g")
            case "mass":
                return kg(inside)
            case "per_mass":
                return per_mass(inside, "g")
            case "height":
                return height(inside)
            case "percent":
                return amount(inside, "%", "g")
        return amount(inside, self.show, "g")


def field(
    kind: Kind,
    default: Any,
    low: float | None = None,
    high: float | None = None,
    show: str = "",
    step: float | None = None,
    main: bool = False,
    only: dict[str, tuple[str, ...]] | None = None,
    most: int | None = None,
    file: FileUse | None = None,
    size: float = 1.0,
    paper: str = "",
) -> Any:
    """A field of a question with its bounds [unit of its kind] and how it is shown.

    ``only`` names the choices it belongs to; ``size`` is the field's own unit in the inside unit of its kind: 86,400
    for a time kept in days; ``paper`` is what a printed record calls it. Valid for every kind but rows of rows.
    """
    extra: dict[str, Any] = {
        "ask": {
            "kind": kind,
            "show": show,
            "step": step,
            "main": main,
            "only": only or {},
            "low": low,
            "high": high,
            "size": size,
            "paper": paper,
        }
    }
    if kind == "day":
        return Field(default=default, ge=FIRST_DAY, le=LAST_DAY, json_schema_extra=extra)
    if kind == "words":
        return Field(default=default, max_length=600, json_schema_extra=extra)
    if kind in ("choice", "flag"):
        return Field(default=default, json_schema_extra=extra)
    if kind == "rows":
        extra["ask"] |= {"most": most or 40, "file": file}
        return Field(default=default, max_length=most or 40, json_schema_extra=extra)
    return Field(default=default, ge=low, le=high, json_schema_extra=extra)


LAID: dict[str, Any] = {"laid": True}  # marks a field by which steps hang together


def specs_of(model: type[Document]) -> tuple[FieldSpec, ...]:
    """The fields of a question in order; how the steps of a plan hang together is no question."""
    return tuple(_spec(name, info) for name, info in model.model_fields.items() if info.json_schema_extra != LAID)


def _spec(name: str, info: FieldInfo) -> FieldSpec:
    extra: Any = info.json_schema_extra
    said: dict[str, Any] = dict(extra.get("ask", {})) if isinstance(extra, dict) else {}
    kind = said.pop("kind", "number")
    kinds = get_args(info.annotation)
    columns: tuple[FieldSpec, ...] = ()
    options: tuple[str, ...] = ()
    if kind == "rows":
        columns = specs_of(kinds[0])
    if kind == "choice":
        options = _options(info.annotation)
    default = info.default
    return FieldSpec(
        name=name,
        kind=kind,
        columns=columns,
        options=options,
        optional=type(None) in kinds,
        fallback=default if isinstance(default, float | int | str) and not isinstance(default, bool) else None,
        **said,
    )


def _options(annotation: Any) -> tuple[str, ...]:
    """The choices of a literal, or of several joined."""
    if get_origin(annotation) is Literal:
        return tuple(str(option) for option in get_args(annotation))
    return tuple(option for part in get_args(annotation) for option in _options(part))
