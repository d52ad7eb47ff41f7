"""What delivers by itself: hubs with a token of their own send samples here; nobody signs in."""

from typing import Annotated

from fastapi import APIRouter, Depends, Request, Security
from fastapi.security import HTTPAuthorizationCredentials, HTTPBearer

from brinefrost.api.seats import OfficeHere
from brinefrost.core.errors import SignInError
from brinefrost.core.words import say
from brinefrost.services import ingesting

router = APIRouter(prefix="/api/v1", tags=["samples"])

HUB = "brinefrost_hub"  # in a request's scope: the hub whose token it bears, as the guard found it
TOKEN = HTTPBearer(scheme_name="hub", auto_error=False, description="The token shown when the lead added the hub.")


def hub_here(request: Request, _: Annotated[HTTPAuthorizationCredentials | None, Security(TOKEN)] = None) -> str:
    """The hub that sends, or a refusal."""
    hub = request.scope.get(HUB)
    if not hub:
        raise SignInError(say("api.samples.no_hub_bears_this_token"))
    return str(hub)


@router.post("/samples")
def deliver_samples(
    delivery: ingesting.Delivery, hub: Annotated[str, Depends(hub_here)], office: OfficeHere
) -> ingesting.Receipt:
    """Take in what a hub measured. Sent again, nothing is doubled; what was refused is not to be sent again."""
    return ingesting.take_in(office, hub, delivery)
