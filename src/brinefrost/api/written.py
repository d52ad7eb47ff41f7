"""A large answer as JSON straight from its model: the usual way makes it twice, once as Python and once as text."""

from fastapi import Response
from pydantic import BaseModel


def written(answer: BaseModel) -> Response:
    """As the wire has it; the route says by ``response_model`` what it is."""
    return Response(answer.model_dump_json(), media_type="application/json")
