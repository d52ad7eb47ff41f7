"""A sentence that knows its code and what was put into it, so that it can be said in anybody's language and units."""

import json
from collections.abc import Iterable, Mapping
from functools import cache
from types import MappingProxyType
from typing import Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

from brinefrost.core.words.manner import HOUSE, current
from brinefrost.core.words.render import known, known_texts, render

Param = str | int | float | bool


class Message(str):
    """Its text is English with °C, mm and g: what tests, logs and hashes see. ``said`` turns it for a person.

    ``params`` are numbers, names, or other messages; a plain text among them that the catalogue knows word for word
    is turned as well, and anything else is somebody's own words and stays.
    """

    code: str
    params: Mapping[str, Any]

    def __new__(cls, code: str, params: Mapping[str, Any]) -> "Message":
        made = super().__new__(cls, render(code, params, HOUSE))
        made.code, made.params = code, params
        return made

    def __add__(self, other: str) -> "Message":
        return joined((self, other), "")

    def __radd__(self, other: str) -> "Message":
        return joined((other, self), "")

    def __reduce__(self) -> tuple[Any, ...]:
        return (Message, (self.code, dict(self.params)))

    def __copy__(self) -> "Message":
        return self

    def __deepcopy__(self, memo: dict[int, Any]) -> "Message":
        return self

    def stored(self) -> dict[str, Any]:
        """Code, parameters and the English text, as a record keeps them."""
        params = {key: value.stored() if isinstance(value, Message) else value for key, value in self.params.items()}
        return {"code": self.code, "params": params, "text": str(self)}


def say(code: str, **params: Any) -> Message:
    """The message of a code of the catalogue with its parameters.

    Raises KeyError for a code without words, or words that need a parameter that was not given.
    """
    return Message(code, params) if params else _bare(code)


@cache
def _bare(code: str) -> Message:
    """A message without parameters: there are as many as the catalogue has."""
    return Message(code, MappingProxyType({}))


def joined(parts: Iterable[str], between: str = "; ") -> Message:
    """Several messages one after another; with ``between`` “ or ” or “ and ” as each language has it."""
    kept = [part for part in parts if part]
    return Message("list", {"between": between, **{f"part{i}": part for i, part in enumerate(kept)}})


def lowered(text: str) -> Message:
    """A text that now stands within a sentence: its first letter small."""
    return Message("first.lower", {"text": text})


def raised(text: str) -> Message:
    """A text that now begins a sentence: its first letter large."""
    return Message("first.upper", {"text": text})


def restored(kept: Any) -> str:
    """A text or a message as ``stored`` wrote it; an unknown code is its kept text.

    Raises ValueError for what is neither.
    """
    if isinstance(kept, str):
        return kept
    if not isinstance(kept, dict) or not isinstance(kept.get("text"), str):
        raise ValueError("This is neither a text nor a message.")
    params = {k: restored(v) if isinstance(v, dict) else v for k, v in dict(kept.get("params", {})).items()}
    try:
        made = Message(str(kept.get("code")), params)
    except (KeyError, TypeError, ValueError):
        return str(kept["text"])
    return made if made == kept["text"] else str(kept["text"])


def said(text: str) -> str:
    """A text in the language and units of whoever asks; somebody's own words stay as they are."""
    manner = current()
    if manner is HOUSE:
        return str(text)
    message = text if isinstance(text, Message) else known(text)
    return str(text) if message is None else render(message.code, message.params, manner)


def dictionary() -> dict[str, str]:
    """Every English text without parameters that whoever asks would read otherwise, with how they read it."""
    turned = {text: said(text) for text in known_texts()}
    return {text: own for text, own in turned.items() if own != text}


def packed(text: str) -> str:
    """A text or message in one line, for a column of text."""
    return json.dumps(text.stored(), ensure_ascii=False) if isinstance(text, Message) else str(text)


def unpacked(kept: str) -> str:
    """What ``packed`` wrote; anything else is a text."""
    if not kept.startswith('{"code"'):
        return kept
    return restored(json.loads(kept))


class _WordsSchema:
    """How a text that people read goes in and out of documents: kept as a message, given as the reader's own."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(
            _taken,
            serialization=core_schema.plain_serializer_function_ser_schema(
                _give, info_arg=True, return_schema=core_schema.any_schema(), when_used="always"
            ),
        )

    @classmethod
    def __get_pydantic_json_schema__(cls, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"type": "string"}


class _NamedSchema(_WordsSchema):
    """A text that documents keep as plain English, while it stays a message as long as it is in hand."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(
            _name,
            serialization=core_schema.plain_serializer_function_ser_schema(
                str, return_schema=core_schema.str_schema(), when_used="json"
            ),
        )


def _name(value: Any) -> str:
    """A text alone: a document that somebody sends brings no message of its own."""
    if not isinstance(value, str):
        raise ValueError("A title is a text.")
    return value


def _taken(value: Any) -> str:
    if isinstance(value, Message):
        return value
    return restored(value)


def _give(value: str, info: Any) -> Any:
    """A record keeps code and parameters; everybody else reads words."""
    if (info.context or {}).get("stored"):
        return value.stored() if isinstance(value, Message) else str(value)
    if info.mode == "python":
        return value
    return said(value)
