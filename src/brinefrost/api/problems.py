"""Errors as statuses and sentences. One place, for every route."""

import logging
from collections.abc import Mapping
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from brinefrost.core.errors import (
    AskFirstError,
    ConflictError,
    DomainError,
    NotAllowedError,
    NotFoundError,
    RefusedError,
    SignInError,
    TooManyTriesError,
)
from brinefrost.store.database import StoreDownError

STATUSES: tuple[tuple[type[DomainError], int], ...] = (
    (SignInError, 401),
    (NotAllowedError, 403),
    (NotFoundError, 404),
    (AskFirstError, 409),
    (ConflictError, 409),
    (RefusedError, 409),
    (TooManyTriesError, 429),
    (StoreDownError, 503),
)

# field: (what people call it, factor to what they type, unit)
FIELDS: dict[str, tuple[str, float, str]] = {
    "thickness_m": ("Thickness", 1000, "mm"),
    "start_c": ("Start temperature", 1, "°C"),
    "bath_c": ("Bath temperature", 1, "°C"),
    "duration_s": ("Time in the bath", 1 / 60, "min"),
    "pack_mass_kg": ("Mass of a bag", 1, "kg"),
    "packs": ("Number of packs", 1, ""),
    "water_kg": ("Water", 1, "kg"),
    "heater_w": ("Heater", 1, "W"),
    "ice_kg": ("Ice", 1, "kg"),
    "begin_within_s": ("Time to begin", 1 / 60, "min"),
    "target_c": ("Target", 1, "°C"),
    "max_c": ("Highest temperature", 1, "°C"),
    "days": ("Days kept", 1, "d"),
    "core_c": ("Core temperature", 1, "°C"),
    "value": ("The reading", 1, ""),
    "name": ("The name", 1, ""),
    "reason": ("The reason", 1, ""),
    "action": ("What was done", 1, ""),
    "taken_at": ("The time", 1, ""),
}


def problem(status: int, code: str, sentence: str, fields: Mapping[str, Any] | None = None) -> JSONResponse:
    """The one shape of an error."""
    return JSONResponse({"code": code, "sentence": sentence, "fields": dict(fields or {})}, status)


def install(app: FastAPI) -> None:
    """Put the handlers on an application."""

    @app.exception_handler(DomainError)
    def _domain(_: Request, error: DomainError) -> JSONResponse:
        status = next((status for kind, status in STATUSES if isinstance(error, kind)), 422)
        return problem(status, error.code, error.sentence, error.fields)

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        return problem(422, "invalid_input", sentence_for(dict(error.errors()[0])), {"count": len(error.errors())})

    @app.exception_handler(HTTPException)
    def _http(_: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, "http", str(error.detail))

    @app.exception_handler(Exception)
    def _unexpected(_: Request, error: Exception) -> JSONResponse:
        logging.getLogger("brinefrost").exception("unexpected error", exc_info=error)
        return problem(500, "unexpected", "Something went wrong here. Nothing was saved; try again.")


SUFFIXES: dict[str, tuple[float, str]] = {
    "m": (1000, "mm"),
    "s": (1 / 60, "min"),
    "c": (1, "°C"),
    "kg": (1, "kg"),
    "percent": (1, "%"),
    "ppm": (1, "ppm"),
}


def _by_suffix(field: str) -> tuple[str, float, str]:
    """What to call a field by its name, whose last part is its unit."""
    name, _, suffix = field.rpartition("_")
    if name and suffix in SUFFIXES:
        return name.replace("_", " ").capitalize(), *SUFFIXES[suffix]
    return field.replace("_", " ").capitalize() or "The request", 1, ""


def sentence_for(error: dict[str, Any]) -> str:
    """A sentence for the first thing wrong with a request."""
    place = [str(part) for part in error.get("loc", ()) if isinstance(part, str)]
    field = next((part for part in reversed(place) if part in FIELDS), place[-1] if place else "")
    label, factor, unit = FIELDS.get(field) or _by_suffix(field)
    context, kind = error.get("ctx", {}), str(error.get("type", ""))
    bounds = {
        "greater_than_equal": ("ge", "at least"),
        "greater_than": ("gt", "more than"),
        "less_than_equal": ("le", "at most"),
        "less_than": ("lt", "less than"),
    }
    if kind in bounds:
        key, words = bounds[kind]
        if not isinstance(context[key], int | float):
            return f"{label} must be {words} {context[key]}."
        return f"{label} must be {words} {context[key] * factor:g} {unit}".rstrip() + "."
    if kind == "missing":
        return f"{label} is missing."
    if kind in ("string_too_short", "string_too_long"):
        return f"{label} is too {kind[11:]}."
    if kind in ("float_parsing", "float_type", "int_parsing", "int_type", "finite_number"):
        return f"{label} must be a number."
    if kind == "value_error":
        return str(error.get("msg", "")).removeprefix("Value error, ")
    return f"{label} is not as expected: {error.get('msg', '')}."
